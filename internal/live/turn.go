package live

import (
	"context"
	"slices"
	"time"

	"jantrel/core/act"
	"jantrel/core/gate"
	"jantrel/core/program"
	"jantrel/internal/journal"
)

// turn is held by the one writer of a line.
type turn chan struct{}

// patience is how long an edit waits for those before it.
const patience = 20 * time.Second

// take waits for the turn; ErrBusy where that takes too long.
func (t turn) take(ctx context.Context) error {
	waits, end := context.WithTimeoutCause(ctx, patience, ErrBusy)
	defer end()
	select {
	case t <- struct{}{}:
		return nil
	case <-waits.Done():
		return context.Cause(waits)
	}
}

func (t turn) Lock()   { t <- struct{}{} }
func (t turn) Unlock() { <-t }

// once makes an edit within the writer's turn. One whose request has made an edit before is
// not made again: its outcome is told again.
func (l *Line) once(ctx context.Context, by Author, base int64, edit func(*behind) (Done, error)) (Done, error) {
	b := l.behindOf(ctx, base)
	made, again, done, err := l.inTurn(ctx, by, b, edit)
	if err != nil || !again {
		return done, err
	}
	return l.told(ctx, made)
}

func (l *Line) inTurn(ctx context.Context, by Author, b *behind, edit func(*behind) (Done, error)) (made journal.Edit, again bool, done Done, err error) {
	if l.frozen {
		return made, false, done, ErrPast
	}
	if err = l.writing.take(ctx); err != nil {
		return made, false, done, err
	}
	defer l.writing.Unlock()
	if l.gone {
		return made, false, done, ErrBusy
	}
	if by.Request != "" {
		made, again, err = l.hub.store.EditOf(ctx, l.id, by.Client, by.Request)
		if again && made.Said.Digest != by.Digest {
			err = ErrOtherEdit
		}
		if again || err != nil {
			return made, again, done, err
		}
	}
	l.catchUp(ctx, b)
	done, err = edit(b)
	return made, false, done, err
}

// told is what came of an edit that was made before.
func (l *Line) told(ctx context.Context, e journal.Edit) (Done, error) {
	after, err := l.At(ctx, e.Revision)
	if err != nil {
		return Done{}, err
	}
	before, err := l.seen(ctx, e.Revision-1, after.Today)
	if err != nil {
		return Done{}, err
	}
	update := updateOf(e, after.Facts.Since(before.Facts))
	return Done{act.Plan{Label: e.Label, Changes: update.Changes, Keys: e.Said.Keys, Notes: e.Said.Notes}, &update}, nil
}

// updated is the update of an edit that always makes one.
func updated(d Done, err error) (Update, error) {
	if err != nil {
		return Update{}, err
	}
	return *d.Update, nil
}

// maxBehind is how many revisions back an edit may have been made on.
const maxBehind = 5000

// behind is what happened since the revision that an edit was made on. What lies far back is
// read before the writer's turn, the rest within it.
type behind struct {
	base  int64
	edits []journal.Edit // oldest first
	err   error
}

func (l *Line) behindOf(ctx context.Context, base int64) *behind {
	b := &behind{base: base}
	if l.state.Load().Revision-base > maxRecent {
		b.edits, b.err = l.since(ctx, base)
	}
	return b
}

// catchUp reads on, up to now. The caller holds the writer's turn.
func (l *Line) catchUp(ctx context.Context, b *behind) {
	if b.err != nil {
		return
	}
	from, now := b.base, l.state.Load().Revision
	if n := len(b.edits); n > 0 {
		from = b.edits[n-1].Revision
	}
	if len(l.recent) > 0 && from < now && from >= l.recent[0].Revision-1 {
		b.edits = slices.Concat(b.edits, l.recent[len(l.recent)-int(now-from):])
		return
	}
	var more []journal.Edit
	more, b.err = l.since(ctx, from)
	b.edits = append(b.edits, more...)
}

// since reads the edits after a revision from the journal, oldest first.
func (l *Line) since(ctx context.Context, base int64) ([]journal.Edit, error) {
	now := l.state.Load().Revision
	switch {
	case base > now:
		return nil, ErrFuture
	case base == now:
		return nil, nil
	case now-base > maxBehind:
		return nil, ErrTooOld
	}
	return l.hub.store.EditsAfter(ctx, l.id, base)
}

// conflict looks for what other clients changed since of that which says speak of.
func (l *Line) conflict(b *behind, client string, says []program.Change) error {
	if b.err != nil || len(says) == 0 {
		return b.err
	}
	var theirs []gate.Edit
	for _, e := range b.edits {
		if e.Client != client {
			theirs = append(theirs, gate.Edit{By: e.Actor, Changes: e.Changes})
		}
	}
	if conflicts := gate.Conflicts(theirs, says); len(conflicts) > 0 {
		return &conflicts[0]
	}
	return nil
}

// rebase brings the places that changes name from a revision to now. Only where others
// have put in, taken out or moved things since, the list of that time is made up again.
func (l *Line) rebase(b *behind, client string, changes []program.Change) ([]program.Change, error) {
	ordered := func(c program.Change) bool { return c.Op != program.Set }
	if !slices.ContainsFunc(changes, ordered) || b.err != nil {
		return changes, b.err
	}
	var since []program.Applied
	disturbed := false
	for _, e := range b.edits {
		since = append(since, e.Changes...)
		disturbed = disturbed || e.Client != client && slices.ContainsFunc(e.Changes, func(a program.Applied) bool { return ordered(a.Change) })
	}
	if !disturbed {
		return changes, nil
	}
	now := l.state.Load().Program
	before, err := program.Rewind(now, since)
	if err != nil {
		return nil, err
	}
	return gate.Rebase(before, now, changes), nil
}
