package capacity

import (
	"slices"

	"jantrel/core/calendar"
	"jantrel/core/plan"
	"jantrel/core/program"
)

// Part is what a role or a person can carry of one iteration, and what is placed
// there for it, in the team's unit.
type Part struct {
	Team      string   `json:"team"`
	Iteration string   `json:"iteration"`
	At        int      `json:"-"` // where the iteration stands in the team
	Capacity  float64  `json:"capacity"`
	Load      float64  `json:"load"`
	Over      bool     `json:"over,omitempty"`
	Items     []string `json:"items,omitempty"` // what makes up the load
	Large     []string `json:"large,omitempty"` // of a person: two or more large items in one iteration
}

// Row is a role or a person over the iterations of all teams.
type Row struct {
	Key   string `json:"key"` // the role, or the person's key
	Name  string `json:"name"`
	Parts []Part `json:"parts"`
}

// Within says which iterations are looked at.
type Within func(it *program.Iteration) bool

// Coming are the iterations that are not closed and do not end before a day.
func Coming(today program.Date) Within {
	return func(it *program.Iteration) bool { return it.Takes(today) }
}

// Meeting are the iterations that share a day with a span.
func Meeting(span calendar.Span) Within {
	return func(it *program.Iteration) bool { return it.Span().Meets(span) }
}

// ByRole returns what the members with each role can carry in some iterations, against the
// sizes placed there for the role. Who has several roles counts in each: the figures are
// upper bounds and must not be added up.
func ByRole(p *plan.Plan, within Within) []Row {
	return parts(p, within, func(item *program.Item) string { return item.Role }, func(s *SeatDays) []string { return s.Roles }, nil)
}

// ByPerson returns each person's part of the capacity of some iterations, against the sizes
// assigned there to them. An item is large if it is among the largest quarter of its team's
// sizes and larger than their median.
func ByPerson(p *plan.Plan, within Within) []Row {
	names := make(map[string]string, len(p.People))
	for _, x := range p.People {
		names[x.Key] = x.Name
	}
	return parts(p, within, func(item *program.Item) string { return item.Assignee }, func(s *SeatDays) []string { return []string{s.Person} }, names)
}

// parts gathers capacity and load by whatever keys items and seats have. names,
// unless nil, gives the order and names of all rows and asks for large items.
func parts(p *plan.Plan, within Within, ofItem func(*program.Item) string, ofSeat func(*SeatDays) []string, names map[string]string) []Row {
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
			found[where] = &Part{Team: p.Teams[t].Key, Iteration: p.Teams[t].Iterations[i].Key, At: i}
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
			if !within(it) {
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
		x.Items = append(x.Items, item.Key)
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
