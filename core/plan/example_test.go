package plan_test

import (
	"fmt"

	"jantrel/core/calendar"
	"jantrel/core/plan"
	"jantrel/core/program"
)

// A plan is a program with what everybody has to look up.
func ExampleOf() {
	size := 5.0
	p := plan.Of(program.Program{
		Teams: []program.Team{{Key: "LC", Unit: program.Points, Iterations: []program.Iteration{
			{Key: "1", Start: calendar.MustParse("2027-03-01"), End: calendar.MustParse("2027-03-14")}}}},
		Items: []program.Item{{Key: "F", Kind: program.Feature}, {Key: "A", Parent: "F", Kind: program.Story, Team: "LC", Size: &size, Iteration: "1"}},
	}.Normal())
	place, placed := p.Place(1)
	fmt.Println(p.Tree().IsLeaf(0), place.Start, placed, p.Loads().Size[place.Team][place.Slot])
	// Output: false 2027-03-01 true 5
}

// What is costly is worked out once, whoever asks.
func ExampleOnce() {
	times := 0
	items := plan.Once(func(p *plan.Plan) int { times++; return len(p.Items) })
	p := plan.Of(program.Program{Items: []program.Item{{Key: "A"}}})
	fmt.Println(items(p), items(p), times)
	// Output: 1 1 1
}
