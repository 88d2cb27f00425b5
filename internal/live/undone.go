package live

import (
	"bytes"
	"context"
	"maps"
	"slices"
	"sync"
	"time"

	"jantrel/core/calendar"
	"jantrel/core/program"
	"jantrel/internal/journal"
)

// undoings are the edits of a line that take back all of another one, as far as they are known.
type undoings struct {
	mu   sync.Mutex
	read bool
	all  []journal.Undoing

	days int // how often something of a day that was over has been undone
}

// turns is how often a day that was over has turned out otherwise: what is remembered of days goes by it.
func (u *undoings) turns() int {
	u.mu.Lock()
	defer u.mu.Unlock()
	return u.days
}

// undone are the edits up to a revision that never happened, as people have it: what was undone, or taken back with
// nothing in between, and what did so; each with the edit that took it back. The journal keeps them all. What is told of
// the past (how iterations and scope went, ages, news, growth, causes, who changed what last) goes without them.
func (l *Line) undone(ctx context.Context, to int64) (journal.NeverWere, error) {
	l.undid.mu.Lock()
	defer l.undid.mu.Unlock()
	if !l.undid.read {
		all, err := l.hub.store.Undoings(ctx, l.id)
		if err != nil {
			return nil, err
		}
		// One that was committed meanwhile is in it.
		l.undid.all, l.undid.read = all, true
	}
	return journal.Undone(l.undid.all, to), nil
}

// without is undone, as the store takes it.
func (l *Line) without(ctx context.Context, to int64) ([]int64, error) {
	undone, err := l.undone(ctx, to)
	return slices.Sorted(maps.Keys(undone)), err
}

// note takes in an edit that takes back another one, which was made at a time.
func (u *undoings) note(e *journal.Edit, made time.Time) {
	u.mu.Lock()
	defer u.mu.Unlock()
	if calendar.OfTime(made.In(e.At.Location())) != calendar.OfTime(e.At) {
		u.days++
	}
	if u.read && (len(u.all) == 0 || u.all[len(u.all)-1].Revision < e.Revision) {
		u.all = append(u.all, journal.Undoing{Revision: e.Revision, Undoes: e.Undoes})
	}
}

// standing are those of some edits up to a revision that were not undone by then.
func (l *Line) standing(ctx context.Context, edits []journal.Edit, to int64) ([]journal.Edit, error) {
	undone, err := l.undone(ctx, to)
	return slices.DeleteFunc(edits, func(e journal.Edit) bool { return undone.Has(e.Revision) }), err
}

// unwound is a program of the past without those edits that were undone since, up to a revision: what took them back is
// done at once. Where that cannot be, as something else has come between, it is the program as it was.
func (l *Line) unwound(ctx context.Context, at journal.Checkpoint, to int64) (program.Program, error) {
	undone, err := l.undone(ctx, to)
	if err != nil {
		return at.Program, err
	}
	var later []int64
	for revision, by := range undone {
		if revision <= at.Revision && by > at.Revision {
			later = append(later, by)
		}
	}
	slices.Sort(later)
	p := at.Program
	for _, by := range later {
		edit, err := l.hub.store.EditAt(ctx, l.id, by)
		if err != nil {
			return p, err
		}
		if next, err := program.Replay(p, edit.Changes); err == nil {
			p = next
		}
	}
	return p, nil
}

// tookBack is the edit of a revision, if changes take back all that it did with nothing in between, and it took nothing
// back itself; else 0.
func (l *Line) tookBack(ctx context.Context, revision int64, changes []program.Applied) (int64, error) {
	if revision == 0 {
		return 0, nil
	}
	edit, err := l.hub.store.EditAt(ctx, l.id, revision)
	if err != nil || edit.Undoes != 0 || len(edit.Changes) != len(changes) {
		return 0, err
	}
	if !l.live && revision <= l.begin { // it is the live plan's, where it stands
		return 0, nil
	}
	undone, err := l.undone(ctx, l.state.Load().Revision)
	if err != nil || undone.Has(revision) {
		return 0, err
	}
	for _, a := range changes {
		if !slices.ContainsFunc(edit.Changes, func(e program.Applied) bool { return reverses(&a, &e) }) {
			return 0, nil
		}
	}
	return revision, nil
}

// reverses reports whether a change takes back another one, and finds what that left.
func reverses(a, e *program.Applied) bool {
	return a.Change.Op == e.Inverse.Op && a.Change.Ref == e.Inverse.Ref && a.Change.Field == e.Inverse.Field &&
		bytes.Equal(a.Change.Value, e.Inverse.Value) && bytes.Equal(a.Inverse.Value, e.Change.Value)
}
