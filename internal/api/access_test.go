package api_test

import (
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/program"
	"jantrel/core/roles"
	"jantrel/core/sample"
	"jantrel/internal/account"
	"jantrel/internal/demo"
	"jantrel/internal/store"
)

// as calls as somebody.
func as(t testing.TB, who *http.Client, method, url, body string, header ...string) answer {
	t.Helper()
	before := client
	client = who
	defer func() { client = before }()
	return call(t, method, url, body, header...)
}

var nobody = &http.Client{}

// stored is everything of a program that an attack could have changed.
func stored(t testing.TB, h *harbour) string {
	t.Helper()
	p, revision, err := h.hub.Store().Load(t.Context(), 1)
	require.NoError(t, err)
	members, err := h.hub.Store().Belongings(t.Context(), 1)
	require.NoError(t, err)
	accounts, err := h.hub.Store().Accounts(t.Context())
	require.NoError(t, err)
	text, err := json.Marshal([]any{p, revision, members, accounts})
	require.NoError(t, err)
	return string(text)
}

// Every operation but the ways in is refused to who is not signed in, whatever they
// send.
func TestNothingWithoutSigningIn(t *testing.T) {
	h := newHarbour(t, demo.Program(sample.Today))
	in := h.begin(t, "ann", "Ann", "")
	require.NoError(t, h.accounts.SignOut(t.Context(), in.Secret))
	before := stored(t, h)
	spec := as(t, nobody, http.MethodGet, h.URL+"/api/v1/openapi.json", "")
	var described struct {
		Paths map[string]map[string]struct{ OperationID string }
	}
	require.NoError(t, json.Unmarshal([]byte(spec.text), &described))
	checked := 0
	for path, methods := range described.Paths {
		for method := range methods {
			url := h.URL + strings.NewReplacer("{id}", "1", "{account}", "1", "{token}", "1").Replace(path)
			switch path {
			case "/api/v1/sign-in", "/api/v1/sign-in/demo", "/api/v1/first", "/api/v1/shared/{secret}", "/api/v1/shared/{secret}/screen", "/api/v1/shared/{secret}/dates.ics": // the secret is what lets in there: TestLinksToBriefs, TestScreens, TestDateFeeds
				continue
			}
			body := ""
			if method == "post" || method == "put" {
				body = `{}`
			}
			for name, header := range map[string][]string{
				"nobody": nil, "a forged session": {"Cookie", "jantrel-session=made-up"}, "a forged token": {"Authorization", "Bearer jantrel_made-up"},
				"a session that ended": {"Cookie", "jantrel-session=" + in.Secret},
			} {
				got := as(t, nobody, strings.ToUpper(method), url, body, header...)
				require.Equal(t, http.StatusUnauthorized, got.status, "%s %s as %s", method, path, name)
				checked++
			}
		}
	}
	assert.Greater(t, checked, 100)
	assert.Equal(t, before, stored(t, h))
	assert.Contains(t, h.log.String(), "refused: not signed in")
}

