package capacity

import (
	"jantrel/core/calendar"
	"jantrel/core/plan"
	"jantrel/core/program"
)

// Hours goes through the hours that people work in each team on the days of a span: share ×
// hours a day, without holidays and days off. Days come in order for each member of a team. It
// takes time linear in the days and members.
func Hours(p *plan.Plan, span calendar.Span, do func(team int, person *program.Person, day program.Date, hours float64)) {
	for t, k := range crews(p) {
		closed := k.holidaysIn(span)
		for i := range k.seats {
			s := &k.seats[i]
			if s.member < 0 || s.share == 0 {
				continue
			}
			for d := max(span.Start, s.dates.Start); d <= min(span.End, s.dates.End); d++ {
				if s.works(d, closed) {
					do(t, s.person.Person, d, s.share*s.person.Person.Hours())
				}
			}
		}
	}
}
