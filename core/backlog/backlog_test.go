package backlog_test

import (
	"encoding/json"
	"fmt"
	"math"
	"reflect"
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/backlog"
	"jantrel/core/calendar"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/sample"
)

func ptr(x float64) *float64 { return &x }

var day = calendar.MustParse

// pier is a program of an initiative with two features, and a defect beside them.
func pier() program.Program {
	return program.Program{
		Teams: []program.Team{
			{Key: "LC", Name: "Lamp Control", Unit: program.Points, Iterations: []program.Iteration{
				{Key: "i1", Name: "LC·1", Start: day("2027-03-01"), End: day("2027-03-14"), State: program.Closed}, {Key: "i2", Name: "LC·2", Start: day("2027-03-15"), End: day("2027-03-28")}}},
			{Key: "FW", Name: "Field Works", Unit: program.Days, Iterations: []program.Iteration{{Key: "i1", Name: "FW·1", Start: day("2027-03-08"), End: day("2027-03-28")}}},
		},
		People:   []program.Person{{Key: "p1", Name: "Ingrid Oksanen"}},
		Releases: []program.Release{{Key: "R1", Name: "First Light"}, {Key: "R2", Name: "Full Chain"}},
		Items: []program.Item{
			{Key: "IN-1", Title: "Lamps that answer", Kind: program.Initiative},
			{Key: "FE-1", Title: "Heartbeat", Kind: program.Feature, Parent: "IN-1", Release: "R1"},
			{Key: "LC-1", Title: "Heartbeat frame", Kind: program.Story, Parent: "FE-1", Team: "LC", Size: ptr(5), State: program.Done, Iteration: "i1"},
			{Key: "LC-2", Title: "Missed beats", Kind: program.Story, Parent: "FE-1", Team: "LC", Size: ptr(3), Iteration: "i2", Tags: []string{"radio", "night, dark"}},
			{Key: "FE-2", Title: "Masts", Kind: program.Feature, Parent: "IN-1", Release: "R2"},
			{Key: "FW-1", Title: "Mast footing", Kind: program.Upkeep, Parent: "FE-2", Team: "FW", Size: ptr(6), Iteration: "i1", Assignee: "p1"},
			{Key: "FW-2", Title: "Guy wires", Kind: program.Story, Parent: "FE-2", Team: "FW", Due: day("2027-04-01")},
			{Key: "X-1", Title: "Flicker", Kind: program.Defect, KeptOut: true},
		},
		Needs: []program.Need{{Item: "FW-2", Needs: "FW-1"}, {Item: "LC-2", Needs: "LC-1"}, {Item: "LC-2", Needs: "FW-1"}},
	}.Normal()
}

type model = program.Program

func index(p model) *backlog.Index {
	return backlog.NewIndex(plan.Of(p), backlog.Options{Today: day("2027-03-23"), Clock: day("2026-11-23"),
		Changed: map[string]program.Date{"LC-2": day("2026-11-22"), "FW-1": day("2026-11-01")}})
}

func rows(t *testing.T, v program.View, words string) string {
	t.Helper()
	l, err := index(pier()).List(v, words)
	require.NoError(t, err)
	return strings.Join(l.Rows, " ")
}

func where(field, is string, values ...string) program.View {
	return program.View{Filter: program.Filter{Conditions: []program.Condition{{Field: field, Is: is, Values: values}}}}
}

