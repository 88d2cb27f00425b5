package act

import (
	"fmt"
	"slices"
	"strings"

	"jantrel/core/cadence"
	"jantrel/core/program"
	"jantrel/core/words"
)

// OfTeam names an iteration.
type OfTeam struct {
	Team string `json:"team"`
	Key  string `json:"key"` // the iteration's
}

// label is what the iteration is called.
func (o OfTeam) label(p program.Program) string {
	for _, t := range p.Teams {
		if it, ok := t.Find(o.Key); ok && t.Key == o.Team {
			return it.Label()
		}
	}
	return o.Key
}

// StartIteration opens an iteration.
type StartIteration struct{ OfTeam }

// Plan implements Intent.
func (x StartIteration) Plan(s State) (Plan, error) {
	changes, err := cadence.Start(s.Program, x.Team, x.Key)
	return made("Start "+x.label(s.Program), changes, err)
}

// Start is an iteration to be started.
type Start struct {
	OfTeam
	Goal string `json:"goal,omitempty"` // what it is for, in a sentence; empty: as it is
}

// StartIterations opens iterations, of several teams at once if wanted, as one edit.
type StartIterations struct {
	Iterations []Start `json:"iterations"`
}

// Plan implements Intent.
func (x StartIterations) Plan(s State) (Plan, error) {
	var all []program.Change
	var names []string
	for i, start := range x.Iterations {
		if slices.ContainsFunc(x.Iterations[:i], func(other Start) bool { return other.Team == start.Team }) {
			return Plan{}, fmt.Errorf("only one iteration of a team is started at once; %s is named twice", start.Team)
		}
		changes, err := cadence.Start(s.Program, start.Team, start.Key)
		if err != nil {
			return Plan{}, err
		}
		all, names = append(all, changes...), append(names, start.label(s.Program))
		if goal := strings.TrimSpace(start.Goal); goal != "" {
			all = append(all, program.SetTo(program.Ref{Kind: program.KindIteration, In: start.Team, Key: start.Key}, "goal", goal))
		}
	}
	if len(names) == 0 {
		return Plan{}, fmt.Errorf("say which iterations are to be started")
	}
	return made("Start "+strings.Join(names, ", "), all, nil)
}

// ReopenIteration opens the last closed iteration of a team again.
type ReopenIteration struct{ OfTeam }

// Plan implements Intent.
func (x ReopenIteration) Plan(s State) (Plan, error) {
	changes, err := cadence.Reopen(s.Program, x.Team, x.Key)
	return made("Open "+x.label(s.Program)+" again", changes, err)
}

// CloseIteration closes an iteration: what it completed is kept, what is not done goes on
// where the cadence says so, or as is said of it.
type CloseIteration struct {
	OfTeam
	Unfinished []cadence.Unfinished `json:"unfinished,omitempty"` // where items that are not done go instead
	Next       cadence.Next         `json:"next,omitempty"`       // whether the next one opens: open, wait; left out: if its first day has come or comes tomorrow
}

// Plan implements Intent.
func (x CloseIteration) Plan(s State) (Plan, error) {
	switch x.Next {
	case cadence.InTime, cadence.AtOnce, cadence.Waits:
	default:
		return Plan{}, fmt.Errorf("the next iteration cannot %q; say open or wait, or leave it out", x.Next)
	}
	changes, endings, err := cadence.Close(s.Program, s.Today, x.Team, x.Key, cadence.Closing{Unfinished: x.Unfinished, Next: x.Next})
	p, err := made("Close "+x.label(s.Program), changes, err)
	return p.with(nil, told(s.Program, endings)), err
}

// CloseEnded closes all iterations of some teams that are over, as CloseIteration does one.
type CloseEnded struct {
	Teams []string `json:"teams"` // of which
}

// Plan implements Intent.
func (x CloseEnded) Plan(s State) (Plan, error) {
	changes, endings, err := cadence.CloseEnded(s.Program, s.Today, x.Teams)
	label := "Close what has ended"
	if len(endings) > 1 {
		label = fmt.Sprintf("Close %d iterations that have ended", len(endings))
	}
	p, err := made(label, changes, err)
	return p.with(nil, told(s.Program, endings)), err
}

