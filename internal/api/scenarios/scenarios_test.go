package scenarios_test

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
	"jantrel/internal/journal"
)

// scenarioOf makes a scenario and returns its number.
func scenarioOf(t *testing.T, who *http.Client, url, body string) int {
	t.Helper()
	made := apitest.As(t, who, http.MethodPost, url+"/scenarios", body)
	require.Equal(t, http.StatusCreated, made.Status, made.Text)
	return int(made.Body["id"].(float64))
}

// A private scenario is its owner's alone; there a team lead may change everything, and publishes what they might have
// edited.
func TestWhoseAScenarioIs(t *testing.T) {
	t.Parallel()
	url, enter := apitest.Demo(t).Crew(t)
	lead, other := enter("lead", roles.Lead, "p01"), enter("manager", roles.Manager, "")
	line := scenarioOf(t, lead, url, `{"name":"One more pair","note":"Two people from April on"}`)
	in := func(path string) string { return fmt.Sprintf("%s%s?scenario=%d", url, path, line) }
	assert.Equal(t, http.StatusNotFound, apitest.As(t, other, http.MethodGet, in("/outline"), "").Status)
	assert.NotContains(t, apitest.As(t, other, http.MethodGet, url+"/scenarios", "").Text, "One more pair")
	assert.Equal(t, http.StatusForbidden, apitest.As(t, other, http.MethodDelete, fmt.Sprintf("%s/scenarios/%d", url, line), "").Status)
	assert.Equal(t, http.StatusNotFound, apitest.As(t, enter("member", roles.Member, "p13"), http.MethodDelete, fmt.Sprintf("%s/scenarios/%d", url, line), "").Status)

	changes := apitest.Edit("a", 0, fmt.Sprintf(apitest.Set, "LC-8", "title", `"Mine"`), fmt.Sprintf(apitest.Set, "TW-2", "title", `"Not mine"`))
	require.Equal(t, http.StatusForbidden, apitest.As(t, lead, http.MethodPost, url+"/changes", changes).Status)
	made := apitest.As(t, lead, http.MethodPost, in("/changes"), changes)
	require.Less(t, made.Status, 300, made.Text)
	ask := apitest.As(t, lead, http.MethodPost, in("/scenario/merge"), `{"way":"publish","choice":{}}`)
	require.Less(t, ask.Status, 300, ask.Text)
	assert.Contains(t, ask.Body["denied"], "only where it is your own")
	say := func(leaveOut string) apitest.Answer {
		return apitest.As(t, lead, http.MethodPost, in("/do/publish"), `{"client":"a","revision":0,"intent":{"choice":{"leaveOut":[`+leaveOut+`]}}}`)
	}
	assert.Equal(t, http.StatusForbidden, say("").Status)
	published := say(`{"kind":"item","key":"TW-2","op":"set","field":"title"}`)
	require.Less(t, published.Status, 300, published.Text)
	assert.Equal(t, "Publish some of “One more pair”", published.Body["label"])
	journal := apitest.As(t, other, http.MethodGet, url+"/journal", "").Text
	assert.Contains(t, journal, "Publish some of “One more pair”", "the journal names it")
	assert.NotContains(t, journal, "Not mine")

	shared := apitest.As(t, lead, http.MethodPut, fmt.Sprintf("%s/scenarios/%d", url, line), `{"name":"One more pair","shared":true}`)
	require.Less(t, shared.Status, 300, shared.Text)
	require.Less(t, apitest.As(t, other, http.MethodGet, in("/outline"), "").Status, 300)
	here := apitest.As(t, other, http.MethodGet, in("/scenario"), "")
	assert.Equal(t, 2.0, here.Body["changes"])
	assert.Equal(t, 1.0, here.Body["newer"])
	viewer := enter("viewer", roles.Viewer, "")
	require.Less(t, apitest.As(t, viewer, http.MethodGet, in("/outline"), "").Status, 300)
	assert.Equal(t, http.StatusForbidden, apitest.As(t, viewer, http.MethodPost, url+"/scenarios", `{"name":"X"}`).Status)
	assert.Equal(t, http.StatusForbidden, apitest.As(t, viewer, http.MethodPost, in("/changes"), changes).Status)
	assert.Equal(t, http.StatusUnprocessableEntity, apitest.As(t, lead, http.MethodGet, url+"/outline?scenario=x", "").Status)
	assert.Equal(t, http.StatusNotFound, apitest.As(t, lead, http.MethodGet, url+"/outline?scenario=99", "").Status)
}

