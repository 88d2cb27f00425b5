package door

import (
	"context"
	"errors"
	"fmt"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"jantrel/core/roles"
	"jantrel/internal/account"
	"jantrel/internal/journal"
	"jantrel/internal/store"
)

// SharedPath is where links lead that need no account. What follows it is a secret.
const SharedPath = "/api/v1/shared/"

// Link is a link by which somebody sees something of a program without an account.
type Link struct {
	ID      int64          `json:"id"`
	Program int64          `json:"program"`
	In      string         `json:"in" doc:"Name of the program"`
	Kind    store.LinkKind `json:"kind" enum:"brief,screen,dates"`
	To      string         `json:"to,omitempty" doc:"Name of the brief or page that it leads to"`
	By      string         `json:"by" doc:"Who made it: it leads there as long as they belong to the program"`
	Mine    bool           `json:"mine,omitempty" doc:"One made it oneself"`
	MadeAt  time.Time      `json:"madeAt"`
	UsedAt  *time.Time     `json:"usedAt,omitempty" doc:"When it was last followed; missing: never"`
}

// Links lists links as people read of them.
func (d *Door) Links(ctx context.Context, of store.LinksOf) ([]Link, error) {
	found, err := d.Store().Links(ctx, of)
	if err != nil {
		return nil, d.Failed(ctx, err)
	}
	list := make([]Link, len(found))
	for i, l := range found {
		list[i] = Link{l.ID, l.Program, l.In, l.Kind, l.To, l.Maker, l.MakerID == VisitorOf(ctx).Account.ID, l.Made(), l.Used()}
	}
	return list, nil
}

// MakeLink makes a link in the visitor's name, and returns it with its secret, which is told once. what says in plain
// words what was not made where that is refused.
func (d *Door) MakeLink(ctx context.Context, l store.Link, what string) (store.Link, string, error) {
	v := VisitorOf(ctx)
	secret, hash := account.NewSecret()
	l.MakerID, l.Maker, l.MadeAt = v.Account.ID, v.Account.Name, d.Hub.Now().UTC().Format(time.RFC3339Nano)
	made, err := d.Store().AddLink(ctx, l, hash)
	var many *store.ManyLinksError
	switch {
	case errors.As(err, &many):
		return l, "", huma.Error409Conflict("No " + what + " was made: " + many.Error() + ".")
	case err != nil:
		return l, "", d.Failed(ctx, err)
	}
	d.noteLink(ctx, store.LinkMade, made.ID)
	return made, secret, nil
}

// EndLink ends a link of a program, which leads nowhere from now on. One may end what one made, who may let others in what
// others let them see, and who manages the program all of it.
func (d *Door) EndLink(ctx context.Context, of store.LinksOf, as roles.Role) error {
	found, err := d.Store().Links(ctx, of)
	if err != nil {
		return d.Failed(ctx, err)
	}
	if len(found) == 0 {
		return huma.Error404NotFound("There is no such link. It may have been ended.")
	}
	if err := d.Person(ctx); err != nil {
		return err
	}
	lets := roles.MayBeside(as, roles.Briefs) && found[0].Kind != store.ToDates
	if !lets && !Manages(as) && found[0].MakerID != VisitorOf(ctx).Account.ID {
		return d.Denied(ctx, "Nothing was ended: this link is somebody else's. Ask them, or a program manager.")
	}
	d.noteLink(ctx, store.LinkEnded, found[0].ID)
	if err := d.Store().EndLink(ctx, found[0].Program, found[0].ID); err != nil && !errors.Is(err, journal.ErrNotFound) {
		return d.Failed(ctx, err)
	}
	return nil
}

// noteLink puts into the audit log what became of a link.
func (d *Door) noteLink(ctx context.Context, event store.Event, id int64) {
	found, err := d.Store().Links(ctx, store.LinksOf{ID: &id})
	if err != nil || len(found) == 0 {
		return
	}
	l := found[0]
	detail := fmt.Sprintf("%s of %s", l.Kind, l.In)
	if l.To != "" {
		detail = fmt.Sprintf("%s “%s” of %s", l.Kind, l.To, l.In)
	}
	d.Note(ctx, event, l.Login, detail)
}

// Follow is the link of a secret and who made it; or the problem to answer with, which is nowhere where there is no such
// link.
func (d *Door) Follow(ctx context.Context, kind store.LinkKind, secret, nowhere string) (store.Link, store.Account, error) {
	l, maker, err := d.Store().LinkOf(ctx, kind, account.HashSecret(secret))
	if errors.Is(err, journal.ErrNotFound) {
		return l, maker, huma.Error404NotFound(nowhere)
	}
	if err != nil {
		return l, maker, d.Failed(ctx, err)
	}
	if err := d.paceLink(l.ID); err != nil {
		return l, maker, err
	}
	d.Store().UsedLink(l.ID, d.Hub.Now())
	return l, maker, nil
}
