package track_test

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
	"jantrel/internal/api/apitest"
)

// The request and the answer of docs/signals.md, with a token; sent again it changes nothing, and what
// it found needs somebody.
func TestSignalsAsTheyAreDocumented(t *testing.T) {
	t.Parallel()
	text, err := os.ReadFile("../../../docs/signals.md")
	require.NoError(t, err)
	blocks := regexp.MustCompile("(?s)```json\n(.*?)```").FindAllSubmatch(text, -1)
	require.Len(t, blocks, 2)
	h := apitest.Demo(t)
	max := h.Client(t, h.Begin(t, "max", "Max", roles.Manager))
	url := h.URL + "/api/v1/programs/1"
	made := apitest.As(t, max, http.MethodPost, url+"/tokens", fmt.Sprintf(`{"name":"Build server","role":"program manager","expires":%q}`, time.Now().AddDate(0, 0, 9).Format("2006-01-02")))
	require.Equal(t, http.StatusCreated, made.Status, made.Text)
	bearer := []string{"Authorization", "Bearer " + made.Body["token"].(string)}
	send := func(body string, more ...string) apitest.Answer {
		return apitest.As(t, apitest.Nobody, http.MethodPost, url+"/signals", body, append(bearer, more...)...)
	}

	first := send(string(blocks[0][1]), "Idempotency-Key", "once")
	require.Equal(t, http.StatusOK, first.Status, first.Text)
	assert.JSONEq(t, string(blocks[1][1]), first.Text)
	again := send(string(blocks[0][1]), "Idempotency-Key", "once")
	assert.Equal(t, first.Body["keys"], again.Body["keys"], "what came of it is told again")
	before := h.Stored(t)
	again = send(string(blocks[0][1]))
	require.Equal(t, http.StatusOK, again.Status, again.Text)
	assert.Equal(t, 0.0, again.Body["changes"])
	assert.Equal(t, before, h.Stored(t))

	var called struct {
		Entries []struct {
			Kind program.Call
			Text string
		}
	}
	require.NoError(t, json.Unmarshal([]byte(apitest.As(t, max, http.MethodGet, url+"/attention", "").Text), &called))
	texts := map[program.Call][]string{}
	for _, e := range called.Entries {
		texts[e.Kind] = append(texts[e.Kind], e.Text)
	}
	assert.Contains(t, texts[program.CallBuild], "build is red: nightly since 2 Mar")
	assert.Contains(t, texts[program.CallTests], "2 tests fail, cannot be tested before LC-28 is mended")
	entries := apitest.As(t, max, http.MethodGet, url+"/journal", "").Text
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
		assert.Equal(t, http.StatusUnprocessableEntity, got.Status, body)
		assert.Contains(t, got.Text, wants, body)
	}
	assert.Equal(t, before, h.Stored(t))
}
