package forecast_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/calendar"
	"jantrel/core/forecast"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/sample"
)

// The promise of docs/forecast.md.
func TestThePromiseOfTheDocs(t *testing.T) {
	p := pier(10, 10, 10)
	p.Items = []program.Item{work("A", 10, "d"), work("B", 10, "e")}
	o := forecast.Options{Today: monday, Plays: 100, Seed: 1}
	promise := program.Promise{Key: "PR-1", Release: "R", To: "the board", Made: monday, Date: calendar.MustParse("2027-03-28")}
	promise.Chance = ptr(forecast.OddsOf(plan.Of(p), o, &promise))
	assert.InDelta(t, 1, *promise.Chance, 0)
	p.Promises = []program.Promise{promise}
	w := forecast.Promises(plan.Of(p), o)[0]
	assert.Equal(t, calendar.MustParse("2027-03-26"), w.Even)
	assert.False(t, w.Doubtful())
	*p.Items[1].Size += 5
	w = forecast.Promises(plan.Of(p), o)[0]
	assert.Equal(t, calendar.MustParse("2027-04-02"), w.Even)
	assert.InDelta(t, 0, *w.Chance, 0)
	assert.InDelta(t, 5, w.Late, 1e-9)
	assert.True(t, w.Fell)
}

// A team does 8 or 12 in an iteration from 1 March on, and has 20 to do.
func TestPromisesAreWatched(t *testing.T) {
	p := pier(8, 12, 8, 12)
	p.Items = []program.Item{work("A", 10, "d"), work("B", 10, "e"), {Key: "F", Kind: program.Feature, Release: "R"}} // a feature is never done itself
	p.Items[0].Parent, p.Items[1].Parent = "F", "F"
	p.Milestones = []program.Milestone{{Key: "M", Name: "Trial", Date: calendar.MustParse("2027-03-20"), Needs: []string{"A"}}}
	promise := func(key string, date string, then float64) program.Promise {
		return program.Promise{Key: key, Release: "R", To: "the board", Made: monday.Add(-10), Date: calendar.MustParse(date), Chance: ptr(then)}
	}
	p.Promises = []program.Promise{
		promise("early", "2027-03-25", 0.2), promise("even", "2027-03-28", 0.9), promise("safe", "2027-05-28", 1), promise("back", "2027-03-28", 0.9),
		{Key: "trial", Milestone: "M", To: "the pilots", Made: monday, Date: calendar.MustParse("2027-03-28")},
	}
	p.Promises[3].Withdrawn = monday
	o := forecast.Options{Today: monday, Plays: 2000, Seed: 1}
	watched := func() map[string]forecast.Watched {
		all := map[string]forecast.Watched{}
		for _, w := range forecast.Promises(plan.Of(p), o) {
			all[w.Promise.Key] = w
		}
		return all
	}
	all := watched()
	require.Len(t, all, 5)
	landing := forecast.OutlookOf(plan.Of(p), forecast.OutlookQuestion{Options: o, Set: forecast.Set{Release: "R", Due: calendar.MustParse("2027-03-28")}}).Landing
	assert.Equal(t, landing.Chance, all["even"].Chance, "by the plays of every other answer")
	assert.Equal(t, landing.At(50), all["even"].Even)
	assert.InDelta(t, landing.ExpectedLateDays, all["even"].Late, 1e-9)
	assert.Equal(t, forecast.WordStands, all["even"].Word)
	assert.True(t, all["even"].Fell, "90 % when it was given, less than 80 % now")
	assert.Equal(t, forecast.Safe, all["safe"].Safety)
	assert.False(t, all["safe"].Doubtful())
	assert.Equal(t, forecast.InDanger, all["early"].Safety)
	assert.True(t, all["early"].Doubtful(), "it was given at bad odds, and has them still")
	assert.Equal(t, forecast.WordTakenBack, all["back"].Word)
	assert.Nil(t, all["back"].Chance)
	assert.Greater(t, *all["trial"].Chance, 0.9, "one item of ten is nearly always done by the end of the second")

	// Days go by: what is over and has not landed was missed, what is done in time was kept.
	o.Today = calendar.MustParse("2027-03-29")
	p.Items[0].State, p.Items[0].DoneOn = program.Done, calendar.MustParse("2027-03-17")
	all = watched()
	assert.Equal(t, forecast.WordMissed, all["even"].Word)
	assert.True(t, all["even"].Doubtful())
	assert.Greater(t, all["even"].Late, 1.0)
	assert.Equal(t, forecast.WordKept, all["trial"].Word)
	assert.Equal(t, calendar.MustParse("2027-03-17"), all["trial"].Landed)
	assert.InDelta(t, -11, all["trial"].Late, 0)

	p.Items[1].State, p.Items[1].DoneOn = program.Done, calendar.MustParse("2027-03-30")
	o.Today = calendar.MustParse("2027-04-02")
	all = watched()
	assert.Equal(t, forecast.WordMissed, all["even"].Word)
	assert.False(t, all["even"].Doubtful(), "nobody can see to it any more")
	assert.InDelta(t, 2, all["even"].Late, 0)
	assert.Equal(t, forecast.WordKept, all["safe"].Word)
	p.Items[0].DoneOn, p.Items[1].DoneOn = 0, 0
	assert.Equal(t, forecast.WordLanded, watched()["even"].Word)
}

// What a promise has as its odds when it is given is what is watched that day, of any program.
func TestTheOddsOfAPromiseAreThoseThatAreWatched(t *testing.T) {
	for seed := range sample.Seeds(12) {
		p := sample.Program(seed, sample.Shape{Teams: 3, Iterations: 8, Items: 40, Needs: 20})
		o := forecast.Options{Today: p.Today, Plays: 200, Seed: 1}
		promise := program.Promise{Key: "x", Release: p.Releases[0].Key, To: "all", Made: p.Today, Date: p.Today.Add(int(20 + 9*seed))}
		odds := forecast.OddsOf(plan.Of(p), o, &promise)
		promise.Chance = &odds
		p.Promises = []program.Promise{promise}
		w := forecast.Promises(plan.Of(p), o)[0]
		require.NotNil(t, w.Chance)
		assert.InDelta(t, odds, *w.Chance, 0)
		assert.False(t, w.Fell)
		assert.Equal(t, forecast.SafetyOf(odds), w.Safety)
	}
}
