package starting_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/act"
	"jantrel/core/gate"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/sample"
	"jantrel/core/starting"
	"jantrel/internal/demo"
)

// Every template holds by the rules, and a team in it has iterations at once.
func TestTemplatesAreReadyForTeams(t *testing.T) {
	for _, template := range starting.Templates {
		p := starting.From(template, "Beacons", sample.Today)
		assert.Empty(t, program.Validate(p), template.Key)
		assert.NotEmpty(t, template.Says)
		for _, c := range p.Cadences {
			assert.Equal(t, 1, c.Start.Weekday(), "a Monday")
			s := act.State{Plan: plan.Of(p), Today: sample.Today}
			made, err := act.AddTeam{Team: program.Team{Key: "LC", Name: "Lamp Control", Unit: program.Points, Cadence: c.Key}}.Plan(s)
			require.NoError(t, err)
			next, _, err := gate.Try(plan.Of(p), made.Changes)
			require.NoError(t, err)
			iterations := next.Teams[0].Iterations
			require.NotEmpty(t, iterations)
			assert.True(t, iterations[0].Span().Holds(sample.Today), "the first is under way")
		}
	}
}

func TestASetUpComesWithoutItsWork(t *testing.T) {
	of := demo.Program(sample.Today)
	p := starting.SetUpOf(of, "Second chain")
	assert.Empty(t, program.Validate(p))
	assert.Equal(t, "Second chain", p.Name)
	assert.Len(t, p.Teams, len(of.Teams))
	assert.Equal(t, of.Teams[0].Members, p.Teams[0].Members)
	assert.Equal(t, of.Patterns, p.Patterns)
	assert.Empty(t, p.Items)
	assert.Empty(t, p.Releases)
	assert.Empty(t, p.Teams[0].Iterations)
	assert.Empty(t, p.Views, "the one there is names a release")
	assert.NotEmpty(t, of.Teams[0].Iterations, "the other is as it was")
}

// Whatever is in a program, its set-up holds by the rules without it.
func TestAnySetUpHolds(t *testing.T) {
	for seed := range uint64(60) {
		p := sample.Program(seed, sample.Shape{Teams: 3, Iterations: 4, Items: 12, Wild: true})
		require.Empty(t, program.Validate(starting.SetUpOf(p, "Again")), "seed %d", seed)
	}
}
