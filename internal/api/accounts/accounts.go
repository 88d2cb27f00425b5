// Package accounts serves who may come in: signing in, accounts, who belongs to a program, and
// tokens.
package accounts

import (
	"context"
	"errors"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

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
	case errors.Is(err, store.ErrLoginTaken), errors.Is(err, store.ErrLastAdmin):
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
		list, err := s.Accounts.Store().Accounts(ctx)
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
		return &struct{ Body store.Account }{added}, s.unsaved(ctx, err)
	})
	huma.Register(api, huma.Operation{
		OperationID: "save-account", Method: http.MethodPut, Path: "/api/v1/accounts/{account}", Summary: "Change an account's name, rights or password",
		MaxBodyBytes: 4 << 10,
	}, func(ctx context.Context, in *struct {
		Account int64 `path:"account"`
		Body    struct {
			Name     string `json:"name" minLength:"1" maxLength:"120"`
			Admin    bool   `json:"admin"`
			Disabled bool   `json:"disabled"`
			Password string `json:"password,omitempty" maxLength:"1000" doc:"A new password; left out: it stays"`
		}
	}) (*struct{ Body store.Account }, error) {
		if err := s.ServerAdministrator(ctx); err != nil {
			return nil, err
		}
		a, err := s.Accounts.Store().AccountBy(ctx, "id", in.Account)
		if err == nil {
			a.Name, a.Admin, a.Disabled = in.Body.Name, in.Body.Admin, in.Body.Disabled
			if in.Body.Password != "" {
				err = s.Accounts.SetPassword(ctx, a, in.Body.Password, door.VisitorOf(ctx).Session)
			} else {
				err = s.Accounts.Store().SaveAccount(ctx, a)
			}
		}
		if err == nil && a.Disabled {
			err = s.Accounts.SignOutEverywhere(ctx, a.ID, "")
		}
		return &struct{ Body store.Account }{a}, s.unsaved(ctx, err)
	})
}
