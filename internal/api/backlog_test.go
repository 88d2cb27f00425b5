package api_test

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
	"jantrel/core/sample"
	"jantrel/internal/demo"
)

func ok(t *testing.T, method, url, body string) answer {
	t.Helper()
	got := call(t, method, url, body)
	require.Less(t, got.status, 300, got.text)
	return got
}

func rowsOf(a answer) []string {
	var keys []string
	for _, key := range a.body["rows"].([]any) {
		keys = append(keys, key.(string))
	}
	return keys
}

func TestAListOfTheBacklog(t *testing.T) {
	at := serve(t, demo.Program(sample.Today)).URL + "/api/v1/programs/1"
	got := ok(t, http.MethodPost, at+"/backlog", `{"view":{"key":"","name":"","filter":{"conditions":[{"field":"team","is":"is","values":["FW"]},{"field":"state","is":"is","values":["doing"]}]}},"words":"guy"}`)
	assert.Equal(t, []string{"FW-2"}, rowsOf(got))
	assert.Equal(t, "team is Field Works, and state is doing", got.body["sentence"])
	bad := call(t, http.MethodPost, at+"/backlog", `{"view":{"key":"","name":"","filter":{"conditions":[{"field":"colour","is":"is"}]}}}`)
	assert.Equal(t, 422, bad.status)
	assert.Contains(t, bad.text, `there is no field \"colour\"`)

	const changed = `{"view":{"key":"","name":"","filter":{"conditions":[{"field":"changed","is":"since","values":["yesterday"]}]}}}`
	assert.Empty(t, rowsOf(ok(t, http.MethodPost, at+"/backlog", changed)))
	ok(t, http.MethodPost, at+"/changes", edit("a", 0, fmt.Sprintf(set, "LC-8", "size", "2")))
	assert.Equal(t, []string{"LC-8"}, rowsOf(ok(t, http.MethodPost, at+"/backlog", changed)), "as the journal has it")
	history := ok(t, http.MethodGet, at+"/history?item=LC-8", "")
	assert.Contains(t, history.text, `"before":5`)
	assert.Equal(t, "[]", strings.TrimSpace(ok(t, http.MethodGet, at+"/history?item=LC-7", "").text))
	assert.Contains(t, ok(t, http.MethodGet, strings.TrimSuffix(at, "/programs/1")+"/backlog-vocabulary", "").text, "Changed since yesterday")
}

func TestEditsOfTheBacklog(t *testing.T) {
	at := serve(t, demo.Program(sample.Today)).URL + "/api/v1/programs/1"
	revision := 0
	do := func(intent, body string) answer {
		t.Helper()
		got := mean(t, at, intent, revision, "", body)
		require.Equal(t, http.StatusOK, got.status, got.text)
		if got.body["update"] != nil {
			revision++
		}
		return got
	}
	assert.Equal(t, "Size, Team of 2 items", do("enter", `{"keys":["LC-8","LC-7"],"fields":["size","team"],"cells":[["3","Lamp Control"],["2","TW"]]}`).body["label"])
	assert.Contains(t, do("enter", `{"keys":["LC-8","LC-7"],"fields":["release"],"cells":[["Full Chain"]]}`).text, `"undo":"Release of 2 items"`)
	assert.Equal(t, 0.0, do("enter", `{"keys":["LC-8"],"fields":["release"],"cells":[["R2"]]}`).body["changes"])
	added := do("add-outline", `{"text":"- Fog bell (3)\n- Fog horn (5, KC)","under":{"after":"LC-8","team":"LC"}}`)
	assert.Equal(t, []any{"LC-28", "KC-24"}, added.body["keys"])
	do("rank", `{"keys":["LC-28"],"to":{"to":"top"}}`)
	assert.Contains(t, mean(t, at, "delete", revision, `"dry":true`, `{"keys":["LC-5"]}`).text, "LC-7 Night profile by season needs LC-5 and will need it no longer")
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
		got := mean(t, at, c[0], revision, "", c[1])
		assert.Equal(t, 422, got.status, c)
		assert.Contains(t, got.text, c[2])
	}
	assert.Equal(t, float64(revision), ok(t, http.MethodGet, at, "").body["revision"])
	for range revision {
		ok(t, http.MethodPost, at+"/undo", `{"client":"a"}`)
	}
}

