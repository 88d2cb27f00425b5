package schedule_test

import (
	"fmt"
	"slices"
	"strings"

	"jantrel/core/capacity"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/schedule"
)

// judge checks a draft against the rules of the program document and counts its
// score again. It is written from the rules alone and shares no code with the
// scheduler; it is slow and does not care.
type judge struct {
	p      program.Program
	o      schedule.Options
	at     map[string]*program.Iteration // where each item stands in the draft
	faults []string
}

func judgeDraft(p program.Program, o schedule.Options, d schedule.Schedule) (faults []string, score schedule.Score) {
	j := &judge{p: p, o: o, at: map[string]*program.Iteration{}}
	listed := map[string]int{}
	for _, x := range d.Placements {
		listed[x.Item]++
		j.at[x.Item] = j.iteration(j.item(x.Item), x.Iteration)
	}
	for _, x := range d.Unplaced {
		listed[x.Item]++
	}
	for i := range p.Items {
		want := 0
		if j.scheduled(&p.Items[i]) {
			want = 1
		}
		if listed[p.Items[i].Key] != want {
			j.fault("%s is listed %d times, not %d", p.Items[i].Key, listed[p.Items[i].Key], want)
		}
	}
	j.placements()
	j.loads()
	j.needs()
	j.unplaced(d)
	return j.faults, j.score()
}

func (j *judge) fault(format string, args ...any) {
	j.faults = append(j.faults, fmt.Sprintf(format, args...))
}

func (j *judge) item(key string) *program.Item {
	i := slices.IndexFunc(j.p.Items, func(x program.Item) bool { return x.Key == key })
	return &j.p.Items[i]
}

func (j *judge) team(item *program.Item) *program.Team {
	for t := range j.p.Teams {
		if j.p.Teams[t].Key == item.Team {
			return &j.p.Teams[t]
		}
	}
	return nil
}

func (j *judge) iteration(item *program.Item, key string) *program.Iteration {
	if team := j.team(item); team != nil && key != "" {
		for i := range team.Iterations {
			if team.Iterations[i].Key == key {
				return &team.Iterations[i]
			}
		}
	}
	return nil
}

func (j *judge) hasChildren(key string) bool {
	return slices.ContainsFunc(j.p.Items, func(x program.Item) bool {
		return x.Parent == key || x.Key == key && len(x.Rough) > 0 && x.State != program.Done
	})
}

func (j *judge) scheduled(item *program.Item) bool {
	return !j.hasChildren(item.Key) && item.State != program.Done && !item.KeptOut
}

func (j *judge) below(key, ancestor string) bool {
	for key != "" {
		if key == ancestor {
			return true
		}
		key = j.item(key).Parent
	}
	return false
}

func (j *judge) leaves(key string) (leaves []*program.Item) {
	for i := range j.p.Items {
		if x := &j.p.Items[i]; !j.hasChildren(x.Key) && j.below(x.Key, key) {
			leaves = append(leaves, x)
		}
	}
	return leaves
}

func (j *judge) selected(item *program.Item) bool {
	return len(j.o.Items) == 0 || slices.ContainsFunc(j.o.Items, func(key string) bool { return j.below(item.Key, key) })
}

func (j *judge) fixed(item *program.Item) bool {
	it := j.iteration(item, item.Iteration)
	working := item.State == program.Doing || item.State == program.Review
	return it != nil && (item.Pinned || working && it.State != program.Closed || !j.selected(item))
}

// placements is rules 1, 4 and 5.
func (j *judge) placements() {
	for i := range j.p.Items {
		item := &j.p.Items[i]
		at := j.at[item.Key]
		if !j.scheduled(item) {
			continue
		}
		if j.fixed(item) {
			if at == nil || at.Key != item.Iteration {
				j.fault("%s is fixed and moved", item.Key)
			}
			continue
		}
		if at == nil {
			continue
		}
		if item.Size == nil {
			j.fault("%s is placed without a size", item.Key)
		}
		if at.State == program.Closed || at.End < j.o.Today {
			j.fault("%s stands in %s, which is over", item.Key, at.Key)
		}
		if at.Start < item.NotBefore {
			j.fault("%s starts before its date", item.Key)
		}
	}
}

// fillTo is the share of capacity to use: the option's, else the team's, else the
// program's.
func (j *judge) fillTo(t int) float64 {
	if j.o.FillTo > 0 {
		return j.o.FillTo
	}
	if own := j.p.Teams[t].FillTo; own != nil {
		return *own
	}
	return j.p.Settings.FillTo
}

// loads is rule 2.
func (j *judge) loads() {
	figures := capacity.Of(plan.Of(j.p))
	for t := range j.p.Teams {
		for s := range j.p.Teams[t].Iterations {
			it := &j.p.Teams[t].Iterations[s]
			limit := figures[t][s].Capacity * j.fillTo(t)
			still, moving := 0.0, 0
			load := 0.0
			for i := range j.p.Items {
				item := &j.p.Items[i]
				if j.hasChildren(item.Key) || item.Size == nil || item.Team != j.p.Teams[t].Key {
					continue
				}
				done := item.State == program.Done && item.Iteration == it.Key
				if !done && (j.at[item.Key] == nil || j.at[item.Key].Key != it.Key) {
					continue
				}
				load += *item.Size
				if done || j.fixed(item) {
					still += *item.Size
				} else {
					moving++
				}
			}
			if moving > 0 && load > limit+1e-6 {
				j.fault("%s carries %v of %v, of which %v cannot move", it.Key, load, limit, still)
			}
		}
	}
}

