package api_test

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
	"jantrel/core/sample"
	"jantrel/internal/demo"
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

// plain is a value as JSON has it, so that answers can be compared.
func plain(t *testing.T, v any) string {
	t.Helper()
	text, err := json.Marshal(v)
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
	h := newHarbour(t, demo.Program(sample.Today))
	url, enter := crewOf(t, h)
	lead := enter("lead", roles.Lead, "p01")
	made := as(t, lead, http.MethodPost, url+"/pages", everyCard(t))
	require.Equal(t, http.StatusCreated, made.status, made.text)
	screen := as(t, lead, http.MethodPost, fmt.Sprintf("%s/pages/%v/screens", url, made.body["id"]), `{"seconds":20,"dimFrom":20,"dimTo":6}`)
	require.Equal(t, http.StatusCreated, screen.status, screen.text)
	_, secret, _ := strings.Cut(screen.body["path"].(string), "#")
	told := as(t, nobody, http.MethodGet, strings.TrimSuffix(url, "/programs/1")+"/shared/"+secret+"/screen", "")
	require.Equal(t, http.StatusOK, told.status, told.text)
	shown := told.body["shown"].(map[string]any)
	cards := map[string]map[string]any{}
	for _, c := range shown["cards"].([]any) {
		c := c.(map[string]any)
		require.NotContains(t, c, "failed")
		cards[c["kind"].(string)] = c
	}
	require.Len(t, cards, len(reports.CardKinds))

	chart := as(t, lead, http.MethodPost, url+"/charts", `{"charts":[`+plain(t, cards["chart"]["chart"])+`]}`)
	assert.Equal(t, plain(t, chart.body["charts"].([]any)[0]), plain(t, cards["chart"]["drawn"]))
	when := as(t, lead, http.MethodPost, url+"/forecast/when", `{"release":"R1"}`)
	for _, kind := range []string{"odds", "burn-up", "burn-down"} {
		assert.Equal(t, plain(t, when.body), plain(t, cards[kind]["when"]), kind)
	}
	history := as(t, lead, http.MethodGet, url+"/scope-history?release=R1", "")
	for _, kind := range []string{"flow", "ledger"} {
		of := cards[kind]["history"].(map[string]any)
		assert.Equal(t, plain(t, history.body["flow"]), plain(t, of["flow"]))
		assert.Equal(t, plain(t, history.body["pass"]), plain(t, of["pass"]))
		for _, sum := range []string{"start", "added", "removed", "total", "done", "left"} {
			assert.Equal(t, plain(t, history.body["all"].(map[string]any)[sum]), plain(t, of["all"].(map[string]any)[sum]), sum)
		}
	}
	mix := as(t, lead, http.MethodPost, url+"/mix", `{"release":"R1"}`)
	assert.Len(t, cards["mix"]["mix"].(map[string]any)["kinds"], len(mix.body["kinds"].([]any)))
	assert.Equal(t, mix.body["items"], cards["mix"]["mix"].(map[string]any)["items"])
	assert.Equal(t, plain(t, as(t, lead, http.MethodGet, url+"/needs/map", "").body["cells"]), plain(t, cards["needs"]["cells"]))
	assert.Equal(t, plain(t, as(t, lead, http.MethodGet, url+"/landings", "").body["releases"]), plain(t, shown["landings"]))
	var entries []any
	for _, e := range as(t, lead, http.MethodGet, url+"/attention", "").body["entries"].([]any) {
		if e := e.(map[string]any); e["release"] == "R1" && e["off"] == nil {
			entries = append(entries, e)
		}
	}
	assert.NotEmpty(t, entries)
	assert.Equal(t, plain(t, entries), plain(t, cards["attention"]["entries"]))

	named := map[string]bool{}
	for _, e := range entries {
		if key, ok := e.(map[string]any)["item"].(string); ok {
			named[key] = true
		}
	}
	l, err := h.hub.Open(t.Context(), 1)
	require.NoError(t, err)
	p := l.State().Program
	left := 0
	for _, x := range p.Items {
		if !named[x.Key] && !strings.Contains(plain(t, entries), x.Title) && x.Title != p.Milestones[0].Name {
			assert.False(t, strings.Contains(told.text, x.Title), x.Title+around(told.text, x.Title))
			left++
		}
	}
	assert.Greater(t, left, 20)
	for _, person := range p.People {
		assert.False(t, strings.Contains(told.text, person.Name), person.Name+around(told.text, person.Name))
	}
}

