package needs_test

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
)

// harbour is the program of docs/needs.md: Quay and Boats have iterations of two weeks from 1 March on.
func harbour() program.Program {
	team := func(key string) program.Team {
		t := program.Team{Key: key, Name: key, Unit: program.Points}
		for i := range 3 {
			start := calendar.MustParse("2027-03-01").Add(14 * i)
			t.Iterations = append(t.Iterations, program.Iteration{Key: fmt.Sprint(key, i+1), Start: start, End: start.Add(13)})
		}
		return t
	}
	item := func(key, team, iteration, parent string) program.Item {
		return program.Item{Key: key, Kind: program.Story, Team: team, Iteration: iteration, Parent: parent}
	}
	return program.Program{
		Settings: program.Settings{SameIteration: program.ShareSameTeam, FillTo: 1},
		Teams:    []program.Team{team("quay"), team("boats")},
		Items: []program.Item{
			{Key: "F", Kind: program.Feature},
			item("crane", "quay", "quay1", "F"), item("pier", "quay", "quay2", "F"), item("buoy", "boats", "boats1", "F"),
			item("mooring", "boats", "boats2", ""), item("trial", "boats", "boats3", ""), item("sail", "boats", "", ""), item("rope", "quay", "quay1", ""),
		},
		Needs: []program.Need{
			{Item: "mooring", Needs: "crane"},                      // no day to spare
			{Item: "mooring", Needs: "pier"},                       // two weeks too late
			{Item: "trial", Needs: "F", Agreement: program.Agreed}, // both items of Quay's; Boats' own is no other team's
			{Item: "sail", Needs: "rope", Agreement: program.Declined},
			{Item: "trial", Needs: "mooring"},
		},
	}
}

// The map of docs/needs.md.
func TestWhoOwesWhom(t *testing.T) {
	p := harbour()
	assert.Equal(t, []needs.Cell{{Gives: "quay", Waits: "boats", Wanted: needs.Wanted{Needs: 4, Tight: 2, Broken: 1, Open: 3}, Soon: 2}}, needs.MapOf(plan.Of(p), calendar.MustParse("2027-03-01")))
	list := needs.OwedOf(plan.Of(p))
	says := func(o needs.Owed) string {
		return fmt.Sprintf("%s needs %s by %v, done by %v: %s, %s, %d", o.Item, o.Needs, o.By, o.Until, o.Status, o.Agreement, o.Leaves)
	}
	var told []string
	for _, o := range list {
		told = append(told, says(o))
	}
	assert.Equal(t, []string{
		"mooring needs crane by 2027-03-14, done by 2027-03-14: tight, asked, 1",
		"mooring needs pier by 2027-03-14, done by 2027-03-28: broken, asked, 1",
		"trial needs F by 2027-03-28, done by 2027-03-28: tight, agreed, 2",
		"sail needs rope by , done by 2027-03-14: holds, declined, 1",
	}, told)

	assert.Empty(t, list[0].Between, "it is between leaves")
	assert.Equal(t, []string{"trial crane", "trial pier"}, []string{list[2].Between[0].Item + " " + list[2].Between[0].Needs, list[2].Between[1].Item + " " + list[2].Between[1].Needs})
	assert.Equal(t, []needs.Status{needs.StatusHolds, needs.StatusTight}, []needs.Status{list[2].Between[0].Status, list[2].Between[1].Status})

	// What is done is owed no more.
	p.Items[2].State = program.Done
	list = needs.OwedOf(plan.Of(p))
	require.Len(t, list, 3)
	assert.Equal(t, "trial needs F by 2027-03-28, done by 2027-03-14: holds, agreed, 1", says(list[1]))
}

// The weeks of docs/needs.md.
func TestWhenWhatIsOwed(t *testing.T) {
	day := calendar.MustParse
	assert.Equal(t, []needs.Week{
		{Team: "quay", Start: day("2027-03-08"), Gives: needs.Wanted{Needs: 2, Tight: 1, Broken: 1, Open: 2}},
		{Team: "quay", Start: day("2027-03-22"), Gives: needs.Wanted{Needs: 1, Tight: 1}},
		{Team: "boats", Start: day("2027-03-08"), Waits: needs.Wanted{Needs: 2, Tight: 1, Broken: 1, Open: 2}},
		{Team: "boats", Start: day("2027-03-22"), Waits: needs.Wanted{Needs: 1, Tight: 1}},
	}, needs.WeeksOf(plan.Of(harbour()), day("2027-03-02")))
	// What was wanted before counts in this week, as behind.
	late := needs.WeeksOf(plan.Of(harbour()), day("2027-03-17"))
	assert.Equal(t, needs.Week{Team: "quay", Start: day("2027-03-15"), Gives: needs.Wanted{Needs: 2, Tight: 1, Broken: 1, Open: 2}, Behind: 2}, late[0])
}

