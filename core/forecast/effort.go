package forecast

import (
	"fmt"
	"math"

	"gonum.org/v1/gonum/stat"

	"jantrel/core/calendar"
	"jantrel/core/capacity"
	"jantrel/core/program"
	"jantrel/core/words"
)

// What items tell of how teams work from day to day. The figures are stated assumptions, for where items tell nothing.
const (
	lookedAt  = 366 // days of the past that are looked at
	likeSize  = 1.5 // items that are up to so many times as large, or as small, tell how long one takes
	evenPace  = 1   // as how many iterations an even pace counts, against those that items tell of
	fewerDays = 12  // as how many iterations it counts that days vary as is assumed
	ofOneDay  = 0.5 // which share of what iterations vary by (variance) is assumed to come from single days,
	atMostDay = 0.9 // and does so at the most
	tellsOf   = 0.5 // an iteration is told of by its items where they account for so much of what it completed
)

// effort is what a team did on which day, as far as its items tell: what is done was worked on at an even pace on the days
// of work from the one on which it began to the one on which it was done; where nobody knows when it began, on the last.
type effort struct {
	from  Date
	works []float64 // member-days, from then until today
	days  []int     // of work before each of them, and in all
	did   []float64 // sizes
	took  []took    // what is done with a first day
}

// took is how many days of work something of a size took, the first and the last included.
type took struct {
	size float64
	days int
}

// efforts are what each team did on which day.
func (g *game) efforts() []effort {
	efforts, teams := make([]effort, len(g.teams)), g.p.TeamAt()
	for t := range efforts {
		efforts[t] = g.effortOf(t)
	}
	for i := range g.p.Items {
		if item := &g.p.Items[i]; item.State == program.Done && g.tree.IsLeaf(i) {
			t, ok := teams[item.Team]
			if place, placed := g.p.Place(i); ok && placed {
				efforts[t].add(item, g.p.Teams[t].Iterations[place.Slot].Span())
			}
		}
	}
	for t := range efforts {
		g.teams[t].beside, g.teams[t].aside = efforts[t].beside()
	}
	return efforts
}

// effortOf works out what a team did, from its first iteration on that is looked at. The time is linear in the days that
// its items took.
func (g *game) effortOf(t int) effort {
	e := effort{from: g.today}
	for i := range g.p.Teams[t].Iterations {
		e.from = min(e.from, g.p.Teams[t].Iterations[i].Start)
	}
	e.from = max(e.from, g.today.Add(-lookedAt))
	e.works = g.workdays(t, calendar.Span{Start: e.from, End: g.today})
	e.did, e.days = make([]float64, len(e.works)), make([]int, len(e.works)+1)
	for i, w := range e.works {
		e.days[i+1] = e.days[i]
		if w > 0 {
			e.days[i+1]++
		}
	}
	return e
}

// add notes what is done, with the days of the iteration that it stands in. Of something else its day tells nothing: it
// may have been brought in from elsewhere.
func (e *effort) add(item *program.Item, in calendar.Span) {
	last := int(item.DoneOn - e.from)
	if item.Size == nil || *item.Size <= 0 || item.DoneOn.IsZero() || !in.Holds(item.DoneOn) || last < 0 || last >= len(e.works) {
		return
	}
	first := last
	if !item.Began.IsZero() && item.Began <= item.DoneOn && item.Began >= e.from {
		first = int(item.Began - e.from)
		e.took = append(e.took, took{*item.Size, max(1, e.between(first, last))})
	}
	days := e.between(first, last)
	if days == 0 { // on a day on which nobody was to work
		e.did[last] += *item.Size
		return
	}
	for i := first; i <= last; i++ {
		if e.works[i] > 0 {
			e.did[i] += *item.Size / float64(days)
		}
	}
}

// between is how many days of work there are from one day to another, both included.
func (e *effort) between(first, last int) int { return e.days[last+1] - e.days[first] }

// beside is how many other things usually go on beside one, in the mornings of days of work, and what is done of those
// behind one by the time it is done: they began in turn, so half of the size of each, and half of these are ahead of it.
func (e *effort) beside() (others, done float64) {
	under, sizes := 0, 0.0
	for _, t := range e.took {
		under, sizes = under+t.days-1, sizes+t.size
	}
	days := 0
	for i, did := range e.did[:len(e.did)-1] {
		if did > 0 && e.works[i] > 0 {
			days++
		}
	}
	if days == 0 || len(e.took) == 0 {
		return 0, 0
	}
	others = max(0, float64(under)/float64(days)-1)
	return others, others / 2 * sizes / float64(len(e.took))
}

