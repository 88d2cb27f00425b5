package program

import (
	"bytes"
	"encoding/json"
	"fmt"
	"reflect"
	"slices"
	"strings"
)

// Op is what a Change does.
type Op string

// The operations.
const (
	Set    Op = "set"    // gives one field of one thing a new value
	Add    Op = "add"    // puts a new thing into its list
	Remove Op = "remove" // takes a thing out of its list
	Move   Op = "move"   // gives a thing another place in its list; for items: another rank
)

// Kind is what sort of thing a Change is about.
type Kind string

// The kinds. A program itself has no key; an iteration is In a team, a comment In
// an item; a need is In the item that has it and its key is the item needed.
const (
	KindProgram   Kind = "program"
	KindCadence   Kind = "cadence"
	KindTeam      Kind = "team"
	KindIteration Kind = "iteration"
	KindPerson    Kind = "person"
	KindRelease   Kind = "release"
	KindMilestone Kind = "milestone"
	KindItem      Kind = "item"
	KindNeed      Kind = "need"
	KindComment   Kind = "comment"
)

// Ref names one thing of a program.
type Ref struct {
	Kind Kind   `json:"kind" enum:"program,cadence,team,iteration,person,release,milestone,item,need,comment"`
	In   string `json:"in,omitempty" doc:"The team of an iteration; the item of a comment; the needing item of a need"`
	Key  string `json:"key,omitempty" doc:"The thing's key; of a need, the item needed"`
}

// Change is one edit. It is the only way a Program comes to be another.
type Change struct {
	Op Op `json:"op" enum:"set,add,remove,move"`
	Ref
	Field string          `json:"field,omitempty" doc:"What set gives a value, by its name in the program document"`
	Value json.RawMessage `json:"value,omitempty" doc:"For set the new value, null to clear it; for add the whole thing"`
	At    *int            `json:"at,omitempty" doc:"For add and move: the place in the list, from 0; left out: the end"`
}

// SetTo is the Change that gives a field of a thing a value, nil to clear it. The
// value is one of the model's, so that it can be written as JSON.
func SetTo(ref Ref, field string, value any) Change {
	return Change{Op: Set, Ref: ref, Field: field, Value: encode(value)}
}

// AddOf is the Change that adds a thing at the end of its list.
func AddOf(ref Ref, thing any) Change { return Change{Op: Add, Ref: ref, Value: encode(thing)} }

func encode(value any) json.RawMessage {
	text, err := json.Marshal(value)
	if err != nil {
		panic(err) // plain structs of the model: cannot fail
	}
	return text
}

// Applied is a Change that took effect, and the Change that takes it back.
type Applied struct {
	Change  Change
	Inverse Change
}

// Apply returns p with c applied, and the inverse of c. It refuses a change that
// would leave a program that breaks a rule; p is never altered.
func Apply(p Program, c Change) (Program, Change, error) {
	next, applied, err := ApplyAll(p, []Change{c})
	if err != nil {
		return p, Change{}, err
	}
	return next, applied[0].Inverse, nil
}

// ApplyAll applies a list of changes whole or not at all. The rules are checked
// after the last, so that changes may pass through states that break one.
// The result has one Applied a change, in order; to take the list back, apply
// the inverses from last to first.
func ApplyAll(p Program, changes []Change) (Program, []Applied, error) {
	e := editor{p: p, owned: map[string]bool{}}
	applied := make([]Applied, 0, len(changes))
	for i, c := range changes {
		inverse, err := e.apply(c)
		if err != nil {
			return p, nil, fmt.Errorf("change %d, %s: %w", i+1, c.Describe(), err)
		}
		// Where it came to stand and what it came to be, so that doing it again
		// gives the same and a later reader need not guess.
		switch c.Op {
		case Add:
			c.At, c.Value = e.at, e.value
		case Move:
			c.At = e.at
		case Set:
			c.Value = e.value
		}
		applied = append(applied, Applied{c, inverse})
	}
	if problems := Validate(e.p); len(problems) > 0 {
		return p, nil, problems
	}
	return e.p, applied, nil
}

// Inverses returns the changes that take a list back, in the order to apply them.
func Inverses(applied []Applied) []Change {
	back := make([]Change, len(applied))
	for i, a := range applied {
		back[len(applied)-1-i] = a.Inverse
	}
	return back
}

// Describe names a change in a few words, for errors.
func (c Change) Describe() string {
	name := strings.TrimSpace(string(c.Kind) + " " + c.Key)
	switch {
	case c.Kind == KindNeed:
		name = "need of " + c.In + " on " + c.Key
	case c.In != "":
		name += " of " + c.In
	}
	if c.Op == Set {
		return fmt.Sprintf("set %s of %s", c.Field, name)
	}
	return fmt.Sprintf("%s %s", c.Op, name)
}

