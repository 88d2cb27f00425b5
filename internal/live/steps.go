package live

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"

	"jantrel/core/cadence"
	"jantrel/core/gate"
	"jantrel/core/needs"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/internal/journal"
)

// history is what a client can undo and redo: revisions, the next one last.
type history struct {
	undo, redo []step
}

type step struct {
	revision int64
	label    string
}

// maxSteps is how many of a client's edits are read for what it can undo.
const maxSteps = 500

// historyOf returns the history of a client. It is read when it is first asked for. The
// caller holds the writer's turn.
func (l *Line) historyOf(ctx context.Context, client string) (*history, error) {
	if h := l.histories[client]; h != nil {
		return h, nil
	}
	heads, err := l.hub.store.Heads(ctx, l.id, client, maxSteps)
	if err != nil {
		return nil, err
	}
	h := &history{}
	for _, e := range heads {
		h.take(e)
	}
	l.histories[client] = h
	return h, nil
}

// remember takes an edit into its client's history, if that has been asked for.
func (l *Line) remember(e journal.Edit) {
	if h := l.histories[e.Client]; h != nil {
		h.take(e)
	}
}

// take takes an edit in. A new one ends what could be redone.
func (h *history) take(e journal.Edit) {
	switch e.Sort {
	case journal.Undo:
		if n := len(h.undo); n > 0 {
			h.redo, h.undo = append(h.redo, h.undo[n-1]), h.undo[:n-1]
		}
	case journal.Redo:
		if n := len(h.redo); n > 0 {
			h.undo, h.redo = append(h.undo, step{e.Revision, e.Label}), h.redo[:n-1] // it is the one that stands now
		}
	default:
		h.undo, h.redo = append(h.undo, step{e.Revision, e.Label}), nil
	}
}

// Steps says what a client would undo and redo next; empty for nothing.
func (l *Line) Steps(ctx context.Context, client string) (undo, redo string, err error) {
	if err := l.writing.take(ctx); err != nil {
		return "", "", err
	}
	defer l.writing.Unlock()
	h, err := l.historyOf(ctx, client)
	if err != nil {
		return "", "", err
	}
	if n := len(h.undo); n > 0 {
		undo = h.undo[n-1].label
	}
	if n := len(h.redo); n > 0 {
		redo = h.redo[n-1].label
	}
	return undo, redo, nil
}

// Undo takes back the client's last edit that stands. It is refused with a
// *Conflict where others have changed the same since.
func (l *Line) Undo(ctx context.Context, by Author) (Update, error) {
	return l.step(ctx, by, journal.Undo)
}

// Redo does again what the client's last undo took back.
func (l *Line) Redo(ctx context.Context, by Author) (Update, error) {
	return l.step(ctx, by, journal.Redo)
}

// StepPast leaves what a client's next undo or redo is about as it is, where it cannot be taken
// back or done again, and goes on to the one before. label is what it is called by whoever
// asks: another one is not stepped past. After a restart it is there again.
func (l *Line) StepPast(ctx context.Context, client string, sort journal.Sort, label string) error {
	if err := l.writing.take(ctx); err != nil {
		return err
	}
	defer l.writing.Unlock()
	h, err := l.historyOf(ctx, client)
	if err != nil {
		return err
	}
	steps := &h.undo
	if sort == journal.Redo {
		steps = &h.redo
	}
	n := len(*steps)
	if n == 0 || (*steps)[n-1].label != label {
		return ErrNothingToDo
	}
	*steps = (*steps)[:n-1]
	return nil
}

func (l *Line) step(ctx context.Context, by Author, sort journal.Sort) (Update, error) {
	return updated(l.once(ctx, by, l.state.Load().Revision, func(*behind) (Done, error) {
		update, err := l.stepInTurn(ctx, by, sort)
		return Done{Update: &update}, err
	}))
}

