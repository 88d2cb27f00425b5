package intake_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/calendar"
	"jantrel/core/intake"
	"jantrel/core/program"
)

func TestReadPeople(t *testing.T) {
	p := program.Program{Teams: []program.Team{{Key: "LC"}, {Key: "TW"}}, People: []program.Person{{Key: "p01"}, {Key: "p03"}}}
	people, problems := intake.ReadPeople(`
Ingrid Oksanen, LC 100%, firmware, lead, off 2027-04-12..2027-04-23
Rui Figueira, lc 50%, TW 50 % from 2027-05-01 to 2027-06-30, 6 h, off 2027-05-03 dentist
open seat mobile, TW from 2027-06-01`, p)
	require.Empty(t, problems)
	require.Len(t, people, 3)
	day := calendar.MustParse
	assert.Equal(t, program.Person{Key: "p04", Name: "Ingrid Oksanen", Roles: []string{"firmware", "lead"}, DaysOff: []program.DayOff{{From: day("2027-04-12"), To: day("2027-04-23")}}}, withKey(people[0].Person, "p04"))
	assert.Equal(t, []string{"LC", "TW"}, people[1].Teams())
	assert.Equal(t, 0.5, people[1].Shares["LC"].Share)
	assert.Equal(t, day("2027-06-30"), people[1].Shares["TW"].To)
	assert.Equal(t, 6.0, people[1].HoursPerDay)
	assert.Equal(t, "dentist", people[1].DaysOff[0].Name)
	assert.True(t, people[2].OpenSeat)
	assert.Equal(t, 1.0, people[2].Shares["TW"].Share)
	keys := map[string]bool{"p01": true, "p03": true}
	for _, x := range people {
		assert.False(t, keys[x.Key], "keys are new: %s", x.Key)
		keys[x.Key] = true
		for _, m := range x.Shares {
			assert.Equal(t, x.Key, m.Person)
		}
	}
	_, problems = intake.ReadPeople("A, XX 50%\n, LC\nB, LC 120%\nC, off 2027-02-30\nD, LC, LC 20%\nE, 30 h\nF, LC from 2027-05-01 to 2027-04-01\nG, off 2027-05-05..2027-05-01", p)
	assert.Len(t, problems, 8)
	assert.Equal(t, "line 1", problems[0].Path)
	assert.Contains(t, problems[0].Text, `no team "XX"`)
}

func withKey(x program.Person, key string) program.Person {
	x.Key = key
	return x
}
