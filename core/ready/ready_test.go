package ready_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/calendar"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/ready"
	"jantrel/core/sample"
)

func ptr(x float64) *float64 { return &x }

// crew is a team of two iterations and items of every state of readiness.
func crew() program.Program {
	day := calendar.MustParse
	size := ptr(3)
	return program.Program{
		Teams: []program.Team{{Key: "A", Unit: program.Points, Iterations: []program.Iteration{
			{Key: "1", Start: day("2027-03-01"), End: day("2027-03-14")}, {Key: "2", Start: day("2027-03-15"), End: day("2027-03-28")}}}},
		Items: []program.Item{
			{Key: "ready", Team: "A", Size: size},
			{Key: "bare"},
			{Key: "waits", Team: "A", Size: size},
			{Key: "goes on", Team: "A", Size: size, Iteration: "2"},
			{Key: "placed", Team: "A", Size: size, Iteration: "1"},
			{Key: "done", State: program.Done},
			{Key: "out", KeptOut: true},
			{Key: "group", Kind: program.Feature},
			{Key: "leaf", Parent: "group", Team: "A", Size: size},
			{Key: "early", Team: "A", Size: size, Iteration: "1"},
		},
		Needs: []program.Need{{Item: "waits", Needs: "ready"}, {Item: "goes on", Needs: "placed"}, {Item: "goes on", Needs: "done"},
			{Item: "group", Needs: "bare"}, {Item: "early", Needs: "goes on"}},
	}.Normal()
}

// texts returns what items lack, by key, as words.
func texts(p program.Program) map[string][]string {
	found := map[string][]string{}
	for i, lacks := range ready.Check(plan.Of(p)) {
		for _, l := range lacks {
			found[p.Items[i].Key] = append(found[p.Items[i].Key], l.Text)
		}
	}
	return found
}

func TestWhatItemsLackWhereAProgramSaysNothing(t *testing.T) {
	assert.Equal(t, map[string][]string{
		"bare":  {"has no size", "has no team"},
		"waits": {"needs ready, not placed yet"},
		"leaf":  {"needs bare, not placed yet"},
		"early": {"needs goes on, placed too late for it"},
	}, texts(crew()), "a need on a group holds for its leaves; the done, the kept out and groups lack nothing")
}

// Each rule alone, against an item that keeps it and one that does not.
func TestEveryRule(t *testing.T) {
	full := program.Item{Key: "full", Team: "A", Size: ptr(5), Parent: "F", Release: "R", Description: "Why", Tags: []string{"Harbour", "night"},
		Checks: []program.Check{{Text: "Seen"}}}
	for _, c := range []struct {
		code ready.Code
		rule program.ReadyRule
		text string
		bad  func(*program.Item)
	}{
		{ready.NoSize, program.ReadyRule{Size: true}, "has no size", func(i *program.Item) { i.Size = nil }},
		{ready.NoTeam, program.ReadyRule{Team: true}, "has no team", func(i *program.Item) { i.Team = "" }},
		{ready.NoParent, program.ReadyRule{Parent: true}, "belongs to no feature", func(i *program.Item) { i.Parent = "" }},
		{ready.NoRelease, program.ReadyRule{Release: true}, "has no release", func(i *program.Item) { i.Release = "" }},
		{ready.NoDescription, program.ReadyRule{Description: true}, "has no description", func(i *program.Item) { i.Description = " \n" }},
		{ready.NoChecks, program.ReadyRule{Checks: true}, "has no checks", func(i *program.Item) { i.Checks = nil }},
		{ready.NoTags, program.ReadyRule{Tags: []string{"harbour", "night"}}, "is not tagged night", func(i *program.Item) { i.Tags = i.Tags[:1] }},
		{ready.TooLarge, program.ReadyRule{Largest: map[program.Unit]float64{program.Points: 5, program.Days: 1}}, "is larger than 5 points", func(i *program.Item) { i.Size = ptr(5.5) }},
	} {
		p := program.Program{Teams: []program.Team{{Key: "A", Unit: program.Points}}, Items: []program.Item{{Key: "F", Kind: program.Feature}, full, full}}
		p.Items[2].Key = "bad"
		c.bad(&p.Items[2])
		p.Settings.Ready = &c.rule
		assert.Equal(t, map[string][]string{"bad": {c.text}}, texts(p), c.code)
		assert.Equal(t, c.code, ready.Check(plan.Of(p))[2][0].Code)
		p.Settings.Ready = &program.ReadyRule{}
		assert.Empty(t, texts(p), "nothing is asked for")
	}
	p := crew()
	p.Settings.Ready = &program.ReadyRule{Needs: true}
	assert.NotContains(t, texts(p), "has no size")
	assert.Equal(t, "ready", ready.Check(plan.Of(p))[2][0].Item, "names what it waits for")
}

