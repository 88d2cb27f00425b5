package forecast_test

import (
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/calendar"
	"jantrel/core/forecast"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/sample"
	"jantrel/core/track"
)

// A team does 10 in each iteration of ten working days and has 5 and 10 of the release: after half of
// the first iteration a third is done, with half of the second all of it.
func TestTheOutlookOfATeamThatAlwaysDoesTheSame(t *testing.T) {
	p := pier(10, 10, 10)
	p.Items = []program.Item{work("A", 5, "d"), work("B", 10, "e"), work("C", 5, "c")}
	p.Items[2].State = program.Done
	o := forecast.OutlookOf(plan.Of(p), forecast.OutlookQuestion{
		Options: forecast.Options{Today: monday, Plays: 40, Seed: 1}, Set: forecast.Set{Release: "R", Due: calendar.MustParse("2027-03-28")}, Measure: forecast.Measure{In: forecast.InSize, Team: "T"},
	})
	assert.Equal(t, "2027-03-19", o.Landing.At(50).String())
	assert.Equal(t, 1.0, *o.Landing.Chance)
	require.Len(t, o.Chances, 19, "up to the day on which it lands")
	assert.Equal(t, []float64{0, 1}, o.Chances[17:])
	require.Len(t, o.Teams, 1)
	assert.Equal(t, 1.0, o.Teams[0].Decides)
	assert.Equal(t, o.Landing.Dates, o.Teams[0].Dates)
	assert.Equal(t, 20.0, o.Fan.Total)
	assert.Equal(t, 5.0, o.Fan.Done)
	for _, day := range o.Fan.Days {
		done := 5.0
		if day.Day >= monday.Add(4) {
			done = 10
		}
		if day.Day >= monday.Add(18) {
			done = 20
		}
		for i := range forecast.FanOdds {
			assert.Equal(t, done, day.Done[i], day.Day)
			assert.Equal(t, 20.0, day.Scope[i])
			assert.Equal(t, 20-done, day.Left[i])
		}
	}
	share := forecast.OutlookOf(plan.Of(p), forecast.OutlookQuestion{
		Options: forecast.Options{Today: monday, Plays: 40, Seed: 1}, Set: forecast.Set{Items: []string{"A", "C"}}, Measure: forecast.Measure{In: forecast.InShare},
	})
	assert.InDelta(t, 1, share.Fan.Total, 1e-9)
	assert.InDelta(t, 0.5, share.Fan.Done, 1e-9)
	assert.Nil(t, share.Landing.Chance, "no date is asked about")
}

// What has no size is not drawn where sizes are, which the fan says; where items are counted all is.
func TestAFanSaysWhatItDoesNotDraw(t *testing.T) {
	p := pier(10, 10, 10)
	p.Items = []program.Item{work("A", 5, "d"), work("B", 10, "e"), work("C", 5, "c")}
	p.Items[0].Size, p.Items[2].Size, p.Items[2].State = nil, nil, program.Done
	for in, unsized := range map[forecast.In]int{forecast.InSize: 1, forecast.InShare: 1, forecast.InItems: 0, forecast.InHours: 0} {
		o := forecast.OutlookOf(plan.Of(p), forecast.OutlookQuestion{
			Options: forecast.Options{Today: monday, Plays: 40, Seed: 1}, Set: forecast.Set{Release: "R"}, Measure: forecast.Measure{In: in, Team: "T"},
		})
		assert.Equal(t, unsized, o.Fan.Unsized, in)
	}
}