// holds is rule 3 for two placed items.
func (j *judge) holds(needed, item *program.Item, lag int) bool {
	a, b := j.at[needed.Key], j.at[item.Key]
	if a.End.Add(lag) < b.Start {
		return true
	}
	switch {
	case lag != 0:
		return false
	case j.p.Settings.SameIteration == program.ShareSameTeam:
		return needed.Team == item.Team && a.Key == b.Key
	case j.p.Settings.SameIteration == program.ShareAlways:
		return a.Start == b.Start && a.End == b.End
	}
	return false
}

// pairs calls do for every need between leaves that is still at stake.
func (j *judge) pairs(do func(item, needed *program.Item, lag int)) {
	for _, n := range j.p.Needs {
		if j.item(n.Item).KeptOut || j.item(n.Needs).KeptOut {
			continue
		}
		for _, item := range j.leaves(n.Item) {
			for _, needed := range j.leaves(n.Needs) {
				if j.scheduled(item) && j.scheduled(needed) {
					do(item, needed, n.LagDays)
				}
			}
		}
	}
}

// needs is rules 3 and 6.
func (j *judge) needs() {
	j.pairs(func(item, needed *program.Item, lag int) {
		if j.at[item.Key] == nil || j.fixed(item) {
			return
		}
		if j.at[needed.Key] == nil {
			j.fault("%s is placed, and %s, which it needs, is not", item.Key, needed.Key)
		} else if !j.holds(needed, item, lag) {
			j.fault("the need of %s on %s is broken", item.Key, needed.Key)
		}
	})
}

// unplaced is rule 7: each reason must be true.
func (j *judge) unplaced(d schedule.Schedule) {
	for _, x := range d.Unplaced {
		item := j.item(x.Item)
		switch x.Why.Code {
		case "no-size":
			if item.Size != nil {
				j.fault("%s has a size", x.Item)
			}
		case "no-team":
			if item.Team != "" {
				j.fault("%s has a team", x.Item)
			}
		case "waits-for-unplaced":
			if j.at[x.Why.Item] != nil {
				j.fault("%s waits for %s, which is placed", x.Item, x.Why.Item)
			}
		case "too-large", "not-before-last", "no-room", "cycle", "not-asked":
		default:
			j.fault("%s is unplaced for %q", x.Item, x.Why.Code)
		}
		if x.Why.Code == "no-room" && len(j.o.Items) == 0 {
			j.room(item)
		}
	}
}

// room checks that an item that found none could not stand anywhere.
func (j *judge) room(item *program.Item) {
	before := len(j.faults)
	for i := range j.team(item).Iterations {
		j.at[item.Key] = &j.team(item).Iterations[i]
		j.placements()
		j.loads()
		j.needs()
		ok := len(j.faults) == before
		j.faults = j.faults[:before]
		if ok {
			j.fault("%s has no place, but could stand in %s", item.Key, j.at[item.Key].Key)
			break
		}
	}
	delete(j.at, item.Key)
}

// score counts late days, importance and moves from their definitions.
func (j *judge) score() (s schedule.Score) {
	var lastEnd program.Date
	for _, t := range j.p.Teams {
		for _, it := range t.Iterations {
			lastEnd = max(lastEnd, it.End)
		}
	}
	never := lastEnd.Add(365)
	counts := func(item *program.Item) bool { return item.Size != nil && item.Team != "" }
	finish := func(items []*program.Item) (last program.Date) {
		for _, item := range items {
			if at := j.at[item.Key]; at != nil {
				last = max(last, at.End)
			} else if counts(item) {
				last = max(last, never)
			}
		}
		return last
	}
	var all []*program.Item
	for i := range j.p.Items {
		if j.scheduled(&j.p.Items[i]) {
			all = append(all, &j.p.Items[i])
		}
	}
	release := func(item *program.Item) string {
		for item.Release == "" && item.Parent != "" {
			item = j.item(item.Parent)
		}
		return item.Release
	}
	for _, r := range j.p.Releases {
		of := slices.DeleteFunc(slices.Clone(all), func(x *program.Item) bool { return release(x) != r.Key })
		if f := finish(of); !f.IsZero() {
			due := r.Due
			if due.IsZero() {
				due = j.o.Today
			}
			s.LateDays += max(0, int(f-due))
		}
	}
	for i := range j.p.Items {
		item := &j.p.Items[i]
		if item.Due.IsZero() || item.State == program.Done || item.KeptOut {
			continue
		}
		of := slices.DeleteFunc(j.leaves(item.Key), func(x *program.Item) bool { return !j.scheduled(x) })
		if f := finish(of); !f.IsZero() {
			s.LateDays += max(0, int(f-item.Due))
		}
	}
	j.pairs(func(item, needed *program.Item, lag int) {
		if !j.fixed(item) || j.fixed(needed) || !counts(needed) {
			return
		}
		if j.at[needed.Key] != nil && j.holds(needed, item, lag) {
			return
		}
		s.LateDays += max(0, int(finish([]*program.Item{needed}).Add(lag)-j.at[item.Key].Start)+1)
	})
	for i, item := range all {
		if counts(item) {
			weight := float64(len(all)-i) / float64(len(all))
			s.Importance += weight * float64(finish([]*program.Item{item})-j.o.Today)
		}
		now := ""
		if j.at[item.Key] != nil {
			now = j.at[item.Key].Key
		}
		if now != item.Iteration {
			s.Moves++
		}
	}
	return s
}

// all joins faults for a message.
func all(faults []string) string { return strings.Join(faults, "\n") }
