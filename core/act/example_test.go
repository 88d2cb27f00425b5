package act_test

import (
	"fmt"

	"jantrel/core/act"
	"jantrel/core/backlog"
	"jantrel/core/program"
)

// What is meant is worked out on the program as it is.
func ExampleRank() {
	p := program.Program{Items: []program.Item{{Key: "A", Kind: program.Story}, {Key: "B", Kind: program.Story}, {Key: "C", Kind: program.Story}}}.Normal()
	planned, err := act.Rank{Keys: []string{"C"}, To: backlog.Where{To: "above", Key: "B"}}.Plan(stateOf(p))
	fmt.Println(planned.Label, len(planned.Changes), *planned.Changes[0].At, err)
	// Output: Rank C above B 1 1 <nil>
}
