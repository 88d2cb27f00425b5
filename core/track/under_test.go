package track_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"

	"jantrel/core/calendar"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/track"
)

func day(text string) program.Date { return calendar.MustParse(text) }

func TestWhichIterationIsUnderWay(t *testing.T) {
	for say, c := range map[string]struct {
		states [3]program.IterationState
		today  string
		want   int
	}{
		"the open one":                        {[3]program.IterationState{program.Closed, program.Open, ""}, "2027-03-20", 1},
		"the open one before that of today":   {[3]program.IterationState{program.Open, "", ""}, "2027-03-02", 0},
		"that of today":                       {[3]program.IterationState{"", "", ""}, "2027-03-02", 1},
		"the first that is over":              {[3]program.IterationState{"", "", program.Closed}, "2027-03-20", 0},
		"the next one":                        {[3]program.IterationState{program.Closed, program.Closed, ""}, "2027-03-02", 2},
		"none where all are closed":           {[3]program.IterationState{program.Closed, program.Closed, program.Closed}, "2027-03-02", -1},
		"one that was opened before its time": {[3]program.IterationState{program.Closed, program.Closed, program.Open}, "2027-03-02", 2},
	} {
		team := lamp().Teams[0]
		for i := range team.Iterations {
			team.Iterations[i].State = c.states[i]
		}
		at, ok := track.UnderWay(&team, day(c.today))
		assert.Equal(t, c.want, at, say)
		assert.Equal(t, c.want >= 0, ok, say)
	}
}

// 4 items by Friday, of which 1 was done before; Ann is away on Wednesday the 3rd, and Bo works half
// of each day.
func TestTheIdealLineOfARelease(t *testing.T) {
	p := lamp()
	p.People = []program.Person{{Key: "ann", Name: "Ann", DaysOff: []program.DayOff{{From: day("2027-03-03"), To: day("2027-03-03")}}}, {Key: "bo", Name: "Bo"}}
	p.Teams[0].Members = []program.Member{{Person: "ann", Share: 1}}
	p.Teams = append(p.Teams, program.Team{Key: "FW", Name: "Field Works", Unit: program.Days, Members: []program.Member{{Person: "bo", Share: 0.5}}})
	run := track.Run{From: track.Midnight(day("2027-03-01"), time.UTC), Start: track.Sum{Items: 4, Size: 18}, DoneBefore: track.Sum{Items: 1, Size: 2}, Hours: track.Hours{Start: 8}}
	both := track.IdealOf(plan.Of(p), []int{0, 1}, &run, day("2027-03-05"))
	// Member-days: 1.5, 1.5, 0.5, 1.5, 1.5 of 6.5.
	assert.Equal(t, track.Point{Day: day("2027-02-28"), Left: 3, Hours: 8}, both[0])
	assert.InDelta(t, 3*(1-3.5/6.5), both[3].Left, 1e-9, "in items")
	assert.InDelta(t, 0, both[5].Left, 1e-9)
	run.Team = "LC"
	one := track.IdealOf(plan.Of(p), []int{0}, &run, day("2027-03-05"))
	assert.InDelta(t, 8, one[2].Left, 1e-9, "two of Ann's four days: half of 16 points")
	assert.InDelta(t, 8, one[3].Left, 1e-9, "she is away")
	assert.Empty(t, track.IdealOf(plan.Of(p), []int{0}, &run, day("2027-02-20")))
	assert.Empty(t, track.IdealOf(plan.Of(p), []int{0}, &run, 0))
	assert.Empty(t, track.IdealOf(plan.Of(p), []int{0}, &run, day("2047-02-20")))
}

// One person works Monday to Friday but for Wednesday the 3rd: nine days, of which two are over
// by Wednesday. 18 points at an even pace are 2 a day.
func TestThePaceOfAnIteration(t *testing.T) {
	p := lamp()
	p.People = []program.Person{{Key: "ann", Name: "Ann", DaysOff: []program.DayOff{{From: day("2027-03-03"), To: day("2027-03-03")}}}}
	p.Teams[0].Members = []program.Member{{Person: "ann", Share: 1}}
	start := track.Sum{Items: 4, Size: 20}
	run := track.Run{Team: "LC", Iteration: "LC10", Start: start, DoneBefore: track.Sum{Items: 1, Size: 2}, Hours: track.Hours{Start: 36}}
	// Of ten days, two or so before: 30 % of 10 points done by the end of the second.
	before := track.Run{Team: "LC", Iteration: "LC9", Start: track.Sum{Items: 3, Size: 10}, From: track.Midnight(day("2027-02-15"), time.UTC), Steps: []track.Step{
		{At: time.Date(2027, 2, 16, 15, 0, 0, 0, time.UTC), Done: track.Sum{Items: 1, Size: 3}},
		{At: time.Date(2027, 2, 17, 15, 0, 0, 0, time.UTC), Done: track.Sum{Items: 2, Size: 9}},
	}}
	pace := track.PaceOf(plan.Of(p), 0, 1, day("2027-03-03"), &run, []track.Run{before})
	assert.Len(t, pace.Days, 9)
	assert.Equal(t, 2, pace.Gone)
	assert.Equal(t, track.Point{Day: day("2027-02-28"), Left: 18, Hours: 36}, pace.Ideal[0])
	assert.InDelta(t, 14, pace.Ideal[3].Left, 1e-9, "Wednesday: nobody works")
	assert.InDelta(t, 12, pace.Ideal[4].Left, 1e-9)
	assert.InDelta(t, 24, pace.Ideal[4].Hours, 1e-9)
	assert.InDelta(t, 0, pace.Ideal[14].Left, 1e-9)
	assert.Equal(t, &track.Usual{Share: 0.3, Of: 1}, pace.Usual)
	before.From = before.From.Add(30 * time.Hour)
	assert.Nil(t, track.PaceOf(plan.Of(p), 0, 1, day("2027-03-03"), &run, []track.Run{before}).Usual, "the journal begins within it")
}
