package health_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"

	"jantrel/core/attention"
	"jantrel/core/calendar"
	"jantrel/core/health"
	"jantrel/core/program"
	"jantrel/core/track"
)

var today = calendar.MustParse("2027-03-12")

func at(day string) time.Time {
	return track.Midnight(calendar.MustParse(day), time.UTC).Add(10 * time.Hour)
}

func sum(items int, size float64) track.Sum { return track.Sum{Items: items, Size: size} }

// Lamp Control finished A (5 points) and B (3) in the week up to the 5th, and in the one after C (2), while
// B was opened again: 2 − 3 points.
func lamp() track.Run {
	return track.Run{Team: "LC", From: at("2027-02-20"), Start: sum(4, 12), DoneBefore: sum(1, 2), Total: sum(5, 16), Done: sum(3, 9), Left: sum(2, 7), Steps: []track.Step{
		{At: at("2027-03-01"), What: track.Finished, Total: sum(4, 12), Done: sum(2, 7)},
		{At: at("2027-03-05"), What: track.Finished, Total: sum(4, 12), Done: sum(3, 10)},
		{At: at("2027-03-06"), What: track.Added, Total: sum(5, 16), Done: sum(3, 10)},
		{At: at("2027-03-09"), What: track.Reopened, Total: sum(5, 16), Done: sum(2, 7)},
		{At: at("2027-03-10"), What: track.Finished, Total: sum(5, 16), Done: sum(3, 9)},
	}}
}

func TestTeamsStandAsTheirCallsAndWeeksSay(t *testing.T) {
	entries := []attention.Entry{
		{Kind: program.CallBlocked, Team: "LC"}, {Kind: program.CallBroken, Team: "TW", Another: "LC"}, {Kind: program.CallBlocked, Team: "LC"},
		{Kind: program.CallBlocked, Team: "LC", Off: &program.Snooze{}}, {Kind: program.CallRisk},
	}
	p := program.Program{Teams: []program.Team{{Key: "LC"}, {Key: "TW"}}}
	teams := health.Teams(p, today, entries, []track.Run{lamp()})
	assert.Equal(t, []health.Count{{Kind: program.CallBlocked, Count: 2}, {Kind: program.CallBroken, Count: 1}}, teams[0].Calls)
	assert.Equal(t, []track.Weekly{
		{End: today.Add(-14), Total: sum(4, 12), Done: sum(1, 2)},
		{End: today.Add(-7), Total: sum(4, 12), Done: sum(3, 10), Finished: sum(2, 8)},
		{End: today, Total: sum(5, 16), Done: sum(3, 9), Finished: sum(0, -1)},
	}, teams[0].Weeks, "the week in which the run began is not told")
	assert.Equal(t, []health.Count{{Kind: program.CallBroken, Count: 1}}, teams[1].Calls)
	assert.Empty(t, teams[1].Weeks)
}

func TestAReleaseStandsAsWhatItCosts(t *testing.T) {
	run := lamp()
	entries := []attention.Entry{
		{Release: "R1", Cost: 1.5}, {Release: "R2", Cost: 3}, {Release: "R1", Cost: 0.25}, {Release: "R1", Cost: 9, Off: &program.Snooze{}},
	}
	r := health.ReleaseOf("R1", today, entries, &run)
	assert.Equal(t, []any{2, 1.75, 5, 3}, []any{r.Calls, r.Days, r.Items, r.Done})
	assert.Len(t, r.Weeks, 3)
}
