// Package capacity says what each iteration of each team can carry, how that
// figure comes about, and what the team's past says about it.
package capacity

import (
	"jantrel/core/calendar"
	"jantrel/core/plan"
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

// Figure is the capacity of one iteration and how it comes about. Member-days
// are working days times share.
type Figure struct {
	Capacity    float64 // in the team's unit
	Basis       Basis
	Full        float64 // capacity were nobody away, in the team's unit; 0 where unknown
	DaysFull    float64 // member-days of the complete team were nobody away
	DaysAgreed  float64 // member-days of the team that the velocity was agreed for: the complete team, where none was noted
	DaysPresent float64 // the same of those whose share is not over and has begun
	DaysWorked  float64 // the same without holidays and days off
	Length      float64 // the iteration's days ÷ its cadence's; 1 without a cadence
	Away        []Away  // who is away, in the order of members, holidays last
}

// Availability is what is there of the time of the team that the velocity was agreed for:
// days worked ÷ its days. It is over 1 where more are there than the velocity was agreed for.
// An iteration without a single working day has none.
func (f Figure) Availability() float64 {
	if f.DaysAgreed == 0 {
		return 0
	}
	return f.DaysWorked / f.DaysAgreed
}

// Of returns the figures of every iteration, as [team][iteration] in the order
// of the program.
//
// Capacity is what was set by hand; else, for teams that size in days or hours
// and have members, available time × focus; else agreed velocity × availability
// × length; else measured velocity per day worked × days worked. Availability is
// Σ share × (working days − holidays − days off) ÷ Σ share × working days over
// members and open seats; the lower sum is over the team that the velocity was agreed
// for: Team.AgreedDays a week, where that was noted with the velocity, so that who joins
// later adds to it and who leaves takes away; else the complete team: all who are in it on
// the day on which the shares sum to the most. A team without members counts as one who
// works Monday to Friday.
func Of(p *plan.Plan) [][]Figure { return of(p) }

var of = plan.OnceOfCalendar(func(p *plan.Plan) [][]Figure {
	c := newCounter(p)
	figures := make([][]Figure, len(p.Teams))
	for t := range p.Teams {
		figures[t] = c.team(&p.Teams[t])
	}
	return figures
})

// FillTo is the share of its capacity that a draft may use of the team at t: the
// team's own, or else the program's.
func FillTo(p *plan.Plan, t int) float64 {
	if own := p.Teams[t].FillTo; own != nil {
		return *own
	}
	return p.Settings.FillTo
}

func (c *counter) team(t *program.Team) []Figure {
	crew := c.crew(t)
	figures := make([]Figure, len(t.Iterations))
	timeFull, timeThere := make([]float64, len(figures)), make([]float64, len(figures))
	for i, it := range t.Iterations {
		figures[i], timeFull[i], timeThere[i] = crew.figure(it.Span())
		figures[i].DaysAgreed = figures[i].DaysFull
		if t.AgreedDays != nil && figures[i].DaysFull > 0 {
			figures[i].DaysAgreed = *t.AgreedDays * float64(it.Span().Days()) / 7
		}
		if c.lengths[t.Cadence] > 0 {
			figures[i].Length = float64(it.Span().Days()) / float64(c.lengths[t.Cadence])
		}
	}
	pace := mean(PaceSamples(t, figures))
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
			f.Basis, f.Capacity = Agreed, *t.Velocity*f.Length*f.Availability()
			if f.DaysAgreed > 0 {
				f.Full = *t.Velocity * f.Length * f.DaysPresent / f.DaysAgreed
			}
		case pace > 0:
			f.Basis, f.Full, f.Capacity = Measured, pace*f.DaysPresent, pace*f.DaysWorked
		default:
			f.Basis = Unknown
		}
		if it.Capacity != nil {
			f.Basis, f.Capacity = ByHand, *it.Capacity
		}
	}
	return figures
}

// figure counts the member-days of a span, and the same in the unit of a team
// that sizes in time: present and worked.
func (c *crew) figure(span calendar.Span) (f Figure, timeFull, timeThere float64) {
	f.Length = 1
	closed := c.holidaysIn(span)
	var lost []float64 // member-days, by holiday
	if len(closed) > 0 {
		lost = make([]float64, len(closed))
	}
	for i := range c.seats {
		s := &c.seats[i]
		d := s.count(span, closed, lost)
		f.DaysPresent += s.share * float64(d.Present)
		f.DaysWorked += s.share * float64(d.Worked)
		if s.complete {
			f.DaysFull += s.share * float64(d.Full)
		}
		timeFull += s.share * float64(d.Present) * s.unitPerDay
		timeThere += s.share * float64(d.Worked) * s.unitPerDay
		if d.Off > 0 {
			f.Away = append(f.Away, Away{s.name, s.share * float64(d.Off)})
		}
	}
	for i, h := range closed {
		if lost[i] > 0 {
			f.Away = append(f.Away, Away{h.name, lost[i]})
		}
	}
	return f, timeFull, timeThere
}
