package live

import (
	"context"
	"testing"
	"testing/synctest"
	"time"

	"github.com/stretchr/testify/assert"
)

// Who would wait for the writer's turn too long is told to come again; who hangs up waits no
// more; and neither keeps the turn from the next.
func TestTheTurnIsNotWaitedForForever(t *testing.T) {
	synctest.Test(t, func(t *testing.T) {
		writing := make(turn, 1)
		writing.Lock()
		start := time.Now()
		assert.ErrorIs(t, writing.take(t.Context()), ErrBusy)
		assert.Equal(t, patience, time.Since(start))
		ctx, hangUp := context.WithCancel(t.Context())
		hangUp()
		assert.ErrorIs(t, writing.take(ctx), context.Canceled)
		writing.Unlock()
		assert.NoError(t, writing.take(t.Context()))
		writing.Unlock()
	})
}
