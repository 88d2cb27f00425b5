package schedule

import (
	"fmt"

	"jantrel/core/capacity"
	"jantrel/core/program"
)

// part is what a team has of a role, or of a person: a limit of its own in each iteration for the
// items that ask for that role, or that are assigned to that person.
type part struct {
	name string
	role bool
}

// addParts gives nodes and slots their parts, where these are to be respected. Items that are done
// take from them too.
func (m *model) addParts() {
	m.parts = make([][]part, len(m.slots))
	index := make([]map[part]int, len(m.slots))
	all := func(*program.Iteration) bool { return true }
	gather := func(rows []capacity.Row, role bool) {
		for _, row := range rows {
			for _, x := range row.Parts {
				t := m.p.TeamAt()[x.Team]
				slot := &m.slots[t][x.At]
				k := m.partOf(index, t, part{row.Key, role})
				for len(slot.parts) <= k {
					slot.parts = append(slot.parts, 0)
				}
				slot.parts[k] = x.Capacity * m.fillTo[t]
			}
		}
	}
	gather(capacity.ByRole(m.p, all), true)
	gather(capacity.ByPerson(m.p, all), false)
	asked := func(t int, item *program.Item) (parts []int) {
		for _, x := range []part{{item.Role, true}, {item.Assignee, false}} {
			if x.name != "" {
				parts = append(parts, m.partOf(index, t, x))
			}
		}
		return parts
	}
	for n := range m.nodes {
		if node := &m.nodes[n]; node.team >= 0 {
			node.parts = asked(node.team, &m.p.Items[node.item])
		}
	}
	for t := range m.slots {
		for s := range m.slots[t] {
			for slot := &m.slots[t][s]; len(slot.parts) < len(m.parts[t]); {
				slot.parts = append(slot.parts, 0)
			}
		}
	}
	for n := range m.nodes {
		if node := &m.nodes[n]; node.fixed {
			m.slots[node.team][node.now].take(node.parts, node.size)
		}
	}
	for i := range m.p.Items {
		item := &m.p.Items[i]
		if place, placed := m.p.Place(i); placed && item.State == program.Done && item.Size != nil && m.tree.IsLeaf(i) {
			m.slots[place.Team][place.Slot].take(asked(place.Team, item), *item.Size)
		}
	}
}

// partOf is the position of a part among those of its team; one that is new comes last.
func (m *model) partOf(index []map[part]int, t int, x part) int {
	if index[t] == nil {
		index[t] = map[part]int{}
	}
	k, known := index[t][x]
	if !known {
		k = len(m.parts[t])
		index[t][x], m.parts[t] = k, append(m.parts[t], x)
	}
	return k
}

func (s *slot) take(parts []int, size float64) {
	for _, k := range parts {
		if k < len(s.parts) {
			s.parts[k] -= size
		}
	}
}

// full is the part of node n that slot s has no room for; false where each has.
func (pl *sketch) full(m *model, n, s int) (part, bool) {
	node := &m.nodes[n]
	for _, k := range node.parts {
		if room := pl.parts[node.team][s][k]; room < -eps || room < node.size-eps {
			return m.parts[node.team][k], true
		}
	}
	return part{}, false
}

// words names a part: a role by itself, a person by name.
func (m *model) words(x part) string {
	if x.role {
		return x.name
	}
	for i := range m.p.People {
		if m.p.People[i].Key == x.name {
			return m.p.People[i].Name
		}
	}
	return x.name
}

// neverInParts says why a node cannot be placed for what its role, or who is assigned, can carry.
func (m *model) neverInParts(n int) *Why {
	node := &m.nodes[n]
	for _, k := range node.parts {
		largest := 0.0
		for _, s := range m.usable[node.team] {
			largest = max(largest, m.slots[node.team][s].parts[k])
		}
		x := m.parts[node.team][k]
		switch {
		case node.size <= largest+eps:
		case largest <= eps && x.role:
			return &Why{Code: WhyNoRole, Text: fmt.Sprintf("%s has nobody left with the role %s", m.p.Teams[node.team].Name, x.name)}
		case largest <= eps:
			return &Why{Code: WhyNoRole, Text: fmt.Sprintf("%s has no time left in %s", m.words(x), m.p.Teams[node.team].Name)}
		default:
			return &Why{Code: WhyTooLarge, Text: fmt.Sprintf("Larger than %s can still carry in any iteration: %s at most", m.words(x), number(largest))}
		}
	}
	return nil
}
