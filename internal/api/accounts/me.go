package accounts

import (
	"context"
	"errors"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"jantrel/core/roles"
	"jantrel/internal/account"
	"jantrel/internal/api/door"
	"jantrel/internal/store"
)

func (s stage) meOf(ctx context.Context, a store.Account) (Me, error) {
	memberships, err := s.Store().Memberships(ctx, a.ID)
	somebody := false
	for _, m := range memberships {
		if m.Role != roles.Member && m.Role != roles.Viewer {
			return Me{a, door.MayCreate(a, memberships), s.demo != nil, false}, err
		}
		somebody = somebody || m.Person != ""
	}
	return Me{a, door.MayCreate(a, memberships), s.demo != nil, somebody && !a.Admin}, err
}

func (s stage) me(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "get-me", Method: http.MethodGet, Path: "/api/v1/me", Summary: "Who is signed in",
	}, func(ctx context.Context, _ *struct{}) (*struct{ Body Me }, error) {
		me, err := s.meOf(ctx, door.VisitorOf(ctx).Account)
		if err != nil {
			return nil, s.Failed(ctx, err)
		}
		return &struct{ Body Me }{me}, nil
	})
	huma.Register(api, huma.Operation{
		OperationID: "sign-out", Method: http.MethodPost, Path: "/api/v1/sign-out", Summary: "Sign out here, or everywhere", MaxBodyBytes: 4 << 10,
	}, func(ctx context.Context, in *struct {
		Body struct {
			Everywhere bool `json:"everywhere,omitempty" doc:"End all of the account's sessions"`
		}
	}) (*struct {
		SetCookie http.Cookie `header:"Set-Cookie"`
	}, error) {
		if err := s.Person(ctx); err != nil {
			return nil, err
		}
		v := door.VisitorOf(ctx)
		err := s.Accounts.SignOut(ctx, v.Session)
		if err == nil && in.Body.Everywhere {
			err = s.Accounts.SignOutEverywhere(ctx, v.Account.ID, "")
		}
		if err != nil {
			return nil, s.Failed(ctx, err)
		}
		s.Note(ctx, store.SignedOut, "", map[bool]string{true: "everywhere"}[in.Body.Everywhere])
		return &struct {
			SetCookie http.Cookie `header:"Set-Cookie"`
		}{s.cookie(door.SessionCookie, "", 0)}, nil
	})
	huma.Register(api, huma.Operation{
		OperationID: "change-password", Method: http.MethodPost, Path: "/api/v1/me/password", Summary: "Change one's password; other sessions end", MaxBodyBytes: 4 << 10,
	}, func(ctx context.Context, in *struct {
		Body struct {
			Present string `json:"present" maxLength:"1000"`
			Next    string `json:"next" maxLength:"1000"`
		}
	}) (*struct{}, error) {
		v := door.VisitorOf(ctx)
		if err := s.Person(ctx); err != nil {
			return nil, err
		}
		err := s.Accounts.ChangePassword(ctx, v.Account, in.Body.Present, in.Body.Next, v.Session)
		var wait *account.WaitError
		if errors.As(err, &wait) {
			s.Note(ctx, store.Refused, "", "change of password: too many tries")
			return nil, tooMany(wait)
		}
		if errors.Is(err, account.ErrPassword) {
			s.Note(ctx, store.Refused, "", "change of password: the present one is wrong")
		}
		if err != nil {
			return nil, huma.Error422UnprocessableEntity("The password was not changed: " + err.Error() + ".")
		}
		s.Note(ctx, store.PasswordChanged, v.Account.Login, "")
		return nil, nil
	})
}
