package program

import (
	"fmt"
	"math"
	"slices"
	"strings"
)

// Problem is one rule that a program breaks.
type Problem struct {
	Path string `json:"path"` // place in the document, as items[3].team
	Text string `json:"text"` // what is wrong there, and where it helps what would be right
}

func (p Problem) String() string { return p.Path + ": " + p.Text }

// Problems is every rule that a program breaks, as an error.
type Problems []Problem

func (ps Problems) Error() string {
	lines := make([]string, len(ps))
	for i, p := range ps {
		lines[i] = p.String()
	}
	return strings.Join(lines, "\n")
}

// Validate returns every rule of the program document that p breaks: keys that
// stand twice, references to what is not there, dates that end before they
// start, numbers out of range. A cycle of needs is not one of these: it can be
// written down, it only cannot be scheduled.
func Validate(p Program) Problems {
	v := validator{p: p}
	v.settings()
	v.calendar()
	v.teams()
	v.releases()
	v.items()
	v.documents()
	v.needs()
	v.backlog()
	return v.found
}

type validator struct {
	p     Program
	found Problems

	cadences, people, releaseKeys, itemKeys keys
	teamKeys                                map[string]map[string]bool // iterations of each team
}

type keys map[string]bool

// Limits that keep a slip of the keyboard from making thousands of iterations.
const (
	maxIterationDays = 366
	maxAhead         = 300
)

func (v *validator) report(path, format string, args ...any) {
	v.found = append(v.found, Problem{path, fmt.Sprintf(format, args...)})
}

// unique adds key to seen, and reports one that is empty or there already.
func (v *validator) unique(seen keys, path, key string) {
	switch {
	case key == "":
		v.report(path, "is empty; every one needs a key")
	case seen[key]:
		v.report(path, "%q stands twice", key)
	}
	seen[key] = true
}

func (v *validator) settings() {
	s := v.p.Settings
	if s.FillTo <= 0 || s.FillTo > 1 || math.IsNaN(s.FillTo) {
		v.report("settings.fillTo", "%v is not above 0 and at most 1", s.FillTo)
	}
	oneOf(v, "settings.sameIteration", s.SameIteration, ShareNever, ShareSameTeam, ShareAlways)
}

func (v *validator) calendar() {
	v.cadences = keys{}
	for i, c := range v.p.Cadences {
		path := fmt.Sprintf("cadences[%d]", i)
		v.unique(v.cadences, path+".key", c.Key)
		v.dated(path+".start", c.Start)
		if c.LengthDays < 1 {
			v.report(path+".lengthDays", "%d is not at least 1 day", c.LengthDays)
		}
		if c.LengthDays > maxIterationDays {
			v.report(path+".lengthDays", "%d is more than a year of %d days", c.LengthDays, maxIterationDays)
		}
		if c.Ahead < 0 || c.Ahead > maxAhead {
			v.report(path+".ahead", "%d is not between 0 and %d", c.Ahead, maxAhead)
		}
	}
	v.people = keys{}
	for i, person := range v.p.People {
		path := fmt.Sprintf("people[%d]", i)
		v.unique(v.people, path+".key", person.Key)
		if person.HoursPerDay < 0 || person.HoursPerDay > 24 {
			v.report(path+".hoursPerDay", "%v is not between 0 and 24", person.HoursPerDay)
		}
		for j, day := range person.Weekdays {
			if day < 1 || day > 7 {
				v.report(fmt.Sprintf("%s.weekdays[%d]", path, j), "%d is not a day from 1 (Monday) to 7 (Sunday)", day)
			}
		}
		for j, off := range person.DaysOff {
			v.span(fmt.Sprintf("%s.daysOff[%d]", path, j), "from", off.From, "to", off.To)
		}
	}
}

