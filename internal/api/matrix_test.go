package api_test

import (
	"context"
	"crypto/rand"
	"encoding/json"
	"fmt"
	"net/http"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/briefs"
	"jantrel/core/program"
	"jantrel/core/reports"
	"jantrel/core/roles"
	"jantrel/core/sample"
	"jantrel/core/starting"
	"jantrel/internal/account"
	"jantrel/internal/api"
	"jantrel/internal/api/apitest"
	"jantrel/internal/backups"
	"jantrel/internal/demo"
	"jantrel/internal/journal"
	"jantrel/internal/live"
	"jantrel/internal/store"
)

// Who comes through, a letter each.
const (
	serverAdmin = "S"
	admin       = "A"
	manager     = "M"
	lead        = "L" // of Lamp & Control: person p01
	member      = "B" // the same person
	viewer      = "V"
	managerKey  = "t" // a manager's token
	elsewhere   = "O" // an administrator of another program alone
	nowhere     = "R" // who was a manager, until the role was ended

	reads      = serverAdmin + admin + manager + lead + member + viewer + managerKey
	manages    = serverAdmin + admin + manager + managerKey
	leads      = manages + lead
	works      = leads + member
	everybody  = reads + elsewhere + nowhere
	people     = serverAdmin + admin + manager + lead + member + viewer // of the program, without tokens
	programmer = serverAdmin + admin
)

// attempt is a request of an operation, and who comes through with it.
type attempt struct {
	path, body string
	may        string
	fails      int                  // what else is wrong with it, which those who may are told; 0: nothing
	fresh      func(*court) []any   // what goes into the path, made anew each time
	sends      string               // media type of the body; empty: JSON
	again      func(*court, string) // puts things back, given the visitor's letter
	keeps      bool                 // it is of what the visitor keeps: a token that only looks does not come through
}

