package needs

import (
	"cmp"
	"slices"

	"jantrel/core/calendar"
	"jantrel/core/plan"
	"jantrel/core/program"
)

// Week is what a team gives others, and what it waits for, that is wanted by the end of a week.
type Week struct {
	Team   string       `json:"team"`
	Start  program.Date `json:"start"` // its Monday; what was wanted before this week counts in this one
	Gives  Wanted       `json:"gives"`
	Waits  Wanted       `json:"waits"`
	Behind int          `json:"behind"` // of what it gives: wanted before today
}

// WeekOf is the Monday of the week in which what is owed is wanted, seen on a day: this week's, where that is over.
func (o *Owed) WeekOf(today program.Date) program.Date { return calendar.MondayOf(max(o.By, today)) }

// WeeksOf counts what is owed by team and week, where there is something: in the order of the teams, and of time. What
// has no day by which it is wanted is in none.
func WeeksOf(p *plan.Plan, today program.Date) []Week {
	type at struct {
		team string
		week program.Date
	}
	weeks := map[at]*Week{}
	of := func(team string, o *Owed) *Week {
		key := at{team, o.WeekOf(today)}
		if weeks[key] == nil {
			weeks[key] = &Week{Team: team, Start: key.week}
		}
		return weeks[key]
	}
	all := OwedOf(p)
	for i := range all {
		o := &all[i]
		if o.By.IsZero() {
			continue
		}
		gives := of(o.Gives, o)
		gives.Gives.take(o)
		if o.By < today {
			gives.Behind++
		}
		of(o.Waits, o).Waits.take(o)
	}
	list := make([]Week, 0, len(weeks))
	for _, w := range weeks {
		list = append(list, *w)
	}
	order := teamOrder(&p.Program)
	slices.SortFunc(list, func(a, b Week) int {
		return cmp.Or(order(a.Team)-order(b.Team), cmp.Compare(a.Start, b.Start))
	})
	return list
}

// teamOrder is the order of the teams; nobody is last.
func teamOrder(p *program.Program) func(team string) int {
	at := make(map[string]int, len(p.Teams))
	for i := range p.Teams {
		at[p.Teams[i].Key] = i
	}
	return func(team string) int {
		if i, ok := at[team]; ok {
			return i
		}
		return len(p.Teams)
	}
}
