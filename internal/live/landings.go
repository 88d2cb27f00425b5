package live

import (
	"runtime"

	"jantrel/core/forecast"
)

// Landings is the forecast of a revision, and of the one asked for before it, so
// that a page can say what an edit did.
type Landings struct {
	Revision int64
	Result   forecast.Forecast
}

// ForecastSeed is the seed of every forecast that is shown: the same luck before
// and after an edit, so that a difference is the edit's.
const ForecastSeed = 1

// Landings returns the forecast of the program as it is now, and the last one of
// an earlier revision, if there was one.
func (p *Program) Landings() (now Landings, before *Landings) {
	p.landing.Lock()
	defer p.landing.Unlock()
	state := p.State()
	if p.now == nil || p.now.Revision != state.Revision {
		result := forecast.Play(state.Program, forecast.Options{
			Today: state.Today, Plays: Plays(len(state.Program.Items)), Seed: ForecastSeed, Workers: runtime.GOMAXPROCS(0),
		})
		p.before, p.now = p.now, &Landings{state.Revision, result}
	}
	return *p.now, p.before
}

// Plays is how often a program of so many items is played after each edit: what
// fits into a tenth of a second or so.
func Plays(items int) int {
	return max(500, min(5000, 1_000_000/max(1, items)))
}
