// Package track folds the journal into series: what became of the work of an iteration since
// it was started, step by step. Nothing is kept beside the journal; a series is computed from
// the program as it is and the edits that led there.
package track

import (
	"cmp"
	"encoding/json"
	"maps"
	"slices"
	"time"

	"jantrel/core/program"
)

// Event is an edit of the journal, as far as the series go by it.
type Event struct {
	Revision int64
	At       time.Time
	By       string // who, for people
	Why      string // the reason that they gave for it; empty: none

	changes []change
	opened  []place // iterations that it opens, those opened again left out
	closed  []place // iterations that it closes
}

// change is what an edit does to an item, forth and back. Values are read once, however often
// series are folded.
type change struct {
	key         string
	forth, back func(cards)
}

// NewEvent is an edit that made some changes.
func NewEvent(revision int64, at time.Time, by string, changes []program.Applied) Event {
	e := Event{Revision: revision, At: at, By: by}
	for i := range changes {
		c, was := &changes[i].Change, &changes[i].Inverse
		switch {
		case c.Kind == program.KindItem:
			e.changes = append(e.changes, change{c.Key, making(c), making(was)})
		case c.Kind == program.KindIteration && c.Op == program.Set && c.Field == "state":
			of := place{c.In, c.Key}
			switch from, to := read[program.IterationState](was.Value), read[program.IterationState](c.Value); {
			case to == program.Open && from != program.Closed:
				e.opened = append(e.opened, of)
			case to == program.Closed:
				e.closed = append(e.closed, of)
			}
		}
	}
	return e
}

// place names an iteration of a team.
type place struct{ team, iteration string }

// card is what the series need to know of an item.
type card struct {
	there     bool // it exists
	team      string
	iteration string
	parent    string
	release   string
	noRelease bool
	rough     bool    // it is planned by pieces while it is not done
	size      float64 // in the team's unit; 0 where it has none
	sized     bool
	hours     float64 // left of its tasks, as far as estimated
	state     program.ItemState
	step      string // of the state, as the item names it
	keptOut   bool
	blocked   bool
}

// at is the iteration that the item counts in; none where it has no place.
func (c card) at() place {
	if !c.there || c.keptOut || c.iteration == "" {
		return place{}
	}
	return place{c.team, c.iteration}
}

func cardOf(item *program.Item) card {
	c := card{there: true, team: item.Team, iteration: item.Iteration, parent: item.Parent, release: item.Release, noRelease: item.NoRelease, rough: len(item.Rough) > 0, state: item.State, step: item.Step, keptOut: item.KeptOut, blocked: item.Blocked != "", hours: hoursOf(item.Tasks)}
	if item.Size != nil {
		c.size, c.sized = *item.Size, true
	}
	if c.state == "" {
		c.state = program.Todo
	}
	return c
}

// setters read what a card holds of an item, by the item's fields.
var setters = map[string]func(value json.RawMessage) func(*card){
	"team":      setter(func(c *card, v string) { c.team = v }),
	"iteration": setter(func(c *card, v string) { c.iteration = v }),
	"parent":    setter(func(c *card, v string) { c.parent = v }),
	"release":   setter(func(c *card, v string) { c.release = v }),
	"noRelease": setter(func(c *card, v bool) { c.noRelease = v }),
	"rough":     setter(func(c *card, v []program.Rough) { c.rough = len(v) > 0 }),
	"size": setter(func(c *card, v *float64) {
		c.size, c.sized = 0, v != nil
		if v != nil {
			c.size = *v
		}
	}),
	"tasks":   setter(func(c *card, v []program.Task) { c.hours = hoursOf(v) }),
	"state":   setter(func(c *card, v program.ItemState) { c.state = cmp.Or(v, program.Todo) }),
	"step":    setter(func(c *card, v string) { c.step = v }),
	"keptOut": setter(func(c *card, v bool) { c.keptOut = v }),
	"blocked": setter(func(c *card, v string) { c.blocked = v != "" }),
}

func setter[T any](set func(*card, T)) func(json.RawMessage) func(*card) {
	return func(value json.RawMessage) func(*card) {
		v := read[T](value)
		return func(c *card) { set(c, v) }
	}
}

// Fields are those of items whose changes the series go by.
var Fields = slices.Sorted(maps.Keys(setters))

// cards are all items, by key.
type cards map[string]card

func cardsOf(p program.Program) cards {
	all := make(cards, len(p.Items))
	for i := range p.Items {
		all[p.Items[i].Key] = cardOf(&p.Items[i])
	}
	return all
}

// making reads a change of an item: what it makes of the cards.
func making(c *program.Change) func(cards) {
	key := c.Key
	switch c.Op {
	case program.Add:
		var item program.Item
		_ = json.Unmarshal(c.Value, &item) // the journal holds what was an item
		added := cardOf(&item)
		return func(cs cards) { cs[key] = added }
	case program.Remove:
		return func(cs cards) { delete(cs, key) }
	case program.Set:
		if setter, ok := setters[c.Field]; ok {
			set := setter(c.Value)
			return func(cs cards) {
				item := cs[key]
				set(&item)
				cs[key] = item
			}
		}
	}
	return func(cards) {}
}

// read is the value of a field; what it is without one, where there is none.
func read[T any](value json.RawMessage) (v T) {
	if value != nil {
		_ = json.Unmarshal(value, &v) // null leaves it as it is
	}
	return v
}
