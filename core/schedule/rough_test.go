package schedule_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/forecast"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/sample"
	"jantrel/core/schedule"
)

// A draft with rough sizes is one of the whole plan: accepted, all of it is valid, as many days
// late as it said, and drafted again it asks for the same.
func TestDraftsWithRoughSizesAreValid(t *testing.T) {
	placed := 0
	for seed := range sample.Seeds(60) {
		p := plan.Of(sample.Program(seed, sample.Shape{Teams: 3, Iterations: 6 + int(seed%4), Items: 30, Needs: int(seed % 20), Wild: true, Rough: true}))
		o := schedule.Options{Today: sample.Today, Tries: 6}
		d := schedule.Draft(p, o)
		for _, x := range d.Placements {
			require.NotContains(t, x.Item, "\x1f", "pieces are no items")
		}
		next := schedule.Place(p, d)
		require.Empty(t, program.Validate(next.Program))
		faults, _ := judgeDraft(next.Whole().Program, o, asItStands(next.Whole(), d))
		require.Empty(t, faults, "%s\n%s", p.Name, all(faults))
		require.Equal(t, d.Score.LateDays, schedule.Rate(next, o).LateDays, p.Name)
		for _, x := range d.Rough {
			for _, part := range x.Places {
				require.Positive(t, part.Size)
				placed++
			}
			require.NotEmpty(t, x.Why.Text)
		}
	}
	assert.Greater(t, placed, 100)
}

// asItStands lists the plan that came of a draft as one that moves nothing, for the same reasons.
func asItStands(p *plan.Plan, came schedule.Schedule) (d schedule.Schedule) {
	why := map[string]schedule.Why{}
	for _, x := range came.Unplaced {
		why[x.Item] = x.Why
	}
	for _, x := range came.Rough {
		why[x.Item+x.Team] = x.Why
	}
	for i := range p.Items {
		if item := &p.Items[i]; p.Tree().ToSchedule(i) {
			if _, placed := p.Place(i); placed {
				d.Placements = append(d.Placements, schedule.Placement{Item: item.Key, Team: item.Team, Iteration: item.Iteration})
			} else {
				key := item.Key
				if _, rough := p.Piece(i); rough {
					key = p.KeyOf(i) + item.Team
				}
				d.Unplaced = append(d.Unplaced, schedule.Unplaced{Item: item.Key, Why: why[key]})
			}
		}
	}
	return d
}

// The plays of an accepted draft are those that it was judged by.
func TestAcceptingWhatIsRoughKeepsItsWord(t *testing.T) {
	for seed := range sample.Seeds(8) {
		p := plan.Of(sample.Program(seed, sample.Shape{Teams: 3, Iterations: 8, Items: 24, Needs: 8, Rough: true}))
		o := schedule.Options{Today: sample.Today, Tries: 3, Aim: schedule.ByOdds}
		d := schedule.Draft(p, o)
		schedule.Foresee(p, &d, o)
		require.LessOrEqual(t, *d.Score.ExpectedLateDays, *d.Score.ExpectedLateDaysToday+0.5)
		f := forecast.Play(schedule.Place(p, d), forecast.Options{Today: sample.Today, Plays: 2000, Seed: 1})
		require.Equal(t, f.ExpectedLateDays, *d.Score.ExpectedLateDays)
	}
}

// What is rough stands together where there is room for that: of 18 points, in pieces of five,
// none goes into the gap in the first iteration.
func TestWhatIsRoughIsKeptTogether(t *testing.T) {
	size := func(x float64) *float64 { return &x }
	p := program.Program{Settings: program.Settings{FillTo: 1, SameIteration: program.ShareSameTeam}, Teams: []program.Team{{Key: "T", Name: "T", Unit: program.Points}}}
	for i := range 6 {
		start := sample.Today.Add(14 * i)
		p.Teams[0].Iterations = append(p.Teams[0].Iterations, program.Iteration{Key: string(rune('a' + i)), Start: start, End: start.Add(13), Capacity: size(10)})
	}
	story := func(key string, x float64, iteration string) program.Item {
		return program.Item{Key: key, Kind: program.Story, Team: "T", Size: size(x), Iteration: iteration, Pinned: true}
	}
	p.Items = []program.Item{story("A", 5, "a"), story("B", 5, "b"), story("C", 5, "b"), story("D", 5, "c"), story("E", 5, "c"), {Key: "F", Kind: program.Feature, Rough: []program.Rough{{Team: "T", Size: 18}}}}
	for _, aim := range []schedule.Aim{schedule.ByDates, schedule.ByOdds} {
		d := schedule.Draft(plan.Of(p), schedule.Options{Today: sample.Today, Aim: aim, Tries: 3})
		require.Len(t, d.Rough, 1)
		var where []string
		for _, part := range d.Rough[0].Places {
			where = append(where, part.Iteration)
		}
		assert.Equal(t, []string{"d", "e"}, where, aim)
	}
}
