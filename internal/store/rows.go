package store

import (
	"database/sql/driver"
	"encoding/json"
	"fmt"
	"strings"

	"jantrel/core/program"
)

// day stores a date as YYYY-MM-DD, and none as the empty text.
type day program.Date

// Value implements driver.Valuer.
func (d day) Value() (driver.Value, error) { return program.Date(d).String(), nil }

// Scan implements sql.Scanner.
func (d *day) Scan(from any) error {
	text, ok := from.(string)
	if !ok {
		return fmt.Errorf("a date is stored as %T", from)
	}
	return (*program.Date)(d).UnmarshalText([]byte(text))
}

// list stores a list of plain values as JSON, and none as the empty text.
type list[T any] []T

// Value implements driver.Valuer.
func (l list[T]) Value() (driver.Value, error) {
	if len(l) == 0 {
		return "", nil
	}
	text, err := json.Marshal([]T(l))
	return string(text), err
}

// Scan implements sql.Scanner.
func (l *list[T]) Scan(from any) error {
	text, ok := from.(string)
	if !ok {
		return fmt.Errorf("a list is stored as %T", from)
	}
	*l = nil
	if text == "" {
		return nil
	}
	return json.Unmarshal([]byte(text), (*[]T)(l))
}

// object stores one value as JSON, and none as the empty text.
type object[T any] struct{ value *T }

// Value implements driver.Valuer.
func (o object[T]) Value() (driver.Value, error) {
	if o.value == nil {
		return "", nil
	}
	text, err := json.Marshal(o.value)
	return string(text), err
}

// Scan implements sql.Scanner.
func (o *object[T]) Scan(from any) error {
	text, ok := from.(string)
	if !ok {
		return fmt.Errorf("a value is stored as %T", from)
	}
	o.value = nil
	if text == "" {
		return nil
	}
	return json.Unmarshal([]byte(text), &o.value)
}

// at is where a row belongs.
type at struct {
	ProgramID int64 `db:"program_id"`
	Position  int   `db:"position"`
}

type programRow struct {
	ID            int64                 `db:"id"`
	Name          string                `db:"name"`
	Today         day                   `db:"today"`
	SameIteration program.SameIteration `db:"same_iteration"`
	FillTo        float64               `db:"fill_to"`
	Revision      int64                 `db:"revision"`

	HolidayCalendar string                      `db:"holiday_calendar"`
	PhaseTemplates  list[program.PhaseTemplate] `db:"phase_templates"`

	Ready    object[program.ReadyRule] `db:"ready"`
	Mix      object[mix]               `db:"mix"`
	Patterns list[program.Pattern]     `db:"patterns"`
	Repeats  list[program.Repeat]      `db:"repeats"`
	Views    list[program.View]        `db:"views"`
}

type mix map[program.ItemKind]float64

func programRowOf(p program.Program) programRow {
	row := programRow{Name: p.Name, Today: day(p.Today), SameIteration: p.Settings.SameIteration, FillTo: p.Settings.FillTo,
		HolidayCalendar: p.Settings.HolidayCalendar, PhaseTemplates: p.PhaseTemplates,
		Ready: object[program.ReadyRule]{p.Settings.Ready}, Patterns: p.Patterns, Repeats: p.Repeats, Views: p.Views}
	if len(p.Settings.Mix) > 0 {
		row.Mix.value = (*mix)(&p.Settings.Mix)
	}
	return row
}

func (row programRow) program() program.Program {
	p := program.Program{Name: row.Name, Today: program.Date(row.Today),
		Settings:       program.Settings{SameIteration: row.SameIteration, FillTo: row.FillTo, HolidayCalendar: row.HolidayCalendar, Ready: row.Ready.value},
		PhaseTemplates: row.PhaseTemplates, Patterns: row.Patterns, Repeats: row.Repeats, Views: row.Views}
	if row.Mix.value != nil {
		p.Settings.Mix = *row.Mix.value
	}
	return p
}

type holidayRow struct {
	at
	Date  day          `db:"date"`
	Name  string       `db:"name"`
	Teams list[string] `db:"teams"`
}

type cadenceRow struct {
	at
	Key        string `db:"key"`
	Start      day    `db:"start"`
	LengthDays int    `db:"length_days"`
	Name       string `db:"name"`
	Ahead      int    `db:"ahead"`
	Naming     string `db:"naming"`
	CarryOver  bool   `db:"carry_over"`
}

