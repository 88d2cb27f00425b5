package capacity

import (
	"cmp"
	"slices"

	"jantrel/core/calendar"
	"jantrel/core/plan"
	"jantrel/core/program"
)

// Days are the working days of one person within a span.
type Days struct {
	Full     int `json:"full"`     // by weekday
	Present  int `json:"present"`  // of these, within the dates of the share
	Holidays int `json:"holidays"` // of these, lost to holidays
	Off      int `json:"off"`      // of the others, days off
	Worked   int `json:"worked"`   // what is left
}

// counter counts days for all teams of a program; what is the same for each
// iteration is worked out once.
type counter struct {
	p       *plan.Plan
	lengths map[string]int // days of each cadence
	people  map[string]*person
}

// person is a program.Person as the day counts see it.
type person struct {
	*program.Person
	weekdays calendar.Weekdays
	off      []calendar.Span // in order, none meeting another
}

func newCounter(p *plan.Plan) *counter {
	c := &counter{p: p, lengths: make(map[string]int, len(p.Cadences)), people: make(map[string]*person, len(p.People))}
	for _, cadence := range p.Cadences {
		c.lengths[cadence.Key] = cadence.LengthDays
	}
	for i := range p.People {
		x := &p.People[i]
		c.people[x.Key] = &person{x, calendar.WeekdaysOf(x.Weekdays), merged(x.DaysOff)}
	}
	return c
}

// merged returns days off in order, joined where they meet: a day that was
// entered twice counts once.
func merged(off []program.DayOff) []calendar.Span {
	spans := make([]calendar.Span, len(off))
	for i, o := range off {
		spans[i] = calendar.Span{Start: o.From, End: o.To}
	}
	slices.SortFunc(spans, func(a, b calendar.Span) int { return cmp.Compare(a.Start, b.Start) })
	joined := spans[:0]
	for _, s := range spans {
		if n := len(joined); n > 0 && s.Start <= joined[n-1].End {
			joined[n-1].End = max(joined[n-1].End, s.End)
			continue
		}
		joined = append(joined, s)
	}
	return joined
}

// crew is a team as the day counts see it.
type crew struct {
	seats    []seat
	holidays []holiday // in order, one a date
}

type seat struct {
	member     int // position in Team.Members; -1 for the one who stands for a team without members
	person     *person
	name       string
	share      float64
	dates      calendar.Span
	complete   bool // belongs to the complete team
	unitPerDay float64
}

type holiday struct {
	date program.Date
	name string
}

func (c *counter) crew(t *program.Team) *crew {
	k := &crew{}
	for _, h := range c.p.Holidays {
		if len(h.Teams) == 0 || slices.Contains(h.Teams, t.Key) {
			k.holidays = append(k.holidays, holiday{h.Date, h.Name})
		}
	}
	slices.SortStableFunc(k.holidays, func(a, b holiday) int { return cmp.Compare(a.date, b.date) })
	k.holidays = slices.CompactFunc(k.holidays, func(a, b holiday) bool { return a.date == b.date })
	for i, m := range t.Members {
		x := c.people[m.Person]
		if x == nil {
			continue
		}
		s := seat{i, x, x.Name, m.Share, m.Span(), true, 1}
		if t.Unit == program.Hours {
			s.unitPerDay = x.Hours()
		}
		k.seats = append(k.seats, s)
	}
	if len(k.seats) == 0 {
		k.seats = []seat{{-1, &person{weekdays: calendar.MondayToFriday}, "", 1, calendar.Span{End: calendar.Latest}, true, 1}}
		if t.Unit == program.Hours {
			k.seats[0].unitPerDay = 8
		}
	}
	k.markComplete()
	return k
}

// markComplete finds the complete team: the seats held on the first day on which
// the shares sum to the most. The sum grows only on first days.
func (k *crew) markComplete() {
	most, day := -1.0, program.Date(0)
	for i := range k.seats {
		first, sum := k.seats[i].dates.Start, 0.0
		for j := range k.seats {
			if k.seats[j].dates.Holds(first) {
				sum += k.seats[j].share
			}
		}
		if sum > most+1e-9 || sum > most-1e-9 && first < day {
			most, day = sum, first
		}
	}
	for i := range k.seats {
		k.seats[i].complete = k.seats[i].dates.Holds(day)
	}
}

func (k *crew) holidaysIn(span calendar.Span) []holiday {
	from, _ := slices.BinarySearchFunc(k.holidays, span.Start, func(h holiday, d program.Date) int { return cmp.Compare(h.date, d) })
	to := from
	for to < len(k.holidays) && k.holidays[to].date <= span.End {
		to++
	}
	return k.holidays[from:to]
}

// count counts the seat's working days within a span. A holiday on a day off
// counts as holiday. lost, unless nil, gains share × days by holiday.
func (s *seat) count(span calendar.Span, closed []holiday, lost []float64) Days {
	mask := s.person.weekdays
	d := Days{Full: mask.Count(span)}
	present := calendar.Span{Start: max(span.Start, s.dates.Start), End: min(span.End, s.dates.End)}
	d.Present = mask.Count(present)
	for i, h := range closed {
		if mask.Has(h.date) && present.Holds(h.date) {
			d.Holidays++
			if lost != nil {
				lost[i] += s.share
			}
		}
	}
	off := s.person.off
	i, _ := slices.BinarySearchFunc(off, present.Start, func(o calendar.Span, d program.Date) int { return cmp.Compare(o.End, d) })
	for ; i < len(off) && off[i].Start <= present.End; i++ {
		part := calendar.Span{Start: max(off[i].Start, present.Start), End: min(off[i].End, present.End)}
		d.Off += mask.Count(part)
		for _, h := range closed {
			if mask.Has(h.date) && part.Holds(h.date) {
				d.Off--
			}
		}
	}
	d.Worked = d.Present - d.Holidays - d.Off
	return d
}

// WeekOf returns the member-days a week of the complete team at t, with nobody away.
func WeekOf(p *plan.Plan, t int) float64 { return crews(p)[t].week(nil) }

// WeekOn returns the same of those in the team on a day; where nobody is, of the complete
// team.
func WeekOn(p *plan.Plan, t int, on program.Date) float64 {
	k := crews(p)[t]
	if there := k.week(&on); there > 0 {
		return there
	}
	return k.week(nil)
}

// week sums share × weekdays over the seats held on a day, or over the complete team.
func (k *crew) week(on *program.Date) float64 {
	sum := 0.0
	for i := range k.seats {
		s := &k.seats[i]
		if on == nil && s.complete || on != nil && s.dates.Holds(*on) {
			sum += s.share * float64(s.person.weekdays.Count(calendar.Span{Start: 0, End: 6}))
		}
	}
	return sum
}
