package watch_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/calendar"
	"jantrel/core/needs"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/sample"
	"jantrel/core/watch"
)

func ptr[T any](v T) *T { return &v }

var today = calendar.MustParse("2027-03-03")

// harbour is two teams in an iteration each; Ann works in both, Bo in one.
func harbour() program.Program {
	iterations := func(team string) []program.Iteration {
		return []program.Iteration{
			{Key: team + "1", Name: team + "·1", Start: calendar.MustParse("2027-03-01"), End: calendar.MustParse("2027-03-14"), State: program.Open},
			{Key: team + "2", Name: team + "·2", Start: calendar.MustParse("2027-03-15"), End: calendar.MustParse("2027-03-28")},
			{Key: team + "3", Name: team + "·3", Start: calendar.MustParse("2027-03-29"), End: calendar.MustParse("2027-04-11")},
		}
	}
	item := func(key, team, iteration, assignee string, state program.ItemState) program.Item {
		return program.Item{Key: key, Title: "Item " + key, Kind: program.Story, Team: team, Iteration: iteration, Assignee: assignee, State: state, Size: ptr(3.0)}
	}
	p := program.Program{
		Teams: []program.Team{
			{Key: "A", Name: "Lamps", Unit: program.Points, Iterations: iterations("A"), Members: []program.Member{{Person: "ann", Share: 0.5}, {Person: "bo", Share: 1}}},
			{Key: "B", Name: "Charts", Unit: program.Points, Iterations: iterations("B"), Members: []program.Member{{Person: "ann", Share: 0.5}}},
			{Key: "C", Name: "Boats", Unit: program.Days, Iterations: iterations("C")},
		},
		People: []program.Person{{Key: "ann", Name: "Ann", DaysOff: []program.DayOff{
			{From: calendar.MustParse("2027-05-03"), To: calendar.MustParse("2027-05-07")}, {From: calendar.MustParse("2027-02-01"), To: calendar.MustParse("2027-02-02")},
			{From: calendar.MustParse("2027-03-02"), To: calendar.MustParse("2027-03-03")}}}, {Key: "bo", Name: "Bo"}},
		Items: []program.Item{
			item("his", "A", "A1", "bo", program.Doing), item("mine", "A", "A1", "ann", program.Doing), item("asks", "A", "A1", "bo", program.Review), item("afar", "C", "C1", "", program.Review),
			item("stuck", "B", "B1", "ann", program.Review), item("later", "B", "B3", "ann", program.Todo), item("waits", "B", "B1", "ann", program.Todo), item("next", "A", "A2", "ann", program.Todo),
			item("done", "A", "A1", "ann", program.Done), item("none", "A", "", "ann", program.Todo), item("out", "A", "A1", "ann", program.Doing), item("for", "C", "C2", "", program.Todo),
		},
		Needs: []program.Need{{Item: "waits", Needs: "his"}, {Item: "for", Needs: "mine", LagDays: 2}, {Item: "for", Needs: "later"}, {Item: "for", Needs: "done"}, {Item: "next", Needs: "mine"}, {Item: "afar", Needs: "none"}},
	}
	p.Items[0].Tasks = []program.Task{{Title: "Wire", Owner: "ann", Hours: ptr(5.0), HoursLeft: ptr(2.0)}, {Title: "Try"}}
	p.Items[1].Tasks = []program.Task{{Title: "Draw", Done: true, Hours: ptr(3.0)}}
	p.Items[4].Blocked = "No boat"
	p.Items[10].KeptOut = true
	return p.Normal()
}

func keys(list []watch.Mine) (all []string) {
	for _, m := range list {
		all = append(all, m.Item)
	}
	return all
}

// The worked example of docs/watch.md.
func TestWhatConcernsSomebody(t *testing.T) {
	p := harbour()
	require.Empty(t, program.Validate(p))
	w := watch.Of(plan.Of(p), "ann", today)
	assert.Equal(t, []string{"his", "mine", "stuck"}, keys(w.Going), "what has a task of hers to do first, then by rank")
	assert.Equal(t, []string{"waits", "next"}, keys(w.Next), "in this iteration and the next one")
	assert.Equal(t, []string{"asks"}, keys(w.Review), "of a team of hers, by somebody else")
	assert.Equal(t, 2.0, w.Hours)
	his := w.Going[0]
	assert.Equal(t, []any{"Bo", "Lamps", "A·1", 1}, []any{his.By, his.Team, his.Iteration, his.At})
	assert.Equal(t, []bool{true, false}, []bool{his.Tasks[0].Mine, his.Tasks[1].Mine}, "a task without an owner is the assignee's")
	assert.Equal(t, "No boat", w.Going[2].Blocked)
	assert.Equal(t, []string{"his"}, w.Next[0].Waits)
	var owed []string
	for _, o := range w.Owed {
		owed = append(owed, fmt.Sprint(o.Item, " for ", o.For, " of ", o.Team, " by ", o.Wanted, ", ", o.Status))
	}
	assert.Equal(t, []string{
		"none for afar of Boats by 2027-02-28, broken", "mine for for of Boats by 2027-03-12, broken", "later for for of Boats by 2027-03-14, broken",
	}, owed)
	assert.Len(t, w.Off, 2)
	assert.Equal(t, calendar.MustParse("2027-03-02"), w.Off[0].From, "the one that she is on")
	assert.Equal(t, needs.StatusBroken, w.Owed[1].Status)
}

// Of nobody, nothing; and what is gathered of anybody is what a plain look at each item says.
func TestAWatchIsWhatAPlainLookSays(t *testing.T) {
	for seed := range uint64(20) {
		p := sample.Program(seed, sample.Shape{Teams: 3, Iterations: 5, Items: 60, Needs: 30, Wild: true})
		for i := range p.Items {
			if len(p.People) > 0 && i%3 == 0 {
				p.Items[i].Assignee = p.People[i%len(p.People)].Key
			}
		}
		resolved := plan.Of(p)
		assert.Equal(t, watch.Watch{Going: []watch.Mine{}, Next: []watch.Mine{}, Review: []watch.Mine{}, Owed: []watch.Owed{}, Off: []program.DayOff{}}, watch.Of(resolved, "", sample.Today))
		tree := program.TreeOf(p)
		for _, who := range p.People {
			w := watch.Of(resolved, who.Key, sample.Today)
			going := map[string]bool{}
			for i, item := range p.Items {
				if tree.ToSchedule(i) && item.Assignee == who.Key && item.State.UnderWay() {
					going[item.Key] = true
				}
			}
			for _, m := range w.Going {
				item := p.Items[tree.Index[m.Item]]
				owns := false
				for _, task := range item.Tasks {
					owns = owns || task.Owner == who.Key
				}
				assert.True(t, going[m.Item] || owns, m.Item)
				delete(going, m.Item)
			}
			assert.Empty(t, going)
			for _, m := range append(w.Next, w.Review...) {
				assert.NotEqual(t, program.Done, m.State)
			}
		}
	}
}
