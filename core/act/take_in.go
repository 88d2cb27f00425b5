package act

import (
	"fmt"

	"jantrel/core/intake"
)

// TakeIn takes a table in, as one edit.
type TakeIn struct {
	Columns     []string   `json:"columns" maxItems:"200" doc:"The field of each column; empty for one that is left out"`
	Rows        [][]string `json:"rows" maxItems:"50000"`
	MakeParents bool       `json:"makeParents,omitempty" doc:"Features are made for parents that do not exist"`
	Name        string     `json:"name,omitempty" maxLength:"150" doc:"The file's"`
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
