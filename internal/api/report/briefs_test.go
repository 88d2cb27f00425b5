package report_test

import (
	"fmt"
	"net/http"
	"os"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/calendar"
	"jantrel/core/roles"
	"jantrel/internal/api/apitest"
	"jantrel/internal/demo"
)

// The briefs of the demo, as they are read aloud. After a change that is meant: BRIEFS=1 go test ./internal/api -run ReadAloud.
func TestBriefsOfTheDemoAreReadAloud(t *testing.T) {
	t.Parallel()
	url := apitest.Serve(t, demo.Program(calendar.MustParse("2027-03-02"))).URL + "/api/v1/programs/1"
	link := regexp.MustCompile(`\[([^]]*)\]\(` + strings.Replace(url, "/api/v1", "", 1) + `/backlog\?item=[^)]*\)`)
	for name, about := range map[string]string{"release": `{"about":{"release":"R1"}}`, "program": `{}`, "iteration": `{"about":{"team":"LC","iteration":"LC-i11"}}`} {
		made := apitest.OK(t, http.MethodPost, url+"/briefs", about)
		text := apitest.OK(t, http.MethodGet, fmt.Sprintf("%s/reports/brief?brief=%v", url, made.Body["id"]), "").Text
		assert.Regexp(t, link, text, name)
		text = link.ReplaceAllString(text, "$1") // nobody reads an address aloud
		file := "testdata/brief-" + name + ".md"
		if os.Getenv("BRIEFS") != "" {
			require.NoError(t, os.MkdirAll("testdata", 0o755))
			require.NoError(t, os.WriteFile(file, []byte(text), 0o644))
		}
		golden, err := os.ReadFile(file)
		require.NoError(t, err)
		assert.Equal(t, string(golden), text, name)
		for _, raw := range []string{"R1", "LC-i", "\"", "{", "NaN", "%!", " .", "..", "  \n", "p01"} {
			assert.NotContains(t, text, raw, name)
		}
	}
}

// A draft follows the plan; what is published stands as it was, and the next one tells what changed.
func TestABriefIsWrittenPublishedAndFollowed(t *testing.T) {
	t.Parallel()
	url := apitest.ServeDemo(t)
	made := apitest.OK(t, http.MethodPost, url+"/briefs", `{"about":{"release":"R1"}}`)
	brief := fmt.Sprintf("%s/briefs/%v", url, made.Body["id"])
	assert.Equal(t, "Plan of First Light", made.Body["title"])
	put := func(version int, sections string) apitest.Answer {
		return apitest.Call(t, http.MethodPut, brief, fmt.Sprintf(`{"version":%d,"title":"Plan of First Light","sections":[%s]}`, version, sections))
	}
	sections := `{"key":"1","title":"Why","text":"See LC-8, **please**.","live":"short"},{"key":"2","title":"Since","live":"since"},{"key":"3","title":"Not told","live":"risks","out":true},
		{"key":"4","title":"By team","live":"figures","chart":{"of":"items","split":["team"],"measure":"number","form":"bars"}},{"key":"5","title":"Back","live":"review"}`
	kept := put(1, sections)
	require.Equal(t, http.StatusOK, kept.Status, kept.Text)
	assert.Contains(t, kept.Text, "This is the first brief about it.")
	assert.Contains(t, kept.Text, `{"key":"LC-8","title":"`)
	assert.NotContains(t, kept.Text, `"title":"Not told","text"`)
	assert.Equal(t, http.StatusConflict, put(1, sections).Status)
	bad := put(2, `{"key":"1","title":"X","live":"figures"}`)
	assert.Equal(t, http.StatusUnprocessableEntity, bad.Status)
	assert.Contains(t, bad.Text, "Nothing was kept: section 1: a chart, and nothing else")

	before := apitest.OK(t, http.MethodGet, brief, "").Body["written"]
	apitest.OK(t, http.MethodPost, url+"/changes", apitest.Edit("a", 0, fmt.Sprintf(apitest.Set, "LC-8", "state", `"done"`)))
	assert.NotEqual(t, before, apitest.OK(t, http.MethodGet, brief, "").Body["written"], "a draft follows the plan")
	assert.Equal(t, http.StatusConflict, apitest.Call(t, http.MethodPost, brief+"/publish", `{"version":1}`).Status)
	out := apitest.OK(t, http.MethodPost, brief+"/publish", `{"version":2}`)
	assert.Equal(t, 1.0, out.Body["number"])
	assert.Equal(t, 1.0, out.Body["revision"])
	apitest.OK(t, http.MethodPost, url+"/changes", apitest.Edit("a", 1, fmt.Sprintf(apitest.Set, "LC-9", "state", `"done"`)))
	again := apitest.OK(t, http.MethodGet, brief, "")
	assert.Equal(t, out.Body["written"], again.Body["written"], "what is published stands")
	assert.Equal(t, http.StatusConflict, put(3, sections).Status)
	assert.Equal(t, http.StatusNotFound, apitest.Call(t, http.MethodDelete, brief, "").Status)

	next := apitest.OK(t, http.MethodPost, url+"/briefs", `{"about":{"release":"R1"}}`)
	assert.Contains(t, next.Text, "See LC-8, **please**.", "it goes on with the same words")
	assert.Contains(t, next.Text, "Since brief 1 of 2 Mar: 1 item done.")
	page := apitest.OK(t, http.MethodGet, fmt.Sprintf("%s/reports/brief?brief=%v&format=html", url, made.Body["id"]), "").Text
	assert.Contains(t, page, "<strong>please</strong>")
	assert.Contains(t, page, "Brief 1, 2 Mar")
	assert.NotContains(t, page, "<script")
	apitest.OK(t, http.MethodDelete, fmt.Sprintf("%s/briefs/%v", url, next.Body["id"]), "")
	assert.Equal(t, http.StatusUnprocessableEntity, apitest.Call(t, http.MethodPost, url+"/briefs", `{"about":{"release":"gone"}}`).Status)
}

