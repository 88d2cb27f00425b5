package forecast_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/forecast"
	"jantrel/core/plan"
	"jantrel/core/program"
)

// told makes edits one after another and returns the program with what a fold over them knows.
func told(t *testing.T, p program.Program, changes ...program.Change) (program.Program, *forecast.SizeFold) {
	t.Helper()
	fold := &forecast.SizeFold{}
	for _, c := range changes {
		next, applied, err := program.ApplyAll(p, []program.Change{c})
		require.NoError(t, err)
		fold.Take(applied)
		p = next
	}
	return p, fold
}

func set(key, field string, value any) program.Change {
	return program.SetTo(program.Ref{Kind: program.KindItem, Key: key}, field, value)
}

func TestWhatSizesTurnedOutAs(t *testing.T) {
	p := pier(10, 10, 10)
	p.Items = []program.Item{work("A", 4, "d"), work("B", 5, "d"), work("C", 5, "d"), work("D", 5, "d"), work("E", 5, "d")}
	p, fold := told(t, p,
		set("A", "size", 2),        // before work began: does not count
		set("A", "state", "doing"), // at 2
		set("A", "size", 3),
		set("A", "size", 5),
		set("A", "state", "review"),
		set("A", "state", "done"), // at 5: 2.5 times
		set("B", "state", "done"), // never under way: tells nothing
		set("C", "state", "doing"),
		set("C", "state", "done"), // as large as it was
		set("D", "state", "doing"),
		set("D", "size", 8),
		set("D", "state", "todo"), // given back
		set("D", "state", "doing"),
		set("D", "state", "done"), // at 8, as the second time
		set("E", "state", "doing"),
		set("E", "size", 9), // not done yet
	)
	assert.Equal(t, forecast.SizeFactors{"T": {2.5, 1, 1}}, fold.Factors(plan.Of(p)))
}

// Ten items turned out half as large again; so does what is to come: 10 points are played as 15,
// which take one and a half iterations. Switched off, or with nine that tell, they are 10.
func TestSizesArePlayedAsTheyTurnedOut(t *testing.T) {
	p := pier(10, 10, 10)
	p.Items = []program.Item{work("A", 10, "d")}
	lands := func(p program.Program, n int) (string, *forecast.Turned) {
		past := forecast.Past{Turned: forecast.SizeFactors{"T": {}}}
		for range n {
			past.Turned["T"] = append(past.Turned["T"], 1.5)
		}
		f := forecast.Play(plan.Of(p), forecast.Options{Today: monday, Plays: 50, Seed: 1, Past: past})
		assert.Zero(t, f.Releases[0].Sampled, "its size is known")
		return f.Releases[0].At(50).String(), f.Teams[0].Turned
	}
	day, said := lands(p, 10)
	assert.Equal(t, "2027-03-19", day)
	assert.Equal(t, &forecast.Turned{Items: 10, Mean: 1.5, Applied: true}, said)
	day, said = lands(p, 9)
	assert.Equal(t, "2027-03-12", day)
	assert.False(t, said.Applied)
	p.Items[0].State, p.Items[0].Began = program.Doing, monday
	day, _ = lands(p, 10)
	assert.Equal(t, "2027-03-12", day, "what has begun has what it has")
	p.Items[0].State, p.Settings.Turned = program.Todo, new(bool)
	day, said = lands(p, 10)
	assert.Equal(t, "2027-03-12", day)
	assert.False(t, said.Applied)
	_, said = lands(p, 0)
	assert.Nil(t, said)
}

// Each item draws its own factor, so that much of it evens out.
func TestFactorsAreDrawnForEachItem(t *testing.T) {
	p := pier(10, 10, 10)
	for i := range 10 {
		p.Items = append(p.Items, work(fmt.Sprint(i), 1, "d"))
	}
	past := forecast.Past{Turned: forecast.SizeFactors{"T": {0.5, 0.5, 0.5, 0.5, 0.5, 1.5, 1.5, 1.5, 1.5, 1.5}}}
	f := forecast.Play(plan.Of(p), forecast.Options{Today: monday, Plays: 1000, Seed: 1, Past: past})
	one := program.Program(p)
	one.Items = []program.Item{work("A", 10, "d")}
	whole := forecast.Play(plan.Of(one), forecast.Options{Today: monday, Plays: 1000, Seed: 1, Past: past})
	assert.Less(t, int(f.Releases[0].At(95)-f.Releases[0].At(10)), int(whole.Releases[0].At(95)-whole.Releases[0].At(10)))
}