// attempts are of every operation that is not public, by its id: one or more, about own
// things and about others'.
func attempts() map[string][]attempt {
	one := func(path, body, may string) []attempt { return []attempt{{path: path, body: body, may: may}} }
	kept := func(path, body string) []attempt {
		return []attempt{{path: path, body: body, may: reads, keeps: true}}
	}
	in := "/programs/1"
	// Intents are asked dry: who may say them is asked, and nothing changes.
	dry := func(intent string) string {
		return `{"client":"m","revision":0,"dry":true,"intent":` + intent + `}`
	}
	do := func(name, intent, may string) attempt {
		return attempt{path: in + "/do/" + name, body: dry(intent), may: may}
	}
	view := `{"view":{"key":"v","name":"All"}`
	change := func(text string) string { return apitest.Edit("m", 0, text) }
	undo := func(h *court, _ string) { forget(h) }
	return map[string][]attempt{
		"list-accounts": one("/accounts", "", serverAdmin),
		"add-account":   {{path: "/accounts", body: `{"login":"x","name":"X","password":"short"}`, may: serverAdmin, fails: http.StatusUnprocessableEntity}},
		"save-account":  {{path: "/accounts/%d", body: `{"name":"Victim"}`, may: serverAdmin, fresh: victim}},
		"get-access":    {{path: "/accounts/%d/access", may: serverAdmin, fresh: victim}},
		"end-sessions":  {{path: "/accounts/%d/sessions", may: serverAdmin, fresh: victim}},
		"end-token": {{path: "/accounts/%d/tokens/%d", may: serverAdmin, fresh: func(h *court) []any {
			of := victim(h)[0].(int64)
			return []any{of, token(h, of)}
		}}},
		"end-link-of": {{path: "/accounts/%d/links/%d", may: serverAdmin, fresh: func(h *court) []any {
			return append(victim(h), link(h)...)
		}}},
		"get-audit":       one("/audit", "", serverAdmin),
		"export-audit":    one("/audit/export", "", serverAdmin),
		"get-backups":     one("/backups", "", serverAdmin),
		"make-backup":     one("/backups", "", serverAdmin),
		"get-backup":      {{path: "/backups/jantrel-20200101-000000.db", may: serverAdmin, fails: http.StatusNotFound}},
		"get-vocabulary":  one("/backlog-vocabulary", "", everybody),
		"get-me":          one("/me", "", everybody),
		"get-watch":       one("/watch", "", everybody),
		"get-news":        one("/news", "", everybody),
		"change-password": {{path: "/me/password", body: `{"present":"x","next":"short"}`, may: people + elsewhere + nowhere, fails: http.StatusUnprocessableEntity}},
		"list-programs":   one("/programs", "", everybody),
		"list-templates":  one("/templates", "", everybody),
		"keep-template":   one(in+"/template", `{"name":"Like this"}`, strings.ReplaceAll(manages, managerKey, "")),
		"import-template": {{path: "/templates", body: `{}`, may: serverAdmin + admin + manager + elsewhere, fails: http.StatusUnprocessableEntity}},
		"export-template": {{path: "/templates/%d/document", may: serverAdmin + admin + manager + elsewhere, fresh: template}},
		"remove-template": {{path: "/templates/%d", may: serverAdmin, fresh: template}}, // and its maker's: TestTemplates
		"create-program":  one("/programs", `{"name":"New"}`, serverAdmin+admin+manager+elsewhere),
		"import-program":  {{path: "/programs/import", body: `{}`, may: serverAdmin + admin + manager + elsewhere, fails: http.StatusUnprocessableEntity}},
		"delete-program": {{path: "/programs/%d", may: serverAdmin, fresh: func(h *court) []any {
			id, _ := h.Hub.Create(h.ctx, program.Program{Name: "To go"}.Normal())
			return []any{id}
		}}, {path: "/programs/%d", may: programmer, fresh: func(h *court) []any {
			id, _ := h.Hub.Create(h.ctx, program.Program{Name: "To go"}.Normal())
			for i, role := range roles.All {
				_ = h.Accounts.Store().SaveMembership(h.ctx, store.Membership{AccountID: h.members[i], ProgramID: id, Role: role})
			}
			return []any{id}
		}}},
		"get-program":      one(in, "", reads),
		"see-news":         kept(in+"/news-seen", `{"revision":0}`),
		"list-attachments": one(in+"/attachments?item=LC-8", "", reads),
		"list-gone-files":  one(in+"/attachments/gone", "", manages),
		"add-attachment": {
			{path: in + "/attachments?item=LC-5&name=a", body: "x", may: works, sends: "application/octet-stream"},
			{path: in + "/attachments?item=LC-8&name=a", body: "x", may: leads, sends: "application/octet-stream"},
			{path: in + "/attachments?item=TW-5&name=a", body: "x", may: manages, sends: "application/octet-stream"},
		},
		"remove-attachment": {
			{path: in + "/attachments/%d", may: works, fresh: file("LC-5")},
			{path: in + "/attachments/%d", may: leads, fresh: file("LC-8")},
			{path: in + "/attachments/%d", may: manages, fresh: file("TW-5")},
			{path: in + "/attachments/%d", may: manages, fresh: file("GONE-1")},
		},
		"get-attachment":    {{path: in + "/attachments/%d", may: reads, fresh: file("LC-5")}},
		"list-backlog":      one(in+"/backlog", view+"}", reads),
		"write-backlog":     one(in+"/backlog/file", view+`,"format":"csv"}`, reads),
		"get-capacity":      one(in+"/capacity?team=LC&iteration=LC-i11", "", reads),
		"get-capacity-rows": one(in+"/capacity/rows?by=person", "", reads),
		"get-details":       one(in+"/details", "", reads),
		"apply-changes": {
			{path: in + "/changes", body: change(fmt.Sprintf(apitest.Set, "LC-5", "title", `"Mine"`)), may: works, again: undo},
			{path: in + "/changes", body: change(`{"op":"set","kind":"person","key":"p01","field":"daysOff","value":[]}`), may: works, again: undo},
			{path: in + "/changes", body: change(fmt.Sprintf(apitest.Set, "LC-8", "size", "2")), may: leads, again: undo},
			{path: in + "/changes", body: change(`{"op":"set","kind":"iteration","in":"LC","key":"LC-i12","field":"capacity","value":9}`), may: leads, again: undo},
			{path: in + "/changes", body: change(fmt.Sprintf(apitest.Set, "TW-5", "size", "2")), may: manages, again: undo},
			{path: in + "/changes", body: change(`{"op":"set","kind":"program","field":"fillTo","value":0.5}`), may: manages, again: undo},
		},
		"undo":               {{path: in + "/undo", body: `{"client":"nothing yet"}`, may: works, fails: http.StatusConflict}},
		"step-past":          {{path: in + "/step-past", body: `{"client":"nothing yet","what":"undo","label":"x"}`, may: works, fails: http.StatusConflict}},
		"redo":               {{path: in + "/redo", body: `{"client":"nothing yet"}`, may: works, fails: http.StatusConflict}},
		"do-add-outline":     {do("add-outline", `{"text":"A lamp","under":{"team":"LC"}}`, leads), do("add-outline", `{"text":"A lamp","under":{"team":"TW"}}`, manages)},
		"do-set-members":     {do("set-members", `{"team":"LC","members":[]}`, manages)},
		"do-agree-velocity":  {do("agree-velocity", `{"team":"LC","velocity":22}`, leads), do("agree-velocity", `{"team":"TW","velocity":22}`, manages)},
		"do-agree-on":        {do("agree-on", `{"team":"LC","confidence":0.85}`, leads), do("agree-on", `{"team":"TW","confidence":0.85}`, manages)},
		"do-add-people":      {do("add-people", `{"text":"Ada Ng, LC 50%"}`, manages)},
		"do-add-team":        {do("add-team", `{"team":{"key":"PQ","name":"Pier","unit":"points","cadence":"two-week"}}`, manages)},
		"do-break-down":      {do("break-down", `{"key":"FE-1","pattern":"across"}`, manages)},
		"do-close-iteration": {do("close-iteration", `{"team":"LC","key":"LC-i10"}`, leads), do("close-iteration", `{"team":"TW","key":"TW-i10"}`, manages)},
		"do-close-ended":     {do("close-ended", `{"teams":["KC"]}`, leads), do("close-ended", `{"teams":["MA"]}`, manages)},
		"do-delete":          {do("delete", `{"keys":["LC-8"]}`, leads), do("delete", `{"keys":["LC-5"]}`, manages), do("delete", `{"keys":["TW-5"]}`, manages)},
		"do-enter": {
			do("enter", `{"keys":["LC-5"],"fields":["title"],"cells":[["Mine"]]}`, works),
			do("enter", `{"keys":["LC-8"],"fields":["size"],"cells":[["2"]]}`, leads), do("enter", `{"keys":["TW-5"],"fields":["size"],"cells":[["2"]]}`, manages),
		},
		"do-fetch-calendars":  {do("fetch-calendars", `{"person":"p01"}`, works)},
		"do-fit-release":      {do("fit-release", `{"key":"R2"}`, manages)},
		"do-follow-cadence":   {do("follow-cadence", `{"team":"LC","cadence":"three-week","from":"2027-04-30"}`, manages)},
		"do-insert-iteration": {do("insert-iteration", `{"team":"LC","key":"LC-i12","name":"Hardening","days":7}`, leads), do("insert-iteration", `{"team":"TW","key":"TW-i12","name":"Hardening","days":7}`, manages)},
		"do-keep-template":    {do("keep-template", `{"key":"R1","name":"As before"}`, manages)},
		"do-lay-phases":       {do("lay-phases", `{"key":"R2","template":"usual"}`, manages)},
		"do-make": {
			do("make", `{"label":"E","changes":[`+fmt.Sprintf(apitest.Set, "LC-8", "title", `"New"`)+`]}`, leads),
			do("make", `{"label":"E","changes":[`+fmt.Sprintf(apitest.Set, "TW-5", "title", `"New"`)+`]}`, manages),
		},
		"do-move-iteration": {do("move-iteration", `{"team":"LC","key":"LC-i12","days":7}`, leads), do("move-iteration", `{"team":"TW","key":"TW-i12","days":7}`, manages)},
		"do-move-release":   {do("move-release", `{"key":"R1","days":-7}`, manages)},
		"do-place": {
			do("place", `{"label":"Place","placements":[{"item":"LC-8","iteration":"LC-i13"}]}`, leads),
			do("place", `{"label":"Place","placements":[{"item":"TW-5","iteration":"TW-i13"}]}`, manages),
		},
		"do-rank":              {do("rank", `{"keys":["LC-8"],"to":{"to":"top"}}`, leads), do("rank", `{"keys":["TW-5"],"to":{"to":"top"}}`, manages)},
		"do-read-calendar":     {do("read-calendar", `{"person":"p01","text":"BEGIN:VCALENDAR\r\nEND:VCALENDAR\r\n"}`, works)},
		"do-remove":            {do("remove", `{"ref":{"kind":"release","key":"R2"}}`, manages)},
		"do-remove-iteration":  {do("remove-iteration", `{"team":"LC","key":"LC-i12"}`, leads), do("remove-iteration", `{"team":"TW","key":"TW-i12"}`, manages)},
		"do-repeat":            {do("repeat", `{"keys":["watch"],"until":"2027-05-01"}`, leads)},
		"do-resize-iteration":  {do("resize-iteration", `{"team":"LC","key":"LC-i12","end":"2027-04-08","along":true}`, leads), do("resize-iteration", `{"team":"TW","key":"TW-i12","end":"2027-04-08","along":true}`, manages)},
		"do-resume-iterations": {do("resume-iterations", `{"teams":["LC"]}`, works)}, // there is nothing to resume: nothing to refuse
		"do-save-cadence":      {do("save-cadence", `{"cadence":{"key":"week","start":"2027-03-02","lengthDays":7,"ahead":3}}`, manages)},
		"do-move-rough":        {do("move-rough", `{"item":"FE-25","team":"CD","from":"CD-i16","to":"CD-i17"}`, manages)},
		"do-shift":             {do("shift", `{"item":"LC-8","days":14}`, leads), do("shift", `{"item":"TW-5","days":14}`, manages)},
		"do-split":             {do("split", `{"key":"LC-14","parts":[{"title":"a","needs":false,"wanted":false},{"title":"b","needs":false,"wanted":false}],"chain":true}`, leads)},
		"do-start-iterations":  {do("start-iterations", `{"iterations":[{"team":"KC","key":"KC-i11","goal":"g"}]}`, leads), do("start-iterations", `{"iterations":[{"team":"CD","key":"CD-i11"}]}`, manages)},
		"do-take-to-step":      {do("take-to-step", `{"item":"LC-5","to":2}`, works)},
		"do-work-on-task":      {do("work-on-task", `{"item":"LC-5","task":1,"title":"Fit and tabulate","hoursLeft":3}`, works)},
		"do-set-steps":         {do("set-steps", `{"steps":[{"name":"trial","state":"doing","most":3}]}`, manages)},
		"do-reopen-iteration":  {do("reopen-iteration", `{"team":"LC","key":"LC-i9"}`, leads), do("reopen-iteration", `{"team":"TW","key":"TW-i9"}`, manages)},
		"do-add-risk":          {do("add-risk", `{"risk":{"key":"","title":"Ice","owner":"p01"}}`, works), do("add-risk", `{"risk":{"key":"","title":"Ice","teams":["TW"]}}`, manages)},
		"do-give-promise":      {do("give-promise", `{"release":"R1","date":"2027-06-25","to":"Harbour board"}`, manages)},
		"do-add-needs":         {do("add-needs", `{"text":"LC-14 TW-9"}`, leads), do("add-needs", `{"text":"TW-14 LC-9"}`, manages)},
		"do-answer-need":       {do("answer-need", `{"item":"MA-1","needs":"LC-6","word":"decline","why":"no room"}`, leads), do("answer-need", `{"item":"MA-9","needs":"TW-9","word":"decline","why":"no room"}`, manages)},
		"get-needs-map":        one(in+"/needs/map", "", reads),
		"get-owed":             one(in+"/needs/owed?gives=TW&waits=LC", "", reads),
		"get-owed-odds":        one(in+"/needs/odds?gives=TW", "", reads),
		"export-needs":         one(in+"/reports/needs?gives=TW&format=dot", "", reads),
		"get-attention":        one(in+"/attention", "", reads),
		"get-health":           one(in+"/health", "", reads),
		"get-feature-landings": one(in+"/feature-landings", "", reads),
		"get-risks":            one(in+"/risks", "", reads),
		"get-risk-worths":      one(in+"/risk-worths", "", reads),
		"do-enter-time":        {do("enter-time", `{"person":"p01","date":"2027-03-02","item":"LC-5","hours":2}`, works), do("enter-time", `{"person":"p05","date":"2027-03-02","item":"LC-5","hours":2}`, manages)},
		"explain-edit":         one(in+"/journal/1/why", `{"why":"asked for"}`, manages),
		"report-signals": {
			{path: in + "/signals", body: `{"tests":[{"item":"LC-5","at":"2027-03-02T09:00:00Z","passed":1,"failed":0,"notRun":0}]}`, may: works, again: undo},
			{path: in + "/signals", body: `{"builds":[{"team":"LC","name":"main","at":"2027-03-02T09:00:00Z","state":"red"}]}`, may: leads, again: undo},
			{path: in + "/signals", body: `{"deployments":[{"team":"TW","place":"pier","version":"1","at":"2027-03-02T09:00:00Z"}]}`, may: manages, again: undo},
		},
		"get-hours-week":          one(in+"/hours-week?person=p13", "", reads),
		"get-hours":               one(in+"/hours?from=2027-02-01&to=2027-03-31", "", reads),
		"export-hours":            one(in+"/reports/hours?from=2027-02-01&to=2027-03-31&format=csv", "", reads),
		"export-release-review":   one(in+"/reports/release-review?release=R1", "", reads),
		"get-iteration-review":    one(in+"/iteration-review?team=LC&iteration=LC-i9", "", reads),
		"export-iteration-review": one(in+"/reports/iteration-review?team=LC&iteration=LC-i9", "", reads),
		"get-scope-history":       one(in+"/scope-history?release=R1", "", reads),
		"get-under-way":           one(in+"/under-way", "", reads),
		"do-start-iteration":      {do("start-iteration", `{"team":"KC","key":"KC-i11"}`, leads), do("start-iteration", `{"team":"CD","key":"CD-i11"}`, manages)},
		"do-take-in":              {do("take-in", `{"columns":["title","team"],"rows":[["Fog bell","LC"]]}`, leads), do("take-in", `{"columns":["title","team"],"rows":[["Fog bell","TW"]]}`, manages)},
		"export-program":          one(in+"/document", "", reads),
		"check-outline":           one(in+"/outlines/check", `{"text":"A lamp (3, LC)"}`, works),
		"try-places":              one(in+"/places/try", `{"placements":[{"item":"LC-8","iteration":"LC-i13"}]}`, reads),
		"draft-schedule":          one(in+"/draft", `{"aim":"dates"}`, reads),
		"find-levers":             one(in+"/levers", `{"need":{"item":"LC-6","needs":"LC-4"}}`, reads),
		"fit-backlog":             one(in+"/fit", view+"}", reads),
		"get-fits":                one(in+"/fits?team=LC&items=LC-8", "", reads),
		"get-forecast":            one(in+"/forecast?plays=100", "", reads),
		"get-back-test":           one(in+"/forecast/back-test", "", reads),
		"get-dates":               one(in+"/forecast/dates", "", reads),
		"ask-when":                one(in+"/forecast/when", `{"release":"R1"}`, reads),
		"ask-fits":                one(in+"/forecast/fits", `{"release":"R1","by":"2027-06-01"}`, reads),
		"ask-cut":                 one(in+"/forecast/cut", `{"item":"LC-8","by":"2027-06-01","odds":50}`, reads),
		"ask-causes":              one(in+"/forecast/causes", `{"release":"R1","since":"2027-02-20"}`, reads),
		"get-forecast-history":    one(in+"/forecast/history?release=R1", "", reads),
		"ask-moves":               one(in+"/forecast/moves", `{"release":"R1","day":"2027-02-26"}`, reads),
		"ask-drivers":             one(in+"/forecast/drivers", `{"item":"LC-8"}`, reads),
		"ask-chains":              one(in+"/forecast/chains", `{"item":"LC-8"}`, reads),
		"ask-pace":                one(in+"/forecast/pace", `{"item":"LC-8","by":"2027-06-01","odds":50}`, reads),
		"find-people":             one(in+"/free?from=2027-03-01&to=2027-04-01", "", reads),
		"get-here":                one(in+"/here?client=m", "", reads),
		"get-history":             one(in+"/history?item=LC-8", "", reads),
		"check-import":            one(in+"/imports/check", `{"columns":["title"],"rows":[["Fog bell"]]}`, works),
		"get-journal":             one(in+"/journal", "", reads),
		"get-landings":            one(in+"/landings", "", reads),
		"list-members":            one(in+"/members", "", programmer),
		"save-member":             one(in+"/members", `{"login":"victim","role":"viewer"}`, programmer),
		"remove-member":           {{path: in + "/members/%d", may: programmer, fresh: victim}},
		"get-mix":                 one(in+"/mix", "{}", reads),
		"get-outline":             one(in+"/outline", "", reads),
		"list-scenarios":          one(in+"/scenarios", "", reads),
		"make-scenario":           {{path: in + "/scenarios", body: `{"name":"What if"}`, may: works}},
		"save-scenario":           {{path: in + "/scenarios/%d", body: `{"name":"Shared","shared":true}`, may: manages, fresh: shared}},
		"delete-scenario":         {{path: in + "/scenarios/%d", may: manages, fresh: shared}},
		"list-private-scenarios":  one(in+"/scenarios/private", "", manages),
		"get-scenario":            {{path: in + "/scenario?scenario=%d", may: reads, fresh: shared}},
		"ask-merge":               {{path: in + "/scenario/merge?scenario=%d", body: `{"way":"publish","choice":{}}`, may: reads, fresh: shared}},
		"do-publish":              {{path: in + "/do/publish?scenario=%d", body: `{"client":"m","revision":0,"intent":{"choice":{}}}`, may: leads, fresh: shared}},
		"do-bring-up-to-date":     {{path: in + "/do/bring-up-to-date?scenario=%d", body: `{"client":"m","revision":0,"intent":{"choice":{}}}`, may: works, fresh: shared}},
		"compare-lines":           one(in+"/compare?of=live&of=0", "", reads),
		"report-comparison":       one(in+"/reports/compare?of=live&of=0&format=csv", "", reads),
		"do-take-back":            {{path: in + "/do/take-back", body: `{"client":"m","revision":0,"intent":{"edit":1,"choice":{"leaveOut":[{"kind":"item","key":"LC-8","op":"set","field":"size"}]}}}`, may: works}},
		"do-keep-what-if":         {do("keep-what-if", `{"release":"R1","if":{"pullAhead":false}}`, manages)},
		"get-since":               one(in+"/since?of=0", "", reads),
		"list-baselines":          one(in+"/baselines", "", reads),
		"freeze-baseline":         one(in+"/baselines", `{"name":"As agreed"}`, manages),
		"remove-baseline":         {{path: in + "/baselines/%d", may: manages, fresh: baseline}},
		"get-chart-vocabulary":    one("/chart-vocabulary", "", everybody),
		"draw-charts":             one(in+"/charts", `{"charts":[{"of":"items","measure":"number","form":"figure"}]}`, reads),
		"get-behind-chart":        one(in+"/charts/behind", `{"chart":{"of":"items","measure":"number","form":"figure"}}`, reads),
		"list-pages":              one(in+"/pages", "", reads),
		"get-page":                {{path: in + "/pages/%d", may: reads, fresh: page}},
		"add-page":                kept(in+"/pages", `{"name":"P","cards":[]}`),
		"put-page":                {{path: in + "/pages/%d", body: `{"version":1,"name":"P","cards":[]}`, may: reads, fresh: page, keeps: true}},
		"remove-page":             {{path: in + "/pages/%d", may: "", fresh: page}}, // its owner's alone: TestPagesOfCharts
		"list-date-feeds":         one(in+"/date-feeds", "", reads),
		"add-date-feed":           one(in+"/date-feeds", `{"what":["mine"]}`, strings.ReplaceAll(reads, managerKey, "")),
		"end-date-feed":           {{path: in + "/date-feeds/999", may: reads, fails: http.StatusNotFound, keeps: true}}, // one's own alone: TestDateFeeds
		"get-exports":             one(in+"/exports", "", reads),
		"put-exports":             kept(in+"/exports", "[]"),
		"get-guidance":            one(in+"/guidance", "", reads),
		"list-screens":            {{path: in + "/pages/%d/screens", may: strings.ReplaceAll(leads, managerKey, ""), fresh: page}},
		"add-screen":              {{path: in + "/pages/%d/screens", body: `{"seconds":20,"dimFrom":0,"dimTo":0}`, may: strings.ReplaceAll(leads, managerKey, ""), fresh: page}},
		"end-screen":              {{path: in + "/pages/%d/screens/%d", may: strings.ReplaceAll(leads, managerKey, ""), fresh: screen}},
		"report-plan":             one(in+"/reports/plan", "", reads),
		"report-dates":            one(in+"/reports/dates?what=releases&what=mine", "", reads),
		"report-journal":          one(in+"/reports/journal", "", reads),
		"list-briefs":             one(in+"/briefs", "", reads),
		"get-brief":               {{path: in + "/briefs/%d", may: leads, fresh: draft}, {path: in + "/briefs/%d", may: reads, fresh: published}},
		"add-brief":               one(in+"/briefs", `{}`, leads),
		"put-brief":               {{path: in + "/briefs/%d", body: `{"version":1,"title":"B","sections":[]}`, may: leads, fresh: draft}},
		"publish-brief":           {{path: in + "/briefs/%d/publish", body: `{"version":1}`, may: leads, fresh: draft}},
		"remove-brief":            {{path: in + "/briefs/%d", may: leads, fresh: draft}},
		"export-brief":            {{path: in + "/reports/brief?brief=%d", may: leads, fresh: draft}, {path: in + "/reports/brief?brief=%d&format=html", may: reads, fresh: published}},
		"list-brief-links":        {{path: in + "/briefs/%d/links", may: leads, fresh: published}},
		"add-brief-link":          {{path: in + "/briefs/%d/links", may: strings.ReplaceAll(leads, managerKey, ""), fresh: published}},
		"list-links":              one(in+"/links", "", reads),
		"end-link":                {{path: in + "/links/%d", may: strings.ReplaceAll(leads, managerKey, ""), fresh: link}}, // and one's own: TestLinksOutliveNobody
		"get-private-views":       one(in+"/private-views", "", reads),
		"put-private-views":       kept(in+"/private-views", "[]"),
		"get-reason":              one(in+"/reason?item=LC-8", "", reads),
		"paint-plan":              one(in+"/paint", view+"}", reads),
		"get-rollups":             one(in+"/rollups", "", reads),
		"report-capacity":         one(in+"/reports/capacity?from=2027-03-01&to=2027-04-01", "", reads),
		"get-set-up":              one(in+"/set-up", "", reads),
		"get-starts":              one(in+"/starts", "", reads),
		"get-steps":               one(in+"/steps?client=m", "", reads),
		"read-table":              {{path: in + "/tables?name=a.csv", body: "title\nx\n", may: works, sends: "application/octet-stream"}},
		"list-tokens":             one(in+"/tokens", "", reads),
		"make-token":              one(in+"/tokens", `{"name":"x","role":"viewer","expires":"`+time.Now().AddDate(0, 0, 9).Format("2006-01-02")+`"}`, people),
		"remove-token":            one(in+"/tokens/999", "", people),
		"sign-out":                nil, // who is signed in may; TestRevokedStreamsEnd and others
	}
}