type teamRow struct {
	at
	Key      string       `db:"key"`
	Name     string       `db:"name"`
	Unit     program.Unit `db:"unit"`
	Cadence  string       `db:"cadence"`
	Velocity *float64     `db:"velocity"`
	Focus    *float64     `db:"focus"`
	FillTo   *float64     `db:"fill_to"`
	Lookback int          `db:"lookback"`
}

type iterationRow struct {
	at
	Team      string                 `db:"team"`
	Key       string                 `db:"key"`
	Name      string                 `db:"name"`
	Start     day                    `db:"start"`
	End       day                    `db:"end"`
	Capacity  *float64               `db:"capacity"`
	State     program.IterationState `db:"state"`
	Committed *float64               `db:"committed"`
	Completed *float64               `db:"completed"`

	CapacityNote   string `db:"capacity_note"`
	CommittedItems *int   `db:"committed_items"`
	CompletedItems *int   `db:"completed_items"`
	LeftOut        string `db:"left_out"`
}

func iterationRowOf(where at, team string, it program.Iteration) iterationRow {
	return iterationRow{where, team, it.Key, it.Name, day(it.Start), day(it.End), it.Capacity, it.State, it.Committed, it.Completed,
		it.CapacityNote, it.CommittedItems, it.CompletedItems, it.LeftOut}
}

func (r iterationRow) iteration() program.Iteration {
	return program.Iteration{Key: r.Key, Name: r.Name, Start: program.Date(r.Start), End: program.Date(r.End), Capacity: r.Capacity, State: r.State,
		Committed: r.Committed, Completed: r.Completed, CapacityNote: r.CapacityNote, CommittedItems: r.CommittedItems, CompletedItems: r.CompletedItems, LeftOut: r.LeftOut}
}

type memberRow struct {
	at
	Team   string       `db:"team"`
	Person string       `db:"person"`
	Share  float64      `db:"share"`
	Roles  list[string] `db:"roles"`
	From   day          `db:"from_date"`
	To     day          `db:"to_date"`
}

type personRow struct {
	at
	Key         string    `db:"key"`
	Name        string    `db:"name"`
	HoursPerDay float64   `db:"hours_per_day"`
	Weekdays    list[int] `db:"weekdays"`
	OpenSeat    bool      `db:"open_seat"`

	Roles    list[string] `db:"roles"`
	Calendar string       `db:"calendar"`
}

type dayOffRow struct {
	at
	Person string `db:"person"`
	From   day    `db:"from_date"`
	To     day    `db:"to_date"`
	Name   string `db:"name"`
	UID    string `db:"uid"`
}

type releaseRow struct {
	at
	Key         string `db:"key"`
	Name        string `db:"name"`
	Start       day    `db:"start"`
	Due         day    `db:"due"`
	Description string `db:"description"`

	Documents list[program.Document] `db:"documents"`
}

type phaseRow struct {
	at
	Release string `db:"release"`
	Key     string `db:"key"`
	Name    string `db:"name"`
	Start   day    `db:"start"`
	End     day    `db:"end"`
}

type milestoneRow struct {
	at
	Key      string       `db:"key"`
	Name     string       `db:"name"`
	Date     day          `db:"date"`
	Releases list[string] `db:"releases"`
	Needs    list[string] `db:"needs"`
}

type itemRow struct {
	at
	Key       string            `db:"key"`
	Title     string            `db:"title"`
	Kind      program.ItemKind  `db:"kind"`
	Parent    string            `db:"parent"`
	Team      string            `db:"team"`
	Release   string            `db:"release"`
	Size      *float64          `db:"size"`
	State     program.ItemState `db:"state"`
	Iteration string            `db:"iteration"`
	Pinned    bool              `db:"pinned"`
	NotBefore day               `db:"not_before"`
	Due       day               `db:"due"`
	Role      string            `db:"role"`
	Assignee  string            `db:"assignee"`
	Tags      list[string]      `db:"tags"`
	KeptOut   bool              `db:"kept_out"`
	DoneOn    day               `db:"done_on"`

	Description string              `db:"description"`
	Tasks       list[program.Task]  `db:"tasks"`
	Checks      list[program.Check] `db:"checks"`
	Links       list[program.Link]  `db:"links"`
	FoundIn     string              `db:"found_in"`
	FixedIn     string              `db:"fixed_in"`
}

