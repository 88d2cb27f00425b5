package api

import (
	"context"
	"errors"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"jantrel/internal/account"
	"jantrel/internal/store"
)

// Me is who is signed in.
type Me struct {
	store.Account
	MayCreate bool `json:"mayCreate" doc:"May make new programs"`
	Demo      bool `json:"demo" doc:"The server shows the demo"`
}

// DemoAccount is a made-up account that the demo offers.
type DemoAccount struct {
	Login string `json:"login"`
	Name  string `json:"name"`
	Role  string `json:"role"`
}

// SignInOptions are the ways to sign in.
type SignInOptions struct {
	First bool          `json:"first" doc:"There is no account yet: the server's terminal shows the link to make the first"`
	Demo  []DemoAccount `json:"demo" doc:"Accounts that can be entered by a click"`
}

// signedIn sets the cookies of a session.
type signedIn struct {
	SetCookie []http.Cookie `header:"Set-Cookie"`
	Body      Me
}

// tooMany answers that somebody has to wait.
func tooMany(err *account.WaitError) error {
	return huma.ErrorWithHeaders(huma.Error429TooManyRequests("Not signed in: "+err.Error()+"."), http.Header{"Retry-After": {err.Wait.Round(time.Second).String()}})
}

func (s *server) signIn(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "get-sign-in", Method: http.MethodGet, Path: "/api/v1/sign-in", Summary: "How one can sign in here", Metadata: public,
	}, func(ctx context.Context, _ *struct{}) (*struct{ Body SignInOptions }, error) {
		out := &struct{ Body SignInOptions }{SignInOptions{Demo: []DemoAccount{}}}
		if s.demo != nil && visitorOf(ctx).local {
			out.Body.Demo = s.demo
		}
		has, err := s.accounts.Store().HasAccount(ctx)
		out.Body.First = !has
		return out, err
	})
	huma.Register(api, huma.Operation{
		OperationID: "sign-in", Method: http.MethodPost, Path: "/api/v1/sign-in", Summary: "Sign in with a password", Metadata: public,
		MaxBodyBytes: 4 << 10, Errors: []int{http.StatusUnauthorized, http.StatusTooManyRequests},
	}, func(ctx context.Context, in *struct {
		Body struct {
			Login    string `json:"login" minLength:"1" maxLength:"200"`
			Password string `json:"password" minLength:"1" maxLength:"1000"`
		}
	}) (*signedIn, error) {
		v := visitorOf(ctx)
		session, err := s.accounts.SignIn(ctx, in.Body.Login, in.Body.Password, v.address, v.device)
		return s.begun(ctx, session, err)
	})
	huma.Register(api, huma.Operation{
		OperationID: "sign-in-demo", Method: http.MethodPost, Path: "/api/v1/sign-in/demo", Summary: "Enter the demo as one of its made-up accounts", Metadata: public,
		MaxBodyBytes: 4 << 10,
	}, func(ctx context.Context, in *struct {
		Body struct {
			Login string `json:"login"`
		}
	}) (*signedIn, error) {
		v := visitorOf(ctx)
		for _, offered := range s.demo {
			if offered.Login == in.Body.Login && v.local {
				found, err := s.accounts.Store().AccountBy(ctx, "login", offered.Login)
				if err != nil {
					return nil, s.failed(ctx, err)
				}
				session, err := s.accounts.Begin(ctx, found, "")
				return s.begun(ctx, session, err)
			}
		}
		s.log.WarnContext(ctx, "refused: demo sign-in", "from", v.address)
		return nil, huma.Error403Forbidden("This is offered in the demo only, from a browser on the same machine.")
	})
	huma.Register(api, huma.Operation{
		OperationID: "get-first", Method: http.MethodGet, Path: "/api/v1/first", Summary: "Whether the one-time link to the first administrator still holds", Metadata: public,
	}, func(ctx context.Context, in *struct {
		Secret string `query:"secret" required:"true" maxLength:"200"`
	}) (*struct{ Body FirstLink }, error) {
		holds, err := s.accounts.FirstLinkHolds(ctx, in.Secret)
		if err != nil {
			return nil, s.failed(ctx, err)
		}
		return &struct{ Body FirstLink }{FirstLink{holds}}, nil
	})
	huma.Register(api, huma.Operation{
		OperationID: "make-first", Method: http.MethodPost, Path: "/api/v1/first", Summary: "Make the first administrator", Metadata: public,
		MaxBodyBytes: 4 << 10,
	}, func(ctx context.Context, in *struct {
		Body struct {
			Secret   string `json:"secret" maxLength:"200"`
			Login    string `json:"login" maxLength:"200"`
			Name     string `json:"name" maxLength:"200"`
			Password string `json:"password" maxLength:"1000"`
		}
	}) (*signedIn, error) {
		session, err := s.accounts.First(ctx, in.Body.Secret, in.Body.Login, in.Body.Name, in.Body.Password)
		return s.begun(ctx, session, err)
	})
	s.me(api)
}

