package forecast

import (
	"math"
	"slices"
	"sync"

	"gonum.org/v1/gonum/stat"
	"gonum.org/v1/gonum/stat/distuv"
)

// What is believed of paces before any is seen. The figures were tuned on simulated worlds (one team and six, with 3, 8
// and 15 past iterations, paces that vary by 25%, independent or following each other by 0.6), so that they err to both
// sides alike: docs/forecast.md says how often what was said came true.
const (
	priorSpread   = 0.21 // standard deviation of a team's pace ÷ its mean, where nothing is known
	poolWeight    = 4    // how many iterations that counts as, against those of all teams
	priorWeight   = 3    // how many iterations the spread of all teams counts as at least, against a team's own;
	othersWeight  = 2    // and for each degree of freedom that the other teams give it,
	mostWeight    = 60   // up to so many
	shapeWeight   = 12   // how many iterations the normal distribution counts as, against the deviations of all teams
	notPersistent = 0.5  // how likely it is that iterations do not follow each other at all;
	persistent    = 0.8  // else persistence is half normal, with this standard deviation
	lowestPace    = 0.05 // of the mean: no iteration is slower, so that work goes on
)

// persistences are the shares of an iteration's deviation from the mean that the next one may be expected to keep.
var persistences = [...]float64{0, 0.1, 0.2, 0.3, 0.4, 0.5, 0.6, 0.7, 0.8, 0.9}

// levels is how many equally likely values stand for a distribution.
const levels = 256

// normal are the levels of the standard normal distribution, the lowest first.
var normal = sync.OnceValue(func() (z [levels]float64) {
	for i := range z {
		z[i] = distuv.UnitNormal.Quantile((float64(i) + 0.5) / levels)
	}
	return z
})

// gait is what is believed of how fast a team goes, from its past paces x₁ … xₙ, the oldest first.
//
// An iteration's pace is μ + d, where d is a first-order autoregressive series, d' = ρ·d + √(1 − ρ²)·σ·e. For each
// persistence ρ the mean μ and the standard deviation σ have the posterior of a regression on a constant with such
// errors: σ² is a scaled inverse χ², of n − 1 degrees of freedom and those of the prior, which is the spread of all teams;
// the logarithm of μ is normal about the generalised least squares mean, with σ ÷ √(1'R⁻¹1). d goes on from where the
// team stands: xₙ − μ.
type gait struct {
	at      [len(persistences)]belief
	freedom float64 // degrees of freedom of σ²
	last    float64 // xₙ
	known   bool    // last is known: else d begins anywhere
	usual   float64 // what is most likely to be the mean
}

// belief is a gait at one persistence.
type belief struct {
	mean, scale float64 // of μ; of σ
	unsure      float64 // standard deviation of μ ÷ σ
}

// gaits is what is believed of all teams together.
type gaits struct {
	of       []gait
	persists [len(persistences)]float64 // how likely each persistence is
	spread   [len(persistences)]float64 // standard deviation of paces ÷ their mean, of all teams
	shape    [levels]float64            // of e: mean 0, variance 1
	freedom  float64                    // degrees of freedom that all teams give together
	known    bool                       // whether a team has a past
}

