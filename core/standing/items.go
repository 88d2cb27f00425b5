package standing

import (
	"slices"

	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/ready"
)

// ItemFacts are what stands at an item.
type ItemFacts struct {
	Key      string       `json:"key"`
	Leaf     bool         `json:"leaf"`
	Release  string       `json:"release,omitempty"` // its own, or its nearest ancestor's
	Lacks    []ready.Lack `json:"lacks,omitempty"`
	Unplaced bool         `json:"unplaced,omitempty"` // to be scheduled, and not placed; or something rough of it is not

	Checks    int      `json:"checks,omitempty"`    // how many checks it has
	Checked   int      `json:"checked,omitempty"`   // how many of them are done
	Tasks     int      `json:"tasks,omitempty"`     // how many tasks it has
	TasksDone int      `json:"tasksDone,omitempty"` // how many of them are done
	HoursLeft *float64 `json:"hoursLeft,omitempty"` // of its tasks still to do; missing: none is estimated

	Hindered []string `json:"hindered,omitempty"` // the defects that are still to be mended before it can be tested

	Rough []RoughFacts `json:"rough,omitempty"` // how its rough sizes stand, in their order
}

// RoughFacts are how a rough size stands, in its team's unit.
type RoughFacts struct {
	Team    string               `json:"team"`
	Least   float64              `json:"least"`
	Most    float64              `json:"most"`
	Covered float64              `json:"covered"`          // sizes of the items that have come
	Rest    float64              `json:"rest"`             // what is to be expected beyond these
	Over    float64              `json:"over,omitempty"`   // by how much the items are more than the most
	Loose   float64              `json:"loose,omitempty"`  // what of the rest stands nowhere
	Places  []program.RoughPlace `json:"places,omitempty"` // where the rest stands, by time
}

func (x RoughFacts) same(as RoughFacts) bool {
	return x.Team == as.Team && x.Least == as.Least && x.Most == as.Most && x.Covered == as.Covered && x.Rest == as.Rest &&
		x.Loose == as.Loose && slices.Equal(x.Places, as.Places)
}

func (x *ItemFacts) key() [2]string { return [2]string{x.Key} }

func (x *ItemFacts) same(as *ItemFacts) bool {
	return x.Leaf == as.Leaf && x.Release == as.Release && x.Unplaced == as.Unplaced && slices.Equal(x.Lacks, as.Lacks) && slices.Equal(x.Hindered, as.Hindered) &&
		x.Checks == as.Checks && x.Checked == as.Checked && x.Tasks == as.Tasks && x.TasksDone == as.TasksDone && equal(x.HoursLeft, as.HoursLeft) && slices.EqualFunc(x.Rough, as.Rough, RoughFacts.same)
}

func (f *Facts) items(p *plan.Plan) {
	tree, lacks, roughs, hindered := p.Tree(), ready.Check(p), plan.Roughs(p), p.Hindered()
	f.Items = make([]ItemFacts, 0, len(p.Items))
	for i := range p.Items {
		item := &p.Items[i]
		state := ItemFacts{Key: item.Key, Leaf: tree.IsLeaf(i), Release: tree.Release(i), Lacks: lacks[i], Unplaced: tree.ToSchedule(i) && item.Iteration == ""}
		state.Hindered = hindered[item.Key]
		state.Checks = len(item.Checks)
		for _, check := range item.Checks {
			if check.Done {
				state.Checked++
			}
		}
		state.Tasks = len(item.Tasks)
		for _, task := range item.Tasks {
			if task.Done {
				state.TasksDone++
			}
		}
		if hours, estimated := item.HoursLeft(); estimated {
			state.HoursLeft = &hours
		}
		for ; len(roughs) > 0 && roughs[0].Item == i; roughs = roughs[1:] {
			s := &roughs[0]
			state.Rough = append(state.Rough, RoughFacts{s.Rough.Team, s.Rough.Size, s.Rough.Most(), s.Covered, s.Rest, s.Over(), s.Loose, s.Places})
			state.Unplaced = state.Unplaced || s.Loose > 1e-9
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
