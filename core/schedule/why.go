package schedule

import (
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"

	"jantrel/core/capacity"
	"jantrel/core/needs"
	"jantrel/core/program"
)

// Why is the reason for a place, or for having none. Code is for programs, Text
// for people; Item, Iteration, Cycle and Team are what the text speaks of.
type Why struct {
	Code      string   `json:"code"`
	Item      string   `json:"item,omitempty"`
	Iteration string   `json:"iteration,omitempty"`
	Cycle     []string `json:"cycle,omitempty"`
	Team      string   `json:"team,omitempty"` // where it is the team that lacks something
	Text      string   `json:"text"`
	// Earlier is what would have to change for it to stand one iteration earlier; empty where
	// that cannot be.
	Earlier string `json:"earlier,omitempty"`
}

// The codes of placed items.
const (
	WhyPinned   = "pinned"      // pinned where it is
	WhyWorking  = "in-progress" // being worked on where it is
	WhyNotAsked = "not-asked"   // not among the items that may move
	WhyFrozen   = "frozen"      // its iteration stays as it is
	WhyFirst    = "first"       // its team's first open iteration
	WhyWaits    = "waits-for"   // what it needs ends too late for an earlier one
	WhyDate     = "not-before"  // its own date
	WhyFull     = "full"        // every earlier one it could have is full
	WhyStays    = "stays"       // could be earlier, but stands where it stands today
	WhyFree     = "left-free"   // could be earlier, but room is left free there on purpose
)

// The codes of unplaced items.
const (
	WhyNoSize   = "no-size"
	WhyNoTeam   = "no-team"
	WhyTooLarge = "too-large"
	WhyCycle    = "cycle"
	WhyWaitsOn  = "waits-for-unplaced"
	WhyNoRole   = "no-role" // where roles and people are limits: nobody can do it
	WhyNoRoom   = "no-room"
	WhyTooLate  = "not-before-last"
	WhyLeft     = "unplaced" // could be placed; nobody has
)

// cycleShown is how many items of a long cycle its text names.
const cycleShown = 8

// findNever finds what can never be placed, whatever the order.
func (m *model) findNever() {
	cycles := needs.Cycles(len(m.nodes), func(n int) []int {
		var to []int
		for _, a := range m.nodes[n].needs {
			to = append(to, a.node)
		}
		return to
	})
	for n := range m.nodes {
		node := &m.nodes[n]
		if node.fixed {
			continue
		}
		node.never = m.neverAlone(n)
		if node.never == nil && cycles[n] != nil {
			node.never = m.cycle(cycles[n])
		}
		if m.selected != nil && !m.selected[node.item] {
			node.never = &Why{Code: WhyNotAsked, Text: "Not among the items to be placed"}
		}
	}
}

// neverAlone says why a node cannot be placed for what it is by itself.
func (m *model) neverAlone(n int) *Why {
	node := &m.nodes[n]
	item := m.p.Items[node.item]
	switch {
	case item.Size == nil && node.assumed == nil:
		return &Why{Code: WhyNoSize, Text: "Has no size"}
	case node.team < 0:
		return &Why{Code: WhyNoTeam, Text: "Has no team"}
	case len(m.usable[node.team]) == 0:
		return &Why{Code: WhyNoRoom, Text: m.p.Teams[node.team].Name + " has no open iteration from today on"}
	}
	largest, lastStart := 0.0, Date(0)
	for _, s := range m.usable[node.team] {
		largest = max(largest, m.slots[node.team][s].capacity*m.fillTo[node.team])
		lastStart = max(lastStart, m.slots[node.team][s].Start)
	}
	if node.size > eps && largest <= eps {
		return &Why{Code: WhyTooLarge, Team: m.p.Teams[node.team].Key, Text: m.p.Teams[node.team].Name + " has no velocity and no capacity, so its iterations carry nothing"}
	}
	if node.size > largest+eps {
		return &Why{Code: WhyTooLarge, Text: fmt.Sprintf("Larger than any iteration can carry: the largest takes %s", number(largest))}
	}
	if why := m.neverInParts(n); why != nil {
		return why
	}
	if node.notBefore > lastStart {
		return &Why{Code: WhyTooLate, Text: fmt.Sprintf("Not before %s, and the last iteration starts %s", node.notBefore.Short(), lastStart.Short())}
	}
	return nil
}

