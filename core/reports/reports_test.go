package reports_test

import (
	"cmp"
	"fmt"
	"maps"
	"math"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/backlog"
	"jantrel/core/calendar"
	"jantrel/core/capacity"
	"jantrel/core/needs"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/reports"
	"jantrel/core/sample"
)

func known(p program.Program) *reports.Known {
	return &reports.Known{Index: backlog.NewIndex(plan.Of(p), backlog.Options{Today: p.Today}), Today: p.Today,
		Views: reports.Views{All: []program.View{{Key: "open", Name: "Open", Filter: where("state", "is-not", "done")}}}}
}

func where(field, is string, values ...string) program.Filter {
	return program.Filter{Conditions: []program.Condition{{Field: field, Is: is, Values: values}}}
}

// counted is one thing as the recount below sees it: its values, and what it measures.
type counted struct {
	values  map[string][]string
	measure map[string]*float64
	team    string
	open    bool
}

// recount lists what charts count, written out from the program's own fields.
func recount(p program.Program, of reports.Source) (all []counted) {
	pl := plan.Of(p)
	at := map[string]int{}
	parents := map[string]bool{}
	for i := range p.Items {
		at[p.Items[i].Key] = i
		parents[p.Items[i].Parent] = true
	}
	release := func(i int) string {
		for i >= 0 {
			if p.Items[i].Release != "" || p.Items[i].NoRelease {
				return p.Items[i].Release
			}
			up, ok := at[p.Items[i].Parent]
			if !ok {
				return ""
			}
			i = up
		}
		return ""
	}
	above := func(i int, kind program.ItemKind) string {
		for {
			if p.Items[i].Kind == kind {
				return p.Items[i].Key
			}
			up, ok := at[p.Items[i].Parent]
			if !ok {
				return ""
			}
			i = up
		}
	}
	leaf := func(i int) bool {
		return !parents[p.Items[i].Key] && (len(p.Items[i].Rough) == 0 || p.Items[i].State == program.Done)
	}
	one := func(v string) []string {
		if v == "" {
			return nil
		}
		return []string{v}
	}
	ofItem := func(i int) counted {
		item := &p.Items[i]
		state := item.State
		if state == "" {
			state = program.Todo
		}
		iteration := ""
		if item.Iteration != "" {
			iteration = item.Team + "\n" + item.Iteration
		}
		week := ""
		if !item.Due.IsZero() {
			week = item.Due.Add(1 - item.Due.Weekday()).String()
		}
		return counted{team: item.Team, open: state != program.Done, measure: map[string]*float64{"size": item.Size}, values: map[string][]string{
			"state": {string(state)}, "kind": {string(item.Kind)}, "team": one(item.Team), "release": one(release(i)), "assignee": one(item.Assignee),
			"tags": slices.Compact(slices.Sorted(slices.Values(item.Tags))), "feature": one(above(i, program.Feature)), "iteration": one(iteration), "due": one(week), "pinned": {map[bool]string{true: "yes", false: "no"}[item.Pinned]}}}
	}
	switch of {
	case reports.Items:
		spent := map[string]float64{}
		for _, e := range p.TimeEntries {
			spent[e.Item] += e.Hours
		}
		for i := range p.Items {
			item := &p.Items[i]
			if !leaf(i) || item.KeptOut {
				continue
			}
			c := ofItem(i)
			if hours, has := spent[item.Key]; has {
				c.measure["spent"] = &hours
			}
			estimated, left := 0.0, 0.0
			hasEstimate, hasLeft := false, false
			for _, t := range item.Tasks {
				if t.Hours != nil {
					estimated, hasEstimate = estimated+*t.Hours, true
				}
				switch {
				case t.Done:
				case t.HoursLeft != nil:
					left, hasLeft = left+*t.HoursLeft, true
				case t.Hours != nil:
					left, hasLeft = left+*t.Hours, true
				}
			}
			if hasEstimate {
				c.measure["estimated"] = &estimated
			}
			if hasLeft {
				c.measure["left"] = &left
			}
			all = append(all, c)
		}
	case reports.Needs:
		for n, state := range needs.Check(pl) {
			i, j := at[p.Needs[n].Item], at[p.Needs[n].Needs]
			if p.Items[i].KeptOut {
				continue
			}
			c := ofItem(i)
			c.values["status"], c.values["agreement"], c.values["gives"] = []string{string(state.Status)}, one(string(p.Needs[n].Agreement)), one(p.Items[j].Team)
			c.measure["spare"] = nil
			if state.Spare != nil {
				c.measure["spare"] = new(float64(*state.Spare))
			}
			all = append(all, c)
		}
	case reports.Iterations:
		loads, figures := pl.Loads(), capacity.Of(pl)
		for t := range p.Teams {
			for i, it := range p.Teams[t].Iterations {
				c := counted{team: p.Teams[t].Key, open: true, measure: map[string]*float64{"load": &loads.Size[t][i], "capacity": &figures[t][i].Capacity}, values: map[string][]string{
					"team": {p.Teams[t].Key}, "iteration": {p.Teams[t].Key + "\n" + it.Key}}}
				if figures[t][i].Capacity > 0 {
					c.measure["full"] = new(loads.Size[t][i] / figures[t][i].Capacity)
				}
				all = append(all, c)
			}
		}
	}
	return all
}

