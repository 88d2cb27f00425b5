package forecast_test

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"

	"jantrel/core/forecast"
	"jantrel/core/plan"
	"jantrel/core/program"
)

// world is a team whose velocities are drawn anew in each iteration: what really happens,
// by a few lines of its own that know nothing of plays.
type world struct {
	past  int     // closed iterations that the forecast knows
	ahead float64 // work to do, in iterations
	cv    float64 // standard deviation of velocities ÷ their mean
}

// velocity is lognormal, of mean 10.
func (w world) velocity(r *rand.Rand) float64 {
	s := math.Sqrt(math.Log(1 + w.cv*w.cv))
	return 10 * math.Exp(s*r.NormFloat64()-s*s/2)
}

// run makes a past, forecasts, and lets the work be done. It returns at each of the odds
// whether it was done by the date, and the chance that the date was said to carry.
func (w world) run(r *rand.Rand) (came []bool, said []float64) {
	past := make([]float64, w.past)
	for i := range past {
		past[i] = w.velocity(r)
	}
	p := pier(past...)
	total := 10 * w.ahead
	p.Items = []program.Item{work("A", total, "")}
	l := forecast.Play(plan.Of(p), forecast.Options{Today: monday, Plays: 400, Seed: r.Uint64()}).Releases[0]

	landed, left := forecast.Date(0), total
	for start := monday; landed == 0; start = start.Add(14) {
		v := w.velocity(r)
		if left > v {
			left -= v
			continue
		}
		day := int(math.Ceil(left/v*10)) - 1 // ten working days, from Monday to Friday
		landed = start.Add(day + day/5*2)
	}
	for _, d := range l.Dates {
		came, said = append(came, landed <= d.Date), append(said, d.Chance)
	}
	return came, said
}

// What is said at given odds comes true about as often. With few past iterations, a resample
// of which each play believes, chances stay somewhat too sure; the test holds how much.
func TestWhatIsSaidComesTrue(t *testing.T) {
	const worlds = 1500
	for _, c := range []struct {
		world
		within float64 // points
	}{
		{world{past: 15, ahead: 5, cv: 0.25}, 5},
		{world{past: 8, ahead: 5, cv: 0.25}, 5},
		{world{past: 4, ahead: 3, cv: 0.25}, 9},
	} {
		r := rand.New(rand.NewPCG(11, uint64(c.past)))
		came, said := make([]int, len(forecast.Odds)), make([]float64, len(forecast.Odds))
		for range worlds {
			got, chances := c.run(r)
			for i := range got {
				if got[i] {
					came[i]++
				}
				said[i] += chances[i]
			}
		}
		for i, odds := range forecast.Odds {
			if odds < 50 {
				continue
			}
			true, told := 100*float64(came[i])/worlds, 100*said[i]/worlds
			t.Logf("%d past: said %.0f %%, came %.0f %%", c.past, told, true)
			assert.InDelta(t, told, true, c.within, "%d past iterations, at %d %%", c.past, odds)
		}
	}
}
