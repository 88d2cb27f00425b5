package schedule

import (
	"cmp"
	"math"
	"slices"

	"jantrel/core/needs"
)

// crowd asks by when all that some finals ask for could be done.
type crowd struct {
	m        *model
	group    []*final
	possible [][]int
	sets     []uint32 // of each node: the finals of the group that it is one of, or that wait for it
	order    []int    // the nodes concerned, each after what it needs
	place    [][]int  // by team and slot: its position among the usable ones, by end
	room     [][]float64
	sizes    [][]float64 // by team: of the nodes concerned, each once
	ends     []Date      // on which something could be done, and that of what is unplaced
	own      []Date      // earliest end of each final by itself

	by     []Date  // of each node: when it has to be done; never where it has not to be
	domain [][]int // of each node: where it could stand in time
	load   []float64
	count  []int
}

func (m *model) newCrowd(group []*final, possible [][]int) *crowd {
	c := &crowd{m: m, group: group, by: make([]Date, len(m.nodes)), possible: possible, sets: make([]uint32, len(m.nodes)), domain: make([][]int, len(m.nodes)),
		place: make([][]int, len(m.slots)), room: make([][]float64, len(m.slots)), sizes: make([][]float64, len(m.slots))}
	for i, f := range group {
		for _, n := range f.nodes {
			c.ask(n, 1<<i)
		}
		c.own = append(c.own, m.ownEnd(f, possible))
	}
	for _, n := range m.order {
		if c.sets[n] != 0 {
			c.order = append(c.order, n)
			c.sizes[m.nodes[n].team] = append(c.sizes[m.nodes[n].team], m.nodes[n].size)
		}
	}
	for t := range m.slots {
		exact := newSums(c.sizes[t])
		slices.Sort(c.sizes[t])
		c.sizes[t] = slices.Compact(c.sizes[t])
		c.place[t] = make([]int, len(m.slots[t]))
		for i, s := range m.usable[t] {
			c.place[t][s] = i
			c.room[t] = append(c.room[t], exact.below(max(0, m.slots[t][s].room)))
			c.ends = append(c.ends, m.slots[t][s].End)
		}
	}
	c.ends = append(c.ends, m.lastEnd.Add(UnplacedDays))
	slices.Sort(c.ends)
	c.ends = slices.Compact(c.ends)
	return c
}

// ask notes that a final waits for a node and for all that this needs.
func (c *crowd) ask(n int, set uint32) {
	node := &c.m.nodes[n]
	if c.sets[n]&set != 0 || node.fixed || len(c.possible[n]) == 0 {
		return
	}
	c.sets[n] |= set
	for _, a := range node.needs {
		c.ask(a.node, set)
	}
}

// earliest is a date before which the finals of a set cannot all have finished.
func (c *crowd) earliest(set uint32) Date {
	var own Date
	for i, end := range c.own {
		if set&(1<<i) != 0 {
			own = max(own, end)
		}
	}
	from, _ := slices.BinarySearch(c.ends, own)
	to := len(c.ends) - 1 // by then all has finished, unplaced or not
	by := make([]Date, len(c.group))
	for from < to {
		mid := (from + to) / 2
		for i := range by {
			if by[i] = c.never(); set&(1<<i) != 0 {
				by[i] = c.ends[mid]
			}
		}
		if c.feasible(by) {
			to = mid
		} else {
			from = mid + 1
		}
	}
	return max(own, c.ends[from])
}

// never is when something unplaced counts as finishing.
func (c *crowd) never() Date { return c.ends[len(c.ends)-1] }

// sameLate is the position of the last end by which a final is no later than by that at one.
func (c *crowd) sameLate(f *final, at int) int {
	late := c.m.lateAt(f, c.ends[at])
	for at+1 < len(c.ends) && c.m.lateAt(f, c.ends[at+1]) == late {
		at++
	}
	return at
}

