package door

import (
	"context"
	"sync"
	"time"

	"jantrel/internal/store"
)

// Note puts what the visitor did into the audit log: to whom or what, and what more is to be
// said. It does so also where they hang up. Where it cannot be written, the server's log has it.
func (d *Door) Note(ctx context.Context, event store.Event, about, detail string) {
	d.NoteAs(ctx, VisitorOf(ctx).Account.Login, event, about, detail)
}

// NoteAs is Note of somebody who has not signed in, or who just did.
func (d *Door) NoteAs(ctx context.Context, login string, event store.Event, about, detail string) {
	entry := store.Audited{Event: event, Account: login, About: about, Detail: detail, Address: VisitorOf(ctx).Address}
	if v := VisitorOf(ctx); v.Token != nil {
		entry.Account += " (token " + v.Token.Name + ")"
	}
	now := time.Now()
	if event == store.Refused || event == store.SignInRefused {
		if !d.refusals.first(entry, now) {
			return
		}
	}
	entry.Request, _ = ctx.Value(requestKey{}).(string)
	if err := d.Store().Note(context.WithoutCancel(ctx), now, entry); err != nil {
		d.Log.ErrorContext(ctx, "not in the audit log", "event", event, "account", login, "about", about, "detail", detail, "error", err)
	}
}

// refusals keeps the audit log from filling up with one refusal over and over.
type refusals struct {
	mu   sync.Mutex
	last map[store.Audited]time.Time
}

// Of the same refusals within a minute one is written; so many are remembered.
const (
	refusedEvery = time.Minute
	refusedMost  = 10_000
)

// first reports whether an entry has not been written within the last minute.
func (r *refusals) first(entry store.Audited, now time.Time) bool {
	r.mu.Lock()
	defer r.mu.Unlock()
	if at, has := r.last[entry]; has && now.Sub(at) < refusedEvery {
		return false
	}
	if r.last == nil || len(r.last) >= refusedMost {
		r.last = map[store.Audited]time.Time{}
	}
	r.last[entry] = now
	return true
}
