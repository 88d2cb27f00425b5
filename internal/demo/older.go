package demo

import (
	"fmt"
	"slices"
	"strings"

	"jantrel/core/program"
)

// older is an item of the work that the teams did before the program and beside it: what their closed iterations
// completed, and beacon.txt does not tell of.
type older struct {
	key   string
	title string
	kind  program.ItemKind
	size  float64
	in    int  // the iteration that completed it, counted from the first
	from  int  // the iteration for which it was planned: that, or the one before, from which it was carried over
	added bool // once the iteration was under way
}

// isOlder tells them by their keys: all teams kept one list then.
func isOlder(key string) bool { return strings.HasPrefix(key, "BC-") }

// olderKey is the key of the n-th of a team: a hundred are kept free for each.
func olderKey(t, n int) string { return fmt.Sprintf("BC-%d", 100*(t+1)+n) }

// olderThings is what the teams look after.
var olderThings = map[string][]string{
	"LC": {"lamp driver", "lens motor", "standby lamp", "fog sensor", "twilight switch", "radio modem", "charging relay", "status light"},
	"TW": {"barometer feed", "wave buoy", "wind vane", "tide gauge", "visibility sensor", "daily bulletin", "storm archive", "pressure chart"},
	"CD": {"harbour sheets", "depth table", "wreck list", "light list", "buoy symbols", "survey inbox", "chart index", "chart colours"},
	"MA": {"start page", "position fix", "fog warning", "harbour card", "settings page", "offline store", "feedback form", "map controls"},
	"KC": {"watch rota", "alarm panel", "lamp list", "shift report", "printer queue", "island map", "radio log", "supply list"},
	"FW": {"Varrin jetty", "Gannet ladder", "boathouse winch", "cable drums", "mast hoist", "battery shed", "north pier light", "workshop crane"},
}

// olderKinds are the kinds that they take turns in, with what is done.
var olderKinds = []struct {
	kind program.ItemKind
	does string
}{{program.Story, "Rework"}, {program.Upkeep, "Overhaul"}, {program.Story, "Extend"}, {program.Defect, "Repair"}, {program.Enabler, "Prepare"}}

// olderSizes are the sizes that they come in where nothing else is told of an iteration.
var olderSizes = []float64{5, 8, 3, 5}

// olderOf are the older items of a team, so that each of its iterations comes to what it committed to and what it
// completed: what it did not complete of the former is carried over into the next, and what it completed beyond that was
// added once it was under way.
func olderOf(p *program.Program, t int) (all []older) {
	team, past := &p.Teams[t], teamPlans[t]
	things := olderThings[team.Key]
	add := func(size float64, in, from int, added bool) {
		n := len(all)
		what := olderKinds[n%len(olderKinds)]
		all = append(all, older{olderKey(t, n), what.does + " the " + things[n%len(things)], what.kind, size, in, from, added})
	}
	carried, turn := 0.0, 0
	for i, completed := range past.completed {
		left := completed - carried
		if carried > 0 {
			add(carried, i, i-1, false)
		}
		for k := range p.Items {
			if item := &p.Items[k]; item.Iteration == team.Iterations[i].Key && item.Size != nil && !isOlder(item.Key) {
				left -= *item.Size
			}
		}
		if more := completed - past.committed[i]; more > 0 {
			add(more, i, i, true)
			left -= more
		}
		for left > 0 {
			size := min(left, olderSizes[turn%len(olderSizes)])
			add(size, i, i, false)
			left -= size
			turn++
		}
		carried = max(0, past.committed[i]-completed)
	}
	return all
}

// workBefore adds what the teams did before, and counts what their iterations came to.
func (d *demo) workBefore() {
	for t := range d.p.Teams {
		team := &d.p.Teams[t]
		var members []string
		for _, m := range team.Members {
			if i := slices.IndexFunc(d.p.People, func(p program.Person) bool { return p.Key == m.Person }); !d.p.People[i].OpenSeat {
				members = append(members, m.Person)
			}
		}
		all := olderOf(&d.p, t)
		for n, o := range all {
			it := &team.Iterations[o.in]
			of := slices.DeleteFunc(slices.Clone(all), func(x older) bool { return x.in != o.in })
			at := slices.IndexFunc(of, func(x older) bool { return x.key == o.key })
			switch added := slices.IndexFunc(of, func(x older) bool { return x.added }); { // that is done last
			case o.added:
				at = len(of) - 1
			case added >= 0 && added < at:
				at--
			}
			size := o.size
			done := workingDay(it.Start.Add(2 + (it.Span().Days()-3)*(at+1)/len(of)))
			d.p.Items = append(d.p.Items, program.Item{
				Key: o.key, Title: o.title, Kind: o.kind, Team: team.Key, Size: &size, Iteration: it.Key,
				State: program.Done, DoneOn: done, Assignee: members[n%len(members)],
			})
		}
		for i := range history {
			it, committed, completed := &team.Iterations[i], 0, 0
			for k := range d.p.Items {
				if item := &d.p.Items[k]; item.Iteration == it.Key {
					committed, completed = committed+1, completed+1
				}
			}
			for _, o := range all {
				if o.in == i && o.added {
					committed--
				}
				if o.from == i && o.in > i {
					committed++
				}
			}
			it.CommittedItems, it.CompletedItems = &committed, &completed
		}
	}
}

// olderSteps are how that came to be planned: for each iteration on the Friday before it, and some of it once it was
// under way.
func olderSteps(p *program.Program) (steps []step) {
	for t := range p.Teams {
		team := &p.Teams[t]
		lead := leadOf(p, team)
		planned := make([][]string, history)
		for _, o := range olderOf(p, t) {
			it := &team.Iterations[o.from]
			if o.added {
				steps = append(steps, step{day: it.Start.Add(1), hour: 9, minute: 30 + 4*t, by: lead, label: "Add " + o.key + " " + o.title, back: removals(itemRef(o.key))})
				continue
			}
			planned[o.from] = append(planned[o.from], o.key)
		}
		for i, keys := range planned {
			if len(keys) == 0 {
				continue
			}
			var refs []program.Ref
			for _, key := range keys {
				refs = append(refs, itemRef(key))
			}
			it := &team.Iterations[i]
			steps = append(steps, step{day: it.Start.Add(-3), hour: 14, minute: 7 * t, by: lead, label: "Plan " + it.Label() + ": " + strings.Join(keys, ", "), back: removals(refs...)})
		}
	}
	return steps
}

// carriedTo are the keys of what an iteration of a team left undone, by its position.
func carriedTo(p *program.Program, t, from int) (keys []string) {
	for _, o := range olderOf(p, t) {
		if o.from == from && o.in > from {
			keys = append(keys, o.key)
		}
	}
	return keys
}
