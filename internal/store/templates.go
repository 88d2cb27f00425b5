package store

import (
	"context"
	"encoding/json"
	"fmt"

	"jantrel/core/starting"
	"jantrel/internal/journal"
)

// Template is a template that is kept for new programs.
type Template struct {
	ID      int64  `db:"id"`
	Name    string `db:"name"`
	Says    string `db:"says"`
	MakerID int64  `db:"maker_id"`
	Maker   string `db:"maker"`
	MadeAt  string `db:"made_at"` // as the journal has times
}

// MaxTemplates is how many templates a server keeps at most.
const MaxTemplates = 100

// ErrManyTemplates says that there are as many as there may be.
var ErrManyTemplates = fmt.Errorf("a server keeps %d templates at most; remove some first", MaxTemplates)

// Templates lists the templates, the oldest first.
func (s *Store) Templates(ctx context.Context) ([]Template, error) {
	list := []Template{}
	err := s.db.SelectContext(ctx, &list, `SELECT id, name, says, maker_id, maker, made_at FROM templates ORDER BY id`)
	return list, err
}

// TemplateOf returns a template, with who made it; ErrNotFound where there is none.
func (s *Store) TemplateOf(ctx context.Context, id int64) (Template, starting.Made, error) {
	row, err := one[struct {
		Template
		Body string `db:"body"`
	}](ctx, s, journal.ErrNotFound, `SELECT * FROM templates WHERE id = ?`, id)
	if err != nil {
		return Template{}, starting.Made{}, err
	}
	var made starting.Made
	return row.Template, made, json.Unmarshal([]byte(row.Body), &made)
}

// AddTemplate keeps a template, and returns it with its id.
func (s *Store) AddTemplate(ctx context.Context, t Template, made *starting.Made) (Template, error) {
	body, err := json.Marshal(made)
	if err != nil {
		return t, err
	}
	t.Name, t.Says = made.Name, made.Says
	err = s.transact(ctx, func(tx *transaction) error {
		var has int
		if err := tx.GetContext(ctx, &has, `SELECT count(*) FROM templates`); err != nil {
			return err
		}
		if has >= MaxTemplates {
			return ErrManyTemplates
		}
		result, err := tx.ExecContext(ctx, `INSERT INTO templates (name, says, maker_id, maker, made_at, body) VALUES (?, ?, ?, ?, ?, ?)`, t.Name, t.Says, t.MakerID, t.Maker, t.MadeAt, string(body))
		if err != nil {
			return err
		}
		t.ID, err = result.LastInsertId()
		return err
	})
	return t, err
}

// RemoveTemplate forgets a template; programs that started from it stay as they are.
func (s *Store) RemoveTemplate(ctx context.Context, id int64) error {
	_, err := s.db.ExecContext(ctx, `DELETE FROM templates WHERE id = ?`, id)
	return err
}
