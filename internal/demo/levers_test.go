package demo_test

import (
	"testing"

	"jantrel/core/calendar"
	"jantrel/core/levers"
	"jantrel/core/plan"
	"jantrel/internal/demo"
)

func BenchmarkLeversDemo(b *testing.B) {
	today := calendar.MustParse("2027-03-02")
	p := plan.Of(demo.Program(today))
	for b.Loop() {
		_, _ = levers.Find(p, levers.Question{Release: "R1"}, levers.Options{Today: today, Plays: 5000, Seed: 1, Workers: 2})
	}
}
