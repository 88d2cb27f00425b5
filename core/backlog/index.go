// Package backlog makes the ranked list: which items, in which order, under which
// heads, with what they add up to; and the edits that shape it.
package backlog

import (
	"strings"
	"sync"

	"jantrel/core/calendar"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/ready"
)

// Index is a program with what has to be looked up for the values of its items'
// fields. It is made once a revision and read by any number at once.
type Index struct {
	p    *plan.Plan
	tree program.Tree
	o    Options

	lacks   func() [][]ready.Lack
	rough   func() map[int][]plan.RoughState // by the position of the item that has them
	needs   map[string][]string              // item to what it needs
	wanted  map[string][]string              // item to what needs it
	names   map[string]map[string]string     // kind of thing ("team", "release", "person") to key to name
	units   map[string]program.Unit
	words   func() []string // what the search box looks in, in small letters
	ordinal []int           // rank, counted from 1 over leaves; 0 for groups

	positions map[string]map[string]int // field to value to its place among all
}

// Options are what a list depends on beside the program.
type Options struct {
	Today   program.Date            // the day the plan is seen on
	Clock   program.Date            // the day it really is; "changed" is compared with it
	Changed map[string]program.Date // when an item was last changed; missing: not since it came
}

// NewIndex indexes a program.
func NewIndex(p *plan.Plan, o Options) *Index {
	x := &Index{
		p: p, tree: p.Tree(), o: o, needs: map[string][]string{}, wanted: map[string][]string{},
		units: map[string]program.Unit{},
		names: map[string]map[string]string{"team": {}, "release": {}, "person": {}},
	}
	// Most lists and charts ask for neither.
	x.lacks = sync.OnceValue(func() [][]ready.Lack { return ready.Check(p) })
	x.rough = sync.OnceValue(func() map[int][]plan.RoughState {
		by := map[int][]plan.RoughState{}
		for _, s := range plan.Roughs(p) {
			by[s.Item] = append(by[s.Item], s)
		}
		return by
	})
	for _, n := range p.Needs {
		x.needs[n.Item] = append(x.needs[n.Item], n.Needs)
		x.wanted[n.Needs] = append(x.wanted[n.Needs], n.Item)
	}
	for _, t := range p.Teams {
		x.names["team"][t.Key], x.units[t.Key] = t.Name, t.Unit
	}
	for _, r := range p.Releases {
		x.names["release"][r.Key] = r.Name
	}
	states := []string{string(program.Todo), string(program.Doing), string(program.Review), string(program.Done)}
	kinds := []string{string(program.Initiative), string(program.Feature)}
	for _, kind := range program.LeafKinds() {
		kinds = append(kinds, string(kind))
	}
	x.positions = map[string]map[string]int{"state": places(states), "kind": places(kinds), "priority": places(p.Settings.Priorities),
		"team": places(keysOf(p.Teams, func(t program.Team) string { return t.Key })), "release": places(keysOf(p.Releases, func(r program.Release) string { return r.Key }))}
	for _, person := range p.People {
		x.names["person"][person.Key] = person.Name
	}
	x.words, x.ordinal = sync.OnceValue(func() []string { return wordsOf(p) }), make([]int, len(p.Items))
	n := 0
	for i := range p.Items {
		if x.tree.IsLeaf(i) {
			n++
			x.ordinal[i] = n
		}
	}
	return x
}

func wordsOf(p *plan.Plan) []string {
	words := make([]string, len(p.Items))
	for i := range p.Items {
		item := &p.Items[i]
		words[i] = strings.ToLower(item.Key + "\n" + item.Title + "\n" + strings.Join(item.Tags, "\n"))
	}
	return words
}

// With returns the index of the same program with other options.
func (x *Index) With(o Options) *Index {
	other := *x
	other.o = o
	return &other
}

func keysOf[T any](list []T, key func(T) string) []string {
	keys := make([]string, len(list))
	for i, x := range list {
		keys[i] = key(x)
	}
	return keys
}

func places(values []string) map[string]int {
	at := make(map[string]int, len(values))
	for i, v := range values {
		at[v] = i + 1
	}
	return at
}

// Plan returns the plan that is indexed.
func (x *Index) Plan() *plan.Plan { return x.p }

// Tree returns how its items hang together.
func (x *Index) Tree() program.Tree { return x.tree }

// under is the item itself, if it is of a kind, or its nearest parent that is.
func (x *Index) under(i int, kind program.ItemKind) string {
	if at := x.tree.Nearest(i, kind); at >= 0 {
		return x.p.Items[at].Key
	}
	return ""
}

func (x *Index) span(i int) (calendar.Span, bool) {
	place, ok := x.p.Place(i)
	return place.Span, ok
}

// spanOf is the days of an iteration of a team; none where there is no such.
func (x *Index) spanOf(team, iteration string) calendar.Span {
	place, _ := x.p.Slot(team, iteration)
	return place.Span
}

// label is what an iteration of a team is called; empty where there is no such.
func (x *Index) label(team, iteration string) string {
	place, ok := x.p.Slot(team, iteration)
	if !ok {
		return ""
	}
	return x.p.Teams[place.Team].Iterations[place.Slot].Label()
}

// position is the place of a value among those that a field can have.
func (x *Index) position(field, value string) int {
	return x.positions[field][value]
}
