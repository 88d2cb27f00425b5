package program

import (
	"bytes"
	"cmp"
	"encoding/json"
	"fmt"
	"reflect"
	"slices"
	"strings"
	"sync"
)

// slot is a field of the registry, and where the model has it.
type slot struct {
	*Field
	index []int // in the struct of its thing, or of its part
	kind  reflect.Type
	parts []slot // of Parts
	names bool   // it or a part of it names a thing
	picks bool   // it or a part of it is one of known values
	empty bool   // it may have none
}

// entry is a kind of the registry with how its things are reached.
type entry struct {
	*KindInfo
	lister
	slots  map[string]*slot // fields that can be set, by name
	naming []*slot          // fields that name things, in registry order
	picky  []*slot          // fields with known values
}

// listers is where a Program has the things of each kind.
var listers = map[Kind]lister{
	KindProgram:   itself{},
	KindCadence:   rows[Cadence]{func(p *Program) *[]Cadence { return &p.Cadences }, func(x *Cadence) name { return name{key: x.Key} }},
	KindPerson:    rows[Person]{func(p *Program) *[]Person { return &p.People }, func(x *Person) name { return name{key: x.Key} }},
	KindTeam:      rows[Team]{func(p *Program) *[]Team { return &p.Teams }, func(x *Team) name { return name{key: x.Key} }},
	KindIteration: ofTeams{},
	KindRelease:   rows[Release]{func(p *Program) *[]Release { return &p.Releases }, func(x *Release) name { return name{key: x.Key} }},
	KindMilestone: rows[Milestone]{func(p *Program) *[]Milestone { return &p.Milestones }, func(x *Milestone) name { return name{key: x.Key} }},
	KindItem:      rows[Item]{func(p *Program) *[]Item { return &p.Items }, func(x *Item) name { return name{key: x.Key} }},
	KindNeed:      rows[Need]{func(p *Program) *[]Need { return &p.Needs }, func(x *Need) name { return name{x.Item, x.Needs} }},
	KindComment:   rows[Comment]{func(p *Program) *[]Comment { return &p.Comments }, func(x *Comment) name { return name{x.Item, x.Key} }},
	KindRisk:      rows[Risk]{func(p *Program) *[]Risk { return &p.Risks }, func(x *Risk) name { return name{key: x.Key} }},
	KindPromise:   rows[Promise]{func(p *Program) *[]Promise { return &p.Promises }, func(x *Promise) name { return name{key: x.Key} }},
	KindSnooze:    rows[Snooze]{func(p *Program) *[]Snooze { return &p.Snoozes }, func(x *Snooze) name { return name{key: x.Key} }},
	KindTimeEntry: rows[TimeEntry]{func(p *Program) *[]TimeEntry { return &p.TimeEntries }, func(x *TimeEntry) name { return name{key: x.Key} }},
}

var registry, entries = resolve()

// resolve finds the fields of the registry in the model. What does not fit is a
// mistake in the two tables, and stops the program before it begins.
func resolve() (map[Kind]*entry, []*entry) {
	byKind, list := map[Kind]*entry{}, []*entry{}
	for i := range Kinds {
		info := &Kinds[i]
		e := &entry{info, listers[info.Kind], map[string]*slot{}, nil, nil}
		for j := range info.Fields {
			s := resolveField(e.model(), &info.Fields[j])
			if !s.Fixed {
				e.slots[s.Name] = &s
			}
			if s.names {
				e.naming = append(e.naming, &s)
			}
			if s.picks {
				e.picky = append(e.picky, &s)
			}
		}
		byKind[info.Kind] = e
		list = append(list, e)
	}
	return byKind, list
}

func resolveField(model reflect.Type, f *Field) slot {
	s := slot{Field: f, names: f.Names != "", picks: len(f.Values) > 0}
	field, ok := fieldOf(model, f.Name)
	if !ok {
		panic(fmt.Sprintf("the registry has a field %s that %s has not", f.Name, model))
	}
	s.index, s.kind = field.Index, field.Type
	s.empty = strings.Contains(field.Tag.Get("json"), ",omit")
	for i := range f.Parts {
		part := resolveField(field.Type.Elem(), &f.Parts[i])
		s.parts = append(s.parts, part)
		s.names, s.picks = s.names || part.names, s.picks || part.picks
	}
	return s
}

// fieldOf finds a field by its name in documents; those of a program's settings too.
func fieldOf(model reflect.Type, name string) (reflect.StructField, bool) {
	for i := range model.NumField() {
		f := model.Field(i)
		if jsonName(f) == name {
			return f, true
		}
		if f.Type == reflect.TypeFor[Settings]() {
			if inner, ok := fieldOf(f.Type, name); ok {
				inner.Index = append(slices.Clone(f.Index), inner.Index...)
				return inner, true
			}
		}
	}
	return reflect.StructField{}, false
}

