package track_test

import (
	"fmt"
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/roles"
	"jantrel/core/sample"
	"jantrel/internal/api/apitest"
	"jantrel/internal/demo"
)

// Who changes what has begun is asked why where the program asks; the reason stands in the journal and
// in the series, from then on, and is its author's to say.
func TestTheReasonForAChangeOfScope(t *testing.T) {
	t.Parallel()
	p := demo.Program(sample.Today)
	p.Settings.AskWhy = true
	h := apitest.New(t, p)
	mia := h.Client(t, h.Begin(t, "mia", "Mia", roles.Manager))
	url := h.URL + "/api/v1/programs/1"
	change := func(key, field, value string) apitest.Answer {
		got := apitest.As(t, mia, http.MethodPost, url+"/changes", apitest.Edit("a", int(h.Revision(t)), fmt.Sprintf(apitest.Set, key, field, value)))
		require.Equal(t, http.StatusOK, got.Status, got.Text)
		return got
	}
	assert.Equal(t, []any{"LC-6"}, change("LC-6", "size", "5").Body["update"].(map[string]any)["why"])
	at := h.Revision(t)
	assert.NotContains(t, change("LC-6", "title", `"Orders"`).Body["update"], "why")
	history := func() string {
		return apitest.As(t, mia, http.MethodGet, url+"/scope-history?release=R1&line=LC", "").Text
	}
	assert.False(t, strings.Contains(history(), `"why"`))
	say := func(who *http.Client, revision int64, why string) apitest.Answer {
		return apitest.As(t, who, http.MethodPut, fmt.Sprintf("%s/journal/%d/why", url, revision), fmt.Sprintf(`{"why":%q}`, why))
	}
	require.Equal(t, http.StatusNoContent, say(mia, at, " the harbour asked for it ").Status)
	for _, path := range []string{"/scope-history?release=R1&line=LC", "/under-way", "/journal", "/iteration-review?team=LC&iteration=LC-i10", "/history?item=LC-6"} {
		assert.True(t, strings.Contains(apitest.As(t, mia, http.MethodGet, url+path, "").Text, `"why":"the harbour asked for it"`), path)
	}
	assert.Equal(t, at+1, h.Revision(t), "it is no edit")

	lead := h.Client(t, h.Begin(t, "lea", "Lea", roles.Lead))
	assert.Equal(t, http.StatusForbidden, say(lead, at, "mine").Status)
	assert.Equal(t, http.StatusNotFound, say(mia, 99, "x").Status)
	assert.Equal(t, http.StatusUnprocessableEntity, say(mia, at, strings.Repeat("x", 301)).Status)
	require.Equal(t, http.StatusNoContent, say(mia, at, "").Status)
	assert.False(t, strings.Contains(history(), `"why"`))
}
