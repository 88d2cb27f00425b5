package report_test

import (
	"encoding/json"
	"fmt"
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/reports"
	"jantrel/core/roles"
	"jantrel/internal/api/apitest"
)

// everyCard is a page with a card of each kind, about one release where it can be.
func everyCard(t *testing.T) string {
	t.Helper()
	page := reports.Page{Name: "All there is"}
	for i, k := range reports.CardKinds {
		card := reports.Card{Key: fmt.Sprint(i), Kind: k.Kind, Wide: 6, High: 2}
		if len(k.About) > 0 && k.About[0] == "release" {
			card.About.Release = "R1"
		}
		switch k.Kind {
		case reports.CardChart:
			card.Chart = &reports.Chart{Of: reports.Items, Split: []string{"state"}, Measure: "number", Form: reports.Bars}
		case reports.CardText:
			card.Text = "Fog ahead."
		}
		page.Cards = append(page.Cards, card)
	}
	text, err := json.Marshal(page)
	require.NoError(t, err)
	return string(text)
}

// around is what stands beside some words.
func around(text, words string) string {
	if i := strings.Index(text, words); i >= 0 {
		return ": …" + text[max(0, i-60):min(len(text), i+60)] + "…"
	}
	return ""
}

// A screen says what the operations say that a page asks, and names nothing that its cards do not show.
func TestAScreenSaysWhatAPageSays(t *testing.T) {
	t.Parallel()
	h := apitest.Demo(t)
	url, enter := h.Crew(t)
	lead := enter("lead", roles.Lead, "p01")
	made := apitest.As(t, lead, http.MethodPost, url+"/pages", everyCard(t))
	require.Equal(t, http.StatusCreated, made.Status, made.Text)
	screen := apitest.As(t, lead, http.MethodPost, fmt.Sprintf("%s/pages/%v/screens", url, made.Body["id"]), `{"seconds":20,"dimFrom":20,"dimTo":6}`)
	require.Equal(t, http.StatusCreated, screen.Status, screen.Text)
	_, secret, _ := strings.Cut(screen.Body["path"].(string), "#")
	told := apitest.As(t, apitest.Nobody, http.MethodGet, strings.TrimSuffix(url, "/programs/1")+"/shared/"+secret+"/screen", "")
	require.Equal(t, http.StatusOK, told.Status, told.Text)
	shown := told.Body["shown"].(map[string]any)
	cards := map[string]map[string]any{}
	for _, c := range shown["cards"].([]any) {
		c := c.(map[string]any)
		require.NotContains(t, c, "failed")
		cards[c["kind"].(string)] = c
	}
	require.Len(t, cards, len(reports.CardKinds))

	chart := apitest.As(t, lead, http.MethodPost, url+"/charts", `{"charts":[`+apitest.Plain(t, cards["chart"]["chart"])+`]}`)
	assert.Equal(t, apitest.Plain(t, chart.Body["charts"].([]any)[0]), apitest.Plain(t, cards["chart"]["drawn"]))
	when := apitest.As(t, lead, http.MethodPost, url+"/forecast/when", `{"release":"R1"}`)
	for _, kind := range []string{"odds", "burn-up", "burn-down"} {
		assert.Equal(t, apitest.Plain(t, when.Body), apitest.Plain(t, cards[kind]["when"]), kind)
	}
	history := apitest.As(t, lead, http.MethodGet, url+"/scope-history?release=R1", "")
	for _, kind := range []string{"flow", "ledger"} {
		of := cards[kind]["history"].(map[string]any)
		assert.Equal(t, apitest.Plain(t, history.Body["flow"]), apitest.Plain(t, of["flow"]))
		assert.Equal(t, apitest.Plain(t, history.Body["pass"]), apitest.Plain(t, of["pass"]))
		for _, sum := range []string{"start", "added", "removed", "total", "done", "left"} {
			assert.Equal(t, apitest.Plain(t, history.Body["all"].(map[string]any)[sum]), apitest.Plain(t, of["all"].(map[string]any)[sum]), sum)
		}
	}
	mix := apitest.As(t, lead, http.MethodPost, url+"/mix", `{"release":"R1"}`)
	assert.Len(t, cards["mix"]["mix"].(map[string]any)["kinds"], len(mix.Body["kinds"].([]any)))
	assert.Equal(t, mix.Body["items"], cards["mix"]["mix"].(map[string]any)["items"])
	assert.Equal(t, apitest.Plain(t, apitest.As(t, lead, http.MethodGet, url+"/needs/map", "").Body["cells"]), apitest.Plain(t, cards["needs"]["cells"]))
	assert.Equal(t, apitest.Plain(t, apitest.As(t, lead, http.MethodGet, url+"/landings", "").Body["releases"]), apitest.Plain(t, shown["landings"]))
	var entries []any
	for _, e := range apitest.As(t, lead, http.MethodGet, url+"/attention", "").Body["entries"].([]any) {
		if e := e.(map[string]any); e["release"] == "R1" && e["off"] == nil {
			entries = append(entries, e)
		}
	}
	assert.NotEmpty(t, entries)
	assert.Equal(t, apitest.Plain(t, entries), apitest.Plain(t, cards["attention"]["entries"]))

	named := map[string]bool{}
	for _, e := range entries {
		if key, ok := e.(map[string]any)["item"].(string); ok {
			named[key] = true
		}
	}
	l, err := h.Hub.Open(t.Context(), 1)
	require.NoError(t, err)
	p := l.State().Program
	left := 0
	for _, x := range p.Items {
		if !named[x.Key] && !strings.Contains(apitest.Plain(t, entries), x.Title) && x.Title != p.Milestones[0].Name {
			assert.False(t, strings.Contains(told.Text, x.Title), x.Title+around(told.Text, x.Title))
			left++
		}
	}
	assert.Greater(t, left, 20)
	for _, person := range p.People {
		assert.False(t, strings.Contains(told.Text, person.Name), person.Name+around(told.Text, person.Name))
	}
}

