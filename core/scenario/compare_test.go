package scenario_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/forecast"
	"jantrel/core/gate"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/sample"
	"jantrel/core/scenario"
	"jantrel/core/standing"
)

func compared(p *plan.Plan) scenario.Compared {
	return scenario.Compared{Plan: p, Facts: standing.Of(p, sample.Today), Plays: forecast.Play(p, forecast.Options{Today: sample.Today, Plays: 20, Seed: 1})}
}

// where says naively where an item stands: by looking through everything.
func where(p program.Program, key string) (stand scenario.Stand, iteration string) {
	for _, x := range p.Items {
		if x.Key != key {
			continue
		}
		if x.KeptOut {
			return scenario.KeptOut, ""
		}
		for _, team := range p.Teams {
			for _, it := range team.Iterations {
				if team.Key == x.Team && it.Key == x.Iteration {
					return scenario.Placed, team.Key + " " + it.Key
				}
			}
		}
		return scenario.Unplaced, ""
	}
	return scenario.Absent, ""
}

// Every figure of a comparison is the one of the plan that it is about, the items that stand elsewhere are exactly
// those that do, and scope adds up: what the first has, and what is in, less what is out.
func TestAComparisonSaysWhatIsDifferent(t *testing.T) {
	elsewhere := 0
	for seed := range sample.Seeds(60) {
		l := lines(seed)
		sides := []scenario.Compared{compared(l.Live), compared(l.Mine), compared(plan.Of(l.Base))}
		c := scenario.Compare(sides)
		for _, r := range c.Releases {
			for i, of := range r.Lands {
				if of == nil {
					continue
				}
				at := slices.IndexFunc(sides[i].Plays.Releases, func(x forecast.Landing) bool { return x.Key == r.Key })
				require.Equal(t, sides[i].Plays.Releases[at], of.Landing)
				if r.Lands[0] != nil {
					require.Equal(t, r.Lands[0].Items+len(of.In)-len(of.Out), of.Items)
				}
			}
		}
		for i, n := range c.Counts {
			require.Len(t, sides[i].Facts.Counts.Over, n.Over)
			require.Len(t, sides[i].Facts.Counts.Unplaced, n.Unplaced)
			require.InDelta(t, sides[i].Plays.ExpectedLateDays, c.Late[i], 1e-9)
		}
		told := map[string]bool{}
		for _, row := range c.Items {
			told[row.Key] = true
			for i, of := range row.Of {
				stand, _ := where(sides[i].Plan.Program, row.Key)
				require.Equal(t, stand, of.Stand, "seed %d %s", seed, row.Key)
			}
			elsewhere++
		}
		for key := range l.Live.Refs() {
			if key.Kind != program.KindItem || told[key.Key] || key.Key[0] == 'F' {
				continue
			}
			firstStand, firstAt := where(l.Live.Program, key.Key)
			for _, side := range sides[1:] {
				stand, at := where(side.Plan.Program, key.Key)
				require.Equal(t, firstStand, stand, "seed %d %s", seed, key.Key)
				require.Equal(t, firstAt, at, "seed %d %s", seed, key.Key)
			}
		}
		for _, v := range c.Values {
			for i, value := range v.Of {
				require.True(t, program.SameValue(v.Kind, v.Field, value, program.FieldIn(sides[i].Plan.Program, v.Ref, v.Field)))
			}
		}
		same := scenario.Compare([]scenario.Compared{sides[0], sides[0]})
		require.Empty(t, same.Items)
		require.Empty(t, same.Values)
		require.Empty(t, same.Needs)
	}
	assert.Greater(t, elsewhere, 50)
}

// An item that goes one iteration on ends there: so many days later as that one does.
func TestAnItemThatStandsLater(t *testing.T) {
	p := plan.Of(sample.Program(4, sample.Shape{Teams: 2, Iterations: 6, Items: 20}))
	for i := range p.Items {
		at, placed := p.Place(i)
		if !placed || at.Slot+1 >= len(p.Teams[at.Team].Iterations) || p.Items[i].State == program.Done {
			continue
		}
		next := p.Teams[at.Team].Iterations[at.Slot+1]
		moved, _, err := gate.Try(p, []program.Change{program.SetTo(program.Ref{Kind: program.KindItem, Key: p.Items[i].Key}, "iteration", next.Key)})
		require.NoError(t, err)
		c := scenario.Compare([]scenario.Compared{compared(p), compared(moved)})
		require.Len(t, c.Items, 1)
		assert.Equal(t, int(next.End-at.End), *c.Items[0].Of[1].Later)
		return
	}
	t.Fatal("nothing is placed")
}

func BenchmarkCompare5000(b *testing.B) {
	base := sample.Program(1, sample.Shape{Teams: 40, Iterations: 12, Items: 5000, Needs: 6000})
	side := func(p *plan.Plan) scenario.Compared {
		return scenario.Compared{Plan: p, Facts: standing.Of(p, sample.Today)}
	}
	moved, _, err := gate.Try(plan.Of(base), []program.Change{program.SetTo(program.Ref{Kind: program.KindItem, Key: base.Items[40].Key}, "size", 40)})
	require.NoError(b, err)
	sides := []scenario.Compared{side(plan.Of(base)), side(moved)}
	for b.Loop() {
		require.Len(b, scenario.Compare(sides).Values, 1)
	}
}