// A program that one does not belong to looks as if there were none.
func TestAnotherProgramsIds(t *testing.T) {
	h := newHarbour(t, demo.Program(sample.Today))
	other, err := h.hub.Create(t.Context(), program.Program{Name: "Other"}.Normal())
	require.NoError(t, err)
	stranger := h.begin(t, "bo", "Bo", roles.Administrator)
	require.NoError(t, h.hub.Store().RemoveMembership(t.Context(), stranger.Account.ID, 1))
	require.NoError(t, h.hub.Store().SaveMembership(t.Context(), store.Membership{AccountID: stranger.Account.ID, ProgramID: other, Role: roles.Administrator}))
	bo := h.client(t, stranger)
	before := stored(t, h)
	url := h.URL + "/api/v1/programs/1"
	for _, c := range [][3]string{
		{http.MethodGet, "", ""}, {http.MethodGet, "/document", ""}, {http.MethodGet, "/journal", ""}, {http.MethodGet, "/landings", ""}, {http.MethodGet, "/set-up", ""},
		{http.MethodGet, "/members", ""}, {http.MethodGet, "/tokens", ""}, {http.MethodGet, "/capacity?team=LC&iteration=LC-i11", ""},
		{http.MethodGet, "/reports/capacity?from=2027-01-01&to=2027-12-31", ""}, {http.MethodGet, "/free?from=2027-01-01&to=2027-12-31", ""},
		{http.MethodPost, "/changes", edit("a", 0, fmt.Sprintf(set, "LC-8", "size", "2"))}, {http.MethodPost, "/undo", `{"client":"a"}`},
		{http.MethodPost, "/draft", `{"aim":"dates"}`}, {http.MethodPost, "/do/fetch-calendars", `{"client":"a","revision":0,"intent":{}}`}, {http.MethodDelete, "", ""},
		{http.MethodPut, "/members", `{"login":"bo","role":"administrator"}`}, {http.MethodPost, "/tokens", `{"name":"x","role":"viewer","expires":"2027-04-01"}`},
		{http.MethodDelete, "/members/1", ""}, {http.MethodDelete, "/tokens/1", ""},
	} {
		got := as(t, bo, c[0], url+c[1], c[2])
		assert.Equal(t, http.StatusNotFound, got.status, "%s %s: %s", c[0], c[1], got.text)
		assert.NotContains(t, got.text, "Beacon")
	}
	list := as(t, bo, http.MethodGet, h.URL+"/api/v1/programs", "")
	assert.Contains(t, list.text, "Other")
	assert.NotContains(t, list.text, "Beacon")
	response, err := bo.Get(url + "/events")
	require.NoError(t, err)
	text, err := io.ReadAll(response.Body)
	require.NoError(t, err)
	require.NoError(t, response.Body.Close())
	assert.NotContains(t, string(text), "hello", "and hears nothing of its edits")
	assert.Equal(t, before, stored(t, h))
}

// Viewers write nothing; members and leads only what is theirs; nobody but
// administrators says who belongs.
func TestRolesAtTheDoor(t *testing.T) {
	computes(t)
	h := newHarbour(t, demo.Program(sample.Today))
	clients := map[roles.Role]*http.Client{}
	for i, role := range roles.All {
		clients[role] = h.client(t, h.begin(t, fmt.Sprintf("user%d", i), string(role), role))
	}
	for _, login := range []string{"user2", "user3"} {
		a, err := h.hub.Store().AccountBy(t.Context(), "login", login)
		require.NoError(t, err)
		role := map[string]roles.Role{"user2": roles.Lead, "user3": roles.Member}[login]
		require.NoError(t, h.hub.Store().SaveMembership(t.Context(), store.Membership{AccountID: a.ID, ProgramID: 1, Role: role, Person: "p01"}))
	}
	url := h.URL + "/api/v1/programs/1"
	change := func(text string) string { return edit("a", 0, text) }
	for _, c := range []struct {
		name, body string
		from       int // the first role, widest first, that may not
	}{
		{"own item", change(fmt.Sprintf(set, "LC-5", "title", `"Mine"`)), 4},
		{"own days off", change(`{"op":"set","kind":"person","key":"p01","field":"daysOff","value":[]}`), 4},
		{"own team's item", change(fmt.Sprintf(set, "LC-8", "size", "2")), 3},
		{"own team's capacity", change(`{"op":"set","kind":"iteration","in":"LC","key":"LC-i12","field":"capacity","value":9}`), 3},
		{"another team's item", change(fmt.Sprintf(set, "TW-5", "size", "2")), 2},
		{"the program", change(`{"op":"set","kind":"program","field":"fillTo","value":0.5}`), 2},
		{"a cadence", change(`{"op":"set","kind":"cadence","key":"two-week","field":"ahead","value":3}`), 2},
	} {
		for i, role := range roles.All {
			before := stored(t, h)
			got := as(t, clients[role], http.MethodPost, url+"/changes", strings.Replace(c.body, `"revision":0`, fmt.Sprintf(`"revision":%d`, revision(t, h)), 1))
			if i < c.from {
				assert.Equal(t, http.StatusOK, got.status, "%s as %s: %s", c.name, role, got.text)
				assert.Equal(t, http.StatusOK, as(t, clients[role], http.MethodPost, url+"/undo", `{"client":"a"}`).status)
			} else {
				assert.Equal(t, http.StatusForbidden, got.status, "%s as %s", c.name, role)
				assert.Contains(t, got.text, "ask a program manager")
				assert.Equal(t, before, stored(t, h))
			}
		}
	}
	for i, role := range roles.All {
		got := as(t, clients[role], http.MethodGet, url+"/members", "")
		assert.Equal(t, i == 0, got.status == http.StatusOK, role)
		assert.Equal(t, http.StatusForbidden, as(t, clients[role], http.MethodGet, h.URL+"/api/v1/accounts", "").status, "accounts are the server's")
		if i > 0 {
			assert.Equal(t, http.StatusForbidden, as(t, clients[role], http.MethodDelete, url, "").status)
			assert.Equal(t, http.StatusForbidden, as(t, clients[role], http.MethodPut, url+"/members", `{"login":"user4","role":"administrator"}`).status)
		}
		made := as(t, clients[role], http.MethodPost, h.URL+"/api/v1/programs", `{"name":"New"}`)
		assert.Equal(t, i < 2, made.status == http.StatusCreated, "%s makes a program", role)
	}
	assert.Contains(t, h.log.String(), "refused: role")
}

