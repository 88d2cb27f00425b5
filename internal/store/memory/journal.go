package memory

import (
	"cmp"
	"context"
	"slices"
	"time"

	"jantrel/core/program"
	"jantrel/internal/journal"
)

// edits lists the edits of a line, and those of the live plan that it began with, that a condition holds for, oldest
// first. Their changes are copies.
func (s *Store) edits(ctx context.Context, id int64, holds func(*journal.Edit) bool) ([]journal.Edit, error) {
	s.mu.RLock()
	defer s.mu.RUnlock()
	var list []journal.Edit
	err := s.told(id, func(l *line, end int64) {
		for i := range l.edits {
			if e := &l.edits[i]; e.Revision <= end && holds(e) {
				list = append(list, *e)
			}
		}
	})
	for i := range list {
		list[i].Changes = slices.Clone(list[i].Changes)
	}
	return list, cmp.Or(err, ctx.Err())
}

// parts lists edits with those of their changes that a condition holds for, oldest first, by whom they are; edits
// without such changes are left out.
func (s *Store) parts(ctx context.Context, id int64, holds func(*journal.Edit) bool, of func(program.Change) bool) ([]journal.Edit, error) {
	whole, err := s.edits(ctx, id, holds)
	var list []journal.Edit
	for _, e := range only(whole, of) {
		if len(e.Changes) > 0 {
			list = append(list, journal.Edit{Revision: e.Revision, At: e.At, Actor: e.Actor, Why: e.Why, Changes: e.Changes})
		}
	}
	return list, err
}

// only leaves edits those of their changes alone that a condition holds for.
func only(edits []journal.Edit, of func(program.Change) bool) []journal.Edit {
	for i := range edits {
		edits[i].Changes = slices.DeleteFunc(edits[i].Changes, func(a program.Applied) bool { return !of(a.Change) })
	}
	return edits
}

// touches reports whether an edit has a change that a condition holds for.
func touches(e *journal.Edit, of func(program.Change) bool) bool {
	return slices.ContainsFunc(e.Changes, func(a program.Applied) bool { return of(a.Change) })
}

// newest turns edits round and keeps so many.
func newest(edits []journal.Edit, limit int) []journal.Edit {
	slices.Reverse(edits)
	return edits[:min(limit, len(edits))]
}

// one is the only edit of a list, and whether there is one.
func one(edits []journal.Edit, err error) (journal.Edit, bool, error) {
	if err != nil || len(edits) == 0 {
		return journal.Edit{}, false, err
	}
	return edits[0], true, nil
}

// EditsAfter returns the edits after a revision, oldest first, with their changes.
func (s *Store) EditsAfter(ctx context.Context, id, revision int64) ([]journal.Edit, error) {
	return s.edits(ctx, id, func(e *journal.Edit) bool { return e.Revision > revision })
}

// EditsBetween returns the edits after one revision up to and with another, oldest first, with their changes.
func (s *Store) EditsBetween(ctx context.Context, id, after, to int64) ([]journal.Edit, error) {
	return s.edits(ctx, id, func(e *journal.Edit) bool { return e.Revision > after && e.Revision <= to })
}

// LatestEdits returns those edits before a revision (0: the newest) that are looked for, newest first.
func (s *Store) LatestEdits(ctx context.Context, id, before int64, limit int, sought journal.Sought) ([]journal.Edit, error) {
	if before <= 0 {
		before = 1 << 62
	}
	found, err := s.edits(ctx, id, func(e *journal.Edit) bool { return e.Revision < before && isSought(e, sought) })
	return newest(found, limit), err
}

func isSought(e *journal.Edit, sought journal.Sought) bool {
	switch {
	case slices.Contains(sought.Without, e.Revision):
		return false
	case sought.By != "" && !like(e.Actor, sought.By),
		!sought.From.IsZero() && e.At.Before(sought.From),
		!sought.To.IsZero() && !e.At.Before(sought.To),
		sought.Kind != "" && !touches(e, func(c program.Change) bool { return c.Kind == sought.Kind }),
		sought.Field != "" && !touches(e, func(c program.Change) bool {
			return c.Field == sought.Field && (sought.Kind == "" || c.Kind == sought.Kind)
		}),
		len(sought.Among) > 0 && !touches(e, func(c program.Change) bool {
			return slices.ContainsFunc(sought.Among, func(one journal.Changed) bool {
				return one.Kind == c.Kind && (one.Field == "" || one.Field == c.Field)
			})
		}),
		sought.Words != "" && !like(e.Label, sought.Words) && !like(e.Why, sought.Words) && !touches(e, func(c program.Change) bool {
			return like(c.Key, sought.Words) || like(c.In, sought.Words)
		}):
		return false
	}
	return true
}

