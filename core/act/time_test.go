package act_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/act"
	"jantrel/core/program"
	"jantrel/core/sample"
)

// Hours are entered cell by cell: a cell holds one sum, however it came about.
func TestHoursAreEntered(t *testing.T) {
	six, note := 6.0, "second lead"
	p := program.Program{Items: []program.Item{{Key: "A", Title: "A", Kind: program.Story, Tasks: []program.Task{{Title: "Wire", HoursLeft: &six}}}},
		People: []program.Person{{Key: "ann", Name: "Ann"}, {Key: "bo", Name: "Bo"}}}.Normal()
	cell := act.EnterTime{Person: "ann", Date: sample.Today, Item: "A", Task: "Wire", Activity: "building", Hours: 2}

	first := cell
	first.Less, first.Note = true, &note
	next, made := after(t, p, first)
	assert.Equal(t, "2 h on A, Wire, 2 Mar", made.Label)
	assert.Equal(t, []program.TimeEntry{{Key: "ann 2027-03-02 1", Person: "ann", Date: sample.Today, Hours: 2, Item: "A", Task: "Wire", Activity: "building", Note: note}}, next.TimeEntries)
	assert.InDelta(t, 4, *next.Items[0].Tasks[0].HoursLeft, 1e-9)

	more := cell
	more.Add, more.Less = true, true
	next, made = after(t, next.Program, more)
	assert.Equal(t, "4 h on A, Wire, 2 Mar", made.Label, "on top of what was there")
	assert.InDelta(t, 4, next.TimeEntries[0].Hours, 1e-9)
	assert.Equal(t, note, next.TimeEntries[0].Note)
	assert.InDelta(t, 2, *next.Items[0].Tasks[0].HoursLeft, 1e-9)

	other := act.EnterTime{Person: "ann", Date: sample.Today, Hours: 1, Activity: "meetings"}
	next, _ = after(t, next.Program, other)
	his := cell
	his.Person = "bo"
	next, _ = after(t, next.Program, his)
	require.Len(t, next.TimeEntries, 3)
	assert.Equal(t, "ann 2027-03-02 2", next.TimeEntries[1].Key)

	// Two entries of one cell, as they may come from elsewhere, become one; without hours there is none.
	twice := next.Program
	twice.TimeEntries = append(twice.TimeEntries[:3:3], program.TimeEntry{Key: "x", Person: "ann", Date: sample.Today, Hours: 3, Item: "A", Task: "Wire", Activity: "building"})
	cell.Hours = 5
	next, _ = after(t, twice, cell)
	assert.Len(t, next.TimeEntries, 3)
	assert.InDelta(t, 5, next.TimeEntries[0].Hours, 1e-9)
	cell.Hours, cell.Less = 0, true
	next, _ = after(t, next.Program, cell)
	assert.Len(t, next.TimeEntries, 2)
	assert.InDelta(t, 7, *next.Items[0].Tasks[0].HoursLeft, 1e-9, "hours taken away are left again")
	next, made = after(t, next.Program, cell)
	assert.Empty(t, made.Changes)

	cell.Hours = 23.5
	_, err := cell.Plan(stateOf(next.Program))
	assert.EqualError(t, err, "that would be 24.5 h on 2 Mar; a day has 24")
	cell.Hours, cell.Item = 1, "gone"
	_, err = cell.Plan(stateOf(next.Program))
	assert.EqualError(t, err, "there is no item gone any more")
	cell.Person = "gone"
	_, err = cell.Plan(stateOf(next.Program))
	assert.EqualError(t, err, "there is no person gone any more")
}
