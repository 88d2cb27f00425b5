package demo

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"jantrel/core/calendar"
	"jantrel/core/program"
)

// earlySteps are how the demo came about, from ten months ago on: what there is to do was written down,
// broken down and sized, needs were asked for and agreed, and days off entered. Each is known by how it
// is taken back from what there was after it.
func earlySteps(p program.Program, today program.Date) []step {
	e := &early{p: &p, monday: mondayOf(today), tree: program.TreeOf(p), manager: Accounts[1].Name}
	e.groups()
	e.sizes()
	e.agreements()
	e.draft()
	e.dates()
	e.promises()
	e.said()
	e.daysOff()
	return e.steps
}

// Weeks, counted back from this one.
const (
	firstWeek = -43 // of the first entry
	planned   = -20 // everything is written down and sized: the first iterations begin soon
)

type early struct {
	p       *program.Program
	tree    program.Tree
	monday  program.Date // of this week
	manager string
	steps   []step
}

// step notes a step on a working day, with what takes it back.
func (e *early) step(week, weekday, hour int, by, label string, back ...program.Change) *step {
	e.steps = append(e.steps, step{day: e.monday.Add(7*week + weekday - 1), hour: hour, minute: (11 * len(e.steps)) % 60, by: by, label: label, back: back})
	return &e.steps[len(e.steps)-1]
}

// lead is the name of who leads a team; the manager's where there is none.
func (e *early) lead(team string) string {
	if t, ok := e.p.TeamIndex()[team]; ok {
		return leadOf(e.p, &e.p.Teams[t])
	}
	return e.manager
}

// groups writes initiatives and features down, and breaks each feature down some weeks later, with what
// its items need.
func (e *early) groups() {
	features := 0
	for i := range e.p.Items {
		item := &e.p.Items[i]
		switch item.Kind {
		case program.Initiative:
			e.step(firstWeek, 1+i%5, 9, Accounts[0].Name, "Add "+item.Key+" "+item.Title, removals(itemRef(item.Key))...)
		case program.Feature:
			week := firstWeek + 1 + features/2
			e.step(week, 1+features%5, 10, e.manager, "Add "+item.Key+" "+item.Title, removals(itemRef(item.Key))...)
			e.breakDown(i, week+3, features)
			features++
		}
	}
	for i := range e.p.Items {
		if item := &e.p.Items[i]; !item.Kind.IsGroup() && e.tree.Nearest(i, program.Feature) < 0 && !isOlder(item.Key) {
			e.step(planned-2, 1+i%5, 15, e.lead(item.Team), "Add "+item.Key+" "+item.Title, removals(itemRef(item.Key))...)
		}
	}
	e.needs()
}

func (e *early) breakDown(feature, week, n int) {
	var refs []program.Ref
	var keys []string
	team := ""
	for i := range e.p.Items {
		if e.tree.Parent[i] == feature {
			refs, keys = append(refs, itemRef(e.p.Items[i].Key)), append(keys, e.p.Items[i].Key)
			if team == "" {
				team = e.p.Items[i].Team
			}
		}
	}
	if len(refs) > 0 {
		e.step(week, 1+(n+2)%5, 14, e.lead(team), fmt.Sprintf("Break %s down: %s", e.p.Items[feature].Key, strings.Join(keys, ", ")), removals(refs...)...)
	}
}

// needs notes what the items of a team need, some weeks before the first iterations.
func (e *early) needs() {
	for t := range e.p.Teams {
		team := &e.p.Teams[t]
		var refs []program.Ref
		for _, n := range e.p.Needs {
			if i := e.tree.Index[n.Item]; e.p.Items[i].Team == team.Key {
				refs = append(refs, program.Ref{Kind: program.KindNeed, In: n.Item, Key: n.Needs})
			}
		}
		if len(refs) > 0 {
			e.step(planned-2, 1+t%5, 16, e.lead(team.Key), "What "+team.Name+" needs", removals(refs...)...)
		}
	}
}

// sizes has each team size its items.
func (e *early) sizes() {
	for t := range e.p.Teams {
		team := e.p.Teams[t].Key
		e.step(planned-1, 1+t%5, 11, e.lead(team), "Sizes of "+e.p.Teams[t].Name).undo = func(p *program.Program) (changes []program.Change) {
			for i := range p.Items {
				if item := &p.Items[i]; item.Team == team && item.Size != nil && !isOlder(item.Key) {
					changes = append(changes, wasSo(item, "size", nil))
				}
			}
			return changes
		}
	}
}

