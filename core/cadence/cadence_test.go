package cadence_test

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/cadence"
	"jantrel/core/calendar"
	"jantrel/core/program"
	"jantrel/core/sample"
)

func day(text string) program.Date { return calendar.MustParse(text) }

func number(x float64) *float64 { return &x }

// today is the Tuesday of the second week of A·2, which is open.
var today = day("2027-03-23")

// harbour has one team, A, in two-week iterations from 1 March: A·1 is closed,
// A·2 open, A·3 and A·4 lie ahead.
func harbour() program.Program {
	p := program.Program{
		Cadences: []program.Cadence{{Key: "two", Start: day("2027-03-01"), LengthDays: 14, Ahead: 2, CarryOver: true}, {Key: "three", Start: day("2027-03-01"), LengthDays: 21, Ahead: 2}},
		Teams:    []program.Team{{Key: "A", Name: "Team A", Unit: program.Points, Cadence: "two"}},
	}.Normal()
	span := calendar.Span{End: day("2027-02-28")}
	for i, state := range []program.IterationState{program.Closed, program.Open, program.Planned, program.Planned} {
		span = calendar.NextIteration(span, 14)
		p.Teams[0].Iterations = append(p.Teams[0].Iterations, program.Iteration{
			Key: "A-i" + string(rune('1'+i)), Name: "A·" + string(rune('1'+i)), Start: span.Start, End: span.End, State: state})
	}
	item := func(key string, size float64, state program.ItemState) program.Item {
		return program.Item{Key: key, Title: key, Kind: program.Story, Team: "A", Size: number(size), State: state, Iteration: "A-i2"}
	}
	p.Items = []program.Item{item("x", 5, program.Done), item("y", 3, program.Doing), item("z", 2, program.Todo)}
	return p
}

func apply(t *testing.T, p program.Program, changes []program.Change, err error) program.Program {
	t.Helper()
	require.NoError(t, err)
	next, applied, err := program.ApplyAll(p, changes)
	require.NoError(t, err)
	require.NoError(t, cadence.Refuse(next, p))
	back, _, err := program.ApplyAll(next, program.Inverses(applied))
	require.NoError(t, err)
	before, _ := json.Marshal(p)
	after, _ := json.Marshal(back)
	require.Equal(t, string(before), string(after), "it can be undone")
	return next
}

// shape writes a team's iterations as "A·1 01.03–14.03".
func shape(p program.Program) (list []string) {
	for _, it := range p.Teams[0].Iterations {
		list = append(list, it.Name+" "+it.Start.Time().Format("02.01")+"–"+it.End.Time().Format("02.01"))
	}
	return list
}

func TestKeepMakesWhatLiesAhead(t *testing.T) {
	p := harbour()
	assert.Empty(t, cadence.Keep(p, today))
	later := apply(t, p, cadence.Keep(p, day("2027-03-29")), nil)
	assert.Equal(t, []string{"A·1 01.03–14.03", "A·2 15.03–28.03", "A·3 29.03–11.04", "A·4 12.04–25.04", "A·5 26.04–09.05"}, shape(later))
	p.Teams[0].Iterations = nil
	p.Items = nil
	fresh := apply(t, p, cadence.Keep(p, today), nil)
	assert.Equal(t, []string{"A·1 15.03–28.03", "A·2 29.03–11.04", "A·3 12.04–25.04"}, shape(fresh), "the first holds today")
	p.Cadences[0].Start = day("2027-06-07")
	assert.Equal(t, "A·1 07.06–20.06", shape(apply(t, p, cadence.Keep(p, today), nil))[0])
}

