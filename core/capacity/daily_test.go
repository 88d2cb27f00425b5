package capacity_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"jantrel/core/capacity"
	"jantrel/core/plan"
	"jantrel/core/sample"
)

func TestTheDaysOfAnIterationSumUpToItsFigure(t *testing.T) {
	for seed := range uint64(60) {
		p := plan.Of(sample.Program(seed, sample.Shape{Teams: 3, Iterations: 6, Items: 5, Wild: true}))
		figures := capacity.Of(p)
		for i := range p.Teams {
			daily := capacity.Daily(p, i)
			for n, it := range p.Teams[i].Iterations {
				sum := 0.0
				for _, worked := range daily(it.Span()) {
					sum += worked
				}
				assert.InDelta(t, figures[i][n].DaysWorked, sum, 1e-9, "seed %d, %s", seed, it.Key)
			}
		}
	}
}
