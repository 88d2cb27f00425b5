package briefs

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"

	"jantrel/core/capacity"
	"jantrel/core/forecast"
	"jantrel/core/needs"
	"jantrel/core/program"
	"jantrel/core/ready"
	"jantrel/core/risks"
	"jantrel/core/scenario"
	"jantrel/core/words"
)

func (w *writer) dates() []Block {
	table := Block{Head: []string{"What", "Due"}, Figures: []bool{false, false}}
	for _, odds := range Odds {
		table.Head, table.Figures = append(table.Head, strconv.Itoa(odds)+"\u00a0%"), append(table.Figures, false)
	}
	table.Head, table.Figures = append(table.Head, "On time"), append(table.Figures, true)
	var text []string
	for i := range w.Dated {
		d := &w.Dated[i]
		if w.about.Release != "" && !w.concerns(d) {
			continue
		}
		row := []string{d.Name, w.day(d.Landing.Due)}
		for _, odds := range Odds {
			at := d.Landing.At(odds)
			switch {
			case d.Landing.Left == 0 && d.Landing.Rough == 0:
				row = append(row, "done")
			case at.IsZero():
				row = append(row, "later")
			default:
				row = append(row, w.day(at))
			}
		}
		chance := ""
		if d.Landing.Chance != nil {
			chance = percent(*d.Landing.Chance)
		}
		table.Rows = append(table.Rows, append(row, chance))
		if d.Kind == program.KindRelease {
			text = append(text, w.promise(d))
		}
	}
	if len(table.Rows) == 0 {
		return say("There is no release and no milestone with a date.")
	}
	blocks := []Block{table}
	if len(text) > 0 {
		blocks = append(say("%s", strings.Join(text, " ")), table)
	}
	return blocks
}

// concerns reports whether a date is that of the release that the brief is about, or of a milestone of it.
func (w *writer) concerns(d *Dated) bool {
	if d.Kind == program.KindRelease {
		return d.Key == w.about.Release
	}
	for i := range w.Milestones {
		if m := &w.Milestones[i]; m.Key == d.Key {
			return len(m.Releases) == 0 || slices.Contains(m.Releases, w.about.Release)
		}
	}
	return false
}

// burnUp is a picture of the way to here and on, with what it says in a sentence.
func (w *writer) burnUp() []Block {
	c := w.BurnUp()
	if c == nil || c.Fan.Total == 0 {
		return say("There is nothing to do in it yet.")
	}
	name := NameOf(&w.Program, w.about)
	done := amount(c.Fan.Done, c) + " of " + amount(c.Fan.Total, c)
	if c.Measure.In == forecast.InShare {
		done = percent(c.Fan.Done) + " of the work"
	}
	said := fmt.Sprintf("%s %s; %s is done.", name, w.lands(&c.Landing), done)
	if n := c.Fan.Unsized; n > 0 {
		is := "are"
		if n == 1 {
			is = "is"
		}
		said += fmt.Sprintf(" %s without a size %s not in the picture: the last of it may land later than it looks.", words.Count(n, "item"), is)
	}
	return append(say("%s", said), Block{BurnUp: c, Head: burnUpHead, Rows: w.burnUpRows(c), Figures: []bool{false, true, true, true}})
}

var burnUpHead = []string{"Day", "Done", "In 8 of 10 plays", "There is"}

// burnUpRows is a burn-up as a table: how it was and will be at the ends of a few days.
func (w *writer) burnUpRows(c *forecast.BurnUp) (rows [][]string) {
	few := func(n int, row func(i int) []string) { // evenly spread, the last one among them
		for k := 1; k <= min(n, burnUpDays); k++ {
			rows = append(rows, row(k*n/min(n, burnUpDays)-1))
		}
	}
	few(len(c.Past), func(i int) []string {
		b := &c.Past[i]
		return []string{w.day(b.Day), amount(b.Done, c), "", amount(b.Total, c)}
	})
	ahead := c.Fan.Days
	if len(ahead) > 0 && ahead[0].Day == w.Today { // that is told
		ahead = ahead[1:]
	}
	few(len(ahead), func(i int) []string {
		d := &ahead[i]
		return []string{w.day(d.Day), amount(d.Done[2], c), amount(d.Done[0], c) + " to " + amount(d.Done[4], c), amount(d.Scope[2], c)}
	})
	return rows
}

