package setup_test

import (
	"bytes"
	"encoding/csv"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"github.com/xuri/excelize/v2"

	"jantrel/core/capacity"
	"jantrel/core/program"
	"jantrel/core/sample"
	"jantrel/internal/api/apitest"
	"jantrel/internal/demo"
)

// Every intent, dry, changes nothing; made with the digest of that, it does what was said,
// and can be undone.
func TestIntentsDryAndMade(t *testing.T) {
	t.Parallel()
	apitest.Computes(t)
	server := apitest.Serve(t, demo.Program(sample.Today))
	url := server.URL + "/api/v1/programs/1"
	revision := 0
	for name, c := range map[string]struct{ intent, body, label, says string }{
		"a new cadence":  {"save-cadence", `{"cadence":{"key":"week","name":"Weekly","start":"2027-03-01","lengthDays":7,"ahead":3}}`, "Cadence Weekly", `"op":"add"`},
		"a longer one":   {"save-cadence", `{"cadence":{"key":"two-week","name":"Two weeks","start":"2026-10-19","lengthDays":21,"ahead":10,"naming":"{team}·{n}","carryOver":true}}`, "Cadence Two weeks", `"lengthDays"`},
		"a new team":     {"add-team", `{"team":{"key":"PQ","name":"Pier & Quay","unit":"points","cadence":"two-week"}}`, "Team Pier & Quay", `PQ·10`},
		"another rhythm": {"follow-cadence", `{"team":"LC","cadence":"three-week","from":"2027-04-01"}`, "Lamp Control follows Three weeks from 1 Apr", `"field":"cadence"`},
		"closing":        {"close-iteration", `{"team":"LC","key":"LC-i10"}`, "Close LC·10", `"value":"closed"`},
		"resizing":       {"resize-iteration", `{"team":"LC","key":"LC-i11","end":"2027-03-28","along":true}`, "LC·11 ends 28 Mar", `"iterations":[{"team":"LC"`},
		"inserting":      {"insert-iteration", `{"team":"LC","key":"LC-i12","days":7,"name":"Hardening"}`, "New iteration after LC·12", "Hardening"},
		"removing one":   {"remove-iteration", `{"team":"LC","key":"LC-i12"}`, "Remove LC·12", `"op":"remove"`},
		"removing all":   {"remove", `{"ref":{"kind":"team","key":"LC"}}`, "Remove team Lamp Control", `"unplaced":{"new"`},
		"fitting":        {"fit-release", `{"key":"R2"}`, "Fit Full Chain", "items of it are not placed"},
		"moving":         {"move-release", `{"key":"R1","days":7}`, "Move First Light by 7 days", `"dueAfter"`},
		"phases":         {"lay-phases", `{"key":"R2","template":"usual"}`, "Phases of Full Chain after Build, trial, hand over", `"name":"Hand over"`},
		"a template":     {"keep-template", `{"key":"R1","name":"As in First Light"}`, "Phase template As in First Light", `"name":"As in First Light"`},
		"people":         {"add-people", `{"text":"Ada Ng, LC 50%\nopen seat, TW from 2027-05-01"}`, "Add 2 people", `"openSeat":true`},
		"calendars":      {"fetch-calendars", `{}`, "Days off from calendars", "Family visit"},
		"a file":         {"read-calendar", `{"text":"BEGIN:VCALENDAR\nBEGIN:VEVENT\nSUMMARY:Regatta\nDTSTART;VALUE=DATE:20270601\nEND:VEVENT\nEND:VCALENDAR"}`, "Days off from calendars", "Holiday: new, 1 Jun, Regatta"},
		"any change":     {"make", `{"changes":[{"op":"set","kind":"milestone","key":"M1","field":"date","value":"2027-03-05"}]}`, "Change", `"missed":true`},
	} {
		dry := apitest.Mean(t, url, c.intent, revision, `"dry":true`, c.body)
		require.Equal(t, http.StatusOK, dry.Status, "%s: %s", name, dry.Text)
		require.Equal(t, float64(revision), apitest.Call(t, http.MethodGet, url, "").Body["revision"], "%s: nothing was changed yet", name)
		before := apitest.Call(t, http.MethodGet, url+"/document", "").Text
		made := apitest.Mean(t, url, c.intent, revision, fmt.Sprintf(`"digest":%q`, dry.Body["digest"]), c.body)
		require.Equal(t, http.StatusOK, made.Status, "%s: %s", name, made.Text)
		assert.Contains(t, dry.Body["label"], c.label, name)
		assert.Contains(t, strings.ReplaceAll(dry.Text+made.Text, `\u0026`, "&"), c.says, name)
		assert.Len(t, made.Body["update"].(map[string]any)["changes"], int(dry.Body["changes"].(float64)), name)
		require.Equal(t, http.StatusOK, apitest.Call(t, http.MethodPost, url+"/undo", `{"client":"a"}`).Status, name)
		require.Equal(t, before, apitest.Call(t, http.MethodGet, url+"/document", "").Text, name)
		revision += 2
	}
}

