package forecast_test

import (
	"fmt"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/calendar"
	"jantrel/core/forecast"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/sample"
)

// The example of docs/risks.md. A team does 10 in each iteration and has 15 of a release that is due on
// 28 March: done on 19 March. At odds of 20 % it gets 10 more, which it does first: then on 2 April.
func TestARiskStrikesAsOftenAsItSays(t *testing.T) {
	p := pier(10, 10, 10)
	p.Items = []program.Item{work("A", 10, "d"), work("B", 5, "e")}
	p.Risks = []program.Risk{{Key: "K", Odds: ptr(0.2), Adds: []program.RiskAdds{{Team: "T", Size: 10}}, Releases: []string{"R"}, OddsThen: ptr(0.05)}}
	o := forecast.Options{Today: monday, Plays: 1000, Seed: 1}
	l := forecast.Play(plan.Of(p), o).Releases[0]
	assert.InDelta(t, 0.8, *l.Chance, 0.002)
	assert.Equal(t, "2027-03-19", l.At(75).String())
	assert.Equal(t, "2027-04-02", l.At(85).String())
	assert.InDelta(t, 0.2*5, l.ExpectedLateDays, 0.02)
	assert.Equal(t, 2, l.Left, "it is no item")

	worths := forecast.Worths(plan.Of(p), o)
	require.Len(t, worths, 2)
	assert.Empty(t, worths[0].Risk, "all together first")
	w := worths[1]
	assert.InDelta(t, 0.2, w.Strikes, 0.002)
	assert.InDelta(t, 0.2, *w.Releases[0].Chance, 0.002)
	assert.InDelta(t, 0.2*14, w.Releases[0].Days, 0.03)
	assert.InDelta(t, 0.15, *w.Releases[0].ChanceThen, 0.003)
	assert.InDelta(t, 0.15*14, *w.Releases[0].DaysThen, 0.04)
	assert.Equal(t, worths[0].Releases[0].Days, w.Releases[0].Days)

	p.Risks[0].Answered = true
	assert.InDelta(t, 0.95, *forecast.Play(plan.Of(p), o).Releases[0].Chance, 0.002)
	assert.Nil(t, forecast.Worths(plan.Of(p), o)[1].Releases[0].ChanceThen, "it is in place")
	// 2 to 12 more: more than the 5 that still fit by 28 March in 7/10.
	p.Risks[0].Answered, p.Risks[0].Odds, p.Risks[0].Adds = false, ptr(1), []program.RiskAdds{{Item: "B", Size: 2, UpTo: ptr(12)}}
	p.Risks[0].OddsThen = nil
	assert.InDelta(t, 0.3, *forecast.Play(plan.Of(p), o).Releases[0].Chance, 0.003)
	p.Risks[0].Adds[0] = program.RiskAdds{Team: "T", Size: 20}
	p.Risks[0].From = calendar.MustParse("2027-03-22") // A and B are done by then; it lands with what comes
	assert.Equal(t, "2027-04-23", forecast.Play(plan.Of(p), o).Releases[0].At(50).String())
	p.Risks[0].Releases = nil
	assert.Equal(t, "2027-03-19", forecast.Play(plan.Of(p), o).Releases[0].At(50).String())
	no := false
	p.Settings.PlayRisks = &no
	assert.Empty(t, forecast.Worths(plan.Of(p), o))
}

