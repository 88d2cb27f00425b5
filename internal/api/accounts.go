package api

import (
	"context"
	"errors"
	"net/http"
	"slices"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"jantrel/core/program"
	"jantrel/core/roles"
	"jantrel/internal/store"
)

// mayCreate reports whether an account may make programs: administrators of the
// server, and whoever manages a program already.
func mayCreate(a store.Account, memberships []store.Membership) bool {
	return a.Admin || slices.ContainsFunc(memberships, func(m store.Membership) bool {
		return m.Role == roles.Administrator || m.Role == roles.Manager
	})
}

// unsaved answers why something about an account was not stored.
func (s *server) unsaved(ctx context.Context, err error) error {
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

func (s *server) accountsAPI(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "list-accounts", Method: http.MethodGet, Path: "/api/v1/accounts", Summary: "The accounts",
	}, func(ctx context.Context, _ *struct{}) (*struct{ Body []store.Account }, error) {
		if err := s.serverAdministrator(ctx); err != nil {
			return nil, err
		}
		list, err := s.accounts.Store().Accounts(ctx)
		if err != nil {
			return nil, s.failed(ctx, err)
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
		if err := s.serverAdministrator(ctx); err != nil {
			return nil, err
		}
		added, err := s.accounts.Add(ctx, in.Body.Login, in.Body.Name, in.Body.Password, in.Body.Admin)
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
		if err := s.serverAdministrator(ctx); err != nil {
			return nil, err
		}
		a, err := s.accounts.Store().AccountBy(ctx, "id", in.Account)
		if err == nil {
			a.Name, a.Admin, a.Disabled = in.Body.Name, in.Body.Admin, in.Body.Disabled
			if in.Body.Password != "" {
				err = s.accounts.SetPassword(ctx, a, in.Body.Password, visitorOf(ctx).session)
			} else {
				err = s.accounts.Store().SaveAccount(ctx, a)
			}
		}
		if err == nil && a.Disabled {
			err = s.accounts.SignOutEverywhere(ctx, a.ID, "")
		}
		return &struct{ Body store.Account }{a}, s.unsaved(ctx, err)
	})
	s.members(api)
	s.tokens(api)
}

func (s *server) members(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "list-members", Method: http.MethodGet, Path: "/api/v1/programs/{id}/members", Summary: "Who belongs to the program",
	}, func(ctx context.Context, in *ProgramID) (*struct{ Body []store.Belonging }, error) {
		if _, err := s.administrator(ctx, in.ID); err != nil {
			return nil, err
		}
		list, err := s.accounts.Store().Belongings(ctx, in.ID)
		if err != nil {
			return nil, s.failed(ctx, err)
		}
		return &struct{ Body []store.Belonging }{list}, nil
	})
	huma.Register(api, huma.Operation{
		OperationID: "save-member", Method: http.MethodPut, Path: "/api/v1/programs/{id}/members", Summary: "Let an account belong to the program, or give it another role",
		MaxBodyBytes: 4 << 10,
	}, func(ctx context.Context, in *struct {
		ProgramID
		Body struct {
			Login  string     `json:"login" minLength:"1" maxLength:"200"`
			Role   roles.Role `json:"role" enum:"administrator,program manager,team lead,member,viewer"`
			Person string     `json:"person,omitempty" maxLength:"200" doc:"The person of the program who they are"`
		}
	}) (*struct{}, error) {
		p, err := s.administrator(ctx, in.ID)
		if err != nil {
			return nil, err
		}
		if in.Body.Person != "" && !slices.ContainsFunc(p.State().Program.People, func(x program.Person) bool { return x.Key == in.Body.Person }) {
			return nil, huma.Error422UnprocessableEntity("Nothing was changed: the program has no person " + in.Body.Person + ".")
		}
		a, err := s.accounts.Store().AccountBy(ctx, "login", in.Body.Login)
		if err == nil {
			err = s.accounts.Store().SaveMembership(ctx, store.Membership{AccountID: a.ID, ProgramID: in.ID, Role: in.Body.Role, Person: in.Body.Person})
		}
		if errors.Is(err, store.ErrNoAccount) {
			return nil, huma.Error422UnprocessableEntity("There is no account with the sign-in name " + in.Body.Login + ". An administrator of the server makes accounts, under Accounts.")
		}
		return nil, s.unsaved(ctx, err)
	})
	huma.Register(api, huma.Operation{
		OperationID: "remove-member", Method: http.MethodDelete, Path: "/api/v1/programs/{id}/members/{account}", Summary: "End an account's belonging to the program",
	}, func(ctx context.Context, in *struct {
		ProgramID
		Account int64 `path:"account"`
	}) (*struct{}, error) {
		if _, err := s.administrator(ctx, in.ID); err != nil {
			return nil, err
		}
		return nil, s.unsaved(ctx, s.accounts.Store().RemoveMembership(ctx, in.Account, in.ID))
	})
}