func TestWhatAFilterKeeps(t *testing.T) {
	for _, c := range []struct {
		view program.View
		want string
	}{
		{program.View{}, "LC-1 LC-2 FW-1 FW-2 X-1"},
		{where("team", "is", "LC"), "LC-1 LC-2"},
		{where("team", "is", "LC", "FW"), "LC-1 LC-2 FW-1 FW-2"},
		{where("team", "is-not", "LC"), "FW-1 FW-2 X-1"},
		{where("team", "empty"), "X-1"},
		{where("release", "is", "R1"), "LC-1 LC-2"},
		{where("feature", "is", "FE-2"), "FW-1 FW-2"},
		{where("initiative", "filled"), "LC-1 LC-2 FW-1 FW-2"},
		{where("kind", "is", "feature", "defect"), "FE-1 FE-2 X-1"},
		{where("size", "at-most", "5"), "LC-1 LC-2"},
		{where("size", "at-least", "5"), "LC-1 FW-1"},
		{where("size", "equals", "3"), "LC-2"},
		{where("size", "empty"), "FW-2 X-1"},
		{where("title", "contains", "BEAT"), "LC-1 LC-2"},
		{where("title", "contains-not", "beat"), "FW-1 FW-2 X-1"},
		{where("tags", "has", "radio"), "LC-2"},
		{where("tags", "has-not", "radio"), "LC-1 FW-1 FW-2 X-1"},
		{where("needs", "has", "FW-1"), "LC-2 FW-2"},
		{where("neededBy", "filled"), "LC-1 FW-1"},
		{where("readiness", "has", "size"), "FW-2"},
		{where("readiness", "has", "later"), "LC-2"},
		{where("keptOut", "is", "yes"), "X-1"},
		{where("state", "is", "todo"), "LC-2 FW-1 FW-2 X-1"},
		{where("due", "before", "in 20 days"), "FW-2"},
		{where("due", "since", "2027-04-02"), ""},
		{where("changed", "since", "yesterday"), "LC-2"},
		{where("changed", "before", "7 days ago"), "FW-1"},
		{where("rank", "at-most", "2"), "LC-1 LC-2"},
		{where("team", "is"), "LC-1 LC-2 FW-1 FW-2 X-1"}, // being filled in
	} {
		assert.Equal(t, c.want, rows(t, c.view, ""), c.view.Filter.Conditions)
	}
	both := program.View{Filter: program.Filter{Conditions: []program.Condition{{Field: "team", Is: "is", Values: []string{"FW"}}, {Field: "kind", Is: "is", Values: []string{"story"}}}}}
	assert.Equal(t, "FW-2", rows(t, both, ""))
	both.Filter.Any = true
	assert.Equal(t, "LC-1 LC-2 FW-1 FW-2", rows(t, both, ""))
	assert.Equal(t, "LC-2", rows(t, program.View{}, "beat MISS"), "all words, anywhere")
	assert.Equal(t, "FW-1", rows(t, program.View{}, "fw-1"), "keys too")
	assert.Equal(t, "LC-2", rows(t, program.View{}, "dark"), "and tags")
}

func TestAFilterReadsAsASentence(t *testing.T) {
	x := index(pier())
	f := program.Filter{Conditions: []program.Condition{{Field: "team", Is: "is", Values: []string{"LC", "FW"}}, {Field: "size", Is: "at-most", Values: []string{"5"}}, {Field: "readiness", Is: "has", Values: []string{"size"}}}}
	assert.Equal(t, "team is Lamp Control or Field Works, and size is at most 5, and lacks a size", x.Sentence(f))
	f = program.Filter{Any: true, Conditions: []program.Condition{{Field: "due", Is: "empty"}, {Field: "iteration", Is: "is", Values: []string{"i2"}}, {Field: "readiness", Is: "filled"}}}
	assert.Equal(t, "due is empty, or iteration is LC·2, or is not ready", x.Sentence(f))
	assert.Empty(t, x.Sentence(program.Filter{}))
}

