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

	"jantrel/core/roles"
	"jantrel/core/sample"
	"jantrel/internal/account"
	"jantrel/internal/demo"
	"jantrel/internal/store"
)

// scenarioOf makes a scenario and returns its number.
func scenarioOf(t *testing.T, who *http.Client, url, body string) int {
	t.Helper()
	made := as(t, who, http.MethodPost, url+"/scenarios", body)
	require.Equal(t, http.StatusCreated, made.status, made.text)
	return int(made.body["id"].(float64))
}

// Whatever is asked of a scenario, as an administrator: nothing outside it is touched but by publishing.
func TestFromWithinAScenarioNothingElseIsTouched(t *testing.T) {
	if testing.Short() {
		t.Skip("every operation")
	}
	h := newHarbour(t, demo.Program(sample.Today))
	url := h.URL + "/api/v1"
	boss := h.client(t, h.begin(t, "root", "Root", ""))
	_, err := h.hub.Store().AddAttachment(t.Context(), 1, store.Attachment{Item: "LC-8", Name: "a", Type: "text/plain"}, []byte("x"))
	require.NoError(t, err)
	beside := func() string {
		files, err := h.hub.Store().FilesOfGone(t.Context(), 1)
		require.NoError(t, err)
		kept, err := h.hub.Store().Attachments(t.Context(), 1, "LC-8")
		require.NoError(t, err)
		text, err := json.Marshal([]any{files, kept})
		require.NoError(t, err)
		return stored(t, h) + string(text)
	}
	line := scenarioOf(t, boss, url+"/programs/1", `{"name":"What if"}`)
	var described struct {
		Paths map[string]map[string]struct{ OperationID string }
	}
	require.NoError(t, json.Unmarshal([]byte(as(t, nobody, http.MethodGet, url+"/openapi.json", "").text), &described))
	all, done, refused := attempts(), 0, 0
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
				before := beside()
				got := as(t, boss, strings.ToUpper(method), url+at+joint+fmt.Sprintf("scenario=%d", line), body)
				require.Equal(t, before, beside(), "%s %s", operation.OperationID, got.text)
				if got.status < 300 {
					done++
				}
				if strings.Contains(got.text, "belongs to the program as a whole") {
					refused++
				}
			}
		}
	}
	assert.Greater(t, done, 40, "they were done in the scenario")
	assert.Greater(t, refused, 8, "or refused as they are of the program")
}

// crew serves the demo, and signs in who comes.
func crew(t *testing.T) (url string, enter func(login string, role roles.Role, person string) *http.Client) {
	return crewOf(t, newHarbour(t, demo.Program(sample.Today)))
}

func crewOf(t *testing.T, h *harbour) (url string, enter func(login string, role roles.Role, person string) *http.Client) {
	return h.URL + "/api/v1/programs/1", func(login string, role roles.Role, person string) *http.Client {
		in := h.begin(t, login, login, role)
		require.NoError(t, h.hub.Store().SaveMembership(t.Context(), store.Membership{AccountID: in.Account.ID, ProgramID: 1, Role: role, Person: person}))
		return h.client(t, account.SignedIn{Account: in.Account, Secret: in.Secret})
	}
}

