package store

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"

	"jantrel/core/reports"
	"jantrel/internal/journal"
)

// Sharing is what others may do with a page.
type Sharing string

// The values of Sharing.
const (
	Private    Sharing = ""
	SharedRead Sharing = "read"
	SharedEdit Sharing = "edit"
)

// Page is a page of charts that somebody keeps in a program.
type Page struct {
	ID        int64
	Program   int64
	OwnerID   int64
	Owner     string
	Shared    Sharing
	People    []int64 // accounts that it is shared with; none: all who belong to the program
	Version   int64   // counts its changes
	ChangedBy string
	ChangedAt string // as the journal has times
	Body      reports.Page
}

// pageRow is a page as the table has it.
type pageRow struct {
	ID        int64   `db:"id"`
	Program   int64   `db:"program_id"`
	OwnerID   int64   `db:"owner_id"`
	Owner     string  `db:"owner"`
	Shared    Sharing `db:"shared"`
	People    string  `db:"people"`
	Version   int64   `db:"version"`
	ChangedBy string  `db:"changed_by"`
	ChangedAt string  `db:"changed_at"`
	Body      string  `db:"body"`
}

func (r pageRow) page() (Page, error) {
	p := Page{ID: r.ID, Program: r.Program, OwnerID: r.OwnerID, Owner: r.Owner, Shared: r.Shared, Version: r.Version, ChangedBy: r.ChangedBy, ChangedAt: r.ChangedAt}
	return p, errors.Join(json.Unmarshal([]byte(r.People), &p.People), json.Unmarshal([]byte(r.Body), &p.Body))
}

func rowOf(p Page) (pageRow, error) {
	people, err := json.Marshal(append([]int64{}, p.People...))
	body, bad := json.Marshal(p.Body)
	return pageRow{p.ID, p.Program, p.OwnerID, p.Owner, p.Shared, string(people), p.Version, p.ChangedBy, p.ChangedAt, string(body)}, errors.Join(err, bad)
}

// MaxPages is how many pages somebody keeps in a program at most.
const MaxPages = 100

// Errors of pages.
var (
	ErrManyPages = fmt.Errorf("somebody keeps %d pages in a program at most; remove some first", MaxPages)
	ErrPageMoved = errors.New("somebody else changed this page meanwhile")
)

// Pages lists the pages of a program, the oldest first.
func (s *Store) Pages(ctx context.Context, program int64) ([]Page, error) {
	var rows []pageRow
	if err := s.db.SelectContext(ctx, &rows, `SELECT * FROM pages WHERE program_id = ? ORDER BY id`, program); err != nil {
		return nil, err
	}
	pages := make([]Page, len(rows))
	for i, r := range rows {
		var err error
		if pages[i], err = r.page(); err != nil {
			return nil, err
		}
	}
	return pages, nil
}

// Page returns a page of a program; ErrNotFound where there is none.
func (s *Store) Page(ctx context.Context, program, id int64) (Page, error) {
	row, err := one[pageRow](ctx, s, journal.ErrNotFound, `SELECT * FROM pages WHERE program_id = ? AND id = ?`, program, id)
	if err != nil {
		return Page{}, err
	}
	return row.page()
}

// AddPage keeps a page, and returns it with its id.
func (s *Store) AddPage(ctx context.Context, p Page) (Page, error) {
	p.Version = 1
	row, err := rowOf(p)
	if err != nil {
		return p, err
	}
	err = s.transact(ctx, func(tx *transaction) error {
		var has int
		if err := tx.GetContext(ctx, &has, `SELECT count(*) FROM pages WHERE program_id = ? AND owner_id = ?`, p.Program, p.OwnerID); err != nil {
			return err
		}
		if has >= MaxPages {
			return ErrManyPages
		}
		result, err := tx.NamedExecContext(ctx, `
			INSERT INTO pages (program_id, owner_id, owner, shared, people, version, changed_by, changed_at, body)
			VALUES (:program_id, :owner_id, :owner, :shared, :people, :version, :changed_by, :changed_at, :body)`, row)
		if err != nil {
			return err
		}
		p.ID, err = result.LastInsertId()
		return err
	})
	return p, err
}

// KeepPage replaces a page of the version that p has; ErrPageMoved where it is another one by now.
func (s *Store) KeepPage(ctx context.Context, p Page) (Page, error) {
	row, err := rowOf(p)
	if err != nil {
		return p, err
	}
	result, err := s.db.NamedExecContext(ctx, `
		UPDATE pages SET owner_id = :owner_id, owner = :owner, shared = :shared, people = :people, version = version + 1, changed_by = :changed_by, changed_at = :changed_at, body = :body
		WHERE program_id = :program_id AND id = :id AND version = :version`, row)
	if err != nil {
		return p, err
	}
	if n, err := result.RowsAffected(); err != nil || n == 0 {
		return p, errors.Join(err, ErrPageMoved)
	}
	p.Version++
	return p, nil
}

// RemovePage deletes a page for good.
func (s *Store) RemovePage(ctx context.Context, program, id int64) error {
	_, err := s.db.ExecContext(ctx, `DELETE FROM pages WHERE program_id = ? AND id = ?`, program, id)
	return err
}
