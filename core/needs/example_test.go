package needs_test

import (
	"fmt"

	"jantrel/core/calendar"
	"jantrel/core/needs"
	"jantrel/core/plan"
	"jantrel/core/program"
)

// B waits for A, with three days between: A ends on the 14th, B starts on the 15th.
func ExampleCheck() {
	day := calendar.MustParse
	iterations := []program.Iteration{{Key: "1", Start: day("2027-03-01"), End: day("2027-03-14")}, {Key: "2", Start: day("2027-03-15"), End: day("2027-03-28")}}
	p := program.Program{
		Teams: []program.Team{{Key: "T", Unit: program.Points, Iterations: iterations}},
		Items: []program.Item{{Key: "A", Kind: program.Story, Team: "T", Iteration: "1"}, {Key: "B", Kind: program.Story, Team: "T", Iteration: "2"}},
		Needs: []program.Need{{Item: "B", Needs: "A", LagDays: 3}},
	}.Normal()
	state := needs.Check(plan.Of(p))[0]
	fmt.Println(state.Status, *state.Spare)
	// Output: broken -3
}
