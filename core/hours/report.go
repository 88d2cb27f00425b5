package hours

import (
	"cmp"
	"slices"
	"strings"

	"jantrel/core/calendar"
	"jantrel/core/capacity"
	"jantrel/core/plan"
	"jantrel/core/program"
)

// By is what hours are put together by.
type By string

// What hours may be put together by.
const (
	ByPerson   By = "person"
	ByTeam     By = "team"
	ByItem     By = "item"
	ByActivity By = "activity"
)

// Splits lists them all.
var Splits = []By{ByPerson, ByTeam, ByItem, ByActivity}

// MaxDays is how many days a report spans at most: two years.
const MaxDays = 2 * 366

// Asked is what a report is about.
type Asked struct {
	calendar.Span
	By     By
	Teams  []string // empty: all
	People []string // empty: all
}

// Cell is hours of some stretch.
type Cell struct {
	Capacity float64 `json:"capacity"` // that people work, by person and team alone
	Planned  float64 `json:"planned"`  // estimated of what is placed there
	Spent    float64 `json:"spent"`
}

func (c *Cell) add(o Cell) {
	c.Capacity, c.Planned, c.Spent = c.Capacity+o.Capacity, c.Planned+o.Planned, c.Spent+o.Spent
}

// Line is one person, team, item or activity.
type Line struct {
	Key   string `json:"key"`             // empty: of nobody, no team, no item, no activity
	Title string `json:"title,omitempty"` // what people call it
	Cell
	Left  float64 `json:"left"`  // still to do, of what stands in iterations that meet the days
	Weeks []Cell  `json:"weeks"` // one for each of the report's
}

// Report is capacity, planned and spent hours over some days.
type Report struct {
	By    By             `json:"by"`
	Weeks []program.Date `json:"weeks"` // the Mondays of the weeks that the days lie in
	Lines []Line         `json:"lines"` // in the order of the program's lists; activities by name; what is of none last
	All   Line           `json:"all"`   // the sum of the lines
	Sized []Sized        `json:"sized"` // of each team that has some: what was done in these days and has a size and hours
}

// Sized sets sizes against the hours spent on them, for one team.
type Sized struct {
	Team    string       `json:"team"`
	Unit    program.Unit `json:"unit"`
	Size    float64      `json:"size"`    // in the unit
	Hours   float64      `json:"hours"`   // spent on these items ever, by anybody
	PerUnit float64      `json:"perUnit"` // hours ÷ size
	Items   []SizedItem  `json:"items"`   // by rank
}

// SizedItem is an item that is done, with its size and hours.
type SizedItem struct {
	Item  string  `json:"item"`
	Size  float64 `json:"size"`
	Hours float64 `json:"hours"`
}

// ReportOf works a report out. Time is linear in time entries, tasks, and days × members.
//
// Hours that are planned are those estimated for tasks at first. Of an item without any such,
// they are its size, where its team sizes in hours, or its size × the hours a day of who it is
// assigned to, where its team sizes in days. They lie evenly on the days of its iteration on
// which its team works. They are their owner's: of a task without one, and of a size, those of who the
// item is assigned to.
//
// Hours spent count for the team of the item; on no item for the team in which the person
// has the largest share that day.
func ReportOf(p *plan.Plan, asked Asked) Report {
	r := &reporting{p: p, asked: asked, at: map[string]int{}, hoursOf: map[string]float64{}}
	r.Report = Report{By: asked.By, Weeks: []program.Date{}, Lines: []Line{}, Sized: []Sized{}}
	for day := calendar.MondayOf(asked.Start); day <= asked.End; day = day.Add(DaysAWeek) {
		r.Weeks = append(r.Weeks, day)
	}
	r.All = Line{Weeks: make([]Cell, len(r.Weeks))}
	for i := range p.People {
		r.hoursOf[p.People[i].Key] = p.People[i].Hours()
	}
	if asked.By == ByPerson || asked.By == ByTeam {
		capacity.Hours(p, asked.Span, func(team int, person *program.Person, day program.Date, hours float64) {
			r.put(of{team: p.Teams[team].Key, person: person.Key}, day, Cell{Capacity: hours})
		})
	}
	r.plan()
	spent := r.spend()
	r.order()
	r.sizes(spent)
	return r.Report
}

// of is what hours belong to.
type of struct{ person, team, item, activity string }