// told says what is noted of iterations that are closed, and where their items go on.
func told(p program.Program, endings []cadence.Ending) []string {
	var notes []string
	for _, e := range endings {
		t := p.Teams[slices.IndexFunc(p.Teams, func(t program.Team) bool { return t.Key == e.Team })]
		note := fmt.Sprintf("%s: completed %s of %s %s", e.Name, words.Number(e.Completed), words.Number(e.Committed), t.Unit)
		if e.On > 0 {
			note += fmt.Sprintf("; %s in %s", goesOn(e.On), e.IntoName)
		}
		if e.Back > 0 {
			note += fmt.Sprintf("; %s not done and unplaced", are(e.Back))
		}
		notes = append(notes, note)
	}
	return notes
}

func goesOn(items int) string {
	if items == 1 {
		return "1 item goes on"
	}
	return fmt.Sprintf("%d items go on", items)
}

func are(items int) string {
	if items == 1 {
		return "1 item is"
	}
	return fmt.Sprintf("%d items are", items)
}

// ResizeIteration gives an iteration another last day.
type ResizeIteration struct {
	OfTeam
	End   program.Date `json:"end"`             // its last day
	Along bool         `json:"along,omitempty"` // later iterations move along; else the next gives or takes the days
}

// Plan implements Intent.
func (x ResizeIteration) Plan(s State) (Plan, error) {
	changes, err := cadence.Resize(s.Program, s.Today, x.Team, x.Key, x.End, x.Along)
	return made(fmt.Sprintf("%s ends %s", x.label(s.Program), x.End.Short()), changes, err)
}

// InsertIteration puts a new iteration after one.
type InsertIteration struct {
	OfTeam
	Name string `json:"name,omitempty"`
	Days int    `json:"days"` // its length
}

// Plan implements Intent.
func (x InsertIteration) Plan(s State) (Plan, error) {
	changes, err := cadence.Insert(s.Program, s.Today, x.Team, x.Key, x.Name, x.Days)
	return made("New iteration after "+x.label(s.Program), changes, err)
}

// RemoveIteration takes an iteration out; later ones move up.
type RemoveIteration struct{ OfTeam }

// Plan implements Intent.
func (x RemoveIteration) Plan(s State) (Plan, error) {
	changes, err := cadence.Remove(s.Program, s.Today, x.Team, x.Key)
	return made("Remove "+x.label(s.Program), changes, err)
}

// MoveIteration moves an iteration and all after it by days: the one before it gets another
// last day.
type MoveIteration struct {
	OfTeam
	Days int `json:"days"` // how far; below 0 it is earlier
}

// Plan implements Intent.
func (x MoveIteration) Plan(s State) (Plan, error) {
	before, it, err := x.neighbours(s.Program)
	if err == nil {
		err = step(x.Days, 366)
	}
	if err != nil {
		return Plan{}, err
	}
	if before == nil {
		return Plan{}, fmt.Errorf("%s is the first iteration; give its cadence another start date", it.Label())
	}
	changes, err := cadence.Resize(s.Program, s.Today, x.Team, before.Key, before.End.Add(x.Days), true)
	return made(fmt.Sprintf("Move %s by %d days", it.Label(), x.Days), changes, err)
}

// neighbours finds the iteration and, by date, the one before it; nil where there is none.
func (o OfTeam) neighbours(p program.Program) (before, it *program.Iteration, err error) {
	for t := range p.Teams {
		list := p.Teams[t].Iterations
		for i := range list {
			if p.Teams[t].Key == o.Team && list[i].Key == o.Key {
				it = &list[i]
			}
		}
		for i := range list {
			if it != nil && p.Teams[t].Key == o.Team && list[i].Start < it.Start && (before == nil || list[i].Start > before.Start) {
				before = &list[i]
			}
		}
	}
	if it == nil {
		err = fmt.Errorf("there is no iteration %s of a team %s", o.Key, o.Team)
	}
	return before, it, err
}

// ResumeIterations makes the iterations of teams that have had none for so long that none are
// made by themselves, from the last one until as many lie ahead as cadences keep.
type ResumeIterations struct {
	Teams []string `json:"teams"` // which of them
}

// Plan implements Intent.
func (x ResumeIterations) Plan(s State) (Plan, error) {
	changes, err := cadence.Resume(s.Program, s.Today, x.Teams)
	return made("Make iterations until today", changes, err)
}
