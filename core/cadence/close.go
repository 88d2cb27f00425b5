package cadence

import (
	"cmp"
	"fmt"
	"slices"

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
	Open      int    // items that are not done
	Into      string // the iteration that they go on in; empty: none
	IntoName  string
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
		changes, of, err := closeThese(p, today, t, ended)
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
// where its first day has come or comes tomorrow.
func Close(p program.Program, today program.Date, team, iteration string) ([]program.Change, []Ending, error) {
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
	return closeThese(p, today, t, []int{i})
}

// closeThese closes iterations of a team, oldest first: all before them are closed.
func closeThese(p program.Program, today program.Date, t *program.Team, list []int) ([]program.Change, []Ending, error) {
	var changes []program.Change
	var endings []Ending
	var unfinished []string
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
		endings = append(endings, Ending{Team: t.Key, Iteration: it.Key, Name: it.Label(), Committed: committed, Completed: w.done, Open: len(w.unfinished)})
		unfinished = append(unfinished, w.unfinished...)
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
	var to any // unplaced
	if c := cadenceOf(p, t.Cadence); next != nil && c != nil && c.CarryOver {
		to = next.Key
		for i := range endings {
			if endings[i].Open > 0 {
				endings[i].Into, endings[i].IntoName = next.Key, next.Label()
			}
		}
	}
	for _, key := range unfinished {
		changes = append(changes, set(program.KindItem, "", key, "iteration", to))
	}
	if next == nil || next.State == program.Open || next.Start > today.Add(1) {
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