func victim(h *court) []any {
	a, _ := h.Accounts.Store().AccountBy(h.ctx, "login", "victim")
	return []any{a.ID}
}

// shared is a scenario of somebody else's that all see, in which something was changed that a team lead may change too.
func shared(h *court) []any {
	l, err := h.Hub.Open(h.ctx, 1)
	if err != nil {
		panic(err)
	}
	lines, _ := h.Accounts.Store().Lines(h.ctx, 1)
	for _, old := range lines {
		_ = h.Hub.DeleteScenario(h.ctx, old.ID) // a program has so many at most
	}
	s, _ := h.Hub.MakeScenario(h.ctx, live.Author{Actor: "Somebody", Client: "0:m"}, l, l.State().Revision, journal.About{Name: "What if", Shared: true})
	_, _ = s.Apply(h.ctx, live.Author{Actor: "Somebody", Client: "0:m"}, s.State().Revision, "E", []program.Change{program.SetTo(program.Ref{Kind: program.KindItem, Key: "LC-8"}, "title", time.Now().String())})
	return []any{s.ID()}
}

// baseline is a fresh one; the others go, as there are only so many.
func baseline(h *court) []any {
	list, _ := h.Accounts.Store().Baselines(h.ctx, 1)
	for _, b := range list {
		_ = h.Accounts.Store().RemoveBaseline(h.ctx, 1, b.ID)
	}
	b, _ := h.Accounts.Store().AddBaseline(h.ctx, store.Baseline{Program: 1, Name: "As agreed"})
	return []any{b.ID}
}

