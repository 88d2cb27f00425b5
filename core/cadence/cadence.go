// Package cadence makes and changes iterations: it keeps as many ahead as a
// cadence says, starts, closes, resizes, adds and removes single ones, and moves
// teams from one cadence to another.
//
// Nothing here edits a program. Every function returns the changes to make, for
// somebody to look at and apply. An iteration that has started, by its state or
// because its first day has come, keeps its dates and name.
package cadence

import (
	"cmp"
	"fmt"
	"slices"

	"jantrel/core/calendar"
	"jantrel/core/program"
)

// Started reports whether an iteration may no longer be given other dates.
func Started(it *program.Iteration, today program.Date) bool {
	return it.State == program.Open || it.State == program.Closed || it.Start <= today
}

// maxGap is how many days after a team's last iteration more are made by themselves. Where a
// program was left alone for longer, or is looked at on a day far ahead, somebody has to say
// how it goes on: thousands of iterations would else appear for good.
const maxGap = 400

// Keep returns the changes that give every team with a cadence as many
// iterations that have not started as its cadence keeps ahead. A new iteration
// starts the day after the last and takes the cadence's length; a team's first
// is the one of the cadence that holds today, or the first where it starts later. A team
// whose last iteration ended over a year ago gets none, see Resume.
func Keep(p program.Program, today program.Date) []program.Change {
	return keep(p, today, func(t *program.Team) bool { return !leftAlone(t, today) })
}

// maxResumed is how many iterations of a team are made at once to catch up.
const maxResumed = 600

// Stalled lists the teams whose cadence keeps iterations ahead and whose last one ended so
// long ago that none are made by themselves.
func Stalled(p program.Program, today program.Date) []string {
	stalled := []string{}
	for i := range p.Teams {
		if t := &p.Teams[i]; keptAhead(p, t) != nil && leftAlone(t, today) {
			stalled = append(stalled, t.Key)
		}
	}
	return stalled
}

// keptAhead returns the cadence that keeps iterations of a team ahead; nil where none does.
func keptAhead(p program.Program, t *program.Team) *program.Cadence {
	c := cadenceOf(p, t.Cadence)
	if c == nil || c.Ahead == 0 || c.LengthDays < 1 {
		return nil
	}
	return c
}

// leftAlone reports whether a team's last iteration ended too long ago to go on by itself.
func leftAlone(t *program.Team, today program.Date) bool {
	last := lastOf(t)
	return last != nil && int(today-last.End) > maxGap
}

// Resume returns the changes that give stalled teams, of those named, all iterations from
// their last one until as many lie ahead as their cadences keep. It is refused where that
// would be very many: the day that plans are seen on is then wrong, or the team better begun
// anew.
func Resume(p program.Program, today program.Date, teams []string) ([]program.Change, error) {
	resumed := func(t *program.Team) bool { return slices.Contains(teams, t.Key) && leftAlone(t, today) }
	for i := range p.Teams {
		t := &p.Teams[i]
		c := keptAhead(p, t)
		if c == nil || !resumed(t) {
			continue
		}
		last := lastOf(t)
		if n := int(today-last.End)/c.LengthDays + c.Ahead; n > maxResumed {
			return nil, fmt.Errorf("the last iteration of %s ended on %s, and until today, %s, that would be %d more; at most %d are made at once. Is the day right?", t.Name, last.End, today, n, maxResumed)
		}
	}
	return keep(p, today, resumed), nil
}

// keep extends the teams that are wanted.
func keep(p program.Program, today program.Date, wanted func(*program.Team) bool) []program.Change {
	var changes []program.Change
	names := newNamer(p)
	for i := range p.Teams {
		before := &p.Teams[i]
		c := keptAhead(p, before)
		if c == nil || !wanted(before) {
			continue
		}
		after := *before
		after.Iterations = slices.Clone(before.Iterations)
		extend(&after, c, today, names)
		changes = append(changes, diff(before.Key, before.Iterations, after.Iterations)...)
	}
	return changes
}

