package forecast

import (
	"context"
	"time"

	"jantrel/core/forecast"
	"jantrel/core/levers"
	"jantrel/core/program"
	"jantrel/internal/api/door"
	"jantrel/internal/live"
)

// searchTime is how long may be searched for an answer.
const searchTime = 5 * time.Second

// oddsAsked asks what it takes for some work to be done by a date at some odds.
type oddsAsked struct {
	About
	By   program.Date `json:"by,omitzero" doc:"The date; missing: the due date of the work, if it has one"`
	Odds int          `json:"odds" minimum:"1" maximum:"99" doc:"In percent"`
	Hasty
}

// Hasty is a question that may be answered by few plays first.
type Hasty struct {
	Quick bool `json:"quick,omitempty" doc:"A first answer, by few plays: the same question without it has the one to go by"`
}

// quickPlays is how often is played for a first answer.
const quickPlays = 60

// searching are the plays of a question that takes long, which ends after some time.
func (h Hasty) searching(ctx context.Context, l *live.Line, state *live.State, long time.Duration) (forecast.Options, error) {
	o, err := l.Playing(ctx, state)
	if h.Quick {
		o.Plays = min(o.Plays, quickPlays)
	}
	end := time.Now().Add(long)
	o.Stop = func() bool { return ctx.Err() != nil || time.Now().After(end) }
	return o, err
}

// cut is what would have to go.
type cut struct {
	Revision int64        `json:"revision"`
	Name     string       `json:"name"`
	By       program.Date `json:"by"`
	levers.Cut
}

func (s stage) cut(ctx context.Context, in *asking[oddsAsked]) (*door.Answered[cut], error) {
	return ask(ctx, s, &in.Reading, question{"cut", &in.Body.About, in.Body.By, true, in.Body, nil}, func(ctx context.Context, l *live.Line, state *live.State, w work) (cut, error) {
		o, err := in.Body.searching(ctx, l, state, searchTime)
		if err != nil {
			return cut{}, err
		}
		found := levers.CutOf(state.Plan, levers.CutQuestion{Set: w.Set, Odds: in.Body.Odds}, levers.Options{
			Today: o.Today, Plays: o.Plays, Past: o.Past, Seed: o.Seed, Workers: o.Workers, Stop: o.Stop,
		})
		return cut{state.Revision, w.Name, w.Set.Due, found}, ctx.Err()
	})
}

// paceFound is what it would take.
type paceFound struct {
	Revision int64        `json:"revision"`
	Name     string       `json:"name"`
	By       program.Date `json:"by"`
	forecast.PaceAnswer
}

func (s stage) pace(ctx context.Context, in *asking[oddsAsked]) (*door.Answered[paceFound], error) {
	return ask(ctx, s, &in.Reading, question{"pace", &in.Body.About, in.Body.By, true, in.Body, nil}, func(ctx context.Context, l *live.Line, state *live.State, w work) (paceFound, error) {
		o, err := in.Body.searching(ctx, l, state, searchTime)
		if err != nil {
			return paceFound{}, err
		}
		return paceFound{state.Revision, w.Name, w.Set.Due, forecast.PaceOf(state.Plan, forecast.PaceQuestion{Options: o, Set: w.Set, Odds: in.Body.Odds})}, ctx.Err()
	})
}

// driversAsked asks what moves the date of some work.
type driversAsked struct {
	About
	By program.Date `json:"by,omitzero" doc:"The date; missing: the due date of the work, if it has one"`
	Hasty
}

// chainsAsked asks on which needs the date of some work hangs.
type chainsAsked struct {
	About
	By program.Date `json:"by,omitzero" doc:"The date; missing: the due date of the work, if it has one"`
}

// chainsFound are the chains that some work ends with.
type chainsFound struct {
	Revision int64        `json:"revision"`
	Name     string       `json:"name"`
	By       program.Date `json:"by,omitzero"`
	forecast.Chains
}

func (s stage) chains(ctx context.Context, in *asking[chainsAsked]) (*door.Answered[chainsFound], error) {
	return ask(ctx, s, &in.Reading, question{"chains", &in.Body.About, in.Body.By, false, in.Body, nil}, func(ctx context.Context, l *live.Line, state *live.State, w work) (chainsFound, error) {
		o, err := l.Playing(ctx, state)
		if err != nil {
			return chainsFound{}, err
		}
		end := time.Now().Add(driversTime)
		found := forecast.ChainsOf(state.Plan, forecast.ChainQuestion{Options: o, Set: w.Set, Enough: func() bool { return ctx.Err() != nil || time.Now().After(end) }})
		l.Played(found.Plays)
		return chainsFound{state.Revision, w.Name, w.Set.Due, found}, ctx.Err()
	})
}

// driversFound is what moves a date.
type driversFound struct {
	Revision int64 `json:"revision"`
	forecast.Drivers
}

// How long drivers may be measured, and for a first answer.
const (
	driversTime      = 3 * time.Second
	firstDriversTime = 400 * time.Millisecond
)

func (s stage) drivers(ctx context.Context, in *asking[driversAsked]) (*door.Answered[driversFound], error) {
	return ask(ctx, s, &in.Reading, question{"drivers", &in.Body.About, in.Body.By, false, in.Body, nil}, func(ctx context.Context, l *live.Line, state *live.State, w work) (driversFound, error) {
		long := driversTime
		if in.Body.Quick {
			long = firstDriversTime
		}
		o, err := in.Body.searching(ctx, l, state, long)
		if err != nil {
			return driversFound{}, err
		}
		return driversFound{state.Revision, forecast.DriversOf(state.Plan, forecast.DriversQuestion{Options: o, Set: w.Set})}, ctx.Err()
	})
}
