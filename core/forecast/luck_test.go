package forecast

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

// Over the plays each number comes up as often as the others, whatever is drawn for.
func TestPicksAreStratified(t *testing.T) {
	for _, plays := range []int{1, 2, 7, 100, 999, 10_000} {
		for _, n := range []int{1, 3, 9} {
			l := newLuck(5, plays)
			for thing := range uint64(5) {
				counts := make([]int, n)
				for play := range uint64(plays) {
					counts[l.pick(play, 77, thing, n)]++
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
		for play := range uint64(plays) {
			both[l.pick(play, 1, thing, n)][l.pick(play, 1, thing+1, n)]++
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