// Whatever the program: what is not to be scheduled lacks nothing, and a lack is
// named once.
func TestOnlyWhatIsToBeScheduledLacks(t *testing.T) {
	for seed := range uint64(40) {
		p := sample.Program(seed, sample.Shape{Teams: 3, Iterations: 4, Items: 25, Needs: 20, Wild: true, Rough: true, Cycles: true})
		tree := program.TreeOf(p)
		for i, lacks := range ready.Check(plan.Of(p)) {
			require.True(t, len(lacks) == 0 || tree.ToSchedule(i))
			seen := map[ready.Code]bool{}
			for _, l := range lacks {
				require.False(t, seen[l.Code])
				require.NotEmpty(t, l.Text)
				seen[l.Code] = true
			}
		}
	}
}

func TestTheMix(t *testing.T) {
	// Team A does 20 points in 10 days, 2 a day; team B 5 days' worth in 10, 0.5 a day.
	// Stories: 8 points of A, 4 days. Upkeep: 2 days of B, 4 days. Defects: 4 points of
	// A, 2 days. Of 10 days of team time 40 %, 40 % and 20 %. The spike has no size and
	// counts in number alone: 1 of 4.
	p := program.Program{
		Cadences: []program.Cadence{{Key: "c", LengthDays: 10}},
		Teams:    []program.Team{{Key: "A", Unit: program.Points, Cadence: "c", Velocity: ptr(20)}, {Key: "B", Unit: program.Days, Cadence: "c", Velocity: ptr(5)}},
		Items: []program.Item{
			{Key: "s", Kind: program.Story, Team: "A", Size: ptr(8), Release: "R"},
			{Key: "u", Kind: program.Upkeep, Team: "B", Size: ptr(2), Release: "R"},
			{Key: "d", Kind: program.Defect, Team: "A", Size: ptr(4), Release: "R", State: program.Done},
			{Key: "x", Kind: program.Spike, Team: "A", Release: "R"},
			{Key: "out", Kind: program.Defect, Team: "A", Size: ptr(100), Release: "R", KeptOut: true},
			{Key: "e1", Kind: program.Enabler, Team: "A"},
			{Key: "e2", Kind: program.Enabler, Team: "A", Size: ptr(3)},
			{Key: "e3", Kind: program.Enabler, Team: "A", Size: ptr(3), State: program.Done},
		},
	}.Normal()
	p.Settings.Mix = map[program.ItemKind]float64{program.Story: 0.3, program.Enabler: 0.2, program.Upkeep: 0.5}
	tree := program.TreeOf(p)
	in := func(i int) bool { return tree.Release(i) == "R" }
	m := ready.MixOf(plan.Of(p), ready.Scope{In: in, Out: func(int) bool { return true }})
	assert.Equal(t, 4, m.Items)
	assert.Equal(t, 1, m.Unsized)
	shares := map[program.ItemKind]ready.Share{}
	for _, s := range m.Kinds {
		shares[s.Kind] = s
	}
	assert.Equal(t, program.Enabler, m.Kinds[0].Kind, "what is shortest comes first")
	assert.InDelta(t, 0.4, shares[program.Story].Sizes, 1e-9)
	assert.InDelta(t, 0.4, shares[program.Upkeep].Sizes, 1e-9)
	assert.InDelta(t, 0.2, shares[program.Defect].Sizes, 1e-9)
	assert.InDelta(t, 0.25, shares[program.Spike].Counts, 1e-9)
	assert.Zero(t, shares[program.Story].Short, "more than wanted is not short")
	assert.InDelta(t, 0.1, shares[program.Upkeep].Short, 1e-9)
	assert.Nil(t, shares[program.Defect].Target)
	assert.Equal(t, []string{"e2", "e1"}, shares[program.Enabler].Candidates, "the ready first, the done not")
}

// Whatever the scope, shares of sizes and of counts add up to all, or to nothing.
func TestSharesAddUp(t *testing.T) {
	for seed := range uint64(30) {
		p := sample.Program(seed, sample.Shape{Teams: 3, Iterations: 4, Items: 40, Needs: 10, Wild: true, Rough: true})
		tree := program.TreeOf(p)
		m := ready.MixOf(plan.Of(p), ready.Scope{In: func(i int) bool { return tree.Release(i) == "R0" }})
		counts, sizes, items := 0.0, 0.0, 0
		for _, s := range m.Kinds {
			counts, sizes, items = counts+s.Counts, sizes+s.Sizes, items+s.Items
		}
		require.Equal(t, m.Items, items)
		require.InDelta(t, min(1, float64(m.Items)), counts, 1e-9)
		if m.Unsized < m.Items {
			require.True(t, sizes == 0 || sizes > 1-1e-9 && sizes < 1+1e-9)
		}
	}
}