// EditAt returns one edit; one with revision 0 where there is none.
func (s *Store) EditAt(ctx context.Context, id, revision int64) (journal.Edit, error) {
	e, _, err := one(s.edits(ctx, id, func(e *journal.Edit) bool { return e.Revision == revision }))
	return e, err
}

// EditOf returns the edit that a client's request of a name has made on this very line, and whether it made one.
func (s *Store) EditOf(ctx context.Context, id int64, client, request string) (journal.Edit, bool, error) {
	own, err := s.own(id)
	if err != nil {
		return journal.Edit{}, false, err
	}
	return one(s.edits(ctx, id, func(e *journal.Edit) bool {
		return e.Revision > own && e.Client == client && e.Request == request && request != ""
	}))
}

// own is the revision after which a line's edits are its own.
func (s *Store) own(id int64) (int64, error) {
	s.mu.RLock()
	defer s.mu.RUnlock()
	l, err := s.find(id)
	if err != nil || l.Base == nil {
		return 0, err
	}
	return *l.BaseRevision, nil
}

// Heads lists the newest edits of one client without their changes, oldest first: what its undo goes by.
func (s *Store) Heads(ctx context.Context, id int64, client string, most int) ([]journal.Edit, error) {
	heads := []journal.Edit{}
	own, err := s.own(id)
	if err != nil {
		return heads, ctx.Err()
	}
	found, err := s.edits(ctx, id, func(e *journal.Edit) bool { return e.Revision > own && e.Client == client })
	for _, e := range found[max(0, len(found)-most):] {
		heads = append(heads, journal.Edit{Revision: e.Revision, Actor: e.Actor, Client: e.Client, Label: e.Label, Sort: e.Sort})
	}
	return heads, err
}

// Undoings lists the edits of a line that take back all of another one of its, in their order.
func (s *Store) Undoings(ctx context.Context, id int64) ([]journal.Undoing, error) {
	found, err := s.edits(ctx, id, func(e *journal.Edit) bool { return e.Undoes != 0 })
	all := []journal.Undoing{}
	for _, e := range found {
		all = append(all, journal.Undoing{Revision: e.Revision, Undoes: e.Undoes})
	}
	return all, err
}

// LastSet returns the newest edit up to a revision that set a field of a thing, without some revisions, and whether there
// is one.
func (s *Store) LastSet(ctx context.Context, id, to int64, without []int64, ref program.Ref, field string) (journal.Edit, bool, error) {
	found, err := s.edits(ctx, id, func(e *journal.Edit) bool {
		return e.Revision <= to && !slices.Contains(without, e.Revision) && touches(e, func(c program.Change) bool { return c.Op == program.Set && c.Ref == ref && c.Field == field })
	})
	return one(newest(found, 1), err)
}

// EditsOf returns the edits up to a revision that changed a thing, of an item also its needs, needs on it or comments on
// it, newest first, each with these changes alone.
func (s *Store) EditsOf(ctx context.Context, id, to int64, of program.Ref, limit int) ([]journal.Edit, error) {
	about := func(c program.Change) bool {
		return c.Ref == of || of.Kind == program.KindItem &&
			(c.Kind == program.KindNeed && (c.In == of.Key || c.Key == of.Key) || c.Kind == program.KindComment && c.In == of.Key)
	}
	found, err := s.edits(ctx, id, func(e *journal.Edit) bool { return e.Revision <= to && touches(e, about) })
	return only(newest(found, limit), about), err
}

// EditsOfKinds returns the edits after one revision and up to another, the oldest first, by whom they are and with those
// of their changes that are to things of some kinds. Edits without such changes are left out.
func (s *Store) EditsOfKinds(ctx context.Context, id, after, to int64, kinds []program.Kind) ([]journal.Edit, error) {
	return s.parts(ctx, id, func(e *journal.Edit) bool { return e.Revision > after && e.Revision <= to },
		func(c program.Change) bool { return slices.Contains(kinds, c.Kind) })
}

