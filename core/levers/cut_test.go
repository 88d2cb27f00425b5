package levers_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/forecast"
	"jantrel/core/gate"
	"jantrel/core/levers"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/sample"
)

// Each team does 10 an iteration and the release is due with the second. Lamp Control has 24 of it: of A, X and
// B the last has to go. Where X needs B, both that and A would stay: so X goes, which frees enough for B.
func TestWhatWouldHaveToGo(t *testing.T) {
	set := forecast.Set{Release: "R"}
	ask := func(p program.Program, set forecast.Set) levers.Cut {
		set.Due = p.Releases[0].Due
		return levers.CutOf(plan.Of(p), levers.CutQuestion{Set: set, Odds: 85}, levers.Options{Today: monday, Plays: 50, Seed: 1})
	}
	p := lamp(story("A", "LC", 10, "LC3"), story("W", "TW", 10, "TW3"), story("X", "LC", 10, "LC4"), story("B", "LC", 4, "LC5"))
	cut := ask(p, set)
	assert.True(t, cut.Met)
	assert.Equal(t, 0.0, cut.Chance)
	assert.Equal(t, 1.0, cut.Then)
	assert.Equal(t, []string{"B"}, cut.Out)
	assert.Equal(t, []program.Change{{Op: program.Set, Ref: program.Ref{Kind: program.KindItem, Key: "B"}, Field: "keptOut", Value: cut.Changes[0].Value}}, cut.Changes)

	p.Needs = []program.Need{{Item: "X", Needs: "B"}}
	assert.Equal(t, []string{"X"}, ask(p, set).Out, "without B, X could not be")

	other := story("Z", "LC", 1, "LC6")
	other.Release = ""
	p.Items, p.Needs = append(p.Items, other), []program.Need{{Item: "Z", Needs: "B"}}
	assert.Equal(t, []string{"X"}, ask(p, set).Out, "what others need stays")

	for _, i := range []int{0, 2} {
		p.Items[i].State, p.Items[i].Began = program.Doing, monday
	}
	cut = ask(p, set)
	assert.False(t, cut.Met, "what is under way stays too")
	assert.Empty(t, cut.Out)
	assert.Equal(t, []string{}, ask(lamp(story("A", "LC", 10, "LC3")), set).Out, "all of it fits")
}

// Of any program: the rest keeps its word once the changes are made, and nothing that is out could come
// back, with what it needs. An independent judge of each answer.
func TestACutIsEnoughAndNoMore(t *testing.T) {
	met := 0
	for seed := range sample.Seeds(25) {
		p := plan.Of(sample.Program(seed, sample.Shape{Teams: 3, Iterations: 5, Items: 24, Needs: 8}))
		set := forecast.Set{Release: p.Releases[0].Key, Due: sample.Today.Add(35)}
		o := levers.Options{Today: sample.Today, Plays: 200, Seed: seed}
		cut := levers.CutOf(p, levers.CutQuestion{Set: set, Odds: 80}, o)
		chance := func(out []string) float64 {
			next := p
			for _, key := range out {
				tried, _, err := gate.Try(next, []program.Change{{Op: program.Set, Ref: program.Ref{Kind: program.KindItem, Key: key}, Field: "keptOut", Value: []byte("true")}})
				require.NoError(t, err)
				next = tried
			}
			return *forecast.Play(next, forecast.Options{Today: sample.Today, Plays: 200, Seed: seed, Releases: []string{""}, Sets: []forecast.Set{set}}).Sets[0].Chance
		}
		assert.InDelta(t, cut.Chance, chance(nil), 1e-9)
		if !cut.Met {
			continue
		}
		met++
		assert.GreaterOrEqual(t, cut.Then, 0.8)
		assert.InDelta(t, cut.Then, chance(cut.Out), 1e-9)
		for _, back := range cut.Out {
			rest := slices.DeleteFunc(slices.Clone(cut.Out), func(key string) bool { return needs(p, back, key, map[string]bool{}) })
			assert.Less(t, chance(rest), 0.8, "%d: %s could stay", seed, back)
		}
	}
	assert.Greater(t, met, int(sample.Seeds(8)))
}

// needs reports whether an item is another, or needs it in the end.
func needs(p *plan.Plan, item, other string, seen map[string]bool) bool {
	if item == other {
		return true
	}
	seen[item] = true
	for _, n := range p.Needs {
		for _, leaf := range p.Tree().Leaves(p.Tree().Index[n.Item]) {
			if p.Items[leaf].Key != item {
				continue
			}
			for _, below := range p.Tree().Leaves(p.Tree().Index[n.Needs]) {
				if key := p.Items[below].Key; !seen[key] && needs(p, key, other, seen) {
					return true
				}
			}
		}
	}
	return false
}