// A private scenario is its owner's alone; there a team lead may change everything, and publishes what they might have
// edited.
func TestWhoseAScenarioIs(t *testing.T) {
	url, enter := crew(t)
	lead, other := enter("lead", roles.Lead, "p01"), enter("manager", roles.Manager, "")
	line := scenarioOf(t, lead, url, `{"name":"One more pair","note":"Two people from April on"}`)
	in := func(path string) string { return fmt.Sprintf("%s%s?scenario=%d", url, path, line) }
	assert.Equal(t, http.StatusNotFound, as(t, other, http.MethodGet, in("/outline"), "").status)
	assert.NotContains(t, as(t, other, http.MethodGet, url+"/scenarios", "").text, "One more pair")
	assert.Equal(t, http.StatusNotFound, as(t, other, http.MethodDelete, fmt.Sprintf("%s/scenarios/%d", url, line), "").status)

	changes := edit("a", 0, fmt.Sprintf(set, "LC-8", "title", `"Mine"`), fmt.Sprintf(set, "TW-2", "title", `"Not mine"`))
	require.Equal(t, http.StatusForbidden, as(t, lead, http.MethodPost, url+"/changes", changes).status)
	made := as(t, lead, http.MethodPost, in("/changes"), changes)
	require.Less(t, made.status, 300, made.text)
	ask := as(t, lead, http.MethodPost, in("/scenario/merge"), `{"way":"publish","choice":{}}`)
	require.Less(t, ask.status, 300, ask.text)
	assert.Contains(t, ask.body["denied"], "only where it is your own")
	say := func(leaveOut string) answer {
		return as(t, lead, http.MethodPost, in("/do/publish"), `{"client":"a","revision":0,"intent":{"choice":{"leaveOut":[`+leaveOut+`]}}}`)
	}
	assert.Equal(t, http.StatusForbidden, say("").status)
	published := say(`{"kind":"item","key":"TW-2","op":"set","field":"title"}`)
	require.Less(t, published.status, 300, published.text)
	assert.Equal(t, "Publish some of “One more pair”", published.body["label"])
	journal := as(t, other, http.MethodGet, url+"/journal", "").text
	assert.Contains(t, journal, "Publish some of “One more pair”", "the journal names it")
	assert.NotContains(t, journal, "Not mine")

	shared := as(t, lead, http.MethodPut, fmt.Sprintf("%s/scenarios/%d", url, line), `{"name":"One more pair","shared":true}`)
	require.Less(t, shared.status, 300, shared.text)
	require.Less(t, as(t, other, http.MethodGet, in("/outline"), "").status, 300)
	here := as(t, other, http.MethodGet, in("/scenario"), "")
	assert.Equal(t, 2.0, here.body["changes"])
	assert.Equal(t, 1.0, here.body["newer"])
	viewer := enter("viewer", roles.Viewer, "")
	require.Less(t, as(t, viewer, http.MethodGet, in("/outline"), "").status, 300)
	assert.Equal(t, http.StatusForbidden, as(t, viewer, http.MethodPost, url+"/scenarios", `{"name":"X"}`).status)
	assert.Equal(t, http.StatusForbidden, as(t, viewer, http.MethodPost, in("/changes"), changes).status)
	assert.Equal(t, http.StatusUnprocessableEntity, as(t, lead, http.MethodGet, url+"/outline?scenario=x", "").status)
	assert.Equal(t, http.StatusNotFound, as(t, lead, http.MethodGet, url+"/outline?scenario=99", "").status)
}

// A baseline is the live plan of a moment under a name, which can be looked at.
func TestABaselineIsAMomentWithAName(t *testing.T) {
	url := serve(t, demo.Program(sample.Today)).URL + "/api/v1/programs/1"
	before := ok(t, http.MethodGet, url+"/document", "").text
	frozen := ok(t, http.MethodPost, url+"/baselines", `{"name":"As agreed","note":"In the spring meeting"}`)
	ok(t, http.MethodPost, url+"/changes", edit("a", 0, fmt.Sprintf(set, "LC-8", "size", "13")))
	at := fmt.Sprintf("?at=baseline-%v", frozen.body["id"])
	assert.Equal(t, before, ok(t, http.MethodGet, url+"/document"+at, "").text)
	assert.Contains(t, ok(t, http.MethodGet, url+"/baselines", "").text, "In the spring meeting")
	later := ok(t, http.MethodPost, url+"/baselines?at=1", `{"name":"After"}`)
	assert.Equal(t, 1.0, later.body["revision"])
	made := ok(t, http.MethodPost, url+"/scenarios"+at, `{"name":"From what was agreed"}`)
	assert.Contains(t, made.body["from"], "as it was on")
	assert.Equal(t, before, ok(t, http.MethodGet, fmt.Sprintf("%s/document?scenario=%v", url, made.body["id"]), "").text)
	ok(t, http.MethodDelete, fmt.Sprintf("%s/baselines/%v", url, frozen.body["id"]), "")
	assert.Equal(t, http.StatusNotFound, call(t, http.MethodGet, url+"/document"+at, "").status)
	for _, name := range []string{"", "  "} {
		assert.Equal(t, http.StatusUnprocessableEntity, call(t, http.MethodPost, url+"/baselines", `{"name":"`+name+`"}`).status)
	}
}

