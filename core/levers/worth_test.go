package levers

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"

	"jantrel/core/forecast"
	"jantrel/core/program"
)

// landed is when something landed in each play, in days after the first of a year, with 10 days to go.
func landed(days ...int32) forecast.Landing {
	in := 0
	for _, d := range days {
		if d <= 10 {
			in++
		}
	}
	chance := float64(in) / float64(len(days))
	return forecast.Landing{Due: today + 10, Chance: &chance, Each: days}
}

const today = program.Date(20000)

// Of a hundred plays five come to be in time and one no longer is: 4 points, with an error of
// √(0.06 − 0.04²) ÷ √100 = 2.4. So it may be luck; with ten and one, 9 ± 3.2 points, it is not.
func TestAGainWithinItsErrorIsNone(t *testing.T) {
	play := func(better, worse int) (was, now forecast.Landing) {
		a, b := make([]int32, 100), make([]int32, 100)
		for i := range 100 {
			a[i], b[i] = 11, 11
			switch {
			case i < better:
				b[i] = 10
			case i < better+worse:
				a[i] = 10
			}
		}
		return landed(a...), landed(b...)
	}
	was, now := play(5, 1)
	assert.Equal(t, gain{}, gainOf(was, now, today))
	was, now = play(10, 1)
	assert.Equal(t, gain{points: 9, tenths: 1}, gainOf(was, now, today))
	assert.Equal(t, gain{points: -9, tenths: -1}, gainOf(now, was, today))
	assert.False(t, gainOf(now, was, today).any())

	var p paired
	for i := range 100 {
		p.add(map[bool]float64{true: 1}[i < 10])
	}
	assert.InDelta(t, 0.1, p.sure(), 1e-12)
	assert.InDelta(t, 0.03, math.Sqrt((p.squares/p.n-0.01)/p.n), 1e-12)
}

// What nothing is left of is done before any date; what never lands is as late as plays are long.
func TestDaysOfWhatIsDoneAndWhatNeverIs(t *testing.T) {
	was, done := landed(12, 14), landed(math.MinInt32, math.MinInt32)
	assert.Equal(t, gain{points: 100, tenths: 30}, gainOf(was, done, today))
}

func TestChangesWithinOthers(t *testing.T) {
	a, b := set("A", "size", 3), set("B", "size", 3)
	assert.True(t, within([]program.Change{a}, []program.Change{b, a}))
	assert.False(t, within([]program.Change{b, a}, []program.Change{a}))
	assert.False(t, within([]program.Change{set("A", "size", 4)}, []program.Change{a, b}))
}

// Of two that do the same, or of which one does more for no more, the gentler is offered.
func TestNothingIsOfferedTwice(t *testing.T) {
	move, size := set("A", "iteration", "I1"), set("A", "size", 3)
	of := func(kind Kind, text string, points int, changes ...program.Change) *candidate {
		return &candidate{Lever: Lever{Kind: kind, Text: text, Changes: changes}, gain: gain{points: points}}
	}
	texts := func(all ...*candidate) (texts []string) {
		for _, c := range offer(all) {
			texts = append(texts, c.Text)
		}
		return texts
	}
	assert.Equal(t, []string{"move"}, texts(of(Draft, "draft", 5, move, size), of(Move, "again", 5, move), of(Move, "move", 6, move)))
	assert.Equal(t, []string{"draft", "move"}, texts(of(Draft, "draft", 7, move, size), of(Move, "move", 6, move)), "it does more, for more")
}
