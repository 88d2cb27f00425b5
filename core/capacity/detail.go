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

// Part is what a role or a person can carry of one iteration, and what is placed
// there for it, in the team's unit.
type Part struct {
	Team      string   `json:"team"`
	Iteration string   `json:"iteration"`
	Capacity  float64  `json:"capacity"`
	Load      float64  `json:"load"`
	Over      bool     `json:"over,omitempty"`
	Large     []string `json:"large,omitempty"` // of a person: two or more large items in one iteration
}

// Row is a role or a person over the iterations of all teams.
type Row struct {
	Key   string `json:"key"` // the role, or the person's key
	Name  string `json:"name"`
	Parts []Part `json:"parts"`
}

// ByRole returns what the members with each role can carry in the iterations
// that are not closed and do not end before today, against the sizes placed there
// for the role. Who has several roles counts in each: the figures are upper
// bounds and must not be added up.
func ByRole(p *plan.Plan, today program.Date) []Row {
	return parts(p, today, func(item *program.Item) string { return item.Role }, func(s *SeatDays) []string { return s.Roles }, nil)
}

// ByPerson returns each person's part of the capacity of the iterations that are
// not closed and do not end before today, against the sizes assigned there to them.
// An item is large if it is among the largest quarter of its team's sizes and
// larger than their median.
func ByPerson(p *plan.Plan, today program.Date) []Row {
	names := make(map[string]string, len(p.People))
	for _, x := range p.People {
		names[x.Key] = x.Name
	}
	return parts(p, today, func(item *program.Item) string { return item.Assignee }, func(s *SeatDays) []string { return []string{s.Person} }, names)
}

// parts gathers capacity and load by whatever keys items and seats have. names,
// unless nil, gives the order and names of all rows and asks for large items.
func parts(p *plan.Plan, today program.Date, ofItem func(*program.Item) string, ofSeat func(*SeatDays) []string, names map[string]string) []Row {
	type at struct {
		key  string
		t, i int
	}
	found := map[at]*Part{}
	rows := map[string]bool{}
	var order []at
	part := func(key string, t, i int) *Part {
		where := at{key, t, i}
		if found[where] == nil {
			found[where] = &Part{Team: p.Teams[t].Key, Iteration: p.Teams[t].Iterations[i].Key}
			order, rows[key] = append(order, where), true
		}
		return found[where]
	}
	c := newCounter(p)
	slots := make(map[[2]string]int)
	teams := p.TeamAt()
	for t := range p.Teams {
		team := &p.Teams[t]
		crew, figures := c.crew(team), c.team(team)
		for i := range team.Iterations {
			it := &team.Iterations[i]
			if it.State == program.Closed || it.End < today {
				continue
			}
			slots[[2]string{team.Key, it.Key}] = i
			for _, seat := range crew.seatDays(team, it, figures[i]) {
				for _, key := range ofSeat(&seat) {
					part(key, t, i).Capacity += seat.Part
				}
			}
		}
	}
	large := largeSizes(p)
	tree := p.Tree()
	for i := range p.Items {
		item := &p.Items[i]
		slot, open := slots[[2]string{item.Team, item.Iteration}]
		key := ofItem(item)
		if !open || key == "" || !tree.IsLeaf(i) || item.KeptOut || item.Size == nil {
			continue
		}
		t := teams[item.Team]
		x := part(key, t, slot)
		x.Load += *item.Size
		if names != nil && item.State != program.Done && *item.Size >= large[t] {
			x.Large = append(x.Large, item.Key)
		}
	}
	byKey := map[string]*Row{}
	var list []Row
	if names != nil {
		for _, x := range p.People {
			if rows[x.Key] {
				list = append(list, Row{Key: x.Key, Name: x.Name, Parts: []Part{}})
			}
		}
	} else {
		for key := range rows {
			list = append(list, Row{Key: key, Name: key, Parts: []Part{}})
		}
		slices.SortFunc(list, func(a, b Row) int { return compareFold(a.Key, b.Key) })
	}
	for i := range list {
		byKey[list[i].Key] = &list[i]
	}
	slices.SortStableFunc(order, func(a, b at) int { return (a.t-b.t)*100_000 + a.i - b.i })
	for _, where := range order {
		x := found[where]
		x.Over = x.Load > x.Capacity+1e-9
		if len(x.Large) < 2 {
			x.Large = nil
		}
		if row := byKey[where.key]; row != nil && (x.Capacity > 0 || x.Load > 0) {
			row.Parts = append(row.Parts, *x)
		}
	}
	return list
}
