// Package sample makes programs for tests: random ones of every shape that the
// document allows, and large ones for benchmarks. The same numbers give the
// same program.
package sample

import (
	"fmt"
	"math/rand/v2"

	"jantrel/core/calendar"
	"jantrel/core/program"
)

// Today is the day that sample programs are laid around.
var Today = calendar.MustParse("2027-03-02")

// Shape is how large a program is.
type Shape struct {
	Teams, Iterations, Items, Needs int
	Cycles                          bool // needs may close cycles
	Wild                            bool // every oddity that the document allows
	Rough                           bool // features, and an item or two, have rough sizes
	Dated                           bool // about half of the needs that are agreed on have a date
}

// Program returns a random program of a shape.
func Program(seed uint64, s Shape) program.Program {
	m := &maker{r: rand.New(rand.NewPCG(seed, 77)), s: s}
	m.p = program.Program{Name: fmt.Sprintf("Sample %d", seed), Today: Today, Settings: program.Settings{
		SameIteration: pick(m.r, program.ShareNever, program.ShareSameTeam, program.ShareAlways),
		FillTo:        pick(m.r, 0.7, 0.9, 1, 1, 1),
	}}
	m.calendar()
	m.items()
	m.needs()
	if s.Wild {
		m.details(rand.New(rand.NewPCG(seed, 78)))
	}
	if s.Rough {
		m.roughen(rand.New(rand.NewPCG(seed, 79)))
	}
	return m.p
}

type maker struct {
	r *rand.Rand
	s Shape
	p program.Program
}

func pick[T any](r *rand.Rand, from ...T) T { return from[r.IntN(len(from))] }

func (m *maker) chance(share float64) bool { return m.r.Float64() < share }

func ptr(x float64) *float64 { return &x }

func (m *maker) calendar() {
	monday := calendar.MustParse("2027-03-01")
	m.p.Cadences = []program.Cadence{{Key: "two", Start: monday, LengthDays: 14}, {Key: "three", Start: monday, LengthDays: 21}}
	m.p.Holidays = []program.Holiday{{Date: monday.Add(10), Name: "Lantern Day"}}
	for i := range 1 + m.s.Teams {
		person := program.Person{Key: fmt.Sprintf("p%d", i), Name: fmt.Sprintf("Person %d", i)}
		if m.s.Wild && m.chance(0.5) {
			person.Weekdays, person.HoursPerDay = []int{1, 2, 4}, 6
			person.DaysOff = []program.DayOff{{From: monday.Add(m.r.IntN(60)), To: monday.Add(60 + m.r.IntN(20)), Name: "Away", UID: fmt.Sprintf("u%d", i)}}
		}
		m.p.People = append(m.p.People, person)
	}
	for t := range m.s.Teams {
		key := fmt.Sprintf("T%d", t)
		team := program.Team{Key: key, Name: "Team " + key, Unit: pick(m.r, program.Points, program.Points, program.Days), Cadence: "two", Velocity: ptr(float64(12 + m.r.IntN(20)))}
		length := 14
		if m.chance(0.25) {
			team.Cadence, length = "three", 21
		}
		if m.s.Wild && m.chance(0.4) {
			team.Members = []program.Member{{Person: "p0", Share: 0.5, Roles: []string{"any"}}, {Person: fmt.Sprintf("p%d", 1+t), Share: 1}}
			if m.chance(0.5) { // one share ends, another begins
				team.Members[0].To = monday.Add(m.r.IntN(40))
				team.Members = append(team.Members, program.Member{Person: "p0", Share: 0.25, From: team.Members[0].To.Add(1 + m.r.IntN(9))})
			}
		}
		if m.s.Wild && m.chance(0.3) {
			team.FillTo, team.Lookback = ptr(pick(m.r, 0.6, 0.85, 1)), m.r.IntN(3)
		}
		span := calendar.Span{End: monday.Add(-length*3 - 1)}
		for i := range m.s.Iterations + 3 {
			span = calendar.NextIteration(span, length)
			it := program.Iteration{Key: fmt.Sprintf("%s-%d", key, i), Name: fmt.Sprintf("%s·%d", key, i), Start: span.Start, End: span.End, State: program.Planned}
			switch {
			case i < 3:
				it.State, it.Committed, it.Completed = program.Closed, ptr(20), ptr(float64(10+m.r.IntN(15)))
				if m.s.Wild && m.chance(0.2) {
					items := m.r.IntN(8)
					it.LeftOut, it.CompletedItems = "The boat was in dock", &items
				}
			case i == 3:
				it.State = program.Open
			}
			if m.chance(0.4) {
				it.Capacity = ptr(float64(8 + m.r.IntN(20)))
				if m.s.Wild {
					it.CapacityNote = "Agreed with the team"
				}
			}
			team.Iterations = append(team.Iterations, it)
		}
		m.p.Teams = append(m.p.Teams, team)
	}
	m.p.Releases = []program.Release{{Key: "R0", Name: "First", Due: monday.Add(30 + m.r.IntN(60))}, {Key: "R1", Name: "Second"}}
	m.p.Releases[0].Phases = []program.Phase{{Key: "a", Name: "Build", Start: monday, End: monday.Add(20)}}
	if m.s.Wild {
		m.p.Releases[0].Documents = []program.Document{{Title: "Notes", Address: "https://example.org/notes", Kind: program.Notes}}
		m.p.PhaseTemplates = []program.PhaseTemplate{{Key: "t", Name: "Usual", Phases: []program.TemplatePhase{{Name: "Build", Days: 40}}}}
		m.p.Cadences[0].Name, m.p.Cadences[0].Ahead, m.p.Cadences[0].Naming, m.p.Cadences[0].CarryOver = "Fortnights", 2, "{team} {n}", true
		m.p.Settings.HolidayCalendar = "https://example.org/holidays.ics"
		m.p.People[0].Roles, m.p.People[0].Calendar = []string{"any", "lead"}, "https://example.org/p0.ics"
	}
}