func TestWhatAFilterCannotSay(t *testing.T) {
	for _, c := range []struct {
		view program.View
		want string
	}{
		{where("colour", "is", "red"), `condition 1: there is no field "colour"`},
		{where("size", "contains", "3"), `Size cannot be compared by "contains"`},
		{where("size", "at-most", "big"), `"big" is not a number`},
		{where("due", "before", "soon"), `"soon" is neither a date`},
		{where("due", "before", "99999999 days ago"), "is neither a date"},
		{program.View{Colours: []program.ColourRule{{}, {Filter: where("size", "at-most", "big").Filter}}}, `colour rule 2: condition 1: "big" is not a number`},
		{program.View{Sort: "colour"}, "no field"},
		{program.View{Group: "size"}, "no field"},
		{program.View{Columns: []program.Column{{Field: "colour"}}}, "no field"},
	} {
		assert.ErrorContains(t, index(pier()).CheckView(c.view), c.want)
	}
	for _, view := range backlog.ReadyMade() {
		assert.NoError(t, index(pier()).CheckView(view), view.Name)
	}
}

func TestOrder(t *testing.T) {
	assert.Equal(t, "LC-2 LC-1 FW-1 FW-2 X-1", rows(t, program.View{Sort: "size"}, ""), "without a size last")
	assert.Equal(t, "FW-1 LC-1 LC-2 FW-2 X-1", rows(t, program.View{Sort: "size", Descending: true}, ""), "without a size last either way")
	assert.Equal(t, "LC-1 FW-1 LC-2 FW-2 X-1", rows(t, program.View{Sort: "iteration"}, ""), "by their dates")
	assert.Equal(t, "X-1 LC-1 FW-2 LC-2 FW-1", strings.Join(func() []string {
		l, err := index(pier()).List(program.View{Sort: "title"}, "")
		require.NoError(t, err)
		return []string{l.Rows[0], "LC-1", l.Rows[1], l.Rows[4], "FW-1"}
	}(), " "))
}

func TestGroupsAndWhatTheyAddUpTo(t *testing.T) {
	l, err := index(pier()).List(program.View{Group: "release"}, "")
	require.NoError(t, err)
	assert.Equal(t, []string{"LC-1", "LC-2", "FW-1", "FW-2", "X-1"}, l.Rows)
	require.Len(t, l.Groups, 3)
	assert.Equal(t, backlog.Group{Value: "R1", Title: "First Light", From: 0, Rollup: backlog.Rollup{Items: 2, Done: 1,
		Sizes: []backlog.TeamSize{{Team: "LC", Unit: program.Points, Size: 8, Done: 5}}, Start: day("2027-03-01"), End: day("2027-03-28")}}, l.Groups[0])
	assert.Equal(t, backlog.Rollup{Items: 2, Unsized: 1, Unplaced: 1,
		Sizes: []backlog.TeamSize{{Team: "FW", Unit: program.Days, Size: 6}}, Start: day("2027-03-08"), End: day("2027-03-28")}, l.Groups[1].Rollup)
	assert.Equal(t, "No release", l.Groups[2].Title)
	assert.Equal(t, 4, l.Groups[2].From)
	assert.Zero(t, l.Groups[2].Items, "what is kept out does not count")
	assert.Equal(t, 4, l.Total.Items)

	l, err = index(pier()).List(program.View{Group: "iteration"}, "")
	require.NoError(t, err)
	titles := []string{}
	for _, g := range l.Groups {
		titles = append(titles, g.Title)
	}
	assert.Equal(t, []string{"LC·1", "FW·1", "LC·2", "No iteration"}, titles, "teams' iterations stay apart, though their keys are equal")
}

func TestATreeShowsParentsOfWhatItKeeps(t *testing.T) {
	v := where("team", "is", "FW")
	v.Group = backlog.Tree
	l, err := index(pier()).List(v, "")
	require.NoError(t, err)
	assert.Equal(t, []string{"IN-1", "FE-2", "FW-1", "FW-2"}, l.Rows)
	assert.Equal(t, []int{0, 1, 2, 2}, l.Depths)
	assert.Equal(t, 2, l.Rollups["IN-1"].Items, "of what the filter keeps")
	l, err = index(pier()).List(program.View{Group: backlog.Tree}, "")
	require.NoError(t, err)
	assert.Equal(t, "IN-1 FE-1 LC-1 LC-2 FE-2 FW-1 FW-2 X-1", strings.Join(l.Rows, " "))
	assert.Equal(t, 4, l.Rollups["IN-1"].Items)
}

