package demo

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"jantrel/core/cadence"
	"jantrel/core/calendar"
	"jantrel/core/gate"
	"jantrel/core/plan"
	"jantrel/core/program"
)

// Edit is an edit of the demo's past.
type Edit struct {
	At      time.Time
	By      string
	Label   string
	Changes []program.Change
}

// Past is the demo as it was ten months ago, with nothing to do written down yet, and the edits since then, the
// oldest first, that make Program(today) of it: work written down, broken down, sized and agreed on;
// iterations started and closed, work begun, reviewed, sent back and done, scope that came and went.
// It is worked out from today back, each step taken back from what there was after it, so that it leads
// to the demo whatever the demo is. Days begin as they do in a place.
func Past(today program.Date, in *time.Location) (program.Program, []Edit) {
	p := Program(today)
	steps := slices.Concat(earlySteps(p, today), stepsBefore(p, today), stepsTo(p, today), timeSteps(p, today), signalSteps(today))
	inOrder(steps)
	edits := make([]Edit, len(steps))
	at := plan.Of(p)
	for i, s := range slices.Backward(steps) {
		earlier, applied, err := gate.Try(at, s.undone(&at.Program))
		if err != nil {
			panic("the demo's past, " + s.label + ": " + err.Error())
		}
		edits[i] = Edit{moment(s.day, s.hour, s.minute, in), s.by, s.label, program.Inverses(applied)}
		at = earlier
	}
	return at.Program, edits
}

// moment is a time of a day, in a place.
func moment(day program.Date, hour, minute int, in *time.Location) time.Time {
	t := day.Time()
	return time.Date(t.Year(), t.Month(), t.Day(), hour, minute, 0, 0, in)
}

// Promised is a promise of the demo's past: it is given with the odds that it then had, and so is no part of Program.
type Promised struct {
	At      time.Time
	By      string
	Promise program.Promise
}

// Promises are what was promised, the oldest first, in a place where days begin as in in.
func Promises(today program.Date, in *time.Location) []Promised {
	p, monday := Program(today), mondayOf(today)
	given := func(week, weekday, hour int, promise program.Promise) Promised {
		return Promised{moment(monday.Add(7*week+weekday-1), hour, 30, in), Accounts[1].Name, promise}
	}
	first, trial := p.Releases[0], p.Milestones[0]
	return []Promised{
		given(-5, 3, 16, program.Promise{Release: first.Key, Date: first.Due, To: "Harbour board", Note: "In the winter meeting; they book the opening for it"}),
		given(-3, 4, 11, program.Promise{Milestone: trial.Key, Date: trial.Date.Add(2), To: "Pilots of Stennholm", Note: "They lend two boats"}),
	}
}

// step is an edit, known by how it is taken back.
type step struct {
	day          program.Date
	hour, minute int
	by, label    string
	back         []program.Change                          // what takes back each of its changes, in the order of these
	undo         func(p *program.Program) []program.Change // instead: worked out from what there was after it
}

// undone are the changes that take it back from what there was after it.
func (s step) undone(p *program.Program) []program.Change {
	if s.undo != nil {
		return s.undo(p)
	}
	changes := slices.Clone(s.back)
	slices.Reverse(changes)
	return changes
}

// removals take back that things were added.
func removals(refs ...program.Ref) (changes []program.Change) {
	for _, ref := range refs {
		changes = append(changes, program.Change{Op: program.Remove, Ref: ref})
	}
	return changes
}

func itemRef(key string) program.Ref { return program.Ref{Kind: program.KindItem, Key: key} }

// leadOf is the name of who leads a team.
func leadOf(p *program.Program, team *program.Team) string {
	i := slices.IndexFunc(team.Members, func(m program.Member) bool { return slices.Contains(m.Roles, "lead") })
	return nameOf(p, team.Members[i].Person)
}

// nameOf is the name of a person.
func nameOf(p *program.Program, key string) string {
	i := slices.IndexFunc(p.People, func(person program.Person) bool { return person.Key == key })
	return p.People[i].Name
}

// workingDay is a day, or the Friday before it at the weekend, when nobody plans.
func workingDay(day program.Date) program.Date { return min(day, day.Add(5-day.Weekday())) }

// before takes steps back, the last first.
func before(p program.Program, steps []step) program.Program {
	var back []program.Change
	for _, s := range slices.Backward(steps) {
		back = append(back, s.undone(&p)...)
	}
	return tried(p, back)
}

func tried(p program.Program, changes []program.Change) program.Program {
	next, _, err := gate.Try(plan.Of(p), changes)
	if err != nil {
		panic("the demo's past: " + err.Error())
	}
	return next.Program
}

// open is the position of a team's iteration under way.
func open(t *program.Team) int {
	return slices.IndexFunc(t.Iterations, func(it program.Iteration) bool { return it.State == program.Open })
}

// commit notes what the teams committed to when their iterations under way were started.
func (d *demo) commit() {
	first := before(d.p, stepsTo(d.p, d.today))
	var starts []program.Change
	for t := range d.p.Teams {
		team := &d.p.Teams[t]
		changes, err := cadence.Start(first, team.Key, team.Iterations[open(team)].Key)
		if err != nil {
			panic("the demo's past: " + err.Error())
		}
		starts = append(starts, changes...)
	}
	started := tried(first, starts)
	for t := range d.p.Teams {
		i := open(&d.p.Teams[t])
		it, from := &d.p.Teams[t].Iterations[i], &started.Teams[t].Iterations[i]
		it.Committed, it.CommittedItems = from.Committed, from.CommittedItems
	}
}

