package scenario

import (
	"cmp"
	"encoding/json"
	"slices"

	"jantrel/core/forecast"
	"jantrel/core/needs"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/standing"
)

// Compared is one of the plans that are held against each other.
type Compared struct {
	Plan  *plan.Plan
	Facts standing.Facts
	Plays forecast.Forecast // of all its releases
}

// Comparison is two to four plans side by side. The lists Of have an entry for each plan, in order; the others are
// held against the first.
type Comparison struct {
	Releases []ReleaseOf   `json:"releases"` // of any of them
	Late     []float64     `json:"late"`     // expected late days of all that has a due date, as the plays have it
	Counts   []CountsOf    `json:"counts"`
	Loads    []LoadOf      `json:"loads"`  // iterations that are not over yet and not the same in all, or over capacity in some
	Needs    []NeedOf      `json:"needs"`  // needs that are broken in some and not in all
	Values   []ValueOf     `json:"values"` // sizes, dates and capacity that are not the same in all
	Items    []ElsewhereOf `json:"items"`  // items that do not stand at the same place in all, by the first plan's order
}

// ReleaseOf is a release in each plan.
type ReleaseOf struct {
	Key   string            `json:"key"`
	Name  string            `json:"name"`
	Lands []*ReleaseLanding `json:"of"` // nil where it has none of the release
}

// ReleaseLanding is when a release lands in one plan, and what it holds.
type ReleaseLanding struct {
	forecast.Landing
	Items int      `json:"items"` // that are to be done for it, or are
	In    []string `json:"in"`    // of these, those that the first plan has not for it
	Out   []string `json:"out"`   // those that it has besides
}

// CountsOf are the numbers of the strip.
type CountsOf struct {
	Over     int `json:"over"`
	Broken   int `json:"broken"`
	NotReady int `json:"notReady"`
	Unplaced int `json:"unplaced"`
}

// LoadOf is the load of an iteration in each plan.
type LoadOf struct {
	Team string           `json:"team"`
	Key  string           `json:"key"`
	Name string           `json:"name"`
	Of   []*IterationLoad `json:"of"` // nil where it has no such iteration
}

// IterationLoad is what an iteration carries and can carry, in the team's unit.
type IterationLoad struct {
	Load     float64 `json:"load"`
	Capacity float64 `json:"capacity"`
	Over     bool    `json:"over,omitempty"`
}

// NeedOf is how a need stands in each plan; empty where it has none.
type NeedOf struct {
	Item  string         `json:"item"`
	Needs string         `json:"needs"`
	Of    []needs.Status `json:"of"`
}

// ValueOf is a field in each plan; null where the thing is not there, or says nothing.
type ValueOf struct {
	program.Ref
	Field string            `json:"field"`
	Name  string            `json:"name"`
	Of    []json.RawMessage `json:"of"`
}

// ElsewhereOf is an item that does not stand at the same place in all plans.
type ElsewhereOf struct {
	Key     string   `json:"key"`
	Title   string   `json:"title"`
	Team    string   `json:"team"`
	Release string   `json:"release,omitempty"`
	Of      []Stands `json:"of"`
}

// Stand is how an item is in a plan.
type Stand string

// The stands.
const (
	Placed   Stand = "placed"
	Unplaced Stand = "unplaced"
	KeptOut  Stand = "kept out"
	Absent   Stand = "absent" // there is no such item
)

// Stands is where an item stands in one plan.
type Stands struct {
	Stand     Stand        `json:"stand"`
	Team      string       `json:"team,omitempty"`
	Iteration string       `json:"iteration,omitempty"`
	Name      string       `json:"name,omitempty"` // the iteration's
	End       program.Date `json:"end,omitzero"`
	Later     *int         `json:"later,omitempty"` // by how many days its iteration ends later than in the first plan; nil where it is placed in one of them alone
}

// Compare holds plans against each other, the first one against the others. It takes time linear in their things.
func Compare(of []Compared) Comparison {
	c := comparer{of: of, trees: make([]program.Tree, len(of)), at: make([]map[string]int, len(of))}
	for i := range of {
		c.trees[i] = of[i].Plan.Tree()
		c.at[i] = make(map[string]int, len(of[i].Plan.Items))
		for j := range of[i].Plan.Items {
			c.at[i][of[i].Plan.Items[j].Key] = j
		}
	}
	return Comparison{c.releases(), c.late(), c.counts(), c.loads(), c.needs(), c.values(), c.items()}
}

