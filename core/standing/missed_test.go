package standing_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/calendar"
	"jantrel/core/needs"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/sample"
	"jantrel/core/standing"
)

// An edit that has something done after the day that two teams agreed on says so, and one that mends it; the facts of the
// need do, and what is owed says the same.
func TestAgreedDaysThatAreMissed(t *testing.T) {
	day := calendar.MustParse
	team := func(key string) program.Team {
		return program.Team{Key: key, Name: key, Unit: program.Points, Iterations: []program.Iteration{
			{Key: key + "1", Start: day("2027-03-01"), End: day("2027-03-14")}, {Key: key + "2", Start: day("2027-03-15"), End: day("2027-03-28")}}}
	}
	p := program.Program{Teams: []program.Team{team("quay"), team("boats")},
		Items: []program.Item{
			{Key: "crane", Kind: program.Story, Team: "quay", Iteration: "quay1", State: program.Todo},
			{Key: "mooring", Kind: program.Story, Team: "boats", State: program.Todo},
		},
		Needs: []program.Need{{Item: "mooring", Needs: "crane", Agreement: program.Agreed, Given: day("2027-03-20")}}}.Normal()
	later, err := program.After(p, []program.Change{program.SetTo(program.Ref{Kind: program.KindItem, Key: "crane"}, "iteration", "quay2")})
	require.NoError(t, err)
	ref := []standing.NeedRef{{Item: "mooring", Needs: "crane"}}
	e := standing.EffectsOf(plan.Of(p), plan.Of(later), day("2027-03-02"))
	assert.Equal(t, standing.BrokenChange{New: ref}, e.Missed)
	assert.Empty(t, e.Broken, "nothing that waits has a place: the need itself holds")
	e = standing.EffectsOf(plan.Of(later), plan.Of(p), day("2027-03-02"))
	assert.Equal(t, standing.BrokenChange{Gone: ref}, e.Missed)
	facts := standing.Of(plan.Of(later), day("2027-03-02")).Since(standing.Of(plan.Of(p), day("2027-03-02")))
	require.Len(t, facts.Needs, 1, "it is sent to who has the facts of before")
	assert.True(t, facts.Needs[0].Missed)

	for seed := range uint64(30) {
		pl := plan.Of(sample.Program(seed, sample.Shape{Teams: 3, Iterations: 6, Items: 40, Needs: 50, Dated: true}))
		want, got := map[standing.NeedRef]bool{}, map[standing.NeedRef]bool{}
		for _, o := range needs.OwedOf(pl) {
			if o.Missed {
				want[standing.NeedRef{Item: o.Item, Needs: o.Needs}] = true
			}
		}
		for _, n := range standing.Of(pl, sample.Today).Needs {
			if n.Missed {
				got[standing.NeedRef{Item: n.Item, Needs: n.Needs}] = true
			}
		}
		assert.Equal(t, want, got, "seed %d", seed)
	}
}
