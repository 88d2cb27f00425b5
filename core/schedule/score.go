package schedule

import "jantrel/core/needs"

// score counts how good a plan is; LateDaysBound is left 0.
func (m *model) score(slot []int) Score {
	var s Score
	for i := range m.finals {
		late, _ := m.late(&m.finals[i], slot)
		s.LateDays += late
	}
	for n := range m.nodes {
		node := &m.nodes[n]
		if node.counts {
			s.Importance += node.weight * float64(m.end(n, slot[n])-m.today)
		}
		if slot[n] != node.now {
			s.Moves++
		}
	}
	return s
}

// late returns by how many days f is late in a plan, and when it finishes; no
// date where nothing of it is left that counts.
func (m *model) late(f *final, slot []int) (days int, finish Date) {
	for _, n := range f.nodes {
		if slot[n] != nowhere || m.nodes[n].counts {
			finish = max(finish, m.end(n, slot[n]))
		}
	}
	if finish.IsZero() {
		return 0, finish
	}
	if f.fixed != nil {
		for _, n := range f.nodes {
			days = max(days, m.lateIf(f, n, slot[n]))
		}
		return days, finish
	}
	return m.lateAt(f, finish), finish
}

// lateAt returns by how many days f is late if it finishes on a date.
func (m *model) lateAt(f *final, finish Date) int {
	switch {
	case f.fixed != nil:
		return max(0, int(finish)+f.lag-int(f.fixed.Start)+1)
	case f.due.IsZero():
		return max(0, int(finish-m.today))
	}
	return max(0, int(finish-f.due))
}

// lateIf is by how many days f is late for node n if that stands in slot s.
func (m *model) lateIf(f *final, n, s int) int {
	switch {
	case s == nowhere && !m.nodes[n].counts:
		return 0
	case f.fixed != nil && s != nowhere && needs.Holds(m.share, m.place(n, s), *f.fixed, f.lag):
		return 0
	}
	return m.lateAt(f, m.end(n, s))
}

// better reports whether a is the better score.
func (m *model) better(a, b Score) bool {
	if m.keep && a.Moves != b.Moves {
		return a.Moves < b.Moves
	}
	if a.LateDays != b.LateDays {
		return a.LateDays < b.LateDays
	}
	if d := a.Importance - b.Importance; d > 1e-6 || d < -1e-6 {
		return d < 0
	}
	return a.Moves < b.Moves
}
