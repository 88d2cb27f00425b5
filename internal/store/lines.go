package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"github.com/klauspost/compress/zstd"

	"jantrel/core/program"
	"jantrel/internal/journal"
)

// Live returns the line of a program's live plan.
func (s *Store) Live(ctx context.Context, id int64) (journal.Line, error) {
	return one[journal.Line](ctx, s, journal.ErrNotFound, `SELECT * FROM lines WHERE program_id = ? AND base_line IS NULL`, id)
}

// Line returns a line by its id.
func (s *Store) Line(ctx context.Context, id int64) (journal.Line, error) {
	return one[journal.Line](ctx, s, journal.ErrNotFound, `SELECT * FROM lines WHERE id = ?`, id)
}

// Lines lists the lines of a program, the live plan first.
func (s *Store) Lines(ctx context.Context, id int64) ([]journal.Line, error) {
	list := []journal.Line{}
	err := s.db.SelectContext(ctx, &list, `SELECT * FROM lines WHERE program_id = ? ORDER BY base_line IS NOT NULL, id`, id)
	return list, err
}

// MakeScenario makes a scenario of a live plan as it was at a revision. It takes no more room than its edits will.
func (s *Store) MakeScenario(ctx context.Context, live journal.Line, revision int64, about journal.About) (journal.Line, error) {
	line := journal.Line{Program: live.Program, Base: &live.ID, BaseRevision: &revision, Revision: revision, About: about}
	err := s.transact(ctx, func(tx *transaction) (err error) {
		var has struct{ Has, Own int }
		if err := tx.GetContext(ctx, &has, `SELECT count(*) AS has, count(CASE WHEN owner_id = ? THEN 1 END) AS own FROM lines WHERE program_id = ? AND base_line IS NOT NULL`, about.Owner, live.Program); err != nil {
			return err
		}
		if err := journal.RoomFor(has.Has, has.Own); err != nil {
			return err
		}
		line.ID, err = newLine(ctx, tx, line)
		return err
	})
	return line, err
}

// KeepAbout changes what people know of a scenario: its name, its note and whether it is shared.
func (s *Store) KeepAbout(ctx context.Context, line int64, about journal.About) error {
	_, err := s.db.ExecContext(ctx, `UPDATE lines SET name = ?, note = ?, shared = ? WHERE id = ? AND base_line IS NOT NULL`, about.Name, about.Note, about.Shared, line)
	return err
}

// DeleteScenario removes a scenario with its journal, for good.
func (s *Store) DeleteScenario(ctx context.Context, line int64) error {
	_, err := s.db.ExecContext(ctx, `DELETE FROM lines WHERE id = ? AND base_line IS NOT NULL`, line)
	return err
}

func newLine(ctx context.Context, tx *transaction, line journal.Line) (int64, error) {
	result, err := tx.NamedExecContext(ctx, `
		INSERT INTO lines (program_id, base_line, base_revision, revision, name, note, owner_id, made_by, shared, made_at, made_from)
		VALUES (:program_id, :base_line, :base_revision, :revision, :name, :note, :owner_id, :made_by, :shared, :made_at, :made_from)`, line)
	if err != nil {
		return 0, err
	}
	return result.LastInsertId()
}

// told is where a line's journal and its checkpoints are read from, as tables of SQL: its own and, of a scenario,
// those of the live plan up to where it begins.
type told struct{ edits, journal, checkpoints string }

func (s *Store) told(ctx context.Context, line int64) (told, error) {
	l, err := s.Line(ctx, line)
	if err != nil {
		return told{}, err
	}
	from := func(table string) string {
		own := fmt.Sprintf(`SELECT * FROM %s WHERE line_id = %d`, table, l.ID)
		if l.Base == nil {
			return "(" + own + ")"
		}
		return fmt.Sprintf(`(%s UNION ALL SELECT * FROM %s WHERE line_id = %d AND revision <= %d)`, own, table, *l.Base, *l.BaseRevision)
	}
	return told{from("edits"), from("journal"), from("checkpoints")}, nil
}

