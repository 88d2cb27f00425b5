// Package demo makes the demo program, Beacon Renewal: a made-up trust renews
// the lamps, buoys and keepers' tools of a chain of lighthouses on invented
// islands.
package demo

import (
	_ "embed"
	"fmt"
	"strconv"
	"strings"

	"jantrel/core/calendar"
	"jantrel/core/needs"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/schedule"
)

//go:embed beacon.txt
var beacon string

// Program lays the demo around a day; the same day gives the same program.
func Program(today program.Date) program.Program {
	d := &demo{today: today, monday: mondayOf(today)}
	d.p = program.Program{Name: "Beacon Renewal", Settings: program.Settings{SameIteration: program.ShareSameTeam, FillTo: 0.95}}
	d.calendar()
	d.people()
	for _, line := range strings.Split(beacon, "\n") {
		if line = strings.TrimSpace(line); line != "" && !strings.HasPrefix(line, "#") {
			d.line(line)
		}
	}
	d.place()
	d.mishaps()
	d.roughen()
	d.agree()
	d.workBefore()
	d.backlog()
	d.estimate()
	d.risks()
	d.signal()
	d.begin()
	d.commit()
	d.spend()
	return d.p
}

// mondayOf is the first day of the demo's week. At the weekend that is the week to come: its open
// iterations still have time left.
func mondayOf(today program.Date) program.Date {
	week := today.Add(2)
	return week.Add(1 - week.Weekday())
}

type demo struct {
	p       program.Program
	today   program.Date
	monday  program.Date // of this week
	parent  string
	drafted []string // items whose place is left to a draft
	done    int      // items that are done, so far
}

// teamPlan is a team and its past: units committed and completed in each of the
// closed iterations, oldest first.
type teamPlan struct {
	key, name            string
	unit                 program.Unit
	velocity, focus      float64
	committed, completed []float64
}

var teamPlans = []teamPlan{
	{"LC", "Lamp Control", program.Points, 17, 0, []float64{18, 18, 17, 19, 16, 18, 17, 17, 16}, []float64{15, 18, 13, 19, 16, 14, 20, 16, 17}},
	{"TW", "Tide & Weather", program.Points, 12, 0, []float64{12, 13, 12, 12, 11, 13, 12, 10, 11}, []float64{12, 9, 13, 11, 8, 13, 12, 10, 12}},
	{"CD", "Chart Desk", program.Points, 13, 0, []float64{14, 13, 13, 14, 12, 13, 13, 13, 13}, []float64{11, 14, 12, 13, 9, 14, 13, 12, 14}},
	{"MA", "Mariner App", program.Points, 16, 0, []float64{17, 17, 16, 18, 14, 16, 16, 16, 17}, []float64{14, 17, 16, 12, 13, 18, 15, 16, 17}},
	{"KC", "Keepers' Console", program.Points, 13, 0, []float64{13, 14, 13, 13, 12, 13, 14, 13, 12}, []float64{12, 13, 9, 14, 11, 13, 12, 15, 12}},
	{"FW", "Field Works", program.Days, 20, 0.6, []float64{20, 21, 19, 20, 15, 20, 20, 19, 19}, []float64{17, 20, 14, 21, 13, 18, 20, 16, 19}},
}

const (
	history = 9  // closed iterations of each team
	coming  = 10 // iterations after the open one
)

