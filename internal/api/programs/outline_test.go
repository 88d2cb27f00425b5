package programs

import (
	"bytes"
	"compress/gzip"
	"encoding/json"
	"testing"

	"github.com/klauspost/compress/zstd"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/plan"
	"jantrel/core/sample"
	"jantrel/core/standing"
	"jantrel/internal/live"
)

func stateOf(shape sample.Shape) *live.State {
	p := plan.Of(sample.Program(1, shape))
	return &live.State{Plan: p, Today: sample.Today, Facts: standing.Of(p, sample.Today)}
}

var widest = sample.Shape{Teams: 200, Iterations: 300, Items: 20_000, Needs: 12_000}

// The outline of the widest program, of 60,000 iterations and 20,000 items, comes over a
// slow line: 400 kB at most, whichever way it is compressed.
func TestTheWidestOutlineIsSmall(t *testing.T) {
	t.Parallel()
	outline, err := outlineOf(1, stateOf(widest))
	require.NoError(t, err)
	text, err := json.Marshal(outline)
	require.NoError(t, err)
	var zipped bytes.Buffer
	w := gzip.NewWriter(&zipped)
	_, err = w.Write(text)
	require.NoError(t, err)
	require.NoError(t, w.Close())
	encoder, err := zstd.NewWriter(nil)
	require.NoError(t, err)
	packed := encoder.EncodeAll(text, nil)
	t.Logf("%d bytes, gzip %d, zstd %d", len(text), zipped.Len(), len(packed))
	assert.Less(t, zipped.Len(), 400_000)
	assert.Less(t, len(packed), 400_000)
}

// What an outline leaves out is what the details hold: together they are the program.
func TestOutlineAndDetailsAreTheProgram(t *testing.T) {
	t.Parallel()
	state := stateOf(sample.Shape{Teams: 2, Iterations: 4, Items: 30, Needs: 10, Wild: true})
	outline, err := outlineOf(1, state)
	require.NoError(t, err)
	assert.Equal(t, len(state.Items), outline.Items.N)
	for _, field := range details {
		assert.NotContains(t, outline.Items.Columns, field)
	}
	all := detailsOf(state, nil)
	require.Len(t, all.Items, len(state.Items))
	assert.Len(t, all.Comments, len(state.Comments))
	for i, d := range all.Items {
		item := state.Items[i]
		assert.Equal(t, ItemDetails{item.Key, item.Description, item.Tasks, item.Checks, item.Links}, d)
	}
	some := detailsOf(state, []string{"I3"})
	require.Len(t, some.Items, 1)
	for _, c := range some.Comments {
		assert.Equal(t, "I3", c.Item)
	}
	assert.Equal(t, len(state.Facts.Iterations), outline.Facts.Iterations.N)
	assert.NotEmpty(t, state.Program.Items, "the state keeps what the outline leaves out")
}

func BenchmarkOutlineWidest(b *testing.B) {
	state := stateOf(widest)
	for b.Loop() {
		outline, err := outlineOf(1, state)
		require.NoError(b, err)
		_, err = json.Marshal(outline)
		require.NoError(b, err)
	}
}
