package api_test

import (
	"fmt"
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/roles"
	"jantrel/core/sample"
	"jantrel/internal/demo"
)

// Who changes what has begun is asked why where the program asks; the reason stands in the journal and
// in the series, from then on, and is its author's to say.
func TestTheReasonForAChangeOfScope(t *testing.T) {
	p := demo.Program(sample.Today)
	p.Settings.AskWhy = true
	h := newHarbour(t, p)
	mia := h.client(t, h.begin(t, "mia", "Mia", roles.Manager))
	url := h.URL + "/api/v1/programs/1"
	change := func(key, field, value string) answer {
		got := as(t, mia, http.MethodPost, url+"/changes", edit("a", int(revision(t, h)), fmt.Sprintf(set, key, field, value)))
		require.Equal(t, http.StatusOK, got.status, got.text)
		return got
	}
	assert.Equal(t, []any{"LC-6"}, change("LC-6", "size", "5").body["update"].(map[string]any)["why"])
	at := revision(t, h)
	assert.NotContains(t, change("LC-6", "title", `"Orders"`).body["update"], "why")
	history := func() string {
		return as(t, mia, http.MethodGet, url+"/scope-history?release=R1&line=LC", "").text
	}
	assert.False(t, strings.Contains(history(), `"why"`))
	say := func(who *http.Client, revision int64, why string) answer {
		return as(t, who, http.MethodPut, fmt.Sprintf("%s/journal/%d/why", url, revision), fmt.Sprintf(`{"why":%q}`, why))
	}
	require.Equal(t, http.StatusNoContent, say(mia, at, " the harbour asked for it ").status)
	for _, path := range []string{"/scope-history?release=R1&line=LC", "/under-way", "/journal", "/iteration-review?team=LC&iteration=LC-i10", "/history?item=LC-6"} {
		assert.True(t, strings.Contains(as(t, mia, http.MethodGet, url+path, "").text, `"why":"the harbour asked for it"`), path)
	}
	assert.Equal(t, at+1, revision(t, h), "it is no edit")

	lead := h.client(t, h.begin(t, "lea", "Lea", roles.Lead))
	assert.Equal(t, http.StatusForbidden, say(lead, at, "mine").status)
	assert.Equal(t, http.StatusNotFound, say(mia, 99, "x").status)
	assert.Equal(t, http.StatusUnprocessableEntity, say(mia, at, strings.Repeat("x", 301)).status)
	require.Equal(t, http.StatusNoContent, say(mia, at, "").status)
	assert.False(t, strings.Contains(history(), `"why"`))
}
