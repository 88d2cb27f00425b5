// Package watch gathers what concerns one person of a program: what they work on, what comes
// next, what waits for their word, what they owe others, when they are away.
package watch

import (
	"cmp"
	"slices"

	"jantrel/core/calendar"
	"jantrel/core/hours"
	"jantrel/core/needs"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/roles"
	"jantrel/core/track"
)

// Watch is what concerns a person.
type Watch struct {
	Going  []Mine           `json:"going"`  // under way: assigned to them, or with a task of theirs
	Next   []Mine           `json:"next"`   // of the same, to do, in the iteration that its team is in or the one after it
	Review []Mine           `json:"review"` // in review, of a team of theirs, done by somebody else
	Owed   []Owed           `json:"owed"`   // what others wait for of them, wanted first first
	Off    []program.DayOff `json:"off"`    // days off that are not over, the next first
	Hours  float64          `json:"hours"`  // left of their tasks in what is under way, as far as estimated
	Spent  float64          `json:"spent"`  // hours that they entered for the week
}

// Mine is an item that concerns a person.
type Mine struct {
	Item      string            `json:"item"`
	Title     string            `json:"title"`
	Team      string            `json:"team"`                // its name
	Iteration string            `json:"iteration,omitempty"` // what people call it
	State     program.ItemState `json:"state"`
	At        int               `json:"at"` // where on the program's course it is
	Size      *float64          `json:"size,omitempty"`
	Unit      program.Unit      `json:"unit,omitempty"`
	By        string            `json:"by,omitempty"` // the name of who it is assigned to, where that is somebody else
	Blocked   string            `json:"blocked,omitempty"`
	Waits     []string          `json:"waits"` // what it needs that is not done
	Tasks     []Task            `json:"tasks"`
	Due       program.Date      `json:"due,omitzero"`
	Spent     float64           `json:"spent"` // hours that anybody spent on it
}

// Task is a task of an item.
type Task struct {
	program.Task
	At   int  `json:"at"`             // among the item's
	Mine bool `json:"mine,omitempty"` // theirs: they own it, or nobody does and the item is assigned to them

	Spent float64 `json:"spent"` // hours that anybody spent on it
}

// Owed is an item that somebody else's waits for.
type Owed struct {
	Item     string       `json:"item"`
	Title    string       `json:"title"`
	For      string       `json:"for"` // the item that needs it
	ForTitle string       `json:"forTitle"`
	Team     string       `json:"team"`            // the name of the team of that
	Wanted   program.Date `json:"wanted,omitzero"` // the last day on which it has to be done, see needs.Due; none: the other is unplaced
	Status   needs.Status `json:"status"`
}

// Of gathers what concerns a person on a day. Time is linear in items, needs and time entries.
func Of(p *plan.Plan, person string, today program.Date) Watch {
	w := Watch{Going: []Mine{}, Next: []Mine{}, Review: []Mine{}, Owed: []Owed{}, Off: []program.DayOff{}}
	if person == "" {
		return w
	}
	g := gathering{p, person, p.Settings.Course(), soon(p, today), map[string]string{}, map[string][]string{}, roles.TeamsOf(p.Program, person), map[work]float64{}}
	week := calendar.Span{Start: calendar.MondayOf(today), End: calendar.MondayOf(today).Add(hours.DaysAWeek - 1)}
	for i := range p.TimeEntries {
		e := &p.TimeEntries[i]
		g.spent[work{e.Item, ""}] += e.Hours
		if e.Task != "" {
			g.spent[work{e.Item, e.Task}] += e.Hours
		}
		if e.Person == person && week.Holds(e.Date) {
			w.Spent += e.Hours
		}
	}
	for _, who := range p.People {
		g.names[who.Key] = who.Name
		if who.Key != person {
			continue
		}
		for _, off := range who.DaysOff {
			if off.To >= today {
				w.Off = append(w.Off, off)
			}
		}
	}
	tree := p.Tree()
	for _, n := range p.Needs {
		if needed := tree.Index[n.Needs]; p.Items[needed].State != program.Done {
			g.waits[n.Item] = append(g.waits[n.Item], n.Needs)
		}
	}
	for i := range p.Items {
		item := &p.Items[i]
		if !tree.IsLeaf(i) || item.KeptOut || item.State == program.Done {
			continue
		}
		theirs := item.Assignee == person || slices.ContainsFunc(item.Tasks, func(t program.Task) bool { return t.Owner == person })
		switch {
		case item.State.UnderWay() && theirs:
			w.Going = append(w.Going, g.mine(item))
		case item.State == program.Review && slices.Contains(g.teams, item.Team):
			w.Review = append(w.Review, g.mine(item))
		case theirs && g.soon[place{item.Team, item.Iteration}]:
			w.Next = append(w.Next, g.mine(item))
		}
	}
	for i := range w.Going {
		for _, t := range w.Going[i].Tasks {
			if left, known := t.Left(); known && t.Mine {
				w.Hours += left
			}
		}
	}
	// What has a task of theirs to do comes first; of what is next, what waits for nothing. Else by rank.
	toDo := func(m Mine) bool { return slices.ContainsFunc(m.Tasks, func(t Task) bool { return t.Mine && !t.Done }) }
	slices.SortStableFunc(w.Going, func(a, b Mine) int { return last(!toDo(a), !toDo(b)) })
	slices.SortStableFunc(w.Next, func(a, b Mine) int { return last(len(a.Waits) > 0, len(b.Waits) > 0) })
	slices.SortStableFunc(w.Off, func(a, b program.DayOff) int { return int(a.From - b.From) })
	w.Owed = g.owed()
	return w
}

