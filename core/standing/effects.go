package standing

import (
	"slices"

	"jantrel/core/calendar"
	"jantrel/core/plan"
	"jantrel/core/program"
)

// Effects are what an edit that was not made yet would do to the plan.
type Effects struct {
	Iterations []Redated        `json:"iterations"` // iterations with other dates or names, new ones and removed ones
	Items      []Redated        `json:"items"`      // placed items, and what is rough of them for a team, whose dates change, or that lose or gain their place
	Capacity   []CapacityChange `json:"capacity"`   // coming iterations whose capacity changes
	Over       OverChange       `json:"over"`       // iterations over capacity
	Broken     BrokenChange     `json:"broken"`     // broken needs
	Missed     BrokenChange     `json:"missed"`     // needs that are done after the day that was agreed on
	Unplaced   KeysChange       `json:"unplaced"`   // items that lose their place, or gain one
	Releases   []ReleaseChange  `json:"releases"`   // releases whose plan finishes on another day, or that are due on another
	Milestones []Missed         `json:"milestones"` // milestones for which an item now comes too late, or comes in time again
}

// Redated is an iteration or an item that gets other dates.
type Redated struct {
	Team   string         `json:"team,omitempty"`
	Key    string         `json:"key"`
	Name   string         `json:"name"`
	Was    string         `json:"was,omitempty"`    // the name before, of an iteration that gets another
	Before *calendar.Span `json:"before,omitempty"` // missing: new, or unplaced before
	After  *calendar.Span `json:"after,omitempty"`  // missing: removed, or unplaced
}

// CapacityChange is a figure before and after.
type CapacityChange struct {
	Team   string  `json:"team"`
	Key    string  `json:"key"`
	Before float64 `json:"before"`
	After  float64 `json:"after"`
}

// KeysChange is what joins a list and what leaves it.
type KeysChange struct {
	New  []string `json:"new,omitempty"`
	Gone []string `json:"gone,omitempty"`
}

// OverChange is the same of iterations.
type OverChange struct {
	New  []IterationRef `json:"new,omitempty"`
	Gone []IterationRef `json:"gone,omitempty"`
}

// BrokenChange is the same of needs.
type BrokenChange struct {
	New  []NeedRef `json:"new,omitempty"`
	Gone []NeedRef `json:"gone,omitempty"`
}

// ReleaseChange is when the plan of a release finishes: the last end of what is placed.
type ReleaseChange struct {
	Key       string       `json:"key"`
	Name      string       `json:"name"`
	Before    program.Date `json:"before,omitzero"`
	After     program.Date `json:"after,omitzero"`
	DueBefore program.Date `json:"dueBefore,omitzero"`
	DueAfter  program.Date `json:"dueAfter,omitzero"`
}

// Missed is a milestone with an item that ends after it, or no longer does.
type Missed struct {
	Key    string `json:"key"`
	Name   string `json:"name"`
	Item   string `json:"item"`
	Missed bool   `json:"missed"` // comes too late after the edit
}

// EffectsOf compares a program before and after an edit on a day.
func EffectsOf(before, after *plan.Plan, today program.Date) Effects {
	a, b := Of(before, today), Of(after, today)
	e := Effects{Iterations: []Redated{}, Items: []Redated{}, Capacity: []CapacityChange{}, Releases: []ReleaseChange{}, Milestones: []Missed{}}
	e.iterations(before, after)
	e.items(before, after)
	e.capacity(a, b)
	e.Over.New, e.Over.Gone = joined(a.Counts.Over, b.Counts.Over)
	e.Broken.New, e.Broken.Gone = joined(a.Counts.Broken, b.Counts.Broken)
	e.Missed.New, e.Missed.Gone = joined(missedOf(a), missedOf(b))
	e.Unplaced.New, e.Unplaced.Gone = joined(a.Counts.Unplaced, b.Counts.Unplaced)
	e.releases(before, after)
	e.milestones(before, after)
	return e
}

// joined returns what is in after and not in before, and the other way round.
func joined[T comparable](before, after []T) (fresh, gone []T) {
	had := make(map[T]bool, len(before))
	for _, x := range before {
		had[x] = true
	}
	has := make(map[T]bool, len(after))
	for _, x := range after {
		has[x] = true
		if !had[x] {
			fresh = append(fresh, x)
		}
	}
	for _, x := range before {
		if !has[x] {
			gone = append(gone, x)
		}
	}
	return fresh, gone
}

