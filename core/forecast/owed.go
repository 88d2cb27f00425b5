package forecast

import (
	"jantrel/core/needs"
	"jantrel/core/plan"
)

// InTime is, of each of some needs across teams, the chance, 0 to 1, that all that the giving team has of it is done by
// the day by which it is wanted; nil where there is no such day. They are the plays of Play.
func InTime(p *plan.Plan, o Options, owed []needs.Owed) []*float64 {
	chances := make([]*float64, len(owed))
	tree := p.Tree()
	var asked []int
	o.Releases, o.Sets, o.Items = []string{""}, nil, false
	for n := range owed {
		need := &owed[n]
		at, there := tree.Index[need.Needs]
		if !there || need.By.IsZero() {
			continue
		}
		set := Set{Key: need.Needs, Due: need.By}
		for _, leaf := range tree.Leaves(at) {
			if p.Items[leaf].Team == need.Gives {
				set.Items = append(set.Items, p.Items[leaf].Key)
			}
		}
		if len(set.Items) > 0 {
			asked, o.Sets = append(asked, n), append(o.Sets, set)
		}
	}
	if len(asked) == 0 {
		return chances
	}
	for i, l := range Play(p, o).Sets {
		chances[asked[i]] = l.Chance
	}
	return chances
}
