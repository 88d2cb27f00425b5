package schedule_test

import (
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/capacity"
	"jantrel/core/needs"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/sample"
	"jantrel/core/schedule"
)

// faults counts what a plan must not have more of: broken needs, and iterations that are filled too much.
func faults(p *plan.Plan) (count int) {
	for _, s := range needs.Check(p) {
		if s.Status == needs.StatusBroken {
			count++
		}
	}
	figures, loads := capacity.Of(p), p.Loads().Size
	for t := range p.Teams {
		for s := range p.Teams[t].Iterations {
			if loads[t][s] > capacity.FillTo(p, t)*figures[t][s].Capacity+1e-9 {
				count++
			}
		}
	}
	return count
}

// step is a plan with one item in another iteration, or two in each other's, as chance has it; false where that may not
// be.
func step(p *plan.Plan, random *rand.Rand) (*plan.Plan, bool) {
	next := p.Program
	next.Items = slices.Clone(next.Items)
	a, b := &next.Items[random.IntN(len(next.Items))], &next.Items[random.IntN(len(next.Items))]
	moves := func(i *program.Item) bool {
		return i.Iteration != "" && !i.Pinned && i.State != program.Done && !i.State.UnderWay()
	}
	if !moves(a) {
		return nil, false
	}
	if random.IntN(2) == 0 {
		if !moves(b) || a.Team != b.Team || a.Iteration == b.Iteration {
			return nil, false
		}
		a.Iteration, b.Iteration = b.Iteration, a.Iteration
	} else {
		iterations := next.Teams[p.TeamAt()[a.Team]].Iterations
		to := iterations[random.IntN(len(iterations))]
		if !to.Takes(sample.Today) || to.Key == a.Iteration {
			return nil, false
		}
		a.Iteration = to.Key
	}
	stepped := plan.Of(next)
	return stepped, faults(stepped) <= faults(p)
}

// No small step makes a draft by odds much better: of 80 moves and swaps by chance, which an independent judge finds
// valid, none saves more than 3 % and a tenth of a day, by plays that no search saw.
func TestNoStepMakesADraftByOddsMuchBetter(t *testing.T) {
	for seed := range sample.Seeds(6) {
		p := plan.Of(sample.Program(900+seed, sample.Shape{Teams: 2 + int(seed%4), Iterations: 6 + int(seed%4), Items: 25 + int(seed)*8, Needs: 20 + int(seed)*4, Wild: seed%2 == 0}))
		draft := schedule.Place(p, schedule.Draft(p, schedule.Options{Today: sample.Today, Aim: schedule.ByOdds, Workers: 2}))
		late, tried, random := expected(draft), 0, rand.New(rand.NewPCG(seed, 3))
		for range 4000 {
			stepped, ok := step(draft, random)
			if !ok {
				continue
			}
			if tried++; tried > 80 {
				break
			}
			assert.GreaterOrEqual(t, expected(stepped), late-max(0.1, 0.03*late), "seed %d", seed)
		}
		require.Greater(t, tried, 10, "seed %d", seed)
	}
}
