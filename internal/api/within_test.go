package api_test

import (
	"encoding/json"
	"fmt"
	"net/http"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/internal/api/apitest"
	"jantrel/internal/store"
)

// Whatever is asked of a scenario, as an administrator: nothing outside it is touched but by publishing.
func TestFromWithinAScenarioNothingElseIsTouched(t *testing.T) {
	t.Parallel()
	if testing.Short() {
		t.Skip("every operation")
	}
	h := apitest.Demo(t)
	url := h.URL + "/api/v1"
	boss := h.Client(t, h.Begin(t, "root", "Root", ""))
	_, err := h.Accounts.Store().AddAttachment(t.Context(), 1, store.Attachment{Item: "LC-8", Name: "a", Type: "text/plain"}, []byte("x"))
	require.NoError(t, err)
	beside := func() string {
		files, err := h.Accounts.Store().FilesOfGone(t.Context(), 1)
		require.NoError(t, err)
		kept, err := h.Accounts.Store().Attachments(t.Context(), 1, "LC-8")
		require.NoError(t, err)
		text, err := json.Marshal([]any{files, kept})
		require.NoError(t, err)
		return h.Stored(t) + string(text)
	}
	line := int(apitest.As(t, boss, http.MethodPost, url+"/programs/1/scenarios", `{"name":"What if"}`).Body["id"].(float64))
	var described struct {
		Paths map[string]map[string]struct{ OperationID string }
	}
	require.NoError(t, json.Unmarshal([]byte(apitest.As(t, apitest.Nobody, http.MethodGet, url+"/openapi.json", "").Text), &described))
	all, done, refused := attempts(), 0, 0
	before := beside()
	for path, methods := range described.Paths {
		for method, operation := range methods {
			if !strings.HasPrefix(path, "/api/v1/programs/{id}") || method == "get" || operation.OperationID == "do-publish" || strings.Contains(operation.OperationID, "scenario") {
				continue
			}
			for _, row := range all[operation.OperationID] {
				at := strings.Replace(row.path, "?scenario=%d", "", 1)
				if strings.Contains(at, "%d") {
					at = fmt.Sprintf(at, slices.Repeat([]any{1}, strings.Count(at, "%d"))...)
				}
				joint := "?"
				if strings.Contains(at, "?") {
					joint = "&"
				}
				body := strings.Replace(row.body, `"dry":true,`, "", 1)
				got := apitest.As(t, boss, strings.ToUpper(method), url+at+joint+fmt.Sprintf("scenario=%d", line), body)
				require.Equal(t, before, beside(), "%s %s", operation.OperationID, got.Text)
				if got.Status < 300 {
					done++
				}
				if strings.Contains(got.Text, "belongs to the program as a whole") {
					refused++
				}
			}
		}
	}
	assert.Greater(t, done, 40, "they were done in the scenario")
	assert.Greater(t, refused, 8, "or refused as they are of the program")
}