// A delay of 6 to 15 days of what is done on 19 March: by 28 March in 4 of 10 cases. What needs it waits.
func TestADelayMovesWhatWaits(t *testing.T) {
	p := pier(10, 10, 10)
	p.Items = []program.Item{work("A", 10, "d"), work("B", 5, "e")}
	fifteen := 15
	p.Risks = []program.Risk{{Key: "K", Odds: ptr(1), Delays: []program.RiskDelay{{Item: "B", Days: 6, UpTo: &fifteen}}}}
	o := forecast.Options{Today: monday, Plays: 1000, Seed: 1}
	l := forecast.Play(plan.Of(p), o).Releases[0]
	assert.InDelta(t, 0.4, *l.Chance, 0.003)
	assert.Equal(t, "2027-04-03", l.At(95).String())
	p.Settings.Landing = program.IterationEnd // on the last day of the iteration that the later day lies in
	l = forecast.Play(plan.Of(p), o).Releases[0]
	assert.InDelta(t, 0.4, *l.Chance, 0.003)
	assert.Equal(t, "2027-04-11", l.At(95).String())
	p.Settings.Landing = ""
	p.Risks[0].Odds = ptr(0.5)
	assert.InDelta(t, 0.7, *forecast.Play(plan.Of(p), o).Releases[0].Chance, 0.003)

	// A, done on 12 March, is late by a week or two: B, which needs it, stands in the iteration then under way, with
	// it; or where they may not share one in the next.
	p.Needs = []program.Need{{Item: "B", Needs: "A"}}
	p.Risks[0].Odds, p.Risks[0].Delays = ptr(1), []program.RiskDelay{{Item: "A", Days: 14}}
	assert.Equal(t, "2027-03-26", forecast.Play(plan.Of(p), o).Releases[0].At(50).String())
	p.Settings.SameIteration = program.ShareNever
	assert.Equal(t, "2027-04-02", forecast.Play(plan.Of(p), o).Releases[0].At(50).String())
	p.Risks[0].ShareThen, p.Risks[0].Answered = ptr(0.5), true
	assert.Equal(t, "2027-04-02", forecast.Play(plan.Of(p), o).Releases[0].At(50).String(), "19 March is in the second iteration too")
	p.Risks[0].ShareThen = ptr(0)
	assert.Equal(t, "2027-03-19", forecast.Play(plan.Of(p), o).Releases[0].At(50).String())
}

// risky gives a random program risks of all sorts.
func risky(seed uint64, wild bool) program.Program {
	p := sample.Program(seed, sample.Shape{Teams: 2 + int(seed%4), Iterations: 3 + int(seed%5), Items: 10 + int(seed%40), Needs: int(seed % 30), Wild: wild})
	r := rand.New(rand.NewPCG(seed, 9))
	p.Risks = nil
	for i := range 1 + r.IntN(4) {
		risk := program.Risk{Key: fmt.Sprintf("K%d", i), Title: "Storm", Odds: ptr(0.1 + 0.8*r.Float64()), OddsThen: ptr(0.1 * r.Float64()), ShareThen: ptr(r.Float64())}
		item := func() string { return p.Items[r.IntN(len(p.Items))].Key }
		if r.IntN(2) == 0 {
			risk.Adds = append(risk.Adds, program.RiskAdds{Team: p.Teams[r.IntN(len(p.Teams))].Key, Size: float64(r.IntN(9)), UpTo: ptr(9)})
			risk.Releases = []string{p.Releases[r.IntN(len(p.Releases))].Key}
		}
		if r.IntN(2) == 0 {
			risk.Adds = append(risk.Adds, program.RiskAdds{Item: item(), Size: float64(r.IntN(5))})
		}
		if r.IntN(2) == 0 || len(risk.Adds) == 0 {
			most := 5 + r.IntN(10)
			risk.Delays = []program.RiskDelay{{Item: item(), Days: r.IntN(5), UpTo: &most}}
		}
		p.Risks = append(p.Risks, risk)
	}
	return p
}

// What a risk is worth is what the forecast reads without it, and what its response is worth what it
// reads with that in place: with the same luck, so to the last play.
func TestWorthIsTheDifferenceOfForecasts(t *testing.T) {
	compared := 0
	for seed := range sample.Seeds(40) {
		p := risky(seed, false)
		o := forecast.Options{Today: sample.Today, Plays: 80, Seed: seed, Workers: 1 + int(seed%2)}
		is := forecast.Play(plan.Of(p), o)
		for _, w := range forecast.Worths(plan.Of(p), o) {
			without, then := p, p
			without.Risks, then.Risks = nil, nil
			for _, r := range p.Risks {
				if w.Risk != "" && r.Key != w.Risk {
					without.Risks = append(without.Risks, r)
				}
				r.Answered = r.Key == w.Risk
				then.Risks = append(then.Risks, r)
			}
			other, answered := forecast.Play(plan.Of(without), o), forecast.Play(plan.Of(then), o)
			for _, worth := range w.Releases {
				for i, l := range is.Releases {
					if l.Key != worth.Release || l.Beyond+other.Releases[i].Beyond+answered.Releases[i].Beyond > 0 {
						continue // what has not landed when the plays end counts by when that is
					}
					compared++
					if l.Chance != nil {
						assert.InDelta(t, *other.Releases[i].Chance-*l.Chance, *worth.Chance, 1e-9, "%d %s %s", seed, w.Risk, l.Key)
					}
					if l.Chance != nil && worth.ChanceThen != nil {
						assert.InDelta(t, *answered.Releases[i].Chance-*l.Chance, *worth.ChanceThen, 1e-9, "%d %s %s", seed, w.Risk, l.Key)
					}
				}
			}
		}
	}
	assert.Greater(t, compared, 50)
}

