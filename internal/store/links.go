package store

import (
	"context"
	"encoding/json"
	"fmt"
	"strings"
	"sync"
	"time"

	"jantrel/internal/journal"
)

// LinkKind is what a link leads to.
type LinkKind string

// The values of LinkKind.
const (
	ToBrief  LinkKind = "brief"  // a published brief
	ToScreen LinkKind = "screen" // a page, on a screen
	ToDates  LinkKind = "dates"  // dates, for a calendar
)

// linkKinds say, of each kind of link, which column has what it leads to, and how many there are at most: to one of them,
// or of one account.
var linkKinds = map[LinkKind]struct {
	about string
	most  int
	says  string
}{
	ToBrief:  {"brief_id", 50, "%d links at most lead to a brief; end some first"},
	ToScreen: {"page_id", 50, "a page has %d screens at most; end some first"},
	ToDates:  {"", 10, "somebody has %d addresses of a program at most; end some first"},
}

// ManyLinksError says that there are as many links of a kind as there may be.
type ManyLinksError struct{ Kind LinkKind }

func (e *ManyLinksError) Error() string {
	kind := linkKinds[e.Kind]
	return fmt.Sprintf(kind.says, kind.most)
}

// Link lets whoever has its secret see one thing of a program without an account, until it is ended. It leads there as
// long as who made it may sign in and belongs to the program.
type Link struct {
	ID      int64
	Program int64
	Kind    LinkKind
	About   int64  // the brief or page that it leads to; 0: of dates
	MakerID int64  // dates are theirs
	Maker   string // their name
	Login   string // their sign-in name
	To      string // what the brief or page is called
	In      string // what the program is called
	MadeAt  string // as the journal has times
	UsedAt  string // the minute in which it was last followed; empty: never
	Body    json.RawMessage
}

// Made is when it was made.
func (l *Link) Made() time.Time {
	at, _ := time.Parse(time.RFC3339Nano, l.MadeAt) // written by AddLink
	return at
}

// Used is when it was last followed; nil for never.
func (l *Link) Used() *time.Time {
	at, err := time.Parse(time.RFC3339Nano, l.UsedAt)
	if err != nil {
		return nil
	}
	return &at
}

type linkRow struct {
	ID      int64    `db:"id"`
	Program int64    `db:"program_id"`
	Kind    LinkKind `db:"kind"`
	Brief   *int64   `db:"brief_id"`
	Page    *int64   `db:"page_id"`
	Secret  string   `db:"secret"`
	MakerID int64    `db:"maker_id"`
	MadeAt  string   `db:"made_at"`
	UsedAt  string   `db:"used_at"`
	Body    string   `db:"body"`
	Maker   string   `db:"maker"`
	Login   string   `db:"login"`
	To      string   `db:"to"`
	In      string   `db:"in"`
}

// aboutLinks begins to read links l with what is known of them.
const aboutLinks = `SELECT l.*, a.name AS maker, a.login, p.name AS "in", coalesce(
		(SELECT json_extract(body, '$.title') FROM briefs WHERE id = l.brief_id),
		(SELECT json_extract(body, '$.name') FROM pages WHERE id = l.page_id), '') AS "to"
	FROM links l JOIN accounts a ON a.id = l.maker_id JOIN programs p ON p.id = l.program_id WHERE `

func (s *Store) linkOf(r *linkRow) Link {
	l := Link{ID: r.ID, Program: r.Program, Kind: r.Kind, MakerID: r.MakerID, Maker: r.Maker, Login: r.Login, MadeAt: r.MadeAt, UsedAt: r.UsedAt, To: r.To, In: r.In, Body: json.RawMessage(r.Body)}
	for _, about := range []*int64{r.Brief, r.Page} {
		if about != nil {
			l.About = *about
		}
	}
	if at := s.used.of(r.ID); at > l.UsedAt {
		l.UsedAt = at
	}
	return l
}

// LinksOf says which links are meant; what is nil, or no kind, does not matter.
type LinksOf struct {
	ID, Program, Maker *int64
	Kind               LinkKind
	About              *int64 // of a kind
}

func (of LinksOf) where() (string, []any) {
	where, args := []string{"1"}, []any{}
	add := func(column string, value *int64) {
		if value != nil {
			where, args = append(where, "l."+column+" = ?"), append(args, *value)
		}
	}
	add("id", of.ID)
	add("program_id", of.Program)
	add("maker_id", of.Maker)
	if of.Kind != "" {
		where, args = append(where, "l.kind = ?"), append(args, of.Kind)
	}
	if about := linkKinds[of.Kind].about; about != "" {
		add(about, of.About)
	}
	return strings.Join(where, " AND "), args
}

// Links lists links with who made them, the oldest first.
func (s *Store) Links(ctx context.Context, of LinksOf) ([]Link, error) {
	var rows []linkRow
	where, args := of.where()
	if err := s.db.SelectContext(ctx, &rows, aboutLinks+where+` ORDER BY l.id`, args...); err != nil {
		return nil, err
	}
	list := make([]Link, len(rows))
	for i := range rows {
		list[i] = s.linkOf(&rows[i])
	}
	return list, nil
}

