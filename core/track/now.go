package track

import (
	"slices"
	"time"

	"jantrel/core/plan"
	"jantrel/core/program"
)

// Iteration is how an iteration under way stands, as the journal has it.
type Iteration struct {
	Run
	Pace
	Courses []Course `json:"courses"` // of what stands in it, by rank
}

const (
	lookedBack = 6  // closed iterations of a team that tell what is usual
	early      = 14 // days before its first by which an iteration may have been opened
)

// asks are the iterations under way, and after these the closed ones of the same teams that tell
// what is usual, the latest ones.
func asks(p *plan.Plan, today program.Date, in *time.Location) (under, past []Asked) {
	for t := range p.Teams {
		team := &p.Teams[t]
		at, ok := UnderWay(team, today)
		if !ok {
			continue
		}
		of := func(it *program.Iteration) Asked {
			return Asked{team.Key, it.Key, Midnight(it.Start, in), !started(it)}
		}
		under = append(under, of(&team.Iterations[at]))
		before := slices.DeleteFunc(slices.Clone(team.Iterations), func(it program.Iteration) bool {
			return it.State != program.Closed || it.LeftOut != "" || it.Start >= team.Iterations[at].Start
		})
		slices.SortFunc(before, func(a, b program.Iteration) int { return int(b.Start - a.Start) })
		for i := range before[:min(lookedBack, len(before))] {
			past = append(past, of(&before[i]))
		}
	}
	return under, past
}

// started reports whether an iteration was started: before that it is a plan, of which nothing is a change since.
func started(it *program.Iteration) bool {
	return it.State == program.Open || it.State == program.Closed
}

// Since is from when on Now needs the edits of a program.
func Since(p *plan.Plan, today program.Date, in *time.Location) time.Time {
	under, past := asks(p, today, in)
	first := Midnight(today, in)
	for _, a := range append(under, past...) {
		if a.From.Before(first) {
			first = a.From
		}
	}
	return first.AddDate(0, 0, -early)
}

// Now is how the iteration that each team is in stands, by the edits since Since that led to the
// program, the oldest first. The journal began at a time of which began tells; times are of a
// place where days begin as they do for the program's people.
func Now(p *plan.Plan, today program.Date, events []Event, began time.Time, in *time.Location) []Iteration {
	under, past := asks(p, today, in)
	runs, courses := Runs(p.Program, append(slices.Clone(under), past...), events, began)
	teams, all := p.TeamAt(), make([]Iteration, len(under))
	for i := range under {
		run := &runs[i]
		t := teams[run.Team]
		at := slices.IndexFunc(p.Teams[t].Iterations, func(it program.Iteration) bool { return it.Key == run.Iteration })
		before := slices.DeleteFunc(slices.Clone(runs[len(under):]), func(r Run) bool { return r.Team != run.Team })
		all[i] = Iteration{Run: *run, Pace: PaceOf(p, t, at, today, run, before), Courses: []Course{}}
	}
	of := map[place]int{}
	for i := range under {
		of[place{under[i].Team, under[i].Iteration}] = i
	}
	for i := range p.Items {
		item := &p.Items[i]
		k, ok := of[cardOf(item).at()]
		if !ok {
			continue
		}
		course := courses[item.Key] // one that has not changed since is all but empty
		course.Item = item.Key
		all[k].Courses = append(all[k].Courses, course)
	}
	return all
}
