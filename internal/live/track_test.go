package live_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/program"
	"jantrel/core/sample"
	"jantrel/core/track"
	"jantrel/internal/demo"
)

// Asked again and again between edits it says what it says when it is asked for the first time, as
// the line is now and as it was.
func TestUnderWayGoesOnFromWhatItKnows(t *testing.T) {
	folder := t.TempDir()
	h := clocked(t, folder)
	id, err := h.Create(ctx, demo.Program(sample.Today))
	require.NoError(t, err)
	l, err := h.Open(ctx, id)
	require.NoError(t, err)
	var then [][]track.Iteration
	for n := range 6 {
		_, err := l.Apply(ctx, ann, l.State().Revision, "Size", []program.Change{program.SetTo(program.Ref{Kind: program.KindItem, Key: "LC-5"}, "size", 3+n)})
		require.NoError(t, err)
		found, err := l.UnderWay(ctx, l.State())
		require.NoError(t, err)
		then = append(then, found)
	}
	assert.Len(t, then[5][0].Steps, 6)
	for n, want := range then {
		s, err := l.At(ctx, int64(n+1))
		require.NoError(t, err)
		got, err := l.UnderWay(ctx, s)
		require.NoError(t, err)
		assert.Equal(t, want[0].Run, got[0].Run)
	}
	h.Close()
	again := clocked(t, folder)
	l, err = again.Open(ctx, id)
	require.NoError(t, err)
	got, err := l.UnderWay(ctx, l.State())
	require.NoError(t, err)
	assert.Equal(t, then[5], got)
}
