package backlog_test

import (
	"encoding/json"
	"fmt"
	"net/http"
	"net/url"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/program"
	"jantrel/core/roles"
	"jantrel/internal/api/apitest"
)

func TestAListOfTheBacklog(t *testing.T) {
	t.Parallel()
	at := apitest.ServeDemo(t)
	got := apitest.OK(t, http.MethodPost, at+"/backlog", `{"view":{"key":"","name":"","filter":{"conditions":[{"field":"team","is":"is","values":["FW"]},{"field":"state","is":"is","values":["doing"]}]}},"words":"guy"}`)
	assert.Equal(t, []string{"FW-2"}, got.Rows())
	assert.Equal(t, "team is Field Works, and state is doing", got.Body["sentence"])
	bad := apitest.Call(t, http.MethodPost, at+"/backlog", `{"view":{"key":"","name":"","filter":{"conditions":[{"field":"colour","is":"is"}]}}}`)
	assert.Equal(t, 422, bad.Status)
	assert.Contains(t, bad.Text, `there is no field \"colour\"`)

	const changed = `{"view":{"key":"","name":"","filter":{"conditions":[{"field":"changed","is":"since","values":["yesterday"]}]}}}`
	assert.Empty(t, apitest.OK(t, http.MethodPost, at+"/backlog", changed).Rows())
	apitest.OK(t, http.MethodPost, at+"/changes", apitest.Edit("a", 0, fmt.Sprintf(apitest.Set, "LC-8", "size", "2")))
	assert.Equal(t, []string{"LC-8"}, apitest.OK(t, http.MethodPost, at+"/backlog", changed).Rows(), "as the journal has it")
	history := apitest.OK(t, http.MethodGet, at+"/history?item=LC-8", "")
	assert.Contains(t, history.Text, `"before":5`)
	assert.Equal(t, "[]", strings.TrimSpace(apitest.OK(t, http.MethodGet, at+"/history?item=LC-7", "").Text))
	assert.Contains(t, apitest.OK(t, http.MethodGet, strings.TrimSuffix(at, "/programs/1")+"/backlog-vocabulary", "").Text, "Changed since yesterday")
}

func TestEditsOfTheBacklog(t *testing.T) {
	t.Parallel()
	at := apitest.ServeDemo(t)
	revision := 0
	do := func(intent, body string) apitest.Answer {
		t.Helper()
		got := apitest.Mean(t, at, intent, revision, "", body)
		require.Equal(t, http.StatusOK, got.Status, got.Text)
		if got.Body["update"] != nil {
			revision++
		}
		return got
	}
	assert.Equal(t, "Size, Team of 2 items", do("enter", `{"keys":["LC-8","LC-7"],"fields":["size","team"],"cells":[["3","Lamp Control"],["2","TW"]]}`).Body["label"])
	assert.Contains(t, do("enter", `{"keys":["LC-8","LC-7"],"fields":["release"],"cells":[["Full Chain"]]}`).Text, `"undo":"Release of 2 items"`)
	assert.Equal(t, 0.0, do("enter", `{"keys":["LC-8"],"fields":["release"],"cells":[["R2"]]}`).Body["changes"])
	added := do("add-outline", `{"text":"- Fog bell (3)\n- Fog horn (5, KC)","under":{"after":"LC-8","team":"LC"}}`)
	assert.Equal(t, []any{"LC-28", "KC-24"}, added.Body["keys"])
	do("rank", `{"keys":["LC-28"],"to":{"to":"top"}}`)
	assert.Contains(t, apitest.Mean(t, at, "delete", revision, `"dry":true`, `{"keys":["LC-5"]}`).Text, "LC-7 Night profile by season needs LC-5 and will need it no longer")
	do("split", `{"key":"LC-8","parts":[{"title":"a","size":1,"needs":true,"wanted":false},{"title":"b","size":2,"needs":true,"wanted":true}],"chain":true}`)
	do("break-down", `{"key":"LC-28","pattern":"across"}`)
	do("repeat", `{"keys":["watch"],"until":"2027-04-01"}`)
	do("delete", `{"keys":["LC-28"],"below":true}`)
	for _, c := range [][3]string{
		{"enter", `{"keys":["LC-8"],"fields":["size"],"cells":[["big"]]}`, `LC-8: \"big\" is not a size`},
		{"enter", `{"keys":["gone"],"fields":["size"],"cells":[["1"]]}`, "there is no item gone any more"},
		{"enter", `{"keys":["a","b","c"],"fields":["size"],"cells":[[],[]]}`, "2 rows of cells for 3 items"},
		{"enter", `{"keys":["LC-8"],"fields":["readiness"],"cells":[["x"]]}`, "is worked out"},
		{"rank", `{"keys":["LC-8"],"to":{"to":"above","key":"none"}}`, "no item"},
	} {
		got := apitest.Mean(t, at, c[0], revision, "", c[1])
		assert.Equal(t, 422, got.Status, c)
		assert.Contains(t, got.Text, c[2])
	}
	assert.Equal(t, float64(revision), apitest.OK(t, http.MethodGet, at, "").Body["revision"])
	for range revision {
		apitest.OK(t, http.MethodPost, at+"/undo", `{"client":"a"}`)
	}
}

