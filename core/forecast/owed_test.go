package forecast_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/forecast"
	"jantrel/core/needs"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/sample"
)

// The need of docs/needs.md: a team does 10 an iteration, and what another one wants by the end of the first is 5 of its
// 10 there; by then it is done. Were it 15, it would not be.
func TestTheOddsOfWhatIsOwed(t *testing.T) {
	p := pier(10, 10, 10)
	other := p.Teams[0]
	other.Key, other.Name = "U", "U"
	p.Teams = append(p.Teams, other)
	p.Items = []program.Item{work("A", 5, "d"), work("B", 5, "d"), work("W", 3, "e"), work("X", 3, "")}
	p.Items[2].Team, p.Items[3].Team = "U", "U"
	p.Needs = []program.Need{{Item: "W", Needs: "B"}, {Item: "X", Needs: "A"}}
	odds := func() []*float64 {
		pl := plan.Of(p)
		return forecast.InTime(pl, forecast.Options{Today: monday, Plays: 40, Seed: 1}, needs.OwedOf(pl))
	}
	require.NotNil(t, odds()[0])
	assert.InDelta(t, 1, *odds()[0], 0)
	assert.Nil(t, odds()[1], "what waits has no place")
	*p.Items[1].Size = 15
	assert.InDelta(t, 0, *odds()[0], 0)
}

// The odds of what is owed are those that the question when it is done has of it.
func TestTheOddsOfWhatIsOwedAreThoseOfWhen(t *testing.T) {
	for seed := range sample.Seeds(10) {
		p := plan.Of(sample.Program(seed, sample.Shape{Teams: 3, Iterations: 6, Items: 40, Needs: 40}))
		o := forecast.Options{Today: sample.Today, Plays: 60, Seed: seed}
		owed := needs.OwedOf(p)
		for i, chance := range forecast.InTime(p, o, owed) {
			if chance == nil || !p.Tree().IsLeaf(p.Tree().Index[owed[i].Needs]) {
				continue
			}
			set := forecast.Set{Key: "x", Items: []string{owed[i].Needs}, Due: owed[i].By}
			assert.Equal(t, forecast.OutlookOf(p, forecast.OutlookQuestion{Options: o, Set: set}).Landing.Chance, chance, "%d %v", seed, owed[i])
		}
	}
}
