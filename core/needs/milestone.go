package needs

import (
	"jantrel/core/plan"
	"jantrel/core/program"
)

// ForMilestone is what a milestone still needs: an item with all its leaves that are to be done.
type ForMilestone struct {
	Milestone string       `json:"milestone"`
	Date      program.Date `json:"date"`
	Item      string       `json:"item"`
	Until     program.Date `json:"until,omitzero"` // the last day of the iteration of what of it is done last; none: nothing of it has a place
	Leaves    int          `json:"leaves"`         // how many items it stands for
	State                  // days from that day to the milestone's; broken too where something of it has no place
	Late      []string     `json:"late"` // those that come after it, or have no place: the first 50
}

// ForMilestones lists what milestones still need, in the order of the program. What is done, or kept out, is needed no
// more. Time is linear in milestones and the leaves of what they need.
func ForMilestones(p *plan.Plan) []ForMilestone {
	p = p.Whole()
	tree, list := p.Tree(), []ForMilestone{}
	for _, m := range p.Milestones {
		for _, key := range m.Needs {
			i, there := tree.Index[key]
			if !there {
				continue
			}
			if f := forMilestone(p, m, i); f.Leaves > 0 {
				list = append(list, f)
			}
		}
	}
	return list
}

func forMilestone(p *plan.Plan, m program.Milestone, i int) ForMilestone {
	tree := p.Tree()
	f := ForMilestone{Milestone: m.Key, Date: m.Date, Item: p.Items[i].Key, State: State{Status: StatusHolds}, Late: []string{}}
	late := func(leaf int) {
		f.Status = StatusBroken
		if len(f.Late) < mostBetween {
			f.Late = append(f.Late, p.KeyOf(leaf))
		}
	}
	for _, leaf := range tree.Leaves(i) {
		if !tree.ToSchedule(leaf) {
			continue
		}
		f.Leaves++
		at, placed := stands(p, leaf)
		if !placed {
			late(leaf)
			continue
		}
		f.Until = max(f.Until, at.End)
		if at.End > m.Date {
			late(leaf)
		}
	}
	if !f.Until.IsZero() {
		spare := int(m.Date - f.Until)
		f.Spare = &spare
		if spare == 0 && f.Status == StatusHolds {
			f.Status = StatusTight
		}
	}
	return f
}

// CyclesOf are cycles of needs that a program holds, as one that was written into its document may, by the keys of their
// items, each needing the next and the last the first: one through each item that lies on one and on none before, at most
// so many. What is done on it breaks it; else no draft can place what is on a cycle. Time is that of Cycles.
func CyclesOf(p *plan.Plan, most int) [][]string {
	tree, next := p.Tree(), make([][]int, len(p.Items))
	for _, e := range Edges(p) {
		if tree.ToSchedule(e.Item) && tree.ToSchedule(e.Needs) {
			next[e.Item] = append(next[e.Item], e.Needs)
		}
	}
	cycles, known := [][]string{}, map[int]bool{}
	for i, way := range Cycles(len(p.Items), func(i int) []int { return next[i] }) {
		if way == nil || known[i] {
			continue
		}
		if len(cycles) == most {
			break
		}
		var keys []string
		for _, at := range way {
			known[at] = true
			keys = append(keys, p.Items[at].Key)
		}
		cycles = append(cycles, keys)
	}
	return cycles
}
