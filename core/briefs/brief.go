// Package briefs writes what people are told of a plan: sections of their own words, with what the plan itself says
// in between, in sentences and tables. It has no format.
package briefs

import (
	"fmt"
	"slices"
	"strings"
	"unicode/utf8"

	"jantrel/core/program"
	"jantrel/core/reports"
)

// Brief is what is to be told, in the order of its sections.
type Brief struct {
	Title    string    `json:"title"`
	About    About     `json:"about,omitzero"`
	Sections []Section `json:"sections"`
}

// About is what a brief is about: a release, an iteration of a team, or the whole program.
type About struct {
	Release   string `json:"release,omitempty"`
	Team      string `json:"team,omitempty"`
	Iteration string `json:"iteration,omitempty"`
}

// Section is a part of a brief: words of one's own, and after them what the plan says.
type Section struct {
	Key   string         `json:"key"` // within the brief
	Title string         `json:"title"`
	Text  string         `json:"text,omitempty"`  // Markdown
	Ask   string         `json:"ask,omitempty"`   // what belongs there, for who writes it
	Live  Live           `json:"live,omitempty"`  // empty: its own words alone
	Chart *reports.Chart `json:"chart,omitempty"` // of Figures
	Out   bool           `json:"out,omitempty"`   // left out: it is kept, and not told
}

// Live is what the plan says in a section.
type Live string

// What a plan can say.
const (
	Short    Live = "short"    // how it stands, in a few sentences
	Features Live = "features" // what it brings, feature by feature
	Dates    Live = "dates"    // when it lands, at which odds
	BurnUp   Live = "burn-up"  // what was done, and how the plays go on
	Work     Live = "work"     // its items, by rank
	Figures  Live = "figures"  // a chart of one's own
	Mix      Live = "mix"      // kinds of work against what is wanted
	Capacity Live = "capacity" // what teams carry, and can
	Needs    Live = "needs"    // what teams owe each other
	Risks    Live = "risks"    // what may happen
	Since    Live = "since"    // what changed since the last brief about the same
	LeftOut  Live = "left-out" // what is not in the plan, and why
	Promises Live = "promises" // dates that somebody was given
	Review   Live = "review"   // looking back on an iteration or release
)

// LiveWords is what a plan can say, for people.
type LiveWords struct {
	Live  Live   `json:"live"`
	Title string `json:"title"`
	Says  string `json:"says"`
}

// Lives lists what a plan can say, in the order in which it is offered.
var Lives = []LiveWords{
	{Short, "In short", "How it stands, in a few sentences"},
	{Features, "What it brings", "Feature by feature, with how far each is"},
	{Dates, "When", "When it lands, at which odds"},
	{BurnUp, "Done and to come", "What was done of what there is, and how the plays go on, as a picture"},
	{Work, "Items", "Its items, the most important first"},
	{Figures, "A chart", "Count or add up anything, as on a page of charts"},
	{Mix, "Mix of work", "Kinds of work against what is wanted"},
	{Capacity, "Capacity", "What teams carry, and can"},
	{Needs, "Needs across teams", "What teams owe each other"},
	{Risks, "Risks", "What may happen, and what is done about it"},
	{Since, "What changed", "Since the last brief about the same"},
	{LeftOut, "What was left out", "What is not in the plan, and why"},
	{Promises, "What was promised", "Dates that somebody was given, and whether they will be kept"},
	{Review, "Looking back", "The review of the iteration or the release"},
}

// Limits of briefs.
const (
	MaxSections = 40
	maxTitle    = 200
	maxText     = 20_000
)