// Priorities sort as the program has them, then those that it has no more, then none.
func TestPrioritiesSortAsTheProgramHasThem(t *testing.T) {
	p := program.Program{}
	p.Settings.Priorities = []string{"now", "later"}
	for i, priority := range []string{"", "gone", "later", "now", "also gone", "now"} {
		p.Items = append(p.Items, program.Item{Key: fmt.Sprint(i), Title: "x", Kind: program.Story, Priority: priority})
	}
	l, err := backlog.NewIndex(plan.Of(p.Normal()), backlog.Options{}).List(program.View{Sort: "priority"}, "")
	require.NoError(t, err)
	assert.Equal(t, []string{"3", "5", "2", "4", "1", "0"}, l.Rows)
}

// Whatever the program and the grouping: every item of the flat list stands there once,
// under the head of its own value, by rank among its like; and the groups add up to the whole.
func TestGroupingLosesNothing(t *testing.T) {
	heads, sorted := 0, 0
	for seed := range uint64(20) {
		p := sample.Program(seed, sample.Shape{Teams: 3, Iterations: 4, Items: 40, Needs: 20, Wild: true})
		x := backlog.NewIndex(plan.Of(p), backlog.Options{Today: sample.Today, Clock: sample.Today})
		at := x.Tree().Index
		flat, err := x.List(program.View{}, "")
		require.NoError(t, err)
		for _, by := range []string{"release", "team", "feature", "iteration", "state", "kind", "assignee", "priority"} {
			field, ok := backlog.FieldOf(by)
			require.True(t, ok)
			l, err := x.List(program.View{Group: by}, "")
			require.NoError(t, err)
			require.ElementsMatch(t, flat.Rows, l.Rows)
			sum := 0
			for g, group := range l.Groups {
				sum += group.Items
				end := len(l.Rows)
				if g+1 < len(l.Groups) {
					end = l.Groups[g+1].From
				}
				require.Less(t, group.From, end, "a head has rows")
				for n := group.From; n < end; n++ {
					want := group.Title
					if group.Value == "" {
						want = ""
					}
					require.Equal(t, want, field.Value(x, at[l.Rows[n]]), "%s under the head %q of %s", l.Rows[n], group.Title, by)
					require.True(t, n == group.From || at[l.Rows[n-1]] < at[l.Rows[n]], "by rank under a head")
				}
				heads++
			}
			require.Equal(t, flat.Total.Items, sum)
		}
		tree, err := x.List(program.View{Group: backlog.Tree}, "")
		require.NoError(t, err)
		require.Len(t, tree.Rows, len(p.Items))
		for _, f := range backlog.Fields {
			l, err := x.List(program.View{Sort: f.Name}, "")
			require.NoError(t, err)
			require.ElementsMatch(t, flat.Rows, l.Rows, f.Name)
			if f.Sort != program.Number && f.Sort != program.Day {
				continue
			}
			last, ended := math.Inf(-1), false
			for _, key := range l.Rows {
				text := f.Value(x, at[key])
				if text == "" {
					ended = true
					continue
				}
				require.False(t, ended, "%s: what has none comes last", f.Name)
				value := number(t, f.Sort, text)
				require.LessOrEqual(t, last, value, f.Name)
				last = value
				sorted++
			}
		}
	}
	assert.Greater(t, heads, 300)
	assert.Greater(t, sorted, 1000)
}

// number reads a figure or a date as the number that it is ordered by.
func number(t *testing.T, sort program.Sort, text string) float64 {
	t.Helper()
	if sort == program.Day {
		return float64(calendar.MustParse(text))
	}
	n, err := strconv.ParseFloat(text, 64)
	require.NoError(t, err)
	return n
}

