package watch_test

import (
	"fmt"
	"slices"
	"testing"

	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/sample"
	"jantrel/core/watch"
)

// News of one among 8,000 edits of 5,000 items, the most that are looked through.
func BenchmarkNews5000(b *testing.B) {
	p := sample.Program(1, sample.Shape{Teams: 20, Iterations: 12, Items: 5000, Needs: 2000})
	var journal []watch.Edit
	for i := range 8000 {
		change := program.SetTo(program.Ref{Kind: program.KindItem, Key: p.Items[i*7%len(p.Items)].Key}, "title", fmt.Sprint("Title ", i))
		next, applied, err := program.ApplyAll(p, []program.Change{change})
		if err != nil {
			b.Fatal(err)
		}
		p, journal = next, append(journal, watch.Edit{Revision: int64(i), By: "Ann", Changes: applied})
	}
	at, person := plan.Of(p), p.People[0].Key
	for b.Loop() {
		r := watch.NewReader(at, person, "Bo")
		for _, e := range slices.Backward(journal) {
			r.Take(e)
		}
	}
}
