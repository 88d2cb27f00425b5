package schedule

import (
	"slices"

	"jantrel/core/plan"
)

// result puts a plan into the words of the program document.
func (m *model) result(pl sketch) Schedule {
	r := Schedule{Placements: []Placement{}, Unplaced: []Unplaced{}, Overloads: []Overload{}, Releases: []Finish{}}
	for n := range m.nodes {
		node := &m.nodes[n]
		from := ""
		if node.now != nowhere {
			from = m.iteration(n, node.now)
		}
		s := pl.slot[n]
		if s == nowhere {
			r.Unplaced = append(r.Unplaced, Unplaced{Item: m.key(n), Moved: node.now != nowhere, From: from, Why: m.whyUnplaced(&pl, n)})
			continue
		}
		at := m.place(n, s)
		r.Placements = append(r.Placements, Placement{
			Item: m.key(n), Team: m.p.Teams[node.team].Key, Iteration: m.iteration(n, s),
			Start: at.Start, End: at.End, Moved: s != node.now, From: from, Assumed: node.assumed, Why: m.whyPlaced(&pl, n),
		})
	}
	for t := range m.slots {
		for s, at := range m.slots[t] {
			it := m.p.Teams[t].Iterations[s]
			if it.State != "closed" && at.load > at.capacity*m.fillTo[t]+eps {
				r.Overloads = append(r.Overloads, Overload{m.p.Teams[t].Key, it.Key, at.capacity, at.load})
			}
		}
	}
	for i := range m.finals {
		f := &m.finals[i]
		if f.release < 0 {
			continue
		}
		late, finish := m.late(f, pl.slot)
		r.Releases = append(r.Releases, Finish{Key: m.p.Releases[f.release].Key, Finish: finish, Due: f.due, LateDays: late})
	}
	r.Score = m.score(pl.slot)
	r.Score.LateDaysBound = m.bound()
	return r
}

// Place returns p with its items where r has them.
func Place(p *plan.Plan, r Schedule) *plan.Plan {
	tree, next := p.Tree(), p.Program
	next.Items = slices.Clone(p.Items)
	for _, x := range r.Placements {
		next.Items[tree.Index[x.Item]].Iteration = x.Iteration
	}
	for _, x := range r.Unplaced {
		next.Items[tree.Index[x.Item]].Iteration = ""
	}
	return plan.After(p, next)
}
