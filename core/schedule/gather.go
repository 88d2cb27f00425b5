package schedule

import "slices"

// gather brings the pieces of each rough size together: where an iteration between two of them has
// none, all of them are put one after another from the first iteration on from which that leaves
// fewer gaps, and no later than the last of them stands now. So nothing finishes later by it and
// no need breaks: what waits for one piece waits for all. Where none moves from today's place,
// they are left there.
func (m *model) gather(pl *sketch) {
	if m.keep {
		return // nothing moves that need not
	}
	for from := 0; from < len(m.nodes); {
		to := from + 1
		piece, rough := m.p.Piece(m.nodes[from].item)
		for rough && to < len(m.nodes) {
			if next, is := m.p.Piece(m.nodes[to].item); !is || next.Nth == 0 || next.Of != piece.Of {
				break
			}
			to++
		}
		if rough {
			m.gatherPieces(pl, from, to)
		}
		from = to
	}
}

// gatherPieces does so for the nodes from one up to another, which are the pieces of one rough size.
func (m *model) gatherPieces(pl *sketch, from, to int) {
	usable := m.usable[m.nodes[from].team]
	at := func(n int) int { return slices.Index(usable, pl.slot[n]) }
	var nodes, before []int
	first, last, moves := len(usable), -1, false
	for n := from; n < to; n++ {
		if at(n) < 0 || m.nodes[n].fixed {
			continue
		}
		nodes, before = append(nodes, n), append(before, pl.slot[n])
		first, last = min(first, at(n)), max(last, at(n))
		moves = moves || pl.slot[n] != m.nodes[n].now
	}
	gaps := func() int {
		used := map[int]bool{}
		low, high := len(usable), -1
		for _, n := range nodes {
			used[at(n)], low, high = true, min(low, at(n)), max(high, at(n))
		}
		return high - low + 1 - len(used)
	}
	if !moves || gaps() == 0 {
		return
	}
	takeOut := func() {
		for _, n := range nodes {
			pl.put(m, n, nowhere)
		}
	}
	best := gaps()
	for start := first + 1; start <= last && best > 0; start++ {
		takeOut()
		reached, fits := start, true
		for _, n := range nodes {
			for reached <= last && !(pl.fits(m, n, usable[reached]) && pl.allowed(m, n, usable[reached])) {
				reached++
			}
			if fits = reached <= last; !fits {
				break
			}
			pl.put(m, n, usable[reached])
		}
		if now := gaps(); fits && now < best {
			best = now
			for i, n := range nodes {
				before[i] = pl.slot[n]
			}
		}
	}
	takeOut()
	for i, n := range nodes {
		pl.put(m, n, before[i])
	}
}
