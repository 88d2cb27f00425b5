package act

import (
	"fmt"

	"jantrel/core/intake"
)

// TakeIn takes a table in, as one edit.
type TakeIn struct {
	Columns     []string   `json:"columns"` // the field of each column; empty for one that is left out
	Rows        [][]string `json:"rows"`
	MakeParents bool       `json:"makeParents,omitempty"` // features are made for parents that do not exist
	Name        string     `json:"name,omitempty"`        // the file's
}

// Read says of each row what taking it in would do, and names every fault.
func (t TakeIn) Read(s State) intake.Result {
	return intake.Read(s.Index(), intake.Table{Columns: t.Columns, Rows: t.Rows}, intake.Options{Today: s.Today, MakeParents: t.MakeParents})
}

// Plan implements Intent. A table with a fault is not taken in.
func (t TakeIn) Plan(s State) (Plan, error) {
	r := t.Read(s)
	if len(r.Problems) > 0 {
		return Plan{}, fmt.Errorf("the table has %d problems, the first in row %d: %s", len(r.Problems), r.Problems[0].Row+1, r.Problems[0].Text)
	}
	p, err := made("Import "+t.Name, r.Changes, nil)
	return p.with(r.Keys, r.Notes), err
}