// FirstLink says whether the one-time link can still be used.
type FirstLink struct {
	Holds bool `json:"holds"`
}

// begun answers with the cookies of a session, or why there is none.
func (s *server) begun(ctx context.Context, session account.SignedIn, err error) (*signedIn, error) {
	var wait *account.WaitError
	switch {
	case errors.As(err, &wait):
		s.log.WarnContext(ctx, "refused: too many tries", "from", visitorOf(ctx).address)
		return nil, tooMany(wait)
	case errors.Is(err, account.ErrWrong):
		s.log.WarnContext(ctx, "refused: wrong password", "from", visitorOf(ctx).address)
		return nil, huma.Error401Unauthorized("Not signed in: " + err.Error() + ".")
	case err != nil:
		return nil, huma.Error422UnprocessableEntity("Not done: " + err.Error() + ".")
	}
	s.log.InfoContext(ctx, "signed in", "account", session.Account.Login)
	me, err := s.meOf(ctx, session.Account)
	if err != nil {
		return nil, s.failed(ctx, err)
	}
	return &signedIn{[]http.Cookie{s.cookie(sessionCookie, session.Secret, account.SessionIdle), s.cookie(deviceCookie, session.Device, deviceAge)}, me}, nil
}

// cookie is sent back to this server alone, never to a script, and never along
// with a request that another site makes.
func (s *server) cookie(name, value string, age time.Duration) http.Cookie {
	c := http.Cookie{Name: name, Value: value, Path: "/", MaxAge: int(age / time.Second), HttpOnly: true, SameSite: http.SameSiteStrictMode, Secure: s.behindProxy}
	if value == "" {
		c.MaxAge = -1
	}
	return c
}

func (s *server) meOf(ctx context.Context, a store.Account) (Me, error) {
	memberships, err := s.accounts.Store().Memberships(ctx, a.ID)
	return Me{a, mayCreate(a, memberships), s.demo != nil}, err
}

func (s *server) me(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "get-me", Method: http.MethodGet, Path: "/api/v1/me", Summary: "Who is signed in",
	}, func(ctx context.Context, _ *struct{}) (*struct{ Body Me }, error) {
		me, err := s.meOf(ctx, visitorOf(ctx).account)
		if err != nil {
			return nil, s.failed(ctx, err)
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
		v := visitorOf(ctx)
		err := s.accounts.SignOut(ctx, v.session)
		if err == nil && in.Body.Everywhere {
			err = s.accounts.SignOutEverywhere(ctx, v.account.ID, "")
		}
		if err != nil {
			return nil, s.failed(ctx, err)
		}
		return &struct {
			SetCookie http.Cookie `header:"Set-Cookie"`
		}{s.cookie(sessionCookie, "", 0)}, nil
	})
	huma.Register(api, huma.Operation{
		OperationID: "change-password", Method: http.MethodPost, Path: "/api/v1/me/password", Summary: "Change one's password; other sessions end", MaxBodyBytes: 4 << 10,
	}, func(ctx context.Context, in *struct {
		Body struct {
			Present string `json:"present" maxLength:"1000"`
			Next    string `json:"next" maxLength:"1000"`
		}
	}) (*struct{}, error) {
		v := visitorOf(ctx)
		if v.session == "" {
			return nil, s.denied(ctx, "A token cannot change a password.")
		}
		err := s.accounts.ChangePassword(ctx, v.account, in.Body.Present, in.Body.Next, v.session)
		var wait *account.WaitError
		if errors.As(err, &wait) {
			return nil, tooMany(wait)
		}
		if err != nil {
			return nil, huma.Error422UnprocessableEntity("The password was not changed: " + err.Error() + ".")
		}
		return nil, nil
	})
}
