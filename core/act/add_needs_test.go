package act_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/act"
	"jantrel/core/plan"
	"jantrel/core/program"
)

func TestNeedsArePasted(t *testing.T) {
	p := twoTeams(program.Need{Agreement: program.Agreed})
	p.Items = append(p.Items, program.Item{Key: "sail", Kind: program.Story, Team: "boats", State: program.Todo})
	on := act.State{Plan: plan.Of(p), Today: p.Today}

	made, err := act.AddNeeds{Text: "Item\tNeeds\tDays\r\nsail\tcrane\r\n\"sail\",mooring,3\nsail crane\nmooring; crane; 7\n\n"}.Plan(on)
	require.NoError(t, err)
	assert.Equal(t, "Add 2 needs", made.Label)
	assert.Equal(t, []string{"the first line is taken for a heading", "1 of them there are already"}, made.Notes)
	next, err := program.After(p, made.Changes)
	require.NoError(t, err)
	assert.Equal(t, []program.Need{
		{Item: "mooring", Needs: "crane", LagDays: 7, Agreement: program.Agreed},
		{Item: "sail", Needs: "crane", Agreement: program.Asked},
		{Item: "sail", Needs: "mooring", LagDays: 3, Agreement: program.Asked},
	}, next.Needs)

	one, err := act.AddNeeds{Text: "sail crane"}.Plan(on)
	require.NoError(t, err)
	assert.Equal(t, "sail needs crane", one.Label)
	nothing, err := act.AddNeeds{Text: "mooring crane"}.Plan(on)
	require.NoError(t, err)
	assert.Empty(t, nothing.Changes)

	_, err = act.AddNeeds{Text: "sail crane\nsail keel\nkeel sail\nsail sail\nsail\nsail crane soon"}.Plan(on)
	assert.EqualError(t, err, `line 2: there is no item keel; line 3: there is no item keel; line 4: sail cannot need itself; `+
		`line 5: write an item, what it needs, and perhaps the days between; line 6: "soon" are no days between; write a whole number`)
	_, err = act.AddNeeds{Text: strings.Repeat("keel sail\n", 30)}.Plan(on)
	assert.ErrorContains(t, err, "line 10: there is no item keel; and 20 lines more")
	_, err = act.AddNeeds{Text: strings.Repeat("x", 200_001)}.Plan(on)
	assert.ErrorContains(t, err, "200000 characters at most")
	_, err = act.AddNeeds{Text: strings.Repeat("\n", 6000)}.Plan(on)
	assert.EqualError(t, err, "there are 6001 lines; paste 5000 at most at once")
}

// Whatever is pasted: what comes of it is needs between items that there are, each once, or an error.
func FuzzAddNeeds(f *testing.F) {
	f.Add("sail\tcrane\t3\nmooring,crane")
	f.Add("a b\n\"c\" ; d")
	p := twoTeams(program.Need{})
	on := act.State{Plan: plan.Of(p), Today: p.Today}
	f.Fuzz(func(t *testing.T, text string) {
		made, err := act.AddNeeds{Text: text}.Plan(on)
		if err != nil {
			return
		}
		next, err := program.After(p, made.Changes)
		require.NoError(t, err)
		seen := map[[2]string]bool{}
		for _, n := range next.Needs {
			pair := [2]string{n.Item, n.Needs}
			assert.False(t, seen[pair])
			seen[pair] = true
		}
	})
}