func revision(t testing.TB, h *harbour) int64 {
	t.Helper()
	_, revision, err := h.hub.Store().Load(t.Context(), 1)
	require.NoError(t, err)
	return revision
}

// Nobody takes back what somebody else did, even with the name of their page; and a
// role that was taken away is gone at once.
func TestReplayedAndStale(t *testing.T) {
	h := newHarbour(t, demo.Program(sample.Today))
	manager := h.client(t, h.begin(t, "mia", "Mia", roles.Manager))
	other := h.client(t, h.begin(t, "max", "Max", roles.Manager))
	url := h.URL + "/api/v1/programs/1"
	body := edit("page", 0, fmt.Sprintf(set, "LC-8", "size", "2"))
	require.Equal(t, http.StatusOK, as(t, manager, http.MethodPost, url+"/changes", body).status)
	assert.Equal(t, http.StatusConflict, as(t, other, http.MethodPost, url+"/undo", `{"client":"page"}`).status)
	journal := as(t, other, http.MethodGet, url+"/journal", "")
	assert.Contains(t, journal.text, `"actor":"Mia"`, "the journal has who was signed in")
	forged := strings.Replace(body, `"client"`, `"actor":"Max","client"`, 1)
	assert.Equal(t, http.StatusUnprocessableEntity, as(t, manager, http.MethodPost, url+"/changes", forged).status, "nobody names themselves")
	mia, err := h.hub.Store().AccountBy(t.Context(), "login", "mia")
	require.NoError(t, err)
	require.NoError(t, h.hub.Store().SaveMembership(t.Context(), store.Membership{AccountID: mia.ID, ProgramID: 1, Role: roles.Viewer}))
	before := stored(t, h)
	assert.Equal(t, http.StatusForbidden, as(t, manager, http.MethodPost, url+"/undo", `{"client":"page"}`).status, "undo is an edit too")
	assert.Equal(t, before, stored(t, h))
}

func TestForgedFromAnotherSite(t *testing.T) {
	h := newHarbour(t, demo.Program(sample.Today))
	ann := h.client(t, h.begin(t, "ann", "Ann", ""))
	before := stored(t, h)
	body := edit("a", 0, fmt.Sprintf(set, "LC-8", "size", "2"))
	url := h.URL + "/api/v1/programs/1/changes"
	assert.Equal(t, http.StatusForbidden, as(t, ann, http.MethodPost, url, body, "Sec-Fetch-Site", "cross-site").status)
	assert.Equal(t, http.StatusForbidden, as(t, ann, http.MethodPost, url, body, "Origin", "http://elsewhere.example").status)
	assert.Equal(t, http.StatusUnsupportedMediaType, as(t, ann, http.MethodPost, url, body, "Content-Type", "text/plain").status)
	assert.Equal(t, before, stored(t, h))
	signIn := as(t, nobody, http.MethodPost, h.URL+"/api/v1/sign-in", `{"login":"ann","password":"x"}`, "Sec-Fetch-Site", "cross-site")
	assert.Equal(t, http.StatusForbidden, signIn.status)
}

func TestCookiesAreNotForScripts(t *testing.T) {
	h := newHarbour(t, demo.Program(sample.Today))
	_, err := h.accounts.Add(t.Context(), "ann", "Ann", "seven lamps burn", true)
	require.NoError(t, err)
	got := as(t, nobody, http.MethodPost, h.URL+"/api/v1/sign-in", `{"login":"ann","password":"seven lamps burn"}`)
	require.Equal(t, http.StatusOK, got.status, got.text)
	assert.NotContains(t, got.text, "argon2")
	for _, cookie := range got.header.Values("Set-Cookie") {
		assert.Contains(t, cookie, "HttpOnly")
		assert.Contains(t, cookie, "SameSite=Strict")
	}
	assert.Len(t, got.header.Values("Set-Cookie"), 2)
}

