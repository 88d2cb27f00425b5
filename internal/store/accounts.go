package store

import (
	"context"
	"database/sql"
	"errors"
	"strings"
	"time"

	"jantrel/core/roles"
)

// Errors about accounts.
var (
	ErrNoAccount   = errors.New("there is no such account")
	ErrLoginTaken  = errors.New("this sign-in name is taken")
	ErrLastAdmin   = errors.New("this is the last administrator who can sign in; make another one first")
	ErrLinkUsed    = errors.New("this link was used already or has expired")
	ErrNotSignedIn = errors.New("not signed in")
	ErrChanged     = errors.New("the account has been changed meanwhile; sign in again")
)

// Account is somebody who may sign in.
type Account struct {
	ID           int64  `db:"id" json:"id"`
	Login        string `db:"login" json:"login"`
	Name         string `db:"name" json:"name"`
	PasswordHash string `db:"password_hash" json:"-"`
	Admin        bool   `db:"admin" json:"admin"`
	Disabled     bool   `db:"disabled" json:"disabled"`
	CreatedAt    string `db:"created_at" json:"createdAt"`
}

// Accounts lists the accounts by name.
func (s *Store) Accounts(ctx context.Context) ([]Account, error) {
	list := []Account{}
	err := s.db.SelectContext(ctx, &list, `SELECT * FROM accounts ORDER BY name COLLATE NOCASE, id`)
	return list, err
}

// HasAccount reports whether there is an account at all.
func (s *Store) HasAccount(ctx context.Context) (has bool, err error) {
	err = s.db.GetContext(ctx, &has, `SELECT EXISTS (SELECT 1 FROM accounts)`)
	return has, err
}

// AccountBy returns the account of which a column ("id" or "login") has a value.
func (s *Store) AccountBy(ctx context.Context, column string, value any) (Account, error) {
	return one[Account](ctx, s, ErrNoAccount, `SELECT * FROM accounts WHERE `+column+` = ?`, value)
}

func one[T any](ctx context.Context, s *Store, missing error, query string, args ...any) (T, error) {
	var row T
	err := s.db.GetContext(ctx, &row, query, args...)
	if errors.Is(err, sql.ErrNoRows) {
		err = missing
	}
	return row, err
}

// AddAccount stores a new account and returns it with its id.
func (s *Store) AddAccount(ctx context.Context, a Account) (Account, error) {
	result, err := s.db.NamedExecContext(ctx, `
		INSERT INTO accounts (login, name, password_hash, admin, created_at) VALUES (:login, :name, :password_hash, :admin, :created_at)`, a)
	if err != nil {
		if strings.Contains(err.Error(), "UNIQUE constraint failed: accounts.login") {
			err = ErrLoginTaken
		}
		return Account{}, err
	}
	a.ID, err = result.LastInsertId()
	return a, err
}

// AccountChange is what becomes other of an account; what is nil stays as it is.
type AccountChange struct {
	Name            *string
	Admin, Disabled *bool
}

// ChangeAccount changes an account's name and rights, and nothing else of it. The last
// administrator who can sign in stays one. Who is disabled is signed out everywhere, and
// their tokens end; links and tokens of who is no administrator any more end where they do not belong.
func (s *Store) ChangeAccount(ctx context.Context, id int64, c AccountChange) (Account, error) {
	var changed Account
	err := s.transact(ctx, func(tx *transaction) error {
		if err := tx.GetContext(ctx, &changed, `
			UPDATE accounts SET name = coalesce(?, name), admin = coalesce(?, admin), disabled = coalesce(?, disabled) WHERE id = ? RETURNING *`,
			c.Name, c.Admin, c.Disabled, id); errors.Is(err, sql.ErrNoRows) {
			return ErrNoAccount
		} else if err != nil {
			return err
		}
		var left bool
		if err := tx.GetContext(ctx, &left, `SELECT EXISTS (SELECT 1 FROM accounts WHERE admin AND NOT disabled)`); err != nil {
			return err
		}
		if !left && (c.Admin != nil || c.Disabled != nil) {
			return ErrLastAdmin
		}
		if changed.Disabled {
			return endAccess(ctx, tx, id, "")
		}
		if !changed.Admin { // who was one may have come in everywhere
			return endLinks(ctx, tx, id, 0)
		}
		return nil
	})
	return changed, err
}

