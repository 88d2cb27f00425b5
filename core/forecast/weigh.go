package forecast

import (
	"errors"
	"fmt"
	"slices"

	"jantrel/core/capacity"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/track"
)

// Measure is what work is counted in.
type Measure struct {
	In   In     `json:"in"`
	Team string `json:"team,omitempty"` // of this team alone; InSize needs one, as sizes of different teams are never added up
}

// In is what work may be counted in.
type In string

// What work may be counted in.
const (
	InItems In = "items" // each counts 1
	InSize  In = "size"  // in the team's unit; without a size 0
	// InShare counts each item with the days that its team takes for it, size ÷ velocity × days of an
	// iteration; and all that with its share of what there is today.
	InShare In = "share"
	InHours In = "hours" // what is left of the hours of its tasks, as far as these are estimated
)

// Check says what is wrong with a measure; the zero value is none, and right.
func (m Measure) Check(p *plan.Plan) error {
	if _, ok := p.TeamAt()[m.Team]; m.Team != "" && !ok {
		return fmt.Errorf("there is no team %q to draw it in", m.Team)
	}
	switch {
	case m.In == InSize && m.Team == "":
		return errors.New("sizes of different teams are never added up: say of which team they are to be drawn")
	case m.In != "" && m.In != InItems && m.In != InSize && m.In != InShare && m.In != InHours:
		return fmt.Errorf("work is counted in items, size, share or hours, not in %q", m.In)
	}
	return nil
}

// scale says what things weigh in a measure.
type scale struct {
	of      Measure
	p       *plan.Plan
	perUnit map[string]float64 // by team, in InShare: days
	whole   float64            // in InShare: what is 1
}

// newScale is the scale of a measure. of: the positions of the leaves that are all there is today.
func newScale(p *plan.Plan, m Measure, of []int) *scale {
	s := &scale{of: m, p: p, whole: 1}
	if m.In != InShare {
		return s
	}
	s.perUnit = capacity.DaysPerUnit(p)
	sum := 0.0
	for _, i := range of {
		sum += s.item(i)
	}
	if sum > 0 {
		s.whole = sum
	}
	return s
}

// counts reports whether a team's work counts.
func (s *scale) counts(team string) bool { return s.of.Team == "" || s.of.Team == team }

// item is what the leaf at i weighs.
func (s *scale) item(i int) float64 {
	item := &s.p.Items[i]
	if _, rough := s.p.Piece(i); rough || !s.counts(item.Team) {
		return 0
	}
	switch {
	case s.of.In == InItems:
		return 1
	case s.of.In == InHours:
		sum := 0.0
		for n := range item.Tasks {
			left, _ := item.Tasks[n].Left()
			sum += left
		}
		return sum
	case item.Size == nil:
		return 0
	}
	return s.size(item.Team, *item.Size)
}

// unsized reports whether the leaf at i weighs nothing as it has no size.
func (s *scale) unsized(i int) bool {
	item := &s.p.Items[i]
	return (s.of.In == InSize || s.of.In == InShare) && item.Size == nil && s.counts(item.Team)
}

// size is what a size of a team weighs, where sizes do.
func (s *scale) size(team string, size float64) float64 {
	switch s.of.In {
	case InSize:
		return size
	case InShare:
		return size * s.perUnit[team] / s.whole
	}
	return 0
}

// Burned is how much of some work there was at the end of a day, and how much of it was done. In
// hours there is what is left alone, and nothing of it is done.
type Burned struct {
	Day   Date    `json:"day"`
	Total float64 `json:"total"`
	Done  float64 `json:"done"`
}

// Left is what was left.
func (b Burned) Left() float64 { return b.Total - b.Done }

// EndsOf are the last days of closed iterations of teams that lie from a day on and before today, the latest
// ones, so many at most, each once and the oldest first.
func EndsOf(p *plan.Plan, teams []string, from, today Date, most int) []Date {
	var ends []Date
	for t := range p.Teams {
		if !slices.Contains(teams, p.Teams[t].Key) {
			continue
		}
		for _, it := range p.Teams[t].Iterations {
			if it.State == program.Closed && it.End >= from && it.End < today {
				ends = append(ends, it.End)
			}
		}
	}
	slices.Sort(ends)
	ends = slices.Compact(ends)
	return ends[max(0, len(ends)-most):]
}

// BurnedBy is how some work was at the end of each of some days, by its history, in a measure:
// the lines that a fan goes on from. p is the plan to which the history led.
func BurnedBy(p *plan.Plan, h *track.History, m Measure, days []Date) []Burned {
	p = p.Whole()
	tree, leaves := p.Tree(), []int{}
	for _, key := range h.Items {
		if i, ok := tree.Index[key]; ok {
			leaves = append(leaves, i)
		}
	}
	s, all := newScale(p, m, leaves), make([]Burned, len(days))
	runs := h.Teams
	if m.Team == "" && m.In != InShare {
		runs = []track.Run{h.All}
	}
	for i, day := range days {
		all[i].Day = day
		for r := range runs {
			run := &runs[r]
			if !s.counts(run.Team) {
				continue
			}
			if m.In == InHours {
				all[i].Total += run.Hours.By(day)
				continue
			}
			total, done := run.By(day)
			if m.In == InItems {
				all[i].Total, all[i].Done = all[i].Total+float64(total.Items), all[i].Done+float64(done.Items)
			} else {
				all[i].Total, all[i].Done = all[i].Total+s.size(run.Team, total.Size), all[i].Done+s.size(run.Team, done.Size)
			}
		}
	}
	return all
}
