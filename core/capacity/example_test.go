package capacity_test

import (
	"fmt"

	"jantrel/core/calendar"
	"jantrel/core/capacity"
	"jantrel/core/plan"
	"jantrel/core/program"
)

// Two people agreed on 20 points an iteration; one of them is away for half of it.
func ExampleOf() {
	day, velocity := calendar.MustParse, 20.0
	p := program.Program{
		People: []program.Person{{Key: "ann", Name: "Ann"}, {Key: "bo", Name: "Bo", DaysOff: []program.DayOff{{From: day("2027-03-01"), To: day("2027-03-07")}}}},
		Teams: []program.Team{{Key: "LC", Unit: program.Points, Velocity: &velocity,
			Members:    []program.Member{{Person: "ann", Share: 1}, {Person: "bo", Share: 1}},
			Iterations: []program.Iteration{{Key: "1", Start: day("2027-03-01"), End: day("2027-03-14")}}}},
	}.Normal()
	f := capacity.Of(plan.Of(p))[0][0]
	fmt.Println(f.Capacity, f.Basis, f.DaysWorked, "of", f.DaysFull, f.Away)
	// Output: 15 agreed velocity 15 of 20 [{Bo 5}]
}
