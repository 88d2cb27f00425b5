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
	"jantrel/internal/account"
	"jantrel/internal/api/apitest"
	"jantrel/internal/store"
)

// Every operation but the ways in is refused to who is not signed in, whatever they
// send.
func TestNothingWithoutSigningIn(t *testing.T) {
	t.Parallel()
	h := apitest.Demo(t)
	in := h.Begin(t, "ann", "Ann", "")
	require.NoError(t, h.Accounts.SignOut(t.Context(), in.Secret))
	before := h.Stored(t)
	spec := apitest.As(t, apitest.Nobody, http.MethodGet, h.URL+"/api/v1/openapi.json", "")
	var described struct {
		Paths map[string]map[string]struct{ OperationID string }
	}
	require.NoError(t, json.Unmarshal([]byte(spec.Text), &described))
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
				got := apitest.As(t, apitest.Nobody, strings.ToUpper(method), url, body, header...)
				require.Equal(t, http.StatusUnauthorized, got.Status, "%s %s as %s", method, path, name)
				checked++
			}
		}
	}
	assert.Greater(t, checked, 100)
	assert.Equal(t, before, h.Stored(t))
	assert.Contains(t, h.Log.String(), "refused: not signed in")
}

// A program that one does not belong to looks as if there were none.
func TestAnotherProgramsIds(t *testing.T) {
	t.Parallel()
	h := apitest.Demo(t)
	other, err := h.Hub.Create(t.Context(), program.Program{Name: "Other"}.Normal())
	require.NoError(t, err)
	stranger := h.Begin(t, "bo", "Bo", roles.Administrator)
	require.NoError(t, h.Accounts.Store().RemoveMembership(t.Context(), stranger.Account.ID, 1))
	require.NoError(t, h.Accounts.Store().SaveMembership(t.Context(), store.Membership{AccountID: stranger.Account.ID, ProgramID: other, Role: roles.Administrator}))
	bo := h.Client(t, stranger)
	before := h.Stored(t)
	url := h.URL + "/api/v1/programs/1"
	for _, c := range [][3]string{
		{http.MethodGet, "", ""}, {http.MethodGet, "/document", ""}, {http.MethodGet, "/journal", ""}, {http.MethodGet, "/landings", ""}, {http.MethodGet, "/set-up", ""},
		{http.MethodGet, "/members", ""}, {http.MethodGet, "/tokens", ""}, {http.MethodGet, "/capacity?team=LC&iteration=LC-i11", ""},
		{http.MethodGet, "/reports/capacity?from=2027-01-01&to=2027-12-31", ""}, {http.MethodGet, "/free?from=2027-01-01&to=2027-12-31", ""},
		{http.MethodPost, "/changes", apitest.Edit("a", 0, fmt.Sprintf(apitest.Set, "LC-8", "size", "2"))}, {http.MethodPost, "/undo", `{"client":"a"}`},
		{http.MethodPost, "/draft", `{"aim":"dates"}`}, {http.MethodPost, "/do/fetch-calendars", `{"client":"a","revision":0,"intent":{}}`}, {http.MethodDelete, "", ""},
		{http.MethodPut, "/members", `{"login":"bo","role":"administrator"}`}, {http.MethodPost, "/tokens", `{"name":"x","role":"viewer","expires":"2027-04-01"}`},
		{http.MethodDelete, "/members/1", ""}, {http.MethodDelete, "/tokens/1", ""},
	} {
		got := apitest.As(t, bo, c[0], url+c[1], c[2])
		assert.Equal(t, http.StatusNotFound, got.Status, "%s %s: %s", c[0], c[1], got.Text)
		assert.NotContains(t, got.Text, "Beacon")
	}
	list := apitest.As(t, bo, http.MethodGet, h.URL+"/api/v1/programs", "")
	assert.Contains(t, list.Text, "Other")
	assert.NotContains(t, list.Text, "Beacon")
	response, err := bo.Get(url + "/events")
	require.NoError(t, err)
	text, err := io.ReadAll(response.Body)
	require.NoError(t, err)
	require.NoError(t, response.Body.Close())
	assert.NotContains(t, string(text), "hello", "and hears nothing of its edits")
	assert.Equal(t, before, h.Stored(t))
}

