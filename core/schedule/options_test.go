package schedule_test

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/calendar"
	"jantrel/core/capacity"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/sample"
	"jantrel/core/schedule"
)

// Assumed sizes count as if the items had them.
func TestAssumedSizesCountAsIfTheyWereTheirs(t *testing.T) {
	assumed := 0
	for seed := range sample.Seeds(20) {
		p := sample.Program(seed, sample.Shape{Teams: 3, Iterations: 6, Items: 40, Needs: 20, Wild: true})
		sized := p
		sized.Items = slices.Clone(p.Items)
		now := plan.Of(p)
		past := plan.PastSizes(now)
		for i := range sized.Items {
			item := &sized.Items[i]
			if usual, ok := plan.UsualSize(past(item)); ok && item.Size == nil && item.Team != "" && now.Tree().ToSchedule(i) {
				item.Size = &usual
			}
		}
		o := schedule.Options{Today: sample.Today, Tries: 8}
		want := check(t, sized, o)
		o.AssumeSizes = true
		got := schedule.Draft(now, o)
		assert.Equal(t, want.Score, got.Score)
		for i := range got.Placements {
			if got.Placements[i].Assumed != nil {
				assumed++
				assert.Equal(t, *sized.Items[now.Tree().Index[got.Placements[i].Item]].Size, *got.Placements[i].Assumed)
				got.Placements[i].Assumed = nil
			}
		}
		require.Equal(t, len(want.Placements), len(got.Placements), "seed %d: %v", seed, got.Unplaced)
		assert.Equal(t, want.Placements, got.Placements)
	}
	assert.Positive(t, assumed)
}

// What the options leave out stays where it is; a draft with them is valid with all else fixed.
func TestOnlyWhatMayMoveDoes(t *testing.T) {
	moved := 0
	for seed := range sample.Seeds(20) {
		p := sample.Program(seed, sample.Shape{Teams: 3, Iterations: 6, Items: 40, Needs: 20})
		now := plan.Of(p)
		for _, o := range []schedule.Options{{Releases: []string{"R0"}}, {Teams: []string{"T1"}}, {Teams: []string{"T0", "T2"}, Releases: []string{"R1"}, Items: []string{"F0", "F1"}}} {
			o.Today, o.Tries = sample.Today, 3
			for _, x := range schedule.Draft(now, o).Placements {
				i := now.Tree().Index[x.Item]
				may := (len(o.Releases) == 0 || slices.Contains(o.Releases, now.Tree().Release(i))) && (len(o.Teams) == 0 || slices.Contains(o.Teams, x.Team)) &&
					(len(o.Items) == 0 || slices.Contains(o.Items, p.Items[i].Parent))
				if x.Moved {
					moved++
					assert.True(t, may, "%s", x.Item)
				}
			}
		}
	}
	assert.Greater(t, moved, 100)
}

// The next iterations that are frozen keep what stands in them and take nothing more.
func TestFrozenIterationsStayAsTheyAre(t *testing.T) {
	for seed := range sample.Seeds(20) {
		p := sample.Program(seed, sample.Shape{Teams: 3, Iterations: 6, Items: 40, Needs: 20, Wild: seed%2 == 0})
		d := schedule.Draft(plan.Of(p), schedule.Options{Today: sample.Today, Tries: 3, Freeze: 2})
		frozen := map[string]bool{}
		for _, team := range p.Teams {
			next := 0
			for _, it := range team.Iterations {
				if it.State != program.Closed && it.End >= sample.Today && next < 2 {
					frozen[it.Key] = true
					next++
				}
			}
		}
		for _, x := range d.Placements {
			if frozen[x.Iteration] || frozen[x.From] {
				assert.False(t, x.Moved, "%s", x.Item)
			}
		}
	}
}

func TestWhatWouldLetItStandEarlier(t *testing.T) {
	late, pinned, working := story("LATE", "LC", 1), story("PIN", "LC", 2), story("WORK", "TW", 1)
	late.NotBefore = calendar.MustParse("2027-03-20")
	pinned.Pinned, pinned.Iteration = true, "LC3"
	working.State, working.Iteration = program.Doing, "TW2"
	p := lamp(story("A", "LC", 8), story("B", "LC", 5), story("C", "LC", 3), story("T", "TW", 4), late, pinned, working)
	p.Needs = []program.Need{{Item: "C", Needs: "T"}}
	earlier := map[string]string{}
	for _, x := range schedule.Draft(plan.Of(p), schedule.Options{Today: calendar.MustParse("2027-03-02")}).Placements {
		earlier[x.Item] = x.Why.Earlier
	}
	assert.Equal(t, map[string]string{
		"A":    "",
		"B":    "To stand in LC1: LC1 would have to take 3 more, or something of that size leave it",
		"C":    "To stand in LC1: T would have to end by 28 Feb; LC1 would have to take 1 more, or something of that size leave it",
		"T":    "",
		"LATE": "To stand in LC2: its own date would have to be 15 Mar or earlier",
		"PIN":  "To stand in LC2: PIN would have to be unpinned",
		"WORK": "",
	}, earlier)
	d := schedule.Draft(plan.Of(p), schedule.Options{Today: calendar.MustParse("2027-03-02"), Freeze: 1})
	require.NotEmpty(t, d.Placements)
	for _, x := range d.Placements {
		if x.Item == "A" {
			assert.Equal(t, "To stand in LC1: LC1 would have to be open to moves", x.Why.Earlier)
			assert.Equal(t, "LC2 is the first iteration of Lamp Control that does not stay as it is", x.Why.Text)
		}
	}
}