// ChangePassword gives an account another password, if it has the one before still (nil:
// whatever it has) and may sign in. Its other sessions, its devices and its tokens end.
func (s *Store) ChangePassword(ctx context.Context, id int64, before *string, hash, but string) error {
	return s.transact(ctx, func(tx *transaction) error {
		result, err := tx.ExecContext(ctx, `UPDATE accounts SET password_hash = ?1 WHERE id = ?2 AND (?3 IS NULL OR password_hash = ?3 AND NOT disabled)`, hash, id, before)
		if err != nil {
			return err
		}
		if n, err := result.RowsAffected(); err != nil {
			return err
		} else if n == 0 {
			return ErrChanged
		}
		return endAccess(ctx, tx, id, but)
	})
}

// endAccess ends all sessions of an account but one, and its devices and tokens.
func endAccess(ctx context.Context, tx *transaction, account int64, but string) error {
	if err := endSessions(ctx, tx, account, but); err != nil {
		return err
	}
	_, err := tx.ExecContext(ctx, `DELETE FROM tokens WHERE account_id = ?`, account)
	return err
}

// endSessions ends all sessions of an account but one, and forgets its devices.
func endSessions(ctx context.Context, tx *transaction, account int64, but string) error {
	if _, err := tx.ExecContext(ctx, `DELETE FROM sessions WHERE account_id = ? AND secret_hash <> ?`, account, but); err != nil {
		return err
	}
	_, err := tx.ExecContext(ctx, `DELETE FROM devices WHERE account_id = ?`, account)
	return err
}

// Session is a signed-in browser.
type Session struct {
	SecretHash string `db:"secret_hash" json:"-"`
	AccountID  int64  `db:"account_id" json:"-"`
	CreatedAt  string `db:"created_at" json:"createdAt"`
	SeenAt     string `db:"seen_at" json:"seenAt"`
	ExpiresAt  string `db:"expires_at" json:"-"`
}

// stamp writes a time so that texts compare as times do.
func stamp(t time.Time) string { return t.UTC().Format("2006-01-02T15:04:05Z") }

// AddSession stores a session of an account that is still as it was when its owner proved
// themselves: with that password, and not disabled.
func (s *Store) AddSession(ctx context.Context, hash string, of Account, now, expires time.Time) error {
	if _, err := s.db.ExecContext(ctx, `DELETE FROM sessions WHERE expires_at < ?`, stamp(now)); err != nil {
		return err
	}
	result, err := s.db.ExecContext(ctx, `
		INSERT INTO sessions (secret_hash, account_id, created_at, seen_at, expires_at)
		SELECT ?, id, ?, ?, ? FROM accounts WHERE id = ? AND password_hash = ? AND NOT disabled`, hash, stamp(now), stamp(now), stamp(expires), of.ID, of.PasswordHash)
	if err != nil {
		return err
	}
	if n, err := result.RowsAffected(); err != nil || n == 1 {
		return err
	}
	return ErrChanged
}

// SessionAge is when a session ends, however much it is used.
const SessionAge = 90 * 24 * time.Hour

// SessionAccount returns the account of a session that has not expired, and when
// it was last seen.
func (s *Store) SessionAccount(ctx context.Context, hash string, now time.Time) (Account, time.Time, error) {
	type row struct {
		Account
		SeenAt string `db:"seen_at"`
	}
	found, err := one[row](ctx, s, ErrNotSignedIn, `
		SELECT accounts.*, sessions.seen_at FROM sessions JOIN accounts ON accounts.id = account_id
		WHERE secret_hash = ? AND expires_at > ? AND sessions.created_at > ? AND NOT disabled`, hash, stamp(now), stamp(now.Add(-SessionAge)))
	if err != nil {
		return Account{}, time.Time{}, err
	}
	seen, err := time.Parse(time.RFC3339, found.SeenAt)
	return found.Account, seen, err
}

// TouchSession notes that a session is in use, and lengthens it.
func (s *Store) TouchSession(ctx context.Context, hash string, now, expires time.Time) error {
	_, err := s.db.ExecContext(ctx, `UPDATE sessions SET seen_at = ?, expires_at = ? WHERE secret_hash = ?`, stamp(now), stamp(expires), hash)
	return err
}

// Sessions lists the sessions of an account, the newest first.
func (s *Store) Sessions(ctx context.Context, account int64, now time.Time) ([]Session, error) {
	list := []Session{}
	err := s.db.SelectContext(ctx, &list, `SELECT * FROM sessions WHERE account_id = ? AND expires_at > ? AND created_at > ? ORDER BY created_at DESC`, account, stamp(now), stamp(now.Add(-SessionAge)))
	return list, err
}

