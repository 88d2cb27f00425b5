package forecast

import "slices"

// addHindered notes which items are not done before a defect is, as their tests wait for it. An item that the defect itself
// waits for does not: neither would ever be done.
func (g *game) addHindered(nodeOf []int) {
	for d := range g.p.Items {
		if !g.tree.ToSchedule(d) {
			continue
		}
		for _, key := range g.p.Items[d].Hinders {
			i, ok := g.tree.Index[key]
			if !ok || nodeOf[i] < 0 || i == d {
				continue
			}
			n, of := nodeOf[i], nodeOf[d]
			switch {
			case of < 0: // it cannot be played
				g.nodes[n].never = true
			case !g.waitsFor(of, n):
				g.nodes[n].hindered, g.nodes[of].hinders, g.hinders = append(g.nodes[n].hindered, of), append(g.nodes[of].hinders, n), true
			}
		}
	}
}

// waitsFor reports whether a node waits for another one, by whatever lies between them.
func (g *game) waitsFor(n, other int) bool {
	seen := make(map[int]bool)
	var waits func(n int) bool
	waits = func(n int) bool {
		if n == other {
			return true
		}
		if seen[n] {
			return false
		}
		seen[n] = true
		return slices.ContainsFunc(g.nodes[n].needs, func(a arc) bool { return waits(a.node) }) || slices.ContainsFunc(g.nodes[n].hindered, waits)
	}
	return waits(n)
}

// isHindered reports whether a defect that is not done hinders a node.
func (g *game) isHindered(b *board, n int) bool {
	for _, d := range g.nodes[n].hindered {
		if b.state[d].done < 0 {
			return true
		}
	}
	return false
}