// What grows comes with the iterations: 20 of a release that grows by a tenth each becomes 22 with the
// first and 24.2 with the second, as in docs/forecast.md; it lands on 2 April.
func TestAFanShowsWhatScopeGrowsBy(t *testing.T) {
	p := pier(10, 10, 10)
	p.Items = []program.Item{work("A", 10, "d"), work("B", 10, "e")}
	p.Releases[0].Growth = ptr(0.1)
	ask := func(in forecast.In) forecast.Outlook {
		return forecast.OutlookOf(plan.Of(p), forecast.OutlookQuestion{
			Options: forecast.Options{Today: monday, Plays: 40, Seed: 1}, Set: forecast.Set{Release: "R"}, Measure: forecast.Measure{In: in, Team: "T"},
		})
	}
	o := ask(forecast.InSize)
	assert.Equal(t, "2027-04-02", o.Landing.At(50).String())
	assert.Equal(t, &forecast.Growth{Share: 0.1, Basis: forecast.GrowthSet}, o.Landing.Growth)
	first, last := o.Fan.Days[0], o.Fan.Days[len(o.Fan.Days)-1]
	assert.InDelta(t, 22, first.Scope[2], 1e-9)
	assert.InDelta(t, 24.2, last.Scope[2], 1e-9)
	assert.InDelta(t, 24.2, last.Done[2], 1e-9)
	assert.InDelta(t, 0, last.Left[2], 1e-9)
	items := ask(forecast.InItems).Fan
	assert.InDelta(t, 2.42, items.Days[len(items.Days)-1].Scope[2], 1e-9, "of the mean size, 10")
}

// Of any program, the outlook of a release says what its landing says; its chances rise to that of the
// due date; teams decide as Decides has it; and the fan neither shrinks nor passes what there is.
func TestAnOutlookAgreesWithThePlaysOfTheStrip(t *testing.T) {
	for seed := range sample.Seeds(30) {
		p := plan.Of(sample.Program(seed, sample.Shape{Teams: 3, Iterations: 5, Items: 40, Needs: 20, Wild: seed%2 == 0, Rough: seed%3 == 0}))
		o := forecast.Options{Today: sample.Today, Plays: 101, Seed: seed, Workers: 1 + int(seed%2)}
		played, decides := forecast.Play(p, o), forecast.Decides(p, o)
		for r, release := range p.Releases {
			in := []forecast.In{forecast.InItems, forecast.InShare, forecast.InHours}[seed%3]
			got := forecast.OutlookOf(p, forecast.OutlookQuestion{Options: o, Set: forecast.Set{Key: release.Key, Release: release.Key, Due: release.Due}, Measure: forecast.Measure{In: in}})
			assert.Equal(t, played.Releases[r], got.Landing, "%d %s", seed, release.Key)
			if got.Landing.Left+got.Landing.Rough == 0 || len(got.Landing.Cannot) > 0 {
				continue
			}
			if day := int(release.Due - sample.Today); !release.Due.IsZero() && day >= 0 && day < len(got.Chances) {
				assert.InDelta(t, *got.Landing.Chance, got.Chances[day], 1e-9)
			}
			for i := 1; i < len(got.Chances); i++ {
				assert.GreaterOrEqual(t, got.Chances[i], got.Chances[i-1])
			}
			for _, team := range got.Teams {
				assert.InDelta(t, decides[release.Key][team.Key], team.Decides, 1e-9, "%d %s %s", seed, release.Key, team.Key)
			}
			for d, day := range got.Fan.Days {
				for i := range forecast.FanOdds {
					assert.LessOrEqual(t, day.Done[i], day.Scope[len(day.Scope)-1]+1e-9)
					if d > 0 {
						assert.GreaterOrEqual(t, day.Done[i], got.Fan.Days[d-1].Done[i], "%d %s", seed, day.Day)
					}
				}
			}
			if n := len(got.Fan.Days); got.Landing.Beyond == 0 && n > 0 {
				assert.InDelta(t, 0, got.Fan.Days[n-1].Left[2], 1e-9)
			}
		}
	}
}

