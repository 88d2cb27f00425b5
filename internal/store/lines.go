package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"time"

	"github.com/jmoiron/sqlx"
	"github.com/klauspost/compress/zstd"

	"jantrel/core/program"
)

// Line is what a journal belongs to: the live plan of a program, or a what-if copy
// of a line at one of its revisions.
type Line struct {
	ID           int64  `db:"id"`
	Program      int64  `db:"program_id"`
	Name         string `db:"name"`          // of a copy
	Base         *int64 `db:"base_line"`     // the line that it was copied from; nil: the live plan
	BaseRevision *int64 `db:"base_revision"` // where
	Revision     int64  `db:"revision"`
}

// Live returns the line of a program's live plan.
func (s *Store) Live(ctx context.Context, id int64) (Line, error) {
	return one[Line](ctx, s, ErrNotFound, `SELECT * FROM lines WHERE program_id = ? AND base_line IS NULL`, id)
}

// Line returns a line by its id.
func (s *Store) Line(ctx context.Context, id int64) (Line, error) {
	return one[Line](ctx, s, ErrNotFound, `SELECT * FROM lines WHERE id = ?`, id)
}

// Lines lists the lines of a program, the live plan first.
func (s *Store) Lines(ctx context.Context, id int64) ([]Line, error) {
	list := []Line{}
	err := s.db.SelectContext(ctx, &list, `SELECT * FROM lines WHERE program_id = ? ORDER BY base_line IS NOT NULL, id`, id)
	return list, err
}

// Copy makes a what-if copy of a line: p is the line as it was at the revision.
func (s *Store) Copy(ctx context.Context, of Line, revision int64, name string, p program.Program) (Line, error) {
	line := Line{Program: of.Program, Name: name, Base: &of.ID, BaseRevision: &revision}
	err := s.transact(ctx, func(tx *sqlx.Tx) (err error) {
		line.ID, err = newLine(ctx, tx, line, p)
		return err
	})
	return line, err
}

// newLine stores a line at revision 0, and the things of p in it.
func newLine(ctx context.Context, tx *sqlx.Tx, line Line, p program.Program) (int64, error) {
	result, err := tx.NamedExecContext(ctx, `
		INSERT INTO lines (program_id, name, base_line, base_revision) VALUES (:program_id, :name, :base_line, :base_revision)`, line)
	if err != nil {
		return 0, err
	}
	id, err := result.LastInsertId()
	if err != nil {
		return 0, err
	}
	things, err := p.Things(func(program.Ref) bool { return true })
	if err != nil {
		return 0, err
	}
	return id, writeThings(ctx, tx, id, things)
}

// Load reads a line as it is now, and its revision.
func (s *Store) Load(ctx context.Context, line int64) (program.Program, int64, error) {
	tx, err := s.db.BeginTxx(ctx, &sql.TxOptions{ReadOnly: true})
	if err != nil {
		return program.Program{}, 0, err
	}
	defer func() { _ = tx.Rollback() }()
	var revision int64
	if err := tx.GetContext(ctx, &revision, `SELECT revision FROM lines WHERE id = ?`, line); errors.Is(err, sql.ErrNoRows) {
		return program.Program{}, 0, ErrNotFound
	} else if err != nil {
		return program.Program{}, 0, err
	}
	p, err := readThings(ctx, tx, line)
	return p, revision, err
}

// RevisionAt returns the last revision of a line that was made at a time or before;
// 0 for before its first edit.
func (s *Store) RevisionAt(ctx context.Context, line int64, at time.Time) (int64, error) {
	var revision int64
	err := s.db.GetContext(ctx, &revision, `SELECT coalesce(max(revision), 0) FROM edits WHERE line_id = ? AND at <= ?`, line, at.UTC().Format(timeText))
	return revision, err
}

// MadeAt returns when a revision was made, and false for one that the journal has no
// edit of: what a line began with.
func (s *Store) MadeAt(ctx context.Context, line, revision int64) (time.Time, bool, error) {
	var text string
	err := s.db.GetContext(ctx, &text, `SELECT at FROM edits WHERE line_id = ? AND revision = ?`, line, revision)
	if errors.Is(err, sql.ErrNoRows) {
		return time.Time{}, false, nil
	}
	if err != nil {
		return time.Time{}, false, err
	}
	at, err := time.Parse(timeText, text)
	return at, err == nil, err
}

// Checkpoint is a line as it was at one of its revisions.
type Checkpoint struct {
	Revision int64
	Program  program.Program
}

// Compressors of checkpoints: both may be used by many at once.
var (
	packer, _   = zstd.NewWriter(nil, zstd.WithEncoderConcurrency(1))
	unpacker, _ = zstd.NewReader(nil, zstd.WithDecoderConcurrency(0))
)

// SaveCheckpoint keeps a line as it was at a revision, so that those near it can be
// reached soon.
func (s *Store) SaveCheckpoint(ctx context.Context, line int64, c Checkpoint) error {
	text, err := json.Marshal(c.Program)
	if err != nil {
		return err
	}
	_, err = s.db.ExecContext(ctx, `INSERT INTO checkpoints (line_id, revision, body) VALUES (?, ?, ?) ON CONFLICT DO NOTHING`, line, c.Revision, packer.EncodeAll(text, nil))
	return err
}

// Checkpoints lists the revisions of which a line has checkpoints, in order.
func (s *Store) Checkpoints(ctx context.Context, line int64) ([]int64, error) {
	var list []int64
	err := s.db.SelectContext(ctx, &list, `SELECT revision FROM checkpoints WHERE line_id = ? ORDER BY revision`, line)
	return list, err
}

// LoadCheckpoint reads a checkpoint.
func (s *Store) LoadCheckpoint(ctx context.Context, line, revision int64) (Checkpoint, error) {
	c := Checkpoint{Revision: revision}
	body, err := one[[]byte](ctx, s, ErrNotFound, `SELECT body FROM checkpoints WHERE line_id = ? AND revision = ?`, line, revision)
	if err != nil {
		return c, err
	}
	text, err := unpacker.DecodeAll(body, nil)
	if err != nil {
		return c, err
	}
	return c, json.Unmarshal(text, &c.Program)
}

// EditsBetween returns the edits after one revision up to and with another, oldest
// first, with their changes.
func (s *Store) EditsBetween(ctx context.Context, line, after, to int64) ([]Edit, error) {
	return s.edits(ctx, line, `revision > ? AND revision <= ? ORDER BY revision`, after, to)
}

// CountChanges is how many changes the edits after one revision up to another are made of.
func (s *Store) CountChanges(ctx context.Context, line, after, to int64) (n int64, err error) {
	err = s.db.GetContext(ctx, &n, `SELECT coalesce(sum(changes), 0) FROM edits WHERE line_id = ? AND revision > ? AND revision <= ?`, line, after, to)
	return n, err
}
