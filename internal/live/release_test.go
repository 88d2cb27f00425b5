package live_test

import (
	"context"
	"errors"
	"fmt"
	"sync"
	"testing"
	"testing/synctest"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/program"
	"jantrel/core/sample"
	"jantrel/internal/journal"
	"jantrel/internal/live"
	"jantrel/internal/store/memory"
)

// A line goes when nobody has used it for five minutes, and comes back as it was; one that somebody listens to stays.
func TestIdleLinesAreReleased(t *testing.T) {
	synctest.Test(t, func(t *testing.T) {
		h := live.NewHub(memory.New(), time.Now, func() program.Date { return sample.Today })
		defer h.Close()
		id, err := h.Create(t.Context(), sample.Program(1, sample.Shape{Teams: 2, Iterations: 4, Items: 20}))
		require.NoError(t, err)
		request, end := context.WithCancel(t.Context())
		old, err := h.Open(request, id)
		require.NoError(t, err)
		listener, leaves := context.WithCancel(t.Context())
		_, err = h.Open(listener, id)
		require.NoError(t, err)
		_, err = old.Apply(request, ann, 0, "E", []program.Change{title(old.State().Program.Items[0].Key, "Fog bell")})
		require.NoError(t, err)
		end()
		time.Sleep(20 * time.Minute)
		synctest.Wait()
		assert.Equal(t, 1, h.Counts().Lines, "it is listened to")
		leaves()
		time.Sleep(4 * time.Minute)
		synctest.Wait()
		assert.Equal(t, 1, h.Counts().Lines)
		time.Sleep(3 * time.Minute)
		synctest.Wait()
		assert.Zero(t, h.Counts().Lines)
		assert.Zero(t, h.Counts().Cached)

		again, err := h.Open(t.Context(), id)
		require.NoError(t, err)
		assert.NotSame(t, old, again)
		assert.Equal(t, old.State().Program, again.State().Program)
		_, err = old.Apply(t.Context(), ann, 1, "E", []program.Change{title(old.State().Program.Items[0].Key, "Fog horn")})
		require.ErrorIs(t, err, live.ErrBusy, "there is one writer")
		_, err = again.Apply(t.Context(), ann, 1, "E", []program.Change{title(old.State().Program.Items[0].Key, "Fog horn")})
		assert.NoError(t, err)
	})
}

// However many programs and scenarios are opened, and questions asked of them, no more memory is taken than there is for
// them; and edits made meanwhile are all there afterwards.
func TestMemoryIsBounded(t *testing.T) {
	t.Parallel()
	const programs, edits = 30, 6
	h := live.NewHub(memory.New(), time.Now, func() program.Date { return sample.Today })
	defer h.Close()
	const limit = 4 << 20
	h.Limit(limit)
	var ids []int64
	for i := range programs {
		id, err := h.Create(t.Context(), sample.Program(uint64(i), sample.Shape{Teams: 4, Iterations: 6, Items: 200, Needs: 60}))
		require.NoError(t, err)
		ids = append(ids, id)
	}
	// request does something with a line as a request does, which has it as long as it takes.
	request := func(id int64, do func(context.Context, *live.Line) error) error {
		ctx, end := context.WithCancel(t.Context())
		defer end()
		l, err := h.Open(ctx, id)
		if err != nil {
			return err
		}
		return do(ctx, l)
	}
	var wait sync.WaitGroup
	for worker := range 4 {
		wait.Go(func() {
			for i := range programs * edits {
				id := ids[(i*7+worker*11)%programs]
				err := request(id, func(ctx context.Context, l *live.Line) error {
					if worker > 0 {
						_, err := live.Answer(ctx, l, l.State(), fmt.Sprint(i%20), func(context.Context) ([]byte, error) { return make([]byte, 100<<10), nil })
						return err
					}
					now := l.State()
					_, err := l.Apply(ctx, ann, now.Revision, "E", []program.Change{title(now.Program.Items[0].Key, fmt.Sprint("Bell ", i))})
					if err == nil {
						_, err = l.At(ctx, now.Revision)
					}
					return err
				})
				if !errors.Is(err, live.ErrBusy) {
					assert.NoError(t, err)
				}
			}
		})
	}
	wait.Wait()
	// What the last requests had may go a moment after they are over.
	assert.Eventually(t, func() bool { return h.Counts().Cached <= limit }, time.Minute, time.Millisecond)
	assert.Greater(t, h.Counts().Released, int64(programs), "they come and go")
	for _, id := range ids {
		require.NoError(t, request(id, func(ctx context.Context, l *live.Line) error {
			assert.EqualValues(t, edits, l.State().Revision)
			list, err := l.Journal(ctx, 0, 100, journal.Sought{})
			assert.Len(t, list, edits)
			return err
		}))
	}
}
