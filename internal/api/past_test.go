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
	"jantrel/internal/demo"
)

// Every reading operation can be asked as of a revision or a time.
func TestReadingThePast(t *testing.T) {
	url := serve(t, demo.Program(sample.Today)).URL + "/api/v1/programs/1"
	before := ok(t, http.MethodGet, url+"/document", "").text
	ok(t, http.MethodPost, url+"/changes", edit("a", 0, fmt.Sprintf(set, "LC-8", "title", `"Renamed"`)))
	ok(t, http.MethodPost, url+"/changes", edit("a", 1, fmt.Sprintf(set, "LC-8", "iteration", `""`)))
	assert.Equal(t, before, ok(t, http.MethodGet, url+"/document?at=0", "").text)
	then := ok(t, http.MethodGet, url+"?at=1", "")
	assert.Equal(t, 1.0, then.body["revision"])
	assert.Contains(t, then.text, "Renamed")
	assert.Contains(t, ok(t, http.MethodGet, url+"?at=2127-01-01T00:00:00Z", "").text, `"revision":2`)
	assert.Equal(t, 0.0, ok(t, http.MethodGet, url+"?at=1999-01-01T00:00:00Z", "").body["revision"])
	for _, path := range []string{"/outline", "/details?items=LC-8", "/reason?item=LC-8", "/fits?team=LC&items=LC-8", "/set-up", "/capacity?team=LC&iteration=LC-i11",
		"/capacity/rows?by=role", "/free?from=2027-03-08&to=2027-04-02", "/forecast?plays=50", "/starts", "/under-way", "/reports/capacity?from=2027-01-01&to=2027-12-31&format=csv",
		"/attention", "/reports/plan", "/reports/dates?what=iterations", "/reports/journal", "/needs/map", "/needs/owed?waits=LC", "/needs/odds?waits=LC", "/reports/needs?format=mermaid", "/forecast/dates", "/forecast/back-test", "/forecast/history?release=R1", "/feature-landings", "/risks", "/risk-worths", "/hours-week?person=p13", "/hours?from=2027-02-01&to=2027-03-31", "/reports/hours?from=2027-02-01&to=2027-03-31&format=csv"} {
		joint := "?"
		if strings.Contains(path, "?") {
			joint = "&"
		}
		ok(t, http.MethodGet, url+path+joint+"at=0", "")
	}
	// Operations that know nothing of the past by themselves are asked of the line as it was.
	assert.Equal(t, 1.0, ok(t, http.MethodGet, url+"/landings?at=1", "").body["revision"])
	assert.Equal(t, 1, strings.Count(ok(t, http.MethodGet, url+"/journal?at=1", "").text, `"actor"`), "what came later is not known")
	assert.Equal(t, "viewer", ok(t, http.MethodGet, url+"/here?client=a&at=1", "").body["role"])
	assert.Equal(t, http.StatusConflict, call(t, http.MethodPost, url+"/changes?at=1", edit("a", 2, fmt.Sprintf(set, "LC-8", "size", "2"))).status)
	assert.Equal(t, http.StatusNotFound, call(t, http.MethodGet, url+"/outline?at=1999-01-01", "").status)
	listed := ok(t, http.MethodPost, url+"/backlog?at=1", `{"view":{"key":"","name":""},"words":"Renamed"}`)
	assert.Equal(t, []string{"LC-8"}, rowsOf(listed))
	assert.Equal(t, http.StatusNotFound, call(t, http.MethodGet, url+"?at=9", "").status)
	assert.Equal(t, http.StatusUnprocessableEntity, call(t, http.MethodGet, url+"?at=yesterday", "").status)
	assert.Equal(t, http.StatusConflict, call(t, http.MethodPost, url+"/changes", edit("b", 9, fmt.Sprintf(set, "LC-8", "size", "2"))).status)
}

func TestWhatOneIsHere(t *testing.T) {
	url := serve(t, demo.Program(sample.Today)).URL + "/api/v1/programs/1"
	ok(t, http.MethodPost, url+"/changes", edit("a", 0, fmt.Sprintf(set, "LC-8", "size", "2")))
	here := ok(t, http.MethodGet, url+"/here?client=a", "")
	assert.Equal(t, "Edit", here.body["undo"])
	assert.NotEmpty(t, here.body["role"])
	assert.NotEmpty(t, here.body["author"])
}

// Answers are compressed for who understands it, and not sent where they are known.
func TestAnswersAreCompressed(t *testing.T) {
	h := serve(t, demo.Program(sample.Today))
	get := func(encoding, tag string) *http.Response {
		request, err := http.NewRequest(http.MethodGet, h.URL+"/api/v1/programs/1/outline", nil)
		require.NoError(t, err)
		request.Header.Set("Accept-Encoding", encoding)
		request.Header.Set("If-None-Match", tag)
		response, err := client.Do(request)
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
	computes(t)
	tag := func(p program.Program) string {
		return call(t, http.MethodGet, serve(t, p).URL+"/api/v1/programs/1/outline", "").header.Get("ETag")
	}
	p := demo.Program(sample.Today)
	assert.Equal(t, tag(p), tag(p))
	renamed := p
	renamed.Name = "Another"
	assert.NotEqual(t, tag(p), tag(renamed))
}
