// Package intake turns what people write elsewhere into changes: tables, cells
// pasted from a spreadsheet, and outlines.
package intake

import (
	"cmp"
	"errors"
	"fmt"
	"slices"
	"strings"

	"jantrel/core/backlog"
	"jantrel/core/gate"
	"jantrel/core/needs"
	"jantrel/core/plan"
	"jantrel/core/program"
)

// Table is rows of text with the field that each column holds.
type Table struct {
	Columns []string   `json:"columns"` // the field of each column; empty for one that is left out
	Rows    [][]string `json:"rows"`    // cells as text; a row may end early
}

// Options steer an intake.
type Options struct {
	Today       program.Date
	MakeParents bool // features are made for parents that do not exist
	OnlyKnown   bool // every row must be of an item that exists: cells of the list itself
}

// RowState is what taking a row in would do.
type RowState string

// The states of a row.
const (
	New       RowState = "new"
	Changed   RowState = "changed"
	Unchanged RowState = "unchanged"
	Wrong     RowState = "wrong" // it has a problem
	Empty     RowState = "empty"
)

// Problem is what is wrong with a cell.
type Problem struct {
	Row    int    `json:"row"`    // counted from 0 over the rows; -1: of the whole
	Column int    `json:"column"` // counted from 0; -1: of the whole row
	Text   string `json:"text"`
}

// Result is what taking a table in would do. Nothing can be applied while there are
// problems.
type Result struct {
	Changes  []program.Change `json:"-"`
	Rows     []RowState       `json:"rows"`
	Keys     []string         `json:"keys"` // the key of each row, made up for new ones; empty for empty rows
	Problems []Problem        `json:"problems"`
	Notes    []string         `json:"notes"`
	Counts   map[RowState]int `json:"counts"`
}

// titles are other headings that fields go by, in small letters without spaces.
var titles = map[string]string{
	"id": "key", "name": "title", "summary": "title", "item": "title", "type": "kind", "estimate": "size", "points": "size", "days": "size", "hours": "size",
	"sprint": "iteration", "status": "state", "epic": "parent", "group": "parent", "dependson": "needs", "dependencies": "needs", "blockedby": "needs",
	"labels": "tags", "duedate": "due", "owner": "assignee", "assignee": "assignee", "skill": "role", "notes": "description", "deadline": "due",
}

// Guess returns the field of each heading: the one of that name or title, whatever
// the case, or one that often goes by it; each field once, empty where none fits.
func Guess(headings []string) []string {
	columns := make([]string, len(headings))
	taken := map[string]bool{}
	plain := func(s string) string {
		return strings.Map(func(r rune) rune {
			if strings.ContainsRune(" _-./\t\u00a0", r) {
				return -1
			}
			return r
		}, strings.ToLower(strings.TrimSpace(s)))
	}
	take := func(i int, field string) {
		if field != "" && columns[i] == "" && !taken[field] {
			columns[i], taken[field] = field, true
		}
	}
	for i, heading := range headings {
		for _, f := range backlog.Fields {
			if f.Enter && (plain(heading) == plain(f.Title) || plain(heading) == strings.ToLower(f.Name)) {
				take(i, f.Name)
			}
		}
	}
	for i, heading := range headings {
		take(i, titles[plain(heading)])
		if plain(heading) == "feature" {
			take(i, "parent")
		}
	}
	return columns
}

// Read takes a table in. A row is of the item whose key it has, or else of a new
// one. A cell that says what the item has already changes nothing, so a list that
// was written by Field.Value comes back without a change; an empty one clears what
// the item has.
func Read(x *backlog.Index, t Table, o Options) Result {
	r := &reader{
		Result: Result{Rows: make([]RowState, len(t.Rows)), Keys: make([]string, len(t.Rows)), Problems: []Problem{}, Notes: []string{}, Counts: map[RowState]int{}},
		x:      x, p: x.Plan(), t: t, o: o, find: newFinder(x.Plan()), keys: backlog.NewKeys(x.Plan()), column: map[string]int{},
	}
	if r.columns(); len(r.Problems) > 0 {
		return r.Result
	}
	r.identify()
	for i := range t.Rows {
		if r.Keys[i] != "" {
			r.row(i)
		}
	}
	made := make([]program.Change, len(r.made))
	for i, item := range r.made {
		made[i] = program.AddOf(program.Ref{Kind: program.KindItem, Key: item.Key}, item)
	}
	r.Changes = slices.Concat(made, r.Changes, r.linked)
	if len(r.Problems) == 0 {
		r.judge()
	}
	for _, problem := range r.Problems {
		if problem.Row >= 0 {
			r.Rows[problem.Row] = Wrong
		}
	}
	for _, state := range r.Rows {
		r.Counts[state]++
	}
	return r.Result
}

