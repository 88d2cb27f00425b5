package track_test

import (
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/cadence"
	"jantrel/core/calendar"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/sample"
	"jantrel/core/track"
)

var noon = time.Date(2027, 3, 2, 12, 0, 0, 0, time.UTC)

// journal makes edits of a program, an hour apart, and keeps them.
type journal struct {
	t      *testing.T
	p      program.Program
	events []track.Event
	made   [][]program.Applied // by each edit
	seen   []program.Program   // after each edit
}

func (j *journal) edit(changes ...program.Change) bool {
	next, applied, err := program.ApplyAll(j.p, changes)
	if err != nil {
		return false
	}
	n := len(j.events)
	j.p = next
	j.events, j.made = append(j.events, track.NewEvent(int64(n+1), noon.Add(time.Duration(n)*time.Hour), "Ann", applied)), append(j.made, applied)
	j.seen = append(j.seen, next)
	return true
}

func (j *journal) must(changes ...program.Change) {
	j.t.Helper()
	require.True(j.t, j.edit(changes...), "%v", changes)
}

func item(key string) program.Ref { return program.Ref{Kind: program.KindItem, Key: key} }

func set(key, field string, value any) program.Change { return program.SetTo(item(key), field, value) }

func add(i program.Item) program.Change {
	value, _ := json.Marshal(i)
	return program.Change{Op: program.Add, Ref: item(i.Key), Value: value}
}

func ptr[T any](v T) *T { return &v }

func lamp() program.Program {
	story := func(key string, size float64, state program.ItemState) program.Item {
		return program.Item{Key: key, Title: key, Kind: program.Story, Team: "LC", Iteration: "LC10", Size: &size, State: state}
	}
	return program.Program{
		Teams: []program.Team{{Key: "LC", Name: "Lamp Control", Unit: program.Points, Iterations: []program.Iteration{
			{Key: "LC9", Start: day("2027-02-15"), End: day("2027-02-28")},
			{Key: "LC10", Start: day("2027-03-01"), End: day("2027-03-14")},
			{Key: "LC11", Start: day("2027-03-15"), End: day("2027-03-28")},
		}}},
		Items: []program.Item{story("A", 5, program.Doing), story("B", 3, program.Todo), story("C", 2, program.Done), story("D", 8, program.Review)},
	}.Normal()
}

// The worked example of docs/track.md.
func TestWhatBecameOfAnIteration(t *testing.T) {
	j := &journal{t: t, p: lamp()}
	open := program.SetTo(program.Ref{Kind: program.KindIteration, In: "LC", Key: "LC10"}, "state", program.Open)
	j.must(set("B", "size", 4))                                                                                          // 12:00, before the start
	j.must(open)                                                                                                         // 13:00
	j.must(set("D", "state", program.Doing))                                                                             // 14:00, sent back
	j.must(set("A", "size", 6), set("A", "state", program.Done))                                                         // 15:00, two things at once
	j.must(add(program.Item{Key: "E", Title: "E", Kind: program.Defect, Team: "LC", Size: ptr(1.0), Iteration: "LC10"})) // 16:00
	j.must(set("B", "iteration", "LC11"))                                                                                // 17:00
	j.must(set("A", "state", program.Doing))                                                                             // 18:00
	j.must(set("A", "state", program.Done))                                                                              // 19:00
	j.must(set("D", "blocked", "No lamp to try it on"))                                                                  // 20:00
	runs, courses := track.Runs(j.p, []track.Asked{{Team: "LC", Iteration: "LC10", From: noon}}, j.events, time.Time{})
	r := runs[0]
	assert.Equal(t, noon.Add(time.Hour), r.From, "when it was opened")
	assert.Equal(t, track.Sum{Items: 4, Size: 19}, r.Start)
	assert.Equal(t, track.Sum{Items: 1, Size: 2}, r.DoneBefore)
	assert.Equal(t, track.Sum{Items: 1, Size: 1}, r.Added)
	assert.Equal(t, track.Sum{Items: 1, Size: 4}, r.Removed)
	assert.Equal(t, track.Sum{Size: 1}, r.Grown)
	assert.Equal(t, track.Sum{}, r.Shrunk)
	assert.Equal(t, track.Sum{Items: 4, Size: 17}, r.Total)
	assert.Equal(t, track.Sum{Items: 2, Size: 8}, r.Done)
	assert.Equal(t, track.Sum{Items: 2, Size: 9}, r.Left)
	var told []string
	for _, s := range r.Steps {
		told = append(told, fmt.Sprint(s.Item, " ", s.What, " ", s.Size, ": ", s.Total.Size-s.Done.Size, " left"))
	}
	assert.Equal(t, []string{
		"D moved 8: 17 left", "A grown 1: 18 left", "A finished 6: 12 left", "E added 1: 13 left",
		"B removed 4: 9 left", "A reopened 6: 15 left", "A finished 6: 9 left", "D blocked 8: 9 left",
	}, told)
	assert.Equal(t, track.Course{Item: "D", Since: noon.Add(2 * time.Hour), Back: 1, Blocked: noon.Add(8 * time.Hour)}, courses["D"])
	assert.Equal(t, track.Course{Item: "E", Since: noon.Add(4 * time.Hour), Added: true}, courses["E"])
	assert.NotContains(t, courses, "B", "stands elsewhere")
	assert.Equal(t, track.Sum{Items: 1, Size: 2}, r.DoneBy(day("2027-03-01")))
	assert.Equal(t, r.Done, r.DoneBy(day("2027-03-02")))
}