// A day far ahead, or a program that was left alone, makes no iterations by themselves.
func TestKeepDoesNotBridgeYears(t *testing.T) {
	p := harbour()
	last := p.Teams[0].Iterations[len(p.Teams[0].Iterations)-1].End
	assert.NotEmpty(t, cadence.Keep(p, last.Add(400)))
	assert.Empty(t, cadence.Keep(p, last.Add(401)))
	assert.Empty(t, cadence.Keep(p, day("2199-01-01")))

	assert.Empty(t, cadence.Stalled(p, last.Add(400)))
	assert.Equal(t, []string{"A"}, cadence.Stalled(p, last.Add(401)))
	changes, err := cadence.Resume(p, last.Add(400), []string{"A"})
	require.NoError(t, err)
	assert.Empty(t, changes, "there is nothing to resume")
	changes, err = cadence.Resume(p, last.Add(401), []string{"A"})
	resumed := apply(t, p, changes, err)
	assert.Empty(t, cadence.Stalled(resumed, last.Add(401)))
	assert.Empty(t, cadence.Keep(resumed, last.Add(401)), "as many lie ahead as are kept")
	assert.Empty(t, cadence.Breaks(resumed))
	changes, err = cadence.Resume(p, last.Add(401), nil)
	require.NoError(t, err)
	assert.Empty(t, changes, "of no team")
	_, err = cadence.Resume(p, day("2199-01-01"), []string{"A"})
	assert.ErrorContains(t, err, "at most 600 are made at once")
	_, err = cadence.Resume(p, day("9999-01-01"), []string{"A"})
	assert.ErrorContains(t, err, "Is the day right?")
}

func TestCloseNotesCarriesOverAndOpensTheNext(t *testing.T) {
	p := harbour()
	last := day("2027-03-28")
	changes, _, err := cadence.Close(p, last, "A", "A-i2", cadence.Closing{})
	next := apply(t, p, changes, err)
	its := next.Teams[0].Iterations
	assert.Equal(t, program.Closed, its[1].State)
	assert.Equal(t, []float64{10, 5}, []float64{*its[1].Committed, *its[1].Completed})
	assert.Equal(t, []int{3, 1}, []int{*its[1].CommittedItems, *its[1].CompletedItems})
	assert.Equal(t, program.Open, its[2].State)
	assert.Equal(t, 5.0, *its[2].Committed, "what was carried over")
	assert.Len(t, its, 5, "a new one appears as an old one closes")
	assert.Equal(t, []string{"A-i2", "A-i3", "A-i3"}, []string{next.Items[0].Iteration, next.Items[1].Iteration, next.Items[2].Iteration})

	p.Cadences[0].CarryOver = false
	p.Teams[0].Iterations[1].Committed = number(12)
	changes, _, err = cadence.Close(p, today, "A", "A-i2", cadence.Closing{})
	next = apply(t, p, changes, err)
	assert.Equal(t, 12.0, *next.Teams[0].Iterations[1].Committed, "what was committed at the start stays")
	assert.Empty(t, next.Items[1].Iteration, "without carry-over unfinished items are unplaced")
	assert.Equal(t, program.Planned, next.Teams[0].Iterations[2].State, "the next starts in days only")
}

// The next iteration opens as it is said, however far its first day is.
func TestCloseOpensTheNextOnWish(t *testing.T) {
	p := harbour()
	near, far := day("2027-03-28"), today
	for _, c := range []struct {
		on   program.Date
		next cadence.Next
		want program.IterationState
	}{
		{near, cadence.InTime, program.Open}, {near, cadence.AtOnce, program.Open}, {near, cadence.Waits, program.Planned},
		{far, cadence.InTime, program.Planned}, {far, cadence.AtOnce, program.Open}, {far, cadence.Waits, program.Planned},
	} {
		changes, _, err := cadence.Close(p, c.on, "A", "A-i2", cadence.Closing{Next: c.next})
		next := apply(t, p, changes, err)
		assert.Equal(t, c.want, next.Teams[0].Iterations[2].State, "%s %q", c.on, c.next)
		assert.Equal(t, c.want == program.Open, next.Teams[0].Iterations[2].Committed != nil, "%s %q: what is committed is noted", c.on, c.next)
	}
	alone := harbour()
	alone.Teams[0].Cadence, alone.Teams[0].Iterations = "", alone.Teams[0].Iterations[:2]
	for i := range alone.Items {
		alone.Items[i].State = program.Done
	}
	_, _, err := cadence.Close(alone, near, "A", "A-i2", cadence.Closing{Next: cadence.AtOnce})
	assert.ErrorContains(t, err, "has no iteration after A·2 that could be opened")
}

