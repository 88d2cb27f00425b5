package forecast

import (
	"cmp"

	"jantrel/core/plan"
)

// Decides returns, of each release that is still to land and each team with work left in it, in which
// share of the plays (0 to 1) the team's last item is done on the day on which the release lands: how
// often a day that the team loses is one that the release loses. Several teams may decide in one play.
// Plays that do not end count for the teams that had work left.
func Decides(p *plan.Plan, o Options) map[string]map[string]float64 {
	o.Plays = cmp.Or(max(0, o.Plays), defaultPlays)
	g := newGame(p, o)
	teams := len(g.teams)
	counts := newTally(o.Workers, g.releases*teams)
	g.playAll(o, func(worker int) func(*board) {
		part, seen := counts.parts[worker], make([]bool, teams)
		return func(b *board) {
			for f := range g.releases {
				last := g.finish(b, g.finals[f].nodes)
				clear(seen)
				for _, n := range g.finals[f].nodes {
					s, t := &b.state[n], g.nodes[n].team
					if !seen[t] && (s.done < 0 || int(last) < g.horizon && s.day == last) {
						seen[t] = true
						part[f*teams+t]++
					}
				}
			}
		}
	})
	shares := map[string]map[string]float64{}
	for i, n := range counts.sum() {
		if n == 0 {
			continue
		}
		key, team := g.finals[i/teams].key, g.p.Teams[i%teams].Key
		if shares[key] == nil {
			shares[key] = map[string]float64{}
		}
		shares[key][team] = float64(n) / float64(o.Plays)
	}
	return shares
}
