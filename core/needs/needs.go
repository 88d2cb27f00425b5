// Package needs is the dependency graph: who waits for whom, with how many days
// to spare, and which needs close a cycle.
package needs

import (
	"slices"

	"jantrel/core/plan"
	"jantrel/core/program"
)

// Place is an iteration as a need sees it.
type Place = plan.Place

// Holds reports whether an item at place b may need one at place a: a ends, and
// lagDays go by, before b starts; or the two may share an iteration.
func Holds(share program.SameIteration, a, b Place, lagDays int) bool {
	return int(a.End)+lagDays < int(b.Start) || Shares(share, a, b, lagDays)
}

// Shares reports whether the two places count as one iteration that an item may
// share with what it needs. A lag always forbids it.
func Shares(share program.SameIteration, a, b Place, lagDays int) bool {
	switch {
	case lagDays != 0:
		return false
	case share == program.ShareSameTeam:
		return a.Team == b.Team && a.Slot == b.Slot
	case share == program.ShareAlways:
		return a.Span == b.Span
	}
	return false
}

// Spare is the slack of a need in days: those between the end of a plus the lag
// and the start of b. Below 0 the need is broken by that many days; a shared
// iteration has 0.
func Spare(share program.SameIteration, a, b Place, lagDays int) int {
	if Shares(share, a, b, lagDays) {
		return 0
	}
	return int(b.Start) - int(a.End) - lagDays - 1
}

// Edge is a need between two leaves. Item and Needs are positions in
// Program.Items, Need the position in Program.Needs that it comes from.
type Edge struct {
	Item, Needs, LagDays, Need int
}

// Edges spells out the needs between leaves: a need on a parent holds for each
// of its leaves, on both sides. Needs with an item kept out on either side are
// left out. Of a plan with rough sizes only those of its whole speak of these.
func Edges(p *plan.Plan) []Edge { return edges(p) }

var edges = plan.Once(func(p *plan.Plan) []Edge {
	tree := p.Tree()
	edges := make([]Edge, 0, len(p.Needs))
	for n, need := range p.Needs {
		item, needed := tree.Index[need.Item], tree.Index[need.Needs]
		if p.Items[item].KeptOut || p.Items[needed].KeptOut {
			continue
		}
		if tree.IsLeaf(item) && tree.IsLeaf(needed) { // as most are
			edges = append(edges, Edge{item, needed, need.LagDays, n})
			continue
		}
		for _, a := range tree.Leaves(item) {
			for _, b := range tree.Leaves(needed) {
				if !p.Items[a].KeptOut && !p.Items[b].KeptOut {
					edges = append(edges, Edge{a, b, need.LagDays, n})
				}
			}
		}
	}
	return edges
})

// Status is how a need stands.
type Status string

// The statuses.
const (
	StatusHolds  Status = "holds"
	StatusTight  Status = "tight" // holds, with no day to spare
	StatusBroken Status = "broken"
)

// State is how one need of the program stands in the plan as it is.
type State struct {
	Status Status `json:"status"`
	Spare  *int   `json:"spare,omitempty"` // days; nil where nothing is at stake: an end is done, kept out or unplaced
}

// Check returns the state of every need, in the order of Program.Needs. A need
// between parents stands as the worst of its leaves. What is not done in an iteration that is
// closed has no place any more.
func Check(p *plan.Plan) []State { return check(p.Whole()) }

var check = plan.Once(func(p *plan.Plan) []State {
	states := make([]State, len(p.Needs))
	for i := range states {
		states[i].Status = StatusHolds
	}
	for _, e := range Edges(p) {
		a, neededPlaced := stands(p, e.Needs)
		b, placed := p.Place(e.Item)
		states[e.Need].take(p, e, a, neededPlaced, b, placed)
	}
	return states
})

// stands is where something needed, which is not done, stands; nowhere in a closed iteration,
// in which it cannot get done any more.
func stands(p *plan.Plan, i int) (Place, bool) {
	at, placed := p.Place(i)
	return at, placed && p.Teams[at.Team].Iterations[at.Slot].State != program.Closed
}

// take counts one edge of the need in: a is where what is needed stands, b where the item
// does.
func (s *State) take(p *plan.Plan, e Edge, a Place, neededPlaced bool, b Place, placed bool) {
	if !placed || p.Items[e.Item].State == program.Done || p.Items[e.Needs].State == program.Done {
		return
	}
	if !neededPlaced {
		s.Status = StatusBroken
		return
	}
	spare := Spare(p.Settings.SameIteration, a, b, e.LagDays)
	if s.Spare == nil || spare < *s.Spare {
		s.Spare = &spare
	}
	switch {
	case spare < 0:
		s.Status = StatusBroken
	case spare == 0 && s.Status == StatusHolds:
		s.Status = StatusTight
	}
}

// Broken returns, in order, the needs (positions in Program.Needs) that would be broken if
// the items at some positions stood at a place: those of and on these items, and no other.
// It looks at their edges alone, so it can be asked for many places. Positions are those of the
// plan that is given: to ask of rough sizes, give the whole one.
func Broken(p *plan.Plan, items []int, at Place) []int {
	moved := make(map[int]bool, len(items))
	for _, i := range items {
		moved[i] = true
	}
	var order []int
	states := map[int]*State{}
	of := edgesOfNeed(p)
	touching := edgesOfItem(p)
	for _, i := range items {
		for _, n := range touching[i] {
			if states[n] != nil {
				continue
			}
			states[n] = &State{Status: StatusHolds}
			for _, e := range of[n] {
				a, neededPlaced := stands(p, e.Needs)
				if moved[e.Needs] {
					a, neededPlaced = at, true
				}
				b, placed := p.Place(e.Item)
				if moved[e.Item] {
					b, placed = at, true
				}
				states[n].take(p, e, a, neededPlaced, b, placed)
			}
			if states[n].Status == StatusBroken {
				order = append(order, n)
			}
		}
	}
	slices.Sort(order)
	return order
}

// edgesOfNeed are the edges of each need.
var edgesOfNeed = plan.Once(func(p *plan.Plan) [][]Edge {
	of := make([][]Edge, len(p.Needs))
	for _, e := range Edges(p) {
		of[e.Need] = append(of[e.Need], e)
	}
	return of
})

// edgesOfItem are, of each leaf, the needs that it has an edge of, on either side.
var edgesOfItem = plan.Once(func(p *plan.Plan) [][]int {
	of := make([][]int, len(p.Items))
	for _, e := range Edges(p) {
		of[e.Item], of[e.Needs] = append(of[e.Item], e.Need), append(of[e.Needs], e.Need)
	}
	return of
})