// page is a fresh one of somebody else's, that all of the program may change.
func page(h *court) []any {
	owner, _ := h.Accounts.Store().AccountBy(h.ctx, "login", "keeper") // who stays
	p, _ := h.Accounts.Store().AddPage(h.ctx, store.Page{Program: 1, OwnerID: owner.ID, Owner: owner.Name, Shared: store.SharedEdit, Body: reports.Page{Name: "P", Cards: []reports.Card{{Key: "1", Kind: reports.CardText, Wide: 2, High: 1, Text: "x"}}}})
	if p.ID > 3 {
		_ = h.Accounts.Store().RemovePage(h.ctx, 1, p.ID-3) // somebody keeps so many at most
	}
	return []any{p.ID}
}

// draft is a fresh draft of a brief.
func draft(h *court) []any {
	b, _ := h.Accounts.Store().AddBrief(h.ctx, store.Brief{Program: 1, Author: "Victim", Body: briefs.Brief{Title: "B", Sections: []briefs.Section{}}})
	return []any{b.ID}
}

// published is a fresh one that is published.
func published(h *court) []any {
	b, _ := h.Accounts.Store().Brief(h.ctx, 1, draft(h)[0].(int64))
	b.Written = &briefs.Written{Title: "B", Sections: []briefs.Told{}}
	_, _ = h.Accounts.Store().PublishBrief(h.ctx, b)
	return []any{b.ID}
}