// Whatever the program is, what is owed is counted once, and stands as the worst of its leaves: recounted edge by edge.
func TestWhatIsOwedAgreesWithARecount(t *testing.T) {
	for seed := range uint64(60) {
		p := sample.Program(seed, sample.Shape{Teams: 4, Iterations: 6, Items: 50, Needs: 60, Wild: true})
		pl := plan.Of(p)
		type key struct{ item, needs, gives, waits string }
		leaves, worst, first := map[key]int{}, map[key]int{}, map[key]program.Date{}
		for _, e := range needs.Edges(pl) {
			item, needed := p.Items[e.Item], p.Items[e.Needs]
			if item.State == program.Done || needed.State == program.Done || item.Team == needed.Team {
				continue
			}
			k := key{p.Needs[e.Need].Item, p.Needs[e.Need].Needs, needed.Team, item.Team}
			leaves[k]++
			b, placed := pl.Place(e.Item)
			if !placed {
				continue
			}
			if by := b.Start.Add(-1 - e.LagDays); first[k] == 0 || by < first[k] {
				first[k] = by
			}
			a, ok := pl.Place(e.Needs)
			if ok = ok && p.Teams[a.Team].Iterations[a.Slot].State != program.Closed; !ok {
				worst[k] = 2
			} else if spare := needs.Spare(p.Settings.SameIteration, a, b, e.LagDays); spare < 0 {
				worst[k] = 2
			} else if spare == 0 {
				worst[k] = max(worst[k], 1)
			}
		}
		list := needs.OwedOf(pl)
		require.Len(t, list, len(leaves), "seed %d", seed)
		status := []needs.Status{needs.StatusHolds, needs.StatusTight, needs.StatusBroken}
		for i, o := range list {
			k := key{o.Item, o.Needs, o.Gives, o.Waits}
			assert.Equal(t, leaves[k], o.Leaves, "%d %v", seed, k)
			assert.Equal(t, status[worst[k]], o.Status, "%d %v", seed, k)
			assert.Equal(t, first[k], o.By, "%d %v", seed, k)
			if i > 0 && o.By != 0 {
				assert.LessOrEqual(t, list[i-1].By, o.By)
			}
		}
		sum := 0
		for _, c := range needs.MapOf(pl, sample.Today) {
			assert.LessOrEqual(t, c.Tight+c.Broken, c.Needs)
			assert.NotEqual(t, c.Gives, c.Waits)
			sum += c.Needs
		}
		assert.Equal(t, len(list), sum)
		dated, gives, waits := 0, 0, 0
		for _, o := range list {
			if o.By != 0 {
				dated++
			}
		}
		for _, w := range needs.WeeksOf(pl, sample.Today) {
			assert.Equal(t, 1, w.Start.Weekday())
			gives, waits = gives+w.Gives.Needs, waits+w.Waits.Needs
		}
		assert.Equal(t, []int{dated, dated}, []int{gives, waits}, "each is given by one and waited for by one")
	}
}

// Rough sizes owe too, by the items that are rough: what is named is there.
func TestWhatIsRoughIsOwedByItsItem(t *testing.T) {
	owed := 0
	for seed := range uint64(20) {
		p := sample.Program(seed, sample.Shape{Teams: 3, Iterations: 6, Items: 30, Needs: 40, Rough: true})
		pl := plan.Of(p)
		for _, o := range needs.OwedOf(pl) {
			owed++
			assert.Contains(t, pl.Tree().Index, o.Item)
			assert.Contains(t, pl.Tree().Index, o.Needs)
			assert.NotEqual(t, o.Gives, o.Waits)
		}
	}
	assert.Greater(t, owed, 50)
}

func ExampleMapOf() {
	for _, c := range needs.MapOf(plan.Of(harbour()), calendar.MustParse("2027-03-01")) {
		fmt.Printf("%s gives %s %d: %d broken, %d not agreed\n", c.Gives, c.Waits, c.Needs, c.Broken, c.Open)
	}
	// Output: quay gives boats 4: 1 broken, 3 not agreed
}

func BenchmarkOwedOf6000Needs(b *testing.B) {
	p := sample.Program(1, sample.Shape{Teams: 40, Iterations: 12, Items: 5000, Needs: 6000})
	for b.Loop() {
		needs.MapOf(plan.Of(p), sample.Today)
	}
}

