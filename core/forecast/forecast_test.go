package forecast_test

import (
	"encoding/json"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/calendar"
	"jantrel/core/capacity"
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
	for _, odds := range forecast.Odds { // half of the second iteration's ten working days
		assert.Equal(t, "2027-03-19", l.At(odds).String(), odds)
	}
	assert.Equal(t, 1.0, *l.Chance)
}

// Work of 10. In an iteration that brings 10 or more it is done by its last working day, 12 March; with 16 or more after
// 10/16 of its ten days, on the seventh, 9 March.
func TestTheOddsOfOneThrow(t *testing.T) {
	past := []float64{4, 10, 10, 16}
	p := pier(past...)
	p.Items = []program.Item{work("A", 10, "e")}
	p.Releases[0].Due = calendar.MustParse("2027-03-14")
	l := forecast.Play(plan.Of(p), forecast.Options{Today: monday, Plays: 40_000, Seed: 3, Odds: []int{10, 20, 50, 75, 85, 95}}).Releases[0]
	first, both := share(past, func(x, _ float64) bool { return x >= 10 }), share(past, func(x, y float64) bool { return x+y >= 10 })
	assert.InDelta(t, 0.59, first, 0.005, "as docs/forecast.md says")
	assert.InDelta(t, first, *l.Chance, 0.01)
	assert.InDelta(t, math.Sqrt(first*(1-first)/40_000), l.Error, 1e-4)
	assert.Equal(t, "2027-03-09", l.At(20).String())
	assert.InDelta(t, share(past, func(x, _ float64) bool { return x >= 10/0.7 }), l.Dates[1].Chance, 0.01, "what the date really carries")
	p.Releases[0].Due = calendar.MustParse("2027-03-28")
	assert.InDelta(t, both, *forecast.Play(plan.Of(p), forecast.Options{Today: monday, Plays: 40_000, Seed: 3}).Releases[0].Chance, 0.01)
	p.Releases[0].Due = calendar.MustParse("2027-03-14")
	late := forecast.Play(plan.Of(p), forecast.Options{Today: monday, Plays: 40_000, Seed: 4})
	assert.InDelta(t, l.ExpectedLateDays, late.ExpectedLateDays, 0.15, "with other luck the same")

	// Counted at the end of the iteration.
	p.Settings.Landing = program.IterationEnd
	l = forecast.Play(plan.Of(p), forecast.Options{Today: monday, Plays: 40_000, Seed: 3}).Releases[0]
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
	assert.Equal(t, "2027-03-12", l.At(95).String())
}

func TestNothingStartsBeforeItsPlaceOrWhatItNeeds(t *testing.T) {
	p := pier(100, 100, 100)
	p.Teams = append(p.Teams, p.Teams[0])
	p.Teams[1].Key = "U"
	p.Items = []program.Item{work("A", 1, "f"), work("B", 1, "d")}
	p.Items[1].Team = "U"
	p.Needs = []program.Need{{Item: "B", Needs: "A"}}
	lands := func(p program.Program) (a, b string) {
		r := forecast.Play(plan.Of(p), forecast.Options{Today: monday, Plays: 20, Items: true})
		return r.Items[0].At(50).String(), r.Items[1].At(50).String()
	}
	a, b := lands(p)
	assert.Equal(t, "2027-03-01", a, "taken ahead: there is nothing else to do")
	assert.Equal(t, "2027-03-15", b, "after the iteration of what it needs")
	never := false
	p.Settings.PullAhead = &never
	a, b = lands(p)
	assert.Equal(t, "2027-03-29", a, "its place, however fast the team")
	assert.Equal(t, "2027-04-12", b, "after what it needs")
	p.Settings.PullAhead, p.Items[0].Pinned = nil, true
	a, _ = lands(p)
	assert.Equal(t, "2027-03-29", a, "what is pinned is not taken ahead")
	p.Items[0].Pinned, p.Items[0].NotBefore = false, monday.Add(14)
	a, _ = lands(p)
	assert.Equal(t, "2027-03-15", a, "nor is anything before its date")
}

func TestUnplacedItemsTakeWhatIsLeft(t *testing.T) {
	p := pier(10, 10, 10)
	p.Items = []program.Item{work("U", 10, ""), work("A", 4, "d"), work("B", 10, "e")}
	r := forecast.Play(plan.Of(p), forecast.Options{Today: monday, Plays: 20, Items: true})
	// 6 of 10 in the first, none in the second, the rest in the third, until its fourth day.
	assert.Equal(t, "2027-04-01", r.Items[0].At(50).String())
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
	p.Items = append(p.Items, missing)
	l := forecast.Play(plan.Of(p), forecast.Options{Today: monday, Plays: 20}).Releases[0]
	assert.Equal(t, "2027-03-26", l.At(50).String(), "20, as the past ones")
	assert.Equal(t, 1, l.Sampled)
	assert.Equal(t, 1, l.Left)
}

