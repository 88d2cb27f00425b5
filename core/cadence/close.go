package cadence

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"jantrel/core/backlog"
	"jantrel/core/plan"
	"jantrel/core/program"
)

// Ending is an iteration that is closed: what is noted of it, and where what is not done goes
// on.
type Ending struct {
	Team      string
	Iteration string
	Name      string  // what people call it
	Committed float64 // in the team's unit
	Completed float64
	On        int    // items that are not done and go on
	Back      int    // items that are not done and lose their place
	Into      string // the iteration that they go on in; empty: none
	IntoName  string
}

// Closing is how an iteration is closed; left empty, as usual.
type Closing struct {
	Unfinished []Unfinished // where items that are not done go instead
	Next       Next         // whether the next iteration opens
}

// Next is when the iteration opens that follows one that is closed.
type Next string

// When it may open.
const (
	InTime Next = ""     // if its first day has come or comes tomorrow
	AtOnce Next = "open" // as the one before is closed, however early
	Waits  Next = "wait" // until somebody starts it
)

// Goes is where an item that is not done goes as its iteration is closed.
type Goes string

// Where it may go.
const (
	On      Goes = "on"    // into the next iteration
	Back    Goes = "back"  // to the backlog: it has no place then
	Divided Goes = "split" // what is done of it counts here, the rest goes on as an item of its own
)

// Unfinished says where an item that is not done goes.
type Unfinished struct {
	Item string  `json:"item"`
	Goes Goes    `json:"goes"`
	Done float64 `json:"done,omitempty"` // of one that is split: how much of its size is done
}

// EndedOf lists the keys of a team's iterations that are over and not closed, oldest first.
func EndedOf(t *program.Team, today program.Date) []string {
	var keys []string
	for _, i := range endedOf(t, today) {
		keys = append(keys, t.Iterations[i].Key)
	}
	return keys
}

// endedOf returns the positions of a team's iterations that are over and not closed, oldest first.
func endedOf(t *program.Team, today program.Date) []int {
	var ended []int
	for i := range t.Iterations {
		if it := &t.Iterations[i]; it.State != program.Closed && it.End < today {
			ended = append(ended, i)
		}
	}
	slices.SortFunc(ended, func(a, b int) int { return cmp.Compare(t.Iterations[a].Start, t.Iterations[b].Start) })
	return ended
}

// CloseEnded returns the changes that close all iterations of some teams that are over, and
// what is noted of each: as Close does one, but that nothing goes on in what is over too.
func CloseEnded(p program.Program, today program.Date, teams []string) ([]program.Change, []Ending, error) {
	var all []program.Change
	var endings []Ending
	for _, team := range teams {
		t := teamOf(p, team)
		if t == nil {
			return nil, nil, fmt.Errorf("there is no team %q", team)
		}
		ended := endedOf(t, today)
		if len(ended) == 0 {
			continue
		}
		changes, of, err := closeThese(p, today, t, ended, nil, InTime)
		if err != nil {
			return nil, nil, err
		}
		if p, err = program.After(p, changes); err != nil {
			return nil, nil, err
		}
		all, endings = append(all, changes...), append(endings, of...)
	}
	return all, endings, nil
}

