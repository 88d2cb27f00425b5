package report_test

import (
	"encoding/json"
	"fmt"
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/roles"
	"jantrel/internal/api/apitest"
)

const aPage = `{"name":"Weekly","cards":[{"key":"1","kind":"text","wide":4,"high":2,"text":"Hello"}]%s}`

// A page is its owner's until it is shared: to look at or to change, with all or with some.
func TestPagesOfCharts(t *testing.T) {
	t.Parallel()
	url, enter := apitest.Demo(t).Crew(t)
	lead, other, viewer := enter("lead", roles.Lead, "p01"), enter("other", roles.Member, "p13"), enter("viewer", roles.Viewer, "")
	made := apitest.As(t, viewer, http.MethodPost, url+"/pages", fmt.Sprintf(aPage, ""))
	require.Equal(t, http.StatusCreated, made.Status, made.Text)
	assert.Equal(t, "Hello", made.Body["cards"].([]any)[0].(map[string]any)["text"])
	made = apitest.As(t, lead, http.MethodPost, url+"/pages", fmt.Sprintf(aPage, ""))
	page := fmt.Sprintf("%s/pages/%v", url, made.Body["id"])
	listed := apitest.As(t, other, http.MethodGet, url+"/pages", "")
	assert.Empty(t, listed.Body["pages"])
	assert.Len(t, listed.Body["ready"], 4)
	var me float64
	for _, p := range apitest.As(t, lead, http.MethodGet, url+"/pages", "").Body["people"].([]any) {
		if p := p.(map[string]any); p["name"] == "other" {
			me = p["account"].(float64)
		}
	}
	require.NotZero(t, me)
	change := func(who *http.Client, version int, more string) apitest.Answer {
		return apitest.As(t, who, http.MethodPut, page, fmt.Sprintf(aPage, fmt.Sprintf(`,"version":%d%s`, version, more)))
	}
	for _, step := range []struct {
		share                string
		otherSees, otherMay  bool
		viewerSees, shareAll bool
	}{
		{`,"shared":""`, false, false, false, false},
		{`,"shared":"read"`, true, false, true, true},
		{fmt.Sprintf(`,"shared":"edit","people":[%v]`, me), true, true, false, false},
		{`,"shared":"edit"`, true, true, true, true},
	} {
		version := int(apitest.As(t, lead, http.MethodGet, page, "").Body["version"].(float64))
		require.Equal(t, http.StatusOK, change(lead, version, step.share).Status, step.share)
		version++
		assert.Equal(t, step.otherSees, apitest.As(t, other, http.MethodGet, page, "").Status == http.StatusOK, step.share)
		assert.Equal(t, step.viewerSees, apitest.As(t, viewer, http.MethodGet, page, "").Status == http.StatusOK, step.share)
		changed := change(other, version, `,"shared":"read"`)
		assert.Equal(t, step.otherMay, changed.Status == http.StatusOK, step.share+changed.Text)
		if step.otherMay {
			assert.Equal(t, "edit", changed.Body["shared"], "whom it is shared with is for its owner to say")
			stale := change(lead, version, step.share)
			assert.Equal(t, http.StatusConflict, stale.Status)
			assert.Contains(t, stale.Text, "somebody else changed this page")
		}
		if step.otherSees {
			assert.Equal(t, http.StatusForbidden, apitest.As(t, other, http.MethodDelete, page, "").Status)
		}
	}
	assert.Less(t, apitest.As(t, lead, http.MethodDelete, page, "").Status, 300)
	assert.Equal(t, http.StatusNotFound, apitest.As(t, lead, http.MethodGet, page, "").Status)
	bad := apitest.As(t, lead, http.MethodPost, url+"/pages", `{"name":"P","cards":[{"key":"1","kind":"odds","wide":4,"high":2}]}`)
	assert.Equal(t, http.StatusUnprocessableEntity, bad.Status)
	assert.Contains(t, bad.Text, "Nothing was kept: card 1: say what it is about")
}

// Charts of a page are answered together, each by itself, for now and for the past; and lead to what they count.
func TestChartsAndWhatIsBehindThem(t *testing.T) {
	t.Parallel()
	url := apitest.ServeDemo(t)
	ask := `{"charts":[{"of":"items","split":["state"],"measure":"number","form":"stacked"},{"of":"items","measure":"size","form":"bars"},{"of":"items","measure":"number","form":"lines","back":7}]}`
	found := apitest.OK(t, http.MethodPost, url+"/charts", ask)
	charts := found.Body["charts"].([]any)
	first := charts[0].(map[string]any)
	table := first["table"].(map[string]any)
	assert.Contains(t, first["sentence"], "items. State: ")
	assert.Equal(t, "Sizes of different teams are never added up: choose one team, or a share.", charts[1].(map[string]any)["failed"])
	assert.Len(t, charts[2].(map[string]any)["series"].(map[string]any)["days"], 1, "the journal begins today")
	seen := 0.0
	for i, row := range table["rows"].([]any) {
		key := row.(map[string]any)["key"].(string)
		behind := apitest.OK(t, http.MethodPost, url+"/charts/behind", `{"chart":{"of":"items","split":["state"],"measure":"number","form":"stacked"},"row":"`+key+`"}`)
		assert.Equal(t, table["totals"].([]any)[i], behind.Body["count"])
		seen += behind.Body["count"].(float64)
	}
	assert.Equal(t, table["count"], seen)
	before := apitest.OK(t, http.MethodPost, url+"/charts/behind", `{"chart":{"of":"items","filter":{"conditions":[{"field":"state","is":"is","values":["done"]}]},"measure":"number","form":"figure"}}`)
	apitest.OK(t, http.MethodPost, url+"/changes", apitest.Edit("a", 0, fmt.Sprintf(apitest.Set, "LC-8", "state", `"done"`)))
	after := apitest.OK(t, http.MethodPost, url+"/charts/behind", `{"chart":{"of":"items","filter":{"conditions":[{"field":"state","is":"is","values":["done"]}]},"measure":"number","form":"figure"}}`)
	assert.Equal(t, before.Body["count"].(float64)+1, after.Body["count"])
	assert.Contains(t, after.Text, `"LC-8"`)
	then := apitest.OK(t, http.MethodPost, url+"/charts?at=0", ask)
	assert.Equal(t, first["table"], then.Body["charts"].([]any)[0].(map[string]any)["table"])
	assert.Equal(t, http.StatusUnprocessableEntity, apitest.Call(t, http.MethodPost, url+"/charts", `{"charts":[]}`).Status)
	assert.Equal(t, http.StatusUnprocessableEntity, apitest.Call(t, http.MethodPost, url+"/charts", `{"charts":[`+strings.Repeat(`{"of":"items","measure":"number","form":"figure"},`, 40)+`{"of":"items","measure":"number","form":"figure"}]}`).Status)
	assert.Equal(t, http.StatusNotFound, apitest.Call(t, http.MethodPost, url+"/charts/behind", `{"chart":{"of":"items","measure":"number","form":"lines","back":9},"day":"1999-01-01"}`).Status)
	assert.Equal(t, http.StatusUnprocessableEntity, apitest.Call(t, http.MethodPost, url+"/charts/behind", `{"chart":{"of":"boats","measure":"number","form":"lines"}}`).Status)
}

