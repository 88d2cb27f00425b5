package needs_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/calendar"
	"jantrel/core/needs"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/sample"
)

func place(team, slot int, start, end string) needs.Place {
	return needs.Place{Team: team, Slot: slot, Span: calendar.Span{Start: calendar.MustParse(start), End: calendar.MustParse(end)}}
}

func TestHoldsAndSpare(t *testing.T) {
	first, second := place(0, 0, "2027-03-01", "2027-03-14"), place(0, 1, "2027-03-15", "2027-03-28")
	other := place(1, 0, "2027-03-01", "2027-03-14")
	long := place(2, 0, "2027-03-01", "2027-03-21")
	for _, c := range []struct {
		name  string
		share program.SameIteration
		a, b  needs.Place
		lag   int
		holds bool
		spare int
	}{
		{"the day after", program.ShareNever, first, second, 0, true, 0},
		{"a lag that reaches the start", program.ShareNever, first, second, 1, false, -1},
		{"ends inside", program.ShareAlways, long, second, 0, false, -7},
		{"the same, never", program.ShareNever, first, first, 0, false, -14},
		{"the same, same team", program.ShareSameTeam, first, first, 0, true, 0},
		{"the same, with a lag", program.ShareSameTeam, first, first, 2, false, -16},
		{"equal dates, same team", program.ShareSameTeam, first, other, 0, false, -14},
		{"equal dates, always", program.ShareAlways, first, other, 0, true, 0},
		{"other dates, always", program.ShareAlways, first, long, 0, false, -14},
	} {
		assert.Equal(t, c.holds, needs.Holds(c.share, c.a, c.b, c.lag), c.name)
		assert.Equal(t, c.spare, needs.Spare(c.share, c.a, c.b, c.lag), c.name)
	}
}

func TestANeedHoldsExactlyWhenItHasNoLessThanZeroSpare(t *testing.T) {
	for seed := range uint64(40) {
		p := sample.Program(seed, sample.Shape{Teams: 3, Iterations: 5, Items: 30, Needs: 30, Wild: true})
		for i, state := range needs.Check(plan.Of(p)) {
			switch {
			case state.Spare == nil:
				continue
			case *state.Spare < 0:
				require.Equal(t, needs.StatusBroken, state.Status, i)
			case *state.Spare == 0:
				require.NotEqual(t, needs.StatusHolds, state.Status, i)
			}
		}
	}
}

// chain is A needs B needs C, with a feature F over C and D.
func chain() program.Program {
	return program.Program{
		Settings: program.Settings{SameIteration: program.ShareSameTeam},
		Items:    []program.Item{{Key: "A"}, {Key: "B"}, {Key: "F"}, {Key: "C", Parent: "F"}, {Key: "D", Parent: "F"}, {Key: "K", KeptOut: true}},
		Needs:    []program.Need{{Item: "A", Needs: "B"}, {Item: "B", Needs: "C"}, {Item: "K", Needs: "A"}},
	}
}

func TestRefuseNamesTheCycle(t *testing.T) {
	for _, c := range []struct{ item, needs, want string }{
		{"C", "A", "this need would close a cycle: C needs A needs B needs C"},
		{"B", "A", "this need would close a cycle: B needs A needs B"},
		{"F", "A", "this need would close a cycle: F needs A needs B needs C needs F"},
		{"A", "A", "this need would close a cycle: A needs A"},
		{"C", "F", "this need would close a cycle: C needs F needs C"},
	} {
		err := needs.Refuse(plan.Of(chain()), program.Need{Item: c.item, Needs: c.needs})
		if assert.Error(t, err, c.item+" "+c.needs) {
			assert.Equal(t, c.want, err.Error())
		}
	}
	for _, fine := range []program.Need{{Item: "A", Needs: "F"}, {Item: "D", Needs: "A"}, {Item: "A", Needs: "K"}} {
		assert.NoError(t, needs.Refuse(plan.Of(chain()), fine), "%v", fine)
	}
}

func TestNeedsOfParentsHoldForTheirLeaves(t *testing.T) {
	p := chain()
	p.Needs = []program.Need{{Item: "A", Needs: "F", LagDays: 2}, {Item: "K", Needs: "F"}}
	assert.Equal(t, []needs.Edge{{Item: 0, Needs: 3, LagDays: 2}, {Item: 0, Needs: 4, LagDays: 2}}, needs.Edges(plan.Of(p)))
}

func TestCyclesGoRound(t *testing.T) {
	next := [][]int{{1}, {2}, {0, 3}, {4}, {}, {5}}
	got := needs.Cycles(len(next), func(i int) []int { return next[i] })
	assert.Equal(t, [][]int{{0, 1, 2}, {1, 2, 0}, {2, 0, 1}, nil, nil, {5}}, got)
}

func TestCheckSaysWhatIsAtStake(t *testing.T) {
	p := sample.Program(1, sample.Shape{Teams: 2, Iterations: 4, Items: 3})
	for i := range p.Items {
		p.Items[i].Team, p.Items[i].Iteration, p.Items[i].Pinned = "T0", "", false
	}
	p.Items[0].Team = ""
	p.Needs = []program.Need{{Item: "I0", Needs: "I1"}, {Item: "I1", Needs: "I2"}}
	p.Items[1].Iteration = "T0-5" // I0, while what it needs is unplaced
	got := needs.Check(plan.Of(p))
	assert.Equal(t, needs.State{Status: needs.StatusBroken}, got[0])
	assert.Equal(t, needs.State{Status: needs.StatusHolds}, got[1], "nothing is at stake while both are unplaced")
	p.Items[2].State = program.Done
	assert.Equal(t, needs.State{Status: needs.StatusHolds}, needs.Check(plan.Of(p))[0])
	p.Items[2].State, p.Items[2].Iteration = program.Todo, "T0-1" // closed long ago
	assert.Equal(t, needs.State{Status: needs.StatusBroken}, needs.Check(plan.Of(p))[0], "left undone in an iteration that is over")
}
