package schedule

import (
	"math/rand/v2"
	"slices"
)

// How an improver goes about it. What matters little: a test measures how near the optimum it
// comes with these.
const (
	placesTried = 5_000_000 // in all: about 0.4 s
	placesOnce  = 4_000     // in one neighbourhood
	leastFreed  = 4
	mostFreed   = 16
	fewestMoves = 10   // with no more nodes than that all are taken out at once
	forcedShare = 0.5  // of the neighbourhoods: one node has to leave its place
	worstSlack  = 0.05 // what that may cost at first, as a share of the cost but for late days
)

// improver makes a schedule better by a large-neighbourhood search: again and again it takes
// about a dozen related nodes out of their slots and puts them back in the best of all ways.
// In half of these one of them has to go elsewhere, at a cost that is allowed less and less
// (simulated annealing), so that it leaves what is best only nearby.
type improver struct {
	*exact
	random  *rand.Rand
	moves   []bool // of each node: it can be placed, and elsewhere
	movable []int  // those that do
	byTeam  [][]int
}

// improve returns the best schedule that it comes to from one, with about so many places tried.
// It fills slots no more than the model lets it; one that is fuller takes nothing more.
func (m *model) improve(from []int, places int, stop func() bool) sketch {
	pl := m.standing(from)
	x := &improver{exact: m.newExact(&pl), random: rand.New(rand.NewPCG(uint64(len(m.nodes)), 5)), moves: m.moves(), byTeam: make([][]int, len(m.slots))}
	scale := 0.0
	for n := range m.nodes {
		if node := &m.nodes[n]; x.moves[n] {
			x.movable = append(x.movable, n)
			x.byTeam[node.team] = append(x.byTeam[node.team], n)
			if node.counts {
				scale += node.weight * float64(m.end(n, pl.slot[n])-m.today)
			}
		}
	}
	if len(x.movable) == 0 {
		return pl
	}
	if len(x.movable) <= fewestMoves {
		if x.solve(slices.Clone(x.movable), placesTried, -1, 0); x.left > 0 {
			return pl // which nothing is better than
		}
	}
	best, bestCost, cost, size := slices.Clone(pl.slot), 0.0, 0.0, 8.0
	for left := places; left > 0 && (stop == nil || !stop()); {
		nodes := x.related(int(size))
		left -= x.work(nodes)
		if force := nodes[0]; x.random.Float64() < forcedShare {
			slack := scale * worstSlack * float64(left) / float64(places) * x.random.Float64()
			if x.solve(nodes, placesOnce, force, slack) {
				cost += x.exact.best - x.before
			}
		} else {
			switch better := x.solve(nodes, placesOnce, -1, 0); {
			case better:
				cost += x.exact.best - x.before
			case x.left > 0: // nothing better is left: look further
				size = min(mostFreed, size+0.1)
			default:
				size = max(leastFreed, size-0.2)
			}
		}
		left -= placesOnce - max(0, x.left)
		if cost < bestCost-same {
			bestCost = cost
			copy(best, pl.slot)
		}
	}
	for _, n := range x.movable {
		pl.put(m, n, best[n])
	}
	m.pullForward(&pl)
	return pl
}

// moves reports of each node whether it can be placed, and elsewhere than it is: it is not fixed,
// and neither it nor anything that it waits for has to stay unplaced.
func (m *model) moves() []bool {
	moves := make([]bool, len(m.nodes))
	for n := range moves {
		moves[n] = !m.nodes[n].fixed
	}
	var stays func(n int)
	stays = func(n int) {
		if moves[n] {
			moves[n] = false
			for _, w := range m.nodes[n].wanted {
				stays(w)
			}
		}
	}
	for n := range m.nodes {
		if m.nodes[n].never != nil {
			stays(n)
		}
	}
	return moves
}