func (v *validator) teams() {
	seen := keys{}
	v.teamKeys = make(map[string]map[string]bool, len(v.p.Teams))
	for i, t := range v.p.Teams {
		path := fmt.Sprintf("teams[%d]", i)
		v.unique(seen, path+".key", t.Key)
		oneOf(v, path+".unit", t.Unit, Points, Days, Hours)
		if t.Cadence != "" && !v.cadences[t.Cadence] {
			v.report(path+".cadence", "no cadence %q", t.Cadence)
		}
		v.atLeastZero(path+".velocity", t.Velocity)
		if t.Focus != nil && (*t.Focus <= 0 || *t.Focus > 1) {
			v.report(path+".focus", "%v is not above 0 and at most 1", *t.Focus)
		}
		if t.FillTo != nil && (*t.FillTo <= 0 || *t.FillTo > 1) {
			v.report(path+".fillTo", "%v is not above 0 and at most 1", *t.FillTo)
		}
		if t.Lookback < 0 {
			v.report(path+".lookback", "%d is below 0", t.Lookback)
		}
		iterations := keys{}
		for j := range t.Iterations {
			it := &t.Iterations[j]
			if it.Key == "" || iterations[it.Key] {
				v.unique(iterations, fmt.Sprintf("%s.iterations[%d].key", path, j), it.Key)
			}
			iterations[it.Key] = true
			if bad := it.Start.IsZero() || it.End < it.Start; bad {
				v.span(fmt.Sprintf("%s.iterations[%d]", path, j), "start", it.Start, "end", it.End)
			}
			if it.State != "" && it.State != Planned && it.State != Open && it.State != Closed {
				oneOf(v, fmt.Sprintf("%s.iterations[%d].state", path, j), it.State, Planned, Open, Closed)
			}
			if !amount(it.Capacity) || !amount(it.Committed) || !amount(it.Completed) {
				at := fmt.Sprintf("%s.iterations[%d]", path, j)
				v.atLeastZero(at+".capacity", it.Capacity)
				v.atLeastZero(at+".committed", it.Committed)
				v.atLeastZero(at+".completed", it.Completed)
			}
		}
		v.teamKeys[t.Key] = iterations
		v.members(path, t.Members)
	}
	for i, h := range v.p.Holidays {
		path := fmt.Sprintf("holidays[%d]", i)
		v.dated(path+".date", h.Date)
		for j, key := range h.Teams {
			if _, ok := v.teamKeys[key]; !ok {
				v.report(fmt.Sprintf("%s.teams[%d]", path, j), "no team %q", key)
			}
		}
	}
}

func (v *validator) members(path string, members []Member) {
	stands := make(map[string][]Member, len(members))
	for j, m := range members {
		at := func(field string) string { return fmt.Sprintf("%s.members[%d].%s", path, j, field) }
		if !v.people[m.Person] {
			v.report(at("person"), "no person %q", m.Person)
		}
		if m.Share < 0 || m.Share > 1 || math.IsNaN(m.Share) {
			v.report(at("share"), "%v is not between 0 and 1", m.Share)
		}
		if !m.To.IsZero() && m.To < m.From {
			v.report(at("to"), "%s is before the first day, %s", m.To, m.From)
		}
		for _, other := range stands[m.Person] {
			if m.Span().Meets(other.Span()) {
				v.report(at("person"), "%q stands twice at the same time; give one a last day before the other's first", m.Person)
			}
		}
		stands[m.Person] = append(stands[m.Person], m)
	}
}

func (v *validator) releases() {
	v.releaseKeys = keys{}
	for i, r := range v.p.Releases {
		path := fmt.Sprintf("releases[%d]", i)
		v.unique(v.releaseKeys, path+".key", r.Key)
		if !r.Start.IsZero() && !r.Due.IsZero() && r.Due < r.Start {
			v.report(path+".due", "%s is before the start, %s", r.Due, r.Start)
		}
		phases := keys{}
		for j, phase := range r.Phases {
			at := fmt.Sprintf("%s.phases[%d]", path, j)
			v.unique(phases, at+".key", phase.Key)
			v.span(at, "start", phase.Start, "end", phase.End)
		}
	}
	templates := keys{}
	for i, template := range v.p.PhaseTemplates {
		path := fmt.Sprintf("phaseTemplates[%d]", i)
		v.unique(templates, path+".key", template.Key)
		for j, phase := range template.Phases {
			if phase.Days < 1 || phase.Days > 10*maxIterationDays {
				v.report(fmt.Sprintf("%s.phases[%d].days", path, j), "%d is not between 1 and %d", phase.Days, 10*maxIterationDays)
			}
		}
	}
}

// documents is checked after the items, which documents may name.
func (v *validator) documents() {
	for i, r := range v.p.Releases {
		for j, d := range r.Documents {
			at := func(field string) string { return fmt.Sprintf("releases[%d].documents[%d].%s", i, j, field) }
			if d.Title == "" {
				v.report(at("title"), "is empty")
			}
			if d.Address != "" && !webAddress(d.Address) {
				v.report(at("address"), "%q is not an address that starts with http:// or https://", d.Address)
			}
			oneOf(v, at("kind"), d.Kind, Notes, TestReport, SecurityReview, OtherDocument)
			if d.Item != "" && !v.itemKeys[d.Item] {
				v.report(at("item"), "no item %q", d.Item)
			}
		}
	}
}

// webAddress keeps out addresses that would run a script when followed.
func webAddress(address string) bool {
	return strings.HasPrefix(address, "https://") || strings.HasPrefix(address, "http://")
}

func (v *validator) items() {
	v.itemKeys = make(keys, len(v.p.Items))
	for i := range v.p.Items {
		if key := v.p.Items[i].Key; key == "" || v.itemKeys[key] {
			v.unique(v.itemKeys, fmt.Sprintf("items[%d].key", i), key)
		} else {
			v.itemKeys[key] = true
		}
	}
	for i := range v.p.Items {
		v.item(i, &v.p.Items[i])
	}
	v.parentCycles()
	seen := keys{}
	for i, m := range v.p.Milestones {
		path := fmt.Sprintf("milestones[%d]", i)
		v.unique(seen, path+".key", m.Key)
		v.dated(path+".date", m.Date)
		v.known(path+".releases", "release", v.releaseKeys, m.Releases)
		v.known(path+".needs", "item", v.itemKeys, m.Needs)
	}
}

