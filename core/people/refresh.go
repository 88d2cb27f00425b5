package people

import (
	"cmp"
	"slices"

	"jantrel/core/calendar"
	"jantrel/core/program"
)

// Refreshed is what a calendar changes about days off that came from it earlier.
type Refreshed struct {
	DaysOff []program.DayOff `json:"daysOff"` // all days off of the person after it, those entered by hand included
	New     []program.DayOff `json:"new"`
	Moved   []Moved          `json:"moved"`
	Gone    []program.DayOff `json:"gone"`
	Same    int              `json:"same"`
}

// Moved is a stretch that the calendar has on other days or by another name now.
type Moved struct {
	Before program.DayOff `json:"before"`
	After  program.DayOff `json:"after"`
}

// Changes reports whether there is anything to apply.
func (r Refreshed) Changes() bool { return len(r.New)+len(r.Moved)+len(r.Gone) > 0 }

// Refresh compares a person's days off with a calendar's events in a window.
// Days off entered by hand stay, and so do those outside the window; an event
// on exactly the days of one entered by hand takes its place.
func Refresh(now, events []program.DayOff, window calendar.Span) Refreshed {
	r := Refreshed{DaysOff: []program.DayOff{}, New: []program.DayOff{}, Moved: []Moved{}, Gone: []program.DayOff{}}
	coming := make(map[string]program.DayOff, len(events))
	byDays := make(map[calendar.Span]bool, len(events))
	for _, e := range events {
		coming[e.UID] = e
		byDays[calendar.Span{Start: e.From, End: e.To}] = true
	}
	known := map[string]bool{}
	for _, d := range now {
		span := calendar.Span{Start: d.From, End: d.To}
		event, still := coming[d.UID]
		switch {
		case d.UID == "" && byDays[span]:
			continue // the event takes its place
		case d.UID == "" || !still && !span.Meets(window):
			r.DaysOff = append(r.DaysOff, d)
			continue
		case !still:
			r.Gone = append(r.Gone, d)
			continue
		case event == d:
			r.Same++
		default:
			r.Moved = append(r.Moved, Moved{d, event})
		}
		known[d.UID] = true
		r.DaysOff = append(r.DaysOff, event)
	}
	for _, e := range events {
		if !known[e.UID] {
			known[e.UID] = true
			r.New = append(r.New, e)
			r.DaysOff = append(r.DaysOff, e)
		}
	}
	slices.SortStableFunc(r.DaysOff, func(a, b program.DayOff) int { return cmp.Compare(a.From, b.From) })
	return r
}

// Holidays returns a program's holidays with a calendar's events, one a day, and
// those among them that are new. A day that is a holiday of everybody already
// stays as it is.
func Holidays(now []program.Holiday, events []program.DayOff) (all, fresh []program.Holiday) {
	have := map[program.Date]bool{}
	for _, h := range now {
		if len(h.Teams) == 0 {
			have[h.Date] = true
		}
	}
	all, fresh = slices.Clone(now), []program.Holiday{}
	for _, e := range events {
		for d := e.From; d <= e.To && d <= e.From.Add(31); d++ {
			if !have[d] {
				have[d] = true
				h := program.Holiday{Date: d, Name: cmp.Or(e.Name, "Holiday")}
				all, fresh = append(all, h), append(fresh, h)
			}
		}
	}
	slices.SortStableFunc(all, func(a, b program.Holiday) int { return cmp.Compare(a.Date, b.Date) })
	return all, fresh
}