// y goes back, z is split at what is done of it: 1 of 2 counts, and the other goes on with the
// task that is not done; what needs z needs that.
func TestCloseGoesByWhatIsSaidOfUnfinishedItems(t *testing.T) {
	p := harbour()
	p.Items[2].State = program.Doing
	p.Items[2].Tasks = []program.Task{{Title: "Wire", Done: true}, {Title: "Test"}}
	p.Items = append(p.Items, program.Item{Key: "w", Title: "w", Kind: program.Story, Team: "A", Size: number(1)})
	p.Needs = []program.Need{{Item: "w", Needs: "z"}}
	said := []cadence.Unfinished{{Item: "y", Goes: cadence.Back}, {Item: "z", Goes: cadence.Divided, Done: 1}}
	changes, endings, err := cadence.Close(p, today, "A", "A-i2", cadence.Closing{Unfinished: said})
	next := apply(t, p, changes, err)
	assert.Equal(t, []cadence.Ending{{Team: "A", Iteration: "A-i2", Name: "A·2", Committed: 10, Completed: 6, On: 1, Back: 1, Into: "A-i3", IntoName: "A·3"}}, endings)
	assert.Equal(t, 6.0, *next.Teams[0].Iterations[1].Completed)
	at := map[string]program.Item{}
	for _, i := range next.Items {
		at[i.Key] = i
	}
	assert.Empty(t, at["y"].Iteration)
	done, rest := at["z"], next.Items[3]
	assert.Equal(t, []any{program.Done, 1.0, "A-i2", []program.Task{{Title: "Wire", Done: true}}}, []any{done.State, *done.Size, done.Iteration, done.Tasks})
	assert.Equal(t, []any{program.Doing, 1.0, "A-i3", []program.Task{{Title: "Test"}}}, []any{rest.State, *rest.Size, rest.Iteration, rest.Tasks})
	assert.Equal(t, []program.Need{{Item: "w", Needs: rest.Key}}, next.Needs)

	p.Cadences[0].CarryOver = false
	_, endings, err = cadence.Close(p, today, "A", "A-i2", cadence.Closing{Unfinished: []cadence.Unfinished{{Item: "y", Goes: cadence.On}}})
	require.NoError(t, err)
	assert.Equal(t, []int{1, 1}, []int{endings[0].On, endings[0].Back}, "the rest by the cadence's rule")

	for say, u := range map[string][]cadence.Unfinished{
		"x is not one of the unfinished items of A·2":        {{Item: "x", Goes: cadence.On}},
		"it is said twice where y goes":                      {{Item: "y", Goes: cadence.On}, {Item: "y", Goes: cadence.Back}},
		`y cannot go "away"; say on, back or split`:          {{Item: "y", Goes: "away"}},
		"what is done of y lies between 0 and its size of 3": {{Item: "y", Goes: cadence.Divided, Done: 3}},
	} {
		_, _, err := cadence.Close(p, today, "A", "A-i2", cadence.Closing{Unfinished: u})
		assert.EqualError(t, err, say)
	}
}

// What was closed is opened again: what it noted is gone, and the one opened after it waits.
func TestReopenTakesBackWhatWasNoted(t *testing.T) {
	p := harbour()
	changes, _, err := cadence.Close(p, day("2027-03-28"), "A", "A-i2", cadence.Closing{})
	closed := apply(t, p, changes, err)
	changes, err = cadence.Reopen(closed, "A", "A-i2")
	next := apply(t, closed, changes, err)
	its := next.Teams[0].Iterations
	assert.Equal(t, []program.IterationState{program.Open, program.Planned}, []program.IterationState{its[1].State, its[2].State})
	assert.Equal(t, 10.0, *its[1].Committed, "what was committed at the start stays")
	assert.Nil(t, its[1].Completed)
	assert.Nil(t, its[1].CompletedItems)
	assert.Nil(t, its[2].Committed)
	assert.Equal(t, "A-i3", next.Items[1].Iteration, "items stay where they went")
	_, err = cadence.Reopen(next, "A", "A-i2")
	assert.EqualError(t, err, "A·2 is not closed")
	_, err = cadence.Reopen(closed, "A", "A-i1")
	assert.EqualError(t, err, "A·2 was closed after it; open that one first")
}

