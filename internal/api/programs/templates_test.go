package programs_test

import (
	"fmt"
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/roles"
	"jantrel/internal/api/apitest"
)

// A template is made of a program, used for a new one, sent out and brought along again.
func TestTemplates(t *testing.T) {
	t.Parallel()
	h := apitest.Demo(t)
	url, enter := h.Crew(t)
	root := strings.TrimSuffix(url, "/programs/1")
	manager, other, member := enter("manager", roles.Manager, ""), enter("other", roles.Manager, ""), enter("member", roles.Member, "p13")
	page := `{"name":"Weekly","shared":"read","cards":[{"key":"1","kind":"attention","wide":6,"high":2},{"key":"2","kind":"burn-up","wide":6,"high":2,"about":{"release":"R1"}}]}`
	require.Equal(t, http.StatusCreated, apitest.As(t, manager, http.MethodPost, url+"/pages", page).Status)
	brief := apitest.As(t, manager, http.MethodPost, url+"/briefs", `{}`)
	require.Less(t, apitest.As(t, manager, http.MethodPost, fmt.Sprintf("%s/briefs/%v/publish", url, brief.Body["id"]), `{"version":1}`).Status, 300)
	of := apitest.As(t, manager, http.MethodPost, url+"/briefs", `{"about":{"release":"R1"}}`)
	at := fmt.Sprintf("%s/briefs/%v", url, of.Body["id"])
	sections := `{"key":"1","title":"Only this","text":"Words of ours.","live":"dates"},{"key":"2","title":"Of a team","live":"figures","chart":{"of":"items","team":"LC","measure":"number","form":"figure"}}`
	require.Equal(t, http.StatusOK, apitest.As(t, manager, http.MethodPut, at, `{"version":1,"title":"B","sections":[`+sections+`]}`).Status)
	require.Less(t, apitest.As(t, manager, http.MethodPost, at+"/publish", `{"version":2}`).Status, 300)
	assert.Equal(t, http.StatusForbidden, apitest.As(t, member, http.MethodPost, url+"/template", `{"name":"x"}`).Status)
	made := apitest.As(t, manager, http.MethodPost, url+"/template", `{"name":"As the harbour works","says":"For chains of lights"}`)
	require.Equal(t, http.StatusCreated, made.Status, made.Text)
	key := made.Body["key"].(string)
	assert.NotContains(t, apitest.As(t, member, http.MethodGet, root+"/templates", "").Text, key, "it is for those who may make programs")
	assert.Contains(t, apitest.As(t, other, http.MethodGet, root+"/templates", "").Text, "For chains of lights")

	start := func(key string) string {
		begun := apitest.As(t, other, http.MethodPost, root+"/programs", fmt.Sprintf(`{"name":"Second chain","template":%q}`, key))
		require.Equal(t, http.StatusCreated, begun.Status, begun.Text)
		return fmt.Sprintf("%s/programs/%v", root, begun.Body["id"])
	}
	second := start(key)
	document := apitest.As(t, other, http.MethodGet, second+"/document", "").Text
	assert.Contains(t, document, `"name": "Through all layers"`)
	assert.NotContains(t, document, `"people"`)
	pages := apitest.As(t, other, http.MethodGet, second+"/pages", "").Text
	assert.Contains(t, pages, `"name":"Weekly"`)
	assert.Contains(t, apitest.As(t, other, http.MethodGet, second+"/briefs", "").Text, `"title":"Plan of Second chain"`)

	release := `{"op":"add","kind":"release","key":"R9","value":{"key":"R9","name":"Next","due":"2027-09-01"}}`
	require.Less(t, apitest.As(t, other, http.MethodPost, second+"/changes", apitest.Edit("r", 0, release)).Status, 300)
	begun := apitest.As(t, other, http.MethodPost, second+"/briefs", `{"about":{"release":"R9"}}`)
	require.Equal(t, http.StatusCreated, begun.Status, begun.Text)
	assert.Equal(t, "Plan of Next", begun.Body["title"])
	assert.Equal(t, `[{"key":"1","live":"dates","title":"Only this"}]`, apitest.Plain(t, begun.Body["sections"]))

	text := apitest.As(t, other, http.MethodGet, root+"/templates/"+strings.TrimPrefix(key, "kept:")+"/document", "").Text
	assert.Contains(t, text, `"format": "jantrel-template"`)
	brought := apitest.As(t, other, http.MethodPost, root+"/templates", strings.Replace(text, "As the harbour works", "From elsewhere", 1))
	require.Equal(t, http.StatusCreated, brought.Status, brought.Text)
	third := start(brought.Body["key"].(string))
	assert.Equal(t, document, apitest.As(t, other, http.MethodGet, third+"/document", "").Text, "it is the same again")
	bad := apitest.As(t, other, http.MethodPost, root+"/templates", strings.Replace(text, `"fillTo": 0.95`, `"fillTo": 3`, 1))
	assert.Equal(t, http.StatusUnprocessableEntity, bad.Status)
	assert.Contains(t, bad.Text, "fillTo")

	remove := root + "/templates/" + strings.TrimPrefix(key, "kept:")
	assert.Equal(t, http.StatusForbidden, apitest.As(t, other, http.MethodDelete, remove, "").Status)
	require.Less(t, apitest.As(t, manager, http.MethodDelete, remove, "").Status, 300)
	assert.Equal(t, http.StatusNotFound, apitest.As(t, other, http.MethodPost, root+"/programs", fmt.Sprintf(`{"name":"x","template":%q}`, key)).Status)
}
