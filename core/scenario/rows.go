package scenario

import (
	"encoding/json"

	"jantrel/core/program"
)

// Class is what sort of thing a change does, for choosing among many.
type Class string

// The classes.
const (
	InOut    Class = "scope"    // items that come and go, or change their release
	Places   Class = "places"   // where items stand
	Sizes    Class = "sizes"    // how large they are
	Ranks    Class = "ranks"    // which comes before which
	Needs    Class = "needs"    // who waits for whom
	Capacity Class = "capacity" // teams, people, iterations
	Dates    Class = "dates"    // releases, milestones, promises
	Progress Class = "progress" // how far items are, hours, tasks
	Words    Class = "words"    // what is said of items, comments, risks
	SetUp    Class = "set-up"   // the program itself
)

// classes are those of whole kinds.
var classes = map[program.Kind]Class{
	program.KindProgram: SetUp, program.KindCadence: SetUp,
	program.KindTeam: Capacity, program.KindIteration: Capacity, program.KindPerson: Capacity,
	program.KindRelease: Dates, program.KindMilestone: Dates, program.KindPromise: Dates,
	program.KindNeed: Needs, program.KindTimeEntry: Progress,
	program.KindComment: Words, program.KindRisk: Words, program.KindSnooze: Words,
}

// ofItems are the classes of an item's fields; of others it is Words.
var ofItems = map[string]Class{
	"iteration": Places, "team": Places, "pinned": Places, "notBefore": Places, "keptOut": InOut,
	"release": InOut, "parent": InOut, "size": Sizes, "rough": Sizes,
	"state": Progress, "step": Progress, "began": Progress, "doneOn": Progress, "tasks": Progress, "checks": Progress, "due": Dates,
}

// ClassOf says what sort of thing a change does.
func ClassOf(c program.Change) Class {
	switch class, known := classes[c.Kind]; {
	case known:
		return class
	case c.Op == program.Add || c.Op == program.Remove:
		return InOut
	case c.Op == program.Move:
		return Ranks
	}
	if class, known := ofItems[c.Field]; known {
		return class
	}
	return Words
}

// Row is one of a scenario's changes, with what is to be known for choosing it.
type Row struct {
	Part
	Class   Class           `json:"class"`
	Release string          `json:"release,omitempty"` // of items and what is of them: the release that they are for, by their own or a parent's
	Name    string          `json:"name"`              // what people call the thing
	Title   string          `json:"title,omitempty"`   // of items
	Before  json.RawMessage `json:"before,omitempty"`  // of a field: as the scenario began with it
	Value   json.RawMessage `json:"value,omitempty"`   // of a field: as the scenario has it
	There   bool            `json:"there,omitempty"`   // the live plan has it so by now
}

// Rows are the changes of a scenario that somebody meant, in the order of Changed: what merely follows from what goes
// comes along with that.
func Rows(l Lines, m Merged) []Row {
	base, mine := homesOf(l.Base), homesOf(l.Mine.Program)
	live := l.Live.Refs()
	laid := map[Part]bool{}
	for _, c := range program.Between(l.Live.Program, l.Mine.Program) {
		laid[PartOf(c)] = true
	}
	rows := []Row{}
	merging := merger{Lines: l}
	for _, c := range merging.meant(m.Changed) {
		row := Row{Part: PartOf(c), Class: ClassOf(c), Name: l.Mine.Program.Called(c.Ref)}
		if c.Op == program.Remove {
			row.Name = l.Base.Called(c.Ref)
		}
		key := c.Key
		if c.Kind == program.KindNeed || c.Kind == program.KindComment {
			key = c.In
		}
		at := mine[key]
		if at == nil {
			at = base[key]
		}
		if at != nil && (c.Kind == program.KindItem || key == c.In) {
			row.Release, row.Title = at.release, at.title
		}
		if c.Op == program.Set {
			row.Before, row.Value = program.FieldIn(l.Base, c.Ref, c.Field), c.Value
		}
		switch c.Op {
		case program.Remove:
			row.There = !live[c.Ref]
		default:
			row.There = live[c.Ref] && !laid[row.Part] && !laid[Part{c.Ref, program.Add, ""}]
		}
		rows = append(rows, row)
	}
	return rows
}

// home is what an item is for and what it is called.
type home struct{ release, title string }

func homesOf(p program.Program) map[string]*home {
	tree := program.TreeOf(p)
	found := make(map[string]*home, len(p.Items))
	for i := range p.Items {
		found[p.Items[i].Key] = &home{tree.Release(i), p.Items[i].Title}
	}
	return found
}