// stepsTo are the steps since the iterations under way began, in the order of time.
func stepsTo(p program.Program, today program.Date) []step {
	var steps []step
	for t := range p.Teams {
		o := underWay(&p, t, today)
		o.went()
		steps = append(steps, o.steps...)
	}
	inOrder(steps)
	return steps
}

// underWay is the iteration that a team is in.
func underWay(p *program.Program, t int, today program.Date) *ongoing {
	team := &p.Teams[t]
	i := open(team)
	o := &ongoing{p: p, team: team, it: &team.Iterations[i], next: &team.Iterations[i+1], n: t}
	o.works(calendar.Span{Start: o.it.Start, End: today.Add(-1)})
	return o
}

// inOrder sorts steps by time.
func inOrder(steps []step) {
	slices.SortStableFunc(steps, func(a, b step) int {
		return int(a.day-b.day)*10_000 + (a.hour-b.hour)*100 + a.minute - b.minute
	})
}

// ongoing is an iteration under way.
type ongoing struct {
	p        *program.Program
	team     *program.Team
	it, next *program.Iteration
	at       int             // its position
	n        int             // which team: each does things at other times
	days     []program.Date  // of work since it was started, today excluded
	ended    []*program.Item // of a closed one: its items that are done
	steps    []step
}

// works notes the days of a stretch on which people work.
func (o *ongoing) works(span calendar.Span) {
	for day := span.Start; day <= span.End; day++ {
		if calendar.MondayToFriday.Has(day) {
			o.days = append(o.days, day)
		}
	}
}

// started says when the iteration was started.
func (o *ongoing) started() (ref program.Ref) {
	ref = program.Ref{Kind: program.KindIteration, In: o.team.Key, Key: o.it.Key}
	o.step(0, 9, o.lead(), "Start "+o.it.Label(), program.SetTo(ref, "state", program.Planned),
		program.SetTo(ref, "committed", nil), program.SetTo(ref, "committedItems", nil))
	return ref
}

func (o *ongoing) went() {
	o.started()
	var waiting []*program.Item
	for i := range o.p.Items {
		item := &o.p.Items[i]
		if item.Team == o.team.Key && item.Iteration == o.it.Key {
			if !item.State.UnderWay() {
				waiting = append(waiting, item)
			}
			o.begun(item)
		}
	}
	for i := range o.p.Items {
		item := &o.p.Items[i]
		if o.n%2 == 0 && item.Team == o.team.Key && item.Iteration == o.next.Key && !item.Pinned {
			o.step(3, 15, o.lead(), fmt.Sprintf("Move %s to %s", item.Key, o.next.Label()), wasSo(item, "iteration", o.it.Key))
			break
		}
	}
	if n := len(waiting); n > 1 {
		late := waiting[n-1]
		o.step(4, 11, o.lead(), fmt.Sprintf("Place %s in %s", late.Key, o.it.Label()), wasSo(late, "iteration", nil))
		if size := waiting[0].Size; size != nil && *size > 2 {
			o.step(2, 14, o.who(waiting[0]), "Size of "+waiting[0].Key, wasSo(waiting[0], "size", *size-1))
		}
	}
}

// begun says how an item that is under way got there: one of every second team was sent back once.
func (o *ongoing) begun(item *program.Item) {
	move := func(day, hour int, from, to program.ItemState) {
		back := []program.Change{wasSo(item, "state", from)}
		if from == program.Todo {
			back = append(back, wasSo(item, "began", nil))
		}
		o.step(day, hour, o.who(item), fmt.Sprintf("%s %s", item.Key, map[program.ItemState]string{program.Doing: "doing", program.Review: "in review"}[to]), back...)
	}
	if item.State.UnderWay() {
		move(o.firstDay(item), 9, program.Todo, program.Doing)
	}
	switch {
	case item.State == program.Review:
		move(4, 16, program.Doing, program.Review)
	case item.State == program.Doing && o.n%2 == 0:
		move(3, 11, program.Doing, program.Review)
		move(4, 10, program.Review, program.Doing)
	case item.State == program.Doing:
		if item.Step != "" {
			o.step(4, 13, o.who(item), item.Key+" "+item.Step, wasSo(item, "step", nil))
		}
	}
}

// firstDay is the day of work on which an item that is under way was begun.
func (o *ongoing) firstDay(item *program.Item) int {
	switch {
	case item.State == program.Review:
		return 0
	case o.n%2 == 0:
		return 1
	}
	return 2
}

// day is one of the days of work, the last where there are not so many.
func (o *ongoing) day(n int) program.Date { return o.days[min(n, len(o.days)-1)] }

// step notes a step on one of the days, the last where there are not so many.
func (o *ongoing) step(day, hour int, by, label string, back ...program.Change) {
	o.steps = append(o.steps, step{day: o.day(day), hour: hour, minute: (7 + 13*o.n + 5*len(o.steps)) % 60, by: by, label: label, back: back})
}

// wasSo takes a field of an item back to what it was.
func wasSo(item *program.Item, field string, from any) program.Change {
	return program.SetTo(itemRef(item.Key), field, from)
}

func (o *ongoing) lead() string { return leadOf(o.p, o.team) }

// who is the name of who does an item: its assignee, or one of the team.
func (o *ongoing) who(item *program.Item) string {
	if item.Assignee != "" {
		return nameOf(o.p, item.Assignee)
	}
	names := []string{}
	for _, m := range o.team.Members {
		if name := nameOf(o.p, m.Person); !strings.HasPrefix(name, "Open seat") {
			names = append(names, name)
		}
	}
	return names[len(o.steps)%len(names)]
}
