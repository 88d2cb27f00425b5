// Package scenario works with what-if copies of a plan: it brings one up to date with the live
// plan, publishes it, and compares plans.
//
// A scenario is three programs: the base, which is the live plan when it was made or last brought
// up to date; what the scenario made of it (mine); and what the live plan has become. Bringing up
// to date and publishing are one and the same merge of the three; only what it is then laid on differs.
package scenario

import (
	"bytes"
	"encoding/json"
	"maps"
	"slices"

	"jantrel/core/gate"
	"jantrel/core/plan"
	"jantrel/core/program"
)

// Lines are the three programs of a scenario.
type Lines struct {
	Base program.Program // the live plan as the scenario began with it
	Mine *plan.Plan      // the scenario
	Live *plan.Plan      // the live plan as it is
	Back bool            // the scenario is the live plan's own past: what has a key there is the same thing here
}

// Side is whose word counts at a conflict.
type Side string

// The sides.
const (
	TakeScenario Side = "scenario"
	TakeLive     Side = "live"
)

// Conflict is one place at which the scenario and the live plan have become different things.
type Conflict struct {
	program.Ref
	Field string          `json:"field,omitempty"` // empty: the thing itself, its being there or its place
	Sort  gate.Sort       `json:"sort"`            // you: the scenario; they: the live plan
	Base  json.RawMessage `json:"base,omitempty"`
	Mine  json.RawMessage `json:"mine,omitempty"`
	Live  json.RawMessage `json:"live,omitempty"`
	Take  Side            `json:"take,omitempty"` // as it was settled; empty: not yet
}

// Settled says whose word counts at a conflict.
type Settled struct {
	program.Ref
	Field string    `json:"field,omitempty"`
	Sort  gate.Sort `json:"sort"`
	Take  Side      `json:"take"`
}

// Part names one of a scenario's changes.
type Part struct {
	program.Ref
	Op    program.Op `json:"op"`
	Field string     `json:"field,omitempty"`
}

// PartOf names a change.
func PartOf(c program.Change) Part { return Part{c.Ref, c.Op, c.Field} }

// Choice is what somebody makes of a merge.
type Choice struct {
	LeaveOut []Part    `json:"leaveOut,omitempty"` // changes that are not taken
	Settle   []Settled `json:"settle,omitempty"`
}

// Refused is what the rules of the document do not allow on the live plan as it is.
type Refused struct {
	program.Ref
	Text string `json:"text"` // which rule, in words
}

// Merged is what comes of a scenario's changes on the live plan.
type Merged struct {
	Plan      *plan.Plan       // the live plan with them
	Changes   []program.Change // those that lead there from the live plan
	Changed   []program.Change // all that the scenario changed, whether it is taken or not
	Conflicts []Conflict       // in the order of Changed
	Along     []program.Ref    // things that come along although left out: something that is taken needs them
	Refused   []Refused        // things whose changes stay out
	Rekeyed   []Rekeyed        // things of the scenario that get another key
}

// Rekeyed is a new thing of the scenario whose key the live plan has given to another meanwhile.
type Rekeyed struct {
	program.Ref
	To string `json:"to"`
}

// Open are the conflicts that nobody has settled.
func (m Merged) Open() (open []Conflict) {
	for _, c := range m.Conflicts {
		if c.Take == "" {
			open = append(open, c)
		}
	}
	return open
}

// Merge lays what a scenario changed on the live plan as it is: a three-way merge by thing and field.
//   - What one side alone changed is taken; what both made the same is there already.
//   - Where both changed a field, one changed what the other removed, or both moved a thing, it is a
//     conflict, see [gate.Conflicts]. Until it is settled the live plan's word counts.
//   - What is added or moved comes to stand after the nearest thing before it in the scenario that
//     there is.
//   - Two new things with one key are both kept, where keys are given by number: the scenario's gets another.
//   - What is taken brings along the new things that it names; what a removed thing leaves behind
//     is put right as ever, see [program.Forget].
//   - What the rules do not allow stays out, and is told.
//
// For n things and k changes of the scenario it takes time O(n log n + k·n), where the rules refuse
// something also O(log k) times that of the gate for each.
func Merge(l Lines, c Choice) (Merged, error) {
	m := merger{Lines: l}
	if err := m.rekey(); err != nil {
		return Merged{}, err
	}
	m.Changed = program.Between(m.Base, m.mine)
	taken := m.choose(c.LeaveOut)
	if err := m.settle(taken, c.Settle); err != nil {
		return Merged{}, err
	}
	return m.Merged, m.lay()
}

