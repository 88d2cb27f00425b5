// Package track folds the journal into series: what became of the work of an iteration since
// it was started, step by step. Nothing is kept beside the journal; a series is computed from
// the program as it is and the edits that led there.
package track

import (
	"encoding/json"
	"time"

	"jantrel/core/program"
)

// Event is an edit of the journal.
type Event struct {
	Revision int64
	At       time.Time
	By       string // who, for people
	Changes  []program.Applied
}

// place names an iteration of a team.
type place struct{ team, iteration string }

// card is what the series need to know of an item.
type card struct {
	there     bool // it exists
	team      string
	iteration string
	size      float64 // in the team's unit; 0 where it has none
	state     program.ItemState
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
	c := card{there: true, team: item.Team, iteration: item.Iteration, state: item.State, keptOut: item.KeptOut, blocked: item.Blocked != ""}
	if item.Size != nil {
		c.size = *item.Size
	}
	if c.state == "" {
		c.state = program.Todo
	}
	return c
}

// cards are all items, by key.
type cards map[string]card

func cardsOf(p program.Program) cards {
	all := make(cards, len(p.Items))
	for i := range p.Items {
		all[p.Items[i].Key] = cardOf(&p.Items[i])
	}
	return all
}

// make makes a change of an item; others are none.
func (cs cards) make(c *program.Change) {
	if c.Kind != program.KindItem {
		return
	}
	switch c.Op {
	case program.Add:
		var item program.Item
		_ = json.Unmarshal(c.Value, &item) // the journal holds what was an item
		cs[c.Key] = cardOf(&item)
	case program.Remove:
		delete(cs, c.Key)
	case program.Set:
		item := cs[c.Key]
		switch c.Field {
		case "team":
			item.team = read[string](c.Value)
		case "iteration":
			item.iteration = read[string](c.Value)
		case "size":
			item.size = read[float64](c.Value)
		case "state":
			if item.state = read[program.ItemState](c.Value); item.state == "" {
				item.state = program.Todo
			}
		case "keptOut":
			item.keptOut = read[bool](c.Value)
		case "blocked":
			item.blocked = read[string](c.Value) != ""
		}
		cs[c.Key] = item
	}
}

// read is the value of a field; what it is without one, where there is none.
func read[T any](value json.RawMessage) (v T) {
	if value != nil {
		_ = json.Unmarshal(value, &v) // null leaves it as it is
	}
	return v
}