func (m *model) cycle(nodes []int) *Why {
	w := Why{Code: WhyCycle}
	for _, n := range nodes {
		w.Cycle = append(w.Cycle, m.key(n))
	}
	w.Cycle = slices.Compact(w.Cycle) // pieces of one item follow one another
	shown := w.Cycle
	if len(shown) > cycleShown {
		shown = append(slices.Clone(shown[:cycleShown]), "…")
	}
	w.Text = "On a cycle of needs: " + strings.Join(append(slices.Clone(shown), w.Cycle[0]), " needs ")
	return &w
}

// whyPlaced says why node n stands where a plan has it, and what would let it stand earlier.
func (m *model) whyPlaced(pl *sketch, n int) Why {
	w := m.whyThere(pl, n)
	w.Earlier = m.earlier(pl, n)
	return w
}

// earlier says what would have to change for node n to stand one iteration earlier.
func (m *model) earlier(pl *sketch, n int) string {
	node, at := &m.nodes[n], pl.slot[n]
	if m.p.Items[node.item].State.UnderWay() {
		return ""
	}
	before := nowhere // the last that its team could use before
	for s := range m.slots[node.team] {
		if x := &m.slots[node.team][s]; (x.usable || x.frozen) && x.End < m.slots[node.team][at].Start && (before == nowhere || x.End > m.slots[node.team][before].End) {
			before = s
		}
	}
	if before == nowhere {
		return ""
	}
	var must []string
	x, key := &m.slots[node.team][before], m.key(n)
	switch {
	case m.p.Items[node.item].Pinned:
		must = append(must, key+" would have to be unpinned")
	case node.fixed:
		must = append(must, key+" would have to be among what may move")
	}
	if x.frozen {
		must = append(must, m.label(n, before)+" would have to be open to moves")
	}
	if x.Start < node.notBefore {
		must = append(must, fmt.Sprintf("its own date would have to be %s or earlier", x.Start.Short()))
	}
	for _, a := range node.needs {
		other := pl.slot[a.node]
		if other == nowhere || needs.Holds(m.share, m.place(a.node, other), x.Place, a.lag) {
			continue
		}
		by := fmt.Sprintf("%s would have to end by %s", m.key(a.node), x.Start.Add(-1-a.lag).Short())
		if m.share != program.ShareNever && a.lag == 0 && m.nodes[a.node].team == node.team {
			by = fmt.Sprintf("%s would have to stand in %s or before", m.key(a.node), m.label(n, before))
		}
		must = append(must, by)
	}
	if lacks := node.size - max(0, pl.room[node.team][before]); lacks > eps {
		must = append(must, fmt.Sprintf("%s would have to take %s more, or something of that size leave it", m.label(n, before), number(lacks)))
	}
	if len(must) == 0 {
		return ""
	}
	return fmt.Sprintf("To stand in %s: %s", m.label(n, before), strings.Join(must, "; "))
}