type merger struct {
	Lines
	Merged
	mine program.Program // the scenario, with the keys that its things get

	has   map[program.Ref]bool // of the live plan
	taken []program.Change     // what is laid on the live plan, in the order of Changed
	back  []program.Ref        // removed in the live plan, and wanted back
}

// numbered are the kinds whose keys mean nothing but which one it is.
var numbered = map[program.Kind]bool{
	program.KindItem: true, program.KindRisk: true, program.KindPromise: true,
	program.KindComment: true, program.KindTimeEntry: true, program.KindSnooze: true,
}

// rekey gives new things of the scenario other keys, where the live plan has given theirs to others.
func (m *merger) rekey() error {
	m.mine = m.Mine.Program
	base, live := m.Base.Refs(), m.Live.Refs()
	m.has = live
	if m.Back {
		return nil
	}
	keys := map[program.Kind]map[string]string{}
	for _, c := range program.Between(m.Base, m.mine) {
		if c.Op != program.Add || !numbered[c.Kind] || base[c.Ref] {
			continue
		}
		used := m.Live.Gone[c.Key] && c.Kind == program.KindItem
		if !used && (!live[c.Ref] || bytes.Equal(m.mine.Written(c.Ref), m.Live.Written(c.Ref))) {
			continue
		}
		if keys[c.Kind] == nil {
			keys[c.Kind] = map[string]string{}
		}
		to := m.free(c.Ref, base, live, keys[c.Kind])
		keys[c.Kind][c.Key] = to
		m.Rekeyed = append(m.Rekeyed, Rekeyed{c.Ref, to})
	}
	var err error
	for _, info := range program.Kinds {
		if err == nil && len(keys[info.Kind]) > 0 {
			m.mine, err = m.mine.Rekeyed(info.Kind, keys[info.Kind])
		}
	}
	return err
}

// free is a key like one that is taken, with the next number that nobody uses.
func (m *merger) free(ref program.Ref, base, live map[program.Ref]bool, given map[string]string) string {
	taken := slices.Collect(maps.Values(given))
	for n := 1; ; n++ {
		next := ref
		next.Key = numberAfter(ref.Key, n)
		if !base[next] && !live[next] && !m.mine.Has(next) && !m.Live.Gone[next.Key] && !slices.Contains(taken, next.Key) {
			return next.Key
		}
	}
}

// choose are the changes that are taken: all but those left out, with the new things that they name. Where something is
// not removed, nothing that would follow from that comes either.
func (m *merger) choose(leaveOut []Part) []program.Change {
	out := make(map[Part]bool, len(leaveOut))
	for _, p := range leaveOut {
		out[p] = true
		if p.Op == program.Remove {
			for _, c := range program.Forget(m.Base, p.Ref) {
				out[PartOf(c)] = true
			}
		}
	}
	added := map[program.Ref]int{} // new things that are left out, where in Changed
	taken := make([]bool, len(m.Changed))
	var look []program.Ref
	for i, c := range m.Changed {
		if taken[i] = !out[PartOf(c)]; taken[i] && c.Op != program.Remove {
			look = append(look, c.Ref)
		} else if c.Op == program.Add {
			added[c.Ref] = i
		}
	}
	for len(look) > 0 && len(added) > 0 {
		named := m.mine.NamedBy(look[0])
		look = look[1:]
		for _, ref := range named {
			if i, is := added[ref]; is {
				delete(added, ref)
				taken[i] = true
				m.Along = append(m.Along, ref)
				look = append(look, ref)
			}
		}
	}
	var changes []program.Change
	for i, c := range m.Changed {
		if taken[i] {
			changes = append(changes, c)
		}
	}
	return changes
}