func (d *demo) calendar() {
	// Lamp Control and its like are in the second week of two, Field Works in the
	// second of three: their iterations do not line up.
	twoWeeks, threeWeeks := d.monday.Add(-7-14*history), d.monday.Add(-7-21*history)
	d.p.Cadences = []program.Cadence{
		{Key: "two-week", Name: "Two weeks", Start: twoWeeks, LengthDays: 14, Ahead: coming, Naming: "{team}·{n}", CarryOver: true},
		{Key: "three-week", Name: "Three weeks", Start: threeWeeks, LengthDays: 21, Ahead: coming * 2 / 3, Naming: "{team}·{n}"},
	}
	d.p.Settings.HolidayCalendar = "standin:holidays"
	d.p.Settings.Roles = []string{"lead", "firmware", "electronics", "modelling", "data", "web", "mobile", "design", "charts", "boat", "rigging", "electrics"}
	for _, plan := range teamPlans {
		t := program.Team{Key: plan.key, Name: plan.name, Unit: plan.unit, Cadence: "two-week", Velocity: number(plan.velocity)}
		span, length, after := calendar.Span{End: twoWeeks.Add(-1)}, 14, coming
		if plan.unit == program.Days {
			t.Cadence, t.Focus = "three-week", number(plan.focus)
			span, length, after = calendar.Span{End: threeWeeks.Add(-1)}, 21, coming*2/3
		}
		for i := range history + 1 + after {
			span = calendar.NextIteration(span, length)
			it := program.Iteration{Key: fmt.Sprintf("%s-i%d", plan.key, i+1), Name: fmt.Sprintf("%s·%d", plan.key, i+1), Start: span.Start, End: span.End, State: program.Planned}
			if i < history {
				it.State, it.Committed, it.Completed = program.Closed, number(plan.committed[i]), number(plan.completed[i])
			} else if i == history {
				it.State = program.Open
			}
			t.Iterations = append(t.Iterations, it)
		}
		d.p.Teams = append(d.p.Teams, t)
	}
	day := func(weeks, weekday int) program.Date { return d.monday.Add(7*weeks + weekday - 1) }
	d.p.Holidays = []program.Holiday{
		{Date: day(-11, 1), Name: "Lantern Day"},
		{Date: day(-10, 5), Name: "Founders' Day"},
		{Date: day(5, 1), Name: "Gull Monday"},
		{Date: day(9, 4), Name: "Varrin Regatta", Teams: []string{"FW", "MA"}},
	}
	d.p.PhaseTemplates = []program.PhaseTemplate{{Key: "usual", Name: "Build, trial, hand over", Phases: []program.TemplatePhase{
		{Name: "Build", Days: 70}, {Name: "Trial", Days: 28}, {Name: "Hand over", Days: 14}}}}
	d.p.Releases = []program.Release{
		{Key: "R1", Name: "First Light", Start: day(-6, 1), Due: day(9, 5), Growth: number(0), Description: "The inner islands run on the new lamps, charts and console.",
			Phases: []program.Phase{
				{Key: "build", Name: "Build", Start: day(-6, 1), End: day(6, 5)},
				{Key: "trial", Name: "Trial", Start: day(7, 1), End: day(9, 5)},
			},
			Documents: []program.Document{
				{Title: "What changes for skippers", Address: "https://docs.example.org/first-light/notes", Kind: program.Notes, Item: "MA-10"},
				{Title: "Harbour trial report", Kind: program.TestReport, Item: "FW-7"},
				{Title: "Radio link review", Address: "https://docs.example.org/first-light/radio", Kind: program.SecurityReview},
			}},
		{Key: "R2", Name: "Full Chain", Start: day(2, 1), Due: day(15, 5), Growth: number(0), Description: "The outer rocks join; skippers plan routes with it."},
	}
	d.p.Milestones = []program.Milestone{{Key: "M1", Name: "Harbour trial", Date: day(8, 3), Releases: []string{"R1"}, Needs: []string{"MA-10", "FW-7"}}}
}

func number(x float64) *float64 { return &x }

// seat is a person with a share in a team; days off are counted in weeks from
// this one, and a length in days.
type seat struct {
	key, name, team, roles string
	share                  float64
	off                    [][2]int
}

