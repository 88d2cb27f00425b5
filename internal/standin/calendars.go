// Package standin simulates the outside world that Jantrel works with, so that all
// of it can be tried and tested without any.
package standin

import (
	"fmt"
	"net/http"
	"strings"
	"time"

	ics "github.com/arran4/golang-ical"

	"jantrel/core/program"
)

// Calendars serves an iCalendar feed for every person of a program, and one of its
// holidays:
//
//	/calendars/p01.ics
//	/calendars/holidays.ics
//
// The feeds hold the program's own days off as all-day events, and beside them
// what calendars have in real life: for every third person one new absence, for
// every fourth a stretch that moved by a day, and for all a cancelled event, a
// weekly half hour that is no day off, and a time zone.
func Calendars(p program.Program, today program.Date) http.Handler {
	mux := http.NewServeMux()
	mux.HandleFunc("GET /calendars/{file}", func(w http.ResponseWriter, r *http.Request) {
		name, ok := strings.CutSuffix(r.PathValue("file"), ".ics")
		text := ""
		if ok && name == "holidays" {
			text = holidays(p, today)
		}
		for i := range p.People {
			if ok && p.People[i].Key == name {
				text = personal(&p.People[i], i, today)
			}
		}
		if text == "" {
			http.NotFound(w, r)
			return
		}
		w.Header().Set("Content-Type", "text/calendar; charset=utf-8")
		_, _ = w.Write([]byte(text))
	})
	return mux
}

func newCalendar(name string, today program.Date) *ics.Calendar {
	c := ics.NewCalendar()
	c.SetProductId("-//Jantrel//Stand-in calendars//EN")
	c.SetName(name)
	c.SetLastModified(today.Time())
	return c
}

// event adds an all-day event from one day to another, both included.
func event(c *ics.Calendar, uid, name string, from, to program.Date, today program.Date) *ics.VEvent {
	e := c.AddEvent(uid)
	e.SetDtStampTime(today.Time())
	e.SetSummary(name)
	e.SetAllDayStartAt(from.Time())
	e.SetAllDayEndAt(to.Add(1).Time())
	return e
}

func personal(x *program.Person, i int, today program.Date) string {
	c := newCalendar("Absences of "+x.Name, today)
	for n, off := range x.DaysOff {
		uid, name := off.UID, off.Name
		if uid == "" {
			uid = fmt.Sprintf("%s-%d@standin.example", x.Key, n+1)
		}
		if name == "" {
			name = "Away"
		}
		to := off.To
		if i%4 == 3 && off.From > today {
			to = to.Add(1)
		}
		event(c, uid, name, off.From, to, today)
	}
	monday := today.Add(1 - today.Weekday())
	if i%3 == 2 {
		from := monday.Add(7*(4+i%5) + 2)
		event(c, x.Key+"-new@standin.example", "Family visit", from, from.Add(2), today)
	}
	off := event(c, x.Key+"-off@standin.example", "Trip that fell through", monday.Add(21), monday.Add(25), today)
	off.SetStatus(ics.ObjectStatusCancelled)
	weekly := c.AddEvent(x.Key + "-weekly@standin.example")
	weekly.SetDtStampTime(today.Time())
	weekly.SetSummary("Harbour choir")
	start := monday.Add(3).Time().Add(18 * time.Hour)
	weekly.SetProperty(ics.ComponentPropertyDtStart, start.Format("20060102T150405"), ics.WithTZID("Europe/Lisbon"))
	weekly.SetProperty(ics.ComponentPropertyDtEnd, start.Add(90*time.Minute).Format("20060102T150405"), ics.WithTZID("Europe/Lisbon"))
	weekly.AddRrule("FREQ=WEEKLY;COUNT=30")
	return c.Serialize()
}

func holidays(p program.Program, today program.Date) string {
	c := newCalendar("Holidays of the islands", today)
	for i, h := range p.Holidays {
		if len(h.Teams) == 0 {
			event(c, fmt.Sprintf("holiday-%d@standin.example", i+1), h.Name, h.Date, h.Date, today)
		}
	}
	extra := today.Add(1 - today.Weekday() + 7*13 + 4)
	event(c, "holiday-new@standin.example", "Keepers' Day", extra, extra, today)
	return c.Serialize()
}
