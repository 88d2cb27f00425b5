package program_test

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/calendar"
	"jantrel/core/program"
	"jantrel/core/sample"
)

func date(text string) program.Date { return calendar.MustParse(text) }

// The rules of what a release manager sets up: each broken one is named with its
// place.
func TestSetUpRulesNameThePlace(t *testing.T) {
	number := func(x float64) *float64 { return &x }
	for want, breaks := range map[string]func(*program.Program){
		"cadences[0].lengthDays: 400":           func(p *program.Program) { p.Cadences[0].LengthDays = 400 },
		"cadences[0].ahead: 301":                func(p *program.Program) { p.Cadences[0].Ahead = 301 },
		"teams[0].fillTo: 1.2":                  func(p *program.Program) { p.Teams[0].FillTo = number(1.2) },
		"teams[0].lookback: -1":                 func(p *program.Program) { p.Teams[0].Lookback = -1 },
		"teams[0].members[0].person: no person": func(p *program.Program) { p.Teams[0].Members = []program.Member{{Person: "nobody"}} },
		"teams[0].members[0].share: 1.5":        func(p *program.Program) { p.Teams[0].Members = []program.Member{{Person: "p0", Share: 1.5}} },
		"teams[0].members[0].to: 2027-04-01 is": func(p *program.Program) {
			p.Teams[0].Members = []program.Member{{Person: "p0", From: date("2027-05-01"), To: date("2027-04-01")}}
		},
		"teams[0].members[1].person: \"p0\" stan": func(p *program.Program) {
			p.Teams[0].Members = []program.Member{{Person: "p0", To: date("2027-05-01")}, {Person: "p0", From: date("2027-05-01")}}
		},
		"releases[0].documents[0].title: is emp": func(p *program.Program) { p.Releases[0].Documents = []program.Document{{Kind: program.Notes}} },
		"documents[0].address: \"javascript:": func(p *program.Program) {
			p.Releases[0].Documents = []program.Document{{Title: "X", Kind: program.Notes, Address: "javascript:alert(1)"}}
		},
		"documents[0].kind: \"memo\" is none": func(p *program.Program) { p.Releases[0].Documents = []program.Document{{Title: "X", Kind: "memo"}} },
		"documents[0].item: no item": func(p *program.Program) {
			p.Releases[0].Documents = []program.Document{{Title: "X", Kind: program.Notes, Item: "none"}}
		},
		"phaseTemplates[0].phases[0].days: 0": func(p *program.Program) {
			p.PhaseTemplates = []program.PhaseTemplate{{Key: "t", Phases: []program.TemplatePhase{{Name: "X"}}}}
		},
		"phaseTemplates[1].key: \"t\" stands": func(p *program.Program) { p.PhaseTemplates = []program.PhaseTemplate{{Key: "t"}, {Key: "t"}} },
		"people[0].daysOff[0].to: 2027-04-01 is": func(p *program.Program) {
			p.People[0].DaysOff = []program.DayOff{{From: date("2027-05-01"), To: date("2027-04-01")}}
		},
	} {
		p := sample.Program(1, sample.Shape{Teams: 1, Iterations: 2, Items: 3})
		require.Empty(t, program.Validate(p))
		breaks(&p)
		problems := program.Validate(p)
		if assert.NotEmpty(t, problems, want) {
			assert.Contains(t, problems.Error(), want)
		}
	}
}

// A person may stand in a team twice, at different times.
func TestSharesOneAfterAnother(t *testing.T) {
	p := sample.Program(1, sample.Shape{Teams: 1, Iterations: 2, Items: 3})
	p.Teams[0].Members = []program.Member{{Person: "p0", Share: 1, To: date("2027-04-30")}, {Person: "p0", Share: 0.5, From: date("2027-05-01")}}
	assert.Empty(t, program.Validate(p))
}

func TestRolesOfAMemberAreThePersonsUnlessTheyHaveOthers(t *testing.T) {
	person := program.Person{Roles: []string{"web"}}
	assert.Equal(t, []string{"web"}, person.RolesIn(program.Member{}))
	assert.Equal(t, []string{"lead"}, person.RolesIn(program.Member{Roles: []string{"lead"}}))
}

// Every field that the set-up edits can be set, and the inverse takes it back.
func TestSetUpFieldsCanBeSetAndTakenBack(t *testing.T) {
	ref := func(kind program.Kind, in, key string) program.Ref { return program.Ref{Kind: kind, In: in, Key: key} }
	for _, c := range []struct {
		ref          program.Ref
		field, value string
	}{
		{ref(program.KindProgram, "", ""), "holidayCalendar", `"https://example.org/h.ics"`},
		{ref(program.KindProgram, "", ""), "phaseTemplates", `[{"key":"t","name":"T","phases":[{"name":"Build","days":3}]}]`},
		{ref(program.KindProgram, "", ""), "holidays", `[{"date":"2027-05-03","name":"Day","teams":["T0"]}]`},
		{ref(program.KindCadence, "", "two"), "naming", `"{team} {n}"`},
		{ref(program.KindCadence, "", "two"), "carryOver", `true`},
		{ref(program.KindTeam, "", "T0"), "fillTo", `0.8`},
		{ref(program.KindTeam, "", "T0"), "members", `[{"person":"p0","share":0.5,"from":"2027-05-01"}]`},
		{ref(program.KindIteration, "T0", "T0-0"), "leftOut", `"The boat was in dock"`},
		{ref(program.KindIteration, "T0", "T0-4"), "capacityNote", `"Two hands more"`},
		{ref(program.KindIteration, "T0", "T0-0"), "completedItems", `4`},
		{ref(program.KindPerson, "", "p0"), "roles", `["web","lead"]`},
		{ref(program.KindPerson, "", "p0"), "daysOff", `[{"from":"2027-05-01","to":"2027-05-02","name":"Away","uid":"u"}]`},
		{ref(program.KindRelease, "", "R0"), "documents", `[{"title":"Notes","kind":"notes"}]`},
	} {
		p := sample.Program(1, sample.Shape{Teams: 1, Iterations: 2, Items: 3})
		next, back, err := program.Apply(p, program.Change{Op: program.Set, Ref: c.ref, Field: c.field, Value: json.RawMessage(c.value)})
		require.NoError(t, err, c.field)
		assert.NotEqual(t, asJSON(t, p), asJSON(t, next), c.field)
		assert.Contains(t, asJSON(t, next), c.value, c.field)
		again, _, err := program.Apply(next, back)
		require.NoError(t, err, c.field)
		assert.Equal(t, asJSON(t, p), asJSON(t, again), c.field)
	}
}