// EndSession ends one session.
func (s *Store) EndSession(ctx context.Context, hash string) error {
	_, err := s.db.ExecContext(ctx, `DELETE FROM sessions WHERE secret_hash = ?`, hash)
	return err
}

// EndSessions ends all sessions of an account but one, and forgets its devices.
func (s *Store) EndSessions(ctx context.Context, account int64, but string) error {
	return s.transact(ctx, func(tx *transaction) error { return endSessions(ctx, tx, account, but) })
}

// AddDevice remembers a device that an account has signed in on.
func (s *Store) AddDevice(ctx context.Context, hash string, account int64, now time.Time) error {
	_, err := s.db.ExecContext(ctx, `INSERT INTO devices (secret_hash, account_id, created_at) VALUES (?, ?, ?)`, hash, account, stamp(now))
	return err
}

// KnowsDevice reports whether an account has signed in on a device.
func (s *Store) KnowsDevice(ctx context.Context, hash string, account int64) (known bool, err error) {
	err = s.db.GetContext(ctx, &known, `SELECT EXISTS (SELECT 1 FROM devices WHERE secret_hash = ? AND account_id = ?)`, hash, account)
	return known, err
}

// Membership is what an account is to a program.
type Membership struct {
	AccountID int64      `db:"account_id" json:"accountId"`
	ProgramID int64      `db:"program_id" json:"programId"`
	Role      roles.Role `db:"role" json:"role"`
	Person    string     `db:"person" json:"person,omitempty" doc:"The person of the program who they are"`
	Seen      int64      `db:"seen" json:"-"` // up to which revision they have seen the news
}

// Belonging is a membership with who it is.
type Belonging struct {
	Membership
	Login string `db:"login" json:"login"`
	Name  string `db:"name" json:"name"`
}

// Memberships lists what an account is to programs.
func (s *Store) Memberships(ctx context.Context, account int64) ([]Membership, error) {
	list := []Membership{}
	err := s.db.SelectContext(ctx, &list, `SELECT * FROM memberships WHERE account_id = ? ORDER BY program_id`, account)
	return list, err
}

// Belongings lists who belongs to a program.
func (s *Store) Belongings(ctx context.Context, program int64) ([]Belonging, error) {
	list := []Belonging{}
	err := s.db.SelectContext(ctx, &list, `
		SELECT memberships.*, login, name FROM memberships JOIN accounts ON accounts.id = account_id
		WHERE program_id = ? ORDER BY name COLLATE NOCASE, id`, program)
	return list, err
}

// SaveMembership stores what an account is to a program.
func (s *Store) SaveMembership(ctx context.Context, m Membership) error {
	_, err := s.db.NamedExecContext(ctx, `
		INSERT INTO memberships (account_id, program_id, role, person) VALUES (:account_id, :program_id, :role, :person)
		ON CONFLICT (account_id, program_id) DO UPDATE SET role = excluded.role, person = excluded.person`, m)
	return err
}

// SeeNews notes that an account has seen the news of a program up to a revision; it never goes back.
func (s *Store) SeeNews(ctx context.Context, account, program, revision int64) error {
	_, err := s.db.ExecContext(ctx, `UPDATE memberships SET seen = max(seen, ?) WHERE account_id = ? AND program_id = ?`, revision, account, program)
	return err
}

// RemoveMembership ends an account's belonging to a program, and for good what it had made to get in without signing in:
// its links and tokens.
func (s *Store) RemoveMembership(ctx context.Context, account, program int64) error {
	return s.transact(ctx, func(tx *transaction) error {
		if _, err := tx.ExecContext(ctx, `DELETE FROM memberships WHERE account_id = ? AND program_id = ?`, account, program); err != nil {
			return err
		}
		return endLinks(ctx, tx, account, program)
	})
}

// Token lets a program of somebody's own use the interface, with a role in one
// program, until it expires.
type Token struct {
	ID         int64      `db:"id" json:"id"`
	SecretHash string     `db:"secret_hash" json:"-"`
	AccountID  int64      `db:"account_id" json:"-"`
	ProgramID  int64      `db:"program_id" json:"programId"`
	Name       string     `db:"name" json:"name"`
	Role       roles.Role `db:"role" json:"role"`
	CreatedAt  string     `db:"created_at" json:"createdAt"`
	ExpiresAt  string     `db:"expires_at" json:"expiresAt"`
	UsedAt     string     `db:"used_at" json:"usedAt,omitempty"`
}

