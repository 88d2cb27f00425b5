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
		f.holidays(p, ref.Key)
		f.templates(p, ref.Key)
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
		documents, changed := slices.Clone(r.Documents), false
		for i := range documents {
			if gone[documents[i].Item] {
				documents[i].Item, changed = "", true
			}
		}
		if changed {
			f.set(KindRelease, r.Key, "documents", documents)
		}
	}
	repeats, changed := slices.Clone(p.Repeats), false
	for i := range repeats {
		if gone[repeats[i].Parent] {
			repeats[i].Parent, changed = "", true
		}
	}
	if changed {
		f.set(KindProgram, "", "repeats", repeats)
	}
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

// holidays drops a team from holidays; one that was for it alone goes.
func (f *forgetter) holidays(p Program, team string) {
	var kept []Holiday
	changed := false
	for _, h := range p.Holidays {
		teams := slices.DeleteFunc(slices.Clone(h.Teams), func(key string) bool { return key == team })
		if len(teams) < len(h.Teams) {
			changed = true
			if len(teams) == 0 {
				continue
			}
			h.Teams = teams
		}
		kept = append(kept, h)
	}
	if changed {
		f.set(KindProgram, "", "holidays", kept)
	}
}

// templates drops a team from patterns and repeated items; one that was repeated
// for it alone goes.
func (f *forgetter) templates(p Program, team string) {
	patterns, changed := slices.Clone(p.Patterns), false
	for i := range patterns {
		patterns[i].Parts = slices.Clone(patterns[i].Parts)
		for j := range patterns[i].Parts {
			if part := &patterns[i].Parts[j]; part.Team == team {
				part.Team, changed = "", true
			}
		}
	}
	if changed {
		f.set(KindProgram, "", "patterns", patterns)
	}
	var repeats []Repeat
	changed = false
	for _, r := range p.Repeats {
		teams := slices.DeleteFunc(slices.Clone(r.Teams), func(key string) bool { return key == team })
		if len(teams) < len(r.Teams) {
			changed = true
			if len(teams) == 0 {
				continue
			}
			r.Teams = teams
		}
		repeats = append(repeats, r)
	}
	if changed {
		f.set(KindProgram, "", "repeats", repeats)
	}
}
