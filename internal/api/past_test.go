package api_test

import (
	"compress/gzip"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/program"
	"jantrel/core/sample"
	"jantrel/internal/api/apitest"
	"jantrel/internal/demo"
)

// Every reading operation can be asked as of a revision or a time.
func TestReadingThePast(t *testing.T) {
	t.Parallel()
	url := apitest.ServeDemo(t)
	before := apitest.OK(t, http.MethodGet, url+"/document", "").Text
	apitest.OK(t, http.MethodPost, url+"/changes", apitest.Edit("a", 0, fmt.Sprintf(apitest.Set, "LC-8", "title", `"Renamed"`)))
	apitest.OK(t, http.MethodPost, url+"/changes", apitest.Edit("a", 1, fmt.Sprintf(apitest.Set, "LC-8", "iteration", `""`)))
	assert.Equal(t, before, apitest.OK(t, http.MethodGet, url+"/document?at=0", "").Text)
	then := apitest.OK(t, http.MethodGet, url+"?at=1", "")
	assert.Equal(t, 1.0, then.Body["revision"])
	assert.Contains(t, then.Text, "Renamed")
	assert.Contains(t, apitest.OK(t, http.MethodGet, url+"?at="+sample.Today.String(), "").Text, `"revision":2`, "the end of today is now")
	for _, ahead := range []string{"2127-01-01T00:00:00Z", sample.Today.Add(1).String(), "9999-12-31"} {
		for method, path := range map[string]string{http.MethodGet: "?", http.MethodPost: "/baselines?"} {
			got := apitest.Call(t, method, url+path+"at="+ahead, `{"name":"Ahead"}`)
			assert.Equal(t, http.StatusNotFound, got.Status, ahead+path)
			assert.Contains(t, got.Text, ahead+" is still to come", path)
		}
	}
	assert.Equal(t, 0.0, apitest.OK(t, http.MethodGet, url+"?at=1999-01-01T00:00:00Z", "").Body["revision"])
	for _, path := range []string{"/outline", "/details?items=LC-8", "/reason?item=LC-8", "/fits?team=LC&items=LC-8", "/set-up", "/capacity?team=LC&iteration=LC-i11",
		"/capacity/rows?by=role", "/free?from=2027-03-08&to=2027-04-02", "/forecast?plays=50", "/starts", "/under-way", "/reports/capacity?from=2027-01-01&to=2027-12-31&format=csv",
		"/attention", "/reports/plan", "/reports/dates?what=iterations", "/reports/journal", "/needs/map", "/needs/owed?waits=LC", "/needs/odds?waits=LC", "/reports/needs?format=mermaid", "/forecast/dates", "/forecast/back-test", "/forecast/history?release=R1", "/feature-landings", "/risks", "/risk-worths", "/hours-week?person=p13", "/hours?from=2027-02-01&to=2027-03-31", "/reports/hours?from=2027-02-01&to=2027-03-31&format=csv"} {
		joint := "?"
		if strings.Contains(path, "?") {
			joint = "&"
		}
		apitest.OK(t, http.MethodGet, url+path+joint+"at=0", "")
	}
	// Operations that know nothing of the past by themselves are asked of the line as it was.
	assert.Equal(t, 1.0, apitest.OK(t, http.MethodGet, url+"/landings?at=1", "").Body["revision"])
	assert.Equal(t, 1, strings.Count(apitest.OK(t, http.MethodGet, url+"/journal?at=1", "").Text, `"actor"`), "what came later is not known")
	assert.Equal(t, "viewer", apitest.OK(t, http.MethodGet, url+"/here?client=a&at=1", "").Body["role"])
	assert.Equal(t, http.StatusConflict, apitest.Call(t, http.MethodPost, url+"/changes?at=1", apitest.Edit("a", 2, fmt.Sprintf(apitest.Set, "LC-8", "size", "2"))).Status)
	assert.Equal(t, http.StatusNotFound, apitest.Call(t, http.MethodGet, url+"/outline?at=1999-01-01", "").Status)
	listed := apitest.OK(t, http.MethodPost, url+"/backlog?at=1", `{"view":{"key":"","name":""},"words":"Renamed"}`)
	assert.Equal(t, []string{"LC-8"}, listed.Rows())
	assert.Equal(t, http.StatusNotFound, apitest.Call(t, http.MethodGet, url+"?at=9", "").Status)
	assert.Equal(t, http.StatusUnprocessableEntity, apitest.Call(t, http.MethodGet, url+"?at=yesterday", "").Status)
	assert.Equal(t, http.StatusConflict, apitest.Call(t, http.MethodPost, url+"/changes", apitest.Edit("b", 9, fmt.Sprintf(apitest.Set, "LC-8", "size", "2"))).Status)
}

func TestWhatOneIsHere(t *testing.T) {
	t.Parallel()
	url := apitest.ServeDemo(t)
	apitest.OK(t, http.MethodPost, url+"/changes", apitest.Edit("a", 0, fmt.Sprintf(apitest.Set, "LC-8", "size", "2")))
	here := apitest.OK(t, http.MethodGet, url+"/here?client=a", "")
	assert.Equal(t, "Edit", here.Body["undo"])
	assert.NotEmpty(t, here.Body["role"])
	assert.NotEmpty(t, here.Body["author"])
}

// Answers are compressed for who understands it, and not sent where they are known.
func TestAnswersAreCompressed(t *testing.T) {
	t.Parallel()
	h := apitest.Serve(t, demo.Program(sample.Today))
	get := func(encoding, tag string) *http.Response {
		request, err := http.NewRequest(http.MethodGet, h.URL+"/api/v1/programs/1/outline", nil)
		require.NoError(t, err)
		request.Header.Set("Accept-Encoding", encoding)
		request.Header.Set("If-None-Match", tag)
		response, err := h.Ann.Do(request)
		require.NoError(t, err)
		t.Cleanup(func() { _ = response.Body.Close() })
		return response
	}
	plain, err := io.ReadAll(get("identity", "").Body)
	require.NoError(t, err)
	zipped := get("gzip", "")
	require.Equal(t, "gzip", zipped.Header.Get("Content-Encoding"))
	reader, err := gzip.NewReader(zipped.Body)
	require.NoError(t, err)
	text, err := io.ReadAll(reader)
	require.NoError(t, err)
	assert.Equal(t, string(plain), string(text))
	assert.True(t, json.Valid(plain))
	assert.Equal(t, "zstd", get("gzip, deflate, br, zstd", "").Header.Get("Content-Encoding"))
	assert.Equal(t, http.StatusNotModified, get("gzip", zipped.Header.Get("ETag")).StatusCode)
}

// A browser may hold what another database, or an older program, said at the same address.
func TestATagIsThatOfTheContent(t *testing.T) {
	t.Parallel()
	apitest.Computes(t)
	tag := func(p program.Program) string {
		return apitest.Call(t, http.MethodGet, apitest.Serve(t, p).URL+"/api/v1/programs/1/outline", "").Header.Get("ETag")
	}
	p := demo.Program(sample.Today)
	assert.Equal(t, tag(p), tag(p))
	renamed := p
	renamed.Name = "Another"
	assert.NotEqual(t, tag(p), tag(renamed))
}
