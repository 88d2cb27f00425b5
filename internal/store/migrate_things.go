package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"fmt"
	"strings"
	"time"

	"github.com/pressly/goose/v3"
)

// thingsOfTables is migration 6: the rows of what was a table a kind become things. It
// speaks of tables and names as they were then, and of nothing that may change later.
var thingsOfTables = goose.NewGoMigration(6, &goose.GoFunc{RunTx: func(ctx context.Context, tx *sql.Tx) error {
	for _, t := range oldTables {
		if err := t.move(ctx, tx); err != nil {
			return fmt.Errorf("%s: %w", t.name, err)
		}
	}
	if err := ownComments(ctx, tx); err != nil {
		return err
	}
	return plainTimes(ctx, tx)
}}, nil)

// oldTable is a table of a kind of thing. Columns that are named "a=b" go by b in the body.
type oldTable struct {
	name, kind string
	owner, key string // columns; empty: none
	position   string
	columns    string // of the body: plain text, numbers as they are
	flags      string // numbers that are yes or no
	texts      string // JSON
	parts      []oldPart
}

// oldPart is a table whose rows are a list within a thing.
type oldPart struct {
	oldTable
	field string // in the thing's body
	of    string // its column with the thing's key
}

var oldTables = []oldTable{
	{name: "programs", kind: "program", position: "0", columns: "name today", parts: []oldPart{
		{oldTable{name: "holidays", columns: "date name", texts: "teams"}, "holidays", ""}},
		texts: "phase_templates=phaseTemplates patterns repeats views"},
	{name: "cadences", kind: "cadence", key: "key", position: "position", columns: "key name start length_days=lengthDays ahead naming", flags: "carry_over=carryOver"},
	{name: "people", kind: "person", key: "key", position: "position", columns: "key name hours_per_day=hoursPerDay calendar", flags: "open_seat=openSeat", texts: "weekdays roles",
		parts: []oldPart{{oldTable{name: "days_off", columns: "from_date=from to_date=to name uid"}, "daysOff", "person"}}},
	{name: "teams", kind: "team", key: "key", position: "position", columns: "key name unit cadence velocity focus fill_to=fillTo lookback",
		parts: []oldPart{{oldTable{name: "members", columns: "person share from_date=from to_date=to", texts: "roles"}, "members", "team"}}},
	{name: "iterations", kind: "iteration", owner: "team", key: "key", position: "position",
		columns: "key name start end capacity state committed completed capacity_note=capacityNote committed_items=committedItems completed_items=completedItems left_out=leftOut"},
	{name: "releases", kind: "release", key: "key", position: "position", columns: "key name start due description", texts: "documents",
		parts: []oldPart{{oldTable{name: "phases", columns: "key name start end"}, "phases", "release"}}},
	{name: "milestones", kind: "milestone", key: "key", position: "position", columns: "key name date", texts: "releases needs"},
	{name: "items", kind: "item", key: "key", position: "position",
		columns: "key title kind parent team release size state iteration not_before=notBefore due role assignee done_on=doneOn description found_in=foundIn fixed_in=fixedIn",
		flags:   "pinned kept_out=keptOut", texts: "tags tasks checks links"},
	{name: "needs", kind: "need", owner: "item", key: "needs", position: "position", columns: "item needs lag_days=lagDays agreement"},
	{name: "comments", kind: "comment", owner: "item", key: "key", position: "position", columns: "key item by at text"},
}

type oldRow map[string]any

// body makes the JSON of a row: what is empty is left out, but for what must be there.
func (t oldTable) body(row oldRow) map[string]any {
	out := map[string]any{}
	each := func(names string, put func(field string, value any)) {
		for _, name := range strings.Fields(names) {
			column, field, renamed := strings.Cut(name, "=")
			if !renamed {
				field = column
			}
			if value := row[column]; value != nil && value != "" {
				put(field, value)
			}
		}
	}
	each(t.columns, func(field string, value any) { out[field] = value })
	each(t.flags, func(field string, value any) {
		if value != int64(0) && value != false {
			out[field] = true
		}
	})
	each(t.texts, func(field string, value any) { out[field] = json.RawMessage(fmt.Sprint(value)) })
	return out
}

