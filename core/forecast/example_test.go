package forecast_test

import (
	"fmt"

	"jantrel/core/calendar"
	"jantrel/core/forecast"
	"jantrel/core/plan"
	"jantrel/core/program"
)

// A team that completed 5 or 10 points in its past iterations has 10 points to go: one iteration is seldom enough, as
// four past ones say little about how much the next may bring.
func ExamplePlay() {
	day, size, low, high := calendar.MustParse, 10.0, 5.0, 10.0
	closed := func(key, start, end string, done *float64) program.Iteration {
		return program.Iteration{Key: key, Start: day(start), End: day(end), State: program.Closed, Completed: done}
	}
	p := program.Program{
		People:   []program.Person{{Key: "ann", Name: "Ann"}},
		Releases: []program.Release{{Key: "R1", Name: "First light", Due: day("2027-03-14")}},
		Teams: []program.Team{{Key: "LC", Unit: program.Points,
			Members: []program.Member{{Person: "ann", Share: 1}},
			Iterations: []program.Iteration{
				closed("a", "2027-01-04", "2027-01-17", &low), closed("b", "2027-01-18", "2027-01-31", &high),
				closed("c", "2027-02-01", "2027-02-14", &low), closed("d", "2027-02-15", "2027-02-28", &high),
				{Key: "1", Start: day("2027-03-01"), End: day("2027-03-14")},
				{Key: "2", Start: day("2027-03-15"), End: day("2027-03-28")}}}},
		Items: []program.Item{{Key: "A", Kind: program.Story, Team: "LC", Iteration: "1", Release: "R1", Size: &size}},
	}.Normal()
	f := forecast.Play(plan.Of(p), forecast.Options{Today: day("2027-03-01"), Seed: 7})
	lands := f.Releases[0]
	fmt.Printf("%.1f by %s; at odds of 85 in 100 by %s\n", *lands.Chance, lands.Due, lands.At(85))
	// Output: 0.3 by 2027-03-14; at odds of 85 in 100 by 2027-03-29
}

// A team that always does 10 has 20 to do, and somebody was promised it by the end of its second iteration. Were
// none of it to begin before that, the promise would be missed.
func ExamplePromises() {
	p := pier(10, 10, 10)
	p.Items = []program.Item{work("A", 10, "d"), work("B", 10, "e")}
	p.Promises = []program.Promise{{Key: "PR-1", Release: "R", To: "the harbour board", Made: monday, Date: monday.Add(27)}}
	o := forecast.Options{Today: monday, Plays: 100, Seed: 1}
	w := forecast.Promises(plan.Of(p), o)[0]
	fmt.Printf("%.0f %%, %s, lands on %s\n", 100**w.Chance, w.Safety, w.Even)
	o.If.Begin, o.If.ScopeOf = monday.Add(14), forecast.Set{Release: "R"}
	w = forecast.Promises(plan.Of(p), o)[0]
	fmt.Printf("%.0f %%, %s, missed by %.0f days\n", 100**w.Chance, w.Safety, w.Late)
	// Output:
	// 100 %, safe, lands on 2027-03-26
	// 0 %, in danger, missed by 12 days
}
