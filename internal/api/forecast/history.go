package forecast

import (
	"context"
	"fmt"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"jantrel/core/calendar"
	"jantrel/core/forecast"
	"jantrel/core/program"
	"jantrel/internal/api/door"
	"jantrel/internal/live"
)

// landed asks about a release or a milestone.
type landed struct {
	door.Reading
	Release   string `query:"release" doc:"Of this release"`
	Milestone string `query:"milestone" doc:"Or of this milestone"`
}

func (in *landed) ref() program.Ref {
	if in.Release != "" {
		return program.Ref{Kind: program.KindRelease, Key: in.Release}
	}
	return program.Ref{Kind: program.KindMilestone, Key: in.Milestone}
}

// history is what the forecast said day by day.
type history struct {
	Revision int64    `json:"revision"`
	Days     []saidOn `json:"days" doc:"The end of each day since it began or was planned, as far as the journal tells, and today as it is"`
	Missing  int      `json:"missing" doc:"How many days are still to be reckoned: ask again"`
}

// saidOn is what the forecast said at the end of a day.
type saidOn struct {
	Day    program.Date `json:"day"`
	Due    program.Date `json:"due,omitzero" doc:"The due date then"`
	Chance *float64     `json:"chance,omitempty" doc:"Of landing by it, 0 to 1"`
	Early  program.Date `json:"early,omitzero" doc:"The landing at odds of 10 %"`
	Even   program.Date `json:"even,omitzero" doc:"At even odds"`
	Safe   program.Date `json:"safe,omitzero" doc:"At odds of 85 %"`
	Done   bool         `json:"done,omitempty" doc:"Nothing was left to do"`
}

// reckonTime is how long days are reckoned for one who asks.
const reckonTime = 1500 * time.Millisecond

func (s stage) history(ctx context.Context, in *landed) (*struct{ Body history }, error) {
	l, state, err := s.Read(ctx, in.Reading)
	if err != nil {
		return nil, err
	}
	ref := in.ref()
	if !state.Program.Has(ref) {
		return nil, huma.Error404NotFound(fmt.Sprintf("There is no %s %s. It may have been removed.", ref.Kind, ref.Key))
	}
	from := program.Date(0)
	if start := calendar.OfTime(l.StartOf(state, in.Release)); in.Release != "" && start > 0 && start < state.Today {
		from = start
	}
	days, missing, err := l.ForecastDays(ctx, from, reckonTime)
	if err != nil {
		return nil, s.Problem(ctx, err)
	}
	h := history{Revision: state.Revision, Days: []saidOn{}, Missing: missing}
	for _, day := range days {
		if day.Day < state.Today {
			h.tell(day.Day, day.Dated, ref)
		}
	}
	now, err := live.Answer(ctx, l, state, "dated", func(ctx context.Context) ([]live.Dated, error) { return l.DatedAt(ctx, state, nil) })
	if err != nil {
		return nil, s.Problem(ctx, err)
	}
	h.tell(state.Today, now, ref)
	return &struct{ Body history }{h}, nil
}

func (h *history) tell(day program.Date, all []live.Dated, of program.Ref) {
	for _, d := range all {
		if l := d.Landing; d.Kind == of.Kind && l.Key == of.Key {
			h.Days = append(h.Days, saidOn{day, l.Due, l.Chance, l.At(10), l.At(50), l.At(85), l.Left+l.Rough == 0})
		}
	}
}

// causesAsked asks what moved the forecast of some work since a day.
type causesAsked struct {
	About
	Since program.Date `json:"since" doc:"The day at whose end it begins"`
}

// causesFound is what moved it.
type causesFound struct {
	Revision int64        `json:"revision"`
	Since    program.Date `json:"since,omitzero" doc:"Missing: the journal does not reach back to it"`
	forecast.Causes
}

func (s stage) causes(ctx context.Context, in *asking[causesAsked]) (*door.Answered[causesFound], error) {
	return ask(ctx, s, &in.Reading, question{kind: "causes", about: &in.Body.About, body: in.Body}, func(ctx context.Context, l *live.Line, state *live.State, w work) (causesFound, error) {
		found := causesFound{Revision: state.Revision, Causes: forecast.Causes{Causes: []forecast.Cause{}}}
		before, there, err := l.EndOf(ctx, in.Body.Since)
		if err != nil || !there || in.Body.Since >= state.Today {
			return found, err
		}
		o, err := l.Playing(ctx, state)
		if err != nil {
			return found, err
		}
		was, err := l.Playing(ctx, before)
		if err != nil {
			return found, err
		}
		found.Since = in.Body.Since
		found.Causes = forecast.CausesOf(state.Plan, forecast.CausesQuestion{Options: o, Set: w.Set, Before: before.Plan, On: in.Body.Since, Past: was.Past})
		return found, ctx.Err()
	})
}

// movesAsked asks which edits of a day moved the forecast of some work.
type movesAsked struct {
	About
	Day program.Date `json:"day"`
}

// movesFound is which edits did.
type movesFound struct {
	Revision int64        `json:"revision"`
	Day      program.Date `json:"day"`
	Moves    []live.Moved `json:"moves" doc:"In the order in which they were made"`
	LeftOut  int          `json:"leftOut" doc:"How many edits of the day were not looked at"`
}

func (s stage) moves(ctx context.Context, in *asking[movesAsked]) (*door.Answered[movesFound], error) {
	return ask(ctx, s, &in.Reading, question{kind: "moves", about: &in.Body.About, body: in.Body}, func(ctx context.Context, l *live.Line, state *live.State, w work) (movesFound, error) {
		moved, leftOut, err := l.MovedOn(ctx, in.Body.Day, w.Set)
		return movesFound{state.Revision, in.Body.Day, append([]live.Moved{}, moved...), leftOut}, err
	})
}
