package forecast_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/calendar"
	"jantrel/core/forecast"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/sample"
)

func driversOf(p program.Program, plays int) forecast.Drivers {
	return forecast.DriversOf(plan.Of(p), forecast.DriversQuestion{
		Options: forecast.Options{Today: monday, Plays: plays, Seed: 1}, Set: forecast.Set{Release: "R", Due: p.Releases[0].Due},
	})
}

// A team that always does 10 has 20 to do, due with the second iteration. Whatever keeps it from that comes
// first, with the days that it costs.
func TestAPlantedDriverComesFirst(t *testing.T) {
	due := calendar.MustParse("2027-03-28")
	begin := func() program.Program {
		p := pier(10, 10, 10)
		p.Items = []program.Item{work("A", 10, "d"), work("B", 10, "e")}
		return p
	}
	first := func(p program.Program) forecast.Driver {
		p.Releases[0].Due = due
		drivers := driversOf(p, 200).Drivers
		require.NotEmpty(t, drivers)
		return drivers[0]
	}
	// Its only member is away in the second iteration: it lands two weeks later.
	away := begin()
	away.People = []program.Person{{Key: "p", Name: "Ann", DaysOff: []program.DayOff{{From: calendar.MustParse("2027-03-15"), To: calendar.MustParse("2027-03-28")}}}}
	away.Teams[0].Members = []program.Member{{Person: "p", Share: 1}}
	d := first(away)
	assert.Equal(t, forecast.DriverDaysOff, d.Kind)
	assert.Equal(t, 1.0, *d.Chance)
	assert.InDelta(t, 14, d.Days, 1e-9)

	// A risk that always brings five more.
	risky := begin()
	risky.Risks = []program.Risk{{Key: "K", Title: "Salt in the bearings", Odds: ptr(1), Adds: []program.RiskAdds{{Team: "T", Size: 5}}, Releases: []string{"R"}}}
	d = first(risky)
	assert.Equal(t, "K", d.Risk)
	assert.Equal(t, "did “Salt in the bearings” not strike", d.If)
	assert.InDelta(t, 7, d.Days, 1e-9, "to the Friday of half of the third iteration")

	// B needs what another team does with its second iteration: so it takes the third.
	waits := begin()
	other := waits.Teams[0]
	other.Key, other.Name = "U", "U"
	waits.Teams = append(waits.Teams, other)
	waits.Items = append(waits.Items, work("C", 10, "d"), work("E", 10, "e"))
	waits.Items[2].Team, waits.Items[3].Team = "U", "U"
	waits.Items[3].Release, waits.Items[2].Release = "", ""
	waits.Needs = []program.Need{{Item: "B", Needs: "E"}}
	drivers := func(p program.Program) (list []forecast.Driver) {
		p.Releases[0].Due = due
		return driversOf(p, 200).Drivers
	}(waits)
	kinds := map[forecast.DriverKind]forecast.Driver{}
	for _, d := range drivers {
		if _, known := kinds[d.Kind]; !known {
			kinds[d.Kind] = d
		}
	}
	require.Contains(t, kinds, forecast.DriverNeed)
	assert.Equal(t, "E", kinds[forecast.DriverNeed].Needs)
	assert.InDelta(t, 14, kinds[forecast.DriverNeed].Days, 1e-9)
	assert.Equal(t, forecast.DriverNeed, drivers[0].Kind)

	// A fifth more with each iteration.
	grows := begin()
	grows.Releases[0].Growth = ptr(0.2)
	assert.Equal(t, forecast.DriverGrowth, first(grows).Kind)

	// A team whose iterations go from 4 to 16.
	uneven := pier(4, 10, 16, 10, 4, 16)
	uneven.Items = []program.Item{work("A", 10, "g"), work("B", 10, "h")}
	d = first(uneven)
	assert.Equal(t, "were T as fast as in the best 2 of its 6 iterations", d.If)
	// Nothing.
	assert.Empty(t, driversOf(begin(), 50).Drivers)

	// An item without a size, of which the past ones were 2, 10 and 18; and one three times as large as others.
	unsure := begin()
	unsure.Items[1].Size = nil
	for i, size := range []float64{2, 10, 18} {
		done := work("P"+string(rune('0'+i)), size, "a")
		done.State = program.Done
		unsure.Items = append(unsure.Items, done)
	}
	d = first(unsure)
	assert.Equal(t, "had B the usual size for sure", d.If)
	assert.InDelta(t, 1.0/3, *d.Chance, 0.01)
	big := begin()
	big.Items = []program.Item{work("A", 3, "d"), work("B", 3, "d"), work("C", 18, "d")}
	assert.Equal(t, "were C half as large", first(big).If)
}

// What a driver says is the difference of two forecasts, whoever makes them.
func TestADriverIsTheDifferenceOfTwoForecasts(t *testing.T) {
	seen := map[forecast.DriverKind]bool{}
	for seed := range sample.Seeds(12) {
		p := sample.Program(seed, sample.Shape{Teams: 3, Iterations: 5, Items: 40, Needs: 15, Wild: true})
		set := forecast.Set{Release: p.Releases[0].Key, Due: sample.Today.Add(40)}
		o := forecast.Options{Today: sample.Today, Plays: 100, Seed: seed}
		chance := func(p program.Program) float64 {
			o.Releases, o.Sets = []string{""}, []forecast.Set{set}
			return *forecast.Play(plan.Of(p), o).Sets[0].Chance
		}
		found := forecast.DriversOf(plan.Of(p), forecast.DriversQuestion{Options: o, Set: set})
		assert.InDelta(t, chance(p), *found.Chance, 1e-9)
		for _, d := range found.Drivers {
			next := p
			switch d.Kind {
			case forecast.DriverRisk:
				next.Risks = slices.DeleteFunc(slices.Clone(p.Risks), func(r program.Risk) bool { return r.Key == d.Risk })
			case forecast.DriverNeed:
				next.Needs = nil
				for _, n := range p.Needs {
					if n.Item != d.Item || n.Needs != d.Needs {
						next.Needs = append(next.Needs, n)
					}
				}
			default:
				continue
			}
			seen[d.Kind] = true
			assert.InDelta(t, chance(next)-chance(p), *d.Chance, 1e-9, "%d %s", seed, d.If)
		}
	}
	assert.Contains(t, seen, forecast.DriverNeed)
}

func BenchmarkDrivers5000Items(b *testing.B) {
	p := plan.Of(sample.Program(1, sample.Shape{Teams: 40, Iterations: 12, Items: 5000, Needs: 6000}))
	for b.Loop() {
		forecast.DriversOf(p, forecast.DriversQuestion{Options: forecast.Options{Today: sample.Today, Plays: 200, Seed: 1, Workers: 2}, Set: forecast.Set{Release: p.Releases[0].Key, Due: p.Releases[0].Due}})
	}
}
