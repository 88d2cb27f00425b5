// Package act is what people mean: each intent says it in its own words and plans it
// into changes on the program as it is. So an edit that was thought of on one revision and
// is made on a later one does there what was meant.
//
// An intent is one file. Dry or for good, the same Plan is made; who may make it and
// whether the rules allow it is asked elsewhere (roles, gate).
package act

import (
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"strings"

	"jantrel/core/backlog"
	"jantrel/core/plan"
	"jantrel/core/program"
)

// State is what an intent is planned on: a program with what is known of it, the day it is seen on, and the index
// of its backlog, which is made when somebody asks for it.
type State struct {
	*plan.Plan
	Today program.Date
	Index func() *backlog.Index
}

// Intent is something that somebody means to do.
type Intent interface {
	// Plan works out the changes on a state. It alters nothing.
	Plan(s State) (Plan, error)
}

// Plan is what an intent comes to. No changes: there is nothing to do.
type Plan struct {
	Label   string           `json:"label"` // what the edit is, in a few words
	Changes []program.Change `json:"changes"`
	Keys    []string         `json:"keys"`  // items that are new, or that go
	Notes   []string         `json:"notes"` // what else is to be known
	Ask     *Question        `json:"ask,omitempty"`

	// Says are those changes that say what somebody saw and decided on, as a text typed
	// over another. Where that has changed meanwhile, they are in conflict; what merely
	// follows from the plan as it is cannot be.
	Says []program.Change `json:"-"`

	// Would is, of a plan that only asks, what it would change as far as that is known: who may not do that is not asked.
	Would []program.Change `json:"-"`

	// TakesBack is the revision of the edit that all of it is to take back; 0: it is nothing of the sort.
	TakesBack int64 `json:"-"`

	// AsMade says that what is added was made elsewhere: comments stay whose they are, and items that are gone may
	// come back, as by an undo.
	AsMade bool `json:"-"`
}

// Question is what a plan cannot know and took a guess at: somebody may say the intent again
// with another answer.
type Question struct {
	Text    string   `json:"text"`    // in words
	Field   string   `json:"field"`   // the intent's field that takes the answer
	Answer  string   `json:"answer"`  // what the plan went by
	Answers []Answer `json:"answers"` // what there is to choose from
}

// Answer is one answer to a Question.
type Answer struct {
	Value string `json:"value"` // of the intent's field
	Text  string `json:"text"`  // in words
}

// MaxLabel is how many characters the label of an edit has at most.
const MaxLabel = 200

// made makes a Plan, with lists where there are none, and a label that is not too long.
func made(label string, changes []program.Change, err error) (Plan, error) {
	if runes := []rune(label); len(runes) > MaxLabel {
		label = string(runes[:MaxLabel])
	}
	if changes == nil {
		changes = []program.Change{}
	}
	return Plan{Label: strings.TrimSpace(label), Changes: changes, Keys: []string{}, Notes: []string{}}, err
}

// step refuses to move things further than most days at once, either way: a slip of the
// keyboard would take them out of the calendar.
func step(days, most int) error {
	if days < -most || days > most {
		return fmt.Errorf("%d days are too far; a move is of %d days at most", days, most)
	}
	return nil
}

// with adds keys and notes.
func (p Plan) with(keys, notes []string) Plan {
	p.Keys, p.Notes = append(p.Keys, keys...), append(p.Notes, notes...)
	return p
}

// Digest names a list of changes: two that differ have different ones.
func Digest(changes []program.Change) string {
	text, err := json.Marshal(changes)
	if err != nil {
		panic(err) // plain values: cannot fail
	}
	sum := sha256.Sum256(text)
	return hex.EncodeToString(sum[:8])
}

// Make is an edit that is said as changes: for what sets a few fields, with what that
// would do shown before.
type Make struct {
	Label   string           `json:"label,omitempty"`
	Changes []program.Change `json:"changes"`
}

// Plan implements Intent.
func (m Make) Plan(State) (Plan, error) {
	label := m.Label
	if label == "" {
		label = "Change"
	}
	p, err := made(label, m.Changes, nil)
	p.Says = m.Changes
	return p, err
}

// Remove takes a thing out of the program, with all that names it.
type Remove struct {
	Ref program.Ref `json:"ref"`
}

// Plan implements Intent.
func (r Remove) Plan(s State) (Plan, error) {
	if !s.Program.Has(r.Ref) {
		return Plan{}, fmt.Errorf("%s cannot be removed: there is none with this key", s.Program.Describe(r.Ref))
	}
	gone := program.Change{Op: program.Remove, Ref: r.Ref}
	changes := program.Forget(s.Program, r.Ref)
	if r.Ref.Kind == program.KindPerson {
		staffed, err := staff(s, without(s, r.Ref.Key), nil, Adds)
		if err != nil {
			return Plan{}, err
		}
		changes = append(changes, staffed.changes...)
	}
	p, err := made("Remove "+s.Program.Describe(r.Ref), changes, nil)
	p.Says = []program.Change{gone}
	return p, err
}

// Merged is a Plan of changes that were made on another line.
func Merged(label string, changes []program.Change, notes []string) Plan {
	p, _ := made(label, changes, nil)
	p.AsMade = true
	return p.with(nil, notes)
}

// these names items: the one, or how many.
func these(keys []string) string {
	switch len(keys) {
	case 0:
		return ""
	case 1:
		return keys[0]
	}
	return fmt.Sprintf("%d items", len(keys))
}
