package act_test

import (
	"fmt"
	"math/rand/v2"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/act"
	"jantrel/core/program"
	"jantrel/core/sample"
)

// at is a time on the day on which samples are seen, or so many days before.
func at(daysAgo, hour int) time.Time {
	return sample.Today.Add(-daysAgo).Time().Add(time.Duration(hour) * time.Hour)
}

func quay() program.Program {
	return program.Program{
		People: []program.Person{{Key: "ann", Name: "Ann"}}, Teams: []program.Team{{Key: "Q", Name: "Quay", Unit: program.Points}},
		Items: []program.Item{{Key: "F", Title: "Lamps", Kind: program.Feature}, {Key: "Q-1", Title: "Lamp", Kind: program.Story, Team: "Q", Parent: "F", State: program.Review}},
	}.Normal()
}

func TestSignalsSetWhatTheyFound(t *testing.T) {
	next, made := after(t, quay(), act.ReportSignals{
		Tests:       []act.TestsSignal{{Item: "Q-1", At: at(0, 9), Passed: 4, Failed: 1, Address: "https://example.org/1"}},
		Builds:      []act.BuildSignal{{Team: "Q", Name: "nightly", At: at(0, 2), State: program.Red}},
		Deployments: []act.DeploymentSignal{{Team: "Q", Place: "pier", Version: "1.4", At: at(1, 16)}},
		Defects:     []act.DefectSignal{{ID: "bug-1", Team: "Q", At: at(0, 10), Title: "It flickers", FoundIn: "1.4", Hinders: []string{"Q-1"}, Address: "https://example.org/bug-1"}},
		Work:        []act.WorkSignal{{ID: "w1", Person: "ann", Date: sample.Today, Hours: 2.5, Item: "Q-1"}},
	})
	assert.Equal(t, "5 signals", made.Label)
	assert.Equal(t, []string{"Q-2"}, made.Keys)
	team, item, defect := next.Teams[0], next.Items[1], next.Items[2]
	day := sample.Today.String()
	assert.Equal(t, []program.Build{{Name: "nightly", State: program.Red, Since: day + "T02:00:00Z"}}, team.Builds)
	assert.Equal(t, "1.4", team.Deployed[0].Version)
	assert.Equal(t, &program.Tests{Passed: 4, Failed: 1, Since: day + "T09:00:00Z", Address: "https://example.org/1"}, item.Tests)
	assert.Equal(t, program.Item{Key: "Q-2", Title: "It flickers", Kind: program.Defect, Team: "Q", Parent: "F", State: program.Todo, FoundIn: "1.4",
		Hinders: []string{"Q-1"}, Reported: "bug-1", Links: []program.Link{{Address: "https://example.org/bug-1"}}}, defect)
	assert.Equal(t, program.TimeEntry{Key: "signal w1", Person: "ann", Date: sample.Today, Hours: 2.5, Item: "Q-1"}, next.TimeEntries[0])

	// What is removed is named no more.
	gone, _ := after(t, next.Program, act.Delete{Keys: []string{"Q-1"}})
	assert.Empty(t, gone.Items[1].Hinders)

	// Mended it is done, and stays so whatever is said of it late.
	next, made = after(t, next.Program, act.ReportSignals{Defects: []act.DefectSignal{{ID: "bug-1", Team: "Q", At: at(-1, 3), Mended: true}, {ID: "never-heard-of", Team: "Q", At: at(0, 11), Mended: true}}})
	assert.Equal(t, "Q-2 is mended", made.Label)
	assert.Equal(t, []any{program.Done, sample.Today}, []any{next.Items[2].State, next.Items[2].DoneOn}, "it is a day further there: here it was done today")
	_, made = after(t, next.Program, act.ReportSignals{Defects: []act.DefectSignal{{ID: "bug-1", Team: "Q", At: at(0, 10), Title: "Again"}}})
	assert.Empty(t, made.Changes)

	// What was said of an item that is gone by now may be sent again too.
	work := func(hours float64) act.ReportSignals {
		return act.ReportSignals{Work: []act.WorkSignal{{ID: "w1", Person: "ann", Date: sample.Today.Add(-1), Hours: hours}}}
	}
	_, made = after(t, gone.Program, act.ReportSignals{Work: []act.WorkSignal{{ID: "w1", Person: "ann", Date: sample.Today, Hours: 2.5, Item: "Q-1"}}})
	assert.Empty(t, made.Changes)
	_, made = after(t, gone.Program, act.ReportSignals{Defects: []act.DefectSignal{{ID: "bug-1", Team: "Q", At: at(0, 12), Mended: true, Hinders: []string{"Q-1"}}}})
	assert.Equal(t, "Q-2 is mended", made.Label)

	// Hours are put right under their id, and taken back.
	next, _ = after(t, next.Program, work(4))
	assert.Equal(t, []any{4.0, sample.Today.Add(-1)}, []any{next.TimeEntries[0].Hours, next.TimeEntries[0].Date})
	next, _ = after(t, next.Program, work(0))
	assert.Empty(t, next.TimeEntries)
}

