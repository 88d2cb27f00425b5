package intake_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/backlog"
	"jantrel/core/calendar"
	"jantrel/core/intake"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/sample"
)

func ptr(x float64) *float64 { return &x }

var today = calendar.MustParse("2027-03-23")

func quay() program.Program {
	return program.Program{
		Teams: []program.Team{{Key: "LC", Name: "Lamp Control", Unit: program.Points, Iterations: []program.Iteration{
			{Key: "LC-i1", Name: "LC·1", Start: today, End: today.Add(13)}, {Key: "LC-i2", Name: "LC·2", Start: today.Add(14), End: today.Add(27)}}},
			{Key: "FW", Name: "Field Works", Unit: program.Days}},
		People:   []program.Person{{Key: "p1", Name: "Rui Figueira"}, {Key: "p2", Name: "Hana Kobayagi"}, {Key: "p3", Name: "Hana Kobayagi"}},
		Releases: []program.Release{{Key: "R1", Name: "First Light"}},
		Items: []program.Item{{Key: "FE-1", Title: "Heartbeat", Kind: program.Feature, Release: "R1"},
			{Key: "LC-1", Title: "Frame", Kind: program.Story, Parent: "FE-1", Team: "LC", Size: ptr(5), Iteration: "LC-i1", Tags: []string{"radio"}},
			{Key: "LC-2", Title: "Counter", Kind: program.Story, State: program.Done, DoneOn: today.Add(-3)}},
		Needs: []program.Need{{Item: "LC-1", Needs: "LC-2", LagDays: 2}},
	}.Normal()
}

func read(p program.Program, columns string, rows ...string) intake.Result {
	t := intake.Table{Columns: strings.Split(columns, "|")}
	for _, row := range rows {
		t.Rows = append(t.Rows, strings.Split(row, "|"))
	}
	return intake.Read(backlog.NewIndex(plan.Of(p), backlog.Options{Today: today, Clock: today}), t, intake.Options{Today: today})
}

func TestHeadingsAreRecognised(t *testing.T) {
	assert.Equal(t, []string{"key", "title", "kind", "parent", "size", "needs", "", "tags", "iteration"},
		intake.Guess([]string{"ID", " Title ", "TYPE", "Feature", "Estimate", "Depends on", "Colour", "labels", "Sprint"}))
	assert.Equal(t, []string{"title", ""}, intake.Guess([]string{"Title", "Name"}), "a field once, by its own name first")
	assert.Equal(t, []string{"notBefore", "assignee", "parent", ""}, intake.Guess([]string{"Not before", "Assigned to", "Part of", "Feature"}))
}

func TestNewChangedAndUnchangedRows(t *testing.T) {
	r := read(quay(), "key|title|kind|team|size|release|parent|iteration|needs|tags|state|due|assignee",
		"LC-1|Frame|story|Lamp Control|5|First Light|Heartbeat|LC·1|LC-2|radio||||",
		"LC-2|Counter|defect||||||||done||",
		"LC-9|Alarm|Defect|lamp control|3,5 pt|R1|fe-1|lc·2|LC-1; LC-2|night, radio|to do|2027-06-25|rui figueira",
		"|Silence|||||||LC-9||||",
		"|||")
	require.Empty(t, r.Problems)
	assert.Equal(t, []intake.RowState{intake.Changed, intake.Changed, intake.New, intake.New, intake.Empty}, r.Rows)
	assert.Equal(t, []string{"LC-1", "LC-2", "LC-9", "X-1", ""}, r.Keys)
	next, _, err := program.ApplyAll(quay(), r.Changes)
	require.NoError(t, err)
	assert.Equal(t, program.Item{Key: "LC-9", Title: "Alarm", Kind: program.Defect, Team: "LC", Size: ptr(3.5), Release: "R1", Parent: "FE-1", Iteration: "LC-i2",
		State: program.Todo, Tags: []string{"night", "radio"}, Due: calendar.MustParse("2027-06-25"), Assignee: "p1"}, next.Items[3])
	assert.Equal(t, program.Defect, next.Items[2].Kind)
	assert.Equal(t, []program.Need{{Item: "LC-1", Needs: "LC-2", LagDays: 2}, {Item: "LC-9", Needs: "LC-1", Agreement: program.Asked}, {Item: "LC-9", Needs: "LC-2", Agreement: program.Asked},
		{Item: "X-1", Needs: "LC-9", Agreement: program.Asked}}, next.Needs, "what stays keeps its lag")
	assert.Equal(t, map[intake.RowState]int{intake.New: 2, intake.Changed: 2, intake.Empty: 1}, r.Counts)
}

