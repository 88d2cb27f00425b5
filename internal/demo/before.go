package demo

import (
	"slices"

	"jantrel/core/program"
)

// stepsBefore are the steps of the iterations that are closed and still hold items, and what came
// and went in the releases in that time; in no order.
func stepsBefore(p program.Program, today program.Date) []step {
	var steps []step
	for t := range p.Teams {
		team := &p.Teams[t]
		for i := range team.Iterations[:open(team)] {
			o := closed(&p, t, i)
			o.wentBy()
			steps = append(steps, o.steps...)
		}
	}
	return slices.Concat(steps, olderSteps(&p), scopeSteps(today))
}

// closed is an iteration of a team that is over.
func closed(p *program.Program, t, i int) *ongoing {
	team := &p.Teams[t]
	o := &ongoing{p: p, team: team, it: &team.Iterations[i], at: i, n: t}
	for k := range p.Items {
		if item := &p.Items[k]; item.Team == team.Key && item.Iteration == o.it.Key && item.State == program.Done {
			o.ended = append(o.ended, item)
		}
	}
	o.works(o.it.Span())
	return o
}

// begunAt is the day of work on which the n-th of the items that are done was begun.
func (o *ongoing) begunAt(n int) int { return max(0, slices.Index(o.days, o.ended[n].DoneOn)-3-n%3) }

// begin notes when work on what is done or under way began.
func (d *demo) begin() {
	for t := range d.p.Teams {
		team := &d.p.Teams[t]
		for i := range open(team) {
			o := closed(&d.p, t, i)
			for n, item := range o.ended {
				item.Began = o.days[o.begunAt(n)]
			}
		}
		o := underWay(&d.p, t, d.today)
		for i := range d.p.Items {
			if item := &d.p.Items[i]; item.Team == team.Key && item.Iteration == o.it.Key && item.State.UnderWay() {
				item.Began = o.day(o.firstDay(item))
			}
		}
	}
}

// wentBy says how an iteration that is closed went: on the morning after its last day it was closed.
func (o *ongoing) wentBy() {
	ref := o.started()
	for n, item := range o.ended {
		at := slices.Index(o.days, item.DoneOn)
		o.step(o.begunAt(n), 10, o.who(item), item.Key+" doing", wasSo(item, "state", program.Todo), wasSo(item, "began", nil))
		was := program.Doing
		if !isOlder(item.Key) { // nobody reviewed what was done before the program
			o.step(max(0, at-1), 15, o.who(item), item.Key+" in review", wasSo(item, "state", program.Doing))
			was = program.Review
		}
		o.step(at, 16, o.lead(), item.Key+" done", wasSo(item, "state", was), wasSo(item, "doneOn", nil))
	}
	o.days = append(o.days, o.it.End.Add(1))
	back := []program.Change{program.SetTo(ref, "state", program.Open), program.SetTo(ref, "completed", nil), program.SetTo(ref, "completedItems", nil)}
	for _, key := range carriedTo(o.p, o.n, o.at) {
		back = append(back, program.SetTo(itemRef(key), "iteration", o.it.Key))
	}
	o.step(len(o.days)-1, 8, o.lead(), "Close "+o.it.Label(), back...)
}

// scopeSteps are what a manager did to what the releases hold: a feature joined one, an item was kept
// out, sizes were found and thought over.
func scopeSteps(today program.Date) []step {
	manager := Accounts[1].Name
	var steps []step
	did := func(daysAgo, hour int, label, key, field string, from any) {
		steps = append(steps, step{day: workingDay(today.Add(-daysAgo)), hour: hour, minute: 20 + daysAgo%30, by: manager, label: label, back: []program.Change{program.SetTo(itemRef(key), field, from)}})
	}
	did(26, 11, "FE-13 joins First Light", "FE-13", "release", nil)
	did(24, 14, "Size of LC-8", "LC-8", "size", nil)
	did(19, 10, "Size of MA-9", "MA-9", "size", 5)
	did(17, 13, "CD-19 is kept out", "CD-19", "keptOut", false)
	did(12, 15, "Size of LC-13", "LC-13", "size", 3)
	return steps
}
