package forecast

import (
	"math"

	"gonum.org/v1/gonum/stat"
	"gonum.org/v1/gonum/stat/distuv"
)

// Trend is the line through what was left at the ends of iterations, and where it leads: a check
// on the plays that knows nothing of the plan ahead.
type Trend struct {
	Points []Burned   `json:"points"`           // the ends, the oldest first
	Slope  float64    `json:"slope"`            // of what is left, a day: below 0 where it goes down
	Start  float64    `json:"start"`            // the height of the line on the first of the points
	Meets  Date       `json:"meets,omitzero"`   // where the line meets zero: done meets scope, if that goes on to change as it did
	Still  Date       `json:"still,omitzero"`   // where the line through what was done meets the scope of today
	Within []Interval `json:"within,omitempty"` // around Meets; none with fewer than three points
}

// Interval is the days between which a line meets zero with given odds.
type Interval struct {
	Odds int  `json:"odds"`
	From Date `json:"from,omitzero"`
	To   Date `json:"to,omitzero"` // none: it may never
}

// trendOdds are the odds of the intervals.
var trendOdds = []int{50, 85}

// TrendOf fits a line through what was left at the ends of iterations, by least squares. Its
// intervals are where the prediction band of the line meets zero: left ± t · s · √(1 + 1 ÷ n +
// (x − x̄)² ÷ Σ(xᵢ − x̄)²), with Student's t of n − 2 degrees of freedom and s² the squared
// residuals' sum ÷ (n − 2). Fewer than two points make no line, and a line that does not go down
// meets nothing.
func TrendOf(points []Burned) Trend {
	t := Trend{Points: points}
	if t.Points == nil {
		t.Points = []Burned{}
	}
	n := len(points)
	if n < 2 || points[0].Day == points[n-1].Day {
		return t
	}
	x, left, done := make([]float64, n), make([]float64, n), make([]float64, n)
	for i, p := range points {
		x[i], left[i], done[i] = float64(p.Day-points[0].Day), p.Left(), p.Done
	}
	t.Start, t.Slope = stat.LinearRegression(x, left, nil, false)
	on := func(days float64) Date {
		if days < 0 || days > maxDays {
			return 0
		}
		return points[0].Day.Add(int(math.Ceil(days - 1e-9)))
	}
	if a, b := stat.LinearRegression(x, done, nil, false); b > 0 {
		t.Still = on((points[n-1].Total - a) / b)
	}
	if t.Slope >= 0 {
		return t
	}
	t.Meets = on(-t.Start / t.Slope)
	if n < 3 || t.Meets.IsZero() {
		return t
	}
	mean, spread := stat.Mean(x, nil), 0.0
	rest := 0.0
	for i := range x {
		spread += (x[i] - mean) * (x[i] - mean)
		off := left[i] - t.Start - t.Slope*x[i]
		rest += off * off
	}
	s := math.Sqrt(rest / float64(n-2))
	student := distuv.StudentsT{Mu: 0, Sigma: 1, Nu: float64(n - 2)}
	for _, odds := range trendOdds {
		q := student.Quantile(0.5 + float64(odds)/200)
		band := func(days, side float64) float64 {
			return t.Start + t.Slope*days + side*q*s*math.Sqrt(1+1/float64(n)+(days-mean)*(days-mean)/spread)
		}
		within := Interval{Odds: odds, From: on(meets(func(d float64) float64 { return band(d, -1) }))}
		if to := meets(func(d float64) float64 { return band(d, 1) }); to <= maxDays {
			within.To = on(to)
		}
		t.Within = append(t.Within, within)
	}
	return t
}

// meets is the first of the days from 0 on, to within a thousandth, on which a band is no longer above
// zero; beyond maxDays where it always is.
func meets(band func(days float64) float64) float64 {
	day := 0.0
	for band(day) > 0 {
		if day++; day > maxDays {
			return day
		}
	}
	low, high := max(0, day-1), day
	for high-low > 1e-3 {
		if mid := (low + high) / 2; band(mid) > 0 {
			low = mid
		} else {
			high = mid
		}
	}
	return high
}
