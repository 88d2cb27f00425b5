package levers

import (
	"bytes"
	"cmp"
	"math"
	"slices"

	"jantrel/core/forecast"
	"jantrel/core/program"
)

// gain is by how much something stands better with a lever, as far as that is no luck of the plays.
type gain struct {
	points int // of chance, whole ones; below 0: worse
	tenths int // of a late day; below 0: worse
}

// surely is how many times its standard error a difference has to be to count.
const surely = 2

// paired is the difference between two plans in plays with the same luck. Its standard error is
// √((m₂ − m²) ÷ n), with m the mean of the differences and m₂ that of their squares: of a chance,
// √((b + c) ÷ n − g²) ÷ √n, with b and c the shares of plays that come to be, and cease to be, on time.
type paired struct{ n, sum, squares float64 }

func (p *paired) add(difference float64) {
	p.n++
	p.sum += difference
	p.squares += difference * difference
}

// sure is the mean of the differences; 0 where it is too small to be told from luck.
func (p *paired) sure() float64 {
	mean := p.sum / p.n
	if err := math.Sqrt(max(0, p.squares/p.n-mean*mean) / p.n); !(math.Abs(mean) >= surely*err) {
		return 0
	}
	return mean
}

// gainOf compares how something lands in the same plays of two plans.
func gainOf(was, now forecast.Landing, today program.Date) gain {
	var chance, late paired
	due := today
	if !now.Due.IsZero() {
		due = now.Due
	}
	days := func(landed int32) float64 { return float64(max(0, int(today)+int(landed)-int(due))) }
	inTime := func(landed int32) float64 {
		if int(today)+int(landed) <= int(due) {
			return 1
		}
		return 0
	}
	for i := range was.Each {
		chance.add(inTime(now.Each[i]) - inTime(was.Each[i]))
		late.add(days(was.Each[i]) - days(now.Each[i]))
	}
	var g gain
	if was.Chance != nil && now.Chance != nil && chance.sure() != 0 {
		g.points = points(*now.Chance) - points(*was.Chance)
	}
	g.tenths = int(math.Round(10 * late.sure()))
	return g
}

// points are a chance in whole percent, as it is shown.
func points(chance float64) int { return int(100*chance + 0.5) }

// any reports whether it is better, and in nothing worse.
func (g gain) any() bool { return g.points >= 0 && g.tenths >= 0 && g != gain{} }

// gentle is what is asked of others by a lever of each kind, the least first: of two that are
// worth the same, the gentler comes first.
var gentle = []Kind{Size, PutIn, Move, Draft, Lend, Team, Split, Relax, Shrink, Drop}

// candidate is a lever that may be worth its place in the answer.
type candidate struct {
	Lever
	gain gain
	full bool    // it was played as often as the answer says
	asks float64 // how much it asks for, among those of its kind: what goes of the work; the days of whom it lends
	who  string  // whom it lends, to which team
}

// compare puts the better one first: points of chance, then late days of what is to be mended, how little it asks of
// others, by its kind and within it, then late days of the whole plan. What is no more than the luck of the plays counts
// for nothing.
func compare(a, b *candidate) int {
	return cmp.Or(cmp.Compare(b.gain.points, a.gain.points), cmp.Compare(b.gain.tenths, a.gain.tenths),
		cmp.Compare(slices.Index(gentle, a.Kind), slices.Index(gentle, b.Kind)), cmp.Compare(a.asks, b.asks),
		cmp.Compare(math.Round(10*a.Then.ExpectedLateDays), math.Round(10*b.Then.ExpectedLateDays)),
		cmp.Compare(len(a.Changes), len(b.Changes)), cmp.Compare(a.Text, b.Text))
}

// How many an answer has.
const (
	most       = 9
	mostOfKind = 3 // so that whoever can't do without any item finds something too
)

// offer picks, of some candidates, those for the answer, the best first: of each kind a few; none that does all that a
// better one does and more, so that nothing is offered twice in other words; and nobody is lent to the same team
// twice.
func offer(all []*candidate) (best []*candidate) {
	slices.SortStableFunc(all, compare)
	of, lent := map[Kind]int{}, map[string]bool{}
	for _, c := range all {
		contains := func(b *candidate) bool { return within(b.Changes, c.Changes) }
		if len(best) == most || of[c.Kind] == mostOfKind || lent[c.who] || slices.ContainsFunc(best, contains) {
			continue
		}
		of[c.Kind]++
		if best = append(best, c); c.who != "" {
			lent[c.who] = true
		}
	}
	return best
}

// within reports whether all of some changes are among others.
func within(some, others []program.Change) bool {
	return len(some) <= len(others) && !slices.ContainsFunc(some, func(c program.Change) bool {
		return !slices.ContainsFunc(others, func(o program.Change) bool {
			return c.Op == o.Op && c.Ref == o.Ref && c.Field == o.Field && bytes.Equal(c.Value, o.Value)
		})
	})
}
