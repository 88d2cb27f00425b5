package backlog_test

import (
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/backlog"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/sample"
)

func TestTheFirstRuleThatHoldsGivesTheColour(t *testing.T) {
	v := where("keptOut", "is", "no")
	v.Colours = []program.ColourRule{
		{Colour: program.Rust, Filter: where("kind", "is", "defect").Filter},
		{Colour: program.Deep, Name: "Sized", Filter: where("size", "filled").Filter},
		{Colour: program.Sand},
	}
	paint, err := index(pier()).Paint(v)
	require.NoError(t, err)
	assert.Equal(t, []string{"kind is defect", "Sized", "everything"}, paint.Names)
	assert.Equal(t, "kept out is no", paint.Sentence)
	all := slices.Concat(append(paint.Colours, paint.LeftOut)...)
	slices.Sort(all)
	assert.Equal(t, len(all), len(slices.Compact(all)), "each once")
}

// Painting and listing ask the same of every item.
func TestPaintKeepsWhatTheListKeeps(t *testing.T) {
	filters := []program.Filter{where("size", "at-most", "3").Filter, where("state", "is-not", "done").Filter, where("readiness", "filled").Filter, where("team", "is", "A", "B").Filter}
	for seed := range uint64(40) {
		p := sample.Program(seed, sample.Shape{Teams: 3, Iterations: 5, Items: 40, Wild: true})
		x := backlog.NewIndex(plan.Of(p), backlog.Options{Today: sample.Today})
		v := program.View{Filter: filters[seed%4]}
		for i := range filters {
			v.Colours = append(v.Colours, program.ColourRule{Colour: program.Sky, Filter: filters[i]})
		}
		paint, err := x.Paint(v)
		require.NoError(t, err)
		list, err := x.List(v, "")
		require.NoError(t, err)
		kept := []string{}
		for i, item := range p.Items {
			if x.Tree().IsLeaf(i) && !slices.Contains(paint.LeftOut, item.Key) {
				kept = append(kept, item.Key)
			}
		}
		slices.Sort(kept)
		slices.Sort(list.Rows)
		assert.Equal(t, kept, slices.Clone(list.Rows), fmt.Sprint(seed))
		taken := map[string]bool{}
		for r, keys := range paint.Colours {
			one, err := x.List(program.View{Filter: filters[r]}, "")
			require.NoError(t, err)
			for _, key := range keys {
				assert.Contains(t, one.Rows, key)
				assert.False(t, taken[key])
				taken[key] = true
			}
		}
	}
}
