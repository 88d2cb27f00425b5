package standing

import (
	"slices"

	"jantrel/core/plan"
	"jantrel/core/ready"
)

// ItemFacts are what stands at an item.
type ItemFacts struct {
	Key      string       `json:"key"`
	Leaf     bool         `json:"leaf"`
	Release  string       `json:"release,omitempty"` // its own, or its nearest ancestor's
	Lacks    []ready.Lack `json:"lacks,omitempty"`
	Unplaced bool         `json:"unplaced,omitempty"` // to be scheduled, and not placed

	Checks    int      `json:"checks,omitempty"`    // how many checks it has
	Checked   int      `json:"checked,omitempty"`   // how many of them are done
	HoursLeft *float64 `json:"hoursLeft,omitempty"` // of its tasks still to do; missing: none is estimated
}

func (x *ItemFacts) key() [2]string { return [2]string{x.Key} }

func (x *ItemFacts) same(as *ItemFacts) bool {
	return x.Leaf == as.Leaf && x.Release == as.Release && x.Unplaced == as.Unplaced && slices.Equal(x.Lacks, as.Lacks) &&
		x.Checks == as.Checks && x.Checked == as.Checked && equal(x.HoursLeft, as.HoursLeft)
}

func (f *Facts) items(p *plan.Plan) {
	tree, lacks := p.Tree(), ready.Check(p)
	f.Items = make([]ItemFacts, 0, len(p.Items))
	for i := range p.Items {
		item := &p.Items[i]
		state := ItemFacts{Key: item.Key, Leaf: tree.IsLeaf(i), Release: tree.Release(i), Lacks: lacks[i], Unplaced: tree.ToSchedule(i) && item.Iteration == ""}
		state.Checks = len(item.Checks)
		for _, check := range item.Checks {
			if check.Done {
				state.Checked++
			}
		}
		if hours, estimated := item.HoursLeft(); estimated {
			state.HoursLeft = &hours
		}
		if len(lacks[i]) > 0 {
			f.Counts.NotReady = append(f.Counts.NotReady, item.Key)
		}
		if state.Unplaced {
			f.Counts.Unplaced = append(f.Counts.Unplaced, item.Key)
		}
		f.Items = append(f.Items, state)
	}
}
