package store

import (
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"strings"

	"github.com/jmoiron/sqlx"
)

// Backup writes all that the database holds, programs with their journals, accounts and
// files, into one new file, as it is at one moment; others go on reading and writing. The
// file is looked through before it takes its name: it is whole, or there is none.
func (s *Store) Backup(ctx context.Context, path string) error {
	if _, err := os.Lstat(path); err == nil {
		return fmt.Errorf("%s exists already; a backup never overwrites anything", path)
	}
	return whole(ctx, path, func(part string) error { return s.db.Copy(ctx, part) })
}

// Restore makes the database of a folder that has none out of a backup, and looks through it once more where it stands.
func Restore(ctx context.Context, backup, folder string) error {
	if err := makeFolder(folder); err != nil {
		return err
	}
	path := filepath.Join(folder, FileName)
	if err := orphaned(folder); err != nil {
		return err
	}
	if _, err := os.Lstat(path); err == nil {
		all := append([]string{FileName}, leftBehind(folder)...)
		return fmt.Errorf("there is a database in %s already; move it away first (%s: together, or its last edits are lost), or choose another folder", folder, strings.Join(all, ", "))
	}
	err := whole(ctx, path, func(part string) error {
		from, err := os.Open(backup)
		if err != nil {
			return fmt.Errorf("cannot read %s: %w", backup, errors.Unwrap(err))
		}
		defer func() { _ = from.Close() }()
		to, err := os.OpenFile(part, os.O_CREATE|os.O_EXCL|os.O_WRONLY, 0o600)
		if err != nil {
			return err
		}
		_, err = io.Copy(to, from)
		if err = errors.Join(err, to.Sync(), to.Close()); err != nil {
			return err
		}
		if !isOurs(ctx, part) {
			return fmt.Errorf("%s is no backup of Jantrel, or a damaged one", backup)
		}
		return nil
	})
	if err != nil {
		return err
	}
	s, err := OpenExisting(folder)
	if err != nil {
		return err
	}
	return errors.Join(sound(ctx, s, path), s.Close())
}

// isOurs reports whether a file is a database of Jantrel: anything else must not be made one.
func isOurs(ctx context.Context, path string) bool {
	db, err := sqlx.Open("sqlite", "file:"+path+"?mode=ro")
	if err != nil {
		return false
	}
	defer func() { _ = db.Close() }()
	var tables int
	err = db.GetContext(ctx, &tables, `SELECT count(*) FROM sqlite_master WHERE name IN ('goose_db_version', 'programs', 'accounts')`)
	return err == nil && tables == 3
}

// sound is an error where something is wrong with a database.
func sound(ctx context.Context, s *Store, path string) error {
	faults, err := s.Verify(ctx)
	if err == nil && len(faults) > 0 {
		err = fmt.Errorf("%s is not what it should be: %s", path, faults[0])
	}
	return err
}

// whole has a database file written beside the path that it is for, looks through it, and
// only then gives it its name.
func whole(ctx context.Context, path string, write func(part string) error) error {
	part := path + ".part"
	rid := func() {
		_ = os.Remove(part)
		for _, end := range besides {
			_ = os.Remove(part + end)
		}
	}
	rid()
	defer rid()
	if err := write(part); err != nil {
		return err
	}
	if err := os.Chmod(part, 0o600); err != nil {
		return err
	}
	s, err := openFile(part)
	if err != nil {
		return fmt.Errorf("%s cannot be read back: %w", path, err)
	}
	if err := errors.Join(sound(ctx, s, path), s.Close()); err != nil {
		return err
	}
	file, err := os.Open(part)
	if err != nil {
		return err
	}
	if err := errors.Join(file.Sync(), file.Close()); err != nil {
		return err
	}
	if err := os.Rename(part, path); err != nil {
		return err
	}
	if folder, err := os.Open(filepath.Dir(path)); err == nil { // so that the name lasts too
		_ = folder.Sync()
		_ = folder.Close()
	}
	return nil
}
