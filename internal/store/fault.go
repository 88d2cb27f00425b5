package store

import (
	"context"
	"database/sql"
	"errors"

	"github.com/jmoiron/sqlx"
)

// Fault is an error of the database itself, and nothing that somebody asked for: its text
// is for the log.
type Fault struct{ Err error }

func (f *Fault) Error() string { return "the database: " + f.Err.Error() }

// Unwrap returns what the database said.
func (f *Fault) Unwrap() error { return f.Err }

// Full reports whether the disk has no room: nothing can be written until it has, and all
// that is stored can be read.
func (f *Fault) Full() bool {
	const full = 13 // SQLITE_FULL
	var of interface{ Code() int }
	return errors.As(f.Err, &of) && of.Code()&0xff == full
}

// Probe tries whether there is room to write: some of it, which goes again.
func (s *Store) Probe(ctx context.Context) error {
	_, err := s.db.ExecContext(ctx, `INSERT INTO probe (body) VALUES (zeroblob(65536))`)
	if err == nil {
		_, err = s.db.ExecContext(ctx, `DELETE FROM probe`)
	}
	return err
}

// IsFull reports whether an error is that the disk has no room.
func IsFull(err error) bool {
	var f *Fault
	return errors.As(err, &f) && f.Full()
}

// fault marks errors of the database. What this package says itself, and that somebody
// hung up, are none.
func fault(err error) error {
	var marked *Fault
	switch {
	case err == nil, errors.As(err, &marked), errors.Is(err, sql.ErrNoRows), errors.Is(err, context.Canceled), errors.Is(err, context.DeadlineExceeded):
		return err
	}
	for _, own := range []error{ErrNotFound, ErrNoAccount, ErrLoginTaken, ErrLastAdmin, ErrLinkUsed, ErrNotSignedIn, ErrNoAttachment, ErrChanged} {
		if errors.Is(err, own) {
			return err
		}
	}
	return &Fault{err}
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
