package track_test

import (
	"fmt"
	"time"

	"jantrel/core/calendar"
	"jantrel/core/program"
	"jantrel/core/track"
)

func ExampleHistoryOf() {
	j := &journal{p: firstLight()}
	j.edit(set("F2", "release", "R1")) // with all that is below it
	j.edit(set("A", "state", program.Done))
	h := track.HistoryOf(j.p, track.Scope{Release: "R1"}, noon, j.events, noon, calendar.OfTime(noon))
	fmt.Println("at the start", h.All.Start.Items, "added", h.All.Added.Items, "now", h.All.Total.Items, "done", h.All.Done.Items)
	fmt.Println(h.Teams[0].Team, h.Teams[0].Done.Size, "of", h.Teams[0].Total.Size)
	// Output:
	// at the start 2 added 1 now 3 done 2
	// LC 7 of 10
}

func ExampleRuns() {
	j := &journal{p: lamp()}
	j.edit(set("A", "state", program.Done))
	j.edit(set("B", "iteration", "LC11"))
	runs, _ := track.Runs(j.p, []track.Asked{{Team: "LC", Iteration: "LC10", From: noon}}, j.events, time.Time{})
	r := runs[0]
	fmt.Printf("at the start %g, taken out %g, now %g: %g done and %g left\n", r.Start.Size, r.Removed.Size, r.Total.Size, r.Done.Size, r.Left.Size)
	// Output: at the start 18, taken out 3, now 15: 7 done and 8 left
}
