package forecast

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"gonum.org/v1/gonum/stat"

	"jantrel/core/capacity"
	"jantrel/core/program"
	"jantrel/core/words"
)

// follows is from which persistence on it is said that iterations tend to follow each other: twice what is expected
// before any pace is seen.
const follows = 0.4

// inARow is how many of the last paces in a row lie above a mean; below 0: below it.
func inARow(paces []float64, mean float64) (n int) {
	for i := len(paces) - 1; i >= 0; i-- {
		side := int(sign(paces[i] - mean))
		if side == 0 || n != 0 && side != int(sign(float64(n))) {
			break
		}
		n += side
	}
	return n
}

// describe notes what a team completes in an iteration in which nobody is away, and says why that is believed: its
// measured velocity, as it shows everywhere, where it has one.
func (g *game) describe(t int, past []float64, figures []capacity.Figure) {
	pace, team := &g.paces[t], &g.p.Teams[t]
	if pace.Basis == FromHistory {
		var measured []float64
		for _, of := range capacity.Histories(g.p)[t] {
			if of.Counts {
				measured = append(measured, of.Normalised)
			}
		}
		pace.Velocity, pace.Spread = stat.MeanStdDev(measured[len(measured)-len(past):], nil)
		pace.Recent = inARow(past, mean(past))
	} else if i := slices.IndexFunc(team.Iterations, func(it program.Iteration) bool { return it.Takes(g.today) }); i >= 0 {
		full, gait := cmp.Or(figures[i].Full, figures[i].Capacity), &g.teams[t].gait
		pace.Velocity, pace.Spread = full*gait.usual, full*gait.at[0].scale
	}
	pace.Says = pace.says(team)
}

// says puts a pace into a sentence or two.
func (p *Pace) says(team *program.Team) string {
	usual := fmt.Sprintf("%s ± %s %s per iteration", words.Number(p.Velocity), words.Number(p.Spread), team.Unit.Sign())
	switch p.Basis {
	case FromOthers:
		return usual + ", its capacity: too few past iterations of its own, so it varies as other teams do"
	case Assumed:
		return usual + ", a little below its capacity, as no team has enough past iterations"
	}
	says := fmt.Sprintf("%s, from %s", usual, words.Count(p.Samples, "past iteration"))
	side, speed := "above", "fast"
	if p.Recent < 0 {
		side, speed = "below", "slow"
	}
	switch n := max(p.Recent, -p.Recent); n {
	case 0:
	case 1:
		says += ", the last one " + side
	default:
		says += fmt.Sprintf(", the last %d %s", n, side)
	}
	if p.Samples < shortestOfAll {
		says += ". So few say little about how much it varies, and the forecast allows for that"
	}
	if p.Persistence >= follows && p.Recent != 0 {
		says += fmt.Sprintf(". %s iterations tend to follow each other, so the next one is likely to be %s too", strings.ToUpper(speed[:1])+speed[1:], speed)
	}
	switch p.Drift {
	case Slowing:
		says += ". It has been slowing down; the simulations don't assume that this continues"
	case Quickening:
		says += ". It has been speeding up; the simulations don't assume that this continues"
	}
	return says
}
