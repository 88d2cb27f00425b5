package capacity

import (
	"jantrel/core/plan"
)

// Rate is how fast a team goes: units an iteration of so many days with nobody away.
type Rate struct {
	Velocity float64 // 0 where there is nothing to go by
	Days     int     // length of an iteration: its cadence's, or else its last one's
	Basis    Basis
	Samples  int // closed iterations behind a measured velocity
}

// Rates returns the rate of each team: the mean of its normalised past velocities
// where three or more count; else what was agreed, for the complete team; else what its next iteration
// could carry were nobody away.
func Rates(p *plan.Plan) []Rate {
	figures, histories := Of(p), Histories(p)
	lengths := map[string]int{}
	for _, c := range p.Cadences {
		lengths[c.Key] = c.LengthDays
	}
	counter := newCounter(p)
	rates := make([]Rate, len(p.Teams))
	for t := range p.Teams {
		team, r := &p.Teams[t], &rates[t]
		r.Days = max(1, lengths[team.Cadence])
		last := len(team.Iterations) - 1
		if team.Cadence == "" && last >= 0 {
			r.Days = team.Iterations[last].Span().Days()
		}
		n, average, _ := Normalised(histories[t])
		switch {
		case n >= history && average > 0:
			r.Velocity, r.Basis, r.Samples = average, Measured, n
		case team.Velocity != nil:
			r.Velocity, r.Basis = *team.Velocity, Agreed
			if team.AgreedDays != nil {
				r.Velocity *= counter.crew(team).week(nil) / *team.AgreedDays
			}
		case last >= 0 && figures[t][last].Full > 0:
			f := figures[t][last]
			r.Velocity, r.Basis = f.Full/float64(team.Iterations[last].Span().Days())*float64(r.Days), f.Basis
		default:
			r.Basis = Unknown
		}
	}
	return rates
}

// history is how many closed iterations make a measured rate.
const history = 3

// DaysPerUnit is how many days each team takes for a unit of its size, by its key: days of an iteration ÷ velocity.
// Sizes times it can be added up across teams. Teams without anything to go by are left out.
func DaysPerUnit(p *plan.Plan) map[string]float64 {
	perUnit := map[string]float64{}
	for t, rate := range Rates(p) {
		if rate.Velocity > 0 {
			perUnit[p.Teams[t].Key] = float64(rate.Days) / rate.Velocity
		}
	}
	return perUnit
}
