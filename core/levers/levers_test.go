package levers_test

import (
	"encoding/json"
	"fmt"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/calendar"
	"jantrel/core/forecast"
	"jantrel/core/gate"
	"jantrel/core/levers"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/sample"
	"jantrel/core/standing"
)

func ptr(x float64) *float64 { return &x }

var monday = calendar.MustParse("2027-03-01")

// lamp is a program of two teams that always did 10 an iteration, with four to come from Monday,
// 1 March 2027; its release is due with the second, on 28 March.
func lamp(items ...program.Item) program.Program {
	p := program.Program{Settings: program.Settings{SameIteration: program.ShareSameTeam, FillTo: 1},
		People:   []program.Person{{Key: "ann", Name: "Ann Idle"}, {Key: "bo", Name: "Bo Busy"}},
		Releases: []program.Release{{Key: "R", Name: "First Light", Due: calendar.MustParse("2027-03-28")}},
		Teams:    []program.Team{{Key: "LC", Name: "Lamp Control", Unit: program.Points}, {Key: "TW", Name: "Tide & Weather", Unit: program.Points}}}
	p.Teams[0].Members = []program.Member{{Person: "bo", Share: 1, Roles: []string{"firmware"}}}
	p.Teams[1].Members = []program.Member{{Person: "ann", Share: 0.5, Roles: []string{"firmware"}}}
	for t := range p.Teams {
		for i := range 7 {
			start := monday.Add(14 * (i - 3))
			it := program.Iteration{Key: fmt.Sprintf("%s%d", p.Teams[t].Key, i), Start: start, End: start.Add(13)}
			if i < 3 {
				it.State, it.Completed = program.Closed, ptr(10)
			}
			p.Teams[t].Iterations = append(p.Teams[t].Iterations, it)
		}
	}
	p.Items = items
	return p
}

func story(key, team string, size float64, iteration string) program.Item {
	return program.Item{Key: key, Title: key, Kind: program.Story, Release: "R", Team: team, Size: &size, Iteration: iteration}
}

func find(t *testing.T, p program.Program, q levers.Question) (levers.Answer, map[levers.Kind]levers.Lever) {
	t.Helper()
	a, err := levers.Find(plan.Of(p), q, levers.Options{Today: monday, Plays: 100, Seed: 1})
	require.NoError(t, err)
	first := map[levers.Kind]levers.Lever{}
	for _, l := range a.Levers {
		if _, ok := first[l.Kind]; !ok {
			first[l.Kind] = l
		}
	}
	return a, first
}

// Two full iterations by the due date, and 4 more: B, the last, is done on 5 April. Without it,
// or half as large and the rest as it was, or lent ten days (as many points), it is in time.
func TestLeversOfALateRelease(t *testing.T) {
	p := lamp(story("A", "LC", 10, "LC3"), story("X", "LC", 10, "LC4"), story("B", "LC", 4, "LC5"))
	a, by := find(t, p, levers.Question{Release: "R"})
	assert.Equal(t, "First Light", a.Name)
	assert.Equal(t, 0.0, *a.Now.Chance)
	assert.Equal(t, "2027-04-01", a.Now.Lands.String(), "four tenths of the third iteration's ten working days")
	assert.Equal(t, "Exclude B from planning (4 points)", by[levers.Drop].Text)
	assert.Equal(t, 1.0, *by[levers.Drop].Then.Chance)
	assert.Equal(t, "Lend Ann Idle to Lamp Control for 10 days of LC3: 10 points more", by[levers.Lend].Text)
	assert.Equal(t, 1.0, *by[levers.Lend].Then.Chance)
	assert.Equal(t, "Reduce A from 10 to 5 points", by[levers.Shrink].Text, "half of B would not do")
	assert.Equal(t, "2027-03-25", by[levers.Shrink].Then.Lands.String(), "nine tenths of the second")
	assert.Equal(t, 1.0, *a.Levers[0].Then.Chance, "the best comes first")
}

