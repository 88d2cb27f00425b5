package store

import (
	"context"
	"database/sql"
	"errors"
	"time"

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

// fault marks errors of the database. That a row is not there, and that somebody hung up, are none.
func fault(err error) error {
	if err == nil || errors.Is(err, sql.ErrNoRows) || errors.Is(err, context.Canceled) || errors.Is(err, context.DeadlineExceeded) {
		return err
	}
	return &journal.Fault{Err: err}
}

// marked marks an error that the database itself said and nobody has marked yet.
func marked(err error) error {
	var already *journal.Fault
	var said interface{ Code() int }
	if errors.As(err, &already) || !errors.As(err, &said) {
		return err
	}
	return fault(err)
}

// Limits of connections that read.
const (
	mostReaders = 16          // at once; who comes beyond waits for one
	idleReader  = time.Minute // then one that is not needed goes
)

// database are the connections to a database. Many read at once; one writes, and whoever wants to write waits until it is
// free, or until their context ends: no write of this process meets the lock of another one. Its errors are marked.
type database struct {
	readers *sqlx.DB
	writer  *sqlx.DB // has one connection
}

// Close closes all of them.
func (d database) Close() error { return errors.Join(d.readers.Close(), d.writer.Close()) }

func (d database) GetContext(ctx context.Context, into any, query string, args ...any) error {
	return fault(d.readers.GetContext(ctx, into, query, args...))
}

func (d database) SelectContext(ctx context.Context, into any, query string, args ...any) error {
	return fault(d.readers.SelectContext(ctx, into, query, args...))
}

// Copy writes all that there is, as it is at one moment, into a new file: for the database itself that is reading.
func (d database) Copy(ctx context.Context, path string) error {
	_, err := d.readers.ExecContext(ctx, `VACUUM INTO ?`, path)
	return fault(err)
}

func (d database) ExecContext(ctx context.Context, query string, args ...any) (sql.Result, error) {
	result, err := d.writer.ExecContext(ctx, query, args...)
	return result, fault(err)
}

func (d database) NamedExecContext(ctx context.Context, query string, arg any) (sql.Result, error) {
	result, err := d.writer.NamedExecContext(ctx, query, arg)
	return result, fault(err)
}

// Begin begins to write: others wait until it ends.
func (d database) Begin(ctx context.Context) (*transaction, error) {
	return begun(d.writer.BeginTxx(ctx, nil))
}

// Look begins to read what there is at one moment.
func (d database) Look(ctx context.Context) (*transaction, error) {
	return begun(d.readers.BeginTxx(ctx, &sql.TxOptions{ReadOnly: true}))
}

func begun(tx *sqlx.Tx, err error) (*transaction, error) {
	if err != nil {
		return nil, fault(err)
	}
	return &transaction{tx}, nil
}

// transaction is what is read or written together. Its errors are marked.
type transaction struct{ tx *sqlx.Tx }

func (t *transaction) GetContext(ctx context.Context, into any, query string, args ...any) error {
	return fault(t.tx.GetContext(ctx, into, query, args...))
}

func (t *transaction) SelectContext(ctx context.Context, into any, query string, args ...any) error {
	return fault(t.tx.SelectContext(ctx, into, query, args...))
}

func (t *transaction) ExecContext(ctx context.Context, query string, args ...any) (sql.Result, error) {
	result, err := t.tx.ExecContext(ctx, query, args...)
	return result, fault(err)
}

func (t *transaction) NamedExecContext(ctx context.Context, query string, arg any) (sql.Result, error) {
	result, err := t.tx.NamedExecContext(ctx, query, arg)
	return result, fault(err)
}

func (t *transaction) QueryContext(ctx context.Context, query string, args ...any) (*sql.Rows, error) {
	rows, err := t.tx.QueryContext(ctx, query, args...)
	return rows, fault(err)
}

// PrepareNamedContext prepares a statement, whose errors transact marks.
func (t *transaction) PrepareNamedContext(ctx context.Context, query string) (*sqlx.NamedStmt, error) {
	stmt, err := t.tx.PrepareNamedContext(ctx, query)
	return stmt, fault(err)
}

// PreparexContext is PrepareNamedContext, for values in their order.
func (t *transaction) PreparexContext(ctx context.Context, query string) (*sqlx.Stmt, error) {
	stmt, err := t.tx.PreparexContext(ctx, query)
	return stmt, fault(err)
}

// Commit ends it: what was written stays.
func (t *transaction) Commit() error { return fault(t.tx.Commit()) }

// Rollback ends it as if nothing had been written.
func (t *transaction) Rollback() error { return fault(t.tx.Rollback()) }
