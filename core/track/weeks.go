package track

import "jantrel/core/program"

// Weekly is what became of a run in seven days.
type Weekly struct {
	End      program.Date `json:"end"`      // the last of them
	Total    Sum          `json:"total"`    // what there was at the end of it
	Done     Sum          `json:"done"`     // of that
	Finished Sum          `json:"finished"` // what Done grew by; less than nothing where more was reopened, or taken out, than done
}

// By is what there was of a run, and what was done, at the end of a day, as its times have it.
func (r *Run) By(end program.Date) (total, done Sum) {
	total, done = r.Start, r.DoneBefore
	for i := range r.Steps {
		if day(r.Steps[i].At) > end {
			break
		}
		total, done = r.Steps[i].Total, r.Steps[i].Done
	}
	return total, done
}

// Weeks is what became of a run in each of the last weeks up to a day, so many at most, the oldest
// first; those that began before the run are left out. Time is linear in steps times weeks.
func (r *Run) Weeks(today program.Date, most int) []Weekly {
	weeks := []Weekly{}
	for k := most - 1; k >= 0; k-- {
		end := today.Add(-7 * k)
		if end.Add(-6) < day(r.From) {
			continue
		}
		w := Weekly{End: end}
		w.Total, w.Done = r.By(end)
		_, before := r.By(end.Add(-7))
		w.Finished = w.Done.minus(before)
		weeks = append(weeks, w)
	}
	return weeks
}
