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
			deck := NewDeck()
			for thing := range uint64(5) {
				counts := make([]int, n)
				slow := l.of(77, thing)
				quick := deck.hand(slow, n)
				require.Same(t, quick, deck.hand(slow, n))
				for play := range uint64(plays) {
					picked := quick.pick(play)
					require.Equal(t, slow.pick(play, n), picked, "of a deck and without")
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

// What a deck gave away is the same after it was full and began anew, for any number of plays.
func TestADeckThatIsFullBeginsAnew(t *testing.T) {
	for _, plays := range []int{3000, mostKept, mostKept + 1} {
		l, deck := newLuck(2, plays), NewDeck()
		full := 0
		for thing := range uint64(3000) {
			of, before := l.of(3, thing), len(deck.hands)
			h := deck.hand(of, 7)
			if len(deck.hands) <= before {
				full++
			}
			for play := uint64(0); play < uint64(plays); play += partOf / 2 {
				require.Equal(t, of.pick(play, 7), h.pick(play), "%d plays", plays)
			}
			assert.LessOrEqual(t, deck.held.Load(), int64(deckHolds+2*mostKept))
		}
		assert.Equal(t, plays == mostKept, full > 0, "%d plays", plays)
	}
}
