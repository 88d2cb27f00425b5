package act

import (
	"encoding/json"
	"slices"

	"jantrel/core/program"
)

// Dated adds to changes what follows for the days of items from the states that these come to: see program.Item.Stepped.
// What the changes themselves say of a day stands. The time is linear in the changes.
func (s State) Dated(changes []program.Change) []program.Change {
	type item struct {
		program.Item
		from         program.ItemState
		began, ended bool // said
	}
	items, order := map[string]*item{}, []string{}
	of := func(c *program.Change) *item {
		x := items[c.Key]
		if x == nil {
			x = &item{}
			if i, ok := s.Tree().Index[c.Key]; ok {
				x.Item = s.Items[i]
			}
			x.from = x.State
			items[c.Key], order = x, append(order, c.Key)
		}
		return x
	}
	for i := range changes {
		c := &changes[i]
		if c.Kind != program.KindItem {
			continue
		}
		switch {
		case c.Op == program.Add: // what its text says stands
			x := of(c)
			x.Item = program.Item{}              // what the program holds is never written to
			_ = json.Unmarshal(c.Value, &x.Item) // one that cannot be read is refused when it is applied
			x.from = x.State
		case c.Op == program.Remove:
			x := of(c)
			x.from = x.State
		case c.Op == program.Set && c.Field == "state":
			x := of(c)
			x.State = ""
			_ = json.Unmarshal(c.Value, &x.State)
		case c.Op == program.Set && c.Field == "began":
			of(c).began = true
		case c.Op == program.Set && c.Field == "doneOn":
			of(c).ended = true
		}
	}
	added := false
	for _, key := range order {
		x := items[key]
		began, done := x.Began, x.DoneOn
		x.Stepped(x.from, s.Today)
		for _, day := range []struct {
			field   string
			said    bool
			was, is program.Date
		}{{"began", x.began, began, x.Began}, {"doneOn", x.ended, done, x.DoneOn}} {
			if day.said || day.was == day.is {
				continue
			}
			if !added {
				changes, added = slices.Clone(changes), true
			}
			changes = append(changes, program.SetTo(itemRef(key), day.field, orNone(day.is)))
		}
	}
	return changes
}
