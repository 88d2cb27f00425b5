package gate

import (
	"encoding/json"
	"fmt"
	"reflect"
	"strings"

	"jantrel/core/program"
)

// Edit is what somebody did: a list of changes with their inverses, which say what was
// there before.
type Edit struct {
	By      string
	Changes []program.Applied
}

// Conflict is one place at which two edits of the same base mean different things.
type Conflict struct {
	Ref    program.Ref     `json:"ref"`
	Field  string          `json:"field,omitempty"` // empty: the thing itself, its being there or its place
	Base   json.RawMessage `json:"base,omitempty"`  // what both began with
	Yours  json.RawMessage `json:"yours,omitempty"`
	Theirs json.RawMessage `json:"theirs,omitempty"` // as they left it
	By     string          `json:"by"`
	Sort   Sort            `json:"sort"`
}

// Sort says in what way two edits do not go together.
type Sort string

// The sorts of conflict.
const (
	BothSet     Sort = "both set"     // one field, two values
	TheyRemoved Sort = "they removed" // what you change is gone
	YouRemove   Sort = "you remove"   // what they changed
	BothAdded   Sort = "both added"   // two things with one key
	BothMoved   Sort = "both moved"   // to two places
)

func (c *Conflict) Error() string {
	name := c.Ref.Describe()
	if c.Ref.Kind == program.KindItem {
		name = c.Ref.Key
	}
	switch c.Sort {
	case TheyRemoved:
		return fmt.Sprintf("%s removed %s meanwhile", c.By, name)
	case YouRemove:
		return fmt.Sprintf("%s changed %s meanwhile, which you remove", c.By, name)
	case BothAdded:
		return fmt.Sprintf("%s added another %s meanwhile", c.By, name)
	case BothMoved:
		return fmt.Sprintf("%s moved %s meanwhile, to another place", c.By, name)
	}
	title := c.Field
	if f, ok := program.FieldOf(c.Ref.Kind, c.Field); ok {
		title = f.Title
	}
	return fmt.Sprintf("%s changed the %s of %s meanwhile to %s; yours is %s", c.By, strings.ToLower(title), name, inWords(c.Theirs), inWords(c.Yours))
}

func inWords(value json.RawMessage) string {
	switch string(value) {
	case "", "null", `""`, "[]":
		return "nothing"
	}
	return string(value)
}

// Conflicts compares what somebody else did with what is about to be done, both on the
// same base, and returns where the two mean different things, in the order of mine:
//   - a field that both set to different values, unless they left it as it was;
//   - a thing that they removed and mine changes, moves or has something in;
//   - a thing that mine removes and they changed, or put something into;
//   - a thing that both added under one key, with different values;
//   - a thing that both moved, to different places.
//
// The base itself is not needed: the inverses of their changes say what was there. It is
// linear in the number of changes.
func Conflicts(theirs []Edit, mine []program.Change) []Conflict {
	t := gather(theirs)
	var found []Conflict
	added, last, goes := map[program.Ref]bool{}, map[field]int{}, map[program.Ref]int{}
	for i, c := range mine {
		last[field{c.Ref, c.Field}] = i
		if c.Op == program.Remove {
			goes[c.Ref] = i
		}
	}
	for i, c := range mine {
		// A thing of mine is mine to change, of several values the last counts, and of
		// what goes only that it does.
		if added[c.Ref] || c.Op == program.Set && last[field{c.Ref, c.Field}] != i || goes[c.Ref] > i {
			continue
		}
		added[c.Ref] = c.Op == program.Add
		if conflict, ok := t.against(c); ok {
			found = append(found, conflict)
		}
	}
	return found
}

type field struct {
	program.Ref
	name string
}

// value is what became of a field or a thing.
type value struct {
	base, now json.RawMessage
	by        string
}

// doings are what others did in all, thing by thing.
type doings struct {
	set     map[field]*value
	fields  map[program.Ref][]field // of a thing, those that were set
	added   map[program.Ref]*value  // there was none before, there is one now
	removed map[program.Ref]string  // there was one before, there is none now; by whom
	replace map[program.Ref]*value  // removed and added anew
	moved   map[program.Ref]*move
	inside  map[program.Ref]string // things in which something was added or changed; by whom
}

type move struct {
	at int // where it came to stand
	by string
}

