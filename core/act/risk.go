package act

import "jantrel/core/program"

// AddRisk notes something that may happen. It gets the next free key.
type AddRisk struct {
	Risk program.Risk `json:"risk"` // its key is left out
}

// Plan implements Intent.
func (x AddRisk) Plan(s State) (Plan, error) {
	risk := x.Risk
	risk.Key = nextKey(s, program.KindRisk, "RK-", len(s.Risks))
	p, err := made("Risk: "+risk.Title, []program.Change{program.AddOf(program.Ref{Kind: program.KindRisk, Key: risk.Key}, risk)}, nil)
	return p.with([]string{risk.Key}, nil), err
}