func (m *maker) items() {
	for i := range m.s.Items {
		if i%8 == 0 {
			m.p.Items = append(m.p.Items, program.Item{Key: fmt.Sprintf("F%d", i/8), Title: "Feature", Kind: program.Feature, Release: pick(m.r, "R0", "R1", "")})
		}
		m.p.Items = append(m.p.Items, m.item(i))
	}
	m.p.Milestones = []program.Milestone{{Key: "M0", Name: "Trial", Date: Today.Add(40), Releases: []string{"R0"}, Needs: []string{"I0"}}}
}

func (m *maker) item(i int) program.Item {
	team := &m.p.Teams[m.r.IntN(len(m.p.Teams))]
	item := program.Item{
		Key: fmt.Sprintf("I%d", i), Title: fmt.Sprintf("Item %d", i), Kind: pick(m.r, program.Story, program.Defect, program.Upkeep),
		Parent: fmt.Sprintf("F%d", i/8), Team: team.Key, Size: ptr(pick(m.r, 1.0, 2, 3, 5, 8)), State: program.Todo,
	}
	open := team.Iterations[3:]
	if m.chance(0.3) {
		item.Iteration = pick(m.r, open...).Key
		if m.chance(0.2) {
			item.Pinned = true
		}
	}
	if !m.s.Wild {
		return item
	}
	switch m.r.IntN(14) {
	case 0:
		item.Size = nil
	case 1:
		item.Team, item.Iteration, item.Pinned = "", "", false
	case 2:
		item.Size = ptr(60)
	case 3:
		item.State, item.Iteration = program.Doing, open[0].Key
		if len(m.p.Items)%2 == 0 {
			item.Left = ptr(float64(len(m.p.Items) % 3))
		} else {
			item.Began = Today.Add(-len(m.p.Items) % 9)
		}
	case 4:
		item.State, item.Iteration, item.DoneOn = program.Done, pick(m.r, team.Iterations[2], open[0]).Key, Today
	case 5:
		item.KeptOut = true
	case 6:
		item.NotBefore = Today.Add(m.r.IntN(120))
	case 7:
		item.Due = Today.Add(m.r.IntN(90))
	case 8:
		item.Iteration, item.Pinned = team.Iterations[1].Key, m.chance(0.5) // left behind in a closed one
	case 9:
		item.Parent, item.Release, item.Tags = "", pick(m.r, "R0", "R1"), []string{"x", "y"}
	case 10:
		item.Size = ptr(0)
	}
	return item
}

