package forecast

import (
	"math"

	"jantrel/core/capacity"
	"jantrel/core/plan"
	"jantrel/core/program"
)

// Simple is the plain arithmetic: sizes ÷ velocity × days of an iteration, and a
// buffer on top. It knows neither days off, needs nor chance.
type Simple struct {
	Buffer Buffer       `json:"buffer"`
	Teams  []SimpleTeam `json:"teams"`
	Done   Date         `json:"done,omitzero"`   // when the last team is done; none where one has no velocity
	Fits   int          `json:"fits"`            // how many items from the top of the list are done by the date asked about
	After  string       `json:"after,omitempty"` // the last of them
}

// Buffer is what the plain arithmetic adds to the time.
type Buffer struct {
	Share float64 `json:"share"` // of it, 0.2 for a fifth
	Days  int     `json:"days"`  // and so many days
}

// SimpleTeam is the arithmetic for one team, step by step.
type SimpleTeam struct {
	Team       string         `json:"team"`
	Unit       program.Unit   `json:"unit"`
	Items      int            `json:"items"`
	Unsized    int            `json:"unsized,omitempty"` // items without a size, counted at the mean
	Mean       float64        `json:"mean,omitempty"`    // mean size of the team's items that have one
	Units      float64        `json:"units"`             // sizes, in the team's unit
	Velocity   float64        `json:"velocity"`          // units an iteration
	Basis      capacity.Basis `json:"basis"`
	Days       int            `json:"days"`          // days of an iteration
	Iterations float64        `json:"iterations"`    // units ÷ velocity
	TotalDays  int            `json:"totalDays"`     // iterations × days × (1 + the buffer's share), rounded up, and the buffer's days
	Done       Date           `json:"done,omitzero"` // today and these days on
}

// Reckon does the plain arithmetic for items (those that are still to do and have a
// team), and for what of a ranked list is done by a date.
func Reckon(p *plan.Plan, today Date, items, list []string, by Date, buffer Buffer) Simple {
	p = p.Whole()
	r := reckoner{p: p, tree: p.Tree(), rates: capacity.Rates(p), teams: p.TeamAt()}
	r.means()
	s := Simple{Buffer: buffer, Teams: []SimpleTeam{}}
	sums := make([]SimpleTeam, len(p.Teams))
	for _, i := range r.leaves(items) {
		t := r.teams[p.Items[i].Team]
		if _, rough := p.Piece(i); !rough {
			sums[t].Items++
		}
		if p.Items[i].Size == nil {
			sums[t].Unsized++
		}
		sums[t].Units += r.size(i, t)
	}
	for t, sum := range sums {
		if sum.Items == 0 && sum.Units == 0 {
			continue
		}
		rate := r.rates[t]
		sum.Team, sum.Unit, sum.Velocity, sum.Basis, sum.Days = p.Teams[t].Key, p.Teams[t].Unit, rate.Velocity, rate.Basis, rate.Days
		if sum.Unsized > 0 {
			sum.Mean = r.mean[t]
		}
		if rate.Velocity > 0 {
			sum.Iterations = sum.Units / rate.Velocity
			sum.TotalDays = int(min(math.Ceil(sum.Iterations*float64(rate.Days)*(1+buffer.Share)-1e-9), maxDays*10)) + buffer.Days
			sum.Done = today.Add(sum.TotalDays)
		}
		s.Teams = append(s.Teams, sum)
	}
	s.Done = latest(s.Teams)
	if !by.IsZero() {
		s.fit(&r, today, list, by)
	}
	return s
}

func latest(teams []SimpleTeam) Date {
	last := Date(0)
	for _, t := range teams {
		if t.Done.IsZero() {
			return 0
		}
		last = max(last, t.Done)
	}
	return last
}

// fit walks down the list until a team has no time left for its next item.
func (s *Simple) fit(r *reckoner, today Date, list []string, by Date) {
	left := make([]float64, len(r.rates))
	for t, rate := range r.rates {
		left[t] = rate.Velocity / float64(rate.Days) * max(0, float64(int(by-today)-s.Buffer.Days)) / (1 + s.Buffer.Share)
	}
	for _, i := range r.leaves(list) {
		t := r.teams[r.p.Items[i].Team]
		if left[t] -= r.size(i, t); left[t] < -1e-9 {
			return
		}
		if _, rough := r.p.Piece(i); !rough {
			s.Fits++
			s.After = r.p.Items[i].Key
		}
	}
}

type reckoner struct {
	p     *plan.Plan
	tree  program.Tree
	rates []capacity.Rate
	teams map[string]int
	mean  []float64
}

// means works out each team's mean size.
func (r *reckoner) means() {
	r.mean = make([]float64, len(r.p.Teams))
	n := make([]int, len(r.p.Teams))
	for i := range r.p.Items {
		item := &r.p.Items[i]
		if _, rough := r.p.Piece(i); rough {
			continue
		}
		if t, ok := r.teams[item.Team]; ok && item.Size != nil && r.tree.IsLeaf(i) {
			n[t]++
			r.mean[t] += (*item.Size - r.mean[t]) / float64(n[t])
		}
	}
}

func (r *reckoner) size(i, t int) float64 {
	if size := r.p.Items[i].Size; size != nil {
		return *size
	}
	return r.mean[t]
}

// leaves returns what of some items is still to do and has a team, groups standing
// for what is below them.
func (r *reckoner) leaves(keys []string) []int {
	var leaves []int
	seen := map[int]bool{}
	for _, key := range keys {
		i, ok := r.tree.Index[key]
		if !ok {
			continue
		}
		for _, leaf := range r.tree.Leaves(i) {
			if _, hasTeam := r.teams[r.p.Items[leaf].Team]; hasTeam && !seen[leaf] && r.tree.ToSchedule(leaf) {
				leaves = append(leaves, leaf)
			}
			seen[leaf] = true
		}
	}
	return leaves
}
