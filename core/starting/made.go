package starting

import (
	"fmt"
	"slices"
	"strings"

	"jantrel/core/backlog"
	"jantrel/core/briefs"
	"jantrel/core/program"
	"jantrel/core/reports"
)

// What the document of a template says of itself.
const (
	Format  = "jantrel-template"
	Version = 1
)

// Made is a template that was made from a program: how that works, without its teams, people and work.
type Made struct {
	Name           string                  `json:"name"`
	Says           string                  `json:"says,omitempty"` // what it is for
	Settings       program.Settings        `json:"settings"`       // rules, mix, steps, roles, activities, scales, plan sections
	Cadences       []program.Cadence       `json:"cadences,omitempty"`
	PhaseTemplates []program.PhaseTemplate `json:"phaseTemplates,omitempty"`
	Patterns       []program.Pattern       `json:"patterns,omitempty"` // with the roles that parts ask for
	Repeats        []program.Repeat        `json:"repeats,omitempty"`
	Views          []program.View          `json:"views,omitempty"`
	Guides         []program.Guide         `json:"guides,omitempty"`
	Pages          []reports.Page          `json:"pages,omitempty"` // without cards that are about something of the program
	briefs.Forms                           // sections that briefs begin with, the first one of the program among them
}

// Limits of templates.
const (
	maxPages = 20
	maxName  = 200
	maxSays  = 2000
)

// Of makes a template of a program, of pages and of the sections of briefs. What names something of the program, as a
// team or a release, is left out: it would name nothing elsewhere.
func Of(p program.Program, name, says string, pages []reports.Page, forms briefs.Forms) Made {
	m := Made{
		Name: name, Says: says, Settings: p.Settings, Cadences: slices.Clone(p.Cadences), PhaseTemplates: slices.Clone(p.PhaseTemplates),
		Guides: slices.Clone(p.Guides), Views: viewsWithout(p.Views, program.KindRelease, program.KindIteration, program.KindItem, program.KindTeam, program.KindPerson),
	}
	m.Settings.HolidayCalendar = "" // it is an address of theirs
	roles := p.RolesKnown()
	m.Settings.Roles = roles[:min(len(roles), program.MaxRoles)]
	for _, pattern := range p.Patterns {
		pattern.Parts = slices.Clone(pattern.Parts)
		for i := range pattern.Parts {
			pattern.Parts[i].Team = ""
		}
		m.Patterns = append(m.Patterns, pattern)
	}
	for _, r := range p.Repeats {
		r.Parent, r.Teams = "", nil
		m.Repeats = append(m.Repeats, r)
	}
	for _, page := range pages {
		page.Cards = slices.DeleteFunc(slices.Clone(page.Cards), func(c reports.Card) bool { return m.isOf(&c) })
		if len(page.Cards) > 0 && len(m.Pages) < maxPages {
			m.Pages = append(m.Pages, page)
		}
	}
	m.Forms = briefs.Forms{Program: m.bare(forms.Program), Release: m.bare(forms.Release), Iteration: m.bare(forms.Iteration)}
	return m
}

// bare are sections of a brief without what is of a program.
func (m *Made) bare(sections []briefs.Section) (bare []briefs.Section) {
	for _, s := range sections {
		if s.Chart == nil || !m.asksOf(s.Chart) {
			s.Text = "" // what was written is theirs
			bare = append(bare, s)
		}
	}
	return bare
}

// isOf reports whether a card is about something of a program.
func (m *Made) isOf(c *reports.Card) bool {
	about := c.About
	if !about.Mine && m.has(about.View) {
		about.View = ""
	}
	return about != (reports.About{}) || c.Chart != nil && m.asksOf(c.Chart)
}

// has reports whether a view comes along, or is there in every program.
func (m *Made) has(view string) bool {
	return slices.ContainsFunc(append(backlog.ReadyMade(), m.Views...), func(v program.View) bool { return v.Key == view })
}

// asksOf reports whether a chart asks about something of a program, or by a view that does not come along.
func (m *Made) asksOf(c *reports.Chart) bool {
	return c.Team != "" || c.View != "" && (c.Mine || !m.has(c.View)) || names(c.Filter, program.KindRelease, program.KindIteration, program.KindItem, program.KindTeam, program.KindPerson)
}

// Start returns a program made from a template, around a day: its cadences go on in their rhythm.
func (m *Made) Start(name string, today program.Date) program.Program {
	p := program.Program{
		Name: name, Settings: m.Settings, Cadences: slices.Clone(m.Cadences), PhaseTemplates: slices.Clone(m.PhaseTemplates),
		Patterns: slices.Clone(m.Patterns), Repeats: slices.Clone(m.Repeats), Views: slices.Clone(m.Views), Guides: slices.Clone(m.Guides),
	}
	for i := range p.Cadences {
		if c := &p.Cadences[i]; c.LengthDays > 0 {
			days := int(today - c.Start)
			c.Start = c.Start.Add(floor(days, c.LengthDays) * c.LengthDays)
		}
	}
	return p.Normal()
}

func floor(n, by int) int {
	q := n / by
	if n < 0 && n%by != 0 {
		q--
	}
	return q
}

// FirstBrief is the brief that a program begins with; false where the template has none.
func (m *Made) FirstBrief(name string) (briefs.Brief, bool) {
	return m.Begin(briefs.Brief{Title: "Plan of " + name}), len(m.Forms.Program) > 0
}

// Check says what is wrong with a template: a program that starts from it has to hold, and so have its pages and brief.
func (m *Made) Check() error {
	switch {
	case strings.TrimSpace(m.Name) == "" || len(m.Name) > maxName:
		return fmt.Errorf("give the template a name of up to %d letters", maxName)
	case len(m.Says) > maxSays:
		return fmt.Errorf("what it is for has %d letters at most", maxSays)
	case len(m.Pages) > maxPages:
		return fmt.Errorf("it has %d pages at most", maxPages)
	}
	for i := range m.Pages {
		if err := m.Pages[i].Check(); err != nil {
			return fmt.Errorf("page %d: %w", i+1, err)
		}
	}
	for _, form := range [][]briefs.Section{m.Forms.Program, m.Release, m.Iteration} {
		if err := (&briefs.Brief{Title: m.Name, Sections: form}).Check(); err != nil {
			return fmt.Errorf("its briefs: %w", err)
		}
	}
	var day program.Date // any day does: dates that are wrong stay so
	if len(m.Cadences) > 0 {
		day = m.Cadences[0].Start
	}
	if problems := program.Validate(m.Start(m.Name, day)); len(problems) > 0 {
		return problems
	}
	return nil
}