// Own words bring nothing into the page of a brief that runs or is fetched.
func TestAPageOfABriefIsHarmless(t *testing.T) {
	t.Parallel()
	url := apitest.ServeDemo(t)
	made := apitest.OK(t, http.MethodPost, url+"/briefs", `{}`)
	text := `<script>alert(1)</script> <img src=x onerror=alert(1)> ![a](https://elsewhere.example/x.png) [b](javascript:alert(1)) <iframe src=\"//x\"></iframe>`
	brief := fmt.Sprintf("%s/briefs/%v", url, made.Body["id"])
	apitest.OK(t, http.MethodPut, brief, `{"version":1,"title":"<b>Title</b>","sections":[{"key":"1","title":"<i>","text":"`+text+`"}]}`)
	page := apitest.OK(t, http.MethodGet, fmt.Sprintf("%s/reports/brief?brief=%v&format=html", url, made.Body["id"]), "").Text
	for _, bad := range []string{"<script", "<img", "<iframe", "javascript:", "onerror=", "<b>", "<i>"} {
		assert.NotContains(t, strings.ToLower(page), bad)
	}
}

// A link leads to one published brief and to nothing else, until it is ended or who made it has gone.
func TestLinksToBriefs(t *testing.T) {
	t.Parallel()
	h := apitest.Demo(t)
	url, enter := h.Crew(t)
	lead, viewer := enter("lead", roles.Lead, "p01"), enter("viewer", roles.Viewer, "")
	made := apitest.As(t, lead, http.MethodPost, url+"/briefs", `{}`)
	require.Equal(t, http.StatusCreated, made.Status, made.Text)
	brief := fmt.Sprintf("%s/briefs/%v", url, made.Body["id"])
	assert.Equal(t, http.StatusForbidden, apitest.As(t, viewer, http.MethodGet, brief, "").Status, "drafts are for who writes")
	assert.Equal(t, http.StatusUnprocessableEntity, apitest.As(t, lead, http.MethodPost, brief+"/links", "").Status)
	require.Equal(t, http.StatusOK, apitest.As(t, lead, http.MethodPost, brief+"/publish", `{"version":1}`).Status)
	assert.Equal(t, http.StatusOK, apitest.As(t, viewer, http.MethodGet, brief, "").Status)
	assert.Equal(t, http.StatusForbidden, apitest.As(t, viewer, http.MethodPost, brief+"/links", "").Status)
	link := apitest.As(t, lead, http.MethodPost, brief+"/links", "")
	require.Equal(t, http.StatusCreated, link.Status, link.Text)
	address := strings.TrimSuffix(url, "/api/v1/programs/1") + link.Body["path"].(string)
	read := apitest.As(t, apitest.Nobody, http.MethodGet, address, "")
	require.Equal(t, http.StatusOK, read.Status, read.Text)
	assert.Contains(t, read.Text, "<h1>Plan of Beacon Renewal</h1>")
	assert.Contains(t, apitest.As(t, lead, http.MethodGet, brief+"/links", "").Text, `"readAt"`)
	assert.NotContains(t, apitest.As(t, lead, http.MethodGet, brief+"/links", "").Text, `"path"`, "it is told once")
	assert.Equal(t, http.StatusUnauthorized, apitest.As(t, apitest.Nobody, http.MethodGet, brief, "").Status)
	assert.Equal(t, http.StatusNotFound, apitest.As(t, apitest.Nobody, http.MethodGet, address+"x", "").Status)
	second := apitest.As(t, lead, http.MethodPost, brief+"/links", "")
	ended := fmt.Sprintf("%s/links/%v", url, link.Body["id"])
	require.Less(t, apitest.As(t, lead, http.MethodDelete, ended, "").Status, 300)
	assert.Equal(t, http.StatusNotFound, apitest.As(t, apitest.Nobody, http.MethodGet, address, "").Status)
	assert.Equal(t, http.StatusNotFound, apitest.As(t, lead, http.MethodDelete, ended, "").Status)
	address = strings.TrimSuffix(url, "/api/v1/programs/1") + second.Body["path"].(string)
	require.Equal(t, http.StatusOK, apitest.As(t, apitest.Nobody, http.MethodGet, address, "").Status)
	a, err := h.Accounts.Store().AccountBy(t.Context(), "login", "lead")
	require.NoError(t, err)
	require.NoError(t, h.Accounts.Store().RemoveMembership(t.Context(), a.ID, 1))
	assert.Equal(t, http.StatusNotFound, apitest.As(t, apitest.Nobody, http.MethodGet, address, "").Status, "never more than its maker may see")
}