// gaitsOf works out what is believed of teams by their past paces; those of a team with too short a past are not
// looked at. Where no pace ever varied, none is taken to. The time is linear in the paces.
func gaitsOf(pasts [][]float64) gaits {
	all := gaits{of: make([]gait, len(pasts)), shape: shapeOf(pasts)}
	varied := false
	for _, past := range pasts {
		if len(past) >= enough && mean(past) > 0 {
			all.known = true
			all.freedom += float64(len(past) - 1)
			varied = varied || varies(past)
		}
	}
	fits := make([]fit, len(pasts))
	for k, rho := range persistences {
		sum := poolWeight * priorSpread * priorSpread
		for t, past := range pasts {
			if len(past) >= enough {
				fits[t] = fitTo(past, rho)
				if m := fits[t].mean; m > 0 {
					sum += fits[t].squares / (m * m)
				}
			}
		}
		if !all.known || varied {
			all.spread[k] = math.Sqrt(sum / (poolWeight + all.freedom))
		}
		all.persists[k] = math.Log(priorPersistence(rho))
		for t, past := range pasts {
			if len(past) < enough {
				continue
			}
			all.persists[k] += fits[t].likely(rho, all.spread[0])
			own := float64(len(past) - 1)
			weight := all.weight(own)
			all.of[t].freedom = weight + own
			all.of[t].last, all.of[t].known = past[len(past)-1], true
			prior := all.spread[k] * fits[t].mean
			all.of[t].at[k] = belief{fits[t].mean, math.Sqrt((weight*prior*prior + fits[t].squares) / (weight + own)), fits[t].unsure}
		}
	}
	normalise(&all.persists)
	for t := range all.of {
		team := &all.of[t]
		team.usual = team.last
		for k, p := range all.persists {
			team.usual += p * (team.at[k].mean - team.last)
		}
	}
	return all
}

// weight is how many iterations the spread of all teams counts as, for one that gives so many degrees of freedom.
func (all *gaits) weight(own float64) float64 {
	return min(mostWeight, priorWeight+othersWeight*max(0, all.freedom-own))
}

// unknown is the gait of a team without a past of its own: its mean pace is what its capacity says, as surely as one
// iteration of its own would tell it.
func (all *gaits) unknown(mean float64) gait {
	t := gait{freedom: all.weight(0), usual: mean}
	for k := range t.at {
		t.at[k] = belief{mean, mean * all.spread[k], 1}
	}
	return t
}

// steady is a gait that never varies.
func steady(mean float64) gait {
	t := gait{freedom: priorWeight, usual: mean}
	for k := range t.at {
		t.at[k].mean = mean
	}
	return t
}

// fit is a mean fitted to some past paces of which each keeps a share of the deviation of the one before.
type fit struct {
	n            float64
	mean, unsure float64 // generalised least squares; its standard deviation ÷ that of paces
	squares      float64 // r'R⁻¹r of what remains
}

func fitTo(past []float64, rho float64) fit {
	n, last := float64(len(past)), len(past)-1
	beyond := past[last] - past[0] // the first one: of paces that never varied the mean is exact
	for _, x := range past[1:last] {
		beyond += (1 - rho) * (x - past[0])
	}
	weight := n - (n-2)*rho // 1'R⁻¹1 × (1 + ρ)
	f := fit{n: n, mean: past[0] + beyond/weight, unsure: math.Sqrt((1 + rho) / weight)}
	f.squares = (1 - rho*rho) * (past[0] - f.mean) * (past[0] - f.mean)
	for i := 1; i < len(past); i++ {
		e := past[i] - f.mean - rho*(past[i-1]-f.mean)
		f.squares += e * e
	}
	f.squares /= 1 - rho*rho
	return f
}

// likely is the logarithm of how likely the paces are where persistence is rho, but for what is the same for all of them:
// the marginal likelihood, with μ and σ integrated out.
func (f *fit) likely(rho, prior float64) float64 {
	prior *= f.mean
	sum := priorWeight*prior*prior + f.squares
	if sum <= 0 {
		return 0
	}
	return -(f.n-1)/2*math.Log(1-rho*rho) + math.Log(f.unsure) - (priorWeight+f.n-1)/2*math.Log(sum)
}

// priorPersistence is how likely a persistence is before any pace is seen.
func priorPersistence(rho float64) float64 {
	if rho == 0 {
		return notPersistent
	}
	half, sum := func(rho float64) float64 { return math.Exp(-rho * rho / (2 * persistent * persistent)) }, 0.0
	for _, r := range persistences[1:] {
		sum += half(r)
	}
	return (1 - notPersistent) * half(rho) / sum
}

