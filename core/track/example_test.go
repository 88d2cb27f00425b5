package track_test

import (
	"fmt"
	"time"

	"jantrel/core/program"
	"jantrel/core/track"
)

func ExampleRuns() {
	j := &journal{p: lamp()}
	j.edit(set("A", "state", program.Done))
	j.edit(set("B", "iteration", "LC11"))
	runs, _ := track.Runs(j.p, []track.Asked{{Team: "LC", Iteration: "LC10", From: noon}}, j.events, time.Time{})
	r := runs[0]
	fmt.Printf("at the start %g, taken out %g, now %g: %g done and %g left\n", r.Start.Size, r.Removed.Size, r.Total.Size, r.Done.Size, r.Left.Size)
	// Output: at the start 18, taken out 3, now 15: 7 done and 8 left
}