// redated compares two lists of things with dates, by key; names too, if so asked.
func redated(before, after []Redated, named bool) []Redated {
	index := make(map[[2]string]int, len(before))
	for i, x := range before {
		index[[2]string{x.Team, x.Key}] = i
	}
	list := []Redated{}
	for _, x := range after {
		key := [2]string{x.Team, x.Key}
		i, known := index[key]
		delete(index, key)
		if known {
			x.Before = before[i].After
			if named && before[i].Name != x.Name {
				x.Was = before[i].Name
			}
		}
		if x.Was != "" || x.Before == nil && x.After != nil || x.Before != nil && (x.After == nil || *x.Before != *x.After) {
			list = append(list, x)
		}
	}
	for i, x := range before {
		if j, left := index[[2]string{x.Team, x.Key}]; left && i == j && x.After != nil {
			x.Before, x.After = x.After, nil
			list = append(list, x)
		}
	}
	return list
}

func (e *Effects) iterations(before, after *plan.Plan) {
	dated := func(p *plan.Plan) (list []Redated) {
		for _, t := range p.Teams {
			for _, it := range t.Iterations {
				span := it.Span()
				list = append(list, Redated{Team: t.Key, Key: it.Key, Name: it.Label(), After: &span})
			}
		}
		return list
	}
	e.Iterations = redated(dated(before), dated(after), true)
}

func (e *Effects) items(before, after *plan.Plan) {
	dated := func(p *plan.Plan) (list []Redated) {
		tree := p.Tree()
		for i := range p.Items {
			x := Redated{Key: p.Items[i].Key, Name: p.Items[i].Title}
			if place, ok := p.Place(i); ok && tree.ToSchedule(i) {
				x.After = &place.Span
			}
			list = append(list, x)
		}
		return append(list, roughs(p)...)
	}
	e.Items = redated(dated(before), dated(after), false)
}

// roughs are what is rough of each item for each team, from the first iteration that it stands in to
// the last.
func roughs(p *plan.Plan) (list []Redated) {
	for _, s := range plan.Roughs(p) {
		item, team := &p.Items[s.Item], &p.Teams[s.Team]
		x := Redated{Team: team.Key, Key: item.Key, Name: item.Title + ", rough for " + team.Name}
		var all calendar.Span
		for _, place := range s.Places {
			at, _ := p.Slot(place.Team, place.Iteration)
			all = all.With(at.Span)
		}
		if len(s.Places) > 0 {
			x.After = &all
		}
		list = append(list, x)
	}
	return list
}

func (e *Effects) capacity(before, after Facts) {
	was := make(map[IterationRef]float64, len(before.Iterations))
	for _, it := range before.Iterations {
		was[IterationRef{it.Team, it.Key}] = it.Capacity
	}
	for _, it := range after.Iterations {
		if capacity, known := was[IterationRef{it.Team, it.Key}]; known && it.Usable && capacity != it.Capacity {
			e.Capacity = append(e.Capacity, CapacityChange{it.Team, it.Key, capacity, it.Capacity})
		}
	}
}

// missedOf are the needs that are done after the day that was agreed on.
func missedOf(f Facts) (refs []NeedRef) {
	for i := range f.Needs {
		if n := &f.Needs[i]; n.Missed {
			refs = append(refs, NeedRef{n.Item, n.Needs})
		}
	}
	return refs
}

// finishes returns the last end among each release's placed items still to do.
func finishes(p *plan.Plan) map[string]program.Date {
	p = p.Whole()
	tree := p.Tree()
	ends := map[string]program.Date{}
	for i := range p.Items {
		if place, ok := p.Place(i); ok && tree.ToSchedule(i) {
			release := tree.Release(i)
			ends[release] = max(ends[release], place.End)
		}
	}
	return ends
}

func (e *Effects) releases(before, after *plan.Plan) {
	a, b := finishes(before), finishes(after)
	due := map[string]program.Date{}
	for _, r := range before.Releases {
		due[r.Key] = r.Due
	}
	for _, r := range after.Releases {
		if was, known := due[r.Key]; known && (was != r.Due || a[r.Key] != b[r.Key]) {
			e.Releases = append(e.Releases, ReleaseChange{r.Key, r.Name, a[r.Key], b[r.Key], was, r.Due})
		}
	}
}

// tooLate returns the items that end after a milestone that needs them, or are
// not placed.
func tooLate(p *plan.Plan) map[[2]string]bool {
	p = p.Whole()
	tree := p.Tree()
	late := map[[2]string]bool{}
	for _, m := range p.Milestones {
		for _, key := range m.Needs {
			i, ok := tree.Index[key]
			if !ok {
				continue
			}
			late[[2]string{m.Key, key}] = slices.ContainsFunc(tree.Leaves(i), func(leaf int) bool {
				place, placed := p.Place(leaf)
				return tree.ToSchedule(leaf) && (!placed || place.End > m.Date)
			})
		}
	}
	return late
}

func (e *Effects) milestones(before, after *plan.Plan) {
	a, b := tooLate(before), tooLate(after)
	for _, m := range after.Milestones {
		for _, key := range m.Needs {
			if x := [2]string{m.Key, key}; a[x] != b[x] {
				e.Milestones = append(e.Milestones, Missed{m.Key, m.Name, key, b[x]})
			}
		}
	}
}
