package api_test

import (
	"bufio"
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"log/slog"
	"net/http"
	"net/http/cookiejar"
	"net/http/httptest"
	"net/url"
	"os"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/calendar"
	"jantrel/core/program"
	"jantrel/core/roles"
	"jantrel/core/sample"
	"jantrel/internal/account"
	"jantrel/internal/api"
	"jantrel/internal/demo"
	"jantrel/internal/exchange"
	"jantrel/internal/feeds"
	"jantrel/internal/live"
	"jantrel/internal/standin"
	"jantrel/internal/store"
)

// client has the session of the administrator, Ann, of the server that serve made
// last.
var client *http.Client

// serve serves one program as number 1.
// onToday is the machine's clock on the day on which the tests see plans.
func onToday() time.Time {
	now := time.Now()
	return now.AddDate(0, 0, int(sample.Today-calendar.OfTime(now)))
}

func serve(t testing.TB, p program.Program) *httptest.Server {
	t.Helper()
	h := newHarbour(t, p)
	client = h.client(t, h.begin(t, "ann", "Ann", ""))
	return h.Server
}

// harbour is a server with what it is made of.
type harbour struct {
	*httptest.Server
	hub      *live.Hub
	accounts *account.Service
	log      *bytes.Buffer
	ctx      context.Context
	members  []int64 // accounts, one of each role
}

func newHarbour(t testing.TB, p program.Program, alter ...func(*api.Options)) *harbour {
	t.Helper()
	s, err := store.Open(t.TempDir())
	require.NoError(t, err)
	h := &harbour{hub: live.NewHub(s, onToday, func() program.Date { return sample.Today }), accounts: account.New(s, time.Now), log: &bytes.Buffer{}}
	_, err = h.hub.Create(t.Context(), p)
	require.NoError(t, err)
	calendars := httptest.NewServer(standin.Calendars(p, sample.Today))
	options := api.Options{Hub: h.hub, Accounts: h.accounts, Feeds: feeds.NewCalendars(calendars.URL), Log: slog.New(slog.NewTextHandler(h.log, nil)), Version: "test"}
	for _, do := range alter {
		do(&options)
	}
	h.Server = httptest.NewServer(api.New(options))
	t.Cleanup(func() {
		h.hub.Close()
		h.Close()
		calendars.Close()
		_ = s.Close()
	})
	return h
}

// begin makes an account with a role in the program (without one: an administrator
// of the server) and begins a session.
func (h *harbour) begin(t testing.TB, login, name string, role roles.Role) account.SignedIn {
	t.Helper()
	made, err := h.accounts.AddWithoutPassword(t.Context(), login, name, role == "")
	require.NoError(t, err)
	if role != "" {
		require.NoError(t, h.hub.Store().SaveMembership(t.Context(), store.Membership{AccountID: made.ID, ProgramID: 1, Role: role}))
	}
	in, err := h.accounts.Begin(t.Context(), made, "")
	require.NoError(t, err)
	return in
}

func (h *harbour) client(t testing.TB, in account.SignedIn) *http.Client {
	t.Helper()
	jar, err := cookiejar.New(nil)
	require.NoError(t, err)
	at, err := url.Parse(h.URL)
	require.NoError(t, err)
	jar.SetCookies(at, []*http.Cookie{{Name: "jantrel-session", Value: in.Secret}})
	return &http.Client{Jar: jar}
}

type answer struct {
	status int
	header http.Header
	body   map[string]any
	text   string
}

func call(t testing.TB, method, url, body string, header ...string) answer {
	t.Helper()
	request, err := http.NewRequestWithContext(t.Context(), method, url, strings.NewReader(body))
	require.NoError(t, err)
	if body != "" {
		request.Header.Set("Content-Type", "application/json")
	}
	for i := 0; i+1 < len(header); i += 2 {
		request.Header.Set(header[i], header[i+1])
	}
	response, err := client.Do(request)
	require.NoError(t, err)
	defer func() { _ = response.Body.Close() }()
	text, err := io.ReadAll(response.Body)
	require.NoError(t, err)
	a := answer{status: response.StatusCode, header: response.Header, text: string(text)}
	_ = json.Unmarshal(text, &a.body)
	return a
}

const set = `{"op":"set","kind":"item","key":%q,"field":%q,"value":%s}`

// edit is a request to make changes as a client, on a revision.
func edit(client string, revision int, changes ...string) string {
	return fmt.Sprintf(`{"client":%q,"revision":%d,"label":"Edit","changes":[%s]}`, client, revision, strings.Join(changes, ","))
}