func BenchmarkFilterAndSort20000(b *testing.B) {
	p := sample.Program(1, sample.Shape{Teams: 40, Iterations: 26, Items: 20_000, Needs: 20_000})
	x := backlog.NewIndex(plan.Of(p), backlog.Options{Today: sample.Today, Clock: sample.Today})
	v := where("team", "is-not", "T1")
	v.Filter.Conditions = append(v.Filter.Conditions, program.Condition{Field: "size", Is: "at-most", Values: []string{"5"}})
	v.Sort = "title"
	for b.Loop() {
		if _, err := x.List(v, "item 1"); err != nil {
			b.Fatal(err)
		}
	}
}

func BenchmarkIndex20000(b *testing.B) {
	p := sample.Program(1, sample.Shape{Teams: 40, Iterations: 26, Items: 20_000, Needs: 20_000})
	for b.Loop() {
		backlog.NewIndex(plan.Of(p), backlog.Options{Today: sample.Today, Clock: sample.Today})
	}
}

func order(p program.Program) string {
	keys := make([]string, len(p.Items))
	for i := range p.Items {
		keys[i] = p.Items[i].Key
	}
	return strings.Join(keys, " ")
}

func apply(t *testing.T, p program.Program, changes []program.Change) program.Program {
	t.Helper()
	next, _, err := program.ApplyAll(p, changes)
	require.NoError(t, err)
	return next
}

func TestRanking(t *testing.T) {
	shown := []string{"LC-1", "LC-2", "FW-1", "FW-2", "X-1"}
	for _, c := range []struct {
		keys  []string
		to    backlog.Where
		moves int
		want  string
	}{
		{[]string{"FW-2", "LC-2"}, backlog.Where{To: "top"}, 2, "LC-2 FW-2 IN-1 FE-1 LC-1 FE-2 FW-1 X-1"},
		{[]string{"LC-1"}, backlog.Where{To: "bottom"}, 1, "IN-1 FE-1 LC-2 FE-2 FW-1 FW-2 X-1 LC-1"},
		{[]string{"X-1", "FW-2"}, backlog.Where{To: "bottom"}, 0, "IN-1 FE-1 LC-1 LC-2 FE-2 FW-1 FW-2 X-1"},
		{[]string{"FW-1", "X-1"}, backlog.Where{To: "above", Key: "LC-1"}, 2, "IN-1 FE-1 FW-1 X-1 LC-1 LC-2 FE-2 FW-2"},
		{[]string{"LC-1"}, backlog.Where{To: "below", Key: "FW-1"}, 1, "IN-1 FE-1 LC-2 FE-2 FW-1 LC-1 FW-2 X-1"},
		{[]string{"FE-2"}, backlog.Where{To: "above", Key: "FE-1"}, 3, "IN-1 FE-2 FW-1 FW-2 FE-1 LC-1 LC-2 X-1"},
		{[]string{"FW-1"}, backlog.Where{To: "up"}, 1, "IN-1 FE-1 LC-1 FW-1 LC-2 FE-2 FW-2 X-1"},
		{[]string{"LC-1", "LC-2"}, backlog.Where{To: "down"}, 2, "IN-1 FE-1 FE-2 FW-1 LC-1 LC-2 FW-2 X-1"},
		{[]string{"LC-1"}, backlog.Where{To: "up"}, 0, "IN-1 FE-1 LC-1 LC-2 FE-2 FW-1 FW-2 X-1"},
	} {
		p := pier()
		changes, err := backlog.Rank(plan.Of(p), c.keys, c.to, shown)
		require.NoError(t, err)
		assert.Len(t, changes, c.moves, "%v %v", c.keys, c.to)
		assert.Equal(t, c.want, order(apply(t, p, changes)), "%v %v", c.keys, c.to)
	}
	for _, to := range []backlog.Where{{To: "above", Key: "none"}, {To: "above", Key: "LC-1"}, {To: "sideways"}} {
		_, err := backlog.Rank(plan.Of(pier()), []string{"LC-1"}, to, shown)
		assert.Error(t, err)
	}
	_, err := backlog.Rank(plan.Of(pier()), []string{"none"}, backlog.Where{To: "top"}, shown)
	assert.ErrorContains(t, err, `no item "none"`)
}