func (t oldTable) move(ctx context.Context, tx *sql.Tx) error {
	rows, err := readOld(ctx, tx, t.name)
	if err != nil {
		return err
	}
	parts := make([]map[string][]any, len(t.parts))
	for i, part := range t.parts {
		if parts[i], err = part.byThing(ctx, tx); err != nil {
			return err
		}
	}
	for _, row := range rows {
		program := row["program_id"]
		if t.kind == "program" {
			program = row["id"]
		}
		body := t.body(row)
		if t.kind == "program" {
			body["settings"] = oldTable{columns: "same_iteration=sameIteration fill_to=fillTo holiday_calendar=holidayCalendar", texts: "ready mix"}.body(row)
		}
		for i, part := range t.parts {
			if list := parts[i][fmt.Sprint(program, "\n", keyIn(row, t.key))]; len(list) > 0 {
				body[part.field] = list
			}
		}
		text, err := json.Marshal(body)
		if err != nil {
			return err
		}
		position := row["position"]
		if position == nil {
			position = 0
		}
		if _, err := tx.ExecContext(ctx, `INSERT INTO things (line_id, kind, owner, key, position, body) VALUES (?, ?, ?, ?, ?, ?)`,
			program, t.kind, keyIn(row, t.owner), keyIn(row, t.key), position, string(text)); err != nil {
			return err
		}
	}
	return nil
}

func keyIn(row oldRow, column string) string {
	if column == "" {
		return ""
	}
	return fmt.Sprint(row[column])
}

// byThing reads the parts of all things, by program and key of the thing.
func (p oldPart) byThing(ctx context.Context, tx *sql.Tx) (map[string][]any, error) {
	rows, err := readOld(ctx, tx, p.name)
	lists := map[string][]any{}
	for _, row := range rows {
		at := fmt.Sprint(row["program_id"], "\n", keyIn(row, p.of))
		lists[at] = append(lists[at], p.body(row))
	}
	return lists, err
}

func readOld(ctx context.Context, tx *sql.Tx, table string) ([]oldRow, error) {
	order := "program_id, position"
	if table == "programs" {
		order = "id"
	}
	rows, err := tx.QueryContext(ctx, `SELECT * FROM `+table+` ORDER BY `+order)
	if err != nil {
		return nil, err
	}
	defer func() { _ = rows.Close() }()
	columns, err := rows.Columns()
	if err != nil {
		return nil, err
	}
	var list []oldRow
	for rows.Next() {
		values := make([]any, len(columns))
		into := make([]any, len(columns))
		for i := range values {
			into[i] = &values[i]
		}
		if err := rows.Scan(into...); err != nil {
			return nil, err
		}
		row := oldRow{}
		for i, c := range columns {
			row[c] = values[i]
		}
		list = append(list, row)
	}
	return list, rows.Err()
}

// ownComments gives comments to the account whose name they carry, where only one has
// it: from now on they belong to accounts, not to names.
func ownComments(ctx context.Context, tx *sql.Tx) error {
	_, err := tx.ExecContext(ctx, `
		UPDATE things SET body = json_set(body, '$.author', (SELECT CAST(min(id) AS TEXT) FROM accounts WHERE name = json_extract(body, '$.by')))
		WHERE kind = 'comment' AND (SELECT count(*) FROM accounts WHERE name = json_extract(body, '$.by')) = 1`)
	return err
}

// plainTimes writes the times of edits so that their texts stand in the order of time.
func plainTimes(ctx context.Context, tx *sql.Tx) error {
	rows, err := tx.QueryContext(ctx, `SELECT DISTINCT at FROM edits`)
	if err != nil {
		return err
	}
	defer func() { _ = rows.Close() }()
	var times []string
	for rows.Next() {
		var at string
		if err := rows.Scan(&at); err != nil {
			return err
		}
		times = append(times, at)
	}
	for _, at := range times {
		when, err := time.Parse(time.RFC3339Nano, at)
		if err != nil {
			return fmt.Errorf("the time of an edit, %q: %w", at, err)
		}
		if _, err := tx.ExecContext(ctx, `UPDATE edits SET at = ? WHERE at = ?`, when.UTC().Format(timeText), at); err != nil {
			return err
		}
	}
	return rows.Err()
}
