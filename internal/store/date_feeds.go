package store

import (
	"context"
	"encoding/json"
	"fmt"

	"jantrel/internal/journal"

	"github.com/jmoiron/sqlx"
)

// DateFeed lets a calendar fetch the dates of a program in the name of an account, until it is ended.
type DateFeed struct {
	ID      int64
	Program int64
	MakerID int64
	MadeAt  string // as the journal has times
	ReadAt  string // empty: never
	What    []string
}

type dateFeedRow struct {
	ID      int64  `db:"id"`
	Program int64  `db:"program_id"`
	Secret  string `db:"secret"` // hashed
	MakerID int64  `db:"maker_id"`
	MadeAt  string `db:"made_at"`
	ReadAt  string `db:"read_at"`
	What    string `db:"what"`
}

func (r dateFeedRow) feed() (DateFeed, error) {
	f := DateFeed{ID: r.ID, Program: r.Program, MakerID: r.MakerID, MadeAt: r.MadeAt, ReadAt: r.ReadAt}
	return f, json.Unmarshal([]byte(r.What), &f.What)
}

// MaxDateFeeds is how many feeds an account has of a program at most.
const MaxDateFeeds = 10

// ErrManyDateFeeds says that there are as many as there may be.
var ErrManyDateFeeds = fmt.Errorf("somebody has %d addresses of a program at most; end some first", MaxDateFeeds)

// DateFeeds lists the feeds that an account has of a program, the oldest first.
func (s *Store) DateFeeds(ctx context.Context, program, account int64) ([]DateFeed, error) {
	var rows []dateFeedRow
	if err := s.db.SelectContext(ctx, &rows, `SELECT * FROM date_feeds WHERE program_id = ? AND maker_id = ? ORDER BY id`, program, account); err != nil {
		return nil, err
	}
	list := make([]DateFeed, len(rows))
	for i, r := range rows {
		var err error
		if list[i], err = r.feed(); err != nil {
			return nil, err
		}
	}
	return list, nil
}

// AddDateFeed keeps a feed under the hash of its secret, and returns it with its id.
func (s *Store) AddDateFeed(ctx context.Context, f DateFeed, secret string) (DateFeed, error) {
	what, err := json.Marshal(f.What)
	if err != nil {
		return f, err
	}
	err = s.transact(ctx, func(tx *sqlx.Tx) error {
		var has int
		if err := tx.GetContext(ctx, &has, `SELECT count(*) FROM date_feeds WHERE program_id = ? AND maker_id = ?`, f.Program, f.MakerID); err != nil {
			return err
		}
		if has >= MaxDateFeeds {
			return ErrManyDateFeeds
		}
		result, err := tx.ExecContext(ctx, `INSERT INTO date_feeds (program_id, secret, maker_id, made_at, what) VALUES (?, ?, ?, ?, ?)`, f.Program, secret, f.MakerID, f.MadeAt, string(what))
		if err != nil {
			return err
		}
		f.ID, err = result.LastInsertId()
		return err
	})
	return f, err
}

// EndDateFeed forgets a feed of an account: its address leads nowhere from now on.
func (s *Store) EndDateFeed(ctx context.Context, program, account, id int64) error {
	_, err := s.db.ExecContext(ctx, `DELETE FROM date_feeds WHERE program_id = ? AND maker_id = ? AND id = ?`, program, account, id)
	return err
}

// DateFeedOf is the feed of a hashed secret, with the account whose it is, as long as that may sign in and belongs to the
// program; it notes when. ErrNotFound where there is none.
func (s *Store) DateFeedOf(ctx context.Context, secret, at string) (DateFeed, Account, error) {
	row, err := one[dateFeedRow](ctx, s, journal.ErrNotFound, `SELECT l.* FROM date_feeds l JOIN accounts a ON a.id = l.maker_id WHERE l.secret = ? AND `+makerBelongs, secret)
	if err != nil {
		return DateFeed{}, Account{}, err
	}
	if _, err := s.db.ExecContext(ctx, `UPDATE date_feeds SET read_at = ? WHERE id = ?`, at, row.ID); err != nil {
		return DateFeed{}, Account{}, err
	}
	f, err := row.feed()
	if err != nil {
		return f, Account{}, err
	}
	account, err := s.AccountBy(ctx, "id", f.MakerID)
	return f, account, err
}
