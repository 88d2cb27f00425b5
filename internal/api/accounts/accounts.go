// Package accounts serves who may come in: signing in, accounts, who belongs to a program, and
// tokens.
package accounts

import (
	"context"
	"errors"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"jantrel/core/roles"
	"jantrel/internal/api/door"
	"jantrel/internal/store"
)

// unsaved answers why something about an account was not stored.
func (s stage) unsaved(ctx context.Context, err error) error {
	switch {
	case err == nil:
		return nil
	case errors.Is(err, store.ErrNoAccount):
		return huma.Error404NotFound("There is no such account.")
	case errors.Is(err, store.ErrLoginTaken), errors.Is(err, store.ErrLastAdmin), errors.Is(err, store.ErrChanged):
		return huma.Error409Conflict("Nothing was changed: " + err.Error() + ".")
	}
	return huma.Error422UnprocessableEntity("Nothing was changed: " + err.Error() + ".")
}

// stage is the door with this package's operations.
type stage struct {
	*door.Door
	demo []Demo
}

// Register adds the operations; demo are accounts that a click enters, from this machine alone.
func Register(api huma.API, d *door.Door, demo []Demo) {
	s := stage{d, demo}
	s.signIn(api)
	s.me(api)
	s.accounts(api)
	s.access(api)
	s.members(api)
	s.tokens(api)
}

func (s stage) accounts(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "list-accounts", Method: http.MethodGet, Path: "/api/v1/accounts", Summary: "The accounts",
	}, func(ctx context.Context, _ *struct{}) (*struct{ Body []store.Account }, error) {
		if err := s.ServerAdministrator(ctx); err != nil {
			return nil, err
		}
		list, err := s.Store().Accounts(ctx)
		if err != nil {
			return nil, s.Failed(ctx, err)
		}
		return &struct{ Body []store.Account }{list}, nil
	})
	huma.Register(api, huma.Operation{
		OperationID: "add-account", Method: http.MethodPost, Path: "/api/v1/accounts", Summary: "A new account",
		DefaultStatus: http.StatusCreated, MaxBodyBytes: 4 << 10,
	}, func(ctx context.Context, in *struct {
		Body struct {
			Login    string `json:"login" minLength:"1" maxLength:"200"`
			Name     string `json:"name" maxLength:"200"`
			Password string `json:"password" maxLength:"1000"`
			Admin    bool   `json:"admin,omitempty"`
		}
	}) (*struct{ Body store.Account }, error) {
		if err := s.ServerAdministrator(ctx); err != nil {
			return nil, err
		}
		added, err := s.Accounts.Add(ctx, in.Body.Login, in.Body.Name, in.Body.Password, in.Body.Admin)
		if err == nil {
			s.Note(ctx, store.AccountAdded, added.Login, rightsOf(added))
		}
		return &struct{ Body store.Account }{added}, s.unsaved(ctx, err)
	})
	huma.Register(api, huma.Operation{
		OperationID: "save-account", Method: http.MethodPut, Path: "/api/v1/accounts/{account}", Summary: "Change an account's name, rights or password; what is left out stays",
		MaxBodyBytes: 4 << 10,
	}, func(ctx context.Context, in *struct {
		Account int64 `path:"account"`
		Body    struct {
			Name     *string `json:"name,omitempty" minLength:"1" maxLength:"120"`
			Admin    *bool   `json:"admin,omitempty"`
			Disabled *bool   `json:"disabled,omitempty"`
			Password string  `json:"password,omitempty" maxLength:"1000" doc:"A new password, which ends the account's sessions and tokens"`
		}
	}) (*struct{ Body store.Account }, error) {
		if err := s.ServerAdministrator(ctx); err != nil {
			return nil, err
		}
		// The password first: where it does not do, nothing is changed.
		if in.Body.Password != "" {
			a, err := s.Store().AccountBy(ctx, "id", in.Account)
			if err == nil {
				err = s.Accounts.SetPassword(ctx, a, in.Body.Password, door.VisitorOf(ctx).Session)
			}
			if err != nil {
				return nil, s.unsaved(ctx, err)
			}
			s.Note(ctx, store.PasswordChanged, a.Login, "by an administrator")
		}
		a, err := s.Store().ChangeAccount(ctx, in.Account, store.AccountChange{Name: in.Body.Name, Admin: in.Body.Admin, Disabled: in.Body.Disabled})
		if b := in.Body; err == nil && (b.Name != nil || b.Admin != nil || b.Disabled != nil) {
			s.Note(ctx, store.AccountChanged, a.Login, rightsOf(a))
		}
		return &struct{ Body store.Account }{a}, s.unsaved(ctx, err)
	})
}

