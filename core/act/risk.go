package act

import "jantrel/core/program"

// AddRisk notes something that may happen. It gets the next free key.
type AddRisk struct {
	Risk program.Risk `json:"risk"` // its key is left out
}

// Plan implements Intent.
func (x AddRisk) Plan(s State) (Plan, error) {
	used := make(map[string]bool, len(s.Risks))
	for i := range s.Risks {
		used[s.Risks[i].Key] = true
	}
	risk := x.Risk
	risk.Key = nextKey("RK-", used)
	p, err := made("Risk: "+risk.Title, []program.Change{program.AddOf(program.Ref{Kind: program.KindRisk, Key: risk.Key}, risk)}, nil)
	return p.with([]string{risk.Key}, nil), err
}