// Every page that comes with Jantrel can be kept as it is.
func TestReadyPagesCanBeKept(t *testing.T) {
	t.Parallel()
	url := apitest.ServeDemo(t)
	for _, ready := range apitest.OK(t, http.MethodGet, url+"/pages", "").Body["ready"].([]any) {
		page := ready.(map[string]any)
		body, err := json.Marshal(map[string]any{"name": page["name"], "note": page["note"], "cards": page["cards"]})
		require.NoError(t, err)
		apitest.OK(t, http.MethodPost, url+"/pages", string(body))
	}
}

// The journal as a file has each change once, the oldest first, also across the pages that it is read in.
func TestTheJournalAsAFile(t *testing.T) {
	t.Parallel()
	url := apitest.ServeDemo(t)
	for i := range 203 {
		apitest.OK(t, http.MethodPost, url+"/changes", apitest.Edit("a", i, fmt.Sprintf(apitest.Set, "LC-8", "size", fmt.Sprint(1+i%9))))
	}
	rows := strings.Split(strings.TrimSpace(apitest.OK(t, http.MethodGet, url+"/reports/journal", "").Text), "\n")
	require.Len(t, rows, 204)
	assert.True(t, strings.HasPrefix(rows[1], "1,"), rows[1])
	assert.True(t, strings.HasPrefix(rows[203], "203,"), rows[203])
	lines := strings.Split(strings.TrimSpace(apitest.OK(t, http.MethodGet, url+"/reports/journal?format=jsonl", "").Text), "\n")
	assert.Len(t, lines, 203)
	assert.Len(t, strings.Split(strings.TrimSpace(apitest.OK(t, http.MethodGet, url+"/reports/journal?from=2127-01-01", "").Text), "\n"), 1)
	assert.Equal(t, http.StatusUnprocessableEntity, apitest.Call(t, http.MethodGet, url+"/reports/journal?to=soon", "").Status)
	assert.Equal(t, http.StatusUnprocessableEntity, apitest.Call(t, http.MethodGet, url+"/reports/dates?what=weather", "").Status)
	assert.Contains(t, apitest.OK(t, http.MethodGet, url+"/reports/dates?what=releases&what=milestones", "").Text, "SUMMARY:First Light is due")
}

// A page that somebody shares who has left is taken over by who manages the program, by changing it; others still only
// look.
func TestAPageOfSomebodyWhoLeft(t *testing.T) {
	t.Parallel()
	h := apitest.Demo(t)
	url, enter := h.Crew(t)
	lead, manager, member := enter("lead", roles.Lead, "p01"), enter("manager", roles.Manager, ""), enter("member", roles.Member, "p13")
	made := apitest.As(t, lead, http.MethodPost, url+"/pages", fmt.Sprintf(aPage, `,"shared":"read"`))
	page := fmt.Sprintf("%s/pages/%v", url, made.Body["id"])
	change := fmt.Sprintf(aPage, `,"version":1,"shared":"edit"`)
	assert.Equal(t, http.StatusForbidden, apitest.As(t, manager, http.MethodPut, page, change).Status)
	a, err := h.Accounts.Store().AccountBy(t.Context(), "login", "lead")
	require.NoError(t, err)
	require.NoError(t, h.Accounts.Store().RemoveMembership(t.Context(), a.ID, 1))
	assert.Equal(t, http.StatusForbidden, apitest.As(t, member, http.MethodPut, page, change).Status)
	taken := apitest.As(t, manager, http.MethodPut, page, change)
	require.Equal(t, http.StatusOK, taken.Status, taken.Text)
	assert.Equal(t, "manager", taken.Body["owner"])
	assert.Equal(t, "edit", taken.Body["shared"], "and says whom it is for")
	assert.Equal(t, http.StatusOK, apitest.As(t, member, http.MethodPut, page, fmt.Sprintf(aPage, `,"version":2`)).Status)
	require.Less(t, apitest.As(t, manager, http.MethodDelete, page, "").Status, 300)
}
