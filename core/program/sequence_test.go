package program

import (
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Whatever is done to a sequence, it holds what a plain list would.
func TestASequenceIsAList(t *testing.T) {
	nameOf := func(x *Comment) name { return name{key: x.Key} }
	for seed := range uint64(6) {
		r := rand.New(rand.NewPCG(seed, 4))
		var model []Comment
		for i := range r.IntN(700) {
			model = append(model, Comment{Key: fmt.Sprint("k", i)})
		}
		before := slices.Clone(model)
		s := newSequence(before, nameOf)
		for n := range 3000 {
			switch i := r.IntN(len(model) + 1); {
			case len(model) == 0 || r.IntN(5) < 2:
				x := Comment{Key: fmt.Sprint("n", n)}
				s.insert(i, x)
				model = slices.Insert(model, i, x)
			case i == len(model):
				require.Equal(t, -1, s.find(name{key: "none"}))
			case r.IntN(2) == 0:
				s.remove(i)
				model = slices.Delete(model, i, i+1)
			default:
				require.Equal(t, i, s.find(nameOf(&model[i])))
				s.at(i).Text, model[i].Text = "written", "written"
			}
			require.Equal(t, len(model), s.len())
		}
		require.Equal(t, model, append([]Comment{}, s.list()...))
		for i := range before {
			require.Empty(t, before[i].Text, "what it was made of is as it was")
		}
	}
}

// Many changes at once are those same changes one after the other, and are taken back alike.
func TestManyChangesAreChangesOneAfterTheOther(t *testing.T) {
	r := rand.New(rand.NewPCG(9, 9))
	p := Program{Name: "P"}.Normal()
	var keys []string
	for i := range 300 {
		keys = append(keys, fmt.Sprint("i", i))
		p.Items = append(p.Items, Item{Key: keys[i], Title: "T", Kind: Story})
	}
	p = p.Normal()
	one, changes := p, []Change(nil)
	for n := range 600 {
		ref, at := Ref{Kind: KindItem, Key: keys[r.IntN(len(keys))]}, r.IntN(len(keys)+2)
		c := []Change{SetTo(ref, "title", fmt.Sprint(n)), {Op: Move, Ref: ref, At: &at}, {Op: Remove, Ref: ref}, {}}[r.IntN(4)]
		if c.Op == "" {
			key := fmt.Sprint("new", n)
			keys = append(keys, key)
			c = AddOf(Ref{Kind: KindItem, Key: key}, Item{Key: key, Title: "T", Kind: Story})
			c.At = &at
		}
		next, _, err := Apply(one, c)
		if err != nil {
			continue // of one that was removed
		}
		one, changes = next, append(changes, c)
	}
	require.Greater(t, len(changes), 2*bulk)
	many, applied, err := ApplyAll(p, changes)
	require.NoError(t, err)
	text := func(p Program) string {
		text, err := json.Marshal(p)
		require.NoError(t, err)
		return string(text)
	}
	assert.Equal(t, text(one), text(many))
	back, err := Rewind(many, applied)
	require.NoError(t, err)
	assert.Equal(t, text(p), text(back))
	again, err := Replay(p, applied)
	require.NoError(t, err)
	assert.Equal(t, text(many), text(again))
}

// BenchmarkManyChanges is 45,000 changes of the order of 5,000 items, in one edit.
func BenchmarkManyChanges(b *testing.B) {
	p := Program{Name: "P"}.Normal()
	for i := range 5000 {
		p.Items = append(p.Items, Item{Key: fmt.Sprint("i", i), Title: "T", Kind: Story})
	}
	var changes []Change
	zero := 0
	for i := range 45_000 {
		key := fmt.Sprint("new", i)
		c := AddOf(Ref{Kind: KindItem, Key: key}, Item{Key: key, Title: "T", Kind: Story})
		c.At = &zero
		changes = append(changes, c)
	}
	for b.Loop() {
		_, _, err := ApplyAll(p, changes)
		require.NoError(b, err)
	}
}