// A baseline is the live plan of a moment under a name, which can be looked at.
func TestABaselineIsAMomentWithAName(t *testing.T) {
	t.Parallel()
	url := apitest.ServeDemo(t)
	before := apitest.OK(t, http.MethodGet, url+"/document", "").Text
	frozen := apitest.OK(t, http.MethodPost, url+"/baselines", `{"name":"As agreed","note":"In the spring meeting"}`)
	apitest.OK(t, http.MethodPost, url+"/changes", apitest.Edit("a", 0, fmt.Sprintf(apitest.Set, "LC-8", "size", "13")))
	at := fmt.Sprintf("?at=baseline-%v", frozen.Body["id"])
	assert.Equal(t, before, apitest.OK(t, http.MethodGet, url+"/document"+at, "").Text)
	assert.Contains(t, apitest.OK(t, http.MethodGet, url+"/baselines", "").Text, "In the spring meeting")
	later := apitest.OK(t, http.MethodPost, url+"/baselines?at=1", `{"name":"After"}`)
	assert.Equal(t, 1.0, later.Body["revision"])
	made := apitest.OK(t, http.MethodPost, url+"/scenarios"+at, `{"name":"From what was agreed"}`)
	assert.Contains(t, made.Body["from"], "as it was on")
	assert.Equal(t, before, apitest.OK(t, http.MethodGet, fmt.Sprintf("%s/document?scenario=%v", url, made.Body["id"]), "").Text)
	apitest.OK(t, http.MethodDelete, fmt.Sprintf("%s/baselines/%v", url, frozen.Body["id"]), "")
	assert.Equal(t, http.StatusNotFound, apitest.Call(t, http.MethodGet, url+"/document"+at, "").Status)
	for _, name := range []string{"", "  "} {
		assert.Equal(t, http.StatusUnprocessableEntity, apitest.Call(t, http.MethodPost, url+"/baselines", `{"name":"`+name+`"}`).Status)
	}
}

// A conflict is told with all three values and by whom; nothing is made until it is settled.
func TestAConflictIsSettledAndPublished(t *testing.T) {
	t.Parallel()
	h := apitest.Serve(t, demo.Program(sample.Today))
	url := h.URL + "/api/v1/programs/1"
	line := scenarioOf(t, h.Ann, url, `{"name":"What if"}`)
	in := func(path string) string { return fmt.Sprintf("%s%s?scenario=%d", url, path, line) }
	apitest.OK(t, http.MethodPost, in("/changes"), apitest.Edit("a", 0, fmt.Sprintf(apitest.Set, "LC-8", "size", "13"), fmt.Sprintf(apitest.Set, "LC-8", "title", `"Ours"`)))
	apitest.OK(t, http.MethodPost, url+"/changes", apitest.Edit("a", 0, fmt.Sprintf(apitest.Set, "LC-8", "size", "8")))
	ask := func(choice string) apitest.Answer {
		return apitest.OK(t, http.MethodPost, in("/scenario/merge"), `{"way":"publish","landings":true,"choice":`+choice+`}`)
	}
	open := ask("{}")
	conflicts := open.Body["conflicts"].([]any)
	require.Len(t, conflicts, 1)
	first := conflicts[0].(map[string]any)
	assert.Equal(t, []any{13.0, 8.0, "Ann", "both set"}, []any{first["mine"], first["live"], first["by"], first["sort"]})
	assert.Equal(t, 1.0, open.Body["open"])
	say := func(name, choice string) apitest.Answer {
		return apitest.Call(t, http.MethodPost, in("/do/"+name), `{"client":"a","revision":1,"intent":{"choice":`+choice+`}}`)
	}
	for _, name := range []string{"publish", "bring-up-to-date"} {
		refused := say(name, "{}")
		assert.Equal(t, http.StatusConflict, refused.Status)
		assert.Contains(t, refused.Text, "a conflict to settle first")
	}
	settled := `{"settle":[{"kind":"item","key":"LC-8","field":"size","sort":"both set","take":"scenario"}]}`
	assert.Equal(t, 0.0, ask(settled).Body["open"])
	before := apitest.OK(t, http.MethodGet, url+"/document", "").Text
	require.Less(t, say("publish", settled).Status, 300)
	assert.Contains(t, apitest.OK(t, http.MethodGet, url+"?at=2", "").Text, `"Ours"`)
	apitest.OK(t, http.MethodPost, url+"/undo", `{"client":"a"}`)
	assert.Equal(t, before, apitest.OK(t, http.MethodGet, url+"/document", "").Text)
	require.Less(t, say("bring-up-to-date", settled).Status, 300)
	here := apitest.OK(t, http.MethodGet, in("/scenario"), "")
	assert.Equal(t, 0.0, here.Body["newer"])
	assert.Equal(t, 2.0, here.Body["changes"])
}

