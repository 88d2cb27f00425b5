package track

import (
	"math"
	"time"

	"jantrel/core/program"
)

// Hours is how the hours left of a run's tasks came about: Σ over its items that are not done of
// what is left of each task, as far as that is estimated. Always Start and Σ (To − From) of the
// steps are Left.
type Hours struct {
	Start float64     `json:"start"`
	Left  float64     `json:"left"` // now
	Steps []HoursStep `json:"steps"`
}

// HoursStep is an edit of an item that changed how many hours are left in its run.
type HoursStep struct {
	Revision int64     `json:"revision"`
	At       time.Time `json:"at"`
	By       string    `json:"by"`
	Item     string    `json:"item"`
	From     float64   `json:"from"` // what was left of it there; 0 where it did not count
	To       float64   `json:"to"`   // what is left of it there
	Left     float64   `json:"left"` // of the run, after it
}

// hoursOf is what is left of tasks, as far as that is estimated.
func hoursOf(tasks []program.Task) (sum float64) {
	for i := range tasks {
		left, _ := tasks[i].Left()
		sum += left
	}
	return sum
}

// hoursLeft is what of a card's hours counts: of what is done nothing is left.
func (c card) hoursLeft() float64 {
	if !c.there || c.state == program.Done {
		return 0
	}
	return c.hours
}

// hours notes that an edit changed what is left of an item in a run.
func (f *fold) hours(e *Event, run int, key string, from, to float64) {
	if from == to {
		return
	}
	h := &f.runs[run].Hours
	h.Left = tidy(h.Left + to - from)
	if f.begun[run] {
		h.Steps = append(h.Steps, HoursStep{e.Revision, e.At, e.By, key, from, to, h.Left})
	}
}

// By is how many hours were left at the end of a day, as its times have it.
func (h *Hours) By(end program.Date) float64 {
	left := h.Start
	for i := range h.Steps {
		if day(h.Steps[i].At) > end {
			break
		}
		left = h.Steps[i].Left
	}
	return left
}

// tidy rounds a sum of hours to what people write: what was added and taken away again leaves nothing.
func tidy(hours float64) float64 { return math.Round(hours*1e6) / 1e6 }

// since is the part from a later time on.
func (h Hours) since(at time.Time) Hours {
	part := Hours{Start: h.Start, Left: h.Left, Steps: []HoursStep{}}
	for _, s := range h.Steps {
		if s.At.Before(at) {
			part.Start = s.Left
			continue
		}
		part.Steps = append(part.Steps, s)
	}
	return part
}
