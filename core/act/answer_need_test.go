package act_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/act"
	"jantrel/core/calendar"
	"jantrel/core/needs"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/roles"
)

// twoTeams are two teams, each with a lead: in April boats' item waits for quay's, of March.
func twoTeams(need program.Need) program.Program {
	team := func(key, lead string) program.Team {
		t := program.Team{Key: key, Name: key, Unit: program.Points, Members: []program.Member{{Person: lead, Share: 1}}}
		for month := range 2 {
			start := calendar.MustParse("2027-03-01").Add(31 * month)
			t.Iterations = append(t.Iterations, program.Iteration{Key: fmt.Sprint(key, month+1), Start: start, End: start.Add(27)})
		}
		return t
	}
	need.Item, need.Needs = "mooring", "crane"
	return program.Program{
		Today:    calendar.MustParse("2027-03-02"),
		Settings: program.Settings{SameIteration: program.ShareSameTeam, FillTo: 1},
		People:   []program.Person{{Key: "gil", Name: "Gil"}, {Key: "wei", Name: "Wei"}},
		Teams:    []program.Team{team("quay", "gil"), team("boats", "wei")},
		Items: []program.Item{
			{Key: "crane", Title: "Crane", Kind: program.Story, Team: "quay", Iteration: "quay1", State: program.Todo},
			{Key: "mooring", Title: "Mooring", Kind: program.Story, Team: "boats", Iteration: "boats2", State: program.Todo},
		},
		Needs: []program.Need{need},
	}.Normal()
}

// The table of docs/needs.md, written out once more: what each side may say to a need that is asked for, offered, agreed
// on or declined, and what that makes of it. What the plan wants, by 31 March, is what is agreed to without a day.
func TestWhoMaySayWhatToANeed(t *testing.T) {
	wanted, later := calendar.MustParse("2027-03-31"), calendar.MustParse("2027-04-11")
	states := map[program.Agreement]program.Need{
		program.Asked:    {Agreement: program.Asked},
		program.Offered:  {Agreement: program.Offered, Given: later, Why: "the crane is away"},
		program.Agreed:   {Agreement: program.Agreed, Given: wanted},
		program.Declined: {Agreement: program.Declined, Why: "no crane"},
	}
	says := map[act.Word]act.AnswerNeed{
		act.Ask: {Date: later}, act.Agree: {}, act.Offer: {Date: later, Why: "ebb"}, act.Accept: {Date: later}, act.Decline: {Why: "ebb"},
	}
	becomes := map[act.Word]program.Need{
		act.Ask:     {Agreement: program.Asked, Wanted: later},
		act.Agree:   {Agreement: program.Agreed, Given: wanted},
		act.Offer:   {Agreement: program.Offered, Given: later, Why: "ebb"},
		act.Accept:  {Agreement: program.Agreed, Given: later},
		act.Decline: {Agreement: program.Declined, Why: "ebb"},
	}
	// By who may say it: the giving side g, the waiting side w, nobody -.
	table := map[program.Agreement]map[act.Word]string{
		program.Asked:    {act.Ask: "w", act.Agree: "g", act.Offer: "g", act.Accept: "-", act.Decline: "g"},
		program.Offered:  {act.Ask: "w", act.Agree: "g", act.Offer: "g", act.Accept: "w", act.Decline: "g"},
		program.Agreed:   {act.Ask: "w", act.Agree: "-", act.Offer: "g", act.Accept: "-", act.Decline: "g"},
		program.Declined: {act.Ask: "w", act.Agree: "g", act.Offer: "g", act.Accept: "-", act.Decline: "g"},
	}
	turns := map[program.Agreement]needs.Side{program.Asked: needs.Gives, program.Offered: needs.Waits, program.Agreed: "", program.Declined: needs.Waits}
	leads := map[string]roles.Who{"g": {Role: roles.Lead, Person: "gil"}, "w": {Role: roles.Lead, Person: "wei"}}
	for state, row := range table {
		p := twoTeams(states[state])
		on := act.State{Plan: plan.Of(p), Today: p.Today}
		assert.Equal(t, turns[state], needs.OwedOf(on.Plan)[0].Turn, state)
		for word, by := range row {
			x := says[word]
			x.Item, x.Needs, x.Word = "mooring", "crane", word
			made, err := x.Plan(on)
			if by == "-" {
				assert.EqualError(t, err, map[act.Word]string{act.Accept: "nothing is offered that could be accepted", act.Agree: "it is agreed on already"}[word])
				continue
			}
			require.NoError(t, err)
			for side, who := range leads {
				err := roles.Check(p, who, made.Changes)
				// Who gives may accept for the other what they offered themselves: it is the day that they named.
				if word != act.Accept {
					assert.Equal(t, side == by, err == nil, "%s, %s by %s: %v", state, word, side, err)
				} else if side == by {
					assert.NoError(t, err)
				}
			}
			next, err := program.After(p, made.Changes)
			require.NoError(t, err)
			want := becomes[word]
			want.Item, want.Needs = "mooring", "crane"
			if word == act.Ask {
				want.Given = states[state].Given // what was offered last is still known
			}
			got := next.Needs[0]
			if word != act.Ask {
				got.Wanted = 0
			}
			assert.Equal(t, want, got, "%s, then %s", state, word)
		}
	}
}

