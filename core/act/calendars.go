package act

import (
	"errors"
	"fmt"

	"jantrel/core/calendar"
	"jantrel/core/people"
	"jantrel/core/program"
)

// Calendars compares what calendars say with what came from them earlier. Reading them is
// somebody else's work: here they are events.
type Calendars struct {
	Of []Calendar
}

// Calendar is one that was read, or that could not be.
type Calendar struct {
	Person  string // whose days off; empty: the holidays of all
	Events  []program.DayOff
	Trouble error // why it could not be read: days off stay as they are
}

// CalendarWindow is what of a calendar counts: a year back, two years ahead.
func CalendarWindow(today program.Date) calendar.Span {
	return calendar.Span{Start: today.Add(-366), End: today.Add(2 * 366)}
}

// Plan implements Intent.
func (c Calendars) Plan(s State) (Plan, error) {
	if len(c.Of) == 0 {
		return Plan{}, errors.New("no calendar address is set; give people the address of their calendar first")
	}
	p, _ := made("Days off from calendars", nil, nil)
	byKey := map[string]*program.Person{}
	for i := range s.Program.People {
		byKey[s.Program.People[i].Key] = &s.Program.People[i]
	}
	for _, one := range c.Of {
		person := byKey[one.Person]
		switch {
		case one.Person == "" && one.Trouble != nil:
			p.Notes = append(p.Notes, fmt.Sprintf("Holidays: %v. They stay as they are.", one.Trouble))
		case one.Person == "":
			takeHolidays(&p, s.Program, one.Events)
		case person == nil:
			return Plan{}, fmt.Errorf("there is no person %q", one.Person)
		case one.Trouble != nil:
			p.Notes = append(p.Notes, fmt.Sprintf("%s: %v. Their days off stay as they are.", person.Name, one.Trouble))
		default:
			takeDaysOff(&p, person, one.Events, CalendarWindow(s.Today))
		}
	}
	return p, nil
}

func takeDaysOff(p *Plan, person *program.Person, events []program.DayOff, window calendar.Span) {
	r := people.Refresh(person.DaysOff, events, window)
	if !r.Changes() {
		return
	}
	p.Changes = append(p.Changes, program.SetTo(program.Ref{Kind: program.KindPerson, Key: person.Key}, "daysOff", r.DaysOff))
	for _, off := range r.New {
		p.Notes = append(p.Notes, fmt.Sprintf("%s: new, %s", person.Name, days(off)))
	}
	for _, m := range r.Moved {
		p.Notes = append(p.Notes, fmt.Sprintf("%s: %s instead of %s", person.Name, days(m.After), days(m.Before)))
	}
	for _, off := range r.Gone {
		p.Notes = append(p.Notes, fmt.Sprintf("%s: no longer off %s", person.Name, days(off)))
	}
}

func takeHolidays(p *Plan, of program.Program, events []program.DayOff) {
	all, fresh := people.Holidays(of.Holidays, events)
	if len(fresh) == 0 {
		return
	}
	p.Changes = append(p.Changes, program.SetTo(program.Ref{Kind: program.KindProgram}, "holidays", all))
	for _, h := range fresh {
		p.Notes = append(p.Notes, fmt.Sprintf("Holiday: new, %s, %s", h.Date.Short(), h.Name))
	}
}

// days writes days off in words.
func days(off program.DayOff) string {
	text := off.From.Short()
	if off.To != off.From {
		text += " to " + off.To.Short()
	}
	if off.Name != "" {
		text += " (" + off.Name + ")"
	}
	return text
}