// A card can be about what a view holds; on a screen too, where the view's name is known and nothing else of it.
func TestACardAboutAView(t *testing.T) {
	h := newHarbour(t, demo.Program(sample.Today))
	url, enter := crewOf(t, h)
	lead := enter("lead", roles.Lead, "p01")
	page := `{"name":"P","cards":[{"key":"1","kind":"burn-up","wide":6,"high":2,"about":{"view":"unfinished"}},{"key":"2","kind":"flow","wide":6,"high":2,"about":{"view":"gone"}}%s]}`
	made := as(t, lead, http.MethodPost, url+"/pages", fmt.Sprintf(page, ""))
	require.Equal(t, http.StatusCreated, made.status, made.text)
	assert.Equal(t, http.StatusUnprocessableEntity, as(t, lead, http.MethodPost, url+"/pages", fmt.Sprintf(page, `,{"key":"3","kind":"capacity","wide":6,"high":2,"about":{"view":"unfinished"}}`)).status)
	screen := as(t, lead, http.MethodPost, fmt.Sprintf("%s/pages/%v/screens", url, made.body["id"]), `{"seconds":20,"dimFrom":0,"dimTo":0}`)
	_, secret, _ := strings.Cut(screen.body["path"].(string), "#")
	shown := as(t, nobody, http.MethodGet, strings.TrimSuffix(url, "/programs/1")+"/shared/"+secret+"/screen", "").body["shown"].(map[string]any)
	cards := shown["cards"].([]any)
	when := as(t, lead, http.MethodPost, url+"/forecast/when", `{"view":"unfinished"}`)
	assert.Equal(t, plain(t, when.body), plain(t, cards[0].(map[string]any)["when"]))
	assert.Contains(t, cards[1].(map[string]any)["failed"], "view", "the others are shown all the same")
	views := shown["excerpt"].(map[string]any)["views"].([]any)
	require.Len(t, views, 1)
	assert.Equal(t, "Unfinished", views[0].(map[string]any)["name"])
}

// A screen is shown until it is ended, and as long as who made it belongs to the program and sees the page; it hears
// of every edit.
func TestScreens(t *testing.T) {
	h := newHarbour(t, demo.Program(sample.Today))
	url, enter := crewOf(t, h)
	lead, other, viewer := enter("lead", roles.Lead, "p01"), enter("other", roles.Lead, "p05"), enter("viewer", roles.Viewer, "")
	made := as(t, lead, http.MethodPost, url+"/pages", fmt.Sprintf(aPage, `,"shared":"read"`))
	page := fmt.Sprintf("%s/pages/%v", url, made.body["id"])
	assert.Equal(t, http.StatusForbidden, as(t, viewer, http.MethodPost, page+"/screens", `{"seconds":20,"dimFrom":0,"dimTo":0}`).status)
	for _, wrong := range []string{`{"seconds":2,"dimFrom":0,"dimTo":0}`, `{"seconds":20,"dimFrom":0,"dimTo":24}`, `{"seconds":20,"dimFrom":0,"dimTo":0,"cards":["9"]}`} {
		assert.Equal(t, http.StatusUnprocessableEntity, as(t, lead, http.MethodPost, page+"/screens", wrong).status, wrong)
	}
	show := func(who *http.Client) (string, string) {
		made := as(t, who, http.MethodPost, page+"/screens", `{"seconds":20,"dimFrom":0,"dimTo":0}`)
		require.Equal(t, http.StatusCreated, made.status, made.text)
		_, secret, _ := strings.Cut(made.body["path"].(string), "#")
		return strings.TrimSuffix(url, "/programs/1") + "/shared/" + secret + "/screen", fmt.Sprintf("%s/screens/%v", page, made.body["id"])
	}
	first, ended := show(lead)
	told := as(t, nobody, http.MethodGet, first, "")
	require.Equal(t, http.StatusOK, told.status, told.text)
	require.Contains(t, told.body, "shown")
	same := as(t, nobody, http.MethodGet, first+"?known="+told.body["stamp"].(string), "")
	assert.NotContains(t, same.body, "shown", "nothing is sent twice")
	require.Less(t, as(t, lead, http.MethodPost, url+"/changes", fmt.Sprintf(`{"client":"c","revision":%d,"label":"x","changes":[{"op":"set","kind":"item","key":"LC-8","field":"title","value":"Fog bell"}]}`, revision(t, h))).status, 300)
	assert.Contains(t, as(t, nobody, http.MethodGet, first+"?known="+told.body["stamp"].(string), "").body, "shown")
	list := as(t, lead, http.MethodGet, page+"/screens", "")
	assert.Contains(t, list.text, `"seenAt"`)
	assert.NotContains(t, list.text, `"path"`, "it is told once")

	require.Less(t, as(t, lead, http.MethodDelete, ended, "").status, 300)
	assert.Equal(t, http.StatusNotFound, as(t, nobody, http.MethodGet, first, "").status)
	assert.Equal(t, http.StatusNotFound, as(t, lead, http.MethodDelete, ended, "").status)

	second, _ := show(other)
	require.Equal(t, http.StatusOK, as(t, nobody, http.MethodGet, second, "").status)
	require.Equal(t, http.StatusOK, as(t, lead, http.MethodPut, page, fmt.Sprintf(aPage, `,"version":1,"shared":""`)).status)
	assert.Equal(t, http.StatusNotFound, as(t, nobody, http.MethodGet, second, "").status, "never more than its maker may see")

	third, _ := show(lead)
	require.Equal(t, http.StatusOK, as(t, nobody, http.MethodGet, third, "").status)
	a, err := h.hub.Store().AccountBy(t.Context(), "login", "lead")
	require.NoError(t, err)
	require.NoError(t, h.hub.Store().RemoveMembership(t.Context(), a.ID, 1))
	assert.Equal(t, http.StatusNotFound, as(t, nobody, http.MethodGet, third, "").status)
}

