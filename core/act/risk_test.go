package act_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"jantrel/core/act"
	"jantrel/core/program"
)

func TestARiskGetsAFreeKey(t *testing.T) {
	p := program.Program{Risks: []program.Risk{{Key: "RK-1", Title: "Ice"}, {Key: "RK-3", Title: "Fog"}}}.Normal()
	next, made := after(t, p, act.AddRisk{Risk: program.Risk{Key: "mine", Title: "Storm", Chance: 2}})
	assert.Equal(t, "Risk: Storm", made.Label)
	assert.Equal(t, []string{"RK-4"}, made.Keys)
	assert.Equal(t, program.Risk{Key: "RK-4", Title: "Storm", Chance: 2}, next.Risks[2])
	_, made = after(t, next.Program, act.AddRisk{Risk: program.Risk{Title: "Tide"}})
	assert.Equal(t, []string{"RK-5"}, made.Keys)
}