// Of nothing there is nothing to say.
func TestTheOutlookOfNothing(t *testing.T) {
	for _, p := range []program.Program{{}, pier(), pier(10, 10, 10)} {
		o := forecast.OutlookOf(plan.Of(p), forecast.OutlookQuestion{Options: forecast.Options{Today: monday, Plays: 5}, Measure: forecast.Measure{In: forecast.InShare}})
		assert.Empty(t, o.Chances)
		assert.Empty(t, o.Teams)
		assert.Zero(t, o.Landing.Left)
		assert.Zero(t, o.Fan.Total)
	}
}

// How much of a team's work is done by a day is what Reaches says, by a walk of its own.
func TestAFanIsWhatIsReached(t *testing.T) {
	for seed := range sample.Seeds(15) {
		p := plan.Of(sample.Program(seed, sample.Shape{Teams: 2, Iterations: 5, Items: 30, Needs: 8}))
		o := forecast.Options{Today: sample.Today, Plays: 101, Seed: seed}
		var items []string
		for i := range p.Items {
			if p.Items[i].Team == "T0" && p.Tree().ToSchedule(i) {
				items = append(items, p.Items[i].Key)
			}
		}
		fan := forecast.OutlookOf(p, forecast.OutlookQuestion{Options: o, Set: forecast.Set{Items: items}, Measure: forecast.Measure{In: forecast.InSize, Team: "T0"}}).Fan
		var asked []forecast.ReachAsked
		for _, day := range fan.Days {
			asked = append(asked, forecast.ReachAsked{Items: items, By: day.Day})
		}
		for i, r := range forecast.Reaches(p, o, asked) {
			assert.InDelta(t, r.Amounts[0].Size, fan.Days[i].Done[2], 1e-9, "%d %s", seed, fan.Days[i].Day)
		}
	}
}

// What would be otherwise: twice as fast, half as much work, and with growth left out.
func TestWhatIf(t *testing.T) {
	p := pier(10, 10, 10)
	p.Items = []program.Item{work("A", 10, "d"), work("B", 10, "e")}
	p.Releases[0].Growth = ptr(0.1)
	lands := func(with forecast.If) string {
		return forecast.Play(plan.Of(p), forecast.Options{Today: monday, Plays: 20, Seed: 1, If: with}).Releases[0].At(50).String()
	}
	assert.Equal(t, "2027-04-02", lands(forecast.If{}))
	assert.Equal(t, "2027-03-26", lands(forecast.If{NoGrowth: true}))
	assert.Equal(t, "2027-03-12", lands(forecast.If{NoGrowth: true, Pace: map[string]float64{"T": 2}}))
	assert.Equal(t, "2027-03-19", lands(forecast.If{NoGrowth: true, Pace: map[string]float64{"T": 2, "": 2.0 / 3}}))
	assert.Equal(t, "2027-03-19", lands(forecast.If{NoGrowth: true, Scope: -0.25}))
	assert.Equal(t, "2027-03-19", lands(forecast.If{NoGrowth: true, Scope: -0.5, ScopeOf: forecast.Set{Items: []string{"B"}}}))
	never := false
	p.Items[0].Iteration = "e"
	assert.Equal(t, "2027-04-09", lands(forecast.If{NoGrowth: true, PullAhead: &never}))
}

// 30 to do at 10 an iteration, due with the second: half as fast again, or a third less.
func TestThePaceThatADateWouldTake(t *testing.T) {
	p := pier(10, 10, 10)
	p.Items = []program.Item{work("A", 10, "d"), work("B", 10, "e"), work("C", 10, "f")}
	due := calendar.MustParse("2027-03-28")
	a := forecast.PaceOf(plan.Of(p), forecast.PaceQuestion{Options: forecast.Options{Today: monday, Plays: 50, Seed: 1}, Set: forecast.Set{Release: "R", Due: due}, Odds: 85})
	assert.Equal(t, 0.0, a.Chance)
	assert.InDelta(t, 1.5, a.All.Factor, 1e-9)
	assert.True(t, a.All.Met)
	assert.InDelta(t, 1.5, a.Teams[0].Factor, 1e-9)
	require.NotNil(t, a.Less)
	assert.InDelta(t, 0.34, a.Less.Share, 1e-9)
	easy := forecast.PaceOf(plan.Of(p), forecast.PaceQuestion{Options: forecast.Options{Today: monday, Plays: 50, Seed: 1}, Set: forecast.Set{Release: "R", Due: due.Add(60)}, Odds: 85})
	assert.Equal(t, 1.0, easy.All.Factor, "as things are")
	assert.Equal(t, 1.0, easy.Chance)
}