// whyThere says why node n stands where a plan has it.
func (m *model) whyThere(pl *sketch, n int) Why {
	node := &m.nodes[n]
	item := m.p.Items[node.item]
	at := pl.slot[n]
	if node.fixed {
		switch {
		case item.Pinned:
			return Why{Code: WhyPinned, Text: "Pinned to " + m.label(n, at)}
		case item.State == "doing" || item.State == "review":
			return Why{Code: WhyWorking, Text: "Already being worked on in " + m.label(n, at)}
		}
		if m.slots[node.team][at].frozen {
			return Why{Code: WhyFrozen, Iteration: m.iteration(n, at), Text: m.label(n, at) + " stays as it is"}
		}
		return Why{Code: WhyNotAsked, Text: "Stays where it is: not among the items that may move"}
	}
	usable := m.usable[node.team]
	index := slices.Index(usable, at)
	if index == 0 && m.freeze > 0 {
		return Why{Code: WhyFirst, Text: fmt.Sprintf("%s is the first iteration of %s that does not stay as it is", m.label(n, at), m.p.Teams[node.team].Name)}
	}
	if index == 0 {
		return Why{Code: WhyFirst, Text: fmt.Sprintf("%s is the first open iteration of %s", m.label(n, at), m.p.Teams[node.team].Name)}
	}
	if index < 0 {
		return Why{Code: WhyStays, Text: m.label(n, at) + " is closed or over; it needs a new place"}
	}
	// The latest of the iterations before decides: what keeps it out of that one
	// is what holds it here, unless some still earlier one would take it.
	full := nowhere
	for i := index - 1; i >= 0; i-- {
		s := usable[i]
		if !pl.allowed(m, n, s) {
			continue
		}
		if pl.fits(m, n, s) {
			if m.lean > 0 && at != node.now {
				return m.whyFree(pl, n, s)
			}
			return Why{Code: WhyStays, Iteration: m.iteration(n, s), Text: fmt.Sprintf("Stays where it is; %s has room for it", m.label(n, s))}
		}
		if full == nowhere {
			full = s
		}
	}
	if full != nowhere {
		return m.whyFull(pl, n, full)
	}
	return m.whyNotEarlier(pl, n, usable[index-1])
}

// whyFree says that slot s would have room for node n, which is left free, for which release, and
// what that takes up.
func (m *model) whyFree(pl *sketch, n, s int) Why {
	team := m.nodes[n].team
	filled := m.fillTo[team] - pl.room[team][s]/max(eps, m.slots[team][s].capacity)
	text := fmt.Sprintf("%s is filled to %s%% of its capacity on purpose", m.label(n, s), number(math.Round(100*max(0, filled))))
	if r := m.nextDue(team, s); r != "" {
		text += ", for " + r
	}
	if loss := m.shortfall(team) * m.slots[team][s].capacity; loss >= 0.05 {
		text += fmt.Sprintf(": in one of six iterations %s does %s less than usual", m.p.Teams[team].Name, number(math.Round(10*loss)/10))
	} else {
		text += ": what is left free takes up what goes slower than planned"
	}
	return Why{Code: WhyFree, Iteration: m.iteration(n, s), Text: text}
}

// nextDue names the release that is due next from a slot on, of those that the team has work of
// which can be late; empty where there is none.
func (m *model) nextDue(team, s int) string {
	name, due := "", Date(0)
	for i := range m.finals {
		f := &m.finals[i]
		if f.release < 0 || f.due < m.slots[team][s].Start || name != "" && f.due >= due {
			continue
		}
		if slices.ContainsFunc(f.nodes, func(n int) bool { return m.nodes[n].team == team }) {
			name, due = m.p.Releases[f.release].Name, f.due
		}
	}
	return name
}

// shortfall is the share by which a team does less than usual in the slowest sixth of its past
// iterations at the best of these; 0 where it has too few.
func (m *model) shortfall(team int) float64 {
	paces := capacity.PaceSamples(&m.p.Teams[team], capacity.Of(m.p)[team])
	if len(paces) < 3 {
		return 0
	}
	slices.Sort(paces)
	usual := 0.0
	for _, pace := range paces {
		usual += pace / float64(len(paces))
	}
	if usual <= 0 {
		return 0
	}
	return max(0, 1-paces[(len(paces)-1)/6]/usual)
}

