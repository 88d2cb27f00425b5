package forecast

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Over the plays each number comes up as often as the others, whatever is drawn for.
func TestPicksAreStratified(t *testing.T) {
	for _, plays := range []int{1, 2, 7, 100, 999, 10_000} {
		for _, n := range []int{1, 3, 9} {
			l := newLuck(5, plays)
			for thing := range uint64(5) {
				counts := make([]int, n)
				slow := l.of(77, thing)
				quick := slow.tabled()
				for play := range uint64(plays) {
					picked := quick.pick(play, n)
					require.Equal(t, slow.pick(play, n), picked, "with a table and without")
					counts[picked]++
				}
				for _, c := range counts {
					assert.InDelta(t, float64(plays)/float64(n), c, 2, "%d plays, %d numbers", plays, n)
				}
			}
		}
	}
}

// What is drawn for two things has nothing to do with one another.
func TestPicksAreIndependent(t *testing.T) {
	const plays, n = 8000, 4
	l := newLuck(1, plays)
	for thing := range uint64(6) {
		var both [n][n]int
		one, other := l.of(1, thing), l.of(1, thing+1)
		for play := range uint64(plays) {
			both[one.pick(play, n)][other.pick(play, n)]++
		}
		chi := 0.0
		for a := range n {
			for b := range n {
				d := float64(both[a][b]) - plays/n/n
				chi += d * d / (plays / n / n)
			}
		}
		assert.Less(t, chi, 27.9, "chi-square, 9 degrees of freedom, 1 in 1000")
	}
}
