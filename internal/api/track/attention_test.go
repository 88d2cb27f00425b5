package track_test

import (
	"encoding/json"
	"fmt"
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/attention"
	"jantrel/core/health"
	"jantrel/core/program"
	"jantrel/core/standing"
	"jantrel/internal/api/apitest"
)

// What needs somebody says the same as the standing strip where both count; dealt with, it is gone; put
// off, it comes last until its day.
func TestWhatNeedsSomebody(t *testing.T) {
	t.Parallel()
	url := apitest.ServeDemo(t)
	list := func() (entries []attention.Entry) {
		var read struct{ Entries []attention.Entry }
		require.NoError(t, json.Unmarshal([]byte(apitest.OK(t, http.MethodGet, url+"/attention", "").Text), &read))
		return read.Entries
	}
	var whole struct{ Facts standing.Facts }
	require.NoError(t, json.Unmarshal([]byte(apitest.OK(t, http.MethodGet, url, "").Text), &whole))
	count := map[program.Call]int{}
	var unowned attention.Entry
	for _, e := range list() {
		count[e.Kind]++
		if e.Kind == program.CallUnowned && unowned.ID == "" {
			unowned = e
		}
	}
	assert.Len(t, whole.Facts.Counts.Broken, count[program.CallBroken])
	assert.Len(t, whole.Facts.Counts.Over, count[program.CallOver])
	require.NotEmpty(t, unowned.ID)
	var stand struct {
		Teams    []health.Team
		Releases []health.Release
	}
	require.NoError(t, json.Unmarshal([]byte(apitest.OK(t, http.MethodGet, url+"/health", "").Text), &stand))
	require.Len(t, stand.Teams, 6)
	for _, team := range stand.Teams {
		of := map[program.Call]int{}
		for _, e := range list() {
			if e.Team == team.Team || e.Another == team.Team {
				of[e.Kind]++
			}
		}
		for _, c := range team.Calls {
			assert.Equal(t, of[c.Kind], c.Count, "%s %s", team.Team, c.Kind)
			delete(of, c.Kind)
		}
		assert.Empty(t, of, team.Team)
	}
	for _, r := range stand.Releases {
		costs := 0
		for _, e := range list() {
			if e.Release == r.Release {
				costs++
			}
		}
		assert.Equal(t, costs, r.Calls, r.Release)
	}
	assert.Equal(t, program.CallBroken, list()[0].Kind, "what comes eleven days too late")

	apitest.OK(t, http.MethodPost, url+"/changes", apitest.Edit("a", 0, fmt.Sprintf(`{"op":"add","kind":"snooze","key":%q,"value":{"key":%q,"until":"2027-03-09","why":"on leave"}}`, unowned.ID, unowned.ID)))
	last := list()[len(list())-1]
	assert.Equal(t, unowned.ID, last.ID)
	assert.Equal(t, "on leave", last.Off.Why)
	apitest.OK(t, http.MethodPost, url+"/changes", apitest.Edit("a", 1, fmt.Sprintf(`{"op":"set","kind":"item","key":%q,"field":"assignee","value":"p05"}`, unowned.Item)))
	for _, e := range list() {
		assert.NotEqual(t, unowned.ID, e.ID)
	}
	bad := apitest.Call(t, http.MethodPost, url+"/changes", apitest.Edit("a", 2, `{"op":"set","kind":"program","field":"attention","value":{"off":["everything"]}}`))
	assert.Equal(t, http.StatusUnprocessableEntity, bad.Status)
	assert.Contains(t, bad.Text, "none of overdue, blocked")
}