// reporting is a report while it is worked out.
type reporting struct {
	Report
	p       *plan.Plan
	asked   Asked
	at      map[string]int // where the line of each key is
	hoursOf map[string]float64
}

// wants reports whether a report is about hours that belong to something.
func (a Asked) wants(o of) bool {
	return (len(a.Teams) == 0 || slices.Contains(a.Teams, o.team)) && (len(a.People) == 0 || slices.Contains(a.People, o.person))
}

// line is the line that what belongs to something stands in.
func (r *reporting) line(o of) *Line {
	key := map[By]string{ByPerson: o.person, ByTeam: o.team, ByItem: o.item, ByActivity: o.activity}[r.asked.By]
	at, ok := r.at[key]
	if !ok {
		at = len(r.Lines)
		r.at[key] = at
		r.Lines = append(r.Lines, Line{Key: key, Weeks: make([]Cell, len(r.Weeks))})
	}
	return &r.Lines[at]
}

// put adds hours of a day.
func (r *reporting) put(o of, day program.Date, c Cell) {
	if !r.asked.Holds(day) || !r.asked.wants(o) {
		return
	}
	week := int(day-r.Weeks[0]) / DaysAWeek
	line := r.line(o)
	line.add(c)
	line.Weeks[week].add(c)
	r.All.add(c)
	r.All.Weeks[week].add(c)
}

// plan puts what is planned on the days of its iteration.
func (r *reporting) plan() {
	tree := r.p.Tree()
	days := map[plan.Place][]program.Date{}
	for i := range r.p.Items {
		item := &r.p.Items[i]
		place, placed := r.p.Place(i)
		if !placed || item.KeptOut || !tree.IsLeaf(i) || !place.Meets(r.asked.Span) {
			continue
		}
		worked, known := days[place]
		if !known {
			worked = workedDays(r.p, place)
			days[place] = worked
		}
		for _, part := range r.parts(item) {
			for _, day := range worked {
				r.put(part.of, day, Cell{Planned: part.hours / float64(len(worked))})
			}
			if part.left > 0 && r.asked.wants(part.of) {
				r.line(part.of).Left += part.left
				r.All.Left += part.left
			}
		}
	}
}

// part is hours that are planned for a task or an item, and what is left of them.
type part struct {
	of
	hours, left float64
}

// parts are the hours planned for an item.
func (r *reporting) parts(item *program.Item) (parts []part) {
	base := of{item.Assignee, item.Team, item.Key, ""}
	estimated := false
	for n := range item.Tasks {
		t := &item.Tasks[n]
		left, known := t.Left()
		if !known {
			continue
		}
		o := base
		o.person, o.activity = cmp.Or(t.Owner, item.Assignee), t.Activity
		hours := 0.0
		if t.Hours != nil {
			hours, estimated = *t.Hours, true
		}
		if item.State == program.Done {
			left = 0
		}
		parts = append(parts, part{o, hours, left})
	}
	at, ok := r.p.TeamAt()[item.Team]
	if estimated || item.Size == nil || !ok {
		return parts
	}
	rate := map[program.Unit]float64{program.Hours: 1, program.Days: cmp.Or(r.hoursOf[item.Assignee], 8)}[r.p.Teams[at].Unit]
	if rate == 0 {
		return parts
	}
	whole := part{base, rate * *item.Size, rate * *item.Size}
	switch {
	case item.State == program.Done || len(parts) > 0: // what is left of tasks is known already
		whole.left = 0
	case item.Left != nil:
		whole.left = rate * *item.Left
	}
	return append(parts, whole)
}

// workedDays are the days of an iteration on which its team works; all of them where it never does.
func workedDays(p *plan.Plan, place plan.Place) (days []program.Date) {
	for i, share := range capacity.Daily(p, place.Team)(place.Span) {
		if share > 0 {
			days = append(days, place.Start.Add(i))
		}
	}
	if days == nil {
		for day := place.Start; day <= place.End; day++ {
			days = append(days, day)
		}
	}
	return days
}

// spend puts what was spent, and returns what was ever spent on each item.
func (r *reporting) spend() map[string]float64 {
	spent := map[string]float64{}
	spentOn := spender(r.p)
	for i := range r.p.TimeEntries {
		e := &r.p.TimeEntries[i]
		spent[e.Item] += e.Hours
		r.put(spentOn(e), e.Date, Cell{Spent: e.Hours})
	}
	return spent
}