// What comes late changes nothing: of what is known at a time the newest counts.
func TestSignalsThatComeLate(t *testing.T) {
	build := func(hour int, state program.BuildState) act.BuildSignal {
		return act.BuildSignal{Team: "Q", Name: "main", At: at(0, hour), State: state}
	}
	tests := func(hour, failed int) act.TestsSignal {
		return act.TestsSignal{Item: "Q-1", At: at(0, hour), Passed: 3, Failed: failed}
	}
	next, made := after(t, quay(), act.ReportSignals{Builds: []act.BuildSignal{build(9, program.Green), build(5, program.Red), build(7, program.Red)}, Tests: []act.TestsSignal{tests(8, 0), tests(6, 2), tests(9, 0)}})
	assert.Equal(t, "Tests of Q-1, Build main of Quay is red, Build main of Quay is green", made.Label)
	day := sample.Today.String()
	assert.Equal(t, program.Build{Name: "main", State: program.Green, Since: day + "T09:00:00Z"}, next.Teams[0].Builds[0])
	assert.Equal(t, program.Tests{Passed: 3, Since: day + "T08:00:00Z"}, *next.Items[1].Tests, "since they stand so")
	for _, late := range []act.ReportSignals{
		{Builds: []act.BuildSignal{build(8, program.Red), build(11, program.Green)}},
		{Tests: []act.TestsSignal{tests(7, 1), tests(8, 0)}},
	} {
		_, made := after(t, next.Program, late)
		assert.Empty(t, made.Changes)
	}
}

func TestSignalsThatCannotBe(t *testing.T) {
	s := stateOf(quay())
	for text, x := range map[string]act.ReportSignals{
		`there is no signal: send tests, builds, deployments, defects or work`:                  {},
		`501 signals are too many at once; send 500 at most, and the rest after them`:           {Builds: make([]act.BuildSignal, act.MaxSignals+1)},
		`signal 1 of tests: there is no item "Q-9"`:                                             {Tests: []act.TestsSignal{{Item: "Q-9"}}},
		`signal 2 of builds: there is no team "X"`:                                              {Builds: []act.BuildSignal{{Team: "Q", Name: "a", State: program.Red}, {Team: "X", At: at(0, 1)}}},
		`signal 1 of deployments: 2099-01-01T00:00:00Z is yet to come; is that clock right?`:    {Deployments: []act.DeploymentSignal{{Team: "Q", At: time.Date(2099, 1, 1, 0, 0, 0, 0, time.UTC)}}},
		`signal 1 of defects: give it an id of at most 120 bytes, the one by which you know it`: {Defects: []act.DefectSignal{{Team: "Q"}}},
		`signal 1 of defects: there is no item "Q-9"`:                                           {Defects: []act.DefectSignal{{ID: "b", Team: "Q", Hinders: []string{"Q-9"}}}},
		`signal 1 of work: there is no person "bo"`:                                             {Work: []act.WorkSignal{{ID: "w", Person: "bo"}}},
		`signal 1 of work: 25 h are not between 0 and 24`:                                       {Work: []act.WorkSignal{{ID: "w", Person: "ann", Hours: 25}}},
		`ann would have 25 h on ` + sample.Today.Short() + `; a day has 24`:                     {Work: []act.WorkSignal{{ID: "w", Person: "ann", Date: sample.Today, Hours: 20}, {ID: "v", Person: "ann", Date: sample.Today, Hours: 5}}},
	} {
		_, err := x.Plan(s)
		assert.EqualError(t, err, text)
	}
}

