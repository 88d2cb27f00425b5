package forecast_test

import (
	"math"
	"math/rand/v2"
	"sort"

	"gonum.org/v1/gonum/mat"
	"gonum.org/v1/gonum/stat/distuv"
)

// believer says what docs/forecast.md lets one believe of the paces of a single team, by matrices, exact distributions and
// random numbers: the forecast has closed forms, tables and strata instead.
type believer struct {
	past    []float64
	rho     []float64 // of each persistence
	chance  []float64 // how likely it is
	mean    []float64
	unsure  []float64
	scale   []float64
	freedom float64
}

func believe(past []float64) believer {
	n := len(past)
	b := believer{past: past, freedom: 3 + float64(n-1)}
	ones, x := mat.NewVecDense(n, nil), mat.NewVecDense(n, past)
	for i := range n {
		ones.SetVec(i, 1)
	}
	var spread0, sum float64
	for k := range 10 {
		rho := float64(k) / 10
		correlation, inverse := mat.NewDense(n, n, nil), mat.NewDense(n, n, nil)
		for i := range n {
			for j := range n {
				correlation.Set(i, j, math.Pow(rho, math.Abs(float64(i-j))))
			}
		}
		if err := inverse.Inverse(correlation); err != nil {
			panic(err)
		}
		weight := mat.Inner(ones, inverse, ones)
		mean := mat.Inner(ones, inverse, x) / weight
		var rest mat.VecDense
		rest.AddScaledVec(x, -mean, ones)
		squares := mat.Inner(&rest, inverse, &rest)
		// The spread of all teams, of which this is the only one, and of a prior of 21 % that counts as four.
		spread := math.Sqrt((4*0.21*0.21 + squares/mean/mean) / (4 + float64(n-1)))
		if k == 0 {
			spread0 = spread
		}
		half := func(rho float64) float64 { return math.Exp(-rho * rho / 2 / 0.8 / 0.8) }
		prior := 0.5
		if k > 0 {
			all := 0.0
			for i := 1; i < 10; i++ {
				all += half(float64(i) / 10)
			}
			prior = 0.5 * half(rho) / all
		}
		chance := prior / math.Sqrt(mat.Det(correlation)*weight) / math.Pow(3*math.Pow(spread0*mean, 2)+squares, b.freedom/2)
		sum += chance
		b.rho, b.chance, b.mean = append(b.rho, rho), append(b.chance, chance), append(b.mean, mean)
		b.unsure = append(b.unsure, 1/math.Sqrt(weight))
		b.scale = append(b.scale, math.Sqrt((3*math.Pow(spread*mean, 2)+squares)/b.freedom))
	}
	for k := range b.chance {
		b.chance[k] /= sum
	}
	return b
}

// shape draws a deviation of mean 0 and variance 1: the past ones count as so many, the normal distribution as twelve.
func (b *believer) shape(r *rand.Rand) func() float64 {
	sorted := append([]float64{}, b.past...)
	sort.Float64s(sorted)
	m, n := mean(sorted), float64(len(sorted))
	sd := 0.0
	for _, x := range sorted {
		sd += (x - m) * (x - m) / n
	}
	sd = math.Sqrt(sd)
	at := func(u float64) float64 {
		place := min(n-1, max(0, u*n-0.5))
		low := math.Floor(place)
		high := min(n-1, low+1)
		x := sorted[int(low)] + (place-low)*(sorted[int(high)]-sorted[int(low)])
		return (12*distuv.UnitNormal.Quantile(u) + (x-m)/sd*n) / (12 + n)
	}
	total, squares, grid := 0.0, 0.0, 100_000
	for i := range grid {
		e := at((float64(i) + 0.5) / float64(grid))
		total, squares = total+e/float64(grid), squares+e*e/float64(grid)
	}
	return func() float64 { return (at(r.Float64()) - total) / math.Sqrt(squares-total*total) }
}

// share is in which share of cases something is so of what the next two iterations bring.
func share(past []float64, so func(first, second float64) bool) float64 {
	const cases = 200_000
	r := rand.New(rand.NewPCG(1, 7))
	b := believe(past)
	e, spread := b.shape(r), distuv.ChiSquared{K: b.freedom, Src: r}
	of := 0.0
	for range cases {
		k, u := 0, r.Float64()
		for ; k < len(b.chance)-1 && u > b.chance[k]; k++ {
			u -= b.chance[k]
		}
		sd := b.scale[k] * math.Sqrt(b.freedom/spread.Rand())
		by := sd * b.unsure[k] / b.mean[k]
		pace := b.mean[k] * math.Exp(by*r.NormFloat64()-by*by/2)
		next := func(before float64) float64 {
			return pace + b.rho[k]*(before-pace) + math.Sqrt(1-b.rho[k]*b.rho[k])*sd*e()
		}
		first := next(past[len(past)-1])
		if second := next(first); so(max(first, 0.5), max(second, 0.5)) { // a twentieth of its mean at least
			of += 1.0 / cases
		}
	}
	return of
}