// What lacks a size gets the usual one and a place where that helps; where it does not, that it is missing is said.
func TestWhatLacksASizeGetsIt(t *testing.T) {
	none := story("NONE", "LC", 0, "")
	none.Size = nil
	p := lamp(story("A", "LC", 10, "LC3"), story("X", "LC", 4, "LC4"), none, story("L", "LC", 3, "LC5"), story("M", "LC", 3, "LC6"), story("N", "LC", 9, "LC6"))
	p.Releases[0].Due = calendar.MustParse("2027-04-25")
	p.Settings.PullAhead = new(bool)
	a, by := find(t, p, levers.Question{Release: "R"})
	assert.Equal(t, 1, a.Now.Sampled)
	size := by[levers.Size]
	assert.Equal(t, "Estimate NONE at 4 points, the usual size, and place it in LC4", size.Text)
	assert.Equal(t, []levers.Moved{{Item: "NONE", Team: "LC", To: "LC4"}}, size.Moves)
	assert.Zero(t, size.Then.Sampled)
}

// The first half of B, on which W waits, has room beside A: W can start in the second iteration.
func TestASplitLetsWaitingWorkBegin(t *testing.T) {
	p := lamp(story("A", "LC", 6, "LC3"), story("B", "LC", 8, "LC4"), story("W", "TW", 4, "TW5"))
	p.Needs = []program.Need{{Item: "W", Needs: "B"}}
	a, by := find(t, p, levers.Question{Release: "R"})
	assert.Equal(t, 0.0, *a.Now.Chance)
	split := by[levers.Split]
	assert.Equal(t, "Split B into 4 and 4 points, placed separately; what depends on it waits for the first half", split.Text)
	assert.Equal(t, 1.0, *split.Then.Chance)
	assert.Equal(t, []levers.Moved{{Item: "B", Team: "LC", From: "LC4", To: "LC3"}}, split.Moves)
}

// What is rough and stands nowhere is placed like an item that does not, and counts in the release.
func TestWhatIsRoughIsPlaced(t *testing.T) {
	rough := program.Item{Key: "F", Title: "Archive", Kind: program.Feature, Release: "R", Rough: []program.Rough{{Team: "LC", Size: 9}}}
	p := lamp(story("A", "LC", 3, "LC3"), story("B", "LC", 3, "LC3"), story("L", "LC", 10, "LC5"), rough)
	p.Settings.PullAhead = new(bool)
	p.Releases[0].Due = calendar.MustParse("2027-04-25")
	a, by := find(t, p, levers.Question{Release: "R"})
	assert.Equal(t, 0.0, *a.Now.Chance, "nobody pulls it ahead")
	assert.Equal(t, "Place the rough size of F, 9 points: LC3, LC4", by[levers.PutIn].Text)
	assert.Equal(t, 1.0, *by[levers.PutIn].Then.Chance)
}

func TestLeversOfABrokenNeed(t *testing.T) {
	p := lamp(story("A", "LC", 4, "LC3"), story("T", "TW", 4, "TW4"))
	p.Needs = []program.Need{{Item: "A", Needs: "T"}}
	a, _ := find(t, p, levers.Question{Need: &standing.NeedRef{Item: "A", Needs: "T"}})
	assert.Equal(t, 1, a.Now.Broken)
	var texts []string
	for _, l := range a.Levers {
		texts = append(texts, l.Text)
		assert.Equal(t, 0, l.Then.Broken, l.Text)
	}
	assert.ElementsMatch(t, []string{"Move A later: LC5", "Move both: LC4, TW3", "Remove the dependency of A on T"}, texts)
}

// Where what is needed finds no room as a whole, the first half of it may, or another team that has the role.
func TestABrokenNeedIsMendedByAHalfOrAnotherTeam(t *testing.T) {
	fills, needed := story("B", "TW", 6, "TW3"), story("T", "TW", 8, "TW4")
	fills.Pinned, needed.Role = true, "firmware"
	p := lamp(story("A", "LC", 4, "LC4"), fills, needed)
	p.Needs = []program.Need{{Item: "A", Needs: "T", Agreement: program.Agreed, Given: monday.Add(13)}}
	a, by := find(t, p, levers.Question{Need: &standing.NeedRef{Item: "A", Needs: "T"}})
	assert.Equal(t, []int{1, 1}, []int{a.Now.Broken, a.Now.Missed})
	assert.Equal(t, "Split T into 4 and 4 points, placed separately; what depends on it waits for the first half", by[levers.Split].Text)
	assert.Equal(t, "Assign T to Lamp Control, which has the role: LC3", by[levers.Team].Text)
	for _, kind := range []levers.Kind{levers.Split, levers.Team} {
		assert.Equal(t, 0, by[kind].Then.Broken)
		assert.Equal(t, 0, by[kind].Then.Missed, "the half that is waited for is done by the day")
	}
}

