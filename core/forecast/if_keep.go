package forecast

import (
	"fmt"
	"slices"

	"jantrel/core/plan"
	"jantrel/core/program"
)

// Kept is a plan with what is otherwise in it for good, as far as a plan can say it: settings, people, which items are in and
// out, and not before which day. The second result says in words what is of the plays alone and does not stay.
func (f If) Kept(p *plan.Plan) (next program.Program, lost []string) {
	most := f
	most.More, most.NoRisks = nil, false // said otherwise below
	next = most.of(p).Program
	if f.NoRisks {
		next.Settings.PlayRisks = new(bool)
	}
	if f.NoTurned {
		next.Settings.Turned = new(bool)
	}
	if f.Spread != 0 {
		next.Settings.Spread = min(program.MaxSpread, max(1, f.Spread*p.Settings.PaceSpread()))
	}
	if f.Last > 0 || len(f.More) > 0 {
		next.Teams = slices.Clone(next.Teams)
	}
	if f.Last > 0 {
		for i := range next.Teams {
			next.Teams[i].Lookback = f.Last
		}
	}
	f.seats(&next)
	if len(f.Pace) > 0 {
		lost = append(lost, "Teams that are faster or slower are of the plays alone: a plan has no pace but the measured one. Add somebody, or agree on another velocity.")
	}
	if f.Scope != 0 {
		lost = append(lost, "More or less work by a share is of the plays alone: add items, or keep some out.")
	}
	return next, lost
}

// seats adds who joins as open seats.
func (f If) seats(next *program.Program) {
	if len(f.More) == 0 {
		return
	}
	next.People = slices.Clip(next.People)
	n := 0
	free := func() (key string) {
		for key == "" || next.Has(program.Ref{Kind: program.KindPerson, Key: key}) {
			n++
			key = fmt.Sprintf("more-%d", n)
		}
		return key
	}
	for _, more := range f.More {
		team := &next.Teams[slices.IndexFunc(next.Teams, func(t program.Team) bool { return t.Key == more.Team })]
		// A seat has a whole share at most: several people are as many seats.
		for left := more.Share; left > 0; left-- {
			seat := program.Person{Key: free(), Name: "Somebody more in " + team.Name, OpenSeat: true}
			next.People = append(next.People, seat)
			team.Members = append(slices.Clip(team.Members), program.Member{Person: seat.Key, Share: min(1, left), From: more.From})
		}
	}
}
