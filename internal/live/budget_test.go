package live

import (
	"math/rand/v2"
	"runtime"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"jantrel/core/plan"
	"jantrel/core/sample"
)

// Whatever comes, is used, is forgotten or refuses to go: no more is counted than there may be, but for what refuses and
// what has just come, and what goes was not used for the longest.
func TestTheBudgetHolds(t *testing.T) {
	t.Parallel()
	for seed := range uint64(200) {
		random := rand.New(rand.NewPCG(seed, 1))
		b := budget{most: 1000}
		type thing struct {
			*cached
			id   int
			busy bool
		}
		var order []*thing // the last used one first
		sum := func() (all, busy int64) {
			for _, x := range order {
				all += x.size
				if x.busy {
					busy += x.size
				}
			}
			return all, busy
		}
		for id := range 200 {
			switch {
			case len(order) > 0 && random.IntN(4) == 0:
				at := random.IntN(len(order))
				x := order[at]
				b.use(x.cached)
				order = slices.Insert(slices.Delete(order, at, at+1), 0, x)
			case len(order) > 0 && random.IntN(6) == 0:
				at := random.IntN(len(order))
				b.forget(order[at].cached)
				order = slices.Delete(order, at, at+1)
			case len(order) > 0 && random.IntN(6) == 0:
				x := order[random.IntN(len(order))]
				x.busy = !x.busy
			default:
				x := &thing{id: id}
				order = slices.Insert(order, 0, x)
				x.cached = b.add(int64(random.IntN(300)), func() bool {
					if x.busy {
						return false
					}
					i := slices.Index(order, x)
					for _, older := range order[i+1:] {
						assert.True(t, older.busy, "seed %d: %d goes before %d, which was used longer ago", seed, x.id, older.id)
					}
					order = slices.Delete(order, i, i+1)
					return true
				})
				order = slices.DeleteFunc(order, func(o *thing) bool { return o == x })
				// Those that refused count as used, in the order in which they were asked.
				slices.SortStableFunc(order, func(a, c *thing) int { return b.place(a.cached) - b.place(c.cached) })
				order = slices.Insert(order, b.place(x.cached), x)
				all, busy := sum()
				assert.LessOrEqual(t, all, max(b.most, busy+300), "seed %d", seed)
			}
			all, _ := sum()
			assert.Equal(t, all, b.taken(), "seed %d", seed)
		}
	}
}

// place is where something stands, the last used one first.
func (b *budget) place(c *cached) (at int) {
	for e := b.order.Front(); e != nil && e != c.at; e = e.Next() {
		at++
	}
	return at
}

// What a value takes is known to within some per cent, however large it is: long lists are looked at here and there.
func TestWeigh(t *testing.T) {
	t.Parallel()
	long := make([]string, 10_000)
	for i := range long {
		long[i] = strings.Repeat("x", i%100)
	}
	assert.Zero(t, weigh(nil))
	assert.Equal(t, int64(8), weigh(1))
	assert.Equal(t, int64(16+5), weigh("hello"))
	assert.InEpsilon(t, 10_000*(16+49.5), weigh(long), 0.05)
	shared := &[1000]int{}
	assert.Equal(t, int64(24+3*8+8000), weigh([]*[1000]int{shared, shared, shared}), "counted once")
	assert.InEpsilon(t, 1000*(8+16)*1.5+1000*10, weigh(tenEach(1000)), 0.1)
}

func tenEach(n int) map[int]string {
	m := map[int]string{}
	for i := range n {
		m[i] = "0123456789"
	}
	return m
}

// What a state is taken to weigh is about what the garbage collector keeps because of it.
func TestWeighState(t *testing.T) { //nolint:paralleltest // it looks at all memory of the process
	const n = 5
	heap := func() int64 {
		var m runtime.MemStats
		runtime.GC()
		runtime.ReadMemStats(&m)
		return int64(m.HeapAlloc)
	}
	var states []*State
	before := heap()
	for range n {
		p := sample.Program(1, sample.Shape{Teams: 10, Iterations: 12, Items: 2000, Needs: 600})
		states = append(states, newState(plan.Of(p), 1, sample.Today))
	}
	each := float64(heap()-before) / n
	weighed := float64(weighState(states[0]))
	t.Logf("%.0f kB, taken for %.0f kB", each/1024, weighed/1024)
	assert.Greater(t, weighed, each*0.7)
	assert.Less(t, weighed, each*3)
	runtime.KeepAlive(states)
}
