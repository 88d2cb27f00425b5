package forecast

import "jantrel/core/program"

// BurnUp is how some work came about and how the plays go on: what a burn-up with its fan is drawn from.
type BurnUp struct {
	Measure Measure      `json:"measure"`
	Unit    program.Unit `json:"unit,omitempty"` // of sizes
	Past    []Burned     `json:"past"`           // by the journal, up to today
	Fan     Fan          `json:"fan"`
	Landing Landing      `json:"landing"` // of all of it
}