// link leads to such a one.
func link(h *court) []any {
	l, _ := h.Accounts.Store().AddLink(h.ctx, store.Link{Program: 1, Kind: store.ToBrief, About: published(h)[0].(int64), MakerID: victim(h)[0].(int64)}, rand.Text())
	return []any{l.ID}
}

// template is one that nobody here made.
func template(h *court) []any {
	made := starting.Of(demo.Program(sample.Today), "T", "", nil, briefs.Forms{})
	t, _ := h.Accounts.Store().AddTemplate(h.ctx, store.Template{Maker: "Victim"}, &made)
	if t.ID > 3 {
		_ = h.Accounts.Store().RemoveTemplate(h.ctx, t.ID-3) // a server keeps so many at most
	}
	return []any{t.ID}
}

// screen shows such a page.
func screen(h *court) []any {
	of := page(h)[0].(int64)
	s, _ := h.Accounts.Store().AddLink(h.ctx, store.Link{Program: 1, Kind: store.ToScreen, About: of, MakerID: victim(h)[0].(int64)}, rand.Text())
	return []any{of, s.ID}
}

func token(h *court, of int64) int64 {
	_, _ = h.Accounts.NewToken(h.ctx, of, 1, "x", roles.Viewer, time.Now().Add(time.Hour))
	tokens, _ := h.Accounts.Store().TokensOf(h.ctx, of)
	return tokens[len(tokens)-1].ID
}

