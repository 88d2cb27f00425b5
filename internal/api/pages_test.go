package api_test

import (
	"encoding/json"
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

const aPage = `{"name":"Weekly","cards":[{"key":"1","kind":"text","wide":4,"high":2,"text":"Hello"}]%s}`

// A page is its owner's until it is shared: to look at or to change, with all or with some.
func TestPagesOfCharts(t *testing.T) {
	url, enter := crew(t)
	lead, other, viewer := enter("lead", roles.Lead, "p01"), enter("other", roles.Member, "p13"), enter("viewer", roles.Viewer, "")
	made := as(t, viewer, http.MethodPost, url+"/pages", fmt.Sprintf(aPage, ""))
	require.Equal(t, http.StatusCreated, made.status, made.text)
	assert.Equal(t, "Hello", made.body["cards"].([]any)[0].(map[string]any)["text"])
	made = as(t, lead, http.MethodPost, url+"/pages", fmt.Sprintf(aPage, ""))
	page := fmt.Sprintf("%s/pages/%v", url, made.body["id"])
	listed := as(t, other, http.MethodGet, url+"/pages", "")
	assert.Empty(t, listed.body["pages"])
	assert.Len(t, listed.body["ready"], 4)
	var me float64
	for _, p := range as(t, lead, http.MethodGet, url+"/pages", "").body["people"].([]any) {
		if p := p.(map[string]any); p["name"] == "other" {
			me = p["account"].(float64)
		}
	}
	require.NotZero(t, me)
	change := func(who *http.Client, version int, more string) answer {
		return as(t, who, http.MethodPut, page, fmt.Sprintf(aPage, fmt.Sprintf(`,"version":%d%s`, version, more)))
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
		version := int(as(t, lead, http.MethodGet, page, "").body["version"].(float64))
		require.Equal(t, http.StatusOK, change(lead, version, step.share).status, step.share)
		version++
		assert.Equal(t, step.otherSees, as(t, other, http.MethodGet, page, "").status == http.StatusOK, step.share)
		assert.Equal(t, step.viewerSees, as(t, viewer, http.MethodGet, page, "").status == http.StatusOK, step.share)
		changed := change(other, version, `,"shared":"read"`)
		assert.Equal(t, step.otherMay, changed.status == http.StatusOK, step.share+changed.text)
		if step.otherMay {
			assert.Equal(t, "edit", changed.body["shared"], "whom it is shared with is for its owner to say")
			stale := change(lead, version, step.share)
			assert.Equal(t, http.StatusConflict, stale.status)
			assert.Contains(t, stale.text, "somebody else changed this page")
		}
		if step.otherSees {
			assert.Equal(t, http.StatusForbidden, as(t, other, http.MethodDelete, page, "").status)
		}
	}
	assert.Less(t, as(t, lead, http.MethodDelete, page, "").status, 300)
	assert.Equal(t, http.StatusNotFound, as(t, lead, http.MethodGet, page, "").status)
	bad := as(t, lead, http.MethodPost, url+"/pages", `{"name":"P","cards":[{"key":"1","kind":"odds","wide":4,"high":2}]}`)
	assert.Equal(t, http.StatusUnprocessableEntity, bad.status)
	assert.Contains(t, bad.text, "Nothing was kept: card 1: say what it is about")
}

// Charts of a page are answered together, each by itself, for now and for the past; and lead to what they count.
func TestChartsAndWhatIsBehindThem(t *testing.T) {
	url := serve(t, demo.Program(sample.Today)).URL + "/api/v1/programs/1"
	ask := `{"charts":[{"of":"items","split":["state"],"measure":"number","form":"stacked"},{"of":"items","measure":"size","form":"bars"},{"of":"items","measure":"number","form":"lines","back":7}]}`
	found := ok(t, http.MethodPost, url+"/charts", ask)
	charts := found.body["charts"].([]any)
	first := charts[0].(map[string]any)
	table := first["table"].(map[string]any)
	assert.Contains(t, first["sentence"], "items. State: ")
	assert.Equal(t, "Sizes of different teams are never added up: choose one team, or a share.", charts[1].(map[string]any)["failed"])
	assert.Len(t, charts[2].(map[string]any)["series"].(map[string]any)["days"], 1, "the journal begins today")
	seen := 0.0
	for i, row := range table["rows"].([]any) {
		key := row.(map[string]any)["key"].(string)
		behind := ok(t, http.MethodPost, url+"/charts/behind", `{"chart":{"of":"items","split":["state"],"measure":"number","form":"stacked"},"row":"`+key+`"}`)
		assert.Equal(t, table["totals"].([]any)[i], behind.body["count"])
		seen += behind.body["count"].(float64)
	}
	assert.Equal(t, table["count"], seen)
	before := ok(t, http.MethodPost, url+"/charts/behind", `{"chart":{"of":"items","filter":{"conditions":[{"field":"state","is":"is","values":["done"]}]},"measure":"number","form":"figure"}}`)
	ok(t, http.MethodPost, url+"/changes", edit("a", 0, fmt.Sprintf(set, "LC-8", "state", `"done"`)))
	after := ok(t, http.MethodPost, url+"/charts/behind", `{"chart":{"of":"items","filter":{"conditions":[{"field":"state","is":"is","values":["done"]}]},"measure":"number","form":"figure"}}`)
	assert.Equal(t, before.body["count"].(float64)+1, after.body["count"])
	assert.Contains(t, after.text, `"LC-8"`)
	then := ok(t, http.MethodPost, url+"/charts?at=0", ask)
	assert.Equal(t, first["table"], then.body["charts"].([]any)[0].(map[string]any)["table"])
	assert.Equal(t, http.StatusUnprocessableEntity, call(t, http.MethodPost, url+"/charts", `{"charts":[]}`).status)
	assert.Equal(t, http.StatusUnprocessableEntity, call(t, http.MethodPost, url+"/charts", `{"charts":[`+strings.Repeat(`{"of":"items","measure":"number","form":"figure"},`, 40)+`{"of":"items","measure":"number","form":"figure"}]}`).status)
	assert.Equal(t, http.StatusNotFound, call(t, http.MethodPost, url+"/charts/behind", `{"chart":{"of":"items","measure":"number","form":"lines","back":9},"day":"1999-01-01"}`).status)
	assert.Equal(t, http.StatusUnprocessableEntity, call(t, http.MethodPost, url+"/charts/behind", `{"chart":{"of":"boats","measure":"number","form":"lines"}}`).status)
}

// Every page that comes with Jantrel can be kept as it is.
func TestReadyPagesCanBeKept(t *testing.T) {
	url := serve(t, demo.Program(sample.Today)).URL + "/api/v1/programs/1"
	for _, ready := range ok(t, http.MethodGet, url+"/pages", "").body["ready"].([]any) {
		page := ready.(map[string]any)
		body, err := json.Marshal(map[string]any{"name": page["name"], "note": page["note"], "cards": page["cards"]})
		require.NoError(t, err)
		ok(t, http.MethodPost, url+"/pages", string(body))
	}
}

// The journal as a file has each change once, the oldest first, also across the pages that it is read in.
func TestTheJournalAsAFile(t *testing.T) {
	url := serve(t, demo.Program(sample.Today)).URL + "/api/v1/programs/1"
	for i := range 203 {
		ok(t, http.MethodPost, url+"/changes", edit("a", i, fmt.Sprintf(set, "LC-8", "size", fmt.Sprint(1+i%9))))
	}
	rows := strings.Split(strings.TrimSpace(ok(t, http.MethodGet, url+"/reports/journal", "").text), "\n")
	require.Len(t, rows, 204)
	assert.True(t, strings.HasPrefix(rows[1], "1,"), rows[1])
	assert.True(t, strings.HasPrefix(rows[203], "203,"), rows[203])
	lines := strings.Split(strings.TrimSpace(ok(t, http.MethodGet, url+"/reports/journal?format=jsonl", "").text), "\n")
	assert.Len(t, lines, 203)
	assert.Len(t, strings.Split(strings.TrimSpace(ok(t, http.MethodGet, url+"/reports/journal?from=2127-01-01", "").text), "\n"), 1)
	assert.Equal(t, http.StatusUnprocessableEntity, call(t, http.MethodGet, url+"/reports/journal?to=soon", "").status)
	assert.Equal(t, http.StatusUnprocessableEntity, call(t, http.MethodGet, url+"/reports/dates?what=weather", "").status)
	assert.Contains(t, ok(t, http.MethodGet, url+"/reports/dates?what=releases&what=milestones", "").text, "SUMMARY:First Light is due")
}
