package demo_test

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/calendar"
	"jantrel/core/forecast"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/schedule"
	"jantrel/core/standing"
	"jantrel/internal/demo"
)

func TestTheDemoIsAliveOnAnyDay(t *testing.T) {
	for d := range 14 {
		today := calendar.MustParse("2027-03-23").Add(d * 37)
		p := demo.Program(today)
		require.Empty(t, program.Validate(p), today)
		f := standing.Of(plan.Of(p), today)
		assert.NotEmpty(t, f.Counts.Over, today)
		assert.Len(t, f.Counts.Broken, 2, today)
		assert.NotEmpty(t, f.Counts.NotReady, today)
		assert.NotEmpty(t, f.Counts.Unplaced, today)
		for _, team := range f.Teams {
			assert.Len(t, team.Pace, 9)
		}
		for _, l := range forecast.Play(plan.Of(p), forecast.Options{Today: today, Plays: 400, Seed: 1}).Releases {
			assert.Greater(t, *l.Chance, 0.02, "%s %s", today, l.Key)
			assert.Less(t, *l.Chance, 0.98, "%s %s", today, l.Key)
		}
	}
}

func TestTheSameDayGivesTheSameDemo(t *testing.T) {
	today := calendar.MustParse("2027-03-23")
	one, err := json.Marshal(demo.Program(today))
	require.NoError(t, err)
	two, err := json.Marshal(demo.Program(today))
	require.NoError(t, err)
	assert.Equal(t, string(one), string(two))
}

func BenchmarkForecastDemo10000(b *testing.B) {
	today := calendar.MustParse("2027-03-23")
	p := demo.Program(today)
	for b.Loop() {
		forecast.Play(plan.Of(p), forecast.Options{Today: today, Plays: 10_000, Seed: 1, Workers: 2})
	}
}

// Accepting the draft mends what the strip says, and no release pays much for the other: what counts is the sum of
// expected late days, for which none loses more than five points of its chance beyond a standard error of the plays.
func TestAcceptingTheDraftRaisesTheOdds(t *testing.T) {
	for _, day := range []string{"2026-11-25", "2027-03-23"} {
		today := calendar.MustParse(day)
		p := plan.Of(demo.Program(today))
		play := func(p *plan.Plan) forecast.Forecast {
			return forecast.Play(p, forecast.Options{Today: today, Plays: 2000, Seed: 1, Workers: 2})
		}
		before := play(p)
		after := play(schedule.Place(p, schedule.Draft(p, schedule.Options{Today: today, Aim: schedule.ByOdds, Workers: 2})))
		assert.Less(t, after.ExpectedLateDays, 0.8*before.ExpectedLateDays, day)
		assert.Greater(t, *after.Releases[0].Chance, *before.Releases[0].Chance+0.2, day)
		for i, r := range after.Releases {
			assert.GreaterOrEqual(t, *r.Chance, *before.Releases[i].Chance-0.05-r.Error, "%s %s", day, r.Key)
		}
	}
}
