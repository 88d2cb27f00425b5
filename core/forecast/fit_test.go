package forecast_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/calendar"
	"jantrel/core/capacity"
	"jantrel/core/forecast"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/sample"
)

func question(by string, items ...string) forecast.FitQuestion {
	return forecast.FitQuestion{Options: forecast.Options{Today: monday, Plays: 40_000, Seed: 3, Workers: 2}, By: calendar.MustParse(by), Items: items, When: items}
}

func TestWhatOneTeamFitsByADate(t *testing.T) {
	// A, B and C are 4, 6 and 6: A is done by the end of an iteration that brings 4, A and B of one that brings 10, all
	// three of one that brings 16.
	past := []float64{4, 10, 10, 16}
	brings := func(size float64) float64 { return share(past, func(x, _ float64) bool { return x >= size }) }
	two := func(size float64) float64 { return share(past, func(x, y float64) bool { return x+y >= size }) }
	p := pier(4, 10, 10, 16)
	p.Items = []program.Item{work("A", 4, "e"), work("B", 6, "h"), work("C", 6, "")}
	f := forecast.AnswerFit(plan.Of(p), question("2027-03-14", "A", "B", "C"))
	assert.Equal(t, []forecast.Line{{Odds: 85, Items: 1, After: "A", Next: "B"}, {Odds: 50, Items: 2, After: "B", Next: "C"}}, f.Lines)
	assert.Equal(t, []forecast.Lines{{Team: "T", Items: 3, Lines: f.Lines}}, f.Teams)
	assert.InDelta(t, brings(4), f.Chances[0], 0.01)
	assert.InDelta(t, brings(10), f.Chances[1], 0.01)
	assert.InDelta(t, brings(16), f.Chances[2], 0.01)
	assert.InDelta(t, brings(16), f.All, 0.01)
	// By 28 March two iterations have to bring as much.
	f = forecast.AnswerFit(plan.Of(p), question("2027-03-28", "A", "B", "C"))
	assert.Equal(t, []forecast.Line{{Odds: 85, Items: 2, After: "B", Next: "C"}, {Odds: 50, Items: 3, After: "C"}}, f.Lines)
	assert.InDelta(t, two(10), f.Chances[1], 0.01)
	assert.InDelta(t, two(16), f.All, 0.01)
}

// fleet is three teams that do 10 in each iteration, always. B of U needs A of T, and
// C of V needs B.
func fleet() program.Program {
	p := pier(10, 10, 10)
	for _, key := range []string{"U", "V"} {
		team := p.Teams[0]
		team.Key = key
		p.Teams = append(p.Teams, team)
	}
	p.Items = []program.Item{work("A", 10, ""), work("B", 10, ""), work("C", 5, ""), work("D", 10, ""), work("E", 5, "")}
	p.Items[1].Team, p.Items[2].Team, p.Items[4].Team = "U", "V", "V"
	p.Needs = []program.Need{{Item: "B", Needs: "A"}, {Item: "C", Needs: "B"}}
	return p
}

func TestWhatThreeTeamsWithNeedsFitByADate(t *testing.T) {
	// A is done by 14 March, B waits for that and is by 28 March, C waits for B and is done half
	// way through the next, on 2 April. D comes after A in its team: 28 March. E comes after C in rank, but V has
	// nothing else to do meanwhile: 14 March. By 28 March A and B are done, C is not:
	// the line stands below B, though D and E, further down, are done too.
	f := forecast.AnswerFit(plan.Of(fleet()), question("2027-03-28", "A", "B", "C", "D", "E"))
	assert.Equal(t, []forecast.Line{{Odds: 85, Items: 2, After: "B", Next: "C"}, {Odds: 50, Items: 2, After: "B", Next: "C"}}, f.Lines)
	assert.Equal(t, []float64{1, 1, 0, 1, 1}, f.Chances)
	after := map[string]string{}
	for _, l := range f.Teams {
		after[l.Team] = l.Lines[0].After
	}
	assert.Equal(t, map[string]string{"T": "D", "U": "B", "V": ""}, after)
	assert.Zero(t, f.All)
	assert.Equal(t, "2027-04-02", f.When.At(50).String())
	assert.Equal(t, "2027-04-02", f.When.At(85).String())

	// Without C everything is done by 28 March.
	p := fleet()
	p.Items[2].KeptOut = true
	f = forecast.AnswerFit(plan.Of(p), question("2027-03-28", "A", "B", "C", "D", "E"))
	assert.Equal(t, []string{"A", "B", "D", "E"}, f.Items)
	assert.Equal(t, 4, f.Lines[0].Items)
	assert.Equal(t, 1.0, f.All)
}