func TestWhatCannotBePlayedNeverLands(t *testing.T) {
	p := pier(10, 10, 10)
	p.Items = []program.Item{work("A", 1, "d"), {Key: "N", Kind: program.Story}, work("B", 1, "d")}
	p.Needs = []program.Need{{Item: "B", Needs: "N"}}
	r := forecast.Play(plan.Of(p), forecast.Options{Today: monday, Plays: 20, Items: true})
	l := r.Releases[0]
	assert.Equal(t, []string{"B"}, l.Cannot, "it needs one without a team")
	assert.Equal(t, 0, l.LeftOut)
	assert.Zero(t, *l.Chance)
	assert.True(t, l.At(10).IsZero())
	assert.Greater(t, l.ExpectedLateDays, 365.0, "late until the plays end")
	assert.Equal(t, "2027-03-01", r.Items[0].At(95).String(), "the others do")
	p.Items[1].Release = "R"
	l = forecast.Play(plan.Of(p), forecast.Options{Today: monday, Plays: 20}).Releases[0]
	assert.Equal(t, []string{"N", "B"}, l.Cannot)
	assert.Equal(t, 1, l.LeftOut)
	p.Items[1].State = program.Done
	l = forecast.Play(plan.Of(p), forecast.Options{Today: monday, Plays: 20}).Releases[0]
	assert.Empty(t, l.Cannot)
	p.Items[1].State, p.Items[1].KeptOut = program.Todo, true
	l = forecast.Play(plan.Of(p), forecast.Options{Today: monday, Plays: 20}).Releases[0]
	assert.Empty(t, l.Cannot, "needs on what is kept out do not count")
}

// A team that goes on exactly as planned reads the same on every day of its iteration.
func TestASteadyTeamReadsTheSameEveryDay(t *testing.T) {
	for day := range 14 {
		p := pier(10, 10, 10)
		p.Teams[0].Iterations[3].State = program.Open
		p.Items = nil
		gone := 0 // working days gone by, a point a day
		for d := range day {
			if d%7 < 5 {
				gone++
			}
		}
		for i := range 5 { // items of two points in the iteration, two days each
			item := work(string(rune('A'+i)), 2, "d")
			switch {
			case gone >= 2*i+2:
				item.State = program.Done
			case gone > 2*i:
				item.State, item.Left = program.Doing, ptr(float64(2*i+2-gone))
			}
			p.Items = append(p.Items, item)
		}
		p.Items = append(p.Items, work("F", 10, "e"))
		l := forecast.Play(plan.Of(p), forecast.Options{Today: monday.Add(day), Plays: 100, Seed: 1}).Releases[0]
		assert.Equal(t, "2027-03-26", l.At(95).String(), "day %d", day)
		assert.Equal(t, 1.0, *l.Chance, "day %d", day)
	}
}

// Of what is under way all is left on its first day, later on half on average, where nothing tells more: an eighth,
// three eighths, five or seven, each as often. What is said of it goes before that.
func TestWhatIsUnderWayGetsCredit(t *testing.T) {
	p := pier(10, 10, 10)
	p.Teams[0].Iterations[3].State = program.Open
	p.Items = []program.Item{work("A", 8, "d")}
	p.Items[0].State = program.Doing
	lands := func(day int) (dates []string) {
		l := forecast.Play(plan.Of(p), forecast.Options{Today: monday.Add(day), Plays: 256, Odds: []int{25, 50, 75, 100}}).Releases[0]
		for _, odds := range []int{25, 50, 75, 100} {
			dates = append(dates, l.At(odds).String())
		}
		return dates
	}
	sure := func(day string) []string { return []string{day, day, day, day} }
	p.Items[0].Began = monday
	assert.Equal(t, sure("2027-03-10"), lands(0), "all of it, a point a day")
	assert.Equal(t, []string{"2027-03-03", "2027-03-05", "2027-03-09", "2027-03-11"}, lands(2))
	p.Items[0].Began = 0
	assert.Equal(t, []string{"2027-03-01", "2027-03-03", "2027-03-05", "2027-03-09"}, lands(0), "nobody knows when it began")
	// Half of the ten hours of its tasks is left: four points, four days.
	p.Items[0].Tasks = []program.Task{{Title: "a", Hours: ptr(6), Done: true}, {Title: "b", Hours: ptr(4), HoursLeft: ptr(5)}, {Title: "c"}}
	assert.Equal(t, sure("2027-03-04"), lands(0))
	assert.Equal(t, sure("2027-03-11"), lands(7), "whatever day it is")
	p.Items[0].Left = ptr(1)
	assert.Equal(t, sure("2027-03-01"), lands(0), "a point a day")
	// Left behind in an iteration that is over, and under way before its time.
	p.Items[0].Iteration = "c"
	assert.Equal(t, sure("2027-03-08"), lands(7))
	p.Items[0].Iteration, p.Items[0].NotBefore = "f", monday.Add(60)
	assert.Equal(t, sure("2027-03-01"), lands(0))
}

