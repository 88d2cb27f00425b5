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

// A day that two teams agreed on for a need is a due date of what is needed: with each written so, and the agreements
// forgotten, the same drafts come out, as good, with the same late days expected. Told to leave them, drafts are as if
// nothing had been agreed on.
func TestDraftsKeepAgreedDays(t *testing.T) {
	dated := 0
	for seed := range sample.Seeds(20) {
		p := sample.Program(seed, sample.Shape{Teams: 3, Iterations: 6, Items: 40, Needs: 50, Dated: true})
		due := map[string]program.Date{}
		team, open := map[string]string{}, map[string]bool{}
		for i := range p.Items {
			item := &p.Items[i]
			item.Due = 0
			team[item.Key], open[item.Key] = item.Team, item.State != program.Done && !item.KeptOut
		}
		without, written := p, p
		without.Needs, written.Needs = append([]program.Need{}, p.Needs...), append([]program.Need{}, p.Needs...)
		written.Items = append([]program.Item{}, p.Items...)
		for i, n := range p.Needs {
			if !n.Given.IsZero() && team[n.Item] != team[n.Needs] && open[n.Item] && (due[n.Needs].IsZero() || n.Given < due[n.Needs]) {
				due[n.Needs] = n.Given
			}
			without.Needs[i].Given, written.Needs[i].Given = 0, 0
		}
		for i := range written.Items {
			if d := due[written.Items[i].Key]; !d.IsZero() {
				written.Items[i].Due = d
				dated++
			}
		}
		o := schedule.Options{Today: sample.Today, Aim: schedule.ByDates, Tries: 1}
		agreed, same := schedule.Draft(plan.Of(p), o), schedule.Draft(plan.Of(written), o)
		require.Equal(t, same.Score, agreed.Score, "seed %d", seed)
		require.Equal(t, places(same), places(agreed), "seed %d", seed)
		play := forecast.Options{Today: sample.Today, Plays: 200, Seed: 1}
		assert.InDelta(t, forecast.Play(plan.Of(written), play).ExpectedLateDays, forecast.Play(plan.Of(p), play).ExpectedLateDays, 1e-9, "seed %d", seed)

		o.LeaveAgreed, play.LeaveAgreed = true, true
		require.Equal(t, places(schedule.Draft(plan.Of(without), o)), places(schedule.Draft(plan.Of(p), o)), "seed %d", seed)
		assert.Equal(t, forecast.Play(plan.Of(without), play).ExpectedLateDays, forecast.Play(plan.Of(p), play).ExpectedLateDays, "seed %d", seed)
	}
	assert.Greater(t, dated, int(sample.Seeds(80))/2)
}

func places(s schedule.Schedule) map[string]string {
	at := map[string]string{}
	for _, p := range s.Placements {
		at[p.Item] = p.Iteration
	}
	return at
}