func TestEveryFaultHasItsRowAndColumn(t *testing.T) {
	for _, c := range []struct {
		columns, row string
		column       int
		text         string
	}{
		{"title|team", "A|Lamps", 1, `there is no team "Lamps"`},
		{"title|kind", "A|bug", 1, `"bug" is no kind; it is one of initiative, feature`},
		{"title|size", "A|big", 1, `"big" is not a size; write a number`},
		{"title|size", "A|-3", 1, "the size -3 is below 0"},
		{"title|release", "A|Second", 1, `there is no release "Second"`},
		{"title|parent", "A|Nothing", 1, `there is no feature or initiative "Nothing"`},
		{"title|iteration", "A|LC·1", 1, "it has no team"},
		{"title|team|iteration", "A|LC|LC·9", 2, `team LC has no iteration "LC·9"`},
		{"title|state", "A|gone", 1, `"gone" is no state`},
		{"title|due", "A|25.6.27", 1, `"25.6.27" is not a date; write it as 2027-06-25`},
		{"title|pinned", "A|perhaps", 1, "neither yes nor no"},
		{"title|needs", "A|LC-1, LC-77", 1, `there is no item "LC-77" to need`},
		{"key|needs", "LC-1|LC-1", 1, "cannot need itself"},
		{"key|needs", "LC-2|LC-1", 1, "close a cycle"},
		{"key|parent", "LC-1|LC-1", 1, "cannot be part of itself"},
		{"title|priority", "A|urgent", 1, "the program has no priorities beside the rank"},
		{"title|assignee", "A|Hana Kobayagi", 1, "is the name of 2; write the key, p2 or p3"},
		{"title|size", "|3", 0, "a new item needs a title"},
		{"key|title", "LC-1|", 1, "the title is empty"},
	} {
		r := read(quay(), c.columns, c.row)
		require.Len(t, r.Problems, 1, "%s: %s", c.columns, c.row)
		assert.Equal(t, []int{0, c.column}, []int{r.Problems[0].Row, r.Problems[0].Column}, c.row)
		assert.Contains(t, r.Problems[0].Text, c.text)
		assert.Equal(t, intake.Wrong, r.Rows[0])
	}
	pressing := quay()
	pressing.Settings.Priorities = []string{"Now", "Later"}
	r := read(pressing, "title|priority", "A|now", "B|", "C|urgent")
	require.Len(t, r.Problems, 1)
	assert.Equal(t, intake.Problem{Row: 2, Column: 1, Text: `"urgent" is no priority of the program; it is one of Now, Later`}, r.Problems[0])
	r = read(quay(), "key|title", "LC-5|A", "LC-5|B")
	assert.Equal(t, []intake.Problem{{Row: 1, Column: 0, Text: "LC-5 stands in row 1 already; a key stands once"}}, r.Problems)
	for columns, text := range map[string]string{"size": "no column holds titles", "title|title": "in two columns", "title|readiness": "is worked out", "title|colour": "no field"} {
		assert.Contains(t, read(quay(), columns).Problems[0].Text, text)
	}
	r = read(quay(), "key|parent|title", "A-1|A-2|a", "A-2|A-1|b")
	assert.Contains(t, r.Problems[0].Text, "among its own parents", "rules that rows break together are found too")
}

func TestAnEmptyCellClearsAndAMissingColumnDoesNot(t *testing.T) {
	r := read(quay(), "key|size|tags|needs|iteration", "LC-1||||")
	require.Empty(t, r.Problems)
	next, _, err := program.ApplyAll(quay(), r.Changes)
	require.NoError(t, err)
	assert.Nil(t, next.Items[1].Size)
	assert.Empty(t, next.Items[1].Tags)
	assert.Empty(t, next.Items[1].Iteration)
	assert.Empty(t, next.Needs)
	assert.Equal(t, "FE-1", next.Items[1].Parent)
}

func TestAnItemStaysWhole(t *testing.T) {
	r := read(quay(), "key|team", "LC-1|FW")
	next, _, err := program.ApplyAll(quay(), r.Changes)
	require.NoError(t, err)
	assert.Empty(t, next.Items[1].Iteration, "another team has other iterations")
	assert.Equal(t, []string{"LC-1 goes to another team and loses its place in LC·1 of Lamp Control"}, r.Notes)
	r = read(quay(), "key|state", "LC-1|done", "LC-2|doing")
	next, _, err = program.ApplyAll(quay(), r.Changes)
	require.NoError(t, err)
	assert.Equal(t, today, next.Items[1].DoneOn)
	assert.True(t, next.Items[2].DoneOn.IsZero())
}

