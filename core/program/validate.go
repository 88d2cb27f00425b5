package program

import (
	"fmt"
	"math"
	"reflect"
	"slices"
	"strconv"
	"strings"
	"unicode"

	"jantrel/core/calendar"
)

// Problem is one rule that a program breaks.
type Problem struct {
	Path string `json:"path"` // place in the document, as items[3].team
	Text string `json:"text"` // what is wrong there, and where it helps what would be right

	Where string `json:"where,omitempty"` // the place in words, as far as it is known; see PlaceInWords
	Of    Ref    `json:"-"`               // the thing that it is about; empty where that is not known
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
//
// It looks at everything once: linear in the number of things.
func Validate(p Program) Problems {
	v := &validator{p: &p, teams: p.TeamIndex()}
	v.there = v.allThings()
	for _, e := range entries {
		e.walk(&p, func(n name, at int, thing reflect.Value) { v.thing(e, n, at, thing) })
	}
	v.parentCycles()
	return v.found.inWords(p)
}

// validateAfter is Validate for a program that came out of a valid one by a few
// changes which remove nothing: it looks only at what they touched.
func validateAfter(p Program, changes []Applied) Problems {
	v := &validator{p: &p, teams: p.TeamIndex()}
	touched, parents := map[Ref]bool{}, false
	for _, a := range changes {
		touched[a.Change.Ref] = true
		parents = parents || a.Change.Kind == KindItem && (a.Change.Op == Add || a.Change.Field == "parent")
	}
	for _, e := range entries {
		for ref := range touched {
			if ref.Kind != e.Kind {
				continue
			}
			if thing, at, ok := e.find(&p, ref.name()); ok {
				v.thing(e, ref.name(), at, thing)
			}
		}
	}
	if parents {
		v.parentCycles()
	}
	return v.found.inWords(p)
}

// few is how many changes are worth looking at one by one.
const few = 16

func removes(c Applied) bool { return c.Change.Op == Remove }

type validator struct {
	p     *Program
	teams map[string]int
	there map[Kind]map[name]bool // what there is of each kind; nil: look it up one by one
	found Problems
	at    Ref // what is looked at
}

// path names a field of what is looked at. It is asked only where there is something
// to report.
type path func(field string) string

func (at path) in(format string, args ...any) path {
	return func(field string) string { return at(fmt.Sprintf(format, args...) + "." + field) }
}

// rules are what is checked of each kind beside what the registry says.
var rules = map[Kind]func(v *validator, at path, thing any){
	KindProgram:   func(v *validator, at path, x any) { v.program(at, x.(*Program)) },
	KindCadence:   func(v *validator, at path, x any) { v.cadence(at, x.(*Cadence)) },
	KindPerson:    func(v *validator, at path, x any) { v.person(at, x.(*Person)) },
	KindTeam:      func(v *validator, at path, x any) { v.team(at, x.(*Team)) },
	KindIteration: func(v *validator, at path, x any) { v.iteration(at, x.(*Iteration)) },
	KindRelease:   func(v *validator, at path, x any) { v.release(at, x.(*Release)) },
	KindMilestone: func(v *validator, at path, x any) { v.dated(at, "date", x.(*Milestone).Date) },
	KindItem:      func(v *validator, at path, x any) { v.item(at, x.(*Item)) },
	KindNeed: func(v *validator, at path, x any) {
		n := x.(*Need)
		if n.LagDays < 0 || n.LagDays > maxLag {
			v.report(at("lagDays"), "%d is not between 0 and %d", n.LagDays, maxLag)
		}
		v.possible(at, "wanted", n.Wanted)
		v.possible(at, "given", n.Given)
		if n.Agreement == Offered && n.Given.IsZero() {
			v.report(at("given"), "an offer names a day")
		}
	},
	KindComment: func(v *validator, at path, x any) { v.filled(at, "text", x.(*Comment).Text) },
	KindRisk:    func(v *validator, at path, x any) { v.risk(at, x.(*Risk)) },
	KindPromise: func(v *validator, at path, x any) { v.promise(at, x.(*Promise)) },
	KindSnooze:  func(v *validator, at path, x any) { v.dated(at, "until", x.(*Snooze).Until) },
	KindTimeEntry: func(v *validator, at path, x any) {
		e := x.(*TimeEntry)
		v.dated(at, "date", e.Date)
		if !(e.Hours > 0 && e.Hours <= MaxHoursADay) {
			v.report(at("hours"), "%v is not over 0 and up to %d; a day has no more", e.Hours, MaxHoursADay)
		}
	},
}

// thing checks one thing.
func (v *validator) thing(e *entry, n name, i int, thing reflect.Value) {
	v.at = Ref{Kind: e.Kind, In: n.in, Key: n.key}
	at := func(field string) string { return v.place(e, n, i) + field }
	rules[e.Kind](v, at, thing.Addr().Interface())
	if e.Kind != KindNeed { // which has those of two items
		v.key(at, n.key)
	}
	for _, s := range e.naming {
		v.names(s, thing, thing.FieldByIndex(s.index), at)
	}
	for _, s := range e.picky {
		v.picks(s, thing.FieldByIndex(s.index), at)
	}
}

// Limits that keep a slip of the keyboard, or malice, from making thousands of iterations or
// sums that are no numbers any more.
const (
	maxIterationDays = 366
	maxAhead         = 300
	maxAmount        = 1_000_000 // of sizes, capacities, velocities and hours
	maxLag           = 3660      // days
	maxLookback      = 1000      // iterations
	maxAgreedDays    = 10_000    // member-days a week
)

// MaxHoursADay is how many hours somebody spends on a day at most.
const MaxHoursADay = 24

// Dates lie in these years.
var (
	firstDay = calendar.MustParse("1900-01-01")
	lastDay  = calendar.MustParse("2199-12-31")
)

func (v *validator) report(path, format string, args ...any) {
	v.found = append(v.found, Problem{Path: path, Text: fmt.Sprintf(format, args...), Of: v.at})
}

func (v *validator) cadence(at path, c *Cadence) {
	v.dated(at, "start", c.Start)
	if c.LengthDays < 1 {
		v.report(at("lengthDays"), "%d is not at least 1 day", c.LengthDays)
	}
	if c.LengthDays > maxIterationDays {
		v.report(at("lengthDays"), "%d is more than a year of %d days", c.LengthDays, maxIterationDays)
	}
	if c.Ahead < 0 || c.Ahead > maxAhead {
		v.report(at("ahead"), "%d is not between 0 and %d", c.Ahead, maxAhead)
	}
}

func (v *validator) person(at path, person *Person) {
	if h := person.HoursPerDay; h < 0 || h > 24 || math.IsNaN(h) {
		v.report(at("hoursPerDay"), "%v is not between 0 and 24", h)
	}
	for j, day := range person.Weekdays {
		if day < 1 || day > 7 {
			v.report(at(fmt.Sprintf("weekdays[%d]", j)), "%d is not a day from 1 (Monday) to 7 (Sunday)", day)
		}
	}
	for j, off := range person.DaysOff {
		v.span(at.in("daysOff[%d]", j), "from", off.From, "to", off.To)
	}
}

func (v *validator) team(at path, t *Team) {
	v.atLeastZero(at, "velocity", t.Velocity)
	v.possible(at, "agreedOn", t.AgreedOn)
	if d := t.AgreedDays; d != nil && !(*d > 0 && *d <= maxAgreedDays) {
		v.report(at("agreedDays"), "%v is not over 0 and up to %d member-days a week", *d, maxAgreedDays)
	}
	v.share(at, "focus", t.Focus)
	v.share(at, "fillTo", t.FillTo)
	if t.Lookback < 0 || t.Lookback > maxLookback {
		v.report(at("lookback"), "%d is not between 0 and %d", t.Lookback, maxLookback)
	}
	stands := make(map[string][]Member, len(t.Members))
	for j, m := range t.Members {
		at := at.in("members[%d]", j)
		if m.Share < 0 || m.Share > 1 || math.IsNaN(m.Share) {
			v.report(at("share"), "%v is not between 0 and 1", m.Share)
		}
		v.possible(at, "from", m.From)
		v.possible(at, "to", m.To)
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
	v.builds(at, t.Builds)
	v.deployed(at, t.Deployed)
}

func (v *validator) iteration(at path, it *Iteration) {
	v.span(at, "start", it.Start, "end", it.End)
	if days := int(it.End-it.Start) + 1; days > maxIterationDays {
		v.report(at("end"), "%s is %d days after the start; an iteration lasts %d at most", it.End, days-1, maxIterationDays)
	}
	v.atMost(at, "committedItems", it.CommittedItems)
	v.atMost(at, "completedItems", it.CompletedItems)
	v.atLeastZero(at, "capacity", it.Capacity)
	v.atLeastZero(at, "committed", it.Committed)
	v.atLeastZero(at, "completed", it.Completed)
	for j, a := range it.Actions {
		v.filled(at.in("actions[%d]", j), "text", a.Text)
	}
}

func (v *validator) release(at path, r *Release) {
	v.growth(at, r.Growth)
	v.possible(at, "start", r.Start)
	v.possible(at, "due", r.Due)
	if !r.Start.IsZero() && !r.Due.IsZero() && r.Due < r.Start {
		v.report(at("due"), "%s is before the start, %s", r.Due, r.Start)
	}
	phases := keys{}
	for j, phase := range r.Phases {
		at := at.in("phases[%d]", j)
		v.unique(phases, at, phase.Key)
		v.span(at, "start", phase.Start, "end", phase.End)
	}
	for j, d := range r.Documents {
		at := at.in("documents[%d]", j)
		v.filled(at, "title", d.Title)
		if d.Address != "" {
			v.webAddress(at, d.Address)
		}
	}
}

func (v *validator) item(at path, item *Item) {
	if item.Iteration != "" && item.Team == "" {
		v.report(at("iteration"), "%s has no team, so it cannot stand in iteration %q; give it a team first", item.Key, item.Iteration)
	}
	v.atLeastZero(at, "size", item.Size)
	v.atLeastZero(at, "left", item.Left)
	v.rough(at, item)
	v.possible(at, "notBefore", item.NotBefore)
	v.possible(at, "due", item.Due)
	v.possible(at, "began", item.Began)
	v.possible(at, "doneOn", item.DoneOn)
	for j, task := range item.Tasks {
		at := at.in("tasks[%d]", j)
		v.filled(at, "title", task.Title)
		v.atLeastZero(at, "hours", task.Hours)
		v.atLeastZero(at, "hoursLeft", task.HoursLeft)
	}
	for j, check := range item.Checks {
		v.filled(at.in("checks[%d]", j), "text", check.Text)
	}
	for j, link := range item.Links {
		v.webAddress(at.in("links[%d]", j), link.Address)
	}
	for j, tag := range item.Tags {
		v.filled(at, fmt.Sprintf("tags[%d]", j), tag)
	}
	v.tests(at, item.Tests)
	v.count(at, "hinders", len(item.Hinders), maxHindered)
}

// rough checks rough sizes, one a team, and where they stand, one an iteration.
func (v *validator) rough(at path, item *Item) {
	teams := map[string]bool{}
	for j := range item.Rough {
		r, at := &item.Rough[j], at.in("rough[%d]", j)
		v.atLeastZero(at, "size", &r.Size)
		v.atLeastZero(at, "upTo", r.UpTo)
		if r.Most() < r.Size {
			v.report(at("upTo"), "%v is less than the least, %v", r.Most(), r.Size)
		}
		if teams[r.Team] {
			v.report(at("team"), "%q stands twice; give a team one rough size, or a range", r.Team)
		}
		teams[r.Team] = true
	}
	places := map[[2]string]bool{}
	for j := range item.RoughPlaces {
		r, at := &item.RoughPlaces[j], at.in("roughPlaces[%d]", j)
		v.atLeastZero(at, "size", &r.Size)
		if key := [2]string{r.Team, r.Iteration}; places[key] {
			v.report(at("iteration"), "%q stands twice; add the sizes up", r.Iteration)
		} else {
			places[key] = true
		}
	}
}

// parentCycles reports an item that is, by way of its parents, its own parent.
func (v *validator) parentCycles() {
	tree := TreeOf(*v.p)
	safe := make([]bool, len(v.p.Items)) // known to lead up to an item without parent
	for i := range v.p.Items {
		steps := 0
		at := i
		for ; at >= 0 && !safe[at] && steps <= len(v.p.Items); steps++ {
			at = tree.Parent[at]
		}
		if steps > len(v.p.Items) {
			v.at = Ref{Kind: KindItem, Key: v.p.Items[i].Key}
			v.report(fmt.Sprintf("items[%d].parent", i), "%s is among its own parents", v.p.Items[i].Key)
			return
		}
		for at = i; at >= 0 && !safe[at]; at = tree.Parent[at] {
			safe[at] = true
		}
	}
}

// maxKey is how many bytes a key has at most.
const maxKey = 200

// key reports a key that cannot be told from others in a line of text, or is no key at all.
func (v *validator) key(at path, key string) {
	switch {
	case len(key) > maxKey:
		v.report(at("key"), "%.40q… is longer than %d bytes", key, maxKey)
	case strings.ContainsFunc(key, unicode.IsControl):
		v.report(at("key"), "%q has a line break, a tab or the like in it; a key is one line of text", key)
	case strings.TrimSpace(key) != key:
		v.report(at("key"), "%q begins or ends with a space", key)
	}
}

type keys map[string]bool

// unique adds the key of a part to those seen, and reports one that is empty or there already.
func (v *validator) unique(seen keys, at path, key string) { v.distinctIn(seen, at, "key", key) }

// distinctIn is unique for what is told apart by another field.
func (v *validator) distinctIn(seen keys, at path, field, text string) {
	switch {
	case text == "":
		v.report(at(field), "is empty; every one needs a %s", field)
	case seen[text]:
		v.report(at(field), "%q stands twice", text)
	}
	seen[text] = true
}

// count reports a list that is longer than it may be.
func (v *validator) count(at path, field string, n, most int) {
	if n > most {
		v.report(at(field), "%d are too many; %d is the most", n, most)
	}
}

// webAddress keeps out addresses that would run a script when followed.
func (v *validator) webAddress(at path, address string) {
	if !strings.HasPrefix(address, "https://") && !strings.HasPrefix(address, "http://") {
		v.report(at("address"), "%q is not an address that starts with http:// or https://", address)
		return
	}
	// What RFC 3986 has in no address: copied with one that is quoted, or meant to break out of one.
	if i := strings.IndexFunc(address, func(r rune) bool { return r <= ' ' || r == 0x7f || strings.ContainsRune("\"<>\\^`{|}", r) }); i >= 0 {
		v.report(at("address"), "%q has %q in it, which no address may have; leave it out, or write it as %%%02X", address, address[i:i+1], address[i])
	}
}

func (v *validator) dated(at path, field string, d Date) {
	if d.IsZero() {
		v.report(at(field), "has no date")
	}
	v.possible(at, field, d)
}

// possible reports a date, where there is one, that nobody can mean.
func (v *validator) possible(at path, field string, d Date) {
	if !d.IsZero() && (d < firstDay || d > lastDay) {
		v.report(at(field), "%s does not lie between %s and %s", d, firstDay, lastDay)
	}
}

func (v *validator) atMost(at path, field string, n *int) {
	if n != nil && (*n < 0 || *n > maxAmount) {
		v.report(at(field), "%d is not between 0 and %d", *n, maxAmount)
	}
}

func (v *validator) span(at path, from string, start Date, to string, end Date) {
	v.dated(at, from, start)
	v.dated(at, to, end)
	if !end.IsZero() && end < start {
		v.report(at(to), "%s is before the first day, %s", end, start)
	}
}

func (v *validator) filled(at path, field, text string) {
	if text == "" {
		v.report(at(field), "is empty")
	}
}

func (v *validator) share(at path, field string, n *float64) {
	if n != nil && !(*n > 0 && *n <= 1) {
		v.report(at(field), "%v is not above 0 and at most 1", *n)
	}
}

// growth reports a share by which scope is taken to grow that is none.
func (v *validator) growth(at path, n *float64) {
	if n != nil && !(*n >= 0 && *n <= 1) {
		v.report(at("growth"), "%v is not between 0 and 1", *n)
	}
}

// amount reports whether n, if there is one, is an amount of work or time.
func amount(n *float64) bool {
	return n == nil || *n >= 0 && *n <= maxAmount
}

func (v *validator) atLeastZero(at path, field string, n *float64) {
	if !amount(n) {
		v.report(at(field), "%s is not a number from 0 to %d", strconv.FormatFloat(*n, 'f', -1, 64), maxAmount)
	}
}

func oneOf[T ~string](v *validator, path string, value T, allowed []T) {
	if !slices.Contains(allowed, value) {
		v.report(path, "%q is none of %s", value, strings.Join(words(allowed), ", "))
	}
}