// Whoever goes at the pace that is named meets the odds; a hundredth slower they do not.
func TestAPaceKeepsItsWord(t *testing.T) {
	for seed := range sample.Seeds(12) {
		p := plan.Of(sample.Program(seed, sample.Shape{Teams: 3, Iterations: 5, Items: 40, Needs: 10}))
		release := p.Releases[0]
		if release.Due.IsZero() {
			release.Due = sample.Today.Add(60)
		}
		o := forecast.Options{Today: sample.Today, Plays: 300, Seed: seed}
		set := forecast.Set{Key: release.Key, Release: release.Key, Due: release.Due}
		a := forecast.PaceOf(p, forecast.PaceQuestion{Options: o, Set: set, Odds: 70})
		for _, f := range append(a.Teams, a.All) {
			chance := func(factor float64) float64 {
				o.If, o.Sets = forecast.If{Pace: map[string]float64{f.Team: factor}}, []forecast.Set{set}
				return *forecast.Play(p, o).Sets[0].Chance
			}
			assert.InDelta(t, f.Chance, chance(f.Factor), 1e-9)
			assert.Equal(t, f.Met, 100*f.Chance >= 70)
			if f.Met && f.Factor > 1.005 {
				assert.Less(t, chance(f.Factor-0.01), 0.7, "%d %s", seed, f.Team)
			}
		}
	}
}

// 30, 20 and 10 left at the ends of three iterations lead to zero a fortnight later. With 30, 22 and 8,
// the line is 31 − 11 ÷ 14 a day; its residuals −1, 2 and −1 make s² = 6, and the band of 50 %, t = 1,
// is √6 × √(4/3 + (x − 14)² ÷ 392) about it.
func TestTheTrendOfABurndown(t *testing.T) {
	burned := func(left ...float64) (points []forecast.Burned) {
		for i, l := range left {
			points = append(points, forecast.Burned{Day: monday.Add(14 * i), Total: 40, Done: 40 - l})
		}
		return points
	}
	straight := forecast.TrendOf(burned(30, 20, 10))
	assert.Equal(t, monday.Add(42), straight.Meets)
	assert.Equal(t, monday.Add(42), straight.Still)
	assert.Equal(t, []forecast.Interval{{Odds: 50, From: monday.Add(42), To: monday.Add(42)}, {Odds: 85, From: monday.Add(42), To: monday.Add(42)}}, straight.Within)

	bent := forecast.TrendOf(burned(30, 22, 8))
	assert.InDelta(t, 31, bent.Start, 1e-9)
	assert.InDelta(t, -11.0/14, bent.Slope, 1e-9)
	assert.Equal(t, monday.Add(40), bent.Meets, "31 × 14 ÷ 11 = 39.45 days")
	band := func(day int, side float64) float64 {
		x := float64(day)
		return 31 - 11*x/14 + side*math.Sqrt(6)*math.Sqrt(4.0/3+(x-14)*(x-14)/392)
	}
	from, to := int(bent.Within[0].From-monday), int(bent.Within[0].To-monday)
	assert.LessOrEqual(t, band(from, -1), 0.0)
	assert.Greater(t, band(from-1, -1), 0.0)
	assert.LessOrEqual(t, band(to, 1), 0.0)
	assert.Greater(t, band(to-1, 1), 0.0)

	growing := forecast.TrendOf([]forecast.Burned{{Day: monday, Total: 40, Done: 10}, {Day: monday.Add(14), Total: 45, Done: 20}})
	assert.Equal(t, monday.Add(84), growing.Meets, "30 and 25 left: five a fortnight")
	assert.Equal(t, monday.Add(49), growing.Still, "10 a fortnight up to 45")
	assert.Empty(t, growing.Within)
	assert.Zero(t, forecast.TrendOf(burned(10, 20, 30)).Meets, "it goes up")
	assert.Zero(t, forecast.TrendOf(nil).Meets)
}

