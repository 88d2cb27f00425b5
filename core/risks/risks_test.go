package risks_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"

	"jantrel/core/calendar"
	"jantrel/core/program"
	"jantrel/core/risks"
)

var today = calendar.MustParse("2027-03-02")

// The register of docs/risks.md.
func TestTheRegister(t *testing.T) {
	p := program.Program{Risks: []program.Risk{
		{Key: "fog", Title: "Fog", Chance: 2, Impact: 5, Owner: "ann", Again: today, Response: program.Accept},
		{Key: "ice", Title: "Ice", Chance: 4, Impact: 4, Actions: []program.RiskAction{{Text: "a", Due: today.Add(-1)}, {Text: "b", Due: today}, {Text: "c", Due: today.Add(-9), Done: true}}},
		{Key: "gone", Title: "Gone", Chance: 5, Impact: 5, State: program.RiskOver, Again: today.Add(-9)},
		{Key: "new", Title: "New", Owner: "ann"},
	}}
	list := risks.Register(p, today)
	assert.Equal(t, []risks.Standing{
		{Risk: "ice", Exposure: 0.64, Chance: 4, Impact: 4, Unowned: true, Open: true, Left: 2, Late: 1, Calls: []string{"nobody watches it", "an action is late"}},
		{Risk: "fog", Exposure: 0.4, Chance: 2, Impact: 5, Due: true, Calls: []string{"to be looked at again"}},
		{Risk: "new", Unrated: true, Open: true, Calls: []string{"not rated"}},
		{Risk: "gone", Exposure: 1, Chance: 5, Impact: 5, Over: true, Calls: []string{}},
	}, list)

	// On a shorter scale what was rated above it counts as its most.
	p.Settings.Scales = &program.Scales{Chance: []string{"seldom", "often"}}
	list = risks.Register(p, today)
	assert.Equal(t, "fog", list[0].Risk)
	assert.InDelta(t, 1, list[0].Exposure, 1e-9)
}

func ExampleRegister() {
	p := program.Program{Risks: []program.Risk{{Key: "RK-1", Title: "Ice on the masts", Chance: 3, Impact: 4}, {Key: "RK-2", Title: "The boat is laid up", Chance: 2, Impact: 5, Owner: "ann"}}}
	for _, s := range risks.Register(p, today) {
		fmt.Printf("%s %.2f unowned: %t\n", s.Risk, s.Exposure, s.Unowned)
	}
	// Output:
	// RK-1 0.48 unowned: true
	// RK-2 0.40 unowned: false
}
