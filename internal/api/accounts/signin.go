package accounts

import (
	"context"
	"errors"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"jantrel/internal/account"
	"jantrel/internal/api/door"
	"jantrel/internal/store"
)

// Me is who is signed in.
type Me struct {
	store.Account
	MayCreate bool `json:"mayCreate" doc:"May make new programs"`
	Demo      bool `json:"demo" doc:"The server shows the demo"`
	Watch     bool `json:"watch" doc:"What concerns one is the first page: somebody in a program, and of none more than a member"`
}

// Demo is a made-up account that the demo offers.
type Demo struct {
	Login string `json:"login"`
	Name  string `json:"name"`
	Role  string `json:"role"`
}

// SignInOptions are the ways to sign in.
type SignInOptions struct {
	First bool   `json:"first" doc:"There is no account yet: the server's terminal shows the link to make the first"`
	Demo  []Demo `json:"demo" doc:"Accounts that can be entered by a click"`
	Me    *Me    `json:"me,omitempty" doc:"Who is signed in already; missing: nobody"`
}

// signedIn sets the cookies of a session.
type signedIn struct {
	SetCookie []http.Cookie `header:"Set-Cookie"`
	Body      Me
}

// tooMany answers that somebody has to wait.
func tooMany(err *account.WaitError) error {
	return door.Later("Not signed in: "+err.Error()+".", err.Wait)
}

func (s stage) signIn(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "get-sign-in", Method: http.MethodGet, Path: "/api/v1/sign-in", Summary: "How one can sign in here", Metadata: door.Public,
	}, func(ctx context.Context, _ *struct{}) (*struct{ Body SignInOptions }, error) {
		out := &struct{ Body SignInOptions }{SignInOptions{Demo: []Demo{}}}
		if s.demo != nil && door.VisitorOf(ctx).Local {
			out.Body.Demo = s.demo
		}
		has, err := s.Store().HasAccount(ctx)
		if err != nil {
			return nil, s.Failed(ctx, err)
		}
		out.Body.First = !has
		if v := door.VisitorOf(ctx); v.Session != "" {
			me, err := s.meOf(ctx, v.Account)
			if err != nil {
				return nil, s.Failed(ctx, err)
			}
			out.Body.Me = &me
		}
		return out, nil
	})
	huma.Register(api, huma.Operation{
		OperationID: "sign-in", Method: http.MethodPost, Path: "/api/v1/sign-in", Summary: "Sign in with a password", Metadata: door.Public,
		MaxBodyBytes: 4 << 10, Errors: []int{http.StatusUnauthorized, http.StatusTooManyRequests},
	}, func(ctx context.Context, in *struct {
		Body struct {
			Login    string `json:"login" minLength:"1" maxLength:"200"`
			Password string `json:"password" minLength:"1" maxLength:"1000"`
		}
	}) (*signedIn, error) {
		v := door.VisitorOf(ctx)
		session, err := s.Accounts.SignIn(ctx, in.Body.Login, in.Body.Password, v.Address, v.Device)
		return s.begun(ctx, in.Body.Login, session, err)
	})
	huma.Register(api, huma.Operation{
		OperationID: "sign-in-demo", Method: http.MethodPost, Path: "/api/v1/sign-in/demo", Summary: "Enter the demo as one of its made-up accounts", Metadata: door.Public,
		MaxBodyBytes: 4 << 10,
	}, func(ctx context.Context, in *struct {
		Body struct {
			Login string `json:"login"`
		}
	}) (*signedIn, error) {
		v := door.VisitorOf(ctx)
		for _, offered := range s.demo {
			if offered.Login == in.Body.Login && v.Local {
				found, err := s.Store().AccountBy(ctx, "login", offered.Login)
				if err != nil {
					return nil, s.Failed(ctx, err)
				}
				session, err := s.Accounts.Begin(ctx, found, "")
				return s.begun(ctx, found.Login, session, err)
			}
		}
		s.Log.WarnContext(ctx, "refused: demo sign-in", "from", v.Address)
		s.NoteAs(ctx, in.Body.Login, store.SignInRefused, "", "the demo's sign-in")
		return nil, huma.Error403Forbidden("This is offered in the demo only, from a browser on the same machine.")
	})
	huma.Register(api, huma.Operation{
		OperationID: "get-first", Method: http.MethodGet, Path: "/api/v1/first", Summary: "Whether the one-time link to the first administrator still holds", Metadata: door.Public,
	}, func(ctx context.Context, in *struct {
		Secret string `query:"secret" required:"true" maxLength:"200"`
	}) (*struct{ Body FirstLink }, error) {
		holds, err := s.Accounts.FirstLinkHolds(ctx, in.Secret)
		if err != nil {
			return nil, s.Failed(ctx, err)
		}
		return &struct{ Body FirstLink }{FirstLink{holds}}, nil
	})
	huma.Register(api, huma.Operation{
		OperationID: "make-first", Method: http.MethodPost, Path: "/api/v1/first", Summary: "Make the first administrator", Metadata: door.Public,
		MaxBodyBytes: 4 << 10,
	}, func(ctx context.Context, in *struct {
		Body struct {
			Secret   string `json:"secret" maxLength:"200"`
			Login    string `json:"login" maxLength:"200"`
			Name     string `json:"name" maxLength:"200"`
			Password string `json:"password" maxLength:"1000"`
		}
	}) (*signedIn, error) {
		session, err := s.Accounts.First(ctx, in.Body.Secret, in.Body.Login, in.Body.Name, in.Body.Password)
		if err == nil {
			s.NoteAs(ctx, session.Account.Login, store.AccountAdded, session.Account.Login, "the first, administrator of the server")
		}
		return s.begun(ctx, in.Body.Login, session, err)
	})
}

