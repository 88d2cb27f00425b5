package exchange

import (
	"fmt"
	"io"
	"slices"

	ics "github.com/arran4/golang-ical"

	"jantrel/core/program"
)

// What a calendar of dates can hold.
const (
	DatesIterations = "iterations"
	DatesReleases   = "releases"
	DatesMilestones = "milestones"
	DatesMine       = "mine" // items assigned to a person, on the day they are due
)

// WriteDates writes dates of a program as all-day events (RFC 5545): iterations of some teams (none named: all), due dates of
// releases, milestones, and items of a person that are due and not done.
func WriteDates(w io.Writer, p program.Program, today program.Date, what, teams []string, person string) error {
	c := ics.NewCalendar()
	c.SetProductId("-//Jantrel//dates//EN")
	c.SetName(p.Name)
	add := func(id string, first, last program.Date, summary string) *ics.VEvent {
		return allDay(c, id, first, last, today, summary)
	}
	if slices.Contains(what, DatesIterations) {
		for i := range p.Teams {
			t := &p.Teams[i]
			if len(teams) > 0 && !slices.Contains(teams, t.Key) {
				continue
			}
			for _, it := range t.Iterations {
				e := add(fmt.Sprintf("iteration-%s-%s@jantrel", t.Key, it.Key), it.Start, it.End, it.Label()+", "+t.Name)
				if it.Goal != "" {
					e.SetDescription(it.Goal)
				}
			}
		}
	}
	if slices.Contains(what, DatesReleases) {
		for _, r := range p.Releases {
			if !r.Due.IsZero() {
				add("release-"+r.Key+"@jantrel", r.Due, r.Due, r.Name+" is due")
			}
		}
	}
	if slices.Contains(what, DatesMilestones) {
		for _, m := range p.Milestones {
			add("milestone-"+m.Key+"@jantrel", m.Date, m.Date, m.Name)
		}
	}
	if slices.Contains(what, DatesMine) && person != "" {
		for i := range p.Items {
			if x := &p.Items[i]; x.Assignee == person && !x.Due.IsZero() && x.State != program.Done && !x.KeptOut {
				add("item-"+x.Key+"@jantrel", x.Due, x.Due, x.Key+" "+x.Title+" is due")
			}
		}
	}
	return c.SerializeTo(w, ics.WithNewLineWindows) // as RFC 5545 has them
}

// allDay adds an event of whole days to a calendar; both days are in it.
func allDay(c *ics.Calendar, id string, first, last, today program.Date, summary string) *ics.VEvent {
	e := c.AddEvent(id)
	e.SetDtStampTime(today.Time())
	e.SetAllDayStartAt(first.Time())
	e.SetAllDayEndAt(last.Add(1).Time())
	e.SetSummary(summary)
	return e
}