// Two people at one cell: the later is told of both values, and of nothing where both
// mean the same. What somebody ranks goes where it was meant, whatever was added before.
func TestTwoAtOneCell(t *testing.T) {
	t.Parallel()
	at := apitest.ServeDemo(t)
	apitest.OK(t, http.MethodPost, at+"/changes", apitest.Edit("b", 0, fmt.Sprintf(apitest.Set, "LC-8", "title", `"Theirs"`)))
	got := apitest.Mean(t, at, "enter", 0, "", `{"keys":["LC-8"],"fields":["title"],"cells":[["Mine"]]}`)
	assert.Equal(t, http.StatusConflict, got.Status)
	assert.Contains(t, got.Text, `changed the title of LC-8 meanwhile to \"Theirs\"; yours is \"Mine\"`)
	assert.Equal(t, http.StatusOK, apitest.Mean(t, at, "enter", 0, "", `{"keys":["LC-8"],"fields":["title"],"cells":[["Theirs"]]}`).Status)
	got = apitest.Mean(t, at, "delete", 0, "", `{"keys":["LC-8"]}`)
	assert.Equal(t, http.StatusConflict, got.Status)
	assert.Contains(t, got.Text, "changed LC-8 meanwhile, which you remove")
	assert.Equal(t, http.StatusOK, apitest.Mean(t, at, "enter", 1, "", `{"keys":["LC-8"],"fields":["tags"],"cells":[[""]]}`).Status)
}

func TestAnImportIsCheckedAndThenOneStep(t *testing.T) {
	t.Parallel()
	at := apitest.ServeDemo(t)
	sheet := apitest.Call(t, http.MethodPost, at+"/tables", "Key;Title;Team;Estimate\nLC-8;Dim ahead of fog;LC;big\n;Fog bell;LC;3\n", "Content-Type", "application/octet-stream")
	require.Equal(t, 200, sheet.Status, sheet.Text)
	assert.Equal(t, []any{"key", "title", "team", "size"}, sheet.Body["columns"])
	body := func(size string) string {
		return `"columns":["key","title","team","size"],"rows":[["LC-8","Dim ahead of fog","LC","` + size + `"],["","Fog bell","LC","3"]]`
	}
	checked := apitest.OK(t, http.MethodPost, at+"/imports/check", "{"+body("big")+"}")
	assert.Equal(t, []any{"wrong", "new"}, checked.Body["rows"])
	assert.Contains(t, checked.Text, `{"row":0,"column":3,"text":"\"big\" is not a size; write a number"}`)
	refused := apitest.Mean(t, at, "take-in", 0, "", "{"+body("big")+"}")
	assert.Equal(t, 422, refused.Status)
	assert.Equal(t, 0.0, apitest.OK(t, http.MethodGet, at, "").Body["revision"], "nothing was applied")
	done := apitest.Mean(t, at, "take-in", 0, "", `{"name":"more.csv",`+body("2")+"}")
	assert.Equal(t, "Import more.csv", done.Body["undo"])
	apitest.OK(t, http.MethodPost, at+"/undo", `{"client":"a"}`)
	for _, format := range []string{"csv", "xlsx"} {
		file := apitest.OK(t, http.MethodPost, at+"/backlog/file", `{"view":{"key":"","name":""},"format":"`+format+`","all":true}`)
		sheet := apitest.Call(t, http.MethodPost, at+"/tables", file.Text, "Content-Type", "application/octet-stream")
		require.Equal(t, 200, sheet.Status)
		again, err := json.Marshal(map[string]any{"columns": sheet.Body["columns"], "rows": sheet.Body["rows"]})
		require.NoError(t, err)
		counts := apitest.OK(t, http.MethodPost, at+"/imports/check", string(again)).Body["counts"].(map[string]any)
		assert.Len(t, counts, 1, "what was exported comes back unchanged: %v", counts)
	}
	assert.Equal(t, 422, apitest.Call(t, http.MethodPost, at+"/tables", "\x00\x01", "Content-Type", "application/octet-stream").Status)
}

func TestJudgingTheBacklog(t *testing.T) {
	t.Parallel()
	at := apitest.ServeDemo(t)
	fit := apitest.OK(t, http.MethodPost, at+"/fit", `{"view":{"key":"","name":"","filter":{"conditions":[{"field":"release","is":"is","values":["R1"]}]}},"by":"2027-05-21","buffer":0.2}`)
	assert.Len(t, fit.Body["lines"], 2)
	assert.NotEmpty(t, fit.Body["when"].(map[string]any)["dates"])
	assert.NotEmpty(t, fit.Body["simple"].(map[string]any)["teams"])
	assert.Contains(t, apitest.OK(t, http.MethodGet, at+"/starts", "").Text, `"blocker"`)
	for _, scope := range []string{`{"release":"R1"}`, `{"team":"LC","iteration":"LC-i11"}`, `{"items":["FE-1","LC-8"]}`} {
		assert.Len(t, apitest.OK(t, http.MethodPost, at+"/mix", scope).Body["kinds"], 5)
	}
}