func TestALineSaysWhatHoldsItUp(t *testing.T) {
	// A is the most important, but needs B, which comes last: nothing above it is done
	// by the end of the first iteration, as 10 go to C first.
	p := pier(10, 10, 10)
	p.Items = []program.Item{work("A", 1, ""), work("C", 10, ""), work("B", 1, "")}
	p.Needs = []program.Need{{Item: "A", Needs: "B"}}
	f := forecast.AnswerFit(plan.Of(p), question("2027-03-14", "A", "C", "B"))
	assert.Equal(t, forecast.Line{Odds: 85, Next: "A", Waits: "B"}, f.Lines[0])
}

func TestRankDecidesNotThePlace(t *testing.T) {
	p := pier(10, 10, 10)
	p.Items = []program.Item{work("A", 10, "g"), work("B", 10, "d")}
	f := forecast.AnswerFit(plan.Of(p), question("2027-03-14", "A", "B"))
	assert.Equal(t, []float64{1, 0}, f.Chances, "A is more important, though placed later")
	p.Items[1].State = program.Doing
	f = forecast.AnswerFit(plan.Of(p), question("2027-03-14", "A", "B"))
	assert.Equal(t, []float64{0, 1}, f.Chances, "what is under way comes first")
	p.Items[1].State, p.Items[1].Pinned = program.Todo, true
	f = forecast.AnswerFit(plan.Of(p), question("2027-03-14", "A", "B"))
	assert.Equal(t, []float64{0, 1}, f.Chances, "what is pinned keeps its iteration")
}

func TestWhatCannotBePlayedIsNamed(t *testing.T) {
	p := pier(10, 10, 10)
	p.Items = []program.Item{work("A", 10, ""), {Key: "N", Kind: program.Story}, work("D", 1, "c")}
	p.Items[2].State = program.Done
	f := forecast.AnswerFit(plan.Of(p), question("2027-03-14", "A", "N", "D", "none"))
	assert.Equal(t, []string{"A"}, f.Items)
	assert.Equal(t, []string{"N"}, f.LeftOut)
	assert.Equal(t, 1, f.When.LeftOut)
	f = forecast.AnswerFit(plan.Of(p), forecast.FitQuestion{Options: forecast.Options{Today: monday, Plays: 10}, When: []string{"N"}})
	assert.Empty(t, f.Lines, "no date, no lines")
	assert.Empty(t, f.When.Dates)
}

// Whatever the program: a line at better odds never stands lower, chances fit the
// lines, a later date never fits less, and the answer is the same with more workers.
func TestLinesOfAnyProgram(t *testing.T) {
	for seed := range sample.Seeds(25) {
		p := sample.Program(seed, wild)
		var keys []string
		for i := range p.Items {
			keys = append(keys, p.Items[i].Key)
		}
		o := forecast.Options{Today: sample.Today, Plays: 60, Seed: seed}
		before := forecast.AnswerFit(plan.Of(p), forecast.FitQuestion{Options: o, By: sample.Today.Add(40), Items: keys})
		require.LessOrEqual(t, before.Lines[0].Items, before.Lines[1].Items)
		for i, chance := range before.Chances[:before.Lines[0].Items] {
			require.GreaterOrEqual(t, chance, 0.85, before.Items[i])
		}
		for i := range before.Teams {
			require.GreaterOrEqual(t, before.Teams[i].Items, before.Teams[i].Lines[1].Items)
		}
		o.Workers = 3
		later := forecast.AnswerFit(plan.Of(p), forecast.FitQuestion{Options: o, By: sample.Today.Add(90), Items: keys})
		for i := range later.Chances {
			require.GreaterOrEqual(t, later.Chances[i], before.Chances[i])
		}
		again := forecast.AnswerFit(plan.Of(p), forecast.FitQuestion{Options: o, By: sample.Today.Add(40), Items: keys})
		require.Equal(t, before, again)
	}
}