func (v *validator) item(i int, item *Item) {
	at := func(field string) string { return fmt.Sprintf("items[%d].%s", i, field) }
	switch item.Kind {
	case Initiative, Feature, Story, Defect, Upkeep, Enabler, Spike:
	default:
		oneOf(v, at("kind"), item.Kind, Initiative, Feature, Story, Defect, Upkeep, Enabler, Spike)
	}
	switch item.State {
	case "", Todo, Doing, Review, Done:
	default:
		oneOf(v, at("state"), item.State, Todo, Doing, Review, Done)
	}
	if item.Parent != "" && !v.itemKeys[item.Parent] {
		v.report(at("parent"), "no item %q", item.Parent)
	}
	iterations, hasTeam := v.teamKeys[item.Team]
	if item.Team != "" && !hasTeam {
		v.report(at("team"), "no team %q", item.Team)
	}
	if item.Iteration != "" {
		switch {
		case item.Team == "":
			v.report(at("iteration"), "%s has no team, so it cannot stand in iteration %q; give it a team first", item.Key, item.Iteration)
		case hasTeam && !iterations[item.Iteration]:
			v.report(at("iteration"), "team %q has no iteration %q", item.Team, item.Iteration)
		}
	}
	if item.Release != "" && !v.releaseKeys[item.Release] {
		v.report(at("release"), "no release %q", item.Release)
	}
	if item.Assignee != "" && !v.people[item.Assignee] {
		v.report(at("assignee"), "no person %q", item.Assignee)
	}
	if !amount(item.Size) {
		v.atLeastZero(at("size"), item.Size)
	}
	v.details(i, item)
}

// parentCycles reports items that are, by way of their parents, their own parent.
func (v *validator) parentCycles() {
	tree := TreeOf(v.p)
	safe := make([]bool, len(v.p.Items)) // known to lead up to an item without parent
	for i := range v.p.Items {
		steps := 0
		at := i
		for ; at >= 0 && !safe[at] && steps <= len(v.p.Items); steps++ {
			at = tree.Parent[at]
		}
		if steps > len(v.p.Items) {
			v.report(fmt.Sprintf("items[%d].parent", i), "%s is among its own parents", v.p.Items[i].Key)
			return
		}
		for at = i; at >= 0 && !safe[at]; at = tree.Parent[at] {
			safe[at] = true
		}
	}
}

func (v *validator) needs() {
	type pair struct{ item, needs string }
	seen := make(map[pair]bool, len(v.p.Needs))
	for i := range v.p.Needs {
		n := &v.p.Needs[i]
		at := func(field string) string { return fmt.Sprintf("needs[%d].%s", i, field) }
		if !v.itemKeys[n.Item] {
			v.report(at("item"), "no item %q", n.Item)
		}
		if !v.itemKeys[n.Needs] {
			v.report(at("needs"), "no item %q", n.Needs)
		}
		if seen[pair{n.Item, n.Needs}] {
			v.report(at("needs"), "the need of %s on %s stands twice", n.Item, n.Needs)
		}
		seen[pair{n.Item, n.Needs}] = true
		if n.LagDays < 0 {
			v.report(at("lagDays"), "%d is below 0", n.LagDays)
		}
		switch n.Agreement {
		case "", Asked, Agreed, Declined:
		default:
			oneOf(v, at("agreement"), n.Agreement, Asked, Agreed, Declined)
		}
	}
}

func (v *validator) known(path, what string, have keys, refs []string) {
	for i, ref := range refs {
		if !have[ref] {
			v.report(fmt.Sprintf("%s[%d]", path, i), "no %s %q", what, ref)
		}
	}
}

func (v *validator) dated(path string, d Date) {
	if d.IsZero() {
		v.report(path, "has no date")
	}
}

func (v *validator) span(path, from string, start Date, to string, end Date) {
	v.dated(path+"."+from, start)
	v.dated(path+"."+to, end)
	if !end.IsZero() && end < start {
		v.report(path+"."+to, "%s is before the first day, %s", end, start)
	}
}

// amount reports whether n, if there is one, is a number from 0 up. Where there are
// thousands of them, it is asked before the path of a problem is written.
func amount(n *float64) bool {
	return n == nil || *n >= 0 && !math.IsInf(*n, 0)
}

func (v *validator) atLeastZero(path string, n *float64) {
	if !amount(n) {
		v.report(path, "%v is not a number from 0 up", *n)
	}
}

func oneOf[T ~string](v *validator, path string, value T, allowed ...T) {
	if slices.Contains(allowed, value) {
		return
	}
	names := make([]string, len(allowed))
	for i, a := range allowed {
		names[i] = string(a)
	}
	v.report(path, "%q is none of %s", value, strings.Join(names, ", "))
}