func TestAThousandWrongPasswords(t *testing.T) {
	h := newHarbour(t, demo.Program(sample.Today))
	_, err := h.accounts.Add(t.Context(), "ann", "Ann", "seven lamps burn", true)
	require.NoError(t, err)
	before := stored(t, h)
	counts := map[int]int{}
	for range 1000 {
		got := as(t, nobody, http.MethodPost, h.URL+"/api/v1/sign-in", `{"login":"ann","password":"wrong wrong"}`)
		if counts[got.status]++; got.status == http.StatusTooManyRequests {
			require.Regexp(t, `^[1-9][0-9]*$`, got.header.Get("Retry-After"), "seconds, as HTTP says")
		}
	}
	// Time goes by while they are tried: each wait over, one more is looked at, and
	// the waits double.
	assert.LessOrEqual(t, counts[http.StatusUnauthorized], 20)
	assert.Equal(t, 1000, counts[http.StatusUnauthorized]+counts[http.StatusTooManyRequests])
	assert.Equal(t, before, stored(t, h))
	assert.Contains(t, h.log.String(), "refused: too many tries")
}

func TestBodiesThatAreTooLarge(t *testing.T) {
	h := newHarbour(t, demo.Program(sample.Today))
	ann := h.client(t, h.begin(t, "ann", "Ann", ""))
	before := stored(t, h)
	for path, size := range map[string]int{"/api/v1/sign-in": 5 << 10, "/api/v1/programs/1/changes": 9 << 20, "/api/v1/programs/1/do/rank": 65 << 20, "/api/v1/me/password": 5 << 10} {
		got := as(t, ann, http.MethodPost, h.URL+path, `{"text":"`+strings.Repeat("x", size)+`"}`)
		assert.Equal(t, http.StatusRequestEntityTooLarge, got.status, path)
	}
	assert.Equal(t, before, stored(t, h))
}

func TestTheDemoSignInIsForThisMachine(t *testing.T) {
	h := newHarbour(t, demo.Program(sample.Today))
	got := as(t, nobody, http.MethodPost, h.URL+"/api/v1/sign-in/demo", `{"login":"ann"}`)
	assert.Equal(t, http.StatusForbidden, got.status, "there is no demo here")
}

func TestATokenHasItsRoleInItsProgram(t *testing.T) {
	h := newHarbour(t, demo.Program(sample.Today))
	other, err := h.hub.Create(t.Context(), program.Program{Name: "Other"}.Normal())
	require.NoError(t, err)
	ann := h.client(t, h.begin(t, "ann", "Ann", ""))
	bo := h.client(t, h.begin(t, "bo", "Bo", roles.Lead))
	expires := time.Now().AddDate(0, 0, 9).Format("2006-01-02")
	url := h.URL + "/api/v1/programs/1"
	made := as(t, ann, http.MethodPost, url+"/tokens", fmt.Sprintf(`{"name":"Report","role":"viewer","expires":%q}`, expires))
	require.Equal(t, http.StatusCreated, made.status, made.text)
	bearer := []string{"Authorization", "Bearer " + made.body["token"].(string)}
	assert.Equal(t, http.StatusOK, as(t, nobody, http.MethodGet, url, "", bearer...).status)
	assert.Equal(t, http.StatusForbidden, as(t, nobody, http.MethodPost, url+"/changes", edit("a", 0, fmt.Sprintf(set, "LC-8", "size", "2")), bearer...).status)
	assert.Equal(t, http.StatusNotFound, as(t, nobody, http.MethodGet, fmt.Sprintf("%s/api/v1/programs/%d", h.URL, other), "", bearer...).status)
	assert.Equal(t, http.StatusForbidden, as(t, nobody, http.MethodGet, h.URL+"/api/v1/accounts", "", bearer...).status)
	assert.Equal(t, http.StatusForbidden, as(t, nobody, http.MethodPost, url+"/tokens", fmt.Sprintf(`{"name":"More","role":"viewer","expires":%q}`, expires), bearer...).status)
	assert.Equal(t, http.StatusForbidden, as(t, bo, http.MethodPost, url+"/tokens", fmt.Sprintf(`{"name":"Wide","role":"program manager","expires":%q}`, expires)).status, "at most one's own role")
	list := as(t, ann, http.MethodGet, url+"/tokens", "")
	assert.NotContains(t, list.text, made.body["token"])
	var tokens []struct{ ID int64 }
	require.NoError(t, json.Unmarshal([]byte(list.text), &tokens))
	assert.Equal(t, http.StatusNoContent, as(t, ann, http.MethodDelete, fmt.Sprintf("%s/tokens/%d", url, tokens[0].ID), "").status)
	assert.Equal(t, http.StatusUnauthorized, as(t, nobody, http.MethodGet, url, "", bearer...).status)
}

