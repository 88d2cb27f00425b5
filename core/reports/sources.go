package reports

import (
	"cmp"
	"errors"
	"fmt"
	"slices"
	"strings"

	"jantrel/core/backlog"
	"jantrel/core/calendar"
	"jantrel/core/capacity"
	"jantrel/core/needs"
	"jantrel/core/program"
)

// Known is what charts go by.
type Known struct {
	*backlog.Index
	Today program.Date
	// Began is on which day work on an item began, as the journal tells, and false where it does not. nil: of none.
	Began func(item string) (program.Date, bool)
	Views Views
}

// Views are those that a chart may name.
type Views struct {
	All []program.View // ready-made and shared ones
	Own []program.View // those that whoever asks keeps for oneself
}

// Of is the view of a chart, and false where there is none, or none that is there.
func (v Views) Of(c *Chart) (program.View, bool) {
	from := v.All
	if c.Mine {
		from = v.Own
	}
	at := slices.IndexFunc(from, func(v program.View) bool { return v.Key == c.View })
	if at < 0 {
		return program.View{}, false
	}
	return from[at], true
}

// source is what a chart can be of.
type source struct {
	words  SourceWords
	item   bool       // each thing is an item, or belongs to one: it can be divided by the item's fields too
	splits []division // of its own, first
	things func(k *Known, c *Chart) (*things, error)
}

// division is a field of its own of a source.
type division struct {
	Split
	values func(t *things, r int) []string
	words  func(t *things, value string) string // nil: as they are
	order  []string                             // of the values; nil: by their words, or as the program has them
}

// things are what a chart counts, one by one, by position.
type things struct {
	*Known
	of    *source
	chart *Chart
	rows  []int // positions in the source's list, of those that count

	item    func(r int) int // the position of the item that a thing belongs to; -1: none
	team    func(r int) string
	ref     func(r int) program.Ref
	title   func(r int) string
	measure func(r int) (float64, bool)
	own     any // what the source's divisions go by
}

func sourceOf(name Source) *source {
	for i := range sources {
		if sources[i].words.Name == name {
			return &sources[i]
		}
	}
	return &source{}
}

var sources []source

func init() { // as things lead back to their source
	sources = []source{
		{item: true, things: itemsOf, words: SourceWords{Name: Items, Title: "Items", One: "item", Many: "items", Filter: "items",
			Measures: []Measure{number, {"size", "Size", Size, false}, {"share", "Share of the work", Share, false}, {"estimated", "Hours estimated", InTime, false},
				{"left", "Hours left", InTime, false}, {"spent", "Hours spent", InTime, false}, {"age", "Days under way, on average", InDays, true}, {"late", "Days late, on average", InDays, true}}}},
		{item: true, things: tasksOf, splits: taskSplits, words: SourceWords{Name: Tasks, Title: "Tasks", One: "task", Many: "tasks", Filter: "their items",
			Measures: []Measure{number, {"estimated", "Hours estimated", InTime, false}, {"left", "Hours left", InTime, false}}}},
		{item: true, things: needsOf, splits: needSplits, words: SourceWords{Name: Needs, Title: "Needs", One: "need", Many: "needs", Filter: "the items that wait",
			Measures: []Measure{number, {"spare", "Days to spare, on average", InDays, true}}}},
		{things: risksOf, splits: riskSplits, words: SourceWords{Name: Risks, Title: "Risks", One: "risk", Many: "risks", Filter: "the items that they name",
			Measures: []Measure{number, {"odds", "Odds, on average", Share, true}}}},
		{item: true, things: hoursOf, splits: hourSplits, words: SourceWords{Name: Hours, Title: "Time entries", One: "time entry", Many: "time entries", Filter: "the items that time went to",
			Measures: []Measure{{"spent", "Hours spent", InTime, false}, number}}},
		{things: iterationsOf, splits: iterationSplits, words: SourceWords{Name: Iterations, Title: "Iterations", One: "iteration", Many: "iterations", Filter: "",
			Measures: []Measure{number, {"capacity", "Capacity", Size, false}, {"load", "Load", Size, false}, {"headroom", "Headroom", Size, false},
				{"full", "Load as a share of capacity, on average", Share, true}, {"completed", "Completed", Size, false}}}},
	}
}