type reader struct {
	Result
	x      *backlog.Index
	p      *plan.Plan
	t      Table
	o      Options
	find   *finder
	keys   *backlog.Keys
	column map[string]int // field to its column
	made   []program.Item // features made for parents
	linked []program.Change
}

func (r *reader) wrong(row, column int, format string, args ...any) {
	r.Problems = append(r.Problems, Problem{row, column, fmt.Sprintf(format, args...)})
}

func (r *reader) columns() {
	for i, name := range r.t.Columns {
		if name == "" {
			continue
		}
		field, ok := backlog.FieldOf(name)
		switch _, twice := r.column[name]; {
		case !ok:
			r.wrong(-1, i, "there is no field %q", name)
		case !field.Enter:
			r.wrong(-1, i, "%s is worked out; it cannot be entered", field.Title)
		case twice:
			r.wrong(-1, i, "%s is in two columns; leave one out", field.Title)
		default:
			r.column[name] = i
		}
	}
	_, key := r.column["key"]
	if _, title := r.column["title"]; !title && !key {
		r.wrong(-1, -1, "no column holds titles or keys; choose which one does")
	}
}

// cell is the text of a field in a row, and whether the table has such a column.
func (r *reader) cell(row int, field string) (string, bool) {
	column, ok := r.column[field]
	if !ok {
		return "", false
	}
	if column >= len(r.t.Rows[row]) {
		return "", true
	}
	return strings.TrimSpace(r.t.Rows[row][column]), true
}

// identify gives every row its key, before any is read: rows may name one another.
func (r *reader) identify() {
	first := map[string]int{}
	for i, row := range r.t.Rows {
		if !slices.ContainsFunc(row, func(s string) bool { return strings.TrimSpace(s) != "" }) {
			r.Rows[i] = Empty
			continue
		}
		r.Rows[i] = New
		key, _ := r.cell(i, "key")
		if key == "" {
			continue
		}
		if before, twice := first[key]; twice {
			r.wrong(i, r.column["key"], "%s stands in row %d already; a key stands once", key, before+1)
			continue
		}
		first[key], r.Keys[i] = i, key
		if _, known := r.x.Tree().Index[key]; known {
			r.Rows[i] = Unchanged
		} else {
			if r.o.OnlyKnown {
				r.wrong(i, -1, "there is no item %s any more", key)
			}
			if r.p.Gone[key] {
				r.wrong(i, r.column["key"], "%s was the key of an item that is gone; leave it empty, and the item gets one of its own", key)
			}
			r.keys.Take(key)
		}
	}
	for i := range r.t.Rows {
		if r.Rows[i] == Empty {
			continue
		}
		kind, team := program.Story, ""
		if text, _ := r.cell(i, "kind"); text != "" {
			kind, _ = kindOf(text)
		}
		if text, _ := r.cell(i, "team"); text != "" {
			team, _ = r.find.team(text)
		}
		if r.Keys[i] == "" && !r.hasProblem(i) {
			r.Keys[i] = r.keys.Next(cmp.Or(kind, program.Story), team)
		}
		if r.Keys[i] != "" && r.Rows[i] == New {
			title, _ := r.cell(i, "title")
			r.find.add(r.Keys[i], title, kind)
		}
	}
}

func (r *reader) hasProblem(row int) bool {
	return slices.ContainsFunc(r.Problems, func(x Problem) bool { return x.Row == row })
}

// row reads one row.
func (r *reader) row(i int) {
	at, known := r.x.Tree().Index[r.Keys[i]]
	item := program.Item{Key: r.Keys[i], Kind: program.Story, State: program.Todo}
	if known {
		item = r.p.Items[at]
	}
	before := item
	for _, f := range enterable {
		text, has := r.cell(i, f.Name)
		if !has || known && same(text, valueOf(f.Name, r.x, at)) || !known && text == "" {
			continue
		}
		if err := r.enter(&item, f, text); err != nil {
			r.wrong(i, r.column[f.Name], "%s", err)
		}
	}
	if !known && item.Title == "" {
		r.wrong(i, max(0, r.titleColumn()), "a new item needs a title")
	}
	r.settle(&item, before)
	r.needs(i, known)
	if r.hasProblem(i) {
		return
	}
	ref := program.Ref{Kind: program.KindItem, Key: item.Key}
	if !known {
		r.Changes = append(r.Changes, program.AddOf(ref, item))
		if keyText, _ := r.cell(i, "key"); keyText == "" && r.find.namesakes(item.Title) > 1 {
			r.note("Row %d has no key, and there is another item %q", i+1, item.Title)
		}
		return
	}
	changes := differences(ref, before, item)
	if len(changes) > 0 {
		r.Rows[i] = Changed
		r.Changes = append(r.Changes, changes...)
	}
}

