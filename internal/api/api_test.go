package api_test

import (
	"bufio"
	"bytes"
	"encoding/json"
	"fmt"
	"net/http"
	"os"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/program"
	"jantrel/core/sample"
	"jantrel/internal/api"
	"jantrel/internal/api/apitest"
	"jantrel/internal/demo"
	"jantrel/internal/exchange"
)

func TestAnEditFromRequestToAnswer(t *testing.T) {
	t.Parallel()
	server := apitest.Serve(t, demo.Program(sample.Today))
	url := server.URL + "/api/v1/programs/1"
	got := apitest.Call(t, http.MethodGet, url, "")
	require.Equal(t, http.StatusOK, got.Status)
	tag := got.Header.Get("ETag")
	require.NotEmpty(t, tag)
	assert.Contains(t, got.Header.Get("Cache-Control"), "no-cache")
	for _, have := range []string{tag, "W/" + strings.TrimPrefix(tag, "W/"), `"other", ` + tag, "*"} {
		again := apitest.Call(t, http.MethodGet, url, "", "If-None-Match", have)
		assert.Equal(t, http.StatusNotModified, again.Status, have)
		assert.Empty(t, again.Text)
	}

	got = apitest.Call(t, http.MethodPost, url+"/changes", apitest.Edit("a", 0, fmt.Sprintf(apitest.Set, "LC-8", "size", "2")))
	require.Equal(t, http.StatusOK, got.Status, got.Text)
	assert.Equal(t, "Edit", got.Body["undo"])
	assert.Equal(t, 1.0, got.Body["update"].(map[string]any)["revision"])
	assert.Equal(t, http.StatusOK, apitest.Call(t, http.MethodGet, url, "", "If-None-Match", tag).Status)

	landings := apitest.Call(t, http.MethodGet, url+"/landings", "")
	assert.Equal(t, 1.0, landings.Body["revision"])
	journal := apitest.Call(t, http.MethodGet, url+"/journal", "")
	assert.Contains(t, journal.Text, `"before":5`)
	undone := apitest.Call(t, http.MethodPost, url+"/undo", `{"client":"a"}`)
	assert.Equal(t, "Edit", undone.Body["redo"])
	assert.Equal(t, http.StatusConflict, apitest.Call(t, http.MethodPost, url+"/undo", `{"client":"a"}`).Status)
	assert.Equal(t, http.StatusOK, apitest.Call(t, http.MethodPost, url+"/redo", `{"client":"a"}`).Status)
}

func TestErrorsAreProblemsInPlainWords(t *testing.T) {
	t.Parallel()
	server := apitest.Serve(t, demo.Program(sample.Today))
	url := server.URL + "/api/v1/programs/1"
	apitest.Call(t, http.MethodPost, url+"/changes", apitest.Edit("a", 0, fmt.Sprintf(apitest.Set, "LC-8", "size", "2")))
	for name, c := range map[string]struct {
		method, path, body string
		status             int
		says               string
	}{
		"no such program":   {http.MethodGet, "/api/v1/programs/9", "", 404, "There is no such program"},
		"no such address":   {http.MethodGet, "/api/v1/nothing", "", 404, "nothing at this address"},
		"a conflict":        {http.MethodPost, "/api/v1/programs/1/changes", apitest.Edit("b", 0, fmt.Sprintf(apitest.Set, "LC-8", "size", "3")), 409, "Ann changed the size of LC-8 meanwhile to 2; yours is 3"},
		"a broken rule":     {http.MethodPost, "/api/v1/programs/1/changes", apitest.Edit("a", 1, fmt.Sprintf(apitest.Set, "LC-8", "iteration", `"TW-i11"`)), 422, `team \"LC\" has no iteration \"TW-i11\"`},
		"a cycle":           {http.MethodPost, "/api/v1/programs/1/changes", apitest.Edit("a", 1, `{"op":"add","kind":"need","in":"LC-4","key":"LC-6","value":{"item":"LC-4","needs":"LC-6"}}`), 409, "LC-4 needs LC-6 needs LC-4"},
		"an unknown op":     {http.MethodPost, "/api/v1/programs/1/changes", apitest.Edit("a", 1, `{"op":"turn","kind":"item","key":"LC-4"}`), 422, "op"},
		"no JSON":           {http.MethodPost, "/api/v1/programs/1/changes", "{", 400, ""},
		"no changes":        {http.MethodPost, "/api/v1/programs/1/changes", apitest.Edit("a", 1), 422, "changes"},
		"a bad document":    {http.MethodPost, "/api/v1/programs/import", `{"format":"x"}`, 422, "format"},
		"too much":          {http.MethodPost, "/api/v1/programs/1/undo", `{"actor":"` + strings.Repeat("x", 2<<20) + `"}`, 413, ""},
		"a reason for none": {http.MethodGet, "/api/v1/programs/1/reason?item=FE-1", "", 404, "Only items that are still to do"},
	} {
		got := apitest.Call(t, c.method, server.URL+c.path, c.body)
		assert.Equal(t, c.status, got.Status, name+": "+got.Text)
		assert.Contains(t, got.Text, c.says, name)
		assert.Contains(t, got.Header.Get("Content-Type"), "application/problem+json", name)
	}
	assert.Equal(t, 1.0, apitest.Call(t, http.MethodGet, url, "").Body["revision"], "nothing was changed by any of them")
}