// What the edit that starts an iteration carries on into it stands in it at the start, as what is noted
// as committed says: the close of the one before may open it.
func TestWhatIsCarriedOnStandsInTheNextAtItsStart(t *testing.T) {
	j := &journal{t: t, p: lamp()}
	j.p.Cadences = []program.Cadence{{Key: "two", Start: day("2027-02-15"), LengthDays: 14, CarryOver: true}}
	j.p.Teams[0].Cadence, j.p.Teams[0].Iterations[0].State, j.p.Teams[0].Iterations[1].State = "two", program.Closed, program.Open
	j.must(set("B", "iteration", "LC11"))
	changes, _, err := cadence.Close(j.p, day("2027-03-15"), "LC", "LC10", cadence.Closing{})
	require.NoError(t, err)
	j.must(changes...)
	j.must(set("A", "size", 6))
	runs, courses := track.Runs(j.p, []track.Asked{{Team: "LC", Iteration: "LC11", From: noon.Add(-time.Hour)}}, j.events, time.Time{})
	next, _ := j.p.Teams[0].Find("LC11")
	assert.Equal(t, track.Sum{Items: 3, Size: 16}, runs[0].Start)
	assert.Equal(t, 16.0, *next.Committed)
	assert.Zero(t, runs[0].Added)
	assert.Len(t, runs[0].Steps, 1)
	assert.False(t, courses["A"].Added)
}

// Closed and opened again, an iteration goes on as it was started.
func TestAnIterationThatIsOpenedAgainGoesOn(t *testing.T) {
	j := &journal{t: t, p: lamp()}
	state := func(to program.IterationState) program.Change {
		return program.SetTo(program.Ref{Kind: program.KindIteration, In: "LC", Key: "LC10"}, "state", to)
	}
	j.must(state(program.Open)) // 12:00
	j.must(set("A", "state", program.Done))
	j.must(state(program.Closed), set("B", "iteration", "LC11"))
	j.must(state(program.Open))
	runs, _ := track.Runs(j.p, []track.Asked{{Team: "LC", Iteration: "LC10", From: noon.Add(-time.Hour)}}, j.events, time.Time{})
	assert.Equal(t, noon, runs[0].From)
	assert.Equal(t, 18.0, runs[0].Start.Size)
	assert.Len(t, runs[0].Steps, 2)
}