// only drops what is told of the iterations that are closed.
func only(changes []program.Change, _ []cadence.Ending, err error) ([]program.Change, error) {
	return changes, err
}

// Several iterations that are over are closed at once: each notes what was placed in it, and
// what is not done goes on in the one under way, never in one that is over.
func TestCloseEndedGoesOnInTheOneUnderWay(t *testing.T) {
	p := harbour()
	later := day("2027-04-14") // A·2 ended on 28 March, A·3 on 11 April; A·4 is under way
	assert.Empty(t, cadence.EndedOf(&p.Teams[0], day("2027-03-28")))
	assert.Equal(t, []string{"A-i2", "A-i3"}, cadence.EndedOf(&p.Teams[0], later))
	changes, endings, err := cadence.CloseEnded(p, later, []string{"A"})
	next := apply(t, p, changes, err)
	its := next.Teams[0].Iterations
	assert.Equal(t, []program.IterationState{program.Closed, program.Closed, program.Closed, program.Open}, []program.IterationState{its[0].State, its[1].State, its[2].State, its[3].State})
	for _, item := range next.Items {
		if item.State != program.Done && item.Iteration != "" {
			assert.Equal(t, "A-i4", item.Iteration, item.Key)
		}
	}
	require.Len(t, endings, 2)
	assert.Equal(t, 10.0, endings[0].Committed)
	assert.Equal(t, 5.0, endings[0].Completed)
	assert.Equal(t, "A-i4", endings[0].Into)
	assert.Equal(t, endings[1].Committed, *its[2].Committed)
	assert.Empty(t, cadence.EndedOf(&next.Teams[0], later))

	changes, _, err = cadence.CloseEnded(p, later, nil)
	require.NoError(t, err)
	assert.Empty(t, changes, "of no team")
	_, _, err = cadence.CloseEnded(p, later, []string{"nobody"})
	assert.ErrorContains(t, err, "no team")
	// One by one it comes to the same places.
	one := apply(t, p, changes, nil)
	for _, key := range []string{"A-i2", "A-i3"} {
		c, _, err := cadence.Close(one, later, "A", key, cadence.Closing{})
		one = apply(t, one, c, err)
	}
	for i := range next.Items {
		assert.Equal(t, next.Items[i].Iteration, one.Items[i].Iteration, next.Items[i].Key)
	}
}

func TestStartAndCloseAreRefusedOutOfOrder(t *testing.T) {
	p := harbour()
	for name, c := range map[string]struct {
		do   func() ([]program.Change, error)
		says string
	}{
		"closing a closed one": {func() ([]program.Change, error) { return only(cadence.Close(p, today, "A", "A-i1", cadence.Closing{})) }, "A·1 is closed already"},
		"closing ahead":        {func() ([]program.Change, error) { return only(cadence.Close(p, today, "A", "A-i3", cadence.Closing{})) }, "A·3 starts 2027-03-29"},
		"leaving one out": {func() ([]program.Change, error) {
			return only(cadence.Close(p, day("2027-04-13"), "A", "A-i3", cadence.Closing{}))
		}, "A·2, which ended earlier"},
		"starting two":        {func() ([]program.Change, error) { return cadence.Start(p, "A", "A-i3") }, "A·2 is still open"},
		"no such team":        {func() ([]program.Change, error) { return cadence.Start(p, "B", "A-i3") }, `no team "B"`},
		"no such iteration":   {func() ([]program.Change, error) { return cadence.Start(p, "A", "A-i9") }, `no iteration "A-i9"`},
		"a started one away":  {func() ([]program.Change, error) { return cadence.Remove(p, today, "A", "A-i2") }, "A·2 has started"},
		"a closed one longer": {func() ([]program.Change, error) { return cadence.Resize(p, today, "A", "A-i1", today, true) }, "A·1 is over"},
		"before its start":    {func() ([]program.Change, error) { return cadence.Resize(p, today, "A", "A-i3", today, true) }, "cannot end before that"},
		"no day of the next": {func() ([]program.Change, error) {
			return cadence.Resize(p, today, "A", "A-i3", day("2027-04-25"), false)
		}, "no day of A·4"},
		"no days":              {func() ([]program.Change, error) { return cadence.Insert(p, today, "A", "A-i3", "", 0) }, "from 1 to 366 days"},
		"before a started one": {func() ([]program.Change, error) { return cadence.Insert(p, today, "A", "A-i1", "", 7) }, "A·2 has started"},
	} {
		_, err := c.do()
		assert.ErrorContains(t, err, c.says, name)
	}
}

