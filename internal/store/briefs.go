package store

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"

	"jantrel/core/briefs"
	"jantrel/core/program"
	"jantrel/internal/journal"
)

// Brief is what a program's people are told of its plan: a draft, or as it was published.
type Brief struct {
	ID        int64
	Program   int64
	Number    int64 // of the program's published ones; 0: a draft
	Version   int64 // counts its changes
	Author    string
	ChangedAt string // as the journal has times; of a published one when it was
	Body      briefs.Brief
	Revision  int64 // of the live plan that it was published from
	Day       program.Date
	Written   *briefs.Written // as it was published
}

// briefRow is a brief as the table has it.
type briefRow struct {
	ID        int64        `db:"id"`
	Program   int64        `db:"program_id"`
	Number    int64        `db:"number"`
	Version   int64        `db:"version"`
	Author    string       `db:"author"`
	ChangedAt string       `db:"changed_at"`
	Body      string       `db:"body"`
	Revision  int64        `db:"revision"`
	Day       program.Date `db:"day"`
	Written   string       `db:"written"`
}

func (r briefRow) brief() (Brief, error) {
	b := Brief{ID: r.ID, Program: r.Program, Number: r.Number, Version: r.Version, Author: r.Author, ChangedAt: r.ChangedAt, Revision: r.Revision, Day: r.Day}
	err := json.Unmarshal([]byte(r.Body), &b.Body)
	if r.Written != "" {
		err = errors.Join(err, json.Unmarshal([]byte(r.Written), &b.Written))
	}
	return b, err
}

// MaxBriefs is how many briefs a program has at most.
const MaxBriefs = 1000

// Errors of briefs.
var (
	ErrManyBriefs = fmt.Errorf("a program has %d briefs at most; remove drafts first", MaxBriefs)
	ErrBriefMoved = errors.New("somebody else changed or published this brief meanwhile")
)

// Briefs lists the briefs of a program, drafts first, then the newest published one first. What they say is left out.
func (s *Store) Briefs(ctx context.Context, program int64) ([]Brief, error) {
	var rows []briefRow
	err := s.db.SelectContext(ctx, &rows, `SELECT id, program_id, number, version, author, changed_at, body, revision, day, '' AS written
		FROM briefs WHERE program_id = ? ORDER BY number > 0, number DESC, id DESC`, program)
	if err != nil {
		return nil, err
	}
	list := make([]Brief, len(rows))
	for i, r := range rows {
		if list[i], err = r.brief(); err != nil {
			return nil, err
		}
	}
	return list, nil
}

// Brief returns a brief of a program; ErrNotFound where there is none.
func (s *Store) Brief(ctx context.Context, program, id int64) (Brief, error) {
	row, err := one[briefRow](ctx, s, journal.ErrNotFound, `SELECT * FROM briefs WHERE program_id = ? AND id = ?`, program, id)
	if err != nil {
		return Brief{}, err
	}
	return row.brief()
}

// AddBrief keeps a draft, and returns it with its id.
func (s *Store) AddBrief(ctx context.Context, b Brief) (Brief, error) {
	body, err := json.Marshal(b.Body)
	if err != nil {
		return b, err
	}
	err = s.transact(ctx, func(tx *transaction) error {
		var has int
		if err := tx.GetContext(ctx, &has, `SELECT count(*) FROM briefs WHERE program_id = ?`, b.Program); err != nil {
			return err
		}
		if has >= MaxBriefs {
			return ErrManyBriefs
		}
		result, err := tx.ExecContext(ctx, `INSERT INTO briefs (program_id, author, changed_at, body) VALUES (?, ?, ?, ?)`, b.Program, b.Author, b.ChangedAt, string(body))
		if err != nil {
			return err
		}
		b.ID, err = result.LastInsertId()
		b.Version = 1
		return err
	})
	return b, err
}

// KeepBrief replaces a draft of the version that b has; ErrBriefMoved where it is another one by now, or published.
func (s *Store) KeepBrief(ctx context.Context, b Brief) (Brief, error) {
	body, err := json.Marshal(b.Body)
	if err != nil {
		return b, err
	}
	result, err := s.db.ExecContext(ctx, `UPDATE briefs SET body = ?, author = ?, changed_at = ?, version = version + 1
		WHERE program_id = ? AND id = ? AND version = ? AND number = 0`, string(body), b.Author, b.ChangedAt, b.Program, b.ID, b.Version)
	if err != nil {
		return b, err
	}
	if n, err := result.RowsAffected(); err != nil || n == 0 {
		return b, errors.Join(err, ErrBriefMoved)
	}
	b.Version++
	return b, nil
}

// PublishBrief gives a draft the next number of its program, and what it says then; ErrBriefMoved as for KeepBrief.
func (s *Store) PublishBrief(ctx context.Context, b Brief) (Brief, error) {
	written, err := json.Marshal(b.Written)
	if err != nil {
		return b, err
	}
	err = s.transact(ctx, func(tx *transaction) error {
		if err := tx.GetContext(ctx, &b.Number, `SELECT coalesce(max(number), 0) + 1 FROM briefs WHERE program_id = ?`, b.Program); err != nil {
			return err
		}
		result, err := tx.ExecContext(ctx, `UPDATE briefs SET number = ?, author = ?, changed_at = ?, revision = ?, day = ?, written = ?, version = version + 1
			WHERE program_id = ? AND id = ? AND version = ? AND number = 0`, b.Number, b.Author, b.ChangedAt, b.Revision, b.Day, string(written), b.Program, b.ID, b.Version)
		if err != nil {
			return err
		}
		if n, err := result.RowsAffected(); err != nil || n == 0 {
			return errors.Join(err, ErrBriefMoved)
		}
		b.Version++
		return nil
	})
	return b, err
}

// RemoveBrief deletes a draft for good; what was published stays, and is ErrNotFound.
func (s *Store) RemoveBrief(ctx context.Context, program, id int64) error {
	result, err := s.db.ExecContext(ctx, `DELETE FROM briefs WHERE program_id = ? AND id = ? AND number = 0`, program, id)
	if err != nil {
		return err
	}
	if n, err := result.RowsAffected(); err == nil && n == 0 {
		return journal.ErrNotFound
	}
	return nil
}

// BriefForms are the forms that briefs of a program begin with.
func (s *Store) BriefForms(ctx context.Context, program int64) (forms briefs.Forms, err error) {
	var text string
	if err = s.db.GetContext(ctx, &text, `SELECT brief_forms FROM programs WHERE id = ?`, program); err != nil {
		return forms, err
	}
	return forms, json.Unmarshal([]byte(text), &forms)
}

// KeepBriefForms replaces them.
func (s *Store) KeepBriefForms(ctx context.Context, program int64, forms briefs.Forms) error {
	text, err := json.Marshal(forms)
	if err != nil {
		return err
	}
	_, err = s.db.ExecContext(ctx, `UPDATE programs SET brief_forms = ? WHERE id = ?`, string(text), program)
	return err
}
