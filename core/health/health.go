// Package health sums up how teams and releases stand: what needs somebody, counted, and what the
// last weeks came to. Each count is of the attention list (see package attention), so that it leads
// to exactly what it counts.
package health

import (
	"jantrel/core/attention"
	"jantrel/core/program"
	"jantrel/core/track"
)

// WeeksBack is how many weeks are told.
const WeeksBack = 8

// Team is how a team stands.
type Team struct {
	Team  string         `json:"team"`
	Calls []Count        `json:"calls"` // in the order of program.Calls; those that there are
	Weeks []track.Weekly `json:"weeks"` // of its work, in its unit, the oldest first
}

// Count is how much of a kind needs somebody; what was put off is left out.
type Count struct {
	Kind  program.Call `json:"kind"`
	Count int          `json:"count"`
}

// Release is how a release stands.
type Release struct {
	Release string         `json:"release"`
	Calls   int            `json:"calls"` // that cost it the most of all releases
	Days    float64        `json:"days"`  // what these cost it, on average
	Items   int            `json:"items"`
	Done    int            `json:"done"`
	Weeks   []track.Weekly `json:"weeks"` // of its work, in items, the oldest first
}

// Teams is how the teams of a program stand, in its order. runs are those of teams, in their units,
// since at least WeeksBack weeks.
func Teams(p program.Program, today program.Date, entries []attention.Entry, runs []track.Run) []Team {
	teams := make([]Team, len(p.Teams))
	for i := range p.Teams {
		t := Team{p.Teams[i].Key, []Count{}, []track.Weekly{}}
		for _, kind := range program.Calls {
			n := 0
			for _, e := range entries {
				if e.Kind == kind && e.Off == nil && e.Concerns(t.Team) {
					n++
				}
			}
			if n > 0 {
				t.Calls = append(t.Calls, Count{kind, n})
			}
		}
		for r := range runs {
			if runs[r].Team == t.Team {
				t.Weeks = runs[r].Weeks(today, WeeksBack)
			}
		}
		teams[i] = t
	}
	return teams
}

// ReleaseOf is how a release stands; run is that of all its items, since at least WeeksBack weeks.
func ReleaseOf(release string, today program.Date, entries []attention.Entry, run *track.Run) Release {
	r := Release{release, 0, 0, run.Total.Items, run.Done.Items, run.Weeks(today, WeeksBack)}
	for _, e := range entries {
		if e.Release == release && e.Off == nil {
			r.Calls++
			r.Days += e.Cost
		}
	}
	return r
}