// TrackedEdits returns the edits since a time, after one revision and up to another, the oldest first, by whom they are
// and with those of their changes that say what stands in iterations and how it goes.
func (s *Store) TrackedEdits(ctx context.Context, id int64, since time.Time, after, to int64, fields []string) ([]journal.Edit, error) {
	return s.parts(ctx, id,
		func(e *journal.Edit) bool {
			return !e.At.Before(since) && e.Revision > after && e.Revision <= to
		},
		func(c program.Change) bool {
			return c.Kind == program.KindItem && (c.Op == program.Set && slices.Contains(fields, c.Field) || comesOrGoes(c)) ||
				c.Kind == program.KindIteration && c.Op == program.Set && c.Field == "state"
		})
}

func comesOrGoes(c program.Change) bool { return c.Op == program.Add || c.Op == program.Remove }

// SizeChanges returns the changes after one revision and up to another that say how large items are and how far, and
// those that add and remove items, oldest first, with the revision of each.
func (s *Store) SizeChanges(ctx context.Context, id, after, to int64) (changes []program.Applied, revisions []int64, err error) {
	found, err := s.parts(ctx, id, func(e *journal.Edit) bool { return e.Revision > after && e.Revision <= to },
		func(c program.Change) bool {
			return c.Kind == program.KindItem && (c.Op == program.Set && (c.Field == "size" || c.Field == "state") || comesOrGoes(c))
		})
	for _, e := range found {
		for _, c := range e.Changes {
			changes, revisions = append(changes, c), append(revisions, e.Revision)
		}
	}
	return changes, revisions, err
}

// GoneItems lists the keys of items that were ever removed from a line.
func (s *Store) GoneItems(ctx context.Context, id int64) ([]string, error) {
	found, err := s.parts(ctx, id, func(*journal.Edit) bool { return true },
		func(c program.Change) bool { return c.Kind == program.KindItem && c.Op == program.Remove })
	var keys []string
	for _, e := range found {
		for _, c := range e.Changes {
			if !slices.Contains(keys, c.Change.Key) {
				keys = append(keys, c.Change.Key)
			}
		}
	}
	return keys, err
}

// LastChanges returns when each item was last changed up to a revision, without some revisions, by an edit of its own, of
// a need that it has, or by what was said about it.
func (s *Store) LastChanges(ctx context.Context, id, to int64, without []int64) (map[string]time.Time, error) {
	found, err := s.edits(ctx, id, func(e *journal.Edit) bool { return e.Revision <= to && !slices.Contains(without, e.Revision) })
	last := map[string]time.Time{}
	for _, e := range found {
		for _, a := range e.Changes {
			switch c := a.Change; c.Kind {
			case program.KindItem:
				last[c.Key] = e.At
			case program.KindNeed, program.KindComment:
				last[c.In] = e.At
			}
		}
	}
	return last, err
}

// LastWords returns who said the last word on each need up to a revision, without some revisions: asked for it, or
// answered.
func (s *Store) LastWords(ctx context.Context, id, to int64, without []int64) ([]journal.Word, error) {
	found, err := s.edits(ctx, id, func(e *journal.Edit) bool { return e.Revision <= to && !slices.Contains(without, e.Revision) })
	words := []journal.Word{}
	place := map[program.Ref]int{}
	for _, e := range found {
		for _, a := range e.Changes {
			c := a.Change
			if c.Kind != program.KindNeed || c.Op != program.Add && !slices.Contains([]string{"agreement", "given", "wanted"}, c.Field) {
				continue
			}
			at, has := place[c.Ref]
			if !has {
				at = len(words)
				place[c.Ref], words = at, append(words, journal.Word{})
			}
			words[at] = journal.Word{Item: c.In, Needs: c.Key, By: e.Actor, At: e.At}
		}
	}
	return words, err
}

// RevisionAt returns the last revision of a line that was made at a time or before; 0 for before its first edit.
func (s *Store) RevisionAt(ctx context.Context, id int64, at time.Time) (int64, error) {
	found, err := s.edits(ctx, id, func(e *journal.Edit) bool { return !e.At.After(at) })
	var last int64
	for _, e := range found {
		last = max(last, e.Revision)
	}
	return last, err
}

// MadeAt returns when a revision was made, and false for one that the journal has no edit of: what a line began with.
func (s *Store) MadeAt(ctx context.Context, id, revision int64) (time.Time, bool, error) {
	e, made, err := one(s.edits(ctx, id, func(e *journal.Edit) bool { return e.Revision == revision }))
	return e.At, made, err
}

// CountChanges is how many changes the edits after one revision up to another are made of.
func (s *Store) CountChanges(ctx context.Context, id, after, to int64) (n int64, err error) {
	found, err := s.EditsBetween(ctx, id, after, to)
	for _, e := range found {
		n += int64(len(e.Changes))
	}
	return n, err
}