// unknown is what is left of something begun that nothing is known of: anything, half of it on average.
var unknown = []float64{0.125, 0.375, 0.625, 0.875}

// left are the shares of an item under way that may be left of it, each as likely: all of it on the day on which it began;
// later what comparable items had left that took longer than that: of one that took n days, of which a are over,
// (n − a − ½) ÷ (n − 1), as it began and ended at any time of the day. That nothing is known counts as one of those.
func (e *effort) left(item *program.Item, size float64) []float64 {
	first := int(item.Began - e.from)
	switch {
	case item.Began.IsZero() || first < 0:
		return unknown
	case first >= len(e.works)-1:
		return nil
	}
	age, shares := e.between(first, len(e.works)-2), []float64(nil)
	for _, like := range e.took {
		if like.days > age && like.size <= likeSize*size && like.size*likeSize >= size && age > 0 {
			for _, at := range [...]float64{0.25, 0.75} {
				shares = append(shares, (float64(like.days-age)-at)/float64(like.days-1))
			}
		}
	}
	switch {
	case age == 0: // nobody has worked since
		return nil
	case len(shares) == 0:
		return unknown
	}
	return append(shares, 0.25, 0.75)
}

// seen is what is known of a team's iteration under way.
type seen struct {
	full   float64 // what a pace of 1 brings in the whole iteration
	faster float64 // what its pace is multiplied by from now on
	passed float64 // which share of its work is usually done by now
	did    float64 // how much is, before today
	unsure float64 // variance of that, as nobody knows how much of what is under way is left
	today  float64 // how much of it is done today
	daily  float64 // variance of an iteration that comes from single days ÷ the square of its mean
}

// see notes of each iteration under way what is done of it by now.
func (g *game) see(figures [][]capacity.Figure, efforts []effort, nodeOf []int) {
	daily, under := g.daily(efforts), make([]*period, len(g.teams))
	for at := range g.periods {
		p := &g.periods[at]
		if p.Start > g.today || p.rest <= 0 || p.base <= 0 {
			continue
		}
		e := &efforts[p.team]
		p.seen = &seen{full: g.usual(p.team, figures[p.team][p.iteration]), faster: g.asIf.pace(g.paces[p.team].Team), daily: daily, passed: g.usually(e, p.team, 1-p.rest)}
		today := len(e.works) - 1
		for i := max(0, int(p.Start-e.from)); i < today; i++ {
			p.seen.did += e.did[i]
		}
		p.seen.today = e.did[today]
		under[p.team] = p
	}
	teams := g.p.TeamAt()
	for i := range g.p.Items {
		item := &g.p.Items[i]
		t, ok := teams[item.Team]
		if !ok || under[t] == nil || !g.tree.IsLeaf(i) {
			continue
		}
		switch p := under[t]; {
		case item.State == program.Done && item.DoneOn.IsZero() && item.Size != nil && item.Iteration == g.p.Teams[t].Iterations[p.iteration].Key:
			p.seen.did += *item.Size // on some day of it
		case item.State.UnderWay() && nodeOf[i] >= 0:
			p.seeBegun(&efforts[t], item, &g.nodes[nodeOf[i]])
		}
	}
	for t, p := range under {
		if p != nil && p.seen.passed > 0 && g.teams[t].gait.at[0].scale > 0 {
			g.paces[t].Says += p.says(&g.p.Teams[t], g.teams[t].gait.usual)
		}
	}
}

// says puts into a sentence what is done of the iteration by now, and what its pace would have brought.
func (p *period) says(team *program.Team, pace float64) string {
	amount := func(size float64) string { return words.Number(size) + " " + team.Unit.Sign() }
	return fmt.Sprintf(". In %s, with work in progress counted in part, it has done %s so far; at its usual pace it would have done %s",
		team.Iterations[p.iteration].Label(), amount(p.seen.did), amount(p.seen.passed*p.seen.full*pace))
}

