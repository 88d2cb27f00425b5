package live

import (
	"context"

	"jantrel/core/track"
)

// UnderWay is how the iteration that each team is in stands, by the journal up to a state.
func (l *Line) UnderWay(ctx context.Context, s *State) ([]track.Iteration, error) {
	in := l.hub.clock().Location()
	edits, err := l.hub.store.TrackedEdits(ctx, l.id, track.Since(s.Plan, s.Today, in), s.Revision)
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
	events := make([]track.Event, len(edits))
	for i, e := range edits {
		events[i] = track.Event{Revision: e.Revision, At: e.At.In(in), By: e.Actor, Label: e.Label, Changes: e.Changes}
	}
	return track.Now(s.Plan, s.Today, events, began.In(in), in), nil
}
