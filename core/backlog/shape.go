package backlog

import (
	"fmt"
	"slices"
	"strings"

	"jantrel/core/plan"
	"jantrel/core/program"
)

// SplitPart is what an item is split into. The first part is the item itself, with its
// key and its history.
type SplitPart struct {
	Title string   `json:"title"`
	Size  *float64 `json:"size,omitempty"` // in the team's unit; missing: not sized
	// Needs and Wanted say which parts the needs go with.
	Needs  bool `json:"needs"`  // needs what the item needs
	Wanted bool `json:"wanted"` // is needed by what needs the item
}

// NotOfParts are the fields of an item that a part which it is split into does not have from it, with why: a part is a
// copy of the item in all others.
var NotOfParts = map[string]string{
	"key":         "its own",
	"title":       "of the part",
	"size":        "of the part",
	"left":        "said of another size",
	"state":       "nobody has begun it",
	"step":        "nobody has begun it",
	"began":       "nobody has begun it",
	"doneOn":      "nobody has begun it",
	"blocked":     "what blocks the item may be why it is split",
	"rough":       "of the work before it was split",
	"roughPlaces": "of the work before it was split",
	"tasks":       "stay with the first part, or their hours count twice",
	"checks":      "stay with the first part, or each has to be met twice",
	"tests":       "were run on the item",
	"reported":    "names one item",
}

// partOf is a part that an item is split into, without what it does not have from it.
func partOf(item program.Item, part SplitPart) program.Item {
	twin := item
	twin.Key, twin.Title, twin.Size, twin.Left = "", part.Title, part.Size, nil
	twin.State, twin.Step, twin.Began, twin.DoneOn, twin.Blocked = program.Todo, "", 0, 0, ""
	twin.Rough, twin.RoughPlaces, twin.Tasks, twin.Checks, twin.Tests, twin.Reported = nil, nil, nil, nil, nil, ""
	twin.Tags, twin.Links, twin.Hinders = slices.Clone(item.Tags), slices.Clone(item.Links), slices.Clone(item.Hinders)
	return twin
}

// maxParts is into how many parts an item is split at once.
const maxParts = 50

// Split returns the changes that split an item into parts. The new ones stand below
// it and are copies of it but for [NotOfParts]; with chain each needs the one
// before it. Needs that no part takes stay with the first.
func Split(p *plan.Plan, key string, parts []SplitPart, chain bool) ([]program.Change, []string, error) {
	tree := p.Tree()
	i, ok := tree.Index[key]
	switch {
	case !ok:
		return nil, nil, fmt.Errorf("there is no item %q", key)
	case !tree.IsLeaf(i):
		return nil, nil, fmt.Errorf("%s groups other items; split one of these", key)
	case len(parts) < 2:
		return nil, nil, fmt.Errorf("an item is split into two parts or more")
	case len(parts) > maxParts:
		return nil, nil, fmt.Errorf("an item is split into %d parts at most; make a feature of it first", maxParts)
	case p.Items[i].State == program.Done:
		return nil, nil, fmt.Errorf("%s is done; what is done cannot be split", key)
	}
	item := p.Items[i]
	for n, part := range parts {
		if strings.TrimSpace(part.Title) == "" {
			return nil, nil, fmt.Errorf("part %d has no title", n+1)
		}
	}
	a := newAdder(p)
	var changes []program.Change
	if parts[0].Title != item.Title {
		changes = append(changes, set(key, "title", parts[0].Title))
	}
	if !sameSize(parts[0].Size, item.Size) {
		changes = append(changes, set(key, "size", parts[0].Size))
		if item.Left != nil { // said of another size
			changes = append(changes, set(key, "left", nil))
		}
	}
	keys := []string{key}
	for n, part := range parts[1:] {
		keys = append(keys, a.add(partOf(item, part), i+1+n))
	}
	a.shareNeeds(p, key, keys, parts)
	if chain {
		for n := range keys[1:] {
			a.need(program.Need{Item: keys[n+1], Needs: keys[n]})
		}
	}
	return append(changes, a.changes...), keys, nil
}

func sameSize(a, b *float64) bool { return a == b || a != nil && b != nil && *a == *b }

// shareNeeds gives the needs of an item to the parts that take them.
func (a *adder) shareNeeds(p *plan.Plan, key string, keys []string, parts []SplitPart) {
	anyNeeds := slices.ContainsFunc(parts, func(x SplitPart) bool { return x.Needs })
	anyWanted := slices.ContainsFunc(parts, func(x SplitPart) bool { return x.Wanted })
	for _, n := range p.Needs {
		takes, any := func(x SplitPart) bool { return x.Needs }, anyNeeds
		put := func(n program.Need, key string) program.Need { n.Item = key; return n }
		switch key {
		case n.Item:
		case n.Needs:
			takes, any = func(x SplitPart) bool { return x.Wanted }, anyWanted
			put = func(n program.Need, key string) program.Need { n.Needs = key; return n }
		default:
			continue
		}
		if any && !takes(parts[0]) {
			a.changes = append(a.changes, program.Change{Op: program.Remove, Ref: program.Ref{Kind: program.KindNeed, In: n.Item, Key: n.Needs}})
		}
		for j, part := range parts[1:] {
			if takes(part) {
				a.need(put(n, keys[j+1]))
			}
		}
	}
}

// adder collects the changes that add items.
type adder struct {
	keys    *Keys
	changes []program.Change
}

func newAdder(p *plan.Plan) *adder { return &adder{keys: NewKeys(p)} }