// AddLink keeps a link under the hash of its secret, and returns it with its id.
func (s *Store) AddLink(ctx context.Context, l Link, secret string) (Link, error) {
	kind := linkKinds[l.Kind]
	row := linkRow{Program: l.Program, Kind: l.Kind, Secret: secret, MakerID: l.MakerID, MadeAt: l.MadeAt, Body: string(l.Body)}
	like := LinksOf{Program: &l.Program, Kind: l.Kind, Maker: &l.MakerID}
	if kind.about != "" {
		like = LinksOf{Program: &l.Program, Kind: l.Kind, About: &l.About}
		*map[LinkKind]**int64{ToBrief: &row.Brief, ToScreen: &row.Page}[l.Kind] = &l.About
	}
	err := s.transact(ctx, func(tx *transaction) error {
		var has int
		where, args := like.where()
		if err := tx.GetContext(ctx, &has, `SELECT count(*) FROM links l WHERE `+where, args...); err != nil {
			return err
		}
		if has >= kind.most {
			return &ManyLinksError{l.Kind}
		}
		result, err := tx.NamedExecContext(ctx, `INSERT INTO links (program_id, kind, brief_id, page_id, secret, maker_id, made_at, body)
			VALUES (:program_id, :kind, :brief_id, :page_id, :secret, :maker_id, :made_at, :body)`, row)
		if err != nil {
			return err
		}
		l.ID, err = result.LastInsertId()
		return err
	})
	return l, err
}

// EndLink forgets a link: it leads nowhere from now on. ErrNotFound where there is none.
func (s *Store) EndLink(ctx context.Context, program, id int64) error {
	result, err := s.db.ExecContext(ctx, `DELETE FROM links WHERE program_id = ? AND id = ?`, program, id)
	if err != nil {
		return err
	}
	if n, err := result.RowsAffected(); err == nil && n == 0 {
		return journal.ErrNotFound
	}
	return nil
}

// endLinks ends the links that an account made and its tokens, of one program or, without one, of all those that it does
// not belong to: whoever comes back does not find them again.
func endLinks(ctx context.Context, tx *transaction, account, program int64) error {
	const outside = ` AND (program_id = ?2 OR ?2 = 0 AND NOT EXISTS (SELECT 1 FROM memberships m WHERE m.account_id = ?1 AND m.program_id = `
	_, err := tx.ExecContext(ctx, `DELETE FROM links WHERE maker_id = ?1`+outside+`links.program_id))`, account, program)
	if err == nil {
		_, err = tx.ExecContext(ctx, `DELETE FROM tokens WHERE account_id = ?1`+outside+`tokens.program_id))`, account, program)
	}
	return err
}

// LinkOf is the link of a hashed secret, with the account that made it, as long as that may sign in and belongs to the
// program. ErrNotFound where there is none of the kind.
func (s *Store) LinkOf(ctx context.Context, kind LinkKind, secret string) (Link, Account, error) {
	row, err := one[linkRow](ctx, s, journal.ErrNotFound, aboutLinks+`l.secret = ? AND l.kind = ? AND a.disabled = 0
		AND (a.admin = 1 OR EXISTS (SELECT 1 FROM memberships m WHERE m.account_id = l.maker_id AND m.program_id = l.program_id))`, secret, kind)
	if err != nil {
		return Link{}, Account{}, err
	}
	account, err := s.AccountBy(ctx, "id", row.MakerID)
	return s.linkOf(&row), account, err
}

// usedLinks are the links that were followed since that was last written: it is written once a minute for all of them.
type usedLinks struct {
	mu sync.Mutex
	at map[int64]string // by link
}

// usedEvery is how often it is written which links were followed.
const usedEvery = time.Minute

func (u *usedLinks) of(id int64) string {
	u.mu.Lock()
	defer u.mu.Unlock()
	return u.at[id]
}

// take forgets them.
func (u *usedLinks) take() map[int64]string {
	u.mu.Lock()
	defer u.mu.Unlock()
	taken := u.at
	u.at = nil
	return taken
}

// UsedLink notes that a link was followed. It is known at once, and written within a minute or when the store is closed.
func (s *Store) UsedLink(id int64, at time.Time) {
	s.used.mu.Lock()
	defer s.used.mu.Unlock()
	if s.used.at == nil {
		s.used.at = map[int64]string{}
		time.AfterFunc(usedEvery, func() { _ = s.writeUsed(context.Background()) }) // what cannot be written is only not known
	}
	s.used.at[id] = at.UTC().Format(time.RFC3339Nano)
}

// writeUsed writes which links were followed.
func (s *Store) writeUsed(ctx context.Context) error {
	used := s.used.take()
	if len(used) == 0 {
		return nil
	}
	return s.transact(ctx, func(tx *transaction) error {
		for id, at := range used {
			if _, err := tx.ExecContext(ctx, `UPDATE links SET used_at = ? WHERE id = ?`, at, id); err != nil {
				return err
			}
		}
		return nil
	})
}