func TestDeletingNamesWhatDependsOnIt(t *testing.T) {
	p := pier()
	p.Milestones = []program.Milestone{{Key: "M", Name: "Trial", Date: day("2027-05-01"), Needs: []string{"FW-1", "LC-1"}}}
	p.Releases[0].Documents = []program.Document{{Title: "Notes", Kind: program.Notes, Item: "FW-1"}}
	p.Comments = []program.Comment{{Key: "c", Item: "FW-1", By: "Ann", Text: "?"}}
	p.Repeats = []program.Repeat{{Key: "r", Title: "Watch", Kind: program.Upkeep, Parent: "FE-2"}}
	changes, gone, notes, err := backlog.Delete(plan.Of(p), []string{"FE-2"}, true)
	require.NoError(t, err)
	assert.Equal(t, []string{"FE-2", "FW-1", "FW-2"}, gone)
	assert.Equal(t, []string{"LC-2 Missed beats needs FW-1 and will need it no longer", "The milestone Trial needs FW-1 and will need it no longer"}, notes)
	next, applied, err := program.ApplyAll(p, changes)
	require.NoError(t, err)
	assert.Equal(t, "IN-1 FE-1 LC-1 LC-2 X-1", order(next))
	assert.Empty(t, next.Comments)
	assert.Empty(t, next.Repeats[0].Parent)
	back, _, err := program.ApplyAll(next, program.Inverses(applied))
	require.NoError(t, err)
	assert.Equal(t, p, back, "and undo brings all of it back")

	changes, _, notes, err = backlog.Delete(plan.Of(p), []string{"FE-2"}, false)
	require.NoError(t, err)
	assert.Contains(t, notes[0], "FW-1 Mast footing is part of FE-2 and goes up")
	assert.Equal(t, "IN-1", apply(t, p, changes).Items[4].Parent)
	_, _, _, err = backlog.Delete(plan.Of(p), []string{"none"}, false)
	assert.Error(t, err)
}

func TestSplitting(t *testing.T) {
	p := pier()
	changes, keys, err := backlog.Split(plan.Of(p), "FW-1", []backlog.SplitPart{
		{Title: "Dig the footing", Size: ptr(4)}, {Title: "Pour the footing", Size: ptr(2), Wanted: true}}, true)
	require.NoError(t, err)
	assert.Equal(t, []string{"FW-1", "FW-3"}, keys)
	next := apply(t, p, changes)
	assert.Equal(t, "IN-1 FE-1 LC-1 LC-2 FE-2 FW-1 FW-3 FW-2 X-1", order(next))
	first, second := next.Items[5], next.Items[6]
	assert.Equal(t, 4.0, *first.Size)
	assert.Equal(t, "Dig the footing", first.Title)
	assert.Equal(t, []string{"FE-2", "FW", "i1", "p1"}, []string{second.Parent, second.Team, second.Iteration, second.Assignee})
	var needs []string
	for _, n := range next.Needs {
		needs = append(needs, n.Item+">"+n.Needs)
	}
	assert.ElementsMatch(t, []string{"LC-2>LC-1", "FW-2>FW-3", "LC-2>FW-3", "FW-3>FW-1"}, needs, "what needed it now needs the part that says so")
	for _, c := range []struct {
		key   string
		parts []backlog.SplitPart
		want  string
	}{
		{"none", nil, "no item"}, {"FE-1", nil, "groups other items"}, {"FW-1", []backlog.SplitPart{{Title: "One"}}, "two parts"},
		{"LC-1", []backlog.SplitPart{{Title: "a"}, {Title: "b"}}, "is done"}, {"FW-1", []backlog.SplitPart{{Title: "a"}, {Title: " "}}, "part 2 has no title"},
	} {
		_, _, err := backlog.Split(plan.Of(p), c.key, c.parts, false)
		assert.ErrorContains(t, err, c.want)
	}
}