func TestThePlainArithmetic(t *testing.T) {
	// T has completed 8, 10 and 12: 10 in a mean iteration of 14 days. A and B are 25
	// together, and U is counted at the mean size, 12.5: 37.5 ÷ 10 = 3.75 iterations,
	// times 14 days is 52.5, and a fifth on top 63. From 1 March on that is 3 May.
	p := pier(8, 10, 12)
	p.Items = []program.Item{work("A", 10, ""), work("B", 15, ""), {Key: "U", Team: "T", Kind: program.Story}, {Key: "N"}}
	s := forecast.Reckon(plan.Of(p), monday, []string{"A", "B", "U", "N"}, []string{"A", "B", "U"}, calendar.MustParse("2027-04-14"), forecast.Buffer{Share: 0.2})
	require.Len(t, s.Teams, 1)
	assert.Equal(t, forecast.SimpleTeam{Team: "T", Unit: program.Points, Items: 3, Unsized: 1, Mean: 12.5, Units: 37.5, Velocity: 10, Basis: capacity.Measured,
		Days: 14, Iterations: 3.75, TotalDays: 63, Done: calendar.MustParse("2027-05-03")}, s.Teams[0])
	assert.Equal(t, "2027-05-03", s.Done.String())
	// Until 14 April are 44 days: 10 ÷ 14 × 44 ÷ 1.2 = 26.2 units. A and B fit.
	assert.Equal(t, 2, s.Fits)
	assert.Equal(t, "B", s.After)
	p.Teams[0].Velocity, p.Teams[0].Iterations = nil, p.Teams[0].Iterations[3:]
	s = forecast.Reckon(plan.Of(p), monday, []string{"A"}, nil, 0, forecast.Buffer{})
	assert.True(t, s.Done.IsZero(), "no velocity, no date")
}

func TestTheOddsThatAnItemCanStart(t *testing.T) {
	// B stands in the second iteration and needs A, which is 9 and stands in the first, behind E, which is under way and
	// 1: both are done in time where that brings 10. C needs A and D; D has no team, so it is never done.
	p := pier(4, 10, 10, 16)
	p.Settings.SameIteration = program.ShareNever
	p.Items = []program.Item{work("A", 9, "e"), work("B", 1, "f"), work("C", 1, "g"), {Key: "D", Kind: program.Story}, work("E", 1, "f"), work("G", 1, "f")}
	p.Items[4].State, p.Items[4].Left = program.Doing, ptr(1)
	p.Needs = []program.Need{{Item: "B", Needs: "A"}, {Item: "C", Needs: "A"}, {Item: "C", Needs: "D"}, {Item: "E", Needs: "A"}, {Item: "G", Needs: "A", LagDays: 10}}
	starts := forecast.Starts(plan.Of(p), forecast.Options{Today: monday, Plays: 40_000, Seed: 3, Workers: 2})
	require.Len(t, starts, 3, "who has begun no longer waits")
	assert.Equal(t, "B", starts[0].Item)
	assert.Equal(t, "A", starts[0].Blocker)
	assert.InDelta(t, share([]float64{4, 10, 10, 16}, func(x, _ float64) bool { return x >= 10 }), starts[0].Chance, 0.01)
	assert.Equal(t, forecast.Start{Item: "C", Chance: 0, Blocker: "D", Odds: 0}, starts[1])
	assert.Equal(t, 0.0, starts[2].Chance, "the lag does not fit in between")
}

func BenchmarkFitLines5000Items(b *testing.B) {
	p := sample.Program(1, sample.Shape{Teams: 40, Iterations: 26, Items: 5000, Needs: 6000})
	var keys []string
	for i := range p.Items {
		keys = append(keys, p.Items[i].Key)
	}
	q := forecast.FitQuestion{Options: forecast.Options{Today: sample.Today, Plays: 500, Seed: 1, Workers: 2}, By: sample.Today.Add(120), Items: keys}
	b.Run("by a date", func(b *testing.B) {
		for b.Loop() {
			forecast.AnswerFit(plan.Of(p), q)
		}
	})
	q.When = keys
	b.Run("and when all is done", func(b *testing.B) {
		for b.Loop() {
			forecast.AnswerFit(plan.Of(p), q)
		}
	})
}