// staffed gives items of a sample roles that its members have, and people to do them.
func staffed(seed uint64) program.Program {
	p := sample.Program(seed, sample.Shape{Teams: 3, Iterations: 8, Items: 40, Needs: 15})
	r := rand.New(rand.NewPCG(seed, 5))
	for t := range p.Teams {
		p.Teams[t].Members = []program.Member{{Person: "p0", Share: 0.4, Roles: []string{"sails"}}, {Person: fmt.Sprintf("p%d", 1+t), Share: 1, Roles: []string{"ropes"}}}
	}
	for i := range p.Items {
		switch item := &p.Items[i]; r.IntN(4) {
		case 0:
			item.Role = "sails"
		case 1:
			item.Assignee = "p0"
		case 2:
			item.Role = []string{"ropes", "sails", "stars"}[r.IntN(3)]
		}
	}
	return p
}

// Where roles and people are limits, the setup's own reckoning finds none of them over by what the
// draft put there.
func TestRolesAndPeopleAreLimits(t *testing.T) {
	over := func(p *plan.Plan) (n int) {
		within := capacity.Coming(sample.Today)
		for _, row := range append(capacity.ByRole(p, within), capacity.ByPerson(p, within)...) {
			for _, x := range row.Parts {
				if x.Over {
					n++
				}
			}
		}
		return n
	}
	without, reasons := 0, map[string]int{}
	for seed := range sample.Seeds(20) {
		p := staffed(seed)
		for i := range p.Items { // nothing stands yet, and nothing may stay
			p.Items[i].Iteration, p.Items[i].Pinned = "", false
		}
		now := plan.Of(p)
		for _, aim := range []schedule.Aim{schedule.ByDates, schedule.ByOdds} {
			o := schedule.Options{Today: sample.Today, Aim: aim, Tries: 3, FillTo: 1}
			without += over(schedule.Place(now, schedule.Draft(now, o)))
			o.Roles = true
			d := schedule.Draft(now, o)
			faults, _ := judgeDraft(p, o, d)
			faults = slices.DeleteFunc(faults, func(f string) bool { // the judge knows no such limits
				return strings.Contains(f, "no-role") || strings.Contains(f, "but could stand in")
			})
			require.Empty(t, faults)
			require.Zero(t, over(schedule.Place(now, d)), "seed %d, %s", seed, aim)
			for _, x := range d.Unplaced {
				reasons[x.Why.Code]++
			}
			for _, x := range d.Placements {
				if strings.Contains(x.Why.Text, "has room, but not for") {
					reasons["part"]++
				}
			}
		}
	}
	assert.Greater(t, without, 20, "else the limits say nothing")
	assert.Positive(t, reasons[schedule.WhyNoRole], "nobody knows the stars")
	assert.Positive(t, reasons["part"])
}

// What stands beyond a limit today may stay nowhere; what is done takes from it.
func TestWhatIsDoneTakesFromItsRole(t *testing.T) {
	p := staffed(1)
	ten := 10.0
	p.Items = []program.Item{
		{Key: "D", Kind: program.Story, Team: "T0", Role: "ropes", Size: &ten, State: program.Done, Iteration: p.Teams[0].Iterations[3].Key},
		{Key: "A", Kind: program.Story, Team: "T0", Role: "ropes", Size: &ten},
	}
	p.Needs, p.Milestones = nil, nil
	for i := range p.Teams[0].Iterations {
		p.Teams[0].Iterations[i].Capacity = &[]float64{20}[0]
	}
	where := func(roles bool) string {
		return schedule.Draft(plan.Of(p), schedule.Options{Today: sample.Today, FillTo: 1, Roles: roles, Tries: 2}).Placements[0].Iteration
	}
	assert.Equal(t, p.Teams[0].Iterations[3].Key, where(false))
	assert.Equal(t, p.Teams[0].Iterations[4].Key, where(true), "ropes carry 14 of the 20")
}
