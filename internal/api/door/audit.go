package door

import (
	"context"
	"fmt"
	"sync"
	"time"

	"jantrel/internal/account"
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
	entry.Request, _ = ctx.Value(requestKey{}).(string)
	write := func(entry store.Audited) {
		if err := d.Store().Note(context.WithoutCancel(ctx), time.Now(), entry); err != nil {
			d.Log.ErrorContext(ctx, "not in the audit log", "event", entry.Event, "account", entry.Account, "about", entry.About, "detail", entry.Detail, "error", err)
		}
	}
	if event == store.Refused || event == store.SignInRefused {
		d.refusals.note(entry, write)
		return
	}
	write(entry)
}

// refusals keeps the audit log from filling up with what strangers send: of the same refusals within a minute one is
// written, and of one network few a minute as they are. What comes beyond is counted, whatever it was for, and told in one
// entry when the minute is over; a server that stops meanwhile does not tell it.
type refusals struct {
	mu   sync.Mutex
	last map[store.Audited]time.Time
	from map[string]*flood // by network
}

// flood is what came from a network within the minute.
type flood struct {
	begin   time.Time
	written int
	more    int // beyond what was written
}

// Limits of refusals in the audit log.
const (
	refusedEvery = time.Minute
	refusedPlain = 10     // of one network a minute, as they are
	refusedMost  = 10_000 // that are remembered
)

// note writes a refusal, or counts it.
func (r *refusals) note(entry store.Audited, write func(store.Audited)) {
	if r.admit(entry, write) {
		write(entry)
	}
}

func (r *refusals) admit(entry store.Audited, write func(store.Audited)) bool {
	r.mu.Lock()
	defer r.mu.Unlock()
	now, same := time.Now(), entry
	same.Request = ""
	if at, has := r.last[same]; has && now.Sub(at) < refusedEvery {
		return false
	}
	network := account.NetworkOf(entry.Address)
	if r.from == nil || len(r.from) >= refusedMost {
		r.from = map[string]*flood{}
	}
	f := r.from[network]
	if f == nil || now.Sub(f.begin) >= refusedEvery {
		f = &flood{begin: now}
		r.from[network] = f
	}
	if f.written == refusedPlain {
		if f.more++; f.more == 1 {
			time.AfterFunc(f.begin.Add(refusedEvery).Sub(now), func() { r.tell(f, entry.Event, network, write) })
		}
		return false
	}
	f.written++
	if r.last == nil || len(r.last) >= refusedMost {
		r.last = map[store.Audited]time.Time{}
	}
	r.last[same] = now
	return true
}

// tell writes how many refusals of a network were not written.
func (r *refusals) tell(f *flood, event store.Event, network string, write func(store.Audited)) {
	r.mu.Lock()
	more := f.more
	r.mu.Unlock()
	write(store.Audited{Event: event, Detail: fmt.Sprintf("%d more from this network within a minute, whatever they were for", more), Address: network})
}
