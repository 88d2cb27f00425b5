package backlog

import (
	"slices"
	"strings"

	"jantrel/core/calendar"
	"jantrel/core/program"
)

// List is a view of the backlog: the items in it, in order, under heads.
type List struct {
	Rows     []string          `json:"rows"`              // keys of the items, in order
	Depths   []int             `json:"depths,omitempty"`  // of a tree: how deep each row stands
	Groups   []Group           `json:"groups,omitempty"`  // heads, in the order of the rows
	Rollups  map[string]Rollup `json:"rollups,omitempty"` // of a tree: what the items below each parent in it add up to, by its key
	Total    Rollup            `json:"total"`             // what the items of the list add up to
	Sentence string            `json:"sentence"`          // the filter in words
}

// Group is a head and the rows under it.
type Group struct {
	Value string `json:"value"` // key or word; empty for the rows without one
	Title string `json:"title"`
	From  int    `json:"from"` // position of its first row
	Rollup
}

// Rollup is what leaves add up to.
type Rollup struct {
	Items   int          `json:"items"` // leaves that are not kept out
	Done    int          `json:"done"`
	Unsized int          `json:"unsized,omitempty"` // to be done and without a size
	Sizes   []TeamSize   `json:"sizes"`             // by team, in the program's order: sizes of different teams are never added up
	Start   program.Date `json:"start,omitzero"`    // first day of the earliest iteration that one is placed in
	End     program.Date `json:"end,omitzero"`      // last day of the latest
	// Unplaced counts those to be done that are not placed: End does not speak for them.
	Unplaced int `json:"unplaced,omitempty"`
}

// TeamSize is a team's part of a sum.
type TeamSize struct {
	Team string       `json:"team"`
	Unit program.Unit `json:"unit"`
	Size float64      `json:"size"` // sizes in the team's unit, done ones too
	Done float64      `json:"done"` // sizes of those that are done
	// Rough is what its rough sizes come to beyond these items; it is not in Size.
	Rough float64 `json:"rough,omitempty"`
}

// Tree is the grouping of a view that shows items below their parents.
const Tree = "tree"

// List makes the list of a view, of what also has all the words. In a tree parents
// stand above what is below them, also those that the filter alone would not keep.
func (x *Index) List(v program.View, words string) (List, error) {
	keep, err := x.compile(v.Filter)
	if err != nil {
		return List{}, err
	}
	rows := x.find(keep, words)
	l := List{Rows: []string{}, Sentence: x.Sentence(v.Filter)}
	if v.Group != Tree {
		rows = slices.DeleteFunc(rows, func(i int) bool { return !x.tree.IsLeaf(i) && !FiltersKind(v.Filter) })
	}
	l.Total = x.rollup(rows)
	if err := x.sort(rows, v); err != nil {
		return List{}, err
	}
	switch v.Group {
	case "":
	case Tree:
		x.asTree(&l, rows)
		return l, nil
	default:
		if rows, err = x.group(&l, rows, v.Group); err != nil {
			return List{}, err
		}
	}
	for _, i := range rows {
		l.Rows = append(l.Rows, x.p.Items[i].Key)
	}
	return l, nil
}

// FiltersKind reports whether a filter asks for kinds: then groups are in a flat
// list too, if it keeps them.
func FiltersKind(f program.Filter) bool {
	return slices.ContainsFunc(f.Conditions, func(c program.Condition) bool { return c.Field == "kind" && c.Is == "is" })
}

// find returns the positions of what a test keeps and what has all the words.
func (x *Index) find(keep test, words string) []int {
	wanted := strings.Fields(strings.ToLower(words))
	rows := make([]int, 0, len(x.p.Items))
	for i := range x.p.Items {
		has := func(word string) bool { return strings.Contains(x.words()[i], word) }
		if !slices.ContainsFunc(wanted, func(word string) bool { return !has(word) }) && keep(i) {
			rows = append(rows, i)
		}
	}
	return rows
}

// sort orders rows by the view's field; rows with equal values stay in rank order,
// and those without a value come last either way.
func (x *Index) sort(rows []int, v program.View) error {
	if v.Sort == "" || v.Sort == "rank" && !v.Descending {
		return nil
	}
	field, ok := FieldOf(v.Sort)
	if !ok {
		return unknownField(v.Sort)
	}
	slices.SortStableFunc(rows, func(a, b int) int {
		c := field.compare(x, a, b)
		if v.Descending && field.empty(x, a) == field.empty(x, b) {
			return -c
		}
		return c
	})
	return nil
}

