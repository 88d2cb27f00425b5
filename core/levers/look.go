package levers

import (
	"cmp"
	"fmt"
	"maps"
	"math"
	"slices"
	"strconv"
	"strings"

	"jantrel/core/backlog"
	"jantrel/core/capacity"
	"jantrel/core/forecast"
	"jantrel/core/gate"
	"jantrel/core/needs"
	"jantrel/core/people"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/schedule"
)

// How many are looked at: what makes it late most often is what mends it.
const (
	fillsTried   = 8  // items without a size or a place, the most important ones
	itemsTried   = 8  // that are done last most often, or whose teams do most of these
	lighterTried = 30 // of these that are tried smaller, and without
	teamsTried   = 2  // that do these
	aheadTried   = 4  // iterations of such a team

	largeItems = 1500 // more than that make a program a large one
)

// look lists what may mend it, each as a step to be taken.
func (f *Search) look() {
	if f.need != nil {
		f.mendNeed()
		return
	}
	if len(f.items) == 0 {
		return // nothing of it is left to do
	}
	all, rough := f.concerned()
	lacking := slices.DeleteFunc(slices.Clone(all), func(i int) bool { return f.p.Items[i].Size != nil && f.p.Items[i].Iteration != "" })
	for _, i := range lacking[:min(fillsTried, len(lacking))] {
		f.fill(i)
	}
	for _, r := range rough[:min(fillsTried, len(rough))] {
		f.add(PutIn, func() { f.placeRough(r) })
	}
	f.add(Draft, f.draft)
	items, teams := f.ranked(all)
	for n, i := range items[:min(lighterTried, len(items))] {
		f.lighten(i)
		if n < itemsTried {
			f.mendItem(i)
		}
	}
	for _, team := range teams[:min(teamsTried, len(teams))] {
		f.lend(team)
	}
}

// ranked orders items by how often they are done last, in few plays; those that never are by how often others of their
// team are, and by size: without them, these are done earlier. So it orders the teams that have any that are.
func (f *Search) ranked(all []int) (items []int, teams []string) {
	last := forecast.Last(f.p, f.playing(), f.set)
	share := func(i int) float64 { return last[f.p.Items[i].Key] }
	often := func(i int) bool { return share(i) >= 0.01 }
	weights := map[string]float64{}
	for _, i := range all {
		if often(i) {
			weights[f.p.Items[i].Team] += share(i)
		}
	}
	rank := func(i int) (first, then float64) {
		switch item := &f.p.Items[i]; {
		case often(i):
			return share(i), 0
		case item.Size != nil:
			return 0, weights[item.Team] * *item.Size
		}
		return 0, 0
	}
	items = slices.DeleteFunc(slices.Clone(all), func(i int) bool { return weights[f.p.Items[i].Team] == 0 })
	slices.SortStableFunc(items, func(a, b int) int {
		firstA, thenA := rank(a)
		firstB, thenB := rank(b)
		return cmp.Or(cmp.Compare(firstB, firstA), cmp.Compare(thenB, thenA))
	})
	teams = slices.SortedFunc(maps.Keys(weights), func(a, b string) int { return cmp.Or(cmp.Compare(weights[b], weights[a]), cmp.Compare(a, b)) })
	return items, teams
}

// concerned are the items still to do that it waits for, and all that these need, in rank order;
// and the rough sizes among these that do not stand somewhere whole.
func (f *Search) concerned() (items []int, rough []plan.RoughState) {
	wants := map[int][]int{}
	for _, e := range needs.Edges(f.whole) {
		wants[e.Item] = append(wants[e.Item], e.Needs)
	}
	loose := map[[2]string]plan.RoughState{}
	for _, s := range plan.Roughs(f.p) {
		if s.Loose > 0 {
			loose[[2]string{f.p.Items[s.Item].Key, s.Rough.Team}] = s
		}
	}
	at := f.p.Tree().Index
	for _, i := range slices.Sorted(slices.Values(f.reach(f.items, wants, f.whole.Tree().ToSchedule))) {
		if _, piece := f.whole.Piece(i); !piece {
			items = append(items, at[f.whole.Items[i].Key])
			continue
		}
		key := [2]string{f.whole.KeyOf(i), f.whole.Items[i].Team}
		if s, is := loose[key]; is {
			rough = append(rough, s)
			delete(loose, key)
		}
	}
	return items, rough
}