// Viewers write nothing; members and leads only what is theirs; nobody but
// administrators says who belongs.
func TestRolesAtTheDoor(t *testing.T) {
	t.Parallel()
	apitest.Computes(t)
	h := apitest.Demo(t)
	clients := map[roles.Role]*http.Client{}
	for i, role := range roles.All {
		clients[role] = h.Client(t, h.Begin(t, fmt.Sprintf("user%d", i), string(role), role))
	}
	for _, login := range []string{"user2", "user3"} {
		a, err := h.Accounts.Store().AccountBy(t.Context(), "login", login)
		require.NoError(t, err)
		role := map[string]roles.Role{"user2": roles.Lead, "user3": roles.Member}[login]
		require.NoError(t, h.Accounts.Store().SaveMembership(t.Context(), store.Membership{AccountID: a.ID, ProgramID: 1, Role: role, Person: "p01"}))
	}
	url := h.URL + "/api/v1/programs/1"
	change := func(text string) string { return apitest.Edit("a", 0, text) }
	for _, c := range []struct {
		name, body string
		from       int // the first role, widest first, that may not
	}{
		{"own item", change(fmt.Sprintf(apitest.Set, "LC-5", "title", `"Mine"`)), 4},
		{"own days off", change(`{"op":"set","kind":"person","key":"p01","field":"daysOff","value":[]}`), 4},
		{"own team's item", change(fmt.Sprintf(apitest.Set, "LC-8", "size", "2")), 3},
		{"own team's capacity", change(`{"op":"set","kind":"iteration","in":"LC","key":"LC-i12","field":"capacity","value":9}`), 3},
		{"another team's item", change(fmt.Sprintf(apitest.Set, "TW-5", "size", "2")), 2},
		{"the program", change(`{"op":"set","kind":"program","field":"fillTo","value":0.5}`), 2},
		{"a cadence", change(`{"op":"set","kind":"cadence","key":"two-week","field":"ahead","value":3}`), 2},
	} {
		for i, role := range roles.All {
			before := h.Stored(t)
			got := apitest.As(t, clients[role], http.MethodPost, url+"/changes", strings.Replace(c.body, `"revision":0`, fmt.Sprintf(`"revision":%d`, h.Revision(t)), 1))
			if i < c.from {
				assert.Equal(t, http.StatusOK, got.Status, "%s as %s: %s", c.name, role, got.Text)
				assert.Equal(t, http.StatusOK, apitest.As(t, clients[role], http.MethodPost, url+"/undo", `{"client":"a"}`).Status)
			} else {
				assert.Equal(t, http.StatusForbidden, got.Status, "%s as %s", c.name, role)
				assert.Contains(t, got.Text, "ask a program manager")
				assert.Equal(t, before, h.Stored(t))
			}
		}
	}
	for i, role := range roles.All {
		got := apitest.As(t, clients[role], http.MethodGet, url+"/members", "")
		assert.Equal(t, i == 0, got.Status == http.StatusOK, role)
		assert.Equal(t, http.StatusForbidden, apitest.As(t, clients[role], http.MethodGet, h.URL+"/api/v1/accounts", "").Status, "accounts are the server's")
		if i > 0 {
			assert.Equal(t, http.StatusForbidden, apitest.As(t, clients[role], http.MethodDelete, url, "").Status)
			assert.Equal(t, http.StatusForbidden, apitest.As(t, clients[role], http.MethodPut, url+"/members", `{"login":"user4","role":"administrator"}`).Status)
		}
		made := apitest.As(t, clients[role], http.MethodPost, h.URL+"/api/v1/programs", `{"name":"New"}`)
		assert.Equal(t, i < 2, made.Status == http.StatusCreated, "%s makes a program", role)
	}
	assert.Contains(t, h.Log.String(), "refused: role")
}

