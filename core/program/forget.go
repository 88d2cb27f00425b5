package program

import "slices"

// Forget returns the changes that remove a thing and all that refers to it: who
// was removed from their teams, items of a removed team lose team and place, those
// of a removed release their release. What depends on it is thereby kept valid.
func Forget(p Program, ref Ref) []Change {
	if ref.Kind == KindItem {
		return ForgetItems(p, []string{ref.Key})
	}
	f := &forgetter{}
	switch ref.Kind {
	case KindPerson:
		for _, t := range p.Teams {
			without(f, KindTeam, t.Key, "members", t.Members, func(m Member) bool { return m.Person == ref.Key })
		}
		f.items(p, "assignee", func(i *Item) bool { return i.Assignee == ref.Key })
	case KindTeam:
		f.items(p, "iteration", func(i *Item) bool { return i.Team == ref.Key && i.Iteration != "" })
		f.items(p, "team", func(i *Item) bool { return i.Team == ref.Key })
		f.team(p, ref.Key)
	case KindCadence:
		for _, t := range p.Teams {
			if t.Cadence == ref.Key {
				f.clear(KindTeam, t.Key, "cadence")
			}
		}
	case KindRelease:
		f.items(p, "release", func(i *Item) bool { return i.Release == ref.Key })
		for _, m := range p.Milestones {
			without(f, KindMilestone, m.Key, "releases", m.Releases, func(key string) bool { return key == ref.Key })
		}
	}
	return append(f.changes, Change{Op: Remove, Ref: ref})
}

// ForgetItems returns the changes that remove items: with their needs, the needs on
// them and their comments; what they grouped goes up to the next parent that stays.
func ForgetItems(p Program, keys []string) []Change {
	f := &forgetter{}
	gone := make(map[string]bool, len(keys))
	for _, key := range keys {
		gone[key] = true
	}
	tree := TreeOf(p)
	for i := range p.Items {
		item := &p.Items[i]
		if gone[item.Key] || !gone[item.Parent] {
			continue
		}
		up := tree.Parent[i]
		for up >= 0 && gone[p.Items[up].Key] {
			up = tree.Parent[up]
		}
		if up < 0 {
			f.clear(KindItem, item.Key, "parent")
		} else {
			f.set(KindItem, item.Key, "parent", p.Items[up].Key)
		}
	}
	for _, m := range p.Milestones {
		without(f, KindMilestone, m.Key, "needs", m.Needs, func(key string) bool { return gone[key] })
	}
	for _, r := range p.Releases {
		mend(f, KindRelease, r.Key, "documents", r.Documents, func(d *Document) (changed, keep bool) {
			return clearIf(&d.Item, gone[d.Item]), true
		})
	}
	mend(f, KindProgram, "", "repeats", p.Repeats, func(r *Repeat) (changed, keep bool) {
		return clearIf(&r.Parent, gone[r.Parent]), true
	})
	for _, n := range p.Needs {
		if gone[n.Item] || gone[n.Needs] {
			f.remove(Ref{Kind: KindNeed, In: n.Item, Key: n.Needs})
		}
	}
	for _, c := range p.Comments {
		if gone[c.Item] {
			f.remove(Ref{Kind: KindComment, In: c.Item, Key: c.Key})
		}
	}
	for _, key := range keys {
		f.remove(Ref{Kind: KindItem, Key: key})
	}
	return f.changes
}

type forgetter struct{ changes []Change }

func (f *forgetter) set(kind Kind, key, field string, value any) {
	f.changes = append(f.changes, SetTo(Ref{Kind: kind, Key: key}, field, value))
}

func (f *forgetter) remove(ref Ref) { f.changes = append(f.changes, Change{Op: Remove, Ref: ref}) }

func (f *forgetter) clear(kind Kind, key, field string) { f.set(kind, key, field, nil) }

func (f *forgetter) items(p Program, field string, holds func(*Item) bool) {
	for i := range p.Items {
		if holds(&p.Items[i]) {
			f.clear(KindItem, p.Items[i].Key, field)
		}
	}
}

// without sets a field that holds a list to the list without some.
func without[T any](f *forgetter, kind Kind, key, field string, list []T, drop func(T) bool) {
	if kept := slices.DeleteFunc(slices.Clone(list), drop); len(kept) < len(list) {
		f.set(kind, key, field, kept)
	}
}

// mend sets a field that holds a list to the list with some things altered, or left
// out where keep says no. What all stay as they are is not set.
func mend[T any](f *forgetter, kind Kind, key, field string, list []T, alter func(*T) (changed, keep bool)) {
	var next []T
	any := false
	for _, x := range list {
		changed, keep := alter(&x)
		any = any || changed
		if keep {
			next = append(next, x)
		}
	}
	if any {
		f.set(kind, key, field, next)
	}
}

func clearIf(text *string, is bool) bool {
	if is {
		*text = ""
	}
	return is
}

// team drops a team from holidays, patterns and repeated items; what was for it
// alone goes.
func (f *forgetter) team(p Program, team string) {
	drop := func(teams *[]string) (changed, keep bool) {
		kept := slices.DeleteFunc(slices.Clone(*teams), func(key string) bool { return key == team })
		changed = len(kept) < len(*teams)
		*teams = kept
		return changed, !changed || len(kept) > 0
	}
	mend(f, KindProgram, "", "holidays", p.Holidays, func(h *Holiday) (changed, keep bool) { return drop(&h.Teams) })
	mend(f, KindProgram, "", "repeats", p.Repeats, func(r *Repeat) (changed, keep bool) { return drop(&r.Teams) })
	mend(f, KindProgram, "", "patterns", p.Patterns, func(x *Pattern) (changed, keep bool) {
		x.Parts = slices.Clone(x.Parts)
		for i := range x.Parts {
			changed = clearIf(&x.Parts[i].Team, x.Parts[i].Team == team) || changed
		}
		return changed, true
	})
}