// What came before the journal began is not known: an iteration then runs from there on.
func TestAnIterationRunsFromWhereTheJournalBegins(t *testing.T) {
	j := &journal{t: t, p: lamp()}
	j.must(set("A", "state", program.Done))
	runs, _ := track.Runs(j.p, []track.Asked{{Team: "LC", Iteration: "LC10", From: noon.Add(-48 * time.Hour)}}, j.events, noon.Add(-time.Hour))
	assert.Equal(t, noon.Add(-time.Hour), runs[0].From)
	assert.Equal(t, 18.0, runs[0].Start.Size)
	assert.Len(t, runs[0].Steps, 1)
}

// Whatever is edited: sums always add up, and every step, and the end, are what a recount of the
// program as it then was comes to.
func TestRunsAreWhatARecountSays(t *testing.T) {
	steps, hours := 0, 0
	for seed := range uint64(30) {
		r := rand.New(rand.NewPCG(seed, 5))
		j := &journal{t: t, p: sample.Program(seed, sample.Shape{Teams: 3, Iterations: 4, Items: 25, Needs: 5, Wild: seed%2 == 0})}
		first := j.p
		for range 120 {
			j.edit(wildEdit(r, j.p)...)
		}
		var asked []track.Asked
		begun := 3 + r.IntN(20)
		for _, team := range j.p.Teams {
			for _, it := range team.Iterations {
				asked = append(asked, track.Asked{Team: team.Key, Iteration: it.Key, From: noon.Add(time.Duration(begun) * time.Hour)})
			}
		}
		runs, courses := track.Runs(j.p, asked, j.events, time.Time{})
		for i, run := range runs {
			at := begun - 1 // what the edits before the start led to
			opened := false
			for n := range j.events {
				for _, c := range j.made[n] {
					if ref := c.Change.Ref; ref.Kind == program.KindIteration && ref.In == run.Team && ref.Key == run.Iteration && c.Change.Field == "state" && string(c.Change.Value) == `"open"` && string(c.Inverse.Value) != `"closed"` {
						at, opened = n-1, true
					}
				}
			}
			if !opened {
				require.Equal(t, asked[i].From, run.From)
			}
			start := first
			if at >= 0 {
				start = j.seen[at]
			}
			total, done := recount(start, run.Team, run.Iteration)
			same(t, total, run.Start)
			same(t, done, run.DoneBefore)
			total, done = recount(j.p, run.Team, run.Iteration)
			same(t, total, run.Total)
			same(t, done, run.Done)
			same(t, track.Sum{Items: run.Start.Items + run.Added.Items - run.Removed.Items, Size: run.Start.Size + run.Added.Size - run.Removed.Size + run.Grown.Size - run.Shrunk.Size}, run.Total)
			for n, s := range run.Steps {
				steps++
				assert.False(t, s.At.Before(run.From))
				if n+1 == len(run.Steps) || run.Steps[n+1].Revision != s.Revision { // the last of its edit
					total, done := recount(j.seen[s.Revision-1], run.Team, run.Iteration)
					same(t, total, s.Total)
					same(t, done, s.Done)
				}
			}
			for end := calendar.OfTime(run.From); end <= calendar.OfTime(j.events[len(j.events)-1].At); end++ {
				last := 0
				for n := range j.events {
					if calendar.OfTime(j.events[n].At) <= end {
						last = n
					}
				}
				total, done := run.By(end)
				wantTotal, wantDone := recount(j.seen[last], run.Team, run.Iteration)
				same(t, wantTotal, total)
				same(t, wantDone, done)
			}
			assert.InDelta(t, recountHours(start, run.Team, run.Iteration), run.Hours.Start, 1e-6)
			assert.InDelta(t, recountHours(j.p, run.Team, run.Iteration), run.Hours.Left, 1e-6)
			left := run.Hours.Start
			for n, s := range run.Hours.Steps {
				hours++
				left += s.To - s.From
				assert.InDelta(t, left, s.Left, 1e-6, "steps add up")
				assert.False(t, s.At.Before(run.From))
				if n+1 == len(run.Hours.Steps) || run.Hours.Steps[n+1].Revision != s.Revision {
					assert.InDelta(t, recountHours(j.seen[s.Revision-1], run.Team, run.Iteration), s.Left, 1e-6)
				}
			}
			if n := len(run.Hours.Steps); n > 0 {
				part := run.Since(run.Hours.Steps[n/2].At).Hours
				assert.InDelta(t, run.Hours.Left, part.Start+sumOf(part.Steps), 1e-6, "so does a part of them")
			}
		}
		for key, c := range courses {
			assert.Equal(t, key, c.Item)
		}
	}
	assert.Greater(t, steps, 500)
	assert.Greater(t, hours, 500)
}