// whyFull says that slot s, which node n could have by its needs, has no room;
// and if needs keep it out of still earlier ones, which.
func (m *model) whyFull(pl *sketch, n, s int) Why {
	node := &m.nodes[n]
	at := &m.slots[node.team][s]
	if x, full := pl.full(m, n, s); full && pl.room[node.team][s] >= node.size-eps {
		return Why{Code: WhyFull, Iteration: m.iteration(n, s), Text: fmt.Sprintf("%s has room, but not for %s", m.label(n, s), m.words(x))}
	}
	limit := at.capacity * m.fillTo[node.team]
	load := limit - pl.room[node.team][s]
	text := fmt.Sprintf("%s has no room: %s of %s taken", m.label(n, s), number(load), number(limit))
	if m.fillTo[node.team] < 1 {
		text += fmt.Sprintf(" (%s%% of its capacity)", number(m.fillTo[node.team]*100))
	}
	return Why{Code: WhyFull, Iteration: m.iteration(n, s), Text: text}
}

// whyNotEarlier says what keeps node n out of slot s other than room.
func (m *model) whyNotEarlier(pl *sketch, n, s int) Why {
	node := &m.nodes[n]
	place := m.place(n, s)
	latest, lag := -1, 0
	for _, a := range node.needs {
		if !needs.Holds(m.share, m.place(a.node, pl.slot[a.node]), place, a.lag) &&
			(latest < 0 || m.end(a.node, pl.slot[a.node]).Add(a.lag) > m.end(latest, pl.slot[latest]).Add(lag)) {
			latest, lag = a.node, a.lag
		}
	}
	if latest >= 0 {
		text := fmt.Sprintf("Waits for %s, which ends %s", m.key(latest), m.end(latest, pl.slot[latest]).Short())
		if lag > 0 {
			text += fmt.Sprintf(", and %d days more", lag)
		}
		return Why{Code: WhyWaits, Item: m.key(latest), Text: text}
	}
	return Why{Code: WhyDate, Text: "Not before " + node.notBefore.Short()}
}

// whyUnplaced says why node n has no place in a plan.
func (m *model) whyUnplaced(pl *sketch, n int) Why {
	node := &m.nodes[n]
	if node.never != nil {
		return *node.never
	}
	for _, a := range node.needs {
		if pl.slot[a.node] == nowhere {
			return Why{Code: WhyWaitsOn, Item: m.key(a.node), Text: fmt.Sprintf("Waits for %s, which is unplaced", m.key(a.node))}
		}
	}
	for _, s := range m.usable[node.team] {
		if pl.allowed(m, n, s) && pl.fits(m, n, s) {
			return Why{Code: WhyLeft, Iteration: m.iteration(n, s), Text: fmt.Sprintf("Could stand in %s from %s on", m.label(n, s), m.place(n, s).Start.Short())}
		}
	}
	last := m.usable[node.team][len(m.usable[node.team])-1]
	return Why{Code: WhyNoRoom, Text: fmt.Sprintf("No room before the end of the last iteration, %s", m.label(n, last))}
}

// whyNow says why a node stands where it stands today.
func (m *model) whyNow(n int) Why {
	pl := m.standing(m.now())
	if pl.slot[n] == nowhere {
		return m.whyUnplaced(&pl, n)
	}
	if !m.nodes[n].fixed {
		for _, a := range m.nodes[n].needs {
			if pl.slot[a.node] == nowhere {
				return Why{Code: WhyWaitsOn, Item: m.key(a.node), Text: fmt.Sprintf("Placed by hand, though %s, which it needs, is unplaced", m.key(a.node))}
			}
		}
		if !pl.needsHold(m, n, pl.slot[n]) {
			w := m.whyNotEarlier(&pl, n, pl.slot[n])
			w.Text = "Too early: " + strings.ToLower(w.Text[:1]) + w.Text[1:]
			return w
		}
	}
	return m.whyPlaced(&pl, n)
}

func (m *model) label(n, s int) string {
	return m.p.Teams[m.nodes[n].team].Iterations[s].Label()
}

func (m *model) iteration(n, s int) string {
	return m.p.Teams[m.nodes[n].team].Iterations[s].Key
}

// number writes a size without needless digits.
func number(x float64) string {
	return strconv.FormatFloat(float64(int64(x*100+0.5))/100, 'f', -1, 64)
}
