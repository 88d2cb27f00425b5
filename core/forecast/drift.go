package forecast

import (
	"math"
	"slices"
)

// Drift is what a history has that plays know nothing of: they draw its paces as if their
// order meant nothing, and so promise too much.
type Drift string

// The drifts.
const (
	Slowing    Drift = "slowing"    // paces fall over time
	Quickening Drift = "quickening" // they rise
	InRuns     Drift = "runs"       // good and bad iterations come in runs
)

// leastForDrift is how many paces it takes to tell.
const leastForDrift = 6

// driftOf tests paces, oldest first, at a level of 5 % each: for a trend by the Mann–Kendall
// test (S, the rises less the falls among all pairs, against its standard deviation
// √(n(n−1)(2n+5) ÷ 18), by one for continuity), then for runs by the Wald–Wolfowitz test (fewer
// runs above and below the median than chance has). Empty: neither is seen.
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
	sorted := slices.Sorted(slices.Values(paces))
	median := (sorted[(len(sorted)-1)/2] + sorted[len(sorted)/2]) / 2
	above, below, runs, last := 0.0, 0.0, 0.0, 0.0
	for _, p := range paces {
		side := sign(p - median)
		switch side {
		case 0:
			continue // on the median: on neither side
		case 1:
			above++
		default:
			below++
		}
		if side != last {
			runs++
		}
		last = side
	}
	both := above + below
	mean := 2*above*below/both + 1
	if variance := (mean - 1) * (mean - 2) / (both - 1); both > 1 && variance > 0 && (runs-mean)/math.Sqrt(variance) <= -1.645 {
		return InRuns
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
