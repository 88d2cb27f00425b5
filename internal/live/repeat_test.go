package live_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/calendar"
	"jantrel/core/program"
)

// Items that repeat by themselves come with the iterations that are made ahead, once: what somebody takes out stays out.
func TestItemsRepeatInNewIterations(t *testing.T) {
	now := time.Date(2027, 3, 2, 8, 0, 0, 0, time.UTC)
	_, h := at(t, &now)
	monday := calendar.OfTime(now).Add(-1)
	p := program.Program{
		Name: "Quay", Settings: program.Settings{FillTo: 1}, Cadences: []program.Cadence{{Key: "two", Start: monday, LengthDays: 14, Ahead: 2}},
		Teams: []program.Team{{Key: "A", Name: "Quay", Unit: program.Points, Cadence: "two"}, {Key: "B", Name: "Field", Unit: program.Points, Cadence: "two"}},
		Repeats: []program.Repeat{
			{Key: "watch", Title: "On watch, {iteration}", Kind: program.Upkeep, Teams: []string{"A"}, Each: true}, {Key: "hand", Title: "Made by hand", Kind: program.Upkeep},
		},
	}
	id, err := h.Create(ctx, p.Normal())
	require.NoError(t, err)
	l, err := h.Open(ctx, id)
	require.NoError(t, err)
	watches := func() map[string]int {
		found := map[string]int{}
		for _, x := range l.State().Items {
			assert.Equal(t, "A", x.Team)
			found[x.Iteration]++
		}
		return found
	}
	first := watches()
	require.Len(t, first, len(l.State().Teams[0].Iterations))
	gone := l.State().Items[0]
	_, err = l.Apply(ctx, ann, l.State().Revision, "Take it out", []program.Change{{Op: program.Remove, Ref: program.Ref{Kind: program.KindItem, Key: gone.Key}}})
	require.NoError(t, err)
	now = now.AddDate(0, 0, 14)
	second := watches()
	assert.Len(t, second, len(first), "one that was taken out, and one in the new iteration")
	assert.Zero(t, second[gone.Iteration])
	for iteration, n := range second {
		assert.Equal(t, 1, n, iteration)
	}
}