// editor holds a Program while a list of changes is applied to it. It copies a
// slice the first time it writes to it; what it was given is never altered.
type editor struct {
	p     Program
	owned map[string]bool
	items positions
	needs positions
	at    *int            // where the last add or move put its thing
	value json.RawMessage // what the last add or set wrote, as the program has it
}

func (e *editor) apply(c Change) (Change, error) {
	switch c.Kind {
	case KindProgram:
		return e.setProgram(c)
	case KindCadence:
		return edit(e, c, "cadences", &e.p.Cadences, func(x *Cadence) bool { return x.Key == c.Key })
	case KindTeam:
		return edit(e, c, "teams", &e.p.Teams, func(x *Team) bool { return x.Key == c.Key })
	case KindIteration:
		own(e, "teams", &e.p.Teams)
		t := slices.IndexFunc(e.p.Teams, func(t Team) bool { return t.Key == c.In })
		if t < 0 {
			return Change{}, fmt.Errorf("no team %q", c.In)
		}
		return edit(e, c, "iterations/"+c.In, &e.p.Teams[t].Iterations, func(x *Iteration) bool { return x.Key == c.Key })
	case KindPerson:
		return edit(e, c, "people", &e.p.People, func(x *Person) bool { return x.Key == c.Key })
	case KindRelease:
		return edit(e, c, "releases", &e.p.Releases, func(x *Release) bool { return x.Key == c.Key })
	case KindMilestone:
		return edit(e, c, "milestones", &e.p.Milestones, func(x *Milestone) bool { return x.Key == c.Key })
	case KindItem:
		return indexed(e, c, "items", &e.items, &e.p.Items, func(x *Item) string { return x.Key }, c.Key)
	case KindNeed:
		return indexed(e, c, "needs", &e.needs, &e.p.Needs, func(x *Need) string { return x.Item + "\n" + x.Needs }, c.In+"\n"+c.Key)
	case KindComment:
		return edit(e, c, "comments", &e.p.Comments, func(x *Comment) bool { return x.Key == c.Key && x.Item == c.In })
	}
	return Change{}, fmt.Errorf("no kind %q", c.Kind)
}

// positions finds things of a long list by their keys.
type positions struct {
	at      map[string]int // nil until it is needed
	shifted bool           // things have moved since: at is out of date
}

// indexed is edit for long lists, with positions looked up in an index: accepting
// a draft or an import changes thousands of items and needs.
func indexed[T any](e *editor, c Change, name string, index *positions, list *[]T, keyOf func(*T) string, key string) (Change, error) {
	own(e, name, list)
	at := -1
	switch {
	case c.Op == Remove && len(*list) > 0 && keyOf(&(*list)[len(*list)-1]) == key:
		at = len(*list) - 1 // as taking back an import removes them, from the last on
	case index.shifted && c.Op != Set || index.at == nil && (c.Op == Remove || c.Op == Move):
		// These put the index out of date again: looking through the list is cheaper.
		at = slices.IndexFunc(*list, func(x T) bool { return keyOf(&x) == key })
	case index.shifted || index.at == nil:
		*index = positions{at: make(map[string]int, len(*list))}
		for i := range *list {
			index.at[keyOf(&(*list)[i])] = i
		}
		fallthrough
	default:
		if i, found := index.at[key]; found {
			at = i
		}
	}
	inverse, err := editAt(e, c, list, at)
	if err == nil && c.Op != Set {
		if c.Op == Add && *e.at == len(*list)-1 && !index.shifted {
			index.at[key] = *e.at
		} else {
			index.shifted = true
		}
	}
	return inverse, err
}

// own makes the slice a private copy once, and forgets the old one.
func own[T any](e *editor, name string, list *[]T) {
	if !e.owned[name] {
		*list = slices.Clone(*list)
		e.owned[name] = true
	}
}

func edit[T any](e *editor, c Change, name string, list *[]T, is func(*T) bool) (Change, error) {
	own(e, name, list)
	at := -1
	for i := range *list {
		if is(&(*list)[i]) {
			at = i
			break
		}
	}
	inverse, err := editAt(e, c, list, at)
	if c.Kind == KindTeam && c.Op != Set {
		delete(e.owned, "iterations/"+c.Key)
	}
	return inverse, err
}

