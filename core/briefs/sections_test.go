package briefs_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/briefs"
	"jantrel/core/program"
	"jantrel/core/sample"
)

// The plan of every iteration has the sections that the program wants, and says which are still to be written.
func TestSectionsThatEveryIterationPlanHas(t *testing.T) {
	p := sample.Program(3, sample.Shape{Teams: 2, Iterations: 4, Items: 20, Needs: 6})
	p.Settings.PlanSections = []program.PlanSection{{Title: "Who shows it", Ask: "A name"}, {Title: "What could stop us"}}
	about := briefs.About{Team: p.Teams[0].Key, Iteration: p.Teams[0].Iterations[1].Key}
	b := briefs.Template(&p, about)
	require.NoError(t, b.Check())
	assert.Equal(t, []string{"Who shows it", "What could stop us"}, briefs.Lacks(&p, &b))
	n := len(b.Sections)
	assert.Equal(t, "A name", b.Sections[n-2].Ask)
	b.Sections[n-2].Text = "Ingrid, on Friday."
	assert.Equal(t, []string{"What could stop us"}, briefs.Lacks(&p, &b))
	b.Sections[n-2].Out = true
	assert.Len(t, briefs.Lacks(&p, &b), 2, "what is left out is not said")

	again := b
	briefs.Complete(&p, &again)
	assert.Len(t, again.Sections, n, "none comes twice")
	p.Settings.PlanSections = append(p.Settings.PlanSections, program.PlanSection{Title: "New"})
	briefs.Complete(&p, &again)
	require.Len(t, again.Sections, n+1)
	require.NoError(t, again.Check(), "its key is its own")

	whole := briefs.Template(&p, briefs.About{})
	assert.Empty(t, briefs.Lacks(&p, &whole), "it is no iteration's")
}