// What was agreed to is made only if it still comes out like that; else it is shown anew.
func TestAYesToSomethingElse(t *testing.T) {
	t.Parallel()
	server := apitest.Serve(t, demo.Program(sample.Today))
	url := server.URL + "/api/v1/programs/1"
	const closing = `{"team":"LC","key":"LC-i10"}`
	dry := apitest.Mean(t, url, "close-iteration", 0, `"dry":true`, closing)
	require.Equal(t, http.StatusOK, dry.Status, dry.Text)
	apitest.OK(t, http.MethodPost, url+"/changes", apitest.Edit("b", 0, fmt.Sprintf(apitest.Set, "LC-8", "iteration", `"LC-i10"`)))
	got := apitest.Mean(t, url, "close-iteration", 0, fmt.Sprintf(`"digest":%q`, dry.Body["digest"]), closing)
	require.Equal(t, http.StatusConflict, got.Status, got.Text)
	assert.Contains(t, got.Text, "would do something else now")
	var problem struct {
		Errors []struct {
			Value struct {
				Digest   string
				Revision int
			}
		}
	}
	require.NoError(t, json.Unmarshal([]byte(got.Text), &problem))
	assert.Equal(t, 1, problem.Errors[0].Value.Revision)
	again := apitest.Mean(t, url, "close-iteration", 1, fmt.Sprintf(`"digest":%q`, problem.Errors[0].Value.Digest), closing)
	assert.Equal(t, http.StatusOK, again.Status, again.Text)
}

func TestIntentsThatCannotBe(t *testing.T) {
	t.Parallel()
	server := apitest.Serve(t, demo.Program(sample.Today))
	url := server.URL + "/api/v1/programs/1"
	for _, c := range [][3]string{
		{"close-iteration", `{"team":"LC","key":"LC-i12"}`, "LC·12 starts"},
		{"resize-iteration", `{"team":"LC","key":"LC-i99","end":"2027-03-28"}`, "no iteration"},
		{"save-cadence", `{"cadence":{"key":"x","start":"2027-03-01","lengthDays":0}}`, "not at least 1 day"},
		{"save-cadence", `{"cadence":{"key":"x","start":"2027-03-01","lengthDays":7,"naming":"Sprint"}}`, "same name"},
		{"save-cadence", `{}`, "expected required property cadence"},
		{"add-team", `{"team":{"key":"","name":"X","unit":"points"}}`, "has no key"},
		{"add-team", `{"team":{"key":"LC","name":"X","unit":"points"}}`, "already"},
		{"remove", `{}`, "expected required property ref"},
		{"remove", `{"ref":{"kind":"team","key":"ZZ"}}`, "none with this key"},
		{"fit-release", `{"key":"R9"}`, "no release"},
		{"lay-phases", `{"key":"R1","template":"none"}`, "no phase template"},
		{"add-people", `{"text":"Ada, QQ 50%"}`, `no team \"QQ\"`},
		{"add-people", `{"text":"\n"}`, "no line with a name"},
		{"read-calendar", `{"text":"no calendar"}`, "line 1"},
		{"read-calendar", `{"person":"zz","text":"BEGIN:VCALENDAR\nEND:VCALENDAR"}`, "no person"},
		{"make", `{"changes":[{"op":"set","kind":"iteration","in":"LC","key":"LC-i12","field":"end","value":"2027-04-10"}]}`, "share"},
	} {
		for _, more := range []string{`"dry":true`, ""} {
			got := apitest.Mean(t, url, c[0], 0, more, c[1])
			assert.Equal(t, http.StatusUnprocessableEntity, got.Status, "%s: %s", c, got.Text)
			assert.Contains(t, got.Text, c[2], c)
		}
	}
	assert.Equal(t, 0.0, apitest.Call(t, http.MethodGet, url, "").Body["revision"])
	gap := `{"op":"set","kind":"iteration","in":"LC","key":"LC-i12","field":"start","value":"2027-03-31"}`
	got := apitest.Call(t, http.MethodPost, url+"/changes", apitest.Edit("a", 0, gap))
	assert.Equal(t, http.StatusUnprocessableEntity, got.Status, got.Text)
	assert.Contains(t, got.Text, "LC·11 ends 21 Mar and LC·12 starts 31 Mar")
}

