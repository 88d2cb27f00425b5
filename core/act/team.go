package act

import (
	"encoding/json"
	"errors"
	"fmt"
	"slices"

	"jantrel/core/cadence"
	"jantrel/core/program"
	"jantrel/core/words"
)

// SaveCadence gives a cadence new values, or adds it, and brings its teams' iterations
// that have not started in line.
type SaveCadence struct {
	Cadence program.Cadence `json:"cadence"` // as it should be
}

// Plan implements Intent.
func (c SaveCadence) Plan(s State) (Plan, error) {
	changes, err := cadence.Reshape(s.Program, s.Today, c.Cadence)
	p, err := made("Cadence "+c.Cadence.Label(), changes, err)
	return p.with(nil, rescaled(s, changes)), err
}

// rescaled says of which teams the agreed velocity goes along with the length of iterations.
func rescaled(s State, changes []program.Change) (notes []string) {
	for _, c := range changes {
		at, known := s.TeamAt()[c.Key]
		if c.Kind != program.KindTeam || c.Field != "velocity" || !known {
			continue
		}
		var now float64
		if err := json.Unmarshal(c.Value, &now); err == nil {
			t := &s.Program.Teams[at]
			notes = append(notes, fmt.Sprintf("%s stays as fast: %s %s an iteration of the new length, as %s of the old", t.Name, words.Number(now), t.Unit, words.Number(*t.Velocity)))
		}
	}
	return notes
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
	followed := program.Ref{Kind: program.KindCadence, Key: f.Cadence}
	p, err := made(fmt.Sprintf("%s follows %s from %s", s.Program.Called(teamRef(f.Team)), s.Program.Called(followed), f.From.Short()), changes, err)
	return p.with(nil, rescaled(s, changes)), err
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