// A card can be about what a view holds; on a screen too, where the view's name is known and nothing else of it.
func TestACardAboutAView(t *testing.T) {
	t.Parallel()
	h := apitest.Demo(t)
	url, enter := h.Crew(t)
	lead := enter("lead", roles.Lead, "p01")
	page := `{"name":"P","cards":[{"key":"1","kind":"burn-up","wide":6,"high":2,"about":{"view":"unfinished"}},{"key":"2","kind":"flow","wide":6,"high":2,"about":{"view":"gone"}}%s]}`
	made := apitest.As(t, lead, http.MethodPost, url+"/pages", fmt.Sprintf(page, ""))
	require.Equal(t, http.StatusCreated, made.Status, made.Text)
	assert.Equal(t, http.StatusUnprocessableEntity, apitest.As(t, lead, http.MethodPost, url+"/pages", fmt.Sprintf(page, `,{"key":"3","kind":"capacity","wide":6,"high":2,"about":{"view":"unfinished"}}`)).Status)
	screen := apitest.As(t, lead, http.MethodPost, fmt.Sprintf("%s/pages/%v/screens", url, made.Body["id"]), `{"seconds":20,"dimFrom":0,"dimTo":0}`)
	_, secret, _ := strings.Cut(screen.Body["path"].(string), "#")
	shown := apitest.As(t, apitest.Nobody, http.MethodGet, strings.TrimSuffix(url, "/programs/1")+"/shared/"+secret+"/screen", "").Body["shown"].(map[string]any)
	cards := shown["cards"].([]any)
	when := apitest.As(t, lead, http.MethodPost, url+"/forecast/when", `{"view":"unfinished"}`)
	assert.Equal(t, apitest.Plain(t, when.Body), apitest.Plain(t, cards[0].(map[string]any)["when"]))
	assert.Contains(t, cards[1].(map[string]any)["failed"], "view", "the others are shown all the same")
	views := shown["excerpt"].(map[string]any)["views"].([]any)
	require.Len(t, views, 1)
	assert.Equal(t, "Unfinished", views[0].(map[string]any)["name"])
}