// W waits for A: A alone cannot go later without breaking that need in place of the other.
func TestWhatWaitsForItGoesAlong(t *testing.T) {
	p := lamp(story("A", "LC", 4, "LC3"), story("T", "TW", 4, "TW4"), story("W", "LC", 4, "LC4"))
	p.Needs = []program.Need{{Item: "A", Needs: "T"}, {Item: "W", Needs: "A"}}
	a, _ := find(t, p, levers.Question{Need: &standing.NeedRef{Item: "A", Needs: "T"}})
	var texts []string
	for _, l := range a.Levers {
		texts = append(texts, l.Text)
	}
	assert.ElementsMatch(t, []string{"Move both: LC4, TW3", "Move A later, with 1 item behind it: LC5, LC5", "Remove the dependency of A on T"}, texts)
}

func TestAMilestoneIsMendedByItsDate(t *testing.T) {
	p := lamp(story("A", "LC", 10, "LC3"), story("B", "LC", 4, "LC4"))
	p.Milestones = []program.Milestone{{Key: "M", Name: "Harbour trial", Date: calendar.MustParse("2027-03-14"), Needs: []string{"B"}}}
	a, _ := find(t, p, levers.Question{Milestone: "M"})
	assert.Equal(t, 0.0, *a.Now.Chance)
	assert.Equal(t, "Harbour trial", a.Name)
	require.NotEmpty(t, a.Levers)
	assert.Positive(t, *a.Levers[0].Then.Chance)
}

func TestWhatIsNotThereCannotBeMended(t *testing.T) {
	p := plan.Of(lamp())
	for say, q := range map[string]levers.Question{
		`there is no release "Z"`: {Release: "Z"}, `there is no milestone "Z"`: {Milestone: "Z"}, "A does not need B": {Need: &standing.NeedRef{Item: "A", Needs: "B"}},
		"say what is to be mended: a release, a milestone or a need": {},
	} {
		_, err := levers.Find(p, q, levers.Options{Today: monday})
		assert.EqualError(t, err, say)
	}
}

// What a lever promises is what the plan with it plays, whatever the program; and it is no more
// than its changes.
func TestLeversKeepWhatTheyPromise(t *testing.T) {
	tried, quick := 0, 0
	for seed := range uint64(12) {
		p := plan.Of(sample.Program(seed, sample.Shape{Teams: 3, Iterations: 6, Items: 30, Needs: 15, Wild: seed%2 == 0}))
		o := levers.Options{Today: sample.Today, Plays: 200, Seed: 3, Workers: 2}
		a, err := levers.Find(p, levers.Question{Release: "R0"}, o)
		require.NoError(t, err)
		search, err := levers.Begin(p, levers.Question{Release: "R0"}, o)
		require.NoError(t, err)
		search.Go(1, nil)
		first := search.Answer()
		assert.Equal(t, a.Now, first.Now)
		quick += len(first.Levers)
		for _, l := range append(a.Levers, first.Levers...) {
			tried++
			next, _, err := gate.Try(p, l.Changes)
			require.NoError(t, err, l.Text)
			f := forecast.Play(next, forecast.Options{Today: o.Today, Plays: o.Plays, Seed: o.Seed})
			assert.Equal(t, f.ExpectedLateDays, l.Then.ExpectedLateDays, l.Text)
			assert.Equal(t, f.Releases[0].Chance, l.Then.Chance, l.Text)
			assert.Equal(t, f.Releases[0].At(50), l.Then.Lands, l.Text)
			counts := standing.Of(next, o.Today).Counts
			assert.Equal(t, len(counts.Over), l.Then.Over, l.Text)
			for _, m := range l.Moves {
				assert.Equal(t, m.To, next.Items[next.Tree().Index[m.Item]].Iteration)
			}
		}
	}
	assert.Greater(t, tried, 20)
	assert.Positive(t, quick, "some come to mind at once")
}

