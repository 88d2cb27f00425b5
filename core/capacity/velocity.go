package capacity

import (
	"math"

	"gonum.org/v1/gonum/stat"
	"gonum.org/v1/gonum/stat/distuv"

	"jantrel/core/plan"
	"jantrel/core/program"
)

// Past is what one closed iteration says about a team's velocity.
type Past struct {
	Iteration      string   `json:"iteration"`
	Committed      *float64 `json:"committed,omitempty"` // in the team's unit
	Completed      float64  `json:"completed"`
	CommittedItems *int     `json:"committedItems,omitempty"` // in number of items
	CompletedItems *int     `json:"completedItems,omitempty"`
	DaysWorked     float64  `json:"daysWorked"`        // member-days without holidays and days off
	Pace           float64  `json:"pace"`              // completed ÷ days worked; 0 where nobody worked
	Normalised     float64  `json:"normalised"`        // pace × the days of the complete team in an iteration of the cadence: what one would have completed with nobody away
	Counts         bool     `json:"counts"`            // whether measured velocity counts it
	LeftOut        string   `json:"leftOut,omitempty"` // why it was left out by hand
}

// History returns the closed iterations of a team that say what they completed,
// oldest first. figures are the team's. Those left out by hand do not count, nor
// those that lie before the last Lookback that do, nor those in which nobody worked.
func History(t *program.Team, figures []Figure) []Past {
	var history []Past
	for i, it := range t.Iterations {
		if !it.Past() {
			continue
		}
		f := figures[i]
		past := Past{
			Iteration: it.Key, Committed: it.Committed, Completed: *it.Completed, CommittedItems: it.CommittedItems, CompletedItems: it.CompletedItems,
			DaysWorked: f.DaysWorked, Counts: it.LeftOut == "" && f.DaysWorked > 0, LeftOut: it.LeftOut,
		}
		if f.DaysWorked > 0 {
			past.Pace = *it.Completed / f.DaysWorked
			past.Normalised = past.Pace * f.DaysFull / f.Length
		}
		history = append(history, past)
	}
	left := t.Lookback
	for i := len(history) - 1; i >= 0 && t.Lookback > 0; i-- {
		if history[i].Counts {
			history[i].Counts = left > 0
			left--
		}
	}
	return history
}

var histories = plan.OnceOfCalendar(func(p *plan.Plan) [][]Past {
	figures := Of(p)
	all := make([][]Past, len(p.Teams))
	for t := range p.Teams {
		all[t] = History(&p.Teams[t], figures[t])
	}
	return all
})

// Histories returns the History of each team of a plan. It is shared: who asks must not write
// to it.
func Histories(p *plan.Plan) [][]Past { return histories(p) }

// PaceSamples returns the team's past velocity normalised by days worked: units
// completed ÷ member-days worked, one for each closed iteration that counts,
// oldest first.
func PaceSamples(t *program.Team, figures []Figure) []float64 {
	var samples []float64
	for _, past := range History(t, figures) {
		if past.Counts {
			samples = append(samples, past.Pace)
		}
	}
	return samples
}

// Confidences are the odds at which capacities are suggested.
var Confidences = [4]float64{0.50, 0.70, 0.85, 0.95}

// Trust says how far a suggestion can be relied on.
type Trust string

// The degrees of trust.
const (
	FromHistory   Trust = "history"          // enough closed iterations
	ShortHistory  Trust = "short history"    // fewer than enough: widened
	NoHistory     Trust = "no history"       // agreed velocity or available time, widened further
	NothingToGoBy Trust = "nothing to go by" // neither history nor a capacity
)

// Suggestion is what an iteration is likely to complete.
type Suggestion struct {
	Iteration string     `json:"iteration"`
	Trust     Trust      `json:"trust"`
	Samples   int        `json:"samples"` // closed iterations that count
	Days      float64    `json:"days"`    // member-days worked in it
	Pace      float64    `json:"pace"`    // mean pace, units a member-day
	Spread    float64    `json:"spread"`  // standard deviation of pace that was reckoned with
	Amounts   [4]float64 `json:"amounts"` // units completed or more with 50, 70, 85 and 95 % confidence
}

const (
	// enough is how many closed iterations give a spread of their own.
	enough = 4
	// assumedVariation is the standard deviation of pace, as a share of its mean,
	// that is reckoned with where history is too short to show one: wider than a
	// settled team's, which is about a fifth.
	assumedVariation = 0.35
)

// Suggest returns what a coming iteration is likely to complete: at confidence c
// the amount that it reaches or passes with odds c.
//
// Pace is taken as normal with unknown mean and spread; what the next iteration
// brings then follows a Student t distribution with n−1 degrees of freedom around
// the mean m of the n samples, scaled by s·√(1 + 1/n) (the predictive
// distribution of a normal sample). The amount is
//
//	days worked × max(0, m − t(c, n−1) · s · √(1 + 1/n))
//
// With fewer than four samples s is at least 0.35 m, and there is one degree of
// freedom or more. Without any, m is what the capacity figure says a day brings,
// and n counts as 1.
func Suggest(t *program.Team, figures []Figure, iteration int) Suggestion {
	f := figures[iteration]
	samples := PaceSamples(t, figures)
	s := Suggestion{Iteration: t.Iterations[iteration].Key, Trust: FromHistory, Samples: len(samples), Days: f.DaysWorked}
	n, freedom := float64(len(samples)), float64(len(samples)-1)
	switch {
	case len(samples) >= enough:
		s.Pace, s.Spread = stat.MeanStdDev(samples, nil)
	case len(samples) > 0:
		s.Trust, s.Pace, freedom = ShortHistory, mean(samples), max(1, freedom)
		s.Spread = assumedVariation * s.Pace
		if len(samples) > 1 {
			s.Spread = max(s.Spread, stat.StdDev(samples, nil))
		}
	case f.Full > 0 && f.DaysPresent > 0:
		s.Trust, n, freedom = NoHistory, 1, 1
		s.Pace = f.Full / f.DaysPresent
		s.Spread = assumedVariation * s.Pace
	default:
		s.Trust = NothingToGoBy
		return s
	}
	next := distuv.StudentsT{Mu: 0, Sigma: s.Spread * math.Sqrt(1+1/n), Nu: freedom}
	for i, confidence := range Confidences {
		short := 0.0
		if next.Sigma > 0 {
			short = next.Quantile(confidence)
		}
		s.Amounts[i] = s.Days * max(0, s.Pace-short)
	}
	return s
}

func mean(samples []float64) float64 {
	if len(samples) == 0 {
		return 0
	}
	return stat.Mean(samples, nil)
}

// Normalised returns how many of the past iterations count, and the mean and
// standard deviation of their normalised velocities; no spread for fewer than two.
func Normalised(history []Past) (n int, average, spread float64) {
	var samples []float64
	for _, past := range history {
		if past.Counts {
			samples = append(samples, past.Normalised)
		}
	}
	if len(samples) > 1 {
		spread = stat.StdDev(samples, nil)
	}
	return len(samples), mean(samples), spread
}
