package forecast

import (
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

	best   string // a team that goes as in the best third of its iterations
	steady string // a team that always goes at its mean
}

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
	return nil
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

// samples are what a team's velocities are drawn from.
func (f *If) samples(team string, known []float64) []float64 {
	switch {
	case team == "" || len(known) == 0:
	case team == f.best:
		sorted := slices.Sorted(slices.Values(known))
		return sorted[len(sorted)-thirdOf(len(sorted)):]
	case team == f.steady:
		return []float64{mean(known)}
	}
	return known
}

// thirdOf is a third of so many, rounded up.
func thirdOf(n int) int { return (n + 2) / 3 }

// of is a plan with other settings, where some are asked about.
func (f *If) of(p *plan.Plan) *plan.Plan {
	if f.PullAhead == nil && !f.NoGrowth && !f.NoRisks {
		return p
	}
	next := p.Program
	if f.PullAhead != nil {
		next.Settings.PullAhead = f.PullAhead
	}
	if f.NoRisks {
		next.Risks = nil
	}
	if f.NoGrowth {
		next.Settings.Growth = 0
		next.Releases = append([]program.Release(nil), next.Releases...)
		for i := range next.Releases {
			none := 0.0
			next.Releases[i].Growth = &none
		}
	}
	return plan.After(p, next)
}

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