func TestResizeInsertRemove(t *testing.T) {
	p := harbour()
	changes, err := cadence.Resize(p, today, "A", "A-i2", day("2027-04-04"), true)
	assert.Equal(t, []string{"A·1 01.03–14.03", "A·2 15.03–04.04", "A·3 05.04–18.04", "A·4 19.04–02.05"}, shape(apply(t, p, changes, err)))
	changes, err = cadence.Resize(p, today, "A", "A-i3", day("2027-04-04"), false)
	assert.Equal(t, []string{"A·1 01.03–14.03", "A·2 15.03–28.03", "A·3 29.03–04.04", "A·4 05.04–25.04"}, shape(apply(t, p, changes, err)))
	changes, err = cadence.Insert(p, today, "A", "A-i3", "Hardening", 7)
	assert.Equal(t, []string{"A·1 01.03–14.03", "A·2 15.03–28.03", "A·3 29.03–11.04", "Hardening 12.04–18.04", "A·4 19.04–02.05"}, shape(apply(t, p, changes, err)))
	p.Items[2].Iteration = "A-i3"
	changes, err = cadence.Remove(p, today, "A", "A-i3")
	next := apply(t, p, changes, err)
	assert.Equal(t, []string{"A·1 01.03–14.03", "A·2 15.03–28.03", "A·4 29.03–11.04"}, shape(next))
	assert.Empty(t, next.Items[2].Iteration)
}

func TestReshapeTouchesOnlyWhatHasNotStarted(t *testing.T) {
	p := harbour()
	p.Teams[0].Iterations[2].End = day("2027-04-04") // made a week long by hand
	p.Teams[0].Iterations[3].Start, p.Teams[0].Iterations[3].End = day("2027-04-05"), day("2027-04-18")
	three := p.Cadences[0]
	three.LengthDays = 21
	three.Naming = "{release} {k} {team}"
	p.Releases = []program.Release{{Key: "R", Name: "First Light", Start: day("2027-03-20"), Due: day("2027-06-30")}}
	changes, err := cadence.Reshape(p, today, three)
	assert.Equal(t, []string{"A·1 01.03–14.03", "A·2 15.03–28.03", "First Light 1 A 29.03–04.04", "First Light 2 A 05.04–25.04"}, shape(apply(t, p, changes, err)))
	later := p.Cadences[0]
	later.Start = day("2027-05-03")
	changes, err = cadence.Reshape(p, today, later)
	assert.Equal(t, shape(p), shape(apply(t, p, changes, err)), "a new start is for teams of which nothing has started")
	later.Naming = "Sprint"
	_, err = cadence.Reshape(p, today, later)
	assert.ErrorContains(t, err, "same name")
	later.Naming = "{team} {week}"
	_, err = cadence.Reshape(p, today, later)
	assert.ErrorContains(t, err, "{week}")
}

func TestFollowAnotherCadenceFromADate(t *testing.T) {
	p := harbour()
	changes, err := cadence.Follow(p, today, "A", "three", day("2027-04-12"))
	next := apply(t, p, changes, err)
	assert.Equal(t, "three", next.Teams[0].Cadence)
	assert.Equal(t, []string{"A·1 01.03–14.03", "A·2 15.03–28.03", "A·3 29.03–11.04", "A·4 12.04–02.05"}, shape(next))
	changes, err = cadence.Follow(p, today, "A", "three", today)
	assert.Equal(t, []string{"A·1 01.03–14.03", "A·2 15.03–28.03", "A·3 29.03–18.04", "A·4 19.04–09.05"}, shape(apply(t, p, changes, err)))
}

