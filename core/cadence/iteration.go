package cadence

import (
	"fmt"
	"slices"

	"jantrel/core/plan"
	"jantrel/core/program"
)

// find returns a team and the position of one of its iterations.
func find(p program.Program, team, iteration string) (*program.Team, int, error) {
	t := teamOf(p, team)
	if t == nil {
		return nil, 0, fmt.Errorf("there is no team %q", team)
	}
	i := slices.IndexFunc(t.Iterations, func(it program.Iteration) bool { return it.Key == iteration })
	if i < 0 {
		return nil, 0, fmt.Errorf("%s has no iteration %q", t.Name, iteration)
	}
	return t, i, nil
}

// work is what is placed in an iteration.
type work struct {
	size, done       float64
	items, doneItems int
	unfinished       []string // keys of the items, in rank order
}

func workIn(p program.Program, team, iteration string) work {
	var w work
	resolved := plan.Of(p)
	tree := resolved.Tree()
	for i := range p.Items {
		item := &p.Items[i]
		if item.Team != team || item.Iteration != iteration || !tree.IsLeaf(i) || item.KeptOut {
			continue
		}
		if _, placed := resolved.Place(i); !placed {
			continue
		}
		size := 0.0
		if item.Size != nil {
			size = *item.Size
		}
		w.size += size
		w.items++
		if item.State == program.Done {
			w.done += size
			w.doneItems++
		} else {
			w.unfinished = append(w.unfinished, item.Key)
		}
	}
	return w
}

// Start returns the changes that open an iteration: what is placed in it is what
// the team commits to.
func Start(p program.Program, team, iteration string) ([]program.Change, error) {
	t, i, err := find(p, team, iteration)
	if err != nil {
		return nil, err
	}
	it := t.Iterations[i]
	if it.State == program.Open || it.State == program.Closed {
		return nil, fmt.Errorf("%s is %s already", it.Label(), it.State)
	}
	for _, other := range t.Iterations {
		if other.State == program.Open {
			return nil, fmt.Errorf("%s is still open; close it first", other.Label())
		}
	}
	w := workIn(p, team, iteration)
	return []program.Change{
		set(program.KindIteration, team, iteration, "state", program.Open),
		set(program.KindIteration, team, iteration, "committed", w.size),
		set(program.KindIteration, team, iteration, "committedItems", w.items),
	}, nil
}

// Resize returns the changes that give an iteration another last day. With along
// all later ones move by as many days and keep their lengths; else the next one
// gives or takes the days.
func Resize(p program.Program, today program.Date, team, iteration string, end program.Date, along bool) ([]program.Change, error) {
	t, i, err := find(p, team, iteration)
	if err != nil {
		return nil, err
	}
	it := t.Iterations[i]
	switch {
	case !it.Takes(today):
		return nil, fmt.Errorf("%s is over; its dates stay as they were", it.Label())
	case end < it.Start:
		return nil, fmt.Errorf("%s starts %s; it cannot end before that", it.Label(), it.Start)
	case end < today:
		return nil, fmt.Errorf("%s cannot end before today", it.Label())
	}
	after := slices.Clone(t.Iterations)
	shift := int(end - it.End)
	for j := range after {
		later := &after[j]
		if later.Start <= it.End || j == i {
			continue
		}
		if Started(later, today) {
			return nil, fmt.Errorf("%s has started already, so %s before it keeps its last day", later.Label(), it.Label())
		}
		switch {
		case along:
			later.Start, later.End = later.Start.Add(shift), later.End.Add(shift)
		case later.Start == it.End.Add(1):
			later.Start = end.Add(1)
			if later.Start > later.End {
				return nil, fmt.Errorf("that would leave no day of %s; remove it, or move the later ones along", later.Label())
			}
		}
	}
	after[i].End = end
	return diff(team, t.Iterations, after), nil
}

// Insert returns the changes that put a new iteration of so many days after
// another; the later ones move along.
func Insert(p program.Program, today program.Date, team, after, name string, days int) ([]program.Change, error) {
	t, i, err := find(p, team, after)
	if err != nil {
		return nil, err
	}
	if days < 1 || days > 366 {
		return nil, fmt.Errorf("an iteration lasts from 1 to 366 days, not %d", days)
	}
	list := slices.Clone(t.Iterations)
	start := list[i].End.Add(1)
	for j := range list {
		if later := &list[j]; later.Start >= start {
			if Started(later, today) {
				return nil, fmt.Errorf("%s has started already, so nothing can come before it", later.Label())
			}
			later.Start, later.End = later.Start.Add(days), later.End.Add(days)
		}
	}
	number := nextNumber(t)
	it := program.Iteration{Key: fmt.Sprintf("%s%d", keyPrefix(t), number), Name: name, Start: start, End: start.Add(days - 1), State: program.Planned}
	if name == "" {
		c := cadenceOf(p, t.Cadence)
		if c == nil {
			c = &program.Cadence{}
		}
		it.Name = newNamer(p).name(c, t, it, number)
	}
	return diff(team, t.Iterations, slices.Insert(list, i+1, it)), nil
}

// Remove returns the changes that take an iteration out; the later ones move up
// and what was placed in it is unplaced.
func Remove(p program.Program, today program.Date, team, iteration string) ([]program.Change, error) {
	t, i, err := find(p, team, iteration)
	if err != nil {
		return nil, err
	}
	it := t.Iterations[i]
	if Started(&it, today) {
		return nil, fmt.Errorf("%s has started; only what has not can be removed", it.Label())
	}
	var changes []program.Change
	for _, item := range p.Items {
		if item.Team == team && item.Iteration == iteration {
			changes = append(changes, set(program.KindItem, "", item.Key, "iteration", nil))
		}
	}
	list := slices.Delete(slices.Clone(t.Iterations), i, i+1)
	days := it.Span().Days()
	for j := range list {
		if list[j].Start > it.End {
			list[j].Start, list[j].End = list[j].Start.Add(-days), list[j].End.Add(-days)
		}
	}
	return append(changes, diff(team, t.Iterations, list)...), nil
}