// A conflict is told with all three values and by whom; nothing is made until it is settled.
func TestAConflictIsSettledAndPublished(t *testing.T) {
	url := serve(t, demo.Program(sample.Today)).URL + "/api/v1/programs/1"
	line := scenarioOf(t, client, url, `{"name":"What if"}`)
	in := func(path string) string { return fmt.Sprintf("%s%s?scenario=%d", url, path, line) }
	ok(t, http.MethodPost, in("/changes"), edit("a", 0, fmt.Sprintf(set, "LC-8", "size", "13"), fmt.Sprintf(set, "LC-8", "title", `"Ours"`)))
	ok(t, http.MethodPost, url+"/changes", edit("a", 0, fmt.Sprintf(set, "LC-8", "size", "8")))
	ask := func(choice string) answer {
		return ok(t, http.MethodPost, in("/scenario/merge"), `{"way":"publish","landings":true,"choice":`+choice+`}`)
	}
	open := ask("{}")
	conflicts := open.body["conflicts"].([]any)
	require.Len(t, conflicts, 1)
	first := conflicts[0].(map[string]any)
	assert.Equal(t, []any{13.0, 8.0, "Ann", "both set"}, []any{first["mine"], first["live"], first["by"], first["sort"]})
	assert.Equal(t, 1.0, open.body["open"])
	say := func(name, choice string) answer {
		return call(t, http.MethodPost, in("/do/"+name), `{"client":"a","revision":1,"intent":{"choice":`+choice+`}}`)
	}
	for _, name := range []string{"publish", "bring-up-to-date"} {
		refused := say(name, "{}")
		assert.Equal(t, http.StatusConflict, refused.status)
		assert.Contains(t, refused.text, "a conflict to settle first")
	}
	settled := `{"settle":[{"kind":"item","key":"LC-8","field":"size","sort":"both set","take":"scenario"}]}`
	assert.Equal(t, 0.0, ask(settled).body["open"])
	before := ok(t, http.MethodGet, url+"/document", "").text
	require.Less(t, say("publish", settled).status, 300)
	assert.Contains(t, ok(t, http.MethodGet, url+"?at=2", "").text, `"Ours"`)
	ok(t, http.MethodPost, url+"/undo", `{"client":"a"}`)
	assert.Equal(t, before, ok(t, http.MethodGet, url+"/document", "").text)
	require.Less(t, say("bring-up-to-date", settled).status, 300)
	here := ok(t, http.MethodGet, in("/scenario"), "")
	assert.Equal(t, 0.0, here.body["newer"])
	assert.Equal(t, 2.0, here.body["changes"])
}

// Figures side by side are those that each line tells by itself, whichever file they are in.
func TestLinesSideBySide(t *testing.T) {
	url := serve(t, demo.Program(sample.Today)).URL + "/api/v1/programs/1"
	line := scenarioOf(t, client, url, `{"name":"What if"}`)
	in := func(path string) string { return fmt.Sprintf("%s%s?scenario=%d", url, path, line) }
	ok(t, http.MethodPost, in("/changes"), edit("a", 0, fmt.Sprintf(set, "LC-10", "keptOut", "true"), fmt.Sprintf(set, "LC-9", "iteration", `""`), fmt.Sprintf(set, "LC-16", "size", "5")))
	frozen := ok(t, http.MethodPost, url+"/baselines", `{"name":"As agreed"}`)
	of := fmt.Sprintf("?of=live&of=scenario-%d&of=baseline-%v", line, frozen.body["id"])
	c := ok(t, http.MethodGet, url+"/compare"+of, "")
	chances := func(path string) (all []any) {
		for _, r := range ok(t, http.MethodGet, path, "").body["releases"].([]any) {
			all = append(all, r.(map[string]any)["chance"])
		}
		return all
	}
	for i, path := range []string{url + "/landings", in("/landings")} {
		var told []any
		for _, r := range c.body["releases"].([]any) {
			told = append(told, r.(map[string]any)["of"].([]any)[i].(map[string]any)["chance"])
		}
		assert.Equal(t, chances(path), told)
	}
	keys := map[string]bool{}
	for _, x := range c.body["items"].([]any) {
		keys[x.(map[string]any)["key"].(string)] = true
	}
	assert.Equal(t, map[string]bool{"LC-9": true, "LC-10": true}, keys)
	assert.Contains(t, c.text, `"label":"Edit"`, "the edit that put it there")
	for format, says := range map[string]string{"csv": "LC-10", "md": "## Elsewhere", "xlsx": "PK"} {
		assert.Contains(t, ok(t, http.MethodGet, url+"/reports/compare"+of+"&format="+format, "").text, says)
	}
	assert.Equal(t, http.StatusUnprocessableEntity, call(t, http.MethodGet, url+"/compare?of=live&of=x", "").status)
	assert.Equal(t, http.StatusUnprocessableEntity, call(t, http.MethodGet, url+"/compare?of=live", "").status)
	assert.Equal(t, http.StatusNotFound, call(t, http.MethodGet, url+"/compare?of=live&of=scenario-99", "").status)
}

