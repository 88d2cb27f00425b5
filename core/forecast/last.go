package forecast

import (
	"cmp"
	"slices"

	"jantrel/core/plan"
)

// Last returns, of the leaves that a set stands for, in which share of the plays (0 to 1)
// each of them was done on the day on which the last of them was; several may be. Plays that do
// not end count for those that were not done. What is rough stands under the key of its item.
func Last(p *plan.Plan, o Options, set Set) map[string]float64 {
	o.Plays = cmp.Or(max(0, o.Plays), defaultPlays)
	o.Sets = []Set{set}
	g := newGame(p, o)
	nodes := g.itemsOfSet()
	counts := newTally(o.Workers, len(nodes))
	g.playAll(o, func(worker int) func(*board) {
		part := counts.parts[worker]
		return func(b *board) {
			last := g.finish(b, nodes)
			for i, n := range nodes {
				if b.state[n].done < 0 || int(last) < g.horizon && b.state[n].day == last {
					part[i]++
				}
			}
		}
	})
	shares := map[string]float64{}
	for i, count := range counts.sum() {
		key := g.p.KeyOf(g.nodes[nodes[i]].item)
		shares[key] = max(shares[key], float64(count)/float64(o.Plays))
	}
	return shares
}

// itemsOfSet are the nodes of the set that is asked about last: by how much it will have grown is nobody's item.
func (g *game) itemsOfSet() []int {
	return slices.DeleteFunc(g.finals[len(g.finals)-1].nodes, func(n int) bool { return g.nodes[n].item < 0 })
}
