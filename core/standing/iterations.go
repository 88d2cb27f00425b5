package standing

import (
	"slices"

	"jantrel/core/cadence"
	"jantrel/core/capacity"
	"jantrel/core/plan"
	"jantrel/core/program"
)

// IterationFacts are what one iteration can carry and carries, in its team's unit.
type IterationFacts struct {
	Team     string          `json:"team"`
	Key      string          `json:"key"`
	Capacity float64         `json:"capacity"`
	Full     float64         `json:"full"` // capacity were nobody away; 0 where that is unknown
	Basis    capacity.Basis  `json:"basis"`
	Load     float64         `json:"load"`
	Unsized  int             `json:"unsized,omitempty"` // items placed here that have no size
	Over     bool            `json:"over,omitempty"`    // carries more than it can
	Away     []capacity.Away `json:"away,omitempty"`
	Usable   bool            `json:"usable"`            // not closed and not over: items can be placed here
	Started  bool            `json:"started,omitempty"` // its dates and name stay: it is open or closed, or its first day has come
	Ended    bool            `json:"ended,omitempty"`   // its last day has gone by, or it is closed
}

// TeamFacts are what stands at a team's lane.
type TeamFacts struct {
	Key      string    `json:"key"`
	Headroom float64   `json:"headroom"`        // room left in the next iterations, in the team's unit
	Ahead    int       `json:"ahead"`           // how many iterations the headroom counts
	Pace     []float64 `json:"pace"`            // what each closed iteration that counts would have completed with nobody away, oldest first; see capacity.History
	Mean     float64   `json:"mean"`            // mean of pace: the measured velocity, wherever it shows
	Spread   float64   `json:"spread"`          // standard deviation of pace
	Ended    []string  `json:"ended,omitempty"` // iterations that are over and not closed, oldest first
}

// ahead is how many coming iterations a team's headroom counts.
const ahead = 6

func (x *IterationFacts) key() [2]string { return [2]string{x.Team, x.Key} }

func (x *IterationFacts) same(as *IterationFacts) bool {
	return x.Load == as.Load && x.Capacity == as.Capacity && x.Full == as.Full && x.Basis == as.Basis && x.Unsized == as.Unsized &&
		x.Over == as.Over && x.Usable == as.Usable && x.Started == as.Started && x.Ended == as.Ended && slices.Equal(x.Away, as.Away)
}

func (x *TeamFacts) key() [2]string { return [2]string{x.Key} }

func (x *TeamFacts) same(as *TeamFacts) bool {
	return x.Headroom == as.Headroom && x.Ahead == as.Ahead && x.Mean == as.Mean && x.Spread == as.Spread && slices.Equal(x.Pace, as.Pace) && slices.Equal(x.Ended, as.Ended)
}

func (f *Facts) iterations(p *plan.Plan, today program.Date) {
	figures, histories := capacity.Of(p), capacity.Histories(p)
	loads := p.Loads()
	for t := range p.Teams {
		team := &p.Teams[t]
		state := TeamFacts{Key: team.Key, Pace: []float64{}}
		for s, it := range team.Iterations {
			c := figures[t][s]
			open := it.Takes(today)
			over := open && loads.Size[t][s] > c.Capacity+1e-9
			f.Iterations = append(f.Iterations, IterationFacts{
				Team: team.Key, Key: it.Key, Capacity: c.Capacity, Full: c.Full, Basis: c.Basis,
				Load: loads.Size[t][s], Unsized: loads.Unsized[t][s], Over: over, Away: c.Away, Usable: open,
				Started: cadence.Started(&it, today), Ended: !open,
			})
			if over {
				f.Counts.Over = append(f.Counts.Over, IterationRef{team.Key, it.Key})
			}
			if open && state.Ahead < ahead {
				state.Ahead++
				state.Headroom += max(0, c.Capacity-loads.Size[t][s])
			}
		}
		state.Ended = cadence.EndedOf(team, today)
		for _, past := range histories[t] {
			if past.Counts {
				state.Pace = append(state.Pace, past.Normalised)
			}
		}
		_, state.Mean, state.Spread = capacity.Normalised(histories[t])
		f.Teams = append(f.Teams, state)
	}
}
