// Package store keeps programs and their journals in one SQLite file.
package store

import (
	"context"
	"database/sql"
	"embed"
	"errors"
	"fmt"
	"io/fs"
	"net/url"
	"os"
	"path/filepath"
	"strings"

	"github.com/jmoiron/sqlx"
	"github.com/pressly/goose/v3"
	_ "modernc.org/sqlite" // the driver, without cgo

	"jantrel/core/program"
	"jantrel/internal/journal"
)

//go:embed migrations/*.sql
var migrations embed.FS

// FileName is the database's name within the data folder.
const FileName = "jantrel.db"

// Store is an open database.
type Store struct {
	db    database
	noted noted
	used  usedLinks
}

func makeFolder(folder string) error {
	if err := os.MkdirAll(folder, 0o750); err != nil {
		return fmt.Errorf("the data folder %s cannot be made: %w", folder, err)
	}
	return nil
}

// besides is what SQLite keeps beside a database while it is open, and where it was killed: a log of edits that are not in
// the database itself yet, and where in it they stand. They belong to that database: beside another one they destroy it,
// and without them its last edits are gone.
var besides = []string{"-wal", "-shm", "-journal"}

// leftBehind names the files in a folder that belong to a database.
func leftBehind(folder string) (names []string) {
	for _, end := range besides {
		if _, err := os.Lstat(filepath.Join(folder, FileName+end)); err == nil {
			names = append(names, FileName+end)
		}
	}
	return names
}

// orphaned refuses a folder that has what belongs to a database, but not that: opened, SQLite would throw it away.
func orphaned(folder string) error {
	if info, err := os.Stat(filepath.Join(folder, FileName)); err == nil && info.Size() > 0 {
		return nil
	}
	if left := leftBehind(folder); len(left) > 0 {
		return fmt.Errorf("%s in %s holds the last edits of a database that is not there; put that back beside it, or move it to where that one is", strings.Join(left, ", "), folder)
	}
	return nil
}

// OpenExisting opens the database in a folder as Open does, but makes none.
func OpenExisting(folder string) (*Store, error) {
	if err := orphaned(folder); err != nil {
		return nil, err
	}
	if _, err := os.Stat(filepath.Join(folder, FileName)); err != nil {
		return nil, fmt.Errorf("there is no database in %s: %w", folder, errors.Unwrap(err))
	}
	return Open(folder)
}

// Open opens the database in a folder, making both where they are missing, and
// brings its tables up to date. One that a later version of Jantrel made is refused, and so is a folder with the log of
// one that is not there.
func Open(folder string) (*Store, error) {
	if err := makeFolder(folder); err != nil {
		return nil, err
	}
	if err := orphaned(folder); err != nil {
		return nil, err
	}
	// Only its owner reads it: it holds what opens sessions, as hashes.
	file, err := os.OpenFile(filepath.Join(folder, FileName), os.O_CREATE|os.O_RDWR, 0o600)
	if err == nil {
		err = errors.Join(file.Chmod(0o600), file.Close())
	}
	if err != nil {
		return nil, fmt.Errorf("the database in %s cannot be opened or written: %w", folder, err)
	}
	s, err := openFile(filepath.Join(folder, FileName))
	if err != nil {
		return nil, fmt.Errorf("the database in %s cannot be opened or written: %w", folder, err)
	}
	return s, nil
}

// openFile opens a database file and brings its tables up to date.
func openFile(path string) (*Store, error) {
	// WAL lets readers go on while one writes. Full synchronisation: an edit that
	// was acknowledged is on the disk, whatever happens to the machine after.
	pragmas := url.Values{"_pragma": {"journal_mode(WAL)", "synchronous(FULL)", "foreign_keys(1)", "busy_timeout(5000)"}}
	readers, err := sqlx.Open("sqlite", "file:"+path+"?"+pragmas.Encode())
	if err != nil {
		return nil, err
	}
	pragmas.Set("_txlock", "immediate")
	writer, err := sqlx.Open("sqlite", "file:"+path+"?"+pragmas.Encode())
	if err != nil {
		return nil, err
	}
	db := database{readers, writer}
	if err := migrate(writer.DB); err != nil {
		return nil, errors.Join(err, db.Close())
	}
	writer.SetMaxOpenConns(1)
	readers.SetMaxOpenConns(mostReaders)
	readers.SetMaxIdleConns(mostReaders)
	readers.SetConnMaxIdleTime(idleReader)
	return &Store{db: db}, nil
}

