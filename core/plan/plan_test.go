package plan_test

import (
	"math/rand/v2"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/capacity"
	"jantrel/core/gate"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/sample"
	"jantrel/core/standing"
)

// Whatever is edited: what was remembered over the edit is what would be worked out anew.
func TestWhatIsRememberedIsStillTrue(t *testing.T) {
	carried := 0
	for seed := range uint64(20) {
		now := plan.Of(sample.Program(seed, sample.Shape{Teams: 3, Iterations: 5, Items: 20, Needs: 10, Wild: true, Rough: true}))
		r := rand.New(rand.NewPCG(seed, 6))
		for range 30 {
			standing.Of(now, sample.Today) // remembers all that facts are made of
			item := program.Ref{Kind: program.KindItem, Key: now.Items[r.IntN(len(now.Items))].Key}
			it := now.Teams[0].Iterations[r.IntN(len(now.Teams[0].Iterations))]
			at := r.IntN(len(now.Items))
			next, _, err := gate.Try(now, []program.Change{[]program.Change{
				program.SetTo(item, "size", r.IntN(9)),
				program.SetTo(item, "keptOut", r.IntN(2) == 0),
				{Op: program.Move, Ref: item, At: &at},
				program.SetTo(program.Ref{Kind: program.KindIteration, In: "T0", Key: it.Key}, "capacity", r.IntN(30)),
				program.SetTo(program.Ref{Kind: program.KindTeam, Key: "T1"}, "velocity", 5+r.IntN(30)),
				program.SetTo(program.Ref{Kind: program.KindPerson, Key: "p0"}, "hoursPerDay", 1+r.IntN(8)),
				program.SetTo(program.Ref{Kind: program.KindProgram}, "holidays", []program.Holiday{{Date: sample.Today.Add(r.IntN(30)), Name: "Day"}}),
				program.SetTo(program.Ref{Kind: program.KindCadence, Key: "two"}, "lengthDays", 7+r.IntN(14)),
			}[r.IntN(8)]})
			if err != nil {
				continue
			}
			fresh := plan.Of(next.Program)
			require.Equal(t, capacity.Of(fresh), capacity.Of(next))
			require.Equal(t, standing.Of(fresh, sample.Today), standing.Of(next, sample.Today))
			if &capacity.Of(now)[0] == &capacity.Of(next)[0] {
				carried++
			}
			now = next
		}
	}
	assert.Greater(t, carried, 100, "an edit of items works no capacity out again")
}

func TestManyAskAtOnce(t *testing.T) {
	p := plan.Of(sample.Program(1, sample.Shape{Teams: 3, Iterations: 5, Items: 200, Needs: 50}))
	var wait sync.WaitGroup
	want := plan.Of(p.Program).Loads()
	for range 16 {
		wait.Go(func() {
			assert.Equal(t, want, p.Loads())
			_, placed := p.Place(5)
			_, again := p.Place(5)
			assert.Equal(t, placed, again)
		})
	}
	wait.Wait()
}
