// Package plan is a program resolved: what everything that computes has to look up, worked
// out once a revision and shared by all who ask.
package plan

import (
	"maps"
	"sync"

	"jantrel/core/calendar"
	"jantrel/core/program"
)

// Plan is a Program with what is known of it. Like the Program it is never altered, but for
// what is remembered; it may be asked by any number at once.
type Plan struct {
	program.Program

	// Gone are the keys of items that were removed. They are not given to others: what is
	// kept of an item beside the program, its history and its files, is found by its key.
	Gone map[string]bool

	of     *Plan         // of a whole plan: the one whose rough sizes it spells out
	pieces map[int]Piece // of a whole plan: which of its items are pieces

	mu    sync.Mutex
	known map[*question]*memory
}

// question is what is remembered; ofCalendar says that items and needs do not matter to it.
type question struct{ ofCalendar bool }

type memory struct {
	once  sync.Once
	value any
}

// Of resolves a program. What is known of it is worked out when it is first asked for.
func Of(p program.Program) *Plan { return &Plan{Program: p} }

// After is Of for a program that an edit made of another plan's: what hangs on the calendar
// alone and has not changed is not worked out again. Of a whole plan only places may change.
func After(before *Plan, p program.Program) *Plan {
	next := Of(p)
	next.Gone, next.of, next.pieces = before.Gone, before.of, before.pieces
	if !sameCalendar(&before.Program, &p) {
		return next
	}
	before.mu.Lock()
	defer before.mu.Unlock()
	next.known = map[*question]*memory{}
	for q, m := range before.known {
		if q.ofCalendar {
			next.known[q] = m
		}
	}
	return next
}

// Without notes that items have been removed, in a set of its own: those of before are shared.
func (p *Plan) Without(items []string) {
	if len(items) == 0 {
		return
	}
	gone := make(map[string]bool, len(p.Gone)+len(items))
	maps.Copy(gone, p.Gone)
	for _, key := range items {
		gone[key] = true
	}
	p.Gone = gone
}

// sameCalendar reports whether two programs share the lists that time hangs on: an edit
// copies a list that it writes to, and leaves the others as they are.
func sameCalendar(a, b *program.Program) bool {
	return shared(a.Teams, b.Teams) && shared(a.People, b.People) && shared(a.Cadences, b.Cadences) && shared(a.Holidays, b.Holidays)
}

func shared[T any](a, b []T) bool { return len(a) == len(b) && (len(a) == 0 || &a[0] == &b[0]) }

// Once returns compute as a function that works each plan out once, and remembers. The value
// is shared: who asks must not write to it.
func Once[T any](compute func(*Plan) T) func(*Plan) T { return remembered(&question{}, compute) }

// OnceOfCalendar is Once for what hangs on teams, people, cadences and holidays alone: it is
// remembered over edits that leave these as they are.
func OnceOfCalendar[T any](compute func(*Plan) T) func(*Plan) T {
	return remembered(&question{ofCalendar: true}, compute)
}

func remembered[T any](q *question, compute func(*Plan) T) func(*Plan) T {
	return func(p *Plan) T {
		if q.ofCalendar && p.of != nil {
			p = p.of
		}
		p.mu.Lock()
		m := p.known[q]
		if m == nil {
			if p.known == nil {
				p.known = map[*question]*memory{}
			}
			m = &memory{}
			p.known[q] = m
		}
		p.mu.Unlock()
		m.once.Do(func() { m.value = compute(p) })
		return m.value.(T)
	}
}

var (
	tree    = Once(func(p *Plan) program.Tree { return program.TreeOf(p.Program) })
	teams   = OnceOfCalendar(func(p *Plan) map[string]int { return p.TeamIndex() })
	slots   = OnceOfCalendar(slotsOf)
	placing = Once(placesOf)
	loads   = Once(loadsOf)
)

// Tree is how the items hang together.
func (p *Plan) Tree() program.Tree { return tree(p) }

// TeamAt is the position of each team by key.
func (p *Plan) TeamAt() map[string]int { return teams(p) }

// Place is an iteration, and where it stands.
type Place struct {
	Team int // position of the team in the program
	Slot int // position of the iteration in the team
	calendar.Span
}

type slot struct{ team, iteration string }

func slotsOf(p *Plan) map[slot]Place {
	n := 0
	for t := range p.Teams {
		n += len(p.Teams[t].Iterations)
	}
	places := make(map[slot]Place, n)
	for t := range p.Teams {
		for s, it := range p.Teams[t].Iterations {
			places[slot{p.Teams[t].Key, it.Key}] = Place{t, s, it.Span()}
		}
	}
	return places
}

// Slot is the place of an iteration of a team, and whether there is one.
func (p *Plan) Slot(team, iteration string) (Place, bool) {
	place, ok := slots(p)[slot{team, iteration}]
	return place, ok
}

type placed struct {
	Place
	is bool
}

func placesOf(p *Plan) []placed {
	at := slots(p)
	list := make([]placed, len(p.Items))
	for i := range p.Items {
		if item := &p.Items[i]; item.Iteration != "" {
			list[i].Place, list[i].is = at[slot{item.Team, item.Iteration}]
		}
	}
	return list
}

// Place is where the item at position i stands, and whether it is placed.
func (p *Plan) Place(i int) (Place, bool) {
	at := &placing(p)[i]
	return at.Place, at.is
}

// Loads are the sums of sizes placed in iterations.
type Loads struct {
	Size    [][]float64 // done items included, kept out ones not; as [team][iteration]
	Unsized [][]int     // how many there have no size
}

// Loads returns what is placed in each iteration, rough sizes included.
func (p *Plan) Loads() Loads { return loads(p.Whole()) }

func loadsOf(p *Plan) Loads {
	l := Loads{make([][]float64, len(p.Teams)), make([][]int, len(p.Teams))}
	for t := range p.Teams {
		n := len(p.Teams[t].Iterations)
		l.Size[t], l.Unsized[t] = make([]float64, n), make([]int, n)
	}
	tree := p.Tree()
	for i := range p.Items {
		item := &p.Items[i]
		place, ok := p.Place(i)
		switch {
		case !ok || item.KeptOut || !tree.IsLeaf(i):
		case item.Size != nil:
			l.Size[place.Team][place.Slot] += *item.Size
		default:
			l.Unsized[place.Team][place.Slot]++
		}
	}
	return l
}