type comparer struct {
	of    []Compared
	trees []program.Tree
	at    []map[string]int // of items, by key
}

// keys are those of a list of each plan, once each: in the first plan's order, then what the others have besides.
func keys[T any](of []Compared, list func(p *plan.Plan) []T, key func(*T) string) (all []string) {
	seen := map[string]bool{}
	for i := range of {
		things := list(of[i].Plan)
		for j := range things {
			if k := key(&things[j]); !seen[k] {
				seen[k] = true
				all = append(all, k)
			}
		}
	}
	return all
}

func (c *comparer) releases() []ReleaseOf {
	rows := []ReleaseOf{}
	for _, key := range keys(c.of, func(p *plan.Plan) []program.Release { return p.Releases }, func(r *program.Release) string { return r.Key }) {
		row := ReleaseOf{Key: key, Lands: make([]*ReleaseLanding, len(c.of))}
		var first map[string]bool
		for i, side := range c.of {
			at := slices.IndexFunc(side.Plan.Releases, func(r program.Release) bool { return r.Key == key })
			scope := c.scope(i, key)
			if i == 0 {
				first = scope
			}
			if at < 0 {
				continue
			}
			row.Name = cmp.Or(row.Name, side.Plan.Releases[at].Name, key)
			l := &ReleaseLanding{Items: len(scope), In: []string{}, Out: []string{}}
			if played := slices.IndexFunc(side.Plays.Releases, func(x forecast.Landing) bool { return x.Key == key }); played >= 0 {
				l.Landing = side.Plays.Releases[played]
			}
			l.In, l.Out = c.besides(i, scope, first), c.besides(0, first, scope)
			row.Lands[i] = l
		}
		rows = append(rows, row)
	}
	return rows
}

// scope are the items of a release that are to be done for it, or are.
func (c *comparer) scope(side int, release string) map[string]bool {
	scope := map[string]bool{}
	items := c.of[side].Plan.Items
	for i := range items {
		if c.trees[side].IsLeaf(i) && !items[i].Kind.IsGroup() && !items[i].KeptOut && c.trees[side].Release(i) == release {
			scope[items[i].Key] = true
		}
	}
	return scope
}

// besides are the items of one scope that another has not, by a plan's order.
func (c *comparer) besides(side int, scope, other map[string]bool) []string {
	besides := []string{}
	for i := range c.of[side].Plan.Items {
		if key := c.of[side].Plan.Items[i].Key; scope[key] && !other[key] {
			besides = append(besides, key)
		}
	}
	return besides
}

func (c *comparer) late() []float64 {
	late := make([]float64, len(c.of))
	for i := range c.of {
		late[i] = c.of[i].Plays.ExpectedLateDays
	}
	return late
}

func (c *comparer) counts() []CountsOf {
	counts := make([]CountsOf, len(c.of))
	for i, side := range c.of {
		if n := side.Facts.Counts; n != nil {
			counts[i] = CountsOf{len(n.Over), len(n.Broken), len(n.NotReady), len(n.Unplaced)}
		}
	}
	return counts
}

func (c *comparer) loads() []LoadOf {
	type at struct{ team, key string }
	var order []at
	found := map[at][]*IterationLoad{}
	for i, side := range c.of {
		for _, f := range side.Facts.Iterations {
			if f.Ended { // what is over stays as it was
				continue
			}
			key := at{f.Team, f.Key}
			if found[key] == nil {
				order = append(order, key)
				found[key] = make([]*IterationLoad, len(c.of))
			}
			found[key][i] = &IterationLoad{f.Load, f.Capacity, f.Over}
		}
	}
	rows := []LoadOf{}
	for _, key := range order {
		of := found[key]
		same := !slices.ContainsFunc(of, func(x *IterationLoad) bool { return x == nil || of[0] == nil || *x != *of[0] })
		if same && !of[0].Over {
			continue
		}
		row := LoadOf{Team: key.team, Key: key.key, Name: key.key, Of: of}
		for i := len(c.of) - 1; i >= 0; i-- {
			if place, is := c.of[i].Plan.Slot(key.team, key.key); is {
				row.Name = cmp.Or(c.of[i].Plan.Teams[place.Team].Iterations[place.Slot].Name, key.key)
			}
		}
		rows = append(rows, row)
	}
	return rows
}

