package act_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/act"
	"jantrel/core/gate"
	"jantrel/core/program"
	"jantrel/core/sample"
	"jantrel/internal/demo"
)

// Iterations of several teams start as one edit, each with its goal.
func TestSeveralTeamsStartAtOnce(t *testing.T) {
	p := demo.Program(sample.Today)
	for i := range p.Teams {
		for k := range p.Teams[i].Iterations {
			if it := &p.Teams[i].Iterations[k]; it.State == program.Open {
				it.State, it.Committed, it.CommittedItems = program.Planned, nil, nil
			}
		}
	}
	lc, kc := act.OfTeam{Team: "LC", Key: "LC-i10"}, act.OfTeam{Team: "KC", Key: "KC-i10"}
	s := stateOf(p)
	plan, err := act.StartIterations{Iterations: []act.Start{{OfTeam: lc, Goal: " The great lens dims by itself "}, {OfTeam: kc}}}.Plan(s)
	require.NoError(t, err)
	assert.Equal(t, "Start LC·10, KC·10", plan.Label)
	next, _, err := gate.Try(s.Plan, plan.Changes)
	require.NoError(t, err)
	for _, team := range next.Teams {
		for _, it := range team.Iterations {
			switch it.Key {
			case "LC-i10":
				assert.Equal(t, "The great lens dims by itself", it.Goal)
				fallthrough
			case "KC-i10":
				assert.Equal(t, program.Open, it.State)
				assert.Positive(t, *it.Committed)
			}
		}
	}
	for say, x := range map[string]act.StartIterations{
		"say which iterations are to be started":                             {},
		"only one iteration of a team is started at once; LC is named twice": {Iterations: []act.Start{{OfTeam: lc}, {OfTeam: lc}}},
		`Lamp Control has no iteration "x"`:                                  {Iterations: []act.Start{{OfTeam: act.OfTeam{Team: "LC", Key: "x"}}}},
	} {
		_, err := x.Plan(s)
		assert.EqualError(t, err, say)
	}
}
