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
	fillsTried = 8 // items without a size or a place, the most important ones
	itemsTried = 8 // that are done last most often
	teamsTried = 2 // that do these
	aheadTried = 4 // iterations of such a team
	quickTried = 2 // of each of the first two, where it has to be quick: no draft, and nobody lent
)

// look tries what may mend it.
func (f *finder) look() {
	if f.need != nil {
		f.mendNeed()
		return
	}
	if len(f.items) == 0 {
		return // nothing of it is left to do
	}
	all, rough := f.concerned()
	lacking := slices.DeleteFunc(slices.Clone(all), func(i int) bool { return f.p.Items[i].Size != nil && f.p.Items[i].Iteration != "" })
	fills, items, teamsTried := fillsTried, itemsTried, teamsTried
	if f.o.Quick {
		fills, items, teamsTried = quickTried, quickTried, 0
	}
	for _, i := range lacking[:min(fills, len(lacking))] {
		f.fill(i)
	}
	for _, s := range rough[:min(fills, len(rough))] {
		f.placeRough(s)
	}
	if !f.o.Quick {
		f.draft()
	}
	last := forecast.Last(f.p, f.playing(), f.set)
	share := func(i int) float64 { return last[f.p.Items[i].Key] }
	ranked := slices.DeleteFunc(slices.Clone(all), func(i int) bool { return share(i) < 0.01 })
	slices.SortStableFunc(ranked, func(a, b int) int { return cmp.Compare(share(b), share(a)) })
	for _, i := range ranked[:min(items, len(ranked))] {
		f.mendItem(i)
	}
	weights := map[string]float64{}
	for _, i := range ranked {
		weights[f.p.Items[i].Team] += share(i)
	}
	teams := slices.SortedFunc(maps.Keys(weights), func(a, b string) int { return cmp.Or(cmp.Compare(weights[b], weights[a]), cmp.Compare(a, b)) })
	for _, team := range teams[:min(teamsTried, len(teams))] {
		f.lend(team)
	}
}

