package needs_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"

	"jantrel/core/calendar"
	"jantrel/core/needs"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/sample"
)

// The milestones of docs/needs.md.
func TestWhatMilestonesNeed(t *testing.T) {
	p := harbour()
	p.Milestones = []program.Milestone{
		{Key: "M", Name: "Harbour trial", Date: calendar.MustParse("2027-03-20"), Needs: []string{"F", "mooring", "sail"}},
		{Key: "N", Name: "Spring tide", Date: calendar.MustParse("2027-03-28"), Needs: []string{"mooring"}},
	}
	says := func(list []needs.ForMilestone) (told []string) {
		for _, f := range list {
			spare := "no day"
			if f.Spare != nil {
				spare = fmt.Sprint(*f.Spare)
			}
			told = append(told, fmt.Sprintf("%s needs %s (%d) until %v: %s, %s, late %v", f.Milestone, f.Item, f.Leaves, f.Until, f.Status, spare, f.Late))
		}
		return told
	}
	assert.Equal(t, []string{
		"M needs F (3) until 2027-03-28: broken, -8, late [pier]",
		"M needs mooring (1) until 2027-03-28: broken, -8, late [mooring]",
		"M needs sail (1) until : broken, no day, late [sail]",
		"N needs mooring (1) until 2027-03-28: tight, 0, late []",
	}, says(needs.ForMilestones(plan.Of(p))))
	p.Items[2].State = program.Done // pier
	assert.Equal(t, "M needs F (2) until 2027-03-14: holds, 6, late []", says(needs.ForMilestones(plan.Of(p)))[0])
}

// A cycle that a program holds is named once; each of its items needs the next, and every item on one is on one that is
// named, if there is room.
func TestCyclesThatThereAre(t *testing.T) {
	found := 0
	for seed := range uint64(40) {
		p := sample.Program(seed, sample.Shape{Teams: 3, Iterations: 5, Items: 30, Needs: 45, Cycles: true})
		pl := plan.Of(p)
		onOne := map[string]bool{}
		for _, cycle := range needs.CyclesOf(pl, 100) {
			found++
			for n, key := range cycle {
				onOne[key] = true
				next := cycle[(n+1)%len(cycle)]
				assert.True(t, needed(pl, pl.Tree().Index[key], pl.Tree().Index[next], lagOf(pl, key, next)), "%v", cycle)
			}
		}
		next := make([][]int, len(p.Items))
		for _, e := range needs.Edges(pl) {
			if pl.Tree().ToSchedule(e.Item) && pl.Tree().ToSchedule(e.Needs) {
				next[e.Item] = append(next[e.Item], e.Needs)
			}
		}
		for i := range p.Items {
			if reaches(next, i, i, map[int]bool{}) {
				assert.True(t, onOne[p.Items[i].Key], "%s", p.Items[i].Key)
			}
		}
		assert.LessOrEqual(t, len(needs.CyclesOf(pl, 1)), 1)
	}
	assert.Greater(t, found, 20)
}

func lagOf(p *plan.Plan, item, needed string) int {
	for _, n := range p.Needs {
		if n.Item == item && n.Needs == needed {
			return n.LagDays
		}
	}
	return -1
}

func reaches(next [][]int, from, to int, seen map[int]bool) bool {
	for _, i := range next[from] {
		if i == to {
			return true
		}
		if !seen[i] {
			seen[i] = true
			if reaches(next, i, to, seen) {
				return true
			}
		}
	}
	return false
}