// A screen is shown until it is ended, and as long as who made it belongs to the program and sees the page; it hears
// of every edit.
func TestScreens(t *testing.T) {
	t.Parallel()
	h := apitest.Demo(t)
	url, enter := h.Crew(t)
	lead, other, viewer := enter("lead", roles.Lead, "p01"), enter("other", roles.Lead, "p05"), enter("viewer", roles.Viewer, "")
	made := apitest.As(t, lead, http.MethodPost, url+"/pages", fmt.Sprintf(aPage, `,"shared":"read"`))
	page := fmt.Sprintf("%s/pages/%v", url, made.Body["id"])
	assert.Equal(t, http.StatusForbidden, apitest.As(t, viewer, http.MethodPost, page+"/screens", `{"seconds":20,"dimFrom":0,"dimTo":0}`).Status)
	for _, wrong := range []string{`{"seconds":2,"dimFrom":0,"dimTo":0}`, `{"seconds":20,"dimFrom":0,"dimTo":24}`, `{"seconds":20,"dimFrom":0,"dimTo":0,"cards":["9"]}`} {
		assert.Equal(t, http.StatusUnprocessableEntity, apitest.As(t, lead, http.MethodPost, page+"/screens", wrong).Status, wrong)
	}
	show := func(who *http.Client) (string, string) {
		made := apitest.As(t, who, http.MethodPost, page+"/screens", `{"seconds":20,"dimFrom":0,"dimTo":0}`)
		require.Equal(t, http.StatusCreated, made.Status, made.Text)
		_, secret, _ := strings.Cut(made.Body["path"].(string), "#")
		return strings.TrimSuffix(url, "/programs/1") + "/shared/" + secret + "/screen", fmt.Sprintf("%s/screens/%v", page, made.Body["id"])
	}
	first, ended := show(lead)
	told := apitest.As(t, apitest.Nobody, http.MethodGet, first, "")
	require.Equal(t, http.StatusOK, told.Status, told.Text)
	require.Contains(t, told.Body, "shown")
	same := apitest.As(t, apitest.Nobody, http.MethodGet, first+"?known="+told.Body["stamp"].(string), "")
	assert.NotContains(t, same.Body, "shown", "nothing is sent twice")
	require.Less(t, apitest.As(t, lead, http.MethodPost, url+"/changes", fmt.Sprintf(`{"client":"c","revision":%d,"label":"x","changes":[{"op":"set","kind":"item","key":"LC-8","field":"title","value":"Fog bell"}]}`, h.Revision(t))).Status, 300)
	assert.Contains(t, apitest.As(t, apitest.Nobody, http.MethodGet, first+"?known="+told.Body["stamp"].(string), "").Body, "shown")
	list := apitest.As(t, lead, http.MethodGet, page+"/screens", "")
	assert.Contains(t, list.Text, `"seenAt"`)
	assert.NotContains(t, list.Text, `"path"`, "it is told once")

	require.Less(t, apitest.As(t, lead, http.MethodDelete, ended, "").Status, 300)
	assert.Equal(t, http.StatusNotFound, apitest.As(t, apitest.Nobody, http.MethodGet, first, "").Status)
	assert.Equal(t, http.StatusNotFound, apitest.As(t, lead, http.MethodDelete, ended, "").Status)

	second, _ := show(other)
	require.Equal(t, http.StatusOK, apitest.As(t, apitest.Nobody, http.MethodGet, second, "").Status)
	require.Equal(t, http.StatusOK, apitest.As(t, lead, http.MethodPut, page, fmt.Sprintf(aPage, `,"version":1,"shared":""`)).Status)
	assert.Equal(t, http.StatusNotFound, apitest.As(t, apitest.Nobody, http.MethodGet, second, "").Status, "never more than its maker may see")

	third, _ := show(lead)
	require.Equal(t, http.StatusOK, apitest.As(t, apitest.Nobody, http.MethodGet, third, "").Status)
	a, err := h.Accounts.Store().AccountBy(t.Context(), "login", "lead")
	require.NoError(t, err)
	require.NoError(t, h.Accounts.Store().RemoveMembership(t.Context(), a.ID, 1))
	assert.Equal(t, http.StatusNotFound, apitest.As(t, apitest.Nobody, http.MethodGet, third, "").Status)
}

