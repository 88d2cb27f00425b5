package act_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/act"
	"jantrel/core/calendar"
	"jantrel/core/capacity"
	"jantrel/core/gate"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/sample"
)

// small is a team of Ada alone, with an agreed velocity of 20 and two-week iterations.
func small() program.Program {
	twenty := 20.0
	start := sample.Today
	return program.Program{
		Settings: program.Settings{FillTo: 1, SameIteration: program.ShareSameTeam}, Cadences: []program.Cadence{{Key: "two", Start: start, LengthDays: 14}},
		People: []program.Person{{Key: "ada", Name: "Ada"}, {Key: "ben", Name: "Ben"}},
		Teams: []program.Team{{
			Key: "A", Name: "Alpha", Unit: program.Points, Cadence: "two", Velocity: &twenty,
			Members:    []program.Member{{Person: "ada", Share: 1}},
			Iterations: []program.Iteration{{Key: "1", Start: start, End: start.Add(13), State: program.Planned}, {Key: "2", Start: start.Add(14), End: start.Add(27), State: program.Planned}},
		}},
	}
}

// after makes an intent and returns what comes of it, and the plan of it.
func after(t *testing.T, p program.Program, x act.Intent) (*plan.Plan, act.Plan) {
	t.Helper()
	made, err := x.Plan(stateOf(p))
	require.NoError(t, err)
	next, _, err := gate.Try(plan.Of(p), made.Changes)
	require.NoError(t, err)
	return next, made
}

func capacities(p *plan.Plan) []float64 {
	var all []float64
	for _, f := range capacity.Of(p)[0] {
		all = append(all, f.Capacity)
	}
	return all
}

func TestWhoJoinsLaterLowersNothingNow(t *testing.T) {
	second := sample.Today.Add(14)
	both := []program.Member{{Person: "ada", Share: 1}, {Person: "ben", Share: 1, From: second}}
	next, made := after(t, small(), act.SetMembers{Team: "A", Members: both})
	assert.Equal(t, []float64{20, 40}, capacities(next))
	assert.Nil(t, made.Ask, "a first day leaves no question")
	assert.InDelta(t, 5, *next.Teams[0].AgreedDays, 1e-9, "kept with the velocity")

	next, _ = after(t, next.Program, act.SetMembers{Team: "A", Members: both[1:]})
	assert.Equal(t, []float64{0, 20}, capacities(next), "who leaves takes away")

	next, _ = after(t, small(), act.AddPeople{Text: "Cleo Brandt, A 50% from " + second.String()})
	assert.Equal(t, []float64{20, 30}, capacities(next))
	next, _ = after(t, next.Program, act.Remove{Ref: program.Ref{Kind: program.KindPerson, Key: "ada"}})
	assert.Equal(t, []float64{0, 10}, capacities(next))
}

func TestWhoComesInWithoutAFirstDayIsAskedAbout(t *testing.T) {
	both := []program.Member{{Person: "ada", Share: 1}, {Person: "ben", Share: 1}}
	next, made := after(t, small(), act.SetMembers{Team: "A", Members: both})
	require.NotNil(t, made.Ask)
	assert.Equal(t, "joining", made.Ask.Field)
	assert.Contains(t, made.Ask.Text, "Alpha agreed on 20 points with 5 member-days a week")
	assert.Equal(t, []float64{40, 40}, capacities(next), "they add, unless said otherwise")

	next, made = after(t, small(), act.SetMembers{Team: "A", Members: both, Joining: act.Meant})
	assert.Equal(t, string(act.Meant), made.Ask.Answer)
	assert.Equal(t, []float64{20, 20}, capacities(next))
	next, _ = after(t, small(), act.AddPeople{Text: "Cleo Brandt, A", Joining: act.Meant})
	assert.Equal(t, []float64{20, 20}, capacities(next))

	_, err := act.SetMembers{Team: "A", Members: both, Joining: "soon"}.Plan(stateOf(small()))
	assert.ErrorContains(t, err, "soon")

	// A velocity that was agreed before anybody was there is that of whoever comes first.
	empty := small()
	empty.Teams[0].Members = nil
	next, made = after(t, empty, act.SetMembers{Team: "A", Members: both})
	assert.Nil(t, made.Ask)
	assert.Equal(t, []float64{20, 20}, capacities(next))
}

// A team of people without a share has no days that a velocity could be agreed for.
func TestATeamOfNoDaysTakesMembers(t *testing.T) {
	p := small()
	p.Teams[0].Members[0].Share = 0
	next, _ := after(t, p, act.SetMembers{Team: "A", Members: []program.Member{{Person: "ada", Share: 0}, {Person: "ben", Share: 1}}})
	assert.Nil(t, next.Teams[0].AgreedDays)
	assert.Equal(t, []float64{20, 20}, capacities(next))
}

func TestAVelocityIsAgreedForTheTeamOfTheDay(t *testing.T) {
	p := small()
	p.Teams[0].Members = append(p.Teams[0].Members, program.Member{Person: "ben", Share: 1, From: sample.Today.Add(14)})
	thirty, ten := 30.0, 10.0
	next, made := after(t, p, act.AgreeVelocity{Team: "A", Velocity: &thirty})
	assert.Equal(t, "Alpha agrees on 30 points", made.Label)
	assert.Equal(t, []float64{30, 60}, capacities(next))
	assert.Equal(t, sample.Today, next.Teams[0].AgreedOn)

	next, _ = after(t, next.Program, act.AgreeVelocity{Team: "A", Velocity: &thirty, Days: &ten})
	assert.Equal(t, []float64{15, 30}, capacities(next))

	next, _ = after(t, next.Program, act.AgreeVelocity{Team: "A"})
	assert.Nil(t, next.Teams[0].Velocity)
	assert.Nil(t, next.Teams[0].AgreedDays)
	assert.Equal(t, calendar.Date(0), next.Teams[0].AgreedOn)
	_, err := act.AgreeVelocity{Team: "X"}.Plan(stateOf(p))
	assert.ErrorContains(t, err, `no team "X"`)
}