// TokenOf is a token with the name of its program.
type TokenOf struct {
	Token
	Program string `db:"program" json:"program"`
}

// AddToken stores a token and returns its id.
func (s *Store) AddToken(ctx context.Context, t Token) (int64, error) {
	result, err := s.db.NamedExecContext(ctx, `
		INSERT INTO tokens (secret_hash, account_id, program_id, name, role, created_at, expires_at)
		VALUES (:secret_hash, :account_id, :program_id, :name, :role, :created_at, :expires_at)`, t)
	if err != nil {
		return 0, err
	}
	return result.LastInsertId()
}

// Tokens lists an account's tokens for a program, the newest first.
func (s *Store) Tokens(ctx context.Context, account, program int64) ([]Token, error) {
	list := []Token{}
	err := s.db.SelectContext(ctx, &list, `SELECT * FROM tokens WHERE account_id = ? AND program_id = ? ORDER BY id DESC`, account, program)
	return list, err
}

// TokensOf lists all tokens of an account with the programs they are for, the newest first.
func (s *Store) TokensOf(ctx context.Context, account int64) ([]TokenOf, error) {
	list := []TokenOf{}
	err := s.db.SelectContext(ctx, &list, `
		SELECT tokens.*, programs.name AS program FROM tokens JOIN programs ON programs.id = program_id WHERE account_id = ? ORDER BY tokens.id DESC`, account)
	return list, err
}

// RemoveToken ends an account's token.
func (s *Store) RemoveToken(ctx context.Context, account, id int64) error {
	_, err := s.db.ExecContext(ctx, `DELETE FROM tokens WHERE id = ? AND account_id = ?`, id, account)
	return err
}

// TokenAccount returns a token that has not expired and its account, and notes
// the use once a minute.
func (s *Store) TokenAccount(ctx context.Context, hash string, now time.Time) (Token, Account, error) {
	token, err := one[Token](ctx, s, ErrNotSignedIn, `SELECT * FROM tokens WHERE secret_hash = ? AND expires_at > ?`, hash, stamp(now))
	if err != nil {
		return Token{}, Account{}, err
	}
	account, err := s.AccountBy(ctx, "id", token.AccountID)
	if err != nil {
		return Token{}, Account{}, err
	}
	if account.Disabled {
		return Token{}, Account{}, ErrNotSignedIn
	}
	if token.UsedAt < stamp(now.Add(-time.Minute)) {
		// Where this cannot be written, as on a full disk, it is only not known.
		_, _ = s.db.ExecContext(ctx, `UPDATE tokens SET used_at = ? WHERE id = ?`, stamp(now), token.ID)
	}
	return token, account, err
}

// AddFirstLink makes the one-time link to the first administrator; earlier ones
// lapse.
func (s *Store) AddFirstLink(ctx context.Context, hash string, expires time.Time) error {
	if _, err := s.db.ExecContext(ctx, `DELETE FROM first_links`); err != nil {
		return err
	}
	_, err := s.db.ExecContext(ctx, `INSERT INTO first_links (secret_hash, expires_at) VALUES (?, ?)`, hash, stamp(expires))
	return err
}

// FirstLinkHolds reports whether a one-time link can still be used.
func (s *Store) FirstLinkHolds(ctx context.Context, hash string, now time.Time) (holds bool, err error) {
	err = s.db.GetContext(ctx, &holds, `
		SELECT EXISTS (SELECT 1 FROM first_links WHERE secret_hash = ? AND expires_at > ?) AND NOT EXISTS (SELECT 1 FROM accounts)`, hash, stamp(now))
	return holds, err
}

// UseFirstLink uses up the one-time link.
func (s *Store) UseFirstLink(ctx context.Context, hash string, now time.Time) error {
	result, err := s.db.ExecContext(ctx, `DELETE FROM first_links WHERE secret_hash = ? AND expires_at > ? AND NOT EXISTS (SELECT 1 FROM accounts)`, hash, stamp(now))
	if err != nil {
		return err
	}
	if n, err := result.RowsAffected(); err != nil || n == 1 {
		return err
	}
	return ErrLinkUsed
}
