// Package hours holds what people have planned to spend and spent against each other: a person's
// week to enter hours in, and the report of capacity, planned and spent hours.
package hours

import (
	"cmp"
	"slices"

	"jantrel/core/calendar"
	"jantrel/core/capacity"
	"jantrel/core/plan"
	"jantrel/core/program"
)

// DaysAWeek is how many days a Week has, Monday first.
const DaysAWeek = 7

// Week is a person's week: a row for each thing that hours go to.
type Week struct {
	Person   string       `json:"person"`
	Monday   program.Date `json:"monday"`
	Days     []Day        `json:"days"` // seven
	Rows     []Row        `json:"rows"` // by rank of the item; what is on none comes last
	Capacity float64      `json:"capacity"`
	Spent    float64      `json:"spent"`
}

// Day is a day of a Week.
type Day struct {
	Date     program.Date `json:"date"`
	Capacity float64      `json:"capacity"` // hours that the person works, in all teams
	Away     string       `json:"away,omitempty"`
	Spent    float64      `json:"spent"`
}

// What is what hours are spent on.
type What struct {
	Item     string `json:"item,omitempty"`
	Task     string `json:"task,omitempty"` // the title of one of the item's
	Activity string `json:"activity,omitempty"`
}

// Row is what a person spent on one thing in a week.
type Row struct {
	What
	Title string    `json:"title,omitempty"` // of the item
	Hours []float64 `json:"hours"`           // a day
	Notes []string  `json:"notes"`           // a day
	Spent float64   `json:"spent"`           // in the week
	All   float64   `json:"all"`             // that anybody spent on it ever; 0 where it is on no item
	Left  *float64  `json:"left,omitempty"`  // of the task; nil: not known
	Mine  bool      `json:"mine,omitempty"`  // the task is theirs by name
}

// WeekOf returns the week of a person that a day lies in. Rows without hours in it are what they
// spent hours on the week before and is not done, their tasks in what is under way, and what
// is under way, assigned to them and has no tasks. Time is linear in time entries and items.
func WeekOf(p *plan.Plan, person string, day program.Date) Week {
	w := Week{Person: person, Monday: calendar.MondayOf(day), Days: make([]Day, DaysAWeek), Rows: []Row{}}
	span := calendar.Span{Start: w.Monday, End: w.Monday.Add(DaysAWeek - 1)}
	for i := range w.Days {
		w.Days[i] = Day{Date: w.Monday.Add(i), Away: away(p, person, w.Monday.Add(i))}
	}
	capacity.Hours(p, span, func(_ int, who *program.Person, day program.Date, hours float64) {
		if who.Key == person {
			w.Days[day-w.Monday].Capacity += hours
			w.Capacity += hours
		}
	})
	g := &grid{p: p, w: &w, at: map[What]int{}}
	for i := range p.TimeEntries {
		if e := &p.TimeEntries[i]; e.Person == person && span.Holds(e.Date) {
			row := g.row(whatOf(e))
			day := e.Date - w.Monday
			row.Hours[day] += e.Hours
			row.Spent += e.Hours
			if e.Note != "" {
				row.Notes[day] = join(row.Notes[day], e.Note)
			}
			w.Days[day].Spent += e.Hours
			w.Spent += e.Hours
		}
	}
	g.suggest(span)
	// By rank, so that a row keeps its place from day to day.
	slices.SortStableFunc(w.Rows, func(a, b Row) int {
		return cmp.Or(g.rank(a.Item)-g.rank(b.Item), cmp.Compare(a.Task, b.Task), cmp.Compare(a.Activity, b.Activity))
	})
	for i := range w.Rows {
		g.at[w.Rows[i].What] = i
	}
	for i := range p.TimeEntries {
		if at, ok := g.at[whatOf(&p.TimeEntries[i])]; ok && w.Rows[at].Item != "" {
			w.Rows[at].All += p.TimeEntries[i].Hours
		}
	}
	return w
}