// feasible reports false where not all that the finals ask for can be done in time, each by a
// date of its own: where a node could stand nowhere in time for that and for what waits for it,
// or where in some run of a team's slots more has to stand than fits, by size or by number (of
// those of a size or more: no slot takes more of them than that size goes into its room).
func (c *crowd) feasible(by []Date) bool {
	for i := len(c.order) - 1; i >= 0; i-- {
		n := c.order[i]
		c.by[n] = c.never()
		for f := range by {
			if c.sets[n]&(1<<f) != 0 {
				c.by[n] = min(c.by[n], by[f])
			}
		}
		if c.by[n] == c.never() {
			continue
		}
		c.domain[n] = c.domain[n][:0]
		for _, s := range c.possible[n] {
			if c.m.end(n, s) <= c.by[n] && c.inTime(n, s) {
				c.domain[n] = append(c.domain[n], s)
			}
		}
		if len(c.domain[n]) == 0 {
			return false
		}
	}
	for t := range c.m.slots {
		if len(c.sizes[t]) > 0 && !c.fits(t) {
			return false
		}
	}
	return true
}

func (c *crowd) inTime(n, s int) bool {
	place := c.m.place(n, s)
	for _, w := range c.m.nodes[n].wanted {
		if c.sets[w] == 0 || c.by[w] == c.never() {
			continue
		}
		for _, a := range c.m.nodes[w].needs {
			if a.node == n && !slices.ContainsFunc(c.domain[w], func(o int) bool { return needs.Holds(c.m.share, place, c.m.place(w, o), a.lag) }) {
				return false
			}
		}
	}
	return true
}

// fits reports whether what has to stand in any run of a team's slots could, by size and number.
func (c *crowd) fits(t int) bool {
	slots := len(c.room[t])
	c.load = append(c.load[:0], make([]float64, slots*slots)...)
	for _, size := range c.sizes[t] {
		if size <= eps {
			continue
		}
		c.count = append(c.count[:0], make([]int, slots*slots)...)
		for _, n := range c.order {
			node := &c.m.nodes[n]
			if node.team != t || c.by[n] == c.never() || node.size < size-eps {
				continue
			}
			first, last := slots, -1
			for _, s := range c.domain[n] {
				first, last = min(first, c.place[t][s]), max(last, c.place[t][s])
			}
			c.count[first*slots+last]++
			if node.size <= size+eps {
				c.load[first*slots+last] += node.size
			}
		}
		if !run(slots, func(first, last int) float64 { return float64(c.count[first*slots+last]) }, func(s int) float64 { return math.Floor((c.room[t][s] + eps) / size) }) {
			return false
		}
	}
	return run(slots, func(first, last int) float64 { return c.load[first*slots+last] }, func(s int) float64 { return c.room[t][s] })
}

// run reports whether in every run of slots there is room for all that has to stand within it.
func run(slots int, need func(first, last int) float64, room func(int) float64) bool {
	within := make([]float64, slots) // from the first that is looked at to each
	for first := slots - 1; first >= 0; first-- {
		takes, has := 0.0, 0.0
		for last := first; last < slots; last++ {
			has += need(first, last)
			within[last] += has
			if takes += room(last); within[last] > takes+1e-6 {
				return false
			}
		}
	}
	return true
}

// sums are all that some sizes can add up to; nil where these are too many to tell.
type sums []float64

const mostSums = 4096

func newSums(sizes []float64) sums {
	all := sums{0}
	for _, size := range sizes {
		if size <= eps {
			continue
		}
		more := make(sums, 0, 2*len(all))
		for _, x := range all {
			more = append(more, x, x+size)
		}
		slices.Sort(more)
		all = slices.CompactFunc(more, func(a, b float64) bool { return cmp.Compare(math.Round(a/eps), math.Round(b/eps)) == 0 })
		if len(all) > mostSums {
			return nil
		}
	}
	return all
}

// below is the largest sum that is no more than room; room itself where that is not known.
func (s sums) below(room float64) float64 {
	if s == nil {
		return room
	}
	at, _ := slices.BinarySearch(s, room+2*eps)
	return s[max(0, at-1)]
}
