package demo_test

import (
	"encoding/json"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/calendar"
	"jantrel/core/gate"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/sample"
	"jantrel/core/track"
	"jantrel/internal/demo"
)

// countsUp checks what was noted when an iteration was started or closed against what stood in it: all of it, or what
// was done.
func countsUp(t *testing.T, p *plan.Plan, c program.Change) {
	t.Helper()
	it, _ := p.Teams[p.TeamAt()[c.In]].Find(c.Key)
	size, items := 0.0, 0
	for i := range p.Items {
		if item := &p.Items[i]; item.Iteration == c.Key && item.Team == c.In && (c.Field == "committed" || item.State == program.Done) {
			items++
			if item.Size != nil {
				size += *item.Size
			}
		}
	}
	noted, count := it.Committed, it.CommittedItems
	if c.Field == "completed" {
		noted, count = it.Completed, it.CompletedItems
	}
	assert.InDelta(t, *noted, size, 1e-9, "%s %s", c.Key, c.Field)
	assert.Equal(t, *count, items, "%s %s", c.Key, c.Field)
}

// Whatever day it is: the past leads to today's demo, to the byte, by edits in the order of time and
// before today. What each iteration committed to and completed is what stood in it and was done. The iterations under way tell of their starts, of scope that came and went, and
// of what was sent back.
func TestThePastLeadsToTheDemo(t *testing.T) {
	for d := range sample.Seeds(10) {
		today := calendar.MustParse("2027-03-23").Add(int(d) * 37)
		first, edits := demo.Past(today, time.UTC)
		require.Empty(t, program.Validate(first), today)
		assert.Empty(t, first.Items, "nothing is written down yet")
		assert.Less(t, calendar.OfTime(edits[0].At), today.Add(-295), "ten months ago")
		at := plan.Of(first)
		var events []track.Event
		counted := map[string]int{}
		for i, e := range edits {
			next, applied, err := gate.Try(at, e.Changes)
			require.NoError(t, err, "%s: %s", today, e.Label)
			assert.NotEmpty(t, e.By)
			assert.Less(t, calendar.OfTime(e.At), today)
			if i > 0 {
				assert.False(t, e.At.Before(edits[i-1].At), e.Label)
			}
			at = next
			for _, c := range e.Changes {
				if c.Kind == program.KindIteration && (c.Field == "committed" || c.Field == "completed") {
					counted[c.Field]++
					countsUp(t, at, c)
				}
			}
			events = append(events, track.NewEvent(int64(i+1), e.At, e.By, applied))
		}
		want, err := json.Marshal(demo.Program(today))
		require.NoError(t, err)
		got, err := json.Marshal(at.Program)
		require.NoError(t, err)
		require.Equal(t, string(want), string(got), today)

		assert.Equal(t, map[string]int{"committed": 6*9 + 6, "completed": 6 * 9}, counted)
		added, removed, grown, back := 0, 0, 0.0, 0
		for _, it := range track.Now(at, today, events, edits[0].At, time.UTC) {
			assert.NotEmpty(t, it.Steps, it.Run.Team)
			team, _ := at.Teams[at.TeamAt()[it.Run.Team]].Find(it.Run.Iteration)
			assert.Equal(t, *team.Committed, it.Start.Size, "what was committed is what stood in it at the start")
			assert.Equal(t, *team.CommittedItems, it.Start.Items)
			added, removed, grown = added+it.Added.Items, removed+it.Removed.Items, grown+it.Grown.Size
			for _, c := range it.Courses {
				back += c.Back
			}
		}
		for _, n := range []int{added, removed, int(grown), back} {
			assert.Positive(t, n, today)
		}
	}
}
