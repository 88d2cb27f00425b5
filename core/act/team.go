package act

import (
	"errors"
	"fmt"
	"slices"

	"jantrel/core/cadence"
	"jantrel/core/program"
)

// SaveCadence gives a cadence new values, or adds it, and brings its teams' iterations
// that have not started in line.
type SaveCadence struct {
	Cadence program.Cadence `json:"cadence"` // as it should be
}

// Plan implements Intent.
func (c SaveCadence) Plan(s State) (Plan, error) {
	changes, err := cadence.Reshape(s.Program, s.Today, c.Cadence)
	return made("Cadence "+c.Cadence.Label(), changes, err)
}

// FollowCadence moves a team to another cadence from a day on.
type FollowCadence struct {
	Team    string       `json:"team"`
	Cadence string       `json:"cadence"`
	From    program.Date `json:"from"` // iterations that start on that day or later take the new length
}

// Plan implements Intent.
func (f FollowCadence) Plan(s State) (Plan, error) {
	changes, err := cadence.Follow(s.Program, s.Today, f.Team, f.Cadence, f.From)
	return made(fmt.Sprintf("%s follows %s from %s", f.Team, f.Cadence, f.From.Short()), changes, err)
}

// AddTeam adds a team, with the iterations that its cadence keeps ahead.
type AddTeam struct {
	Team program.Team `json:"team"`
}

// Plan implements Intent.
func (a AddTeam) Plan(s State) (Plan, error) {
	if a.Team.Key == "" {
		return Plan{}, errors.New("the team has no key; give it one of a few letters, which begins its items' keys")
	}
	ref := program.Ref{Kind: program.KindTeam, Key: a.Team.Key}
	if s.Program.Has(ref) {
		return Plan{}, fmt.Errorf("there is a team with the key %s already", a.Team.Key)
	}
	if a.Team.Velocity != nil && a.Team.AgreedOn.IsZero() {
		a.Team.AgreedOn = s.Today
	}
	with := s.Program
	with.Teams = append(slices.Clip(with.Teams), a.Team)
	others := func(c program.Change) bool { return c.In != a.Team.Key }
	kept := slices.DeleteFunc(cadence.Keep(with, s.Today), others)
	return made("Team "+a.Team.Name, append([]program.Change{program.AddOf(ref, a.Team)}, kept...), nil)
}
