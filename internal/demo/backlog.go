package demo

import "jantrel/core/program"

// backlog is what shapes the demo's work: what ready means, the mix that is wanted,
// patterns, repeated items, a shared view, and what some items say of themselves.
func (d *demo) backlog() {
	d.p.Settings.Ready = &program.ReadyRule{Size: true, Team: true, Needs: true, Parent: true,
		Largest: map[program.Unit]float64{program.Points: 8, program.Days: 10}}
	d.p.Settings.Mix = map[program.ItemKind]float64{program.Story: 0.65, program.Defect: 0.1, program.Upkeep: 0.15, program.Enabler: 0.1}
	d.p.Patterns = []program.Pattern{
		{Key: "across", Name: "Through all layers", Parts: []program.PatternPart{
			{Title: "Design: {title}", Kind: program.Spike, Team: "MA", Role: "design", Size: number(2)},
			{Title: "Firmware: {title}", Kind: program.Story, Team: "LC", Role: "firmware", Size: number(5), Needs: []int{0}},
			{Title: "Console: {title}", Kind: program.Story, Team: "KC", Role: "web", Size: number(3), Needs: []int{0}},
			{Title: "Trial: {title}", Kind: program.Enabler, Team: "FW", Size: number(2), Needs: []int{1, 2}},
		}},
		{Key: "chart", Name: "A chart layer", Parts: []program.PatternPart{
			{Title: "Data for {title}", Kind: program.Enabler, Team: "CD", Size: number(3)},
			{Title: "Draw {title}", Kind: program.Story, Team: "CD", Size: number(5), Needs: []int{0}},
			{Title: "Show {title} on board", Kind: program.Story, Team: "MA", Size: number(3), Needs: []int{1}},
		}},
	}
	d.p.Repeats = []program.Repeat{
		{Key: "watch", Title: "On watch for faults, {iteration}", Kind: program.Upkeep, Teams: []string{"LC", "KC"}, Size: number(1), Tags: []string{"watch"}},
		{Key: "boat", Title: "Boat and ladder check, {iteration}", Kind: program.Upkeep, Teams: []string{"FW"}, Size: number(0.5)},
	}
	d.p.Views = []program.View{{
		Key: "first-light-left", Name: "First Light, what is left", By: "Matthias Ferreol",
		Columns: []program.Column{{Field: "rank"}, {Field: "key"}, {Field: "title", Width: 300}, {Field: "team"}, {Field: "size"}, {Field: "iteration"}, {Field: "state"}, {Field: "readiness", Width: 220}},
		Filter: program.Filter{Conditions: []program.Condition{
			{Field: "release", Is: "is", Values: []string{"R1"}}, {Field: "state", Is: "is-not", Values: []string{"done"}}, {Field: "keptOut", Is: "is", Values: []string{"no"}}}},
	}}
	d.details()
	d.lookedBack()
}

// lookedBack is what a team noted after its last iterations, and agreed to do.
func (d *demo) lookedBack() {
	last := d.p.Teams[1].Iterations[history-2 : history]
	last[0].Actions = []program.Action{{Text: "Ask the keepers for their oldest logs", Owner: "p07"}, {Text: "Keep one day for the harbour office", Owner: "p05", Done: true}}
	last[1].Goal = "A surge model that the keepers would bet on"
	last[1].WentWell = "- The three formulas side by side settled it in *one* afternoon\n- Tide tables came without a single question"
	last[1].ToChange = "- Data of the outer rocks came late: ask for it two weeks ahead"
	last[1].Actions = []program.Action{{Text: "Ask for soundings two weeks ahead", Owner: "p05"}, {Text: "Show the surge on the old chart as well", Done: true}}
}

func (d *demo) details() {
	tree := program.TreeOf(d.p)
	at := func(key string) *program.Item { return &d.p.Items[tree.Index[key]] }
	dimming := at("LC-5")
	dimming.Description = "The great lens must follow the **night profile** without a visible step.\n\n- 256 levels, none skipped\n- no flicker below 10 %\n\nSee the curve that the keepers drew by hand."
	dimming.Tasks = []program.Task{{Title: "Measure the old curve", Done: true}, {Title: "Fit and tabulate", HoursLeft: number(6)}, {Title: "Night trial", HoursLeft: number(4)}}
	// Hours estimated would tell how much is left of an item; of these only what is left is known.
	at("MA-5").Tasks = []program.Task{{Title: "Draw the notice card", Owner: "p13", HoursLeft: number(2)}, {Title: "Send it within a minute", HoursLeft: number(6)}, {Title: "Try it on two phones", HoursLeft: number(3)}}
	at("KC-6").Tasks = []program.Task{{Title: "Watch one change of watch", Done: true}, {Title: "Sketch the note", HoursLeft: number(4)}}
	dimming.Checks = []program.Check{{Text: "Seen from the sound, no step in ten minutes", Done: true}, {Text: "Falls back to full light on any fault"}}
	dimming.Links = []program.Link{{Title: "Hand-drawn curve", Address: "https://docs.example.org/lens/curve"}}
	dimming.Tags = []string{"lens", "night"}
	at("LC-8").Description = "Fog comes within minutes; the lamp should be at full light *before* it arrives."
	at("LC-8").Checks = []program.Check{{Text: "Full light ten minutes ahead of the surge warning"}, {Text: "A keeper can hold it back"}}
	at("LC-3").FoundIn, at("LC-3").FixedIn = "Winter trial", "First Light"
	at("MA-6").FoundIn = "Winter trial"
	at("MA-6").Description = "Notices issued after the last Sunday in March show a time one hour late."
	said := d.today.Add(-4).String()
	d.p.Comments = []program.Comment{
		{Key: "c1", Item: "LC-5", By: "Ingrid Oksanen", At: said + "T09:12:00Z", Text: "The old curve has a *kink* at level 40. Do we keep it?"},
		{Key: "c2", Item: "LC-5", By: "Thandi Mokwena", At: said + "T10:40:00Z", Text: "No: the skippers took it for a fault."},
	}
}