func TestAnEditFromRequestToAnswer(t *testing.T) {
	server := serve(t, demo.Program(sample.Today))
	url := server.URL + "/api/v1/programs/1"
	got := call(t, http.MethodGet, url, "")
	require.Equal(t, http.StatusOK, got.status)
	tag := got.header.Get("ETag")
	require.NotEmpty(t, tag)
	assert.Contains(t, got.header.Get("Cache-Control"), "no-cache")
	for _, have := range []string{tag, "W/" + strings.TrimPrefix(tag, "W/"), `"other", ` + tag, "*"} {
		again := call(t, http.MethodGet, url, "", "If-None-Match", have)
		assert.Equal(t, http.StatusNotModified, again.status, have)
		assert.Empty(t, again.text)
	}

	got = call(t, http.MethodPost, url+"/changes", edit("a", 0, fmt.Sprintf(set, "LC-8", "size", "2")))
	require.Equal(t, http.StatusOK, got.status, got.text)
	assert.Equal(t, "Edit", got.body["undo"])
	assert.Equal(t, 1.0, got.body["update"].(map[string]any)["revision"])
	assert.Equal(t, http.StatusOK, call(t, http.MethodGet, url, "", "If-None-Match", tag).status)

	landings := call(t, http.MethodGet, url+"/landings", "")
	assert.Equal(t, 1.0, landings.body["revision"])
	journal := call(t, http.MethodGet, url+"/journal", "")
	assert.Contains(t, journal.text, `"before":5`)
	undone := call(t, http.MethodPost, url+"/undo", `{"client":"a"}`)
	assert.Equal(t, "Edit", undone.body["redo"])
	assert.Equal(t, http.StatusConflict, call(t, http.MethodPost, url+"/undo", `{"client":"a"}`).status)
	assert.Equal(t, http.StatusOK, call(t, http.MethodPost, url+"/redo", `{"client":"a"}`).status)
}

func TestErrorsAreProblemsInPlainWords(t *testing.T) {
	server := serve(t, demo.Program(sample.Today))
	url := server.URL + "/api/v1/programs/1"
	call(t, http.MethodPost, url+"/changes", edit("a", 0, fmt.Sprintf(set, "LC-8", "size", "2")))
	for name, c := range map[string]struct {
		method, path, body string
		status             int
		says               string
	}{
		"no such program":   {http.MethodGet, "/api/v1/programs/9", "", 404, "There is no such program"},
		"no such address":   {http.MethodGet, "/api/v1/nothing", "", 404, "nothing at this address"},
		"a conflict":        {http.MethodPost, "/api/v1/programs/1/changes", edit("b", 0, fmt.Sprintf(set, "LC-8", "size", "3")), 409, "Ann changed the size of LC-8 meanwhile to 2; yours is 3"},
		"a broken rule":     {http.MethodPost, "/api/v1/programs/1/changes", edit("a", 1, fmt.Sprintf(set, "LC-8", "iteration", `"TW-i11"`)), 422, `team \"LC\" has no iteration \"TW-i11\"`},
		"a cycle":           {http.MethodPost, "/api/v1/programs/1/changes", edit("a", 1, `{"op":"add","kind":"need","in":"LC-4","key":"LC-6","value":{"item":"LC-4","needs":"LC-6"}}`), 409, "LC-4 needs LC-6 needs LC-4"},
		"an unknown op":     {http.MethodPost, "/api/v1/programs/1/changes", edit("a", 1, `{"op":"turn","kind":"item","key":"LC-4"}`), 422, "op"},
		"no JSON":           {http.MethodPost, "/api/v1/programs/1/changes", "{", 400, ""},
		"no changes":        {http.MethodPost, "/api/v1/programs/1/changes", edit("a", 1), 422, "changes"},
		"a bad document":    {http.MethodPost, "/api/v1/programs/import", `{"format":"x"}`, 422, "format"},
		"too much":          {http.MethodPost, "/api/v1/programs/1/undo", `{"actor":"` + strings.Repeat("x", 2<<20) + `"}`, 413, ""},
		"a reason for none": {http.MethodGet, "/api/v1/programs/1/reason?item=FE-1", "", 404, "Only items that are still to do"},
	} {
		got := call(t, c.method, server.URL+c.path, c.body)
		assert.Equal(t, c.status, got.status, name+": "+got.text)
		assert.Contains(t, got.text, c.says, name)
		assert.Contains(t, got.header.Get("Content-Type"), "application/problem+json", name)
	}
	assert.Equal(t, 1.0, call(t, http.MethodGet, url, "").body["revision"], "nothing was changed by any of them")
}

