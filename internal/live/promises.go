package live

import (
	"context"
	"fmt"
	"slices"
	"sync"

	"jantrel/core/act"
	"jantrel/core/forecast"
	"jantrel/core/program"
)

// promised is how the promises of a state stand, once somebody asked.
type promised struct {
	mu  sync.Mutex
	all []forecast.Watched
}

// PromisesAt is how the promises of a state stand, by the plays of Landings: they are played once.
func (l *Line) PromisesAt(ctx context.Context, s *State) ([]forecast.Watched, error) {
	if len(s.Promises) == 0 {
		return []forecast.Watched{}, nil
	}
	s.promised.mu.Lock()
	defer s.promised.mu.Unlock()
	if s.promised.all == nil {
		o, err := l.Playing(ctx, s)
		if err != nil {
			return nil, err
		}
		all := forecast.Promises(s.Plan, o)
		l.Played(o.Plays)
		if err := ctx.Err(); err != nil { // what it was stopped in is not known
			return nil, err
		}
		s.promised.all = all
	}
	return slices.Clone(s.promised.all), nil
}

// Promise is the intent to note a promise, with the odds that it has as the program is; of one that was given on
// an earlier day, those at the end of that day with all that was known by then, as far as the journal reaches.
func (l *Line) Promise(ctx context.Context, promise program.Promise) (act.GivePromise, error) {
	state := l.State()
	promise.Chance = nil
	if made := promise.Made; !made.IsZero() && made < state.Today {
		var err error
		if state, _, err = l.EndOf(ctx, made); err != nil {
			return act.GivePromise{}, err
		}
	}
	if state == nil || !state.Has(promise.Of()) { // the odds are not known; where it never was, the intent says so
		return act.GivePromise{Promise: promise}, nil
	}
	chance, err := Answer(ctx, l, state, fmt.Sprintf("odds %v %d", promise.Of(), promise.Date), func(ctx context.Context) (float64, error) {
		o, err := l.Playing(ctx, state)
		if err != nil {
			return 0, err
		}
		l.Played(o.Plays)
		return forecast.OddsOf(state.Plan, o, &promise), ctx.Err()
	})
	promise.Chance = &chance
	return act.GivePromise{Promise: promise}, err
}
