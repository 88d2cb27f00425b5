package live_test

import (
	"context"
	"sync"
	"sync/atomic"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/internal/live"
)

// However many ask the same of a state, it is computed once; of another state it is
// another question.
func TestAnAnswerIsComputedOnce(t *testing.T) {
	_, l := start(t, t.TempDir())
	state := l.State()
	var computed atomic.Int32
	ask := func(context.Context) (int, error) { return int(computed.Add(1)), nil }
	var wait sync.WaitGroup
	for range 20 {
		wait.Go(func() {
			found, err := live.Answer(ctx, l, state, "how many", ask)
			assert.NoError(t, err)
			assert.Equal(t, 1, found)
		})
	}
	wait.Wait()
	found, err := live.Answer(ctx, l, state, "something else", ask)
	require.NoError(t, err)
	assert.Equal(t, 2, found)
	_, err = l.Apply(ctx, ann, 0, "Rename", nil)
	require.NoError(t, err)
	found, err = live.Answer(ctx, l, l.State(), "how many", ask)
	require.NoError(t, err)
	assert.Equal(t, 3, found)
}

// An answer goes on while one still waits for it, and is cancelled when nobody does.
func TestAnAnswerNobodyWaitsForIsCancelled(t *testing.T) {
	h, l := start(t, t.TempDir())
	state := l.State()
	begun, ended := make(chan struct{}), make(chan error, 1)
	ask := func(ctx context.Context) (int, error) {
		close(begun)
		<-ctx.Done()
		ended <- ctx.Err()
		return 0, ctx.Err()
	}
	patient, leave := context.WithCancel(ctx)
	hasty, hangUp := context.WithCancel(ctx)
	var wait sync.WaitGroup
	wait.Go(func() {
		_, err := live.Answer(patient, l, state, "long", ask)
		assert.ErrorIs(t, err, context.Canceled)
	})
	<-begun
	hangUp()
	_, err := live.Answer(hasty, l, state, "long", ask)
	assert.ErrorIs(t, err, context.Canceled)
	select {
	case <-ended:
		t.Fatal("it was ended although one still waits")
	default:
	}
	leave()
	assert.ErrorIs(t, <-ended, context.Canceled)
	wait.Wait()
	found, err := live.Answer(ctx, l, state, "long", func(context.Context) (int, error) { return 7, nil })
	require.NoError(t, err)
	assert.Equal(t, 7, found, "the next who asks begins anew")
	h.Close()
}
