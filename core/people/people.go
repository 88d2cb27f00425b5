// Package people says who is committed where and when, who is promised to more
// than there is of them, and who is free.
package people

import (
	"cmp"
	"slices"
	"strings"

	"jantrel/core/calendar"
	"jantrel/core/program"
)

// Held is a share of a person that a team holds.
type Held struct {
	Team  string  `json:"team"`
	Share float64 `json:"share"`
}

// Stretch is a run of days on which the same teams hold the same shares of a
// person.
type Stretch struct {
	From program.Date `json:"from,omitzero"` // missing: from the beginning
	To   program.Date `json:"to,omitzero"`   // missing: for good
	Held []Held       `json:"held"`
	Sum  float64      `json:"sum"`
}

// Committed is what of a person is promised to teams.
type Committed struct {
	Person  string    `json:"person"`
	Most    float64   `json:"most"`              // the largest sum of shares on any day from today on
	Left    float64   `json:"left"`              // what no team holds on that day; below 0 where too much is promised
	TooMuch []Stretch `json:"tooMuch,omitempty"` // when the shares sum to more than 100 %
}

const eps = 1e-9

// Commitments returns for each person, in the order of the program, what teams
// hold of them. Stretches that ended before today are left out.
func Commitments(p program.Program, today program.Date) []Committed {
	held := heldBy(p)
	all := make([]Committed, len(p.People))
	for i, person := range p.People {
		all[i].Person = person.Key
		for _, s := range stretches(held[person.Key]) {
			if !s.To.IsZero() && s.To < today {
				continue
			}
			all[i].Most = max(all[i].Most, s.Sum)
			if s.Sum > 1+eps {
				all[i].TooMuch = append(all[i].TooMuch, s)
			}
		}
		all[i].Left = 1 - all[i].Most
	}
	return all
}

// stint is a share with its team.
type stint struct {
	Held
	calendar.Span
	roles []string
}

func heldBy(p program.Program) map[string][]stint {
	held := make(map[string][]stint, len(p.People))
	for t := range p.Teams {
		for _, m := range p.Teams[t].Members {
			held[m.Person] = append(held[m.Person], stint{Held{p.Teams[t].Key, m.Share}, m.Span(), m.Roles})
		}
	}
	return held
}

// stretches cuts time where a share begins or ends.
func stretches(stints []stint) []Stretch {
	var cuts []program.Date
	for _, s := range stints {
		cuts = append(cuts, s.Start, s.End.Add(1))
	}
	slices.Sort(cuts)
	cuts = slices.Compact(cuts)
	var all []Stretch
	for i := 0; i+1 < len(cuts); i++ {
		s := Stretch{From: cuts[i], To: cuts[i+1].Add(-1)}
		for _, x := range stints {
			if x.Holds(s.From) && x.Share > 0 {
				s.Held = append(s.Held, x.Held)
				s.Sum += x.Share
			}
		}
		if s.To == calendar.Latest {
			s.To = 0
		}
		if len(s.Held) > 0 {
			all = append(all, s)
		}
	}
	return all
}

// Wanted is what is asked of a person.
type Wanted struct {
	Role string       // as it stands in the program, whatever the case; empty: any
	Team string       // who has a share in it; empty: any
	From program.Date // the range of dates, both ends included
	To   program.Date
	Days float64 // at least so many free days
	Open bool    // open seats too
}

// Free is a person with free days.
type Free struct {
	Person  string   `json:"person"`
	Name    string   `json:"name"`
	Roles   []string `json:"roles"`
	Teams   []string `json:"teams"`
	Days    float64  `json:"days"`    // working days in the range that no team holds, in days of the person
	Working int      `json:"working"` // working days in the range, without holidays and days off
}

// maxRange is how many days a search may span.
const maxRange = 3660

// Find returns who fits, those with most free days first. A person's free days
// are Σ over working days in the range, holidays of everybody and days off left
// out, of what no team holds of them on that day.
func Find(p program.Program, w Wanted) []Free {
	held := heldBy(p)
	closed := map[program.Date]bool{}
	for _, h := range p.Holidays {
		if len(h.Teams) == 0 {
			closed[h.Date] = true
		}
	}
	found := []Free{}
	for i := range p.People {
		person := &p.People[i]
		if person.OpenSeat && !w.Open {
			continue
		}
		f := Free{Person: person.Key, Name: person.Name, Roles: roles(person, held[person.Key]), Teams: teams(held[person.Key])}
		if w.Role != "" && !slices.ContainsFunc(f.Roles, func(r string) bool { return strings.EqualFold(r, w.Role) }) {
			continue
		}
		if w.Team != "" && !slices.Contains(f.Teams, w.Team) {
			continue
		}
		weekdays := calendar.WeekdaysOf(person.Weekdays)
		for d := w.From; d <= w.To && d <= w.From.Add(maxRange); d++ {
			if !weekdays.Has(d) || closed[d] || away(person, d) {
				continue
			}
			f.Working++
			left := 1.0
			for _, s := range held[person.Key] {
				if s.Holds(d) {
					left -= s.Share
				}
			}
			f.Days += max(0, left)
		}
		if f.Days >= w.Days-eps {
			found = append(found, f)
		}
	}
	slices.SortStableFunc(found, func(a, b Free) int { return cmp.Compare(b.Days, a.Days) })
	return found
}

func away(person *program.Person, d program.Date) bool {
	return slices.ContainsFunc(person.DaysOff, func(off program.DayOff) bool { return off.From <= d && d <= off.To })
}

// roles returns all that a person does, in any team.
func roles(person *program.Person, stints []stint) []string {
	all := slices.Clone(person.Roles)
	for _, s := range stints {
		for _, role := range s.roles {
			if !slices.Contains(all, role) {
				all = append(all, role)
			}
		}
	}
	if all == nil {
		all = []string{}
	}
	return all
}

func teams(stints []stint) []string {
	all := []string{}
	for _, s := range stints {
		if !slices.Contains(all, s.Team) {
			all = append(all, s.Team)
		}
	}
	return all
}
