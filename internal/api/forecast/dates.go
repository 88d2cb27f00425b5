package forecast

import (
	"context"
	"fmt"
	"slices"

	"jantrel/core/calendar"
	"jantrel/core/forecast"
	"jantrel/core/program"
	"jantrel/internal/api/door"
	"jantrel/internal/live"
)

// dates is how safe the dates of releases and milestones are.
type dates struct {
	Revision int64              `json:"revision"`
	Plays    int                `json:"plays"`
	Then     program.Date       `json:"then,omitzero" doc:"The day that is compared with; missing: the journal does not reach back to it"`
	Dates    []safety           `json:"dates" doc:"Releases, then milestones, in the order of the program"`
	Promises []forecast.Watched `json:"promises" doc:"How what was promised stands, in the order of the program"`
}

// safety is how safe one date is.
type safety struct {
	Kind   program.Kind      `json:"kind" enum:"release,milestone"`
	Name   string            `json:"name"`
	Now    forecast.Landing  `json:"now"`
	Safety forecast.Safety   `json:"safety,omitempty" enum:"safe,open,in danger" doc:"How safe its due date is; missing: it has none"`
	Then   *forecast.Landing `json:"then,omitempty" doc:"At the end of that day, with what was known then; missing: it was not there yet"`
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
	return door.LongAnswer(ctx, s.Door, l, state, fmt.Sprintf("dates %d", then), func(ctx context.Context) (dates, error) {
		a := dates{Revision: state.Revision, Plays: live.Plays(len(state.Items)), Dates: []safety{}}
		now, err := l.DatedAt(ctx, state, datesOdds)
		if err != nil {
			return a, err
		}
		past, known, err := l.EndOf(ctx, then)
		if err != nil {
			return a, err
		}
		var before []live.Dated
		if known {
			a.Then = then
			if before, err = l.DatedAt(ctx, past, datesOdds); err != nil {
				return a, err
			}
		}
		for _, d := range now {
			one := safety{Kind: d.Kind, Name: d.Name, Now: d.Landing}
			if d.Landing.Chance != nil {
				one.Safety = forecast.SafetyOf(*d.Landing.Chance)
			}
			if i := slices.IndexFunc(before, func(was live.Dated) bool { return was.Kind == d.Kind && was.Landing.Key == d.Landing.Key }); i >= 0 {
				one.Then = &before[i].Landing
			}
			a.Dates = append(a.Dates, one)
		}
		a.Promises, err = l.PromisesAt(ctx, state)
		return a, err
	})
}