// The ends of closed iterations that lie behind, each once, the latest ones.
func TestTheEndsOfIterations(t *testing.T) {
	p := pier(10, 10, 10)
	p.Teams = append(p.Teams, p.Teams[0])
	p.Teams[1].Key = "U"
	ends := func(from forecast.Date, most int) []forecast.Date {
		return forecast.EndsOf(plan.Of(p), []string{"T", "U"}, from, monday, most)
	}
	assert.Equal(t, []forecast.Date{monday.Add(-29), monday.Add(-15), monday.Add(-1)}, ends(0, 6))
	assert.Equal(t, []forecast.Date{monday.Add(-15), monday.Add(-1)}, ends(0, 2))
	assert.Equal(t, []forecast.Date{monday.Add(-1)}, ends(monday.Add(-10), 6))
	assert.Empty(t, forecast.EndsOf(plan.Of(p), nil, 0, monday, 6))
}

// A fan goes on from where the history stands: what the journal says of today is what the plan says.
func TestAFanBeginsWhereTheHistoryEnds(t *testing.T) {
	for seed := range sample.Seeds(10) {
		p := sample.Program(seed, sample.Shape{Teams: 3, Iterations: 5, Items: 40, Needs: 10, Wild: true})
		began := sample.Today.Time()
		for _, in := range []forecast.In{forecast.InItems, forecast.InShare, forecast.InHours, forecast.InSize} {
			m := forecast.Measure{In: in}
			if in == forecast.InSize {
				m.Team = "T1"
			}
			h := track.HistoryOf(p, track.Scope{}, began, nil, began, sample.Today)
			now := forecast.BurnedBy(plan.Of(p), &h, m, []forecast.Date{sample.Today})[0]
			fan := forecast.OutlookOf(plan.Of(p), forecast.OutlookQuestion{Options: forecast.Options{Today: sample.Today, Plays: 3}, Set: forecast.Set{Items: h.Items}, Measure: m}).Fan
			assert.InDelta(t, fan.Total, now.Total, 1e-6, "%d %s", seed, in)
			assert.InDelta(t, fan.Done, now.Done, 1e-6, "%d %s", seed, in)
		}
	}
}

func ExampleOutlookOf() {
	p := pier(8, 10, 12, 9)
	p.Items = []program.Item{work("A", 10, "e"), work("B", 10, "f")}
	o := forecast.OutlookOf(plan.Of(p), forecast.OutlookQuestion{
		Options: forecast.Options{Today: monday, Plays: 2000, Seed: 1},
		Set:     forecast.Set{Release: "R", Due: calendar.MustParse("2027-03-28")},
		Measure: forecast.Measure{In: forecast.InItems},
	})
	fmt.Println("even odds by", o.Landing.At(50), "and 85 % by", o.Landing.At(85))
	// Output: even odds by 2027-03-29 and 85 % by 2027-04-05
}

func BenchmarkOutlook5000Items(b *testing.B) {
	p := plan.Of(sample.Program(1, sample.Shape{Teams: 40, Iterations: 12, Items: 5000, Needs: 6000}))
	q := forecast.OutlookQuestion{Options: forecast.Options{Today: sample.Today, Plays: 500, Seed: 1, Workers: 2}, Set: forecast.Set{Release: p.Releases[0].Key}, Measure: forecast.Measure{In: forecast.InShare}}
	for b.Loop() {
		forecast.OutlookOf(p, q)
	}
}