// Figures side by side are those that each line tells by itself, whichever file they are in.
func TestLinesSideBySide(t *testing.T) {
	t.Parallel()
	h := apitest.Serve(t, demo.Program(sample.Today))
	url := h.URL + "/api/v1/programs/1"
	line := scenarioOf(t, h.Ann, url, `{"name":"What if"}`)
	in := func(path string) string { return fmt.Sprintf("%s%s?scenario=%d", url, path, line) }
	apitest.OK(t, http.MethodPost, in("/changes"), apitest.Edit("a", 0, fmt.Sprintf(apitest.Set, "LC-10", "keptOut", "true"), fmt.Sprintf(apitest.Set, "LC-9", "iteration", `""`), fmt.Sprintf(apitest.Set, "LC-16", "size", "5")))
	frozen := apitest.OK(t, http.MethodPost, url+"/baselines", `{"name":"As agreed"}`)
	of := fmt.Sprintf("?of=live&of=scenario-%d&of=baseline-%v", line, frozen.Body["id"])
	c := apitest.OK(t, http.MethodGet, url+"/compare"+of, "")
	chances := func(path string) (all []any) {
		for _, r := range apitest.OK(t, http.MethodGet, path, "").Body["releases"].([]any) {
			all = append(all, r.(map[string]any)["chance"])
		}
		return all
	}
	for i, path := range []string{url + "/landings", in("/landings")} {
		var told []any
		for _, r := range c.Body["releases"].([]any) {
			told = append(told, r.(map[string]any)["of"].([]any)[i].(map[string]any)["chance"])
		}
		assert.Equal(t, chances(path), told)
	}
	keys := map[string]bool{}
	for _, x := range c.Body["items"].([]any) {
		keys[x.(map[string]any)["key"].(string)] = true
	}
	assert.Equal(t, map[string]bool{"LC-9": true, "LC-10": true}, keys)
	assert.Contains(t, c.Text, `"label":"Edit"`, "the edit that put it there")
	for format, says := range map[string]string{"csv": "LC-10", "md": "## Elsewhere", "xlsx": "PK"} {
		assert.Contains(t, apitest.OK(t, http.MethodGet, url+"/reports/compare"+of+"&format="+format, "").Text, says)
	}
	assert.Equal(t, http.StatusUnprocessableEntity, apitest.Call(t, http.MethodGet, url+"/compare?of=live&of=x", "").Status)
	assert.Equal(t, http.StatusUnprocessableEntity, apitest.Call(t, http.MethodGet, url+"/compare?of=live", "").Status)
	assert.Equal(t, http.StatusNotFound, apitest.Call(t, http.MethodGet, url+"/compare?of=live&of=scenario-99", "").Status)
}

