package forecast

import (
	"fmt"
	"strings"

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

// describe notes what a team is believed to complete in an iteration in which nobody is away, and says why.
func (g *game) describe(t int, figures []capacity.Figure, believed *tempos) {
	pace, tempo, team := &g.paces[t], &g.teams[t].tempo, &g.p.Teams[t]
	base := 0.0
	for i := range figures {
		if f := figures[i]; team.Iterations[i].Takes(g.today) {
			f.DaysWorked = f.DaysPresent
			if f.Full > 0 {
				f.Capacity = f.Full
			}
			base = g.base(t, f)
			break
		}
	}
	pace.Velocity, pace.Spread = base*tempo.usual, base*tempo.sd(&believed.persists)
	pace.Says = pace.says(team)
}

// sd is how far an iteration is likely to lie from the mean.
func (t *tempo) sd(persists *[len(persistences)]float64) (sd float64) {
	for k, p := range persists {
		sd += p * t.at[k].scale
	}
	return sd
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