func file(item string) func(*court) []any {
	return func(h *court) []any {
		a, _ := h.Accounts.Store().AddAttachment(h.ctx, 1, store.Attachment{Item: item, Name: "a", Type: "text/plain"}, []byte("x"))
		return []any{a.ID}
	}
}

// court is a server before which everybody tries everything.
type court struct {
	*apitest.Harbour
	ctx     context.Context
	members []int64 // accounts, one of each role
}

// forget takes back what the last edit did, whoever made it.
func forget(h *court) {
	l, _ := h.Hub.Open(h.ctx, 1)
	edits, _ := l.Journal(h.ctx, 0, 1, journal.Sought{})
	if len(edits) > 0 {
		_, _ = l.Undo(h.ctx, authorOf(edits[0]))
	}
}

// Every operation, as everybody, about own things and others', comes through or is refused
// as it says above: 403 to who belongs to the program, 404 to who does not, 401 to who has
// been shut out.
func TestWhoMayDoWhat(t *testing.T) {
	t.Parallel()
	if testing.Short() {
		t.Skip("two thousand requests")
	}
	h := &court{Harbour: apitest.New(t, someClosed(demo.Program(sample.Today)), func(o *api.Options) {
		o.Backups = &backups.Keeper{Store: o.Accounts.Store(), Folder: t.TempDir(), Clock: apitest.Ticking(), Log: o.Log}
	})}
	h.ctx = t.Context()
	l, err := h.Hub.Open(h.ctx, 1)
	require.NoError(t, err)
	_, err = l.Apply(h.ctx, live.Author{Actor: "Somebody", Client: "0:m"}, 0, "E", []program.Change{program.SetTo(program.Ref{Kind: program.KindItem, Key: "LC-8"}, "size", 13)})
	require.NoError(t, err) // of none of them
	clients := map[string]*http.Client{serverAdmin: h.Client(t, h.Begin(t, "root", "Root", ""))}
	headers := map[string][]string{}
	letters := []string{admin, manager, lead, member, viewer}
	sessions := map[string]account.SignedIn{}
	for i, role := range roles.All {
		in := h.Begin(t, "user"+letters[i], string(role), role)
		sessions[letters[i]] = in
		h.members = append(h.members, in.Account.ID)
		clients[letters[i]] = h.Client(t, in)
		require.NoError(t, h.Accounts.Store().SaveMembership(t.Context(), store.Membership{AccountID: in.Account.ID, ProgramID: 1, Role: role, Person: map[string]string{lead: "p01", member: "p01"}[letters[i]]}))
	}
	h.Begin(t, "victim", "Victim", roles.Viewer)
	h.Begin(t, "keeper", "Keeper", roles.Viewer)
	url := h.URL + "/api/v1"
	clients[managerKey], headers[managerKey] = apitest.Nobody, apitest.Token(t, clients[manager], url+"/programs/1", "program manager")

	other, err := h.Hub.Create(t.Context(), program.Program{Name: "Other"}.Normal())
	require.NoError(t, err)
	outside := h.Begin(t, "outside", "Outside", roles.Administrator)
	gone := h.Begin(t, "gone", "Gone", roles.Manager)
	for _, in := range []account.SignedIn{outside, gone} {
		require.NoError(t, h.Accounts.Store().RemoveMembership(t.Context(), in.Account.ID, 1))
	}
	require.NoError(t, h.Accounts.Store().SaveMembership(t.Context(), store.Membership{AccountID: outside.Account.ID, ProgramID: other, Role: roles.Administrator}))
	clients[elsewhere], clients[nowhere] = h.Client(t, outside), h.Client(t, gone)

	// Who has been shut out, whatever they were before.
	out := map[string][]string{"nobody": nil, "a forged session": {"Cookie", "jantrel-session=made-up"}, "a forged token": {"Authorization", "Bearer jantrel_made-up"}}
	ended := h.Begin(t, "ended", "Ended", roles.Administrator)
	require.NoError(t, h.Accounts.SignOut(t.Context(), ended.Secret))
	out["a session that ended"] = []string{"Cookie", "jantrel-session=" + ended.Secret}
	disabled := h.Begin(t, "disabled", "Disabled", roles.Administrator)
	out["a token of a disabled account"] = apitest.Token(t, h.Client(t, disabled), url+"/programs/1", "administrator")
	_, err = h.Accounts.Store().ChangeAccount(t.Context(), disabled.Account.ID, store.AccountChange{Disabled: new(true)})
	require.NoError(t, err)
	out["a disabled account"] = []string{"Cookie", "jantrel-session=" + disabled.Secret}
	dropped := h.Begin(t, "dropped", "Dropped", roles.Administrator)
	out["a token that was ended"] = apitest.Token(t, h.Client(t, dropped), url+"/programs/1", "administrator")
	tokens, err := h.Accounts.Store().TokensOf(t.Context(), dropped.Account.ID)
	require.NoError(t, err)
	require.NoError(t, h.Accounts.Store().RemoveToken(t.Context(), dropped.Account.ID, tokens[0].ID))
	// Who was a manager when they made a token, and is a viewer now.
	demoted := h.Begin(t, "demoted", "Demoted", roles.Manager)
	demotedKey := apitest.Token(t, h.Client(t, demoted), url+"/programs/1", "program manager")
	require.NoError(t, h.Accounts.Store().SaveMembership(t.Context(), store.Membership{AccountID: demoted.Account.ID, ProgramID: 1, Role: roles.Viewer}))

	var described struct {
		Paths map[string]map[string]struct{ OperationID string }
	}
	require.NoError(t, json.Unmarshal([]byte(apitest.As(t, apitest.Nobody, http.MethodGet, url+"/openapi.json", "").Text), &described))
	all := attempts()
	public := []string{"get-sign-in", "sign-in", "sign-in-demo", "get-first", "make-first", "get-events", "read-shared", "show-screen", "fetch-dates"} // events: TestRevokedStreamsEnd, TestAnotherProgramsIds; shared: TestLinksToBriefs, TestScreens, TestDateFeeds
	asked := 0
	for _, methods := range described.Paths {
		for method, operation := range methods {
			if slices.Contains(public, operation.OperationID) {
				continue
			}
			rows, known := all[operation.OperationID]
			require.True(t, known, "%s stands in no row: say who may", operation.OperationID)
			delete(all, operation.OperationID)
			for _, row := range rows {
				send := func(who *http.Client, header []string) apitest.Answer {
					asked++
					path := row.path
					if row.fresh != nil {
						path = fmt.Sprintf(path, row.fresh(h)...)
					}
					if row.sends != "" {
						header = append([]string{"Content-Type", row.sends}, header...)
					}
					body := row.body
					if operation.OperationID == "apply-changes" {
						body = strings.Replace(body, `"revision":0`, fmt.Sprintf(`"revision":%d`, h.Revision(t)), 1)
					}
					return apitest.As(t, who, strings.ToUpper(method), url+path, body, header...)
				}
				name := operation.OperationID + " " + row.path + " " + row.body
				// Those who may not come first: nothing of the program is other after all of them.
				before := h.Stored(t)
				for letter, who := range clients {
					if strings.Contains(row.may, letter) {
						continue
					}
					refused := http.StatusForbidden
					outside := letter == elsewhere || letter == nowhere || operation.OperationID == "delete-program" && (row.may == serverAdmin || letter == managerKey)
					if outside && strings.HasPrefix(row.path, "/programs/") && operation.OperationID != "create-program" && operation.OperationID != "import-program" {
						refused = http.StatusNotFound
					}
					got := send(who, headers[letter])
					assert.Equal(t, refused, got.Status, "%s as %s: %.200s", name, letter, got.Text)
				}
				assert.Equal(t, before, h.Stored(t), name)
				for letter, who := range clients {
					if !strings.Contains(row.may, letter) {
						continue
					}
					got := send(who, headers[letter])
					if row.fails != 0 {
						assert.Equal(t, row.fails, got.Status, "%s as %s: %.200s", name, letter, got.Text)
					} else {
						assert.Less(t, got.Status, 300, "%s as %s: %.200s", name, letter, got.Text)
					}
					if row.again != nil {
						row.again(h, letter)
					}
				}
				for why, header := range out {
					assert.Equal(t, http.StatusUnauthorized, send(apitest.Nobody, header).Status, "%s with %s", name, why)
				}
				got := send(apitest.Nobody, demotedKey)
				if strings.Contains(row.may, viewer) && strings.Contains(row.may, managerKey) && !row.keeps {
					assert.Less(t, got.Status, 300, "%s with a demoted owner's token: %s", name, got.Text)
				} else {
					assert.GreaterOrEqual(t, got.Status, 400, "%s with a demoted owner's token", name)
				}
			}
		}
	}
	assert.Empty(t, all, "rows of operations that there are not")
	assert.Greater(t, asked, 1500)
	t.Logf("%d requests", asked)
}

// someClosed is a program of which two teams have closed the iteration that is over, so that
// the next can be started, and of which two have left one that is over as it was; p01 has a
// share in one of each.
func someClosed(p program.Program) program.Program {
	for t := range p.Teams {
		team := &p.Teams[t]
		if team.Key == "KC" {
			team.Members = append(team.Members, program.Member{Person: "p01"})
		}
		for i := range team.Iterations {
			if it := &team.Iterations[i]; it.Key == "KC-i10" || it.Key == "CD-i10" {
				it.State = program.Closed
			} else if it.Key == "KC-i9" || it.Key == "MA-i9" {
				it.State = program.Planned // over, and not closed
			}
		}
	}
	return p
}

func authorOf(e journal.Edit) live.Author { return live.Author{Client: e.Client} }
