package store

import (
	"context"
	"strings"
	"sync"
	"time"
)

// Event is what an entry of the audit log tells of.
type Event string

// The events of the audit log.
const (
	SignedIn        Event = "signed in"
	SignedOut       Event = "signed out"
	SignInRefused   Event = "sign-in refused"
	Refused         Event = "refused"
	PasswordChanged Event = "password changed"
	AccountAdded    Event = "account added"
	AccountChanged  Event = "account changed"
	AccessEnded     Event = "access ended"
	RoleGiven       Event = "role given"
	RoleEnded       Event = "role ended"
	TokenMade       Event = "token made"
	TokenEnded      Event = "token ended"
	LinkMade        Event = "link made"
	LinkEnded       Event = "link ended"
	ProgramMade     Event = "program made"
	ProgramDeleted  Event = "program deleted"
	BackupMade      Event = "backup made"
	BackupFetched   Event = "backup fetched"
)

// Events are all of them, in the order in which lists offer them.
var Events = []Event{SignedIn, SignedOut, SignInRefused, Refused, PasswordChanged, AccountAdded, AccountChanged, AccessEnded,
	RoleGiven, RoleEnded, TokenMade, TokenEnded, LinkMade, LinkEnded, ProgramMade, ProgramDeleted, BackupMade, BackupFetched}

// Audited is an entry of the audit log. Accounts and programs stand in it as they were called
// then: it outlives them.
type Audited struct {
	ID      int64  `db:"id" json:"id"`
	At      string `db:"at" json:"at"`
	Event   Event  `db:"event" json:"event"`
	Account string `db:"account" json:"account" doc:"Sign-in name of who did it, or tried to"`
	About   string `db:"about" json:"about" doc:"Whom or what it was done to"`
	Detail  string `db:"detail" json:"detail"`
	Address string `db:"address" json:"address" doc:"Where the request came from"`
	Request string `db:"request" json:"request" doc:"The request's id in the server's log"`
}

// Limits of the audit log.
const (
	auditKept = 40_000 // entries of each event; the oldest go, so that no kind of entry, such as refusals, drives out others
	auditText = 200    // bytes of a text in it, which may be what a stranger sent
	auditTrim = 100    // notes of an event until the oldest are looked for
)

// Note adds an entry to the audit log.
func (s *Store) Note(ctx context.Context, at time.Time, a Audited) error {
	a.At = at.UTC().Format(timeText)
	for _, text := range []*string{&a.Account, &a.About, &a.Detail, &a.Address, &a.Request} {
		if len(*text) > auditText {
			*text = strings.ToValidUTF8((*text)[:auditText], "") + "…"
		}
	}
	_, err := s.db.NamedExecContext(ctx, `
		INSERT INTO audit (at, event, account, about, detail, address, request) VALUES (:at, :event, :account, :about, :detail, :address, :request)`, a)
	if err != nil || !s.noted.full(a.Event) {
		return err
	}
	return s.trimAudit(ctx, a.Event, auditKept)
}

// trimAudit removes the oldest entries of an event beyond so many.
func (s *Store) trimAudit(ctx context.Context, event Event, kept int) error {
	_, err := s.db.ExecContext(ctx, `
		DELETE FROM audit WHERE event = ? AND id <= (SELECT id FROM audit WHERE event = ? ORDER BY id DESC LIMIT 1 OFFSET ?)`, event, event, kept)
	return err
}

// noted counts notes since the store was opened.
type noted struct {
	mu sync.Mutex
	of map[Event]int
}

// full counts a note, and reports whether it is time to look for old ones: at the first one, too, as nobody knows how
// many there were.
func (n *noted) full(event Event) bool {
	n.mu.Lock()
	defer n.mu.Unlock()
	if n.of == nil {
		n.of = map[Event]int{}
	}
	n.of[event]++
	return n.of[event]%auditTrim == 1
}

// AuditOf says which entries of the audit log are asked for; what is empty does not matter.
type AuditOf struct {
	Before  int64 // only entries older than this one
	Event   Event
	Account string // by or about whom
}

// Audit returns entries of the audit log, newest first.
func (s *Store) Audit(ctx context.Context, of AuditOf, limit int) ([]Audited, error) {
	where, args := []string{"1"}, []any{}
	add := func(text string, values ...any) { where, args = append(where, text), append(args, values...) }
	if of.Before > 0 {
		add(`id < ?`, of.Before)
	}
	if of.Event != "" {
		add(`event = ?`, of.Event)
	}
	if of.Account != "" {
		add(`(account = ? OR about = ?)`, of.Account, of.Account)
	}
	list := []Audited{}
	err := s.db.SelectContext(ctx, &list, `SELECT * FROM audit WHERE `+strings.Join(where, " AND ")+` ORDER BY id DESC LIMIT ?`, append(args, limit)...)
	return list, err
}