func TestNamesNeverMeet(t *testing.T) {
	p := harbour()
	p.Cadences[0].Naming = "{release} {k}"
	p.Releases = []program.Release{{Key: "R", Name: "First Light", Due: day("2027-12-31")}}
	for i, key := range []string{"A", "B", "C"} {
		if i > 0 {
			p.Teams = append(p.Teams, program.Team{Key: key, Name: key, Unit: program.Points, Cadence: "two"})
		}
	}
	p.Teams[0].Iterations, p.Items = nil, nil
	next, _, err := program.ApplyAll(p, cadence.Keep(p, today))
	require.NoError(t, err)
	seen := map[string]bool{}
	for _, team := range next.Teams {
		for _, it := range team.Iterations {
			assert.False(t, seen[it.Name], it.Name)
			seen[it.Name] = true
		}
	}
	assert.True(t, seen["First Light 1"] && seen["B First Light 1"])
}

func TestBreaksNameBothSides(t *testing.T) {
	p := harbour()
	next := harbour()
	next.Teams[0].Iterations[2].Start = day("2027-03-31")
	err := cadence.Refuse(next, p)
	assert.ErrorContains(t, err, "A·2 ends 28 Mar and A·3 starts 31 Mar: 2 days between them belong to neither")
	assert.NoError(t, cadence.Refuse(next, next), "what came with it can stay")
	next.Teams[0].Iterations[2].Start = day("2027-03-28")
	assert.ErrorContains(t, cadence.Refuse(next, p), "they share 1 day")
}

// Whatever is done in whatever order: no overlap, no gap, no two names alike, as
// many ahead as the cadence keeps, and what has started stays as it was.
func TestAnyRowOfStepsKeepsTheCalendarWhole(t *testing.T) {
	for seed := range uint64(60) {
		p := sample.Program(seed, sample.Shape{Teams: 2, Iterations: 4, Items: 12})
		day := sample.Today
		p.Cadences[0].Ahead, p.Cadences[0].CarryOver = 3, seed%2 == 0
		for step := range 14 {
			team := &p.Teams[int(seed+uint64(step))%2]
			n := len(team.Iterations)
			pick := team.Iterations[(int(seed)*7+step*5)%n].Key
			var changes []program.Change
			var err error
			switch (int(seed) + step*3) % 7 {
			case 0:
				changes, _, err = cadence.Close(p, day, team.Key, pick, cadence.Closing{})
			case 1:
				changes, err = cadence.Resize(p, day, team.Key, pick, day.Add(9+step*4), step%2 == 0)
			case 2:
				changes, err = cadence.Insert(p, day, team.Key, pick, "", 1+step)
			case 3:
				changes, err = cadence.Remove(p, day, team.Key, pick)
			case 4:
				shaped := p.Cadences[step%2]
				shaped.LengthDays, shaped.Naming = 7+step, []string{"", "{team} {n}", "{release} {k}"}[step%3]
				changes, err = cadence.Reshape(p, day, shaped)
			case 5:
				changes, err = cadence.Follow(p, day, team.Key, p.Cadences[step%2].Key, day.Add(step*5))
			default:
				day = day.Add(11)
				changes = cadence.Keep(p, day)
			}
			if err != nil {
				continue // said why
			}
			next, _, err := program.ApplyAll(p, changes)
			require.NoError(t, err, "seed %d step %d", seed, step)
			require.NoError(t, cadence.Refuse(next, p), "seed %d step %d", seed, step)
			for i := range p.Teams {
				for _, it := range p.Teams[i].Iterations {
					if it.State != program.Closed && it.Start > day {
						continue
					}
					after, ok := next.Teams[i].Find(it.Key)
					require.True(t, ok, "seed %d step %d: what has started stays", seed, step)
					require.Equal(t, it.Start, after.Start)
					require.Equal(t, it.Name, after.Name)
				}
			}
			p = next
		}
		names := map[string]bool{}
		for _, team := range p.Teams {
			for _, it := range team.Iterations {
				require.False(t, names[it.Label()], "seed %d: %s twice", seed, it.Label())
				names[it.Label()] = true
			}
		}
	}
}
