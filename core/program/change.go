package program

import (
	"encoding/json"
	"fmt"
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
	KindTimeEntry Kind = "timeEntry"
	KindRisk      Kind = "risk"
	KindSnooze    Kind = "snooze"
	KindPromise   Kind = "promise"
)

// Ref names one thing of a program.
type Ref struct {
	Kind Kind   `json:"kind"`
	In   string `json:"in,omitempty"`  // the team of an iteration; the item of a comment; the needing item of a need
	Key  string `json:"key,omitempty"` // the thing's key; of a need, the item needed
}

// Change is one edit. It is the only way a Program comes to be another.
type Change struct {
	Op Op `json:"op"`
	Ref
	Field string          `json:"field,omitempty"` // what set gives a value, by its name in the program document
	Value json.RawMessage `json:"value,omitempty"` // for set the new value, null to clear it; for add the whole thing
	At    *int            `json:"at,omitempty"`    // for add and move: the place in the list, from 0; left out: the end
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

// ApplyAll applies a list of changes to a program that keeps the rules, whole or not
// at all. The rules are checked after the last, so that changes may pass through states
// that break one.
// The result has one Applied a change, in order; to take the list back, apply
// the inverses from last to first.
func ApplyAll(p Program, changes []Change) (Program, []Applied, error) {
	next, applied, err := run(p, changes)
	if err != nil {
		return p, nil, err
	}
	var problems Problems
	if len(applied) <= few && !slices.ContainsFunc(applied, removes) {
		problems = validateAfter(next, applied)
	} else {
		problems = Validate(next)
	}
	if len(problems) > 0 {
		return p, nil, problems
	}
	return next, applied, nil
}

// run does changes without checking the rules after them.
func run(p Program, changes []Change) (Program, []Applied, error) {
	e := newEditor(p, changes)
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
	return e.done(), applied, nil
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
func (c Change) Describe() string { return c.described(c.Ref.Describe()) }

func (c Change) described(thing string) string {
	if c.Op == Set {
		title := c.Field
		if f, ok := FieldOf(c.Kind, c.Field); ok {
			title = f.Title
		}
		return fmt.Sprintf("set %s of %s", title, thing)
	}
	return fmt.Sprintf("%s %s", c.Op, thing)
}

// Describe names a thing in a few words.
func (r Ref) Describe() string {
	switch {
	case r.Kind == KindNeed:
		return "the need of " + r.In + " on " + r.Key
	case r.Kind == KindComment:
		return "a comment on " + r.In
	case r.Kind == KindTimeEntry:
		return "hours spent"
	case r.Kind == KindSnooze:
		return "what was put off"
	case r.In != "":
		return fmt.Sprintf("%s %s of %s", r.Kind, r.Key, r.In)
	}
	return strings.TrimSpace(string(r.Kind) + " " + r.Key)
}

func (e *editor) apply(c Change) (Change, error) {
	kind := registry[c.Kind]
	if kind == nil {
		return Change{}, fmt.Errorf("no kind %q", c.Kind)
	}
	if err := kind.exact(c.Ref); err != nil {
		return Change{}, err
	}
	return kind.apply(e, c)
}

// exact refuses a reference that says more or less than its kind needs: what is
// stored under it could not be found again.
func (e *entry) exact(ref Ref) error {
	switch {
	case e.Kind == KindProgram && ref.Key != "":
		return fmt.Errorf("a program has no key, and not %q", ref.Key)
	case e.In == "" && ref.In != "":
		return fmt.Errorf("a %s is in nothing, and not in %q", e.Title, ref.In)
	case e.In != "" && ref.In == "":
		return fmt.Errorf("it is not said which %s the %s belongs to", registry[e.In].Title, e.Title)
	}
	return nil
}

// After is what p would be after changes, unjudged: for planning further ones, and for
// going through a journal. Nobody is to be shown a program that has not passed the gate.
func After(p Program, changes []Change) (Program, error) {
	next, _, err := run(p, changes)
	return next, err
}

// Rewind takes back changes that led to p, given in the order in which they were made.
func Rewind(p Program, applied []Applied) (Program, error) { return After(p, Inverses(applied)) }

// Replay does changes of the journal again.
func Replay(p Program, applied []Applied) (Program, error) {
	changes := make([]Change, len(applied))
	for i, a := range applied {
		changes[i] = a.Change
	}
	return After(p, changes)
}

// WithoutAuthors returns p with comments that are no account's.
func (p Program) WithoutAuthors() Program {
	p.Comments = slices.Clone(p.Comments)
	for i := range p.Comments {
		p.Comments[i].Author = ""
	}
	return p
}