func TestFeaturesAreMadeForParentsThatAreMissing(t *testing.T) {
	x := backlog.NewIndex(plan.Of(quay()), backlog.Options{})
	r := intake.Read(x, intake.Table{Columns: []string{"title", "parent"}, Rows: [][]string{{"A", "Fog"}, {"B", "fog"}, {"C", "Heartbeat"}}}, intake.Options{MakeParents: true})
	require.Empty(t, r.Problems)
	next, _, err := program.ApplyAll(quay(), r.Changes)
	require.NoError(t, err)
	assert.Equal(t, program.Item{Key: "FE-2", Title: "Fog", Kind: program.Feature}, next.Items[3])
	assert.Equal(t, []string{"FE-2", "FE-2", "FE-1"}, []string{next.Items[4].Parent, next.Items[5].Parent, next.Items[6].Parent})
}

// What Field.Value writes comes back without a change, whatever the program.
func TestTakingInWhatWasWrittenChangesNothing(t *testing.T) {
	for seed := range uint64(30) {
		p := sample.Program(seed, sample.Shape{Teams: 3, Iterations: 5, Items: 40, Needs: 30, Wild: true, Cycles: true, Rough: seed%2 == 0})
		x := backlog.NewIndex(plan.Of(p), backlog.Options{Today: sample.Today, Clock: sample.Today})
		table := intake.Table{}
		for _, f := range backlog.Fields {
			if f.Enter {
				table.Columns = append(table.Columns, f.Name)
			}
		}
		for i := range p.Items {
			var row []string
			for _, name := range table.Columns {
				field, _ := backlog.FieldOf(name)
				row = append(row, field.Value(x, i))
			}
			table.Rows = append(table.Rows, row)
		}
		r := intake.Read(x, table, intake.Options{Today: sample.Today})
		require.Empty(t, r.Problems)
		require.Empty(t, r.Changes, "seed %d", seed)
		require.Equal(t, len(p.Items), r.Counts[intake.Unchanged])
	}
}

func TestRoughSizesInACell(t *testing.T) {
	r := read(quay(), "key|rough", "FE-1|LC 30, lamp control 7.5-12")
	require.Len(t, r.Problems, 1)
	assert.Contains(t, r.Problems[0].Text, "stands twice")
	for cell, fault := range map[string]string{"LC": "write a team and a figure", "XX 3": "there is no team", "LC three": "write a figure or a range", "LC 3-": "write a figure or a range", "LC 9–3": "less than the least"} {
		r := read(quay(), "key|rough", "FE-1|"+cell)
		require.NotEmpty(t, r.Problems, cell)
		assert.Contains(t, r.Problems[0].Text, fault)
	}
	r = read(quay(), "key|rough", "FE-1|lamp control 7.5 – 12")
	assert.NotEmpty(t, r.Problems, "no blanks in a range")
	r = read(quay(), "key|rough", "FE-1|lamp control 7.5–12")
	require.Empty(t, r.Problems)
	next, _, err := program.ApplyAll(quay(), r.Changes)
	require.NoError(t, err)
	most := 12.0
	assert.Equal(t, []program.Rough{{Team: "LC", Size: 7.5, UpTo: &most}}, next.Items[0].Rough)
}

func TestWordsInACell(t *testing.T) {
	assert.Equal(t, []string{"a", "b c", "d,e", "f"}, intake.Words(" a; b c,\n\"d,e\" , a,, f"))
	assert.Empty(t, intake.Words(" ,;"))
}

func TestDatesOfSpreadsheets(t *testing.T) {
	// Spreadsheets keep 25 June 2027 as day 46563 since 30 December 1899.
	r := read(quay(), "key|due", "LC-1|46563")
	require.Empty(t, r.Problems)
	next, _, err := program.ApplyAll(quay(), r.Changes)
	require.NoError(t, err)
	assert.Equal(t, "2027-06-25", next.Items[1].Due.String())
}

const outline = `
# Lamps that answer
- Remote dimming (R1)
	- Dimming curve (5 pt, LC, #lens)
	- [x] Orders with receipt (3,LC, defect)
* Masts (of Stennholm)
  1. Footing (2.5 d, Field Works)
  2. Wires

Loose line (LC)
`

