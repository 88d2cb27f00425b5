package live_test

import (
	"context"
	"math/rand/v2"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/calendar"
	"jantrel/core/program"
	"jantrel/core/reports"
	"jantrel/core/sample"
	"jantrel/internal/live"
)

func charts() (all []reports.Chart) {
	for _, c := range []reports.Chart{
		{Of: reports.Items, Measure: "number", Split: []string{"state"}},
		{Of: reports.Items, Measure: "number", View: "unfinished", Split: []string{"team"}},
		{Of: reports.Items, Measure: "share", Split: []string{"release"}},
		{Of: reports.Items, Measure: "age", Split: []string{"team"}},
		{Of: reports.Items, Measure: "number", Filter: program.Filter{Conditions: []program.Condition{{Field: "changed", Is: "since", Values: []string{"2 days ago"}}}}},
		{Of: reports.Needs, Measure: "spare", Split: []string{"status"}},
		{Of: reports.Iterations, Measure: "full", Split: []string{"team"}},
		{Of: reports.Tasks, Measure: "left", Split: []string{"owner"}},
		{Of: reports.Risks, Measure: "number"},
		{Of: reports.Hours, Measure: "spent"},
	} {
		c.Form = reports.Lines
		all = append(all, c)
	}
	return all
}

// What a chart tells of a day that is over is what it told at the end of that day, also after a restart.
func TestChartsOverTimeAreWhatWasOnScreen(t *testing.T) {
	computes(t)
	folder := t.TempDir()
	now := time.Date(2027, 3, 2, 8, 0, 0, 0, time.UTC)
	open := func() (*live.Hub, func()) {
		s := keep(t, folder)
		h := live.NewHub(s, func() time.Time { return now }, func() program.Date { return calendar.OfTime(now) })
		return h, h.Close
	}
	h, end := open()
	id, err := h.Create(ctx, sample.Program(5, sample.Shape{Teams: 3, Iterations: 4, Items: 30, Needs: 10, Wild: true}))
	require.NoError(t, err)
	l, err := h.Open(ctx, id)
	require.NoError(t, err)
	r := rand.New(rand.NewPCG(7, 7))
	said := map[program.Date][]reports.Drawn{}
	over := charts()
	for i := range over {
		over[i].Back = 30
	}
	for day := range 12 {
		for hour := range r.IntN(5) {
			now = time.Date(2027, 3, 2+day, 9+hour, 0, 0, 0, time.UTC)
			_, _ = l.Apply(ctx, ann, l.State().Revision, "Edit", randomEdit(r, l.State().Program))
		}
		now = time.Date(2027, 3, 2+day, 23, 59, 0, 0, time.UTC)
		told, err := l.Charts(ctx, l.State(), charts(), nil)
		require.NoError(t, err)
		said[calendar.OfTime(now)] = told
		if day == 6 { // some of it is remembered already
			_, err := l.Charts(ctx, l.State(), over, nil)
			require.NoError(t, err)
		}
	}
	check := func() {
		told, err := l.Charts(ctx, l.State(), over, nil)
		require.NoError(t, err)
		for i := range over {
			s := told[i].Series
			require.NotNil(t, s, "%+v: %s", over[i], told[i].Failed)
			require.GreaterOrEqual(t, len(s.Days), 9, "from the first edit on")
			for d, day := range s.Days {
				was := said[day][i].Table
				require.Equal(t, was.Total, s.Totals[d], "%+v on %s", over[i], day)
				require.Equal(t, was.Count, s.Counts[d])
				values := map[string]*float64{}
				for row, v := range was.Rows {
					values[v.Key] = was.Totals[row]
				}
				for line, v := range s.Lines {
					require.Equal(t, values[v.Key], s.Points[line][d], "%+v on %s: %s", over[i], day, v.Title)
				}
			}
		}
	}
	check()
	end()
	h, end = open()
	defer end()
	l, err = h.Open(ctx, id)
	require.NoError(t, err)
	check()
	stopped, stop := context.WithCancel(ctx)
	stop()
	_, err = l.Charts(stopped, l.State(), over, nil)
	assert.Error(t, err)
}

// BenchmarkPage draws twelve charts of 5,000 items, four of them over twelve weeks with 6,000 changes in them: first,
// and after each edit.
func BenchmarkPage(b *testing.B) {
	now := time.Date(2027, 3, 2, 8, 0, 0, 0, time.UTC)
	_, h := at(b, &now)
	id, err := h.Create(ctx, sample.Program(1, sample.Shape{Teams: 40, Iterations: 12, Items: 5000, Needs: 6000}))
	require.NoError(b, err)
	l, err := h.Open(ctx, id)
	require.NoError(b, err)
	size := func(n int) {
		_, err := l.Apply(ctx, ann, l.State().Revision, "Size", []program.Change{program.SetTo(program.Ref{Kind: program.KindItem, Key: "I40"}, "size", 1+n%9)})
		require.NoError(b, err)
	}
	for day := range 85 {
		now = now.AddDate(0, 0, 1)
		for n := range 70 {
			size(day + n)
		}
	}
	asked := append(charts(), charts()[:2]...)
	for _, i := range []int{0, 1, 2, 6} {
		asked[i].Back = 84
	}
	draw := func(b *testing.B) {
		drawn, err := l.Charts(ctx, l.State(), asked, nil)
		require.NoError(b, err)
		require.Empty(b, drawn[0].Failed)
	}
	begin := time.Now()
	draw(b)
	b.Logf("first: %s", time.Since(begin))
	n := 0
	for b.Loop() {
		b.StopTimer()
		n++
		size(n)
		b.StartTimer()
		draw(b)
	}
}
