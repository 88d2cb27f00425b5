package forecast

import (
	"cmp"
	"slices"
	"sync"

	"jantrel/core/plan"
)

// ReachAsked is some items that it is asked about: how much of them is done by the end of a day.
type ReachAsked struct {
	Items []string
	By    Date
}

// Reach is how much of some items is done by a day.
type Reach struct {
	// Chances are, by item that is still to do, in which share of plays (0 to 1) it is done by
	// then. What cannot be played is never done.
	Chances map[string]float64
	// Amounts are the sizes done by then at given odds, of those still to do.
	Amounts []Amount
}

// Amount is a size that is reached, or passed, with given odds.
type Amount struct {
	Odds int     `json:"odds"`
	Size float64 `json:"size"` // in the team's unit; items without a size add nothing
	// Chance is that which it really carries, 0 to 1: more than the odds where much is alike, as where all of it
	// is done in most plays.
	Chance float64 `json:"chance"`
}

// reachOdds are the odds at which amounts are given.
var reachOdds = []int{50, 85, 95}

// Reaches plays the plan and says how much of some items is done by the end of a day: at odds q
// the (100 − q)-th percentile, over the plays, of the summed sizes of those done by then. They
// should be of one team, since sizes of different teams are never added up.
func Reaches(p *plan.Plan, o Options, asked []ReachAsked) []Reach {
	o.Plays, o.Releases = cmp.Or(max(0, o.Plays), defaultPlays), []string{""} // none: their landings are not asked for
	for i := range asked {
		o.Sets = append(o.Sets, Set{Items: asked[i].Items})
	}
	g := newGame(p, o)
	finals := g.finals[len(g.finals)-len(asked):]
	sums, chances := make([][]float64, len(asked)), make([]map[int]int, len(asked))
	for i := range asked {
		chances[i] = map[int]int{}
	}
	var all sync.Mutex
	g.playAll(o, func(int) func(*board) {
		return func(b *board) {
			all.Lock()
			defer all.Unlock()
			for i := range asked {
				sum := 0.0
				for _, n := range finals[i].nodes {
					if b.state[n].done < 0 || g.today.Add(int(b.state[n].day)) > asked[i].By {
						continue
					}
					chances[i][n]++
					if item := g.nodes[n].item; item >= 0 && g.p.Items[item].Size != nil {
						sum += *g.p.Items[item].Size
					}
				}
				sums[i] = append(sums[i], sum)
			}
		}
	})
	reaches := make([]Reach, len(asked))
	for i := range asked {
		r := Reach{Chances: map[string]float64{}, Amounts: []Amount{}}
		for _, key := range finals[i].cannot {
			r.Chances[key] = 0
		}
		for _, n := range finals[i].nodes {
			r.Chances[g.p.KeyOf(g.nodes[n].item)] = float64(chances[i][n]) / float64(o.Plays)
		}
		slices.Sort(sums[i])
		for _, odds := range reachOdds {
			if n := len(sums[i]); n > 0 {
				size := sums[i][n-(odds*n+99)/100]
				below, _ := slices.BinarySearch(sums[i], size)
				r.Amounts = append(r.Amounts, Amount{odds, size, float64(n-below) / float64(n)})
			}
		}
		reaches[i] = r
	}
	return reaches
}