// reach are the leaves of some items, and all that next leads to from these, of those that count;
// each before what it leads to first. Positions are those of the whole plan.
func (f *Search) reach(keys []string, next map[int][]int, counts func(int) bool) (all []int) {
	seen := map[int]bool{}
	var add func(i int)
	add = func(i int) {
		if !seen[i] && counts(i) {
			seen[i] = true
			all = append(all, i)
			for _, n := range next[i] {
				add(n)
			}
		}
	}
	tree := f.whole.Tree()
	for _, key := range keys {
		for _, leaf := range tree.Leaves(tree.Index[key]) {
			add(leaf)
		}
	}
	return all
}

func set(key, field string, value any) program.Change {
	return program.SetTo(program.Ref{Kind: program.KindItem, Key: key}, field, value)
}

// drafted are the changes that put some items where a draft of them alone would, those that it
// moves, and the names of the iterations that they come to stand in.
func (f *Search) drafted(p *plan.Plan, keys ...string) (changes []program.Change, where []string) {
	return moved(p, schedule.Draft(p, schedule.Options{Today: f.o.Today, Items: keys, Tries: 1, AssumeSizes: true}))
}

// moved are the changes that put what a draft moves where it has it, and the names of these
// iterations.
func moved(p *plan.Plan, d schedule.Schedule) (changes []program.Change, where []string) {
	for _, x := range d.Placements {
		if x.Moved {
			iterations := p.Teams[p.TeamAt()[x.Team]].Iterations
			at := slices.IndexFunc(iterations, func(it program.Iteration) bool { return it.Key == x.Iteration })
			changes, where = append(changes, set(x.Item, "iteration", x.Iteration)), append(where, iterations[at].Label())
		}
	}
	rough := slices.DeleteFunc(slices.Clone(d.Rough), func(x schedule.Rough) bool { return !x.Moved })
	changes = append(changes, schedule.RoughChanges(p, rough)...)
	for _, x := range rough {
		for _, part := range x.Places {
			if at, ok := p.Slot(x.Team, part.Iteration); ok && part.Size > part.Was {
				where = append(where, p.Teams[at.Team].Iterations[at.Slot].Label())
			}
		}
	}
	return changes, where
}

// placeRough places what is rough of an item and stands nowhere.
func (f *Search) placeRough(s plan.RoughState) {
	item := &f.p.Items[s.Item]
	changes, where := f.drafted(f.p, f.p.Pieces(item.Key, s.Rough.Team, "")...)
	if len(changes) > 0 {
		f.try(Lever{Kind: PutIn, Item: item.Key, Changes: changes, Label: "Place the rough size of " + item.Key,
			Text: fmt.Sprintf("Place the rough size of %s, %s: %s", item.Key, f.amount(s.Loose, s.Rough.Team), strings.Join(where, ", "))})
	}
}

// place is the changes that put an item where a draft of it alone would, with some made before,
// and the name of the iteration; false where that is where it stands, or nowhere.
func (f *Search) place(key string, before ...program.Change) (all []program.Change, where string, ok bool) {
	next := f.p
	if len(before) > 0 {
		tried, _, err := gate.Try(f.p, before)
		if err != nil {
			return nil, "", false
		}
		next = tried
	}
	changes, names := f.drafted(next, key)
	if len(changes) == 0 {
		return before, "", false
	}
	return append(before, changes...), names[0], true
}

// fill gives an item what it lacks to be planned: a size, a place.
func (f *Search) fill(i int) {
	switch item := &f.p.Items[i]; {
	case item.Size == nil:
		f.add(Size, func() { f.size(item) })
	case item.Iteration == "":
		f.add(PutIn, func() {
			if changes, to, ok := f.place(item.Key); ok {
				f.try(Lever{Kind: PutIn, Item: item.Key, Text: fmt.Sprintf("Place %s in %s", item.Key, to), Changes: changes})
			}
		})
	}
}

