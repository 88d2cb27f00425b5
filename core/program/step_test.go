package program_test

import (
	"strconv"
	"testing"

	"github.com/stretchr/testify/assert"

	"jantrel/core/program"
)

func TestCourse(t *testing.T) {
	none := program.Settings{}.Course()
	assert.Equal(t, []program.Step{{State: program.Todo}, {State: program.Doing}, {State: program.Review}, {State: program.Done}}, none)

	settings := program.Settings{Steps: []program.Step{
		{Name: "harbour check", State: program.Review}, {Name: "building", State: program.Doing}, {Name: "sea trial", State: program.Doing, Most: 3},
	}}
	course := settings.Course()
	assert.Equal(t, []program.Step{{State: program.Todo}, {Name: "building", State: program.Doing}, {Name: "sea trial", State: program.Doing, Most: 3},
		{Name: "harbour check", State: program.Review}, {State: program.Done}}, course, "in the order of the states, and within one in the program's")

	for _, c := range []struct {
		state program.ItemState
		step  string
		at    int
	}{
		// Of docs/track.md: doing without a step, in one, and in one that is gone.
		{"", "", 0}, {program.Todo, "sea trial", 0}, {program.Doing, "", 1}, {program.Doing, "sea trial", 2}, {program.Doing, "gone", 1},
		{program.Review, "sea trial", 3}, {program.Done, "building", 4},
	} {
		assert.Equal(t, c.at, program.StepOf(course, &program.Item{State: c.state, Step: c.step}), "%s, %q", c.state, c.step)
	}
}

func TestStepsAreChecked(t *testing.T) {
	is := func(want string, steps ...program.Step) {
		t.Helper()
		problems := program.Validate(program.Program{Name: "P", Settings: program.Settings{Steps: steps}}.Normal())
		if want == "" {
			assert.Empty(t, problems)
			return
		}
		if assert.Len(t, problems, 1) {
			assert.Equal(t, want, problems[0].String())
		}
	}
	is("", program.Step{Name: "building", State: program.Doing, Most: 3})
	is("settings.steps[0].name: is empty", program.Step{Name: " ", State: program.Doing})
	is(`settings.steps[1].name: "Building" is there twice`, program.Step{Name: "building", State: program.Doing}, program.Step{Name: "Building", State: program.Review})
	is("settings.steps[0].most: -1 is not between 0 and 999", program.Step{Name: "building", State: program.Doing, Most: -1})
	is("settings.steps[0].most: what is done has no limit", program.Step{Name: "at sea", State: program.Done, Most: 2})
	is(`settings.steps[0].state: "begun" is none of todo, doing, review, done`, program.Step{Name: "building", State: "begun"})
	many := make([]program.Step, 21)
	for i := range many {
		many[i] = program.Step{Name: strconv.Itoa(i), State: program.Doing}
	}
	is("settings.steps: 21 are too many; 20 is the most", many...)
}