func TestWhoSetACapacityByHandIsKnown(t *testing.T) {
	t.Parallel()
	server := apitest.Serve(t, demo.Program(sample.Today))
	url := server.URL + "/api/v1/programs/1"
	change := func(field, value string) string {
		return fmt.Sprintf(`{"op":"set","kind":"iteration","in":"LC","key":"LC-i12","field":%q,"value":%s}`, field, value)
	}
	require.Equal(t, http.StatusOK, apitest.Call(t, http.MethodPost, url+"/changes", apitest.Edit("a", 0, change("capacity", "12"), change("capacityNote", `"Two hands more"`))).Status)
	got := apitest.Call(t, http.MethodGet, url+"/capacity?team=LC&iteration=LC-i12", "")
	assert.Equal(t, "Ann", got.Body["setBy"])
	assert.Equal(t, "Two hands more", got.Body["note"])
	assert.Equal(t, "by hand", got.Body["basis"])
	assert.NotEqual(t, 12.0, got.Body["reckoned"])
	assert.Equal(t, http.StatusNotFound, apitest.Call(t, http.MethodGet, url+"/capacity?team=LC&iteration=none", "").Status)
	rows := apitest.Call(t, http.MethodGet, url+"/capacity/rows?by=person", "")
	assert.Contains(t, rows.Text, "Ingrid Oksanen")
	free := apitest.Call(t, http.MethodGet, url+"/free?role=firmware&from=2027-03-08&to=2027-04-02&days=5", "")
	assert.Contains(t, free.Text, "Rui Figueira")
	assert.NotContains(t, free.Text, "Ingrid")
	assert.Equal(t, http.StatusUnprocessableEntity, apitest.Call(t, http.MethodGet, url+"/free?from=2027-04-08&to=2027-04-02", "").Status)
}

// The report's numbers are numbers, its dates dates, and its totals formulas.
func TestReports(t *testing.T) {
	t.Parallel()
	p := demo.Program(sample.Today)
	p.Teams[0].Name = "=HYPERLINK(1)"
	server := apitest.Serve(t, p)
	url := server.URL + "/api/v1/programs/1/reports/capacity?from=2027-03-01&to=2027-04-30"
	got := apitest.Call(t, http.MethodGet, url, "")
	require.Equal(t, http.StatusOK, got.Status)
	assert.Contains(t, got.Header.Get("Content-Disposition"), "capacity-2027-03-01-2027-04-30.xlsx")
	book, err := excelize.OpenReader(bytes.NewReader([]byte(got.Text)))
	require.NoError(t, err)
	require.Equal(t, []string{"Teams", "Roles", "People", "Charts"}, book.GetSheetList())
	rows, err := book.GetRows("Teams")
	require.NoError(t, err)
	last := len(rows)
	sum, err := book.GetCellFormula("Teams", fmt.Sprintf("G%d", last))
	require.NoError(t, err)
	assert.Equal(t, fmt.Sprintf("SUM(G2:G%d)", last-1), sum)
	none, err := book.GetCellFormula("Teams", fmt.Sprintf("I%d", last))
	require.NoError(t, err)
	assert.Empty(t, none, "sizes of different teams are never added up")
	open := 1 + slices.IndexFunc(rows, func(row []string) bool { return row[4] == "open" })
	headroom, err := book.GetCellFormula("Teams", fmt.Sprintf("K%d", open))
	require.NoError(t, err)
	assert.Equal(t, fmt.Sprintf("I%[1]d-J%[1]d", open), headroom)
	kind, err := book.GetCellType("Teams", "I2")
	require.NoError(t, err)
	assert.NotEqual(t, excelize.CellTypeSharedString, kind)
	raw, err := book.GetCellValue("Teams", "C2", excelize.Options{RawCellValue: true})
	require.NoError(t, err)
	assert.Regexp(t, `^46\d\d\d$`, raw, "a date is a day number")
	name, err := book.GetCellFormula("Teams", "A2")
	require.NoError(t, err)
	assert.Empty(t, name, "a name is never a formula")

	text := apitest.Call(t, http.MethodGet, url+"&format=csv&by=person", "").Text
	records, err := csv.NewReader(strings.NewReader(text)).ReadAll()
	require.NoError(t, err)
	assert.Equal(t, "Person", records[0][0])
	assert.Equal(t, "'=HYPERLINK(1)", records[1][1])
	assert.Greater(t, len(records), 20)
}

