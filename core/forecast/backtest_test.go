package forecast_test

import (
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/forecast"
	"jantrel/core/plan"
	"jantrel/core/program"
)

// A team that always does 10 has 12 in the iteration, of which A, of 4, and B, of 5, come: 9 was said, and 9
// came; of C, of 3, nothing.
func TestWhatWasSaidOfAnIterationAndWhatCame(t *testing.T) {
	p := pier(10, 10, 10)
	p.Items = []program.Item{work("A", 4, "d"), work("B", 5, "d"), work("C", 3, "d"), work("D", 2, "e")}
	then := plan.Of(p)
	later := p
	later.Items = append([]program.Item(nil), p.Items...)
	later.Items[0].State, later.Items[1].State, later.Items[3].State = program.Done, program.Done, program.Done
	said, ok := forecast.SaidOf(then, plan.Of(later), forecast.Options{Today: monday, Plays: 40, Seed: 1}, "T", "d")
	require.True(t, ok)
	assert.Equal(t, forecast.Said{
		Team: "T", Iteration: "d", On: monday, By: monday.Add(13), Items: 3, Size: 12, Came: 9,
		Said: []forecast.Amount{{Odds: 50, Size: 9, Chance: 1}, {Odds: 85, Size: 9, Chance: 1}, {Odds: 95, Size: 9, Chance: 1}},
	}, said)
	_, ok = forecast.SaidOf(then, plan.Of(later), forecast.Options{Today: monday, Plays: 4}, "T", "f")
	assert.False(t, ok, "nothing stands in it")
	_, ok = forecast.SaidOf(then, plan.Of(later), forecast.Options{Today: monday, Plays: 4}, "T", "z")
	assert.False(t, ok)
}

// Of ten at 85 % luck alone lets 7 to 10 come: five and less in 1 %, six in 4 of 100 more.
func TestHowOftenWhatWasSaidCame(t *testing.T) {
	var all []forecast.Said
	for i := range 10 {
		came := 9.0
		if i < 4 {
			came = 8
		}
		all = append(all, forecast.Said{Came: came, Said: []forecast.Amount{{Odds: 50, Size: 10, Chance: 0.5}, {Odds: 85, Size: 9, Chance: 0.85}, {Odds: 95, Size: 8, Chance: 0.95}}})
	}
	kept := forecast.KeptOf(all)
	for i, want := range []forecast.Kept{
		{Odds: 50, Of: 10, Came: 0, Said: 0.5, Least: 2, Most: 8}, {Odds: 85, Of: 10, Came: 6, Said: 0.85, Least: 7, Most: 10}, {Odds: 95, Of: 10, Came: 10, Said: 0.95, Least: 8, Most: 10},
	} {
		assert.InDelta(t, want.Said, kept[i].Said, 1e-9)
		want.Said = kept[i].Said
		assert.Equal(t, want, kept[i])
	}
	// What was said was surer than its odds: all of it, in every play.
	for i := range all {
		all[i].Came, all[i].Said[0] = 10, forecast.Amount{Odds: 50, Size: 10, Chance: 1}
	}
	sure := forecast.KeptOf(all)[0]
	assert.InDelta(t, 1, sure.Said, 1e-9)
	assert.Equal(t, []int{10, 10, 10}, []int{sure.Came, sure.Least, sure.Most})
	assert.Equal(t, []bool{false, false, true}, []bool{kept[0].Within(), kept[1].Within(), kept[2].Within()})
	assert.Equal(t, forecast.Kept{Odds: 50}, forecast.KeptOf(nil)[0])
}

// Teams whose iterations are drawn as the plays draw them keep what was said as often as was said: a little less, as twelve
// iterations do not show all that may come.
func TestABackTestOfTeamsThatAreAsThePlaysTakeThem(t *testing.T) {
	r := rand.New(rand.NewPCG(4, 2))
	pace := func() float64 { return 20 * (0.7 + 0.6*r.Float64()) }
	var all []forecast.Said
	for world := range 400 {
		p := pier()
		past := make([]float64, 12)
		for i := range past {
			past[i] = pace()
		}
		p = pier(past...)
		for i := range 30 {
			p.Items = append(p.Items, work("I"+string(rune('A'+i)), 1, string(rune('a'+12))))
		}
		later := p
		later.Items = append([]program.Item(nil), p.Items...)
		for i := range int(pace()) {
			later.Items[i].State = program.Done
		}
		said, ok := forecast.SaidOf(plan.Of(p), plan.Of(later), forecast.Options{Today: monday, Plays: 400, Seed: uint64(world)}, "T", string(rune('a'+12)))
		require.True(t, ok)
		all = append(all, said)
	}
	for _, k := range forecast.KeptOf(all) {
		assert.InDelta(t, k.Said, float64(k.Came)/float64(k.Of), 0.1, k.Odds)
		assert.InDelta(t, float64(k.Odds)/100, float64(k.Came)/float64(k.Of), 0.06, k.Odds)
		assert.GreaterOrEqual(t, k.Said, float64(k.Odds)/100)
	}
}

func TestWhatWasCommittedAndCompleted(t *testing.T) {
	p := pier(8, 12)
	for i := range 2 {
		p.Teams[0].Iterations[i].Committed = ptr(10)
	}
	c := forecast.CommitmentsOf(plan.Of(p))
	require.Len(t, c, 1)
	assert.Equal(t, 2, c[0].Iterations)
	assert.InDelta(t, 1, c[0].Mean, 1e-9)
	assert.InDelta(t, 0.2828, c[0].Spread, 1e-4)
	assert.Empty(t, forecast.CommitmentsOf(plan.Of(pier(8, 12))))
}
