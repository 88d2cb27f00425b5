package door

import (
	"context"
	"net/http"
	"testing"

	"github.com/danielgtaylor/huma/v2"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Large requests of one account come one at a time, and few in all; who has many waiting, or
// gives up, takes no place.
func TestLargeRequestsTakeTurns(t *testing.T) {
	turns := newTurns(2)
	gone, cancel := context.WithCancel(t.Context())
	cancel()
	first, err := turns.take(t.Context(), 1)
	require.NoError(t, err)
	_, err = turns.take(gone, 1)
	require.Error(t, err, "the account has its turn already")
	second, err := turns.take(t.Context(), 2)
	require.NoError(t, err)
	_, err = turns.take(gone, 3)
	require.Error(t, err, "two are at work")
	first()
	third, err := turns.take(t.Context(), 1)
	require.NoError(t, err)
	waiting := make(chan error, 5)
	for range 5 { // beside the one at work
		go func() {
			end, err := turns.take(t.Context(), 1)
			if err == nil {
				end()
			}
			waiting <- err
		}()
	}
	var status huma.StatusError
	for range 2 {
		require.ErrorAs(t, <-waiting, &status, "four wait at most, the one at work among them")
		assert.Equal(t, http.StatusTooManyRequests, status.GetStatus())
	}
	third()
	for range 3 {
		require.NoError(t, <-waiting)
	}
	second()
	assert.Empty(t, turns.each, "nothing is kept of who is done")
	assert.Empty(t, turns.all)
}

func TestFaultsThatAreNamed(t *testing.T) {
	many := make([]error, 1000)
	assert.Len(t, Named(many), 101)
	assert.EqualError(t, Named(many)[100], "and 900 more")
	assert.Len(t, Named(many[:100]), 100)
}
