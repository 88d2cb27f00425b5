package standing_test

import (
	"encoding/json"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/needs"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/sample"
	"jantrel/core/standing"
)

func ptr(x float64) *float64 { return &x }

func TestCountsAreThoseOfTheEntries(t *testing.T) {
	for seed := range uint64(40) {
		p := sample.Program(seed, sample.Shape{Teams: 4, Iterations: 6, Items: 40, Needs: 30, Wild: true, Rough: true})
		f := standing.Of(plan.Of(p), sample.Today)
		over, broken, notReady, unplaced := 0, 0, 0, 0
		for _, x := range f.Iterations {
			if x.Over {
				over++
				require.True(t, x.Usable)
				require.Greater(t, x.Load, x.Capacity)
			}
		}
		for _, x := range f.Needs {
			if x.Status == "broken" {
				broken++
			}
		}
		for i, x := range f.Items {
			if len(x.Lacks) > 0 {
				notReady++
				require.True(t, x.Leaf)
				require.False(t, p.Items[i].KeptOut)
			}
			if x.Unplaced {
				unplaced++
			}
		}
		assert.Len(t, f.Counts.Over, over)
		assert.Len(t, f.Counts.Broken, broken)
		assert.Len(t, f.Counts.NotReady, notReady)
		assert.Len(t, f.Counts.Unplaced, unplaced)
	}
}

func TestSinceHoldsExactlyWhatDiffers(t *testing.T) {
	shape := sample.Shape{Teams: 3, Iterations: 5, Items: 30, Needs: 20, Wild: true, Rough: true}
	p := sample.Program(2, shape)
	before := standing.Of(plan.Of(p), sample.Today)
	same := standing.Of(plan.Of(p), sample.Today).Since(before)
	assert.Empty(t, same.Items)
	assert.Empty(t, same.Iterations)
	next, _, err := program.Apply(p, program.Change{Op: program.Set, Ref: program.Ref{Kind: program.KindItem, Key: "I3"}, Field: "size", Value: json.RawMessage("null")})
	require.NoError(t, err)
	since := standing.Of(plan.Of(next), sample.Today).Since(before)
	if assert.Len(t, since.Items, 1) {
		assert.Equal(t, "I3", since.Items[0].Key)
	}
	// One that came in between shifts the rest, which do not differ for it.
	next, _, err = program.Apply(p, program.Change{Op: program.Add, Ref: program.Ref{Kind: program.KindItem, Key: "NEW"}, At: new(int), Value: json.RawMessage(`{"key":"NEW","title":"","kind":"story"}`)})
	require.NoError(t, err)
	since = standing.Of(plan.Of(next), sample.Today).Since(before)
	if assert.Len(t, since.Items, 1) {
		assert.Equal(t, "NEW", since.Items[0].Key)
	}
}

func TestFitsSaysWhatADropWouldDo(t *testing.T) {
	p := sample.Program(4, sample.Shape{Teams: 2, Iterations: 4, Items: 6})
	p.Settings.SameIteration = program.ShareNever
	for i := range p.Items {
		p.Items[i].Team, p.Items[i].Iteration, p.Items[i].Pinned = "T0", "", false
	}
	for i := range p.Teams[0].Iterations {
		p.Teams[0].Iterations[i].Capacity = ptr(10)
	}
	p.Items[0].Team = "" // the feature
	p.Items[1].Size, p.Items[2].Size = ptr(8), ptr(5)
	p.Items[2].Iteration = "T0-4"
	p.Needs = []program.Need{{Item: "I0", Needs: "I1"}}
	fits := standing.Fits(plan.Of(p), sample.Today, "T0", []string{"I0"})
	require.Len(t, fits, 4, "the closed iterations are not offered")
	assert.Equal(t, standing.Fit{Iteration: "T0-3", Load: 8, Capacity: 10, Fits: true, Breaks: []standing.NeedRef{{Item: "I0", Needs: "I1"}}}, fits[0])
	assert.Equal(t, standing.Fit{Iteration: "T0-4", Load: 13, Capacity: 10, Fits: false, Breaks: []standing.NeedRef{{Item: "I0", Needs: "I1"}}}, fits[1])
	assert.Equal(t, standing.Fit{Iteration: "T0-5", Load: 8, Capacity: 10, Fits: true}, fits[2])
	assert.Nil(t, standing.Fits(plan.Of(p), sample.Today, "nobody", nil))
}

func BenchmarkFacts5000(b *testing.B) {
	p := sample.Program(1, sample.Shape{Teams: 40, Iterations: 26, Items: 5000, Needs: 6000})
	for b.Loop() {
		standing.Of(plan.Of(p), sample.Today)
	}
}

// What Fits says of a place is what would be found if the items really stood there.
func TestFitsIsWhatMovingWouldGive(t *testing.T) {
	checked, broken := 0, 0
	for seed := range uint64(12) {
		p := sample.Program(seed, sample.Shape{Teams: 3, Iterations: 5, Items: 30, Needs: 30, Wild: true, Cycles: true})
		now := plan.Of(p)
		for n := 0; n+3 < len(p.Items); n += 4 {
			team := p.Items[n].Team
			var keys []string
			chosen := map[string]bool{}
			for _, item := range p.Items[n : n+3] {
				keys = append(keys, item.Key)
				if item.Team == team && team != "" && now.Tree().IsLeaf(now.Tree().Index[item.Key]) {
					chosen[item.Key] = true
				}
			}
			for _, fit := range standing.Fits(now, sample.Today, team, keys) {
				moved := p
				moved.Items = slices.Clone(p.Items)
				for i := range moved.Items {
					if chosen[moved.Items[i].Key] {
						moved.Items[i].Iteration = fit.Iteration
					}
				}
				then := plan.Of(moved)
				at, ok := then.Slot(team, fit.Iteration)
				require.True(t, ok)
				assert.InDelta(t, then.Loads().Size[at.Team][at.Slot], fit.Load, 1e-9)
				var want []standing.NeedRef
				touches := map[int]bool{}
				for _, e := range needs.Edges(then) {
					touches[e.Need] = touches[e.Need] || chosen[moved.Items[e.Item].Key] || chosen[moved.Items[e.Needs].Key]
				}
				for i, state := range needs.Check(then) {
					if state.Status == needs.StatusBroken && touches[i] {
						want = append(want, standing.NeedRef{Item: p.Needs[i].Item, Needs: p.Needs[i].Needs})
					}
				}
				require.Equal(t, want, fit.Breaks, "seed %d, %v in %s", seed, keys, fit.Iteration)
				checked++
				broken += len(want)
			}
		}
	}
	assert.Greater(t, checked, 300)
	assert.Greater(t, broken, 300)
}

// The widest program: 200 teams of 300 iterations, 20,000 items. What a drag asks.
func BenchmarkFitsWidest(b *testing.B) {
	p := widest()
	for b.Loop() {
		b.StopTimer()
		now := plan.Of(p)
		b.StartTimer()
		standing.Fits(now, sample.Today, "T7", []string{"I700"})
	}
}

// The facts of an edit of it.
func BenchmarkFactsWidest(b *testing.B) {
	p := widest()
	for b.Loop() {
		standing.Of(plan.Of(p), sample.Today)
	}
}

func widest() program.Program {
	return sample.Program(1, sample.Shape{Teams: 200, Iterations: 300, Items: 20_000, Needs: 12_000})
}
