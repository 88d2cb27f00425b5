package act_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/act"
	"jantrel/core/gate"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/sample"
)

// An item's days follow from its states, however these are said: it began on the first day under way, and was done on the
// day on which it was. What is said of a day stands.
func TestDaysFollowFromStates(t *testing.T) {
	ref := program.Ref{Kind: program.KindItem, Key: "A"}
	p := plan.Of(program.Program{Items: []program.Item{{Key: "A", Title: "Lamp", Kind: program.Story}}}.Normal())
	day := sample.Today
	step := func(day program.Date, changes ...program.Change) (item program.Item) {
		t.Helper()
		next, _, err := gate.Try(p, act.State{Plan: p, Today: day}.Dated(changes))
		require.NoError(t, err)
		p = next
		return p.Items[0]
	}
	to := func(state program.ItemState) program.Change { return program.SetTo(ref, "state", state) }
	days := func(began, done program.Date) []program.Date { return []program.Date{began, done} }
	of := func(item program.Item) []program.Date { return days(item.Began, item.DoneOn) }

	assert.Equal(t, days(day, 0), of(step(day, to(program.Doing))))
	assert.Equal(t, days(day, 0), of(step(day+2, to(program.Review))), "it began before that")
	assert.Equal(t, days(day, day+3), of(step(day+3, to(program.Done))))
	assert.Equal(t, days(day, day+3), of(step(day+9, to(program.Done))), "it was done before")
	assert.Equal(t, days(day, 0), of(step(day+4, to(program.Doing))), "it was not done after all")
	assert.Equal(t, days(0, 0), of(step(day+5, to(program.Todo))), "nor begun")
	assert.Equal(t, days(0, day+6), of(step(day+6, to(program.Done))), "nobody knows when it began")
	assert.Equal(t, days(day+7, 0), of(step(day+7, to(program.Review))))
	assert.Equal(t, days(day+1, 0), of(step(day+8, to(program.Doing), program.SetTo(ref, "began", day+1))), "as is said")
	assert.Equal(t, days(day+1, day+2), of(step(day+8, program.SetTo(ref, "doneOn", day+2), to(program.Done))))
	assert.Equal(t, days(0, 0), of(step(day+9, to(program.Doing), to(program.Todo))), "the last state counts")

	added := program.Item{Key: "A", Title: "Lamp", Kind: program.Story, State: program.Doing}
	assert.Equal(t, days(0, 0), of(step(day, program.Change{Op: program.Remove, Ref: ref}, program.AddOf(ref, added))), "what comes under way may have begun on any day")
	assert.Equal(t, days(day, 0), of(step(day, program.Change{Op: program.Remove, Ref: ref}, program.AddOf(ref, added), to(program.Todo), to(program.Doing), program.SetTo(ref, "began", day))))
	p.Items[0].Size = new(5.0)
	act.State{Plan: p, Today: day}.Dated([]program.Change{program.AddOf(ref, program.Item{Key: "A", Size: new(1.0)})})
	assert.Equal(t, 5.0, *p.Items[0].Size, "what the program holds is not written to, even where the change is refused")
	changes := []program.Change{program.SetTo(ref, "title", "Lens")}
	assert.Equal(t, changes, act.State{Plan: p, Today: day}.Dated(changes))
	for _, odd := range []program.Change{{Op: program.Set, Ref: ref, Field: "state", Value: []byte(`7`)}, {Op: program.Add, Ref: ref, Value: []byte(`{`)}, {Op: program.Set, Ref: program.Ref{Kind: program.KindItem, Key: "?"}, Field: "state", Value: []byte(`"doing"`)}} {
		_, _, err := gate.Try(p, act.State{Plan: p, Today: day}.Dated([]program.Change{odd}))
		assert.Error(t, err, "refused where it is applied")
	}
}
