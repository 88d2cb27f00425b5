package live

import (
	"context"
	"slices"
	"sync"
	"time"

	"jantrel/core/program"
	"jantrel/core/track"
)

// tracked remembers the edits that tell how iterations stand, since a time and up to a revision.
type tracked struct {
	mu       sync.Mutex
	since    time.Time
	revision int64 // 0: nothing is remembered
	events   []track.Event
}

// UnderWay is how the iteration that each team is in stands, by the journal up to a state.
func (l *Line) UnderWay(ctx context.Context, s *State) ([]track.Iteration, error) {
	in := l.hub.clock().Location()
	events, began, err := l.journal(ctx, s, track.Since(s.Plan, s.Today, in))
	if err != nil {
		return nil, err
	}
	return track.Now(s.Plan, s.Today, events, began, in), nil
}

// Review looks back on an iteration, by the journal up to a state; false where there is no such one.
func (l *Line) Review(ctx context.Context, s *State, team, iteration string) (track.Review, bool, error) {
	in := l.hub.clock().Location()
	since, ok := track.ReviewSince(s.Plan, team, iteration, in)
	if !ok {
		return track.Review{}, false, nil
	}
	events, began, err := l.journal(ctx, s, since)
	if err != nil {
		return track.Review{}, true, err
	}
	return track.ReviewOf(s.Plan, team, iteration, s.Today, events, began, in), true, nil
}

// journal are the edits since a time and up to a state, and when the first of all was made.
func (l *Line) journal(ctx context.Context, s *State, since time.Time) ([]track.Event, time.Time, error) {
	in := l.hub.clock().Location()
	events, err := l.trackedUntil(ctx, s.Revision, since, in)
	if err != nil {
		return nil, time.Time{}, err
	}
	// More may be known.
	first, _ := slices.BinarySearchFunc(events, since, func(e track.Event, at time.Time) int { return e.At.Compare(at) })
	began, err := l.began(ctx)
	return events[first:], began.In(in), err
}

// History is how the work of a scope came about since a time, by the journal up to a state.
func (l *Line) History(ctx context.Context, s *State, scope track.Scope, from time.Time) (track.History, time.Time, error) {
	events, began, err := l.journal(ctx, s, time.Time{})
	if err != nil {
		return track.History{}, time.Time{}, err
	}
	return track.HistoryOf(s.Program, scope, from, events, began, s.Today), began, nil
}

// StartOf is when a release begins; without a start, with the journal.
func (l *Line) StartOf(s *State, release string) (from time.Time) {
	for i := range s.Releases {
		if r := &s.Releases[i]; r.Key == release && !r.Start.IsZero() {
			from = l.Midnight(r.Start)
		}
	}
	return from
}

// Midnight is the first moment of a day, where the program's people are.
func (l *Line) Midnight(day program.Date) time.Time {
	return track.Midnight(day, l.hub.clock().Location())
}

// began is when the journal begins.
func (l *Line) began(ctx context.Context) (time.Time, error) {
	began, edited, err := l.hub.store.MadeAt(ctx, l.id, 1)
	if !edited { // what came with the program came from nobody knows when
		began = l.hub.clock()
	}
	return began, err
}

// trackedUntil are the edits since a time and up to a revision, but for those that were undone by then. It goes on from
// what it knows; for a state of the past it reads all, and forgets them again.
func (l *Line) trackedUntil(ctx context.Context, revision int64, since time.Time, in *time.Location) ([]track.Event, error) {
	l.tracked.mu.Lock()
	defer l.tracked.mu.Unlock()
	known := &l.tracked
	if revision < known.revision {
		known = &tracked{since: since}
	} else if known.revision == 0 || since.Before(known.since) {
		known.since, known.revision, known.events = since, 0, nil
	}
	edits, err := l.hub.store.TrackedEdits(ctx, l.id, known.since, known.revision, revision, track.Fields)
	if err != nil {
		return nil, err
	}
	for _, e := range edits {
		event := track.NewEvent(e.Revision, e.At.In(in), e.Actor, e.Changes)
		event.Why = e.Why
		known.events = append(known.events, event)
	}
	known.revision = revision
	undone, err := l.undone(ctx, revision)
	if err != nil || len(undone) == 0 {
		return known.events, err
	}
	return slices.DeleteFunc(slices.Clone(known.events), func(e track.Event) bool { return undone.Has(e.Revision) }), nil
}
