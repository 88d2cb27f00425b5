package scenario_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/act"
	"jantrel/core/forecast"
	"jantrel/core/gate"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/sample"
	"jantrel/core/scenario"
)

// What a forecast supposed and a plan can say lands, once it is kept, when the forecast said it would; what it cannot say is told.
func TestAWhatIfThatIsKeptLandsAsItSaid(t *testing.T) {
	no := false
	for seed := range sample.Seeds(20) {
		p := plan.Of(sample.Program(seed, sample.Shape{Teams: 2, Iterations: 8, Items: 30, Needs: 8}))
		person, out := p.People[0].Key, p.Items[len(p.Items)-1].Key
		for name, asIf := range map[string]forecast.If{
			"somebody more": {More: []forecast.Joined{{Team: "T0", Share: 1, From: sample.Today.Add(7)}}},
			"somebody away": {Away: []forecast.Left{{Person: person, From: sample.Today.Add(1), To: sample.Today.Add(20)}}},
			"an item out":   {Out: []string{out}},
			"later":         {Begin: sample.Today.Add(30)},
			"settings":      {PullAhead: &no, NoGrowth: true, NoTurned: true, NoRisks: true},
		} {
			o := forecast.Options{Today: sample.Today, Plays: 60, Seed: 1}
			supposed := o
			supposed.If = asIf
			kept, err := scenario.WhatIf{If: asIf, Name: name}.Plan(act.State{Plan: p, Today: sample.Today})
			require.NoError(t, err)
			require.Empty(t, kept.Notes)
			next, _, err := gate.Try(p, kept.Changes)
			require.NoError(t, err, name)
			want, got := forecast.Play(p, supposed), forecast.Play(next, o)
			for i := range want.Releases {
				assert.Equal(t, want.Releases[i].Dates, got.Releases[i].Dates, "seed %d, %s", seed, name)
			}
		}
	}
	p := plan.Of(sample.Program(1, sample.Shape{Teams: 2, Iterations: 8, Items: 30}))
	kept, err := scenario.WhatIf{If: forecast.If{Pace: map[string]float64{"": 2}, Scope: 0.5, More: []forecast.Joined{{Team: "T0", Share: 2.5, From: sample.Today}}}}.Plan(act.State{Plan: p})
	require.NoError(t, err)
	assert.Len(t, kept.Notes, 2)
	next, _, err := gate.Try(p, kept.Changes)
	require.NoError(t, err)
	assert.Len(t, next.People, len(p.People)+3, "two and a half are three seats")
	assert.Empty(t, program.Validate(next.Program))
}
