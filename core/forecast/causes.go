package forecast

import (
	"cmp"
	"maps"
	"slices"

	"jantrel/core/plan"
	"jantrel/core/program"
)

// CausesQuestion asks what moved the forecast of some work between two days.
type CausesQuestion struct {
	Options              // Today and Past: of the later day
	Set     Set          // the work; its items and its due date are those of the later day
	Before  *plan.Plan   // the plan at the end of the earlier day
	On      program.Date // the earlier day
	Past    Past         // what the journal had taught by then
}

// Causes answers a CausesQuestion. The causes sum up to the difference, exactly.
type Causes struct {
	Plays  int     `json:"plays"`
	Before Footing `json:"before"`
	After  Footing `json:"after"`
	Causes []Cause `json:"causes"` // in the order in which they were made one after another; those that moved nothing and changed nothing left out
}

// Footing is how some work stands.
type Footing struct {
	Chance *float64 `json:"chance,omitempty"` // of landing by the due date, 0 to 1
	Days   float64  `json:"days"`             // from the later day to the mean landing
	Even   Date     `json:"even,omitzero"`    // the landing at even odds
	Safe   Date     `json:"safe,omitzero"`    // at 85 %
	Never  bool     `json:"never,omitempty"`  // it never lands
}

// Cause is a group of changes that moved a forecast.
type Cause struct {
	Kind   CauseKind `json:"kind"`
	Items  []string  `json:"items,omitempty"` // those that were changed so, by rank
	Chance *float64  `json:"chance,omitempty"`
	Days   float64   `json:"days"` // by which it lands later on average, below 0 earlier
}

// CauseKind is what sort of changes a cause is.
type CauseKind string

// The kinds, in the order in which they are made.
const (
	CausePeople   CauseKind = "people"   // who is there when: people, teams, holidays, iterations
	CauseTime     CauseKind = "time"     // time passing, and the work that was done in it
	CauseVelocity CauseKind = "velocity" // iterations started and closed, agreed velocities, and what the journal taught
	CauseScopeIn  CauseKind = "scopeIn"  // what came into the work, and everything else that is new
	CauseSizes    CauseKind = "sizes"    // sizes, rough ones too
	CauseNeeds    CauseKind = "needs"    // what waits for what
	CauseMoves    CauseKind = "moves"    // places, rank, teams, dates that items may not be begun before
	CauseRisks    CauseKind = "risks"    // what is played of risks
	CauseRules    CauseKind = "rules"    // settings, growth of releases
	CauseScopeOut CauseKind = "scopeOut" // what left the work, and everything else that is gone
	CauseDue      CauseKind = "due"      // due dates
)

// CausesOf splits what moved a forecast between two days into causes: the earlier plan is turned into the later one
// by one group of changes after another, and each of the plans between is played with the same luck. What a
// group moves depends on those made before it, so their order is always the same. The time is that of some
// dozen plays.
func CausesOf(after *plan.Plan, q CausesQuestion) Causes {
	o := q.Options
	o.Plays = cmp.Or(max(0, o.Plays), defaultPlays)
	c := causing{q: q, o: o, was: &q.Before.Program, is: &after.Program, inWas: membersOf(q.Before, q.Set), inIs: membersOf(after, q.Set)}
	now := *c.was
	causes := Causes{Plays: o.Plays, Causes: []Cause{}}
	past, today, due := q.Past, q.On, dueOf(c.was, q.Set)
	at := c.stand(q.Before, today, past, due)
	causes.Before = at
	step := func(kind CauseKind, items []string, next *plan.Plan) {
		then := c.stand(next, today, past, due)
		cause := Cause{Kind: kind, Items: items, Days: then.Days - at.Days}
		if then.Chance != nil && at.Chance != nil {
			points := *then.Chance - *at.Chance
			cause.Chance = &points
		}
		if cause.Days != 0 || cause.Chance != nil && *cause.Chance != 0 || len(items) > 0 {
			causes.Causes = append(causes.Causes, cause)
		}
		at = then
	}
	for _, group := range c.groups() {
		switch group.kind {
		case CauseVelocity:
			past = o.Past
		case CauseTime:
			today = o.Today
		case CauseDue:
			due = q.Set.Due
		}
		items := group.change(&now)
		next := plan.After(q.Before, now)
		if group.last {
			next = after
		}
		step(group.kind, items, next)
	}
	causes.After = at
	return causes
}

// causing turns one program into another, group by group.
type causing struct {
	q           CausesQuestion
	o           Options
	was, is     *program.Program
	inWas, inIs map[string]bool // the leaves of the work, by key, then and now
}

