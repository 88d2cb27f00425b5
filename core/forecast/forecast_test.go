package forecast_test

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/calendar"
	"jantrel/core/forecast"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/sample"
)

func ptr(x float64) *float64 { return &x }

// pier is a team that completed what `past` says in two-week iterations before
// 1 March 2027, and has four to come: to 14 March, 28 March, 11 and 25 April.
func pier(past ...float64) program.Program {
	p := program.Program{Settings: program.Settings{SameIteration: program.ShareSameTeam, FillTo: 1},
		Teams:    []program.Team{{Key: "T", Name: "T", Unit: program.Points, Velocity: ptr(10)}},
		Releases: []program.Release{{Key: "R", Due: calendar.MustParse("2027-03-28")}}}
	start := calendar.MustParse("2027-03-01").Add(-14 * len(past))
	for i := range len(past) + 4 {
		it := program.Iteration{Key: string(rune('a' + i)), Start: start.Add(14 * i), End: start.Add(14*i + 13)}
		if i < len(past) {
			it.State, it.Completed = program.Closed, &past[i]
		}
		p.Teams[0].Iterations = append(p.Teams[0].Iterations, it)
	}
	return p
}

func work(key string, size float64, iteration string) program.Item {
	return program.Item{Key: key, Kind: program.Story, Team: "T", Release: "R", Size: &size, Iteration: iteration}
}

var monday = calendar.MustParse("2027-03-01")

func TestAVelocityThatNeverChanges(t *testing.T) {
	p := pier(10, 10, 10)
	p.Items = []program.Item{work("A", 10, "d"), work("B", 5, "e")}
	l := forecast.Play(plan.Of(p), forecast.Options{Today: monday, Plays: 50, Seed: 1}).Releases[0]
	for _, odds := range forecast.Odds {
		assert.Equal(t, "2027-03-28", l.At(odds).String(), odds)
	}
	assert.Equal(t, 1.0, *l.Chance)
}

func TestTheOddsOfOneThrow(t *testing.T) {
	// One iteration of work of 10. Past velocities are 4, 10, 10 and 16, each as
	// likely: with 4 in the first iteration it is not done there, and the second,
	// of whatever velocity, is needed; with 4 and 4 the third. So it lands on
	// 14 March in 3/4 of plays, by 28 March in 3/4 + 1/4 × 3/4 = 15/16.
	p := pier(4, 10, 10, 16)
	p.Items = []program.Item{work("A", 10, "e")}
	p.Releases[0].Due = calendar.MustParse("2027-03-14")
	l := forecast.Play(plan.Of(p), forecast.Options{Today: monday, Plays: 40_000, Seed: 3}).Releases[0]
	assert.InDelta(t, 0.75, *l.Chance, 0.01)
	assert.Equal(t, "2027-03-14", l.At(50).String())
	assert.Equal(t, "2027-03-28", l.At(85).String())
	assert.Equal(t, "2027-04-11", l.At(95).String())
}

func TestPaceIsPerDayWorked(t *testing.T) {
	// The past iteration with a holiday week completed half: the same pace a day.
	p := pier(10, 5, 10)
	for d := range 5 {
		p.Holidays = append(p.Holidays, program.Holiday{Date: p.Teams[0].Iterations[1].Start.Add(d), Name: "Storm"})
	}
	p.Items = []program.Item{work("A", 10, "d")}
	l := forecast.Play(plan.Of(p), forecast.Options{Today: monday, Plays: 200, Seed: 1}).Releases[0]
	assert.Equal(t, "2027-03-14", l.At(95).String())
}

func TestNothingStartsBeforeItsPlaceOrWhatItNeeds(t *testing.T) {
	p := pier(100, 100, 100)
	p.Teams = append(p.Teams, p.Teams[0])
	p.Teams[1].Key = "U"
	p.Items = []program.Item{work("A", 1, "f"), work("B", 1, "d")}
	p.Items[1].Team = "U"
	p.Needs = []program.Need{{Item: "B", Needs: "A"}}
	r := forecast.Play(plan.Of(p), forecast.Options{Today: monday, Plays: 20, Items: true})
	assert.Equal(t, "2027-04-11", r.Items[0].At(50).String(), "its place, however fast the team")
	assert.Equal(t, "2027-04-25", r.Items[1].At(50).String(), "after what it needs")
}

func TestUnplacedItemsTakeWhatIsLeft(t *testing.T) {
	p := pier(10, 10, 10)
	p.Items = []program.Item{work("U", 10, ""), work("A", 4, "d"), work("B", 10, "e")}
	r := forecast.Play(plan.Of(p), forecast.Options{Today: monday, Plays: 20, Items: true})
	// 6 of 10 in the first, none in the second, the rest in the third.
	assert.Equal(t, "2027-04-11", r.Items[0].At(50).String())
}

