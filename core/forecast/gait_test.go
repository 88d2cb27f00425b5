package forecast

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"gonum.org/v1/gonum/stat"
	"gonum.org/v1/gonum/stat/distuv"

	"jantrel/core/program"
)

func TestTablesAreTheirDistributions(t *testing.T) {
	for _, pasts := range [][][]float64{nil, {{4, 10, 10, 16}}, {{8, 9, 10}, {30, 31, 20, 25, 50}}} {
		m, sd := stat.PopMeanStdDev(new(shapeOf(pasts))[:], nil)
		assert.InDelta(t, 0, m, 1e-9)
		assert.InDelta(t, 1, sd, 0.01)
	}
	// Wilson and Hilferty's cube against the exact distribution.
	for _, freedom := range []float64{4, 10, 60} {
		of := (&gait{freedom: freedom}).spreads()
		exact := distuv.ChiSquared{K: freedom}
		for _, i := range []int{12, 64, 128, 192, 243} {
			chi := freedom / of[i] / of[i]
			assert.InDelta(t, 1-(float64(i)+0.5)/levels, exact.CDF(chi), 0.01, "%g degrees, level %d", freedom, i)
		}
	}
	var shares [len(persistences)]float64
	shares[0], shares[3] = 0.75, 0.25
	count := map[uint8]int{}
	for _, k := range persisting(shares) {
		count[k]++
	}
	assert.Equal(t, map[uint8]int{0: 192, 3: 64}, count)
}

// Paces that never varied are believed to the digit, whatever they are.
func TestPacesThatNeverVaried(t *testing.T) {
	all := gaitsOf([][]float64{{0.1, 0.1, 0.1}, {7, 7, 7, 7}})
	for k := range persistences {
		assert.Equal(t, belief{mean: 0.1, unsure: all.of[0].at[k].unsure}, all.of[0].at[k])
	}
	spreads := all.of[0].spreads()
	w := all.of[0].begin(9, 0, 255, &spreads)
	assert.Equal(t, 0.1, w.next(-3))
	assert.Equal(t, 0.1, w.next(2))
}

// Of teams that vary, one that has only 9 and 11 is believed to vary more than it did; slow runs of several are taken for
// what they are.
func TestTeamsTellOfEachOther(t *testing.T) {
	alone := gaitsOf([][]float64{{9, 11, 9, 11}})
	wild := gaitsOf([][]float64{{9, 11, 9, 11}, {5, 15, 4, 16}, {12, 3, 14, 4}})
	assert.Greater(t, wild.of[0].at[0].scale, 1.5*alone.of[0].at[0].scale)
	runs := []float64{6, 6.5, 7, 6, 7, 13, 14, 13.5, 14, 13}
	assert.Greater(t, meanOf(gaitsOf([][]float64{runs, runs, runs}).persists), 0.7)
	assert.Less(t, meanOf(wild.persists), follows)
}

func TestWhatIsSaidOfAPace(t *testing.T) {
	assert.Equal(t, -2, inARow([]float64{20, 12, 18, 11, 12}, 16))
	assert.Equal(t, 1, inARow([]float64{11, 12, 18}, 16))
	assert.Zero(t, inARow([]float64{11, 16}, 16))
	team := &program.Team{Unit: program.Points}
	pace := Pace{Basis: FromHistory, Samples: 9, Velocity: 16.9, Spread: 2.6, Recent: -2, Persistence: 0.4}
	assert.Equal(t, "16.9 ± 2.6 pt per iteration, from 9 past iterations, the last 2 below. Slow iterations tend to follow each other, so the next one is likely to be slow too", pace.says(team))
	pace.Recent, pace.Persistence, pace.Drift = 1, 0.1, Quickening
	assert.Equal(t, "16.9 ± 2.6 pt per iteration, from 9 past iterations, the last one above. It has been speeding up; the simulations don't assume that this continues", pace.says(team))
}
