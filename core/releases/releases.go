// Package releases fits releases to what they hold and gives them phases.
package releases

import (
	"fmt"
	"slices"

	"jantrel/core/calendar"
	"jantrel/core/plan"
	"jantrel/core/program"
)

// Extent is what a release holds, in dates.
type Extent struct {
	calendar.Span
	Phases   int // phases that count in
	Items    int // placed items that count in, and pieces of rough sizes
	Unplaced int // items still to do that are not placed, and so do not
}

// Of returns the days that a release's phases and placed items span. The span is
// zero where it has neither.
func Of(p *plan.Plan, release string) Extent {
	p = p.Whole()
	var e Extent
	take := func(s calendar.Span) { e.Span = e.With(s) }
	for _, r := range p.Releases {
		if r.Key != release {
			continue
		}
		for _, phase := range r.Phases {
			take(calendar.Span{Start: phase.Start, End: phase.End})
			e.Phases++
		}
	}
	tree := p.Tree()
	for i := range p.Items {
		if !tree.IsLeaf(i) || p.Items[i].KeptOut || tree.Release(i) != release {
			continue
		}
		if place, ok := p.Place(i); ok {
			take(place.Span)
			e.Items++
		} else if p.Items[i].State != program.Done {
			e.Unplaced++
		}
	}
	return e
}

// Phases lays a template's phases one after another from a day on. Keys are made
// from their numbers.
func Phases(template program.PhaseTemplate, start program.Date) []program.Phase {
	phases := make([]program.Phase, len(template.Phases))
	for i, t := range template.Phases {
		phases[i] = program.Phase{Key: fmt.Sprintf("p%d", i+1), Name: t.Name, Start: start, End: start.Add(t.Days - 1)}
		start = phases[i].End.Add(1)
	}
	return phases
}

// Template makes a template of a release's phases: their names and lengths. Days
// between two phases go to the earlier one.
func Template(key, name string, phases []program.Phase) program.PhaseTemplate {
	t := program.PhaseTemplate{Key: key, Name: name}
	for i, phase := range phases {
		end := phase.End
		if i+1 < len(phases) && phases[i+1].Start > phase.Start {
			end = phases[i+1].Start.Add(-1)
		}
		t.Phases = append(t.Phases, program.TemplatePhase{Name: phase.Name, Days: calendar.Span{Start: phase.Start, End: end}.Days()})
	}
	return t
}

// Move returns a release with its dates and phases moved by so many days.
func Move(r program.Release, days int) program.Release {
	if !r.Start.IsZero() {
		r.Start = r.Start.Add(days)
	}
	if !r.Due.IsZero() {
		r.Due = r.Due.Add(days)
	}
	r.Phases = slices.Clone(r.Phases)
	for i := range r.Phases {
		r.Phases[i].Start, r.Phases[i].End = r.Phases[i].Start.Add(days), r.Phases[i].End.Add(days)
	}
	return r
}