// concerned are the items still to do that it waits for, and all that these need, in rank order;
// and the rough sizes among these that do not stand somewhere whole.
func (f *finder) concerned() (items []int, rough []plan.RoughState) {
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
func (f *finder) reach(keys []string, next map[int][]int, counts func(int) bool) (all []int) {
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
func (f *finder) drafted(p *plan.Plan, keys ...string) (changes []program.Change, where []string) {
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
func (f *finder) placeRough(s plan.RoughState) {
	item := &f.p.Items[s.Item]
	changes, where := f.drafted(f.p, f.p.Pieces(item.Key, s.Rough.Team, "")...)
	if len(changes) > 0 {
		f.try(Lever{Kind: PutIn, Item: item.Key, Changes: changes, Label: "Place what is rough of " + item.Key,
			Text: fmt.Sprintf("Place what is rough of %s, %s: %s", item.Key, f.amount(s.Loose, s.Rough.Team), strings.Join(where, ", "))})
	}
}

// place is the changes that put an item where a draft of it alone would, with some made before,
// and the name of the iteration; false where that is where it stands, or nowhere.
func (f *finder) place(key string, before ...program.Change) (all []program.Change, where string, ok bool) {
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
func (f *finder) fill(i int) {
	item := &f.p.Items[i]
	if item.Size == nil {
		usual, ok := plan.UsualSize(f.past(item))
		if !ok || item.Team == "" {
			return
		}
		text := fmt.Sprintf("Size %s: %s is usual", item.Key, f.amount(usual, item.Team))
		changes := []program.Change{set(item.Key, "size", usual)}
		if item.Iteration == "" {
			all, to, ok := f.place(item.Key, changes...)
			if ok {
				changes, text = all, fmt.Sprintf("Size %s (%s is usual) and place it in %s", item.Key, f.amount(usual, item.Team), to)
			}
		}
		f.try(Lever{Kind: Size, Item: item.Key, Text: text, Label: "Size and place " + item.Key, Changes: changes})
		return
	}
	if item.Iteration == "" {
		if changes, to, ok := f.place(item.Key); ok {
			f.try(Lever{Kind: PutIn, Item: item.Key, Text: fmt.Sprintf("Place %s in %s", item.Key, to), Changes: changes})
		}
	}
}

// draft drafts all of it anew.
func (f *finder) draft() {
	d := schedule.Draft(f.p, schedule.Options{Today: f.o.Today, Items: f.items, Aim: schedule.ByOdds, Tries: 2, Workers: f.o.Workers, Past: f.o.Past, Stop: f.o.Stop, AssumeSizes: true})
	if changes, _ := moved(f.p, d); len(changes) > 1 {
		f.try(Lever{Kind: Draft, Text: fmt.Sprintf("Draft %s anew: %d moves", f.name, len(changes)), Changes: changes})
	}
}

// mendItem tries what would get an item done earlier, or do without it.
func (f *finder) mendItem(i int) {
	item := &f.p.Items[i]
	if item.Size == nil {
		return // what it lacks comes first
	}
	if !item.State.UnderWay() && !item.Pinned && item.Iteration != "" {
		if changes, to, ok := f.place(item.Key); ok {
			f.try(Lever{Kind: Move, Item: item.Key, Text: fmt.Sprintf("Move %s to %s", item.Key, to), Changes: changes})
		}
		f.otherTeam(item)
		f.split(item)
	}
	if !f.wanted(i) {
		f.try(Lever{Kind: Drop, Item: item.Key, Text: fmt.Sprintf("Keep %s out (%s)", item.Key, f.amount(*item.Size, item.Team)), Label: "Keep out " + item.Key,
			Changes: []program.Change{set(item.Key, "keptOut", true)}})
	}
	if half := math.Ceil(*item.Size / 2); *item.Size >= 3 && !item.State.UnderWay() {
		f.try(Lever{Kind: Shrink, Item: item.Key, Text: fmt.Sprintf("Shrink %s from %s to %s", item.Key, number(*item.Size), f.amount(half, item.Team)),
			Changes: []program.Change{set(item.Key, "size", half)}})
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
func (f *finder) wanted(i int) bool {
	tree := f.whole.Tree()
	at := tree.Index[f.p.Items[i].Key]
	return slices.ContainsFunc(needs.Edges(f.whole), func(e needs.Edge) bool { return e.Needs == at && tree.ToSchedule(e.Item) })
}

func (f *finder) relax(need program.Need) {
	f.try(Lever{Kind: Relax, Item: need.Item, Text: fmt.Sprintf("Let %s go without %s", need.Item, need.Needs),
		Label:   fmt.Sprintf("%s no longer needs %s", need.Item, need.Needs),
		Changes: []program.Change{{Op: program.Remove, Ref: program.Ref{Kind: program.KindNeed, In: need.Item, Key: need.Needs}}}})
}

// otherTeam gives an item that asks for a role to other teams that have it and the same unit.
func (f *finder) otherTeam(item *program.Item) {
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
		changes, to, ok := f.place(item.Key, set(item.Key, "iteration", ""), set(item.Key, "team", team.Key))
		if ok {
			f.try(Lever{Kind: Team, Item: item.Key, Text: fmt.Sprintf("Give %s to %s, which has the role: %s", item.Key, team.Name, to), Changes: changes})
		}
	}
}

// split halves an item and puts each half where a draft of the two alone would. Both need what the
// item needs; what needs it is taken to need the first.
func (f *finder) split(item *program.Item) {
	if f.halved[item.Key] || item.Size == nil || *item.Size < 2 || item.State.UnderWay() || item.Pinned || item.Iteration == "" {
		return
	}
	f.halved[item.Key] = true
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
	text := fmt.Sprintf("Split %s into %s and %s, each placed by itself", item.Key, number(first), f.amount(rest, item.Team))
	if f.wanted(f.p.Tree().Index[item.Key]) {
		text += "; what needs it waits for the first half"
	}
	f.try(Lever{Kind: Split, Item: item.Key, Text: text,
		Label: "Split " + item.Key, Changes: append(changes, placed...)})
}

// lend has somebody with a role that a team has, and with days that are free, work in it for one
// of its next iterations that is nearly full. A day of theirs is worth what a day of its members is.
func (f *finder) lend(key string) {
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
		who, ok := f.lender(team, max(it.Start, f.o.Today), it.End)
		if !ok {
			continue
		}
		more := math.Floor(10*who.Days*figures[s].Capacity/figures[s].DaysPresent) / 10
		if more <= 0 {
			continue
		}
		ref := program.Ref{Kind: program.KindIteration, In: team.Key, Key: it.Key}
		f.try(Lever{Kind: Lend,
			Text:  fmt.Sprintf("Lend %s to %s for %s of %s: %s more", who.Name, team.Name, days(who.Days), it.Label(), f.amount(more, team.Key)),
			Label: fmt.Sprintf("Lend %s to %s in %s", who.Name, team.Name, it.Label()),
			Changes: []program.Change{
				program.SetTo(ref, "capacity", math.Round(10*(figures[s].Capacity+more))/10),
				program.SetTo(ref, "capacityNote", fmt.Sprintf("%s, lent for %s", who.Name, days(who.Days))),
			}})
	}
}

// lender is who of another team has most free days in a range, and a role that a team has.
func (f *finder) lender(team *program.Team, from, to program.Date) (people.Free, bool) {
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

// holds reports whether the need that is to be mended holds in a plan, or is gone.
func (f *finder) holds(p *plan.Plan) bool {
	states := needs.Check(p)
	for n, need := range p.Needs {
		if need.Item == f.need.Item && need.Needs == f.need.Needs {
			return states[n].Status != needs.StatusBroken
		}
	}
	return true
}

// mendNeed moves what needs later, what is needed earlier, or both; gives what is needed to another team that has the
// role, or splits it, so that the first half is what is waited for; or lets the need go.
func (f *finder) mendNeed() {
	need := program.Need{Item: f.need.Item, Needs: f.need.Needs}
	names := map[string]string{need.Item: "Move " + need.Item + " later", need.Needs: "Move " + need.Needs + " earlier"}
	for _, key := range []string{need.Item, need.Needs} {
		f.redraft(names[key], key)
	}
	f.redraft("Move both", need.Item, need.Needs)
	if behind := f.behind(need.Item); len(behind) > 1 {
		f.redraft(fmt.Sprintf("Move %s later, with %d that wait for it", need.Item, len(behind)-1), behind...)
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
func (f *finder) behind(key string) (keys []string) {
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
func (f *finder) redraft(text string, keys ...string) {
	changes, where := f.drafted(f.p, keys...)
	const named = 3
	if len(where) > named {
		where = append(where[:named], "…")
	}
	f.try(Lever{Kind: Move, Item: keys[0], Text: fmt.Sprintf("%s: %s", text, strings.Join(where, ", ")), Label: text, Changes: changes})
}

func (f *finder) unit(team string) string {
	t, ok := f.p.TeamAt()[team]
	if !ok {
		return ""
	}
	return string(f.p.Teams[t].Unit)
}

// amount is so much in a team's unit.
func (f *finder) amount(x float64, team string) string { return count(x, f.unit(team)) }

func days(x float64) string { return count(x, "days") }

func count(x float64, unit string) string {
	if x == 1 {
		unit = strings.TrimSuffix(unit, "s")
	}
	return number(x) + " " + unit
}

func number(x float64) string { return strconv.FormatFloat(math.Round(100*x)/100, 'f', -1, 64) }