func TestWhatCannotBeSaidToANeed(t *testing.T) {
	p := twoTeams(program.Need{Agreement: program.Offered, Given: calendar.MustParse("2027-04-11")})
	on := act.State{Plan: plan.Of(p), Today: p.Today}
	for _, c := range []struct {
		word act.Word
		date string
		why  string
		err  string
	}{
		{act.Decline, "", " ", "whoever declines says why"},
		{act.Offer, "", "", "an offer names a day"},
		{act.Offer, "2027-03-01", "", "1 Mar is over: name a day to come"},
		{act.Agree, "2027-04-09", "", "9 Apr is after the day that is asked for, 31 Mar: offer it"},
		{act.Accept, "2027-04-10", "", "11 Apr is what is offered by now"},
		{"shrug", "", "", `there is no word "shrug" on a need; say ask, agree, offer, accept or decline`},
	} {
		var date program.Date
		if c.date != "" {
			date = calendar.MustParse(c.date)
		}
		_, err := act.AnswerNeed{Item: "mooring", Needs: "crane", Word: c.word, Date: date, Why: c.why}.Plan(on)
		assert.EqualError(t, err, c.err)
	}
	_, err := act.AnswerNeed{Item: "mooring", Needs: "crane", Word: act.Agree}.Plan(act.State{Plan: on.Plan, Today: calendar.MustParse("2027-04-01")})
	assert.EqualError(t, err, "31 Mar, by which it is wanted, is over: offer a day to come")
	_, err = act.AnswerNeed{Item: "crane", Needs: "mooring", Word: act.Agree}.Plan(on)
	assert.EqualError(t, err, "crane does not need mooring any more")

	off := false
	p.Settings.Agreements = &off
	_, err = act.AnswerNeed{Item: "mooring", Needs: "crane", Word: act.Agree}.Plan(act.State{Plan: plan.Of(p), Today: p.Today})
	assert.ErrorContains(t, err, "in this program teams do not agree")
	owed := needs.OwedOf(plan.Of(p))[0]
	assert.Equal(t, []any{program.Agreed, needs.Side(""), false, program.Date(0)}, []any{owed.Agreement, owed.Turn, owed.Missed, owed.Given}, "nothing is open where nobody agrees")
	assert.Empty(t, needs.DatesToMeet(plan.Of(p), false))

	p = twoTeams(program.Need{})
	p.Items[0].Team, p.Items[0].Iteration = "boats", "boats1"
	_, err = act.AnswerNeed{Item: "mooring", Needs: "crane", Word: act.Agree}.Plan(act.State{Plan: plan.Of(p), Today: p.Today})
	assert.ErrorContains(t, err, "not work of two teams")
}
