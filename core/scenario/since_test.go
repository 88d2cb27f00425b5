package scenario_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/calendar"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/sample"
	"jantrel/core/scenario"
)

// counted sums up naively what counts of a scope: items, and sizes of each team.
func counted(p program.Program, scope scenario.Scope) (items int, sizes map[string]float64) {
	sizes = map[string]float64{}
	tree := program.TreeOf(p)
	for i, x := range p.Items {
		if x.Kind.IsGroup() || !tree.IsLeaf(i) || x.KeptOut || scope.Release != "" && tree.Release(i) != scope.Release || scope.Team != "" && x.Team != scope.Team {
			continue
		}
		items++
		if x.Size != nil {
			sizes[x.Team] += *x.Size
		}
	}
	return items, sizes
}

// What there was, with all that was added, came in and grew, less what was removed, went out and shrank, is what there
// is: whichever scope is looked at, of any two moments.
func TestWhatBecameAddsUp(t *testing.T) {
	seen := map[scenario.What]int{}
	for seed := range sample.Seeds(250) {
		l := lines(seed)
		for _, scope := range []scenario.Scope{{}, {Release: "R0"}, {Team: "T0"}, {Release: "R1", Team: "T1"}} {
			s := scenario.Since(plan.Of(l.Base), l.Live, scope)
			was, before := counted(l.Base, scope)
			is, after := counted(l.Live.Program, scope)
			for _, sum := range s.Sums {
				seen[sum.What]++
				sign := map[scenario.What]float64{scenario.WasAdded: 1, scenario.CameIn: 1, scenario.WasRemoved: -1, scenario.WentOut: -1, scenario.Grew: 1, scenario.Shrank: 1}[sum.What]
				listed := 0
				for _, b := range s.Items {
					if b.What == sum.What {
						listed++
					}
				}
				require.Equal(t, listed, sum.Items, "every figure has its items")
				for _, team := range sum.Teams {
					before[team.Team] += sign * team.Size
				}
				if sum.What != scenario.Grew && sum.What != scenario.Shrank {
					was += int(sign) * sum.Items
				}
			}
			require.Equal(t, is, was, "seed %d %v", seed, scope)
			for team, size := range after {
				require.InDelta(t, size, before[team], 1e-9, "seed %d %v %s", seed, scope, team)
			}
		}
		none := scenario.Since(l.Live, l.Live, scenario.Scope{})
		require.Empty(t, none.Items)
		require.Equal(t, none.Then, none.Now)
	}
	for _, what := range []scenario.What{scenario.WasAdded, scenario.WasRemoved, scenario.Grew, scenario.Shrank} {
		assert.Greater(t, seen[what], 20, what)
	}
}

// Of each item all that became of it is told, with what it was and is.
func TestEachThingThatBecameOfAnItem(t *testing.T) {
	three, five := 3.0, 5.0
	team := program.Team{Key: "Q", Name: "Quay", Iterations: []program.Iteration{
		{Key: "1", Name: "Q·1", Start: day("2027-03-01"), End: day("2027-03-12")}, {Key: "2", Name: "Q·2", Start: day("2027-03-15"), End: day("2027-03-26")}}}
	release := []program.Release{{Key: "R", Name: "Rope"}, {Key: "S", Name: "Sail"}}
	then := program.Program{Teams: []program.Team{team}, Releases: release, Items: []program.Item{
		{Key: "A", Kind: program.Story, Team: "Q", Release: "R", Size: &three, Iteration: "1"},
		{Key: "B", Kind: program.Story, Team: "Q", Release: "S", Size: &three},
		{Key: "C", Kind: program.Story, Team: "Q", Release: "R", Size: &five},
	}}.Normal()
	now := program.Program{Teams: []program.Team{team}, Releases: release, Items: []program.Item{
		{Key: "A", Kind: program.Story, Team: "Q", Release: "R", Size: &five, Iteration: "2", State: program.Done},
		{Key: "B", Kind: program.Story, Team: "Q", Release: "R", Size: &three},
		{Key: "C", Kind: program.Story, Team: "Q", Release: "R", Size: &five, KeptOut: true},
		{Key: "D", Kind: program.Story, Team: "Q", Release: "R"},
	}}.Normal()
	type told struct {
		key      string
		what     scenario.What
		from, to string
	}
	var all []told
	s := scenario.Since(plan.Of(then), plan.Of(now), scenario.Scope{Release: "R"})
	for _, b := range s.Items {
		all = append(all, told{b.Key, b.What, b.From, b.To})
	}
	assert.Equal(t, []told{
		{"D", scenario.WasAdded, "", "unplaced"}, {"B", scenario.CameIn, "Sail", "Rope"}, {"C", scenario.WentOut, "not kept out", "kept out"},
		{"A", scenario.Grew, "3", "5"}, {"A", scenario.WentLater, "Q·1", "Q·2"}, {"A", scenario.WasDone, "todo", "done"},
	}, all)
	assert.InDelta(t, 0.25, s.Sums[3].Teams[0].Share, 1e-9, "2 of the 8 points that there were")
}

func day(text string) program.Date { return calendar.MustParse(text) }