// divides reports whether things of the source can be divided by a field.
func (s *source) divides(name string) bool {
	if slices.ContainsFunc(s.splits, func(d division) bool { return d.Name == name }) {
		return true
	}
	field, ok := backlog.FieldOf(name)
	return s.item && ok && field.Divides()
}

// itemSplits are the fields of items that a source with divisions of its own can be divided by besides.
func itemSplits(own []division) (all []Split) {
	for i := range backlog.Fields {
		f := &backlog.Fields[i]
		if f.Divides() && !slices.ContainsFunc(own, func(d division) bool { return d.Name == f.Name }) {
			all = append(all, Split{f.Name, f.Title, f.Sort == program.Many, f.Sort == program.Day})
		}
	}
	return all
}

// filter is what a chart keeps of items: what its view keeps, and its own filter.
func (k *Known) filter(c *Chart) (func(i int) bool, bool, error) {
	keep, err := k.Test(c.Filter)
	if err != nil || c.View == "" {
		return keep, len(c.Filter.Conditions) > 0, err
	}
	view, ok := k.Views.Of(c)
	switch {
	case !ok && c.Mine:
		return nil, true, errors.New("its view is one that somebody keeps for themselves, or was removed: share the view, or choose another one")
	case !ok:
		return nil, true, errors.New("its view was removed: choose another one")
	}
	also, err := k.Test(view.Filter)
	if err != nil {
		return nil, true, fmt.Errorf("the view %s: %w", view.Name, err)
	}
	return func(i int) bool { return keep(i) && also(i) }, true, nil
}

// newThings are the things of a source that have, or belong to, an item that the chart keeps. Those without an
// item are kept where the chart asks nothing of items.
func newThings(k *Known, c *Chart, n int, of things) (*things, error) {
	keep, asks, err := k.filter(c)
	if err != nil {
		return nil, err
	}
	of.Known, of.of, of.chart = k, sourceOf(c.Of), c
	for r := range n {
		i := of.item(r)
		if i >= 0 && !keep(i) || i < 0 && asks || c.Team != "" && of.team(r) != c.Team {
			continue
		}
		of.rows = append(of.rows, r)
	}
	return &of, nil
}

// teamOfItem is the team of the item at a position; none of -1.
func (k *Known) teamOfItem(i int) string {
	if i < 0 {
		return ""
	}
	return k.Plan().Items[i].Team
}

var needSplits = []division{
	{Split: Split{Name: "status", Title: "Stands"}, order: []string{string(needs.StatusHolds), string(needs.StatusTight), string(needs.StatusBroken)},
		values: func(t *things, r int) []string { return []string{string(t.own.([]needs.State)[r].Status)} }},
	{Split: Split{Name: "agreement", Title: "Agreement"}, order: []string{string(program.Asked), string(program.Offered), string(program.Agreed), string(program.Declined)},
		values: func(t *things, r int) []string { return some(string(t.Plan().Needs[r].Agreement)) }},
	{Split: Split{Name: "gives", Title: "Team that gives"}, values: func(t *things, r int) []string {
		return some(t.teamOfItem(t.at(t.Plan().Needs[r].Needs)))
	}, words: (*things).teamName},
}

func needsOf(k *Known, c *Chart) (*things, error) {
	p, stands := k.Plan(), needs.Check(k.Plan())
	t := things{own: stands}
	t.item = func(r int) int { return k.at(p.Needs[r].Item) }
	t.team = func(r int) string { return k.teamOfItem(t.item(r)) }
	t.ref = func(r int) program.Ref {
		return program.Ref{Kind: program.KindNeed, In: p.Needs[r].Item, Key: p.Needs[r].Needs}
	}
	t.title = func(r int) string { return k.titleOf(p.Needs[r].Item) + " needs " + k.titleOf(p.Needs[r].Needs) }
	if c.Measure == "spare" {
		t.measure = func(r int) (float64, bool) {
			if stands[r].Spare == nil {
				return 0, false
			}
			return float64(*stands[r].Spare), true
		}
	}
	return newThings(k, c, len(p.Needs), t)
}

