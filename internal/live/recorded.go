package live

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"time"

	"jantrel/core/calendar"
	"jantrel/core/gate"
	"jantrel/core/program"
	"jantrel/internal/journal"
)

// Record tells what a program of a store was at first, and every edit since then, the oldest first. It changes nothing,
// also where a server runs on it.
func Record(ctx context.Context, s Store, id int64, first func(program.Program) error, edit func(program.RecordedEdit) error) error {
	line, err := s.Live(ctx, id)
	if err != nil {
		return err
	}
	p, to, err := s.Load(ctx, line.ID)
	if err != nil {
		return err
	}
	for at := to; at > 0; at -= stretch {
		edits, err := s.EditsBetween(ctx, line.ID, max(0, at-stretch), at)
		if err != nil {
			return err
		}
		for _, e := range slices.Backward(edits) {
			if p, err = program.Rewind(p, e.Changes); err != nil {
				return err
			}
		}
	}
	if err := first(p); err != nil {
		return err
	}
	for at := int64(0); at < to; at += stretch {
		edits, err := s.EditsBetween(ctx, line.ID, at, min(to, at+stretch))
		if err != nil {
			return err
		}
		for _, e := range edits {
			recorded := program.RecordedEdit{At: e.At, By: e.Actor, Label: e.Label, Why: e.Why}
			for _, a := range e.Changes {
				recorded.Changes = append(recorded.Changes, a.Change)
			}
			if err := edit(recorded); err != nil {
				return err
			}
		}
	}
	return ctx.Err()
}

// Relive makes a program with its journal in a store: as it was at first, and then edit by edit, each at its time.
// Where one cannot be made nothing is left behind.
func Relive(ctx context.Context, s Store, r program.Recorded) (id int64, err error) {
	now := time.Now()
	hub := NewHub(s, func() time.Time { return now }, func() program.Date { return calendar.OfTime(now) })
	defer hub.Close()
	if id, err = hub.Create(ctx, r.First); err != nil {
		return 0, err
	}
	defer func() {
		if err != nil {
			err = errors.Join(err, hub.Delete(context.WithoutCancel(ctx), id))
		}
	}()
	found, err := s.Live(ctx, id)
	if err != nil {
		return id, err
	}
	line, err := hub.asItIs(ctx, found)
	if err != nil {
		return id, err
	}
	for n, e := range r.Edits {
		now = e.At
		if err := line.relive(ctx, e); err != nil {
			return id, fmt.Errorf("edit %d, %s: %w", n+1, e.Label, err)
		}
	}
	return id, nil
}

// relive makes an edit of a journal again. Whoever calls it is the only one who has the line.
func (l *Line) relive(ctx context.Context, e program.RecordedEdit) error {
	if err := ctx.Err(); err != nil {
		return err
	}
	next, applied, err := gate.Again(l.state.Load().Plan, e.Changes)
	if err != nil {
		return err
	}
	made, err := l.commit(ctx, next, journal.Edit{Actor: e.By, Label: e.Label, Sort: journal.Plain, Changes: applied})
	if err == nil && e.Why != "" {
		err = l.hub.store.Explain(ctx, l.id, made.Revision, e.Why)
	}
	return err
}
