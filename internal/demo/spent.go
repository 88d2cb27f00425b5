package demo

import (
	"cmp"
	"fmt"
	"slices"

	"jantrel/core/calendar"
	"jantrel/core/capacity"
	"jantrel/core/plan"
	"jantrel/core/program"
)

// timesheetTeams are the teams that say what they spend their hours on, and timesheetWeeks for how
// many weeks they have done so.
var timesheetTeams = []string{"LC", "MA", "FW"}

const timesheetWeeks = 5

// timesheet is what a person enters at the end of a week.
type timesheet struct {
	day    program.Date // on which it is entered
	minute int
	person *program.Person
	spent  []program.TimeEntry
}

// estimate gives the items of a team that sizes in points tasks with hours: those that are done, and
// those to do in its iteration. What is under way keeps what it has: its hours say how much of it is left.
func (d *demo) estimate() {
	d.p.Settings.Activities = []string{"building", "testing", "design", "meetings", "upkeep"}
	for i := range d.p.Items {
		item := &d.p.Items[i]
		if item.Team != "MA" || item.Iteration == "" || item.State.UnderWay() || item.Size == nil || len(item.Tasks) > 0 {
			continue
		}
		done := item.State == program.Done
		if !done && item.Iteration != "MA-i10" {
			continue
		}
		item.Tasks = []program.Task{{Title: "Build it", Hours: number(4 * *item.Size), Done: done, Activity: "building"}, {Title: "Try it on board", Hours: number(2 * *item.Size), Done: done, Activity: "testing"}}
	}
}

// spend enters the timesheets.
func (d *demo) spend() {
	for _, s := range timesheets(d.p, d.today) {
		d.p.TimeEntries = append(d.p.TimeEntries, s.spent...)
	}
}

// timesheets are what people have entered before today, in the order of time; they hang on everything
// in a program but the hours spent.
func timesheets(p program.Program, today program.Date) []timesheet {
	var sheets []timesheet
	pl := plan.Of(p)
	rest := map[string]float64{} // hours that each item still takes
	span := calendar.Span{Start: calendar.MondayOf(today).Add(-7 * timesheetWeeks), End: today.Add(-1)}
	capacity.Hours(pl, span, func(team int, person *program.Person, day program.Date, whole float64) {
		if person.OpenSeat || !slices.Contains(timesheetTeams, p.Teams[team].Key) {
			return
		}
		n := len(sheets)
		if n == 0 || sheets[n-1].person.Key != person.Key || calendar.MondayOf(sheets[n-1].day) != calendar.MondayOf(day) {
			sheets = append(sheets, timesheet{minute: 4 * slices.IndexFunc(p.People, func(x program.Person) bool { return x.Key == person.Key }), person: person})
			n++
		}
		s := &sheets[n-1]
		s.day = day
		s.enter(pl, &p.Teams[team], whole, rest)
	})
	slices.SortStableFunc(sheets, func(a, b timesheet) int { return cmp.Or(int(a.day-b.day), a.minute-b.minute) })
	return sheets
}

// enter adds the hours of a day: most of it on one item, some on another as long as these still take
// some, and the rest on none.
func (s *timesheet) enter(p *plan.Plan, team *program.Team, whole float64, rest map[string]float64) {
	luck := (int(s.day)*7 + 3*s.minute) % 11
	left := float64(int(2*whole)+luck%4-2) / 2 // to the half hour, from one less to half of one more
	meetings := 0.5
	if s.day.Weekday() == 5 {
		meetings = 1.5
	}
	s.add(program.TimeEntry{Hours: min(meetings, left), Activity: "meetings"})
	left -= meetings
	work := worked(p, team, s.person.Key, s.day)
	for n, item := range work[:min(2, len(work))] {
		if _, begun := rest[item.Key]; !begun && item.Size != nil {
			rest[item.Key] = *item.Size * float64(4+luck%5)
		}
		spent := left
		if n == 0 && len(work) > 1 {
			spent = float64(int(left*1.4)) / 2 // about seven tenths
		}
		spent = min(spent, rest[item.Key])
		rest[item.Key] -= spent
		entry := program.TimeEntry{Hours: spent, Item: item.Key, Activity: []string{"building", "testing"}[n]}
		if at := slices.IndexFunc(item.Tasks, func(t program.Task) bool { return t.Activity == entry.Activity }); at >= 0 {
			entry.Task = item.Tasks[at].Title
		}
		if n == 0 && s.day.Weekday() == 1 && item.Kind == program.Defect {
			entry.Note = "found the cause"
		}
		s.add(entry)
		left -= spent
	}
	s.add(program.TimeEntry{Hours: left, Activity: "upkeep"})
}

func (s *timesheet) add(e program.TimeEntry) {
	if e.Hours <= 0 {
		return
	}
	n := 1
	for i := range s.spent {
		if s.spent[i].Date == s.day {
			n++
		}
	}
	e.Key, e.Person, e.Date = fmt.Sprintf("%s %s %d", s.person.Key, s.day, n), s.person.Key, s.day
	s.spent = append(s.spent, e)
}

// worked are the items of a team that somebody works on, on a day: what is assigned to them first,
// then the others in turn from day to day.
func worked(p *plan.Plan, team *program.Team, person string, day program.Date) (mine []*program.Item) {
	var others []*program.Item
	for i := range p.Items {
		item := &p.Items[i]
		place, placed := p.Place(i)
		if item.Team != team.Key || !placed || !place.Holds(day) || item.State == program.Todo || item.State == "" || item.State == program.Done && item.DoneOn < day {
			continue
		}
		if item.Assignee == person {
			mine = append(mine, item)
		} else if item.Assignee == "" {
			others = append(others, item)
		}
	}
	for n := range others {
		mine = append(mine, others[(n+int(day)+len(person)+int(person[len(person)-1]))%len(others)])
	}
	return mine
}

// timeSteps are the steps in which the timesheets were entered.
func timeSteps(p program.Program, today program.Date) []step {
	var steps []step
	for _, s := range timesheets(p, today) {
		monday := calendar.MondayOf(s.day)
		steps = append(steps, step{day: s.day, hour: 16, minute: s.minute, by: s.person.Name, label: "Hours of the week from " + monday.Short(), back: s.back()})
	}
	return steps
}

// back takes what was entered out again.
func (s *timesheet) back() []program.Change {
	refs := make([]program.Ref, len(s.spent))
	for i, e := range s.spent {
		refs[i] = program.Ref{Kind: program.KindTimeEntry, Key: e.Key}
	}
	return removals(refs...)
}
