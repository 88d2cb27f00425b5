package forecast

import (
	"context"
	"fmt"

	"jantrel/core/calendar"
	"jantrel/core/forecast"
	"jantrel/core/program"
	"jantrel/internal/api/door"
	"jantrel/internal/live"
)

// dates is how safe the dates of releases and milestones are.
type dates struct {
	Revision int64        `json:"revision"`
	Plays    int          `json:"plays"`
	Then     program.Date `json:"then,omitzero" doc:"The day that is compared with; missing: the journal does not reach back to it"`
	Dates    []safety     `json:"dates" doc:"Releases, then milestones, in the order of the program"`
}

// safety is how safe one date is.
type safety struct {
	Kind string            `json:"kind" enum:"release,milestone"`
	Name string            `json:"name"`
	Now  forecast.Landing  `json:"now"`
	Then *forecast.Landing `json:"then,omitempty" doc:"At the end of that day, with what was known then; missing: it was not there yet"`
}

// datesOdds are the odds at which dates could be promised.
var datesOdds = []int{50, 70, 85, 95}

func (s stage) dates(ctx context.Context, in *struct {
	door.Reading
	Since string `query:"since" format:"date" doc:"The day that is compared with; missing: a week ago"`
}) (*door.Answered[dates], error) {
	l, state, err := s.Read(ctx, in.Reading)
	if err != nil {
		return nil, err
	}
	then := state.Today.Add(-7)
	if in.Since != "" {
		if then, err = calendar.Parse(in.Since); err != nil {
			return nil, err
		}
	}
	return door.Answer(ctx, s.Door, l, state, fmt.Sprintf("dates %d", then), func(ctx context.Context) (dates, error) {
		a := dates{Revision: state.Revision, Dates: []safety{}}
		now, err := datesOf(ctx, l, state)
		if err != nil {
			return a, err
		}
		before := map[program.Ref]forecast.Landing{}
		past, known, err := l.EndOf(ctx, then)
		if err == nil && known {
			a.Then = then
			var was played
			if was, err = datesOf(ctx, l, past); err == nil {
				for i, ref := range was.of {
					before[ref] = was.landings[i]
				}
			}
		}
		if err != nil {
			return a, err
		}
		a.Plays = now.plays
		for i, ref := range now.of {
			d := safety{Kind: string(ref.Kind), Name: now.names[i], Now: now.landings[i]}
			if was, ok := before[ref]; ok {
				d.Then = &was
			}
			a.Dates = append(a.Dates, d)
		}
		return a, ctx.Err()
	})
}

// played is when releases and milestones land.
type played struct {
	plays    int
	of       []program.Ref
	names    []string
	landings []forecast.Landing
}

func datesOf(ctx context.Context, l *live.Line, state *live.State) (played, error) {
	o, err := l.Playing(ctx, state)
	if err != nil {
		return played{}, err
	}
	var p played
	for _, r := range state.Releases {
		p.of, p.names = append(p.of, program.Ref{Kind: program.KindRelease, Key: r.Key}), append(p.names, r.Name)
	}
	for _, m := range state.Milestones {
		p.of, p.names = append(p.of, program.Ref{Kind: program.KindMilestone, Key: m.Key}), append(p.names, m.Name)
		o.Sets = append(o.Sets, forecast.Set{Key: m.Key, Items: m.Needs, Due: m.Date})
	}
	o.Odds = datesOdds
	f := l.Play(state.Plan, o)
	p.plays, p.landings = f.Plays, append(f.Releases, f.Sets...)
	return p, ctx.Err()
}