// A token reads and edits; it does not say who comes and goes, not even its owner.
func TestATokenDoesNotManageAccess(t *testing.T) {
	h := newHarbour(t, demo.Program(sample.Today))
	in := h.begin(t, "ann", "Ann", "")
	ann := h.client(t, in)
	url := h.URL + "/api/v1/programs/1"
	bearer := newToken(t, ann, url, "administrator")
	before := stored(t, h)
	for _, c := range [][3]string{
		{http.MethodPost, h.URL + "/api/v1/sign-out", `{"everywhere":true}`}, {http.MethodPost, h.URL + "/api/v1/me/password", `{"present":"","next":"another pass phrase"}`},
		{http.MethodDelete, url + "/tokens/1", ""}, {http.MethodPost, url + "/tokens", `{"name":"x","role":"viewer","expires":"2027-04-01"}`},
		{http.MethodPut, url + "/members", `{"login":"ann","role":"viewer"}`}, {http.MethodGet, url + "/members", ""}, {http.MethodDelete, url, ""},
		{http.MethodGet, h.URL + "/api/v1/accounts/1/access", ""}, {http.MethodDelete, h.URL + "/api/v1/accounts/1/sessions", ""}, {http.MethodPost, h.URL + "/api/v1/programs", `{"name":"New"}`},
	} {
		assert.Equal(t, http.StatusForbidden, as(t, nobody, c[0], c[1], c[2], bearer...).status, "%s %s", c[0], c[1])
	}
	assert.Equal(t, before, stored(t, h))
	assert.Equal(t, http.StatusOK, as(t, ann, http.MethodGet, url, "").status, "its owner is still signed in")
	assert.Equal(t, http.StatusOK, as(t, nobody, http.MethodGet, url, "", bearer...).status)
}

// newToken makes a token and returns the header that it is sent in.
func newToken(t *testing.T, client *http.Client, url, role string) []string {
	t.Helper()
	made := as(t, client, http.MethodPost, url+"/tokens", fmt.Sprintf(`{"name":"Report","role":%q,"expires":%q}`, role, time.Now().AddDate(0, 0, 9).Format("2006-01-02")))
	require.Equal(t, http.StatusCreated, made.status, made.text)
	return []string{"Authorization", "Bearer " + made.body["token"].(string)}
}

// Administrators of the server see by what an account reaches it, and end it; nobody else.
func TestAdministratorsEndAccess(t *testing.T) {
	h := newHarbour(t, demo.Program(sample.Today))
	ann := h.client(t, h.begin(t, "ann", "Ann", ""))
	in := h.begin(t, "bo", "Bo", roles.Manager)
	bo := h.client(t, in)
	url := h.URL + "/api/v1/programs/1"
	bearer := newToken(t, bo, url, "viewer")
	at := fmt.Sprintf("%s/api/v1/accounts/%d", h.URL, in.Account.ID)
	assert.Equal(t, http.StatusForbidden, as(t, bo, http.MethodGet, at+"/access", "").status)
	var seen struct {
		Sessions []struct{ SeenAt string }
		Tokens   []struct {
			ID      int
			Program string
		}
	}
	require.NoError(t, json.Unmarshal([]byte(as(t, ann, http.MethodGet, at+"/access", "").text), &seen))
	require.Len(t, seen.Sessions, 1)
	require.Len(t, seen.Tokens, 1)
	assert.Equal(t, "Beacon Renewal", seen.Tokens[0].Program)
	assert.Equal(t, http.StatusForbidden, as(t, bo, http.MethodDelete, fmt.Sprintf("%s/tokens/%d", at, seen.Tokens[0].ID), "").status)
	assert.Equal(t, http.StatusNoContent, as(t, ann, http.MethodDelete, fmt.Sprintf("%s/tokens/%d", at, seen.Tokens[0].ID), "").status)
	assert.Equal(t, http.StatusUnauthorized, as(t, nobody, http.MethodGet, url, "", bearer...).status)
	assert.Equal(t, http.StatusNoContent, as(t, ann, http.MethodDelete, at+"/sessions", "").status)
	assert.Equal(t, http.StatusUnauthorized, as(t, bo, http.MethodGet, url, "").status)
	assert.Equal(t, http.StatusOK, as(t, ann, http.MethodGet, url, "").status)
}