// Nobody takes back what somebody else did, even with the name of their page; and a
// role that was taken away is gone at once.
func TestReplayedAndStale(t *testing.T) {
	t.Parallel()
	h := apitest.Demo(t)
	manager := h.Client(t, h.Begin(t, "mia", "Mia", roles.Manager))
	other := h.Client(t, h.Begin(t, "max", "Max", roles.Manager))
	url := h.URL + "/api/v1/programs/1"
	body := apitest.Edit("page", 0, fmt.Sprintf(apitest.Set, "LC-8", "size", "2"))
	require.Equal(t, http.StatusOK, apitest.As(t, manager, http.MethodPost, url+"/changes", body).Status)
	assert.Equal(t, http.StatusConflict, apitest.As(t, other, http.MethodPost, url+"/undo", `{"client":"page"}`).Status)
	journal := apitest.As(t, other, http.MethodGet, url+"/journal", "")
	assert.Contains(t, journal.Text, `"actor":"Mia"`, "the journal has who was signed in")
	forged := strings.Replace(body, `"client"`, `"actor":"Max","client"`, 1)
	assert.Equal(t, http.StatusUnprocessableEntity, apitest.As(t, manager, http.MethodPost, url+"/changes", forged).Status, "nobody names themselves")
	mia, err := h.Accounts.Store().AccountBy(t.Context(), "login", "mia")
	require.NoError(t, err)
	require.NoError(t, h.Accounts.Store().SaveMembership(t.Context(), store.Membership{AccountID: mia.ID, ProgramID: 1, Role: roles.Viewer}))
	before := h.Stored(t)
	assert.Equal(t, http.StatusForbidden, apitest.As(t, manager, http.MethodPost, url+"/undo", `{"client":"page"}`).Status, "undo is an edit too")
	assert.Equal(t, before, h.Stored(t))
}

func TestForgedFromAnotherSite(t *testing.T) {
	t.Parallel()
	h := apitest.Demo(t)
	ann := h.Client(t, h.Begin(t, "ann", "Ann", ""))
	before := h.Stored(t)
	body := apitest.Edit("a", 0, fmt.Sprintf(apitest.Set, "LC-8", "size", "2"))
	url := h.URL + "/api/v1/programs/1/changes"
	assert.Equal(t, http.StatusForbidden, apitest.As(t, ann, http.MethodPost, url, body, "Sec-Fetch-Site", "cross-site").Status)
	assert.Equal(t, http.StatusForbidden, apitest.As(t, ann, http.MethodPost, url, body, "Origin", "http://elsewhere.example").Status)
	assert.Equal(t, http.StatusUnsupportedMediaType, apitest.As(t, ann, http.MethodPost, url, body, "Content-Type", "text/plain").Status)
	assert.Equal(t, before, h.Stored(t))
	signIn := apitest.As(t, apitest.Nobody, http.MethodPost, h.URL+"/api/v1/sign-in", `{"login":"ann","password":"x"}`, "Sec-Fetch-Site", "cross-site")
	assert.Equal(t, http.StatusForbidden, signIn.Status)
}

func TestCookiesAreNotForScripts(t *testing.T) {
	t.Parallel()
	h := apitest.Demo(t)
	_, err := h.Accounts.Add(t.Context(), "ann", "Ann", "seven lamps burn", true)
	require.NoError(t, err)
	got := apitest.As(t, apitest.Nobody, http.MethodPost, h.URL+"/api/v1/sign-in", `{"login":"ann","password":"seven lamps burn"}`)
	require.Equal(t, http.StatusOK, got.Status, got.Text)
	assert.NotContains(t, got.Text, "argon2")
	for _, cookie := range got.Header.Values("Set-Cookie") {
		assert.Contains(t, cookie, "HttpOnly")
		assert.Contains(t, cookie, "SameSite=Strict")
	}
	assert.Len(t, got.Header.Values("Set-Cookie"), 2)
}

