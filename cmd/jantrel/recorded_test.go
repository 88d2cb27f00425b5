package main_test

import (
	"bytes"
	"encoding/json"
	"io"
	"net/http"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/forecast"
)

// A program goes out with its journal and comes in again as it was, with all its past; what is said of that past from
// the file is what the server says.
func TestAProgramWithItsJournal(t *testing.T) {
	folder := t.TempDir()
	_, url := start(t, "demo", "--data", folder)
	client := inDemo(t, url, "matthias")
	get := func(path string, into any) {
		response, err := client.Get(url + "/api/v1/programs/1/forecast" + path)
		require.NoError(t, err)
		require.Equal(t, http.StatusOK, response.StatusCode)
		require.NoError(t, json.NewDecoder(response.Body).Decode(into))
		require.NoError(t, response.Body.Close())
	}
	var dates struct {
		Plays int
		Then  string
		Dates []struct{ Then *forecast.Landing }
	}
	get("/dates?since=2027-02-23", &dates)
	var server forecast.BackTest
	for server.More = true; server.More; { // as much as one answer had time for
		server = forecast.BackTest{}
		get("/back-test", &server)
	}
	require.NotEmpty(t, server.Iterations)

	file := filepath.Join(t.TempDir(), "program.jsonl")
	_, errs, code := run(t, "", "export", "--journal", "--data", folder, "-o", file)
	require.Zero(t, code, errs)
	text, err := os.ReadFile(file)
	require.NoError(t, err)
	edits, _ := past()
	assert.Equal(t, edits+1, bytes.Count(text, []byte("\n")))

	var then forecast.Forecast
	out, errs, code := run(t, "", "forecast", file, "--as-of", "2027-02-23", "--trials", "2500")
	require.Zero(t, code, errs)
	require.NoError(t, json.Unmarshal([]byte(out), &then))
	require.Equal(t, 2500, dates.Plays)
	for i, r := range then.Releases {
		assert.Equal(t, dates.Dates[i].Then.Chance, r.Chance, r.Key)
		assert.Equal(t, dates.Dates[i].Then.At(85), r.At(85), r.Key)
	}
	var told forecast.BackTest
	out, errs, code = run(t, "", "backtest", file, "--today", "2027-03-02")
	require.Zero(t, code, errs)
	require.NoError(t, json.Unmarshal([]byte(out), &told))
	assert.Equal(t, server, told)

	again := t.TempDir()
	out, errs, code = run(t, "", "import", file, "--data", again)
	require.Zero(t, code, errs)
	assert.Contains(t, out, "Beacon Renewal is now program 1")
	one, _, _ := run(t, "", "export", "--data", folder)
	other, _, _ := run(t, "", "export", "--data", again)
	assert.Equal(t, one, other)
	one, _, _ = run(t, "", "export", "--journal", "--data", again)
	assert.Equal(t, string(text), one, "edit by edit, to the byte")

	// What is not so is said, and nothing is left behind.
	for _, c := range [][]string{
		{"the journal begins after 2020-01-01", "forecast", file, "--as-of", "2020-01-01"},
		{"the file has no journal", "backtest", "-"},
		{"edit 1, Bad: ", "import", "-", "--data", again},
	} {
		in := string(bytes.SplitAfterN(text, []byte("\n"), 2)[0])
		if c[1] == "import" {
			in += `{"at":"2027-03-02T09:00:00Z","by":"Ann","label":"Bad","changes":[{"op":"remove","kind":"team","key":"none"}]}`
		}
		_, errs, code = run(t, in, c[1:]...)
		assert.Equal(t, 1, code, c)
		assert.Contains(t, errs, c[0])
	}
	_, errs, code = run(t, "", "export", "--data", again)
	assert.Zero(t, code, errs, "there is one program, as before")
}

// Reports from the shell are what the server makes of the same program.
func TestReportsFromTheShell(t *testing.T) {
	folder := t.TempDir()
	_, url := start(t, "demo", "--data", folder)
	client := inDemo(t, url, "matthias")
	file := filepath.Join(t.TempDir(), "program.jsonl")
	_, errs, code := run(t, "", "export", "--journal", "--data", folder, "-o", file)
	require.Zero(t, code, errs)
	for kind, path := range map[string]string{
		"journal": "/reports/journal?format=csv", "dates": "/reports/dates?what=iterations&what=releases&what=milestones", "needs": "/reports/needs?format=csv", "needs --format svg": "/reports/needs?format=svg", "review --release R1": "/reports/release-review?release=R1",
		"capacity --format csv --from 2027-02-01 --to 2027-04-30": "/reports/capacity?format=csv&from=2027-02-01&to=2027-04-30",
	} {
		response, err := client.Get(url + "/api/v1/programs/1" + path)
		require.NoError(t, err)
		want, err := io.ReadAll(response.Body)
		require.NoError(t, err)
		require.NoError(t, response.Body.Close())
		out, errs, code := run(t, "", append(append([]string{"report"}, strings.Fields(kind)[:1]...), append([]string{file, "--today", "2027-03-02"}, strings.Fields(kind)[1:]...)...)...)
		require.Zero(t, code, errs)
		assert.Equal(t, string(want), out, kind)
	}
	for _, args := range []string{"plan", "hours", "backlog --view not-ready", "brief --release R1", "review --team LC --iteration LC-i10", "brief --team LC --iteration LC-i11 --format html", `chart --chart {"of":"items","split":["state"],"measure":"number","form":"bars","back":28}`,
		`chart --format csv --chart {"of":"items","split":["team","state"],"measure":"number","form":"table"}`, `chart --format csv --chart {"of":"items","measure":"number","form":"figure"}`,
		`chart --format svg --chart {"of":"items","split":["team","state"],"measure":"number","form":"stacked"}`} {
		words := strings.Fields(args)
		out, errs, code := run(t, "", append([]string{"report", words[0], file, "--today", "2027-03-02"}, words[1:]...)...)
		require.Zero(t, code, "%s: %s", args, errs)
		assert.NotEmpty(t, out, args)
	}
	// What cannot be answered needs no journal, which takes most of the time to read.
	plain := filepath.Join(t.TempDir(), "program.json")
	_, errs, code = run(t, "", "export", "--data", folder, "-o", plain)
	require.Zero(t, code, errs)
	for args, want := range map[string]string{
		"poem": "there is no report", "review": "say what is to be looked back on", "plan --format csv": "a report of this kind is xlsx", "backlog --view none": "there is no view", "brief --release none": "no such release",
		`chart --format svg --chart {"of":"items","measure":"number","form":"figure"}`: "nothing to draw", `chart --chart {"of":"boats"}`: "nothing called", "capacity --from 2027-03-02 --to 2027-03-01": "is before --from",
	} {
		words := strings.Fields(args)
		_, errs, code := run(t, "", append([]string{"report", words[0], plain, "--today", "2027-03-02"}, words[1:]...)...)
		assert.NotZero(t, code, args)
		assert.Contains(t, errs, want)
	}
}
