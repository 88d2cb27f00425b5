package people_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/calendar"
	"jantrel/core/people"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/sample"
)

func day(text string) program.Date { return calendar.MustParse(text) }

// crew has Ann, who is in A with half and in B with 70 % from May to July, and Bo,
// a firmware person with 40 % in A.
func crew() program.Program {
	return program.Program{
		People: []program.Person{{Key: "ann", Name: "Ann"}, {Key: "bo", Name: "Bo", Roles: []string{"firmware"}}, {Key: "seat", Name: "Open seat", OpenSeat: true, Roles: []string{"firmware"}}},
		Teams: []program.Team{
			{Key: "A", Members: []program.Member{{Person: "ann", Share: 0.5}, {Person: "bo", Share: 0.4}}},
			{Key: "B", Members: []program.Member{{Person: "ann", Share: 0.7, From: day("2027-05-03"), To: day("2027-07-30"), Roles: []string{"Lead"}}}},
		},
		Holidays: []program.Holiday{{Date: day("2027-04-14"), Name: "Lantern Day"}, {Date: day("2027-04-15"), Name: "B's", Teams: []string{"B"}}},
	}
}

func TestTooMuchIsFlaggedWithTeamsAndDays(t *testing.T) {
	got := people.Commitments(crew(), day("2027-03-01"))
	require.Len(t, got[0].TooMuch, 1)
	assert.Equal(t, people.Stretch{From: day("2027-05-03"), To: day("2027-07-30"), Held: []people.Held{{Team: "A", Share: 0.5}, {Team: "B", Share: 0.7}}, Sum: 1.2}, got[0].TooMuch[0])
	assert.InDelta(t, -0.2, got[0].Left, 1e-9)
	assert.InDelta(t, 0.6, got[1].Left, 1e-9)
	assert.InDelta(t, 1, got[2].Left, 1e-9)
	got = people.Commitments(crew(), day("2027-08-01"))
	assert.Empty(t, got[0].TooMuch, "it is over")
	assert.InDelta(t, 0.5, got[0].Left, 1e-9)
}

func TestSharesOneAfterAnotherAreNotTooMuch(t *testing.T) {
	p := crew()
	p.Teams[0].Members[0].To = day("2027-05-02")
	p.Teams[0].Members[0].Share = 1
	assert.Empty(t, people.Commitments(p, day("2027-03-01"))[0].TooMuch)
}

// Who with firmware has 5 free days between 12 April and 7 May?
func TestFind(t *testing.T) {
	p := crew()
	p.People[1].DaysOff = []program.DayOff{{From: day("2027-04-26"), To: day("2027-04-30")}}
	wanted := people.Wanted{Role: "Firmware", From: day("2027-04-12"), To: day("2027-05-07"), Days: 5}
	got := people.Find(plan.Of(p), wanted)
	require.Len(t, got, 1)
	// 20 weekdays − 1 holiday − 5 off = 14, of which 60 % are free.
	assert.Equal(t, "bo", got[0].Person)
	assert.Equal(t, 14, got[0].Working)
	assert.InDelta(t, 8.4, got[0].Days, 1e-9)
	assert.Equal(t, []people.Gap{{From: day("2027-04-12"), To: day("2027-04-13"), Left: 0.6}, {From: day("2027-04-15"), To: day("2027-04-23"), Left: 0.6}, {From: day("2027-05-03"), To: day("2027-05-07"), Left: 0.6}}, got[0].When)
	wanted.Open = true
	assert.Len(t, people.Find(plan.Of(p), wanted), 2)
	wanted.Days = 9
	assert.Len(t, people.Find(plan.Of(p), wanted), 1, "the open seat has 19")
	got = people.Find(plan.Of(p), people.Wanted{Role: "lead", Team: "B", From: day("2027-04-12"), To: day("2027-05-07")})
	require.Len(t, got, 1)
	assert.InDelta(t, 7, got[0].Days, 1e-9, "14 days of April with half of her, none in May")
	assert.Empty(t, people.Find(plan.Of(p), people.Wanted{Role: "boat", From: day("2027-04-12"), To: day("2027-05-07")}))
}

