package track_test

import (
	"math/rand/v2"
	"slices"
	"testing"
	"time"

	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/sample"
	"jantrel/core/track"
)

// many are 5,000 items of 40 teams, and 20,000 edits that led to them.
func many() (p program.Program, events []track.Event, began time.Time) {
	p = sample.Program(1, sample.Shape{Teams: 40, Iterations: 26, Items: 5000, Needs: 100})
	r := rand.New(rand.NewPCG(1, 1))
	j := &journal{p: p}
	for len(j.events) < 50 {
		j.edit(wildEdit(r, j.p)...)
	}
	began = j.events[0].At
	for len(events) < 20_000 { // there and back again: what they lead to stays
		for _, made := range j.made {
			events = append(events, track.NewEvent(0, began.Add(time.Duration(len(events))*time.Second), "", made))
		}
		for i := len(j.events) - 1; i >= 0; i-- {
			var back []program.Applied
			for _, a := range slices.Backward(j.made[i]) {
				back = append(back, program.Applied{Change: a.Inverse, Inverse: a.Change})
			}
			events = append(events, track.NewEvent(0, began.Add(time.Duration(len(events))*time.Second), "", back))
		}
	}
	return p, events, began
}

// How 40 teams' iterations stand.
func BenchmarkNow20000(b *testing.B) {
	p, events, began := many()
	resolved := plan.Of(p)
	for b.Loop() {
		track.Now(resolved, sample.Today, events, began, time.UTC)
	}
}

// The history of a release, and of all work.
func BenchmarkHistory20000(b *testing.B) {
	p, events, began := many()
	for name, scope := range map[string]track.Scope{"release": {Release: "R0"}, "all": {}} {
		b.Run(name, func(b *testing.B) {
			for b.Loop() {
				track.HistoryOf(p, scope, began, events, began, sample.Today)
			}
		})
	}
}