func same(t *testing.T, want, got track.Sum) {
	t.Helper()
	assert.Equal(t, want.Items, got.Items)
	assert.InDelta(t, want.Size, got.Size, 1e-9)
}

func sumOf(steps []track.HoursStep) (sum float64) {
	for _, s := range steps {
		sum += s.To - s.From
	}
	return sum
}

// recountHours is what is left of the tasks of what stands in an iteration and is not done.
func recountHours(p program.Program, team, iteration string) (left float64) {
	for _, item := range p.Items {
		if item.Team != team || item.Iteration != iteration || item.KeptOut || item.State == program.Done {
			continue
		}
		for _, task := range item.Tasks {
			switch {
			case task.Done:
			case task.HoursLeft != nil:
				left += *task.HoursLeft
			case task.Hours != nil:
				left += *task.Hours
			}
		}
	}
	return left
}

// The worked example of docs/track.md, of hours.
func TestHoursLeftOfAnIteration(t *testing.T) {
	p := lamp()
	p.Items[0].Tasks = []program.Task{{Title: "Wire", Hours: ptr(6.0)}, {Title: "Try", Hours: ptr(4.0)}}
	j := &journal{t: t, p: p}
	tasks := func(wire, try float64, done bool) program.Change {
		return set("A", "tasks", []program.Task{{Title: "Wire", Hours: ptr(6.0), HoursLeft: &wire}, {Title: "Try", Hours: &try, Done: done}})
	}
	j.must(program.SetTo(program.Ref{Kind: program.KindIteration, In: "LC", Key: "LC10"}, "state", program.Open)) // 12:00
	j.must(tasks(4, 4, false))                                                                                    // 13:00
	j.must(set("B", "tasks", []program.Task{{Title: "Paint", Hours: ptr(3.0)}, {Title: "Look"}}))                 // 14:00
	j.must(tasks(4, 4, true))                                                                                     // 15:00
	j.must(set("A", "state", program.Done))                                                                       // 16:00
	j.must(set("A", "title", "Lamp"))
	j.must(set("B", "iteration", "LC11")) // 18:00
	runs, _ := track.Runs(j.p, []track.Asked{{Team: "LC", Iteration: "LC10", From: noon}}, j.events, time.Time{})
	var told []string
	for _, s := range runs[0].Hours.Steps {
		told = append(told, fmt.Sprintf("%s %s %g to %g: %g left", s.At.Format("15:04"), s.Item, s.From, s.To, s.Left))
	}
	assert.Equal(t, 10.0, runs[0].Hours.Start)
	assert.Equal(t, []string{"13:00 A 10 to 8: 8 left", "14:00 B 0 to 3: 11 left", "15:00 A 8 to 4: 7 left", "16:00 A 4 to 0: 3 left", "18:00 B 3 to 0: 0 left"}, told)
	assert.Zero(t, runs[0].Hours.Left)
}

