package schedule

import (
	"cmp"
	"slices"

	"jantrel/core/plan"
	"jantrel/core/program"
)

// result puts a plan into the words of the program document.
func (m *model) result(pl sketch) Schedule {
	r := Schedule{Placements: []Placement{}, Unplaced: []Unplaced{}, Overloads: []Overload{}, Releases: []Finish{}}
	for n := range m.nodes {
		node := &m.nodes[n]
		if _, rough := m.p.Piece(node.item); rough {
			continue
		}
		from := ""
		if node.now != nowhere {
			from = m.iteration(n, node.now)
		}
		s := pl.slot[n]
		if s == nowhere {
			r.Unplaced = append(r.Unplaced, Unplaced{Item: m.key(n), Moved: node.now != nowhere, From: from, Why: m.whyUnplaced(&pl, n)})
			continue
		}
		at := m.place(n, s)
		r.Placements = append(r.Placements, Placement{
			Item: m.key(n), Team: m.p.Teams[node.team].Key, Iteration: m.iteration(n, s),
			Start: at.Start, End: at.End, Moved: s != node.now, From: from, Assumed: node.assumed, Why: m.whyPlaced(&pl, n),
		})
	}
	r.Rough = m.roughs(&pl)
	for t := range m.slots {
		for s, at := range m.slots[t] {
			it := m.p.Teams[t].Iterations[s]
			if it.State != "closed" && at.load > at.capacity*m.fillTo[t]+eps {
				r.Overloads = append(r.Overloads, Overload{m.p.Teams[t].Key, it.Key, at.capacity, at.load})
			}
		}
	}
	for i := range m.finals {
		f := &m.finals[i]
		if f.release < 0 {
			continue
		}
		late, finish := m.late(f, pl.slot)
		r.Releases = append(r.Releases, Finish{Key: m.p.Releases[f.release].Key, Finish: finish, Due: f.due, LateDays: late})
	}
	r.Score = m.score(pl.slot)
	r.Score.LateDaysBound = m.bound()
	if len(r.Rough) > 0 {
		r.Score.Moves = r.moves()
	}
	return r
}

// moves is how many items move, and rough sizes, however many pieces of these do.
func (r *Schedule) moves() (n int) {
	for i := range r.Placements {
		if r.Placements[i].Moved {
			n++
		}
	}
	for i := range r.Unplaced {
		if r.Unplaced[i].Moved {
			n++
		}
	}
	for i := range r.Rough {
		if r.Rough[i].Moved {
			n++
		}
	}
	return n
}

// roughs gathers the pieces of each rough size.
func (m *model) roughs(pl *sketch) (list []Rough) {
	var reason []int // the node that says why: the first without a place, else the last
	for n := range m.nodes {
		node := &m.nodes[n]
		piece, rough := m.p.Piece(node.item)
		if !rough {
			continue
		}
		if piece.Nth == 0 {
			list = append(list, Rough{Item: m.p.Items[piece.Of].Key, Team: m.p.Items[node.item].Team, Places: []RoughPart{}})
			reason = append(reason, n)
		}
		r := &list[len(list)-1]
		if at := m.part(r, n, node.now); at != nil {
			at.Was += node.size
		}
		if at := m.part(r, n, pl.slot[n]); at != nil {
			at.Size += node.size
			if r.Loose == 0 {
				reason[len(list)-1] = n
			}
			continue
		}
		if r.Loose == 0 {
			reason[len(list)-1] = n
		}
		r.Loose += node.size
	}
	for i, n := range reason {
		r := &list[i]
		if r.Loose > 0 {
			r.Why = m.whyUnplaced(pl, n)
		} else {
			r.Why = m.whyPlaced(pl, n)
		}
		r.Moved = slices.ContainsFunc(r.Places, func(x RoughPart) bool { return x.Size-x.Was > eps || x.Was-x.Size > eps })
		r.Places = slices.DeleteFunc(r.Places, func(x RoughPart) bool { return x.Size == 0 })
		slices.SortStableFunc(r.Places, func(a, b RoughPart) int { return cmp.Compare(a.Start, b.Start) })
	}
	return list
}

// part is what r has in slot s of the team of node n; nil for nowhere.
func (m *model) part(r *Rough, n, s int) *RoughPart {
	if s == nowhere {
		return nil
	}
	key := m.iteration(n, s)
	at := slices.IndexFunc(r.Places, func(x RoughPart) bool { return x.Iteration == key })
	if at < 0 {
		at = len(r.Places)
		place := m.place(n, s)
		r.Places = append(r.Places, RoughPart{Iteration: key, Start: place.Start, End: place.End})
	}
	return &r.Places[at]
}

// RoughChanges are the changes that put what is rough of some items and teams where roughs have it, one
// an item, in the order in which they come up; items of which all stands so already are left out.
func RoughChanges(p *plan.Plan, roughs []Rough) (changes []program.Change) {
	tree, places := p.Tree(), map[string][]program.RoughPlace{}
	var order []string
	for _, r := range roughs {
		before, begun := places[r.Item]
		if !begun {
			before, order = p.Items[tree.Index[r.Item]].RoughPlaces, append(order, r.Item)
		}
		places[r.Item] = placesWith(before, r)
	}
	for _, key := range order {
		if !slices.Equal(places[key], p.Items[tree.Index[key]].RoughPlaces) {
			changes = append(changes, program.SetTo(program.Ref{Kind: program.KindItem, Key: key}, "roughPlaces", places[key]))
		}
	}
	return changes
}

// placesWith returns an item's rough places with those of one team as r has them.
func placesWith(before []program.RoughPlace, r Rough) []program.RoughPlace {
	places := slices.DeleteFunc(slices.Clone(before), func(x program.RoughPlace) bool { return x.Team == r.Team })
	for _, x := range r.Places {
		places = append(places, program.RoughPlace{Team: r.Team, Iteration: x.Iteration, Size: x.Size})
	}
	return places
}

// Place returns p with its items, and what is rough, where r has them.
func Place(p *plan.Plan, r Schedule) *plan.Plan {
	tree, next := p.Tree(), p.Program
	next.Items = slices.Clone(p.Items)
	for _, x := range r.Rough {
		item := &next.Items[tree.Index[x.Item]]
		item.RoughPlaces = placesWith(item.RoughPlaces, x)
	}
	for _, x := range r.Placements {
		next.Items[tree.Index[x.Item]].Iteration = x.Iteration
	}
	for _, x := range r.Unplaced {
		next.Items[tree.Index[x.Item]].Iteration = ""
	}
	return plan.After(p, next)
}