// seeBegun adds what is done of an item under way, as far as it was in this iteration.
func (p *period) seeBegun(e *effort, item *program.Item, n *node) {
	size := 0.0
	if item.Size != nil {
		size = *item.Size
	}
	left, spread := n.size, 0.0
	if n.sizes != nil {
		left, spread = stat.PopMeanStdDev(n.sizes, nil)
		left, spread = n.share*left, n.share*spread
	}
	if item.Size == nil && n.sizes != nil && n.share > 0 { // of a size that is drawn
		size, spread = left/n.share, spread*(1-n.share)/n.share
	}
	here, first, start := 1.0, int(item.Began-e.from), int(p.Start-e.from)
	if !item.Began.IsZero() && first >= 0 && first < start {
		if all := e.between(first, len(e.works)-2); all > 0 {
			here = float64(e.between(min(max(0, start), len(e.works)-2), len(e.works)-2)) / float64(all)
		}
	}
	p.seen.did += here * max(0, size-left)
	p.seen.unsure += here * spread
}

// courses goes through the iterations of a team that its items tell of: of each, how much of its work was done by the time
// at which a share of its member-days had passed, for each of these.
func (g *game) courses(e *effort, t int, passed []float64, of func(done []float64)) {
	for i := range g.p.Teams[t].Iterations {
		it := &g.p.Teams[t].Iterations[i]
		first, last := int(it.Start-e.from), int(it.End-e.from)
		if !it.Past() || it.LeftOut != "" || first < 0 || last >= len(e.works)-1 {
			continue
		}
		days, all := 0.0, 0.0
		for d := first; d <= last; d++ {
			days, all = days+e.works[d], all+e.did[d]
		}
		if days <= 0 || all <= 0 || all < tellsOf**it.Completed {
			continue
		}
		done := make([]float64, len(passed))
		for k, share := range passed {
			rest := share * days
			for d := first; d <= last && rest > 0; d++ {
				if e.works[d] > 0 {
					done[k] += e.did[d] * min(1, rest/e.works[d]) / all
				} else {
					done[k] += e.did[d] / all
				}
				rest -= e.works[d]
			}
		}
		of(done)
	}
}

// usually is which share of its work a team usually has done when a share of an iteration's member-days has passed.
func (g *game) usually(e *effort, t int, passed float64) float64 {
	sum, n := evenPace*passed, float64(evenPace)
	g.courses(e, t, []float64{passed}, func(done []float64) { sum, n = sum+done[0], n+1 })
	return min(1, sum/n)
}

// daily is how much of what iterations vary by comes from single days (the variance ÷ the square of the mean), of all teams:
// by how far the shares that were done after a quarter, half and three quarters of past iterations vary. Were days
// independent of one another, the share f would vary by f(1 − f) times it.
func (g *game) daily(efforts []effort) float64 {
	quarters := []float64{0.25, 0.5, 0.75}
	sum, n := fewerDays*ofOneDay*g.spread*g.spread, float64(fewerDays)
	for t := range efforts {
		var all [3][]float64
		g.courses(&efforts[t], t, quarters, func(done []float64) {
			for k := range all {
				all[k] = append(all[k], done[k])
			}
		})
		for k, passed := range quarters {
			if len(all[k]) >= enough {
				of := float64(len(all[k])-1) / float64(len(quarters))
				sum, n = sum+of*stat.Variance(all[k], nil)/(passed*(1-passed)), n+of
			}
		}
	}
	return sum / n
}

// goOn is what a team does in the rest of its iteration under way, with luck e. An iteration brings L in all, the pace of
// which a play believes, and each share f of it is done with a variance of f × that of single days. What is done by now
// tells L as far as single days let it (normal distributions; what was seen widens or narrows what the team is believed to
// vary by as one more iteration does).
func (s *seen) goOn(w *walk, freedom, lowest, e float64) float64 {
	mean, sd := w.mean, w.sd
	if w.known {
		mean, sd = mean+w.rho*w.deviation, w.keep*sd
	}
	all, variance := s.full*mean, s.full*sd*s.full*sd
	days := min(s.daily*all*all, atMostDay*variance)
	whole := variance - days
	if f := s.passed; f > 0 && variance > 0 {
		off, unsure := s.did/f-all, s.unsure*s.unsure/(f*f)
		wider := (freedom + off*off/(whole+days/f+unsure)) / (freedom + 1)
		whole, days = wider*whole, wider*days
		learned := whole / (whole + days/f + unsure)
		all, whole = all+learned*off, whole*(1-learned)
	}
	rest := 1 - s.passed
	more := rest*all + e*math.Sqrt(rest*rest*whole+rest*days)
	more = max(more, lowest)
	w.deviation, w.known = (s.did+more)/s.full-w.mean, true
	return max(more*s.faster-s.today, lowest)
}
