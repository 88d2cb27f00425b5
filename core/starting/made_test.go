package starting_test

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/briefs"
	"jantrel/core/program"
	"jantrel/core/reports"
	"jantrel/core/sample"
	"jantrel/core/starting"
	"jantrel/internal/demo"
)

// A template of the demo knows how it works, and nothing of who works and on what.
func TestATemplateIsTheWayOfWorkingAlone(t *testing.T) {
	of := demo.Program(sample.Today)
	of.Guides = []program.Guide{{Stage: program.StagePlan, Text: "In the hall."}}
	of.Settings.HolidayCalendar = "https://calendar.example/secret"
	of.Settings.PlanSections = []program.PlanSection{{Title: "Who shows it"}}
	ready := reports.ReadyPages(&of, "p01")
	b := briefs.Template(&of, briefs.About{})
	b.Sections[0].Text = "Ingrid will tell."
	m := starting.Of(of, "Like the harbour", "", []reports.Page{ready[0].Page, ready[1].Page}, briefs.Forms{Program: b.Sections})
	require.NoError(t, m.Check())
	text, err := json.Marshal(m)
	require.NoError(t, err)
	for _, person := range of.People {
		assert.NotContains(t, string(text), person.Name)
		assert.NotContains(t, string(text), `"`+person.Key+`"`)
	}
	for _, team := range of.Teams {
		assert.NotContains(t, string(text), `"`+team.Key+`"`)
	}
	assert.NotContains(t, string(text), "secret")
	assert.NotContains(t, string(text), "Ingrid")

	p := m.Start("Second chain", sample.Today)
	assert.Subset(t, p.Settings.Roles, []string{"lead", "modelling", "electronics"}, "people have these")
	assert.Empty(t, program.Validate(p))
	assert.Equal(t, of.Guides, p.Guides)
	assert.Equal(t, of.PhaseTemplates, p.PhaseTemplates)
	assert.Equal(t, of.Settings.PlanSections, p.Settings.PlanSections)
	assert.Equal(t, of.Settings.Steps, p.Settings.Steps)
	assert.Equal(t, of.Settings.Mix, p.Settings.Mix)
	assert.Len(t, p.Patterns, len(of.Patterns))
	assert.NotEmpty(t, m.Pages[0].Cards)
	first, has := m.FirstBrief(p.Name)
	require.True(t, has)
	assert.Len(t, first.Sections, len(b.Sections))
}

// Cadences go on in their rhythm: the iteration that the day is in begins on a day of theirs.
func TestCadencesGoOnInTheirRhythm(t *testing.T) {
	m := starting.Made{Cadences: []program.Cadence{{Key: "three", Start: sample.Today.Add(4), LengthDays: 21}}}
	for days := range 200 {
		today := sample.Today.Add(days - 100)
		c := m.Start("x", today).Cadences[0]
		assert.LessOrEqual(t, c.Start, today)
		assert.Greater(t, c.Start.Add(21), today)
		assert.Zero(t, int(c.Start-m.Cadences[0].Start)%21)
	}
}