// membersOf are the leaves of a set in a plan, by key.
func membersOf(p *plan.Plan, set Set) map[string]bool {
	in := map[string]bool{}
	for _, i := range set.Leaves(p, func(i int) bool { return !p.Items[i].KeptOut }) {
		in[p.Items[i].Key] = true
	}
	return in
}

// dueOf is the due date of the work in a program: of a release its own, else that of the question.
func dueOf(p *program.Program, set Set) Date {
	if set.Release == "" {
		return set.Due
	}
	for i := range p.Releases {
		if p.Releases[i].Key == set.Release {
			return p.Releases[i].Due
		}
	}
	return 0
}

// stand plays a plan. Days are told from the later day on, whatever day it is played on.
func (c *causing) stand(p *plan.Plan, today Date, past Past, due Date) Footing {
	o := c.o
	o.Today, o.Past = today, past
	set := c.q.Set
	set.Due = due
	l, days := playAlone(p, o, set)
	return Footing{l.Chance, days + float64(today-c.o.Today), l.At(50), l.At(85), len(l.Cannot) > 0}
}

// changing is a group of changes: how it is made, and which items it changes.
type changing struct {
	kind   CauseKind
	last   bool
	change func(*program.Program) []string
}

// groups are the groups of changes, in the order in which they are made. Before the last ones what is gone is still
// there, so that nothing refers to what is not.
func (c *causing) groups() []changing {
	return []changing{
		{CausePeople, false, func(p *program.Program) []string {
			p.People, p.Holidays, p.Cadences = c.is.People, c.is.Holidays, c.is.Cadences
			p.Teams = c.teams(false)
			return nil
		}},
		{CauseTime, false, func(p *program.Program) []string {
			return c.fields(p, func(to, from *program.Item) bool {
				changed := to.State != from.State
				to.State, to.Step, to.Left, to.Tasks, to.Blocked, to.Began, to.DoneOn = from.State, from.Step, from.Left, from.Tasks, from.Blocked, from.Began, from.DoneOn
				return changed
			})
		}},
		{CauseVelocity, false, func(p *program.Program) []string { p.Teams = c.teams(true); return nil }},
		{CauseScopeIn, false, c.scopeIn},
		{CauseSizes, false, func(p *program.Program) []string {
			return c.fields(p, func(to, from *program.Item) bool {
				changed := !same(to.Size, from.Size) || !slices.EqualFunc(to.Rough, from.Rough, func(a, b program.Rough) bool { return a.Team == b.Team && a.Size == b.Size && a.Most() == b.Most() })
				to.Size, to.Rough = from.Size, from.Rough
				return changed
			})
		}},
		{CauseNeeds, false, func(p *program.Program) []string {
			p.Needs = c.is.Needs
			return c.fields(p, func(to, from *program.Item) bool {
				changed := !slices.Equal(to.Hinders, from.Hinders)
				to.Hinders = from.Hinders
				return changed
			})
		}},
		{CauseMoves, false, c.moves},
		{CauseRisks, false, func(p *program.Program) []string { p.Risks = c.is.Risks; return nil }},
		{CauseRules, false, func(p *program.Program) []string {
			p.Settings = c.is.Settings
			p.Releases = slices.Clone(p.Releases)
			for i := range p.Releases {
				if at := slices.IndexFunc(c.is.Releases, func(r program.Release) bool { return r.Key == p.Releases[i].Key }); at >= 0 {
					p.Releases[i].Growth = c.is.Releases[at].Growth
				}
			}
			return nil
		}},
		{CauseScopeOut, true, func(p *program.Program) []string {
			*p = *c.is
			var out []string
			for i := range c.was.Items {
				if key := c.was.Items[i].Key; c.inWas[key] && !c.inIs[key] {
					out = append(out, key)
				}
			}
			return out
		}},
		{CauseDue, true, func(*program.Program) []string { return nil }},
	}
}

