package act_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/act"
	"jantrel/core/program"
)

// Two people work on tasks of one item, neither having seen what the other did.
func TestTasksAreWorkedOnOneByOne(t *testing.T) {
	p := program.Program{Items: []program.Item{{Key: "A", Title: "A", Kind: program.Story, Tasks: []program.Task{{Title: "Wire"}, {Title: "Try"}, {Title: "Show"}}}},
		People: []program.Person{{Key: "ann", Name: "Ann"}}}.Normal()
	yes, no, hours, ann := true, false, 2.5, "ann"
	next, made := after(t, p, act.WorkOnTask{Item: "A", Task: 1, Title: "Try", Done: &yes})
	assert.Equal(t, "A: Try done", made.Label)
	again, made := after(t, next.Program, act.WorkOnTask{Item: "A", Task: 2, Title: "Show", HoursLeft: &hours, Owner: &ann})
	assert.Equal(t, "A: 2.5 h left of Show", made.Label)
	assert.Equal(t, []program.Task{{Title: "Wire"}, {Title: "Try", Done: true}, {Title: "Show", HoursLeft: &hours, Owner: "ann"}}, again.Items[0].Tasks)

	// One before it has gone meanwhile: it is found by its title.
	p = again.Program
	p.Items = append([]program.Item{}, p.Items...)
	p.Items[0].Tasks = p.Items[0].Tasks[1:]
	last, made := after(t, p, act.WorkOnTask{Item: "A", Task: 1, Title: "Try", Done: &no})
	assert.Equal(t, "A: Try is to do again", made.Label)
	assert.False(t, last.Items[0].Tasks[0].Done)

	_, err := act.WorkOnTask{Item: "A", Task: 0, Title: "Wire", Done: &yes}.Plan(stateOf(p))
	assert.EqualError(t, err, `A has no task "Wire" any more`)
	_, err = act.WorkOnTask{Item: "B"}.Plan(stateOf(p))
	assert.EqualError(t, err, "there is no item B any more")
	twoAndAHalf := 2.5
	same, err := act.WorkOnTask{Item: "A", Task: 1, Title: "Show", HoursLeft: &twoAndAHalf}.Plan(stateOf(p))
	require.NoError(t, err)
	assert.Empty(t, same.Changes)
}