func TestAnOutlineBecomesItems(t *testing.T) {
	changes, keys, err := intake.AddOutline(backlog.NewIndex(plan.Of(quay()), backlog.Options{}), today, outline, intake.Under{After: "FE-1", Team: "LC", Iteration: "LC-i2"})
	require.NoError(t, err)
	next, _, err := program.ApplyAll(quay(), changes)
	require.NoError(t, err)
	assert.Equal(t, []string{"IN-1", "FE-2", "LC-3", "LC-4", "FE-3", "FW-1", "FW-2", "LC-5"}, keys)
	var lines []string
	for _, item := range next.Items[1:9] {
		size := ""
		if item.Size != nil {
			size = fmt.Sprint(*item.Size)
		}
		lines = append(lines, strings.Join([]string{item.Key, item.Parent, string(item.Kind), item.Team, item.Release, size, item.Title, string(item.State), item.Iteration, strings.Join(item.Tags, " ")}, "|"))
	}
	assert.Equal(t, []string{
		"IN-1||initiative||||Lamps that answer|todo||",
		"FE-2|IN-1|feature||R1||Remote dimming|todo||",
		"LC-3|FE-2|story|LC||5|Dimming curve|todo|LC-i2|lens",
		"LC-4|FE-2|defect|LC||3|Orders with receipt|done||",
		"FE-3|IN-1|feature||||Masts (of Stennholm)|todo||",
		"FW-1|FE-3|story|FW||2.5|Footing|todo||",
		"FW-2|FE-3|story|FW|||Wires|todo||",
		"LC-5|IN-1|story|LC|||Loose line|todo|LC-i2|",
	}, lines)
	assert.Equal(t, "LC-1", next.Items[9].Key, "below the item that was named")
	_, _, err = intake.AddOutline(backlog.NewIndex(plan.Of(quay()), backlog.Options{}), today, "\n - \n", intake.Under{})
	assert.ErrorContains(t, err, "no line with a title")
}

func TestALineTakesTheTeamOfThoseBesideIt(t *testing.T) {
	read := func(text string, under intake.Under) []string {
		nodes, err := intake.ReadOutline(backlog.NewIndex(plan.Of(quay()), backlog.Options{}), today, text, under)
		require.NoError(t, err)
		var lines []string
		for _, n := range nodes {
			lines = append(lines, n.Item.Title+"|"+n.Item.Team)
		}
		return lines
	}
	assert.Equal(t, []string{"Masts|", "Footing|FW", "Wires|FW", "Paint|FW", "Bell|LC"},
		read("Masts\n  Footing\n  Wires (FW)\n  Paint\nBell", intake.Under{Team: "LC"}), "a line beside it, before or after, and not where the cursor is")
	assert.Equal(t, []string{"Masts|FW", "Footing|FW"}, read("Masts (Field Works)\n  Footing", intake.Under{Team: "LC"}), "the line above")
	assert.Equal(t, []string{"Horn|LC"}, read("Horn", intake.Under{Parent: "FE-1"}), "all that is part of Heartbeat is Lamp Control's")
	assert.Equal(t, []string{"Horn|"}, read("Horn", intake.Under{}))
}

func TestWhatIsNotUnderstoodIsPointedAt(t *testing.T) {
	nodes := intake.Outline(backlog.NewIndex(plan.Of(quay()), backlog.Options{}), "Horn (5, LC, urgent, #fog)\nMast (of Stennholm)\nLamp (3 pt, phase 2)")
	require.Len(t, nodes, 3)
	assert.Equal(t, program.Item{Title: "Horn (urgent)", Kind: program.Story, Team: "LC", Size: ptr(5), Tags: []string{"fog"}, State: program.Todo}, nodes[0].Item)
	assert.Equal(t, []string{"urgent"}, nodes[0].Unknown)
	assert.Equal(t, "Mast (of Stennholm)", nodes[1].Item.Title)
	assert.Empty(t, nodes[1].Unknown)
	assert.Equal(t, "Lamp (phase 2)", nodes[2].Item.Title)
	assert.Equal(t, ptr(3), nodes[2].Item.Size)
}

func FuzzOutline(f *testing.F) {
	f.Add(outline)
	f.Add("- a\n\t\t- b\n - c (3)\n#### d\n- [ ] (5)")
	x := backlog.NewIndex(plan.Of(quay()), backlog.Options{})
	f.Fuzz(func(t *testing.T, text string) {
		nodes := intake.Outline(x, text)
		for i, n := range nodes {
			require.NotEmpty(t, n.Item.Title)
			require.True(t, i == 0 && n.Depth == 0 || i > 0 && n.Depth <= nodes[i-1].Depth+1, "nothing hangs in the air")
		}
		changes, keys, err := intake.AddOutline(x, today, text, intake.Under{})
		if err != nil {
			require.Empty(t, nodes)
			return
		}
		require.Len(t, keys, len(nodes))
		_, _, err = program.ApplyAll(quay(), changes)
		require.NoError(t, err)
	})
}

