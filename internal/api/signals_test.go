package api_test

import (
	"encoding/json"
	"fmt"
	"net/http"
	"os"
	"regexp"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/program"
	"jantrel/core/roles"
	"jantrel/core/sample"
	"jantrel/internal/demo"
)

// The request and the answer of docs/signals.md, with a token; sent again it changes nothing, and what
// it found needs somebody.
func TestSignalsAsTheyAreDocumented(t *testing.T) {
	text, err := os.ReadFile("../../docs/signals.md")
	require.NoError(t, err)
	blocks := regexp.MustCompile("(?s)```json\n(.*?)```").FindAllSubmatch(text, -1)
	require.Len(t, blocks, 2)
	h := newHarbour(t, demo.Program(sample.Today))
	max := h.client(t, h.begin(t, "max", "Max", roles.Manager))
	url := h.URL + "/api/v1/programs/1"
	made := as(t, max, http.MethodPost, url+"/tokens", fmt.Sprintf(`{"name":"Build server","role":"program manager","expires":%q}`, time.Now().AddDate(0, 0, 9).Format("2006-01-02")))
	require.Equal(t, http.StatusCreated, made.status, made.text)
	bearer := []string{"Authorization", "Bearer " + made.body["token"].(string)}
	send := func(body string, more ...string) answer {
		return as(t, nobody, http.MethodPost, url+"/signals", body, append(bearer, more...)...)
	}

	first := send(string(blocks[0][1]), "Idempotency-Key", "once")
	require.Equal(t, http.StatusOK, first.status, first.text)
	assert.JSONEq(t, string(blocks[1][1]), first.text)
	again := send(string(blocks[0][1]), "Idempotency-Key", "once")
	assert.Equal(t, first.body["keys"], again.body["keys"], "what came of it is told again")
	before := stored(t, h)
	again = send(string(blocks[0][1]))
	require.Equal(t, http.StatusOK, again.status, again.text)
	assert.Equal(t, 0.0, again.body["changes"])
	assert.Equal(t, before, stored(t, h))

	var called struct {
		Entries []struct {
			Kind program.Call
			Text string
		}
	}
	require.NoError(t, json.Unmarshal([]byte(as(t, max, http.MethodGet, url+"/attention", "").text), &called))
	texts := map[program.Call][]string{}
	for _, e := range called.Entries {
		texts[e.Kind] = append(texts[e.Kind], e.Text)
	}
	assert.Contains(t, texts[program.CallBuild], "build is red: nightly since 2 Mar")
	assert.Contains(t, texts[program.CallTests], "2 tests fail, cannot be tested before LC-28 is mended")
	entries := as(t, max, http.MethodGet, url+"/journal", "").text
	assert.Contains(t, entries, `"Max"`)
	assert.Contains(t, entries, "5 signals")

	for body, wants := range map[string]string{
		`{"tests":[{"item":"LC-500","at":"2027-03-02T09:00:00Z","passed":1,"failed":0,"notRun":0}]}`:                               `signal 1 of tests: there is no item \"LC-500\"`,
		`{"tests":[{"item":"LC-5","at":"2027-03-02T10:00:00Z","passed":-1,"failed":0,"notRun":0}]}`:                                "between 0 and",
		`{"builds":[{"team":"LC","name":"main","at":"2027-03-02T09:00:00Z","state":"purple"}]}`:                                    "green",
		`{"builds":[{"team":"LC","name":"main","at":"yesterday","state":"red"}]}`:                                                  "at",
		`{"deployments":[{"team":"LC","place":"pier","version":"1","at":"2027-03-02T09:00:00Z","address":"javascript:alert(1)"}]}`: "http",
		`{"weather":[]}`: "weather",
		`{}`:             "there is no signal",
	} {
		got := send(body)
		assert.Equal(t, http.StatusUnprocessableEntity, got.status, body)
		assert.Contains(t, got.text, wants, body)
	}
	assert.Equal(t, before, stored(t, h))
}
