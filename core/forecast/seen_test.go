package forecast

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"gonum.org/v1/gonum/stat"

	"jantrel/core/calendar"
	"jantrel/core/program"
)

// The example of docs/forecast.md, worked out with normal distributions: L is 16.9 ± 2.6, half of the variance from single
// days; 0 of the seven tenths that are usual is 16.9 off. That is so much that the spread is believed to be wider.
func TestAnIterationInWhichNothingIsDone(t *testing.T) {
	const mean, sd, freedom, passed = 16.9, 2.6, 20.0, 0.7
	s := seen{full: 1, faster: 1, passed: passed, daily: sd * sd / 2 / (mean * mean)}
	at := func(s seen, e float64) float64 {
		w := walk{mean: mean, sd: sd}
		return s.goOn(&w, freedom, 0, e)
	}
	wider := (freedom + mean*mean/(sd*sd/2*(1+1/passed))) / (freedom + 1)
	whole, days := wider*sd*sd/2, wider*sd*sd/2
	learned := whole / (whole + days/passed)
	all, left := mean-learned*mean, whole*(1-learned)
	assert.InDelta(t, 0.3*all, at(s, 0), 1e-9)
	assert.InDelta(t, math.Sqrt(0.09*left+0.3*days), at(s, 1)-at(s, 0), 1e-9)
	assert.InDelta(t, 9.9, all, 0.05)
	assert.InDelta(t, 3.0, at(s, 0), 0.05)
	assert.InDelta(t, 1.8, at(s, 1)-at(s, 0), 0.05)
	assert.InDelta(t, 5.1, 0.3*mean, 0.05)
	assert.InDelta(t, 1.1, math.Sqrt(0.09*sd*sd/2+0.3*sd*sd/2), 0.05)
	unknown := s
	unknown.unsure = 1e6
	assert.InDelta(t, 0.3*mean, at(unknown, 0), 1e-3, "who cannot know how much is done learns nothing")
	s.did, s.today, s.faster = passed*mean, 1, 2
	assert.InDelta(t, 2*0.3*mean-1, at(s, 0), 1e-9, "as usual; twice as fast from now on, and a point is done today")
	w := walk{mean: mean, sd: sd, known: true, deviation: -3, rho: 0.5, keep: math.Sqrt(0.75)}
	s.goOn(&w, freedom, 0, 0)
	assert.Less(t, -1.5, w.deviation, "the next iteration goes on from what this one is taken for")
	assert.Less(t, w.deviation, 0.0)
}

// Items of 5 took 3, 4 and 5 days. Of one that began two days ago those that took longer tell, and that nothing is known
// counts as another: a quarter or three quarters.
func TestWhatComparableItemsHadLeft(t *testing.T) {
	e := effort{from: 0, works: make([]float64, 15), days: make([]int, 16), did: make([]float64, 15)}
	for i := range e.works {
		e.works[i], e.days[i+1] = 1, i+1
	}
	day := calendar.Date(0).Add
	for n, took := range []int{3, 4, 5} {
		e.add(&program.Item{Size: new(5.0), Began: day(1 + n), DoneOn: day(n + took)}, calendar.Span{Start: day(1), End: day(14)})
	}
	e.add(&program.Item{Size: new(8.0), Began: day(1), DoneOn: day(12)}, calendar.Span{Start: day(1), End: day(14)})
	e.add(&program.Item{Size: new(9.0), Began: day(1), DoneOn: day(2)}, calendar.Span{Start: day(3), End: day(14)}) // from elsewhere
	item := &program.Item{Began: day(12)}
	shares := e.left(item, 5)
	assert.InDeltaSlice(t, []float64{0.375, 0.125, 0.5833, 0.4167, 0.6875, 0.5625, 0.25, 0.75}, shares, 1e-4)
	assert.InDelta(t, 0.469, stat.Mean(shares, nil), 0.0005)
	assert.Equal(t, unknown, e.left(item, 2), "none is like it")
	item.Began = day(14)
	assert.Nil(t, e.left(item, 5), "it began today")
	item.Began = 0
	assert.Equal(t, unknown, e.left(item, 5), "nobody knows when")
	assert.InDelta(t, 5.0/3+5.0/4+8.0/12, e.did[2], 1e-9, "each was done at an even pace")
	others, aside := e.beside()
	assert.InDelta(t, 20.0/12-1, others, 1e-9, "2 + 3 + 4 + 11 mornings on 12 days")
	assert.InDelta(t, others/2*23/4, aside, 1e-9)
}
