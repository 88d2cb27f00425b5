package forecast

import (
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestDrift(t *testing.T) {
	// Nine paces that rise all the time: S = 36, √(9 × 8 × 23 ÷ 18) = 9.59, z = 35 ÷ 9.59 = 3.65.
	assert.Equal(t, Quickening, driftOf([]float64{1, 2, 3, 4, 5, 6, 7, 8, 9}))
	assert.Equal(t, Slowing, driftOf([]float64{9, 8, 7, 8, 6, 5, 4, 5, 3}))
	assert.Equal(t, Drift(""), driftOf([]float64{4, 9, 5, 8, 6, 7, 5, 9, 4}))
	assert.Equal(t, Drift(""), driftOf([]float64{1, 2, 3, 4, 5}), "too few to tell")
	assert.Equal(t, Drift(""), driftOf([]float64{3, 3, 3, 3, 3, 3, 3}))
}

// A team that only has luck is seldom warned of.
func TestLuckIsSeldomTakenForDrift(t *testing.T) {
	r := rand.New(rand.NewPCG(1, 2))
	warned := 0
	for range 4000 {
		paces := make([]float64, 12)
		for i := range paces {
			paces[i] = r.NormFloat64()
		}
		if driftOf(paces) != "" {
			warned++
		}
	}
	assert.Less(t, float64(warned)/4000, 0.06)
	assert.Positive(t, warned)
}
