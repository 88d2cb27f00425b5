package act_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/act"
	"jantrel/core/program"
	"jantrel/core/sample"
)

// wharf is a team whose iteration is open, with steps of which one holds two items, and an item at each.
func wharf() program.Program {
	at := func(key string, state program.ItemState, step string, tasks ...program.Task) program.Item {
		return program.Item{Key: key, Title: key, Kind: program.Story, Team: "Q", Iteration: "1", State: state, Step: step, Tasks: tasks}
	}
	open, done := program.Task{Title: "Wire"}, program.Task{Title: "Draw", Done: true}
	return program.Program{
		Settings: program.Settings{Steps: []program.Step{{Name: "building", State: program.Doing}, {Name: "sea trial", State: program.Doing, Most: 2}}},
		Teams: []program.Team{{Key: "Q", Name: "Quay", Unit: program.Points, Iterations: []program.Iteration{
			{Key: "1", Start: sample.Today.Add(-3), End: sample.Today.Add(10), State: program.Open}, {Key: "2", Start: sample.Today.Add(11), End: sample.Today.Add(20)}}}},
		Items: []program.Item{
			at("todo", program.Todo, "", open, done), at("building", program.Doing, "building", open, open), at("trial", program.Doing, "sea trial"),
			at("review", program.Review, "", done), at("done", program.Done, ""),
		},
	}.Normal()
}

const (
	toDo = iota
	building
	seaTrial
	inReview
	isDone
)

// One rule says what is asked of somebody who takes an item to a step.
func TestWhatAStepAsks(t *testing.T) {
	p := wharf()
	nothing := ""
	for _, c := range []struct {
		item string
		to   int
		step act.StepAnswers
		asks string // the field that takes the answer; empty: nothing
		says string
	}{
		{"todo", building, act.StepAnswers{}, "", ""},
		{"todo", isDone, act.StepAnswers{}, "tasks", "todo has 1 open task."},
		{"building", isDone, act.StepAnswers{}, "tasks", "building has 2 open tasks."},
		{"building", isDone, act.StepAnswers{Tasks: act.TasksLeave}, "", ""},
		{"building", inReview, act.StepAnswers{}, "", ""},
		{"review", isDone, act.StepAnswers{}, "", ""},
		{"review", building, act.StepAnswers{}, "why", "Sent back, why"},
		{"review", seaTrial, act.StepAnswers{Why: &nothing}, "", ""},
		{"review", toDo, act.StepAnswers{}, "", ""},
		{"done", building, act.StepAnswers{}, "", ""},
	} {
		made, err := act.TakeToStep{Item: c.item, To: c.to, Step: c.step}.Plan(stateOf(p))
		require.NoError(t, err)
		name := fmt.Sprint(c.item, " to ", c.to)
		if c.asks == "" {
			assert.Nil(t, made.Ask, name)
			assert.NotEmpty(t, made.Changes, name)
			continue
		}
		require.NotNil(t, made.Ask, name)
		assert.Equal(t, []string{c.asks, c.says}, []string{made.Ask.Field, made.Ask.Text}, name)
		assert.Empty(t, made.Changes, "nothing is done before it is answered")
	}

	p.Items = append(p.Items, p.Items[2])
	p.Items[5].Key = "trial too"
	made, err := act.TakeToStep{Item: "building", To: seaTrial}.Plan(stateOf(p))
	require.NoError(t, err)
	assert.Equal(t, "Quay is to have 2 at most in sea trial", made.Ask.Text)
	p.Items[5].Iteration = "2" // which is not that under way
	made, err = act.TakeToStep{Item: "building", To: seaTrial}.Plan(stateOf(p))
	require.NoError(t, err)
	assert.Nil(t, made.Ask)
	_, err = act.TakeToStep{Item: "building", To: 9}.Plan(stateOf(p))
	assert.ErrorContains(t, err, "no such step")
}