func TestImportAndExportAreTheSame(t *testing.T) {
	server := serve(t, program.Program{Name: "First"}.Normal())
	var document bytes.Buffer
	require.NoError(t, exchange.WriteDocument(&document, demo.Program(sample.Today)))
	got := call(t, http.MethodPost, server.URL+"/api/v1/programs/import", document.String())
	require.Equal(t, http.StatusCreated, got.status, got.text)
	assert.Equal(t, document.String(), call(t, http.MethodGet, server.URL+"/api/v1/programs/2/document", "").text)
	assert.Equal(t, http.StatusNoContent, call(t, http.MethodDelete, server.URL+"/api/v1/programs/2", "").status)
	assert.Equal(t, http.StatusNotFound, call(t, http.MethodGet, server.URL+"/api/v1/programs/2", "").status)
}

// computes skips a test that computes much and does little at once when only the latter is asked
// about: with the race detector.
func computes(t *testing.T) {
	t.Helper()
	if testing.Short() {
		t.Skip("computes much, does little at once")
	}
}

// What a lever promises is what the standing strip reads once it is applied.
func TestALeverKeepsItsPromise(t *testing.T) {
	computes(t)
	server := serve(t, demo.Program(sample.Today))
	url := server.URL + "/api/v1/programs/1"
	got := call(t, http.MethodPost, url+"/levers", `{"release":"R1"}`)
	require.Equal(t, http.StatusOK, got.status, got.text)
	release := func() map[string]any {
		return call(t, http.MethodGet, url+"/landings", "").body["releases"].([]any)[0].(map[string]any)
	}
	assert.Equal(t, release()["chance"], got.body["now"].(map[string]any)["chance"])
	found := got.body["levers"].([]any)
	first, second := found[0].(map[string]any), found[1].(map[string]any)
	assert.ElementsMatch(t, []any{"LC-16", "KC-14"}, []any{first["item"], second["item"]}, "the items without a size come first")
	assert.NotEqual(t, "size", found[2].(map[string]any)["kind"])

	changes, err := json.Marshal(first["changes"])
	require.NoError(t, err)
	made := call(t, http.MethodPost, url+"/changes", `{"client":"a","label":"Size it","revision":0,"changes":`+string(changes)+`}`)
	require.Equal(t, http.StatusOK, made.status, made.text)
	then := first["then"].(map[string]any)
	assert.Equal(t, then["chance"], release()["chance"])
	assert.Greater(t, then["chance"], got.body["now"].(map[string]any)["chance"])

	assert.Contains(t, call(t, http.MethodPost, url+"/levers", `{"release":"R9"}`).text, `there is no release \"R9\"`)
	assert.Contains(t, call(t, http.MethodPost, url+"/levers", `{}`).text, "say what is to be mended")
}