var seats = []seat{
	{"p01", "Ingrid Oksanen", "LC", "firmware,lead", 1, [][2]int{{3, 12}}},
	{"p02", "Tomasz Brzoza", "LC", "firmware", 1, nil},
	{"p03", "Amara Okonjo", "LC", "electronics", 1, [][2]int{{3, 5}}},
	{"p04", "Rui Figueira", "LC", "firmware", 0.5, nil},
	{"p05", "Hana Kobayagi", "TW", "modelling,lead", 1, nil},
	{"p06", "Mateus Arruda", "TW", "modelling", 1, [][2]int{{-10, 5}, {6, 5}}},
	{"p07", "Leila Farhadi", "TW", "data", 0.8, nil},
	{"p08", "Sorcha Ní Bhriain", "CD", "charts,lead", 1, [][2]int{{2, 3}}},
	{"p09", "Kwame Adusei", "CD", "charts", 1, nil},
	{"p10", "Yelena Sorokova", "CD", "web", 0.6, nil},
	{"p11", "Diego Marroquín", "MA", "mobile,lead", 1, nil},
	{"p12", "Noor van Aalst", "MA", "mobile", 1, [][2]int{{7, 12}}},
	{"p13", "Thandi Mokwena", "MA", "design", 0.5, nil},
	{"p14", "Open seat, mobile", "MA", "mobile", 0.5, nil},
	{"p15", "Björk Hallsdóttir", "KC", "web,lead", 1, nil},
	{"p16", "Arjun Patwari", "KC", "web", 1, [][2]int{{-10, 5}, {4, 5}}},
	{"p13", "", "KC", "design", 0.5, nil},
	{"p17", "Eilidh Sinclare", "FW", "rigging,lead", 1, nil},
	{"p18", "Pavel Dvoranek", "FW", "electrics", 1, [][2]int{{5, 5}}},
	{"p19", "Maxime Tholence", "FW", "boat", 0.4, nil},
}

func (d *demo) people() {
	teams := d.p.TeamIndex()
	for _, s := range seats {
		if s.name != "" {
			person := program.Person{Key: s.key, Name: s.name, HoursPerDay: 8, Weekdays: []int{1, 2, 3, 4, 5}, OpenSeat: strings.HasPrefix(s.name, "Open seat")}
			if !person.OpenSeat {
				person.Calendar = "standin:" + s.key
			}
			for n, off := range s.off {
				from := d.monday.Add(7 * off[0])
				person.DaysOff = append(person.DaysOff, program.DayOff{From: from, To: from.Add(off[1] - 1), Name: "Leave", UID: fmt.Sprintf("%s-%d@standin.example", s.key, n+1)})
			}
			d.p.People = append(d.p.People, person)
		}
		t := &d.p.Teams[teams[s.team]]
		t.Members = append(t.Members, program.Member{Person: s.key, Share: s.share, Roles: strings.Split(s.roles, ",")})
	}
}

// line reads one line of beacon.txt.
func (d *demo) line(line string) {
	words := strings.Fields(line)
	switch words[0] {
	case "initiative":
		d.p.Items = append(d.p.Items, program.Item{Key: words[1], Kind: program.Initiative, Title: strings.Join(words[2:], " ")})
		return
	case "feature":
		d.parent = words[1]
		d.p.Items = append(d.p.Items, program.Item{Key: words[1], Kind: program.Feature, Parent: words[2], Release: words[3], Title: strings.Join(words[4:], " ")})
		return
	}
	title, needs, _ := strings.Cut(strings.Join(words[4:], " "), " < ")
	item := program.Item{Key: words[0], Title: title, Kind: program.ItemKind(words[2]), Parent: d.parent, State: program.Todo}
	item.Team, _, _ = strings.Cut(item.Key, "-")
	if size, err := strconv.ParseFloat(words[1], 64); err == nil {
		item.Size = &size
	}
	if needs != "" {
		for _, key := range strings.Split(needs, ", ") {
			need := program.Need{Item: item.Key, Needs: key, Agreement: program.Agreed}
			if item.Key == "FW-4" || item.Key == "LC-21" {
				need.LagDays = 3 // parts travel by boat
			}
			d.p.Needs = append(d.p.Needs, need)
		}
	}
	if item.Key == "FW-13" {
		item.NotBefore = d.monday.Add(7 * 8) // the rocks can be reached from then on
	}
	d.placed(&item, words[3])
	d.p.Items = append(d.p.Items, item)
}

