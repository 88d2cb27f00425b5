package forecast_test

import (
	"encoding/json"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/forecast"
	"jantrel/core/gate"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/sample"
)

func value(t *testing.T, x any) json.RawMessage {
	t.Helper()
	text, err := json.Marshal(x)
	require.NoError(t, err)
	return text
}

func setItem(t *testing.T, key, field string, x any) program.Change {
	return program.Change{Op: program.Set, Ref: program.Ref{Kind: program.KindItem, Key: key}, Field: field, Value: value(t, x)}
}

// causesOf are the causes of a day in which some changes were made.
func causesOf(t *testing.T, before program.Program, days int, changes ...program.Change) (forecast.Causes, *plan.Plan) {
	t.Helper()
	was := plan.Of(before)
	is, _, err := gate.Try(was, changes)
	require.NoError(t, err)
	r := is.Releases[0]
	return forecast.CausesOf(is, forecast.CausesQuestion{
		Options: forecast.Options{Today: monday.Add(days), Plays: 100, Seed: 1}, Set: forecast.Set{Release: r.Key, Due: r.Due}, Before: was, On: monday,
	}), is
}

// A team does 10 an iteration and has 15 of the release, A of 10 and B of 5: done on 19 March. What one change
// did is that kind's alone.
func TestACauseIsFoundByItsKind(t *testing.T) {
	begin := func() program.Program {
		p := pier(10, 10, 10)
		p.Items = []program.Item{work("A", 10, "d"), work("B", 5, "e"), work("Z", 5, "e")}
		p.Items[2].Release = ""
		p.Settings.PlayRisks = nil
		return p
	}
	release := program.Ref{Kind: program.KindRelease, Key: "R"}
	for _, c := range []struct {
		kind   forecast.CauseKind
		days   float64
		items  []string
		change program.Change
	}{
		{forecast.CauseSizes, 7, []string{"B"}, setItem(t, "B", "size", 10)},
		{forecast.CauseScopeIn, 7, []string{"Z"}, setItem(t, "Z", "release", "R")},
		{forecast.CauseScopeOut, -7, []string{"B"}, setItem(t, "B", "keptOut", true)},
		{forecast.CauseMoves, 0, []string{"B"}, setItem(t, "B", "iteration", "f")},
		{forecast.CauseNeeds, 14, nil, program.Change{Op: program.Add, Ref: program.Ref{Kind: program.KindNeed, In: "A", Key: "Z"}, Value: value(t, program.Need{Item: "A", Needs: "Z", LagDays: 7})}},
		{forecast.CauseRules, 10, nil, program.Change{Op: program.Set, Ref: release, Field: "growth", Value: value(t, 0.1)}},
		{forecast.CauseDue, 0, nil, program.Change{Op: program.Set, Ref: release, Field: "due", Value: value(t, "2027-03-18")}},
	} {
		causes, _ := causesOf(t, begin(), 0, c.change)
		require.NotEmpty(t, causes.Causes, c.kind)
		for _, cause := range causes.Causes {
			if cause.Kind == c.kind {
				assert.Equal(t, c.items, cause.Items, c.kind)
				if c.days != 0 {
					assert.InDelta(t, c.days, cause.Days, 7, c.kind)
					assert.Equal(t, c.days > 0, cause.Days > 0, c.kind)
				}
				continue
			}
			assert.Zero(t, cause.Days, "%s: %s", c.kind, cause.Kind)
			assert.Zero(t, *cause.Chance, "%s: %s", c.kind, cause.Kind)
		}
	}
	causes, _ := causesOf(t, begin(), 0, program.Change{Op: program.Set, Ref: release, Field: "due", Value: value(t, "2027-03-18")})
	assert.Equal(t, -1.0, *causes.Causes[0].Chance, "due a day before it lands")

	// A week in which nothing was done costs a week; with A done in it, it gains what A took beyond that.
	idle, _ := causesOf(t, begin(), 7)
	require.Len(t, idle.Causes, 1)
	assert.Equal(t, forecast.CauseTime, idle.Causes[0].Kind)
	assert.Positive(t, idle.Causes[0].Days)
	busy, _ := causesOf(t, begin(), 7, setItem(t, "A", "state", "done"))
	assert.Equal(t, []string{"A"}, busy.Causes[0].Items)
	assert.Negative(t, busy.Causes[0].Days)
}

// Whatever was changed, the causes sum up to the difference, and the two ends are what the forecast says there.
func TestCausesSumUp(t *testing.T) {
	for seed := range sample.Seeds(25) {
		r := rand.New(rand.NewPCG(seed, 5))
		p := sample.Program(seed, sample.Shape{Teams: 3, Iterations: 6, Items: 30, Needs: 12, Rough: seed%3 == 0})
		was := plan.Of(p)
		is := was
		for range 12 {
			key := p.Items[r.IntN(len(p.Items))].Key
			if _, there := is.Tree().Index[key]; !there {
				continue
			}
			changes := []program.Change{
				setItem(t, key, "size", float64(1+r.IntN(9))), setItem(t, key, "state", "done"), setItem(t, key, "iteration", ""),
				setItem(t, key, "keptOut", true), setItem(t, key, "release", p.Releases[0].Key), setItem(t, key, "notBefore", sample.Today.Add(30)),
				{Op: program.Remove, Ref: program.Ref{Kind: program.KindItem, Key: key}},
				{Op: program.Set, Ref: program.Ref{Kind: program.KindRelease, Key: p.Releases[0].Key}, Field: "due", Value: value(t, sample.Today.Add(20+r.IntN(40)))},
			}
			if next, _, err := gate.Try(is, changes[r.IntN(len(changes)):][:1]); err == nil {
				is = next
			}
		}
		release := is.Releases[0]
		set := forecast.Set{Release: release.Key, Due: release.Due}
		o := forecast.Options{Today: sample.Today.Add(r.IntN(10)), Plays: 60, Seed: seed}
		causes := forecast.CausesOf(is, forecast.CausesQuestion{Options: o, Set: set, Before: was, On: sample.Today})
		days, chance := causes.Before.Days, 0.0
		if causes.Before.Chance != nil {
			chance = *causes.Before.Chance
		}
		for _, c := range causes.Causes {
			days += c.Days
			if c.Chance != nil {
				chance += *c.Chance
			}
		}
		assert.InDelta(t, causes.After.Days, days, 1e-6, seed)
		now := forecast.Play(is, o).Releases[0]
		assert.Equal(t, now.At(50), causes.After.Even)
		assert.Equal(t, now.At(85), causes.After.Safe)
		if causes.Before.Chance != nil && causes.After.Chance != nil {
			assert.InDelta(t, *now.Chance, *causes.After.Chance, 1e-9)
			assert.InDelta(t, *causes.After.Chance, chance, 1e-9, seed)
		}
		o.Today = sample.Today
		assert.Equal(t, forecast.Play(was, o).Releases[0].At(50), causes.Before.Even)
	}
}