// add adds an item at a place, or at the end for one below 0, with a key of its own
// where it has none, and returns the key.
func (a *adder) add(item program.Item, at int) string {
	if item.Key == "" {
		item.Key = a.keys.Next(item.Kind, item.Team)
	}
	change := program.AddOf(itemRef(item.Key), item)
	if at >= 0 {
		change.At = &at
	}
	a.changes = append(a.changes, change)
	return item.Key
}

func (a *adder) need(n program.Need) {
	a.changes = append(a.changes, program.AddOf(program.Ref{Kind: program.KindNeed, In: n.Item, Key: n.Needs}, n))
}

// BreakDown returns the changes that break an item down into the parts of a
// pattern, below it, with the needs between them. Parts without a team take the
// item's; an item that had a team, a size or a place hands them on.
func BreakDown(p *plan.Plan, key, pattern string) ([]program.Change, []string, error) {
	tree := p.Tree()
	i, ok := tree.Index[key]
	at := slices.IndexFunc(p.Patterns, func(x program.Pattern) bool { return x.Key == pattern })
	switch {
	case !ok:
		return nil, nil, fmt.Errorf("there is no item %q", key)
	case at < 0:
		return nil, nil, fmt.Errorf("there is no pattern %q", pattern)
	case len(p.Patterns[at].Parts) == 0:
		return nil, nil, fmt.Errorf("the pattern %s has no parts", p.Patterns[at].Name)
	case p.Items[i].State == program.Done:
		return nil, nil, fmt.Errorf("%s is done; what is done cannot be broken down", key)
	}
	parent := p.Items[i]
	a := newAdder(p)
	if !parent.Kind.IsGroup() {
		a.changes = append(a.changes, set(key, "kind", program.Feature))
	}
	if parent.Iteration != "" {
		a.changes = append(a.changes, set(key, "iteration", nil))
	}
	if parent.Size != nil {
		a.changes = append(a.changes, set(key, "size", nil))
	}
	if parent.Left != nil {
		a.changes = append(a.changes, set(key, "left", nil))
	}
	// Below what the item has already.
	place := i + 1
	withBelow(tree, i, func(j int) { place = max(place, j+1) })
	var keys []string
	for n, part := range p.Patterns[at].Parts {
		item := program.Item{Title: strings.ReplaceAll(part.Title, "{title}", parent.Title), Kind: part.Kind, Parent: key, Team: part.Team, Role: part.Role,
			Size: part.Size, State: program.Todo, Tags: slices.Clone(part.Tags)}
		if item.Team == "" {
			item.Team = parent.Team
		}
		keys = append(keys, a.add(item, place+n))
	}
	for n, part := range p.Patterns[at].Parts {
		for _, before := range part.Needs {
			a.need(program.Need{Item: keys[n], Needs: keys[before], Agreement: program.Agreed})
		}
	}
	return a.changes, keys, nil
}

// RepeatItems returns the changes that add the items that every iteration repeats,
// placed in the iterations of their teams that are not closed, end on or after
// today and start up to a day. An iteration that has one of the same title has it
// already.
func RepeatItems(p *plan.Plan, today, until program.Date, repeats []string) ([]program.Change, []string, error) {
	return repeatIn(p, today, repeats, func(_ string, it *program.Iteration) bool { return it.Start <= until })
}

// RepeatInNew returns the changes that add the items that repeat by themselves to iterations which were just added: p has
// them. What somebody takes out of one later stays out.
func RepeatInNew(p *plan.Plan, today program.Date, added []program.Change) ([]program.Change, error) {
	type slot struct{ team, iteration string }
	fresh := map[slot]bool{}
	for i := range added {
		if c := &added[i]; c.Op == program.Add && c.Kind == program.KindIteration {
			fresh[slot{c.In, c.Key}] = true
		}
	}
	var repeats []string
	for i := range p.Repeats {
		if p.Repeats[i].Each {
			repeats = append(repeats, p.Repeats[i].Key)
		}
	}
	changes, _, err := repeatIn(p, today, repeats, func(team string, it *program.Iteration) bool { return fresh[slot{team, it.Key}] })
	return changes, err
}

// repeatIn adds repeated items to the iterations that are wanted and take items.
func repeatIn(p *plan.Plan, today program.Date, repeats []string, wanted func(team string, it *program.Iteration) bool) ([]program.Change, []string, error) {
	a := newAdder(p)
	type slot struct{ team, iteration, title string }
	have := map[slot]bool{}
	for i := range p.Items {
		item := &p.Items[i]
		have[slot{item.Team, item.Iteration, item.Title}] = true
	}
	var added []string
	for _, key := range repeats {
		at := slices.IndexFunc(p.Repeats, func(r program.Repeat) bool { return r.Key == key })
		if at < 0 {
			return nil, nil, fmt.Errorf("there is no repeated item %q", key)
		}
		r := p.Repeats[at]
		for _, t := range p.Teams {
			if len(r.Teams) > 0 && !slices.Contains(r.Teams, t.Key) {
				continue
			}
			for n := range t.Iterations {
				it := &t.Iterations[n]
				title := strings.ReplaceAll(r.Title, "{iteration}", it.Label())
				if !it.Takes(today) || !wanted(t.Key, it) || have[slot{t.Key, it.Key, title}] {
					continue
				}
				added = append(added, a.add(program.Item{Title: title, Kind: r.Kind, Parent: r.Parent, Team: t.Key, Size: r.Size, State: program.Todo,
					Iteration: it.Key, Role: r.Role, Tags: slices.Clone(r.Tags)}, -1))
			}
		}
	}
	return a.changes, added, nil
}