// extend adds iterations to t until as many lie ahead as c keeps.
func extend(t *program.Team, c *program.Cadence, today program.Date, names *namer) {
	ahead := count(t, func(it *program.Iteration) bool { return !Started(it, today) })
	for ahead < c.Ahead {
		span := calendar.Span{Start: c.Start, End: c.Start.Add(c.LengthDays - 1)}
		if last := lastOf(t); last != nil {
			span = calendar.NextIteration(last.Span(), c.LengthDays)
		} else if c.Start < today {
			gone := int(today-c.Start) / c.LengthDays
			span.Start = c.Start.Add(gone * c.LengthDays)
			span.End = span.Start.Add(c.LengthDays - 1)
		}
		it := program.Iteration{Start: span.Start, End: span.End, State: program.Planned}
		number := nextNumber(t)
		it.Key = fmt.Sprintf("%s%d", keyPrefix(t), number)
		it.Name = names.name(c, t, it, number)
		t.Iterations = append(t.Iterations, it)
		if !Started(&it, today) {
			ahead++
		}
	}
}

// lastOf returns the iteration that ends last; nil where there is none.
func lastOf(t *program.Team) *program.Iteration {
	var last *program.Iteration
	for i := range t.Iterations {
		if last == nil || t.Iterations[i].End > last.End {
			last = &t.Iterations[i]
		}
	}
	return last
}

func cadenceOf(p program.Program, key string) *program.Cadence {
	for i := range p.Cadences {
		if p.Cadences[i].Key == key {
			return &p.Cadences[i]
		}
	}
	return nil
}

// Reshape returns the changes that give a cadence new values, or add it, and
// bring the iterations of its teams that have not started in line: their length
// and, where the pattern changed, their names. One that was given another length
// by hand keeps it. A new start date moves only teams of which nothing has started.
// An agreed velocity is for the cadence's length: it is changed with it, so that a team
// goes on as fast as before and what has started carries what it carried.
func Reshape(p program.Program, today program.Date, now program.Cadence) ([]program.Change, error) {
	if err := CheckNaming(now.Naming); err != nil {
		return nil, err
	}
	before := cadenceOf(p, now.Key)
	if before == nil {
		return []program.Change{add(program.KindCadence, "", now.Key, now)}, nil
	}
	if now.LengthDays < 1 || now.Start.IsZero() {
		return nil, fmt.Errorf("a cadence needs a start date and a length of at least a day")
	}
	changes := setFields(program.KindCadence, "", now.Key, *before, now)
	next, err := program.After(p, changes)
	if err != nil {
		return nil, err
	}
	names := newNamer(without(p, now.Key, today))
	for i := range p.Teams {
		if p.Teams[i].Cadence != now.Key {
			continue
		}
		team := p.Teams[i]
		team.Iterations = relay(team, today, before, &now, names)
		extend(&team, cadenceOf(next, now.Key), today, names)
		changes = append(changes, diff(team.Key, p.Teams[i].Iterations, team.Iterations)...)
		changes = append(changes, rescale(&team, before.LengthDays, now.LengthDays)...)
	}
	return changes, nil
}

// rescale gives a team the agreed velocity that is the same a day in iterations of another
// length.
func rescale(t *program.Team, before, now int) []program.Change {
	if t.Velocity == nil || before == now || before < 1 {
		return nil
	}
	return []program.Change{set(program.KindTeam, "", t.Key, "velocity", *t.Velocity*float64(now)/float64(before))}
}

// without returns p less the iterations of a cadence that have not started: their
// names are free again.
func without(p program.Program, cadence string, today program.Date) program.Program {
	p.Teams = slices.Clone(p.Teams)
	for i := range p.Teams {
		if p.Teams[i].Cadence == cadence {
			p.Teams[i].Iterations = slices.DeleteFunc(slices.Clone(p.Teams[i].Iterations), func(it program.Iteration) bool { return !Started(&it, today) })
		}
	}
	return p
}

// inOrder returns a copy in order of dates.
func inOrder(list []program.Iteration) []program.Iteration {
	list = slices.Clone(list)
	slices.SortStableFunc(list, func(a, b program.Iteration) int { return cmp.Compare(a.Start, b.Start) })
	return list
}

// relay lays a team's iterations that have not started anew, one after another.
func relay(t program.Team, today program.Date, before, now *program.Cadence, names *namer) []program.Iteration {
	list := inOrder(t.Iterations)
	first := slices.IndexFunc(list, func(it program.Iteration) bool { return !Started(&it, today) })
	if first < 0 {
		return list
	}
	next := list[first].Start
	if first == 0 && before.Start != now.Start {
		next = now.Start
	}
	done := program.Team{Key: t.Key}
	for i := range list {
		it := &list[i]
		if !Started(it, today) {
			length := it.Span().Days()
			if length == before.LengthDays {
				length = now.LengthDays
			}
			it.Start, it.End = next, next.Add(length-1)
			next = it.End.Add(1)
			number := i + 1
			if n, ok := numberOf(&t, it.Key); ok {
				number = n
			}
			if before.Naming != now.Naming {
				it.Name = names.name(now, &done, *it, number)
			} else {
				names.taken[it.Label()] = true
			}
		}
		done.Iterations = append(done.Iterations, *it)
	}
	return list
}