// Every figure of a chart is that of a count made by hand, whatever it counts, measures and is divided by.
func TestChartsAgreeWithARecount(t *testing.T) {
	splits := map[reports.Source][]string{
		reports.Items:      {"state", "kind", "team", "release", "assignee", "tags", "feature", "iteration", "due", "pinned"},
		reports.Needs:      {"status", "agreement", "gives", "team", "state", "release"},
		reports.Iterations: {"team", "iteration"},
	}
	measures := map[reports.Source][]string{reports.Items: {"number", "size", "spent", "estimated", "left"}, reports.Needs: {"number", "spare"}, reports.Iterations: {"number", "load", "capacity", "full"}}
	answered := 0
	for seed := range sample.Seeds(25) {
		p := sample.Program(seed, sample.Shape{Teams: 4, Iterations: 5, Items: 60, Needs: 40, Wild: true, Rough: seed%2 == 0})
		k := known(p)
		for of, names := range splits {
			things := recount(p, of)
			for n, first := range names {
				second := names[(n+int(seed)+1)%len(names)]
				for _, measure := range measures[of] {
					for _, team := range []string{"", p.Teams[0].Key} {
						for _, view := range []string{"", "open"} {
							if view != "" && of != reports.Items {
								continue
							}
							c := reports.Chart{Of: of, Split: []string{first}, Measure: measure, Form: reports.Bars, Team: team, View: view}
							if second != first {
								c.Split = append(c.Split, second)
							}
							counts := slices.DeleteFunc(slices.Clone(things), func(x counted) bool { return team != "" && x.team != team || view != "" && !x.open })
							if agree(t, k, &c, counts, fmt.Sprintf("seed %d: %+v", seed, c)) {
								answered++
							}
						}
					}
				}
			}
		}
	}
	assert.Greater(t, answered, int(sample.Seeds(2000)))
}