// size gives an item its usual size, and a place where it has none.
func (f *Search) size(item *program.Item) {
	usual, ok := plan.UsualSize(f.past(item))
	if !ok || item.Team == "" {
		return
	}
	text := fmt.Sprintf("Estimate %s at %s, the usual size", item.Key, f.amount(usual, item.Team))
	changes := []program.Change{set(item.Key, "size", usual)}
	if item.Iteration == "" {
		all, to, ok := f.place(item.Key, changes...)
		if ok {
			changes, text = all, fmt.Sprintf("Estimate %s at %s, the usual size, and place it in %s", item.Key, f.amount(usual, item.Team), to)
		}
	}
	f.try(Lever{Kind: Size, Item: item.Key, Text: text, Label: "Estimate and place " + item.Key, Changes: changes})
}

// draft drafts all of it anew, to the end whatever else waits: the search is asked between its steps alone. So a large
// program gets the first good draft.
func (f *Search) draft() {
	d := schedule.Draft(f.p, schedule.Options{
		Today: f.o.Today, Items: f.items, Aim: schedule.ByOdds, Tries: 2, Quick: len(f.p.Items) > largeItems, Workers: f.o.Workers, Past: f.o.Past, AssumeSizes: true,
	})
	if changes, _ := moved(f.p, d); len(changes) > 1 {
		f.try(Lever{Kind: Draft, Text: fmt.Sprintf("Accept a new draft of %s: %d moves", f.name, len(changes)), Changes: changes})
	}
}

// lighten tries to do without an item, or with half of it.
func (f *Search) lighten(i int) {
	item := &f.p.Items[i]
	if item.Size == nil {
		return
	}
	if !f.wanted(i) {
		f.add(Drop, func() {
			f.consider(candidate{asks: *item.Size, Lever: Lever{Kind: Drop, Item: item.Key, Text: fmt.Sprintf("Exclude %s from planning (%s)", item.Key, f.amount(*item.Size, item.Team)), Label: "Exclude " + item.Key,
				Changes: []program.Change{set(item.Key, "keptOut", true)}}})
		})
	}
	if half := math.Ceil(*item.Size / 2); *item.Size >= 3 && !item.State.UnderWay() {
		f.add(Shrink, func() {
			f.consider(candidate{asks: *item.Size - half, Lever: Lever{Kind: Shrink, Item: item.Key, Text: fmt.Sprintf("Reduce %s from %s to %s", item.Key, number(*item.Size), f.amount(half, item.Team)),
				Changes: []program.Change{set(item.Key, "size", half)}}})
		})
	}
}

// mendItem tries what would get an item done earlier.
func (f *Search) mendItem(i int) {
	item := &f.p.Items[i]
	if item.Size == nil {
		return // what it lacks comes first
	}
	if !item.State.UnderWay() && !item.Pinned && item.Iteration != "" {
		f.add(Move, func() {
			if changes, to, ok := f.place(item.Key); ok {
				f.try(Lever{Kind: Move, Item: item.Key, Text: fmt.Sprintf("Move %s to %s", item.Key, to), Changes: changes})
			}
		})
		f.otherTeam(item)
		f.split(item)
	}
	states := needs.Check(f.p)
	for n, need := range f.p.Needs {
		if need.Item == item.Key {
			f.split(&f.p.Items[f.p.Tree().Index[need.Needs]])
		}
		if need.Item == item.Key && (states[n].Status != needs.StatusHolds || states[n].Spare != nil && *states[n].Spare <= 7) {
			f.relax(need)
		}
	}
}

// wanted reports whether something still to do needs an item.
func (f *Search) wanted(i int) bool {
	tree := f.whole.Tree()
	at := tree.Index[f.p.Items[i].Key]
	return slices.ContainsFunc(needs.Edges(f.whole), func(e needs.Edge) bool { return e.Needs == at && tree.ToSchedule(e.Item) })
}