// Check says what is wrong with a brief, as far as that hangs on no program.
func (b *Brief) Check() error {
	switch {
	case strings.TrimSpace(b.Title) == "":
		return fmt.Errorf("give the brief a title")
	case utf8.RuneCountInString(b.Title) > maxTitle:
		return fmt.Errorf("its title is too long")
	case len(b.Sections) > MaxSections:
		return fmt.Errorf("a brief has %d sections at most", MaxSections)
	case (b.About.Team == "") != (b.About.Iteration == ""), b.About.Release != "" && b.About.Team != "":
		return fmt.Errorf("it is about a release, an iteration of a team, or the whole program")
	}
	keys := map[string]bool{}
	for i := range b.Sections {
		s := &b.Sections[i]
		known := s.Live == "" || slices.ContainsFunc(Lives, func(l LiveWords) bool { return l.Live == s.Live })
		switch {
		case s.Key == "" || len(s.Key) > 40 || keys[s.Key]:
			return fmt.Errorf("section %d needs a key of its own, of 1 to 40 letters", i+1)
		case utf8.RuneCountInString(s.Title) > maxTitle || utf8.RuneCountInString(s.Text) > maxText || utf8.RuneCountInString(s.Ask) > maxTitle:
			return fmt.Errorf("section %d: its title or text is too long", i+1)
		case !known:
			return fmt.Errorf("section %d: a plan cannot say %q", i+1, s.Live)
		case (s.Live == Figures) != (s.Chart != nil):
			return fmt.Errorf("section %d: a chart, and nothing else, says what it draws", i+1)
		}
		if s.Chart != nil && s.Chart.Mine {
			return fmt.Errorf("section %d: others read a brief: share the view of its chart, or choose another one", i+1)
		}
		if s.Chart != nil {
			if err := s.Chart.Check(); err != nil {
				return fmt.Errorf("section %d: %w", i+1, err)
			}
		}
		keys[s.Key] = true
	}
	return nil
}

// Complete adds to a brief about an iteration the sections that every iteration's plan has in a program, and it lacks.
func Complete(p *program.Program, b *Brief) {
	if b.About.Team == "" {
		return
	}
	for _, wanted := range p.Settings.PlanSections {
		if !slices.ContainsFunc(b.Sections, func(s Section) bool { return s.Title == wanted.Title }) && len(b.Sections) < MaxSections {
			b.Sections = append(b.Sections, Section{Key: freeKey(b.Sections), Title: wanted.Title, Ask: wanted.Ask})
		}
	}
}

func freeKey(sections []Section) string {
	for n := len(sections) + 1; ; n++ {
		if key := fmt.Sprint(n); !slices.ContainsFunc(sections, func(s Section) bool { return s.Key == key }) {
			return key
		}
	}
}

// Lacks names the sections that every iteration's plan has in a program, and that a brief about one says nothing in.
func Lacks(p *program.Program, b *Brief) []string {
	lacks := []string{}
	if b.About.Team == "" {
		return lacks
	}
	for _, wanted := range p.Settings.PlanSections {
		if !slices.ContainsFunc(b.Sections, func(s Section) bool { return s.Title == wanted.Title && !s.Out && !s.empty() }) {
			lacks = append(lacks, wanted.Title)
		}
	}
	return lacks
}

// empty reports whether a section says nothing.
func (s *Section) empty() bool { return s.Live == "" && strings.TrimSpace(s.Text) == "" }

// Template is the brief that one begins with.
func Template(p *program.Program, about About) Brief {
	b := Brief{Title: "Plan of " + NameOf(p, about), About: about}
	lives := []Live{Short, Since, Features, Dates, BurnUp, Capacity, Mix, Needs, Risks, LeftOut, Promises}
	switch {
	case about.Team != "":
		lives = []Live{Short, Work, Capacity, Needs, LeftOut, Risks, Since}
	case about.Release == "":
		lives = []Live{Short, Since, Dates, BurnUp, Features, Capacity, Mix, Needs, Risks, LeftOut, Promises}
	}
	for i, live := range lives {
		b.Sections = append(b.Sections, Section{Key: fmt.Sprint(i + 1), Title: titleOf(live), Live: live})
	}
	Complete(p, &b)
	return b
}

func titleOf(live Live) string {
	return Lives[slices.IndexFunc(Lives, func(l LiveWords) bool { return l.Live == live })].Title
}

// NameOf is what a brief is about, in words.
func NameOf(p *program.Program, about About) string {
	for i := range p.Releases {
		if p.Releases[i].Key == about.Release {
			return p.Releases[i].Name
		}
	}
	for i := range p.Teams {
		if p.Teams[i].Key == about.Team {
			for _, it := range p.Teams[i].Iterations {
				if it.Key == about.Iteration {
					return it.Label() + " of " + p.Teams[i].Name
				}
			}
		}
	}
	return p.Name
}

// Has reports whether a program has what a brief is about.
func Has(p *program.Program, about About) bool {
	switch {
	case about.Release != "":
		return p.Has(program.Ref{Kind: program.KindRelease, Key: about.Release})
	case about.Team != "":
		return p.Has(program.Ref{Kind: program.KindIteration, In: about.Team, Key: about.Iteration})
	}
	return true
}
