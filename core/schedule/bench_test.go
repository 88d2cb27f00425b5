package schedule_test

import (
	"testing"

	"jantrel/core/forecast"
	"jantrel/core/plan"
	"jantrel/core/sample"
	"jantrel/core/schedule"
)

func sized(items int) *plan.Plan {
	return plan.Of(sample.Program(1, sample.Shape{Teams: max(12, min(40, items/100)), Iterations: 20 + items/1000, Items: items, Needs: items * 6 / 5}))
}

// The first draft that is shown, with its odds.
func BenchmarkFirstDraft500(b *testing.B)   { benchmarkFirst(b, 500) }
func BenchmarkFirstDraft5000(b *testing.B)  { benchmarkFirst(b, 5000) }
func BenchmarkFirstDraft50000(b *testing.B) { benchmarkFirst(b, 50_000) }

func benchmarkFirst(b *testing.B, items int) {
	p := sized(items)
	for b.Loop() {
		o := schedule.Options{Today: sample.Today, Aim: schedule.ByOdds, Workers: 2, Quick: true}
		d := schedule.Draft(p, o)
		forecast.Play(schedule.Place(p, d), forecast.Options{Today: sample.Today, Plays: max(100, min(2000, 200_000/items)), Seed: 1, Workers: 2})
	}
}
