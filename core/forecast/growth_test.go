package forecast_test

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"

	"jantrel/core/forecast"
	"jantrel/core/plan"
	"jantrel/core/program"
)

// The example of docs/forecast.md. A team does 10 an iteration and has 20 of a release, which
// grows by 10 % of the whole each iteration: 2 with the first, 2.2 with the second. At the end of
// that what was known is done; the 4.2 take 42 % of the third, to its fifth working day.
func TestAReleaseThatGrowsLandsLater(t *testing.T) {
	p := pier(10, 10, 10)
	p.Items = []program.Item{work("A", 10, "d"), work("B", 10, "e")}
	o := forecast.Options{Today: monday, Plays: 20, Seed: 1}
	lands := func() (string, *forecast.Growth) {
		l := forecast.Play(plan.Of(p), o).Releases[0]
		return l.At(50).String(), l.Growth
	}
	day, growth := lands()
	assert.Equal(t, "2027-03-26", day)
	assert.Nil(t, growth)
	p.Settings.Growth = 0.1
	day, growth = lands()
	assert.Equal(t, "2027-04-02", day)
	assert.Equal(t, &forecast.Growth{Share: 0.1, Basis: forecast.GrowthAssumed}, growth)
	no := false
	p.Settings.PullAhead = &no // work that is not known has no place to be taken ahead of
	day, _ = lands()
	assert.Equal(t, "2027-04-02", day)
	p.Releases[0].Growth = ptr(0) // switched off for it
	day, growth = lands()
	assert.Equal(t, "2027-03-26", day)
	assert.Nil(t, growth)
	p.Releases[0].Growth = ptr(0.1)
	p.Settings.Growth = 0
	day, growth = lands()
	assert.Equal(t, "2027-04-02", day)
	assert.Equal(t, forecast.GrowthSet, growth.Basis)
}

// Where there is room all along, what grows is done with the rest, and lands no later than it.
func TestGrowthThatFitsInDelaysNothing(t *testing.T) {
	p := pier(10, 10, 10)
	p.Settings.Growth = 0.05
	p.Items = []program.Item{work("A", 4, "d"), work("B", 4, "e")}
	no := false
	p.Settings.PullAhead = &no
	// B is done after 4 of 10; what grew with the second iteration, 0.42, after it: on its fifth day.
	l := forecast.Play(plan.Of(p), forecast.Options{Today: monday, Plays: 20, Seed: 1}).Releases[0]
	assert.Equal(t, "2027-03-19", l.At(50).String())
}

// Scope that grows as it is said to: what is said comes true about as often. Played without, 85 %
// would come in fewer than half.
func TestWhatIsSaidComesTrueWhereScopeGrows(t *testing.T) {
	const worlds = 600 // so few that luck adds a point
	for _, share := range []float64{0.01, 0.02, 0.04} {
		r := rand.New(rand.NewPCG(17, uint64(1000*share)))
		came, said := map[int]int{}, map[int]float64{}
		for range worlds {
			next, past := world{cv: 0.2}.paces(r), make([]float64, 12)
			for i := range past {
				past[i] = next()
			}
			p := pier(past...)
			p.Settings.Growth, p.Releases[0].Due = share, 0
			p.Items = []program.Item{work("A", 30, ""), work("B", 30, "")}
			l := forecast.Play(plan.Of(p), forecast.Options{Today: monday, Plays: 300, Seed: r.Uint64()}).Releases[0]
			// What happens, by a few lines of its own: known work and what comes on top of it.
			known, grown, whole, landed := 60.0, 0.0, 60.0, forecast.Date(0)
			for start := monday; landed == 0; start = start.Add(14) {
				if known > 0 {
					grown += share * whole
					whole += share * whole
				}
				v := next()
				if known+grown > v {
					known, grown = max(0, known-v), grown-max(0, v-known)
					continue
				}
				day := int(math.Ceil((known+grown)/v*10)) - 1
				landed = start.Add(day + day/5*2)
			}
			for _, d := range l.Dates {
				said[d.Odds] += d.Chance
				if landed <= d.Date {
					came[d.Odds]++
				}
			}
		}
		for _, odds := range []int{50, 85, 95} {
			told, true := 100*said[odds]/worlds, 100*float64(came[odds])/worlds
			t.Logf("growing by %.0f %%: said %.0f %%, came %.0f %%", 100*share, told, true)
			assert.InDelta(t, told, true, 6, "growing by %v, at %d %%", share, odds)
		}
	}
}