// editAt does c to the thing at position at of list; at is -1 where the list
// does not hold it.
func editAt[T any](e *editor, c Change, list *[]T, at int) (Change, error) {
	if c.Op == Add {
		if at >= 0 {
			return Change{}, fmt.Errorf("there is one with this key already")
		}
		thing, err := decodeThing[T](c)
		if err != nil {
			return Change{}, err
		}
		if e.value, err = json.Marshal(thing); err != nil {
			return Change{}, err
		}
		to := place(c.At, len(*list))
		*list = slices.Insert(*list, to, thing)
		e.at = &to
		return Change{Op: Remove, Ref: c.Ref}, nil
	}
	if at < 0 {
		return Change{}, fmt.Errorf("there is none with this key")
	}
	switch c.Op {
	case Set:
		before, err := e.setField(reflect.ValueOf(&(*list)[at]).Elem(), c)
		return Change{Op: Set, Ref: c.Ref, Field: c.Field, Value: before}, err
	case Remove:
		before, err := json.Marshal((*list)[at])
		*list = slices.Delete(*list, at, at+1)
		if len(*list) == 0 {
			*list = nil
		}
		return Change{Op: Add, Ref: c.Ref, Value: before, At: &at}, err
	case Move:
		thing := (*list)[at]
		to := place(c.At, len(*list)-1)
		*list = slices.Insert(slices.Delete(*list, at, at+1), to, thing)
		e.at = &to
		return Change{Op: Move, Ref: c.Ref, At: &at}, nil
	}
	return Change{}, fmt.Errorf("no operation %q", c.Op)
}

// place turns the optional place of a change into one that the list has.
func place(at *int, last int) int {
	if at == nil {
		return last
	}
	return max(0, min(*at, last))
}

// decodeThing reads the whole thing that c adds; its own key must be the one
// that c names.
func decodeThing[T any](c Change) (T, error) {
	var thing T
	decoder := json.NewDecoder(bytes.NewReader(c.Value))
	decoder.DisallowUnknownFields()
	if err := decoder.Decode(&thing); err != nil {
		return thing, fmt.Errorf("the value cannot be read: %w", err)
	}
	key, in := "", c.In
	switch x := any(&thing).(type) {
	case *Need:
		key, in = x.Needs, x.Item
	case *Comment:
		key, in = x.Key, x.Item
	default:
		key = reflect.ValueOf(x).Elem().FieldByName("Key").String()
	}
	if key != c.Key || in != c.In || key == "" {
		return thing, fmt.Errorf("the value's own key is %q", key)
	}
	return thing, nil
}

// What can be set of a program itself, and of its settings.
var (
	programFields = []string{"name", "today", "holidays", "phaseTemplates", "patterns", "repeats", "views"}
	settingFields = []string{"sameIteration", "fillTo", "holidayCalendar", "ready", "mix"}
)

// setProgram sets a field of the program itself or of its settings.
func (e *editor) setProgram(c Change) (Change, error) {
	if c.Op != Set {
		return Change{}, fmt.Errorf("a program can only be set")
	}
	var target reflect.Value
	switch {
	case slices.Contains(programFields, c.Field):
		target = reflect.ValueOf(&e.p).Elem()
	case slices.Contains(settingFields, c.Field):
		target = reflect.ValueOf(&e.p.Settings).Elem()
	default:
		return Change{}, fmt.Errorf("a program has no field %q to set", c.Field)
	}
	before, err := e.setField(target, c)
	return Change{Op: Set, Ref: c.Ref, Field: c.Field, Value: before}, err
}

// setField gives the field of thing that carries c.Field as its JSON name the
// value c.Value, and returns the value before.
func (e *editor) setField(thing reflect.Value, c Change) (json.RawMessage, error) {
	field, ok := fieldByName(thing, c.Field)
	if !ok {
		return nil, fmt.Errorf("there is no field %q to set", c.Field)
	}
	before, err := json.Marshal(field.Interface())
	if err != nil {
		return nil, err
	}
	// Decoding into a new value, never into the old one: its slices and pointers
	// are shared with Programs that others still read.
	value := reflect.New(field.Type())
	if len(c.Value) > 0 && string(c.Value) != "null" {
		decoder := json.NewDecoder(bytes.NewReader(c.Value))
		decoder.DisallowUnknownFields()
		if err := decoder.Decode(value.Interface()); err != nil {
			return nil, fmt.Errorf("the value %s does not fit: %w", c.Value, err)
		}
	}
	if value.Elem().Kind() == reflect.Slice && value.Elem().Len() == 0 {
		value.Elem().SetZero() // an empty list and none are the same
	}
	field.Set(value.Elem())
	e.value, err = json.Marshal(field.Interface())
	return before, err
}

func fieldByName(thing reflect.Value, name string) (reflect.Value, bool) {
	kind := thing.Type()
	for i := range kind.NumField() {
		json, _, _ := strings.Cut(kind.Field(i).Tag.Get("json"), ",")
		if json == name && json != "" && !identity(kind, name) {
			return thing.Field(i), true
		}
	}
	return reflect.Value{}, false
}

// identity reports whether a field cannot be set: it is what identifies a thing,
// or a list whose things have changes of their own.
func identity(kind reflect.Type, name string) bool {
	switch kind {
	case reflect.TypeFor[Need]():
		return name == "item" || name == "needs"
	case reflect.TypeFor[Comment]():
		return name != "text" // who said what when stays
	}
	return name == "key" || name == "iterations"
}