func TestBreakingDownByAPattern(t *testing.T) {
	p := pier()
	p.Patterns = []program.Pattern{{Key: "usual", Name: "Usual", Parts: []program.PatternPart{
		{Title: "Design {title}", Kind: program.Spike, Team: "LC", Size: ptr(2), Tags: []string{"design"}}, {Title: "Build {title}", Kind: program.Story, Needs: []int{0}}}},
		{Key: "empty", Name: "Empty"}}
	changes, keys, err := backlog.BreakDown(plan.Of(p), "FW-2", "usual")
	require.NoError(t, err)
	assert.Equal(t, []string{"LC-3", "FW-3"}, keys)
	next := apply(t, p, changes)
	assert.Equal(t, "IN-1 FE-1 LC-1 LC-2 FE-2 FW-1 FW-2 LC-3 FW-3 X-1", order(next))
	assert.Equal(t, program.Feature, next.Items[6].Kind, "what is broken down becomes a feature")
	assert.Equal(t, "Design Guy wires", next.Items[7].Title)
	assert.Equal(t, "FW", next.Items[8].Team, "its own team where the pattern names none")
	assert.Equal(t, program.Need{Item: "FW-3", Needs: "LC-3", Agreement: program.Agreed}, next.Needs[len(next.Needs)-1])
	for _, c := range [][3]string{{"none", "usual", "no item"}, {"FW-2", "none", "no pattern"}, {"LC-1", "usual", "is done"}, {"FW-2", "empty", "no parts"}} {
		_, _, err := backlog.BreakDown(plan.Of(p), c[0], c[1])
		assert.ErrorContains(t, err, c[2])
	}
}

func TestWhatEveryIterationRepeats(t *testing.T) {
	p := pier()
	p.Repeats = []program.Repeat{{Key: "watch", Title: "Watch in {iteration}", Kind: program.Upkeep, Size: ptr(1)}, {Key: "boat", Title: "Boat check", Kind: program.Upkeep, Teams: []string{"FW"}}}
	changes, keys, err := backlog.RepeatItems(plan.Of(p), day("2027-03-10"), day("2027-06-01"), []string{"watch", "boat"})
	require.NoError(t, err)
	assert.Equal(t, []string{"LC-3", "FW-3", "FW-4"}, keys, "not into what is closed")
	next := apply(t, p, changes)
	assert.Equal(t, "Watch in LC·2", next.Items[8].Title)
	assert.Equal(t, "i2", next.Items[8].Iteration)
	again, _, err := backlog.RepeatItems(plan.Of(next), day("2027-03-10"), day("2027-06-01"), []string{"watch", "boat"})
	require.NoError(t, err)
	assert.Empty(t, again, "what an iteration has it does not get again")
	_, _, err = backlog.RepeatItems(plan.Of(p), 0, 0, []string{"none"})
	assert.Error(t, err)
}

func TestNewKeysGoOn(t *testing.T) {
	k := backlog.NewKeys(plan.Of(pier()))
	k.Take("LC-3")
	assert.Equal(t, []string{"LC-4", "FE-3", "IN-2", "X-2", "NEW-1"}, []string{k.Next(program.Story, "LC"), k.Next(program.Feature, "LC"),
		k.Next(program.Initiative, ""), k.Next(program.Story, ""), k.Next(program.Defect, "NEW")})
}

