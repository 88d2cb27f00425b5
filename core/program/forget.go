package program

import "reflect"

// Forget returns the changes that remove things and all that names them, as the
// registry says of each field: who is removed leaves their teams, items of a removed
// team lose team and place, needs of and on a removed item and what was said about it
// go, and what it grouped goes up to the next parent that stays. What depends on it is
// thereby kept valid. A team's iterations go with it.
//
// It goes once through the program, however many things are removed.
func Forget(p Program, refs ...Ref) []Change {
	f := &forgetter{p: &p, gone: make(map[Ref]bool, len(refs))}
	for _, ref := range refs {
		f.gone[ref] = true
	}
	var dropped []Change
	for _, e := range entries {
		if len(e.naming) == 0 {
			continue
		}
		e.walk(&p, func(n name, _ int, thing reflect.Value) {
			ref := Ref{e.Kind, n.in, n.key}
			if f.is(ref) {
				return
			}
			var sets []Change
			for _, s := range e.naming {
				next, changed, drop := f.mend(s, thing, thing.FieldByIndex(s.index))
				if drop {
					dropped = append(dropped, Change{Op: Remove, Ref: ref})
					return
				}
				if changed {
					sets = append(sets, SetTo(ref, s.Name, next.Interface()))
				}
			}
			f.changes = append(f.changes, sets...)
		})
	}
	f.changes = append(f.changes, dropped...)
	for _, ref := range refs {
		f.changes = append(f.changes, Change{Op: Remove, Ref: ref})
	}
	return f.changes
}

// ForgetItems is Forget for items by their keys.
func ForgetItems(p Program, keys []string) []Change {
	refs := make([]Ref, len(keys))
	for i, key := range keys {
		refs[i] = Ref{Kind: KindItem, Key: key}
	}
	return Forget(p, refs...)
}

type forgetter struct {
	p       *Program
	gone    map[Ref]bool
	parents map[string]string // of items, by key; nil until it is needed
	changes []Change
}

// is reports whether a thing goes, by itself or with what it stands in.
func (f *forgetter) is(ref Ref) bool {
	if f.gone[ref] {
		return true
	}
	e := registry[ref.Kind]
	return e.Nested && f.gone[Ref{Kind: e.In, Key: ref.In}]
}

// target is the thing that a key in a field of holder names.
func target(s *slot, holder reflect.Value, key string) Ref {
	ref := Ref{Kind: s.Names, Key: key}
	if registry[s.Names].Nested { // in what the holder stands with: an item's place is one of its team's
		ref.In = holder.FieldByName("Team").String()
	}
	return ref
}

// mend takes out of a value of a field what names things that go. drop says that the
// holder goes with them.
func (f *forgetter) mend(s *slot, holder, value reflect.Value) (next reflect.Value, changed, drop bool) {
	switch {
	case s.Names != "" && value.Kind() == reflect.String:
		if value.Len() == 0 || !f.is(target(s, holder, value.String())) {
			return value, false, false
		}
		next = reflect.New(value.Type()).Elem()
		if s.Gone == Raised {
			next.SetString(f.above(value.String()))
		}
		return next, true, s.Gone == Dropped
	case s.Names != "":
		next = reflect.New(value.Type()).Elem()
		for i := range value.Len() {
			if !f.is(target(s, holder, value.Index(i).String())) {
				next = reflect.Append(next, value.Index(i))
			}
		}
		changed = next.Len() < value.Len()
		return next, changed, changed && next.Len() == 0 && s.Gone == Narrowed
	}
	next = reflect.New(value.Type()).Elem()
	for i := range value.Len() {
		part := reflect.New(value.Type().Elem()).Elem()
		part.Set(value.Index(i))
		keep := true
		for j := range s.parts {
			if !s.parts[j].names {
				continue
			}
			at := part.FieldByIndex(s.parts[j].index)
			mended, is, gone := f.mend(&s.parts[j], part, at)
			changed = changed || is
			keep = keep && !gone
			if is {
				at.Set(mended)
			}
		}
		if keep {
			next = reflect.Append(next, part)
		}
	}
	return next, changed, false
}

// above is the nearest parent of an item that goes which stays; empty for none.
func (f *forgetter) above(key string) string {
	if f.parents == nil {
		f.parents = make(map[string]string, len(f.p.Items))
		for i := range f.p.Items {
			f.parents[f.p.Items[i].Key] = f.p.Items[i].Parent
		}
	}
	for key != "" && f.gone[Ref{Kind: KindItem, Key: key}] {
		key = f.parents[key]
	}
	return key
}