// last puts what is true last.
func last(a, b bool) int {
	switch {
	case a == b:
		return 0
	case a:
		return 1
	}
	return -1
}

type place struct{ team, iteration string }

// soon are the iterations that teams are in, and the ones after these.
func soon(p *plan.Plan, today program.Date) map[place]bool {
	all := map[place]bool{}
	for i := range p.Teams {
		t := &p.Teams[i]
		at, ok := track.UnderWay(t, today)
		if !ok {
			continue
		}
		all[place{t.Key, t.Iterations[at].Key}] = true
		next := -1
		for k := range t.Iterations {
			it := &t.Iterations[k]
			if it.State != program.Closed && it.Start > t.Iterations[at].Start && (next < 0 || it.Start < t.Iterations[next].Start) {
				next = k
			}
		}
		if next >= 0 {
			all[place{t.Key, t.Iterations[next].Key}] = true
		}
	}
	return all
}

// gathering is what is known while a watch is gathered.
type gathering struct {
	p      *plan.Plan
	person string
	course []program.Step
	soon   map[place]bool
	names  map[string]string
	waits  map[string][]string // what each item needs that is not done
	teams  []string            // of the person
	spent  map[work]float64    // hours on each item, without a task, and on each of its tasks
}

// work is an item, or a task of one by its title.
type work struct{ item, task string }

func (g *gathering) mine(item *program.Item) Mine {
	m := Mine{Item: item.Key, Title: item.Title, State: cmp.Or(item.State, program.Todo), At: program.StepOf(g.course, item), Size: item.Size,
		Spent: g.spent[work{item.Key, ""}], Blocked: item.Blocked, Waits: append([]string{}, g.waits[item.Key]...), Tasks: []Task{}, Due: item.Due}
	if at, ok := g.p.TeamAt()[item.Team]; ok {
		t := &g.p.Teams[at]
		m.Team, m.Unit = t.Name, t.Unit
		if it, ok := t.Find(item.Iteration); ok {
			m.Iteration = it.Label()
		}
	}
	if item.Assignee != g.person {
		m.By = g.names[item.Assignee]
	}
	for i, t := range item.Tasks {
		m.Tasks = append(m.Tasks, Task{t, i, t.Owner == g.person || t.Owner == "" && item.Assignee == g.person, g.spent[work{item.Key, t.Title}]})
	}
	return m
}

// owed are the person's items that are not done and that somebody else's wait for.
func (g *gathering) owed() []Owed {
	list := []Owed{}
	tree := g.p.Tree()
	states := needs.Check(g.p)
	for i, n := range g.p.Needs {
		needed, by := &g.p.Items[tree.Index[n.Needs]], &g.p.Items[tree.Index[n.Item]]
		if needed.Assignee != g.person || needed.State == program.Done || needed.KeptOut || by.Assignee == g.person || by.State == program.Done || by.KeptOut {
			continue
		}
		o := Owed{Item: needed.Key, Title: needed.Title, For: by.Key, ForTitle: by.Title, Status: states[i].Status}
		if at, ok := g.p.TeamAt()[by.Team]; ok {
			o.Team = g.p.Teams[at].Name
		}
		if at, ok := g.p.Place(tree.Index[n.Item]); ok {
			o.Wanted = at.Start.Add(-1 - n.LagDays)
		}
		if by.Team != needed.Team {
			o.Wanted, _ = needs.Due(&g.p.Program, &g.p.Needs[i], o.Wanted)
		}
		list = append(list, o)
	}
	slices.SortStableFunc(list, func(a, b Owed) int {
		return cmp.Or(last(a.Wanted.IsZero(), b.Wanted.IsZero()), int(a.Wanted-b.Wanted))
	})
	return list
}
