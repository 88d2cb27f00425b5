package act

import (
	"encoding/json"
	"errors"
	"fmt"
	"strings"

	"jantrel/core/backlog"
	"jantrel/core/intake"
	"jantrel/core/program"
)

// Enter writes cells of text into fields of items: a row for each item, a cell for each
// field. A single row is for all of them.
type Enter struct {
	Keys   []string   `json:"keys"`   // the items
	Fields []string   `json:"fields"` // the fields that cells are entered in
	Cells  [][]string `json:"cells"`  // a row for each item, a cell for each field; a single row is for all

	Asks bool        `json:"asks,omitempty"` // whoever enters states can be asked first what these ask; else nothing is asked
	Step StepAnswers `json:"step,omitzero"`  // what was answered
}

// Plan implements Intent. What was typed over a text that somebody else has changed since
// is in conflict. Where items go to another step and somebody is to be asked something first, it changes nothing.
func (e Enter) Plan(s State) (Plan, error) {
	if len(e.Fields) > len(backlog.Fields) {
		return Plan{}, fmt.Errorf("cells are entered in %d fields; an item has %d", len(e.Fields), len(backlog.Fields))
	}
	if len(e.Cells) != len(e.Keys) && len(e.Cells) != 1 {
		return Plan{}, fmt.Errorf("there are %d rows of cells for %d items", len(e.Cells), len(e.Keys))
	}
	t := intake.Table{Columns: append([]string{"key"}, e.Fields...), Rows: make([][]string, len(e.Keys))}
	for i, key := range e.Keys {
		cells := e.Cells[0]
		if len(e.Cells) > 1 {
			cells = e.Cells[i]
		}
		t.Rows[i] = append([]string{key}, cells...)
	}
	r := intake.Read(s.Index(), t, intake.Options{Today: s.Today, OnlyKnown: true})
	if len(r.Problems) > 0 {
		return Plan{}, cellError(t, r.Problems)
	}
	titles := make([]string, len(e.Fields))
	for i, name := range e.Fields {
		if field, ok := backlog.FieldOf(name); ok {
			titles[i] = field.Title
		}
	}
	label := fmt.Sprintf("%s of %s", strings.Join(titles, ", "), these(e.Keys))
	goes := s.goes(r.Changes)
	if e.Asks {
		if ask := asks(s, goes, e.Step); ask != nil {
			return asking(label, ask, r.Changes)
		}
	}
	p, err := made(label, append(r.Changes, answered(s, goes, e.Step)...), nil)
	p.Says = e.typed(r.Changes)
	return p.with(nil, r.Notes), err
}

// goes are the items that changes take to another step.
func (s State) goes(changes []program.Change) (goes []stepping) {
	course := s.Settings.Course()
	for _, c := range changes {
		at, known := s.Tree().Index[c.Key]
		if c.Kind != program.KindItem || c.Op != program.Set || c.Field != "state" || !known {
			continue
		}
		then := s.Items[at]
		if json.Unmarshal(c.Value, &then.State) != nil { // what cannot be read is refused when it is applied
			continue
		}
		if g := (stepping{&s.Items[at], program.StepOf(course, &s.Items[at]), program.StepOf(course, &then)}); g.at != g.to {
			goes = append(goes, g)
		}
	}
	return goes
}

// typed are the changes that say what was typed; others follow, as the day on which
// something was done follows from its state.
func (e Enter) typed(changes []program.Change) (says []program.Change) {
	entered := map[string]bool{}
	for _, name := range e.Fields {
		entered[name] = true
	}
	for _, c := range changes {
		if c.Kind != program.KindItem || entered[c.Field] {
			says = append(says, c)
		}
	}
	return says
}

// cellError names the first cells that are wrong.
func cellError(t intake.Table, problems []intake.Problem) error {
	const most = 3
	var lines []string
	for i, problem := range problems {
		if i == most {
			lines = append(lines, fmt.Sprintf("and %d more", len(problems)-most))
			break
		}
		text := problem.Text
		if problem.Row >= 0 {
			text = t.Rows[problem.Row][0] + ": " + text
		}
		lines = append(lines, text)
	}
	return errors.New(strings.Join(lines, "; "))
}