// Two people at one cell: the later is told of both values, and of nothing where both
// mean the same. What somebody ranks goes where it was meant, whatever was added before.
func TestTwoAtOneCell(t *testing.T) {
	at := serve(t, demo.Program(sample.Today)).URL + "/api/v1/programs/1"
	ok(t, http.MethodPost, at+"/changes", edit("b", 0, fmt.Sprintf(set, "LC-8", "title", `"Theirs"`)))
	got := mean(t, at, "enter", 0, "", `{"keys":["LC-8"],"fields":["title"],"cells":[["Mine"]]}`)
	assert.Equal(t, http.StatusConflict, got.status)
	assert.Contains(t, got.text, `changed the title of LC-8 meanwhile to \"Theirs\"; yours is \"Mine\"`)
	assert.Equal(t, http.StatusOK, mean(t, at, "enter", 0, "", `{"keys":["LC-8"],"fields":["title"],"cells":[["Theirs"]]}`).status)
	got = mean(t, at, "delete", 0, "", `{"keys":["LC-8"]}`)
	assert.Equal(t, http.StatusConflict, got.status)
	assert.Contains(t, got.text, "changed LC-8 meanwhile, which you remove")
	assert.Equal(t, http.StatusOK, mean(t, at, "enter", 1, "", `{"keys":["LC-8"],"fields":["tags"],"cells":[[""]]}`).status)
}

func TestAnImportIsCheckedAndThenOneStep(t *testing.T) {
	at := serve(t, demo.Program(sample.Today)).URL + "/api/v1/programs/1"
	sheet := call(t, http.MethodPost, at+"/tables", "Key;Title;Team;Estimate\nLC-8;Dim ahead of fog;LC;big\n;Fog bell;LC;3\n", "Content-Type", "application/octet-stream")
	require.Equal(t, 200, sheet.status, sheet.text)
	assert.Equal(t, []any{"key", "title", "team", "size"}, sheet.body["columns"])
	body := func(size string) string {
		return `"columns":["key","title","team","size"],"rows":[["LC-8","Dim ahead of fog","LC","` + size + `"],["","Fog bell","LC","3"]]`
	}
	checked := ok(t, http.MethodPost, at+"/imports/check", "{"+body("big")+"}")
	assert.Equal(t, []any{"wrong", "new"}, checked.body["rows"])
	assert.Contains(t, checked.text, `{"row":0,"column":3,"text":"\"big\" is not a size; write a number"}`)
	refused := mean(t, at, "take-in", 0, "", "{"+body("big")+"}")
	assert.Equal(t, 422, refused.status)
	assert.Equal(t, 0.0, ok(t, http.MethodGet, at, "").body["revision"], "nothing was applied")
	done := mean(t, at, "take-in", 0, "", `{"name":"more.csv",`+body("2")+"}")
	assert.Equal(t, "Import more.csv", done.body["undo"])
	ok(t, http.MethodPost, at+"/undo", `{"client":"a"}`)
	for _, format := range []string{"csv", "xlsx"} {
		file := ok(t, http.MethodPost, at+"/backlog/file", `{"view":{"key":"","name":""},"format":"`+format+`","all":true}`)
		sheet := call(t, http.MethodPost, at+"/tables", file.text, "Content-Type", "application/octet-stream")
		require.Equal(t, 200, sheet.status)
		again, err := json.Marshal(map[string]any{"columns": sheet.body["columns"], "rows": sheet.body["rows"]})
		require.NoError(t, err)
		counts := ok(t, http.MethodPost, at+"/imports/check", string(again)).body["counts"].(map[string]any)
		assert.Len(t, counts, 1, "what was exported comes back unchanged: %v", counts)
	}
	assert.Equal(t, 422, call(t, http.MethodPost, at+"/tables", "\x00\x01", "Content-Type", "application/octet-stream").status)
}

func TestJudgingTheBacklog(t *testing.T) {
	at := serve(t, demo.Program(sample.Today)).URL + "/api/v1/programs/1"
	fit := ok(t, http.MethodPost, at+"/fit", `{"view":{"key":"","name":"","filter":{"conditions":[{"field":"release","is":"is","values":["R1"]}]}},"by":"2027-05-21","buffer":0.2}`)
	assert.Len(t, fit.body["lines"], 2)
	assert.NotEmpty(t, fit.body["when"].(map[string]any)["dates"])
	assert.NotEmpty(t, fit.body["simple"].(map[string]any)["teams"])
	assert.Contains(t, ok(t, http.MethodGet, at+"/starts", "").text, `"blocker"`)
	for _, scope := range []string{`{"release":"R1"}`, `{"team":"LC","iteration":"LC-i11"}`, `{"items":["FE-1","LC-8"]}`} {
		assert.Len(t, ok(t, http.MethodPost, at+"/mix", scope).body["kinds"], 5)
	}
}

