package forecast_test

import (
	"fmt"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/calendar"
	"jantrel/core/forecast"
	"jantrel/core/needs"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/sample"
)

// alone gives each item a team of its own that does 10 a week without fail, so that needs alone say when it can begin.
func alone(sizes []float64, pairs [][2]int) program.Program {
	p := program.Program{Settings: program.Settings{SameIteration: program.ShareNever, FillTo: 1}, Releases: []program.Release{{Key: "R", Name: "R"}}}
	for i, size := range sizes {
		team := program.Team{Key: fmt.Sprint("T", i), Name: fmt.Sprint("T", i), Unit: program.Points}
		for w := -6; w < 40; w++ {
			start := monday.Add(7 * w)
			it := program.Iteration{Key: fmt.Sprintf("T%d.%d", i, w), Start: start, End: start.Add(6), Capacity: ptr(10)}
			if w < 0 {
				it.State, it.Completed, it.Committed = program.Closed, ptr(10), ptr(10)
			}
			team.Iterations = append(team.Iterations, it)
		}
		p.Teams = append(p.Teams, team)
		p.Items = append(p.Items, program.Item{Key: fmt.Sprint("I", i), Kind: program.Story, Team: team.Key, State: program.Todo, Size: ptr(size), Release: "R"})
	}
	for _, pair := range pairs {
		p.Needs = append(p.Needs, program.Need{Item: fmt.Sprint("I", pair[0]), Needs: fmt.Sprint("I", pair[1])})
	}
	return p
}

// The chains of docs/needs.md.
func TestChainsOfARelease(t *testing.T) {
	// I2 waits for I1, and that for I0; I4 waits for I3: 10 + 20 + 10 and 10 + 10 at 10 a week.
	p := alone([]float64{10, 20, 10, 10, 10}, [][2]int{{1, 0}, {2, 1}, {4, 3}})
	due := monday.Add(26)
	found := forecast.ChainsOf(plan.Of(p), forecast.ChainQuestion{Options: forecast.Options{Today: monday, Plays: 50, Seed: 1}, Set: forecast.Set{Release: "R", Due: due}})
	require.Len(t, found.Chains, 2)
	var told []string
	for _, c := range found.Chains {
		for _, l := range c.Links {
			told = append(told, fmt.Sprintf("%s %v days, critical in %v of 100", l.Item, l.Days, 100*l.Critical))
		}
		told = append(told, fmt.Sprintf("%v days", c.Days))
	}
	assert.Equal(t, []string{
		"I0 7 days, critical in 100 of 100", "I1 14 days, critical in 100 of 100", "I2 7 days, critical in 100 of 100", "28 days",
		"I3 7 days, critical in 0 of 100", "I4 7 days, critical in 0 of 100", "14 days",
	}, told)
	assert.Equal(t, []forecast.Critical{{Item: "I0", Share: 1}, {Item: "I1", Share: 1}, {Item: "I2", Share: 1}}, found.Critical)
	// A day less of the last is a day; one less of those before lets nobody begin before the next iteration.
	links := found.Chains[0].Links
	assert.InDelta(t, 0, links[0].Gained.Days, 1e-9)
	assert.InDelta(t, 1, links[2].Gained.Days, 1e-9)
	assert.Nil(t, found.Chains[1].Links[0].Gained)
}

// Where needs alone say when items begin, what is on the last chain is a chain of needs, and each item on it that takes an
// iteration longer makes the release later: tried on random programs.
func TestWhatIsCriticalDelays(t *testing.T) {
	tried := 0
	for seed := range sample.Seeds(40) {
		r := rand.New(rand.NewPCG(seed, 5))
		sizes := make([]float64, 8)
		for i := range sizes {
			sizes[i] = float64(10 * (1 + r.IntN(3)))
		}
		var pairs [][2]int
		for i := 1; i < len(sizes); i++ {
			for k := range i {
				if r.Float64() < 0.25 {
					pairs = append(pairs, [2]int{i, k})
				}
			}
		}
		lands := func(sizes []float64) program.Date {
			return forecast.Play(plan.Of(alone(sizes, pairs)), forecast.Options{Today: monday, Plays: 1, Seed: seed}).Releases[0].At(50)
		}
		now := lands(sizes)
		p := plan.Of(alone(sizes, pairs))
		shares := forecast.CriticalOf(p, forecast.Options{Today: monday, Plays: 3, Seed: seed}, forecast.Set{Release: "R"})
		require.NotEmpty(t, shares)
		days := 0.0
		for i := range sizes {
			key := fmt.Sprint("I", i)
			if shares[key] == 0 {
				continue
			}
			assert.InDelta(t, 1, shares[key], 1e-9)
			days += 7 * sizes[i] / 10
			longer := append([]float64{}, sizes...)
			longer[i] += 10
			assert.Equal(t, now.Add(7), lands(longer), "seed %d, %s", seed, key)
			tried++
		}
		// It is as long as the longest chain.
		assert.Equal(t, now, monday.Add(int(days)-3), "seed %d: on a Friday", seed)
		var ends []int
		for i := range sizes {
			ends = append(ends, i)
		}
		chains := needs.Chains(p, ends, func(i int) float64 { return 7 * sizes[i] / 10 }, 1)
		assert.InDelta(t, chains[0].Days, days, 1e-9, "seed %d", seed)
	}
	assert.Greater(t, tried, int(sample.Seeds(80)))
}

// Whatever the program is, shares lie between 0 and 1, what the work itself holds last is critical, workers change
// nothing, and all of a chain is still to be done.
func TestChainsOfAnything(t *testing.T) {
	for seed := range sample.Seeds(20) {
		p := plan.Of(sample.Program(seed, sample.Shape{Teams: 3, Iterations: 6, Items: 40, Needs: 40, Wild: true, Rough: seed%2 == 0, Cycles: seed%3 == 0}))
		for _, r := range p.Releases {
			o := forecast.Options{Today: sample.Today, Plays: 60, Seed: seed}
			set := forecast.Set{Release: r.Key, Due: r.Due}
			shares := forecast.CriticalOf(p, o, set)
			o.Workers = 3
			assert.Equal(t, shares, forecast.CriticalOf(p, o, set))
			last := 0.0
			for key, share := range forecast.Last(p, o, set) {
				assert.Contains(t, p.Tree().Index, key)
				last = max(last, share)
			}
			for key, share := range shares {
				assert.True(t, share > 0 && share <= 1, "%s %v", key, share)
			}
			found := forecast.ChainsOf(p, forecast.ChainQuestion{Options: o, Set: set})
			for _, c := range found.Chains {
				days := 0.0
				for _, l := range c.Links {
					days += l.Days + float64(l.Gap)
				}
				assert.InDelta(t, c.Days, days, 1e-6)
			}
		}
	}
	nothing := forecast.ChainsOf(plan.Of(program.Program{}), forecast.ChainQuestion{Options: forecast.Options{Today: calendar.MustParse("2027-03-01")}, Set: forecast.Set{Release: "R"}})
	assert.Empty(t, nothing.Chains)
	assert.Empty(t, nothing.Critical)
}
