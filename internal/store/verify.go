package store

import (
	"context"
	"fmt"
)

// Verify looks through the database and returns what is wrong with it, in words: its pages
// and indexes as SQLite itself checks them, references that lead nowhere, and files that are
// not as long as it says.
func (s *Store) Verify(ctx context.Context) ([]string, error) {
	var faults, pages []string
	if err := s.db.SelectContext(ctx, &pages, `PRAGMA integrity_check(20)`); err != nil {
		return nil, err
	}
	for _, text := range pages {
		if text != "ok" {
			faults = append(faults, "the database is damaged: "+text)
		}
	}
	var astray []struct {
		Table  string `db:"table"`
		Row    *int64 `db:"rowid"`
		Parent string `db:"parent"`
		Key    int    `db:"fkid"`
	}
	if err := s.db.SelectContext(ctx, &astray, `PRAGMA foreign_key_check`); err != nil {
		return nil, err
	}
	if len(astray) > 0 {
		faults = append(faults, fmt.Sprintf("%d references lead nowhere, the first from %s to %s", len(astray), astray[0].Table, astray[0].Parent))
	}
	var files []struct {
		Program int64  `db:"program_id"`
		Item    string `db:"item"`
		Name    string `db:"name"`
	}
	if err := s.db.SelectContext(ctx, &files, `SELECT program_id, item, name FROM attachments WHERE length(content) <> size LIMIT 20`); err != nil {
		return nil, err
	}
	for _, f := range files {
		faults = append(faults, fmt.Sprintf("the file %s of %s in program %d is not as long as it was", f.Name, f.Item, f.Program))
	}
	return faults, nil
}

// Ready reports whether the database answers.
func (s *Store) Ready(ctx context.Context) error {
	var one int
	return s.db.GetContext(ctx, &one, `SELECT count(*) FROM (SELECT 1 FROM lines LIMIT 1)`)
}
