package program

import (
	"encoding/json"
	"reflect"
	"slices"
)

// Between returns the changes that lead from one program to another: what is removed, what is
// added and moved to its place, and each field that has another value. They are few: of what
// both have in another order, as much as can be stays where it is. Applied to from they give
// to; they are empty where both are the same.
//
// It takes time O(n log n) for n things.
func Between(from, to Program) []Change {
	var d difference
	for _, e := range entries {
		d.ofKind(e, &from, &to)
	}
	slices.Reverse(d.removed) // from the last on, and what stands in a thing before it
	return slices.Concat(d.removed, d.placed, d.sets)
}

// Sets are the fields of one thing by which two programs that both have it differ, of those that can be set.
func Sets(from, to Program, ref Ref) []Change {
	e := registry[ref.Kind]
	if e == nil {
		return nil
	}
	a, _, inFrom := e.find(&from, ref.name())
	b, _, inTo := e.find(&to, ref.name())
	if !inFrom || !inTo {
		return nil
	}
	sets, _ := e.sets(ref.name(), a, b)
	return sets
}

// Written is a thing as a change adds it: with what it holds; nothing where there is none.
func (p Program) Written(ref Ref) json.RawMessage {
	e := registry[ref.Kind]
	if e == nil {
		return nil
	}
	thing, _, ok := e.find(&p, ref.name())
	if !ok {
		return nil
	}
	return encode(thing.Interface())
}

// FieldIn is the value of a field of a thing of p, as JSON; nothing where there is none.
func FieldIn(p Program, ref Ref, field string) json.RawMessage {
	s := slotOf(ref.Kind, field)
	if s == nil {
		return nil
	}
	thing, _, ok := registry[ref.Kind].find(&p, ref.name())
	if !ok {
		return nil
	}
	return encode(thing.FieldByIndex(s.index).Interface())
}

// Refs are all things of a program.
func (p Program) Refs() map[Ref]bool {
	refs := map[Ref]bool{}
	for _, e := range entries {
		e.walk(&p, func(n name, _ int, _ reflect.Value) { refs[Ref{e.Kind, n.in, n.key}] = true })
	}
	return refs
}

// difference gathers the changes in the order in which they can be made.
type difference struct{ removed, placed, sets []Change }

// held are the things of one list, in order.
type held struct {
	names  []name
	things map[name]reflect.Value
}

func (h *held) take(n name, thing reflect.Value) {
	h.names = append(h.names, n)
	h.things[n] = thing
}

// lists are the lists of a kind, each by what its things stand in, where each has one of its own.
func lists(e *entry, p *Program) (byOwner map[string]*held, order []string) {
	byOwner = map[string]*held{}
	e.walk(p, func(n name, _ int, thing reflect.Value) {
		owner := ""
		if e.Nested {
			owner = n.in
		}
		list := byOwner[owner]
		if list == nil {
			list = &held{things: make(map[name]reflect.Value, e.count(p))}
			byOwner[owner] = list
			order = append(order, owner)
		}
		list.take(n, thing)
	})
	return byOwner, order
}

func (d *difference) ofKind(e *entry, from, to *Program) {
	before, owners := lists(e, from)
	after, more := lists(e, to)
	for _, owner := range more {
		if before[owner] == nil {
			owners = append(owners, owner)
		}
	}
	none := &held{}
	for _, owner := range owners {
		a, b := before[owner], after[owner]
		if e.Nested { // what a thing holds comes and goes with it
			holder := Ref{Kind: e.In, Key: owner}
			if !from.Has(holder) || !to.Has(holder) {
				continue
			}
		}
		if a == nil {
			a = none
		}
		if b == nil {
			b = none
		}
		d.ofList(e, a, b)
	}
}

func (d *difference) ofList(e *entry, a, b *held) {
	anew := map[name]bool{}
	for _, n := range a.names {
		other, stays := b.things[n]
		if stays {
			sets, same := e.sets(n, a.things[n], other)
			if same {
				d.sets = append(d.sets, sets...)
			}
			anew[n] = !same
		}
		if !stays || anew[n] {
			d.removed = append(d.removed, Change{Op: Remove, Ref: Ref{e.Kind, n.in, n.key}})
		}
	}
	d.place(e, a, b, anew)
}

// sets are the fields of a thing that have another value in other; false where one differs that is
// never set, so that it is another thing.
func (e *entry) sets(n name, thing, other reflect.Value) ([]Change, bool) {
	plain := e.Kind != KindProgram && e.Kind != KindTeam // else with lists of other things
	if plain && reflect.DeepEqual(thing.Addr().Interface(), other.Addr().Interface()) {
		return nil, true
	}
	var sets []Change
	same := true
	for i := range e.Fields {
		f := &e.Fields[i]
		at, _ := fieldOf(e.model(), f.Name)
		was, is := thing.FieldByIndex(at.Index).Interface(), other.FieldByIndex(at.Index).Interface()
		switch {
		case reflect.DeepEqual(was, is):
		case f.Fixed:
			same = false
		default:
			sets = append(sets, SetTo(Ref{e.Kind, n.in, n.key}, f.Name, is))
		}
	}
	return sets, same
}

// place adds what is new and moves what stands in another order, from the first place to the
// last: what has been placed is then as it will be.
func (d *difference) place(e *entry, a, b *held, anew map[name]bool) {
	stays := func(n name) bool { _, was := a.things[n]; return was && !anew[n] }
	at := make(map[name]int, len(b.names)) // where they come to stand
	for i, n := range b.names {
		at[n] = i
	}
	var common []name // in the order of a
	for _, n := range a.names {
		if _, is := at[n]; is && stays(n) {
			common = append(common, n)
		}
	}
	still := rising(common, at)
	next, place := 0, 0 // the next of common; where the next of b comes to stand
	passed := map[name]bool{}
	for _, n := range b.names {
		ref := Ref{e.Kind, n.in, n.key}
		switch {
		case !stays(n):
			c := AddOf(ref, b.things[n].Interface())
			c.At = new(place)
			d.placed = append(d.placed, c)
			place++
		case still[n]:
			for ; common[next] != n; next++ { // those that move away later, or are moved already
				if _, moved := passed[common[next]]; !moved {
					passed[common[next]] = true
					place++
				}
			}
			next++
			place++
		default:
			to := place
			if passed[n] { // it stood before
				to--
			} else {
				passed[n] = false
				place++
			}
			d.placed = append(d.placed, Change{Op: Move, Ref: ref, At: &to})
		}
	}
}

// rising are as many of names as can be in which at rises from each to the next: the longest
// increasing subsequence, by patience sorting.
func rising(names []name, at map[name]int) map[name]bool {
	ends := []int{} // of the rows that rise, one for each length: who ends it lowest
	before := make([]int, len(names))
	for i, n := range names {
		row, _ := slices.BinarySearchFunc(ends, at[n], func(end, value int) int { return at[names[end]] - value })
		if before[i] = -1; row > 0 {
			before[i] = ends[row-1]
		}
		if row == len(ends) {
			ends = append(ends, i)
		} else {
			ends[row] = i
		}
	}
	still := make(map[name]bool, len(ends))
	if len(ends) > 0 {
		for i := ends[len(ends)-1]; i >= 0; i = before[i] {
			still[names[i]] = true
		}
	}
	return still
}