// normalise turns logarithms of weights into shares.
func normalise(logs *[len(persistences)]float64) {
	most, sum := slices.Max(logs[:]), 0.0
	for k := range logs {
		logs[k] = math.Exp(logs[k] - most)
		sum += logs[k]
	}
	for k := range logs {
		logs[k] /= sum
	}
}

// meanOf is the persistence that is to be expected.
func meanOf(persists [len(persistences)]float64) (mean float64) {
	for k, p := range persists {
		mean += p * persistences[k]
	}
	return mean
}

// shapeOf is the distribution of deviations from the mean: that of the past ones of all teams, as far as these tell, and
// the normal one. The quantiles of both are averaged.
func shapeOf(pasts [][]float64) [levels]float64 {
	var all []float64
	for _, past := range pasts {
		if len(past) < enough || !varies(past) {
			continue
		}
		m, spread := stat.PopMeanStdDev(past, nil)
		for _, x := range past {
			all = append(all, (x-m)/spread)
		}
	}
	shape, n := normal(), float64(len(all))
	if len(all) == 0 {
		return shape
	}
	slices.Sort(all)
	own := n / (n + shapeWeight)
	for i := range shape {
		at := (float64(i)+0.5)/levels*n - 0.5
		lower := min(len(all)-1, max(0, int(math.Floor(at))))
		upper, part := min(len(all)-1, lower+1), min(1, max(0, at-float64(lower)))
		shape[i] = (1-own)*shape[i] + own*(all[lower]*(1-part)+all[upper]*part)
	}
	m, spread := stat.PopMeanStdDev(shape[:], nil)
	for i := range shape {
		shape[i] = (shape[i] - m) / spread
	}
	return shape
}

// varies reports whether some paces are not all the same, to the digit.
func varies(past []float64) bool {
	return slices.ContainsFunc(past, func(x float64) bool { return x != past[0] })
}

// persisting are the levels of how iterations follow each other: of each the position of a persistence.
func persisting(shares [len(persistences)]float64) (of [levels]uint8) {
	k, sum := 0, shares[0]
	for i := range of {
		for (float64(i)+0.5)/levels > sum && k < len(shares)-1 {
			k++
			sum += shares[k]
		}
		of[i] = uint8(k)
	}
	return of
}

// spreads are the levels of σ ÷ its scale: √(ν ÷ χ²ᵥ), where χ² is approximated by Wilson and Hilferty's cube.
func (t *gait) spreads() (of [levels]float64) {
	z, by := normal(), 2/(9*t.freedom)
	for i := range of {
		cube := 1 - by + z[levels-1-i]*math.Sqrt(by)
		of[i] = 1 / math.Sqrt(max(cube*cube*cube, 0.02))
	}
	return of
}

// walk is how fast a team goes in one play: its mean, and where it stands.
type walk struct {
	mean, sd  float64
	rho, keep float64 // persistence, and √(1 − ρ²)
	deviation float64
	known     bool // deviation is that of the iteration before
	lowest    float64
}

// begin draws what a play believes of a team.
func (t *gait) begin(k, spread, mean int, spreads *[levels]float64) walk {
	b := &t.at[k]
	w := walk{sd: b.scale * spreads[spread], rho: persistences[k], known: t.known, lowest: lowestPace * t.usual}
	w.keep = math.Sqrt(1 - w.rho*w.rho)
	if b.mean > 0 {
		by := w.sd * b.unsure / b.mean
		w.mean = max(b.mean*math.Exp(normal()[mean]*by-by*by/2), w.lowest)
	}
	w.deviation = t.last - w.mean
	return w
}

// next is the pace of the next iteration, with luck e.
func (w *walk) next(e float64) float64 {
	if w.known {
		w.deviation = w.rho*w.deviation + w.keep*w.sd*e
	} else {
		w.deviation, w.known = w.sd*e, true
	}
	return max(w.mean+w.deviation, w.lowest)
}