// rightsOf says what an account may, for the audit log.
func rightsOf(a store.Account) string {
	switch {
	case a.Disabled:
		return "cannot sign in"
	case a.Admin:
		return "administrator of the server"
	}
	return "as programs say"
}

// Access is by what an account can reach the server.
type Access struct {
	Sessions []store.Session `json:"sessions"`
	Tokens   []store.TokenOf `json:"tokens"`
	Links    []door.Link     `json:"links" doc:"That it made, by which others see something without an account"`
}

// AccountID names the account that an operation is about.
type AccountID struct {
	Account int64 `path:"account" doc:"The account"`
}

// access shows administrators of the server by what an account can reach it, and ends that.
func (s stage) access(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "get-access", Method: http.MethodGet, Path: "/api/v1/accounts/{account}/access", Summary: "An account's sessions, tokens and links",
	}, func(ctx context.Context, in *AccountID) (*struct{ Body Access }, error) {
		if err := s.ServerAdministrator(ctx); err != nil {
			return nil, err
		}
		sessions, err := s.Accounts.Sessions(ctx, in.Account)
		if err != nil {
			return nil, s.Failed(ctx, err)
		}
		tokens, err := s.Store().TokensOf(ctx, in.Account)
		if err != nil {
			return nil, s.Failed(ctx, err)
		}
		links, err := s.Links(ctx, store.LinksOf{Maker: &in.Account})
		return &struct{ Body Access }{Access{sessions, tokens, links}}, err
	})
	huma.Register(api, huma.Operation{
		OperationID: "end-sessions", Method: http.MethodDelete, Path: "/api/v1/accounts/{account}/sessions", Summary: "Sign an account out everywhere, but here",
	}, func(ctx context.Context, in *AccountID) (*struct{}, error) {
		if err := s.ServerAdministrator(ctx); err != nil {
			return nil, err
		}
		a, err := s.Store().AccountBy(ctx, "id", in.Account)
		if err == nil {
			err = s.Accounts.SignOutEverywhere(ctx, in.Account, door.VisitorOf(ctx).Session)
		}
		if err == nil {
			s.Note(ctx, store.AccessEnded, a.Login, "all sessions")
		}
		return nil, s.unsaved(ctx, err)
	})
	huma.Register(api, huma.Operation{
		OperationID: "end-link-of", Method: http.MethodDelete, Path: "/api/v1/accounts/{account}/links/{link}", Summary: "End a link that an account made",
	}, func(ctx context.Context, in *struct {
		AccountID
		Link int64 `path:"link"`
	}) (*struct{}, error) {
		if err := s.ServerAdministrator(ctx); err != nil {
			return nil, err
		}
		return nil, s.EndLink(ctx, store.LinksOf{Maker: &in.Account, ID: &in.Link}, roles.Administrator)
	})
	huma.Register(api, huma.Operation{
		OperationID: "end-token", Method: http.MethodDelete, Path: "/api/v1/accounts/{account}/tokens/{token}", Summary: "End a token of an account",
	}, func(ctx context.Context, in *struct {
		AccountID
		Token int64 `path:"token"`
	}) (*struct{}, error) {
		if err := s.ServerAdministrator(ctx); err != nil {
			return nil, err
		}
		a, err := s.Store().AccountBy(ctx, "id", in.Account)
		if err != nil {
			return nil, s.unsaved(ctx, err)
		}
		return nil, s.endToken(ctx, a, in.Token)
	})
}
