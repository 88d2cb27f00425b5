package delivery

import "jantrel/core/program"

// Record is what was done, as those remember who did it: to be compared with what a server makes of it.
type Record struct {
	Done     []Done             // the earliest first
	Closed   []Closed           // iterations, the earliest first
	Scope    []Scope            // what changed of iterations under way, the earliest first
	SentBack []SentBack         // once each time
	Red      map[string]bool    // by team: its build is red
	Hours    map[string]float64 // by person
	Edits    int                // how many things were done
}

// Done is an item that was done.
type Done struct {
	Item, Team, Iteration string
	Size                  float64
	On                    program.Date
}

// SentBack is an item that was sent back from review.
type SentBack struct {
	Item, Iteration string
}

// Closed is an iteration that was closed.
type Closed struct {
	Team, Iteration string
}

// ScopeKind is how what an iteration holds was changed.
type ScopeKind string

// The ways.
const (
	Added   ScopeKind = "added"
	Removed ScopeKind = "removed"
	Resized ScopeKind = "resized"
)

// Scope is a change of what an iteration under way holds.
type Scope struct {
	Team, Iteration, Item string
	Kind                  ScopeKind
	Size                  float64 // of the item; of one that was resized by how much, less than 0 where it shrank
	On                    program.Date
}
