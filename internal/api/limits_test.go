package api_test

import (
	"fmt"
	"net/http"
	"runtime"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/roles"
	"jantrel/internal/api/apitest"
)

// Requests made to exhaust the server are refused before much is made of them, and their
// faults are told in few words.
func TestRequestsMadeToExhaust(t *testing.T) {
	t.Parallel()
	apitest.Computes(t)
	h := apitest.Demo(t)
	ann := h.Client(t, h.Begin(t, "ann", "Ann", ""))
	before := h.Stored(t)
	url := h.URL + "/api/v1/programs/1"
	many := func(n int, what string) string { return strings.Repeat(what+",", n) + what }
	for name, c := range map[string]struct {
		method, path, body string
		status             int
		says               string
	}{
		"changes without end":      {http.MethodPost, "/changes", apitest.Edit("a", 0, many(2_600_000, "{}")), http.StatusUnprocessableEntity, "a list has 50,000 entries at most"},
		"as many as may be":        {http.MethodPost, "/changes", apitest.Edit("a", 0, many(49_990, "{}")), http.StatusUnprocessableEntity, "more\""},
		"cells that are no text":   {http.MethodPost, "/do/take-in", `{"client":"a","revision":0,"intent":{"columns":["key"],"rows":[` + many(40_000, "["+many(30, "1")+"]") + `]}}`, http.StatusUnprocessableEntity, "more\""},
		"more cells than may be":   {http.MethodPost, "/do/take-in", `{"client":"a","revision":0,"intent":{"columns":["key"],"rows":[` + many(49_000, "["+many(60, `""`)+"]") + `]}}`, http.StatusUnprocessableEntity, "more than 1,500,000 values"},
		"lists within lists":       {http.MethodPost, "/backlog", strings.Repeat("[", 900_000), http.StatusUnprocessableEntity, "within one another"},
		"an object of many names":  {http.MethodPost, "/undo", "{" + many(100_000, `"a":1`) + "}", http.StatusUnprocessableEntity, "200 names at most"},
		"a list in a small body":   {http.MethodPut, "/private-views", "[" + many(300_000, "{}") + "]", http.StatusUnprocessableEntity, "50,000 entries"},
		"more than a body may be":  {http.MethodPost, "/undo", `{"client":"` + strings.Repeat("x", 2<<20) + `"}`, http.StatusRequestEntityTooLarge, "larger than"},
		"a document with no limit": {http.MethodPost, "/../import", `{"items":[` + many(10_000_000, "{}") + "]}", http.StatusUnprocessableEntity, "200,000 entries at most"},
	} {
		path := url + c.path
		if strings.HasPrefix(c.path, "/../") {
			path = h.URL + "/api/v1/programs" + c.path[3:]
		}
		var start, end runtime.MemStats
		runtime.ReadMemStats(&start)
		got := apitest.As(t, ann, c.method, path, c.body)
		runtime.ReadMemStats(&end)
		assert.Equal(t, c.status, got.Status, "%s: %.300s", name, got.Text)
		assert.Contains(t, got.Text, c.says, name)
		assert.Less(t, len(got.Text), 40_000, name)
		assert.Less(t, (end.TotalAlloc-start.TotalAlloc)>>20, uint64(700), "MB allocated in all for %s", name)
	}
	assert.Equal(t, before, h.Stored(t))
}

// Who may not do a thing is refused before the server reads what they send.
func TestRightsComeBeforeReading(t *testing.T) {
	t.Parallel()
	h := apitest.Demo(t)
	viewer := h.Client(t, h.Begin(t, "vi", "Vi", roles.Viewer))
	stranger := h.Begin(t, "bo", "Bo", roles.Viewer)
	require.NoError(t, h.Accounts.Store().RemoveMembership(t.Context(), stranger.Account.ID, 1))
	bo := h.Client(t, stranger)
	for _, c := range []struct{ method, path, kind string }{
		{http.MethodPost, "/changes", "application/json"}, {http.MethodPost, "/do/take-in", "application/json"}, {http.MethodPost, "/do/enter", "application/json"},
		{http.MethodPost, "/tables", "application/octet-stream"}, {http.MethodPost, "/imports/check", "application/json"}, {http.MethodPost, "/attachments?item=LC-8&name=x", "application/octet-stream"},
		{http.MethodPost, "/import", "application/json"}, {http.MethodPost, "", "application/json"},
	} {
		for who, client := range map[string]*http.Client{"viewer": viewer, "stranger": bo} {
			base := h.URL + "/api/v1/programs/1"
			want := map[string]int{"viewer": http.StatusForbidden, "stranger": http.StatusNotFound}[who]
			if c.path == "/import" || c.path == "" {
				base, want = h.URL+"/api/v1/programs", http.StatusForbidden
			}
			got := apitest.As(t, client, c.method, base+c.path, "{ this is no JSON", "Content-Type", c.kind)
			assert.Equal(t, want, got.Status, "%s %s as %s: %s", c.method, c.path, who, got.Text)
		}
	}
	for path, body := range map[string]string{"/backlog": `{"view":{"key":"","name":""}}`, "/draft": `{"aim":"dates"}`, "/mix": "{}", "/tokens": fmt.Sprintf(`{"name":"x","role":"viewer","expires":%q}`, "2027-04-01")} {
		got := apitest.As(t, viewer, http.MethodPost, h.URL+"/api/v1/programs/1"+path, body)
		assert.Less(t, got.Status, 300, "viewers may ask: %s: %s", path, got.Text)
	}
}
