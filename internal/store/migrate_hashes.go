package store

import (
	"context"
	"database/sql"

	"github.com/pressly/goose/v3"
)

// hashesOfFiles is migration 9: what the files of items hold, as SHA-256. It speaks of the
// table as it was then.
var hashesOfFiles = goose.NewGoMigration(9, &goose.GoFunc{RunTx: func(ctx context.Context, tx *sql.Tx) error {
	rows, err := tx.QueryContext(ctx, `SELECT id FROM attachments`)
	if err != nil {
		return err
	}
	var ids []int64
	for rows.Next() {
		var id int64
		if err := rows.Scan(&id); err != nil {
			return err
		}
		ids = append(ids, id)
	}
	if err := rows.Err(); err != nil {
		return err
	}
	for _, id := range ids {
		var content []byte
		if err := tx.QueryRowContext(ctx, `SELECT content FROM attachments WHERE id = ?`, id).Scan(&content); err != nil {
			return err
		}
		if _, err := tx.ExecContext(ctx, `UPDATE attachments SET sha256 = ? WHERE id = ?`, hashOf(content), id); err != nil {
			return err
		}
	}
	return nil
}}, nil)