// agreements are what teams said to what others need of them.
func (e *early) agreements() {
	at := 0
	for _, n := range e.p.Needs {
		by, of := e.p.Items[e.tree.Index[n.Item]].Team, e.p.Items[e.tree.Index[n.Needs]].Team
		if by == of || n.Agreement == program.Asked {
			continue
		}
		ref := program.Ref{Kind: program.KindNeed, In: n.Item, Key: n.Needs}
		back := []program.Change{program.SetTo(ref, "agreement", program.Asked)}
		if !n.Given.IsZero() {
			back = append(back, program.SetTo(ref, "given", nil))
		}
		if n.Why != "" {
			back = append(back, program.SetTo(ref, "why", nil))
		}
		e.step(planned+1+at/5, 1+at%5, 13, e.lead(of), fmt.Sprintf("%s needs %s: %s", n.Item, n.Needs, n.Agreement), back...)
		at++
	}
}

// draft places what had no place: a draft was accepted before the first iterations began.
func (e *early) draft() {
	e.step(planned, 5, 15, e.manager, "Accept a draft").undo = func(p *program.Program) (changes []program.Change) {
		for i := range p.Items {
			if item := &p.Items[i]; item.Iteration != "" && !isOlder(item.Key) {
				if item.Pinned {
					changes = append(changes, wasSo(item, "pinned", nil))
				}
				changes = append(changes, wasSo(item, "iteration", nil))
			}
		}
		return changes
	}
}

// dates moved once.
func (e *early) dates() {
	for n := range e.p.Releases {
		r := &e.p.Releases[n]
		ref, due := program.Ref{Kind: program.KindRelease, Key: r.Key}, r.Due
		e.step(planned-3+n, 2, 16, Accounts[0].Name, r.Name+" is due "+due.Short(), program.SetTo(ref, "due", due.Add(-14)))
	}
}

// promises are what was said of releases once there was a plan: their documents and milestones, and what
// may happen.
func (e *early) promises() {
	for n := range e.p.Releases {
		if r := &e.p.Releases[n]; len(r.Documents) > 0 {
			ref := program.Ref{Kind: program.KindRelease, Key: r.Key}
			e.step(planned-1, 3, 10, e.manager, "Documents of "+r.Name, program.SetTo(ref, "documents", nil))
		}
	}
	for _, m := range e.p.Milestones {
		e.step(planned-1, 3, 11, e.manager, "Add "+m.Name, removals(program.Ref{Kind: program.KindMilestone, Key: m.Key})...)
	}
	for n, r := range e.p.Risks {
		by := e.manager
		if r.Owner != "" {
			by = nameOf(e.p, r.Owner)
		}
		e.step(planned+6+2*n, 1+n%5, 9, by, "Risk: "+r.Title, removals(program.Ref{Kind: program.KindRisk, Key: r.Key})...)
	}
}

// said is what was said about items, when it was.
func (e *early) said() {
	for _, c := range e.p.Comments {
		at, err := time.Parse(time.RFC3339, c.At)
		if err != nil {
			panic("the demo's comments: " + err.Error())
		}
		e.steps = append(e.steps, step{day: calendar.OfTime(at), hour: at.Hour(), minute: at.Minute(), by: c.By, label: "Comment on " + c.Item,
			back: removals(program.Ref{Kind: program.KindComment, In: c.Item, Key: c.Key})})
	}
}

// daysOff are entered by those whose they are, six weeks ahead or last week.
func (e *early) daysOff() {
	for i := range e.p.People {
		person := &e.p.People[i]
		for _, off := range person.DaysOff {
			ahead := max(off.From.Add(-42), e.monday.Add(7*firstWeek+8))
			day := workingDay(min(ahead, e.monday.Add(-4)))
			key, uid := person.Key, off.UID
			e.steps = append(e.steps, step{day: day, hour: 8, minute: (7*i + 20) % 60, by: person.Name, label: "Days off of " + person.Name, undo: func(p *program.Program) []program.Change {
				at := slices.IndexFunc(p.People, func(x program.Person) bool { return x.Key == key })
				rest := slices.DeleteFunc(slices.Clone(p.People[at].DaysOff), func(x program.DayOff) bool { return x.UID == uid })
				return []program.Change{program.SetTo(program.Ref{Kind: program.KindPerson, Key: key}, "daysOff", rest)}
			}})
		}
	}
}