// burnUpDays is at how many days a burn-up is told in a table, of the past and of what is to come.
const burnUpDays = 6

// amount is how much work that is, in the measure of a burn-up.
func amount(n float64, c *forecast.BurnUp) string {
	switch c.Measure.In {
	case forecast.InShare:
		return percent(n)
	case forecast.InSize:
		return words.Number(n) + "\u00a0" + c.Unit.Sign()
	case forecast.InHours:
		return words.Number(n) + "\u00a0h"
	}
	return words.Count(int(math.Round(n)), "item")
}

func (w *writer) work() []Block {
	leaves := w.leaves()
	if len(leaves) == 0 {
		return say("Nothing is planned.")
	}
	table := Block{Head: []string{"Item", "Size", "State", "Assigned to"}, Figures: []bool{false, true, false, false}}
	teams := w.TeamAt()
	for _, i := range leaves {
		item := &w.Items[i]
		size := "no size"
		if t, ok := teams[item.Team]; ok && item.Size != nil {
			size = sized(*item.Size, &w.Teams[t])
		}
		table.Rows = append(table.Rows, []string{w.item(i), size, program.StateWords[cmp.Or(item.State, program.Todo)], w.person(item.Assignee)})
	}
	return []Block{table}
}

// person is what somebody is called.
func (w *writer) person(key string) string {
	for i := range w.People {
		if w.People[i].Key == key {
			return w.People[i].Name
		}
	}
	return ""
}

func (w *writer) mix() []Block {
	mix := ready.MixOf(w.Plan, ready.Scope{In: w.in, Out: func(int) bool { return false }})
	if mix.Items == 0 {
		return say("Nothing is planned.")
	}
	table := Block{Head: []string{"Kind", "Items", "Share of the time", "Wanted"}, Figures: []bool{false, true, true, true}}
	var short []string
	for _, k := range mix.Kinds {
		wanted := ""
		if k.Target != nil {
			wanted = percent(*k.Target)
		}
		if k.Short > 0.005 {
			short = append(short, string(k.Kind)+" by "+percent(k.Short))
		}
		table.Rows = append(table.Rows, []string{string(k.Kind), strconv.Itoa(k.Items), percent(k.Sizes), wanted})
	}
	text := "There is as much of each kind of work as is wanted."
	if len(short) > 0 {
		text = "Below target: " + anyOf(short, 4) + "."
	} else if !slices.ContainsFunc(mix.Kinds, func(k ready.Share) bool { return k.Target != nil }) {
		text = "The program wants no particular mix of work."
	}
	return append(say("%s", text), table)
}

func (w *writer) capacity() []Block {
	figures, loads := capacity.Of(w.Plan), w.Loads().Size
	until := program.Date(math.MaxInt32)
	for i := range w.Releases {
		if r := &w.Releases[i]; r.Key == w.about.Release && !r.Due.IsZero() {
			until = r.Due
		}
	}
	teams := map[string]bool{}
	for _, i := range w.leaves() {
		teams[w.Items[i].Team] = true
	}
	table := Block{Head: []string{"Team", "Iterations to come", "Load", "Capacity", "Room"}, Figures: []bool{false, true, true, true, true}}
	var over []string
	slots := 0
	for t := range w.Teams {
		team := &w.Teams[t]
		if w.about.Release != "" && !teams[team.Key] || w.about.Team != "" && team.Key != w.about.Team {
			continue
		}
		n, load, can := 0, 0.0, 0.0
		for i := range team.Iterations {
			it := &team.Iterations[i]
			if it.State == program.Closed || it.End < w.Today || it.Start > until || w.about.Iteration != "" && it.Key != w.about.Iteration {
				continue
			}
			n++
			load, can = load+loads[t][i], can+figures[t][i].Capacity
			if loads[t][i] > figures[t][i].Capacity+1e-9 {
				over = append(over, fmt.Sprintf("%s of %s (%s of %s)", it.Label(), team.Name, words.Number(loads[t][i]), sized(figures[t][i].Capacity, team)))
			}
		}
		if n > 0 {
			slots += n
			table.Rows = append(table.Rows, []string{team.Name, strconv.Itoa(n), sized(load, team), sized(can, team), sized(can-load, team)})
		}
	}
	if slots == 0 {
		return say("No iteration is to come.")
	}
	text := fmt.Sprintf("Of %s none carries more than it can.", words.Count(slots, "iteration to come", "iterations to come"))
	switch {
	case slots == 1 && len(over) == 0:
		text = "It carries no more than it can."
	case len(over) > 0:
		text = fmt.Sprintf("Of %s %d carry more than they can: %s.", words.Count(slots, "iteration to come", "iterations to come"), len(over), anyOf(over, 4))
		if len(over) == 1 {
			text = strings.Replace(text, "1 carry more than they can", "1 carries more than it can", 1)
		}
	}
	if w.about.Release != "" && until != math.MaxInt32 {
		text += " What is told is up to " + w.day(until) + ", of all that the teams have in hand."
	}
	return append(say("%s", text), table)
}