var riskSplits = []division{
	{Split: Split{Name: "riskState", Title: "State"}, order: []string{string(program.RiskOpen), string(program.RiskHappened), string(program.RiskOver)},
		values: func(t *things, r int) []string { return []string{string(cmp.Or(t.risk(r).State, program.RiskOpen))} }},
	{Split: Split{Name: "owner", Title: "Owner"}, values: func(t *things, r int) []string { return some(t.risk(r).Owner) }, words: (*things).person},
	{Split: Split{Name: "response", Title: "Response"}, order: []string{string(program.Avoid), string(program.Reduce), string(program.PassOn), string(program.Accept)},
		values: func(t *things, r int) []string { return some(string(t.risk(r).Response)) },
		words:  func(_ *things, v string) string { return strings.ReplaceAll(v, "-", " ") }},
	{Split: Split{Name: "chance", Title: "Chance"}, values: func(t *things, r int) []string { return step(t.risk(r).Chance) }},
	{Split: Split{Name: "impact", Title: "Impact"}, values: func(t *things, r int) []string { return step(t.risk(r).Impact) }},
	{Split: Split{Name: "team", Title: "Team", Many: true}, values: func(t *things, r int) []string { return t.risk(r).Teams }, words: (*things).teamName},
	{Split: Split{Name: "release", Title: "Release", Many: true}, values: func(t *things, r int) []string { return t.risk(r).Releases }, words: (*things).release},
}

func (t *things) risk(r int) *program.Risk { return &t.Plan().Risks[r] }

// step is a step of a scale, which has one figure; none where it is not rated.
func step(n int) []string {
	if n == 0 {
		return nil
	}
	return []string{fmt.Sprint(n)}
}

func risksOf(k *Known, c *Chart) (*things, error) {
	p := k.Plan()
	keep, asks, err := k.filter(c)
	if err != nil {
		return nil, err
	}
	t := &things{Known: k, of: sourceOf(Risks), chart: c, item: func(int) int { return -1 }, team: func(int) string { return "" },
		ref: func(r int) program.Ref { return program.Ref{Kind: program.KindRisk, Key: p.Risks[r].Key} }, title: func(r int) string { return p.Risks[r].Title }}
	for r := range p.Risks {
		names := slices.ContainsFunc(p.Risks[r].Items, func(key string) bool { i := k.at(key); return i >= 0 && keep(i) })
		if asks && !names || c.Team != "" && !slices.Contains(p.Risks[r].Teams, c.Team) {
			continue
		}
		t.rows = append(t.rows, r)
	}
	if c.Measure == "odds" {
		t.measure = func(r int) (float64, bool) {
			if odds := p.Risks[r].Odds; odds != nil {
				return *odds, true
			}
			return 0, false
		}
	}
	return t, nil
}

var hourSplits = []division{
	{Split: Split{Name: "person", Title: "Person"}, values: func(t *things, r int) []string { return some(t.entry(r).Person) }, words: (*things).person},
	{Split: Split{Name: "activity", Title: "Activity"}, values: func(t *things, r int) []string { return some(t.entry(r).Activity) }},
	{Split: Split{Name: "week", Title: "Week", Weeks: true}, values: func(t *things, r int) []string { return some(calendar.MondayOf(t.entry(r).Date).String()) }},
}

func (t *things) entry(r int) *program.TimeEntry { return &t.Plan().TimeEntries[r] }

func hoursOf(k *Known, c *Chart) (*things, error) {
	p := k.Plan()
	t := things{}
	t.item = func(r int) int { return k.at(p.TimeEntries[r].Item) }
	t.team = func(r int) string { return k.teamOfItem(t.item(r)) }
	t.ref = func(r int) program.Ref { return program.Ref{Kind: program.KindTimeEntry, Key: p.TimeEntries[r].Key} }
	t.title = func(r int) string {
		e := &p.TimeEntries[r]
		text := fmt.Sprintf("%s, %g h", e.Date.Short(), e.Hours)
		if e.Item != "" {
			text += ": " + k.titleOf(e.Item)
		}
		return text
	}
	if c.Measure == "spent" {
		t.measure = func(r int) (float64, bool) { return p.TimeEntries[r].Hours, true }
	}
	all, err := newThings(k, c, len(p.TimeEntries), t)
	if err == nil && c.Within > 0 {
		all.rows = slices.DeleteFunc(all.rows, func(r int) bool {
			return p.TimeEntries[r].Date > k.Today || p.TimeEntries[r].Date <= k.Today.Add(-c.Within)
		})
	}
	return all, err
}

