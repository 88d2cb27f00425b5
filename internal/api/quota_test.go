package api_test

import (
	"fmt"
	"net/http"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/roles"
	"jantrel/internal/api"
	"jantrel/internal/api/apitest"
	"jantrel/internal/api/door"
)

// sparing is a server with quotas that are soon used up.
func sparing(t *testing.T, q door.Quotas) *apitest.Harbour {
	return apitest.Demo(t, func(o *api.Options) { o.Quotas = q })
}

// Who sends very much is told when to come again; others go on, and so does reading.
func TestQuotas(t *testing.T) {
	t.Parallel()
	hourly := 1.0 / 3600
	many := 1_000_000
	wide := door.Quotas{Requests: 1e6, RequestsAtOnce: many, Edits: 1e6, EditsAtOnce: many, ProgramEdits: 1e6, ProgramAtOnce: many, EditBytes: 1e9, BytesAtOnce: many}
	for name, c := range map[string]struct {
		quota   func(*door.Quotas)
		edit    string // what else is in an edit
		before  int    // edits that come through
		says    string
		others  bool // another account's edits come through still
		reading bool // so does reading
	}{
		"edits":    {func(q *door.Quotas) { q.Edits, q.EditsAtOnce = hourly, 3 }, "", 3, "many changes as one edit", true, true},
		"bytes":    {func(q *door.Quotas) { q.EditBytes, q.BytesAtOnce = 10, 2000 }, strings.Repeat("x", 900), 1, "very much data", true, true},
		"program":  {func(q *door.Quotas) { q.ProgramEdits, q.ProgramAtOnce = hourly, 4 }, "", 4, "in this program", false, true},
		"requests": {func(q *door.Quotas) { q.Requests, q.RequestsAtOnce = hourly, 5 }, "", 5, "very many requests", true, false},
	} {
		q := wide
		c.quota(&q)
		h := sparing(t, q)
		mia := h.Client(t, h.Begin(t, "mia", "Mia", roles.Manager))
		max := h.Client(t, h.Begin(t, "max", "Max", roles.Manager))
		url := h.URL + "/api/v1/programs/1"
		send := func(who *http.Client, n int) apitest.Answer {
			return apitest.As(t, who, http.MethodPost, url+"/changes", apitest.Edit("a", n, fmt.Sprintf(apitest.Set, "LC-8", "title", fmt.Sprintf(`"%d %s"`, n, c.edit))))
		}
		for i := range c.before {
			got := send(mia, i)
			require.Equal(t, http.StatusOK, got.Status, "%s %d: %s", name, i, got.Text)
		}
		before := h.Stored(t)
		got := send(mia, c.before)
		assert.Equal(t, http.StatusTooManyRequests, got.Status, name)
		assert.Contains(t, got.Text, c.says, name)
		seconds, err := strconv.Atoi(got.Header.Get("Retry-After"))
		assert.NoError(t, err, name)
		assert.Positive(t, seconds, name)
		assert.Contains(t, got.Text, fmt.Sprintf("Try again in %d seconds", seconds))
		assert.Equal(t, before, h.Stored(t))
		assert.Equal(t, c.reading, apitest.As(t, mia, http.MethodGet, url+"/journal", "").Status == http.StatusOK, name)
		assert.Equal(t, c.others, send(max, c.before).Status == http.StatusOK, name)
	}
}

// What a body turns out to hold counts too, where its length was not told.
func TestQuotaOfBodiesWithoutLength(t *testing.T) {
	t.Parallel()
	q := door.Usual(600)
	q.BytesAtOnce, q.EditBytes = 1500, 1
	h := sparing(t, q)
	mia := h.Client(t, h.Begin(t, "mia", "Mia", roles.Manager))
	for i, status := range []int{http.StatusOK, http.StatusTooManyRequests} {
		body := apitest.Edit("a", i, fmt.Sprintf(apitest.Set, "LC-8", "title", fmt.Sprintf(`"%d %s"`, i, strings.Repeat("x", 900))))
		request, err := http.NewRequestWithContext(t.Context(), http.MethodPost, h.URL+"/api/v1/programs/1/changes", struct{ *strings.Reader }{strings.NewReader(body)})
		require.NoError(t, err)
		request.Header.Set("Content-Type", "application/json")
		response, err := mia.Do(request)
		require.NoError(t, err)
		require.NoError(t, response.Body.Close())
		assert.Equal(t, status, response.StatusCode)
	}
}
