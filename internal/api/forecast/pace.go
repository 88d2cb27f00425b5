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
		o, end, err := searching(ctx, l, state)
		if err != nil {
			return cut{}, err
		}
		found := levers.CutOf(state.Plan, levers.CutQuestion{Set: w.set, Odds: in.Body.Odds}, levers.Options{
			Today: o.Today, Plays: o.Plays, Past: o.Past, Seed: o.Seed, Workers: o.Workers, Stop: end,
		})
		return cut{state.Revision, w.name, w.set.Due, found}, ctx.Err()
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
		o, end, err := searching(ctx, l, state)
		if err != nil {
			return paceFound{}, err
		}
		o.Stop = end
		return paceFound{state.Revision, w.name, w.set.Due, forecast.PaceOf(state.Plan, forecast.PaceQuestion{Options: o, Set: w.set, Odds: in.Body.Odds})}, ctx.Err()
	})
}

// driversAsked asks what moves the date of some work.
type driversAsked struct {
	About
	By program.Date `json:"by,omitzero" doc:"The date; missing: the due date of the work, if it has one"`
}

// driversFound is what moves a date.
type driversFound struct {
	Revision int64 `json:"revision"`
	forecast.Drivers
}

// driversTime is how long drivers may be measured.
const driversTime = 3 * time.Second

func (s stage) drivers(ctx context.Context, in *asking[driversAsked]) (*door.Answered[driversFound], error) {
	return ask(ctx, s, &in.Reading, question{"drivers", &in.Body.About, in.Body.By, false, in.Body, nil}, func(ctx context.Context, l *live.Line, state *live.State, w work) (driversFound, error) {
		o, err := l.Playing(ctx, state)
		if err != nil {
			return driversFound{}, err
		}
		end := time.Now().Add(driversTime)
		o.Stop = func() bool { return ctx.Err() != nil || time.Now().After(end) }
		return driversFound{state.Revision, forecast.DriversOf(state.Plan, forecast.DriversQuestion{Options: o, Set: w.set})}, ctx.Err()
	})
}

// searching are the plays of a search, and whether it is to end.
func searching(ctx context.Context, l *live.Line, state *live.State) (forecast.Options, func() bool, error) {
	end := time.Now().Add(searchTime)
	o, err := l.Playing(ctx, state)
	return o, func() bool { return ctx.Err() != nil || time.Now().After(end) }, err
}
