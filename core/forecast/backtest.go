package forecast

import (
	"slices"

	"gonum.org/v1/gonum/stat"

	"jantrel/core/plan"
	"jantrel/core/program"
)

// BackTest is how good forecasts were.
type BackTest struct {
	Kept       []Kept         `json:"kept"`       // how often what was said of iterations came
	Iterations []Said         `json:"iterations"` // the oldest first: those that the journal tells of from their start on, with work of a size
	Releases   []SaidLanding  `json:"releases"`   // what was said of releases before they landed
	Errors     []LandingError `json:"errors"`     // by how much that was wrong
	Wider      []Wider        `json:"wider"`      // what wider paces would have said; none where forecasts were not too sure
	Teams      []Commitment   `json:"teams"`
	LeftOut    int            `json:"leftOut"` // how many earlier iterations were not looked at
	More       bool           `json:"more"`    // there was no time for all: asked again, more is told
}

// Wider is how often what was said would have come, had paces varied more than they were taken to.
type Wider struct {
	Spread float64 `json:"spread"` // so many times as much as they did: see Settings.Spread
	Kept   []Kept  `json:"kept"`
}

// WiderSpreads are the spreads that are tried where forecasts were too sure.
var WiderSpreads = []float64{1.25, 1.5, 2, 3}

// Said is what was said of an iteration when it began, and what came of it.
type Said struct {
	Team      string   `json:"team"`
	Iteration string   `json:"iteration"`
	On        Date     `json:"on"`    // the end of the day on which it was said: the iteration's first
	By        Date     `json:"by"`    // the iteration's last day
	Items     int      `json:"items"` // that stood in it then and were to do
	Size      float64  `json:"size"`  // of these, in the team's unit
	Said      []Amount `json:"said"`  // how much of that would be done by then, at odds of 50, 85 and 95 %
	Came      float64  `json:"came"`  // how much of it was
}

// SaidOf is what a plan of the end of an iteration's first day said of it, and what came of it by the plan of
// the end of its last. False where nothing of it was to do, or nothing of that had a size.
func SaidOf(then, after *plan.Plan, o Options, team, iteration string) (Said, bool) {
	t, ok := then.TeamAt()[team]
	if !ok {
		return Said{}, false
	}
	at := slices.IndexFunc(then.Teams[t].Iterations, func(it program.Iteration) bool { return it.Key == iteration })
	if at < 0 {
		return Said{}, false
	}
	it := &then.Teams[t].Iterations[at]
	said := Said{Team: team, Iteration: iteration, On: o.Today, By: it.End}
	var items []string
	tree, later := then.Tree(), after.Tree()
	for i := range then.Items {
		item := &then.Items[i]
		if item.Team != team || item.Iteration != iteration || !tree.ToSchedule(i) || item.Size == nil {
			continue
		}
		items = append(items, item.Key)
		said.Size += *item.Size
		if now, there := later.Index[item.Key]; there && after.Items[now].State == program.Done {
			said.Came += *item.Size
		}
	}
	said.Items = len(items)
	if said.Size == 0 {
		return said, false
	}
	said.Said = Reaches(then, o, []ReachAsked{{Items: items, By: it.End}})[0].Amounts
	return said, true
}

// Kept is how often what was said at some odds came.
type Kept struct {
	Odds int     `json:"odds"`
	Of   int     `json:"of"`
	Came int     `json:"came"`
	Said float64 `json:"said"` // the mean of the chances that were really said, 0 to 1: at least the odds
	// Least and Most are between which luck alone keeps that number in 9 of 10 cases, had the chances been right: the
	// 5th and the 95th percentile of the number of successes of so many tries, each with its chance (the Poisson
	// binomial distribution).
	Least int `json:"least"`
	Most  int `json:"most"`
}

// Within reports whether luck alone can account for it.
func (k Kept) Within() bool { return k.Came >= k.Least && k.Came <= k.Most }

// TooSure reports whether less came than luck alone explains, at any odds.
func TooSure(kept []Kept) bool {
	return slices.ContainsFunc(kept, func(k Kept) bool { return k.Came < k.Least })
}

// KeptOf counts how often what was said came: as much as that, or more. It takes time quadratic in what was said.
func KeptOf(all []Said) []Kept {
	kept := make([]Kept, 0, len(reachOdds))
	for i, odds := range reachOdds {
		k := Kept{Odds: odds, Of: len(all)}
		number := make([]float64, len(all)+1) // the chance that so many come
		number[0] = 1
		for n, s := range all {
			if s.Came >= s.Said[i].Size-nothing {
				k.Came++
			}
			chance := s.Said[i].Chance
			k.Said += chance / float64(len(all))
			for come := n + 1; come >= 0; come-- {
				number[come] *= 1 - chance
				if come > 0 {
					number[come] += number[come-1] * chance
				}
			}
		}
		k.Least, k.Most = percentileOf(number, 0.05), percentileOf(number, 0.95)
		kept = append(kept, k)
	}
	return kept
}

// percentileOf is the first number that is not passed in a share of cases, by the chance of each.
func percentileOf(number []float64, share float64) int {
	sum := 0.0
	for n, chance := range number {
		if sum += chance; sum >= share-nothing {
			return n
		}
	}
	return len(number) - 1
}

// Commitment is how much of what a team committed to it completed, over its closed iterations that say both.
type Commitment struct {
	Team       string  `json:"team"`
	Iterations int     `json:"iterations"`
	Committed  float64 `json:"committed"` // in all, in its unit
	Completed  float64 `json:"completed"`
	Mean       float64 `json:"mean"`   // of completed ÷ committed
	Spread     float64 `json:"spread"` // standard deviation of these
}

// CommitmentsOf are those of all teams that have some.
func CommitmentsOf(p *plan.Plan) []Commitment {
	all := []Commitment{}
	for t := range p.Teams {
		c, shares := Commitment{Team: p.Teams[t].Key}, []float64{}
		for _, it := range p.Teams[t].Iterations {
			if it.State != program.Closed || it.Completed == nil || it.Committed == nil || *it.Committed <= 0 {
				continue
			}
			c.Committed, c.Completed = c.Committed+*it.Committed, c.Completed+*it.Completed
			shares = append(shares, *it.Completed / *it.Committed)
		}
		if c.Iterations = len(shares); c.Iterations == 0 {
			continue
		}
		c.Mean = mean(shares)
		if c.Iterations > 1 {
			c.Spread = stat.StdDev(shares, nil)
		}
		all = append(all, c)
	}
	return all
}
