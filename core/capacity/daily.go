package capacity

import (
	"slices"

	"jantrel/core/calendar"
	"jantrel/core/plan"
)

// Daily returns a function that gives the member-days which the team at t works on each day of
// a span: the shares of those who are there on it. Over an iteration they sum up to its
// Figure.DaysWorked. It takes time linear in the days and seats.
func Daily(p *plan.Plan, t int) func(span calendar.Span) []float64 {
	k := crews(p)[t]
	return func(span calendar.Span) []float64 {
		worked := make([]float64, max(0, span.Days()))
		closed := k.holidaysIn(span)
		for i := range k.seats {
			s := &k.seats[i]
			for d := max(span.Start, s.dates.Start); d <= min(span.End, s.dates.End); d++ {
				if s.works(d, closed) {
					worked[d-span.Start] += s.share
				}
			}
		}
		return worked
	}
}

// crews are the teams as the day counts see them.
var crews = plan.OnceOfCalendar(func(p *plan.Plan) []*crew {
	c := newCounter(p)
	all := make([]*crew, len(p.Teams))
	for t := range p.Teams {
		all[t] = c.crew(&p.Teams[t])
	}
	return all
})

// works reports whether a day within the seat's dates is worked.
func (s *seat) works(d calendar.Date, closed []holiday) bool {
	return s.person.weekdays.Has(d) && !slices.ContainsFunc(closed, func(h holiday) bool { return h.date == d }) &&
		!slices.ContainsFunc(s.person.off, func(o calendar.Span) bool { return o.Holds(d) })
}
