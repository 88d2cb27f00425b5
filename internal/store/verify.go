package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
)

// Verify looks through the database and returns what is wrong with it, in words: its pages
// and indexes as SQLite itself checks them, references that lead nowhere, and files that are
// not what they were when they were stored.
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
	damaged, err := s.damagedFiles(ctx)
	return append(faults, damaged...), err
}

// damagedFiles holds the files of items against what they were when they were stored, one
// after the other.
func (s *Store) damagedFiles(ctx context.Context) ([]string, error) {
	var faults []string
	var files []struct {
		ID      int64  `db:"id"`
		Program int64  `db:"program_id"`
		Item    string `db:"item"`
		Name    string `db:"name"`
		Hash    string `db:"sha256"`
	}
	if err := s.db.SelectContext(ctx, &files, `SELECT id, program_id, item, name, sha256 FROM attachments ORDER BY id`); err != nil {
		return nil, err
	}
	for _, f := range files {
		var content []byte
		err := s.db.GetContext(ctx, &content, `SELECT content FROM attachments WHERE id = ?`, f.ID)
		if errors.Is(err, sql.ErrNoRows) { // removed meanwhile
			continue
		}
		if err != nil {
			return nil, err
		}
		if hashOf(content) != f.Hash {
			if faults = append(faults, fmt.Sprintf("the file %s of %s in program %d is not what it was", f.Name, f.Item, f.Program)); len(faults) == 20 {
				return append(faults, "and there may be more"), nil
			}
		}
	}
	return faults, nil
}

// Ready reports whether the database answers.
func (s *Store) Ready(ctx context.Context) error {
	var one int
	return s.db.GetContext(ctx, &one, `SELECT count(*) FROM (SELECT 1 FROM lines LIMIT 1)`)
}

// Size is how many bytes the database takes.
func (s *Store) Size(ctx context.Context) (bytes int64, err error) {
	err = s.db.GetContext(ctx, &bytes, `SELECT page_count * page_size FROM pragma_page_count(), pragma_page_size()`)
	return bytes, err
}