// What a report says of iterations, roles and people is what the screens say.
func TestAReportSaysWhatTheScreensSay(t *testing.T) {
	t.Parallel()
	p := demo.Program(sample.Today)
	server := apitest.Serve(t, p)
	url := server.URL + "/api/v1/programs/1"
	records := func(by string) [][]string {
		text := apitest.Call(t, http.MethodGet, url+"/reports/capacity?from=2027-02-01&to=2027-06-30&format=csv&by="+by, "").Text
		rows, err := csv.NewReader(strings.NewReader(text)).ReadAll()
		require.NoError(t, err)
		return rows[1:]
	}
	number := func(text string) float64 {
		x, err := strconv.ParseFloat(text, 64)
		require.NoError(t, err, text)
		return x
	}
	of := map[string]*program.Team{}
	for i := range p.Teams {
		of[p.Teams[i].Name] = &p.Teams[i]
	}
	iteration := func(team, name string) *program.Iteration {
		for i := range of[team].Iterations {
			if it := &of[team].Iterations[i]; it.Label() == name {
				return it
			}
		}
		return nil
	}
	past := 0
	for _, row := range records("team") {
		it := iteration(row[0], row[1])
		screen := apitest.Call(t, http.MethodGet, url+"/capacity?team="+of[row[0]].Key+"&iteration="+it.Key, "").Body
		assert.InDelta(t, screen["daysWorked"], number(row[6]), 0.005, row)
		assert.InDelta(t, screen["daysFull"], number(row[7]), 0.005, row)
		assert.InDelta(t, screen["capacity"], number(row[8]), 0.005, row)
		if it.Past() {
			past++
			assert.InDelta(t, *it.Completed, number(row[12]), 0.005)
			assert.Empty(t, row[9], "what stands in a closed one is no plan any more")
		}
	}
	assert.Positive(t, past)

	for by, at := range map[string]struct{ team, capacity, load int }{"role": {1, 6, 7}, "person": {1, 12, 13}} {
		listed := map[[3]string][2]float64{}
		for _, row := range records(by) {
			name := [3]string{row[0], of[row[1]].Key, iteration(row[1], row[2]).Key}
			listed[name] = [2]float64{listed[name][0] + number(row[at.capacity]), number(row[at.load])}
		}
		var screen []capacity.Row
		require.NoError(t, json.Unmarshal([]byte(apitest.Call(t, http.MethodGet, url+"/capacity/rows?by="+by, "").Text), &screen))
		checked := 0
		for _, row := range screen {
			for _, part := range row.Parts {
				if got, in := listed[[3]string{row.Name, part.Team, part.Iteration}]; in {
					checked++
					assert.InDelta(t, part.Capacity, got[0], 0.011, "%s %v", row.Name, part)
					assert.InDelta(t, part.Load, got[1], 0.005, "%s %v", row.Name, part)
					sizes := 0.0
					for _, key := range part.Items {
						sizes += *p.Items[program.TreeOf(p).Index[key]].Size
					}
					assert.InDelta(t, part.Load, sizes, 1e-9, "the items of a load make it up")
				}
			}
		}
		assert.Greater(t, checked, 20)
	}
}

// As days go by, iterations appear by themselves; an edit of nobody's.
func TestIterationsAreKeptAhead(t *testing.T) {
	t.Parallel()
	p := demo.Program(sample.Today)
	p.Cadences[0].Ahead += 2
	server := apitest.Serve(t, p)
	got := apitest.Call(t, http.MethodGet, server.URL+"/api/v1/programs/1/journal", "")
	assert.Contains(t, got.Text, "Keep iterations ahead")
	assert.Contains(t, got.Text, `"actor":"Jantrel"`)
	text := apitest.Call(t, http.MethodGet, server.URL+"/api/v1/programs/1/document", "").Text
	var after program.Program
	require.NoError(t, json.Unmarshal([]byte(text), &after))
	assert.Len(t, after.Teams[0].Iterations, len(p.Teams[0].Iterations)+2)
	assert.Len(t, after.Teams[5].Iterations, len(p.Teams[5].Iterations))
}

// 200 teams, 2,000 people, 300 iterations each: what the capacity picture opens with.
func BenchmarkOpen200Teams(b *testing.B) {
	server := apitest.Serve(b, sample.Wide(200, 10, 300))
	apitest.Call(b, http.MethodGet, server.URL+"/api/v1/programs/1", "")
	for b.Loop() {
		for _, path := range []string{"", "/set-up"} {
			response, err := server.Ann.Get(server.URL + "/api/v1/programs/1" + path)
			require.NoError(b, err)
			_, err = io.Copy(io.Discard, response.Body)
			require.NoError(b, err)
			require.NoError(b, response.Body.Close())
		}
	}
}