func TestImportAndExportAreTheSame(t *testing.T) {
	t.Parallel()
	server := apitest.Serve(t, program.Program{Name: "First"}.Normal())
	var document bytes.Buffer
	require.NoError(t, exchange.WriteDocument(&document, demo.Program(sample.Today)))
	got := apitest.Call(t, http.MethodPost, server.URL+"/api/v1/programs/import", document.String())
	require.Equal(t, http.StatusCreated, got.Status, got.Text)
	assert.Equal(t, document.String(), apitest.Call(t, http.MethodGet, server.URL+"/api/v1/programs/2/document", "").Text)
	assert.Equal(t, http.StatusNoContent, apitest.Call(t, http.MethodDelete, server.URL+"/api/v1/programs/2", "").Status)
	assert.Equal(t, http.StatusNotFound, apitest.Call(t, http.MethodGet, server.URL+"/api/v1/programs/2", "").Status)
}

// What a lever promises is what the standing strip reads once it is applied.
func TestALeverKeepsItsPromise(t *testing.T) {
	t.Parallel()
	apitest.Computes(t)
	server := apitest.Serve(t, demo.Program(sample.Today))
	url := server.URL + "/api/v1/programs/1"
	got := apitest.Call(t, http.MethodPost, url+"/levers", `{"release":"R1","quick":true}`)
	require.Equal(t, http.StatusOK, got.Status, got.Text)
	assert.Equal(t, true, got.Body["more"], "the first that come to mind")
	assert.NotEmpty(t, got.Body["levers"])
	for got.Body["more"] == true { // each goes on where the one before stopped
		tried := got.Body["tried"].(float64)
		got = apitest.Call(t, http.MethodPost, url+"/levers", `{"release":"R1"}`)
		require.Equal(t, http.StatusOK, got.Status, got.Text)
		require.GreaterOrEqual(t, got.Body["tried"], tried)
	}
	assert.Equal(t, got.Body["of"], got.Body["tried"])
	release := func() map[string]any {
		return apitest.Call(t, http.MethodGet, url+"/landings", "").Body["releases"].([]any)[0].(map[string]any)
	}
	assert.Equal(t, release()["chance"], got.Body["now"].(map[string]any)["chance"])
	found := got.Body["levers"].([]any)
	first := found[0].(map[string]any)
	for _, l := range found[1:] {
		assert.GreaterOrEqual(t, first["then"].(map[string]any)["chance"], l.(map[string]any)["then"].(map[string]any)["chance"], "the best comes first")
	}

	changes, err := json.Marshal(first["changes"])
	require.NoError(t, err)
	made := apitest.Call(t, http.MethodPost, url+"/changes", `{"client":"a","label":"Size it","revision":0,"changes":`+string(changes)+`}`)
	require.Equal(t, http.StatusOK, made.Status, made.Text)
	then := first["then"].(map[string]any)
	assert.Equal(t, then["chance"], release()["chance"])
	assert.Greater(t, then["chance"], got.Body["now"].(map[string]any)["chance"])

	assert.Contains(t, apitest.Call(t, http.MethodPost, url+"/levers", `{"release":"R9"}`).Text, `there is no release \"R9\"`)
	assert.Contains(t, apitest.Call(t, http.MethodPost, url+"/levers", `{}`).Text, "say what is to be mended")
}

