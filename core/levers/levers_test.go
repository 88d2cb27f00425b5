package levers_test

import (
	"fmt"
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
	assert.Equal(t, "Keep B out (4 points)", by[levers.Drop].Text)
	assert.Equal(t, 1.0, *by[levers.Drop].Then.Chance)
	assert.Equal(t, "Lend Ann Idle to Lamp Control for 10 days of LC3: 10 points more", by[levers.Lend].Text)
	assert.Equal(t, 1.0, *by[levers.Lend].Then.Chance)
	assert.Equal(t, "2027-03-30", by[levers.Shrink].Then.Lands.String(), "two tenths")
	assert.Equal(t, 1.0, *a.Levers[0].Then.Chance, "the best comes first")
}

// What is missing comes first, whatever else would help.
func TestWhatLacksASizeComesFirst(t *testing.T) {
	none := story("NONE", "LC", 0, "")
	none.Size = nil
	p := lamp(story("A", "LC", 10, "LC3"), story("X", "LC", 8, "LC4"), none, story("L", "LC", 3, "LC5"), story("M", "LC", 3, "LC6"), story("N", "LC", 3, ""))
	a, _ := find(t, p, levers.Question{Release: "R"})
	assert.Equal(t, levers.Size, a.Levers[0].Kind)
	assert.Equal(t, "Size NONE (3 points is usual) and place it in LC5", a.Levers[0].Text)
	assert.Equal(t, []levers.Moved{{Item: "NONE", Team: "LC", To: "LC5"}}, a.Levers[0].Moves)
}

// The first half of B, on which W waits, has room beside A: W can start in the second iteration.
func TestASplitLetsWaitingWorkBegin(t *testing.T) {
	p := lamp(story("A", "LC", 6, "LC3"), story("B", "LC", 8, "LC4"), story("W", "TW", 4, "TW5"))
	p.Needs = []program.Need{{Item: "W", Needs: "B"}}
	a, by := find(t, p, levers.Question{Release: "R"})
	assert.Equal(t, 0.0, *a.Now.Chance)
	split := by[levers.Split]
	assert.Equal(t, "Split B into 4 and 4 points, each placed by itself; what needs it waits for the first half", split.Text)
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
	assert.Equal(t, "Place what is rough of F, 9 points: LC3, LC4", by[levers.PutIn].Text)
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
	assert.ElementsMatch(t, []string{"Move A later: LC5", "Move both: LC4, TW3", "Let A go without T"}, texts)
}

// Where what is needed finds no room as a whole, the first half of it may, or another team that has the role.
func TestABrokenNeedIsMendedByAHalfOrAnotherTeam(t *testing.T) {
	fills, needed := story("B", "TW", 6, "TW3"), story("T", "TW", 8, "TW4")
	fills.Pinned, needed.Role = true, "firmware"
	p := lamp(story("A", "LC", 4, "LC4"), fills, needed)
	p.Needs = []program.Need{{Item: "A", Needs: "T", Agreement: program.Agreed, Given: monday.Add(13)}}
	a, by := find(t, p, levers.Question{Need: &standing.NeedRef{Item: "A", Needs: "T"}})
	assert.Equal(t, []int{1, 1}, []int{a.Now.Broken, a.Now.Missed})
	assert.Equal(t, "Split T into 4 and 4 points, each placed by itself; what needs it waits for the first half", by[levers.Split].Text)
	assert.Equal(t, "Give T to Lamp Control, which has the role: LC3", by[levers.Team].Text)
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
	assert.ElementsMatch(t, []string{"Move both: LC4, TW3", "Move A later, with 1 that wait for it: LC5, LC5", "Let A go without T"}, texts)
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
		o.Quick = true
		first, err := levers.Find(p, levers.Question{Release: "R0"}, o)
		require.NoError(t, err)
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

// A search that is ended says so: others may be better.
func TestASearchThatIsEndedSaysSo(t *testing.T) {
	p := plan.Of(lamp(story("A", "LC", 10, "LC3"), story("X", "LC", 10, "LC4"), story("B", "LC", 4, "LC5")))
	a, err := levers.Find(p, levers.Question{Release: "R"}, levers.Options{Today: monday, Stop: func() bool { return true }})
	require.NoError(t, err)
	assert.True(t, a.Ended)
	assert.Empty(t, a.Levers)
	assert.NotNil(t, a.Now.Chance)
}

func ExampleFind() {
	a, _ := levers.Find(plan.Of(lamp(story("A", "LC", 10, "LC3"), story("X", "LC", 10, "LC4"), story("B", "LC", 4, "LC5"))),
		levers.Question{Release: "R"}, levers.Options{Today: monday, Plays: 50})
	best := a.Levers[0]
	fmt.Printf("%s: %.0f %% → %.0f %%\n", best.Text, 100**a.Now.Chance, 100**best.Then.Chance)
	// Output: Lend Ann Idle to Lamp Control for 10 days of LC3: 10 points more: 0 % → 100 %
}
