package needs_test

import (
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/needs"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/sample"
)

// The longest chain is the longest of all that can be walked, one after another; the next shares none of its items.
func TestChainsAreTheLongest(t *testing.T) {
	long, cycles := 0, 0
	for seed := range uint64(80) {
		p := sample.Program(seed, sample.Shape{Teams: 3, Iterations: 6, Items: 14, Needs: 14, Wild: seed%2 == 1, Cycles: seed%4 == 3})
		pl := plan.Of(p)
		tree := pl.Tree()
		days := func(i int) float64 { return float64(1 + (i*7+int(seed))%11) }
		var ends []int
		for i := range p.Items {
			if tree.ToSchedule(i) && i%2 == 0 {
				ends = append(ends, i)
			}
		}
		chains := needs.Chains(pl, ends, days, 3)
		gone := map[int]bool{}
		for _, c := range chains {
			best, found := walk(pl, ends, days, gone)
			require.True(t, found)
			assert.InDelta(t, best, c.Days, 1e-9, "seed %d", seed)
			// It is a chain, and as long as it says.
			sum := 0.0
			for n, i := range c.Items {
				assert.False(t, gone[i])
				sum += days(i) + float64(c.Gaps[n])
				if n > 0 {
					assert.True(t, needed(pl, i, c.Items[n-1], c.Gaps[n]))
				}
			}
			assert.InDelta(t, c.Days, sum, 1e-9)
			assert.Contains(t, ends, c.Items[len(c.Items)-1])
			long = max(long, len(c.Items))
			for _, i := range c.Items {
				gone[i] = true
			}
		}
		if _, more := walk(pl, ends, days, gone); more {
			assert.Len(t, chains, 3)
		}
		if seed%4 == 3 {
			cycles++
		}
	}
	assert.Greater(t, long, 3)
	assert.Positive(t, cycles)
}

func needed(p *plan.Plan, item, by, lag int) bool {
	for _, e := range needs.Edges(p) {
		if e.Item == item && e.Needs == by && e.LagDays == lag {
			return true
		}
	}
	return false
}

// walk tries every chain that ends with one of ends, back from it, and leaves out what meets a cycle.
func walk(p *plan.Plan, ends []int, days func(int) float64, gone map[int]bool) (best float64, found bool) {
	tree := p.Tree()
	var back func(i int, on map[int]bool) (float64, bool)
	back = func(i int, on map[int]bool) (float64, bool) {
		if on[i] {
			return 0, false
		}
		on[i] = true
		defer delete(on, i)
		most := 0.0
		for _, e := range needs.Edges(p) {
			if e.Item != i || !tree.ToSchedule(e.Needs) {
				continue
			}
			d, ok := back(e.Needs, on)
			if !ok {
				return 0, false
			}
			if !gone[e.Needs] {
				most = math.Max(most, d+float64(e.LagDays))
			}
		}
		return most + days(i), true
	}
	for _, i := range ends {
		if gone[i] {
			continue
		}
		if d, ok := back(i, map[int]bool{}); ok && (!found || d > best) {
			best, found = d, true
		}
	}
	return best, found
}

// Thousands of needs give their chains at once.
func BenchmarkChains5000(b *testing.B) {
	p := plan.Of(sample.Program(1, sample.Shape{Teams: 40, Iterations: 12, Items: 5000, Needs: 6000}))
	var ends []int
	for i := range p.Items {
		if p.Tree().ToSchedule(i) {
			ends = append(ends, i)
		}
	}
	for b.Loop() {
		needs.Chains(p, ends, func(int) float64 { return 3 }, 3)
	}
}

func ExampleChains() {
	p := harbour()
	p.Needs = append(p.Needs, program.Need{Item: "crane", Needs: "rope", LagDays: 3})
	pl := plan.Of(p)
	trial := pl.Tree().Index["trial"]
	for _, c := range needs.Chains(pl, []int{trial}, func(int) float64 { return 5 }, 1) {
		for n, i := range c.Items {
			fmt.Println(p.Items[i].Key, c.Gaps[n])
		}
		fmt.Println(c.Days, "days")
	}
	// Output:
	// rope 0
	// crane 3
	// mooring 0
	// trial 0
	// 23 days
}