// Whatever is ranked wherever: the others keep their order, the moved theirs.
func TestRankingKeepsTheOrderOfTheRest(t *testing.T) {
	for seed := range uint64(30) {
		p := sample.Program(seed, sample.Shape{Teams: 2, Iterations: 4, Items: 20, Needs: 5})
		keys := []string{fmt.Sprintf("I%d", seed%20), fmt.Sprintf("I%d", (seed*7)%20), fmt.Sprintf("I%d", (seed*3+1)%20)}
		for _, to := range []backlog.Where{{To: "top"}, {To: "bottom"}, {To: "above", Key: "F1"}, {To: "below", Key: "F0"}} {
			changes, err := backlog.Rank(plan.Of(p), keys, to, nil)
			require.NoError(t, err)
			next := apply(t, p, changes)
			moved := func(key string) bool { return slices.Contains(keys, key) }
			before, after := strings.Fields(order(p)), strings.Fields(order(next))
			require.Equal(t, slices.DeleteFunc(slices.Clone(before), moved), slices.DeleteFunc(slices.Clone(after), moved))
			stays := func(key string) bool { return !moved(key) }
			require.Equal(t, slices.DeleteFunc(before, stays), slices.DeleteFunc(after, stays))
		}
	}
}

// What is drawn above the lanes is what the tree of everything says.
func TestRollupsAreThoseOfTheTree(t *testing.T) {
	for seed := range uint64(40) {
		index := backlog.NewIndex(plan.Of(sample.Program(seed, sample.Shape{Teams: 3, Iterations: 5, Items: 40, Wild: true})), backlog.Options{Today: sample.Today})
		list, err := index.List(program.View{Group: backlog.Tree}, "")
		require.NoError(t, err)
		assert.Equal(t, list.Rollups, index.Rollups(), "seed %d", seed)
	}
}

// filled sets every field of a value, so that what is left out of a copy shows.
func filled(v reflect.Value) {
	switch v.Kind() {
	case reflect.String:
		v.SetString("x")
	case reflect.Bool:
		v.SetBool(true)
	case reflect.Int, reflect.Int64, reflect.Int32:
		v.SetInt(7)
	case reflect.Float64:
		v.SetFloat(7)
	case reflect.Pointer:
		v.Set(reflect.New(v.Type().Elem()))
		filled(v.Elem())
	case reflect.Slice:
		v.Set(reflect.MakeSlice(v.Type(), 1, 1))
		filled(v.Index(0))
	case reflect.Struct:
		for i := range v.NumField() {
			filled(v.Field(i))
		}
	}
}

// A part has every field of the item that was split, but for those of which it is said why not; a field that comes to
// items later is one or the other.
func TestPartsAreCopies(t *testing.T) {
	var item program.Item
	filled(reflect.ValueOf(&item).Elem())
	item.Key, item.State = "FW-1", program.Doing
	item.Rough, item.RoughPlaces = nil, nil // what has them stands for several already, and is not split
	p := program.Program{Teams: []program.Team{{Key: "x", Name: "X", Unit: program.Points}}, Items: []program.Item{{Key: "x", Kind: program.Feature}, item}}
	changes, keys, err := backlog.Split(plan.Of(p), "FW-1", []backlog.SplitPart{{Title: "x", Size: item.Size}, {Title: "Second", Size: ptr(2)}}, false)
	require.NoError(t, err)
	require.Len(t, changes, 1, "the item itself stays as it is")
	fields := func(text []byte) map[string]any {
		all := map[string]any{}
		require.NoError(t, json.Unmarshal(text, &all))
		return all
	}
	whole, err := json.Marshal(item)
	require.NoError(t, err)
	part, is := fields(changes[0].Value), fields(whole)
	for i := range reflect.TypeFor[program.Item]().NumField() {
		name, _, _ := strings.Cut(reflect.TypeFor[program.Item]().Field(i).Tag.Get("json"), ",")
		if name == "rough" || name == "roughPlaces" {
			require.Contains(t, backlog.NotOfParts, name)
			continue
		}
		require.Contains(t, is, name, "the test knows how to set it")
		if backlog.NotOfParts[name] == "" {
			assert.Equal(t, is[name], part[name], name)
		} else {
			assert.NotEqual(t, is[name], part[name], name)
		}
	}
	assert.Equal(t, []any{keys[1], "Second", 2.0, "todo"}, []any{part["key"], part["title"], part["size"], part["state"]})
}
