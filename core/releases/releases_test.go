package releases_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/calendar"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/releases"
)

func day(text string) program.Date { return calendar.MustParse(text) }

func TestTheExtentOfARelease(t *testing.T) {
	p := program.Program{
		Teams: []program.Team{{Key: "A", Iterations: []program.Iteration{
			{Key: "1", Start: day("2027-03-01"), End: day("2027-03-14")}, {Key: "2", Start: day("2027-03-15"), End: day("2027-03-28")}}}},
		Releases: []program.Release{{Key: "R", Name: "R", Phases: []program.Phase{{Key: "a", Start: day("2027-02-20"), End: day("2027-03-20")}}}},
		Items: []program.Item{
			{Key: "F", Kind: program.Feature, Release: "R"}, {Key: "x", Parent: "F", Team: "A", Iteration: "2"},
			{Key: "y", Parent: "F", Team: "A"}, {Key: "z", Team: "A", Iteration: "1"}, {Key: "out", Parent: "F", Team: "A", KeptOut: true},
		},
	}
	got := releases.Of(plan.Of(p), "R")
	assert.Equal(t, releases.Extent{Span: calendar.Span{Start: day("2027-02-20"), End: day("2027-03-28")}, Phases: 1, Items: 1, Unplaced: 1}, got)
	assert.True(t, releases.Of(plan.Of(p), "none").Start.IsZero())
}

func TestATemplateGivesTheNextReleaseItsPhases(t *testing.T) {
	phases := []program.Phase{{Key: "b", Name: "Build", Start: day("2027-03-01"), End: day("2027-03-28")}, {Key: "t", Name: "Trial", Start: day("2027-04-01"), End: day("2027-04-14")}}
	template := releases.Template("usual", "Usual", phases)
	assert.Equal(t, []program.TemplatePhase{{Name: "Build", Days: 31}, {Name: "Trial", Days: 14}}, template.Phases, "the days between go to the earlier one")
	got := releases.Phases(template, day("2027-06-01"))
	require.Len(t, got, 2)
	assert.Equal(t, program.Phase{Key: "p1", Name: "Build", Start: day("2027-06-01"), End: day("2027-07-01")}, got[0])
	assert.Equal(t, day("2027-07-15"), got[1].End)
}

func TestMoveTakesPhasesAlong(t *testing.T) {
	r := program.Release{Key: "R", Due: day("2027-06-25"), Phases: []program.Phase{{Key: "a", Start: day("2027-06-01"), End: day("2027-06-25")}}}
	moved := releases.Move(r, -7)
	assert.Equal(t, day("2027-06-18"), moved.Due)
	assert.True(t, moved.Start.IsZero())
	assert.Equal(t, day("2027-05-25"), moved.Phases[0].Start)
	assert.Equal(t, day("2027-06-01"), r.Phases[0].Start, "what was given stays")
}