// What was revoked reaches streams that are open: of a session, of a token, of an account.
func TestRevokedStreamsEnd(t *testing.T) {
	h := newHarbour(t, demo.Program(sample.Today))
	h.begin(t, "root", "Root", "")
	begin := func(login string) (*http.Client, account.SignedIn) {
		in := h.begin(t, login, login, roles.Manager)
		return h.client(t, in), in
	}
	url := h.URL + "/api/v1/programs/1"
	listen := func(client *http.Client, header ...string) *http.Response {
		request, err := http.NewRequestWithContext(t.Context(), http.MethodGet, url+"/events", nil)
		require.NoError(t, err)
		for i := 0; i+1 < len(header); i += 2 {
			request.Header.Set(header[i], header[i+1])
		}
		response, err := client.Do(request)
		require.NoError(t, err)
		require.Equal(t, http.StatusOK, response.StatusCode)
		return response
	}
	ann, annIn := begin("ann")
	bo, boIn := begin("bo")
	cy, cyIn := begin("cy")
	bearer := newToken(t, bo, url, "viewer")
	streams := []*http.Response{listen(ann), listen(nobody, bearer...), listen(cy)}
	require.NoError(t, h.accounts.SignOut(t.Context(), annIn.Secret))
	tokens, err := h.hub.Store().TokensOf(t.Context(), boIn.Account.ID)
	require.NoError(t, err)
	require.NoError(t, h.hub.Store().RemoveToken(t.Context(), boIn.Account.ID, tokens[0].ID))
	_, err = h.hub.Store().ChangeAccount(t.Context(), cyIn.Account.ID, store.AccountChange{Disabled: new(true)})
	require.NoError(t, err)
	for i, stream := range streams {
		text, err := io.ReadAll(stream.Body) // ends with the next beat
		assert.NoError(t, err, i)
		assert.Contains(t, string(text), "hello")
		require.NoError(t, stream.Body.Close())
	}
}

// What every answer carries, and addresses that do nothing.
func TestAnswersOutsideOfOperations(t *testing.T) {
	h := newHarbour(t, demo.Program(sample.Today))
	ann := h.client(t, h.begin(t, "ann", "Ann", ""))
	wrong := as(t, ann, http.MethodPatch, h.URL+"/api/v1/programs/1", "{}")
	assert.Equal(t, http.StatusMethodNotAllowed, wrong.status)
	assert.Equal(t, "application/problem+json", wrong.header.Get("Content-Type"))
	forged := as(t, ann, http.MethodPost, h.URL+"/api/v1/programs/1/undo", `{"client":"a"}`, "Sec-Fetch-Site", "cross-site")
	assert.Equal(t, "application/problem+json", forged.header.Get("Content-Type"))
	assert.Contains(t, forged.text, "Another site")
	assert.Equal(t, http.StatusNotFound, as(t, ann, http.MethodGet, h.URL+"/assets/", "").status, "folders are not listed")
	assert.Equal(t, "no-store", as(t, ann, http.MethodPost, h.URL+"/api/v1/programs/1/draft", `{"aim":"dates"}`).header.Get("Cache-Control"))
	denied := as(t, nobody, http.MethodPost, h.URL+"/api/v1/programs/1/undo", `{"client":"a"}`)
	assert.Equal(t, "no-store", denied.header.Get("Cache-Control"))
	id := denied.header.Get("X-Request-Id")
	assert.Len(t, id, 12)
	assert.Equal(t, 2, strings.Count(h.log.String(), "request="+id), "both its lines can be found: that it was refused, and that it was")
	assert.Contains(t, h.log.String(), "account=ann")
}