// recount is what stands in an iteration, and is done, by a plain walk over the items.
func recount(p program.Program, team, iteration string) (total, done track.Sum) {
	resolved := plan.Of(p)
	for i, item := range p.Items {
		if _, placed := resolved.Place(i); !placed || item.Team != team || item.Iteration != iteration || item.KeptOut {
			continue
		}
		size := 0.0
		if item.Size != nil {
			size = *item.Size
		}
		total.Items, total.Size = total.Items+1, total.Size+size
		if item.State == program.Done {
			done.Items, done.Size = done.Items+1, done.Size+size
		}
	}
	return total, done
}

// wildEdit is an edit of one or two changes of an item, or of an iteration's state.
func wildEdit(r *rand.Rand, p program.Program) []program.Change {
	if r.IntN(12) == 0 {
		team := p.Teams[r.IntN(len(p.Teams))]
		it := team.Iterations[r.IntN(len(team.Iterations))]
		return []program.Change{program.SetTo(program.Ref{Kind: program.KindIteration, In: team.Key, Key: it.Key}, "state", program.Open)}
	}
	i := p.Items[r.IntN(len(p.Items))]
	states := []program.ItemState{program.Todo, program.Doing, program.Review, program.Done}
	one := func() program.Change {
		switch r.IntN(10) {
		case 8, 9:
			return set(i.Key, "tasks", []program.Task{{Title: "Try", Hours: ptr(float64(r.IntN(9)) / 4), Done: r.IntN(3) == 0}, {Title: "Wire", HoursLeft: ptr(float64(r.IntN(5)))}, {Title: "Look"}})
		case 7:
			return set(i.Key, "step", []string{"", "sea trial", "building"}[r.IntN(3)])
		case 6:
			return set(i.Key, "blocked", []string{"", "No boat"}[r.IntN(2)])
		case 0:
			return set(i.Key, "size", r.IntN(9))
		case 1, 2:
			return set(i.Key, "state", states[r.IntN(4)])
		case 3:
			return set(i.Key, "keptOut", r.IntN(2) == 0)
		}
		for _, team := range p.Teams {
			if team.Key == i.Team && len(team.Iterations) > 0 {
				return set(i.Key, "iteration", team.Iterations[r.IntN(len(team.Iterations))].Key)
			}
		}
		return set(i.Key, "iteration", nil)
	}
	switch r.IntN(8) {
	case 0:
		return []program.Change{{Op: program.Remove, Ref: item(i.Key)}}
	case 1:
		i.Key, i.Title = fmt.Sprint("N", r.IntN(1000)), "New"
		return []program.Change{add(i)}
	}
	return []program.Change{one(), one()}
}

// What changes in an iteration that nobody has started is no change since its start, whatever the day: it begins with what
// stands in it now, also where it was opened and is planned again.
func TestAnIterationThatHasNotStarted(t *testing.T) {
	j := &journal{t: t, p: lamp()}
	state := func(to program.IterationState) program.Change {
		return program.SetTo(program.Ref{Kind: program.KindIteration, In: "LC", Key: "LC10"}, "state", to)
	}
	j.must(set("B", "size", 4))
	j.must(state(program.Open))
	j.must(add(program.Item{Key: "E", Title: "E", Kind: program.Defect, Team: "LC", Size: ptr(1.0), Iteration: "LC10"}))
	j.must(state(program.Planned))
	j.must(set("A", "iteration", "LC11"))
	runs, courses := track.Runs(j.p, []track.Asked{{Team: "LC", Iteration: "LC10", From: noon, Unstarted: true}}, j.events, time.Time{})
	r := runs[0]
	assert.Empty(t, r.Steps)
	assert.Equal(t, r.Total, r.Start)
	assert.Equal(t, []track.Sum{{}, {}, {}, {}}, []track.Sum{r.Added, r.Removed, r.Grown, r.Shrunk})
	assert.False(t, courses["E"].Added)

	p := plan.Of(j.p)
	all := track.Now(p, day("2027-03-05"), j.events, time.Time{}, time.UTC)
	assert.Equal(t, "LC10", all[0].Iteration)
	assert.Empty(t, all[0].Steps)
}
