package act

import (
	"errors"
	"fmt"
	"slices"
	"strings"

	"jantrel/core/program"
	"jantrel/core/releases"
)

// FitRelease gives a release the dates that its phases and placed items span.
type FitRelease struct {
	Key string `json:"key"`
}

// Plan implements Intent.
func (f FitRelease) Plan(s State) (Plan, error) {
	r, err := releaseOf(s.Program, f.Key)
	if err != nil {
		return Plan{}, err
	}
	extent := releases.Of(s.Plan, r.Key)
	if extent.Start.IsZero() {
		return Plan{}, fmt.Errorf("%s has no phase and no placed item to fit it to", r.Name)
	}
	next := r
	next.Start, next.Due = extent.Start, extent.End
	p, err := made("Fit "+r.Name+" to its phases and items", releaseChanges(r, next), nil)
	if extent.Unplaced > 0 {
		p.Notes = append(p.Notes, fmt.Sprintf("%d items of it are not placed and do not count.", extent.Unplaced))
	}
	return p, err
}

// MoveRelease moves a release with its phases.
type MoveRelease struct {
	Key  string `json:"key"`
	Days int    `json:"days"` // how far; below 0 it is earlier
}

// Plan implements Intent.
func (m MoveRelease) Plan(s State) (Plan, error) {
	r, err := releaseOf(s.Program, m.Key)
	if err == nil {
		err = step(m.Days, 4000)
	}
	if err != nil {
		return Plan{}, err
	}
	return made(fmt.Sprintf("Move %s by %d days", r.Name, m.Days), releaseChanges(r, releases.Move(r, m.Days)), nil)
}

// LayPhases gives a release the phases of a template.
type LayPhases struct {
	Key      string       `json:"key"`
	Template string       `json:"template"`      // the template's key
	From     program.Date `json:"from,omitzero"` // the first day; missing: the release's own start
}

// Plan implements Intent.
func (l LayPhases) Plan(s State) (Plan, error) {
	r, err := releaseOf(s.Program, l.Key)
	if err != nil {
		return Plan{}, err
	}
	t := slices.IndexFunc(s.Program.PhaseTemplates, func(t program.PhaseTemplate) bool { return t.Key == l.Template })
	if t < 0 {
		return Plan{}, fmt.Errorf("there is no phase template %q", l.Template)
	}
	start := l.From
	if start.IsZero() {
		start = r.Start
	}
	if start.IsZero() {
		return Plan{}, fmt.Errorf("%s has no start date to lay the phases from; give it one", r.Name)
	}
	next := r
	next.Phases = releases.Phases(s.Program.PhaseTemplates[t], start)
	return made(fmt.Sprintf("Phases of %s after %s", r.Name, s.Program.PhaseTemplates[t].Name), releaseChanges(r, next), nil)
}

// KeepTemplate keeps the phases of a release as a template. Days between two phases go to
// the earlier one. One of that name gives way.
type KeepTemplate struct {
	Key  string `json:"key"`  // the release
	Name string `json:"name"` // the template's
}

// Plan implements Intent.
func (k KeepTemplate) Plan(s State) (Plan, error) {
	r, err := releaseOf(s.Program, k.Key)
	if err != nil {
		return Plan{}, err
	}
	if len(r.Phases) == 0 {
		return Plan{}, fmt.Errorf("%s has no phases to keep", r.Name)
	}
	if strings.TrimSpace(k.Name) == "" {
		return Plan{}, errors.New("the template has no name; give it one")
	}
	templates := slices.Clone(s.Program.PhaseTemplates)
	taken := map[string]bool{}
	for _, t := range templates {
		taken[t.Key] = true
	}
	key := ""
	for n := len(templates) + 1; key == "" || taken[key]; n++ {
		key = fmt.Sprintf("t%d", n)
	}
	if i := slices.IndexFunc(templates, func(t program.PhaseTemplate) bool { return t.Name == k.Name }); i >= 0 {
		templates[i] = releases.Template(templates[i].Key, k.Name, r.Phases)
	} else {
		templates = append(templates, releases.Template(key, k.Name, r.Phases))
	}
	return made("Phase template "+k.Name, []program.Change{program.SetTo(program.Ref{Kind: program.KindProgram}, "phaseTemplates", templates)}, nil)
}

func releaseOf(p program.Program, key string) (program.Release, error) {
	for _, r := range p.Releases {
		if r.Key == key {
			return r, nil
		}
	}
	return program.Release{}, fmt.Errorf("there is no release %q", key)
}

// releaseChanges are the changes that give a release other dates and phases.
func releaseChanges(before, after program.Release) (changes []program.Change) {
	ref := program.Ref{Kind: program.KindRelease, Key: before.Key}
	if after.Start != before.Start {
		changes = append(changes, program.SetTo(ref, "start", after.Start))
	}
	if after.Due != before.Due {
		changes = append(changes, program.SetTo(ref, "due", after.Due))
	}
	if !slices.Equal(after.Phases, before.Phases) {
		changes = append(changes, program.SetTo(ref, "phases", after.Phases))
	}
	return changes
}