// agree compares a chart with things that were counted by hand; false where it refused rightly.
func agree(t *testing.T, k *reports.Known, c *reports.Chart, things []counted, name string) bool {
	t.Helper()
	teams := map[string]bool{}
	for _, x := range things {
		teams[x.team] = true
	}
	table, err := reports.Of(k, c)
	if sized := c.Measure == "size" || c.Measure == "load" || c.Measure == "capacity"; sized && len(teams) > 1 {
		require.ErrorContains(t, err, "never added up", name)
		return false
	}
	require.NoError(t, err, name)
	require.Equal(t, len(things), table.Count, name)
	mean := c.Measure == "spare" || c.Measure == "full"
	come := func(keep func(x counted) bool) (*float64, int) {
		sum, has, count := 0.0, 0, 0
		for _, x := range things {
			if !keep(x) {
				continue
			}
			count++
			v := x.measure[c.Measure]
			if c.Measure == "number" {
				v = new(1.0)
			}
			if v != nil {
				sum, has = sum+*v, has+1
			}
		}
		switch {
		case has == 0:
			return nil, count
		case mean:
			sum /= float64(has)
		}
		return &sum, count
	}
	same := func(want, got *float64, what string) {
		require.Equal(t, want == nil, got == nil, "%s: %s", name, what)
		if want != nil {
			require.InDelta(t, *want, *got, 1e-9*math.Max(1, math.Abs(*want)), "%s: %s", name, what)
		}
	}
	has := func(x counted, n int, key string) bool {
		if n >= len(c.Split) {
			return key == ""
		}
		values := x.values[c.Split[n]]
		return len(values) == 0 && key == "" || slices.Contains(values, key)
	}
	want, _ := come(func(counted) bool { return true })
	same(want, table.Total, "total")
	seen := 0
	for r, row := range table.Rows {
		want, _ := come(func(x counted) bool { return has(x, 0, row.Key) })
		same(want, table.Totals[r], "row "+row.Key)
		for n, column := range table.Columns {
			want, count := come(func(x counted) bool { return has(x, 0, row.Key) && has(x, 1, column.Key) })
			same(want, table.Cells[r][n], "cell "+row.Key+" "+column.Key)
			require.Equal(t, count, table.Counts[r][n], name)
			seen += count
			behind, all, err := reports.Behind(k, c, row.Key, column.Key)
			require.NoError(t, err)
			require.Equal(t, count, all, name)
			require.Len(t, behind, min(count, reports.MaxListed))
			for _, thing := range behind {
				of := func(i program.Item) bool { return thing.Kind == program.KindItem && i.Key == thing.Key }
				if at := slices.IndexFunc(k.Plan().Items, of); at >= 0 {
					require.Equal(t, cmp.Or(k.Plan().Items[at].State, program.Todo), thing.State, thing.Key)
				} else {
					require.Empty(t, thing.State, name)
				}
			}
		}
	}
	values := map[string]bool{}
	for _, x := range things {
		if len(x.values[c.Split[0]]) == 0 {
			values[""] = true
		}
		for _, v := range x.values[c.Split[0]] {
			values[v] = true
		}
	}
	keys := map[string]bool{}
	for _, row := range table.Rows {
		keys[row.Key] = true
		require.NotEmpty(t, row.Title, name)
	}
	if table.LeftOut > 0 { // more columns than are told
		require.Len(t, table.Columns, reports.MaxColumns, name)
		return true
	}
	require.Equal(t, slices.Sorted(maps.Keys(values)), slices.Sorted(maps.Keys(keys)), name)
	require.GreaterOrEqual(t, seen, len(things), name)
	return true
}

// The shares of all items come to the whole, and are in proportion to the time that teams take.
func TestSharesComeToTheWhole(t *testing.T) {
	for seed := range sample.Seeds(20) {
		p := sample.Program(seed, sample.Shape{Teams: 4, Iterations: 5, Items: 60, Needs: 10, Wild: true})
		table, err := reports.Of(known(p), &reports.Chart{Of: reports.Items, Split: []string{"team"}, Measure: "share", Form: reports.Ring})
		require.NoError(t, err)
		sum := 0.0
		for _, total := range table.Totals {
			if total != nil {
				sum += *total
			}
		}
		if table.Total != nil {
			require.InDelta(t, 1, *table.Total, 1e-9)
			require.InDelta(t, 1, sum, 1e-9)
		}
	}
}

// Rows that follow one another in time are said to do so, whichever source they are of.
func TestWhatFollowsInTime(t *testing.T) {
	k := known(sample.Program(3, sample.Shape{Teams: 2, Iterations: 4, Items: 30, Wild: true}))
	in := []string{}
	for _, source := range reports.Vocabulary() {
		for _, split := range source.Splits {
			table, err := reports.Of(k, &reports.Chart{Of: source.Name, Split: []string{split.Name}, Measure: "number", Form: reports.Bars})
			require.NoError(t, err)
			if table.InTime && !slices.Contains(in, split.Name) {
				in = append(in, split.Name)
			}
		}
	}
	assert.ElementsMatch(t, []string{"iteration", "notBefore", "began", "doneOn", "due", "changed", "week", "start"}, in)
}