// details fills in what items may say of themselves, with luck of its own: it takes
// no part in the plan.
func (m *maker) details(r *rand.Rand) {
	for i := range m.p.Items {
		item := &m.p.Items[i]
		switch r.IntN(6) {
		case 0:
			item.Description = "Why, **how**,\nand \"for whom\"; = not a formula"
		case 1:
			item.Tasks = []program.Task{{Title: "Measure", HoursLeft: ptr(2.5)}, {Title: "Mount", Done: true}}
		case 2:
			item.Checks = []program.Check{{Text: "Seen from the pier", Done: true}, {Text: "Heard, too"}}
		case 3:
			item.Links, item.FoundIn, item.FixedIn = []program.Link{{Title: "Sketch", Address: "https://docs.example.org/sketch"}}, "Trial", "R1"
		case 4:
			m.p.Comments = append(m.p.Comments, program.Comment{Key: fmt.Sprintf("c%d", i), Item: item.Key, By: "Ann", At: "2027-03-01T09:00:00Z", Text: "Is this *still* so?"})
		}
	}
	for i := range min(20, len(m.p.Items), 20*len(m.p.People)) {
		item, person := &m.p.Items[r.IntN(len(m.p.Items))], m.p.People[r.IntN(len(m.p.People))].Key
		entry := program.TimeEntry{Key: fmt.Sprintf("t%d", i), Person: person, Item: item.Key, Date: m.p.Today.Add(-r.IntN(20)), Hours: pick(r, 0.5, 2, 7.25), Activity: pick(r, "", "building", "testing")}
		if len(item.Tasks) > 0 {
			entry.Task = item.Tasks[0].Title
		}
		m.p.TimeEntries = append(m.p.TimeEntries, entry)
	}
	// Without odds: it is not played.
	m.p.Risks = []program.Risk{{Key: "RK-1", Title: "The boat is laid up", Owner: m.p.People[0].Key, Chance: 2, Impact: 5, Response: program.Reduce, Again: m.p.Today.Add(7),
		Actions: []program.RiskAction{{Text: "Ask the yard", Owner: m.p.People[0].Key, Due: m.p.Today}}, Adds: []program.RiskAdds{{Team: "T0", Size: 3}, {Item: m.p.Items[len(m.p.Items)-1].Key, Size: 1, UpTo: ptr(2)}},
		Delays: []program.RiskDelay{{Item: m.p.Items[0].Key, Days: 4}}, Items: []string{m.p.Items[0].Key}, Teams: []string{"T0"}, Releases: []string{m.p.Releases[0].Key}}}
	m.p.Promises = []program.Promise{{Key: "PR-1", Release: m.p.Releases[0].Key, Date: m.p.Today.Add(40), To: "the board", Made: m.p.Today, Chance: ptr(0.8), Note: "said in the hall", Withdrawn: pick(r, 0, m.p.Today.Add(1))}}
	m.p.Snoozes = []program.Snooze{{Key: "unowned " + m.p.Items[0].Key, Until: m.p.Today.Add(5), Why: "on leave"}}
	m.p.Settings.Spread = pick(m.r, 0, 1, 1.5)
	m.p.Settings.Scales = &program.Scales{Chance: []string{"rarely", "often"}}
	m.p.Settings.Activities, m.p.Settings.Priorities = []string{"building", "testing"}, []string{"now", "soon"}
	m.p.Settings.Roles = []string{"lead", "firmware"}
	m.p.Items[0].Priority = "soon"
	since := m.p.Today.Add(-2).String() + "T09:30:00Z"
	last := &m.p.Items[len(m.p.Items)-1]
	m.p.Items[0].Tests = &program.Tests{Passed: 4, Failed: r.IntN(2), NotRun: 1, Since: since, Address: "https://tests.example.org/1"}
	last.Hinders, last.Reported = []string{m.p.Items[0].Key}, "bug-1"
	m.p.Teams[0].Builds = []program.Build{{Name: "nightly", State: pick(r, program.Green, program.Red), Since: since}}
	m.p.Teams[0].Deployed = []program.Deployed{{Place: "pier", Version: "1.4", Since: since}}
	m.p.Settings.Ready = &program.ReadyRule{Size: true, Checks: true, Tags: []string{"x"}, Largest: map[program.Unit]float64{program.Points: 8}}
	m.p.Settings.Growth, m.p.Releases[1].Growth = pick(r, 0, 0.01, 0.03), ptr(pick(r, 0, 0.02))
	m.p.Settings.Mix = map[program.ItemKind]float64{program.Story: 0.6, program.Upkeep: 0.2}
	m.p.Patterns = []program.Pattern{{Key: "usual", Name: "Usual", Parts: []program.PatternPart{
		{Title: "Design {title}", Kind: program.Spike, Team: "T0", Size: ptr(2)}, {Title: "Build {title}", Kind: program.Story, Needs: []int{0}, Tags: []string{"x"}}}}}
	m.p.Repeats = []program.Repeat{{Key: "r", Title: "Watch {iteration}", Kind: program.Upkeep, Teams: []string{"T0"}, Size: ptr(1), Each: r.IntN(2) == 0}}
	m.p.Guides = []program.Guide{{Stage: program.StagePlan, Text: "Meet in the hall."}, {Stage: program.StagePlan, Role: "team lead", Text: "Bring your list."}}
	m.p.Settings.PlanSections = []program.PlanSection{{Title: "Who shows it", Ask: "A name"}}
	m.p.Views = []program.View{{Key: "v", Name: "Mine", By: "Ann", Columns: []program.Column{{Field: "key", Width: 80}, {Field: "title"}}, Group: "release",
		Filter: program.Filter{Any: true, Conditions: []program.Condition{{Field: "team", Is: "is", Values: []string{"T0"}}}}}}
}

