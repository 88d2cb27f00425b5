package program_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"jantrel/core/program"
)

// Roles are those to choose from, as they stand, then those that are in use besides.
func TestRolesKnown(t *testing.T) {
	p := program.Program{
		Settings: program.Settings{Roles: []string{"modelling", "Lead"}},
		People:   []program.Person{{Roles: []string{"lead", "firmware"}}, {Roles: []string{"a, b", ""}}},
		Teams:    []program.Team{{Members: []program.Member{{Roles: []string{"diving"}}}}},
		Items:    []program.Item{{Role: "Firmware"}, {}},
		Patterns: []program.Pattern{{Parts: []program.PatternPart{{Role: "writing"}}}},
	}
	assert.Equal(t, []string{"modelling", "Lead", "Firmware", "diving", "writing"}, p.RolesKnown())
	assert.Empty(t, (&program.Program{}).RolesKnown())
	assert.Equal(t, []string{"modelling", "Lead"}, p.Settings.Roles)

	p = program.Program{Settings: program.Settings{Roles: []string{"lead", "LEAD ", "x, y"}}}
	text := program.Validate(p).Error()
	assert.Contains(t, text, `"LEAD " is there twice`)
	assert.Contains(t, text, `"x, y" has a comma`)
}