// What cannot be answered says what to choose instead.
func TestChartsThatCannotBe(t *testing.T) {
	p := sample.Program(1, sample.Shape{Teams: 3, Iterations: 4, Items: 30, Needs: 10})
	k := known(p)
	for want, c := range map[string]reports.Chart{
		"nothing called":          {Of: "boats", Measure: "number", Form: reports.Bars},
		"cannot be measured":      {Of: reports.Tasks, Measure: "size", Form: reports.Bars},
		"no way to draw":          {Of: reports.Items, Measure: "number", Form: "spiral"},
		"cannot be divided":       {Of: reports.Items, Measure: "number", Form: reports.Bars, Split: []string{"title"}},
		"2 fields at most":        {Of: reports.Items, Measure: "number", Form: reports.Bars, Split: []string{"state", "team", "kind"}},
		"both divide by the same": {Of: reports.Items, Measure: "number", Form: reports.Bars, Split: []string{"team", "team"}},
		"take away the other":     {Of: reports.Items, Measure: "number", Form: reports.Lines, Split: []string{"team", "state"}, Back: 7},
		"do not add up":           {Of: reports.Items, Measure: "late", Form: reports.Ring},
		"over time it is drawn":   {Of: reports.Items, Measure: "number", Form: reports.List, Back: 7},
		"days at most":            {Of: reports.Items, Measure: "number", Form: reports.Lines, Back: 100_000},
		"its view was removed":    {Of: reports.Items, Measure: "number", Form: reports.Bars, View: "gone"},
		"there is no field":       {Of: reports.Items, Measure: "number", Form: reports.Bars, Filter: where("colour", "is", "red")},
		"chosen by team":          {Of: reports.Iterations, Measure: "number", Form: reports.Bars, Filter: where("state", "is", "done")},
		"choose one team":         {Of: reports.Items, Measure: "size", Form: reports.Bars},
	} {
		_, err := reports.Of(k, &c)
		require.ErrorContains(t, err, want)
		_, _, err = reports.Behind(k, &c, "", "")
		assert.ErrorContains(t, err, want)
	}
}

// Days of a series: every day of a few weeks, then weeks, never more than can be told, none before the journal began.
func TestDaysOfASeries(t *testing.T) {
	today := calendar.MustParse("2027-03-02")
	for back := 1; back < reports.MaxBack; back += 13 {
		c := reports.Chart{Back: back}
		days, since := c.DaysOf(today, today.Add(-400))
		require.LessOrEqual(t, len(days)+1, reports.MaxPoints)
		require.True(t, slices.IsSorted(days))
		require.Equal(t, max(today.Add(-back), today.Add(-400)), since)
		for _, d := range days {
			require.Less(t, d, today)
			require.GreaterOrEqual(t, d, since)
		}
		if back <= 41 {
			require.Len(t, days, back)
		}
	}
	days, since := (&reports.Chart{Back: 30, Form: reports.Figure}).DaysOf(today, today.Add(-10))
	assert.Equal(t, []program.Date{today.Add(-10)}, days)
	assert.Equal(t, today.Add(-10), since)
	days, _ = (&reports.Chart{Back: 30}).DaysOf(today, today)
	assert.Empty(t, days)
}

// With more values than can be told the largest are, and the total is still of all.
func TestManyValues(t *testing.T) {
	p := program.Program{Today: calendar.MustParse("2027-03-02")}
	for i := range 200 {
		p.Items = append(p.Items, program.Item{Key: fmt.Sprintf("A-%d", i), Kind: program.Story, Tags: []string{fmt.Sprintf("tag %03d", i), "all", "half"[:4*(i%2)]}})
	}
	for i := range p.Items {
		p.Items[i].Tags = slices.DeleteFunc(p.Items[i].Tags, func(s string) bool { return s == "" })
	}
	table, err := reports.Of(known(p.Normal()), &reports.Chart{Of: reports.Items, Split: []string{"tags"}, Measure: "number", Form: reports.Bars, Largest: true})
	require.NoError(t, err)
	assert.Len(t, table.Rows, reports.MaxRows)
	assert.Equal(t, 202-reports.MaxRows, table.LeftOut)
	assert.Equal(t, []string{"all", "half"}, []string{table.Rows[0].Key, table.Rows[1].Key})
	assert.InDelta(t, 200, *table.Total, 0)
}