func TestCommentsAreSignedByTheServer(t *testing.T) {
	t.Parallel()
	h := apitest.Demo(t)
	at := h.URL + "/api/v1/programs/1"
	h.CallAs(t, h.Client(t, h.Begin(t, "bo", "Bo", roles.Member)))
	const add = `{"op":"add","kind":"comment","in":"LC-8","key":"new","value":{"key":"new","item":"LC-8","by":"Somebody else","at":"1999-01-01T00:00:00Z","text":"Yes"}}`
	got := apitest.OK(t, http.MethodPost, at+"/changes", apitest.Edit("a", 0, add))
	assert.Contains(t, got.Text, `"by":"Bo"`)
	assert.NotContains(t, got.Text, "1999")
	const take = `{"op":"remove","kind":"comment","in":"LC-5","key":"c1"}`
	assert.Equal(t, 403, apitest.Call(t, http.MethodPost, at+"/changes", apitest.Edit("a", 1, take)).Status, "what another said stays")
	apitest.OK(t, http.MethodPost, at+"/changes", apitest.Edit("a", 1, strings.ReplaceAll(strings.ReplaceAll(take, "LC-5", "LC-8"), "c1", "new")))
}

func TestFilesOfItems(t *testing.T) {
	t.Parallel()
	h := apitest.Demo(t)
	at := h.URL + "/api/v1/programs/1"
	h.CallAs(t, h.Client(t, h.Begin(t, "ann", "Ann", roles.Manager)))
	post := func(name, content string) apitest.Answer {
		return apitest.Call(t, http.MethodPost, at+"/attachments?item=LC-8&name="+url.QueryEscape(name), content, "Content-Type", "application/octet-stream")
	}
	added := post(`..\up/Fog "plan".svg`, "<svg onload=alert(1)>")
	require.Equal(t, 201, added.Status, added.Text)
	assert.Equal(t, `Fog "plan".svg`, added.Body["name"])
	id := added.Body["id"].(float64)
	got := apitest.OK(t, http.MethodGet, fmt.Sprintf("%s/attachments/%v", at, id), "")
	assert.Equal(t, "<svg onload=alert(1)>", got.Text)
	assert.Equal(t, "application/octet-stream", got.Header.Get("Content-Type"), "saved, never shown")
	assert.Contains(t, got.Header.Get("Content-Disposition"), "attachment")
	assert.Equal(t, 400, post("empty", "").Status)
	assert.Equal(t, 413, post("large", strings.Repeat("x", 10<<20+1)).Status)
	assert.Equal(t, 404, apitest.Call(t, http.MethodPost, at+"/attachments?item=none&name=a", "x", "Content-Type", "application/octet-stream").Status)

	h.CallAs(t, h.Client(t, h.Begin(t, "vi", "Vi", roles.Viewer)))
	assert.Contains(t, apitest.OK(t, http.MethodGet, at+"/attachments?item=LC-8", "").Text, "plan")
	assert.Equal(t, 403, post("mine", "x").Status)
	assert.Equal(t, 403, apitest.Call(t, http.MethodDelete, fmt.Sprintf("%s/attachments/%v", at, id), "").Status)
	h.CallAs(t, h.Client(t, h.Begin(t, "ed", "Ed", roles.Manager)))
	apitest.OK(t, http.MethodDelete, fmt.Sprintf("%s/attachments/%v", at, id), "")
	assert.Equal(t, 404, apitest.Call(t, http.MethodGet, fmt.Sprintf("%s/attachments/%v", at, id), "").Status)
}

func TestPrivateViewsAreOnesOwn(t *testing.T) {
	t.Parallel()
	h := apitest.New(t, program.Program{Name: "X"}.Normal())
	at := h.URL + "/api/v1/programs/1/private-views"
	h.CallAs(t, h.Client(t, h.Begin(t, "ann", "Ann", roles.Viewer)))
	const view = `[{"key":"v","name":"Mine","group":"team"}]`
	apitest.OK(t, http.MethodPut, at, view)
	assert.JSONEq(t, `[{"key":"v","name":"Mine","group":"team"}]`, apitest.OK(t, http.MethodGet, at, "").Text)
	assert.Equal(t, 422, apitest.Call(t, http.MethodPut, at, `[{"key":"v","name":"Bad","sort":"colour"}]`).Status)
	h.CallAs(t, h.Client(t, h.Begin(t, "bo", "Bo", roles.Manager)))
	assert.JSONEq(t, `[]`, apitest.OK(t, http.MethodGet, at, "").Text)
}
