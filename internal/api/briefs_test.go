package api_test

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
	"jantrel/core/sample"
	"jantrel/internal/demo"
)

// The briefs of the demo, as they are read aloud. After a change that is meant: BRIEFS=1 go test ./internal/api -run ReadAloud.
func TestBriefsOfTheDemoAreReadAloud(t *testing.T) {
	url := serve(t, demo.Program(calendar.MustParse("2027-03-02"))).URL + "/api/v1/programs/1"
	link := regexp.MustCompile(`\[([^]]*)\]\(` + strings.Replace(url, "/api/v1", "", 1) + `/backlog\?item=[^)]*\)`)
	for name, about := range map[string]string{"release": `{"about":{"release":"R1"}}`, "program": `{}`, "iteration": `{"about":{"team":"LC","iteration":"LC-i11"}}`} {
		made := ok(t, http.MethodPost, url+"/briefs", about)
		text := ok(t, http.MethodGet, fmt.Sprintf("%s/reports/brief?brief=%v", url, made.body["id"]), "").text
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
	url := serve(t, demo.Program(sample.Today)).URL + "/api/v1/programs/1"
	made := ok(t, http.MethodPost, url+"/briefs", `{"about":{"release":"R1"}}`)
	brief := fmt.Sprintf("%s/briefs/%v", url, made.body["id"])
	assert.Equal(t, "Plan of First Light", made.body["title"])
	put := func(version int, sections string) answer {
		return call(t, http.MethodPut, brief, fmt.Sprintf(`{"version":%d,"title":"Plan of First Light","sections":[%s]}`, version, sections))
	}
	sections := `{"key":"1","title":"Why","text":"See LC-8, **please**.","live":"short"},{"key":"2","title":"Since","live":"since"},{"key":"3","title":"Not told","live":"risks","out":true},
		{"key":"4","title":"By team","live":"figures","chart":{"of":"items","split":["team"],"measure":"number","form":"bars"}},{"key":"5","title":"Back","live":"review"}`
	kept := put(1, sections)
	require.Equal(t, http.StatusOK, kept.status, kept.text)
	assert.Contains(t, kept.text, "This is the first brief about it.")
	assert.Contains(t, kept.text, `{"key":"LC-8","title":"`)
	assert.NotContains(t, kept.text, `"title":"Not told","text"`)
	assert.Equal(t, http.StatusConflict, put(1, sections).status)
	bad := put(2, `{"key":"1","title":"X","live":"figures"}`)
	assert.Equal(t, http.StatusUnprocessableEntity, bad.status)
	assert.Contains(t, bad.text, "Nothing was kept: section 1: a chart, and nothing else")

	before := ok(t, http.MethodGet, brief, "").body["written"]
	ok(t, http.MethodPost, url+"/changes", edit("a", 0, fmt.Sprintf(set, "LC-8", "state", `"done"`)))
	assert.NotEqual(t, before, ok(t, http.MethodGet, brief, "").body["written"], "a draft follows the plan")
	assert.Equal(t, http.StatusConflict, call(t, http.MethodPost, brief+"/publish", `{"version":1}`).status)
	out := ok(t, http.MethodPost, brief+"/publish", `{"version":2}`)
	assert.Equal(t, 1.0, out.body["number"])
	assert.Equal(t, 1.0, out.body["revision"])
	ok(t, http.MethodPost, url+"/changes", edit("a", 1, fmt.Sprintf(set, "LC-9", "state", `"done"`)))
	again := ok(t, http.MethodGet, brief, "")
	assert.Equal(t, out.body["written"], again.body["written"], "what is published stands")
	assert.Equal(t, http.StatusConflict, put(3, sections).status)
	assert.Equal(t, http.StatusNotFound, call(t, http.MethodDelete, brief, "").status)

	next := ok(t, http.MethodPost, url+"/briefs", `{"about":{"release":"R1"}}`)
	assert.Contains(t, next.text, "See LC-8, **please**.", "it goes on with the same words")
	assert.Contains(t, next.text, "Since brief 1 of 2 Mar: 1 item done.")
	page := ok(t, http.MethodGet, fmt.Sprintf("%s/reports/brief?brief=%v&format=html", url, made.body["id"]), "").text
	assert.Contains(t, page, "<strong>please</strong>")
	assert.Contains(t, page, "Brief 1, 2 Mar")
	assert.NotContains(t, page, "<script")
	ok(t, http.MethodDelete, fmt.Sprintf("%s/briefs/%v", url, next.body["id"]), "")
	assert.Equal(t, http.StatusUnprocessableEntity, call(t, http.MethodPost, url+"/briefs", `{"about":{"release":"gone"}}`).status)
}

// Own words bring nothing into the page of a brief that runs or is fetched.
func TestAPageOfABriefIsHarmless(t *testing.T) {
	url := serve(t, demo.Program(sample.Today)).URL + "/api/v1/programs/1"
	made := ok(t, http.MethodPost, url+"/briefs", `{}`)
	text := `<script>alert(1)</script> <img src=x onerror=alert(1)> ![a](https://elsewhere.example/x.png) [b](javascript:alert(1)) <iframe src=\"//x\"></iframe>`
	brief := fmt.Sprintf("%s/briefs/%v", url, made.body["id"])
	ok(t, http.MethodPut, brief, `{"version":1,"title":"<b>Title</b>","sections":[{"key":"1","title":"<i>","text":"`+text+`"}]}`)
	page := ok(t, http.MethodGet, fmt.Sprintf("%s/reports/brief?brief=%v&format=html", url, made.body["id"]), "").text
	for _, bad := range []string{"<script", "<img", "<iframe", "javascript:", "onerror=", "<b>", "<i>"} {
		assert.NotContains(t, strings.ToLower(page), bad)
	}
}

// A link leads to one published brief and to nothing else, until it is ended or who made it has gone.
func TestLinksToBriefs(t *testing.T) {
	h := newHarbour(t, demo.Program(sample.Today))
	url, enter := crewOf(t, h)
	lead, viewer := enter("lead", roles.Lead, "p01"), enter("viewer", roles.Viewer, "")
	made := as(t, lead, http.MethodPost, url+"/briefs", `{}`)
	require.Equal(t, http.StatusCreated, made.status, made.text)
	brief := fmt.Sprintf("%s/briefs/%v", url, made.body["id"])
	assert.Equal(t, http.StatusForbidden, as(t, viewer, http.MethodGet, brief, "").status, "drafts are for who writes")
	assert.Equal(t, http.StatusUnprocessableEntity, as(t, lead, http.MethodPost, brief+"/links", "").status)
	require.Equal(t, http.StatusOK, as(t, lead, http.MethodPost, brief+"/publish", `{"version":1}`).status)
	assert.Equal(t, http.StatusOK, as(t, viewer, http.MethodGet, brief, "").status)
	assert.Equal(t, http.StatusForbidden, as(t, viewer, http.MethodPost, brief+"/links", "").status)
	link := as(t, lead, http.MethodPost, brief+"/links", "")
	require.Equal(t, http.StatusCreated, link.status, link.text)
	address := strings.TrimSuffix(url, "/api/v1/programs/1") + link.body["path"].(string)
	nobody := &http.Client{}
	read := as(t, nobody, http.MethodGet, address, "")
	require.Equal(t, http.StatusOK, read.status, read.text)
	assert.Contains(t, read.text, "<h1>Plan of Beacon Renewal</h1>")
	assert.Contains(t, as(t, lead, http.MethodGet, brief+"/links", "").text, `"readAt"`)
	assert.NotContains(t, as(t, lead, http.MethodGet, brief+"/links", "").text, `"path"`, "it is told once")
	assert.Equal(t, http.StatusUnauthorized, as(t, nobody, http.MethodGet, brief, "").status)
	assert.Equal(t, http.StatusNotFound, as(t, nobody, http.MethodGet, address+"x", "").status)
	second := as(t, lead, http.MethodPost, brief+"/links", "")
	ended := fmt.Sprintf("%s/links/%v", url, link.body["id"])
	require.Less(t, as(t, lead, http.MethodDelete, ended, "").status, 300)
	assert.Equal(t, http.StatusNotFound, as(t, nobody, http.MethodGet, address, "").status)
	assert.Equal(t, http.StatusNotFound, as(t, lead, http.MethodDelete, ended, "").status)
	address = strings.TrimSuffix(url, "/api/v1/programs/1") + second.body["path"].(string)
	require.Equal(t, http.StatusOK, as(t, nobody, http.MethodGet, address, "").status)
	a, err := h.hub.Store().AccountBy(t.Context(), "login", "lead")
	require.NoError(t, err)
	require.NoError(t, h.hub.Store().RemoveMembership(t.Context(), a.ID, 1))
	assert.Equal(t, http.StatusNotFound, as(t, nobody, http.MethodGet, address, "").status, "never more than its maker may see")
}
