package guide

import (
	"fmt"
	"strings"

	"jantrel/core/needs"
	"jantrel/core/program"
	"jantrel/core/words"
)

// Rule is something that a program agreed on, in sentences.
type Rule struct {
	Title string   `json:"title"`
	Says  []string `json:"says"`
}

// Rules are what a program agreed on for all its work; what it says nothing of is left out.
func Rules(p *program.Program) []Rule {
	rules := []Rule{}
	add := func(title string, says ...string) {
		if len(says) > 0 {
			rules = append(rules, Rule{title, says})
		}
	}
	add("Rhythm", cadences(p)...)
	add("Ready", "An item is ready when "+readyWords(p.ReadyRule())+".")
	add("Mix of kinds", mix(p)...)
	add("Steps of the work", steps(p)...)
	if s := p.Settings; len(s.Roles) > 0 {
		add("Roles of people", strings.Join(s.Roles, ", ")+".")
	}
	if s := p.Settings; len(s.Activities) > 0 {
		add("What time is spent on", strings.Join(s.Activities, ", ")+".")
	}
	if s := p.Settings; len(s.Priorities) > 0 {
		add("Priorities, the most pressing first", strings.Join(s.Priorities, ", ")+".")
	}
	var phases []string
	for _, t := range p.PhaseTemplates {
		var parts []string
		for _, phase := range t.Phases {
			parts = append(parts, fmt.Sprintf("%s, %s", phase.Name, words.Count(phase.Days, "day")))
		}
		phases = append(phases, t.Name+": "+strings.Join(parts, "; ")+".")
	}
	add("Phases of releases", phases...)
	add("How features are broken down", patterns(p)...)
	add("What every iteration repeats", repeats(p)...)
	var sections []string
	for _, s := range p.Settings.PlanSections {
		sections = append(sections, strings.TrimSuffix(s.Title+": "+s.Ask, ": "))
	}
	add("What the plan of an iteration says", sections...)
	scales := p.Settings.RiskScales()
	add("Risks are rated", "Chance: "+strings.Join(scales.Chance, ", ")+".", "Impact: "+strings.Join(scales.Impact, ", ")+".")
	add("Agreements", agreements(p)...)
	return rules
}

func cadences(p *program.Program) (says []string) {
	for _, c := range p.Cadences {
		text := fmt.Sprintf("%s: %s each, from %s", c.Label(), words.Count(c.LengthDays, "day"), c.Start.Time().Format("2 Jan 2006"))
		if c.Ahead > 0 {
			text += fmt.Sprintf("; %s are kept ahead", words.Count(c.Ahead, "iteration"))
		}
		if c.CarryOver {
			text += "; what is not done goes on into the next one"
		}
		says = append(says, text+".")
	}
	return says
}

func readyWords(r program.ReadyRule) string {
	var parts []string
	for _, part := range []struct {
		asked bool
		words string
	}{
		{r.Team, "it has a team"}, {r.Size, "it has a size"}, {r.Parent, "it belongs to something larger"}, {r.Release, "it is of a release"}, {r.Description, "it is described"},
		{r.Checks, "it says what has to be true in the end"}, {r.Needs, "what it needs is placed before it"},
		{len(r.Tags) > 0, "it is marked " + strings.Join(r.Tags, ", ")},
	} {
		if part.asked {
			parts = append(parts, part.words)
		}
	}
	for _, unit := range []program.Unit{program.Points, program.Days, program.Hours} {
		if most := r.Largest[unit]; most > 0 {
			parts = append(parts, fmt.Sprintf("it has %g %s at most", most, unit))
		}
	}
	if len(parts) == 0 {
		return "it is there"
	}
	return listed(parts)
}

// listed joins parts of a sentence.
func listed(parts []string) string {
	if len(parts) == 1 {
		return parts[0]
	}
	return strings.Join(parts[:len(parts)-1], ", ") + " and " + parts[len(parts)-1]
}

func mix(p *program.Program) []string {
	var parts []string
	for _, kind := range []program.ItemKind{program.Story, program.Defect, program.Upkeep, program.Enabler, program.Spike} {
		if share := p.Settings.Mix[kind]; share > 0 {
			parts = append(parts, fmt.Sprintf("%s %.0f %%", kind, 100*share))
		}
	}
	if len(parts) == 0 {
		return nil
	}
	return []string{"Of the work: " + strings.Join(parts, ", ") + "."}
}

func steps(p *program.Program) []string {
	var says []string
	for _, s := range p.Settings.Steps {
		text := fmt.Sprintf("%s (%s)", s.Name, program.StateWords[s.State])
		if s.Most > 0 {
			text += ": " + words.Count(s.Most, "item") + " of a team at most"
		}
		says = append(says, text)
	}
	if p.Settings.OthersAccept {
		says = append(says, "What is in review is accepted by somebody other than who did it.")
	}
	return says
}

func patterns(p *program.Program) (says []string) {
	for _, pattern := range p.Patterns {
		var parts []string
		for _, part := range pattern.Parts {
			parts = append(parts, strings.ReplaceAll(part.Title, "{title}", "…"))
		}
		says = append(says, pattern.Name+": "+strings.Join(parts, "; "))
	}
	return says
}

func repeats(p *program.Program) (says []string) {
	names := map[string]string{}
	for i := range p.Teams {
		names[p.Teams[i].Key] = p.Teams[i].Name
	}
	for _, r := range p.Repeats {
		whose := "every team"
		if len(r.Teams) > 0 {
			var teams []string
			for _, key := range r.Teams {
				teams = append(teams, names[key])
			}
			whose = listed(teams)
		}
		text := fmt.Sprintf("%s, of %s", strings.ReplaceAll(r.Title, "{iteration}", "…"), whose)
		if r.Each {
			text += ": made by itself"
		}
		says = append(says, text+".")
	}
	return says
}

func agreements(p *program.Program) []string {
	says := []string{"Needs between teams hold without being agreed on."}
	if needs.Agree(p) {
		says = []string{"Teams agree on the days by which they owe each other something."}
	}
	if p.Settings.AskWhy {
		says = append(says, "Who changes the scope of what has begun says why.")
	}
	return append(says, fmt.Sprintf("A draft fills iterations to %.0f %%.", 100*p.Settings.FillTo))
}