func (w *writer) needs() []Block {
	var broken, open []string
	all, tight := 0, 0
	states := needs.Check(w.Plan)
	agree := needs.Agree(&w.Program)
	for n := range w.Needs {
		need := &w.Needs[n]
		i, okI := w.tree.Index[need.Item]
		j, okJ := w.tree.Index[need.Needs]
		if !okI || !okJ || w.Items[i].Team == w.Items[j].Team || !w.touches(i) && !w.touches(j) {
			continue
		}
		all++
		text := fmt.Sprintf("%s of %s needs %s of %s", w.item(i), w.team(i), w.item(j), w.team(j))
		switch states[n].Status {
		case needs.StatusBroken:
			if spare := states[n].Spare; spare != nil && *spare < 0 {
				text += ", which comes " + words.Count(-*spare, "day") + " too late"
			} else {
				text += ", which has no place"
			}
			broken = append(broken, text+".")
		case needs.StatusTight:
			tight++
		}
		if agree && need.Agreement != program.Agreed && w.Items[j].State != program.Done {
			open = append(open, text)
		}
	}
	if all == 0 {
		return say("No team waits for another one.")
	}
	text := fmt.Sprintf("There %s between teams: %d broken, %d without a day to spare", map[bool]string{true: "is ", false: "are "}[all == 1]+words.Count(all, "need"), len(broken), tight)
	if agree {
		text += fmt.Sprintf(", %d not agreed on", len(open))
	}
	return append(say("%s.", text), list(broken)...)
}

// touches reports whether the item at a position is what the brief is about, or holds some of that.
func (w *writer) touches(i int) bool { return slices.ContainsFunc(w.tree.Leaves(i), w.in) }

// team is what the team of an item is called.
func (w *writer) team(i int) string { return cmp.Or(w.names[w.Items[i].Team], "no team") }

func (w *writer) risks() []Block {
	table := Block{Head: []string{"Risk", "Chance", "Impact", "Owner", "Response"}, Figures: make([]bool, 5)}
	scales := w.Settings.RiskScales()
	step := func(n int, scale []string) string {
		if n < 1 || n > len(scale) {
			return "not rated"
		}
		return scale[n-1]
	}
	open, unowned := 0, 0
	for _, s := range risks.Register(w.Program, w.Today) {
		i := slices.IndexFunc(w.Risks, func(r program.Risk) bool { return r.Key == s.Risk })
		risk := &w.Risks[i]
		if s.Over || w.about.Release != "" && len(risk.Releases) > 0 && !slices.Contains(risk.Releases, w.about.Release) ||
			w.about.Team != "" && len(risk.Teams) > 0 && !slices.Contains(risk.Teams, w.about.Team) {
			continue
		}
		open++
		if s.Unowned {
			unowned++
		}
		response := cmp.Or(risk.Answer, strings.ReplaceAll(string(risk.Response), "-", " "), "nothing is decided")
		if len(table.Rows) < mostListed {
			table.Rows = append(table.Rows, []string{risk.Title, step(s.Chance, scales.Chance), step(s.Impact, scales.Impact), cmp.Or(w.person(risk.Owner), "nobody"), response})
		}
	}
	if open == 0 {
		return say("No risk is known.")
	}
	text := words.Count(open, "risk") + " may happen"
	if open == 1 {
		text = "One risk may happen"
	}
	if unowned > 0 {
		text += ", " + strconv.Itoa(unowned) + " of which nobody watches"
	}
	return append(say("%s.", text), table)
}