func (r *reader) titleColumn() int {
	if at, ok := r.column["title"]; ok {
		return at
	}
	return -1
}

const maxNotes = 30

func (r *reader) note(format string, args ...any) {
	if len(r.Notes) < maxNotes {
		r.Notes = append(r.Notes, fmt.Sprintf(format, args...))
	}
}

func valueOf(name string, x *backlog.Index, at int) string {
	field, _ := backlog.FieldOf(name)
	return field.Value(x, at)
}

// same reports whether a cell says what a field has: but for space at the ends and
// the way in which lines end.
func same(cell, value string) bool {
	plain := func(s string) string {
		return strings.TrimSpace(strings.ReplaceAll(s, "\r\n", "\n"))
	}
	return plain(cell) == plain(value)
}

// settle keeps an item whole after what was entered: a place goes with its team,
// and what is done has a day on which it was.
func (r *reader) settle(item *program.Item, before program.Item) {
	if item.Team != before.Team && item.Iteration != "" && !r.find.hasIteration(item.Team, item.Iteration) {
		if before.Iteration == item.Iteration {
			r.note("%s goes to another team and loses its place in %s", item.Key,
				r.p.Called(program.Ref{Kind: program.KindIteration, In: before.Team, Key: before.Iteration}))
		}
		item.Iteration = ""
	}
	item.NoRelease = item.NoRelease && item.Release == ""
	if item.Iteration == "" {
		item.Pinned = item.Pinned && before.Iteration == ""
	}
	if before.Key != "" {
		item.Stepped(before.State, r.o.Today)
	} else if item.State == program.Done { // nobody knows when work on what is new here began
		item.DoneOn = cmp.Or(item.DoneOn, r.o.Today)
	}
}

// needs reads the column of needs: those that are named are added as asked, those
// that no longer are go.
func (r *reader) needs(i int, known bool) {
	text, has := r.cell(i, "needs")
	if !has || known && same(text, valueOf("needs", r.x, r.x.Tree().Index[r.Keys[i]])) {
		return
	}
	key, wanted := r.Keys[i], map[string]bool{}
	var order []string
	for _, name := range Words(text) {
		needed, ok := r.find.item(name)
		switch {
		case !ok:
			r.wrong(i, r.column["needs"], "there is no item %q to need", name)
		case needed == key:
			r.wrong(i, r.column["needs"], "%s cannot need itself", key)
		case !wanted[needed]:
			wanted[needed] = true
			order = append(order, needed)
		}
	}
	changed := false
	for _, n := range r.find.needsOf(key) {
		if !wanted[n] {
			r.linked = append(r.linked, program.Change{Op: program.Remove, Ref: program.Ref{Kind: program.KindNeed, In: key, Key: n}})
			changed = true
		}
		delete(wanted, n)
	}
	for _, n := range order {
		if wanted[n] {
			r.linked = append(r.linked, program.AddOf(program.Ref{Kind: program.KindNeed, In: key, Key: n}, program.Need{Item: key, Needs: n, Agreement: program.Asked}))
			changed = true
		}
	}
	if changed && r.Rows[i] == Unchanged {
		r.Rows[i] = Changed
	}
}

// about is the row and the column that a broken rule is about; −1: none.
func (r *reader) about(problem program.Problem) (row, column int) {
	if problem.Of.Kind != program.KindItem {
		return -1, -1
	}
	field := problem.Path[strings.LastIndexByte(problem.Path, '.')+1:]
	if at, ok := r.column[field]; ok {
		return slices.Index(r.Keys, problem.Of.Key), at
	}
	return slices.Index(r.Keys, problem.Of.Key), -1
}

// judge tries the changes and puts what breaks a rule to the row that it is about.
func (r *reader) judge() {
	_, _, err := gate.Try(r.p, r.Changes)
	var problems program.Problems
	var cycle *needs.CycleError
	switch {
	case err == nil:
	case errors.As(err, &problems):
		for _, problem := range problems {
			row, column := r.about(problem)
			text := problem.Text
			if row < 0 || column < 0 {
				text = problem.Words()
			}
			r.wrong(row, column, "%s", text)
		}
	case errors.As(err, &cycle):
		r.wrong(slices.Index(r.Keys, cycle.Keys[0]), r.column["needs"], "%s", cycle)
	default:
		r.wrong(-1, -1, "%s", err)
	}
}
