package program_test

import (
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/program"
	"jantrel/core/sample"
)

func written(t *testing.T, p program.Program) string {
	t.Helper()
	text, err := json.Marshal(p)
	require.NoError(t, err)
	return string(text)
}

// Whatever two programs are: the changes between them lead from one to the other, to the byte, and
// back; and nothing lies between a program and itself.
func TestTheChangesBetweenTwoProgramsLeadFromOneToTheOther(t *testing.T) {
	for seed := range uint64(60) {
		r := rand.New(rand.NewPCG(seed, 5))
		shape := func() sample.Shape {
			return sample.Shape{Teams: 1 + r.IntN(4), Iterations: 1 + r.IntN(6), Items: 6 + r.IntN(40), Needs: r.IntN(20), Wild: seed%2 == 0, Rough: seed%3 == 0}
		}
		a := sample.Program(seed, shape())
		b := sample.Program(seed+uint64(r.IntN(2)), shape())
		r.Shuffle(len(b.Items), func(i, j int) { b.Items[i], b.Items[j] = b.Items[j], b.Items[i] })
		require.Empty(t, program.Between(a, a))
		for _, pair := range [][2]program.Program{{a, b}, {b, a}} {
			changes := program.Between(pair[0], pair[1])
			got, err := program.After(pair[0], changes)
			require.NoError(t, err, "seed %d", seed)
			require.Equal(t, written(t, pair[1]), written(t, got), "seed %d", seed)
		}
	}
}

// Of a list in another order no more is moved than has to be.
func TestAsFewThingsMoveAsCan(t *testing.T) {
	for seed := range uint64(200) {
		r := rand.New(rand.NewPCG(seed, 6))
		var a program.Program
		for i := range 3 + r.IntN(6) {
			a.Items = append(a.Items, program.Item{Key: fmt.Sprint("I", i)})
		}
		b := a
		b.Items = slices.Clone(a.Items)
		r.Shuffle(len(b.Items), func(i, j int) { b.Items[i], b.Items[j] = b.Items[j], b.Items[i] })
		at := map[string]int{}
		for i := range b.Items {
			at[b.Items[i].Key] = i
		}
		longest := 0 // of all choices of items, the most that keep their order
		for chosen := range 1 << len(a.Items) {
			last, n := -1, 0
			for i := range a.Items {
				if chosen>>i&1 == 1 {
					if at[a.Items[i].Key] < last {
						n = -1
						break
					}
					last, n = at[a.Items[i].Key], n+1
				}
			}
			longest = max(longest, n)
		}
		changes := program.Between(a, b)
		require.Len(t, changes, len(a.Items)-longest, "seed %d", seed)
		got, err := program.After(a, changes)
		require.NoError(t, err)
		require.Equal(t, written(t, b), written(t, got))
	}
}

func TestAnItemUnderAnotherKeyIsNamedByIt(t *testing.T) {
	p := sample.Program(3, sample.Shape{Teams: 2, Iterations: 3, Items: 20, Needs: 12})
	need := p.Needs[0]
	other, err := p.Rekeyed(program.KindItem, map[string]string{need.Needs: "NEW"})
	require.NoError(t, err)
	assert.True(t, other.Has(program.Ref{Kind: program.KindNeed, In: need.Item, Key: "NEW"}))
	assert.NotContains(t, written(t, other), `"`+need.Needs+`"`)
	assert.Empty(t, program.Validate(other))
	assert.Contains(t, other.NamedBy(program.Ref{Kind: program.KindNeed, In: need.Item, Key: "NEW"}), program.Ref{Kind: program.KindItem, Key: "NEW"})
	back, err := other.Rekeyed(program.KindItem, map[string]string{"NEW": need.Needs})
	require.NoError(t, err)
	assert.Equal(t, written(t, p), written(t, back))
}

func BenchmarkBetween5000(b *testing.B) {
	p := sample.Program(1, sample.Shape{Teams: 40, Iterations: 12, Items: 5000, Needs: 6000})
	q, err := program.After(p, []program.Change{program.SetTo(program.Ref{Kind: program.KindItem, Key: p.Items[7].Key}, "title", "x")})
	require.NoError(b, err)
	for b.Loop() {
		require.Len(b, program.Between(p, q), 1)
	}
}
