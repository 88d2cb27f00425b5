package program

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"reflect"
	"slices"
	"strings"
)

// name identifies a thing among those of its kind.
type name struct{ in, key string }

func (r Ref) name() name { return name{r.In, r.Key} }

// lister reaches the things of one kind in a Program.
type lister interface {
	// apply does a change and returns its inverse.
	apply(e *editor, c Change) (Change, error)
	// settle puts what stands in a sequence while there are many edits back into its list.
	settle(e *editor, kind Kind)
	// walk goes through the things in order; thing points to each and must not be written to.
	walk(p *Program, do func(n name, at int, thing reflect.Value))
	// find returns one thing and its position in its list.
	find(p *Program, n name) (thing reflect.Value, at int, ok bool)
	// count is how many there are.
	count(p *Program) int
	// take puts things, read from their bodies in order, into a program that has none of the kind.
	take(p *Program, things []Thing) error
	// model is the type of a thing.
	model() reflect.Type
}

// rows is the lister of things of type T. list finds the one that a thing belongs to; nil
// where there is nothing for it to stand in.
type rows[T any] struct {
	list func(p *Program) *[]T
	name func(thing *T) name
}

func (r rows[T]) model() reflect.Type { return reflect.TypeFor[T]() }

func (r rows[T]) apply(e *editor, c Change) (Change, error) {
	if !e.many[c.Kind] {
		return applyTo(e, c, string(c.Kind), r.list(&e.p), r.name)
	}
	s, _ := e.sequences[c.Kind].(*sequence[T])
	if s == nil {
		s = newSequence(*r.list(&e.p), r.name)
		e.sequences[c.Kind] = s
	}
	return editAt(e, c, s, s.find(c.name()), r.name)
}

func (r rows[T]) settle(e *editor, kind Kind) {
	if s, ok := e.sequences[kind].(*sequence[T]); ok {
		*r.list(&e.p) = s.list()
	}
}

func (r rows[T]) walk(p *Program, do func(name, int, reflect.Value)) {
	list := *r.list(p)
	for i := range list {
		do(r.name(&list[i]), i, reflect.ValueOf(&list[i]).Elem())
	}
}

func (r rows[T]) find(p *Program, n name) (reflect.Value, int, bool) {
	return findIn(*r.list(p), n, r.name)
}

func findIn[T any](list []T, n name, nameOf func(*T) name) (reflect.Value, int, bool) {
	for i := range list {
		if nameOf(&list[i]) == n {
			return reflect.ValueOf(&list[i]).Elem(), i, true
		}
	}
	return reflect.Value{}, -1, false
}

func (r rows[T]) count(p *Program) int { return len(*r.list(p)) }

func (r rows[T]) take(p *Program, things []Thing) error {
	list := make([]T, len(things))
	for i, t := range things {
		if err := decode(t.Body, &list[i]); err != nil {
			return fmt.Errorf("%s %s: %w", t.Kind, t.Key, err)
		}
	}
	*r.list(p) = list
	return nil
}

// ofTeams is the lister of iterations: each team has a list of its own.
type ofTeams struct{}

func (ofTeams) model() reflect.Type { return reflect.TypeFor[Iteration]() }

func (ofTeams) apply(e *editor, c Change) (Change, error) {
	teams := own(e, string(KindTeam), &e.p.Teams)
	t := teams.find(len(e.p.Teams), func(i int) name { return name{key: e.p.Teams[i].Key} }, Change{Op: Set, Ref: Ref{Key: c.In}})
	if t < 0 {
		return Change{}, fmt.Errorf("no team %q", c.In)
	}
	return applyTo(e, c, string(KindTeam)+"/"+c.In, &e.p.Teams[t].Iterations, func(it *Iteration) name { return name{c.In, it.Key} })
}

func (ofTeams) settle(*editor, Kind) {}

func (ofTeams) walk(p *Program, do func(name, int, reflect.Value)) {
	for t := range p.Teams {
		list := p.Teams[t].Iterations
		for i := range list {
			do(name{p.Teams[t].Key, list[i].Key}, i, reflect.ValueOf(&list[i]).Elem())
		}
	}
}

func (ofTeams) find(p *Program, n name) (reflect.Value, int, bool) {
	for t := range p.Teams {
		if p.Teams[t].Key == n.in {
			return findIn(p.Teams[t].Iterations, n, func(it *Iteration) name { return name{n.in, it.Key} })
		}
	}
	return reflect.Value{}, -1, false
}

func (ofTeams) count(p *Program) int {
	n := 0
	for t := range p.Teams {
		n += len(p.Teams[t].Iterations)
	}
	return n
}

