package store

import (
	"context"
	"fmt"

	"jantrel/core/program"
	"jantrel/internal/journal"
)

// Baseline is a revision of a live plan with a name, as it was seen on a day.
type Baseline struct {
	ID       int64        `db:"id"`
	Program  int64        `db:"program_id"`
	Revision int64        `db:"revision"`
	Day      program.Date `db:"day"`
	Name     string       `db:"name"`
	Note     string       `db:"note"`
	By       string       `db:"made_by"` // who froze it
	At       string       `db:"made_at"` // when, as the journal has times
}

// MaxBaselines is how many baselines a program has at most.
const MaxBaselines = 200

// ErrManyBaselines says that a program has as many baselines as it may.
var ErrManyBaselines = fmt.Errorf("a program has %d baselines at most; remove some first", MaxBaselines)

// Baselines lists the baselines of a program, the newest revision first.
func (s *Store) Baselines(ctx context.Context, id int64) ([]Baseline, error) {
	list := []Baseline{}
	err := s.db.SelectContext(ctx, &list, `SELECT * FROM baselines WHERE program_id = ? ORDER BY revision DESC, id DESC`, id)
	return list, err
}

// Baseline returns a baseline of a program; ErrNotFound where there is none.
func (s *Store) Baseline(ctx context.Context, id, baseline int64) (Baseline, error) {
	return one[Baseline](ctx, s, journal.ErrNotFound, `SELECT * FROM baselines WHERE program_id = ? AND id = ?`, id, baseline)
}

// AddBaseline keeps a baseline, and returns it with its id.
func (s *Store) AddBaseline(ctx context.Context, b Baseline) (Baseline, error) {
	err := s.transact(ctx, func(tx *transaction) error {
		var has int
		if err := tx.GetContext(ctx, &has, `SELECT count(*) FROM baselines WHERE program_id = ?`, b.Program); err != nil {
			return err
		}
		if has >= MaxBaselines {
			return ErrManyBaselines
		}
		result, err := tx.NamedExecContext(ctx, `
			INSERT INTO baselines (program_id, revision, day, name, note, made_by, made_at)
			VALUES (:program_id, :revision, :day, :name, :note, :made_by, :made_at)`, b)
		if err != nil {
			return err
		}
		b.ID, err = result.LastInsertId()
		return err
	})
	return b, err
}

// RemoveBaseline forgets a baseline; the journal keeps what it was.
func (s *Store) RemoveBaseline(ctx context.Context, id, baseline int64) error {
	result, err := s.db.ExecContext(ctx, `DELETE FROM baselines WHERE program_id = ? AND id = ?`, id, baseline)
	if err != nil {
		return err
	}
	if n, err := result.RowsAffected(); err == nil && n == 0 {
		return journal.ErrNotFound
	}
	return nil
}