// A chart, and a card, can be of a view that one keeps for oneself: whoever else looks learns nothing by it, whatever they
// call their own, and a screen follows the view of who made it.
func TestACardOfAViewOfOnesOwn(t *testing.T) {
	h := newHarbour(t, demo.Program(sample.Today))
	url, enter := crewOf(t, h)
	lead, other := enter("lead", roles.Lead, "p01"), enter("other", roles.Viewer, "")
	kept := func(who *http.Client, kind string) {
		put := as(t, who, http.MethodPut, url+"/private-views", `[{"key":"mine","name":"Of one kind","filter":{"conditions":[{"field":"kind","is":"is","values":["`+kind+`"]}]}}]`)
		require.Less(t, put.status, 300, put.text)
	}
	kept(lead, "defect")
	asked := `{"of":"items","view":"mine","mine":true,"measure":"number","form":"figure"%s}`
	charts := `{"charts":[` + fmt.Sprintf(asked, "") + `,` + fmt.Sprintf(asked, `,"back":14`) + `]}`
	same := func(kind string) string {
		return fmt.Sprintf(`{"charts":[{"of":"items","filter":{"conditions":[{"field":"kind","is":"is","values":["%s"]}]},"measure":"number","form":"figure"}]}`, kind)
	}
	total := func(who *http.Client, body string) any {
		found := as(t, who, http.MethodPost, url+"/charts", body)
		require.Equal(t, http.StatusOK, found.status, found.text)
		table, _ := found.body["charts"].([]any)[0].(map[string]any)["table"].(map[string]any)
		return table["total"]
	}
	assert.NotNil(t, total(lead, charts))
	assert.Equal(t, total(lead, same("defect")), total(lead, charts))
	refused := as(t, other, http.MethodPost, url+"/charts", charts)
	assert.Equal(t, 2, strings.Count(refused.text, "keeps for themselves"), refused.text)
	assert.NotContains(t, refused.text, "Of one kind")
	behind := as(t, lead, http.MethodPost, url+"/charts/behind", `{"chart":`+fmt.Sprintf(asked, "")+`}`)
	assert.Equal(t, total(lead, charts), behind.body["count"])
	assert.Equal(t, http.StatusUnprocessableEntity, as(t, other, http.MethodPost, url+"/charts/behind", `{"chart":`+fmt.Sprintf(asked, "")+`}`).status)
	kept(other, "spike") // by the same key
	assert.Equal(t, total(lead, same("spike")), total(other, charts))
	assert.Equal(t, total(lead, same("defect")), total(lead, charts))

	page := `{"name":"P","shared":"read","cards":[{"key":"1","kind":"chart","wide":6,"high":2,"chart":` + fmt.Sprintf(asked, "") + `},{"key":"2","kind":"burn-up","wide":6,"high":2,"about":{"view":"mine","mine":true}}]}`
	made := as(t, lead, http.MethodPost, url+"/pages", page)
	require.Equal(t, http.StatusCreated, made.status, made.text)
	screen := as(t, lead, http.MethodPost, fmt.Sprintf("%s/pages/%v/screens", url, made.body["id"]), `{"seconds":20,"dimFrom":0,"dimTo":0}`)
	_, secret, _ := strings.Cut(screen.body["path"].(string), "#")
	shows := func() (stamp any, total any, text string) {
		told := as(t, nobody, http.MethodGet, strings.TrimSuffix(url, "/programs/1")+"/shared/"+secret+"/screen", "")
		require.Equal(t, http.StatusOK, told.status, told.text)
		card := told.body["shown"].(map[string]any)["cards"].([]any)[0].(map[string]any)
		return told.body["stamp"], card["drawn"].(map[string]any)["table"].(map[string]any)["total"], told.text
	}
	before, defects, text := shows()
	assert.Equal(t, total(lead, same("defect")), defects)
	assert.Contains(t, text, "Of one kind", "its title")
	kept(lead, "enabler")
	after, enablers, _ := shows()
	assert.NotEqual(t, before, after, "another view is something new to show")
	assert.Equal(t, total(lead, same("enabler")), enablers)

	brief := as(t, lead, http.MethodPost, url+"/briefs", `{}`)
	put := as(t, lead, http.MethodPut, fmt.Sprintf("%s/briefs/%v", url, brief.body["id"]), `{"version":1,"title":"B","sections":[{"key":"1","title":"C","live":"figures","chart":`+fmt.Sprintf(asked, "")+`}]}`)
	assert.Equal(t, http.StatusUnprocessableEntity, put.status)
	assert.Contains(t, put.text, "others read a brief")
}
