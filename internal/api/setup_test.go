package api_test

import (
	"bytes"
	"encoding/csv"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"github.com/xuri/excelize/v2"

	"jantrel/core/program"
	"jantrel/internal/demo"
	"jantrel/internal/sample"
)

// Every proposal changes nothing; its changes do what it says, and can be undone.
func TestProposals(t *testing.T) {
	server := serve(t, demo.Program(sample.Today))
	url := server.URL + "/api/v1/programs/1"
	revision := 0
	for name, c := range map[string]struct{ body, label, says string }{
		"a new cadence":  {`{"do":"save-cadence","cadence":{"key":"week","name":"Weekly","start":"2027-03-01","lengthDays":7,"ahead":3}}`, "Cadence Weekly", `"op":"add"`},
		"a longer one":   {`{"do":"save-cadence","cadence":{"key":"two-week","name":"Two weeks","start":"2026-10-19","lengthDays":21,"ahead":10,"naming":"{team}·{n}","carryOver":true}}`, "Cadence Two weeks", `"lengthDays"`},
		"a new team":     {`{"do":"save-team","team":{"key":"PQ","name":"Pier & Quay","unit":"points","cadence":"two-week"}}`, "Team Pier & Quay", `PQ·10`},
		"another rhythm": {`{"do":"follow-cadence","teamKey":"LC","key":"three-week","date":"2027-04-01"}`, "LC follows three-week from 1 Apr", `"field":"cadence"`},
		"closing":        {`{"do":"close-iteration","teamKey":"LC","key":"LC-i10"}`, "Close LC·10", `"value":"closed"`},
		"resizing":       {`{"do":"resize-iteration","teamKey":"LC","key":"LC-i11","date":"2027-03-28","along":true}`, "LC·11 ends 28 Mar", `"iterations":[{"team":"LC"`},
		"inserting":      {`{"do":"insert-iteration","teamKey":"LC","key":"LC-i12","days":7,"name":"Hardening"}`, "New iteration after LC·12", "Hardening"},
		"removing one":   {`{"do":"remove-iteration","teamKey":"LC","key":"LC-i12"}`, "Remove LC·12", `"op":"remove"`},
		"removing all":   {`{"do":"remove","ref":{"kind":"team","key":"LC"}}`, "Remove team LC", `"unplaced":{"new"`},
		"fitting":        {`{"do":"fit-release","key":"R2"}`, "Fit Full Chain", "items of it are not placed"},
		"moving":         {`{"do":"move-release","key":"R1","days":7}`, "Move First Light by 7 days", `"dueAfter"`},
		"phases":         {`{"do":"use-template","key":"R2","template":"usual"}`, "Phases of Full Chain after Build, trial, hand over", `"name":"Hand over"`},
		"people":         {`{"do":"add-people","text":"Ada Ng, LC 50%\nopen seat, TW from 2027-05-01"}`, "Add 2 people", `"openSeat":true`},
		"calendars":      {`{"do":"fetch-calendars"}`, "Days off from calendars", "Family visit"},
		"a file":         {`{"do":"read-calendar","text":"BEGIN:VCALENDAR\nBEGIN:VEVENT\nSUMMARY:Regatta\nDTSTART;VALUE=DATE:20270601\nEND:VEVENT\nEND:VCALENDAR"}`, "Days off from calendars", "Holiday: new, 1 Jun, Regatta"},
		"any change":     {`{"do":"change","changes":[{"op":"set","kind":"milestone","key":"M1","field":"date","value":"2027-03-05"}]}`, "Change", `"missed":true`},
	} {
		got := call(t, http.MethodPost, url+"/proposals", c.body)
		require.Equal(t, http.StatusOK, got.status, "%s: %s", name, got.text)
		plain := strings.ReplaceAll(got.text, `\u0026`, "&")
		assert.Contains(t, got.body["label"], c.label, name)
		assert.Contains(t, plain, c.says, name)
		require.Equal(t, float64(revision), call(t, http.MethodGet, url, "").body["revision"], "%s: nothing was changed yet", name)
		before := call(t, http.MethodGet, url+"/document", "").text
		changes, err := json.Marshal(got.body["changes"])
		require.NoError(t, err)
		body := fmt.Sprintf(`{"client":"a","revision":%d,"label":"Edit","changes":%s}`, revision, changes)
		applied := call(t, http.MethodPost, url+"/changes", body)
		require.Equal(t, http.StatusOK, applied.status, "%s: %s", name, applied.text)
		require.Equal(t, http.StatusOK, call(t, http.MethodPost, url+"/undo", `{"client":"a"}`).status, name)
		require.Equal(t, before, call(t, http.MethodGet, url+"/document", "").text, name)
		revision += 2
	}
}