// A search that was not taken to its end says so, and goes on where it stopped: however often it is left, by whomever
// it is gone on with, it finds what it finds at one go.
func TestASearchGoesOnWhereItStopped(t *testing.T) {
	p := plan.Of(sample.Program(4, sample.Shape{Teams: 3, Iterations: 6, Items: 30, Needs: 15}))
	q, o := levers.Question{Release: "R0"}, levers.Options{Today: sample.Today, Plays: 200, Seed: 3}
	whole, err := levers.Find(p, q, o)
	require.NoError(t, err)
	require.NotEmpty(t, whole.Levers)
	assert.False(t, whole.Partial())
	assert.Equal(t, whole.Of, whole.Tried)

	search, err := levers.Begin(p, q, o)
	require.NoError(t, err)
	search.Go(0, func() bool { return true })
	none := search.Answer()
	assert.True(t, none.Partial())
	assert.Empty(t, none.Levers)

	for steps := 0; search.Answer().Partial(); steps++ {
		require.Less(t, steps, 3*whole.Of)
		tried, asked := search.Answer().Tried, 0
		search.Go(0, func() bool { asked++; return asked > 1 })
		assert.LessOrEqual(t, search.Answer().Tried, tried+1, "one step")
	}
	assert.Equal(t, whole, search.Answer())

	search, err = levers.Begin(p, q, o)
	require.NoError(t, err)
	var both sync.WaitGroup
	for range 2 {
		both.Go(func() { search.Go(0, nil) })
	}
	both.Wait()
	assert.Equal(t, whole, search.Answer())
}

// Of ten teams the last two in the alphabet share somebody who is free, and ten items could go: of no kind more than
// three are offered, and whoever is lent is lent to a team once.
func TestNoKindFillsTheAnswer(t *testing.T) {
	items := []program.Item{story("A", "LC", 10, "LC3"), story("X", "LC", 10, "LC4")}
	for i := range 6 {
		items = append(items, story(fmt.Sprintf("B%d", i), "LC", 3+float64(i)/10, "LC5"))
	}
	a, _ := find(t, lamp(items...), levers.Question{Release: "R"})
	of, sets := map[levers.Kind]int{}, map[string]string{}
	for _, l := range a.Levers {
		of[l.Kind]++
		changes, err := json.Marshal(l.Changes)
		require.NoError(t, err)
		assert.Empty(t, sets[string(changes)], "%s is said twice", l.Text)
		sets[string(changes)] = l.Text
	}
	assert.Equal(t, 3, of[levers.Drop])
	assert.Equal(t, 1, of[levers.Lend], "Ann, in the iteration in which it helps most")
}

// Without B the second release, which the same team does after the first, is in time too.
func TestALeverSaysWhatItDoesToOtherReleases(t *testing.T) {
	next := story("N", "LC", 10, "LC6")
	next.Release = "S"
	p := lamp(story("A", "LC", 10, "LC3"), story("X", "LC", 10, "LC4"), story("B", "LC", 4, "LC5"), next)
	p.Releases = append(p.Releases, program.Release{Key: "S", Name: "Full Service", Due: calendar.MustParse("2027-04-11")})
	_, by := find(t, p, levers.Question{Release: "R"})
	assert.Equal(t, []levers.Other{{Release: "S", Name: "Full Service", Was: 0, Chance: 1}}, by[levers.Drop].Others)
}

func ExampleFind() {
	a, _ := levers.Find(plan.Of(lamp(story("A", "LC", 10, "LC3"), story("X", "LC", 10, "LC4"), story("B", "LC", 4, "LC5"))),
		levers.Question{Release: "R"}, levers.Options{Today: monday, Plays: 50})
	best := a.Levers[0]
	fmt.Printf("%s: %.0f %% → %.0f %%\n", best.Text, 100**a.Now.Chance, 100**best.Then.Chance)
	// Output: Lend Ann Idle to Lamp Control for 10 days of LC3: 10 points more: 0 % → 100 %
}