func (w *writer) since() []Block {
	b := w.Before
	if b == nil {
		return say("This is the first brief about it.")
	}
	scope := scenario.Scope{Release: w.about.Release, Team: w.about.Team}
	became := scenario.Since(b.Plan, w.Plan, scope)
	var parts []string
	for _, sum := range became.Sums {
		parts = append(parts, words.Count(sum.Items, "item")+" "+map[scenario.What]string{scenario.WasAdded: "added", scenario.WasRemoved: "removed", scenario.CameIn: "came in", scenario.WentOut: "went out",
			scenario.Grew: "grew", scenario.Shrank: "became smaller", scenario.WentLater: "went later", scenario.WentSooner: "came sooner", scenario.WasDone: "done", scenario.WasReopened: "opened again"}[sum.What])
	}
	text := fmt.Sprintf("Since brief %d of %s nothing of the work has changed.", b.Number, w.day(b.Day))
	if len(parts) > 0 {
		text = fmt.Sprintf("Since brief %d of %s: %s.", b.Number, w.day(b.Day), anyOf(parts, len(parts)))
	}
	table := Block{Head: []string{"Release", "Even odds, then", "now", "On time, then", "now"}, Figures: []bool{false, false, false, true, true}}
	chance := func(c *float64) string {
		if c == nil {
			return ""
		}
		return percent(*c)
	}
	for _, now := range w.said() {
		for _, then := range b.Said {
			if then.Release == now.Release {
				table.Rows = append(table.Rows, []string{w.releases[now.Release], w.day(then.Even), w.day(now.Even), chance(then.Chance), chance(now.Chance)})
			}
		}
	}
	blocks := say("%s", text)
	if len(table.Rows) > 0 {
		blocks = append(blocks, table)
	}
	return blocks
}

func (w *writer) leftOut() []Block {
	var out, loose, late []string
	lacks := ready.Check(w.Plan)
	due := map[string]program.Date{}
	for _, r := range w.Releases {
		due[r.Key] = r.Due
	}
	for i := range w.Items {
		item := &w.Items[i]
		release := w.tree.Release(i)
		if !w.tree.IsLeaf(i) || item.State == program.Done || w.about.Release != "" && release != w.about.Release || w.about.Team != "" && item.Team != w.about.Team {
			continue
		}
		place, placed := w.Place(i)
		switch {
		case item.KeptOut:
			out = append(out, w.item(i)+": it is kept out on purpose.")
		case !placed && (release != "" || w.about.Team != ""):
			why := "it has no place yet"
			if len(lacks[i]) > 0 {
				why = "it " + lacks[i][0].Text
			}
			if item.Blocked != "" {
				why = "it is blocked, " + strings.TrimRight(item.Blocked, ".")
			}
			loose = append(loose, w.item(i)+": "+why+".")
		case placed && w.about.Team == "" && !due[release].IsZero() && place.End > due[release]:
			late = append(late, fmt.Sprintf("%s: its iteration ends on %s, after %s is due.", w.item(i), w.day(place.End), w.releases[release]))
		}
	}
	if len(out)+len(loose)+len(late) == 0 {
		return say("Nothing was left out.")
	}
	parts := []string{}
	for _, p := range []struct {
		n    int
		what string
	}{{len(out), "kept out on purpose"}, {len(loose), "without a place"}, {len(late), "planned after the due date"}} {
		if p.n > 0 {
			parts = append(parts, words.Count(p.n, "item")+" "+p.what)
		}
	}
	return append(say("There %s %s.", map[bool]string{true: "is", false: "are"}[strings.HasPrefix(parts[0], "1 ")], anyOf(parts, 3)), list(slices.Concat(out, loose, late))...)
}

func (w *writer) promises() []Block {
	var all []string
	for _, p := range w.Promises {
		if w.about.Release != "" && p.Promise.Release != w.about.Release || p.Word != forecast.WordStands {
			continue
		}
		name := w.releases[p.Promise.Release]
		for i := range w.Milestones {
			if w.Milestones[i].Key == p.Promise.Milestone {
				name = w.Milestones[i].Name
			}
		}
		text := fmt.Sprintf("%s by %s, promised to %s on %s", name, w.day(p.Promise.Date), p.Promise.To, w.day(p.Promise.Made))
		if p.Chance != nil {
			text += ": kept with " + percent(*p.Chance)
			if then := p.Promise.Chance; then != nil {
				text += ", " + percent(*then) + " when it was made"
			}
		}
		all = append(all, text+".")
	}
	if len(all) == 0 {
		return say("No date was promised to anybody.")
	}
	return list(all)
}
