package act_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/act"
	"jantrel/core/capacity"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/sample"
	"jantrel/core/standing"
	"jantrel/internal/demo"
)

// What runs carries what it carried, whatever becomes of the cadence; and the team goes on
// as fast as before.
func TestAnotherLengthLeavesWhatRunsAlone(t *testing.T) {
	p := demo.Program(sample.Today)
	lc := &p.Teams[0]
	running := -1
	for i, it := range lc.Iterations {
		if it.State == program.Open {
			running = i
		}
	}
	require.GreaterOrEqual(t, running, 0)
	before := capacity.Of(plan.Of(p))[0]
	longer := p.Cadences[0]
	longer.LengthDays = 21
	for name, x := range map[string]act.Intent{
		"longer":         act.SaveCadence{Cadence: longer},
		"another follow": act.FollowCadence{Team: lc.Key, Cadence: "three-week", From: sample.Today},
	} {
		next, made := after(t, p, x)
		now := capacity.Of(next)[0]
		assert.InDelta(t, before[running].Capacity, now[running].Capacity, 1e-9, name)
		assert.InDelta(t, *lc.Velocity*1.5, *next.Teams[0].Velocity, 1e-9, name)
		for i := running + 1; i < len(before); i++ {
			if a, b := before[i], now[i]; a.DaysWorked > 0 && b.DaysWorked > 0 {
				assert.InDelta(t, a.Capacity/a.DaysWorked, b.Capacity/b.DaysWorked, 1e-9, name)
			}
		}
		assert.Contains(t, made.Notes[0], "Lamp Control stays as fast: 25.5 points an iteration of the new length, as 17 of the old", name)
	}
}

func TestANewNamingPatternIsShownByTheNamesItGives(t *testing.T) {
	p := demo.Program(sample.Today)
	c := p.Cadences[0]
	c.Naming = "{team} round {n}"
	next, _ := after(t, p, act.SaveCadence{Cadence: c})
	effects := standing.EffectsOf(plan.Of(p), next, sample.Today)
	require.NotEmpty(t, effects.Iterations)
	first := effects.Iterations[0]
	assert.Equal(t, []string{"LC round 11", "LC·11"}, []string{first.Name, first.Was})
	for _, x := range effects.Iterations {
		assert.NotEqual(t, x.Name, x.Was)
	}
}
