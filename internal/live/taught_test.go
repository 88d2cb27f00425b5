package live_test

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/calendar"
	"jantrel/core/forecast"
	"jantrel/core/program"
	"jantrel/core/sample"
	"jantrel/internal/journal"
	"jantrel/internal/live"
)

// A release of 20 gets 10 % more in each of three iterations, on their fifth days; what is
// planned on a first day does not count, nor does what comes between two of them, nor what is
// only renamed.
func TestGrowthIsMeasuredFromTheJournal(t *testing.T) {
	computes(t)
	s := keep(t, t.TempDir())
	now := time.Date(2027, 3, 1, 8, 0, 0, 0, time.UTC)
	h := live.NewHub(s, func() time.Time { return now }, func() program.Date { return calendar.OfTime(now) })
	t.Cleanup(h.Close)
	size := 20.0
	p := program.Program{Name: "X", Teams: []program.Team{{Key: "T", Name: "T", Unit: program.Points, Velocity: &size}}, Releases: []program.Release{{Key: "R", Name: "R"}},
		Items: []program.Item{{Key: "A", Title: "A", Kind: program.Story, Team: "T", Release: "R", Size: &size}}}
	for i := range 6 {
		start := calendar.MustParse("2027-03-01").Add(14 * i)
		p.Teams[0].Iterations = append(p.Teams[0].Iterations, program.Iteration{Key: fmt.Sprint(i), Start: start, End: start.Add(13), State: program.Planned})
	}
	id, err := h.Create(ctx, p.Normal())
	require.NoError(t, err)
	l, err := h.Open(ctx, id)
	require.NoError(t, err)
	edit := func(day string, changes ...program.Change) {
		now = calendar.MustParse(day).Time().Add(10 * time.Hour)
		_, err := l.Apply(ctx, ann, l.State().Revision, "Edit", changes)
		require.NoError(t, err)
	}
	resize := func(to float64) program.Change {
		return program.SetTo(program.Ref{Kind: program.KindItem, Key: "A"}, "size", to)
	}
	closed := func(key string) []program.Change {
		ref := program.Ref{Kind: program.KindIteration, In: "T", Key: key}
		return []program.Change{program.SetTo(ref, "state", program.Closed), program.SetTo(ref, "completed", 5.0), program.SetTo(ref, "committed", 5.0)}
	}
	growth := func() *forecast.Growth {
		landings, _, err := l.Landings(ctx)
		require.NoError(t, err)
		return landings.Result.Releases[0].Growth
	}
	edit("2027-03-01", title("A", "Lamp"))
	edit("2027-03-05", resize(22))
	edit("2027-03-14", closed("0")...)
	edit("2027-03-15", resize(30)) // planned with the iteration
	edit("2027-03-19", resize(33))
	edit("2027-03-28", closed("1")...)
	assert.Nil(t, growth(), "two are too few")
	edit("2027-03-29", resize(40))
	edit("2027-04-02", resize(44))
	edit("2027-04-12", closed("2")...)
	g := growth()
	require.NotNil(t, g)
	assert.Equal(t, forecast.GrowthMeasured, g.Basis)
	assert.InDelta(t, 0.1, g.Share, 1e-9)

	// As it was a month before, nothing was measured yet.
	before, err := l.AsOf(ctx, time.Date(2027, 3, 20, 12, 0, 0, 0, time.UTC))
	require.NoError(t, err)
	o, err := l.Playing(ctx, before)
	require.NoError(t, err)
	assert.Nil(t, forecast.Play(before.Plan, o).Releases[0].Growth)

	// What is set for the release wins; 0 switches it off.
	edit("2027-04-13", program.SetTo(program.Ref{Kind: program.KindRelease, Key: "R"}, "growth", 0.0))
	assert.Nil(t, growth())
}

// What sizes turned out as is gone on with from edit to edit, and read again from the beginning
// for a state of the past.
func TestWhatSizesTurnedOutAsIsReadFromTheJournal(t *testing.T) {
	computes(t)
	h := hub(t, t.TempDir())
	id, err := h.Create(ctx, sample.Program(3, sample.Shape{Teams: 2, Iterations: 4, Items: 30, Needs: 0}).Normal())
	require.NoError(t, err)
	l, err := h.Open(ctx, id)
	require.NoError(t, err)
	r := rand.New(rand.NewPCG(3, 3))
	states := []*live.State{l.State()}
	for range 200 {
		key := fmt.Sprintf("I%d", r.IntN(30))
		ref := program.Ref{Kind: program.KindItem, Key: key}
		c := program.SetTo(ref, "size", 1+r.IntN(9))
		if r.IntN(2) == 0 {
			c = program.SetTo(ref, "state", []program.ItemState{program.Todo, program.Doing, program.Review, program.Done}[r.IntN(4)])
		}
		_, err := l.Apply(ctx, ann, l.State().Revision, "Edit", []program.Change{c})
		require.NoError(t, err)
		if r.IntN(20) == 0 {
			_, err := l.Playing(ctx, l.State()) // so that the next goes on from here
			require.NoError(t, err)
			states = append(states, l.State())
		}
	}
	told := 0
	for _, s := range append(states, l.State()) {
		o, err := l.Playing(ctx, s)
		require.NoError(t, err)
		entries, err := l.Journal(ctx, s.Revision+1, 1000, journal.Sought{})
		require.NoError(t, err)
		slices.Reverse(entries)
		fold := forecast.SizeFold{}
		for _, e := range entries {
			fold.Take(e.Changes)
		}
		require.Equal(t, fold.Factors(s.Plan), o.Past.Turned)
		for _, of := range o.Past.Turned {
			told += len(of)
		}
	}
	assert.Greater(t, told, 20)
}
