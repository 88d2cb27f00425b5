package act_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"jantrel/core/act"
	"jantrel/core/program"
)

func TestItemsGoAlongWithTheirStep(t *testing.T) {
	p := program.Program{
		Settings: program.Settings{Steps: []program.Step{{Name: "building", State: program.Doing}, {Name: "sea trial", State: program.Doing, Most: 3}}},
		Items: []program.Item{
			{Key: "A", Title: "A", Kind: program.Story, State: program.Doing, Step: "building"},
			{Key: "B", Title: "B", Kind: program.Story, State: program.Doing, Step: "sea trial"},
			{Key: "C", Title: "C", Kind: program.Story, State: program.Doing},
		},
	}.Normal()
	next, made := after(t, p, act.SetSteps{Steps: []act.NamedStep{
		{Step: program.Step{Name: " harbour trial ", State: program.Review, Most: 2}, Was: "sea trial"}, // another name, state and limit
		{Step: program.Step{Name: "drawn", State: program.Doing}},
	}})
	assert.Equal(t, []program.Step{{Name: "harbour trial", State: program.Review, Most: 2}, {Name: "drawn", State: program.Doing}}, next.Settings.Steps)
	assert.Equal(t, []string{"", "harbour trial", ""}, []string{next.Items[0].Step, next.Items[1].Step, next.Items[2].Step})
	course := next.Settings.Course()
	assert.Equal(t, "drawn", course[program.StepOf(course, &next.Items[1])].Name, "its state is as it was, so it is at the first step of that")
	assert.Equal(t, "Steps of the course", made.Label)

	swapped, _ := after(t, p, act.SetSteps{Steps: []act.NamedStep{
		{Step: program.Step{Name: "sea trial", State: program.Doing}, Was: "building"}, {Step: program.Step{Name: "building", State: program.Doing}, Was: "sea trial"},
	}})
	assert.Equal(t, []string{"sea trial", "building"}, []string{swapped.Items[0].Step, swapped.Items[1].Step})

	none, _ := after(t, p, act.SetSteps{})
	assert.Empty(t, none.Settings.Steps)
	assert.Empty(t, none.Items[1].Step)
}