// Ten edits of two people after a baseline are told, each by whom, and the sums lead from what there was to what there is.
func TestSinceABaseline(t *testing.T) {
	t.Parallel()
	url := apitest.ServeDemo(t)
	frozen := apitest.OK(t, http.MethodPost, url+"/baselines", `{"name":"As agreed"}`)
	apitest.OK(t, http.MethodPost, url+"/changes", apitest.Edit("a", 0, fmt.Sprintf(apitest.Set, "LC-8", "size", "13"), fmt.Sprintf(apitest.Set, "LC-10", "keptOut", "true"), fmt.Sprintf(apitest.Set, "LC-9", "iteration", `""`)))
	apitest.OK(t, http.MethodPost, url+"/do/remove", `{"client":"a","revision":1,"intent":{"ref":{"kind":"item","key":"CD-17"}}}`)
	since := apitest.OK(t, http.MethodGet, fmt.Sprintf("%s/since?of=baseline-%v", url, frozen.Body["id"]), "")
	told := map[string]string{}
	for _, x := range since.Body["items"].([]any) {
		b := x.(map[string]any)
		told[b["what"].(string)] += b["key"].(string) + " by " + b["by"].(string)
	}
	assert.Equal(t, map[string]string{"removed": "CD-17 by Ann", "went out": "LC-10 by Ann", "grew": "LC-8 by Ann", "later": "LC-9 by Ann"}, told)
	assert.Equal(t, "As agreed", since.Body["of"].(map[string]any)["name"])
	of := apitest.OK(t, http.MethodGet, fmt.Sprintf("%s/since?of=0&team=LC", url), "")
	assert.NotContains(t, of.Text, "CD-17")
	assert.Equal(t, http.StatusNotFound, apitest.Call(t, http.MethodGet, url+"/since?of=baseline-99", "").Status)
	assert.Equal(t, http.StatusUnprocessableEntity, apitest.Call(t, http.MethodGet, url+"/since?of=monday", "").Status)
}

