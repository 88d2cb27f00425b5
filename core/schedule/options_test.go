package schedule_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/calendar"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/sample"
	"jantrel/core/schedule"
)

// Assumed sizes count as if the items had them.
func TestAssumedSizesCountAsIfTheyWereTheirs(t *testing.T) {
	assumed := 0
	for seed := range uint64(20) {
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
	for seed := range uint64(20) {
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
	for seed := range uint64(20) {
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
