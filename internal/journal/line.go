package journal

import (
	"fmt"

	"jantrel/core/program"
)

// Line is what a journal belongs to: the live plan of a program, or a scenario.
type Line struct {
	ID           int64  `db:"id"`
	Program      int64  `db:"program_id"`
	Base         *int64 `db:"base_line"`     // of a scenario: the line of the live plan; nil: it is the live plan
	BaseRevision *int64 `db:"base_revision"` // of a scenario: what it began with; its own revisions go on from there
	Revision     int64  `db:"revision"`
	About
}

// About is what people know of a scenario.
type About struct {
	Name   string `db:"name"`
	Note   string `db:"note"`      // what it assumes
	Owner  *int64 `db:"owner_id"`  // whose it is, an account; nil: it is gone
	By     string `db:"made_by"`   // their name
	Shared bool   `db:"shared"`    // all who belong to the program see it
	At     string `db:"made_at"`   // when it was made, as the journal has times
	From   string `db:"made_from"` // in words
}

// Limits of scenarios.
const (
	MaxScenarios    = 100 // of a program
	MaxOwnScenarios = 20  // of one account in a program
)

// Errors of making a scenario.
var (
	ErrManyScenarios    = fmt.Errorf("a program has %d scenarios at most; delete some first, or ask whose they are to", MaxScenarios)
	ErrManyOwnScenarios = fmt.Errorf("you have %d scenarios in this program, which is as many as one person may have; delete some first", MaxOwnScenarios)
)

// RoomFor reports whether there may be one more scenario: an error where a program has so many, or their owner has.
func RoomFor(all, own int) error {
	switch {
	case own >= MaxOwnScenarios:
		return ErrManyOwnScenarios
	case all >= MaxScenarios:
		return ErrManyScenarios
	}
	return nil
}

// Checkpoint is a line as it was at one of its revisions.
type Checkpoint struct {
	Revision int64
	Program  program.Program
}

// ForecastDay is what the forecast of a line said at the end of a day, as JSON.
type ForecastDay struct {
	Day  program.Date `db:"day"`
	Body string       `db:"body"`
}