// One edit of the journal is taken back whatever came after it; what was changed since in the same place is to be settled.
func TestAnEditIsTakenBack(t *testing.T) {
	t.Parallel()
	url := apitest.ServeDemo(t)
	apitest.OK(t, http.MethodPost, url+"/changes", apitest.Edit("a", 0, fmt.Sprintf(apitest.Set, "LC-8", "size", "13"), fmt.Sprintf(apitest.Set, "LC-8", "title", `"Ours"`)))
	apitest.OK(t, http.MethodPost, url+"/changes", apitest.Edit("b", 1, fmt.Sprintf(apitest.Set, "LC-8", "size", "8"), fmt.Sprintf(apitest.Set, "LC-9", "title", `"Later"`)))
	ask := func(choice string) apitest.Answer {
		return apitest.OK(t, http.MethodPost, url+"/scenario/merge", `{"way":"take-back","revision":1,"choice":`+choice+`}`)
	}
	open := ask("{}")
	require.Len(t, open.Body["rows"], 2)
	require.Len(t, open.Body["conflicts"], 1)
	say := func(choice string) apitest.Answer {
		return apitest.Call(t, http.MethodPost, url+"/do/take-back", `{"client":"c","revision":2,"intent":{"edit":1,"choice":`+choice+`}}`)
	}
	assert.Equal(t, http.StatusConflict, say("{}").Status)
	done := say(`{"settle":[{"kind":"item","key":"LC-8","field":"size","sort":"both set","take":"live"}]}`)
	require.Less(t, done.Status, 300, done.Text)
	assert.Equal(t, "Take back “Edit”", done.Body["label"])
	now := apitest.OK(t, http.MethodGet, url+"/document", "").Text
	assert.NotContains(t, now, `"Ours"`)
	assert.Contains(t, now, `"Later"`)
	for _, edit := range []string{"0", "99"} {
		assert.Equal(t, http.StatusNotFound, apitest.Call(t, http.MethodPost, url+"/do/take-back", `{"client":"c","revision":2,"intent":{"edit":`+edit+`,"choice":{}}}`).Status)
	}
	count := func(query string) int {
		return strings.Count(apitest.OK(t, http.MethodGet, url+"/journal?"+query, "").Text, `"actor"`)
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
	assert.Equal(t, http.StatusUnprocessableEntity, apitest.Call(t, http.MethodGet, url+"/journal?from=monday", "").Status)
}

// Who manages a program is told that others have private scenarios and whose they are, and nothing more of them; they
// delete those of people who left.
func TestPrivateScenariosOfOthers(t *testing.T) {
	t.Parallel()
	h := apitest.Demo(t)
	url, enter := h.Crew(t)
	lead, manager, member := enter("lead", roles.Lead, "p01"), enter("manager", roles.Manager, ""), enter("member", roles.Member, "p13")
	line := scenarioOf(t, lead, url, `{"name":"One more pair"}`)
	scenarioOf(t, lead, url, `{"name":"For all","shared":true}`)
	private := url + "/scenarios/private"
	assert.Equal(t, http.StatusForbidden, apitest.As(t, member, http.MethodGet, private, "").Status)
	told := apitest.As(t, manager, http.MethodGet, private, "")
	list := apitest.List(t, told)
	require.Len(t, list, 1)
	assert.Equal(t, "lead", list[0]["by"])
	assert.NotContains(t, list[0], "left")
	assert.NotContains(t, told.Text, "One more pair")
	at := fmt.Sprintf("%s/scenarios/%d", url, line)
	assert.Equal(t, http.StatusForbidden, apitest.As(t, manager, http.MethodDelete, at, "").Status, "it is theirs")
	assert.Equal(t, http.StatusNotFound, apitest.As(t, member, http.MethodDelete, at, "").Status)

	a, err := h.Accounts.Store().AccountBy(t.Context(), "login", "lead")
	require.NoError(t, err)
	require.NoError(t, h.Accounts.Store().RemoveMembership(t.Context(), a.ID, 1))
	assert.Equal(t, true, apitest.List(t, apitest.As(t, manager, http.MethodGet, private, ""))[0]["left"])
	require.Less(t, apitest.As(t, manager, http.MethodDelete, at, "").Status, 300)
	assert.Empty(t, apitest.List(t, apitest.As(t, manager, http.MethodGet, private, "")))
}

// One person has so many scenarios of a program, and others still make theirs.
func TestOnePersonTakesNotAllScenarios(t *testing.T) {
	t.Parallel()
	url, enter := apitest.Demo(t).Crew(t)
	member, other := enter("member", roles.Member, "p13"), enter("other", roles.Member, "p14")
	for i := range journal.MaxOwnScenarios {
		scenarioOf(t, member, url, fmt.Sprintf(`{"name":"No. %d"}`, i))
	}
	refused := apitest.As(t, member, http.MethodPost, url+"/scenarios", `{"name":"One more"}`)
	assert.Equal(t, http.StatusConflict, refused.Status)
	assert.Contains(t, refused.Text, "No scenario was made: you have 20 scenarios in this program")
	scenarioOf(t, other, url, `{"name":"Mine"}`)
}

// A token has its role in its maker's scenario too.
func TestATokenInAScenario(t *testing.T) {
	t.Parallel()
	url, enter := apitest.Demo(t).Crew(t)
	member := enter("member", roles.Member, "p13")
	line := scenarioOf(t, member, url, `{"name":"Mine"}`)
	in := fmt.Sprintf("%s/changes?scenario=%d", url, line)
	key := apitest.Token(t, member, url, "member")
	change := apitest.Edit("a", 0, fmt.Sprintf(apitest.Set, "LC-8", "title", `"Mine"`))
	refused := apitest.As(t, apitest.Nobody, http.MethodPost, in, change, key...)
	assert.Equal(t, http.StatusForbidden, refused.Status, refused.Text)
	made := apitest.As(t, member, http.MethodPost, in, change)
	assert.Less(t, made.Status, 300, made.Text)
}
