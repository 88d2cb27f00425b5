// Package journal says what is kept of lines: their edits, scenarios and checkpoints. Who keeps them, and how, is said by
// internal/store; internal/live works with whatever keeps them.
package journal

import (
	"errors"
	"time"

	"jantrel/core/program"
)

// ErrNotFound says that there is no program with an id.
var ErrNotFound = errors.New("there is no such program")

// Sort is what an edit is to undo and redo.
type Sort string

// The sorts of edit.
const (
	Plain Sort = "edit"
	Undo  Sort = "undo" // takes back the client's last edit that stands
	Redo  Sort = "redo" // does again what the client's last undo took back
)

// Edit is a list of changes applied whole, as one revision.
type Edit struct {
	Revision int64
	At       time.Time
	Actor    string // who, for people
	Client   string // which open page, for its undo
	Label    string // what, in a few words
	Sort     Sort
	Changes  []program.Applied
	Request  string // the name that its sender gave the request; empty for none
	Said     Said   // of a named request
	Why      string // the reason that its author gave; empty: none
	UpTo     *int64 // of a scenario: the revision of the live plan that it brought it up to
	Undoes   int64  // the edit of the same line whose changes it takes back, all of them; 0: none
}

// Said is what is kept of a named request, so that it can be answered again.
type Said struct {
	Digest string   `json:"digest"` // of all that was sent
	Keys   []string `json:"keys"`   // items that are new, or that go
	Notes  []string `json:"notes"`
}

// Sought says which edits are looked for; empty fields do not matter.
type Sought struct {
	By       string       // who made it, or part of their name
	Kind     program.Kind // with a change to a thing of a kind
	Field    string       // with a change of a field
	Among    []Changed    // with a change to one of these
	Words    string       // in what it is called, why it was made, or the key of what it changed
	From, To time.Time    // made at this time or after; before this one
	Without  []int64      // but not these revisions
}

// Changed is what a change is to: things of a kind, one of their fields where it is said.
type Changed struct {
	Kind  program.Kind
	Field string
}

// Word is the last step of two teams towards an agreement on a need: who took it, and when.
type Word struct {
	Item  string    `db:"owner"`
	Needs string    `db:"key"`
	By    string    `db:"actor"`
	At    time.Time `db:"-"`
}
