package api

import (
	"context"
	"errors"
	"fmt"
	"net"
	"net/http"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/adapters/humagin"

	"jantrel/core/program"
	"jantrel/core/roles"
	"jantrel/internal/live"
	"jantrel/internal/store"
)

// Cookies. The session goes with a sign-out; the device stays, so that its owner
// is not locked out by somebody else's guessing.
const (
	sessionCookie = "jantrel-session"
	deviceCookie  = "jantrel-device"
	deviceAge     = 365 * 24 * time.Hour
)

// visitor is who sends a request.
type visitor struct {
	account store.Account
	session string       // secret of the session; empty for a token
	token   *store.Token // what they came with, if no session
	address string       // where the request came from
	device  string
	local   bool // the browser is on this machine and calls it by its own name
}

type visitorKey struct{}

func visitorOf(ctx context.Context) *visitor {
	v, _ := ctx.Value(visitorKey{}).(*visitor)
	if v == nil {
		return &visitor{}
	}
	return v
}

// public marks operations that anybody may ask for.
var public = map[string]any{"public": true}

// authenticate finds out who sends a request, and turns away who is nobody.
func (s *server) authenticate(api huma.API) func(huma.Context, func(huma.Context)) {
	return func(ctx huma.Context, next func(huma.Context)) {
		request := humagin.Unwrap(ctx).Request
		v := &visitor{address: s.addressOf(request), local: isLocal(request)}
		if cookie, err := request.Cookie(deviceCookie); err == nil {
			v.device = cookie.Value
		}
		var err error
		if secret, ok := strings.CutPrefix(request.Header.Get("Authorization"), "Bearer "); ok {
			var token store.Token
			if token, v.account, err = s.accounts.Token(ctx.Context(), secret); err == nil {
				v.token = &token
			}
		} else if cookie, cookieErr := request.Cookie(sessionCookie); cookieErr == nil {
			if v.account, err = s.accounts.Session(ctx.Context(), cookie.Value); err == nil {
				v.session = cookie.Value
			}
		} else {
			err = store.ErrNotSignedIn
		}
		if err != nil && !errors.Is(err, store.ErrNotSignedIn) {
			s.log.ErrorContext(ctx.Context(), "signing in", "error", err)
		}
		if err != nil && ctx.Operation().Metadata["public"] == nil {
			if ctx.Operation().Method != http.MethodGet {
				s.log.WarnContext(ctx.Context(), "refused: not signed in", "operation", ctx.Operation().OperationID, "from", v.address)
			}
			_ = huma.WriteErr(api, ctx, http.StatusUnauthorized, "You are not signed in, or your session has ended. Sign in again.")
			return
		}
		next(huma.WithValue(ctx, visitorKey{}, v))
	}
}

// addressOf is where a request came from: the connection's other end, or, behind
// a proxy of one's own, what that proxy says.
func (s *server) addressOf(r *http.Request) string {
	if s.behindProxy {
		forwarded := strings.Split(r.Header.Get("X-Forwarded-For"), ",")
		if last := strings.TrimSpace(forwarded[len(forwarded)-1]); last != "" {
			return last
		}
	}
	host, _, err := net.SplitHostPort(r.RemoteAddr)
	if err != nil {
		return r.RemoteAddr
	}
	return host
}

// isLocal reports whether a request comes from this machine and names it as such.
// The name counts too: a page of another site could else reach in by a name of
// its own that leads here.
func isLocal(r *http.Request) bool {
	remote, _, err := net.SplitHostPort(r.RemoteAddr)
	if err != nil || !loopback(remote) || r.Header.Get("X-Forwarded-For") != "" {
		return false
	}
	host := r.Host
	if name, _, err := net.SplitHostPort(host); err == nil {
		host = name
	}
	return host == "localhost" || loopback(strings.Trim(host, "[]"))
}

func loopback(host string) bool {
	ip := net.ParseIP(host)
	return ip != nil && ip.IsLoopback()
}

// who returns what the visitor is to a program; no role where they do not belong
// to it. Administrators of the server belong to every program. A token has its
// role at most, and in its own program only.
func (s *server) who(ctx context.Context, id int64) (roles.Who, error) {
	v := visitorOf(ctx)
	memberships, err := s.accounts.Store().Memberships(ctx, v.account.ID)
	if err != nil {
		return roles.Who{}, err
	}
	return v.in(memberships, id), nil
}

func (v *visitor) in(memberships []store.Membership, id int64) roles.Who {
	who := roles.Who{Author: strconv.FormatInt(v.account.ID, 10)}
	if i := slices.IndexFunc(memberships, func(m store.Membership) bool { return m.ProgramID == id }); i >= 0 {
		who.Role, who.Person = memberships[i].Role, memberships[i].Person
	}
	if v.account.Admin {
		who.Role = roles.Administrator
	}
	if v.token != nil {
		switch {
		case v.token.ProgramID != id || who.Role == "":
			return roles.Who{}
		case slices.Index(roles.All, v.token.Role) > slices.Index(roles.All, who.Role):
			who.Role = v.token.Role
		}
	}
	return who
}

