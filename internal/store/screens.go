package store

import (
	"context"
	"encoding/json"
	"fmt"

	"github.com/jmoiron/sqlx"

	"jantrel/core/reports"
	"jantrel/internal/journal"
)

// Screen lets whoever has its secret see one page, until it is ended.
type Screen struct {
	ID      int64
	Program int64
	Page    int64
	MakerID int64
	Maker   string
	MadeAt  string // as the journal has times
	SeenAt  string // empty: never
	Body    reports.Screen
}

type screenRow struct {
	ID      int64  `db:"id"`
	Program int64  `db:"program_id"`
	Page    int64  `db:"page_id"`
	Secret  string `db:"secret"` // hashed
	MakerID int64  `db:"maker_id"`
	Maker   string `db:"maker"`
	MadeAt  string `db:"made_at"`
	SeenAt  string `db:"seen_at"`
	Body    string `db:"body"`
}

func (r screenRow) screen() (Screen, error) {
	s := Screen{r.ID, r.Program, r.Page, r.MakerID, r.Maker, r.MadeAt, r.SeenAt, reports.Screen{}}
	return s, json.Unmarshal([]byte(r.Body), &s.Body)
}

// MaxScreens is how many links lead to screens of one page at most.
const MaxScreens = 50

// ErrManyScreens says that there are as many as there may be.
var ErrManyScreens = fmt.Errorf("a page has %d screens at most; end some first", MaxScreens)

// Screens lists the screens of a page, the oldest first.
func (s *Store) Screens(ctx context.Context, program, page int64) ([]Screen, error) {
	var rows []screenRow
	if err := s.db.SelectContext(ctx, &rows, `SELECT * FROM screens WHERE program_id = ? AND page_id = ? ORDER BY id`, program, page); err != nil {
		return nil, err
	}
	list := make([]Screen, len(rows))
	for i, r := range rows {
		var err error
		if list[i], err = r.screen(); err != nil {
			return nil, err
		}
	}
	return list, nil
}

// AddScreen keeps a screen under the hash of its secret, and returns it with its id.
func (s *Store) AddScreen(ctx context.Context, screen Screen, secret string) (Screen, error) {
	body, err := json.Marshal(screen.Body)
	if err != nil {
		return screen, err
	}
	err = s.transact(ctx, func(tx *sqlx.Tx) error {
		var has int
		if err := tx.GetContext(ctx, &has, `SELECT count(*) FROM screens WHERE page_id = ?`, screen.Page); err != nil {
			return err
		}
		if has >= MaxScreens {
			return ErrManyScreens
		}
		result, err := tx.ExecContext(ctx, `INSERT INTO screens (program_id, page_id, secret, maker_id, maker, made_at, body) VALUES (?, ?, ?, ?, ?, ?, ?)`,
			screen.Program, screen.Page, secret, screen.MakerID, screen.Maker, screen.MadeAt, string(body))
		if err != nil {
			return err
		}
		screen.ID, err = result.LastInsertId()
		return err
	})
	return screen, err
}

// EndScreen forgets a screen of a page: its link leads nowhere from now on. ErrNotFound where there is none.
func (s *Store) EndScreen(ctx context.Context, program, page, id int64) error {
	result, err := s.db.ExecContext(ctx, `DELETE FROM screens WHERE program_id = ? AND page_id = ? AND id = ?`, program, page, id)
	if err != nil {
		return err
	}
	if n, err := result.RowsAffected(); err == nil && n == 0 {
		return journal.ErrNotFound
	}
	return nil
}

// ScreenOf is the screen of a hashed secret, with the account that made it, as long as that may sign in and belongs to
// the program. ErrNotFound where there is none.
func (s *Store) ScreenOf(ctx context.Context, secret string) (Screen, Account, error) {
	row, err := one[screenRow](ctx, s, journal.ErrNotFound, `SELECT l.* FROM screens l JOIN accounts a ON a.id = l.maker_id WHERE l.secret = ? AND `+makerBelongs, secret)
	if err != nil {
		return Screen{}, Account{}, err
	}
	screen, err := row.screen()
	if err != nil {
		return screen, Account{}, err
	}
	account, err := s.AccountBy(ctx, "id", screen.MakerID)
	return screen, account, err
}

// SawScreen notes when a screen last asked.
func (s *Store) SawScreen(ctx context.Context, id int64, at string) error {
	_, err := s.db.ExecContext(ctx, `UPDATE screens SET seen_at = ? WHERE id = ?`, at, id)
	return err
}