// What is planned here and can start is never kept waiting by what is taken ahead.
func TestWhatIsTakenAheadKeepsNothingWaiting(t *testing.T) {
	p := pier(10, 10, 10)
	// A frees B, which is planned in the same iteration; U, of no place, is more important.
	p.Items = []program.Item{work("U", 20, ""), work("A", 4, ""), work("B", 6, "d")}
	p.Needs = []program.Need{{Item: "B", Needs: "A"}}
	p.Items[0], p.Items[1] = p.Items[1], p.Items[0]
	r := forecast.Play(plan.Of(p), forecast.Options{Today: monday, Plays: 20, Items: true})
	assert.Equal(t, "2027-03-04", r.Items[0].At(50).String())
	assert.Equal(t, "2027-03-12", r.Items[2].At(50).String(), "before U, though that is ranked above it")
}

// An item of no size takes no time, also behind a full iteration.
func TestAnItemOfNoSizeTakesNoTime(t *testing.T) {
	p := pier(10, 10, 10)
	p.Items = []program.Item{work("A", 10, "d"), work("B", 0, "d"), work("C", 0, "")}
	r := forecast.Play(plan.Of(p), forecast.Options{Today: monday, Plays: 20, Items: true})
	for _, item := range r.Items {
		assert.LessOrEqual(t, item.At(95).String(), "2027-03-12", item.Key)
	}
}

// Luck is a team's own: another team, or an iteration that closes, changes nobody else's. What is believed of a team is
// another matter: a past of another team counts too.
func TestNobodyElsesLuckChanges(t *testing.T) {
	p := pier(4, 10, 16, 7)
	p.Items = []program.Item{work("A", 10, "e"), work("B", 14, "f")}
	o := forecast.Options{Today: monday, Plays: 300, Seed: 9, Items: true}
	before := forecast.Play(plan.Of(p), o).Items
	more := pier(4, 10, 16, 7)
	other := pier(3, 9).Teams[0]
	other.Key = "0"
	more.Teams = append([]program.Team{other}, more.Teams...)
	more.Items = append(p.Items, program.Item{Key: "Z", Kind: program.Story, Team: "0", Size: ptr(30)})
	after := forecast.Play(plan.Of(more), o).Items
	assert.Equal(t, before[:2], after[:2])
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
	pace := r.Teams[0]
	assert.Equal(t, forecast.Assumed, pace.Basis)
	assert.InDelta(t, 9.2, pace.Velocity, 1e-9)
	assert.Equal(t, "9.2 ± 1.9 pt per iteration, a little below its capacity, as no team has enough past iterations", pace.Says)
	assert.Less(t, r.Releases[0].At(10), r.Releases[0].At(95), "and widens")
}

// What is said of a team's pace is its measured velocity, as the plan's lanes and Set up show it.
func TestAPaceIsTheMeasuredVelocity(t *testing.T) {
	p := pier(4, 10, 10, 16)
	p.Items = []program.Item{work("A", 10, "e")}
	n, velocity, spread := capacity.Normalised(capacity.Histories(plan.Of(p))[0])
	pace := forecast.Play(plan.Of(p), forecast.Options{Today: monday, Plays: 50, Seed: 1}).Teams[0]
	assert.Equal(t, []float64{float64(n), velocity, spread}, []float64{float64(pace.Samples), pace.Velocity, pace.Spread})
	assert.Equal(t, "10 ± 4.9 pt per iteration, from 4 past iterations, the last one above. So few say little about how much it varies, and the forecast allows for that", pace.Says)
	o := forecast.Options{Today: monday, Plays: 50, Seed: 1, If: forecast.If{Last: 3}}
	assert.InDelta(t, 12, forecast.Play(plan.Of(p), o).Teams[0].Velocity, 1e-9)
}

var wild = sample.Shape{Teams: 4, Iterations: 6, Items: 40, Needs: 30, Wild: true}

func TestForecastsOfAnyProgram(t *testing.T) {
	for seed := range sample.Seeds(40) {
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

// Games that share a deck answer as if each had one of its own, whatever was dealt before.
func TestASharedDeckChangesNoAnswer(t *testing.T) {
	shared := forecast.NewDeck()
	for seed := range uint64(6) {
		p := plan.Of(sample.Program(seed, sample.Shape{Teams: 3, Iterations: 4, Items: 30, Needs: 12}))
		for days := range 3 {
			o := forecast.Options{Today: calendar.MustParse("2026-06-01").Add(20 * days), Plays: 600, Seed: 1, Items: true, Workers: 2}
			alone := forecast.Play(p, o)
			o.Deck = shared
			assert.Equal(t, alone, forecast.Play(p, o), "seed %d", seed)
		}
	}
}
