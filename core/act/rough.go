package act

import (
	"fmt"
	"slices"

	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/schedule"
)

// RoughPart is where what is rough of an item is to stand for a team; nowhere else.
type RoughPart struct {
	Item   string    `json:"item"`
	Team   string    `json:"team"`
	Places []RoughIn `json:"places"`
}

// RoughIn is how much is to stand in an iteration, in the team's unit.
type RoughIn struct {
	Iteration string  `json:"iteration"`
	Size      float64 `json:"size"`
}

// rough are the changes that put what is rough where it is to stand. Places of other teams stay.
func (x Place) rough(s State) (changes []program.Change, err error) {
	tree, roughs := s.Tree(), make([]schedule.Rough, 0, len(x.Rough))
	for _, to := range x.Rough {
		i, ok := tree.Index[to.Item]
		if !ok {
			return nil, fmt.Errorf("there is no item %s any more", to.Item)
		}
		if !slices.ContainsFunc(s.Items[i].Rough, func(r program.Rough) bool { return r.Team == to.Team }) {
			return nil, fmt.Errorf("%s has no rough size for %s any more", to.Item, to.Team)
		}
		r := schedule.Rough{Item: to.Item, Team: to.Team}
		for _, in := range to.Places {
			r.Places = append(r.Places, schedule.RoughPart{Iteration: in.Iteration, Size: in.Size})
		}
		roughs = append(roughs, r)
	}
	return schedule.RoughChanges(s.Plan, roughs), nil
}

// MoveRough moves what is rough of an item for a team from one iteration into another, or takes
// it out of the plan; or places what stands nowhere.
type MoveRough struct {
	Item string `json:"item"`
	Team string `json:"team"`
	From string `json:"from,omitempty"` // missing: what stands nowhere yet
	To   string `json:"to,omitempty"`   // missing: nowhere
}

// Plan implements Intent. All of it moves that stands there.
func (x MoveRough) Plan(s State) (Plan, error) {
	states := plan.Roughs(s.Plan)
	at := slices.IndexFunc(states, func(r plan.RoughState) bool { return s.Items[r.Item].Key == x.Item && r.Rough.Team == x.Team })
	if at < 0 {
		return Plan{}, fmt.Errorf("nothing of %s is rough for %s any more", x.Item, x.Team)
	}
	moving := states[at].Loose
	part := RoughPart{Item: x.Item, Team: x.Team}
	for _, p := range states[at].Places {
		if p.Iteration == x.From {
			moving = p.Size
			continue
		}
		part.Places = append(part.Places, RoughIn{p.Iteration, p.Size})
	}
	if x.To != "" && moving > 0 {
		if to := slices.IndexFunc(part.Places, func(in RoughIn) bool { return in.Iteration == x.To }); to >= 0 {
			part.Places[to].Size += moving
		} else {
			part.Places = append(part.Places, RoughIn{x.To, moving})
		}
	}
	label := fmt.Sprintf("Place what is rough of %s", x.Item)
	switch {
	case x.To == "":
		label = fmt.Sprintf("Take the place of what is rough of %s", x.Item)
	case x.From != "":
		label = fmt.Sprintf("Move what is rough of %s", x.Item)
	}
	return Place{Label: label, Rough: []RoughPart{part}}.Plan(s)
}
