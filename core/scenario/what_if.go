package scenario

import (
	"jantrel/core/act"
	"jantrel/core/forecast"
	"jantrel/core/program"
)

// WhatIf makes what a forecast supposed part of the plan, as far as a plan can say it: for a scenario to begin with.
type WhatIf struct {
	If   forecast.If
	Name string // of the work that it was asked about
}

// Plan implements act.Intent.
func (w WhatIf) Plan(s act.State) (act.Plan, error) {
	if err := w.If.Check(s.Plan); err != nil {
		return act.Plan{}, err
	}
	next, lost := w.If.Kept(s.Plan)
	p := act.Merged("What if: "+w.Name, program.Between(s.Program, next), lost)
	p.AsMade = false
	return p, nil
}