// open returns a program by id for a visitor who belongs to it, or the problem to
// answer with. To others it looks as if there were none.
func (s *server) open(ctx context.Context, id int64) (*live.Line, error) {
	p, _, err := s.openAs(ctx, id)
	return p, err
}

func (s *server) openAs(ctx context.Context, id int64) (*live.Line, roles.Who, error) {
	who, err := s.who(ctx, id)
	if err != nil {
		return nil, who, s.failed(ctx, err)
	}
	if who.Role == "" {
		return nil, who, s.problem(ctx, store.ErrNotFound)
	}
	p, err := s.hub.Open(ctx, id)
	if err != nil {
		return nil, who, s.failed(ctx, err)
	}
	return p, who, nil
}

// Reading names what a reading operation is about: a program as it is or, with at, as it was.
type Reading struct {
	ProgramID
	At string `query:"at" maxLength:"40" doc:"As it was: a revision, or a time such as 2027-03-02T12:00:00Z; seen on that day"`
}

// read returns the line that is asked about, and its state then.
func (s *server) read(ctx context.Context, in Reading) (*live.Line, *live.State, error) {
	l, _, state, err := s.readAs(ctx, in)
	return l, state, err
}

func (s *server) readAs(ctx context.Context, in Reading) (*live.Line, roles.Who, *live.State, error) {
	l, who, err := s.openAs(ctx, in.ID)
	if err != nil || in.At == "" {
		var state *live.State
		if err == nil {
			state = l.State()
		}
		return l, who, state, err
	}
	var state *live.State
	if revision, notNumber := strconv.ParseInt(in.At, 10, 64); notNumber == nil {
		state, err = l.At(ctx, revision)
	} else if at, notTime := time.Parse(time.RFC3339, in.At); notTime == nil {
		state, err = l.AsOf(ctx, at)
	} else {
		return l, who, nil, huma.Error422UnprocessableEntity(fmt.Sprintf("at: %q is neither a revision nor a time such as 2027-03-02T12:00:00Z.", in.At))
	}
	if errors.Is(err, store.ErrNotFound) {
		err = huma.Error404NotFound("There is no such revision.")
	} else if err != nil {
		err = s.failed(ctx, err)
	}
	return l, who, state, err
}

// author is the visitor as the author of an edit from an open page. A page's name
// counts only together with whose it is.
func (s *server) author(ctx context.Context, who roles.Who, client string) live.Author {
	v := visitorOf(ctx)
	return live.Author{
		Actor: v.account.Name, Account: who.Author, Client: strconv.FormatInt(v.account.ID, 10) + ":" + client,
		May: func(p program.Program, changes []program.Change) error {
			err := roles.Check(p, who, changes)
			if err != nil {
				s.log.WarnContext(ctx, "refused: role", "account", v.account.Login, "role", who.Role, "error", err)
			}
			return err
		},
	}
}

// administrator refuses who may not say who belongs to a program.
func (s *server) administrator(ctx context.Context, id int64) (*live.Line, error) {
	p, who, err := s.openAs(ctx, id)
	if err != nil {
		return nil, err
	}
	if who.Role != roles.Administrator {
		return nil, s.denied(ctx, "Only an administrator of the program may do this.")
	}
	return p, nil
}

// serverAdministrator refuses who may not manage accounts.
func (s *server) serverAdministrator(ctx context.Context) error {
	if v := visitorOf(ctx); !v.account.Admin || v.token != nil {
		return s.denied(ctx, "Only an administrator of the server may manage accounts.")
	}
	return nil
}

func (s *server) denied(ctx context.Context, text string) error {
	s.log.WarnContext(ctx, "refused: role", "account", visitorOf(ctx).account.Login)
	return huma.Error403Forbidden(text)
}

// Mine is what the visitor is to a program, and what they may change in it.
type Mine struct {
	Role   roles.Role    `json:"role" enum:"administrator,program manager,team lead,member,viewer"`
	Person string        `json:"person,omitempty" doc:"The person of the program who they are"`
	Author string        `json:"author" doc:"What their comments name as their author"`
	Teams  []string      `json:"teams" doc:"Teams in which that person has a share"`
	Rights []roles.Right `json:"rights" doc:"Of team leads and members: which changes reach how far. Administrators and program managers may make every change, viewers none"`
}

func mine(p program.Program, who roles.Who) Mine {
	return Mine{who.Role, who.Person, who.Author, roles.TeamsOf(p, who.Person), roles.Rights(who.Role)}
}