// Whatever stands in the cells: either there is a problem, or the changes apply.
func FuzzRead(f *testing.F) {
	f.Add("key|title|size", "LC-1|Frame|5\n|New|3,5\n||")
	f.Add("title|parent|needs|team|iteration", "A|Heartbeat|LC-1;LC-2|LC|LC·1\nB|A||FW|LC·1")
	f.Add("key|kind|state|due|tags", "LC-1|feature|done|46563|\"a,b\";c")
	f.Fuzz(func(t *testing.T, columns, rows string) {
		r := read(quay(), columns, strings.Split(rows, "\n")...)
		if len(r.Problems) > 0 {
			return
		}
		_, _, err := program.ApplyAll(quay(), r.Changes)
		require.NoError(t, err)
	})
}

func BenchmarkRead20000Rows(b *testing.B) {
	p := quay()
	x := backlog.NewIndex(plan.Of(p), backlog.Options{})
	table := intake.Table{Columns: []string{"key", "title", "kind", "team", "size", "release", "parent", "needs", "tags"}}
	for i := range 20_000 {
		row := []string{fmt.Sprintf("N-%d", i), fmt.Sprintf("Item %d", i), "story", "LC", "3", "R1", "Heartbeat", "", "radio, night"}
		if i > 0 && i%2 == 0 {
			row[7] = fmt.Sprintf("N-%d", i-1)
		}
		table.Rows = append(table.Rows, row)
	}
	for b.Loop() {
		if r := intake.Read(x, table, intake.Options{}); len(r.Problems) > 0 {
			b.Fatal(r.Problems[0])
		}
	}
}

func TestAnEmptyCellTakesAnItemOutOfTheReleaseOfItsFeature(t *testing.T) {
	of := func(p program.Program, key string) (release string, own program.Item) {
		tree := program.TreeOf(p)
		return tree.Release(tree.Index[key]), p.Items[tree.Index[key]]
	}
	change := func(p program.Program, cell string) program.Program {
		r := read(p, "key|release", "LC-1|"+cell)
		require.Empty(t, r.Problems)
		next, _, err := program.ApplyAll(p, r.Changes)
		require.NoError(t, err)
		return next
	}
	p := quay()
	release, _ := of(p, "LC-1")
	assert.Equal(t, "R1", release, "its feature's")
	assert.Empty(t, read(p, "key|release", "LC-1|First Light").Changes, "what is shown already changes nothing")

	p = change(p, "")
	release, item := of(p, "LC-1")
	assert.Empty(t, release)
	assert.True(t, item.NoRelease)
	assert.Empty(t, read(p, "key|release", "LC-1|").Changes)

	release, item = of(change(p, "inherited"), "LC-1")
	assert.Equal(t, "R1", release)
	assert.False(t, item.NoRelease)
	assert.Empty(t, item.Release)
	release, item = of(change(p, "R1"), "LC-1")
	assert.Equal(t, "R1", release)
	assert.Equal(t, "R1", item.Release)
	assert.False(t, item.NoRelease)

	r := read(p, "title|parent|release", "Lens|Heartbeat|")
	require.Empty(t, r.Problems)
	next, _, err := program.ApplyAll(p, r.Changes)
	require.NoError(t, err)
	release, _ = of(next, r.Keys[0])
	assert.Equal(t, "R1", release, "an empty cell of a new item says nothing")

	// One in between that belongs to no release keeps it from all below.
	p = quay()
	p.Items = append(p.Items, program.Item{Key: "LC-7", Title: "Bell", Kind: program.Story, Parent: "LC-1"})
	p.Items[1].NoRelease = true
	release, _ = of(p, "LC-7")
	assert.Empty(t, release)
}

// A rule that only the whole program shows is put to its row and column too, in plain numbers.
func TestABrokenRuleIsPutToItsCell(t *testing.T) {
	r := read(quay(), "title|size", "Fog bell|3", "Fog horn|99999999999")
	assert.Equal(t, []intake.Problem{{Row: 1, Column: 1, Text: "99999999999 is not a number from 0 to 1000000"}}, r.Problems)
}