// However signals are cut into requests, in the order of time they come to the same; and sent again,
// all together or any of them, they change nothing.
func TestSignalsSentAgain(t *testing.T) {
	for seed := range uint64(30) {
		p := sample.Program(seed, sample.Shape{Teams: 3, Iterations: 3, Items: 20, Wild: true})
		r := rand.New(rand.NewPCG(seed, 12))
		all := signals(r, p, 40)
		whole, _ := after(t, p, joined(all))
		bits := stateOf(p).Plan
		for len(all) > 0 {
			n := 1 + r.IntN(min(7, len(all)))
			bits, _ = after(t, bits.Program, joined(all[:n]))
			all = all[n:]
		}
		assert.Equal(t, whole.Program.Teams, bits.Program.Teams)
		assert.Equal(t, whole.Program.Items, bits.Program.Items)
		assert.ElementsMatch(t, whole.Program.TimeEntries, bits.Program.TimeEntries)
		require.Empty(t, program.Validate(bits.Program))

		all = signals(rand.New(rand.NewPCG(seed, 12)), p, 40)
		_, made := after(t, bits.Program, joined(all))
		assert.Empty(t, made.Changes, seed)
		r.Shuffle(len(all), func(i, j int) { all[i], all[j] = all[j], all[i] })
		_, made = after(t, bits.Program, joined(all[:10]))
		assert.Empty(t, made.Changes, seed)
	}
}

// signals makes signals of all kinds, in the order of time. Each id is used once, as the sender's are.
func signals(r *rand.Rand, p program.Program, n int) (all []act.ReportSignals) {
	for i := range n {
		when := at(n-i, r.IntN(20))
		team, item := p.Teams[r.IntN(len(p.Teams))].Key, p.Items[r.IntN(len(p.Items))].Key
		var x act.ReportSignals
		switch id := fmt.Sprintf("id-%d", i); r.IntN(5) {
		case 0:
			x.Tests = []act.TestsSignal{{Item: item, At: when, Passed: r.IntN(3), Failed: r.IntN(2)}}
		case 1:
			x.Builds = []act.BuildSignal{{Team: team, Name: "main", At: when, State: []program.BuildState{program.Green, program.Red}[r.IntN(2)]}}
		case 2:
			x.Deployments = []act.DeploymentSignal{{Team: team, Place: "pier", Version: id, At: when}}
		case 3:
			x.Defects = []act.DefectSignal{{ID: id, Team: team, At: when, Title: "Found", Hinders: []string{item}}}
		case 4:
			x.Work = []act.WorkSignal{{ID: id, Person: p.People[r.IntN(len(p.People))].Key, Date: sample.Today.Add(i - n), Hours: 2, Item: item}}
		}
		all = append(all, x)
	}
	return all
}

func joined(all []act.ReportSignals) (x act.ReportSignals) {
	for _, s := range all {
		x.Tests, x.Builds, x.Deployments = append(x.Tests, s.Tests...), append(x.Builds, s.Builds...), append(x.Deployments, s.Deployments...)
		x.Defects, x.Work = append(x.Defects, s.Defects...), append(x.Work, s.Work...)
	}
	return x
}