// settle finds the conflicts of what is taken, and keeps of it what counts.
func (m *merger) settle(taken []program.Change, settled []Settled) error {
	_, applied, err := gate.Again(plan.Of(m.Base), program.Between(m.Base, m.Live.Program))
	if err != nil {
		return err
	}
	says := make(map[Settled]Side, len(settled))
	for _, s := range settled {
		says[Settled{s.Ref, s.Field, s.Sort, ""}] = s.Take
	}
	type at struct {
		program.Ref
		field string
	}
	loses := map[at]bool{} // what the live plan's word makes nothing of
	lost := func(c program.Change) {
		loses[at{c.Ref, string(c.Op) + c.Field}] = true
	}
	ops := map[gate.Sort]program.Op{gate.BothSet: program.Set, gate.YouRemove: program.Remove, gate.BothAdded: program.Add, gate.BothMoved: program.Move}
	seen := map[Settled]bool{}
	going := map[program.Ref]bool{}
	for _, c := range taken {
		going[c.Ref] = going[c.Ref] || c.Op == program.Remove
	}
	// What goes along with another thing is asked about with that one.
	cause := func(ref program.Ref) program.Ref {
		named := m.Base.GoesWith(ref)
		if i := slices.IndexFunc(named, func(n program.Ref) bool { return going[n] }); i >= 0 {
			return named[i]
		}
		return ref
	}
	for _, c := range gate.Conflicts([]gate.Edit{{By: "the live plan", Changes: applied}}, m.meant(taken)) {
		if c.Sort == gate.TheyRemoved {
			if c.Field == "" && c.Yours == nil {
				continue // a place among others is nothing to keep it for
			}
			c.Field, c.Base, c.Yours, c.Theirs = "", nil, nil, nil // one question for all that is changed of it
			if holder, ok := m.gone(c.Ref); ok {
				c.Ref = holder
			}
		}
		if c.Sort == gate.YouRemove {
			c.Ref = cause(c.Ref)
		}
		key := Settled{c.Ref, c.Field, c.Sort, ""}
		if seen[key] {
			continue
		}
		seen[key] = true
		conflict := Conflict{Ref: c.Ref, Field: c.Field, Sort: c.Sort, Base: c.Base, Mine: c.Yours, Live: c.Theirs, Take: says[key]}
		m.Conflicts = append(m.Conflicts, conflict)
		switch {
		case conflict.Take == TakeScenario && c.Sort == gate.TheyRemoved:
			m.back = append(m.back, c.Ref)
		case conflict.Take == TakeScenario:
		case c.Sort == gate.YouRemove: // it stays, with all that would have gone or changed because of it
			for _, consequence := range program.Forget(m.Base, c.Ref) {
				lost(consequence)
			}
		case c.Sort != gate.TheyRemoved:
			lost(program.Change{Op: ops[c.Sort], Ref: c.Ref, Field: c.Field})
		}
	}
	for _, c := range taken {
		if !loses[at{c.Ref, string(c.Op) + c.Field}] {
			m.taken = append(m.taken, c)
		}
	}
	return nil
}

// meant are changes without the values of fields that merely follow from what goes.
func (m *merger) meant(taken []program.Change) []program.Change {
	var going []program.Ref
	for _, c := range taken {
		if c.Op == program.Remove {
			going = append(going, c.Ref)
		}
	}
	if len(going) == 0 {
		return taken
	}
	follows := map[Part]json.RawMessage{}
	for _, c := range program.Forget(m.Base, going...) {
		if c.Op == program.Set {
			follows[PartOf(c)] = c.Value
		}
	}
	return slices.DeleteFunc(slices.Clone(taken), func(c program.Change) bool {
		value, is := follows[PartOf(c)]
		return is && program.SameValue(c.Kind, c.Field, value, c.Value)
	})
}

// gone is what the live plan removed of a thing that is not there: itself or, where it only went along
// or is new, what it stands in.
func (m *merger) gone(ref program.Ref) (program.Ref, bool) {
	info, _ := program.InfoOf(ref.Kind)
	holder := program.Ref{Kind: info.In, Key: ref.In}
	return holder, info.In != "" && !m.has[holder] && m.Base.Has(holder)
}

// lay lays what is taken on the live plan. What the rules refuse is found by halves.
func (m *merger) lay() error {
	groups := m.groups()
	now := m.Live
	var lay func(groups []group) error
	lay = func(groups []group) error {
		next, err := m.try(now, groups)
		if err == nil {
			now = next
			return nil
		}
		if len(groups) == 1 {
			m.Refused = append(m.Refused, Refused{groups[0].ref, err.Error()})
			return nil
		}
		half := len(groups) / 2
		if err := lay(groups[:half]); err != nil {
			return err
		}
		return lay(groups[half:])
	}
	if len(groups) > 0 {
		if err := lay(groups); err != nil {
			return err
		}
	}
	m.Plan, m.Changes = now, program.Between(m.Live.Program, now.Program)
	return nil
}

