package guide_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/forecast"
	"jantrel/core/guide"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/sample"
	"jantrel/core/standing"
)

func knownOf(p program.Program) guide.Known {
	of := plan.Of(p.Normal())
	return guide.Known{Plan: of, Today: sample.Today, Facts: standing.Of(of, sample.Today)}
}

func ptr[T any](x T) *T { return &x }

// Eight teams, two of which nobody gave a velocity.
func ExampleChecks() {
	p := program.Program{Name: "Beacon Renewal"}
	for i := range 8 {
		t := program.Team{Key: fmt.Sprint(i), Name: fmt.Sprintf("Team %d", i), Unit: program.Points, Members: []program.Member{{Person: "ann", Share: 1}}}
		if i > 1 {
			t.Velocity = ptr(12.0)
		}
		p.Teams = append(p.Teams, t)
	}
	for _, c := range guide.Checks(knownOf(p))[program.StageSetUp] {
		fmt.Printf("%d of %d: %s\n", c.Open, c.Of, c.Text)
	}
	// Output:
	// 0 of 1: There are teams
	// 0 of 8: All teams have members
	// 8 of 8: 8 of 8 teams have no iterations to come
	// 2 of 8: 2 of 8 teams have no agreed velocity
	// 1 of 1: There is no release yet
}

func TestEveryStageHasAStep(t *testing.T) {
	require.Len(t, guide.Steps, len(program.Stages))
	for i, s := range guide.Steps {
		assert.Equal(t, program.Stages[i], s.Stage)
		for _, words := range append(append(append([]string{s.Aim, s.Who, s.Takes}, s.In...), s.Out...), s.Wrong...) {
			assert.NotEmpty(t, strings.TrimSpace(words), s.Title)
		}
	}
}

// Of any program: what is open is no more than there is, each check says something and leads to a stage, and the
// figures that the strip has too are the strip's.
func TestChecksOfAnyProgram(t *testing.T) {
	for seed := range uint64(40) {
		k := knownOf(sample.Program(seed, sample.Shape{Teams: 1 + int(seed%5), Iterations: 6, Items: 5 + int(seed%7*10), Needs: int(seed % 3 * 8)}))
		k.Lands = forecast.Play(k.Plan, forecast.Options{Today: k.Today, Plays: 20, Seed: 1}).Releases
		k.Briefs, k.Latest = int(seed%3), sample.Today.Add(-int(seed))
		all := guide.Checks(k)
		require.Len(t, all, len(program.Stages))
		for stage, checks := range all {
			assert.NotEmpty(t, checks, stage)
			for _, c := range checks {
				assert.NotEmpty(t, c.Text)
				assert.GreaterOrEqual(t, c.Of, c.Open, c.Text)
				assert.GreaterOrEqual(t, c.Open, 0, c.Text)
				assert.Contains(t, program.Stages, c.Lead.Stage)
				assert.NotContains(t, c.Text, "%!")
			}
		}
		counts, found := k.Facts.Counts, map[string]int{}
		for _, c := range all[program.StagePlan] {
			found[c.Lead.Focus] = c.Open
		}
		assert.Equal(t, len(counts.Over), found["over"])
		assert.Equal(t, len(counts.Broken), found["broken"])
		assert.Equal(t, len(counts.Unplaced), found["unplaced"])
		for _, c := range all[program.StageBacklog] {
			if c.Lead.View == "not-ready" {
				assert.Equal(t, len(counts.NotReady), c.Open)
			}
		}
	}
}

func TestOwnWordsAreForWhomTheyAre(t *testing.T) {
	p := program.Program{Guides: []program.Guide{
		{Stage: program.StagePlan, Role: "team lead", Text: "Bring your list."}, {Stage: program.StagePlan, Text: "In the hall."}, {Stage: program.StageTrack, Text: "At nine."}, {Stage: program.StagePlan, Role: "member", Text: "Say when you are away."},
	}}
	texts := func(role string) (texts []string) {
		for _, g := range guide.Of(&p, program.StagePlan, role) {
			texts = append(texts, g.Text)
		}
		return texts
	}
	assert.Equal(t, []string{"In the hall.", "Bring your list."}, texts("team lead"))
	assert.Equal(t, []string{"In the hall."}, texts("administrator"))
}

func TestRulesAreSentences(t *testing.T) {
	p := sample.Program(3, sample.Shape{Teams: 3, Iterations: 6, Items: 30, Needs: 8})
	p.Cadences = []program.Cadence{{Key: "two", Name: "Two weeks", Start: sample.Today, LengthDays: 14, Ahead: 8, CarryOver: true}}
	p.Settings.Ready = &program.ReadyRule{Size: true, Team: true, Largest: map[program.Unit]float64{program.Points: 8}}
	p.Settings.Mix = map[program.ItemKind]float64{program.Story: 0.6, program.Upkeep: 0.2}
	p.Settings.PlanSections = []program.PlanSection{{Title: "Who shows it", Ask: "A name"}}
	said := map[string][]string{}
	for _, r := range guide.Rules(&p) {
		require.NotEmpty(t, r.Says, r.Title)
		said[r.Title] = r.Says
	}
	assert.Equal(t, []string{"Two weeks: 14 days each, from 2 Mar 2027; 8 iterations are kept ahead; what is not done goes on into the next one."}, said["Rhythm"])
	assert.Equal(t, []string{"An item is ready when it has a team, it has a size and it has 8 points at most."}, said["Ready"])
	assert.Equal(t, []string{"Of the work: story 60 %, upkeep 20 %."}, said["Mix of kinds"])
	assert.Equal(t, []string{"Who shows it: A name"}, said["What the plan of an iteration says"])
	assert.NotContains(t, fmt.Sprint(guide.Rules(&program.Program{})), "%!")
}