// A risk that is sure to strike is played as what it brings is where it stands in the plan.
func TestASureRiskIsWhatItBrings(t *testing.T) {
	r := rand.New(rand.NewPCG(4, 4))
	compared := 0
	for seed := range sample.Seeds(60) {
		p := sample.Program(seed, sample.Shape{Teams: 3, Iterations: 5, Items: 30, Needs: 15})
		p.Settings.Growth, p.Settings.PullAhead, p.Risks = 0, nil, nil
		for i := range p.Releases {
			p.Releases[i].Growth = nil
		}
		o := forecast.Options{Today: sample.Today, Plays: 40, Seed: seed}
		at := r.IntN(len(p.Items))
		team, release := p.Teams[r.IntN(3)].Key, p.Releases[0].Key
		with, plain := p, p
		with.Risks = []program.Risk{{Key: "K", Odds: ptr(1), Adds: []program.RiskAdds{{Team: team, Size: 6}}, Releases: []string{release}}}
		plain.Items = append(append([]program.Item{}, p.Items...), program.Item{Key: "more", Title: "More", Kind: program.Story, Team: team, Release: release, State: program.Doing, Size: ptr(6), Left: ptr(6)})
		if item := p.Items[at]; item.Size != nil && *item.Size > 0 && item.State == program.Todo && program.TreeOf(p).IsLeaf(at) && !item.KeptOut && item.Team != "" {
			with.Risks[0].Adds = append(with.Risks[0].Adds, program.RiskAdds{Item: item.Key, Size: 3})
			item.Size = ptr(*item.Size + 3)
			plain.Items[at] = item
			compared++
		}
		a, b := forecast.Play(plan.Of(with), o), forecast.Play(plan.Of(plain), o)
		for i := range a.Releases {
			if a.Releases[i].Beyond+b.Releases[i].Beyond == 0 && a.Releases[i].Left > 0 {
				assert.Equal(t, b.Releases[i].Dates, a.Releases[i].Dates, "%d %s", seed, a.Releases[i].Key)
			}
		}
	}
	assert.Greater(t, compared, 10)
}

// Risks that do not play change nothing, and nobody's luck.
func TestRisksThatDoNotPlay(t *testing.T) {
	p := risky(7, false)
	o := forecast.Options{Today: sample.Today, Plays: 60, Seed: 1}
	calm := p
	calm.Risks = nil
	want := forecast.Play(plan.Of(calm), o)
	for _, alter := range []func(*program.Risk){
		func(r *program.Risk) { r.State = program.RiskOver },
		func(r *program.Risk) { r.State = program.RiskHappened },
		func(r *program.Risk) { r.Odds = nil },
		func(r *program.Risk) { r.OddsThen, r.Answered = ptr(0), true },
	} {
		q := p
		q.Risks = append([]program.Risk{}, p.Risks...)
		for i := range q.Risks {
			alter(&q.Risks[i])
		}
		got := forecast.Play(plan.Of(q), o)
		for i, l := range got.Releases {
			assert.Equal(t, want.Releases[i].Dates, l.Dates)
		}
	}
}

// Nobody plans risks away: in hindsight too they strike.
func TestHindsightIsABoundWithRisks(t *testing.T) {
	for seed := range sample.Seeds(60) {
		p := risky(seed, true)
		o := forecast.Options{Today: sample.Today, Plays: 60, Seed: seed}
		assert.LessOrEqual(t, forecast.Hindsight(plan.Of(p), o), forecast.Play(plan.Of(p), o).ExpectedLateDays+1e-9, "seed %d", seed)
	}
}

func BenchmarkWorths5000Items(b *testing.B) {
	p := sample.Program(1, sample.Shape{Teams: 40, Iterations: 12, Items: 5000, Needs: 6000})
	p.Risks = nil
	for i := range 20 {
		p.Risks = append(p.Risks, program.Risk{Key: fmt.Sprint(i), Odds: ptr(0.2), Adds: []program.RiskAdds{{Team: p.Teams[i].Key, Size: 8}}, Releases: []string{p.Releases[0].Key}})
	}
	pl := plan.Of(p)
	for b.Loop() {
		forecast.Worths(pl, forecast.Options{Today: sample.Today, Plays: 500, Seed: 1, Workers: 2})
	}
}