// spender returns a function that says what hours of a time entry belong to.
func spender(p *plan.Plan) func(*program.TimeEntry) of {
	home, tree := homes(p), p.Tree()
	return func(e *program.TimeEntry) of {
		if at, ok := tree.Index[e.Item]; ok {
			return of{e.Person, p.Items[at].Team, e.Item, e.Activity}
		}
		return of{e.Person, home(e.Person, e.Date), "", e.Activity}
	}
}

// Entries returns the time entries that the spent hours of a report are made of, by day.
func Entries(p *plan.Plan, asked Asked) []program.TimeEntry {
	spentOn := spender(p)
	var list []program.TimeEntry
	for i := range p.TimeEntries {
		if e := &p.TimeEntries[i]; asked.Holds(e.Date) && asked.wants(spentOn(e)) {
			list = append(list, *e)
		}
	}
	slices.SortStableFunc(list, func(a, b program.TimeEntry) int { return cmp.Compare(a.Date, b.Date) })
	return list
}

// homes returns a function that gives the team in which a person has the largest share on a day.
func homes(p *plan.Plan) func(person string, day program.Date) string {
	type share struct {
		team string
		program.Member
	}
	shares := map[string][]share{}
	for t := range p.Teams {
		for _, m := range p.Teams[t].Members {
			shares[m.Person] = append(shares[m.Person], share{p.Teams[t].Key, m})
		}
	}
	return func(person string, day program.Date) (team string) {
		most := -1.0
		for _, s := range shares[person] {
			if s.Span().Holds(day) && s.Share > most {
				team, most = s.team, s.Share
			}
		}
		return team
	}
}

// order puts the lines in order and says what they are called.
func (r *reporting) order() {
	rank, title := map[string]int{}, map[string]string{}
	known := func(i int, key, name string) { rank[key], title[key] = i+1, name }
	switch r.asked.By {
	case ByPerson:
		for i := range r.p.People {
			known(i, r.p.People[i].Key, r.p.People[i].Name)
		}
	case ByTeam:
		for i := range r.p.Teams {
			known(i, r.p.Teams[i].Key, r.p.Teams[i].Name)
		}
	case ByItem:
		for i := range r.p.Items {
			known(i, r.p.Items[i].Key, r.p.Items[i].Title)
		}
	}
	for i := range r.Lines {
		r.Lines[i].Title = cmp.Or(title[r.Lines[i].Key], r.Lines[i].Key)
	}
	slices.SortStableFunc(r.Lines, func(a, b Line) int {
		if a.Key == "" || b.Key == "" {
			return strings.Compare(b.Key, a.Key) // what is of none comes last
		}
		return cmp.Or(rank[a.Key]-rank[b.Key], strings.Compare(strings.ToLower(a.Title), strings.ToLower(b.Title)), strings.Compare(a.Key, b.Key))
	})
}

// sizes sets the sizes of what was done in these days against the hours spent on it.
func (r *reporting) sizes(spent map[string]float64) {
	at := map[string]int{}
	tree := r.p.Tree()
	for i := range r.p.Items {
		item := &r.p.Items[i]
		team, ok := r.p.TeamAt()[item.Team]
		if !ok || !tree.IsLeaf(i) || item.State != program.Done || !r.asked.Holds(item.DoneOn) || item.Size == nil || *item.Size == 0 || spent[item.Key] == 0 ||
			len(r.asked.Teams) > 0 && !slices.Contains(r.asked.Teams, item.Team) {
			continue
		}
		n, there := at[item.Team]
		if !there {
			n = len(r.Sized)
			at[item.Team] = n
			r.Sized = append(r.Sized, Sized{Team: item.Team, Unit: r.p.Teams[team].Unit})
		}
		s := &r.Sized[n]
		s.Items = append(s.Items, SizedItem{item.Key, *item.Size, spent[item.Key]})
		s.Size, s.Hours = s.Size+*item.Size, s.Hours+spent[item.Key]
		s.PerUnit = s.Hours / s.Size
	}
	teams := r.p.TeamAt()
	slices.SortFunc(r.Sized, func(a, b Sized) int { return teams[a.Team] - teams[b.Team] })
}
