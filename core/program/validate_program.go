package program

import (
	"fmt"
	"slices"
	"strings"
)

// IsGroup reports whether items of the kind are there to group others.
func (k ItemKind) IsGroup() bool { return k == Initiative || k == Feature }

// LeafKinds returns the kinds of items that do not group others.
func LeafKinds() []ItemKind { return slices.Clone(leafKinds) }

// program checks what a program says of itself, and what makes new items.
func (v *validator) program(at path, p *Program) {
	settings := at.in("settings")
	v.share(settings, "fillTo", &p.Settings.FillTo)
	v.growth(settings, &p.Settings.Growth)
	if spread := p.Settings.Spread; spread != 0 && !(spread >= 1 && spread <= MaxSpread) {
		v.report(settings("spread"), "%v is not between 1 and %d", spread, MaxSpread)
	}
	v.steps(settings, p.Settings.Steps)
	v.distinct(settings, "roles", p.Settings.Roles, MaxRoles)
	for i, role := range p.Settings.Roles {
		if strings.Contains(role, ",") {
			v.report(settings(fmt.Sprintf("roles[%d]", i)), "%q has a comma, which divides roles where several are written", role)
		}
	}
	v.distinct(settings, "activities", p.Settings.Activities, maxActivities)
	v.distinct(settings, "priorities", p.Settings.Priorities, maxPriorities)
	v.scales(settings, p.Settings.Scales)
	v.attention(settings, p.Settings.Attention)
	for i, h := range p.Holidays {
		v.dated(at.in("holidays[%d]", i), "date", h.Date)
	}
	templates := keys{}
	for i, template := range p.PhaseTemplates {
		at := at.in("phaseTemplates[%d]", i)
		v.unique(templates, at, template.Key)
		for j, phase := range template.Phases {
			if phase.Days < 1 || phase.Days > 10*maxIterationDays {
				v.report(at(fmt.Sprintf("phases[%d].days", j)), "%d is not between 1 and %d", phase.Days, 10*maxIterationDays)
			}
		}
	}
	v.readyAndMix(settings, &p.Settings)
	v.patterns(at, p.Patterns)
	v.repeats(at, p.Repeats)
	v.guides(at, p.Guides)
	v.planSections(settings, p.Settings.PlanSections)
	v.views(at, p.Views)
}

// How many words there are to choose from at most.
const (
	MaxRoles      = 100
	maxActivities = 100
	maxPriorities = 20
)

// distinct checks a list of words to choose from.
func (v *validator) distinct(at path, field string, words []string, most int) {
	if len(words) > most {
		v.report(at(field), "%d are too many; %d is the most", len(words), most)
		return
	}
	seen := map[string]bool{}
	for i, name := range words {
		switch word := folded(name); {
		case word == "":
			v.report(at(fmt.Sprintf("%s[%d]", field, i)), "is empty")
		case seen[word]:
			v.report(at(fmt.Sprintf("%s[%d]", field, i)), "%q is there twice", name)
		default:
			seen[word] = true
		}
	}
}

// folded is what two words share that are one to people.
func folded(word string) string { return strings.ToLower(strings.TrimSpace(word)) }

const (
	maxSteps     = 20  // that states are divided into
	maxInOneStep = 999 // items
)

func (v *validator) steps(at path, steps []Step) {
	if len(steps) > maxSteps {
		v.report(at("steps"), "%d are too many; %d is the most", len(steps), maxSteps)
		return
	}
	seen := map[string]bool{}
	for i, step := range steps {
		at := at.in("steps[%d]", i)
		name := strings.ToLower(strings.TrimSpace(step.Name))
		switch {
		case name == "":
			v.report(at("name"), "is empty")
		case seen[name]:
			v.report(at("name"), "%q is there twice", step.Name)
		}
		seen[name] = true
		switch {
		case step.Most < 0 || step.Most > maxInOneStep:
			v.report(at("most"), "%d is not between 0 and %d", step.Most, maxInOneStep)
		case step.Most > 0 && step.State == Done:
			v.report(at("most"), "what is done has no limit")
		}
	}
}

func (v *validator) readyAndMix(at path, s *Settings) {
	if s.Ready != nil {
		for unit, n := range s.Ready.Largest {
			oneOf(v, at("ready.largest"), unit, units)
			if !amount(&n) || n == 0 {
				v.report(at("ready.largest."+string(unit)), "%v is not a number above 0, and at most %d", n, maxAmount)
			}
		}
	}
	sum := 0.0
	for kind, share := range s.Mix {
		oneOf(v, at("mix"), kind, leafKinds)
		if !amount(&share) || share > 1 {
			v.report(at("mix."+string(kind)), "%v is not between 0 and 1", share)
		}
		sum += share
	}
	if sum > 1+1e-9 {
		v.report(at("mix"), "the shares add up to %.0f %%, which is more than all", 100*sum)
	}
}

func (v *validator) patterns(at path, patterns []Pattern) {
	seen := keys{}
	for i, pattern := range patterns {
		at := at.in("patterns[%d]", i)
		v.unique(seen, at, pattern.Key)
		for j, part := range pattern.Parts {
			at := at.in("parts[%d]", j)
			v.filled(at, "title", part.Title)
			v.atLeastZero(at, "size", part.Size)
			for _, n := range part.Needs {
				// Needing only what comes before it, no part can wait for itself.
				if n < 0 || n >= j {
					v.report(at("needs"), "part %d is not one before this one", n+1)
				}
			}
		}
	}
}

func (v *validator) repeats(at path, repeats []Repeat) {
	seen := keys{}
	for i, r := range repeats {
		at := at.in("repeats[%d]", i)
		v.unique(seen, at, r.Key)
		v.filled(at, "title", r.Title)
		v.atLeastZero(at, "size", r.Size)
	}
}

func (v *validator) views(at path, views []View) {
	seen := keys{}
	for i, view := range views {
		at := at.in("views[%d]", i)
		v.unique(seen, at, view.Key)
		v.filled(at, "name", view.Name)
		for j, c := range view.Columns {
			if c.Width < 0 || c.Width > 2000 {
				v.report(at(fmt.Sprintf("columns[%d].width", j)), "%d is not between 0 and 2000 pixels", c.Width)
			}
		}
		v.look(at, view.Plan)
	}
}

func (v *validator) look(at path, look *PlanLook) {
	if look == nil {
		return
	}
	at = at.in("plan")
	noneOr(v, at("colourBy"), look.ColourBy, colourings)
	noneOr(v, at("needs"), look.Needs, needsShown)
	noneOr(v, at("density"), look.Density, densities)
	noneOr(v, at("bars"), look.Bars, barKinds)
	for i, part := range look.Blocks {
		oneOf(v, at(fmt.Sprintf("blocks[%d]", i)), part, blockParts)
	}
}

// noneOr reports a text that is neither empty nor one of a set.
func noneOr[T ~string](v *validator, path string, value T, allowed []T) {
	if value != "" {
		oneOf(v, path, value, allowed)
	}
}