func gather(edits []Edit) *doings {
	t := &doings{map[field]*value{}, map[program.Ref][]field{}, map[program.Ref]*value{}, map[program.Ref]string{}, map[program.Ref]*value{}, map[program.Ref]*move{}, map[program.Ref]string{}}
	for _, e := range edits {
		for _, a := range e.Changes {
			t.take(e.By, a)
		}
	}
	return t
}

func (t *doings) take(by string, a program.Applied) {
	c := a.Change
	if owner, ok := ownerOf(c.Ref); ok && c.Op != program.Remove {
		t.inside[owner] = by
	}
	switch c.Op {
	case program.Set:
		key := field{c.Ref, c.Field}
		if v := t.set[key]; v != nil {
			v.now, v.by = c.Value, by
			return
		}
		t.set[key] = &value{a.Inverse.Value, c.Value, by}
		t.fields[c.Ref] = append(t.fields[c.Ref], key)
	case program.Add:
		if _, gone := t.removed[c.Ref]; gone {
			delete(t.removed, c.Ref)
			t.replace[c.Ref] = &value{nil, c.Value, by}
			return
		}
		t.added[c.Ref] = &value{nil, c.Value, by}
	case program.Remove:
		for _, key := range t.fields[c.Ref] {
			delete(t.set, key)
		}
		delete(t.fields, c.Ref)
		delete(t.moved, c.Ref)
		delete(t.replace, c.Ref)
		if t.added[c.Ref] != nil {
			delete(t.added, c.Ref)
			return
		}
		t.removed[c.Ref] = by
	case program.Move:
		if c.At != nil {
			t.moved[c.Ref] = &move{*c.At, by}
		}
	}
}

// ownerOf is the thing that one stands in, if its kind stands in another.
func ownerOf(ref program.Ref) (program.Ref, bool) {
	info, ok := program.InfoOf(ref.Kind)
	if !ok || info.In == "" {
		return program.Ref{}, false
	}
	return program.Ref{Kind: info.In, Key: ref.In}, true
}

// changed says by whom a thing was changed, in itself or in what stands in it; empty
// for nobody.
func (t *doings) changed(ref program.Ref) (by string) {
	for _, key := range t.fields[ref] {
		if v := t.set[key]; !program.SameValue(ref.Kind, key.name, v.base, v.now) {
			by = v.by
		}
	}
	if v := t.replace[ref]; v != nil {
		by = v.by
	}
	if inside := t.inside[ref]; inside != "" {
		by = inside
	}
	return by
}

func (t *doings) against(c program.Change) (Conflict, bool) {
	made := func(sort Sort, by string) (Conflict, bool) {
		return Conflict{Ref: c.Ref, Field: c.Field, Yours: c.Value, By: by, Sort: sort}, true
	}
	by, gone := t.removed[c.Ref]
	if owner, ok := ownerOf(c.Ref); ok && !gone {
		by, gone = t.removed[owner]
	}
	switch c.Op {
	case program.Add:
		if v := t.added[c.Ref]; v != nil && !sameThing(v.now, c.Value) {
			conflict, ok := made(BothAdded, v.by)
			conflict.Theirs = v.now
			return conflict, ok
		}
		if owner, ok := ownerOf(c.Ref); ok {
			if by, gone := t.removed[owner]; gone {
				return made(TheyRemoved, by)
			}
		}
	case program.Remove:
		if by := t.changed(c.Ref); by != "" && !gone {
			return made(YouRemove, by)
		}
	case program.Set:
		if gone {
			return made(TheyRemoved, by)
		}
		v := t.set[field{c.Ref, c.Field}]
		if v == nil || program.SameValue(c.Kind, c.Field, v.base, v.now) || program.SameValue(c.Kind, c.Field, v.now, c.Value) {
			return Conflict{}, false
		}
		conflict, ok := made(BothSet, v.by)
		conflict.Base, conflict.Theirs = v.base, v.now
		return conflict, ok
	case program.Move:
		if gone {
			return made(TheyRemoved, by)
		}
		if m := t.moved[c.Ref]; m != nil && (c.At == nil || *c.At != m.at) {
			return made(BothMoved, m.by)
		}
	}
	return Conflict{}, false
}

// sameThing compares two whole things by their JSON.
func sameThing(a, b json.RawMessage) bool {
	var x, y any
	return json.Unmarshal(a, &x) == nil && json.Unmarshal(b, &y) == nil && reflect.DeepEqual(x, y)
}