// group puts rows under heads, in the order of the field's values, and returns them
// in that order.
func (x *Index) group(l *List, rows []int, by string) ([]int, error) {
	field, ok := FieldOf(by)
	if !ok || field.number != nil {
		return nil, unknownField(by)
	}
	value := func(i int) string {
		values := field.values(x, i)
		if len(values) == 0 {
			return ""
		}
		if by == "iteration" { // keys of different teams may be equal
			return x.p.Items[i].Team + "\n" + values[0]
		}
		return values[0]
	}
	under := map[string][]int{}
	var heads []int // the first row of each
	for _, i := range rows {
		key := value(i)
		if under[key] == nil {
			heads = append(heads, i)
		}
		under[key] = append(under[key], i)
	}
	slices.SortStableFunc(heads, func(a, b int) int { return field.compare(x, a, b) })
	ordered := rows[:0:0]
	for _, head := range heads {
		key := value(head)
		g := Group{Value: key, Title: field.Value(x, head), From: len(ordered), Rollup: x.rollup(under[key])}
		if key == "" {
			g.Title = "No " + strings.ToLower(field.Title)
		}
		l.Groups = append(l.Groups, g)
		ordered = append(ordered, under[key]...)
	}
	return ordered, nil
}

// asTree puts rows below their parents, which are added where they are missing.
// Among brothers the order of rows decides, with that of the first below where a
// parent is not a row itself.
func (x *Index) asTree(l *List, rows []int) {
	inList := make([]bool, len(x.p.Items))
	children := map[int][]int{} // -1: the tops
	var place func(i int)
	place = func(i int) {
		if inList[i] {
			return
		}
		inList[i] = true
		parent := x.tree.Parent[i]
		if parent >= 0 {
			place(parent)
		}
		children[parent] = append(children[parent], i)
	}
	own := make([]bool, len(x.p.Items))
	for _, i := range rows {
		own[i] = true
		place(i)
	}
	l.Depths, l.Rollups = []int{}, map[string]Rollup{}
	var walk func(i, depth int) []int
	walk = func(i, depth int) []int {
		l.Rows, l.Depths = append(l.Rows, x.p.Items[i].Key), append(l.Depths, depth)
		var below []int
		if own[i] {
			below = append(below, i)
		}
		for _, child := range children[i] {
			below = append(below, walk(child, depth+1)...)
		}
		if len(children[i]) > 0 {
			l.Rollups[x.p.Items[i].Key] = x.rollup(below)
		}
		return below
	}
	for _, top := range children[-1] {
		walk(top, 0)
	}
}

// Rollups are what the leaves below each group add up to, by the group's key.
func (x *Index) Rollups() map[string]Rollup {
	all := map[string]Rollup{}
	for i := range x.p.Items {
		if !x.tree.IsLeaf(i) {
			var rows []int
			withBelow(x.tree, i, func(j int) { rows = append(rows, j) })
			all[x.p.Items[i].Key] = x.rollup(rows)
		}
	}
	return all
}

// rollup adds up leaves and rough sizes among rows.
func (x *Index) rollup(rows []int) Rollup {
	r := Rollup{Sizes: []TeamSize{}}
	sizes := map[string]*TeamSize{}
	of := func(team string) *TeamSize {
		if sizes[team] == nil {
			sizes[team] = &TeamSize{Team: team, Unit: x.units[team]}
		}
		return sizes[team]
	}
	for _, i := range rows {
		item := &x.p.Items[i]
		for _, rough := range x.rough()[i] {
			of(rough.Rough.Team).Rough += rough.Rest
			for _, place := range rough.Places {
				r.span(x.spanOf(place.Team, place.Iteration))
			}
		}
		if !x.tree.IsLeaf(i) || item.KeptOut {
			continue
		}
		r.Items++
		done := item.State == program.Done
		if done {
			r.Done++
		}
		if span, ok := x.span(i); ok {
			r.span(span)
		} else if !done {
			r.Unplaced++
		}
		if item.Size == nil {
			if !done {
				r.Unsized++
			}
			continue
		}
		sum := of(item.Team)
		sum.Size += *item.Size
		if done {
			sum.Done += *item.Size
		}
	}
	for _, t := range x.p.Teams {
		if sum := sizes[t.Key]; sum != nil {
			r.Sizes = append(r.Sizes, *sum)
		}
	}
	return r
}

// span takes in the days of something placed.
func (r *Rollup) span(of calendar.Span) {
	all := calendar.Span{Start: r.Start, End: r.End}.With(of)
	r.Start, r.End = all.Start, all.End
}
