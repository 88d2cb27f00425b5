package act_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/act"
	"jantrel/core/calendar"
	"jantrel/core/capacity"
	"jantrel/core/gate"
	"jantrel/core/needs"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/sample"
	"jantrel/core/schedule"
)

// twoLengths is a team of two weeks and one of three, ten points an iteration each, and a
// feature of three items, the last of which needs the first.
func twoLengths() program.Program {
	ten := 10.0
	team := func(key string, days, n int) program.Team {
		t := program.Team{Key: key, Name: key, Unit: program.Points}
		for i := range n {
			start := sample.Today.Add(i * days)
			t.Iterations = append(t.Iterations, program.Iteration{Key: fmt.Sprint(i + 1), Start: start, End: start.Add(days - 1), State: program.Planned, Capacity: &ten})
		}
		return t
	}
	size := func(x float64) *float64 { return &x }
	return program.Program{
		Settings: program.Settings{FillTo: 1, SameIteration: program.ShareSameTeam}, Teams: []program.Team{team("A", 14, 8), team("B", 21, 6)},
		Items: []program.Item{
			{Key: "F", Kind: program.Feature, Title: "Fog"},
			{Key: "A1", Kind: program.Story, Title: "Bell", Parent: "F", Team: "A", Iteration: "1", Size: size(4)},
			{Key: "A2", Kind: program.Story, Title: "Horn", Parent: "F", Team: "A", Iteration: "2"},
			{Key: "B1", Kind: program.Story, Title: "Lamp", Parent: "F", Team: "B", Iteration: "2", Size: size(4)},
			{Key: "A9", Kind: program.Story, Title: "Other", Team: "A", Iteration: "3", Size: size(8)},
		},
		Needs: []program.Need{{Item: "B1", Needs: "A1"}},
	}
}

func TestAShiftTakesItemsAlongByTheRules(t *testing.T) {
	for _, x := range []struct {
		name string
		by   act.Shift
		want string // iterations of A1, A2, B1
	}{
		{"two weeks are an iteration of one team, and nearer to one than to none of the other", act.Shift{Days: 14}, "2 3 3"},
		{"a week is as near to both: the later one; what needs it follows", act.Shift{Days: 7}, "2 3 3"},
		{"where there is no room, the next", act.Shift{Days: 28}, "4 4 4"},
		{"from a day on: the first that can move starts there", act.Shift{Start: sample.Today.Add(42)}, "4 5 4"},
		{"not before today", act.Shift{Days: -14}, "1 1 2"},
		{"as early as can be after another", act.Shift{After: "A9"}, "4 4 4"},
		{"past the last iteration: into it", act.Shift{Days: 300}, "8 8 2"},
		{"by nothing", act.Shift{}, "1 2 2"},
	} {
		t.Run(x.name, func(t *testing.T) {
			x.by.Item = "F"
			next, _ := after(t, twoLengths(), x.by)
			assert.Equal(t, x.want, next.Items[1].Iteration+" "+next.Items[2].Iteration+" "+next.Items[3].Iteration)
			assert.Equal(t, "3", next.Items[4].Iteration, "nothing else moves")
		})
	}
}

func TestWhatAShiftLeavesBehindIsSaid(t *testing.T) {
	p := twoLengths()
	p.Items[1].Pinned = true
	_, made := after(t, p, act.Shift{Item: "F", Days: 14})
	assert.Equal(t, "Move F 14 days later", made.Label)
	assert.Equal(t, []string{"A1 cannot move: done, pinned or under way."}, made.Notes)
	_, made = after(t, twoLengths(), act.Shift{Item: "F", Days: 300})
	assert.Equal(t, []string{"B1 would find no room, or not what is needed first: left where it is."}, made.Notes)
	for _, x := range []struct {
		by   act.Shift
		says string
	}{
		{act.Shift{Item: "gone", Days: 1}, "there is no item gone any more"},
		{act.Shift{Item: "A9", After: "gone"}, "there is no item gone any more"},
		{act.Shift{Item: "A9", Days: 5000}, "too far"},
		{act.Shift{Item: "A9", Start: calendar.MustParse("2090-01-01")}, "too far"},
	} {
		_, err := x.by.Plan(stateOf(p))
		assert.ErrorContains(t, err, x.says)
	}
	p.Items[4].Iteration = ""
	_, err := act.Shift{Item: "A9", Days: 14}.Plan(stateOf(p))
	assert.ErrorContains(t, err, "nothing of A9 can move")
	_, err = act.Shift{Item: "F", After: "A9"}.Plan(stateOf(p))
	assert.ErrorContains(t, err, "A9 Other has no place yet")
}

// What a shift moves stands where a schedule may put it, in any program.
func TestAShiftKeepsTheRules(t *testing.T) {
	moved := 0
	for seed := range uint64(150) {
		p := sample.Program(seed, sample.Shape{Teams: 3, Iterations: 6, Items: 30, Needs: 15})
		for _, item := range p.Items {
			by := act.Shift{Item: item.Key, Days: int(seed%9)*14 - 56}
			s := stateOf(p)
			made, err := by.Plan(s)
			if err != nil {
				continue
			}
			next, _, err := gate.Try(s.Plan, made.Changes)
			require.NoError(t, err)
			loads, figures := next.Loads(), capacity.Of(next)
			for _, c := range made.Changes {
				i := next.Tree().Index[c.Key]
				x, was := &next.Items[i], &p.Items[i]
				to, _ := next.Place(i)
				in := next.Teams[to.Team].Iterations[to.Slot]
				moved++
				assert.True(t, in.Takes(sample.Today))
				assert.NotEqual(t, program.Done, was.State)
				assert.False(t, schedule.Fixed(was, p.Teams[to.Team].Iterations[slotOf(s, i)]))
				if x.Size == nil {
					continue
				}
				assert.LessOrEqual(t, loads.Size[to.Team][to.Slot], figures[to.Team][to.Slot].Capacity*capacity.FillTo(next, to.Team)+1e-6, "seed %d: %s", seed, x.Key)
				assert.LessOrEqual(t, x.NotBefore, to.Start)
				assert.False(t, breaks(next, i), "seed %d: %s", seed, x.Key)
			}
		}
	}
	assert.Greater(t, moved, 500)
}

func slotOf(s act.State, i int) int { place, _ := s.Place(i); return place.Slot }

// breaks reports whether a need of the item does not hold.
func breaks(p *plan.Plan, i int) bool {
	at, _ := p.Place(i)
	for _, e := range needs.Edges(p) {
		if e.Item != i || p.Items[e.Needs].State == program.Done {
			continue
		}
		if of, placed := p.Place(e.Needs); !placed || !needs.Holds(p.Settings.SameIteration, of, at, e.LagDays) {
			return true
		}
	}
	return false
}