func TestADraftMovesNothing(t *testing.T) {
	t.Parallel()
	apitest.Computes(t)
	server := apitest.Serve(t, demo.Program(sample.Today))
	url := server.URL + "/api/v1/programs/1"
	got := apitest.Call(t, http.MethodPost, url+"/draft", `{"fillTo":0.9}`)
	require.Equal(t, http.StatusOK, got.Status, got.Text)
	assert.NotEmpty(t, got.Body["draft"].(map[string]any)["placements"])
	after := got.Body["after"].(map[string]any)
	assert.Len(t, after["landings"], 2)
	assert.LessOrEqual(t, got.Body["expectedLateDaysBound"], after["expectedLateDays"])
	assert.Less(t, after["expectedLateDays"], got.Body["before"].(map[string]any)["expectedLateDays"], "by odds, where nothing is said")
	assert.Equal(t, got.Body["draft"].(map[string]any)["score"].(map[string]any)["lateDays"], after["score"].(map[string]any)["lateDays"])

	// Ticked all, the moves have the figures of the draft; none, those of the plan.
	var moves []map[string]any
	for _, list := range []string{"placements", "unplaced"} {
		for _, x := range got.Body["draft"].(map[string]any)[list].([]any) {
			if x := x.(map[string]any); x["moved"] == true {
				moves = append(moves, map[string]any{"item": x["item"], "iteration": x["iteration"]})
			}
		}
	}
	var rough []map[string]any
	for _, x := range got.Body["draft"].(map[string]any)["rough"].([]any) {
		x := x.(map[string]any)
		places := []map[string]any{}
		for _, part := range x["places"].([]any) {
			part := part.(map[string]any)
			places = append(places, map[string]any{"iteration": part["iteration"], "size": part["size"]})
		}
		rough = append(rough, map[string]any{"item": x["item"], "team": x["team"], "places": places})
	}
	require.NotEmpty(t, rough)
	try := func(moves, rough []map[string]any) map[string]any {
		body, err := json.Marshal(map[string]any{"fillTo": 0.9, "placements": moves, "rough": rough})
		require.NoError(t, err)
		return apitest.Call(t, http.MethodPost, url+"/places/try", string(body)).Body
	}
	require.NotEmpty(t, moves)
	all := try(moves, rough)
	for _, figure := range []string{"over", "broken", "unplaced", "landings"} {
		assert.Equal(t, after[figure], all[figure], figure)
		assert.Equal(t, got.Body["before"].(map[string]any)[figure], try(moves[:0], rough[:0])[figure], figure)
	}
	assert.Equal(t, after["score"].(map[string]any)["lateDays"], all["score"].(map[string]any)["lateDays"])
	assert.Contains(t, apitest.Call(t, http.MethodPost, url+"/places/try", `{"placements":[{"item":"LC-999"}]}`).Text, "there is no item LC-999")
	assert.Equal(t, 0.0, apitest.Call(t, http.MethodGet, url, "").Body["revision"])
	fits := apitest.Call(t, http.MethodGet, url+"/fits?team=LC&items=LC-8&items=LC-7", "")
	assert.Contains(t, fits.Text, `"fits":true`)
}

func TestEventsArriveWithoutAsking(t *testing.T) {
	t.Parallel()
	server := apitest.Serve(t, demo.Program(sample.Today))
	url := server.URL + "/api/v1/programs/1"
	request, err := http.NewRequestWithContext(t.Context(), http.MethodGet, url+"/events", nil)
	require.NoError(t, err)
	response, err := server.Ann.Do(request)
	require.NoError(t, err)
	defer func() { _ = response.Body.Close() }()
	lines := bufio.NewScanner(response.Body)
	lines.Buffer(nil, 1<<20)
	next := func(what string) string {
		for lines.Scan() {
			if strings.Contains(lines.Text(), what) {
				return lines.Text()
			}
		}
		require.NoError(t, lines.Err())
		return ""
	}
	assert.Contains(t, next("data:"), `"revision":0`)
	apitest.Call(t, http.MethodPost, url+"/changes", apitest.Edit("a", 0, fmt.Sprintf(apitest.Set, "LC-8", "size", "2")))
	assert.Contains(t, next("data:"), `"label":"Edit"`)
}

func TestThePageMayRunNothingFromElsewhere(t *testing.T) {
	t.Parallel()
	server := apitest.Serve(t, program.Program{Name: "X"}.Normal())
	header := apitest.Call(t, http.MethodGet, server.URL+"/programs/1/plan", "").Header
	policy := header.Get("Content-Security-Policy")
	assert.Contains(t, policy, "default-src 'self'")
	assert.NotContains(t, policy, "script-src")
	assert.NotContains(t, policy, "http")
	assert.Equal(t, "nosniff", header.Get("X-Content-Type-Options"))
}

func TestTheTypesOfThePageAreThoseOfTheInterface(t *testing.T) {
	want, err := api.OpenAPI("dev")
	require.NoError(t, err)
	have, err := os.ReadFile("../../web/src/api/openapi.json")
	require.NoError(t, err)
	assert.JSONEq(t, string(want), string(have), "run: make types")
}

func benchmarkServer(b *testing.B) string {
	return apitest.Serve(b, sample.Program(1, sample.Shape{Teams: 40, Iterations: 26, Items: 5000, Needs: 6000})).URL + "/api/v1/programs/1"
}

func BenchmarkSnapshot5000(b *testing.B) {
	url := benchmarkServer(b)
	for b.Loop() {
		apitest.Call(b, http.MethodGet, url, "")
	}
}

func BenchmarkChange5000(b *testing.B) {
	url := benchmarkServer(b)
	revision := 0
	var times []time.Duration
	for b.Loop() {
		begin := time.Now()
		got := apitest.Call(b, http.MethodPost, url+"/changes", apitest.Edit("a", revision, fmt.Sprintf(apitest.Set, "I2500", "size", fmt.Sprint(1+revision%8))))
		times = append(times, time.Since(begin))
		require.Equal(b, http.StatusOK, got.Status, got.Text)
		revision++
	}
	reportPercentile(b, times)
}