func TestCommentsAreSignedByTheServer(t *testing.T) {
	h := newHarbour(t, demo.Program(sample.Today))
	at := h.URL + "/api/v1/programs/1"
	client = h.client(t, h.begin(t, "bo", "Bo", roles.Member))
	const add = `{"op":"add","kind":"comment","in":"LC-8","key":"new","value":{"key":"new","item":"LC-8","by":"Somebody else","at":"1999-01-01T00:00:00Z","text":"Yes"}}`
	got := ok(t, http.MethodPost, at+"/changes", edit("a", 0, add))
	assert.Contains(t, got.text, `"by":"Bo"`)
	assert.NotContains(t, got.text, "1999")
	const take = `{"op":"remove","kind":"comment","in":"LC-5","key":"c1"}`
	assert.Equal(t, 403, call(t, http.MethodPost, at+"/changes", edit("a", 1, take)).status, "what another said stays")
	ok(t, http.MethodPost, at+"/changes", edit("a", 1, strings.ReplaceAll(strings.ReplaceAll(take, "LC-5", "LC-8"), "c1", "new")))
}

func TestFilesOfItems(t *testing.T) {
	h := newHarbour(t, demo.Program(sample.Today))
	at := h.URL + "/api/v1/programs/1"
	client = h.client(t, h.begin(t, "ann", "Ann", roles.Manager))
	post := func(name, content string) answer {
		return call(t, http.MethodPost, at+"/attachments?item=LC-8&name="+url.QueryEscape(name), content, "Content-Type", "application/octet-stream")
	}
	added := post(`..\up/Fog "plan".svg`, "<svg onload=alert(1)>")
	require.Equal(t, 201, added.status, added.text)
	assert.Equal(t, `Fog "plan".svg`, added.body["name"])
	id := added.body["id"].(float64)
	got := ok(t, http.MethodGet, fmt.Sprintf("%s/attachments/%v", at, id), "")
	assert.Equal(t, "<svg onload=alert(1)>", got.text)
	assert.Equal(t, "application/octet-stream", got.header.Get("Content-Type"), "saved, never shown")
	assert.Contains(t, got.header.Get("Content-Disposition"), "attachment")
	assert.Equal(t, 400, post("empty", "").status)
	assert.Equal(t, 413, post("large", strings.Repeat("x", 10<<20+1)).status)
	assert.Equal(t, 404, call(t, http.MethodPost, at+"/attachments?item=none&name=a", "x", "Content-Type", "application/octet-stream").status)

	client = h.client(t, h.begin(t, "vi", "Vi", roles.Viewer))
	assert.Contains(t, ok(t, http.MethodGet, at+"/attachments?item=LC-8", "").text, "plan")
	assert.Equal(t, 403, post("mine", "x").status)
	assert.Equal(t, 403, call(t, http.MethodDelete, fmt.Sprintf("%s/attachments/%v", at, id), "").status)
	client = h.client(t, h.begin(t, "ed", "Ed", roles.Manager))
	ok(t, http.MethodDelete, fmt.Sprintf("%s/attachments/%v", at, id), "")
	assert.Equal(t, 404, call(t, http.MethodGet, fmt.Sprintf("%s/attachments/%v", at, id), "").status)
}

func TestPrivateViewsAreOnesOwn(t *testing.T) {
	h := newHarbour(t, program.Program{Name: "X"}.Normal())
	at := h.URL + "/api/v1/programs/1/private-views"
	client = h.client(t, h.begin(t, "ann", "Ann", roles.Viewer))
	const view = `[{"key":"v","name":"Mine","group":"team"}]`
	ok(t, http.MethodPut, at, view)
	assert.JSONEq(t, `[{"key":"v","name":"Mine","group":"team"}]`, ok(t, http.MethodGet, at, "").text)
	assert.Equal(t, 422, call(t, http.MethodPut, at, `[{"key":"v","name":"Bad","sort":"colour"}]`).status)
	client = h.client(t, h.begin(t, "bo", "Bo", roles.Manager))
	assert.JSONEq(t, `[]`, ok(t, http.MethodGet, at, "").text)
}