// roughen gives rough sizes, with luck of its own: figures and ranges, placed and not.
func (m *maker) roughen(r *rand.Rand) {
	for i := range m.p.Items {
		item := &m.p.Items[i]
		if item.Kind != program.Feature && r.IntN(20) > 0 {
			continue
		}
		for _, t := range r.Perm(len(m.p.Teams))[:r.IntN(min(3, 1+len(m.p.Teams)))] {
			team := &m.p.Teams[t]
			rough := program.Rough{Team: team.Key, Size: float64(r.IntN(40))}
			if r.IntN(2) == 0 {
				rough.UpTo = ptr(rough.Size + float64(r.IntN(30)))
			}
			item.Rough = append(item.Rough, rough)
			for _, it := range team.Iterations[2+r.IntN(2):] {
				if r.IntN(3) == 0 {
					item.RoughPlaces = append(item.RoughPlaces, program.RoughPlace{Team: team.Key, Iteration: it.Key, Size: float64(1 + r.IntN(12))})
				}
			}
		}
	}
}

func (m *maker) needs() {
	seen := map[[2]int]bool{}
	for range m.s.Needs {
		a, b := m.r.IntN(len(m.p.Items)), m.r.IntN(len(m.p.Items))
		leaves := m.p.Items[a].Kind != program.Feature && m.p.Items[b].Kind != program.Feature
		if a < b && !m.s.Cycles {
			a, b = b, a
		}
		if a == b || seen[[2]int{a, b}] || !leaves && !m.s.Wild {
			continue
		}
		seen[[2]int{a, b}] = true
		need := program.Need{Item: m.p.Items[a].Key, Needs: m.p.Items[b].Key, Agreement: pick(m.r, program.Asked, program.Agreed)}
		if m.s.Dated && need.Agreement == program.Agreed && m.chance(0.5) {
			need.Given = Today.Add(m.r.IntN(90))
		}
		if m.chance(0.15) {
			need.LagDays = 7
		}
		m.p.Needs = append(m.p.Needs, need)
	}
}

// Wide returns a program of many teams, each with so many people of its own, who
// have holidays and days off, and so many iterations of two weeks around Today.
func Wide(teams, people, iterations int) program.Program {
	p := program.Program{Name: "Wide", Today: Today, Settings: program.Settings{SameIteration: program.ShareSameTeam, FillTo: 1}}
	r := rand.New(rand.NewPCG(5, 6))
	start := calendar.MustParse("2027-03-01").Add(-14 * (iterations / 2))
	p.Cadences = []program.Cadence{{Key: "two", Start: start, LengthDays: 14}}
	for d := start; d < start.Add(14*iterations); d = d.Add(30) {
		p.Holidays = append(p.Holidays, program.Holiday{Date: d, Name: "Holiday"})
	}
	for t := range teams {
		key := fmt.Sprintf("T%d", t)
		team := program.Team{Key: key, Name: "Team " + key, Unit: program.Points, Cadence: "two", Velocity: ptr(30)}
		for i := range people {
			person := program.Person{Key: fmt.Sprintf("%s-p%d", key, i), Name: fmt.Sprintf("Person %d of %s", i, key), Roles: []string{pick(r, "web", "firmware", "design")}}
			for range 8 {
				from := start.Add(r.IntN(14 * iterations))
				person.DaysOff = append(person.DaysOff, program.DayOff{From: from, To: from.Add(r.IntN(12))})
			}
			p.People = append(p.People, person)
			team.Members = append(team.Members, program.Member{Person: person.Key, Share: 1})
		}
		span := calendar.Span{End: start.Add(-1)}
		for i := range iterations {
			span = calendar.NextIteration(span, 14)
			it := program.Iteration{Key: fmt.Sprintf("%s-i%d", key, i+1), Name: fmt.Sprintf("%s·%d", key, i+1), Start: span.Start, End: span.End, State: program.Planned}
			switch {
			case span.End < Today:
				it.State, it.Committed, it.Completed = program.Closed, ptr(30), ptr(float64(22+r.IntN(14)))
			case span.Start <= Today:
				it.State = program.Open
			}
			team.Iterations = append(team.Iterations, it)
		}
		p.Teams = append(p.Teams, team)
	}
	return p
}