func migrate(db *sql.DB) error {
	files, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return err
	}
	provider, err := goose.NewProvider(goose.DialectSQLite3, db, files, goose.WithGoMigrations(thingsOfTables, hashesOfFiles, undoesOfEdits))
	if err != nil {
		return err
	}
	// goose runs what is missing, and would not mind what it does not know.
	has, err := provider.GetDBVersion(context.Background())
	if err != nil {
		return err
	}
	sources := provider.ListSources()
	if known := sources[len(sources)-1].Version; has > known {
		return fmt.Errorf("it was made by a later version of Jantrel (its tables are of version %d, this program knows %d); use that one, or a later one", has, known)
	}
	_, err = provider.Up(context.Background())
	return err
}

// Close closes the database, once what it was told is written.
func (s *Store) Close() error { return errors.Join(s.writeUsed(context.Background()), s.db.Close()) }

// Summary is a program as a list shows it.
type Summary struct {
	ID       int64  `db:"id" json:"id"`
	Name     string `db:"name" json:"name"`
	Revision int64  `db:"revision" json:"revision"`
	Items    int    `db:"items" json:"items"`
}

// Programs lists the programs, oldest first.
func (s *Store) Programs(ctx context.Context) ([]Summary, error) {
	list := []Summary{}
	err := s.db.SelectContext(ctx, &list, `
		SELECT p.id, p.name, l.revision, (SELECT count(*) FROM things WHERE line_id = l.id AND kind = 'item') AS items
		FROM programs p JOIN lines l ON l.program_id = p.id AND l.base_line IS NULL ORDER BY p.id`)
	return list, err
}

// Create stores a new program and returns its id.
func (s *Store) Create(ctx context.Context, p program.Program) (int64, error) {
	var id int64
	err := s.transact(ctx, func(tx *transaction) error {
		result, err := tx.ExecContext(ctx, `INSERT INTO programs (name) VALUES (?)`, p.Name)
		if err != nil {
			return err
		}
		if id, err = result.LastInsertId(); err != nil {
			return err
		}
		line, err := newLine(ctx, tx, journal.Line{Program: id})
		if err != nil {
			return err
		}
		things, err := p.Things(func(program.Ref) bool { return true })
		if err != nil {
			return err
		}
		return writeThings(ctx, tx, line, things)
	})
	return id, err
}

// Delete removes a program with all its lines and their journals.
func (s *Store) Delete(ctx context.Context, id int64) error {
	result, err := s.db.ExecContext(ctx, `DELETE FROM programs WHERE id = ?`, id)
	if err != nil {
		return err
	}
	if n, err := result.RowsAffected(); err == nil && n == 0 {
		return journal.ErrNotFound
	}
	return nil
}

// Commit stores what an edit made of a line: its journal and, of a live plan, the things it touched, in
// one transaction. next is the program after it.
func (s *Store) Commit(ctx context.Context, line int64, next program.Program, edit journal.Edit) error {
	return s.transact(ctx, func(tx *transaction) error {
		result, err := tx.ExecContext(ctx, `UPDATE lines SET revision = ? WHERE id = ? AND revision = ?`, edit.Revision, line, edit.Revision-1)
		if err != nil {
			return err
		}
		if n, err := result.RowsAffected(); err != nil || n != 1 {
			return fmt.Errorf("line %d is not at revision %d: %w", line, edit.Revision-1, journal.ErrNotFound)
		}
		var scenario bool
		if err := tx.GetContext(ctx, &scenario, `SELECT base_line IS NOT NULL FROM lines WHERE id = ?`, line); err != nil {
			return err
		}
		if scenario {
			return writeJournal(ctx, tx, line, edit)
		}
		if err := writeTouched(ctx, tx, line, next, edit.Changes); err != nil {
			return err
		}
		if _, err := tx.ExecContext(ctx, `UPDATE programs SET name = ? WHERE name <> ? AND id = (SELECT program_id FROM lines WHERE id = ?)`, next.Name, next.Name, line); err != nil {
			return err
		}
		return writeJournal(ctx, tx, line, edit)
	})
}

// transact does something that is written whole or not at all. What it does goes through the transaction alone: another
// write would wait for this one.
func (s *Store) transact(ctx context.Context, do func(*transaction) error) error {
	tx, err := s.db.Begin(ctx)
	if err != nil {
		return err
	}
	if err := do(tx); err != nil {
		return errors.Join(marked(err), tx.Rollback())
	}
	return tx.Commit()
}