func TestProposalsThatCannotBe(t *testing.T) {
	server := serve(t, demo.Program(sample.Today))
	url := server.URL + "/api/v1/programs/1"
	for body, says := range map[string]string{
		`{"do":"close-iteration","teamKey":"LC","key":"LC-i12"}`:                                            "LC·12 starts",
		`{"do":"resize-iteration","teamKey":"LC","key":"LC-i99","date":"2027-03-28"}`:                       "no iteration",
		`{"do":"save-cadence","cadence":{"key":"x","start":"2027-03-01","lengthDays":0}}`:                   "not at least 1 day",
		`{"do":"save-cadence","cadence":{"key":"x","start":"2027-03-01","lengthDays":7,"naming":"Sprint"}}`: "same name",
		`{"do":"save-cadence"}`: "cadence is missing",
		`{"do":"save-team","team":{"key":"","name":"X","unit":"points"}}`:   "has no key",
		`{"do":"save-team","team":{"key":"LC","name":"X","unit":"points"}}`: "already",
		`{"do":"remove"}`: "not said",
		`{"do":"remove","ref":{"kind":"team","key":"ZZ"}}`:                             "none with this key",
		`{"do":"fit-release","key":"R9"}`:                                              "no release",
		`{"do":"use-template","key":"R1","template":"none"}`:                           "no phase template",
		`{"do":"add-people","text":"Ada, QQ 50%"}`:                                     `no team \"QQ\"`,
		`{"do":"add-people","text":"\n"}`:                                              "no line with a name",
		`{"do":"read-calendar","text":"no calendar"}`:                                  "line 1",
		`{"do":"read-calendar","person":"zz","text":"BEGIN:VCALENDAR\nEND:VCALENDAR"}`: "no person",
		`{"do":"change","changes":[{"op":"set","kind":"iteration","in":"LC","key":"LC-i12","field":"end","value":"2027-04-10"}]}`: "share",
		`{"do":"sail"}`: "do",
	} {
		got := call(t, http.MethodPost, url+"/proposals", body)
		assert.Equal(t, http.StatusUnprocessableEntity, got.status, "%s: %s", body, got.text)
		assert.Contains(t, got.text, says, body)
	}
	gap := `{"op":"set","kind":"iteration","in":"LC","key":"LC-i12","field":"start","value":"2027-03-31"}`
	got := call(t, http.MethodPost, url+"/changes", edit("a", 0, gap))
	assert.Equal(t, http.StatusUnprocessableEntity, got.status, got.text)
	assert.Contains(t, got.text, "LC·11 ends 21 Mar and LC·12 starts 31 Mar")
}

func TestWhoSetACapacityByHandIsKnown(t *testing.T) {
	server := serve(t, demo.Program(sample.Today))
	url := server.URL + "/api/v1/programs/1"
	change := func(field, value string) string {
		return fmt.Sprintf(`{"op":"set","kind":"iteration","in":"LC","key":"LC-i12","field":%q,"value":%s}`, field, value)
	}
	require.Equal(t, http.StatusOK, call(t, http.MethodPost, url+"/changes", edit("a", 0, change("capacity", "12"), change("capacityNote", `"Two hands more"`))).status)
	got := call(t, http.MethodGet, url+"/capacity?team=LC&iteration=LC-i12", "")
	assert.Equal(t, "Ann", got.body["setBy"])
	assert.Equal(t, "Two hands more", got.body["note"])
	assert.Equal(t, "by hand", got.body["basis"])
	assert.NotEqual(t, 12.0, got.body["reckoned"])
	assert.Equal(t, http.StatusNotFound, call(t, http.MethodGet, url+"/capacity?team=LC&iteration=none", "").status)
	rows := call(t, http.MethodGet, url+"/capacity/rows?by=person", "")
	assert.Contains(t, rows.text, "Ingrid Oksanen")
	free := call(t, http.MethodGet, url+"/free?role=firmware&from=2027-03-08&to=2027-04-02&days=5", "")
	assert.Contains(t, free.text, "Rui Figueira")
	assert.NotContains(t, free.text, "Ingrid")
	assert.Equal(t, http.StatusUnprocessableEntity, call(t, http.MethodGet, url+"/free?from=2027-04-08&to=2027-04-02", "").status)
}

