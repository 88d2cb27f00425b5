package live

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func taken(p *place) bool {
	select {
	case <-p.turn:
		return !p.refused
	default:
		return false
	}
}

// One asker has a quarter of the lane for long answers, under way and waiting; one who only looks waits with half of that.
func TestOneAskerHasAQuarter(t *testing.T) {
	for looks, most := range map[bool]int{false: longWaits / quarter, true: longWaits / quarter / 2} {
		s, running, waiting, refused := newShares(), 0, 0, 0
		for range 100 {
			switch p := s.enter(true, Asker{"greedy", looks}); {
			case p == nil:
				refused++
			case taken(p):
				running++
			default:
				waiting++
			}
		}
		assert.Equal(t, longOnes/quarter, running)
		assert.Equal(t, most, waiting)
		assert.Equal(t, 100-running-most, refused)
		other := s.enter(true, Asker{"other", true})
		require.NotNil(t, other)
		assert.True(t, taken(other), "somebody else has their turn at once")
		assert.True(t, taken(s.enter(false, Asker{"greedy", looks})), "and what is quick does not wait for what is long")
	}
}

// Turns go round among those who wait, however much one of them has waiting.
func TestTurnsGoRound(t *testing.T) {
	l := &lane{slots: 1, each: 1, waits: 400}
	s := &shares{long: *l}
	first := s.enter(true, Asker{Name: "a"})
	var all []*place
	for _, name := range []string{"a", "a", "a", "b", "c", "c"} {
		all = append(all, s.enter(true, Asker{Name: name}))
	}
	var order []string
	for at := first; at != nil; {
		s.leave(at)
		at = nil
		for _, p := range all {
			if taken(p) && !p.left {
				at = p
				order = append(order, p.by)
			}
		}
	}
	assert.Equal(t, []string{"a", "b", "c", "a", "c", "a"}, order)
	assert.Zero(t, s.waiting())
}

// Where all places to wait are taken, who has the most makes room for who has less.
func TestTheGreediestMakesRoom(t *testing.T) {
	s := newShares()
	waiting := map[string][]*place{}
	for i := range quarter {
		name := fmt.Sprint("many ", i)
		for range longWaits {
			if p := s.enter(true, Asker{Name: name}); p != nil && !taken(p) {
				waiting[name] = append(waiting[name], p)
			}
		}
	}
	require.Equal(t, longWaits, s.waiting())
	modest := s.enter(true, Asker{Name: "modest"})
	require.NotNil(t, modest)
	assert.Equal(t, longWaits, s.waiting())
	refused := 0
	for _, list := range waiting {
		for i, p := range list {
			if p.refused {
				refused++
				assert.Equal(t, len(list)-1, i, "the newest")
			}
		}
	}
	assert.Equal(t, 1, refused)
	// And where all have as little, nobody does.
	even := &shares{long: lane{slots: 1, each: 1, waits: 8}}
	for i := range 9 {
		require.NotNil(t, even.enter(true, Asker{Name: fmt.Sprint(i)}))
	}
	assert.Nil(t, even.enter(true, Asker{Name: "late"}))
}

// An answer that two wait for has its turn with the first of them who has one.
func TestWhoJoinsDoesNotWaitForTheOther(t *testing.T) {
	s := newShares()
	var running []*place
	for range longOnes / quarter {
		running = append(running, s.enter(true, Asker{Name: "greedy"}))
	}
	waits := s.enter(true, Asker{Name: "greedy"})
	require.False(t, taken(waits))
	s.join(waits, Asker{Name: "other"})
	require.True(t, taken(waits), "with the turn of the other")
	assert.Equal(t, "other", waits.by)
	for _, p := range append(running, waits) {
		s.leave(p)
	}
	assert.Zero(t, s.waiting())
	assert.Zero(t, s.long.busy)
	assert.Empty(t, s.long.running)
}

// Whatever comes and goes in whatever order: nobody has more than their part, nobody waits while they could have a turn,
// and in the end nothing is left. The judge counts places by itself.
func TestSharesHoldWhateverComes(t *testing.T) {
	for seed := range uint64(200) {
		r := rand.New(rand.NewPCG(seed, 1))
		s := &shares{long: lane{slots: 1 + r.IntN(4), each: 1 + r.IntN(2), waits: 4 * (1 + r.IntN(4))}}
		l := &s.long
		asked := map[*place][]string{}
		var order []*place // of those, the same in every run
		for range 300 {
			name := string(rune('a' + r.IntN(5)))
			var some *place
			order = slices.DeleteFunc(order, func(p *place) bool { return asked[p] == nil })
			if len(order) > 0 {
				some = order[r.IntN(len(order))]
			}
			switch {
			case some == nil || r.IntN(3) == 0:
				if p := s.enter(true, Asker{Name: name, Looks: r.IntN(2) == 0}); p != nil {
					asked[p], order = []string{name}, append(order, p)
				}
			case r.IntN(3) == 0:
				if !some.begun && !some.refused {
					s.join(some, Asker{Name: name})
					asked[some] = append(asked[some], name)
				}
			default:
				s.leave(some)
				delete(asked, some)
			}
			busy, of, free := 0, map[string]int{}, map[string]bool{}
			for p, names := range asked {
				switch {
				case p.refused:
					delete(asked, p)
				case taken(p):
					require.Contains(t, names, p.by)
					busy++
					of[p.by]++
				default:
					for _, n := range names { // who joined with too much waiting, or made room, waits with the others alone
						free[n] = free[n] || slices.Contains(l.queues[n], p)
					}
				}
			}
			require.LessOrEqual(t, busy, l.slots)
			for _, n := range of {
				require.LessOrEqual(t, n, l.each)
			}
			if busy < l.slots {
				for n, waits := range free {
					if !waits {
						continue
					}
					require.GreaterOrEqual(t, of[n], l.each, "%s waits, and nobody is before them", n)
				}
			}
			require.LessOrEqual(t, s.waiting(), l.waits)
		}
		for p := range asked {
			s.leave(p)
		}
		require.Zero(t, s.waiting())
		require.Zero(t, l.busy)
		require.Empty(t, l.round)
	}
}