func itemRowOf(where at, i program.Item) itemRow {
	return itemRow{where, i.Key, i.Title, i.Kind, i.Parent, i.Team, i.Release, i.Size, i.State, i.Iteration, i.Pinned,
		day(i.NotBefore), day(i.Due), i.Role, i.Assignee, list[string](i.Tags), i.KeptOut, day(i.DoneOn),
		i.Description, i.Tasks, i.Checks, i.Links, i.FoundIn, i.FixedIn}
}

func (r itemRow) item() program.Item {
	return program.Item{Key: r.Key, Title: r.Title, Kind: r.Kind, Parent: r.Parent, Team: r.Team, Release: r.Release, Size: r.Size,
		State: r.State, Iteration: r.Iteration, Pinned: r.Pinned, NotBefore: program.Date(r.NotBefore), Due: program.Date(r.Due),
		Role: r.Role, Assignee: r.Assignee, Tags: r.Tags, KeptOut: r.KeptOut, DoneOn: program.Date(r.DoneOn),
		Description: r.Description, Tasks: r.Tasks, Checks: r.Checks, Links: r.Links, FoundIn: r.FoundIn, FixedIn: r.FixedIn}
}

type needRow struct {
	at
	Item      string            `db:"item"`
	Needs     string            `db:"needs"`
	LagDays   int               `db:"lag_days"`
	Agreement program.Agreement `db:"agreement"`
}

type commentRow struct {
	at
	Key  string `db:"key"`
	Item string `db:"item"`
	By   string `db:"by"`
	At   string `db:"at"`
	Text string `db:"text"`
}

// table is a table whose rows are of type R, and the columns that identify a row
// within a program.
type table[R any] struct {
	name    string
	columns []string
	key     []string
}

var (
	holidays   = table[holidayRow]{"holidays", []string{"date", "name", "teams"}, []string{"position"}}
	cadences   = table[cadenceRow]{"cadences", []string{"key", "start", "length_days", "name", "ahead", "naming", "carry_over"}, []string{"key"}}
	teams      = table[teamRow]{"teams", []string{"key", "name", "unit", "cadence", "velocity", "focus", "fill_to", "lookback"}, []string{"key"}}
	iterations = table[iterationRow]{"iterations", []string{"team", "key", "name", "start", "end", "capacity", "state", "committed", "completed",
		"capacity_note", "committed_items", "completed_items", "left_out"}, []string{"team", "key"}}
	members    = table[memberRow]{"members", []string{"team", "person", "share", "roles", "from_date", "to_date"}, []string{"team", "position"}}
	people     = table[personRow]{"people", []string{"key", "name", "hours_per_day", "weekdays", "open_seat", "roles", "calendar"}, []string{"key"}}
	daysOff    = table[dayOffRow]{"days_off", []string{"person", "from_date", "to_date", "name", "uid"}, []string{"person", "position"}}
	releases   = table[releaseRow]{"releases", []string{"key", "name", "start", "due", "description", "documents"}, []string{"key"}}
	phases     = table[phaseRow]{"phases", []string{"release", "key", "name", "start", "end"}, []string{"release", "key"}}
	milestones = table[milestoneRow]{"milestones", []string{"key", "name", "date", "releases", "needs"}, []string{"key"}}
	items      = table[itemRow]{"items", []string{"key", "title", "kind", "parent", "team", "release", "size", "state", "iteration", "pinned",
		"not_before", "due", "role", "assignee", "tags", "kept_out", "done_on",
		"description", "tasks", "checks", "links", "found_in", "fixed_in"}, []string{"key"}}
	needs    = table[needRow]{"needs", []string{"item", "needs", "lag_days", "agreement"}, []string{"item", "needs"}}
	comments = table[commentRow]{"comments", []string{"key", "item", "by", "at", "text"}, []string{"key"}}
)

// upsert is the statement that writes one row, new or not.
func (t table[R]) upsert() string {
	columns := append([]string{"program_id", "position"}, t.columns...)
	var names, values, sets []string
	for _, c := range columns {
		names = append(names, `"`+c+`"`)
		values = append(values, ":"+c)
		sets = append(sets, fmt.Sprintf(`"%s" = excluded."%s"`, c, c))
	}
	return fmt.Sprintf("INSERT INTO %s (%s) VALUES (%s) ON CONFLICT (program_id, %s) DO UPDATE SET %s",
		t.name, strings.Join(names, ", "), strings.Join(values, ", "), strings.Join(t.key, ", "), strings.Join(sets, ", "))
}
