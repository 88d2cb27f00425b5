// Package capacity says what each iteration of each team can carry, and how
// that figure comes about.
package capacity

import (
	"slices"

	"gonum.org/v1/gonum/stat"

	"jantrel/core/calendar"
	"jantrel/core/program"
)

// Basis is where a capacity comes from.
type Basis string

// The bases, strongest first.
const (
	ByHand   Basis = "by hand"           // set on the iteration
	Time     Basis = "available time"    // days and hours teams: available time × focus
	Agreed   Basis = "agreed velocity"   // agreed velocity × availability
	Measured Basis = "measured velocity" // mean of the past per day worked × days worked now
	Unknown  Basis = "unknown"           // nothing to go by: 0
)

// Away is somebody's absence within an iteration.
type Away struct {
	Who  string  `json:"who"`  // the person's name, or the holiday's
	Days float64 `json:"days"` // working days lost, times the person's share
}

// Figure is the capacity of one iteration and how it comes about.
type Figure struct {
	Capacity   float64 // in the team's unit
	Basis      Basis
	Full       float64 // capacity were nobody away, in the team's unit; 0 where unknown
	DaysFull   float64 // member-days were nobody away
	DaysWorked float64 // member-days without holidays and days off
	Away       []Away  // who is away, in the order of members, holidays last
}

// Availability is the share of full time that is there: days worked ÷ full days.
// An iteration without a single working day has none.
func (f Figure) Availability() float64 {
	if f.DaysFull == 0 {
		return 0
	}
	return f.DaysWorked / f.DaysFull
}

// Of returns the figures of every iteration, as [team][iteration] in the order
// of the program.
//
// Capacity is what was set by hand; else, for teams that size in days or hours
// and have members, available time × focus; else agreed velocity × availability;
// else measured velocity per day worked × days worked. Availability is
// Σ share × (working days − holidays − days off) ÷ Σ share × working days over
// members and open seats; a team without members counts as one who works Monday
// to Friday.
func Of(p program.Program) [][]Figure {
	people := make(map[string]*program.Person, len(p.People))
	for i := range p.People {
		people[p.People[i].Key] = &p.People[i]
	}
	figures := make([][]Figure, len(p.Teams))
	for t := range p.Teams {
		figures[t] = team(p, &p.Teams[t], people)
	}
	return figures
}

// seat is a member as the day counts see it.
type seat struct {
	name     string
	share    float64
	hours    float64
	weekdays calendar.Weekdays
	off      []program.DayOff
}

func seats(t *program.Team, people map[string]*program.Person) []seat {
	var all []seat
	for _, m := range t.Members {
		person := people[m.Person]
		if person == nil {
			continue
		}
		hours := person.HoursPerDay
		if hours == 0 {
			hours = 8
		}
		all = append(all, seat{person.Name, m.Share, hours, calendar.WeekdaysOf(person.Weekdays), person.DaysOff})
	}
	if len(all) == 0 {
		all = []seat{{share: 1, hours: 8, weekdays: calendar.MondayToFriday}}
	}
	return all
}

// away is whether the seat's day d is one of its days off.
func (s seat) away(d program.Date) bool {
	for _, off := range s.off {
		if off.From <= d && d <= off.To {
			return true
		}
	}
	return false
}

func team(p program.Program, t *program.Team, people map[string]*program.Person) []Figure {
	var holidays []program.Holiday
	for _, h := range p.Holidays {
		if len(h.Teams) == 0 || slices.Contains(h.Teams, t.Key) {
			holidays = append(holidays, h)
		}
	}
	all := seats(t, people)
	figures := make([]Figure, len(t.Iterations))
	timeFull, timeThere := make([]float64, len(figures)), make([]float64, len(figures))
	for i, it := range t.Iterations {
		figures[i], timeFull[i], timeThere[i] = days(it.Span(), all, holidays, t.Unit)
	}
	pace := measuredPace(t, figures)
	for i, it := range t.Iterations {
		f := &figures[i]
		switch {
		case t.Unit != program.Points && len(t.Members) > 0:
			focus := 1.0
			if t.Focus != nil {
				focus = *t.Focus
			}
			f.Basis, f.Full, f.Capacity = Time, timeFull[i]*focus, timeThere[i]*focus
		case t.Velocity != nil:
			f.Basis, f.Full, f.Capacity = Agreed, *t.Velocity, *t.Velocity*f.Availability()
		case pace > 0:
			f.Basis, f.Full, f.Capacity = Measured, pace*f.DaysFull, pace*f.DaysWorked
		default:
			f.Basis = Unknown
		}
		if it.Capacity != nil {
			f.Basis, f.Capacity = ByHand, *it.Capacity
		}
	}
	return figures
}

// days counts the member-days of a span, and the same in the unit of a team that
// sizes in time.
func days(span calendar.Span, all []seat, holidays []program.Holiday, unit program.Unit) (f Figure, timeFull, timeThere float64) {
	isHoliday := map[program.Date]string{}
	for _, h := range holidays {
		if span.Holds(h.Date) {
			isHoliday[h.Date] = h.Name
		}
	}
	lost := map[string]float64{}
	for _, s := range all {
		full, worked, off := 0, 0, 0
		for d := span.Start; d <= span.End; d++ {
			if !s.weekdays.Has(d) {
				continue
			}
			full++
			name, holiday := isHoliday[d]
			switch {
			case holiday:
				lost[name] += s.share
			case s.away(d):
				off++
			default:
				worked++
			}
		}
		unitPerDay := 1.0
		if unit == program.Hours {
			unitPerDay = s.hours
		}
		f.DaysFull += s.share * float64(full)
		f.DaysWorked += s.share * float64(worked)
		timeFull += s.share * float64(full) * unitPerDay
		timeThere += s.share * float64(worked) * unitPerDay
		if off > 0 {
			f.Away = append(f.Away, Away{s.name, s.share * float64(off)})
		}
	}
	for _, h := range holidays {
		if n := lost[h.Name]; n > 0 && span.Holds(h.Date) {
			f.Away = append(f.Away, Away{h.Name, n})
			delete(lost, h.Name)
		}
	}
	return f, timeFull, timeThere
}

// measuredPace is the mean of units completed per day worked over the closed
// iterations; 0 without history.
func measuredPace(t *program.Team, figures []Figure) float64 {
	samples := PaceSamples(t, figures)
	if len(samples) == 0 {
		return 0
	}
	return stat.Mean(samples, nil)
}

// PaceSamples returns the team's past velocity normalised by days worked: units
// completed ÷ member-days worked, one a closed iteration that says what it
// completed, oldest first.
func PaceSamples(t *program.Team, figures []Figure) []float64 {
	var samples []float64
	for i, it := range t.Iterations {
		if it.State == program.Closed && it.Completed != nil && figures[i].DaysWorked > 0 {
			samples = append(samples, *it.Completed/figures[i].DaysWorked)
		}
	}
	return samples
}
