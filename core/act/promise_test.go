package act_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"jantrel/core/act"
	"jantrel/core/calendar"
	"jantrel/core/plan"
	"jantrel/core/program"
)

func TestAPromiseIsGiven(t *testing.T) {
	today, due := calendar.MustParse("2027-03-02"), calendar.MustParse("2027-05-28")
	p := program.Program{Today: today, Releases: []program.Release{{Key: "R", Name: "First Light"}}, Milestones: []program.Milestone{{Key: "M", Name: "Trial", Date: due}},
		Promises: []program.Promise{{Key: "PR-2", Release: "R", Date: due, To: "the board", Made: today}}}.Normal()
	state := act.State{Plan: plan.Of(p), Today: today}
	chance := 0.8
	made, err := act.GivePromise{Promise: program.Promise{Key: "mine", Milestone: "M", Date: due, To: "the pilots", Chance: &chance}}.Plan(state)
	assert.NoError(t, err)
	assert.Equal(t, "Promise: Trial by 28 May, to the pilots", made.Label)
	assert.Equal(t, []string{"PR-3"}, made.Keys)
	next, err := program.After(p, made.Changes)
	assert.NoError(t, err)
	assert.Equal(t, program.Promise{Key: "PR-3", Milestone: "M", Date: due, To: "the pilots", Made: today, Chance: &chance}, next.Promises[1])

	refused := map[string]program.Promise{
		"a promise is noted once it is given, and 3 Mar is after today": {Release: "R", Date: due, To: "x", Made: today.Add(1)},
		"that day is over: a promise is noted while it can be kept":     {Release: "R", Date: today.Add(-1), To: "x", Made: today.Add(-9)},
		"there is no release \"X\"":                                     {Release: "X", Date: due, To: "x"},
	}
	for why, promise := range refused {
		_, err := act.GivePromise{Promise: promise}.Plan(state)
		assert.EqualError(t, err, why)
	}

	// With what was promised goes its promise.
	gone, err := program.After(next, program.Forget(next, program.Ref{Kind: program.KindRelease, Key: "R"}))
	assert.NoError(t, err)
	assert.Len(t, gone.Promises, 1)
	assert.Equal(t, "M", gone.Promises[0].Milestone)
}
