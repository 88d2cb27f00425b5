package act

import (
	"fmt"

	"jantrel/core/backlog"
)

// Rank gives items another place in the order of importance.
type Rank struct {
	Keys  []string      `json:"keys"`
	To    backlog.Where `json:"to"`
	Shown []string      `json:"shown,omitempty"` // of up and down: the items in view, in order
}

// Plan implements Intent.
func (r Rank) Plan(s State) (Plan, error) {
	changes, err := backlog.Rank(s.Plan, r.Keys, r.To, r.Shown)
	return made(fmt.Sprintf("Rank %s %s %s", these(r.Keys), r.To.To, r.To.Key), changes, err)
}
