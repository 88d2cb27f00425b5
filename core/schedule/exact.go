package schedule

import (
	"slices"

	"jantrel/core/needs"
)

// exact finds the best of all ways to place a few nodes, with all others left where they are,
// by depth-first branch and bound. One is used again and again.
type exact struct {
	m      *model
	pl     *sketch
	order  []int   // position of each node in an order in which each comes after what it needs
	finals [][]int // of each node: those that it is one of
	inside []bool  // of each node: it is taken out

	freed  []freed
	least  []float64 // what the freed from a position on cost at the least, but for late days
	late   []int     // by final: days late as far as is settled
	sum    int       // of these, over the finals concerned
	before float64   // cost of how the nodes stood
	best   float64   // least cost so far
	found  []int     // slots of the best so far; nil while nothing is good enough
	left   int       // how many more places may be tried
}

// freed is a node that is taken out, with where it could stand.
type freed struct {
	node    int
	choices []choice
	needs   []arc    // those on others that are taken out; node is their position in freed
	undo    []lateBy // what its place now adds to late days
}

// choice is a slot, and what standing there costs but for late days.
type choice struct {
	slot int
	cost float64
	late []lateBy
}

type lateBy struct{ final, days int }

// Costs are weighed so that a later one only settles a tie in those before: keepWeight is that
// of a move where moves come first, lateWeight of a late day; importance counts as it is.
const (
	keepWeight = 1e11
	lateWeight = 1e7
	moveWeight = 1e-4
	same       = 1e-6 // costs that are no further apart are the same
)

func (m *model) newExact(pl *sketch) *exact {
	x := &exact{m: m, pl: pl, order: make([]int, len(m.nodes)), finals: make([][]int, len(m.nodes)),
		inside: make([]bool, len(m.nodes)), late: make([]int, len(m.finals))}
	for i, n := range m.order {
		x.order[n] = i
	}
	for f := range m.finals {
		for _, n := range m.finals[f].nodes {
			x.finals[n] = append(x.finals[n], f)
		}
	}
	return x
}

// cost is that of node n in slot s, but for late days.
func (x *exact) cost(n, s int) float64 {
	node, cost := &x.m.nodes[n], 0.0
	if node.counts {
		cost = node.weight * float64(x.m.end(n, s)-x.m.today)
	}
	switch {
	case s == nowhere && x.m.keep:
		cost += 3 * keepWeight // what can be placed is placed, if only to keep close to today's plan
	case s == node.now:
	case x.m.keep:
		cost += keepWeight
	default:
		cost += moveWeight
	}
	return cost
}

// solve takes nodes out and puts them back in the best way, at most so many places being tried.
// force, unless negative, is one of them that may not stand where it stood; and what comes of it
// may cost so much more (slack). It reports whether anything was found and put in place: without
// force that costs less than before.
func (x *exact) solve(nodes []int, limit, force int, slack float64) bool {
	slices.SortFunc(nodes, func(a, b int) int { return x.order[a] - x.order[b] })
	was := make([]int, len(nodes))
	for i, n := range nodes {
		was[i], x.inside[n] = x.pl.slot[n], true
		x.pl.put(x.m, n, nowhere)
	}
	x.found, x.left = nil, limit
	if x.lay(nodes) {
		x.weigh(nodes, was)
		x.best = x.before + slack
		if i := slices.Index(nodes, force); i >= 0 {
			x.freed[i].choices = slices.DeleteFunc(x.freed[i].choices, func(c choice) bool { return c.slot == was[i] })
		}
		x.try(0, 0)
	}
	if x.found != nil {
		was = x.found
	}
	for i, n := range nodes {
		x.inside[n] = false
		x.pl.put(x.m, n, was[i])
	}
	return x.found != nil
}

// lay lists where each of the nodes taken out could stand. False: one could stand nowhere.
func (x *exact) lay(nodes []int) bool {
	for len(x.freed) < len(nodes) {
		x.freed = append(x.freed, freed{})
	}
	x.freed = x.freed[:len(nodes)]
	for i, n := range nodes {
		f, node := &x.freed[i], &x.m.nodes[n]
		f.node, f.needs, f.choices = n, f.needs[:0], f.choices[:0]
		waits := false // for something unplaced that is not taken out
		for _, a := range node.needs {
			if x.inside[a.node] {
				f.needs = append(f.needs, arc{slices.Index(nodes[:i], a.node), a.lag})
			} else {
				waits = waits || x.pl.slot[a.node] == nowhere
			}
		}
		for _, s := range x.m.usable[node.team] {
			if !waits && x.m.slots[node.team][s].Start >= node.notBefore && x.pl.fits(x.m, n, s) && x.lets(n, s) {
				f.choices = append(f.choices, x.choice(n, s))
			}
		}
		if !slices.ContainsFunc(node.wanted, func(w int) bool { return !x.inside[w] && x.pl.slot[w] != nowhere }) {
			f.choices = append(f.choices, x.choice(n, nowhere))
		}
		if len(f.choices) == 0 {
			return false
		}
	}
	return true
}

