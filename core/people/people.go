// Package people says who is committed where and when, who is promised to more
// than there is of them, and who is free.
package people

import (
	"cmp"
	"math"
	"slices"
	"strings"

	"jantrel/core/calendar"
	"jantrel/core/capacity"
	"jantrel/core/plan"
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
	Idle bool    // what a team holds of them and has no work placed for counts as free, too
}

// Free is a person with free days.
type Free struct {
	Person  string   `json:"person"`
	Name    string   `json:"name"`
	Roles   []string `json:"roles"`
	Teams   []string `json:"teams"`
	Days    float64  `json:"days"`    // working days in the range that no team holds, in days of the person
	Working int      `json:"working"` // working days in the range, without holidays and days off
	When    []Gap    `json:"when"`    // when that is, in order; the first MaxGaps
}

// Gap is a stretch of days of which the same part of a person is free; weekdays on which
// they do not work may lie between.
type Gap struct {
	From program.Date `json:"from"`
	To   program.Date `json:"to"`
	Left float64      `json:"left"` // the share of the person that is free
}

// MaxGaps is how many gaps of a person are listed.
const MaxGaps = 12

// maxRange is how many days a search may span.
const maxRange = 3660

// Find returns who fits, those with most free days first. A person's free days are Σ over
// working days in the range, holidays of everybody and days off left out, of what no team
// holds of them on that day. With Idle, a team holds of its share only the part for which
// work is placed: Σ sizes assigned to the person in the iteration of that day ÷ their part
// of its capacity, 1 at most, and 1 where no iteration is made yet.
func Find(p *plan.Plan, w Wanted) []Free {
	held := heldBy(p.Program)
	closed := map[program.Date]bool{}
	for _, h := range p.Holidays {
		if len(h.Teams) == 0 {
			closed[h.Date] = true
		}
	}
	last := min(w.To, w.From.Add(maxRange))
	busy := func(stint, program.Date, string) float64 { return 1 }
	if w.Idle {
		busy = placed(p, calendar.Span{Start: w.From, End: last})
	}
	found := []Free{}
	for i := range p.People {
		person := &p.People[i]
		if person.OpenSeat && !w.Open {
			continue
		}
		stints := held[person.Key]
		f := Free{Person: person.Key, Name: person.Name, Roles: roles(person, stints), Teams: teams(stints), When: []Gap{}}
		if w.Role != "" && !slices.ContainsFunc(f.Roles, func(r string) bool { return strings.EqualFold(r, w.Role) }) {
			continue
		}
		if w.Team != "" && !slices.Contains(f.Teams, w.Team) {
			continue
		}
		weekdays := calendar.WeekdaysOf(person.Weekdays)
		on := false // whether the days go on without one off
		for d := w.From; d <= last; d++ {
			if !weekdays.Has(d) {
				continue
			}
			if closed[d] || away(person, d) {
				on = false
				continue
			}
			left := 1.0
			for _, s := range stints {
				if s.Holds(d) {
					left -= s.Share * busy(s, d, person.Key)
				}
			}
			f.day(d, max(0, left), on)
			on = true
		}
		if f.Days >= w.Days-eps {
			f.When = slices.DeleteFunc(f.When, func(g Gap) bool { return g.Left <= eps })
			f.When = f.When[:min(MaxGaps, len(f.When))]
			found = append(found, f)
		}
	}
	slices.SortStableFunc(found, func(a, b Free) int { return cmp.Compare(b.Days, a.Days) })
	return found
}

// day counts a working day of which so much is free; on says whether it follows the one before.
func (f *Free) day(d program.Date, left float64, on bool) {
	f.Working++
	f.Days += left
	if n := len(f.When); on && n > 0 && math.Abs(f.When[n-1].Left-left) <= eps {
		f.When[n-1].To = d
		return
	}
	f.When = append(f.When, Gap{d, d, left})
}

// placed returns how much of what a team holds of a person on a day has work placed for it.
func placed(p *plan.Plan, span calendar.Span) func(stint, program.Date, string) float64 {
	type slot struct{ person, team, iteration string }
	filled := map[slot]float64{}
	for _, row := range capacity.ByPerson(p, capacity.Meeting(span)) {
		for _, part := range row.Parts {
			share := 1.0
			if part.Capacity > 0 {
				share = min(1, part.Load/part.Capacity)
			}
			filled[slot{row.Key, part.Team, part.Iteration}] = share
		}
	}
	// The iteration of each day of the span, by team; empty where none is made yet.
	on := make(map[string][]string, len(p.Teams))
	for _, t := range p.Teams {
		days := make([]string, span.Days())
		for _, it := range t.Iterations {
			for d := max(it.Start, span.Start); d <= min(it.End, span.End); d++ {
				days[d-span.Start] = it.Key
			}
		}
		on[t.Key] = days
	}
	return func(s stint, d program.Date, person string) float64 {
		iteration := on[s.Team][d-span.Start]
		if iteration == "" {
			return 1
		}
		return filled[slot{person, s.Team, iteration}]
	}
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