// Load reads a live plan as it is now, and its revision. Of a scenario the journal alone is kept.
func (s *Store) Load(ctx context.Context, line int64) (program.Program, int64, error) {
	tx, err := s.db.Look(ctx)
	if err != nil {
		return program.Program{}, 0, err
	}
	defer func() { _ = tx.Rollback() }()
	var revision int64
	if err := tx.GetContext(ctx, &revision, `SELECT revision FROM lines WHERE id = ?`, line); errors.Is(err, sql.ErrNoRows) {
		return program.Program{}, 0, journal.ErrNotFound
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
	from, err := s.told(ctx, line)
	if err != nil {
		return 0, err
	}
	err = s.db.GetContext(ctx, &revision, `SELECT coalesce(max(revision), 0) FROM `+from.edits+` WHERE at <= ?`, at.UTC().Format(timeText))
	return revision, err
}

// MadeAt returns when a revision was made, and false for one that the journal has no
// edit of: what a line began with.
func (s *Store) MadeAt(ctx context.Context, line, revision int64) (time.Time, bool, error) {
	from, err := s.told(ctx, line)
	if err != nil {
		return time.Time{}, false, err
	}
	var text string
	err = s.db.GetContext(ctx, &text, `SELECT at FROM `+from.edits+` WHERE revision = ?`, revision)
	if errors.Is(err, sql.ErrNoRows) {
		return time.Time{}, false, nil
	}
	if err != nil {
		return time.Time{}, false, err
	}
	at, err := time.Parse(timeText, text)
	return at, err == nil, err
}

// Compressors of checkpoints: both may be used by many at once.
var (
	packer, _   = zstd.NewWriter(nil, zstd.WithEncoderConcurrency(1))
	unpacker, _ = zstd.NewReader(nil, zstd.WithDecoderConcurrency(0))
)

// SaveCheckpoint keeps a line as it was at a revision, so that those near it can be
// reached soon.
func (s *Store) SaveCheckpoint(ctx context.Context, line int64, c journal.Checkpoint) error {
	text, err := json.Marshal(c.Program)
	if err != nil {
		return err
	}
	_, err = s.db.ExecContext(ctx, `INSERT INTO checkpoints (line_id, revision, body) VALUES (?, ?, ?) ON CONFLICT DO NOTHING`, line, c.Revision, packer.EncodeAll(text, nil))
	return err
}

// Checkpoints lists the revisions of which a line has checkpoints, in order.
func (s *Store) Checkpoints(ctx context.Context, line int64) ([]int64, error) {
	from, err := s.told(ctx, line)
	if err != nil {
		return nil, err
	}
	var list []int64
	err = s.db.SelectContext(ctx, &list, `SELECT revision FROM `+from.checkpoints+` ORDER BY revision`)
	return list, err
}

// LoadCheckpoint reads a checkpoint.
func (s *Store) LoadCheckpoint(ctx context.Context, line, revision int64) (journal.Checkpoint, error) {
	c := journal.Checkpoint{Revision: revision}
	from, err := s.told(ctx, line)
	if err != nil {
		return c, err
	}
	body, err := one[[]byte](ctx, s, journal.ErrNotFound, `SELECT body FROM `+from.checkpoints+` WHERE revision = ?`, revision)
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
func (s *Store) EditsBetween(ctx context.Context, line, after, to int64) ([]journal.Edit, error) {
	return s.edits(ctx, line, `revision > ? AND revision <= ? ORDER BY revision`, after, to)
}

// CountChanges is how many changes the edits after one revision up to another are made of.
func (s *Store) CountChanges(ctx context.Context, line, after, to int64) (n int64, err error) {
	from, err := s.told(ctx, line)
	if err != nil {
		return 0, err
	}
	err = s.db.GetContext(ctx, &n, `SELECT coalesce(sum(changes), 0) FROM `+from.edits+` WHERE revision > ? AND revision <= ?`, after, to)
	return n, err
}

// UpTo is the revision of the live plan that a scenario had last been brought up to by one of its revisions.
func (s *Store) UpTo(ctx context.Context, line, revision int64) (int64, error) {
	return one[int64](ctx, s, journal.ErrNotFound, `
		SELECT coalesce((SELECT up_to FROM edits WHERE line_id = l.id AND up_to IS NOT NULL AND revision <= ? ORDER BY revision DESC LIMIT 1), base_revision)
		FROM lines l WHERE id = ? AND base_line IS NOT NULL`, revision, line)
}