func slotOf(kind Kind, field string) *slot {
	if e := registry[kind]; e != nil {
		return e.slots[field]
	}
	return nil
}

// InfoOf returns what the registry holds of a kind, and whether there is such a kind.
func InfoOf(kind Kind) (*KindInfo, bool) {
	e := registry[kind]
	if e == nil {
		return nil, false
	}
	return e.KindInfo, true
}

// FieldOf returns a field of a kind, and whether there is one of that name.
func FieldOf(kind Kind, name string) (*Field, bool) {
	if e := registry[kind]; e != nil {
		for i := range e.Fields {
			if e.Fields[i].Name == name {
				return &e.Fields[i], true
			}
		}
	}
	return nil, false
}

// ValueOf returns a function that gives a field of a thing, to which it takes a pointer.
// It panics where the kind has no such field: the names are those of the registry.
func ValueOf(kind Kind, field string) func(thing any) reflect.Value {
	e := registry[kind]
	at, ok := fieldOf(e.model(), field)
	if !ok {
		panic(fmt.Sprintf("%s has no field %s", kind, field))
	}
	index := at.Index
	return func(thing any) reflect.Value { return reflect.ValueOf(thing).Elem().FieldByIndex(index) }
}

// Has reports whether p has a thing.
func (p Program) Has(ref Ref) bool {
	e := registry[ref.Kind]
	if e == nil {
		return false
	}
	_, _, ok := e.find(&p, ref.name())
	return ok
}

// SameValue reports whether two values of a field mean the same: null, nothing and
// an empty text or list all clear it, and numbers may be written in several ways.
func SameValue(kind Kind, field string, a, b json.RawMessage) bool {
	if bytes.Equal(a, b) {
		return true
	}
	s := slotOf(kind, field)
	if s == nil {
		return false
	}
	x, errX := s.read(a)
	y, errY := s.read(b)
	return errX == nil && errY == nil && reflect.DeepEqual(x.Interface(), y.Interface())
}

// Thing is a thing of a program as it is stored, with its place in its list.
type Thing struct {
	Ref
	At   int
	Body json.RawMessage
}

// Things returns the things of p that are wanted, in registry order and in the order
// of their lists.
func (p Program) Things(want func(Ref) bool) ([]Thing, error) {
	var things []Thing
	var failed error
	for _, e := range entries {
		e.walk(&p, func(n name, at int, thing reflect.Value) {
			ref := Ref{e.Kind, n.in, n.key}
			if failed != nil || !want(ref) {
				return
			}
			text, err := body(e.Kind, thing)
			if err != nil {
				failed = fmt.Errorf("%s %s: %w", ref.Kind, ref.Key, err)
			}
			things = append(things, Thing{ref, at, text})
		})
	}
	return things, failed
}

// FromThings builds the program that holds these things, which stand in the order of
// their lists. It is the inverse of Things.
func FromThings(things []Thing) (Program, error) {
	var p Program
	byKind := map[Kind][]Thing{}
	for _, t := range things {
		byKind[t.Kind] = append(byKind[t.Kind], t)
	}
	// Lists that stand in the program itself are read side by side, each into a place of its own; those that stand in
	// things of another list come after these.
	failed := make([]error, len(entries))
	var reading sync.WaitGroup
	for i, e := range entries {
		if list := byKind[e.Kind]; len(list) > 0 && !e.Nested {
			reading.Go(func() { failed[i] = e.take(&p, list) })
		}
	}
	reading.Wait()
	for i, e := range entries {
		if list := byKind[e.Kind]; len(list) > 0 && e.Nested {
			failed[i] = e.take(&p, list)
		}
	}
	return p, cmp.Or(failed...)
}

// Order returns the refs of a list in order: all things of a kind, or those within one
// where each has a list of its own.
func (p Program) Order(list Ref) []Ref {
	var refs []Ref
	e := registry[list.Kind]
	if e == nil {
		return nil
	}
	e.walk(&p, func(n name, _ int, _ reflect.Value) {
		if !e.Nested || n.in == list.In {
			refs = append(refs, Ref{list.Kind, n.in, n.key})
		}
	})
	return refs
}

// ListOf names the list that a thing stands in.
func ListOf(ref Ref) Ref {
	if e := registry[ref.Kind]; e != nil && e.Nested {
		return Ref{Kind: ref.Kind, In: ref.In}
	}
	return Ref{Kind: ref.Kind}
}

// SettingNames are the fields of a program that stand in its settings.
func SettingNames() (names []string) {
	e := registry[KindProgram]
	for i := range e.Fields {
		if s := e.slots[e.Fields[i].Name]; s != nil && len(s.index) > 1 {
			names = append(names, s.Name)
		}
	}
	return names
}
