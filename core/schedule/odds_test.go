package schedule_test

import (
	"encoding/json"
	"math"
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/forecast"
	"jantrel/core/plan"
	"jantrel/core/sample"
	"jantrel/core/schedule"
)

func TestEveryDraftByOddsIsValid(t *testing.T) {
	for seed := range sample.Seeds(16) {
		p := sample.Program(seed, sample.Shape{Teams: 2 + int(seed%3), Iterations: 4 + int(seed%5), Items: 15 + int(seed%30), Needs: int(seed % 25), Wild: true, Cycles: seed%4 == 0})
		o := schedule.Options{Today: sample.Today, Aim: schedule.ByOdds, Tries: 3}
		switch seed % 5 {
		case 1:
			o.KeepClose = true
		case 2:
			o.FillTo = 0.6
		case 3:
			o.Items = []string{"F0", "I9", "I12"}
		case 4:
			o.Quick = true
		}
		check(t, p, o)
	}
}

// expected is the expected late days of a plan, by plays that no search has seen.
func expected(p *plan.Plan) float64 {
	return forecast.Play(p, forecast.Options{Today: sample.Today, Plays: 2000, Seed: 99}).ExpectedLateDays
}

// A draft by odds is not worse than the plan that it begins with, where that is valid; nor than
// the draft by dates.
func TestADraftByOddsIsNoWorse(t *testing.T) {
	gained := 0
	for seed := range sample.Seeds(8) {
		p := plan.Of(sample.Program(seed, sample.Shape{Teams: 3, Iterations: 8, Items: 40, Needs: 25}))
		valid := schedule.Place(p, schedule.Draft(p, schedule.Options{Today: sample.Today}))
		before := expected(valid)
		d := schedule.Draft(valid, schedule.Options{Today: sample.Today, Aim: schedule.ByOdds})
		after := expected(schedule.Place(valid, d))
		assert.LessOrEqual(t, after, before+max(0.5, 0.03*before), "seed %d", seed)
		if after < before*0.97 {
			gained++
		}
		o := schedule.Options{Today: sample.Today, Aim: schedule.ByOdds, Quick: true}
		quick := expected(schedule.Place(valid, schedule.Draft(valid, o)))
		assert.LessOrEqual(t, quick, before+max(0.5, 0.03*before), "seed %d, the first good one", seed)
	}
	assert.Greater(t, gained, 1, "and often better")
}

// A draft by odds is no worse than the best of drafts of the same work in shuffled ranks, filled
// more or less: within 1 % or a tenth of a day, which are equal, and by plays that no search saw.
func TestADraftByOddsIsNoWorseThanShuffledOnes(t *testing.T) {
	for seed := range uint64(5) {
		p := sample.Program(500+seed, sample.Shape{Teams: 2 + int(seed%3), Iterations: 6 + int(seed%4), Items: 25 + int(seed)*8, Needs: 20 + int(seed)*4, Wild: seed%2 == 0})
		now := plan.Of(p)
		ours := expected(schedule.Place(now, schedule.Draft(now, schedule.Options{Today: sample.Today, Aim: schedule.ByOdds, Workers: 2})))
		random, best := rand.New(rand.NewPCG(seed, 1)), math.Inf(1)
		for range 12 {
			shuffled := p
			shuffled.Items = slices.Clone(p.Items)
			random.Shuffle(len(shuffled.Items), func(a, b int) { shuffled.Items[a], shuffled.Items[b] = shuffled.Items[b], shuffled.Items[a] })
			d := schedule.Draft(plan.Of(shuffled), schedule.Options{Today: sample.Today, FillTo: 0.6 + 0.4*random.Float64(), Tries: 1})
			best = min(best, expected(schedule.Place(now, d)))
		}
		assert.LessOrEqual(t, ours, best+max(0.1, 0.01*best), "seed %d", seed)
	}
}

func TestADraftByOddsIsTheSameWhoeverPlays(t *testing.T) {
	p := plan.Of(sample.Program(3, sample.Shape{Teams: 3, Iterations: 6, Items: 30, Needs: 20, Wild: true}))
	draft := func(workers int) string {
		o := schedule.Options{Today: sample.Today, Aim: schedule.ByOdds, Workers: workers, Tries: 5}
		d := schedule.Draft(p, o)
		schedule.Foresee(p, &d, o)
		text, err := json.Marshal(d)
		require.NoError(t, err)
		return string(text)
	}
	assert.Equal(t, draft(1), draft(3))
}

func TestWhatIsLeftFreeSaysSo(t *testing.T) {
	said := 0
	for seed := range uint64(4) {
		p := sample.Program(seed, sample.Shape{Teams: 3, Iterations: 8, Items: 40, Needs: 25})
		for _, x := range schedule.Draft(plan.Of(p), schedule.Options{Today: sample.Today, Aim: schedule.ByOdds, Tries: 3}).Placements {
			if x.Why.Code == schedule.WhyFree {
				said++
				assert.Contains(t, x.Why.Text, "of its capacity on purpose")
				assert.NotEmpty(t, x.Why.Iteration)
				assert.True(t, x.Moved)
			}
		}
	}
	assert.Positive(t, said)
}

func TestForeseeSaysWhatAcceptingDoes(t *testing.T) {
	p := plan.Of(sample.Program(2, sample.Shape{Teams: 3, Iterations: 6, Items: 30, Needs: 10}))
	o := schedule.Options{Today: sample.Today, Tries: 5}
	d := schedule.Draft(p, o)
	schedule.Foresee(p, &d, o)
	f := forecast.Play(schedule.Place(p, d), forecast.Options{Today: sample.Today, Plays: 2000, Seed: 1})
	assert.Equal(t, f.ExpectedLateDays, *d.Score.ExpectedLateDays)
	assert.LessOrEqual(t, *d.Score.ExpectedLateDaysBound, *d.Score.ExpectedLateDays)
	assert.LessOrEqual(t, *d.Score.ExpectedLateDaysBound, *d.Score.ExpectedLateDaysToday)
	for i := range d.Releases {
		assert.Equal(t, f.Releases[i].Chance, d.Releases[i].Chance)
	}
}

func BenchmarkDraftByOdds500(b *testing.B) {
	p := plan.Of(sample.Program(1, sample.Shape{Teams: 12, Iterations: 20, Items: 500, Needs: 500}))
	for b.Loop() {
		schedule.Draft(p, schedule.Options{Today: sample.Today, Aim: schedule.ByOdds, Workers: 2})
	}
}