// Ten edits of two people after a baseline are told, each by whom, and the sums lead from what there was to what there is.
func TestSinceABaseline(t *testing.T) {
	url := serve(t, demo.Program(sample.Today)).URL + "/api/v1/programs/1"
	frozen := ok(t, http.MethodPost, url+"/baselines", `{"name":"As agreed"}`)
	ok(t, http.MethodPost, url+"/changes", edit("a", 0, fmt.Sprintf(set, "LC-8", "size", "13"), fmt.Sprintf(set, "LC-10", "keptOut", "true"), fmt.Sprintf(set, "LC-9", "iteration", `""`)))
	ok(t, http.MethodPost, url+"/do/remove", `{"client":"a","revision":1,"intent":{"ref":{"kind":"item","key":"CD-17"}}}`)
	since := ok(t, http.MethodGet, fmt.Sprintf("%s/since?of=baseline-%v", url, frozen.body["id"]), "")
	told := map[string]string{}
	for _, x := range since.body["items"].([]any) {
		b := x.(map[string]any)
		told[b["what"].(string)] += b["key"].(string) + " by " + b["by"].(string)
	}
	assert.Equal(t, map[string]string{"removed": "CD-17 by Ann", "went out": "LC-10 by Ann", "grew": "LC-8 by Ann", "later": "LC-9 by Ann"}, told)
	assert.Equal(t, "As agreed", since.body["of"].(map[string]any)["name"])
	of := ok(t, http.MethodGet, fmt.Sprintf("%s/since?of=0&team=LC", url), "")
	assert.NotContains(t, of.text, "CD-17")
	assert.Equal(t, http.StatusNotFound, call(t, http.MethodGet, url+"/since?of=baseline-99", "").status)
	assert.Equal(t, http.StatusUnprocessableEntity, call(t, http.MethodGet, url+"/since?of=monday", "").status)
}

// One edit of the journal is taken back whatever came after it; what was changed since in the same place is to be settled.
func TestAnEditIsTakenBack(t *testing.T) {
	url := serve(t, demo.Program(sample.Today)).URL + "/api/v1/programs/1"
	ok(t, http.MethodPost, url+"/changes", edit("a", 0, fmt.Sprintf(set, "LC-8", "size", "13"), fmt.Sprintf(set, "LC-8", "title", `"Ours"`)))
	ok(t, http.MethodPost, url+"/changes", edit("b", 1, fmt.Sprintf(set, "LC-8", "size", "8"), fmt.Sprintf(set, "LC-9", "title", `"Later"`)))
	ask := func(choice string) answer {
		return ok(t, http.MethodPost, url+"/scenario/merge", `{"way":"take-back","revision":1,"choice":`+choice+`}`)
	}
	open := ask("{}")
	require.Len(t, open.body["rows"], 2)
	require.Len(t, open.body["conflicts"], 1)
	say := func(choice string) answer {
		return call(t, http.MethodPost, url+"/do/take-back", `{"client":"c","revision":2,"intent":{"edit":1,"choice":`+choice+`}}`)
	}
	assert.Equal(t, http.StatusConflict, say("{}").status)
	done := say(`{"settle":[{"kind":"item","key":"LC-8","field":"size","sort":"both set","take":"live"}]}`)
	require.Less(t, done.status, 300, done.text)
	assert.Equal(t, "Take back “Edit”", done.body["label"])
	now := ok(t, http.MethodGet, url+"/document", "").text
	assert.NotContains(t, now, `"Ours"`)
	assert.Contains(t, now, `"Later"`)
	for _, edit := range []string{"0", "99"} {
		assert.Equal(t, http.StatusNotFound, call(t, http.MethodPost, url+"/do/take-back", `{"client":"c","revision":2,"intent":{"edit":`+edit+`,"choice":{}}}`).status)
	}
	count := func(query string) int {
		return strings.Count(ok(t, http.MethodGet, url+"/journal?"+query, "").text, `"actor"`)
	}
	assert.Equal(t, 3, count(""))
	assert.Equal(t, 1, count("words=LC-9"))
	assert.Equal(t, 1, count("words=take+back"))
	assert.Equal(t, 2, count("field=size"))
	assert.Equal(t, 3, count("kind=item&by=an"))
	assert.Equal(t, 0, count("by=100%25"), "signs are signs")
	assert.Equal(t, 3, count("stage=backlog"))
	assert.Equal(t, 0, count("stage=plan"))
	assert.Equal(t, 0, count("to=1999-01-01"))
	assert.Equal(t, 3, count("from=1999-01-01"))
	assert.Equal(t, http.StatusUnprocessableEntity, call(t, http.MethodGet, url+"/journal?from=monday", "").status)
}
