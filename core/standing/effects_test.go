package standing_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/calendar"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/sample"
	"jantrel/core/standing"
)

func TestEffectsSayWhatBreaksAndWhatMoves(t *testing.T) {
	day := calendar.MustParse
	size := 5.0
	before := program.Program{
		Teams: []program.Team{{Key: "A", Name: "A", Unit: program.Points, Iterations: []program.Iteration{
			{Key: "1", Start: day("2027-03-01"), End: day("2027-03-14"), Capacity: &size}, {Key: "2", Start: day("2027-03-15"), End: day("2027-03-28"), Capacity: &size}}}},
		Releases:   []program.Release{{Key: "R", Name: "R", Due: day("2027-03-28")}},
		Milestones: []program.Milestone{{Key: "M", Name: "Trial", Date: day("2027-03-28"), Needs: []string{"y"}}},
		Items: []program.Item{
			{Key: "x", Title: "X", Kind: program.Story, Team: "A", Iteration: "1", Size: &size, Release: "R"},
			{Key: "y", Title: "Y", Kind: program.Story, Team: "A", Iteration: "2", Size: &size, Release: "R"},
		},
		Needs: []program.Need{{Item: "y", Needs: "x"}},
	}.Normal()
	change := func(key, field, value string) program.Change {
		return program.Change{Op: program.Set, Ref: program.Ref{Kind: program.KindIteration, In: "A", Key: key}, Field: field, Value: []byte(value)}
	}
	after, _, err := program.ApplyAll(before, []program.Change{
		change("2", "start", `"2027-03-22"`), change("2", "end", `"2027-04-04"`), change("2", "capacity", "3"),
	})
	require.NoError(t, err)
	e := standing.EffectsOf(plan.Of(before), plan.Of(after), day("2027-03-02"))
	assert.Equal(t, []standing.CapacityChange{{Team: "A", Key: "2", Before: 5, After: 3}}, e.Capacity)
	assert.Equal(t, []standing.IterationRef{{Team: "A", Key: "2"}}, e.Over.New)
	assert.Equal(t, []standing.Missed{{Key: "M", Name: "Trial", Item: "y", Missed: true}}, e.Milestones)
	require.Len(t, e.Releases, 1)
	assert.Equal(t, day("2027-04-04"), e.Releases[0].After)
	require.Len(t, e.Iterations, 1)
	require.Len(t, e.Items, 1)
	assert.Equal(t, "y", e.Items[0].Key)
	back := standing.EffectsOf(plan.Of(after), plan.Of(before), day("2027-03-02"))
	assert.Equal(t, []standing.IterationRef{{Team: "A", Key: "2"}}, back.Over.Gone)
	assert.False(t, back.Milestones[0].Missed)

	removed, _, err := program.ApplyAll(before, program.Forget(before, program.Ref{Kind: program.KindTeam, Key: "A"}))
	require.NoError(t, err)
	e = standing.EffectsOf(plan.Of(before), plan.Of(removed), day("2027-03-02"))
	assert.Len(t, e.Iterations, 2)
	assert.Nil(t, e.Iterations[0].After)
	assert.Equal(t, []string{"x", "y"}, e.Unplaced.New)
}

// An edit that changes nothing does nothing; whatever is forgotten leaves a program
// that keeps the rules.
func TestNoEffectAndForgetting(t *testing.T) {
	for seed := range uint64(25) {
		p := sample.Program(seed, sample.Shape{Teams: 3, Iterations: 4, Items: 20, Needs: 10, Wild: true, Rough: true})
		e := standing.EffectsOf(plan.Of(p), plan.Of(p), sample.Today)
		require.Empty(t, e.Iterations)
		require.Empty(t, e.Items)
		require.Empty(t, e.Capacity)
		require.Empty(t, e.Over.New)
		require.Empty(t, e.Releases)
		for _, ref := range []program.Ref{
			{Kind: program.KindPerson, Key: "p0"}, {Kind: program.KindTeam, Key: "T1"}, {Kind: program.KindRelease, Key: "R0"}, {Kind: program.KindCadence, Key: "two"}, {Kind: program.KindMilestone, Key: "M0"},
		} {
			next, applied, err := program.ApplyAll(p, program.Forget(p, ref))
			require.NoError(t, err, "seed %d: %v", seed, ref)
			back, _, err := program.ApplyAll(next, program.Inverses(applied))
			require.NoError(t, err)
			require.Equal(t, p, back)
		}
	}
}

// What is rough and moves is said, by the team that it is for.
func TestWhatIsRoughHasOtherDates(t *testing.T) {
	p := sample.Program(1, sample.Shape{Teams: 2, Iterations: 4, Items: 8})
	team := p.Teams[0]
	p.Items[0].Rough = []program.Rough{{Team: team.Key, Size: 90}}
	p.Items[0].RoughPlaces = []program.RoughPlace{{Team: team.Key, Iteration: team.Iterations[3].Key, Size: 1}, {Team: team.Key, Iteration: team.Iterations[5].Key, Size: 1}}
	next, _, err := program.Apply(p, program.SetTo(program.Ref{Kind: program.KindItem, Key: "F0"}, "roughPlaces", p.Items[0].RoughPlaces[:1]))
	require.NoError(t, err)
	e := standing.EffectsOf(plan.Of(p), plan.Of(next), sample.Today)
	require.Len(t, e.Items, 1)
	x := e.Items[0]
	assert.Equal(t, "Feature, rough for "+team.Name, x.Name)
	assert.Equal(t, calendar.Span{Start: team.Iterations[3].Start, End: team.Iterations[5].End}, *x.Before)
	assert.Equal(t, team.Iterations[3].Span(), *x.After)
	assert.Empty(t, e.Unplaced.New)
}
