// Package starting makes programs to begin with: from a template, or with the set-up of
// another program.
package starting

import (
	"slices"

	"jantrel/core/program"
)

// Template is a set-up to start from: cadences, phases, what ready means, the mix of kinds
// and patterns. Teams, people and work are one's own.
type Template struct {
	Key  string `json:"key"`
	Name string `json:"name"`
	Says string `json:"says"` // what is in it, in a sentence

	lay func(p *program.Program, monday program.Date)
}

// Templates are the templates, in the order in which they are offered.
var Templates = []Template{
	{"two-weeks", "Teams with two-week iterations", "Two weeks for all teams, sized in points; releases are built, then tried.",
		func(p *program.Program, monday program.Date) {
			p.Cadences = []program.Cadence{cadence("two-weeks", "Two weeks", monday, 14, 8)}
			points(p)
		}},
	{"two-and-three", "Teams with two and three weeks", "Two weeks for some teams and three for others, in points; both begin on the same Monday.",
		func(p *program.Program, monday program.Date) {
			p.Cadences = []program.Cadence{cadence("two-weeks", "Two weeks", monday, 14, 8), cadence("three-weeks", "Three weeks", monday, 21, 6)}
			points(p)
		}},
	{"days", "Teams that size in days", "Four weeks for all teams, sized in days, with capacity from who is there.",
		func(p *program.Program, monday program.Date) {
			p.Cadences = []program.Cadence{cadence("four-weeks", "Four weeks", monday, 28, 5)}
			p.Settings.Ready = &program.ReadyRule{Size: true, Team: true, Needs: true, Parent: true, Largest: map[program.Unit]float64{program.Days: 10}}
			p.Patterns = []program.Pattern{{Key: "on-site", Name: "Work on site", Parts: []program.PatternPart{
				part("Survey for {title}", program.Spike, "survey", 2),
				part("Materials for {title}", program.Enabler, "stores", 1, 0),
				part("{title} on site", program.Story, "site", 8, 1),
				part("Trial of {title}", program.Enabler, "trial", 2, 2),
			}}}
		}},
}

// fillTo leaves a twentieth of every iteration for what nobody foresees.
const fillTo = 0.95

// From returns a program made from a template, around a day.
func From(t Template, name string, today program.Date) program.Program {
	p := program.Program{Name: name, Settings: program.Settings{FillTo: fillTo}}
	p.PhaseTemplates = []program.PhaseTemplate{{Key: "build-and-trial", Name: "Build and trial", Phases: []program.TemplatePhase{{Name: "Build", Days: 70}, {Name: "Trial", Days: 14}}}}
	p.Settings.Mix = map[program.ItemKind]float64{program.Story: 0.65, program.Defect: 0.1, program.Upkeep: 0.15, program.Enabler: 0.1}
	t.lay(&p, today.Add(1-today.Weekday()))
	return p.Normal()
}

// points is what templates have in common whose teams size in points.
func points(p *program.Program) {
	p.Settings.Ready = &program.ReadyRule{Size: true, Team: true, Needs: true, Parent: true, Largest: map[program.Unit]float64{program.Points: 8}}
	p.Patterns = []program.Pattern{{Key: "through-all-layers", Name: "Through all layers", Parts: []program.PatternPart{
		part("Design: {title}", program.Spike, "design", 2),
		part("Build: {title}", program.Story, "build", 5, 0),
		part("Trial: {title}", program.Enabler, "trial", 2, 1),
	}}}
}

func cadence(key, name string, monday program.Date, days, ahead int) program.Cadence {
	return program.Cadence{Key: key, Name: name, Start: monday, LengthDays: days, Ahead: ahead, CarryOver: true}
}

func part(title string, kind program.ItemKind, role string, size float64, needs ...int) program.PatternPart {
	return program.PatternPart{Title: title, Kind: kind, Role: role, Size: &size, Needs: needs}
}

// SetUpOf returns a program with the set-up of another: its cadences, teams with their people
// and agreed velocities, holidays, phases, rules, patterns, repeated items and views. Its
// iterations, releases and work are not taken over; nor is what the velocity was measured by.
func SetUpOf(p program.Program, name string) program.Program {
	out := program.Program{
		Name: name, Settings: p.Settings, Cadences: slices.Clone(p.Cadences), Holidays: slices.Clone(p.Holidays), People: slices.Clone(p.People),
		Teams: slices.Clone(p.Teams),
	}
	for i := range out.Teams {
		out.Teams[i].Iterations = nil
	}
	// What names items or releases of the other would name nothing here.
	out.Repeats = slices.Clone(p.Repeats)
	for i := range out.Repeats {
		out.Repeats[i].Parent = ""
	}
	out.PhaseTemplates, out.Patterns = slices.Clone(p.PhaseTemplates), slices.Clone(p.Patterns)
	out.Views, out.Guides = viewsWithout(p.Views, program.KindRelease, program.KindIteration, program.KindItem), slices.Clone(p.Guides)
	return out.Normal()
}

// viewsWithout are the views that name nothing of some kinds.
func viewsWithout(views []program.View, kinds ...program.Kind) (out []program.View) {
	for _, view := range views {
		if !names(view.Filter, kinds...) {
			out = append(out, view)
		}
	}
	return out
}

// names reports whether a filter is about things of some kinds by name.
func names(f program.Filter, kinds ...program.Kind) bool {
	return slices.ContainsFunc(f.Conditions, func(c program.Condition) bool {
		field, known := program.FieldOf(program.KindItem, c.Field)
		return known && slices.Contains(kinds, field.Names) && len(c.Values) > 0
	})
}
