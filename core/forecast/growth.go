package forecast

import (
	"math"

	"jantrel/core/plan"
	"jantrel/core/program"
)

// GrowthBasis is where the growth of a release comes from.
type GrowthBasis string

// The bases.
const (
	GrowthSet      GrowthBasis = "set"      // somebody has set it for the release
	GrowthMeasured GrowthBasis = "measured" // from its past, by the journal
	GrowthAssumed  GrowthBasis = "assumed"  // the program assumes it
)

// Growth is by which share a release is taken to grow each iteration.
type Growth struct {
	Share float64     `json:"share"` // of its whole size; measured, the mean, which may be below 0
	Basis GrowthBasis `json:"basis"`
}

// growthOf is the growth of a release in plays, nil where it does not grow, and the shares that
// each of its teams draws from. What is set for it wins over what was measured, and that over what
// is assumed.
func growthOf(p *plan.Plan, r *program.Release, measured Measured) (*Growth, func(team string) []float64) {
	always := func(share float64) func(string) []float64 {
		return func(string) []float64 { return []float64{share} }
	}
	if r.Growth != nil {
		if *r.Growth == 0 {
			return nil, nil
		}
		return &Growth{*r.Growth, GrowthSet}, always(*r.Growth)
	}
	if byTeam, all := measured.of(p, r.Key); byTeam != nil {
		return &Growth{mean(all), GrowthMeasured}, func(team string) []float64 { return byTeam[team] }
	}
	if p.Settings.Growth == 0 {
		return nil, nil
	}
	return &Growth{p.Settings.Growth, GrowthAssumed}, always(p.Settings.Growth)
}

// grower is work that a team will get of a release beyond what is known: a node without an item,
// played as unplaced work. With each iteration that begins before the rest of the team's work of
// the release is done, it grows by a share of the whole.
type grower struct {
	node   int
	hash   uint64
	shares []float64 // one of which each iteration draws
	due    Date      // of its release: what is late grows less and less
	whole  float64   // size of all that the team has of the release, done or not
	rest   int       // how many of these are still to do
}

// addGrowth adds growers for the releases that grow, ranked behind their team's last item of the
// release that is still to do.
func (g *game) addGrowth(nodeOf []int, measured Measured) {
	g.growers = make([][]grower, len(g.teams))
	teams := g.p.TeamAt()
	for r := range g.p.Releases {
		release := &g.p.Releases[r]
		growth, sharesOf := growthOf(g.p, release, measured)
		if growth == nil {
			continue
		}
		for f := range g.finals {
			if g.finals[f].release == release.Key {
				g.finals[f].growth = growth
			}
		}
		whole, nodes := make([]float64, len(g.teams)), make([][]int, len(g.teams))
		for i := range g.p.Items {
			item := &g.p.Items[i]
			t, ok := teams[item.Team]
			if !ok || !g.tree.IsLeaf(i) || item.KeptOut || g.tree.Release(i) != release.Key {
				continue
			}
			n := nodeOf[i]
			if item.Size != nil {
				whole[t] += *item.Size
			} else if n >= 0 && !g.nodes[n].never {
				whole[t] += mean(g.nodes[n].sizes)
			}
			if n >= 0 && !g.nodes[n].never {
				nodes[t] = append(nodes[t], n)
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
			g.growers[t] = append(g.growers[t], grower{grown, hash(release.Key) ^ g.teams[t].hash, sharesOf(g.p.Teams[t].Key), release.Due, whole[t], len(list)})
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

// grow adds what teams get of their releases with the periods of a group: of one under way, for the
// days of it that are still to come. After the due date it is half as much for each iteration that has gone by. What is taken out takes from what has grown before.
func (g *game) grow(b *board, play uint64, of group) {
	for at := of.from; at < of.to; at++ {
		p := &g.periods[at]
		for k := range g.growers[p.team] {
			state := &b.growers[p.team][k]
			if state.rest == 0 {
				continue
			}
			share := state.shares[0]
			if len(state.shares) > 1 {
				share = state.shares[g.growth(b, at, k).pick(play)]
			}
			if late := p.Start - state.due; late > 0 && !state.due.IsZero() {
				share *= math.Exp2(-float64(late) / float64(p.Days()))
			}
			more := max(share*p.rest*state.whole, -b.state[state.node].left)
			state.whole += more
			b.state[state.node].left += more
			if b.notes && more != 0 {
				b.grown = append(b.grown, grown{state.node, p.Start, more})
			}
		}
	}
}

// growth is the luck of what the k-th grower of a period's team gets then.
func (g *game) growth(b *board, at, k int) *hand {
	p := &g.periods[at]
	if b.growing[at] == nil {
		b.growing[at] = make([]*hand, len(g.growers[p.team]))
	}
	of := &b.growing[at][k]
	if *of == nil {
		grower := &g.growers[p.team][k]
		*of = g.deck.hand(g.luck.of(grower.hash+ofGrowth, p.hash), len(grower.shares))
	}
	return *of
}

// shrinks notes that a node got done in a period; with the last of its release in the team what
// has grown is done as well, if nothing of it is left.
func (g *game) shrinks(b *board, n, at int) (more int) {
	node := &g.nodes[n]
	if node.item < 0 || node.grower < 0 {
		return 0
	}
	state := &b.growers[node.team][node.grower]
	if state.rest--; state.rest == 0 && b.state[state.node].left <= nothing {
		return g.finished(b, state.node, at)
	}
	return 0
}
