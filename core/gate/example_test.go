package gate_test

import (
	"fmt"

	"jantrel/core/gate"
	"jantrel/core/plan"
	"jantrel/core/program"
)

// An edit leads to another plan, or to none: what was given stays as it is either way.
func ExampleTry() {
	p := plan.Of(program.Program{
		Items: []program.Item{{Key: "A", Kind: program.Story}, {Key: "B", Kind: program.Story}},
		Needs: []program.Need{{Item: "A", Needs: "B"}},
	}.Normal())
	ref := program.Ref{Kind: program.KindItem, Key: "A"}
	next, applied, err := gate.Try(p, []program.Change{program.SetTo(ref, "size", 5)})
	fmt.Println(*next.Items[0].Size, p.Items[0].Size, string(applied[0].Inverse.Value), err)

	back := program.Ref{Kind: program.KindNeed, In: "B", Key: "A"}
	_, _, err = gate.Try(p, []program.Change{program.AddOf(back, program.Need{Item: "B", Needs: "A"})})
	fmt.Println(err)
	// Output:
	// 5 <nil> null <nil>
	// this need would close a cycle: B needs A needs B
}

// Two edits of one base: where they mean different things, both values are told.
func ExampleConflicts() {
	base := plan.Of(program.Program{Items: []program.Item{{Key: "A", Title: "Lamp", Kind: program.Story}}}.Normal())
	ref := program.Ref{Kind: program.KindItem, Key: "A"}
	_, theirs, _ := gate.Try(base, []program.Change{program.SetTo(ref, "title", "Beacon"), program.SetTo(ref, "size", 3)})
	mine := []program.Change{program.SetTo(ref, "title", "Light"), program.SetTo(ref, "size", 3)}
	for _, c := range gate.Conflicts([]gate.Edit{{By: "Ann", Changes: theirs}}, mine) {
		fmt.Println(c.Error())
	}
	// Output:
	// Ann changed the title of A meanwhile to "Beacon"; yours is "Light"
}