// What was answered is made with the step: tasks that are done, and why it was sent back.
func TestAnswersOfAStep(t *testing.T) {
	p := wharf()
	next, made := after(t, p, act.TakeToStep{Item: "building", To: isDone, Step: act.StepAnswers{Tasks: act.TasksDone}})
	assert.Equal(t, "building done", made.Label)
	assert.True(t, next.Items[1].Tasks[0].Done && next.Items[1].Tasks[1].Done)
	why := " Flickers at dusk "
	next, made = after(t, p, act.TakeToStep{Item: "review", To: seaTrial, Step: act.StepAnswers{Why: &why}})
	assert.Equal(t, "review sent back", made.Label)
	assert.Equal(t, []any{program.Doing, "sea trial"}, []any{next.Items[3].State, next.Items[3].Step})
	require.Len(t, next.Comments, 1)
	assert.Equal(t, "Sent back: Flickers at dusk", next.Comments[0].Text)
	again, _ := after(t, next.Program, act.TakeToStep{Item: "review", To: inReview})
	twice, _ := after(t, again.Program, act.TakeToStep{Item: "review", To: seaTrial, Step: act.StepAnswers{Why: &why}})
	assert.Len(t, twice.Comments, 2)
}

// A state that is typed into a list is asked the same, once for all items.
func TestTypedStatesAskTheSame(t *testing.T) {
	p := wharf()
	enter := act.Enter{Keys: []string{"todo", "building", "review"}, Fields: []string{"state"}, Cells: [][]string{{"done"}}, Asks: true}
	made, err := enter.Plan(stateOf(p))
	require.NoError(t, err)
	require.NotNil(t, made.Ask)
	assert.Equal(t, "2 items have 3 open tasks.", made.Ask.Text)
	assert.Empty(t, made.Changes)
	enter.Step.Tasks = act.TasksDone
	next, _ := after(t, p, enter)
	for i := range 4 {
		for _, task := range next.Items[i].Tasks {
			assert.True(t, task.Done || i == 2)
		}
	}
	made, err = act.Enter{Keys: []string{"review"}, Fields: []string{"title", "state"}, Cells: [][]string{{"T", "doing"}}, Asks: true}.Plan(stateOf(p))
	require.NoError(t, err)
	assert.Equal(t, "why", made.Ask.Field)
	made, err = act.Enter{Keys: []string{"building"}, Fields: []string{"state"}, Cells: [][]string{{"done"}}}.Plan(stateOf(p))
	require.NoError(t, err)
	assert.Nil(t, made.Ask, "a script cannot be asked")
	assert.NotEmpty(t, made.Changes)
}

// After its last task an item goes on from where its work is done, also one that nobody had begun.
func TestAfterTheLastTask(t *testing.T) {
	p := wharf()
	for i, want := range map[int]string{toDo: "On to sea trial", building: "On to sea trial", seaTrial: "On to in review", inReview: ""} {
		item := p.Items[i]
		p := wharf()
		p.Items[i].Tasks = []program.Task{{Title: "Draw", Done: true}, {Title: "Wire"}}
		yes := true
		made, err := act.WorkOnTask{Item: item.Key, Task: 1, Title: "Wire", Done: &yes}.Plan(stateOf(p))
		require.NoError(t, err)
		if want == "" {
			assert.Nil(t, made.Ask)
			continue
		}
		require.NotNil(t, made.Ask, item.Key)
		assert.Equal(t, want, made.Ask.Answers[0].Text)
		assert.NotEmpty(t, made.Changes, "the task is done all the same")
		p.Items[i].Tasks[0].Done = false
		made, err = act.WorkOnTask{Item: item.Key, Task: 1, Title: "Wire", Done: &yes}.Plan(stateOf(p))
		require.NoError(t, err)
		assert.Nil(t, made.Ask, "another one is open")
	}
	p.Settings.Steps = nil
	to, ok := act.AfterTasks(p.Settings.Course(), &p.Items[toDo])
	assert.True(t, ok)
	assert.Equal(t, program.Review, p.Settings.Course()[to].State)
}