// group are the changes to one thing: they are laid together or not at all.
type group struct {
	ref     program.Ref
	changes []program.Change
}

// groups are what is taken by thing: what is wanted back, which comes as the scenario has it, then the rest in order.
func (m *merger) groups() []group {
	var order []group
	at := map[program.Ref]int{}
	add := func(c program.Change) {
		i, known := at[c.Ref]
		if !known {
			i = len(order)
			at[c.Ref] = i
			order = append(order, group{ref: c.Ref})
		}
		order[i].changes = append(order[i].changes, c)
	}
	back := map[program.Ref]bool{}
	for _, ref := range m.wantedBack() {
		back[ref] = true
		add(program.Change{Op: program.Add, Ref: ref})
	}
	for _, c := range m.taken {
		holder, inGone := m.gone(c.Ref)
		stays := m.has[c.Ref]
		if c.Op == program.Add {
			stays = !inGone || back[holder]
		}
		if stays && !back[c.Ref] {
			add(c)
		}
	}
	return order
}

// wantedBack are the things that come back: those asked for, and what stood in them or was of them.
func (m *merger) wantedBack() []program.Ref {
	if len(m.back) == 0 {
		return nil
	}
	wanted := map[program.Ref]bool{}
	for _, ref := range m.back {
		wanted[ref] = true
	}
	refs := slices.Clone(m.back)
	for _, info := range program.Kinds {
		if info.In == "" || info.Nested { // what a thing holds comes back with it
			continue
		}
		for _, ref := range m.mine.Order(program.Ref{Kind: info.Kind}) {
			named := m.mine.NamedBy(ref)
			if m.has[ref] || !slices.ContainsFunc(named, func(n program.Ref) bool { return wanted[n] }) || !m.Base.Has(ref) {
				continue
			}
			if !slices.ContainsFunc(named, func(n program.Ref) bool { return !wanted[n] && !m.has[n] }) {
				refs = append(refs, ref)
			}
		}
	}
	return refs
}

// try lays groups on a plan.
func (m *merger) try(now *plan.Plan, groups []group) (*plan.Plan, error) {
	var going []program.Ref
	var rest []program.Change
	for _, g := range groups {
		for _, c := range g.changes {
			switch {
			case c.Op == program.Remove && now.Has(c.Ref):
				going = append(going, c.Ref)
			case c.Op == program.Add && now.Has(c.Ref): // both added it
				rest = append(rest, program.Sets(now.Program, m.mine, c.Ref)...)
			case c.Op != program.Remove:
				rest = append(rest, c)
			}
		}
	}
	changes := program.Forget(now.Program, going...)
	next, _, err := gate.Try(now, append(changes, m.placed(now, going, rest)...))
	return next, err
}

// placed gives what is added or moved its place: after the nearest thing before it in the scenario that
// there is. Sets come last.
func (m *merger) placed(now *plan.Plan, going []program.Ref, changes []program.Change) []program.Change {
	byList := map[program.Ref]map[program.Ref]program.Change{}
	var order []program.Ref
	var sets, places []program.Change
	for _, c := range changes {
		if c.Op == program.Set {
			sets = append(sets, c)
			continue
		}
		list := program.ListOf(c.Ref)
		if byList[list] == nil {
			byList[list] = map[program.Ref]program.Change{}
			order = append(order, list)
		}
		byList[list][c.Ref] = c
	}
	slices.SortStableFunc(order, func(a, b program.Ref) int { return kindAt(a.Kind) - kindAt(b.Kind) })
	for _, list := range order {
		here := slices.DeleteFunc(now.Order(list), func(ref program.Ref) bool { return slices.Contains(going, ref) })
		mine := m.mine.Order(list)
		for i, ref := range mine {
			c, placed := byList[list][ref]
			if !placed {
				continue
			}
			here = slices.DeleteFunc(here, func(r program.Ref) bool { return r == ref })
			to := 0
			for j := i - 1; j >= 0; j-- {
				if at := slices.Index(here, mine[j]); at >= 0 {
					to = at + 1
					break
				}
			}
			here = slices.Insert(here, to, ref)
			if c.Op == program.Add {
				c.Value = m.mine.Written(ref)
			}
			c.At = &to
			places = append(places, c)
		}
	}
	return append(places, sets...)
}
