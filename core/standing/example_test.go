package standing_test

import (
	"fmt"

	"jantrel/core/calendar"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/standing"
)

// The iteration carries 8 of 10 points; 5 more fit in the next one only.
func ExampleFits() {
	day, ten, eight, five := calendar.MustParse, 10.0, 8.0, 5.0
	p := program.Program{
		Teams: []program.Team{{Key: "LC", Unit: program.Points, Velocity: &ten, Iterations: []program.Iteration{
			{Key: "1", Start: day("2027-03-01"), End: day("2027-03-14")},
			{Key: "2", Start: day("2027-03-15"), End: day("2027-03-28")}}}},
		Items: []program.Item{
			{Key: "A", Kind: program.Story, Team: "LC", Iteration: "1", Size: &eight},
			{Key: "B", Kind: program.Story, Team: "LC", Size: &five}},
	}.Normal()
	for _, fit := range standing.Fits(plan.Of(p), day("2027-03-01"), "LC", []string{"B"}) {
		fmt.Println(fit.Iteration, fit.Load, "of", fit.Capacity, fit.Fits)
	}
	// Output:
	// 1 13 of 10 false
	// 2 5 of 10 true
}