// Close returns the changes that close an iteration, and what is noted of it: they note what
// it completed, carry unfinished items over into the next that is not over where the cadence
// says so, or else take them out of it, and keep new iterations ahead. The next one opens
// where its first day has come or comes tomorrow. how says what is to go otherwise.
func Close(p program.Program, today program.Date, team, iteration string, how Closing) ([]program.Change, []Ending, error) {
	t, i, err := find(p, team, iteration)
	if err != nil {
		return nil, nil, err
	}
	it := t.Iterations[i]
	switch {
	case it.State == program.Closed:
		return nil, nil, fmt.Errorf("%s is closed already", it.Label())
	case it.Start > today:
		return nil, nil, fmt.Errorf("%s starts %s; one that has not started cannot be closed", it.Label(), it.Start)
	}
	for _, earlier := range t.Iterations {
		if earlier.State != program.Closed && earlier.End < it.Start {
			return nil, nil, fmt.Errorf("%s, which ended earlier, is not closed; close it first", earlier.Label())
		}
	}
	w, goes := workIn(p, team, iteration), map[string]Goes{}
	var divided []program.Change
	for _, u := range how.Unfinished {
		if !slices.Contains(w.unfinished, u.Item) {
			return nil, nil, fmt.Errorf("%s is not one of the unfinished items of %s", u.Item, it.Label())
		}
		if _, twice := goes[u.Item]; twice {
			return nil, nil, fmt.Errorf("it is said twice where %s goes", u.Item)
		}
		goes[u.Item] = u.Goes
		switch u.Goes {
		case On, Back:
		case Divided:
			changes, rest, err := divide(p, today, u)
			if err != nil {
				return nil, nil, err
			}
			goes[rest] = On
			divided = append(divided, changes...)
			if p, err = program.After(p, changes); err != nil {
				return nil, nil, err
			}
		default:
			return nil, nil, fmt.Errorf("%s cannot go %q; say on, back or split", u.Item, u.Goes)
		}
	}
	changes, endings, err := closeThese(p, today, teamOf(p, team), []int{i}, goes, how.Next)
	return append(divided, changes...), endings, err
}

// divide splits an item at what is done of it: that is done, and stays. The rest is an item of its
// own with the tasks and checks that are not done, under way if the item was; what needs the item
// needs the rest. It returns the key of that.
func divide(p program.Program, today program.Date, u Unfinished) (changes []program.Change, rest string, err error) {
	resolved := plan.Of(p)
	item := &p.Items[resolved.Tree().Index[u.Item]]
	switch {
	case item.Size == nil:
		return nil, "", fmt.Errorf("%s has no size; give it one before it is split at what is done", u.Item)
	case u.Done <= 0 || u.Done >= *item.Size:
		return nil, "", fmt.Errorf("what is done of %s lies between 0 and its size of %g", u.Item, *item.Size)
	}
	left := math.Round((*item.Size-u.Done)*1e6) / 1e6
	changes, keys, err := backlog.Split(resolved, u.Item, []backlog.SplitPart{
		{Title: item.Title, Size: &u.Done, Needs: true}, {Title: item.Title, Size: &left, Needs: true, Wanted: true},
	}, false)
	if err != nil {
		return nil, "", err
	}
	rest = keys[1]
	of := func(key, field string, value any) {
		changes = append(changes, set(program.KindItem, "", key, field, value))
	}
	of(u.Item, "state", program.Done)
	of(u.Item, "doneOn", today)
	if item.Left != nil && !slices.ContainsFunc(changes, func(c program.Change) bool { return c.Key == u.Item && c.Field == "left" }) {
		of(u.Item, "left", nil)
	}
	if item.State.UnderWay() {
		of(rest, "state", program.Doing)
		if !item.Began.IsZero() {
			of(rest, "began", item.Began)
		}
	}
	if done, open := parted(item.Tasks, func(t program.Task) bool { return t.Done }); len(open) > 0 {
		of(u.Item, "tasks", done)
		of(rest, "tasks", open)
	}
	if done, open := parted(item.Checks, func(c program.Check) bool { return c.Done }); len(open) > 0 {
		of(u.Item, "checks", done)
		of(rest, "checks", open)
	}
	return changes, rest, nil
}

// parted parts a list into those that are done and those that are not.
func parted[T any](list []T, isDone func(T) bool) (done, open []T) {
	for _, x := range list {
		if isDone(x) {
			done = append(done, x)
		} else {
			open = append(open, x)
		}
	}
	return done, open
}

// Reopen returns the changes that open the last closed iteration of a team again: what was noted
// as completed is taken back, and one that has been opened since is only planned again. Items
// stay where they went.
func Reopen(p program.Program, team, iteration string) ([]program.Change, error) {
	t, i, err := find(p, team, iteration)
	if err != nil {
		return nil, err
	}
	it := &t.Iterations[i]
	if it.State != program.Closed {
		return nil, fmt.Errorf("%s is not closed", it.Label())
	}
	changes := []program.Change{
		set(program.KindIteration, team, iteration, "state", program.Open),
		set(program.KindIteration, team, iteration, "completed", nil),
		set(program.KindIteration, team, iteration, "completedItems", nil),
	}
	for k := range t.Iterations {
		other := &t.Iterations[k]
		switch {
		case other.State == program.Closed && other.Start > it.Start:
			return nil, fmt.Errorf("%s was closed after it; open that one first", other.Label())
		case other.State == program.Open:
			changes = append(changes,
				set(program.KindIteration, team, other.Key, "state", program.Planned),
				set(program.KindIteration, team, other.Key, "committed", nil),
				set(program.KindIteration, team, other.Key, "committedItems", nil))
		}
	}
	return changes, nil
}