func TestAThousandWrongPasswords(t *testing.T) {
	t.Parallel()
	h := apitest.Demo(t)
	_, err := h.Accounts.Add(t.Context(), "ann", "Ann", "seven lamps burn", true)
	require.NoError(t, err)
	before := h.Stored(t)
	counts := map[int]int{}
	for range 1000 {
		got := apitest.As(t, apitest.Nobody, http.MethodPost, h.URL+"/api/v1/sign-in", `{"login":"ann","password":"wrong wrong"}`)
		if counts[got.Status]++; got.Status == http.StatusTooManyRequests {
			require.Regexp(t, `^[1-9][0-9]*$`, got.Header.Get("Retry-After"), "seconds, as HTTP says")
		}
	}
	// Time goes by while they are tried: each wait over, one more is looked at, and
	// the waits double.
	assert.LessOrEqual(t, counts[http.StatusUnauthorized], 20)
	assert.Equal(t, 1000, counts[http.StatusUnauthorized]+counts[http.StatusTooManyRequests])
	assert.Equal(t, before, h.Stored(t))
	assert.Contains(t, h.Log.String(), "refused: too many tries")
}

func TestBodiesThatAreTooLarge(t *testing.T) {
	t.Parallel()
	h := apitest.Demo(t)
	ann := h.Client(t, h.Begin(t, "ann", "Ann", ""))
	before := h.Stored(t)
	for path, size := range map[string]int{"/api/v1/sign-in": 5 << 10, "/api/v1/programs/1/changes": 9 << 20, "/api/v1/programs/1/do/rank": 65 << 20, "/api/v1/me/password": 5 << 10} {
		got := apitest.As(t, ann, http.MethodPost, h.URL+path, `{"text":"`+strings.Repeat("x", size)+`"}`)
		assert.Equal(t, http.StatusRequestEntityTooLarge, got.Status, path)
	}
	assert.Equal(t, before, h.Stored(t))
}

func TestTheDemoSignInIsForThisMachine(t *testing.T) {
	t.Parallel()
	h := apitest.Demo(t)
	got := apitest.As(t, apitest.Nobody, http.MethodPost, h.URL+"/api/v1/sign-in/demo", `{"login":"ann"}`)
	assert.Equal(t, http.StatusForbidden, got.Status, "there is no demo here")
}

func TestATokenHasItsRoleInItsProgram(t *testing.T) {
	t.Parallel()
	h := apitest.Demo(t)
	other, err := h.Hub.Create(t.Context(), program.Program{Name: "Other"}.Normal())
	require.NoError(t, err)
	ann := h.Client(t, h.Begin(t, "ann", "Ann", ""))
	bo := h.Client(t, h.Begin(t, "bo", "Bo", roles.Lead))
	expires := time.Now().AddDate(0, 0, 9).Format("2006-01-02")
	url := h.URL + "/api/v1/programs/1"
	made := apitest.As(t, ann, http.MethodPost, url+"/tokens", fmt.Sprintf(`{"name":"Report","role":"viewer","expires":%q}`, expires))
	require.Equal(t, http.StatusCreated, made.Status, made.Text)
	bearer := []string{"Authorization", "Bearer " + made.Body["token"].(string)}
	assert.Equal(t, http.StatusOK, apitest.As(t, apitest.Nobody, http.MethodGet, url, "", bearer...).Status)
	assert.Equal(t, http.StatusForbidden, apitest.As(t, apitest.Nobody, http.MethodPost, url+"/changes", apitest.Edit("a", 0, fmt.Sprintf(apitest.Set, "LC-8", "size", "2")), bearer...).Status)
	assert.Equal(t, http.StatusNotFound, apitest.As(t, apitest.Nobody, http.MethodGet, fmt.Sprintf("%s/api/v1/programs/%d", h.URL, other), "", bearer...).Status)
	assert.Equal(t, http.StatusForbidden, apitest.As(t, apitest.Nobody, http.MethodGet, h.URL+"/api/v1/accounts", "", bearer...).Status)
	assert.Equal(t, http.StatusForbidden, apitest.As(t, apitest.Nobody, http.MethodPost, url+"/tokens", fmt.Sprintf(`{"name":"More","role":"viewer","expires":%q}`, expires), bearer...).Status)
	assert.Equal(t, http.StatusForbidden, apitest.As(t, bo, http.MethodPost, url+"/tokens", fmt.Sprintf(`{"name":"Wide","role":"program manager","expires":%q}`, expires)).Status, "at most one's own role")
	list := apitest.As(t, ann, http.MethodGet, url+"/tokens", "")
	assert.NotContains(t, list.Text, made.Body["token"])
	var tokens []struct{ ID int64 }
	require.NoError(t, json.Unmarshal([]byte(list.Text), &tokens))
	assert.Equal(t, http.StatusNoContent, apitest.As(t, ann, http.MethodDelete, fmt.Sprintf("%s/tokens/%d", url, tokens[0].ID), "").Status)
	assert.Equal(t, http.StatusUnauthorized, apitest.As(t, apitest.Nobody, http.MethodGet, url, "", bearer...).Status)
}

