package ready_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/program"
	"jantrel/core/ready"
	"jantrel/internal/sample"
)

func TestWhatItemsLack(t *testing.T) {
	size := 3.0
	p := program.Program{
		Teams: []program.Team{{Key: "A", Iterations: []program.Iteration{{Key: "1"}}}},
		Items: []program.Item{
			{Key: "ready", Team: "A", Size: &size},
			{Key: "bare"},
			{Key: "waits", Team: "A", Size: &size},
			{Key: "goes on", Team: "A", Size: &size},
			{Key: "placed", Team: "A", Size: &size, Iteration: "1"},
			{Key: "done", State: program.Done},
			{Key: "out", KeptOut: true},
			{Key: "group"},
			{Key: "leaf", Parent: "group", Team: "A", Size: &size},
		},
		Needs: []program.Need{{Item: "waits", Needs: "ready"}, {Item: "goes on", Needs: "placed"}, {Item: "goes on", Needs: "done"}, {Item: "group", Needs: "bare"}},
	}.Normal()
	lacks := map[string][]ready.Lack{}
	for i, l := range ready.Check(p, program.TreeOf(p)) {
		if len(l) > 0 {
			lacks[p.Items[i].Key] = l
		}
	}
	assert.Equal(t, map[string][]ready.Lack{
		"bare":  {ready.NoSize, ready.NoTeam},
		"waits": {ready.NeedsUnplaced},
		"leaf":  {ready.NeedsUnplaced},
	}, lacks, "a need on a group holds for its leaves; the done, the kept out and groups lack nothing")
}

func TestEveryLackHasWords(t *testing.T) {
	texts := map[string]bool{}
	for _, l := range []ready.Lack{ready.NoSize, ready.NoTeam, ready.NeedsUnplaced} {
		require.NotEmpty(t, l.Text())
		texts[l.Text()] = true
	}
	assert.Len(t, texts, 3)
}

// Whatever the program: what is not to be scheduled lacks nothing, and a lack is
// named once.
func TestOnlyWhatIsToBeScheduledLacks(t *testing.T) {
	for seed := range uint64(40) {
		p := sample.Program(seed, sample.Shape{Teams: 3, Iterations: 4, Items: 25, Needs: 20, Wild: true, Cycles: true})
		tree := program.TreeOf(p)
		for i, lacks := range ready.Check(p, tree) {
			require.True(t, len(lacks) == 0 || tree.ToSchedule(i))
			seen := map[ready.Lack]bool{}
			for _, l := range lacks {
				require.False(t, seen[l])
				seen[l] = true
			}
		}
	}
}
