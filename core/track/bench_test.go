package track_test

import (
	"math/rand/v2"
	"testing"
	"time"

	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/sample"
	"jantrel/core/track"
)

// How 40 teams' iterations stand, by 20,000 edits of 5,000 items.
func BenchmarkNow20000(b *testing.B) {
	p := sample.Program(1, sample.Shape{Teams: 40, Iterations: 26, Items: 5000, Needs: 100})
	r := rand.New(rand.NewPCG(1, 1))
	j := &journal{p: p}
	for len(j.events) < 50 {
		j.edit(wildEdit(r, j.p)...)
	}
	began := j.events[0].At
	var events []track.Event
	for len(events) < 20_000 { // there and back again: what they lead to stays
		for _, e := range j.events {
			e.At = began.Add(time.Duration(len(events)) * time.Second)
			events = append(events, e)
		}
		for i := len(j.events) - 1; i >= 0; i-- {
			back := track.Event{At: began.Add(time.Duration(len(events)) * time.Second)}
			for k := len(j.events[i].Changes) - 1; k >= 0; k-- {
				back.Changes = append(back.Changes, program.Applied{Change: j.events[i].Changes[k].Inverse, Inverse: j.events[i].Changes[k].Change})
			}
			events = append(events, back)
		}
	}
	resolved := plan.Of(p)
	for b.Loop() {
		track.Now(resolved, sample.Today, events, began, time.UTC)
	}
}
