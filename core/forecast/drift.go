package forecast

import "math"

// Drift is a trend in a team's paces. Plays take the latest ones to tell more of the next, but no trend to go on.
type Drift string

// The drifts.
const (
	Slowing    Drift = "slowing"    // paces fall over time
	Quickening Drift = "quickening" // they rise
)

// leastForDrift is how many paces it takes to tell.
const leastForDrift = 6

// driftOf tests paces, oldest first, for a trend at a level of 5 %: the Mann–Kendall test (S, the rises less the falls
// among all pairs, against its standard deviation √(n(n−1)(2n+5) ÷ 18), by one for continuity). Empty: none is seen.
func driftOf(paces []float64) Drift {
	n := float64(len(paces))
	if len(paces) < leastForDrift {
		return ""
	}
	s := 0.0
	for i := range paces {
		for _, later := range paces[i+1:] {
			s += sign(later - paces[i])
		}
	}
	if z := (s - sign(s)) / math.Sqrt(n*(n-1)*(2*n+5)/18); z >= 1.96 {
		return Quickening
	} else if z <= -1.96 {
		return Slowing
	}
	return ""
}

func sign(x float64) float64 {
	switch {
	case x > 0:
		return 1
	case x < 0:
		return -1
	}
	return 0
}
