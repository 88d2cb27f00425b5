package act

import (
	"strings"

	"jantrel/core/program"
)

// SetSteps divides states into steps. Items go along with a step that takes another name, and
// name none any more that is gone.
type SetSteps struct {
	Steps []NamedStep `json:"steps"` // all that there are to be, in order
}

// NamedStep is a step, with the name that it had.
type NamedStep struct {
	program.Step
	Was string `json:"was,omitempty"` // empty: it is new
}

// Plan implements Intent.
func (x SetSteps) Plan(s State) (Plan, error) {
	names := map[string]string{} // what each step that stays is called now
	steps := make([]program.Step, len(x.Steps))
	for i, named := range x.Steps {
		steps[i] = named.Step
		steps[i].Name = strings.TrimSpace(steps[i].Name)
		if named.Was != "" {
			names[named.Was] = steps[i].Name
		}
	}
	says := []program.Change{program.SetTo(program.Ref{Kind: program.KindProgram}, "steps", steps)}
	changes := says
	for i := range s.Items {
		item := &s.Items[i]
		if now := names[item.Step]; item.Step != "" && now != item.Step {
			changes = append(changes, program.SetTo(program.Ref{Kind: program.KindItem, Key: item.Key}, "step", now))
		}
	}
	p, err := made("Steps of the course", changes, nil)
	p.Says = says
	return p, err
}