// A chart, and a card, can be of a view that one keeps for oneself: whoever else looks learns nothing by it, whatever they
// call their own, and a screen follows the view of who made it.
func TestACardOfAViewOfOnesOwn(t *testing.T) {
	t.Parallel()
	h := apitest.Demo(t)
	url, enter := h.Crew(t)
	lead, other := enter("lead", roles.Lead, "p01"), enter("other", roles.Viewer, "")
	kept := func(who *http.Client, kind string) {
		put := apitest.As(t, who, http.MethodPut, url+"/private-views", `[{"key":"mine","name":"Of one kind","filter":{"conditions":[{"field":"kind","is":"is","values":["`+kind+`"]}]}}]`)
		require.Less(t, put.Status, 300, put.Text)
	}
	kept(lead, "defect")
	asked := `{"of":"items","view":"mine","mine":true,"measure":"number","form":"figure"%s}`
	charts := `{"charts":[` + fmt.Sprintf(asked, "") + `,` + fmt.Sprintf(asked, `,"back":14`) + `]}`
	same := func(kind string) string {
		return fmt.Sprintf(`{"charts":[{"of":"items","filter":{"conditions":[{"field":"kind","is":"is","values":["%s"]}]},"measure":"number","form":"figure"}]}`, kind)
	}
	total := func(who *http.Client, body string) any {
		found := apitest.As(t, who, http.MethodPost, url+"/charts", body)
		require.Equal(t, http.StatusOK, found.Status, found.Text)
		table, _ := found.Body["charts"].([]any)[0].(map[string]any)["table"].(map[string]any)
		return table["total"]
	}
	assert.NotNil(t, total(lead, charts))
	assert.Equal(t, total(lead, same("defect")), total(lead, charts))
	refused := apitest.As(t, other, http.MethodPost, url+"/charts", charts)
	assert.Equal(t, 2, strings.Count(refused.Text, "keeps for themselves"), refused.Text)
	assert.NotContains(t, refused.Text, "Of one kind")
	behind := apitest.As(t, lead, http.MethodPost, url+"/charts/behind", `{"chart":`+fmt.Sprintf(asked, "")+`}`)
	assert.Equal(t, total(lead, charts), behind.Body["count"])
	assert.Equal(t, http.StatusUnprocessableEntity, apitest.As(t, other, http.MethodPost, url+"/charts/behind", `{"chart":`+fmt.Sprintf(asked, "")+`}`).Status)
	kept(other, "spike") // by the same key
	assert.Equal(t, total(lead, same("spike")), total(other, charts))
	assert.Equal(t, total(lead, same("defect")), total(lead, charts))

	page := `{"name":"P","shared":"read","cards":[{"key":"1","kind":"chart","wide":6,"high":2,"chart":` + fmt.Sprintf(asked, "") + `},{"key":"2","kind":"burn-up","wide":6,"high":2,"about":{"view":"mine","mine":true}}]}`
	made := apitest.As(t, lead, http.MethodPost, url+"/pages", page)
	require.Equal(t, http.StatusCreated, made.Status, made.Text)
	screen := apitest.As(t, lead, http.MethodPost, fmt.Sprintf("%s/pages/%v/screens", url, made.Body["id"]), `{"seconds":20,"dimFrom":0,"dimTo":0}`)
	_, secret, _ := strings.Cut(screen.Body["path"].(string), "#")
	shows := func() (stamp any, total any, text string) {
		told := apitest.As(t, apitest.Nobody, http.MethodGet, strings.TrimSuffix(url, "/programs/1")+"/shared/"+secret+"/screen", "")
		require.Equal(t, http.StatusOK, told.Status, told.Text)
		card := told.Body["shown"].(map[string]any)["cards"].([]any)[0].(map[string]any)
		return told.Body["stamp"], card["drawn"].(map[string]any)["table"].(map[string]any)["total"], told.Text
	}
	before, defects, text := shows()
	assert.Equal(t, total(lead, same("defect")), defects)
	assert.Contains(t, text, "Of one kind", "its title")
	kept(lead, "enabler")
	after, enablers, _ := shows()
	assert.NotEqual(t, before, after, "another view is something new to show")
	assert.Equal(t, total(lead, same("enabler")), enablers)

	brief := apitest.As(t, lead, http.MethodPost, url+"/briefs", `{}`)
	put := apitest.As(t, lead, http.MethodPut, fmt.Sprintf("%s/briefs/%v", url, brief.Body["id"]), `{"version":1,"title":"B","sections":[{"key":"1","title":"C","live":"figures","chart":`+fmt.Sprintf(asked, "")+`}]}`)
	assert.Equal(t, http.StatusUnprocessableEntity, put.Status)
	assert.Contains(t, put.Text, "others read a brief")
}
