package live_test

import (
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/program"
	"jantrel/core/sample"
	"jantrel/core/standing"
	"jantrel/internal/live"
)

func asJSON(t *testing.T, value any) string {
	t.Helper()
	text, err := json.Marshal(value)
	require.NoError(t, err)
	return string(text)
}

// randomEdit is a list of one to three changes; some are refused.
func randomEdit(r *rand.Rand, p program.Program) []program.Change {
	var changes []program.Change
	for range 1 + r.IntN(3) {
		item := p.Items[r.IntN(len(p.Items))]
		ref := program.Ref{Kind: program.KindItem, Key: item.Key}
		at := r.IntN(len(p.Items))
		key := fmt.Sprintf("N%d", r.IntN(1_000_000))
		changes = append(changes, []program.Change{
			{Op: program.Set, Ref: ref, Field: "size", Value: json.RawMessage(fmt.Sprint(r.IntN(13)))},
			{Op: program.Set, Ref: ref, Field: "iteration", Value: json.RawMessage(`""`)},
			{Op: program.Set, Ref: ref, Field: "title", Value: json.RawMessage(fmt.Sprintf("%q", key))},
			{Op: program.Move, Ref: ref, At: &at},
			{Op: program.Add, Ref: program.Ref{Kind: program.KindItem, Key: key}, At: &at, Value: json.RawMessage(fmt.Sprintf(`{"key":%q,"title":"","kind":"story"}`, key))},
			{Op: program.Remove, Ref: ref},
			{Op: program.Set, Ref: program.Ref{Kind: program.KindTeam, Key: "T0"}, Field: "velocity", Value: json.RawMessage(fmt.Sprint(10 + r.IntN(20)))},
			{Op: program.Add, Ref: program.Ref{Kind: program.KindNeed, In: item.Key, Key: p.Items[at].Key}, Value: json.RawMessage(fmt.Sprintf(`{"item":%q,"needs":%q}`, item.Key, p.Items[at].Key))},
		}[r.IntN(8)])
	}
	return changes
}

// Whatever was edited: taking all of it back gives the program from before, doing
// it again the one from after, and a new start finds the same as was in memory.
func TestUndoingEverythingGivesTheProgramFromBefore(t *testing.T) {
	computes(t)
	for seed := range uint64(8) {
		folder := t.TempDir()
		h := hub(t, folder)
		id, err := h.Create(ctx, sample.Program(seed, sample.Shape{Teams: 2, Iterations: 4, Items: 14, Needs: 6, Wild: true, Rough: true}))
		require.NoError(t, err)
		p, err := h.Open(ctx, id)
		require.NoError(t, err)
		before := asJSON(t, p.State().Program)
		r := rand.New(rand.NewPCG(seed, 3))
		edits := 0
		for range 60 {
			if _, err := p.Apply(ctx, ann, p.State().Revision, "Edit", randomEdit(r, p.State().Program)); err == nil {
				edits++
			}
		}
		require.Greater(t, edits, 10)
		after := asJSON(t, p.State().Program)
		for range edits {
			_, err := p.Undo(ctx, ann)
			require.NoError(t, err)
		}
		require.Equal(t, before, asJSON(t, p.State().Program))
		for range edits {
			_, err := p.Redo(ctx, ann)
			require.NoError(t, err)
		}
		require.Equal(t, after, asJSON(t, p.State().Program))
		again, err := hub(t, folder).Open(ctx, id)
		require.NoError(t, err)
		require.Equal(t, after, asJSON(t, again.State().Program))
	}
}

// A page that merges every update into what it had knows what the server knows.
func TestUpdatesAddUpToTheState(t *testing.T) {
	h := hub(t, t.TempDir())
	id, err := h.Create(ctx, sample.Program(5, sample.Shape{Teams: 3, Iterations: 4, Items: 24, Needs: 12, Wild: true, Rough: true}))
	require.NoError(t, err)
	p, err := h.Open(ctx, id)
	require.NoError(t, err)
	page := p.State()
	have, facts := page.Program, factsByKey(page.Facts)
	updates, end := p.Subscribe()
	defer end()
	r := rand.New(rand.NewPCG(5, 5))
	for range 80 {
		if _, err := p.Apply(ctx, ben, p.State().Revision, "Edit", randomEdit(r, p.State().Program)); err != nil {
			continue
		}
		u := <-updates
		have, _, err = program.ApplyAll(have, u.Changes)
		require.NoError(t, err)
		for key, value := range factsByKey(u.Facts) {
			facts[key] = value
		}
	}
	require.Equal(t, asJSON(t, p.State().Program), asJSON(t, have))
	for key, value := range factsByKey(p.State().Facts) {
		require.Equal(t, value, facts[key], key)
	}
}

func factsByKey(f standing.Facts) map[string]any {
	all := map[string]any{}
	for _, x := range f.Items {
		all["item "+x.Key] = x
	}
	for _, x := range f.Iterations {
		all["iteration "+x.Team+" "+x.Key] = x
	}
	for _, x := range f.Needs {
		all["need "+x.Item+" "+x.Needs] = x
	}
	for _, x := range f.Teams {
		all["team "+x.Key] = x
	}
	return all
}

func TestASlowReaderIsDroppedNotWaitedFor(t *testing.T) {
	_, p := start(t, t.TempDir())
	updates, end := p.Subscribe()
	defer end()
	for i := range 300 {
		_, err := p.Apply(ctx, ann, int64(i), "Rename", []program.Change{title("I1", fmt.Sprint(i))})
		require.NoError(t, err)
	}
	seen := 0
	for range updates {
		seen++
	}
	assert.Less(t, seen, 300, "it has to load the program again")
}

func TestADeletedProgramEndsItsSubscriptions(t *testing.T) {
	h, p := start(t, t.TempDir())
	updates, end := p.Subscribe()
	defer end()
	require.NoError(t, h.Delete(ctx, 1))
	_, open := <-updates
	assert.False(t, open)
	_, err := h.Open(ctx, 1)
	assert.Error(t, err)
	_, err = p.Apply(ctx, live.Author{Actor: "A", Client: "a"}, 0, "Rename", []program.Change{title("I1", "x")})
	assert.Error(t, err, "nothing is written for a program that is gone")
}