func whatOf(e *program.TimeEntry) What { return What{e.Item, e.Task, e.Activity} }

func join(a, b string) string {
	if a == "" {
		return b
	}
	return a + "; " + b
}

// away says why a person does not work on a day; empty where nothing is said of it.
func away(p *plan.Plan, person string, day program.Date) string {
	for _, h := range p.Holidays {
		if h.Date == day && (len(h.Teams) == 0 || slices.ContainsFunc(h.Teams, func(key string) bool {
			at, ok := p.TeamAt()[key]
			return ok && slices.ContainsFunc(p.Teams[at].Members, func(m program.Member) bool { return m.Person == person && m.Span().Holds(day) })
		})) {
			return h.Name
		}
	}
	for i := range p.People {
		if p.People[i].Key != person {
			continue
		}
		for _, off := range p.People[i].DaysOff {
			if off.From <= day && day <= off.To {
				return cmp.Or(off.Name, "day off")
			}
		}
	}
	return ""
}

// grid is a week while its rows come together.
type grid struct {
	p  *plan.Plan
	w  *Week
	at map[What]int
}

// row is the row of a thing, made where there is none.
func (g *grid) row(what What) *Row {
	at, ok := g.at[what]
	if !ok {
		at = len(g.w.Rows)
		g.at[what] = at
		row := Row{What: what, Hours: make([]float64, DaysAWeek), Notes: make([]string, DaysAWeek)}
		if i, ok := g.p.Tree().Index[what.Item]; ok {
			item := &g.p.Items[i]
			row.Title = item.Title
			for n := range item.Tasks {
				if t := &item.Tasks[n]; what.Task != "" && t.Title == what.Task {
					if left, known := t.Left(); known {
						row.Left = &left
					}
					row.Mine = t.Owner == g.w.Person
					break
				}
			}
		}
		g.w.Rows = append(g.w.Rows, row)
	}
	return &g.w.Rows[at]
}

// rank is where an item stands; what is on none comes last.
func (g *grid) rank(item string) int {
	if i, ok := g.p.Tree().Index[item]; ok {
		return i
	}
	return len(g.p.Items)
}

// suggest adds rows for what the person is likely to spend hours on. A thing that has a row
// under whatever activity gets no other.
func (g *grid) suggest(span calendar.Span) {
	has := map[What]bool{}
	for what := range g.at {
		has[What{Item: what.Item, Task: what.Task}] = true
	}
	add := func(what What) {
		if bare := (What{Item: what.Item, Task: what.Task}); !has[bare] {
			has[bare] = true
			g.row(what)
		}
	}
	before := calendar.Span{Start: span.Start.Add(-DaysAWeek), End: span.Start.Add(-1)}
	for i := range g.p.TimeEntries {
		if e := &g.p.TimeEntries[i]; e.Person == g.w.Person && before.Holds(e.Date) && !g.done(e) {
			add(whatOf(e))
		}
	}
	tree := g.p.Tree()
	for i := range g.p.Items {
		item := &g.p.Items[i]
		if !item.State.UnderWay() || !tree.IsLeaf(i) {
			continue
		}
		for n := range item.Tasks {
			t := &item.Tasks[n]
			if mine := t.Owner == g.w.Person || t.Owner == "" && item.Assignee == g.w.Person; mine && !t.Done {
				add(What{item.Key, t.Title, t.Activity})
			}
		}
		if item.Assignee == g.w.Person && len(item.Tasks) == 0 {
			add(What{Item: item.Key})
		}
	}
}

// done reports whether what hours were spent on is done.
func (g *grid) done(e *program.TimeEntry) bool {
	i, ok := g.p.Tree().Index[e.Item]
	if !ok {
		return false
	}
	item := &g.p.Items[i]
	return item.State == program.Done || slices.ContainsFunc(item.Tasks, func(t program.Task) bool { return t.Title == e.Task && t.Done })
}
