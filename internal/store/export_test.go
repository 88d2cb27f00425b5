package store

import (
	"context"
	"io/fs"
	"path/filepath"

	"github.com/jmoiron/sqlx"
	"github.com/pressly/goose/v3"
)

// MigrateTo takes a database back to an earlier version of its tables.
func MigrateTo(folder string, version int64) error {
	db, err := sqlx.Open("sqlite", "file:"+filepath.Join(folder, FileName))
	if err != nil {
		return err
	}
	defer func() { _ = db.Close() }()
	files, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return err
	}
	provider, err := goose.NewProvider(goose.DialectSQLite3, db.DB, files)
	if err != nil {
		return err
	}
	_, err = provider.DownTo(context.Background(), version)
	return err
}
