package forecast_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"jantrel/core/forecast"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/sample"
)

// roughly is a feature of release R with a rough size for T.
func roughly(size float64, upTo *float64) program.Item {
	return program.Item{Key: "F", Kind: program.Feature, Release: "R", Rough: []program.Rough{{Team: "T", Size: size, UpTo: upTo}}}
}

// The example of docs/forecast.md: 10 a fortnight, 15 rough points take one and a half.
func TestWhatIsRoughTakesItsTime(t *testing.T) {
	p := pier(10, 10, 10)
	p.Items = []program.Item{roughly(15, nil)}
	l := forecast.Play(plan.Of(p), forecast.Options{Today: monday, Plays: 50, Seed: 1}).Releases[0]
	assert.Equal(t, "2027-03-19", l.At(50).String())
	assert.Equal(t, []int{0, 10}, []int{l.Left, l.Rough}, "nothing tells how large a story usually is: in ten pieces")
}

// A range of 10 to 30: the release is due when 20 are done, so in half of the plays.
func TestARangeIsDrawnOnceForAllOfIt(t *testing.T) {
	p := pier(10, 10, 10)
	p.Items = []program.Item{roughly(10, ptr(30))}
	l := forecast.Play(plan.Of(p), forecast.Options{Today: monday, Plays: 2000, Seed: 1}).Releases[0]
	assert.InDelta(t, 0.5, *l.Chance, 0.03)
	assert.Equal(t, "2027-03-26", l.At(50).String())
	assert.Equal(t, "2027-04-09", l.At(95).String(), "29.4 of at most 30 in the last sixteenth: the tenth day of the third iteration")
}

// Items that come take the place of what was rough: the scope stays, and so do the dates.
func TestWritingItemsDownMovesNothing(t *testing.T) {
	p := pier(10, 10, 10)
	p.Items = []program.Item{roughly(15, nil)}
	options := forecast.Options{Today: monday, Plays: 200, Seed: 1}
	before, scope := forecast.Play(plan.Of(p), options).Releases[0], forecast.ScopeOf(plan.Of(p))
	a, b := work("A", 4, ""), work("B", 3, "")
	a.Parent, b.Parent = "F", "F"
	p.Items = append(p.Items, a, b)
	after := forecast.Play(plan.Of(p), options).Releases[0]
	assert.Equal(t, before.Dates, after.Dates)
	assert.Equal(t, scope, forecast.ScopeOf(plan.Of(p)))
}

// A need on what is rough is one on each of its pieces.
func TestWhatNeedsSomethingRoughWaits(t *testing.T) {
	p := pier(10, 10, 10)
	p.Settings.SameIteration = program.ShareNever
	p.Items = []program.Item{roughly(15, nil), work("A", 1, "d")}
	p.Needs = []program.Need{{Item: "A", Needs: "F"}}
	l := forecast.Play(plan.Of(p), forecast.Options{Today: monday, Plays: 50, Seed: 1}).Releases[0]
	assert.Equal(t, "2027-03-29", l.At(50).String(), "in the iteration after")
}

// Whatever is rough: no bound is passed, and every answer speaks of keys that there are.
func TestForecastsOfRoughPrograms(t *testing.T) {
	for seed := range sample.Seeds(20) {
		p := plan.Of(sample.Program(seed, sample.Shape{Teams: 3, Iterations: 6, Items: 30, Needs: 12, Wild: true, Rough: true}))
		o := forecast.Options{Today: sample.Today, Plays: 60, Seed: 1, Items: true}
		f := forecast.Play(p, o)
		assert.LessOrEqual(t, forecast.Hindsight(p, o), f.ExpectedLateDays+1e-9)
		known := p.Tree().Index
		for _, l := range append(f.Releases, f.Items...) {
			for _, key := range l.Cannot {
				assert.Contains(t, known, key)
			}
		}
		for _, s := range forecast.Starts(p, o) {
			assert.Contains(t, known, s.Item)
			assert.Contains(t, known, s.Blocker)
		}
		fit := forecast.AnswerFit(p, forecast.FitQuestion{Options: o, By: sample.Today.Add(40), Items: keysOf(p), When: []string{"F0"}})
		for _, key := range fit.Items {
			assert.Contains(t, known, key)
		}
	}
}

func keysOf(p *plan.Plan) (keys []string) {
	for i := range p.Items {
		keys = append(keys, p.Items[i].Key)
	}
	return keys
}
