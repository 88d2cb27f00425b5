package act

import (
	"cmp"
	"errors"
	"fmt"
	"slices"
	"strings"

	"jantrel/core/calendar"
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

// MoveRelease moves a release with its phases, or one phase of it, by dates; what is placed of it
// goes along by the rules of a Shift. It says one of three: by how many days, from which day on,
// or after which item.
type MoveRelease struct {
	Key   string       `json:"key"`
	Phase string       `json:"phase,omitempty"` // this phase alone, with what starts in it; missing: all of the release
	Days  int          `json:"days,omitempty"`  // later; below 0: earlier
	Start program.Date `json:"start,omitzero"`  // it starts on this day
	After string       `json:"after,omitempty"` // it starts on the day after the last of this item
	Items Along        `json:"items,omitempty"` // missing: they go along
}

// Along is whether items go along with what they belong to.
type Along string

// What there is to choose from.
const (
	GoAlong Along = "along"
	Stay    Along = "stay"
)

// Plan implements Intent. It asks whether the items go along, where any can.
func (m MoveRelease) Plan(s State) (Plan, error) {
	r, err := releaseOf(s.Program, m.Key)
	if err != nil {
		return Plan{}, err
	}
	name, of := r.Name, calendar.Span{Start: r.Start, End: calendar.Latest}
	phase := slices.IndexFunc(r.Phases, func(p program.Phase) bool { return p.Key == m.Phase })
	switch {
	case m.Phase != "" && phase < 0:
		return Plan{}, fmt.Errorf("%s has no phase %q", r.Name, m.Phase)
	case phase >= 0:
		of = calendar.Span{Start: r.Phases[phase].Start, End: r.Phases[phase].End}
		name = r.Phases[phase].Name + " of " + r.Name
	case r.Start.IsZero() && len(r.Phases) > 0:
		of.Start = r.Phases[0].Start
	}
	days, err := m.distance(s, of.Start)
	if err == nil {
		err = step(days, maxShift)
	}
	if err != nil {
		return Plan{}, err
	}
	next := r
	if phase >= 0 {
		next.Phases = slices.Clone(r.Phases)
		next.Phases[phase].Start, next.Phases[phase].End = of.Start.Add(days), of.End.Add(days)
	} else {
		next = releases.Move(r, days)
	}
	p, err := made(fmt.Sprintf("Move %s by %d days", name, days), releaseChanges(r, next), err)
	return p.along(s, m, days, phase >= 0, of), err
}

// distance is how many days something that starts on a day is moved by.
func (m MoveRelease) distance(s State, start program.Date) (int, error) {
	switch {
	case m.After == "" && m.Start.IsZero():
		return m.Days, nil
	case start.IsZero():
		return 0, errors.New("it has no start to move from; move it by days")
	case m.After != "":
		over, err := Shift{After: m.After}.over(s)
		return int(over.Add(1) - start), err
	}
	return int(m.Start - start), nil
}

// along moves what is placed of a release by so many days, or of one phase what starts in it, and
// asks whether it should.
func (p Plan) along(s State, m MoveRelease, days int, phase bool, of calendar.Span) Plan {
	whole := State{s.Whole(), s.Today, s.Index}
	var leaves []int
	for i := range whole.Items {
		place, placed := whole.Place(i)
		if placed && whole.Tree().IsLeaf(i) && whole.Tree().Release(i) == m.Key && (!phase || of.Holds(place.Start)) {
			leaves = append(leaves, i)
		}
	}
	moving, fixed := movable(whole, leaves)
	aim, _, err := Shift{Days: days}.aim(whole, moving)
	if len(moving) == 0 || aim == nil || err != nil {
		return p
	}
	p.Ask = &Question{Text: "What is placed of it", Field: "items", Answer: string(cmp.Or(m.Items, GoAlong)), Answers: []Answer{
		{string(GoAlong), "goes along, each item to where its team has room and its needs hold"}, {string(Stay), "stays where it is"}}}
	if m.Items == Stay {
		return p
	}
	changes, stuck := shifted(whole, moving, aim)
	p.Changes = append(p.Changes, changes...)
	return p.with(nil, left(fixed, stuck))
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