// teams are the teams of both ends: as they are now, with iterations as these were, where velocities stay
// what they were; and those that are gone.
func (c *causing) teams(closed bool) []program.Team {
	was := map[string]*program.Team{}
	for i := range c.was.Teams {
		was[c.was.Teams[i].Key] = &c.was.Teams[i]
	}
	teams := slices.Clone(c.is.Teams)
	for t := range teams {
		before := was[teams[t].Key]
		if before == nil {
			continue
		}
		delete(was, teams[t].Key)
		if !closed {
			teams[t].Velocity, teams[t].AgreedDays = before.Velocity, before.AgreedDays
		}
		known := map[string]*program.Iteration{}
		for i := range before.Iterations {
			known[before.Iterations[i].Key] = &before.Iterations[i]
		}
		iterations := slices.Clone(teams[t].Iterations)
		for i := range iterations {
			it, old := &iterations[i], known[iterations[i].Key]
			delete(known, it.Key)
			switch {
			case closed:
			case old == nil:
				it.State, it.Completed, it.Committed, it.LeftOut = "", nil, nil, ""
			default:
				it.State, it.Completed, it.Committed, it.LeftOut = old.State, old.Completed, old.Committed, old.LeftOut
			}
		}
		for _, key := range slices.Sorted(maps.Keys(known)) {
			iterations = append(iterations, *known[key])
		}
		teams[t].Iterations = iterations
	}
	for i := range c.was.Teams {
		if was[c.was.Teams[i].Key] != nil {
			teams = append(teams, c.was.Teams[i])
		}
	}
	return teams
}

// fields takes some fields of the items that are there at both ends from the later one; change reports
// whether that changed anything worth telling.
func (c *causing) fields(p *program.Program, change func(to, from *program.Item) bool) (changed []string) {
	later := map[string]*program.Item{}
	for i := range c.is.Items {
		later[c.is.Items[i].Key] = &c.is.Items[i]
	}
	p.Items = slices.Clone(p.Items)
	for i := range p.Items {
		key := p.Items[i].Key
		if from := later[key]; from != nil && change(&p.Items[i], from) && (c.inWas[key] || c.inIs[key]) {
			changed = append(changed, key)
		}
	}
	return changed
}

// scopeIn adds what is new, each where it stands in the rank, and brings into the work what came into it. Below
// what it hangs from new things may be gone again.
func (c *causing) scopeIn(p *program.Program) []string {
	var came []string
	for i := range c.is.Items {
		if key := c.is.Items[i].Key; c.inIs[key] && !c.inWas[key] {
			came = append(came, key)
		}
	}
	was := map[string]bool{}
	for i := range p.Items {
		was[p.Items[i].Key] = true
	}
	fresh := map[string][]program.Item{} // what is new, behind which of those that were there
	last := ""
	for i := range c.is.Items {
		if was[c.is.Items[i].Key] {
			last = c.is.Items[i].Key
		} else {
			fresh[last] = append(fresh[last], c.is.Items[i])
		}
	}
	items := slices.Clone(fresh[""])
	for i := range p.Items {
		items = append(append(items, p.Items[i]), fresh[p.Items[i].Key]...)
	}
	p.Items = items
	c.fields(p, func(to, from *program.Item) bool {
		if !c.inWas[from.Key] && c.inIs[from.Key] {
			to.Release, to.NoRelease, to.Parent, to.KeptOut, to.Kind = from.Release, from.NoRelease, from.Parent, from.KeptOut, from.Kind
		}
		return false
	})
	p.Releases = union(p.Releases, c.is.Releases, func(r program.Release) string { return r.Key })
	return came
}

// union is the things of both ends, as they were where they were there.
func union[T any](was, is []T, key func(T) string) []T {
	all := slices.Clone(was)
	for _, x := range is {
		if !slices.ContainsFunc(was, func(w T) bool { return key(w) == key(x) }) {
			all = append(all, x)
		}
	}
	return all
}

// moves puts items where they stand now, in the rank too.
func (c *causing) moves(p *program.Program) []string {
	changed := c.fields(p, func(to, from *program.Item) bool {
		moved := to.Iteration != from.Iteration || to.Team != from.Team || to.Pinned != from.Pinned || to.NotBefore != from.NotBefore
		to.Iteration, to.Team, to.Pinned, to.NotBefore, to.RoughPlaces = from.Iteration, from.Team, from.Pinned, from.NotBefore, from.RoughPlaces
		return moved
	})
	at := map[string]int{}
	for i := range c.is.Items {
		at[c.is.Items[i].Key] = i
	}
	// What is gone goes along with what stands before it.
	place, last := make(map[string]int, len(p.Items)), -1
	for i := range p.Items {
		if rank, known := at[p.Items[i].Key]; known {
			last = rank
		}
		place[p.Items[i].Key] = last
	}
	slices.SortStableFunc(p.Items, func(a, b program.Item) int { return cmp.Compare(place[a.Key], place[b.Key]) })
	return changed
}

func same(a, b *float64) bool { return a == b || a != nil && b != nil && *a == *b }
