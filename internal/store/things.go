package store

import (
	"context"
	"encoding/json"
	"fmt"

	"jantrel/core/program"
)

// readThings reads what a line holds.
func readThings(ctx context.Context, tx *transaction, line int64) (program.Program, error) {
	// By hand: there may be tens of thousands, and rows of a struct, or of a context that may end between any two, take
	// twice as long.
	rows, err := tx.QueryContext(context.WithoutCancel(ctx), `SELECT kind, owner, key, position, body FROM things WHERE line_id = ? ORDER BY kind, position`, line)
	if err != nil {
		return program.Program{}, err
	}
	defer func() { _ = rows.Close() }()
	var things []program.Thing
	for rows.Next() {
		var t program.Thing
		if err := rows.Scan(&t.Kind, &t.In, &t.Key, &t.At, (*[]byte)(&t.Body)); err != nil {
			return program.Program{}, fault(err)
		}
		if things = append(things, t); len(things)%1000 == 0 && ctx.Err() != nil {
			return program.Program{}, ctx.Err()
		}
	}
	if err := rows.Err(); err != nil {
		return program.Program{}, fault(err)
	}
	return program.FromThings(things)
}

// writeThings writes things, new or not.
func writeThings(ctx context.Context, tx *transaction, line int64, things []program.Thing) error {
	statement, err := tx.PreparexContext(ctx, `INSERT INTO things (line_id, kind, owner, key, position, body) VALUES (?, ?, ?, ?, ?, ?)
		ON CONFLICT (line_id, kind, owner, key) DO UPDATE SET position = excluded.position, body = excluded.body`)
	if err != nil {
		return err
	}
	defer func() { _ = statement.Close() }()
	for _, t := range things {
		if _, err := statement.ExecContext(ctx, line, t.Kind, t.In, t.Key, t.At, string(t.Body)); err != nil {
			return fmt.Errorf("%s %s: %w", t.Kind, t.Key, err)
		}
	}
	return nil
}

// writeTouched writes what changes touched: things that are new or other, and the places
// in lists whose order changed; what is gone is deleted, with what stood in it.
func writeTouched(ctx context.Context, tx *transaction, line int64, next program.Program, changes []program.Applied) error {
	touched, whole, reordered := map[program.Ref]bool{}, map[program.Ref]bool{}, map[program.Ref]bool{}
	for _, c := range changes {
		ref := c.Change.Ref
		touched[ref] = true
		if c.Change.Op == program.Add || c.Change.Op == program.Remove {
			whole[ref] = true
		}
		if c.Change.Op != program.Set {
			reordered[program.ListOf(ref)] = true
		}
	}
	for ref := range whole { // what still exists is written anew below, with all it holds
		if err := deleteThing(ctx, tx, line, ref); err != nil {
			return err
		}
	}
	things, err := next.Things(func(ref program.Ref) bool {
		if touched[ref] {
			return true
		}
		info, _ := program.InfoOf(ref.Kind)
		return info.Nested && whole[program.Ref{Kind: info.In, Key: ref.In}]
	})
	if err != nil {
		return err
	}
	if err := writeThings(ctx, tx, line, things); err != nil {
		return err
	}
	for list := range reordered {
		if err := writeOrder(ctx, tx, line, list, next.Order(list)); err != nil {
			return err
		}
	}
	return nil
}

func deleteThing(ctx context.Context, tx *transaction, line int64, ref program.Ref) error {
	if _, err := tx.ExecContext(ctx, `DELETE FROM things WHERE line_id = ? AND kind = ? AND owner = ? AND key = ?`, line, ref.Kind, ref.In, ref.Key); err != nil {
		return err
	}
	for _, info := range program.Kinds {
		if info.Nested && info.In == ref.Kind {
			if _, err := tx.ExecContext(ctx, `DELETE FROM things WHERE line_id = ? AND kind = ? AND owner = ?`, line, info.Kind, ref.Key); err != nil {
				return err
			}
		}
	}
	return nil
}

// writeOrder writes the place of every thing of a list, where it is another.
func writeOrder(ctx context.Context, tx *transaction, line int64, list program.Ref, order []program.Ref) error {
	names := make([][2]string, len(order))
	for i, ref := range order {
		names[i] = [2]string{ref.In, ref.Key}
	}
	text, err := json.Marshal(names)
	if err != nil {
		return err
	}
	// Materialised, the list gets an index: of a table-valued function it would be
	// looked through once a row.
	_, err = tx.ExecContext(ctx, `WITH j(place, owner, name) AS MATERIALIZED (SELECT key, value ->> 0, value ->> 1 FROM json_each(?))
		UPDATE things SET position = j.place FROM j
		WHERE line_id = ? AND kind = ? AND things.owner = j.owner AND things.key = j.name AND position <> j.place`, string(text), line, list.Kind)
	return err
}