type newToken struct {
	ProgramID
	Body struct {
		Name    string       `json:"name" minLength:"1" maxLength:"120" doc:"What it is for"`
		Role    roles.Role   `json:"role" enum:"administrator,program manager,team lead,member,viewer" doc:"At most one's own"`
		Expires program.Date `json:"expires" doc:"The last day it can be used, at most a year ahead"`
	}
}

// MadeToken is a token that has just been made.
type MadeToken struct {
	Token string `json:"token" doc:"Shown this once; send it as Authorization: Bearer …"`
}

func (s *server) tokens(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "list-tokens", Method: http.MethodGet, Path: "/api/v1/programs/{id}/tokens", Summary: "One's tokens for the program",
	}, func(ctx context.Context, in *ProgramID) (*struct{ Body []store.Token }, error) {
		if _, err := s.open(ctx, in.ID); err != nil {
			return nil, err
		}
		list, err := s.accounts.Store().Tokens(ctx, visitorOf(ctx).account.ID, in.ID)
		if err != nil {
			return nil, s.failed(ctx, err)
		}
		return &struct{ Body []store.Token }{list}, nil
	})
	huma.Register(api, huma.Operation{
		OperationID: "make-token", Method: http.MethodPost, Path: "/api/v1/programs/{id}/tokens", Summary: "A token for a program of one's own to use this interface",
		DefaultStatus: http.StatusCreated, MaxBodyBytes: 4 << 10,
	}, func(ctx context.Context, in *newToken) (*struct{ Body MadeToken }, error) {
		_, who, err := s.openAs(ctx, in.ID)
		if err != nil {
			return nil, err
		}
		v := visitorOf(ctx)
		if v.token != nil {
			return nil, s.denied(ctx, "A token cannot make another one.")
		}
		if slices.Index(roles.All, in.Body.Role) < slices.Index(roles.All, who.Role) { // an unknown one too
			return nil, s.denied(ctx, "A token's role is at most your own, "+string(who.Role)+".")
		}
		text, err := s.accounts.NewToken(ctx, v.account.ID, in.ID, in.Body.Name, in.Body.Role, in.Body.Expires.Add(1).Time().Add(-time.Second))
		return &struct{ Body MadeToken }{MadeToken{text}}, s.unsaved(ctx, err)
	})
	huma.Register(api, huma.Operation{
		OperationID: "remove-token", Method: http.MethodDelete, Path: "/api/v1/programs/{id}/tokens/{token}", Summary: "End a token",
	}, func(ctx context.Context, in *struct {
		ProgramID
		Token int64 `path:"token"`
	}) (*struct{}, error) {
		if _, err := s.open(ctx, in.ID); err != nil {
			return nil, err
		}
		return nil, s.unsaved(ctx, s.accounts.Store().RemoveToken(ctx, visitorOf(ctx).account.ID, in.Token))
	})
}
