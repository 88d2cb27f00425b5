// Package door is where requests come in: it finds out who sends one, opens what they may
// see, and turns errors into problem details. The packages beside it, one a stage, register
// their operations with it.
package door

import (
	"context"
	"errors"
	"log/slog"
	"slices"
	"strconv"

	"github.com/danielgtaylor/huma/v2"

	"jantrel/core/program"
	"jantrel/core/roles"
	"jantrel/internal/account"
	"jantrel/internal/journal"
	"jantrel/internal/live"
	"jantrel/internal/store"
)

// Door is what every operation goes through.
type Door struct {
	Hub         *live.Hub
	Accounts    *account.Service
	Log         *slog.Logger
	BehindProxy bool // requests come through a proxy of one's own, over HTTPS
	Quotas      Quotas
	Version     string // of the server

	refusals refusals
	used     quotas
	streams  streams
}

// Store is where all is kept.
func (d *Door) Store() *store.Store { return d.Accounts.Store() }

// Open returns a program by id for a visitor who belongs to it, or the problem to
// answer with. To others it looks as if there were none.
func (d *Door) Open(ctx context.Context, id int64) (*live.Line, error) {
	p, _, err := d.OpenAs(ctx, id)
	return p, err
}

// OpenAs is Open, with what the visitor is to the program. Where a scenario or the past is asked about, it is that
// line.
func (d *Door) OpenAs(ctx context.Context, id int64) (*live.Line, roles.Who, error) {
	who, err := d.member(ctx, id)
	if err != nil {
		return nil, who, err
	}
	live.AskerOf(ctx).Looks = who.Role == roles.Viewer
	line := lineOf(ctx)
	var l *live.Line
	if line.scenario != 0 {
		l, who, err = d.scenario(ctx, id, line.scenario, who)
	} else if l, err = d.Hub.Open(ctx, id); err != nil {
		err = d.Failed(ctx, err)
	}
	if err != nil || line.at == "" {
		return l, who, err
	}
	return d.frozen(ctx, l, who, line.at)
}

// member is what a visitor is to a program that they belong to, or the problem to answer with.
func (d *Door) member(ctx context.Context, id int64) (roles.Who, error) {
	who, err := d.Who(ctx, id)
	switch {
	case err != nil:
		return who, d.Failed(ctx, err)
	case who.Role == "":
		return who, d.Problem(ctx, journal.ErrNotFound)
	}
	return who, nil
}

// Read returns the line that is asked about, and its state then.
func (d *Door) Read(ctx context.Context, in Reading) (*live.Line, *live.State, error) {
	l, _, state, err := d.ReadAs(ctx, in)
	return l, state, err
}

// ReadAs is Read, with what the visitor is to the program.
func (d *Door) ReadAs(ctx context.Context, in Reading) (*live.Line, roles.Who, *live.State, error) {
	l, who, err := d.OpenAs(ctx, in.ID)
	if err != nil {
		return l, who, nil, err
	}
	return l, who, l.State(), nil
}

// Author is the visitor as the author of an edit from an open page. A page's name
// counts only together with whose it is.
func (d *Door) Author(ctx context.Context, who roles.Who, client string) live.Author {
	v := VisitorOf(ctx)
	return live.Author{
		Actor: v.Account.Name, Account: who.Author, Client: strconv.FormatInt(v.Account.ID, 10) + ":" + client,
		May: func(p program.Program, changes []program.Change) error {
			err := roles.Check(p, who, changes)
			if err != nil {
				d.Log.WarnContext(ctx, "refused: role", "account", v.Account.Login, "role", who.Role, "error", err)
				d.Note(ctx, store.Refused, p.Name, "as "+string(who.Role)+": "+err.Error())
			}
			return err
		},
	}
}

// Administrator refuses who may not say who belongs to a program.
func (d *Door) Administrator(ctx context.Context, id int64) (*live.Line, error) {
	p, who, err := d.OpenAs(ctx, id)
	if err != nil {
		return nil, err
	}
	if who.Role != roles.Administrator {
		return nil, d.Denied(ctx, "Only an administrator of the program may do this.")
	}
	return p, d.Person(ctx)
}

// ServerAdministrator refuses who may not manage accounts.
func (d *Door) ServerAdministrator(ctx context.Context) error {
	if v := VisitorOf(ctx); !v.Account.Admin || v.Token != nil {
		return d.Denied(ctx, "Only an administrator of the server may manage accounts.")
	}
	return nil
}

// Left reports whether an account does not come into a program any more: it does not belong there, may not sign in, or is
// gone (nil).
func (d *Door) Left(ctx context.Context, program int64, account *int64) (bool, error) {
	if account == nil {
		return true, nil
	}
	a, err := d.Store().AccountBy(ctx, "id", *account)
	if errors.Is(err, store.ErrNoAccount) || err == nil && a.Disabled {
		return true, nil
	}
	if err != nil || a.Admin {
		return false, err
	}
	memberships, err := d.Store().Memberships(ctx, a.ID)
	return !slices.ContainsFunc(memberships, func(m store.Membership) bool { return m.ProgramID == program }), err
}

// Manages reports whether a role may make every change of a program.
func Manages(as roles.Role) bool { return as == roles.Administrator || as == roles.Manager }

// Person refuses programs of somebody's own: who comes and goes is for people to say.
func (d *Door) Person(ctx context.Context) error {
	if VisitorOf(ctx).Token != nil {
		return d.Denied(ctx, "A token cannot do this; sign in.")
	}
	return nil
}

// Denied notes that somebody may not do something, and is the answer to it.
func (d *Door) Denied(ctx context.Context, text string) error {
	d.Log.WarnContext(ctx, "refused: role", "account", VisitorOf(ctx).Account.Login)
	d.Note(ctx, store.Refused, "", text)
	return huma.Error403Forbidden(text)
}
