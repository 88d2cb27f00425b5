package act

import (
	"fmt"
	"strings"

	"jantrel/core/program"
)

// Place puts items into iterations of their teams, or takes their places away. What is done
// or pinned stays where it is.
type Place struct {
	Label      string      `json:"label"` // empty: how many items are placed
	Placements []Placement `json:"placements"`
	Rough      []RoughPart `json:"rough,omitempty"` // what is rough, and where all of it is to stand
}

// Placement is where one item is to stand.
type Placement struct {
	Item      string `json:"item"`
	Iteration string `json:"iteration,omitempty"` // missing: nowhere
}

// Plan implements Intent.
func (x Place) Plan(s State) (Plan, error) {
	tree := s.Tree()
	var changes []program.Change
	var fixed []string
	for _, to := range x.Placements {
		i, ok := tree.Index[to.Item]
		if !ok {
			return Plan{}, fmt.Errorf("there is no item %s any more", to.Item)
		}
		switch item := &s.Items[i]; {
		case item.Iteration == to.Iteration:
		case item.State == program.Done || item.Pinned:
			fixed = append(fixed, item.Key)
		default:
			changes = append(changes, program.SetTo(program.Ref{Kind: program.KindItem, Key: item.Key}, "iteration", to.Iteration))
		}
	}
	rough, err := x.rough(s)
	if err != nil {
		return Plan{}, err
	}
	changes = append(changes, rough...)
	label := x.Label
	if label == "" {
		label = fmt.Sprintf("Place %d items", len(changes)-len(rough))
		if len(changes) == len(rough) && len(rough) > 0 {
			label = "Place what is rough of " + rough[0].Key
		}
	}
	p, err := made(label, changes, nil)
	p.Says = changes
	if len(fixed) > 0 {
		note := listed(fixed) + " cannot move: done, or pinned."
		if len(changes) > 0 {
			note += " The others were moved."
		}
		p.Notes = append(p.Notes, note)
	}
	return p, err
}

// listed names the first few.
func listed(keys []string) string {
	const most = 5
	text := strings.Join(keys[:min(most, len(keys))], ", ")
	if len(keys) > most {
		text += fmt.Sprintf(" and %d more", len(keys)-most)
	}
	return text
}