// work is about how many places could be tried in the time that it takes to choose nodes and to
// take them out.
func (x *improver) work(nodes []int) int {
	work := 10 * len(nodes)
	for _, n := range nodes {
		work += len(x.byTeam[x.m.nodes[n].team]) / 8
	}
	for _, f := range x.finals[nodes[0]] {
		work += len(x.m.finals[f].nodes) / 4
	}
	return work
}

// related chooses about so many nodes to take out; the first has to move where one has to.
func (x *improver) related(size int) []int {
	start := x.movable[x.random.IntN(len(x.movable))]
	switch x.random.IntN(5) {
	case 0:
		if n := x.latest(); n >= 0 {
			start = n
		}
	case 1:
		if n := x.unplaced(); n >= 0 {
			return x.repack(n, size)
		}
	case 2:
		return x.repack(start, size)
	}
	return x.near(start, size)
}

// latest is a node that makes something as late as it is, -1 where nothing is late.
func (x *improver) latest() int {
	if len(x.m.finals) == 0 {
		return -1
	}
	f := &x.m.finals[x.random.IntN(len(x.m.finals))]
	worst, last := 0, -1
	for _, n := range f.nodes {
		if days := x.m.lateIf(f, n, x.pl.slot[n]); x.moves[n] && (days > worst || days == worst && days > 0 && x.random.IntN(2) == 0) {
			worst, last = days, n
		}
	}
	return last
}

// unplaced is a node that stands nowhere, -1 where there is none.
func (x *improver) unplaced() int {
	from := x.random.IntN(len(x.movable))
	for i := range x.movable {
		if n := x.movable[(from+i)%len(x.movable)]; x.pl.slot[n] == nowhere {
			return n
		}
	}
	return -1
}

// repack takes a node and what stands in two or three iterations of its team: so that what fits
// into them may be packed another way.
func (x *improver) repack(start, size int) []int {
	team := x.m.nodes[start].team
	nodes, usable, mates := []int{start}, x.m.usable[team], x.byTeam[team]
	for range 2 + x.random.IntN(2) {
		at, from := usable[x.random.IntN(len(usable))], x.random.IntN(len(mates))
		for i := range mates {
			if n := mates[(from+i)%len(mates)]; len(nodes) < size+4 && x.pl.slot[n] == at && !slices.Contains(nodes, n) {
				nodes = append(nodes, n)
			}
		}
	}
	return nodes
}

// near takes a node, what it needs and what needs it, and what stands close to these.
func (x *improver) near(start, size int) []int {
	nodes := []int{start}
	add := func(n int) {
		if len(nodes) < size && x.moves[n] && !slices.Contains(nodes, n) {
			nodes = append(nodes, n)
		}
	}
	along := x.random.IntN(3) // 0: needs and neighbours, 1: neighbours alone, 2: needs alone
	for i := 0; i < len(nodes) && len(nodes) < size; i++ {
		node := &x.m.nodes[nodes[i]]
		if along != 1 {
			for _, a := range node.needs {
				add(a.node)
			}
			for _, w := range node.wanted {
				add(w)
			}
		}
		if along == 2 {
			continue
		}
		mates, at, reach := x.byTeam[node.team], x.position(nodes[i]), 1+x.random.IntN(3)
		from := x.random.IntN(len(mates))
		for k := range mates {
			other := mates[(from+k)%len(mates)]
			if d := x.position(other) - at; d >= -reach && d <= 1 && x.random.IntN(3) > 0 {
				add(other)
			}
		}
	}
	mates := x.byTeam[x.m.nodes[start].team]
	for range size {
		add(mates[x.random.IntN(len(mates))])
	}
	return nodes
}

// position is where a node stands among the usable slots of its team; after the last where it
// stands nowhere.
func (x *improver) position(n int) int {
	usable := x.m.usable[x.m.nodes[n].team]
	if at := slices.Index(usable, x.pl.slot[n]); at >= 0 {
		return at
	}
	return len(usable)
}
