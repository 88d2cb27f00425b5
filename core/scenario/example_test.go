package scenario_test

import (
	"fmt"

	"jantrel/core/calendar"
	"jantrel/core/gate"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/scenario"
)

// quay is the program of docs/scenarios.md: one team with two iterations, two releases, three items.
func quay() program.Program {
	sized := func(key, iteration string, size float64) program.Item {
		return program.Item{Key: key, Title: key, Kind: program.Story, Team: "Q", Release: "R", Size: &size, Iteration: iteration}
	}
	return program.Program{
		Teams: []program.Team{{Key: "Q", Name: "Quay", Iterations: []program.Iteration{
			{Key: "1", Name: "Q·1", Start: calendar.MustParse("2027-03-01"), End: calendar.MustParse("2027-03-14")},
			{Key: "2", Name: "Q·2", Start: calendar.MustParse("2027-03-15"), End: calendar.MustParse("2027-03-28")}}}},
		Releases: []program.Release{{Key: "R", Name: "Rope"}, {Key: "S", Name: "Sail"}},
		Items:    []program.Item{sized("Q-1", "1", 3), sized("Q-2", "1", 5), sized("Q-3", "2", 2)},
	}.Normal()
}

func item(key string) program.Ref { return program.Ref{Kind: program.KindItem, Key: key} }

// after is a plan that changes lead to.
func after(p program.Program, changes ...program.Change) *plan.Plan {
	next, _, err := gate.Try(plan.Of(p), changes)
	if err != nil {
		panic(err)
	}
	return next
}

// ours and theirs are the scenario and the live plan of docs/scenarios.md.
func ours() *plan.Plan {
	return after(quay(), program.SetTo(item("Q-1"), "size", 5), program.SetTo(item("Q-2"), "iteration", "2"),
		program.AddOf(item("Q-4"), program.Item{Key: "Q-4", Title: "Ours", Kind: program.Story, Team: "Q", Release: "R"}))
}

func theirs() *plan.Plan {
	return after(quay(), program.SetTo(item("Q-1"), "size", 8), program.SetTo(item("Q-2"), "title", "Renamed"),
		program.AddOf(item("Q-4"), program.Item{Key: "Q-4", Title: "Theirs", Kind: program.Story, Team: "Q", Release: "R"}))
}

// What a scenario changed is laid on the live plan as it has become.
func ExampleMerge() {
	l := scenario.Lines{Base: quay(), Mine: ours(), Live: theirs()}
	open, _ := scenario.Merge(l, scenario.Choice{})
	for _, c := range open.Conflicts {
		fmt.Printf("%s %s: began as %s, live %s, scenario %s\n", c.Key, c.Field, c.Base, c.Live, c.Mine)
	}
	for _, r := range open.Rekeyed {
		fmt.Println(r.Key, "becomes", r.To)
	}
	c := open.Conflicts[0]
	done, _ := scenario.Merge(l, scenario.Choice{Settle: []scenario.Settled{{Ref: c.Ref, Field: c.Field, Sort: c.Sort, Take: scenario.TakeScenario}}})
	for _, x := range done.Plan.Items {
		size := 0.0
		if x.Size != nil {
			size = *x.Size
		}
		fmt.Printf("%s %q %g in %q\n", x.Key, x.Title, size, x.Iteration)
	}
	// Output:
	// Q-1 size: began as 3, live 8, scenario 5
	// Q-4 becomes Q-5
	// Q-1 "Q-1" 5 in "1"
	// Q-2 "Renamed" 5 in "2"
	// Q-3 "Q-3" 2 in "2"
	// Q-5 "Ours" 0 in ""
	// Q-4 "Theirs" 0 in ""
}

// Two plans side by side: what stands elsewhere.
func ExampleCompare() {
	c := scenario.Compare([]scenario.Compared{{Plan: plan.Of(quay())}, {Plan: ours()}})
	for _, x := range c.Items {
		fmt.Println(x.Key, x.Of[0].Name, x.Of[0].Stand, "→", x.Of[1].Name, x.Of[1].Stand)
	}
	fmt.Println(c.Values[0].Name, c.Values[0].Field, string(c.Values[0].Of[0]), "→", string(c.Values[0].Of[1]))
	// Output:
	// Q-2 Q·1 placed → Q·2 placed
	// Q-4  absent →  unplaced
	// Q-1 size 3 → 5
}

// What became of a release since it was agreed on.
func ExampleSince() {
	s := scenario.Since(plan.Of(quay()), ours(), scenario.Scope{Release: "R"})
	for _, sum := range s.Sums {
		fmt.Printf("%s: %d, %.0f %% of the items then", sum.What, sum.Items, 100*sum.Share)
		for _, t := range sum.Teams {
			fmt.Printf("; %s %g, %.0f %% of its sizes then", t.Team, t.Size, 100*t.Share)
		}
		fmt.Println()
	}
	// Output:
	// added: 1, 33 % of the items then; Q 0, 0 % of its sizes then
	// grew: 1, 33 % of the items then; Q 2, 20 % of its sizes then
	// later: 1, 33 % of the items then; Q 5, 50 % of its sizes then
}