func TestMissingSizesAreSampled(t *testing.T) {
	p := pier(10, 10, 10)
	for _, key := range []string{"x", "y", "z"} {
		done := work(key, 20, "b")
		done.State = program.Done
		p.Items = append(p.Items, done)
	}
	missing := work("A", 0, "d")
	missing.Size = nil
	p.Items = append(p.Items, missing, program.Item{Key: "N", Kind: program.Story, Release: "R"})
	l := forecast.Play(plan.Of(p), forecast.Options{Today: monday, Plays: 20}).Releases[0]
	assert.Equal(t, "2027-03-28", l.At(50).String(), "20, as the past ones")
	assert.Equal(t, 1, l.Sampled)
	assert.Equal(t, 1, l.LeftOut, "the one without a team")
	assert.Equal(t, 2, l.Left)
}

func TestCyclesNeverLand(t *testing.T) {
	p := pier(10, 10, 10)
	p.Items = []program.Item{work("A", 1, "d"), work("B", 1, "d")}
	p.Needs = []program.Need{{Item: "A", Needs: "B"}, {Item: "B", Needs: "A"}}
	l := forecast.Play(plan.Of(p), forecast.Options{Today: monday, Plays: 20}).Releases[0]
	assert.Equal(t, 1.0, l.Beyond)
	assert.True(t, l.At(95).IsZero())
	assert.Zero(t, *l.Chance)
}

func TestTooLittleHistorySaysSo(t *testing.T) {
	p := pier(10)
	p.Items = []program.Item{work("A", 10, "b")}
	r := forecast.Play(plan.Of(p), forecast.Options{Today: monday, Plays: 500, Seed: 1})
	assert.Equal(t, []forecast.Pace{{Team: "T", Basis: forecast.Assumed, Samples: 1}}, r.Teams)
	assert.Less(t, r.Releases[0].At(10), r.Releases[0].At(95), "and widens")
}

var wild = sample.Shape{Teams: 4, Iterations: 6, Items: 40, Needs: 30, Wild: true}

func TestForecastsOfAnyProgram(t *testing.T) {
	for seed := range uint64(40) {
		p := sample.Program(seed, wild)
		o := forecast.Options{Today: sample.Today, Plays: 60, Seed: seed, Items: true}
		one := forecast.Play(plan.Of(p), o)
		o.Workers = 3
		three := forecast.Play(plan.Of(p), o)
		a, _ := json.Marshal(one)
		b, _ := json.Marshal(three)
		require.Equal(t, string(a), string(b), "the answer depends on the workers")
		for _, l := range append(one.Releases, one.Items...) {
			last := forecast.Date(0)
			for _, d := range l.Dates {
				if !d.Date.IsZero() {
					require.GreaterOrEqual(t, d.Date, last)
					require.GreaterOrEqual(t, d.Date, sample.Today)
					last = d.Date
				}
			}
		}
	}
}

func TestAReleaseLandsWithItsLastItem(t *testing.T) {
	p := pier(6, 10, 14)
	p.Items = []program.Item{work("A", 10, "d"), work("B", 10, "e"), work("C", 9, "d")}
	r := forecast.Play(plan.Of(p), forecast.Options{Today: monday, Plays: 300, Seed: 2, Items: true})
	for _, item := range r.Items {
		assert.GreaterOrEqual(t, r.Releases[0].At(50), item.At(50))
	}
}

// More room or less work never makes anything land later.
func TestLessWorkLandsNoLater(t *testing.T) {
	p := pier(6, 10, 14, 8)
	p.Items = []program.Item{work("A", 10, "e"), work("B", 10, "f"), work("C", 12, "g")}
	before := forecast.Play(plan.Of(p), forecast.Options{Today: monday, Plays: 500, Seed: 2}).Releases[0]
	p.Items[1] = work("B", 4, "f")
	after := forecast.Play(plan.Of(p), forecast.Options{Today: monday, Plays: 500, Seed: 2}).Releases[0]
	for _, odds := range forecast.Odds {
		assert.LessOrEqual(t, after.At(odds), before.At(odds))
	}
}

func BenchmarkForecast5000Items40Teams(b *testing.B) {
	p := sample.Program(1, sample.Shape{Teams: 40, Iterations: 26, Items: 5000, Needs: 6000})
	for b.Loop() {
		forecast.Play(plan.Of(p), forecast.Options{Today: sample.Today, Plays: 10_000, Workers: 2})
	}
}