// What somebody owes and waits for, recounted need by need on random programs: they lead two of the teams, or do a
// third of the items. What they have to answer comes first, and within that what is due first.
func TestWhatConcernsSomebody(t *testing.T) {
	answered := 0
	for seed := range uint64(40) {
		p := sample.Program(seed, sample.Shape{Teams: 4, Iterations: 6, Items: 50, Needs: 80, Dated: true, Rough: seed%2 == 1})
		said := []program.Agreement{program.Asked, program.Offered, program.Agreed, program.Declined}
		for i := range p.Needs {
			if p.Needs[i].Agreement = said[i%4]; said[i%4] == program.Offered {
				p.Needs[i].Given = sample.Today.Add(i)
			}
		}
		for i := range p.Items {
			if i%3 == 0 && len(p.People) > 0 {
				p.Items[i].Assignee = p.People[0].Key
			}
		}
		who := needs.Concern{Teams: []string{p.Teams[0].Key, p.Teams[1].Key}}
		if seed%3 == 0 && len(p.People) > 0 {
			who = needs.Concern{Person: p.People[0].Key}
		}
		pl := plan.Of(p)
		list := needs.ConcernedOf(pl, sample.Today, who)
		theirs := func(key, team string) bool {
			tree := p.TeamIndex() // only the teams' own keys
			if _, known := tree[team]; known && len(who.Teams) > 0 {
				return team == who.Teams[0] || team == who.Teams[1]
			}
			of := program.TreeOf(p)
			for _, leaf := range of.Leaves(of.Index[key]) {
				if who.Person != "" && p.Items[leaf].Team == team && p.Items[leaf].Assignee == who.Person {
					return true
				}
			}
			return false
		}
		want := 0
		for _, o := range needs.OwedOf(pl) {
			if theirs(o.Needs, o.Gives) || theirs(o.Item, o.Waits) {
				want++
			}
		}
		require.Len(t, list, want, "seed %d", seed)
		for i, c := range list {
			assert.Equal(t, theirs(c.Needs, c.Gives), c.Owes)
			assert.Equal(t, theirs(c.Item, c.Waits), c.Awaits)
			asked := c.Agreement == program.Asked
			assert.Equal(t, c.Agreement != program.Agreed && (asked && c.Owes || !asked && c.Awaits), c.Ours, "%+v", c)
			assert.Equal(t, !c.By.IsZero() && c.By < sample.Today, c.Overdue)
			if c.Ours {
				answered++
			}
			if i > 0 && list[i-1].Ours == c.Ours && !c.By.IsZero() {
				assert.LessOrEqual(t, list[i-1].By, c.By)
			} else if i > 0 {
				assert.True(t, list[i-1].Ours || !c.Ours)
			}
		}
	}
	assert.Greater(t, answered, 100)
}

// A day that was agreed on comes before the day that is asked for, and that before the one that the plan wants; the plan
// misses it where what is needed is done after it, or nowhere.
func TestTheDayByWhichItIsDue(t *testing.T) {
	day := calendar.MustParse
	p := harbour()
	at := func(set func(n *program.Need)) needs.Owed {
		set(&p.Needs[0])
		for _, o := range needs.OwedOf(plan.Of(p)) {
			if o.Item == "mooring" && o.Needs == "crane" {
				return o
			}
		}
		t.Fatal("it is owed")
		return needs.Owed{}
	}
	assert.Equal(t, day("2027-03-14"), at(func(*program.Need) {}).By)
	assert.Equal(t, day("2027-03-10"), at(func(n *program.Need) { n.Wanted = day("2027-03-10") }).By)
	offered := at(func(n *program.Need) { n.Agreement, n.Given = program.Offered, day("2027-03-12") })
	assert.Equal(t, []any{day("2027-03-10"), day("2027-03-12"), needs.Waits, false}, []any{offered.By, offered.Given, offered.Turn, offered.Missed}, "an offer binds nobody")
	agreed := at(func(n *program.Need) { n.Agreement = program.Agreed })
	assert.Equal(t, []any{day("2027-03-12"), needs.Side(""), true}, []any{agreed.By, agreed.Turn, agreed.Missed}, "done by 14 March")
	assert.Equal(t, day("2027-03-14"), needs.WantedBy(plan.Of(p), "mooring", "crane"), "the plan's day is still known")
	assert.False(t, at(func(n *program.Need) { n.Given = day("2027-03-14") }).Missed)
	assert.Len(t, needs.Missed(plan.Of(p)), 0)
	p.Items[1].Iteration = ""
	assert.True(t, at(func(*program.Need) {}).Missed, "it has no place")
	assert.Len(t, needs.Missed(plan.Of(p)), 1)
}
