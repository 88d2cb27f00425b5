package door

import (
	"context"
	"errors"
	"net"
	"net/http"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/adapters/humagin"

	"jantrel/core/roles"
	"jantrel/internal/live"
	"jantrel/internal/store"
)

// Cookies. The session goes with a sign-out; the device stays, so that its owner
// is not locked out by somebody else's guessing.
const (
	SessionCookie = "jantrel-session"
	DeviceCookie  = "jantrel-device"
	DeviceAge     = 365 * 24 * time.Hour
)

// Visitor is who sends a request.
type Visitor struct {
	Account store.Account
	Session string       // secret of the session; empty for a token
	Token   *store.Token // what they came with, if no session
	secret  string       // of that token
	Address string       // where the request came from
	Device  string
	Site    string // where they see this server, as https://host
	Local   bool   // the browser is on this machine and calls it by its own name
}

type visitorKey struct{}

// VisitorOf is who sends the request of a context; nobody outside of one.
func VisitorOf(ctx context.Context) *Visitor {
	v, _ := ctx.Value(visitorKey{}).(*Visitor)
	if v == nil {
		return &Visitor{}
	}
	return v
}

// asker is in whose name something is computed for the visitor: of an account, or of an address that has none.
func (v *Visitor) asker() string {
	if v.Account.ID == 0 {
		return "address " + v.Address
	}
	return "account " + strconv.FormatInt(v.Account.ID, 10)
}

// Looking is a context in which requests are sent as by an account that only looks at one program: what others see of
// it through a link is never more than the account may see itself. What is computed for it is the link's.
func Looking(ctx context.Context, link string, a store.Account, program int64) context.Context {
	ctx = live.AskedBy(ctx, &live.Asker{Name: link, Looks: true})
	return context.WithValue(ctx, visitorKey{}, &Visitor{Account: a, Token: &store.Token{ProgramID: program, Role: roles.Viewer}})
}

// Authenticate finds out who sends a request, and turns away who is nobody.
func (d *Door) Authenticate(api huma.API) func(huma.Context, func(huma.Context)) {
	return func(ctx huma.Context, next func(huma.Context)) {
		request := humagin.Unwrap(ctx).Request
		v := &Visitor{Address: d.addressOf(request), Site: d.siteOf(request), Local: isLocal(request)}
		if cookie, err := request.Cookie(DeviceCookie); err == nil {
			v.Device = cookie.Value
		}
		var err error
		if secret, ok := strings.CutPrefix(request.Header.Get("Authorization"), "Bearer "); ok {
			var token store.Token
			if token, v.Account, err = d.Accounts.Token(ctx.Context(), secret); err == nil {
				v.Token, v.secret = &token, secret
			}
		} else if cookie, cookieErr := request.Cookie(SessionCookie); cookieErr == nil {
			if v.Account, err = d.Accounts.Session(ctx.Context(), cookie.Value); err == nil {
				v.Session = cookie.Value
			}
		} else {
			err = store.ErrNotSignedIn
		}
		if err != nil && !errors.Is(err, store.ErrNotSignedIn) {
			d.Log.ErrorContext(ctx.Context(), "signing in", "error", err)
		}
		if err != nil && ctx.Operation().Metadata["public"] == nil {
			if ctx.Operation().Method != http.MethodGet {
				d.Log.WarnContext(ctx.Context(), "refused: not signed in", "operation", ctx.Operation().OperationID, "from", v.Address)
			}
			_ = huma.WriteErr(api, ctx, http.StatusUnauthorized, "You are not signed in, or your session has ended. Sign in again.")
			return
		}
		humagin.Unwrap(ctx).Set(LoggedAs, v.Account.Login)
		ctx = huma.WithValue(ctx, visitorKey{}, v)
		next(huma.WithContext(ctx, live.AskedBy(ctx.Context(), &live.Asker{Name: v.asker()})))
	}
}

// addressOf is where a request came from: the connection's other end, or, behind
// a proxy of one's own, what that proxy says.
func (d *Door) addressOf(r *http.Request) string {
	if d.BehindProxy {
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

// siteOf is where whoever sends a request sees this server; a proxy of one's own speaks https.
func (d *Door) siteOf(r *http.Request) string {
	if d.BehindProxy {
		return "https://" + r.Host
	}
	return "http://" + r.Host
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

// Who returns what the visitor is to a program; no role where they do not belong
// to it. Administrators of the server belong to every program. A token has its
// role at most, and in its own program only.
func (d *Door) Who(ctx context.Context, id int64) (roles.Who, error) {
	v := VisitorOf(ctx)
	memberships, err := d.Store().Memberships(ctx, v.Account.ID)
	if err != nil {
		return roles.Who{}, err
	}
	return v.In(memberships, id), nil
}

// Still is what the visitor is to a program by now; an error where their session or token
// has ended, or their account may not sign in any more.
func (d *Door) Still(ctx context.Context, id int64) (roles.Who, error) {
	v := VisitorOf(ctx)
	var err error
	if v.Token != nil {
		_, _, err = d.Accounts.Token(ctx, v.secret)
	} else {
		_, err = d.Accounts.Session(ctx, v.Session)
	}
	if err != nil {
		return roles.Who{}, err
	}
	who, err := d.Who(ctx, id)
	if line := lineOf(ctx); line.scenario != 0 && err == nil {
		about, err := d.Scenario(ctx, id, line.scenario)
		return inScenario(who, v, about.About), err
	}
	return who, err
}

// In is what a visitor is to a program, by what they belong to.
func (v *Visitor) In(memberships []store.Membership, id int64) roles.Who {
	who := roles.Who{Author: strconv.FormatInt(v.Account.ID, 10)}
	if i := slices.IndexFunc(memberships, func(m store.Membership) bool { return m.ProgramID == id }); i >= 0 {
		who.Role, who.Person = memberships[i].Role, memberships[i].Person
	}
	if v.Account.Admin {
		who.Role = roles.Administrator
	}
	if v.Token != nil {
		switch {
		case v.Token.ProgramID != id || who.Role == "":
			return roles.Who{}
		case slices.Index(roles.All, v.Token.Role) > slices.Index(roles.All, who.Role):
			who.Role = v.Token.Role
		}
	}
	return who
}

// MayMake reports whether the visitor may make programs, and see what they can start from: no token may.
func (d *Door) MayMake(ctx context.Context) (bool, error) {
	v := VisitorOf(ctx)
	memberships, err := d.Store().Memberships(ctx, v.Account.ID)
	if err != nil {
		return false, d.Failed(ctx, err)
	}
	return v.Token == nil && MayCreate(v.Account, memberships), nil
}

// MayCreate reports whether an account may make programs: administrators of the
// server, and whoever manages a program already.
func MayCreate(a store.Account, memberships []store.Membership) bool {
	return a.Admin || slices.ContainsFunc(memberships, func(m store.Membership) bool {
		return m.Role == roles.Administrator || m.Role == roles.Manager
	})
}