// doneBeforeEnd are days before the end of its iteration, a Sunday, on which an item was done.
var doneBeforeEnd = []int{3, 9, 5, 4, 10, 6, 3}

func (d *demo) placed(item *program.Item, place string) {
	switch place {
	case ".":
		d.drafted = append(d.drafted, item.Key)
		return
	case "x":
		return
	case "=":
		item.KeptOut = true
		return
	}
	switch {
	case strings.HasSuffix(place, "d"):
		item.State = program.Doing
	case strings.HasSuffix(place, "r"):
		item.State = program.Review
	}
	n, err := strconv.Atoi(strings.TrimRight(place, "dr"))
	if err != nil {
		panic("beacon.txt: " + item.Key + " has the place " + place)
	}
	it := d.p.Teams[d.p.TeamIndex()[item.Team]].Iterations[history+n]
	item.Iteration = it.Key
	if n < 0 {
		item.State, item.DoneOn = program.Done, it.End.Add(-doneBeforeEnd[d.done%len(doneBeforeEnd)])
		d.done++
	}
}

// place puts what was left to a draft where a draft puts it.
func (d *demo) place() {
	unplaced := plan.Of(d.p)
	d.p = schedule.Place(unplaced, schedule.Draft(unplaced, schedule.Options{Today: d.today, Items: d.drafted, Tries: 20})).Program
}

// mishaps are what makes a plan alive: a team that took on too much, two needs
// that broke when somebody was in a hurry, a pinned date, a due date, work on trial at sea.
func (d *demo) mishaps() {
	tree := program.TreeOf(d.p)
	at := func(key string) *program.Item { return &d.p.Items[tree.Index[key]] }
	at("LC-18").Iteration = "LC-i12" // into the iteration in which two are away
	at("LC-10").Iteration = "LC-i13"
	at("CD-7").Iteration = "CD-i13"
	at("MA-11").Pinned = true
	at("MA-11").Due = d.p.Releases[0].Phases[0].End
	d.p.Settings.Steps = []program.Step{{Name: "building", State: program.Doing}, {Name: "sea trial", State: program.Doing, Most: 2}}
	for _, key := range []string{"TW-3", "MA-5", "FW-2"} {
		at(key).Step = "sea trial"
	}
	at("KC-4").Tags, at("KC-6").Tags = []string{"watch"}, []string{"watch"}
	for key, person := range map[string]string{"LC-5": "p01", "LC-4": "p03", "TW-3": "p05", "CD-3": "p08", "CD-4": "p09", "MA-5": "p11", "MA-7": "p13", "KC-6": "p13", "KC-2": "p15", "FW-2": "p17"} {
		at(key).Assignee = person
	}
}

// roughen gives a feature that is not broken down yet what it may come to, late in the plan.
func (d *demo) roughen() {
	tree := program.TreeOf(d.p)
	archive := &d.p.Items[tree.Index["FE-25"]]
	archive.Rough = []program.Rough{{Team: "CD", Size: 12, UpTo: number(20)}}
	archive.RoughPlaces = []program.RoughPlace{{Team: "CD", Iteration: "CD-i16", Size: 6}}
}

// agree leaves a few needs across teams open between them; of every other that is agreed on, and of one that is
// offered, a day is named.
func (d *demo) agree() {
	now := plan.Of(d.p)
	across := 0
	for i := range d.p.Needs {
		n := &d.p.Needs[i]
		if n.Item[:2] == n.Needs[:2] {
			continue
		}
		across++
		switch {
		case across%7 == 0:
			n.Agreement, n.Why = program.Declined, "No room before the harbour trial"
		case across%3 == 0:
			n.Agreement = program.Asked
		}
		by := needs.WantedBy(now, n.Item, n.Needs)
		if by < d.today {
			continue // it has no place, or is wanted no more
		}
		switch {
		case n.Agreement == program.Agreed && across%2 == 0:
			n.Given = by
		case n.Agreement == program.Asked && across%9 == 0:
			n.Agreement, n.Given, n.Why = program.Offered, by.Add(14), "Two of us are away before"
		}
	}
}