func (ofTeams) take(p *Program, things []Thing) error {
	index := p.TeamIndex()
	for _, thing := range things {
		t, ok := index[thing.In]
		if !ok {
			return fmt.Errorf("iteration %s is of a team %q that there is not", thing.Key, thing.In)
		}
		var it Iteration
		if err := decode(thing.Body, &it); err != nil {
			return fmt.Errorf("iteration %s of %s: %w", thing.Key, thing.In, err)
		}
		p.Teams[t].Iterations = append(p.Teams[t].Iterations, it)
	}
	return nil
}

// itself is the lister of the one thing that a program is: what it holds beside its
// lists of things.
type itself struct{}

func (itself) model() reflect.Type { return reflect.TypeFor[Program]() }

func (itself) apply(e *editor, c Change) (Change, error) {
	if c.Op != Set {
		return Change{}, errors.New("a program can only be set")
	}
	return e.setField(reflect.ValueOf(&e.p).Elem(), c)
}

func (itself) settle(*editor, Kind) {}

func (itself) walk(p *Program, do func(name, int, reflect.Value)) {
	do(name{}, 0, reflect.ValueOf(p).Elem())
}

func (itself) find(p *Program, _ name) (reflect.Value, int, bool) {
	return reflect.ValueOf(p).Elem(), 0, true
}

func (itself) count(*Program) int { return 1 }

func (itself) take(p *Program, things []Thing) error {
	if len(things) == 0 {
		return nil
	}
	return decode(things[0].Body, p)
}

// body is what is stored of a thing: all but the things that are stored by themselves.
func body(kind Kind, thing reflect.Value) (json.RawMessage, error) {
	switch kind {
	case KindProgram:
		p := thing.Interface().(Program)
		p.Cadences, p.Teams, p.People, p.Releases, p.Milestones, p.Items, p.Needs, p.Comments, p.TimeEntries, p.Risks, p.Promises, p.Snoozes = nil, nil, nil, nil, nil, nil, nil, nil, nil, nil, nil, nil
		return json.Marshal(p)
	case KindTeam:
		t := thing.Interface().(Team)
		t.Iterations = nil
		return json.Marshal(t)
	}
	return json.Marshal(thing.Interface())
}

func decode(text json.RawMessage, into any) error {
	decoder := json.NewDecoder(bytes.NewReader(text))
	decoder.DisallowUnknownFields()
	return decoder.Decode(into)
}

// editor holds a Program while a list of changes is applied to it. It copies a
// slice the first time it writes to it; what it was given is never altered.
type editor struct {
	p     Program
	owned map[string]*positions // the lists that are private copies already
	at    *int                  // where the last add or move put its thing
	value json.RawMessage       // what the last add or set wrote, as the program has it

	many      map[Kind]bool // the kinds of which many things are put in, taken out or moved
	sequences map[Kind]any  // their lists meanwhile, each a *sequence of their type
}

// bulk is how many changes of the order of a list make a sequence of it worth while.
const bulk = 100

// newEditor makes an editor for changes. Teams keep their list: iterations stand in it.
func newEditor(p Program, changes []Change) editor {
	e := editor{p: p, owned: map[string]*positions{}, many: map[Kind]bool{}, sequences: map[Kind]any{}}
	count := map[Kind]int{}
	for i := range changes {
		if c := &changes[i]; c.Op != Set && c.Kind != KindTeam {
			count[c.Kind]++
			e.many[c.Kind] = count[c.Kind] > bulk
		}
	}
	return e
}

// done returns the program as it was edited.
func (e *editor) done() Program {
	for kind := range e.sequences {
		registry[kind].settle(e, kind)
	}
	return e.p
}

// positions finds things of a list by their names, so that thousands of changes
// find theirs.
type positions struct {
	at      map[name]int // nil until it is needed
	shifted bool         // things have moved since: at is out of date
	looked  int          // how often it was looked through before there was an index
}

// patience is how often a list is looked through before an index of it pays.
const patience = 4

// own makes a list a private copy once.
func own[T any](e *editor, which string, list *[]T) *positions {
	known := e.owned[which]
	if known == nil {
		known = &positions{}
		*list = slices.Clone(*list)
		e.owned[which] = known
	}
	return known
}

// find returns the position of the thing that c is about among n, of which nameAt
// tells the names; -1 where there is none.
func (x *positions) find(n int, nameAt func(int) name, c Change) int {
	wanted := c.name()
	switch {
	case c.Op == Remove && n > 0 && nameAt(n-1) == wanted:
		return n - 1 // as taking back an import removes them, from the last on
	case x.shifted && c.Op != Set || x.at == nil && (c.Op == Remove || c.Op == Move || x.looked < patience):
		// Removing and moving put the index out of date again: looking through is cheaper.
		x.looked++
		for i := range n {
			if nameAt(i) == wanted {
				return i
			}
		}
		return -1
	case x.shifted || x.at == nil:
		*x = positions{at: make(map[name]int, n), looked: patience}
		for i := range n {
			x.at[nameAt(i)] = i
		}
	}
	if i, found := x.at[wanted]; found {
		return i
	}
	return -1
}

