package live

import (
	"context"
	"errors"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/plan"
	"jantrel/core/sample"
)

// pastOnly knows no journal: whoever goes into the past is told so.
type pastOnly struct{ Store }

var errAsked = errors.New("the journal was asked")

func (pastOnly) CountChanges(context.Context, int64, int64, int64) (int64, error) { return 0, errAsked }
func (pastOnly) Checkpoints(context.Context, int64) ([]int64, error)              { return nil, nil }

// A state of the past is worked out when it is its asker's turn: one who has as much under way as one may waits, whoever
// has a turn already does not, and what is there is given at once.
func TestThePastIsAskedForInTurn(t *testing.T) {
	t.Parallel()
	h := &Hub{store: pastOnly{}, shares: newShares(), budget: budget{most: 1 << 30}}
	l := &Line{hub: h}
	l.state.Store(newState(plan.Of(sample.Program(1, sample.Shape{Teams: 1, Iterations: 2, Items: 2})), 9, sample.Today))
	vera := AskedBy(t.Context(), &Asker{Name: "vera", Looks: true})
	for range h.shares.quick.each {
		h.shares.enter(false, Asker{Name: "vera"})
	}
	gone, leave := context.WithCancel(InTurn(vera))
	leave()
	_, err := l.seen(gone, 3, sample.Today)
	require.ErrorIs(t, err, context.Canceled, "it waited")
	_, err = l.seen(vera, 3, sample.Today)
	require.ErrorIs(t, err, errAsked)
	_, err = l.seen(InTurn(AskedBy(t.Context(), &Asker{Name: "ann"})), 3, sample.Today)
	require.ErrorIs(t, err, errAsked, "others have their turn")
	state := newState(l.state.Load().Plan, 3, sample.Today)
	l.past.keep(&h.budget, state)
	known, err := l.seen(gone, 3, sample.Today)
	require.NoError(t, err)
	assert.Same(t, state, known)
}