// A sentence reads well with nothing, one and many, and never has a raw key.
func TestSentences(t *testing.T) {
	for seed := range sample.Seeds(30) {
		p := sample.Program(seed, sample.Shape{Teams: 3, Iterations: 4, Items: 4 + int(seed)*2, Needs: int(seed), Wild: true})
		k := known(p)
		for _, of := range reports.Vocabulary() {
			for _, m := range of.Measures {
				for _, s := range of.Splits {
					c := reports.Chart{Of: of.Name, Split: []string{s.Name}, Measure: m.Name, Form: reports.Bars, Team: p.Teams[0].Key}
					table, err := reports.Of(k, &c)
					require.NoError(t, err, "%+v", c)
					text := c.Sentence(&table)
					require.NotContains(t, text, "\n", "%+v", c)
					require.NotContains(t, text, "NaN")
					require.True(t, strings.HasSuffix(text, "."), text)
					require.NotContains(t, text, ": .")
				}
			}
		}
	}
}

// Pages that come with Jantrel can be kept as they are, also of a program with nothing in it, and all their charts can
// be drawn.
func TestReadyPages(t *testing.T) {
	for _, p := range []program.Program{{}, quay(), sample.Program(3, sample.Shape{Teams: 4, Iterations: 5, Items: 60, Needs: 20, Wild: true})} {
		p = p.Normal()
		for _, page := range reports.ReadyPages(&p, "p01") {
			require.NoError(t, page.Check(), page.Key)
			for _, card := range page.Cards {
				if card.Chart != nil {
					_, err := reports.Of(known(p), card.Chart)
					require.NoError(t, err, "%s, %s", page.Key, card.Title)
				}
			}
		}
	}
}

func TestPagesThatCannotBe(t *testing.T) {
	good := reports.Card{Key: "1", Kind: reports.CardText, Wide: 4, High: 2}
	with := func(change func(*reports.Card)) reports.Page {
		card := good
		change(&card)
		return reports.Page{Name: "P", Cards: []reports.Card{card}}
	}
	require.NoError(t, new(with(func(*reports.Card) {})).Check())
	for want, page := range map[string]reports.Page{
		"give the page a name": {Name: "  "},
		"too long":             {Name: strings.Repeat("a", 121)},
		"40 cards at most":     {Name: "P", Cards: slices.Repeat([]reports.Card{good}, 41)},
		"another one":          {Name: "P", Cards: []reports.Card{good, good}},
		"no card called":       with(func(c *reports.Card) { c.Kind = "clock" }),
		"needs a key":          with(func(c *reports.Card) { c.Key = "" }),
		"columns wide":         with(func(c *reports.Card) { c.Wide = 13 }),
		"text is too long":     with(func(c *reports.Card) { c.Text = strings.Repeat("a", 20_001) }),
		"nothing else":         with(func(c *reports.Card) { c.Kind = reports.CardChart }),
		"cannot be about":      with(func(c *reports.Card) { c.About.Team = "Q" }),
		"say what it is about": with(func(c *reports.Card) { c.Kind = reports.CardOdds }),
		"one thing at most": with(func(c *reports.Card) {
			c.Kind, c.About = reports.CardOdds, reports.About{Team: "Q", Release: "R"}
		}),
		"nothing called": with(func(c *reports.Card) {
			c.Kind, c.Chart = reports.CardChart, &reports.Chart{Of: "boats"}
		}),
	} {
		assert.ErrorContains(t, page.Check(), want)
	}
}