// What a team holds and has nothing placed for may count as free.
func TestFindIdle(t *testing.T) {
	p := crew()
	five, twenty := 5.0, 20.0
	p.Teams[0].Unit, p.Teams[0].Velocity = program.Points, &twenty
	p.Teams[0].Iterations = []program.Iteration{{Key: "1", Start: day("2027-04-19"), End: day("2027-04-30")}}
	p.Items = []program.Item{{Key: "x", Team: "A", Iteration: "1", Assignee: "bo", Size: &five}}
	got := people.Find(plan.Of(p), people.Wanted{Role: "firmware", From: day("2027-04-19"), To: day("2027-05-07"), Idle: true})
	require.Len(t, got, 1)
	// Bo's part of 20 is 20 × 0.4 ÷ 0.9 = 8.89, of which 5 are placed: 0.4 × 5 ÷ 8.89 = 0.225 of each of 10 days is held; of the 5 after, for which there is no iteration, all of 0.4.
	assert.InDelta(t, 10*(1-0.225)+5*0.6, got[0].Days, 1e-9)
	require.Len(t, got[0].When, 2)
	assert.InDelta(t, 0.775, got[0].When[0].Left, 1e-9)
}

func TestRefreshTellsNewMovedAndGone(t *testing.T) {
	off := func(uid, from, to string) program.DayOff {
		return program.DayOff{From: day(from), To: day(to), UID: uid}
	}
	now := []program.DayOff{
		off("same", "2027-04-01", "2027-04-02"), off("moved", "2027-05-01", "2027-05-05"), off("gone", "2027-06-01", "2027-06-01"),
		off("old", "2020-06-01", "2020-06-01"), off("", "2027-07-01", "2027-07-02"), off("", "2027-08-01", "2027-08-02"),
	}
	events := []program.DayOff{
		off("same", "2027-04-01", "2027-04-02"), off("moved", "2027-05-02", "2027-05-06"), off("new", "2027-09-01", "2027-09-01"), off("typed", "2027-08-01", "2027-08-02"),
	}
	r := people.Refresh(now, events, calendar.Span{Start: day("2026-01-01"), End: day("2028-01-01")})
	assert.Equal(t, 1, r.Same)
	assert.Equal(t, []people.Moved{{Before: now[1], After: events[1]}}, r.Moved)
	assert.Equal(t, []program.DayOff{now[2]}, r.Gone)
	assert.Equal(t, []program.DayOff{events[2], events[3]}, r.New)
	assert.Equal(t, []program.DayOff{now[3], events[0], events[1], now[4], events[3], events[2]}, r.DaysOff, "by hand and out of the window stays")
	again := people.Refresh(r.DaysOff, events, calendar.Span{Start: day("2026-01-01"), End: day("2028-01-01")})
	assert.False(t, again.Changes(), "the same calendar changes nothing twice")
}

func TestHolidaysOfACalendar(t *testing.T) {
	now := []program.Holiday{{Date: day("2027-05-03"), Name: "Lantern Day"}, {Date: day("2027-05-04"), Name: "A's", Teams: []string{"A"}}}
	all, fresh := people.Holidays(now, []program.DayOff{{From: day("2027-05-03"), To: day("2027-05-05"), Name: "Three days"}})
	assert.Equal(t, []program.Holiday{{Date: day("2027-05-04"), Name: "Three days"}, {Date: day("2027-05-05"), Name: "Three days"}}, fresh)
	assert.Len(t, all, 4)
}

// Whoever is in the program: what is held on a day is held in one stretch, and
// nobody has more free days than working days.
func TestFreeDaysNeverPassWorkingDays(t *testing.T) {
	for seed := range uint64(50) {
		p := sample.Program(seed, sample.Shape{Teams: 4, Iterations: 4, Items: 3, Wild: true})
		for _, f := range people.Find(plan.Of(p), people.Wanted{From: sample.Today, To: sample.Today.Add(60), Open: true}) {
			require.LessOrEqual(t, f.Days, float64(f.Working)+1e-9)
			require.GreaterOrEqual(t, f.Days, 0.0)
		}
		for _, c := range people.Commitments(p, sample.Today) {
			require.InDelta(t, 1, c.Left+c.Most, 1e-9)
			for _, s := range c.TooMuch {
				require.Greater(t, s.Sum, 1.0)
			}
		}
	}
}
