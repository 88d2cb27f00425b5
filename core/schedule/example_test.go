package schedule_test

import (
	"fmt"

	"jantrel/core/calendar"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/schedule"
)

// B needs A, and an iteration carries 5 points: A comes first although B ranks above it.
func ExampleDraft() {
	day, five := calendar.MustParse, 5.0
	p := program.Program{
		Teams: []program.Team{{Key: "LC", Unit: program.Points, Velocity: &five, Iterations: []program.Iteration{
			{Key: "1", Start: day("2027-03-01"), End: day("2027-03-14")},
			{Key: "2", Start: day("2027-03-15"), End: day("2027-03-28")}}}},
		Items: []program.Item{
			{Key: "B", Kind: program.Story, Team: "LC", Size: &five},
			{Key: "A", Kind: program.Story, Team: "LC", Size: &five}},
		Needs: []program.Need{{Item: "B", Needs: "A"}},
	}.Normal()
	draft := schedule.Draft(plan.Of(p), schedule.Options{Today: day("2027-03-01")})
	for _, at := range draft.Placements {
		fmt.Println(at.Item, "in", at.Iteration, "until", at.End)
	}
	// Output:
	// B in 2 until 2027-03-28
	// A in 1 until 2027-03-14
}