func numberOf(t *program.Team, key string) (int, bool) {
	var n int
	_, err := fmt.Sscanf(key, keyPrefix(t)+"%d", &n)
	return n, err == nil
}

// Follow returns the changes that move a team to another cadence from a date on:
// its iterations that have not started and start on that date or later take the
// new length one after another. Its agreed velocity stays the same a day.
func Follow(p program.Program, today program.Date, team, cadence string, from program.Date) ([]program.Change, error) {
	t, now := teamOf(p, team), cadenceOf(p, cadence)
	if t == nil {
		return nil, fmt.Errorf("there is no team %q", team)
	}
	if now == nil {
		return nil, fmt.Errorf("there is no cadence %q", cadence)
	}
	after := *t
	after.Cadence = cadence
	after.Iterations = inOrder(t.Iterations)
	day := max(today, from.Add(-1)) // what starts by then stays
	first := true
	var next program.Date
	for i := range after.Iterations {
		it := &after.Iterations[i]
		if Started(it, day) {
			continue
		}
		if first {
			next, first = it.Start, false
		}
		it.Start, it.End = next, next.Add(now.LengthDays-1)
		next = it.End.Add(1)
	}
	extend(&after, now, today, newNamer(p))
	changes := []program.Change{}
	if t.Cadence != cadence {
		changes = append(changes, set(program.KindTeam, "", team, "cadence", cadence))
		if before := cadenceOf(p, t.Cadence); before != nil {
			changes = append(changes, rescale(t, before.LengthDays, now.LengthDays)...)
		}
	}
	return append(changes, diff(team, t.Iterations, after.Iterations)...), nil
}

func teamOf(p program.Program, key string) *program.Team {
	for i := range p.Teams {
		if p.Teams[i].Key == key {
			return &p.Teams[i]
		}
	}
	return nil
}

// diff returns the changes that make one list of iterations of another: those
// that are gone are removed, then dates and names set, then new ones added.
func diff(team string, before, after []program.Iteration) []program.Change {
	var changes []program.Change
	index := make(map[string]int, len(before))
	for i := range before {
		index[before[i].Key] = i
	}
	stays := make(map[string]bool, len(after))
	for i := range after {
		stays[after[i].Key] = true
	}
	for i := range before {
		if key := before[i].Key; !stays[key] {
			changes = append(changes, program.Change{Op: program.Remove, Ref: program.Ref{Kind: program.KindIteration, In: team, Key: key}})
		}
	}
	for i := range after {
		it := after[i]
		j, known := index[it.Key]
		if !known {
			c := add(program.KindIteration, team, it.Key, it)
			at := i
			c.At = &at
			changes = append(changes, c)
			continue
		}
		was := before[j]
		if was.Name != it.Name {
			changes = append(changes, set(program.KindIteration, team, it.Key, "name", it.Name))
		}
		if was.Start != it.Start {
			changes = append(changes, set(program.KindIteration, team, it.Key, "start", it.Start))
		}
		if was.End != it.End {
			changes = append(changes, set(program.KindIteration, team, it.Key, "end", it.End))
		}
	}
	return changes
}

func set(kind program.Kind, in, key, field string, value any) program.Change {
	return program.SetTo(program.Ref{Kind: kind, In: in, Key: key}, field, value)
}

func add(kind program.Kind, in, key string, thing any) program.Change {
	return program.AddOf(program.Ref{Kind: kind, In: in, Key: key}, thing)
}

// setFields returns a change for each field in which two cadences differ.
func setFields(kind program.Kind, in, key string, before, after program.Cadence) []program.Change {
	var changes []program.Change
	field := func(name string, differs bool, value any) {
		if differs {
			changes = append(changes, set(kind, in, key, name, value))
		}
	}
	field("name", before.Name != after.Name, after.Name)
	field("start", before.Start != after.Start, after.Start)
	field("lengthDays", before.LengthDays != after.LengthDays, after.LengthDays)
	field("ahead", before.Ahead != after.Ahead, after.Ahead)
	field("naming", before.Naming != after.Naming, after.Naming)
	field("carryOver", before.CarryOver != after.CarryOver, after.CarryOver)
	return changes
}
