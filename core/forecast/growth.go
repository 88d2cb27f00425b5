package forecast

import (
	"jantrel/core/plan"
	"jantrel/core/program"
)

// GrowthBasis is where the growth of a release comes from.
type GrowthBasis string

// The bases.
const (
	GrowthSet     GrowthBasis = "set"     // somebody has set it for the release
	GrowthAssumed GrowthBasis = "assumed" // the program assumes it
)

// Growth is by which share a release is taken to grow each iteration.
type Growth struct {
	Share float64     `json:"share"` // of its whole size, 0..1
	Basis GrowthBasis `json:"basis"`
}

// GrowthOf is the growth of a release in plays; nil where it does not grow.
func GrowthOf(p *plan.Plan, r *program.Release) *Growth {
	switch {
	case r.Growth != nil && *r.Growth > 0:
		return &Growth{*r.Growth, GrowthSet}
	case r.Growth == nil && p.Settings.Growth > 0:
		return &Growth{p.Settings.Growth, GrowthAssumed}
	}
	return nil
}

// grower is work that a team will get of a release beyond what is known: a node without an item,
// played as unplaced work. With each iteration that begins before the rest of the team's work of
// the release is done, it grows by a share of the whole.
type grower struct {
	node  int
	share float64
	whole float64 // size of all that the team has of the release, done or not
	rest  int     // how many of these are still to do
}

// addGrowth adds growers for the releases that grow, ranked behind their team's last item of the
// release that is still to do.
func (g *game) addGrowth(nodeOf []int) {
	g.growers = make([][]grower, len(g.teams))
	teams := g.p.TeamAt()
	for r := range g.p.Releases {
		release := &g.p.Releases[r]
		growth := GrowthOf(g.p, release)
		if growth == nil {
			continue
		}
		whole, nodes := make([]float64, len(g.teams)), make([][]int, len(g.teams))
		for i := range g.p.Items {
			item := &g.p.Items[i]
			t, ok := teams[item.Team]
			if !ok || !g.tree.IsLeaf(i) || item.KeptOut || g.tree.Release(i) != release.Key {
				continue
			}
			if item.Size != nil {
				whole[t] += *item.Size
			}
			if n := nodeOf[i]; n >= 0 && !g.nodes[n].never {
				nodes[t] = append(nodes[t], n)
				whole[t] += mean(g.nodes[n].sizes)
			}
		}
		for t, list := range nodes {
			if len(list) == 0 {
				continue
			}
			grown := len(g.nodes)
			g.nodes = append(g.nodes, node{item: -1, team: t, share: 1, grower: len(g.growers[t])})
			for _, n := range list {
				g.nodes[n].grower = len(g.growers[t])
			}
			g.growers[t] = append(g.growers[t], grower{grown, growth.Share, whole[t], len(list)})
			g.rankBehind(t, grown, list[len(list)-1])
			for f := range g.finals {
				if g.finals[f].release == release.Key {
					g.finals[f].nodes = append(g.finals[f].nodes, grown)
				}
			}
		}
	}
}

// rankBehind puts a node into the queue of what is unplaced, behind all up to another by rank.
func (g *game) rankBehind(t, n, last int) {
	ahead := g.teams[t].ahead
	at := len(ahead)
	for at > 0 && ahead[at-1] > last {
		at--
	}
	g.teams[t].ahead = append(ahead[:at:at], append([]int{n}, ahead[at:]...)...)
}

// grow adds what a team gets of its releases with a period: of one under way, for the days of it
// that are still to come.
func (g *game) grow(b *board, at int) {
	p := &g.periods[at]
	for k := range g.growers[p.team] {
		if state := &b.growers[p.team][k]; state.rest > 0 {
			more := state.share * p.rest * state.whole
			state.whole += more
			b.left[state.node] += more
		}
	}
}

// shrinks notes that a node got done in a period; with the last of its release in the team what
// has grown is done as well, if nothing of it is left.
func (g *game) shrinks(b *board, n, at int) (more int) {
	node := &g.nodes[n]
	if node.item < 0 || node.grower < 0 {
		return 0
	}
	state := &b.growers[node.team][node.grower]
	if state.rest--; state.rest == 0 && b.left[state.node] <= nothing {
		g.finished(b, state.node, at)
		return 1
	}
	return 0
}