func TestADraftMovesNothing(t *testing.T) {
	computes(t)
	server := serve(t, demo.Program(sample.Today))
	url := server.URL + "/api/v1/programs/1"
	got := call(t, http.MethodPost, url+"/draft", `{"fillTo":0.9}`)
	require.Equal(t, http.StatusOK, got.status, got.text)
	assert.NotEmpty(t, got.body["draft"].(map[string]any)["placements"])
	after := got.body["after"].(map[string]any)
	assert.Len(t, after["landings"], 2)
	assert.LessOrEqual(t, got.body["expectedLateDaysBound"], after["expectedLateDays"])
	assert.Less(t, after["expectedLateDays"], got.body["before"].(map[string]any)["expectedLateDays"], "by odds, where nothing is said")
	assert.Equal(t, got.body["draft"].(map[string]any)["score"].(map[string]any)["lateDays"], after["score"].(map[string]any)["lateDays"])

	// Ticked all, the moves have the figures of the draft; none, those of the plan.
	var moves []map[string]any
	for _, list := range []string{"placements", "unplaced"} {
		for _, x := range got.body["draft"].(map[string]any)[list].([]any) {
			if x := x.(map[string]any); x["moved"] == true {
				moves = append(moves, map[string]any{"item": x["item"], "iteration": x["iteration"]})
			}
		}
	}
	var rough []map[string]any
	for _, x := range got.body["draft"].(map[string]any)["rough"].([]any) {
		x := x.(map[string]any)
		places := []map[string]any{}
		for _, part := range x["places"].([]any) {
			part := part.(map[string]any)
			places = append(places, map[string]any{"iteration": part["iteration"], "size": part["size"]})
		}
		rough = append(rough, map[string]any{"item": x["item"], "team": x["team"], "places": places})
	}
	require.NotEmpty(t, rough)
	try := func(moves, rough []map[string]any) map[string]any {
		body, err := json.Marshal(map[string]any{"fillTo": 0.9, "placements": moves, "rough": rough})
		require.NoError(t, err)
		return call(t, http.MethodPost, url+"/places/try", string(body)).body
	}
	require.NotEmpty(t, moves)
	all := try(moves, rough)
	for _, figure := range []string{"over", "broken", "unplaced", "landings"} {
		assert.Equal(t, after[figure], all[figure], figure)
		assert.Equal(t, got.body["before"].(map[string]any)[figure], try(moves[:0], rough[:0])[figure], figure)
	}
	assert.Equal(t, after["score"].(map[string]any)["lateDays"], all["score"].(map[string]any)["lateDays"])
	assert.Contains(t, call(t, http.MethodPost, url+"/places/try", `{"placements":[{"item":"LC-999"}]}`).text, "there is no item LC-999")
	assert.Equal(t, 0.0, call(t, http.MethodGet, url, "").body["revision"])
	fits := call(t, http.MethodGet, url+"/fits?team=LC&items=LC-8&items=LC-7", "")
	assert.Contains(t, fits.text, `"fits":true`)
}

func TestEventsArriveWithoutAsking(t *testing.T) {
	server := serve(t, demo.Program(sample.Today))
	url := server.URL + "/api/v1/programs/1"
	request, err := http.NewRequestWithContext(t.Context(), http.MethodGet, url+"/events", nil)
	require.NoError(t, err)
	response, err := client.Do(request)
	require.NoError(t, err)
	defer func() { _ = response.Body.Close() }()
	lines := bufio.NewScanner(response.Body)
	lines.Buffer(nil, 1<<20)
	next := func(what string) string {
		for lines.Scan() {
			if strings.Contains(lines.Text(), what) {
				return lines.Text()
			}
		}
		return ""
	}
	assert.Contains(t, next("data:"), `"revision":0`)
	call(t, http.MethodPost, url+"/changes", edit("a", 0, fmt.Sprintf(set, "LC-8", "size", "2")))
	assert.Contains(t, next("data:"), `"label":"Edit"`)
}

func TestThePageMayRunNothingFromElsewhere(t *testing.T) {
	server := serve(t, program.Program{Name: "X"}.Normal())
	header := call(t, http.MethodGet, server.URL+"/programs/1/plan", "").header
	policy := header.Get("Content-Security-Policy")
	assert.Contains(t, policy, "default-src 'self'")
	assert.NotContains(t, policy, "script-src")
	assert.NotContains(t, policy, "http")
	assert.Equal(t, "nosniff", header.Get("X-Content-Type-Options"))
}

func TestTheTypesOfThePageAreThoseOfTheInterface(t *testing.T) {
	want, err := api.OpenAPI("dev")
	require.NoError(t, err)
	have, err := os.ReadFile("../../web/src/api/openapi.json")
	require.NoError(t, err)
	assert.JSONEq(t, string(want), string(have), "run: make types")
}

func benchmarkServer(b *testing.B) string {
	return serve(b, sample.Program(1, sample.Shape{Teams: 40, Iterations: 26, Items: 5000, Needs: 6000})).URL + "/api/v1/programs/1"
}

func BenchmarkSnapshot5000(b *testing.B) {
	url := benchmarkServer(b)
	for b.Loop() {
		call(b, http.MethodGet, url, "")
	}
}

func BenchmarkChange5000(b *testing.B) {
	url := benchmarkServer(b)
	revision := 0
	var times []time.Duration
	for b.Loop() {
		begin := time.Now()
		got := call(b, http.MethodPost, url+"/changes", edit("a", revision, fmt.Sprintf(set, "I2500", "size", fmt.Sprint(1+revision%8))))
		times = append(times, time.Since(begin))
		require.Equal(b, http.StatusOK, got.status, got.text)
		revision++
	}
	reportPercentile(b, times)
}

func decode(text string, into any) error { return json.Unmarshal([]byte(text), into) }
