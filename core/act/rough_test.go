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

// quarry is twoLengths with a rough size of 20 for A on the feature: of which 4 are in an item, one
// without a size counts the usual 8, 4 stand in iteration 2, and the other 4 nowhere.
func quarry() program.Program {
	p := twoLengths()
	p.Items[0].Rough = []program.Rough{{Team: "A", Size: 20}}
	p.Items[0].RoughPlaces = []program.RoughPlace{{Team: "A", Iteration: "2", Size: 4}}
	return p
}

func did(t *testing.T, p program.Program, x act.Intent) (program.Program, act.Plan) {
	t.Helper()
	made, err := x.Plan(act.State{Plan: plan.Of(p), Today: sample.Today})
	require.NoError(t, err)
	next, _, err := gate.Try(plan.Of(p), made.Changes)
	require.NoError(t, err)
	return next.Program, made
}

func TestWhatIsRoughIsMoved(t *testing.T) {
	at := func(iteration string, size float64) program.RoughPlace {
		return program.RoughPlace{Team: "A", Iteration: iteration, Size: size}
	}
	for _, x := range []struct {
		name string
		by   act.MoveRough
		want []program.RoughPlace
	}{
		{"elsewhere", act.MoveRough{From: "2", To: "3"}, []program.RoughPlace{at("3", 4)}},
		{"nowhere", act.MoveRough{From: "2"}, nil},
		{"what stood nowhere, to the rest", act.MoveRough{To: "2"}, []program.RoughPlace{at("2", 8)}},
		{"what stood nowhere, beside the rest", act.MoveRough{To: "5"}, []program.RoughPlace{at("2", 4), at("5", 4)}},
		{"from where nothing stands: what stood nowhere", act.MoveRough{From: "", To: ""}, []program.RoughPlace{at("2", 4)}},
	} {
		t.Run(x.name, func(t *testing.T) {
			x.by.Item, x.by.Team = "F", "A"
			next, _ := did(t, quarry(), x.by)
			assert.ElementsMatch(t, x.want, next.Items[0].RoughPlaces)
		})
	}
	_, err := act.MoveRough{Item: "F", Team: "B", To: "1"}.Plan(act.State{Plan: plan.Of(quarry()), Today: sample.Today})
	assert.ErrorContains(t, err, "nothing of F is rough for B")
}

// Whoever moves the feature moves what is rough of it.
func TestAShiftTakesWhatIsRoughAlong(t *testing.T) {
	next, made := did(t, quarry(), act.Shift{Item: "F", Days: 28})
	assert.Empty(t, made.Notes)
	require.Len(t, next.Items[0].RoughPlaces, 1)
	assert.Equal(t, program.RoughPlace{Team: "A", Iteration: "4", Size: 4}, next.Items[0].RoughPlaces[0])
	assert.Equal(t, "4", next.Items[1].Iteration)
}

// Places that are said for one team leave those of others alone.
func TestPlacingWhatIsRough(t *testing.T) {
	p := quarry()
	p.Items[0].Rough = append(p.Items[0].Rough, program.Rough{Team: "B", Size: 9})
	next, made := did(t, p, act.Place{Rough: []act.RoughPart{{Item: "F", Team: "B", Places: []act.RoughIn{{Iteration: "1", Size: 5}}}}})
	assert.Equal(t, "Place what is rough of F", made.Label)
	assert.ElementsMatch(t, []program.RoughPlace{{Team: "A", Iteration: "2", Size: 4}, {Team: "B", Iteration: "1", Size: 5}}, next.Items[0].RoughPlaces)
	_, err := act.Place{Rough: []act.RoughPart{{Item: "F", Team: "C"}}}.Plan(act.State{Plan: plan.Of(quarry())})
	assert.ErrorContains(t, err, "has no rough size for C")
}
