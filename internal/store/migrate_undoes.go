package store

import (
	"context"
	"database/sql"

	"github.com/pressly/goose/v3"
)

// undoesOfEdits is migration 22: of each undo, which edit it takes back. That follows from the edits of its client, as
// undo itself goes by them: the last one that stands. It speaks of the table as it was then.
var undoesOfEdits = goose.NewGoMigration(22, &goose.GoFunc{RunTx: func(ctx context.Context, tx *sql.Tx) error {
	if _, err := tx.ExecContext(ctx, `ALTER TABLE edits ADD COLUMN undoes INTEGER`); err != nil {
		return err
	}
	rows, err := tx.QueryContext(ctx, `SELECT line_id, client, revision, sort, label FROM edits ORDER BY line_id, client, revision`)
	if err != nil {
		return err
	}
	type of struct {
		line   int64
		client string
	}
	type undo struct{ line, revision, undoes int64 }
	type step struct {
		revision int64
		label    string
	}
	var (
		now   of
		stack []step // that undo could take back, the next one last
		undos []undo
	)
	for rows.Next() {
		var at of
		var revision int64
		var sort, label string
		if err := rows.Scan(&at.line, &at.client, &revision, &sort, &label); err != nil {
			return err
		}
		if at != now {
			now, stack = at, nil
		}
		if sort != "undo" {
			stack = append(stack, step{revision, label})
			continue
		}
		// It is called as what it takes back. What is called otherwise was stepped past.
		for n := len(stack); n > 0 && stack[n-1].label != label; n-- {
			stack = stack[:n-1]
		}
		if n := len(stack); n > 0 {
			undos = append(undos, undo{at.line, revision, stack[n-1].revision})
			stack = stack[:n-1]
		}
	}
	if err := rows.Err(); err != nil {
		return err
	}
	for _, u := range undos {
		if _, err := tx.ExecContext(ctx, `UPDATE edits SET undoes = ? WHERE line_id = ? AND revision = ?`, u.undoes, u.line, u.revision); err != nil {
			return err
		}
	}
	_, err = tx.ExecContext(ctx, `CREATE INDEX edits_that_undo ON edits(line_id, revision) WHERE undoes IS NOT NULL`)
	return err
}}, nil)