func (x *exact) choice(n, s int) choice {
	c := choice{slot: s, cost: x.cost(n, s)}
	for _, f := range x.finals[n] {
		if days := x.m.lateIf(&x.m.finals[f], n, s); days > 0 {
			c.late = append(c.late, lateBy{f, days})
		}
	}
	return c
}

// lets reports whether node n in slot s keeps its needs with all that is not taken out.
func (x *exact) lets(n, s int) bool {
	node, place := &x.m.nodes[n], x.m.place(n, s)
	for _, a := range node.needs {
		if !x.inside[a.node] && !needs.Holds(x.m.share, x.m.place(a.node, x.pl.slot[a.node]), place, a.lag) {
			return false
		}
	}
	for _, w := range node.wanted {
		if x.inside[w] || x.pl.slot[w] == nowhere {
			continue
		}
		for _, a := range x.m.nodes[w].needs {
			if a.node == n && !needs.Holds(x.m.share, place, x.m.place(w, x.pl.slot[w]), a.lag) {
				return false
			}
		}
	}
	return true
}

// weigh works out what the nodes cost where they were, and what is sure before any is put
// back: by how much the finals concerned are late whatever becomes of them, and the least that
// each costs.
func (x *exact) weigh(nodes, was []int) {
	x.sum, x.before = 0, 0
	var concerned []int
	for _, n := range nodes {
		for _, f := range x.finals[n] {
			if !slices.Contains(concerned, f) {
				concerned = append(concerned, f)
			}
		}
	}
	for _, at := range concerned {
		f := &x.m.finals[at]
		sure, now := 0, 0
		for _, n := range f.nodes {
			if !x.inside[n] {
				sure = max(sure, x.m.lateIf(f, n, x.pl.slot[n]))
			}
		}
		for i, n := range nodes {
			if slices.Contains(x.finals[n], at) {
				now = max(now, x.m.lateIf(f, n, was[i]))
				sure = max(sure, x.leastLate(f, i))
			}
		}
		x.before += lateWeight * float64(max(sure, now))
		x.late[at] = sure
		x.sum += sure
	}
	x.least = append(x.least[:0], make([]float64, len(nodes)+1)...)
	for i := len(nodes) - 1; i >= 0; i-- {
		least := x.freed[i].choices[0].cost
		for _, c := range x.freed[i].choices {
			least = min(least, c.cost)
		}
		x.least[i] = x.least[i+1] + least
		x.before += x.cost(nodes[i], was[i])
	}
}

// leastLate is by how many days a final is late at the least for the freed at a position.
func (x *exact) leastLate(f *final, i int) int {
	least := x.m.lateIf(f, x.freed[i].node, x.freed[i].choices[0].slot)
	for _, c := range x.freed[i].choices {
		least = min(least, x.m.lateIf(f, x.freed[i].node, c.slot))
	}
	return least
}

// try puts back the freed from a position on. cost is what those before cost.
func (x *exact) try(i int, cost float64) {
	if i == len(x.freed) {
		x.best = cost + lateWeight*float64(x.sum)
		x.found = x.found[:0]
		for k := range x.freed {
			x.found = append(x.found, x.pl.slot[x.freed[k].node])
		}
		return
	}
	f := &x.freed[i]
	for c := range f.choices {
		choice := &f.choices[c]
		hopeless := func() bool { return cost+choice.cost+x.least[i+1]+lateWeight*float64(x.sum) >= x.best-same }
		if hopeless() {
			continue
		}
		if x.left--; x.left <= 0 {
			return
		}
		if choice.slot != nowhere && (!x.pl.fits(x.m, f.node, choice.slot) || !x.holds(f, choice.slot)) {
			continue
		}
		f.undo = f.undo[:0]
		for _, l := range choice.late {
			if more := l.days - x.late[l.final]; more > 0 {
				f.undo = append(f.undo, lateBy{l.final, more})
				x.late[l.final] += more
				x.sum += more
			}
		}
		if !hopeless() {
			x.pl.put(x.m, f.node, choice.slot)
			x.try(i+1, cost+choice.cost)
			x.pl.put(x.m, f.node, nowhere)
		}
		for _, l := range f.undo {
			x.late[l.final] -= l.days
			x.sum -= l.days
		}
	}
}

// holds reports whether what a freed node needs among the freed is placed, early enough for slot s.
func (x *exact) holds(f *freed, s int) bool {
	for _, a := range f.needs {
		other := x.freed[a.node].node
		at := x.pl.slot[other]
		if at == nowhere || !needs.Holds(x.m.share, x.m.place(other, at), x.m.place(f.node, s), a.lag) {
			return false
		}
	}
	return true
}