// stepInTurn is undo and redo. The caller holds the writer's turn.
func (l *Line) stepInTurn(ctx context.Context, by Author, sort journal.Sort) (Update, error) {
	h, err := l.historyOf(ctx, by.Client)
	if err != nil {
		return Update{}, err
	}
	steps := h.undo
	if sort == journal.Redo {
		steps = h.redo
	}
	if len(steps) == 0 {
		return Update{}, ErrNothingToDo
	}
	target := steps[len(steps)-1]
	edit, err := l.hub.store.EditAt(ctx, l.id, target.revision)
	if err != nil {
		return Update{}, err
	}
	changes, expected := stepChanges(edit.Changes, sort)
	now := l.state.Load()
	if err := by.check(now.Program, changes); err != nil {
		return Update{}, err
	}
	// Places are those of that time: others may have put things before them since.
	base := target.revision
	if sort == journal.Redo {
		base--
	}
	b := &behind{base: base}
	l.catchUp(ctx, b)
	if conflict, err := l.setSince(ctx, b, by.Client, changes); conflict != nil || err != nil {
		if err == nil {
			err = conflict
		}
		return Update{}, err
	}
	if rebased, err := l.rebase(b, by.Client, changes); err == nil && len(rebased) == len(changes) {
		changes = rebased
	}
	next, applied, err := l.tryStep(ctx, now.Plan, changes, target.revision)
	if err != nil {
		return Update{}, fmt.Errorf("%q cannot be taken back or done again: %w", target.label, err)
	}
	for i, a := range applied {
		// What was there must be what the edit left there: else it is somebody else's.
		if was := a.Inverse.Value; expected[i] != nil && !bytes.Equal(was, expected[i]) {
			return Update{}, &Conflict{Ref: a.Change.Ref, Field: a.Change.Field, Base: expected[i], Yours: a.Change.Value, Theirs: was, By: "Somebody", Sort: gate.BothSet}
		}
	}
	made := by.edit(target.label, sort, applied)
	if sort == journal.Undo {
		made.Undoes = target.revision
	}
	if made.UpTo, err = l.upToAfter(ctx, edit, sort); err != nil {
		return Update{}, err
	}
	return l.commit(ctx, next, made)
}

// setSince is a field that changes would take back or set again, and another client has set since, also to what it was; an
// edit that was undone is none. nil where there is no such field, or nobody knows any more.
func (l *Line) setSince(ctx context.Context, b *behind, client string, changes []program.Change) (*Conflict, error) {
	if b.err != nil {
		return nil, nil
	}
	undone, err := l.undone(ctx, l.state.Load().Revision)
	if err != nil {
		return nil, err
	}
	for _, e := range b.edits {
		if undone.Has(e.Revision) || e.Client == client {
			continue
		}
		for _, a := range e.Changes {
			at := slices.IndexFunc(changes, func(c program.Change) bool {
				return c.Op == program.Set && a.Change.Op == program.Set && c.Ref == a.Change.Ref && c.Field == a.Change.Field
			})
			if at >= 0 {
				return &Conflict{Ref: a.Change.Ref, Field: a.Change.Field, Base: a.Inverse.Value, Yours: changes[at].Value, Theirs: a.Change.Value, By: e.Actor, Sort: gate.BothSet}, nil
			}
		}
	}
	return nil, nil
}

// tryStep takes an undo or redo through the gate. What stood before the edit that it is
// about is no fault of it: only where the gate refuses, that time is looked up.
func (l *Line) tryStep(ctx context.Context, p *plan.Plan, changes []program.Change, revision int64) (*plan.Plan, []program.Applied, error) {
	next, applied, err := gate.Try(p, changes)
	var cycle *needs.CycleError
	var breaks *cadence.BreakError
	if !errors.As(err, &cycle) && !errors.As(err, &breaks) {
		return next, applied, err
	}
	before, pastErr := l.programAt(ctx, revision-1)
	if pastErr != nil {
		return next, applied, err
	}
	after, pastErr := l.programAt(ctx, revision)
	if pastErr != nil {
		return next, applied, err
	}
	return gate.Try(p, changes, plan.Of(before), plan.Of(after))
}

// stepChanges returns the changes of an undo or redo, and for each the value that
// it should find.
func stepChanges(edit []program.Applied, sort journal.Sort) (changes []program.Change, expected []json.RawMessage) {
	for i := range edit {
		a := edit[i]
		do, was := a.Change, a.Inverse.Value
		if sort == journal.Undo {
			a = edit[len(edit)-1-i]
			do, was = a.Inverse, a.Change.Value
		}
		changes, expected = append(changes, do), append(expected, was)
	}
	return changes, expected
}