func (f *Search) relax(need program.Need) {
	f.add(Relax, func() {
		f.try(Lever{Kind: Relax, Item: need.Item, Text: fmt.Sprintf("Remove the dependency of %s on %s", need.Item, need.Needs),
			Changes: []program.Change{{Op: program.Remove, Ref: program.Ref{Kind: program.KindNeed, In: need.Item, Key: need.Needs}}}})
	})
}

// otherTeam gives an item that asks for a role to other teams that have it and the same unit.
func (f *Search) otherTeam(item *program.Item) {
	if item.Role == "" {
		return
	}
	for t := range f.p.Teams {
		team := &f.p.Teams[t]
		has := slices.ContainsFunc(team.Members, func(m program.Member) bool {
			return slices.ContainsFunc(m.Roles, func(r string) bool { return strings.EqualFold(r, item.Role) })
		})
		if team.Key == item.Team || !has || f.unit(team.Key) != f.unit(item.Team) {
			continue
		}
		f.add(Team, func() {
			if changes, to, ok := f.place(item.Key, set(item.Key, "iteration", ""), set(item.Key, "team", team.Key)); ok {
				f.try(Lever{Kind: Team, Item: item.Key, Text: fmt.Sprintf("Assign %s to %s, which has the role: %s", item.Key, team.Name, to), Changes: changes})
			}
		})
	}
}

// split halves an item and puts each half where a draft of the two alone would. Both need what the
// item needs; what needs it is taken to need the first.
func (f *Search) split(item *program.Item) {
	if f.halved[item.Key] || item.Size == nil || *item.Size < 2 || item.State.UnderWay() || item.Pinned || item.Iteration == "" {
		return
	}
	f.halved[item.Key] = true
	f.add(Split, func() { f.halve(item) })
}

func (f *Search) halve(item *program.Item) {
	first := math.Ceil(*item.Size / 2)
	rest := *item.Size - first
	halves := []backlog.SplitPart{{Title: item.Title + ", first half", Size: &first, Needs: true, Wanted: true}, {Title: item.Title + ", second half", Size: &rest, Needs: true}}
	changes, keys, err := backlog.Split(f.p, item.Key, halves, false)
	if err != nil {
		return
	}
	next, _, err := gate.Try(f.p, changes)
	if err != nil {
		return
	}
	placed, _ := f.drafted(next, keys...)
	if len(placed) == 0 {
		return
	}
	text := fmt.Sprintf("Split %s into %s and %s, placed separately", item.Key, number(first), f.amount(rest, item.Team))
	if f.wanted(f.p.Tree().Index[item.Key]) {
		text += "; what depends on it waits for the first half"
	}
	f.try(Lever{Kind: Split, Item: item.Key, Text: text,
		Label: "Split " + item.Key, Changes: append(changes, placed...)})
}

// lend has somebody with a role that a team has, and with days that are free, work in it for one
// of its next iterations that is nearly full. A day of theirs is worth what a day of its members is.
func (f *Search) lend(key string) {
	t, ok := f.p.TeamAt()[key]
	if !ok {
		return
	}
	team := &f.p.Teams[t]
	figures, loads := capacity.Of(f.p)[t], f.p.Loads().Size[t]
	tried := 0
	for s, it := range team.Iterations {
		if tried >= aheadTried || !it.Takes(f.o.Today) || loads[s] < 0.85*figures[s].Capacity || figures[s].DaysPresent <= 0 {
			continue
		}
		tried++
		f.add(Lend, func() { f.lendIn(team, &it, figures[s]) })
	}
}

func (f *Search) lendIn(team *program.Team, it *program.Iteration, figures capacity.Figure) {
	who, ok := f.lender(team, max(it.Start, f.o.Today), it.End)
	if !ok {
		return
	}
	more := math.Floor(10*who.Days*figures.Capacity/figures.DaysPresent) / 10
	if more <= 0 {
		return
	}
	ref := program.Ref{Kind: program.KindIteration, In: team.Key, Key: it.Key}
	f.consider(candidate{asks: who.Days, who: who.Person + " in " + team.Key, Lever: Lever{Kind: Lend,
		Text:  fmt.Sprintf("Lend %s to %s for %s of %s: %s more", who.Name, team.Name, days(who.Days), it.Label(), f.amount(more, team.Key)),
		Label: fmt.Sprintf("Lend %s to %s in %s", who.Name, team.Name, it.Label()),
		Changes: []program.Change{
			program.SetTo(ref, "capacity", math.Round(10*(figures.Capacity+more))/10),
			program.SetTo(ref, "capacityNote", fmt.Sprintf("%s, lent for %s", who.Name, days(who.Days))),
		}}})
}

