package forecast_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"jantrel/core/calendar"
	"jantrel/core/forecast"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/sample"
)

// The example of docs/forecast.md. A and B are 5 each and B needs A; the team does 10 an
// iteration. B stands in the third, so that it lands on 2 April, 21 days after the release is
// due on 12 March. By room both could be done by then, on the last working day of the first
// iteration; where they may not share one, B comes in the second, half of it: 19 March.
func TestHindsightKnowsRoomAndNeeds(t *testing.T) {
	p := pier(10, 10, 10)
	no := false
	p.Settings.PullAhead = &no
	p.Releases[0].Due = calendar.MustParse("2027-03-12")
	p.Items = []program.Item{work("A", 5, "d"), work("B", 5, "f")}
	p.Needs = []program.Need{{Item: "B", Needs: "A"}}
	o := forecast.Options{Today: monday, Plays: 20, Seed: 1}
	assert.Equal(t, 21.0, forecast.Play(plan.Of(p), o).ExpectedLateDays)
	assert.Equal(t, 0.0, forecast.Hindsight(plan.Of(p), o))
	p.Settings.SameIteration = program.ShareNever
	assert.Equal(t, 7.0, forecast.Hindsight(plan.Of(p), o))
	p.Items = append(p.Items, work("C", 10, "")) // 20 in all: to the end of the second, 26 March
	assert.Equal(t, 14.0, forecast.Hindsight(plan.Of(p), o))
	p.Items[1].Pinned = true // in the third, from 29 March on: half of it
	assert.Equal(t, 21.0, forecast.Hindsight(plan.Of(p), o))
}

// Whatever the program and wherever its items stand, no plan expects fewer late days.
func TestHindsightIsABound(t *testing.T) {
	for seed := range sample.Seeds(80) {
		p := sample.Program(seed, sample.Shape{Teams: 2 + int(seed%4), Iterations: 3 + int(seed%5), Items: 10 + int(seed%40), Needs: int(seed % 30), Wild: true, Cycles: seed%3 == 0})
		if seed%7 == 0 {
			p.Settings.Landing = program.IterationEnd
		}
		o := forecast.Options{Today: sample.Today.Add(int(seed % 11)), Plays: 60, Seed: seed, Workers: 1 + int(seed%2)}
		bound := forecast.Hindsight(plan.Of(p), o)
		assert.LessOrEqual(t, bound, forecast.Play(plan.Of(p), o).ExpectedLateDays+1e-9, "seed %d", seed)
		for i := range p.Items {
			if item := &p.Items[i]; !item.Pinned && !item.State.UnderWay() {
				item.Iteration = ""
			}
		}
		o.ByRank = true
		assert.LessOrEqual(t, bound, forecast.Play(plan.Of(p), o).ExpectedLateDays+1e-9, "by rank, seed %d", seed)
	}
}
