package capacity_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/calendar"
	"jantrel/core/capacity"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/sample"
)

func ptr(x float64) *float64 { return &x }

// crew is a team of four and a half: ten working days in each two-week iteration
// from 1 March 2027 (a Monday), 45 member-days in all.
func crew(unit program.Unit) program.Program {
	p := program.Program{Teams: []program.Team{{Key: "LC", Unit: unit, Velocity: ptr(45)}}}
	for i, share := range []float64{1, 1, 1, 1, 0.5} {
		key := string(rune('a' + i))
		p.People = append(p.People, program.Person{Key: key, Name: "Person " + key})
		p.Teams[0].Members = append(p.Teams[0].Members, program.Member{Person: key, Share: share})
	}
	span := calendar.Span{End: calendar.MustParse("2027-02-28")}
	for range 3 {
		span = calendar.NextIteration(span, 14)
		p.Teams[0].Iterations = append(p.Teams[0].Iterations, program.Iteration{Key: span.Start.String(), Start: span.Start, End: span.End})
	}
	return p
}

func TestAgreedVelocityTimesAvailability(t *testing.T) {
	p := crew(program.Points)
	// Two are away for the first week of the first iteration: 10 of 45 days.
	for i := range 2 {
		p.People[i].DaysOff = []program.DayOff{{From: calendar.MustParse("2027-03-01"), To: calendar.MustParse("2027-03-07")}}
	}
	// A public holiday in the second: 4.5 of 45 days.
	p.Holidays = []program.Holiday{{Date: calendar.MustParse("2027-03-19"), Name: "Lantern Day"}}
	got := capacity.Of(plan.Of(p))[0]
	assert.InDelta(t, 35, got[0].Capacity, 1e-9, "45 × 35/45")
	assert.InDelta(t, 40.5, got[1].Capacity, 1e-9, "45 × 40.5/45")
	assert.InDelta(t, 45, got[2].Capacity, 1e-9)
	assert.Equal(t, []capacity.Away{{Who: "Person a", Days: 5}, {Who: "Person b", Days: 5}}, got[0].Away)
	assert.Equal(t, []capacity.Away{{Who: "Lantern Day", Days: 4.5}}, got[1].Away)
	assert.Equal(t, capacity.Agreed, got[0].Basis)
}

func TestAHolidayOnADayOffCountsOnce(t *testing.T) {
	p := crew(program.Points)
	p.People[0].DaysOff = []program.DayOff{{From: calendar.MustParse("2027-03-01"), To: calendar.MustParse("2027-03-03")}}
	p.Holidays = []program.Holiday{{Date: calendar.MustParse("2027-03-02"), Name: "Lantern Day"}, {Date: calendar.MustParse("2027-03-03"), Name: "Not ours", Teams: []string{"XX"}}}
	// 45 − 4.5 for the holiday − 2 more days of the first person.
	assert.InDelta(t, 38.5, capacity.Of(plan.Of(p))[0][0].DaysWorked, 1e-9)
}

func TestTeamsThatSizeInTime(t *testing.T) {
	p := crew(program.Days)
	p.Teams[0].Focus = ptr(0.8)
	assert.InDelta(t, 36, capacity.Of(plan.Of(p))[0][0].Capacity, 1e-9, "45 days × 0.8; the velocity does not count")
	p.Teams[0].Unit = program.Hours
	p.People[4].HoursPerDay = 6
	assert.InDelta(t, (40*8+5*6)*0.8, capacity.Of(plan.Of(p))[0][0].Capacity, 1e-9)
	assert.Equal(t, capacity.Time, capacity.Of(plan.Of(p))[0][0].Basis)
}

func TestMeasuredVelocityIsPerDayWorked(t *testing.T) {
	p := crew(program.Points)
	its := p.Teams[0].Iterations
	p.Teams[0].Velocity = nil
	its[0].State, its[0].Completed = program.Closed, ptr(45) // 1 a day
	its[1].State, its[1].Completed = program.Closed, ptr(20)
	for i := range 5 { // only half of the days of the second were worked: 20 of 22.5
		p.People[i].DaysOff = []program.DayOff{{From: calendar.MustParse("2027-03-15"), To: calendar.MustParse("2027-03-19")}}
	}
	got := capacity.Of(plan.Of(p))[0]
	assert.InDelta(t, (1+20/22.5)/2*45, got[2].Capacity, 1e-9)
	assert.Equal(t, capacity.Measured, got[2].Basis)
}

func TestByHandWinsAndNothingToGoByIsZero(t *testing.T) {
	p := crew(program.Points)
	p.Teams[0].Iterations[0].Capacity = ptr(12)
	p.Teams[0].Velocity = nil
	got := capacity.Of(plan.Of(p))[0]
	assert.Equal(t, capacity.ByHand, got[0].Basis)
	assert.Equal(t, 12.0, got[0].Capacity)
	assert.Equal(t, capacity.Unknown, got[1].Basis)
	assert.Zero(t, got[1].Capacity)
}

func TestATeamWithoutMembersWorksMondayToFriday(t *testing.T) {
	p := crew(program.Points)
	p.Teams[0].Members = nil
	p.Holidays = []program.Holiday{{Date: calendar.MustParse("2027-03-05"), Name: "Lantern Day"}}
	assert.InDelta(t, 40.5, capacity.Of(plan.Of(p))[0][0].Capacity, 1e-9, "45 × 9/10")
}

func TestNobodyBeingAwayNeverLowersCapacity(t *testing.T) {
	for seed := range uint64(40) {
		p := sample.Program(seed, sample.Shape{Teams: 3, Iterations: 5, Items: 3, Wild: true})
		before := capacity.Of(plan.Of(p))
		p.Holidays = nil
		for i := range p.People {
			p.People[i].DaysOff = nil
		}
		for team, figures := range capacity.Of(plan.Of(p)) {
			for i, f := range figures {
				if f.Basis != capacity.Measured {
					require.GreaterOrEqual(t, f.Capacity, before[team][i].Capacity-1e-9)
				}
				require.GreaterOrEqual(t, f.DaysFull, f.DaysWorked)
			}
		}
	}
}
