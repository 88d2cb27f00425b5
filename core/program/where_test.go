package program_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/program"
)

// Places are said in the names that people gave.
func TestPlacesInWords(t *testing.T) {
	team := map[string]any{"key": "TW", "name": "Tide & Weather", "members": []any{map[string]any{"person": "p1"}, map[string]any{"person": "p2", "share": 1.5}}}
	for path, c := range map[string]struct {
		thing any
		words string
	}{
		"teams[1].members[1].share": {team, "Team Tide & Weather, member 2, share"},
		"teams[1].colour":           {team, "Team Tide & Weather, colour"},
		"items[12].size":            {map[string]any{"key": "LC-4", "title": "Backup lamp"}, "Item LC-4 “Backup lamp”, size"},
		"items[12].key":             {map[string]any{"title": ""}, "Item 13, key"},
		"items[0].notBefore":        {nil, "Item 1, not before"},
		"settings.fillTo":           {nil, "Settings, fill to"},
		"settings.steps[1].most":    {nil, "Settings, step 2, most"},
		"colour":                    {nil, "Colour"},
		"people[0].daysOff[2].from": {map[string]any{"name": "Ann"}, "Person Ann, days off 3, from"},
		"document":                  {nil, ""},
		"items[x].":                 {nil, "Item, \"\""},
	} {
		assert.Equal(t, c.words, program.PlaceInWords(path, c.thing), path)
	}
}

func TestProblemsAreToldInWords(t *testing.T) {
	size := -1.0
	p := program.Program{Name: "X", Items: []program.Item{{Key: "A", Title: "Lamp", Kind: program.Story}, {Key: "B", Title: "Horn", Kind: program.Story, Size: &size, Team: "no"}}}.Normal()
	problems := program.Validate(p)
	require.NotEmpty(t, problems)
	for _, x := range problems {
		assert.Contains(t, x.Words(), "Item B “Horn”, ")
		assert.Contains(t, x.String(), "items[1].")
	}
	_, _, err := program.ApplyAll(program.Program{Name: "X", Items: p.Items[:1]}.Normal(), []program.Change{program.SetTo(program.Ref{Kind: program.KindItem, Key: "A"}, "team", "nobody")})
	var found program.Problems
	require.ErrorAs(t, err, &found)
	assert.Contains(t, found[0].Words(), "Item A “Lamp”, team: ")
}

func TestThingsAreDescribedByTheirNames(t *testing.T) {
	p := program.Program{
		Teams:    []program.Team{{Key: "LC", Name: "Lamp Control", Iterations: []program.Iteration{{Key: "LC-i8", Name: "LC·8"}, {Key: "LC-i9"}}}},
		People:   []program.Person{{Key: "p1", Name: "Rui Figueira"}},
		Releases: []program.Release{{Key: "R1", Name: "First Light"}},
		Items:    []program.Item{{Key: "LC-52", Title: "Remote dimming"}},
	}
	for want, ref := range map[string]program.Ref{
		"team Lamp Control":               {Kind: program.KindTeam, Key: "LC"},
		"iteration LC·8 of Lamp Control":  {Kind: program.KindIteration, In: "LC", Key: "LC-i8"},
		"iteration LC-i9 of Lamp Control": {Kind: program.KindIteration, In: "LC", Key: "LC-i9"},
		"person Rui Figueira":             {Kind: program.KindPerson, Key: "p1"},
		"release First Light":             {Kind: program.KindRelease, Key: "R1"},
		"release R9":                      {Kind: program.KindRelease, Key: "R9"},
		"item LC-52":                      {Kind: program.KindItem, Key: "LC-52"},
		"the need of LC-52 on TW-31":      {Kind: program.KindNeed, In: "LC-52", Key: "TW-31"},
		"a comment on LC-52":              {Kind: program.KindComment, In: "LC-52", Key: "c1"},
		"program":                         {Kind: program.KindProgram},
	} {
		assert.Equal(t, want, p.Describe(ref))
	}
	rename := program.SetTo(program.Ref{Kind: program.KindTeam, Key: "LC"}, "velocity", 3)
	assert.Equal(t, "set Agreed velocity of team Lamp Control", p.DescribeChange(rename))
}
