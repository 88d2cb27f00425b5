package live

import (
	"context"
	"sync"
	"time"

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
	events, err := l.trackedUntil(ctx, s.Revision, track.Since(s.Plan, s.Today, in), in)
	if err != nil {
		return nil, err
	}
	began, edited, err := l.hub.store.MadeAt(ctx, l.id, 1)
	if err != nil {
		return nil, err
	}
	if !edited { // what came with the program came from nobody knows when
		began = l.hub.clock()
	}
	return track.Now(s.Plan, s.Today, events, began.In(in), in), nil
}

// trackedUntil are the edits since a time and up to a revision. It goes on from what it knows; for a
// state of the past it reads all, and forgets them again.
func (l *Line) trackedUntil(ctx context.Context, revision int64, since time.Time, in *time.Location) ([]track.Event, error) {
	l.tracked.mu.Lock()
	defer l.tracked.mu.Unlock()
	known := &l.tracked
	if revision < known.revision {
		known = &tracked{since: since}
	} else if known.revision == 0 || since.Before(known.since) {
		known.since, known.revision, known.events = since, 0, nil
	}
	edits, err := l.hub.store.TrackedEdits(ctx, l.id, known.since, known.revision, revision)
	if err != nil {
		return nil, err
	}
	for _, e := range edits {
		known.events = append(known.events, track.Event{Revision: e.Revision, At: e.At.In(in), By: e.Actor, Changes: e.Changes})
	}
	known.revision = revision
	return known.events, nil
}