// What was measured is drawn anew by each iteration. A fills the first: with nothing on top it is
// done on 12 March, with 20 % of 10 on the second working day of the second iteration.
func TestGrowthIsDrawnFromWhatWasMeasured(t *testing.T) {
	p := pier(10, 10, 10)
	p.Items = []program.Item{work("A", 10, "d")}
	measured := forecast.Measured{{Release: "R", Team: "T"}: {0, 0.2, 0, 0.2}}
	l := forecast.Play(plan.Of(p), forecast.Options{Today: monday, Plays: 400, Seed: 1, Past: forecast.Past{Growth: measured}}).Releases[0]
	assert.Equal(t, "2027-03-12", l.At(25).String())
	assert.InDelta(t, 0.5, l.Dates[1].Chance, 0.01)
	assert.Equal(t, "2027-03-16", l.At(75).String())
	assert.Equal(t, &forecast.Growth{Share: 0.1, Basis: forecast.GrowthMeasured}, l.Growth)
	p.Releases[0].Growth = ptr(0)
	l = forecast.Play(plan.Of(p), forecast.Options{Today: monday, Plays: 400, Seed: 1, Past: forecast.Past{Growth: measured}}).Releases[0]
	assert.Equal(t, "2027-03-12", l.At(95).String(), "what is set wins")
}

// A part with fewer than six iterations of its own is taken to be like all others for the rest of them: A with two, B with
// none; one with six is itself.
func TestGrowthIsShrunkToThatOfAllParts(t *testing.T) {
	p := pier(10, 10, 10)
	for _, key := range []string{"A", "B", "C"} {
		team := p.Teams[0]
		team.Key = key
		p.Teams = append(p.Teams, team)
		item := work(key, 10, "d")
		item.Team = key
		p.Items = append(p.Items, item)
	}
	measured := forecast.Measured{{Release: "R", Team: "A"}: {0.3, 0.1}, {Release: "R", Team: "C"}: {0, 0, 0, 0, 0, 0.06}}
	f := forecast.Play(plan.Of(p), forecast.Options{Today: monday, Plays: 50, Seed: 1, Past: forecast.Past{Growth: measured}})
	// All parts: 0 five times, 0.06, 0.1 and 0.3. Of these four for A: the second, fourth, sixth and eighth, of eight.
	assert.InDelta(t, (0.3+0.1+0+0+0.06+0.3+0.06)/12, f.Releases[0].Growth.Share, 1e-9)
}

// What is late grows half as much with each iteration that has gone by since the release was due. It has 40, grows by 10 % an
// iteration and is due with the first day of the first: by 4, then half of 4.4, a quarter of 4.62 and an eighth of 4.7355.
func TestWhatIsLateGrowsLess(t *testing.T) {
	p := pier(10, 10, 10)
	p.Settings.Growth, p.Releases[0].Due = 0.1, monday
	p.Items = []program.Item{work("A", 40, "")}
	q := forecast.OutlookQuestion{Options: forecast.Options{Today: monday, Plays: 20, Seed: 1}, Set: forecast.Set{Release: "R"}, Measure: forecast.Measure{In: forecast.InSize, Team: "T"}}
	days := forecast.OutlookOf(plan.Of(p), q).Fan.Days
	assert.InDelta(t, 40+4+2.2+1.155+0.5919375, days[len(days)-1].Scope[2], 1e-6)
	p.Releases[0].Due = 0
	days = forecast.OutlookOf(plan.Of(p), q).Fan.Days
	assert.InDelta(t, 40*1.1*1.1*1.1*1.1, days[len(days)-1].Scope[2], 1e-6, "what is not due goes on")
}

// Of three closed iterations one began before the journal, and one counts for nobody.
func TestWhichIterationsGrowthIsMeasuredIn(t *testing.T) {
	p := pier(10, 10, 10, 10)
	p.Teams[0].Iterations[2].LeftOut = "The boat was in dock"
	scope := func(day forecast.Date) (forecast.Scope, error) {
		at := forecast.Part{Release: "R", Team: "T"}
		return forecast.Scope{at: {Size: 100 + float64(day-p.Teams[0].Iterations[0].Start), Left: true}}, nil
	}
	measured, err := forecast.MeasureGrowth(plan.Of(p), p.Teams[0].Iterations[1].Start, monday, scope)
	assert.NoError(t, err)
	none, err := forecast.MeasureGrowth(plan.Of(p), p.Teams[0].Iterations[1].Start, p.Teams[0].Iterations[1].End, scope)
	assert.NoError(t, err)
	assert.Empty(t, none, "its last day is not over")
	assert.InDeltaSlice(t, []float64{13.0 / 142, 13.0 / 114}, measured[forecast.Part{Release: "R", Team: "T"}], 1e-9)
}

func TestScopeIsTheWholeSizeDoneOrNot(t *testing.T) {
	p := pier(10, 10, 10)
	done, out, none := work("B", 3, "c"), work("C", 7, ""), work("D", 0, "")
	done.State, out.KeptOut, none.Size = program.Done, true, nil
	p.Items = []program.Item{done, out}
	at := forecast.Part{Release: "R", Team: "T"}
	assert.Equal(t, forecast.Scope{at: {Size: 3}}, forecast.ScopeOf(plan.Of(p)))
	p.Items = append(p.Items, work("A", 10, "d"), none)
	assert.Equal(t, forecast.Scope{at: {Size: 13, Left: true}}, forecast.ScopeOf(plan.Of(p)))
}