// FirstLink says whether the one-time link can still be used.
type FirstLink struct {
	Holds bool `json:"holds"`
}

// begun answers with the cookies of a session of who gave a sign-in name, or why there is none.
func (s stage) begun(ctx context.Context, login string, session account.SignedIn, err error) (*signedIn, error) {
	var wait *account.WaitError
	switch {
	case errors.As(err, &wait):
		s.Log.WarnContext(ctx, "refused: too many tries", "from", door.VisitorOf(ctx).Address)
		s.NoteAs(ctx, login, store.SignInRefused, "", "too many tries")
		return nil, tooMany(wait)
	case errors.Is(err, account.ErrWrong):
		s.Log.WarnContext(ctx, "refused: wrong password", "from", door.VisitorOf(ctx).Address)
		s.NoteAs(ctx, login, store.SignInRefused, "", "wrong name or password")
		return nil, huma.Error401Unauthorized("Not signed in: " + err.Error() + ".")
	case err != nil:
		return nil, huma.Error422UnprocessableEntity("Not done: " + err.Error() + ".")
	}
	s.Log.InfoContext(ctx, "signed in", "account", session.Account.Login)
	s.NoteAs(ctx, session.Account.Login, store.SignedIn, "", "")
	me, err := s.meOf(ctx, session.Account)
	if err != nil {
		return nil, s.Failed(ctx, err)
	}
	return &signedIn{[]http.Cookie{s.cookie(door.SessionCookie, session.Secret, account.SessionIdle), s.cookie(door.DeviceCookie, session.Device, door.DeviceAge)}, me}, nil
}

// cookie is sent back to this server alone, never to a script, and never along
// with a request that another site makes.
func (s stage) cookie(name, value string, age time.Duration) http.Cookie {
	c := http.Cookie{Name: name, Value: value, Path: "/", MaxAge: int(age / time.Second), HttpOnly: true, SameSite: http.SameSiteStrictMode, Secure: s.BehindProxy}
	if value == "" {
		c.MaxAge = -1
	}
	return c
}
