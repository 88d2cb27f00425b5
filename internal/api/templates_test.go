package api_test

import (
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

// A template is made of a program, used for a new one, sent out and brought along again.
func TestTemplates(t *testing.T) {
	h := newHarbour(t, demo.Program(sample.Today))
	url, enter := crewOf(t, h)
	root := strings.TrimSuffix(url, "/programs/1")
	manager, other, member := enter("manager", roles.Manager, ""), enter("other", roles.Manager, ""), enter("member", roles.Member, "p13")
	page := `{"name":"Weekly","shared":"read","cards":[{"key":"1","kind":"attention","wide":6,"high":2},{"key":"2","kind":"burn-up","wide":6,"high":2,"about":{"release":"R1"}}]}`
	require.Equal(t, http.StatusCreated, as(t, manager, http.MethodPost, url+"/pages", page).status)
	brief := as(t, manager, http.MethodPost, url+"/briefs", `{}`)
	require.Less(t, as(t, manager, http.MethodPost, fmt.Sprintf("%s/briefs/%v/publish", url, brief.body["id"]), `{"version":1}`).status, 300)
	of := as(t, manager, http.MethodPost, url+"/briefs", `{"about":{"release":"R1"}}`)
	at := fmt.Sprintf("%s/briefs/%v", url, of.body["id"])
	sections := `{"key":"1","title":"Only this","text":"Words of ours.","live":"dates"},{"key":"2","title":"Of a team","live":"figures","chart":{"of":"items","team":"LC","measure":"number","form":"figure"}}`
	require.Equal(t, http.StatusOK, as(t, manager, http.MethodPut, at, `{"version":1,"title":"B","sections":[`+sections+`]}`).status)
	require.Less(t, as(t, manager, http.MethodPost, at+"/publish", `{"version":2}`).status, 300)
	assert.Equal(t, http.StatusForbidden, as(t, member, http.MethodPost, url+"/template", `{"name":"x"}`).status)
	made := as(t, manager, http.MethodPost, url+"/template", `{"name":"As the harbour works","says":"For chains of lights"}`)
	require.Equal(t, http.StatusCreated, made.status, made.text)
	key := made.body["key"].(string)
	assert.NotContains(t, as(t, member, http.MethodGet, root+"/templates", "").text, key, "it is for those who may make programs")
	assert.Contains(t, as(t, other, http.MethodGet, root+"/templates", "").text, "For chains of lights")

	start := func(key string) string {
		begun := as(t, other, http.MethodPost, root+"/programs", fmt.Sprintf(`{"name":"Second chain","template":%q}`, key))
		require.Equal(t, http.StatusCreated, begun.status, begun.text)
		return fmt.Sprintf("%s/programs/%v", root, begun.body["id"])
	}
	second := start(key)
	document := as(t, other, http.MethodGet, second+"/document", "").text
	assert.Contains(t, document, `"name": "Through all layers"`)
	assert.NotContains(t, document, `"people"`)
	pages := as(t, other, http.MethodGet, second+"/pages", "").text
	assert.Contains(t, pages, `"name":"Weekly"`)
	assert.Contains(t, as(t, other, http.MethodGet, second+"/briefs", "").text, `"title":"Plan of Second chain"`)

	release := `{"op":"add","kind":"release","key":"R9","value":{"key":"R9","name":"Next","due":"2027-09-01"}}`
	require.Less(t, as(t, other, http.MethodPost, second+"/changes", edit("r", 0, release)).status, 300)
	begun := as(t, other, http.MethodPost, second+"/briefs", `{"about":{"release":"R9"}}`)
	require.Equal(t, http.StatusCreated, begun.status, begun.text)
	assert.Equal(t, "Plan of Next", begun.body["title"])
	assert.Equal(t, `[{"key":"1","live":"dates","title":"Only this"}]`, plain(t, begun.body["sections"]))

	text := as(t, other, http.MethodGet, root+"/templates/"+strings.TrimPrefix(key, "kept:")+"/document", "").text
	assert.Contains(t, text, `"format": "jantrel-template"`)
	brought := as(t, other, http.MethodPost, root+"/templates", strings.Replace(text, "As the harbour works", "From elsewhere", 1))
	require.Equal(t, http.StatusCreated, brought.status, brought.text)
	third := start(brought.body["key"].(string))
	assert.Equal(t, document, as(t, other, http.MethodGet, third+"/document", "").text, "it is the same again")
	bad := as(t, other, http.MethodPost, root+"/templates", strings.Replace(text, `"fillTo": 0.95`, `"fillTo": 3`, 1))
	assert.Equal(t, http.StatusUnprocessableEntity, bad.status)
	assert.Contains(t, bad.text, "fillTo")

	remove := root + "/templates/" + strings.TrimPrefix(key, "kept:")
	assert.Equal(t, http.StatusForbidden, as(t, other, http.MethodDelete, remove, "").status)
	require.Less(t, as(t, manager, http.MethodDelete, remove, "").status, 300)
	assert.Equal(t, http.StatusNotFound, as(t, other, http.MethodPost, root+"/programs", fmt.Sprintf(`{"name":"x","template":%q}`, key)).status)
}
