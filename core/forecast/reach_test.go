package forecast_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"jantrel/core/forecast"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/sample"
)

// How likely an item is done by a day is what its own landing says, whatever the program; and no
// more is done at higher odds.
func TestReachesAgreeWithLandings(t *testing.T) {
	seen := 0
	for seed := range sample.Seeds(10) {
		p := plan.Of(sample.Program(seed, sample.Shape{Teams: 3, Iterations: 6, Items: 30, Needs: 15, Wild: seed%2 == 0}))
		o := forecast.Options{Today: sample.Today, Plays: 300, Seed: seed, Workers: 2}
		by := sample.Today.Add(25)
		asked := make([]forecast.ReachAsked, len(p.Teams))
		for t := range p.Teams {
			asked[t].By = by
			for i := range p.Items {
				if p.Items[i].Team == p.Teams[t].Key && p.Tree().ToSchedule(i) {
					asked[t].Items = append(asked[t].Items, p.Items[i].Key)
				}
			}
		}
		for k, r := range forecast.Reaches(p, o, asked) {
			one := o
			for _, key := range asked[k].Items {
				one.Sets = append(one.Sets, forecast.Set{Key: key, Items: []string{key}, Due: by})
			}
			for _, l := range forecast.Play(p, one).Sets {
				seen++
				want := 0.0
				if l.Chance != nil {
					want = *l.Chance
				}
				assert.InDelta(t, want, r.Chances[l.Key], 1e-12, l.Key)
			}
			assert.GreaterOrEqual(t, r.Amounts[0].Size, r.Amounts[1].Size)
			assert.GreaterOrEqual(t, r.Amounts[1].Size, r.Amounts[2].Size)
		}
	}
	assert.Greater(t, seen, 100)
}

// A team that always does 10 points: A and B of 4 each are done by the end of its iteration, C of 5
// is not.
func TestWhatIsReachedByTheLastDay(t *testing.T) {
	p := pier(10, 10, 10)
	p.Items = []program.Item{work("A", 4, "d"), work("B", 4, "d"), work("C", 5, "d")}
	r := forecast.Reaches(plan.Of(p), forecast.Options{Today: monday, Plays: 50}, []forecast.ReachAsked{{Items: []string{"A", "B", "C"}, By: monday.Add(13)}})[0]
	assert.Equal(t, map[string]float64{"A": 1, "B": 1, "C": 0}, r.Chances)
	assert.Equal(t, []forecast.Amount{{Odds: 50, Size: 8, Chance: 1}, {Odds: 85, Size: 8, Chance: 1}, {Odds: 95, Size: 8, Chance: 1}}, r.Amounts)
}
