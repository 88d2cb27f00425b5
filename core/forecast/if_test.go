package forecast_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/stat"

	"jantrel/core/calendar"
	"jantrel/core/forecast"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/sample"
)

// What would be otherwise, as docs/forecast.md tells: a team of two does 10 an iteration and has 20 to do.
func TestWhatIfPeopleAndItemsWereOthers(t *testing.T) {
	p := pier(10, 10, 10)
	p.Items = []program.Item{work("A", 10, "d"), work("B", 10, "e"), work("C", 5, "")}
	p.Items[2].Release = ""
	p.People = []program.Person{{Key: "ann", Name: "Ann"}, {Key: "bo", Name: "Bo"}}
	p.Teams[0].Members = []program.Member{{Person: "ann", Share: 1}, {Person: "bo", Share: 1}}
	lands := func(with forecast.If) string {
		with.ScopeOf = forecast.Set{Release: "R"}
		return forecast.Play(plan.Of(p), forecast.Options{Today: monday, Plays: 20, Seed: 1, If: with}).Releases[0].At(50).String()
	}
	second := calendar.MustParse("2027-03-15")
	assert.Equal(t, "2027-03-26", lands(forecast.If{}))
	assert.Equal(t, "2027-03-19", lands(forecast.If{More: []forecast.Joined{{Team: "T", Share: 2, From: second}}}), "20 in the second iteration")
	assert.Equal(t, "2027-04-09", lands(forecast.If{Away: []forecast.Left{{Person: "bo", From: second}}}), "5 in the second and the third")
	assert.Equal(t, "2027-03-29", lands(forecast.If{Away: []forecast.Left{{Person: "bo", From: second, To: second.Add(1)}}}), "of 20 days two fewer")
	assert.Equal(t, "2027-03-12", lands(forecast.If{Out: []string{"B"}}))
	assert.Equal(t, "2027-04-02", lands(forecast.If{In: []string{"C"}}))
	assert.Equal(t, "2027-04-09", lands(forecast.If{Begin: second}))

	for why, with := range map[string]forecast.If{
		`there is no team "X"`:   {More: []forecast.Joined{{Team: "X", Share: 1, From: monday}}},
		`there is no person "x"`: {Away: []forecast.Left{{Person: "x", From: monday}}},
		"there is no item X":     {Out: []string{"X"}},
		"who joins a team does so from a day on, with a share above 0 and at most 20":  {More: []forecast.Joined{{Team: "T", Share: 1}}},
		"who is away is so from a day on, to one that is not before it":                {Away: []forecast.Left{{Person: "bo", From: second, To: monday}}},
		"3 iterations count at the least, not 2: fewer tell nothing of how paces vary": {Last: 2},
		"paces are drawn up to 5 times as far from their mean, not 9":                  {Spread: 9},
		"200 things may be otherwise at once, not more":                                {Out: make([]string, 201)},
	} {
		assert.EqualError(t, with.Check(plan.Of(p)), why)
	}
}

// What is asked about is what would be, were the plan so: of any program.
func TestWhatIfIsWhatWouldBe(t *testing.T) {
	const person = "ann"
	crewed := func(seed uint64) program.Program {
		p := sample.Program(seed, sample.Shape{Teams: 3, Iterations: 8, Items: 40, Needs: 20})
		p.People = append(p.People, program.Person{Key: person, Name: "Ann"}, program.Person{Key: "bo", Name: "Bo"})
		for t := range p.Teams {
			p.Teams[t].Members = append(p.Teams[t].Members, program.Member{Person: person, Share: 0.3}, program.Member{Person: "bo", Share: 0.3})
		}
		return p
	}
	for seed := range sample.Seeds(20) {
		p := crewed(seed)
		o := forecast.Options{Today: p.Today, Plays: 60, Seed: seed}
		release := p.Releases[0].Key
		team, from := p.Teams[1].Key, p.Today.Add(9)
		var out string
		for i := range p.Items {
			if pl := plan.Of(p); pl.Tree().ToSchedule(i) {
				out = p.Items[i].Key
			}
		}
		cases := map[string]struct {
			with   forecast.If
			change func(*program.Program)
		}{
			"away": {forecast.If{Away: []forecast.Left{{Person: person, From: from, To: from.Add(30)}}}, func(p *program.Program) {
				for i := range p.People {
					if p.People[i].Key == person {
						p.People[i].DaysOff = append(p.People[i].DaysOff, program.DayOff{From: from, To: from.Add(30)})
					}
				}
			}},
			"more": {forecast.If{More: []forecast.Joined{{Team: team, Share: 0.5, From: from}}}, func(p *program.Program) {
				p.People = append(p.People, program.Person{Key: "more", Name: "More"})
				p.Teams[1].Members = append(p.Teams[1].Members, program.Member{Person: "more", Share: 0.5, From: from})
			}},
			"out": {forecast.If{Out: []string{out}}, func(p *program.Program) {
				for i := range p.Items {
					p.Items[i].KeptOut = p.Items[i].KeptOut || p.Items[i].Key == out
				}
			}},
			"spread": {forecast.If{Spread: 1.5}, func(p *program.Program) { p.Settings.Spread = 1.5 * p.Settings.PaceSpread() }},
		}
		for name, c := range cases {
			with, changed := o, crewed(seed)
			with.If = c.with
			with.If.ScopeOf = forecast.Set{Release: release}
			c.change(&changed)
			require.NoError(t, with.If.Check(plan.Of(p)))
			assert.Equal(t, forecast.Play(plan.Of(changed), o), forecast.Play(plan.Of(p), with), "%d %s", seed, name)
		}
		assert.Equal(t, crewed(seed), p, "the plan stays as it is")
	}
}

// Fewer of the past iterations count, and paces lie further apart about the same mean.
func TestWhatIfThePastCountedOtherwise(t *testing.T) {
	p := pier(2, 2, 2, 8, 10, 12)
	p.Items = []program.Item{work("A", 10, "g"), work("B", 10, "h")}
	days := func(with forecast.If) (list []float64) {
		o := forecast.OutlookOf(plan.Of(p), forecast.OutlookQuestion{Options: forecast.Options{Today: monday, Plays: 2000, Seed: 1, If: with}, Set: forecast.Set{Release: "R", Due: monday}})
		for _, odds := range []int{10, 50, 95} {
			list = append(list, float64(o.Landing.At(odds)-monday))
		}
		return list
	}
	all, latest := days(forecast.If{}), days(forecast.If{Last: 3})
	assert.Greater(t, all[1], latest[1], "the three slow ones do not count")
	assert.Equal(t, days(forecast.If{Last: 6}), all)
	wider := days(forecast.If{Last: 3, Spread: 3})
	assert.Greater(t, wider[2]-wider[0], latest[2]-latest[0])
	assert.InDelta(t, latest[1], wider[1], 7, "about the same middle")
	assert.Less(t, stat.Mean(latest, nil), stat.Mean(wider, nil), "late costs more days than early gains")

}