// A token reads and edits; it does not say who comes and goes, not even its owner.
func TestATokenDoesNotManageAccess(t *testing.T) {
	t.Parallel()
	h := apitest.Demo(t)
	in := h.Begin(t, "ann", "Ann", "")
	ann := h.Client(t, in)
	url := h.URL + "/api/v1/programs/1"
	bearer := apitest.Token(t, ann, url, "administrator")
	before := h.Stored(t)
	for _, c := range [][3]string{
		{http.MethodPost, h.URL + "/api/v1/sign-out", `{"everywhere":true}`}, {http.MethodPost, h.URL + "/api/v1/me/password", `{"present":"","next":"another pass phrase"}`},
		{http.MethodDelete, url + "/tokens/1", ""}, {http.MethodPost, url + "/tokens", `{"name":"x","role":"viewer","expires":"2027-04-01"}`},
		{http.MethodPut, url + "/members", `{"login":"ann","role":"viewer"}`}, {http.MethodGet, url + "/members", ""}, {http.MethodDelete, url, ""},
		{http.MethodGet, h.URL + "/api/v1/accounts/1/access", ""}, {http.MethodDelete, h.URL + "/api/v1/accounts/1/sessions", ""}, {http.MethodPost, h.URL + "/api/v1/programs", `{"name":"New"}`},
	} {
		assert.Equal(t, http.StatusForbidden, apitest.As(t, apitest.Nobody, c[0], c[1], c[2], bearer...).Status, "%s %s", c[0], c[1])
	}
	assert.Equal(t, before, h.Stored(t))
	assert.Equal(t, http.StatusOK, apitest.As(t, ann, http.MethodGet, url, "").Status, "its owner is still signed in")
	assert.Equal(t, http.StatusOK, apitest.As(t, apitest.Nobody, http.MethodGet, url, "", bearer...).Status)
}