// lender is who of another team has most free days in a range, and a role that a team has.
func (f *Search) lender(team *program.Team, from, to program.Date) (people.Free, bool) {
	var best people.Free
	for _, role := range roles(team) {
		for _, x := range people.Find(f.p, people.Wanted{Role: role, From: from, To: to, Days: 1, Idle: true}) {
			if !slices.Contains(x.Teams, team.Key) && x.Days > best.Days {
				best = x
			}
		}
	}
	best.Days = math.Floor(2*best.Days) / 2
	return best, best.Days >= 1
}

func roles(team *program.Team) (all []string) {
	for _, m := range team.Members {
		for _, r := range m.Roles {
			if !slices.Contains(all, r) {
				all = append(all, r)
			}
		}
	}
	return all
}

// mendNeed moves what needs later, what is needed earlier, or both; gives what is needed to another team that has the
// role, or splits it, so that the first half is what is waited for; or lets the need go.
func (f *Search) mendNeed() {
	need := program.Need{Item: f.need.Item, Needs: f.need.Needs}
	names := map[string]string{need.Item: "Move " + need.Item + " later", need.Needs: "Move " + need.Needs + " earlier"}
	for _, key := range []string{need.Item, need.Needs} {
		f.redraft(names[key], key)
	}
	f.redraft("Move both", need.Item, need.Needs)
	if behind := f.behind(need.Item); len(behind) > 1 {
		f.redraft(fmt.Sprintf("Move %s later, with %s behind it", need.Item, count(float64(len(behind)-1), "items")), behind...)
	}
	tree := f.p.Tree()
	for _, leaf := range tree.Leaves(tree.Index[need.Needs]) {
		if item := &f.p.Items[leaf]; tree.ToSchedule(leaf) && item.Size != nil && !item.Pinned && !item.State.UnderWay() {
			f.otherTeam(item)
			f.split(item)
		}
	}
	f.relax(need)
}

// behind are an item and all that wait for it, of those placed.
func (f *Search) behind(key string) (keys []string) {
	wanted := map[int][]int{}
	for _, e := range needs.Edges(f.whole) {
		wanted[e.Needs] = append(wanted[e.Needs], e.Item)
	}
	placed := func(i int) bool { return f.whole.Tree().ToSchedule(i) && f.whole.Items[i].Iteration != "" }
	for _, i := range f.reach([]string{key}, wanted, placed) {
		keys = append(keys, f.whole.Items[i].Key)
	}
	return keys
}

// redraft tries some items where a draft of them alone would put them.
func (f *Search) redraft(text string, keys ...string) {
	f.add(Move, func() {
		changes, where := f.drafted(f.p, keys...)
		const named = 3
		if len(where) > named {
			where = append(where[:named], "…")
		}
		f.try(Lever{Kind: Move, Item: keys[0], Text: fmt.Sprintf("%s: %s", text, strings.Join(where, ", ")), Label: text, Changes: changes})
	})
}

func (f *Search) unit(team string) string {
	t, ok := f.p.TeamAt()[team]
	if !ok {
		return ""
	}
	return string(f.p.Teams[t].Unit)
}

// amount is so much in a team's unit.
func (f *Search) amount(x float64, team string) string { return count(x, f.unit(team)) }

func days(x float64) string { return count(x, "days") }

func count(x float64, unit string) string {
	if x == 1 {
		unit = strings.TrimSuffix(unit, "s")
	}
	return number(x) + " " + unit
}

func number(x float64) string { return strconv.FormatFloat(math.Round(100*x)/100, 'f', -1, 64) }
