package live

import (
	"context"
	"slices"
	"sync"
	"time"

	"jantrel/core/calendar"
	"jantrel/core/forecast"
	"jantrel/core/program"
	"jantrel/internal/journal"
)

// scopes remembers how large releases were at the end of days that are over: the journal up to
// then stands fast. Whatever day is called today, what lies ahead of the clock is not over.
type scopes struct {
	mu    sync.Mutex
	began time.Time // when the line was first edited; zero: not known yet
	days  map[program.Date]forecast.Scope
	turns int // how often a day that was over had turned out otherwise
}

// sizes remembers the journal's sizes up to a revision.
type sizes struct {
	mu       sync.Mutex
	fold     forecast.SizeFold
	revision int64
	undone   int        // how many revisions the fold goes without
	past     *pastSizes // while states of the past are asked about one after the other
}

// pastSizes are the changes of sizes up to a revision, with the revision of each.
type pastSizes struct {
	changes   []program.Applied
	revisions []int64
	to        int64
}

// taught is what the journal taught about a state, up to that.
func (l *Line) taught(ctx context.Context, s *State) (past forecast.Past, err error) {
	if past.Growth, err = l.growth(ctx, s); err == nil {
		past.Turned, err = l.turned(ctx, s)
	}
	return past, err
}

// turned is what sizes turned out as once work on them began. It goes on from what it knows; for a
// state of the past, from the beginning.
func (l *Line) turned(ctx context.Context, s *State) (forecast.SizeFactors, error) {
	l.sizes.mu.Lock()
	defer l.sizes.mu.Unlock()
	from := &l.sizes
	undone, err := l.undone(ctx, s.Revision)
	if err != nil {
		return nil, err
	}
	if s.Revision < from.revision {
		if past := from.past; past != nil && s.Revision <= past.to {
			upTo, _ := slices.BinarySearch(past.revisions, s.Revision+1)
			fold := forecast.SizeFold{}
			fold.Take(notUndone(past.changes[:upTo], past.revisions, undone))
			return fold.Factors(s.Plan), nil
		}
		from = &sizes{}
	} else if len(undone) != from.undone { // it may have taken what was undone since
		from.fold, from.revision, from.undone = forecast.SizeFold{}, 0, len(undone)
	}
	changes, revisions, err := l.hub.store.SizeChanges(ctx, l.id, from.revision, s.Revision)
	if err != nil {
		return nil, err
	}
	from.fold.Take(notUndone(changes, revisions, undone))
	from.revision = s.Revision
	return from.fold.Factors(s.Plan), nil
}

// notUndone are those of some changes, with the revision of each, that were not undone.
func notUndone(changes []program.Applied, revisions []int64, undone journal.NeverWere) []program.Applied {
	if len(undone) == 0 {
		return changes
	}
	var left []program.Applied
	for i, c := range changes {
		if !undone.Has(revisions[i]) {
			left = append(left, c)
		}
	}
	return left
}

// lookBack has states of the past asked about until done is called: the journal is read once for all of them.
func (l *Line) lookBack(ctx context.Context) (done func(), err error) {
	l.sizes.mu.Lock()
	defer l.sizes.mu.Unlock()
	past := &pastSizes{to: l.State().Revision}
	if past.changes, past.revisions, err = l.hub.store.SizeChanges(ctx, l.id, 0, past.to); err != nil {
		return nil, err
	}
	l.sizes.past = past
	return func() {
		l.sizes.mu.Lock()
		defer l.sizes.mu.Unlock()
		l.sizes.past = nil
	}, nil
}

// growth is by which shares the releases of a state grew in closed iterations under the journal.
func (l *Line) growth(ctx context.Context, s *State) (forecast.Measured, error) {
	l.scopes.mu.Lock()
	defer l.scopes.mu.Unlock()
	if l.scopes.began.IsZero() {
		began, made, err := l.hub.store.MadeAt(ctx, l.id, 1)
		if err != nil || !made {
			return nil, err
		}
		l.scopes.began, l.scopes.days = began, map[program.Date]forecast.Scope{}
	}
	if turns := l.undid.turns(); turns != l.scopes.turns {
		l.scopes.days, l.scopes.turns = map[program.Date]forecast.Scope{}, turns
	}
	clock := l.hub.clock()
	began := calendar.OfTime(l.scopes.began.In(clock.Location()))
	walked := &walk{line: l, asOf: l.now()}
	return forecast.MeasureGrowth(s.Plan, began, calendar.OfTime(clock), func(day program.Date) (forecast.Scope, error) {
		if scope, ok := l.scopes.days[day]; ok {
			return scope, nil
		}
		next := day.Add(1).Time()
		end := time.Date(next.Year(), next.Month(), next.Day(), 0, 0, 0, 0, clock.Location())
		revision, err := l.hub.store.RevisionAt(ctx, l.id, end)
		if err != nil {
			return nil, err
		}
		then, err := walked.to(ctx, revision)
		if err != nil {
			return nil, err
		}
		scope := forecast.ScopeOf(then)
		l.scopes.days[day] = scope
		return scope, nil
	})
}