// applyTo does c in one list, which is owned first.
func applyTo[T any](e *editor, c Change, which string, list *[]T, nameOf func(*T) name) (Change, error) {
	known := own(e, which, list)
	at := known.find(len(*list), func(i int) name { return nameOf(&(*list)[i]) }, c)
	inverse, err := editAt(e, c, plain[T]{list}, at, nameOf)
	if err != nil || c.Op == Set {
		return inverse, err
	}
	switch appended := c.Op == Add && *e.at == len(*list)-1 && !known.shifted; {
	case appended && known.at != nil:
		known.at[c.name()] = *e.at
	case !appended:
		known.shifted = true
	}
	if c.Kind == KindTeam {
		delete(e.owned, string(KindTeam)+"/"+c.Key) // another team's list, or none
	}
	return inverse, nil
}

// plain is a list for few edits: what it is.
type plain[T any] struct{ list *[]T }

func (p plain[T]) len() int { return len(*p.list) }

func (p plain[T]) at(i int) *T           { return &(*p.list)[i] }
func (p plain[T]) insert(i int, thing T) { *p.list = slices.Insert(*p.list, i, thing) }

func (p plain[T]) remove(i int) {
	if *p.list = slices.Delete(*p.list, i, i+1); len(*p.list) == 0 {
		*p.list = nil
	}
}

// editAt does c to the thing at position at of list; at is -1 where the list
// does not hold it.
func editAt[T any](e *editor, c Change, list things[T], at int, nameOf func(*T) name) (Change, error) {
	if c.Op == Add {
		if at >= 0 {
			return Change{}, errors.New("there is one with this key already")
		}
		var thing T
		if err := decode(c.Value, &thing); err != nil {
			return Change{}, fmt.Errorf("the value cannot be read: %w", err)
		}
		if n := nameOf(&thing); n != c.name() || n.key == "" {
			return Change{}, fmt.Errorf("the value's own key is %q", n.key)
		}
		var err error
		if e.value, err = json.Marshal(thing); err != nil {
			return Change{}, err
		}
		to := placeIn(c.At, list.len())
		list.insert(to, thing)
		e.at = &to
		return Change{Op: Remove, Ref: c.Ref}, nil
	}
	if at < 0 {
		return Change{}, errors.New("there is none with this key")
	}
	switch c.Op {
	case Set:
		return e.setField(reflect.ValueOf(list.at(at)).Elem(), c)
	case Remove:
		before, err := json.Marshal(*list.at(at))
		list.remove(at)
		return Change{Op: Add, Ref: c.Ref, Value: before, At: &at}, err
	case Move:
		thing := *list.at(at)
		list.remove(at)
		to := placeIn(c.At, list.len())
		list.insert(to, thing)
		e.at = &to
		return Change{Op: Move, Ref: c.Ref, At: &at}, nil
	}
	return Change{}, fmt.Errorf("no operation %q", c.Op)
}

// placeIn turns the optional place of a change into one that the list has.
func placeIn(at *int, last int) int {
	if at == nil {
		return last
	}
	return max(0, min(*at, last))
}

// setField gives a field of thing a value, and returns the change that gives it the
// one before.
func (e *editor) setField(thing reflect.Value, c Change) (Change, error) {
	field := slotOf(c.Kind, c.Field)
	if field == nil {
		return Change{}, fmt.Errorf("there is no field %q to set", c.Field)
	}
	slot := thing.FieldByIndex(field.index)
	before, err := json.Marshal(slot.Interface())
	if err != nil {
		return Change{}, err
	}
	value, err := field.read(c.Value)
	if err != nil {
		return Change{}, err
	}
	slot.Set(value)
	e.value, err = json.Marshal(slot.Interface())
	return Change{Op: Set, Ref: c.Ref, Field: c.Field, Value: before}, err
}

// read makes a value of the field out of JSON; nothing and null clear it. It is read
// into a new value, never into the old one: its slices and pointers are shared with
// Programs that others still read.
func (s *slot) read(text json.RawMessage) (reflect.Value, error) {
	value := reflect.New(s.kind)
	if len(text) > 0 && string(text) != "null" {
		if err := decode(text, value.Interface()); err != nil {
			return value, fmt.Errorf("the value %s does not fit: %w", text, err)
		}
	}
	if value.Elem().Kind() == reflect.Slice && value.Elem().Len() == 0 {
		value.Elem().SetZero() // an empty list and none are the same
	}
	return value.Elem(), nil
}

// jsonName is what a field of a struct is called in a document; empty for none.
func jsonName(f reflect.StructField) string {
	name, _, _ := strings.Cut(f.Tag.Get("json"), ",")
	return name
}
