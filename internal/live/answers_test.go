package live_test

import (
	"context"
	"fmt"
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

// Few answers wait to be computed; who asks beyond that is told at once, and those that wait
// are computed in the end. Somebody else is not kept waiting by them.
func TestAnswersDoNotQueueWithoutEnd(t *testing.T) {
	h, l := start(t, t.TempDir())
	state := l.State()
	release := make(chan struct{})
	var asked sync.WaitGroup
	var busy, answered atomic.Int32
	begun := make(chan struct{}, 200)
	greedy := live.AskedBy(ctx, &live.Asker{Name: "greedy"})
	ask := func(i int) {
		_, err := live.LongAnswer(greedy, l, state, fmt.Sprint("question ", i), func(context.Context) (int, error) {
			begun <- struct{}{}
			<-release
			return i, nil
		})
		if err == nil {
			answered.Add(1)
		} else if assert.ErrorIs(t, err, live.ErrBusy) && busy.Add(1) == 90 {
			other := live.AskedBy(ctx, &live.Asker{Name: "other"})
			for _, answer := range []func(context.Context, *live.Line, *live.State, string, func(context.Context) (int, error)) (int, error){live.Answer[int], live.LongAnswer[int]} {
				found, err := answer(other, l, state, fmt.Sprintf("%p", answer), func(context.Context) (int, error) { return 7, nil })
				assert.NoError(t, err)
				assert.Equal(t, 7, found)
			}
			close(release)
		}
	}
	for i := range 2 { // a quarter of those that are under way at once
		asked.Go(func() { ask(i) })
		<-begun // it is being computed, and waits no more
	}
	for i := range 100 {
		asked.Go(func() { ask(1000 + i) })
	}
	asked.Wait()
	assert.EqualValues(t, 90, busy.Load())
	assert.EqualValues(t, 12, answered.Load())
	h.Close()
}

// A state remembers its latest answers, and no more than some.
func TestAStateForgetsOldAnswers(t *testing.T) {
	_, l := start(t, t.TempDir())
	state := l.State()
	var computed atomic.Int32
	ask := func(context.Context) (int, error) { return int(computed.Add(1)), nil }
	for i := range 61 {
		_, err := live.Answer(ctx, l, state, fmt.Sprint("question ", i), ask)
		require.NoError(t, err)
	}
	found, err := live.Answer(ctx, l, state, "question 60", ask)
	require.NoError(t, err)
	assert.Equal(t, 61, found)
	found, err = live.Answer(ctx, l, state, "question 0", ask)
	require.NoError(t, err)
	assert.Equal(t, 62, found)
}

// What breaks while it is computed breaks nothing else, and is asked anew by the next.
func TestAnAnswerThatBreaks(t *testing.T) {
	_, l := start(t, t.TempDir())
	state, times := l.State(), 0
	ask := func(context.Context) (int, error) {
		if times++; times == 1 {
			panic("out of range")
		}
		return times, nil
	}
	_, err := live.Answer(ctx, l, state, "how many", ask)
	require.ErrorIs(t, err, live.ErrBroken)
	found, err := live.Answer(ctx, l, state, "how many", ask)
	require.NoError(t, err)
	assert.Equal(t, 2, found)
}
