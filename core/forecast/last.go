package forecast

import (
	"cmp"

	"jantrel/core/plan"
)

// Last returns, of the leaves that some items stand for, in which share of the plays (0 to 1)
// each of them was done on the day on which the last of them was; several may be. Plays that do
// not end count for those that were not done.
func Last(p *plan.Plan, o Options, items []string) map[string]float64 {
	o.Plays = cmp.Or(max(0, o.Plays), defaultPlays)
	o.Sets = []Set{{Items: items}}
	g := newGame(p, o)
	nodes := g.finals[len(g.finals)-1].nodes
	counts := newTally(o.Workers, len(nodes))
	g.playAll(o, func(worker int) func(*board) {
		part := counts.parts[worker]
		return func(b *board) {
			last := g.finish(b, nodes)
			for i, n := range nodes {
				if b.done[n] < 0 || int(last) < g.horizon && b.day[n] == last {
					part[i]++
				}
			}
		}
	})
	shares := map[string]float64{}
	for i, count := range counts.sum() {
		shares[g.p.Items[g.nodes[nodes[i]].item].Key] = float64(count) / float64(o.Plays)
	}
	return shares
}
