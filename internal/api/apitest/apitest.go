// Package apitest serves programs to tests of the interface, each a server of its own, so that tests can run side by side.
package apitest

import (
	"bytes"
	"log/slog"
	"net/http"
	"net/http/cookiejar"
	"net/http/httptest"
	"net/url"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jantrel/core/calendar"
	"jantrel/core/program"
	"jantrel/core/roles"
	"jantrel/core/sample"
	"jantrel/internal/account"
	"jantrel/internal/api"
	"jantrel/internal/demo"
	"jantrel/internal/feeds"
	"jantrel/internal/live"
	"jantrel/internal/standin"
	"jantrel/internal/store"
)

// Harbour is a server with what it is made of. Its program has the id 1.
type Harbour struct {
	*httptest.Server
	Hub      *live.Hub
	Accounts *account.Service
	Log      *bytes.Buffer // what it logs: to be read when nothing is asked of it
	Ann      *http.Client  // the administrator of the server, where one has signed in
}

// onToday is the machine's clock on the day on which the tests see plans.
func onToday() time.Time {
	now := time.Now()
	return now.AddDate(0, 0, int(sample.Today-calendar.OfTime(now)))
}

// New serves a program, with options as alter leaves them, until the test ends.
func New(t testing.TB, p program.Program, alter ...func(*api.Options)) *Harbour {
	t.Helper()
	s, err := store.Open(t.TempDir())
	require.NoError(t, err)
	h := &Harbour{Hub: live.NewHub(s, onToday, func() program.Date { return sample.Today }), Accounts: account.New(s, time.Now), Log: &bytes.Buffer{}}
	_, err = h.Hub.Create(t.Context(), p)
	require.NoError(t, err)
	calendars := httptest.NewServer(standin.Calendars(p, sample.Today))
	options := api.Options{Hub: h.Hub, Accounts: h.Accounts, Feeds: feeds.NewCalendars(calendars.URL), Log: slog.New(slog.NewTextHandler(h.Log, nil)), Version: "test"}
	for _, do := range alter {
		do(&options)
	}
	h.Server = httptest.NewServer(api.New(options))
	t.Cleanup(func() {
		h.Hub.Close()
		h.Close()
		calendars.Close()
		_ = s.Close()
	})
	return h
}

// Demo serves the demo.
func Demo(t testing.TB, alter ...func(*api.Options)) *Harbour {
	t.Helper()
	return New(t, demo.Program(sample.Today), alter...)
}

// Serve serves a program, and signs in the administrator of the server, Ann: Call asks as her.
func Serve(t testing.TB, p program.Program) *Harbour {
	t.Helper()
	h := New(t, p)
	h.SignInAnn(t)
	return h
}

// ServeDemo is Serve with the demo, and returns the address of its program.
func ServeDemo(t testing.TB) string {
	t.Helper()
	return Serve(t, demo.Program(sample.Today)).URL + programPath
}

// programPath is where the program of a harbour is asked about.
const programPath = "/api/v1/programs/1"

// Begin makes an account with a role in the program (without one: an administrator of the server) and begins a session.
func (h *Harbour) Begin(t testing.TB, login, name string, role roles.Role) account.SignedIn {
	t.Helper()
	made, err := h.Accounts.AddWithoutPassword(t.Context(), login, name, role == "")
	require.NoError(t, err)
	if role != "" {
		require.NoError(t, h.Accounts.Store().SaveMembership(t.Context(), store.Membership{AccountID: made.ID, ProgramID: 1, Role: role}))
	}
	in, err := h.Accounts.Begin(t.Context(), made, "")
	require.NoError(t, err)
	return in
}

// Client is a client with a session.
func (h *Harbour) Client(t testing.TB, in account.SignedIn) *http.Client {
	t.Helper()
	jar, err := cookiejar.New(nil)
	require.NoError(t, err)
	at, err := url.Parse(h.URL)
	require.NoError(t, err)
	jar.SetCookies(at, []*http.Cookie{{Name: "jantrel-session", Value: in.Secret}})
	return &http.Client{Jar: jar}
}

// signedIn are the clients that Call asks with, by the host of their server.
var signedIn sync.Map

// SignInAnn signs in the administrator of the server: Call asks as her.
func (h *Harbour) SignInAnn(t testing.TB) {
	t.Helper()
	h.Ann = h.Client(t, h.Begin(t, "ann", "Ann", ""))
	h.CallAs(t, h.Ann)
}

// CallAs has Call ask as somebody.
func (h *Harbour) CallAs(t testing.TB, who *http.Client) {
	t.Helper()
	at, err := url.Parse(h.URL)
	require.NoError(t, err)
	signedIn.Store(at.Host, who)
	t.Cleanup(func() { signedIn.Delete(at.Host) })
}

// Crew signs in who comes to the program: with a login, a role, and as one of its people, or none of them.
func (h *Harbour) Crew(t testing.TB) (url string, enter func(login string, role roles.Role, person string) *http.Client) {
	return h.URL + programPath, func(login string, role roles.Role, person string) *http.Client {
		in := h.Begin(t, login, login, role)
		require.NoError(t, h.Accounts.Store().SaveMembership(t.Context(), store.Membership{AccountID: in.Account.ID, ProgramID: 1, Role: role, Person: person}))
		return h.Client(t, in)
	}
}

// Revision is the program's.
func (h *Harbour) Revision(t testing.TB) int64 {
	t.Helper()
	_, revision, err := h.Accounts.Store().Load(t.Context(), 1)
	require.NoError(t, err)
	return revision
}

// Stored is everything of the program that an attack could have changed.
func (h *Harbour) Stored(t testing.TB) string {
	t.Helper()
	p, revision, err := h.Accounts.Store().Load(t.Context(), 1)
	require.NoError(t, err)
	members, err := h.Accounts.Store().Belongings(t.Context(), 1)
	require.NoError(t, err)
	accounts, err := h.Accounts.Store().Accounts(t.Context())
	require.NoError(t, err)
	return Plain(t, []any{p, revision, members, accounts})
}
