package forecast

import (
	"cmp"
	"fmt"
	"slices"

	"jantrel/core/plan"
	"jantrel/core/program"
)

// If is what plays take otherwise than the plan and its past say, so that it can be asked what
// would come of it. The plan stays as it is. The zero value changes nothing.
type If struct {
	Pace      map[string]float64 `json:"pace,omitempty"`      // what the velocities of teams are multiplied by, by their keys; "" is of all of them
	Scope     float64            `json:"scope,omitempty"`     // by which share what is left of ScopeOf is larger (0.1: a tenth) or smaller (−0.1)
	ScopeOf   Set                `json:"-"`                   // of which work; empty: of all
	NoGrowth  bool               `json:"noGrowth,omitempty"`  // releases do not grow
	NoTurned  bool               `json:"noTurned,omitempty"`  // sizes turn out as they were set
	NoRisks   bool               `json:"noRisks,omitempty"`   // no risk strikes
	PullAhead *bool              `json:"pullAhead,omitempty"` // whether teams take ahead what is planned for later
	Spread    float64            `json:"spread,omitempty"`    // paces are drawn so many times as far from their mean as they are; 0: as they are
	Last      int                `json:"last,omitempty"`      // so many of a team's latest closed iterations count, of those that do; 0: all
	Begin     Date               `json:"begin,omitzero"`      // what of ScopeOf has not begun does not before this day
	More      []Joined           `json:"more,omitempty"`      // who joins teams
	Away      []Left             `json:"away,omitempty"`      // who is away
	Out       []string           `json:"out,omitempty"`       // items that are kept out, with those below them
	In        []string           `json:"in,omitempty"`        // items that ScopeOf's release holds too, with those below them

	best   string // a team that goes as in the best third of its iterations
	steady string // a team that always goes at its mean
}

// Joined is somebody more in a team.
type Joined struct {
	Team  string  `json:"team"`
	Share float64 `json:"share"` // of their time, above 0 and at most 20: several people are one with as many shares
	From  Date    `json:"from"`  // their first day
}

// Left is somebody who is away.
type Left struct {
	Person string `json:"person"`
	From   Date   `json:"from"`        // the first day
	To     Date   `json:"to,omitzero"` // the last; none: for good
}

// maxIf is how much of a kind may be otherwise.
const maxIf = 200

// Check says what is wrong with what is asked.
func (f *If) Check(p *plan.Plan) error {
	for team, by := range f.Pace {
		if _, ok := p.TeamAt()[team]; team != "" && !ok {
			return fmt.Errorf("there is no team %q", team)
		}
		if !(by >= 0.05 && by <= 20) {
			return fmt.Errorf("a pace is multiplied by 0.05 to 20, not by %g", by)
		}
	}
	if !(f.Scope >= -0.99 && f.Scope <= 10) {
		return fmt.Errorf("work is smaller by 0.99 at the most, or larger by 10, not by %g", f.Scope)
	}
	if f.Spread != 0 && !(f.Spread >= 0 && f.Spread <= program.MaxSpread) {
		return fmt.Errorf("paces are drawn up to %d times as far from their mean, not %g", program.MaxSpread, f.Spread)
	}
	if f.Last != 0 && f.Last < enough {
		return fmt.Errorf("%d iterations count at the least, not %d: fewer tell nothing of how paces vary", enough, f.Last)
	}
	return f.checkPlan(p)
}

// pace is what a team's velocities are multiplied by.
func (f *If) pace(team string) float64 {
	factor := 1.0
	for _, key := range [...]string{"", team} {
		if by, ok := f.Pace[key]; ok {
			factor *= by
		}
	}
	return factor
}

// latest are the paces of a team that count.
func (f *If) latest(known []float64) []float64 {
	if f.Last > 0 && len(known) > f.Last {
		return known[len(known)-f.Last:]
	}
	return known
}

// gait is how fast a team is taken to go, by how fast it is believed to: it varies usually so many times as far from
// its mean as it did.
func (f *If) gait(team string, known gait, past []float64, usual float64) gait {
	switch {
	case team == "" || len(past) == 0:
	case team == f.best:
		sorted := slices.Sorted(slices.Values(past))
		known.usual, known.known = mean(sorted[len(sorted)-thirdOf(len(sorted)):]), false
		for k := range known.at {
			known.at[k].mean, known.at[k].unsure = known.usual, 0
		}
	case team == f.steady:
		known = steady(known.usual)
	}
	for k := range known.at {
		known.at[k].scale *= cmp.Or(f.Spread, 1) * usual
	}
	return known
}

// thirdOf is a third of so many, rounded up.
func thirdOf(n int) int { return (n + 2) / 3 }

// past is what the journal taught, as far as it is to be played.
func (f *If) past(known Past) Past {
	if f.NoTurned {
		known.Turned = nil
	}
	return known
}

// addScope makes what is asked about larger or smaller by a share.
func (g *game) addScope(nodeOf []int) {
	if g.asIf.Scope == 0 {
		return
	}
	by := 1 + g.asIf.Scope
	scale := func(n int) {
		if n >= 0 {
			g.nodes[n].size *= by
			g.nodes[n].share *= by
		}
	}
	if of := g.asIf.ScopeOf; of.Release != "" || len(of.Items) > 0 {
		for _, leaf := range g.leaves(of) {
			scale(nodeOf[leaf])
		}
		return
	}
	for n := range g.nodes {
		scale(n)
	}
}
