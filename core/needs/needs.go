// Package needs is the dependency graph: who waits for whom, with how many days
// to spare, and which needs close a cycle.
package needs

import (
	"jantrel/core/calendar"
	"jantrel/core/program"
)

// Place is an iteration as a need sees it.
type Place struct {
	Team int // position of the team in the program
	Slot int // position of the iteration in the team
	calendar.Span
}

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
// left out.
func Edges(p program.Program, tree program.Tree) []Edge {
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
}

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
	Status Status
	Spare  *int // days; nil where nothing is at stake: an end is done, kept out or unplaced
}

// Check returns the state of every need, in the order of Program.Needs. A need
// between parents stands as the worst of its leaves.
func Check(p program.Program, tree program.Tree) []State {
	states := make([]State, len(p.Needs))
	for i := range states {
		states[i].Status = StatusHolds
	}
	places := Places(p)
	for _, e := range Edges(p, tree) {
		item, needed := &p.Items[e.Item], &p.Items[e.Needs]
		state := &states[e.Need]
		b, placed := places(item)
		if !placed || item.State == program.Done || needed.State == program.Done {
			continue
		}
		a, neededPlaced := places(needed)
		if !neededPlaced {
			state.Status = StatusBroken
			continue
		}
		spare := Spare(p.Settings.SameIteration, a, b, e.LagDays)
		if state.Spare == nil || spare < *state.Spare {
			state.Spare = &spare
		}
		switch {
		case spare < 0:
			state.Status = StatusBroken
		case spare == 0 && state.Status == StatusHolds:
			state.Status = StatusTight
		}
	}
	return states
}

// Places returns a function that says where an item stands.
func Places(p program.Program) func(*program.Item) (Place, bool) {
	type key struct{ team, iteration string }
	places := map[key]Place{}
	for t := range p.Teams {
		for s, it := range p.Teams[t].Iterations {
			places[key{p.Teams[t].Key, it.Key}] = Place{t, s, it.Span()}
		}
	}
	return func(item *program.Item) (Place, bool) {
		if item.Iteration == "" {
			return Place{}, false
		}
		place, ok := places[key{item.Team, item.Iteration}]
		return place, ok
	}
}
