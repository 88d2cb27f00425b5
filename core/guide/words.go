// Package guide says how each step of the work is done well, and what of it is still open in a program.
package guide

import "jantrel/core/program"

// Step is how the work of one stage is done well, in Jantrel's words.
type Step struct {
	Stage program.Stage `json:"stage"`
	Title string        `json:"title"`
	Aim   string        `json:"aim"`   // what it is for, in a sentence
	Who   string        `json:"who"`   // who takes part
	In    []string      `json:"in"`    // what goes in
	Out   []string      `json:"out"`   // what comes out
	Takes string        `json:"takes"` // how long, how often
	Wrong []string      `json:"wrong"` // what goes wrong
}

// Steps are the steps in working order.
var Steps = []Step{
	{
		Stage: program.StageSetUp, Title: "Set up",
		Aim:   "Say who works, in which rhythm, and how much they usually get done.",
		Who:   "The program manager with each team's lead; whoever speaks for a release gives its date.",
		In:    []string{"who is in which team, for which part of their time", "holidays and days off that are known", "what each team completed in its last iterations", "releases and the dates that somebody wants them by"},
		Out:   []string{"iterations of every team, some way ahead", "a velocity that each team stands by", "releases with due dates", "what ready means, agreed once for all"},
		Takes: "An afternoon to begin with; a quarter of an hour before each iteration.",
		Wrong: []string{"A velocity is wished for instead of measured: every date after it is then too early.", "One person counts whole in two teams.", "Days off are entered when they have gone by."},
	},
	{
		Stage: program.StageBacklog, Title: "Backlog",
		Aim:   "Have the work in one ranked list, cut so small that its size can be said.",
		Who:   "Whoever speaks for the releases ranks; the teams cut and size what is theirs.",
		In:    []string{"features that releases are to bring", "defects and upkeep that cannot wait", "what teams learnt since the list was last gone through"},
		Out:   []string{"items of one team each, with a size", "a rank that says what goes first where not all fits", "needs: what has to be there before something can begin"},
		Takes: "An hour a week and team; more before a release is planned for the first time.",
		Wrong: []string{"All is as important as all else: then chance ranks.", "Items are so large that they are never done within an iteration.", "Sizes are given by who does not do the work."},
	},
	{
		Stage: program.StagePlan, Title: "Plan",
		Aim:   "Lay the work into iterations so that it fits, and nobody waits for what comes too late.",
		Who:   "All team leads together, the program manager leads through it; members are asked where they know better.",
		In:    []string{"a ranked list whose upper part is sized", "capacity of the next iterations, with days off", "what other programs and suppliers owe"},
		Out:   []string{"a schedule in which no iteration carries more than it can", "days on which teams owe each other something, agreed by both", "what was left out, and why"},
		Takes: "A day for the next three months; a quarter of an hour a week to keep it true.",
		Wrong: []string{"Iterations are filled to the brim: the first surprise moves all that follows.", "A need between teams is noted, and never agreed.", "The plan is made once and looked at again when it is late."},
	},
	{
		Stage: program.StageForecast, Title: "Forecast",
		Aim:   "Know which dates can be promised, at which odds, and what would move them.",
		Who:   "The program manager, with whoever promises dates to others.",
		In:    []string{"at least five closed iterations of each team", "the plan as it is, and risks that may happen", "how far scope has grown so far"},
		Out:   []string{"a range and a chance for every release", "promises with the odds that they had when they were given", "what helps most where a date is not safe"},
		Takes: "Ten minutes a week; half an hour before a date is promised.",
		Wrong: []string{"The middle of the range is promised: it is missed every other time.", "A date is given without its chance.", "Past forecasts are never held against what came."},
	},
	{
		Stage: program.StageTrack, Title: "Track",
		Aim:   "See early where the work leaves the plan, and do something about it the same day.",
		Who:   "Each team for itself, every day; leads and the program manager for what lies between teams.",
		In:    []string{"states that are true this evening", "what is blocked, and by whom", "risks that are looked at again on their day"},
		Out:   []string{"iterations that are closed on the day on which they end", "scope that came and went, with reasons", "what a team wants to do otherwise, with somebody who sees to it"},
		Takes: "Five minutes a day and person; an hour at the end of an iteration.",
		Wrong: []string{"States are brought up to date on the last day.", "What is blocked waits to be found.", "An iteration goes on because not all is done."},
	},
	{
		Stage: program.StageReport, Title: "Report",
		Aim:   "Have everybody know what comes, why, and how it stands, without asking.",
		Who:   "The program manager writes; leads add what only they know.",
		In:    []string{"dates with their chances", "what changed since people were told last, and why", "what was decided, and what has to be decided"},
		Out:   []string{"a brief at each point at which something changed that matters", "a page for each circle of people, live", "screens where the teams are"},
		Takes: "Half an hour a brief, every other week.",
		Wrong: []string{"Numbers are copied into slides and are old by the evening.", "Only good news is told.", "What was left out is not said, and is asked for later."},
	},
}

// Of is what a program adds in its own words to a step, for somebody's role: first what is for all.
func Of(p *program.Program, stage program.Stage, role string) []program.Guide {
	var own []program.Guide
	for _, forAll := range []bool{true, false} {
		for _, g := range p.Guides {
			if g.Stage == stage && (forAll && g.Role == "" || !forAll && g.Role != "" && g.Role == role) {
				own = append(own, g)
			}
		}
	}
	return own
}
