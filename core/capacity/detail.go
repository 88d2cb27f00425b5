package capacity

import (
	"slices"

	"jantrel/core/plan"
	"jantrel/core/program"
)

// SeatDays is what one member or open seat brings to an iteration.
type SeatDays struct {
	Person string       `json:"person"`
	Name   string       `json:"name"`
	Share  float64      `json:"share"`
	Roles  []string     `json:"roles,omitempty"`
	From   program.Date `json:"from,omitzero"`  // first day of the share, where it has one
	To     program.Date `json:"to,omitzero"`    // last day of the share, where it has one
	Open   bool         `json:"open,omitempty"` // an open seat
	Days
	Part float64 `json:"part"` // capacity × the seat's share of the days worked, in the team's unit
}

// Detail is a capacity with all that it comes from.
type Detail struct {
	Team        string          `json:"team"`
	Iteration   string          `json:"iteration"`
	Capacity    float64         `json:"capacity"`
	Basis       Basis           `json:"basis"`
	Unit        program.Unit    `json:"unit"`
	Velocity    *float64        `json:"velocity,omitempty"` // agreed velocity
	Pace        float64         `json:"pace"`               // mean measured pace, units a member-day
	Samples     int             `json:"samples"`            // closed iterations behind it
	Focus       float64         `json:"focus"`              // share of time that goes to items
	Length      float64         `json:"length"`             // the iteration's days ÷ its cadence's
	Full        float64         `json:"full"`               // capacity were nobody away
	Reckoned    float64         `json:"reckoned"`           // capacity were none set by hand
	DaysFull    float64         `json:"daysFull"`           // member-days of the complete team
	DaysAgreed  float64         `json:"daysAgreed"`         // member-days of the team that the velocity was agreed for
	DaysPresent float64         `json:"daysPresent"`        // member-days of those whose share holds
	DaysWorked  float64         `json:"daysWorked"`         // without holidays and days off
	Note        string          `json:"note,omitempty"`     // why it was set by hand
	Seats       []SeatDays      `json:"seats"`
	Holidays    []DetailHoliday `json:"holidays"`
}

// DetailHoliday is a holiday within an iteration.
type DetailHoliday struct {
	Date program.Date `json:"date"`
	Name string       `json:"name"`
}

// Explain returns how the capacity of the iteration at i of the team at t comes
// about.
func Explain(p *plan.Plan, t, i int) Detail {
	c := newCounter(p)
	team := &p.Teams[t]
	crew, figures := c.crew(team), c.team(team)
	f, it := figures[i], &team.Iterations[i]
	samples := PaceSamples(team, figures)
	d := Detail{
		Team: team.Key, Iteration: it.Key, Capacity: f.Capacity, Basis: f.Basis, Unit: team.Unit, Velocity: team.Velocity,
		Pace: mean(samples), Samples: len(samples), Focus: 1, Length: f.Length, Full: f.Full, Reckoned: f.Capacity,
		DaysFull: f.DaysFull, DaysAgreed: f.DaysAgreed, DaysPresent: f.DaysPresent, DaysWorked: f.DaysWorked, Note: it.CapacityNote, Seats: []SeatDays{}, Holidays: []DetailHoliday{},
	}
	if team.Focus != nil {
		d.Focus = *team.Focus
	}
	if it.Capacity != nil {
		bare := *team
		bare.Iterations = slices.Clone(team.Iterations)
		bare.Iterations[i].Capacity = nil
		d.Reckoned = c.team(&bare)[i].Capacity
	}
	d.Seats = append(d.Seats, crew.seatDays(team, it, f)...)
	for _, h := range crew.holidaysIn(it.Span()) {
		d.Holidays = append(d.Holidays, DetailHoliday{h.date, h.name})
	}
	return d
}

// Seats returns what each member brings to the iterations of the team at t, as
// [iteration][member].
func Seats(p *plan.Plan, t int) [][]SeatDays {
	c := newCounter(p)
	team := &p.Teams[t]
	crew, figures := c.crew(team), c.team(team)
	all := make([][]SeatDays, len(team.Iterations))
	for i := range team.Iterations {
		all[i] = crew.seatDays(team, &team.Iterations[i], figures[i])
	}
	return all
}

// seatDays returns what each member brings to an iteration.
func (c *crew) seatDays(team *program.Team, it *program.Iteration, f Figure) []SeatDays {
	var all []SeatDays
	closed := c.holidaysIn(it.Span())
	for s := range c.seats {
		seat := &c.seats[s]
		if seat.member < 0 {
			continue
		}
		m := team.Members[seat.member]
		x := SeatDays{
			Person: m.Person, Name: seat.name, Share: m.Share, Roles: seat.person.RolesIn(m), From: m.From, To: m.To,
			Open: seat.person.OpenSeat, Days: seat.count(it.Span(), closed, nil),
		}
		if f.DaysWorked > 0 {
			x.Part = f.Capacity * m.Share * float64(x.Worked) / f.DaysWorked
		}
		all = append(all, x)
	}
	return all
}
