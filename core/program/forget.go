package program

import "slices"

// Forget returns the changes that remove a thing and all that refers to it: who
// was removed from their teams, items of a removed team lose team and place, those
// of a removed release their release. What depends on it is thereby kept valid.
func Forget(p Program, ref Ref) []Change {
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

type forgetter struct{ changes []Change }

func (f *forgetter) set(kind Kind, key, field string, value any) {
	f.changes = append(f.changes, SetTo(Ref{Kind: kind, Key: key}, field, value))
}

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
