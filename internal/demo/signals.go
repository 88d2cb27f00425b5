package demo

import (
	"fmt"

	"jantrel/core/program"
)

// signal is what a service outside found so many days ago.
type signal struct {
	daysAgo, hour int
	ref           program.Ref
	field, label  string
	value         any
}

// signals are how builds and tests stand and what runs where.
func signals(today program.Date) []signal {
	at := func(daysAgo, hour int) string {
		return fmt.Sprintf("%sT%02d:%02d:00Z", today.Add(-daysAgo), hour, pastHour(hour))
	}
	team := func(key string) program.Ref { return program.Ref{Kind: program.KindTeam, Key: key} }
	build := func(name string, state program.BuildState, since string) program.Build {
		return program.Build{Name: name, State: state, Since: since, Address: "https://builds.example.org/" + name}
	}
	return []signal{
		{9, 6, team("LC"), "builds", "Build firmware of Lamp Control is green", []program.Build{build("firmware", program.Green, at(9, 6))}},
		{6, 5, team("KC"), "builds", "Build console of Keepers' Console is green", []program.Build{build("console", program.Green, at(6, 5))}},
		{2, 2, team("MA"), "builds", "Build nightly of Mariner App is red", []program.Build{build("nightly", program.Red, at(2, 2)), build("app", program.Green, at(8, 9))}},
		{5, 16, team("MA"), "deployed", "2.3.0 of Mariner App runs in harbour test bed", []program.Deployed{{Place: "harbour test bed", Version: "2.3.0", Since: at(5, 16)}}},
		{3, 11, team("KC"), "deployed", "1.8 of Keepers' Console runs in Skerrow watch room", []program.Deployed{{Place: "Skerrow watch room", Version: "1.8", Since: at(3, 11)}}},
		{1, 8, itemRef("CD-3"), "tests", "Tests of CD-3", &program.Tests{Passed: 24, Since: at(1, 8), Address: "https://tests.example.org/charts"}},
		{1, 9, itemRef("LC-4"), "tests", "Tests of LC-4", &program.Tests{Passed: 18, Failed: 2, NotRun: 3, Since: at(1, 9), Address: "https://tests.example.org/heartbeat"}},
		{1, 10, itemRef("MA-6"), "hinders", "MA-6 hinders other tests", []string{"MA-5"}},
	}
}

// pastHour are the minutes past an hour at which something was found.
func pastHour(hour int) int { return 7 * hour % 60 }

// signal sets them in the program.
func (d *demo) signal() {
	var changes []program.Change
	for _, s := range signals(d.today) {
		changes = append(changes, program.SetTo(s.ref, s.field, s.value))
	}
	d.p = tried(d.p, changes)
}

// signalSteps are the steps in which they came in, by the token of the one who manages the program.
func signalSteps(today program.Date) (steps []step) {
	for _, s := range signals(today) {
		steps = append(steps, step{day: today.Add(-s.daysAgo), hour: s.hour, minute: pastHour(s.hour), by: Accounts[1].Name, label: s.label, back: []program.Change{program.SetTo(s.ref, s.field, nil)}})
	}
	return steps
}
