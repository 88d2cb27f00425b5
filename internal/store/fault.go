package store

import (
	"context"
	"database/sql"
	"errors"

	"jantrel/internal/journal"

	"github.com/jmoiron/sqlx"
)

// Probe tries whether there is room to write: some of it, which goes again.
func (s *Store) Probe(ctx context.Context) error {
	_, err := s.db.ExecContext(ctx, `INSERT INTO probe (body) VALUES (zeroblob(65536))`)
	if err == nil {
		_, err = s.db.ExecContext(ctx, `DELETE FROM probe`)
	}
	return err
}

// fault marks errors of the database. What this package says itself, and that somebody
// hung up, are none.
func fault(err error) error {
	var marked *journal.Fault
	switch {
	case err == nil, errors.As(err, &marked), errors.Is(err, sql.ErrNoRows), errors.Is(err, context.Canceled), errors.Is(err, context.DeadlineExceeded):
		return err
	}
	for _, own := range []error{journal.ErrNotFound, ErrNoAccount, ErrLoginTaken, ErrLastAdmin, ErrLinkUsed, ErrNotSignedIn, ErrNoAttachment, ErrChanged} {
		if errors.Is(err, own) {
			return err
		}
	}
	return &journal.Fault{Err: err}
}

// database is a sqlx.DB whose errors are marked.
type database struct{ *sqlx.DB }

func (d database) GetContext(ctx context.Context, into any, query string, args ...any) error {
	return fault(d.DB.GetContext(ctx, into, query, args...))
}

func (d database) SelectContext(ctx context.Context, into any, query string, args ...any) error {
	return fault(d.DB.SelectContext(ctx, into, query, args...))
}

func (d database) ExecContext(ctx context.Context, query string, args ...any) (sql.Result, error) {
	result, err := d.DB.ExecContext(ctx, query, args...)
	return result, fault(err)
}

func (d database) NamedExecContext(ctx context.Context, query string, arg any) (sql.Result, error) {
	result, err := d.DB.NamedExecContext(ctx, query, arg)
	return result, fault(err)
}

func (d database) BeginTxx(ctx context.Context, options *sql.TxOptions) (*sqlx.Tx, error) {
	tx, err := d.DB.BeginTxx(ctx, options)
	return tx, fault(err)
}