// The measured velocity is one figure, in the plan's lanes and on the velocity page: with
// iterations left out and looked back on alike.
func TestOneMeasuredVelocity(t *testing.T) {
	t.Parallel()
	h := apitest.Demo(t)
	ann := h.Client(t, h.Begin(t, "ann", "Ann", ""))
	url := h.URL + "/api/v1/programs/1"
	read := func(path string) map[string][2]float64 {
		var found struct {
			Facts struct {
				Teams []struct {
					Key          string
					Mean, Spread float64
				}
			}
			Teams []struct {
				Team         string
				Mean, Spread float64
			}
		}
		require.NoError(t, json.Unmarshal([]byte(apitest.As(t, ann, http.MethodGet, url+path, "").Text), &found))
		of := map[string][2]float64{}
		for _, x := range found.Facts.Teams {
			of[x.Key] = [2]float64{x.Mean, x.Spread}
		}
		for _, x := range found.Teams {
			of[x.Team] = [2]float64{x.Mean, x.Spread}
		}
		return of
	}
	before := read("/set-up")
	assert.Equal(t, before, read(""))
	assert.Positive(t, before["LC"][1])
	for i, change := range []string{
		`{"op":"set","kind":"iteration","in":"LC","key":"LC-i7","field":"leftOut","value":"storm"}`, `{"op":"set","kind":"team","key":"TW","field":"lookback","value":3}`,
		`{"op":"set","kind":"person","key":"p01","field":"daysOff","value":[{"from":"2027-01-04","to":"2027-01-15"}]}`,
	} {
		require.Equal(t, http.StatusOK, apitest.As(t, ann, http.MethodPost, url+"/changes", apitest.Edit("a", i, change)).Status, change)
		assert.Equal(t, read("/set-up"), read(""), change)
	}
	assert.NotEqual(t, before["LC"], read("")["LC"])
	assert.NotEqual(t, before["TW"], read("")["TW"])
}

// A proposal says how the releases would stand, and once it is made they stand like that.
func TestAProposalSaysHowReleasesWouldStand(t *testing.T) {
	t.Parallel()
	apitest.Computes(t)
	h := apitest.Demo(t)
	ann := h.Client(t, h.Begin(t, "ann", "Ann", ""))
	url := h.URL + "/api/v1/programs/1"
	type landing struct {
		Key    string
		Chance *float64
		Dates  []struct {
			Odds int
			Date string
		}
	}
	now := func() (found struct{ Releases []landing }) {
		require.NoError(t, json.Unmarshal([]byte(apitest.As(t, ann, http.MethodGet, url+"/landings", "").Text), &found))
		return found
	}
	for _, c := range []struct{ do, intent string }{
		{"move-release", `{"key":"R1","days":-14}`},
		{"close-iteration", `{"team":"LC","key":"LC-i10"}`},
		{"make", `{"changes":[{"op":"set","kind":"person","key":"p01","field":"daysOff","value":[{"from":"2027-03-08","to":"2027-05-28"}]}]}`},
	} {
		before := now()
		body := `{"client":"a","revision":%d,"intent":%s%s}`
		dry := apitest.As(t, ann, http.MethodPost, url+"/do/"+c.do, fmt.Sprintf(body, h.Revision(t), c.intent, `,"dry":true,"landings":true`))
		require.Equal(t, http.StatusOK, dry.Status, dry.Text)
		var said struct {
			Digest   string
			Landings []struct{ Before, After landing }
		}
		require.NoError(t, json.Unmarshal([]byte(dry.Text), &said))
		require.Len(t, said.Landings, 2)
		made := apitest.As(t, ann, http.MethodPost, url+"/do/"+c.do, fmt.Sprintf(body, h.Revision(t), c.intent, fmt.Sprintf(`,"digest":%q`, said.Digest)))
		require.Equal(t, http.StatusOK, made.Status, made.Text)
		after := now()
		for i, l := range said.Landings {
			assert.Equal(t, before.Releases[i], l.Before, c.do)
			assert.Equal(t, after.Releases[i], l.After, c.do)
		}
		assert.NotEqual(t, before, after, "%s changes something", c.do)
	}
	none := apitest.As(t, ann, http.MethodPost, url+"/do/move-release", fmt.Sprintf(`{"client":"a","revision":%d,"intent":{"key":"R1","days":7},"dry":true}`, h.Revision(t)))
	assert.NotContains(t, none.Text, `"landings"`, "only where it is asked for")
}
