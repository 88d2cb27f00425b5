package live_test

import (
	"context"
	"errors"
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/internal/live"
)

// soFar is a part of an answer, until it is 3.
type soFar int

func (s soFar) Partial() bool { return s < 3 }

// What was found in part is nobody's to keep: whoever asks next goes on with the search of its state, until it is over.
func TestAPartOfAnAnswerIsNotKept(t *testing.T) {
	_, l := start(t, t.TempDir())
	begun := 0
	ask := func(state *live.State) soFar {
		found, err := live.Answer(ctx, l, state, "so far", func(context.Context) (soFar, error) {
			search, err := live.Search(state, "so far", func() (*soFar, error) { begun++; return new(soFar), nil })
			*search++
			return *search, err
		})
		require.NoError(t, err)
		return found
	}
	state := l.State()
	assert.Equal(t, []soFar{1, 2, 3, 3}, []soFar{ask(state), ask(state), ask(state), ask(state)})
	assert.Equal(t, 1, begun)
	_, err := l.Apply(ctx, ann, 0, "Rename", nil)
	require.NoError(t, err)
	assert.Equal(t, soFar(1), ask(l.State()), "of another state it is another search")
}

// A state remembers the last few searches; one that cannot begin is tried again.
func TestAStateForgetsOldSearches(t *testing.T) {
	_, l := start(t, t.TempDir())
	state, begun := l.State(), map[string]int{}
	look := func(question string) {
		_, err := live.Search(state, question, func() (int, error) { begun[question]++; return 0, nil })
		require.NoError(t, err)
	}
	look("old")
	for i := range 7 {
		look(fmt.Sprint(i))
		look("old")
	}
	assert.Equal(t, 1, begun["old"], "it was asked for all the time")
	for i := range 8 {
		look(fmt.Sprint("new ", i))
	}
	look("old")
	assert.Equal(t, 2, begun["old"])

	failed := errors.New("no")
	for range 2 {
		_, err := live.Search(state, "bad", func() (int, error) { begun["bad"]++; return 0, failed })
		assert.ErrorIs(t, err, failed)
	}
	assert.Equal(t, 2, begun["bad"])
}