// closeThese closes iterations of a team, oldest first: all before them are closed. goes says
// where unfinished items go of which it was said.
func closeThese(p program.Program, today program.Date, t *program.Team, list []int, goes map[string]Goes, opens Next) ([]program.Change, []Ending, error) {
	var changes []program.Change
	var endings []Ending
	var unfinished [][]string // of each
	for _, i := range list {
		it := &t.Iterations[i]
		w := workIn(p, t.Key, it.Key)
		changes = append(changes, set(program.KindIteration, t.Key, it.Key, "state", program.Closed))
		committed := w.size
		if it.Committed == nil {
			changes = append(changes, set(program.KindIteration, t.Key, it.Key, "committed", w.size))
		} else {
			committed = *it.Committed
		}
		if it.CommittedItems == nil {
			changes = append(changes, set(program.KindIteration, t.Key, it.Key, "committedItems", w.items))
		}
		changes = append(changes,
			set(program.KindIteration, t.Key, it.Key, "completed", w.done),
			set(program.KindIteration, t.Key, it.Key, "completedItems", w.doneItems))
		endings = append(endings, Ending{Team: t.Key, Iteration: it.Key, Name: it.Label(), Committed: committed, Completed: w.done})
		unfinished = append(unfinished, w.unfinished)
	}
	closed, err := program.After(p, changes)
	if err != nil {
		return nil, nil, err
	}
	kept := Keep(closed, today)
	changes = append(changes, kept...)
	after, err := program.After(closed, kept)
	if err != nil {
		return nil, nil, err
	}
	next := following(teamOf(after, t.Key), t.Iterations[list[len(list)-1]].End)
	for next != nil && next.End < today { // over too, and not closed here
		next = following(teamOf(after, t.Key), next.End)
	}
	usual := Back
	if c := cadenceOf(p, t.Cadence); next != nil && c != nil && c.CarryOver {
		usual = On
	}
	for i, keys := range unfinished {
		ending := &endings[i]
		for _, key := range keys {
			switch {
			case cmp.Or(goes[key], usual) == Back:
				ending.Back++
				changes = append(changes, set(program.KindItem, "", key, "iteration", nil))
			case next == nil:
				return nil, nil, fmt.Errorf("%s has no iteration after %s for %s to go on in", t.Name, ending.Name, key)
			default:
				ending.On++
				ending.Into, ending.IntoName = next.Key, next.Label()
				changes = append(changes, set(program.KindItem, "", key, "iteration", next.Key))
			}
		}
	}
	switch {
	case next == nil && opens == AtOnce:
		return nil, nil, fmt.Errorf("%s has no iteration after %s that could be opened", t.Name, endings[len(endings)-1].Name)
	case next == nil || next.State == program.Open || opens == Waits || opens == InTime && next.Start > today.Add(1):
		return changes, endings, nil
	}
	if after, err = program.After(p, changes); err != nil {
		return nil, nil, err
	}
	if slices.ContainsFunc(teamOf(after, t.Key).Iterations, func(it program.Iteration) bool { return it.State == program.Open }) {
		return changes, endings, nil // one that is over and not closed here
	}
	open, err := Start(after, t.Key, next.Key)
	if err != nil {
		return nil, nil, err
	}
	changes = append(changes, open...)
	if after, err = program.After(after, open); err != nil {
		return nil, nil, err
	}
	return append(changes, Keep(after, today)...), endings, nil // what has opened no longer lies ahead
}

// following returns the first iteration not closed that starts after a day.
func following(t *program.Team, day program.Date) *program.Iteration {
	var next *program.Iteration
	for i := range t.Iterations {
		it := &t.Iterations[i]
		if it.State != program.Closed && it.Start > day && (next == nil || it.Start < next.Start) {
			next = it
		}
	}
	return next
}
