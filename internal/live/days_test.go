package live_test

import (
	"fmt"
	"math/rand/v2"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/calendar"
	"jantrel/core/forecast"
	"jantrel/core/program"
	"jantrel/core/sample"
	"jantrel/internal/live"
)

// at is a hub whose clock stands at a time that the test moves on.
func at(t testing.TB, now *time.Time) (live.Store, *live.Hub) {
	t.Helper()
	s := keep(t, t.TempDir())
	h := live.NewHub(s, func() time.Time { return *now }, func() program.Date { return calendar.OfTime(*now) })
	t.Cleanup(h.Close)
	return s, h
}

// What is told of the past is what the strip said at the end of each day, and is reckoned once.
func TestTheForecastOfThePastIsWhatWasSaid(t *testing.T) {
	computes(t)
	now := time.Date(2027, 3, 2, 8, 0, 0, 0, time.UTC)
	s, h := at(t, &now)
	id, err := h.Create(ctx, sample.Program(3, sample.Shape{Teams: 2, Iterations: 4, Items: 20, Needs: 6}))
	require.NoError(t, err)
	l, err := h.Open(ctx, id)
	require.NoError(t, err)
	r := rand.New(rand.NewPCG(1, 1))
	said := map[program.Date][]forecast.Landing{}
	for day := range 10 {
		for hour := range r.IntN(4) {
			now = time.Date(2027, 3, 2+day, 9+hour, 0, 0, 0, time.UTC)
			_, _ = l.Apply(ctx, ann, l.State().Revision, "Edit", randomEdit(r, l.State().Program))
		}
		now = time.Date(2027, 3, 2+day, 23, 59, 0, 0, time.UTC)
		told, err := l.LandingsAt(ctx, l.State())
		require.NoError(t, err)
		said[calendar.OfTime(now)] = told.Releases
	}
	now = now.Add(time.Hour)
	_, missing, err := l.ForecastDays(ctx, 0, 0)
	require.NoError(t, err)
	assert.Positive(t, missing, "there was no time")
	days, missing, err := l.ForecastDays(ctx, 0, time.Hour)
	require.NoError(t, err)
	assert.Zero(t, missing)
	require.GreaterOrEqual(t, len(days), 8, "from the first edit on")
	for i, day := range days {
		if i > 0 {
			assert.Equal(t, days[i-1].Day.Add(1), day.Day)
		}
		var landings []forecast.Landing
		for _, d := range day.Dated {
			if d.Kind == program.KindRelease {
				landings = append(landings, d.Landing)
			}
		}
		assert.Equal(t, asJSON(t, said[day.Day]), asJSON(t, landings), day.Day)
	}
	again, missing, err := l.ForecastDays(ctx, 0, 0)
	require.NoError(t, err)
	assert.Zero(t, missing, "all of it is kept")
	assert.Equal(t, days, again)
	kept, err := s.ForecastDays(ctx, id, 0, forecast.Rules+1)
	require.NoError(t, err)
	assert.Empty(t, kept, "by other rules it is reckoned anew")
}

// Of a day the edits that moved a date are told, with what each did, in their order.
func TestWhichEditsOfADayMovedADate(t *testing.T) {
	h := clocked(t, t.TempDir())
	p := sample.Program(3, sample.Shape{Teams: 2, Iterations: 4, Items: 20, Needs: 6})
	id, err := h.Create(ctx, p)
	require.NoError(t, err)
	l, err := h.Open(ctx, id)
	require.NoError(t, err)
	edit := func(label, key, field string, value any) {
		_, err := l.Apply(ctx, ann, l.State().Revision, label, []program.Change{{Op: program.Set, Ref: program.Ref{Kind: program.KindItem, Key: key}, Field: field, Value: []byte(asJSON(t, value))}})
		require.NoError(t, err)
	}
	key := ""
	for i := range l.State().Items {
		if item := &l.State().Items[i]; key == "" && l.State().Tree().ToSchedule(i) && item.Team != "" && item.State == program.Todo {
			key = item.Key
		}
	}
	set := forecast.Set{Key: key, Items: []string{key}}
	edit("Rename", key, "title", "Another name")
	edit("Grow", key, "size", 400.0)
	edit("Shrink", key, "size", 1.0)
	moved, leftOut, err := l.MovedOn(ctx, sample.Today, set)
	require.NoError(t, err)
	assert.Zero(t, leftOut)
	require.Len(t, moved, 2)
	assert.Equal(t, []string{"Grow", "Shrink"}, []string{moved[0].Label, moved[1].Label})
	assert.Equal(t, moved[0].After, moved[1].Before)
	assert.Greater(t, int(moved[0].After.Even), int(moved[0].Before.Even))
	none, _, err := l.MovedOn(ctx, sample.Today.Add(-1), set)
	require.NoError(t, err)
	assert.Empty(t, none)
}

// A year of a program of 120 items whose journal has 20 edits a week.
func BenchmarkForecastDays(b *testing.B) {
	for b.Loop() {
		b.StopTimer()
		s := keep(b, b.TempDir())
		now := time.Date(2026, 3, 2, 8, 0, 0, 0, time.UTC)
		h := live.NewHub(s, func() time.Time { return now }, func() program.Date { return calendar.OfTime(now) })
		id, err := h.Create(ctx, sample.Program(3, sample.Shape{Teams: 6, Iterations: 12, Items: 120, Needs: 45}))
		require.NoError(b, err)
		l, err := h.Open(ctx, id)
		require.NoError(b, err)
		r := rand.New(rand.NewPCG(1, 1))
		for range 1000 {
			now = now.Add(8*time.Hour + 45*time.Minute)
			_, _ = l.Apply(ctx, ann, l.State().Revision, fmt.Sprint(now), randomEdit(r, l.State().Program))
		}
		b.StartTimer()
		days, _, err := l.ForecastDays(ctx, 0, time.Hour)
		require.NoError(b, err)
		b.ReportMetric(float64(len(days)), "days")
		h.Close()
	}
}