// The report's numbers are numbers, its dates dates, and its totals formulas.
func TestReports(t *testing.T) {
	p := demo.Program(sample.Today)
	p.Teams[0].Name = "=HYPERLINK(1)"
	server := serve(t, p)
	url := server.URL + "/api/v1/programs/1/reports/capacity?from=2027-03-01&to=2027-04-30"
	got := call(t, http.MethodGet, url, "")
	require.Equal(t, http.StatusOK, got.status)
	assert.Contains(t, got.header.Get("Content-Disposition"), "capacity-2027-03-01-2027-04-30.xlsx")
	book, err := excelize.OpenReader(bytes.NewReader([]byte(got.text)))
	require.NoError(t, err)
	require.Equal(t, []string{"Teams", "People"}, book.GetSheetList())
	rows, err := book.GetRows("Teams")
	require.NoError(t, err)
	last := len(rows)
	sum, err := book.GetCellFormula("Teams", fmt.Sprintf("F%d", last))
	require.NoError(t, err)
	assert.Equal(t, fmt.Sprintf("SUM(F2:F%d)", last-1), sum)
	none, err := book.GetCellFormula("Teams", fmt.Sprintf("H%d", last))
	require.NoError(t, err)
	assert.Empty(t, none, "sizes of different teams are never added up")
	headroom, err := book.GetCellFormula("Teams", "J2")
	require.NoError(t, err)
	assert.Equal(t, "H2-I2", headroom)
	kind, err := book.GetCellType("Teams", "H2")
	require.NoError(t, err)
	assert.NotEqual(t, excelize.CellTypeSharedString, kind)
	raw, err := book.GetCellValue("Teams", "C2", excelize.Options{RawCellValue: true})
	require.NoError(t, err)
	assert.Regexp(t, `^46\d\d\d$`, raw, "a date is a day number")
	name, err := book.GetCellFormula("Teams", "A2")
	require.NoError(t, err)
	assert.Empty(t, name, "a name is never a formula")

	text := call(t, http.MethodGet, url+"&format=csv&by=person", "").text
	records, err := csv.NewReader(strings.NewReader(text)).ReadAll()
	require.NoError(t, err)
	assert.Equal(t, "Person", records[0][0])
	assert.Equal(t, "'=HYPERLINK(1)", records[1][1])
	assert.Greater(t, len(records), 20)
}

// As days go by, iterations appear by themselves; an edit of nobody's.
func TestIterationsAreKeptAhead(t *testing.T) {
	p := demo.Program(sample.Today)
	p.Cadences[0].Ahead += 2
	server := serve(t, p)
	got := call(t, http.MethodGet, server.URL+"/api/v1/programs/1/journal", "")
	assert.Contains(t, got.text, "Keep iterations ahead")
	assert.Contains(t, got.text, `"actor":"Jantrel"`)
	text := call(t, http.MethodGet, server.URL+"/api/v1/programs/1/document", "").text
	var after program.Program
	require.NoError(t, json.Unmarshal([]byte(text), &after))
	assert.Len(t, after.Teams[0].Iterations, len(p.Teams[0].Iterations)+2)
	assert.Len(t, after.Teams[5].Iterations, len(p.Teams[5].Iterations))
}

// 200 teams, 2,000 people, 300 iterations each: what the capacity picture opens with.
func BenchmarkOpen200Teams(b *testing.B) {
	server := serve(b, sample.Wide(200, 10, 300))
	call(b, http.MethodGet, server.URL+"/api/v1/programs/1", "")
	for b.Loop() {
		for _, path := range []string{"", "/set-up"} {
			response, err := client.Get(server.URL + "/api/v1/programs/1" + path)
			require.NoError(b, err)
			_, err = io.Copy(io.Discard, response.Body)
			require.NoError(b, err)
			require.NoError(b, response.Body.Close())
		}
	}
}