func (c *comparer) needs() []NeedOf {
	type pair struct{ item, needs string }
	var order []pair
	found := map[pair][]needs.Status{}
	for i, side := range c.of {
		for _, f := range side.Facts.Needs {
			key := pair{f.Item, f.Needs}
			if found[key] == nil {
				order = append(order, key)
				found[key] = make([]needs.Status, len(c.of))
			}
			found[key][i] = f.Status
		}
	}
	rows := []NeedOf{}
	for _, key := range order {
		broken := 0
		for _, status := range found[key] {
			if status == needs.StatusBroken {
				broken++
			}
		}
		if broken > 0 && broken < len(c.of) {
			rows = append(rows, NeedOf{key.item, key.needs, found[key]})
		}
	}
	return rows
}

// valued are the fields that are held against each other by their values: sizes, dates, and what makes capacity.
var valued = map[program.Kind][]string{
	program.KindItem: {"size", "rough", "due", "notBefore"}, program.KindRelease: {"start", "due"}, program.KindMilestone: {"date"},
	program.KindTeam: {"velocity", "focus", "fillTo", "members"}, program.KindIteration: {"start", "end", "capacity"},
	program.KindPerson: {"daysOff", "hoursPerDay", "openSeat"}, program.KindProgram: {"holidays", "fillTo"},
}

func (c *comparer) values() []ValueOf {
	type at struct {
		program.Ref
		field string
	}
	first := c.of[0].Plan.Program
	var order []at
	seen := map[at]bool{}
	for _, side := range c.of[1:] {
		for _, change := range program.Between(first, side.Plan.Program) {
			key := at{change.Ref, change.Field}
			if change.Op == program.Set && slices.Contains(valued[change.Kind], change.Field) && !seen[key] {
				seen[key] = true
				order = append(order, key)
			}
		}
	}
	rows := []ValueOf{}
	for _, key := range order {
		row := ValueOf{Ref: key.Ref, Field: key.field, Name: first.Called(key.Ref)}
		for _, side := range c.of {
			row.Of = append(row.Of, program.FieldIn(side.Plan.Program, key.Ref, key.field))
		}
		rows = append(rows, row)
	}
	return rows
}

func (c *comparer) items() []ElsewhereOf {
	rows := []ElsewhereOf{}
	for _, key := range keys(c.of, func(p *plan.Plan) []program.Item { return p.Items }, func(x *program.Item) string { return x.Key }) {
		row := ElsewhereOf{Key: key, Of: make([]Stands, len(c.of))}
		elsewhere := false
		for i := range c.of {
			at, is := c.at[i][key]
			if !is {
				row.Of[i] = Stands{Stand: Absent}
			} else {
				x := &c.of[i].Plan.Items[at]
				if x.Kind.IsGroup() || !c.trees[i].IsLeaf(at) {
					continue
				}
				if row.Title == "" {
					row.Title, row.Team, row.Release = x.Title, x.Team, c.trees[i].Release(at)
				}
				row.Of[i] = c.stands(i, at)
			}
			first := row.Of[0]
			elsewhere = elsewhere || row.Of[i] != first
		}
		if !elsewhere || row.Title == "" && row.Team == "" {
			continue
		}
		for i := range row.Of[1:] {
			if of := &row.Of[i+1]; of.Stand == Placed && row.Of[0].Stand == Placed {
				of.Later = new(int(of.End - row.Of[0].End))
			}
		}
		rows = append(rows, row)
	}
	return rows
}

func (c *comparer) stands(side, at int) Stands {
	p := c.of[side].Plan
	x := &p.Items[at]
	place, placed := p.Place(at)
	switch {
	case x.KeptOut:
		return Stands{Stand: KeptOut}
	case !placed:
		return Stands{Stand: Unplaced}
	}
	it := p.Teams[place.Team].Iterations[place.Slot]
	return Stands{Stand: Placed, Team: x.Team, Iteration: it.Key, Name: cmp.Or(it.Name, it.Key), End: it.End}
}
