package act_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/act"
	"jantrel/core/calendar"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/sample"
)

// chain is twoLengths as a release that starts with the first iterations, in two phases of four
// weeks; A9 is not of it.
func chain() program.Program {
	p := twoLengths()
	at := func(weeks int) program.Date { return sample.Today.Add(7 * weeks) }
	p.Items[0].Release = "R"
	p.Releases = []program.Release{{Key: "R", Name: "First Light", Start: at(0), Due: at(12), Phases: []program.Phase{
		{Key: "a", Name: "Build", Start: at(0), End: at(2).Add(-1)}, {Key: "b", Name: "Trial", Start: at(2), End: at(6)}}}}
	return p
}

func TestAReleaseTakesItsItemsAlong(t *testing.T) {
	at := func(weeks int) program.Date { return sample.Today.Add(7 * weeks) }
	for _, x := range []struct {
		name   string
		by     act.MoveRelease
		due    program.Date
		second program.Date // start of the phase Trial
		want   string       // iterations of A1, A2, B1
	}{
		{"all of it, two weeks", act.MoveRelease{Days: 14}, at(14), at(4), "2 3 3"},
		{"all of it, and the items stay", act.MoveRelease{Days: 14, Items: act.Stay}, at(14), at(4), "1 2 2"},
		{"a phase: what starts in it", act.MoveRelease{Phase: "b", Days: 14}, at(12), at(4), "1 3 3"},
		{"from a day on", act.MoveRelease{Start: at(2)}, at(14), at(4), "2 3 3"},
		{"after another item: A9 ends with the sixth week", act.MoveRelease{After: "A9"}, at(18), at(8), "4 5 4"},
		{"a phase after another", act.MoveRelease{Phase: "b", After: "A9"}, at(12), at(6), "1 4 3"},
	} {
		t.Run(x.name, func(t *testing.T) {
			x.by.Key = "R"
			next, made := did(t, chain(), x.by)
			r := next.Releases[0]
			assert.Equal(t, x.due, r.Due)
			assert.Equal(t, x.second, r.Phases[1].Start)
			assert.Equal(t, x.want, fmt.Sprintf("%s %s %s", next.Items[1].Iteration, next.Items[2].Iteration, next.Items[3].Iteration))
			assert.Equal(t, "3", next.Items[4].Iteration, "what is not of it stays")
			require.NotNil(t, made.Ask)
			assert.Equal(t, "items", made.Ask.Field)
		})
	}
}

func TestAReleaseThatCannotMoveSaysWhy(t *testing.T) {
	p := chain()
	p.Releases = append(p.Releases, program.Release{Key: "S", Name: "Later"})
	for want, by := range map[string]act.MoveRelease{
		`no phase "z"`:          {Key: "R", Phase: "z", Days: 1},
		"there is no release":   {Key: "Q", Days: 1},
		"are too far":           {Key: "R", Days: 5000},
		"there is no item Z9":   {Key: "R", After: "Z9"},
		"no start to move from": {Key: "S", Start: calendar.MustParse("2027-06-01")},
	} {
		_, err := by.Plan(act.State{Plan: plan.Of(p), Today: sample.Today})
		assert.ErrorContains(t, err, want)
	}
	made, err := act.MoveRelease{Key: "S", Days: 3}.Plan(act.State{Plan: plan.Of(p), Today: sample.Today})
	require.NoError(t, err)
	assert.Nil(t, made.Ask, "nothing is placed of it")
}