// Administrators of the server see by what an account reaches it, and end it; nobody else.
func TestAdministratorsEndAccess(t *testing.T) {
	t.Parallel()
	h := apitest.Demo(t)
	ann := h.Client(t, h.Begin(t, "ann", "Ann", ""))
	in := h.Begin(t, "bo", "Bo", roles.Manager)
	bo := h.Client(t, in)
	url := h.URL + "/api/v1/programs/1"
	bearer := apitest.Token(t, bo, url, "viewer")
	at := fmt.Sprintf("%s/api/v1/accounts/%d", h.URL, in.Account.ID)
	assert.Equal(t, http.StatusForbidden, apitest.As(t, bo, http.MethodGet, at+"/access", "").Status)
	var seen struct {
		Sessions []struct{ SeenAt string }
		Tokens   []struct {
			ID      int
			Program string
		}
	}
	require.NoError(t, json.Unmarshal([]byte(apitest.As(t, ann, http.MethodGet, at+"/access", "").Text), &seen))
	require.Len(t, seen.Sessions, 1)
	require.Len(t, seen.Tokens, 1)
	assert.Equal(t, "Beacon Renewal", seen.Tokens[0].Program)
	assert.Equal(t, http.StatusForbidden, apitest.As(t, bo, http.MethodDelete, fmt.Sprintf("%s/tokens/%d", at, seen.Tokens[0].ID), "").Status)
	assert.Equal(t, http.StatusNoContent, apitest.As(t, ann, http.MethodDelete, fmt.Sprintf("%s/tokens/%d", at, seen.Tokens[0].ID), "").Status)
	assert.Equal(t, http.StatusUnauthorized, apitest.As(t, apitest.Nobody, http.MethodGet, url, "", bearer...).Status)
	assert.Equal(t, http.StatusNoContent, apitest.As(t, ann, http.MethodDelete, at+"/sessions", "").Status)
	assert.Equal(t, http.StatusUnauthorized, apitest.As(t, bo, http.MethodGet, url, "").Status)
	assert.Equal(t, http.StatusOK, apitest.As(t, ann, http.MethodGet, url, "").Status)
}

// What was revoked reaches streams that are open: of a session, of a token, of an account.
func TestRevokedStreamsEnd(t *testing.T) {
	t.Parallel()
	h := apitest.Demo(t)
	h.Begin(t, "root", "Root", "")
	begin := func(login string) (*http.Client, account.SignedIn) {
		in := h.Begin(t, login, login, roles.Manager)
		return h.Client(t, in), in
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
	bearer := apitest.Token(t, bo, url, "viewer")
	streams := []*http.Response{listen(ann), listen(apitest.Nobody, bearer...), listen(cy)}
	require.NoError(t, h.Accounts.SignOut(t.Context(), annIn.Secret))
	tokens, err := h.Accounts.Store().TokensOf(t.Context(), boIn.Account.ID)
	require.NoError(t, err)
	require.NoError(t, h.Accounts.Store().RemoveToken(t.Context(), boIn.Account.ID, tokens[0].ID))
	_, err = h.Accounts.Store().ChangeAccount(t.Context(), cyIn.Account.ID, store.AccountChange{Disabled: new(true)})
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
	t.Parallel()
	h := apitest.Demo(t)
	ann := h.Client(t, h.Begin(t, "ann", "Ann", ""))
	wrong := apitest.As(t, ann, http.MethodPatch, h.URL+"/api/v1/programs/1", "{}")
	assert.Equal(t, http.StatusMethodNotAllowed, wrong.Status)
	assert.Equal(t, "application/problem+json", wrong.Header.Get("Content-Type"))
	forged := apitest.As(t, ann, http.MethodPost, h.URL+"/api/v1/programs/1/undo", `{"client":"a"}`, "Sec-Fetch-Site", "cross-site")
	assert.Equal(t, "application/problem+json", forged.Header.Get("Content-Type"))
	assert.Contains(t, forged.Text, "Another site")
	assert.Equal(t, http.StatusNotFound, apitest.As(t, ann, http.MethodGet, h.URL+"/assets/", "").Status, "folders are not listed")
	assert.Equal(t, "no-store", apitest.As(t, ann, http.MethodPost, h.URL+"/api/v1/programs/1/draft", `{"aim":"dates"}`).Header.Get("Cache-Control"))
	denied := apitest.As(t, apitest.Nobody, http.MethodPost, h.URL+"/api/v1/programs/1/undo", `{"client":"a"}`)
	assert.Equal(t, "no-store", denied.Header.Get("Cache-Control"))
	id := denied.Header.Get("X-Request-Id")
	assert.Len(t, id, 12)
	assert.Equal(t, 2, strings.Count(h.Log.String(), "request="+id), "both its lines can be found: that it was refused, and that it was")
	assert.Contains(t, h.Log.String(), "account=ann")
}
