package track_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/gate"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/track"
)

func TestWhichEditsChangeTheScopeOfWhatHasBegun(t *testing.T) {
	p := lamp()
	p.Teams[0].Iterations[0].State, p.Teams[0].Iterations[1].State = program.Closed, program.Open
	p.Releases = []program.Release{{Key: "R", Name: "First", Start: day("2027-03-01")}, {Key: "S", Name: "Second", Start: day("2027-06-01")}}
	p.Items = append(p.Items, program.Item{Key: "F", Title: "F", Kind: program.Feature}, program.Item{Key: "E", Title: "E", Kind: program.Story, Team: "LC", Parent: "F"})
	before := plan.Of(p)
	state := func(key string, to program.IterationState) program.Change {
		return program.SetTo(program.Ref{Kind: program.KindIteration, In: "LC", Key: key}, "state", to)
	}
	for name, c := range map[string]struct {
		changes []program.Change
		want    []string
	}{
		"placed":                           {[]program.Change{set("E", "iteration", "LC10")}, []string{"E"}},
		"placed in what has not begun":     {[]program.Change{set("E", "iteration", "LC11")}, nil},
		"taken out":                        {[]program.Change{set("B", "iteration", "LC11")}, []string{"B"}},
		"kept out":                         {[]program.Change{set("B", "keptOut", true)}, []string{"B"}},
		"larger":                           {[]program.Change{set("B", "size", 4)}, []string{"B"}},
		"larger where nothing has begun":   {[]program.Change{set("E", "size", 4)}, nil},
		"its feature joins a release":      {[]program.Change{set("F", "release", "R")}, []string{"E"}},
		"one that begins later":            {[]program.Change{set("F", "release", "S")}, nil},
		"removed":                          {[]program.Change{{Op: program.Remove, Ref: item("B")}}, []string{"B"}},
		"added":                            {[]program.Change{add(program.Item{Key: "G", Title: "G", Kind: program.Defect, Team: "LC", Iteration: "LC10"})}, []string{"G"}},
		"worked on":                        {[]program.Change{set("A", "state", program.Review), set("A", "assignee", nil)}, nil},
		"there and back":                   {[]program.Change{set("B", "iteration", "LC11"), set("B", "iteration", "LC10")}, nil},
		"closed, what is not done goes on": {[]program.Change{state("LC10", program.Closed), set("B", "iteration", "LC11")}, nil},
	} {
		after, applied, err := gate.Try(before, c.changes)
		require.NoError(t, err, name)
		assert.Equal(t, c.want, track.Rescoped(before, after, applied, day("2027-03-03")), name)
	}
}