// slot is an iteration of a team, by their positions.
type slot struct{ team, at int }

var iterationSplits = []division{
	{Split: Split{Name: "team", Title: "Team"}, values: func(t *things, r int) []string { return some(t.team(r)) }, words: (*things).teamName},
	{Split: Split{Name: "iteration", Title: "Iteration"}, values: func(t *things, r int) []string {
		return some(t.team(r) + "\n" + t.iteration(r).Key)
	}, words: (*things).iterationName},
	{Split: Split{Name: "iterationState", Title: "State"}, order: []string{string(program.Closed), string(program.Open), string(program.Planned)},
		values: func(t *things, r int) []string {
			return []string{string(cmp.Or(t.iteration(r).State, program.Planned))}
		}},
	{Split: Split{Name: "start", Title: "Starts, by week", Weeks: true}, values: func(t *things, r int) []string {
		return some(calendar.MondayOf(t.iteration(r).Start).String())
	}},
}

func (t *things) iteration(r int) *program.Iteration {
	at := t.own.([]slot)[r]
	return &t.Plan().Teams[at.team].Iterations[at.at]
}

func iterationsOf(k *Known, c *Chart) (*things, error) {
	p := k.Plan()
	if len(c.Filter.Conditions) > 0 || c.View != "" {
		return nil, fmt.Errorf("iterations are chosen by team and by days: take away the conditions on items")
	}
	var all []slot
	for t := range p.Teams {
		for i := range p.Teams[t].Iterations {
			all = append(all, slot{t, i})
		}
	}
	t, err := newThings(k, c, len(all), things{
		own:  all,
		item: func(int) int { return -1 },
		team: func(r int) string { return p.Teams[all[r].team].Key },
		ref: func(r int) program.Ref {
			team := &p.Teams[all[r].team]
			return program.Ref{Kind: program.KindIteration, In: team.Key, Key: team.Iterations[all[r].at].Key}
		},
		title: func(r int) string {
			team := &p.Teams[all[r].team]
			return team.Iterations[all[r].at].Label() + " of " + team.Name
		},
	})
	if err != nil {
		return nil, err
	}
	if c.Within > 0 {
		t.rows = slices.DeleteFunc(t.rows, func(r int) bool {
			it := t.iteration(r)
			return it.End < k.Today || it.Start >= k.Today.Add(c.Within)
		})
	}
	figure := func(r int) float64 { return capacity.Of(p)[all[r].team][all[r].at].Capacity }
	load := func(r int) float64 { return p.Loads().Size[all[r].team][all[r].at] }
	switch c.Measure {
	case "number":
		return t, nil
	case "capacity":
		t.measure = func(r int) (float64, bool) { return figure(r), true }
	case "load":
		t.measure = func(r int) (float64, bool) { return load(r), true }
	case "headroom":
		t.measure = func(r int) (float64, bool) { return figure(r) - load(r), true }
	case "completed":
		t.measure = func(r int) (float64, bool) {
			if done := t.iteration(r).Completed; done != nil {
				return *done, true
			}
			return 0, false
		}
	case "full":
		t.measure = func(r int) (float64, bool) {
			if figure(r) <= 0 {
				return 0, false
			}
			return load(r) / figure(r), true
		}
		return t, nil
	}
	return t, t.oneTeam()
}

// at is the position of an item; -1 where there is none.
func (k *Known) at(key string) int {
	if i, ok := k.Tree().Index[key]; ok {
		return i
	}
	return -1
}

// titleOf is what an item is called; its key where it is gone.
func (k *Known) titleOf(key string) string {
	if i := k.at(key); i >= 0 {
		return k.Plan().Items[i].Title
	}
	return key
}

func some(value string) []string {
	if value == "" {
		return nil
	}
	return []string{value}
}
