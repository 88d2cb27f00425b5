package guide

import (
	"fmt"
	"slices"

	"jantrel/core/forecast"
	"jantrel/core/needs"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/standing"
)

// Check is something of a step that is done in a program, or not yet.
type Check struct {
	Text string `json:"text"` // as it stands: what is open where something is, else what is done
	Open int    `json:"open"` // how many are not done; 0: it is done
	Of   int    `json:"of"`   // of how many
	Lead Lead   `json:"lead"` // where it is seen to
}

// Lead is a place in the page: a stage, with what it is to show there.
type Lead struct {
	Stage program.Stage `json:"stage"`
	Focus string        `json:"focus,omitempty"` // of the plan: what the strip leads to, over or broken or unplaced
	Tab   string        `json:"tab,omitempty"`   // of the set-up
	As    string        `json:"as,omitempty"`    // the way in which the stage is looked at
	View  string        `json:"view,omitempty"`  // of the backlog: a ready-made view
	Ask   string        `json:"ask,omitempty"`   // of the forecast: the question
}

// Known is what checks go by.
type Known struct {
	Plan   *plan.Plan
	Today  program.Date
	Facts  standing.Facts
	Lands  []forecast.Landing // when the releases land; none: they were not played
	Briefs int                // published ones
	Latest program.Date       // the day of the latest one
}

// Limits by which something counts as done.
const (
	enoughIterations = 5    // closed ones that a measured velocity goes by
	safeChance       = 0.85 // of landing by the due date
	briefDays        = 21   // how old the latest brief may be
)

// Checks are what is done of each step, in the order in which it is seen to. Every figure is that of the stage which it
// leads to. Time is linear in the program.
func Checks(k Known) map[program.Stage][]Check {
	return map[program.Stage][]Check{
		program.StageSetUp: setUp(k), program.StageBacklog: backlog(k), program.StagePlan: planning(k),
		program.StageForecast: outlook(k), program.StageTrack: track(k), program.StageReport: report(k),
	}
}

// tell is a check of some things: open is how it reads while some are open, done once none is.
func tell(open, of int, words, done string, lead Lead) Check {
	text := done
	if open > 0 {
		text = fmt.Sprintf("%d of %d %s", open, of, words)
	}
	return Check{text, open, of, lead}
}

// yes is a check of one thing.
func yes(done bool, is, isNot string, lead Lead) Check {
	if done {
		return Check{is, 0, 1, lead}
	}
	return Check{isNot, 1, 1, lead}
}

func setUp(k Known) []Check {
	p := &k.Plan.Program
	var unagreed, empty, ahead, undated int
	for i := range p.Teams {
		t := &p.Teams[i]
		if t.Velocity == nil && t.Unit == program.Points {
			unagreed++
		}
		if len(t.Members) == 0 {
			empty++
		}
		if !slices.ContainsFunc(t.Iterations, func(it program.Iteration) bool { return it.State != program.Closed && it.Start > k.Today }) {
			ahead++
		}
	}
	for i := range p.Releases {
		if p.Releases[i].Due.IsZero() {
			undated++
		}
	}
	checks := []Check{yes(len(p.Teams) > 0, "There are teams", "There is no team yet", Lead{Stage: program.StageSetUp, Tab: "teams"})}
	if len(p.Teams) > 0 {
		checks = append(checks,
			tell(empty, len(p.Teams), "teams have no members", "All teams have members", Lead{Stage: program.StageSetUp, Tab: "people"}),
			tell(ahead, len(p.Teams), "teams have no iterations to come", "All teams have iterations to come", Lead{Stage: program.StageSetUp, Tab: "teams"}),
			tell(unagreed, len(p.Teams), "teams have no agreed velocity", "All teams that size in points have an agreed velocity", Lead{Stage: program.StageSetUp, Tab: "velocity"}))
	}
	if len(p.Releases) == 0 {
		return append(checks, Check{"There is no release yet", 1, 1, Lead{Stage: program.StageSetUp, Tab: "releases"}})
	}
	return append(checks, tell(undated, len(p.Releases), "releases have no due date", "All releases have a due date", Lead{Stage: program.StageSetUp, Tab: "releases"}))
}

func backlog(k Known) []Check {
	p, tree := k.Plan, k.Plan.Tree()
	var open, unsized, teamless int
	for i := range p.Items {
		if x := &p.Items[i]; tree.ToSchedule(i) {
			open++
			if x.Size == nil {
				unsized++
			}
			if x.Team == "" {
				teamless++
			}
		}
	}
	of := Lead{Stage: program.StageBacklog}
	if open == 0 {
		return []Check{yes(len(p.Items) > 0, "Nothing is left to do", "There are no items yet", of)}
	}
	return []Check{
		tell(teamless, open, "open items have no team", "Every open item has a team", of),
		tell(unsized, open, "open items have no size", "Every open item has a size", of),
		tell(len(k.Facts.Counts.NotReady), open, "open items are not ready in time", "What comes next is ready", Lead{Stage: program.StageBacklog, View: "not-ready"}),
		yes(len(p.Settings.Mix) > 0, "The wanted mix of kinds is set", "No mix of kinds is wanted yet", of),
	}
}

func planning(k Known) []Check {
	usable := 0
	for i := range k.Facts.Iterations {
		if k.Facts.Iterations[i].Usable {
			usable++
		}
	}
	p, tree := k.Plan, k.Plan.Tree()
	across, unagreed := 0, 0
	for _, cell := range needs.MapOf(p, k.Today) {
		across, unagreed = across+cell.Needs, unagreed+cell.Open
	}
	open := 0
	for i := range p.Items {
		if tree.ToSchedule(i) {
			open++
		}
	}
	checks := []Check{
		tell(len(k.Facts.Counts.Unplaced), max(open, len(k.Facts.Counts.Unplaced)), "open items have no iteration", "Every open item has an iteration", Lead{Stage: program.StagePlan, Focus: "unplaced"}),
		tell(len(k.Facts.Counts.Over), usable, "iterations to come carry more than they can", "No iteration carries more than it can", Lead{Stage: program.StagePlan, Focus: "over"}),
		tell(len(k.Facts.Counts.Broken), len(p.Needs), "needs are broken", "No need is broken", Lead{Stage: program.StagePlan, Focus: "broken"}),
	}
	if needs.Agree(&p.Program) {
		checks = append(checks, tell(unagreed, across, "needs across teams are not agreed", "All needs across teams are agreed", Lead{Stage: program.StagePlan, As: "needs"}))
	}
	return checks
}

func outlook(k Known) []Check {
	var unsafe, due, short int
	for i := range k.Lands {
		if l := &k.Lands[i]; l.Chance != nil && l.Left+l.Rough > 0 {
			due++
			if *l.Chance < safeChance {
				unsafe++
			}
		}
	}
	for i := range k.Facts.Teams {
		if len(k.Facts.Teams[i].Pace) < enoughIterations {
			short++
		}
	}
	var kept, promised int
	for i := range k.Plan.Promises {
		if k.Plan.Promises[i].Withdrawn.IsZero() {
			promised++
			if k.Plan.Promises[i].Chance != nil {
				kept++
			}
		}
	}
	return []Check{
		tell(short, len(k.Facts.Teams), fmt.Sprintf("teams have fewer than %d iterations that velocity goes by", enoughIterations), "Every team has a history that a forecast can go by", Lead{Stage: program.StageSetUp, Tab: "velocity"}),
		tell(unsafe, due, fmt.Sprintf("releases are on time with less than %.0f %%", 100*safeChance), fmt.Sprintf("Every release with a due date is on time with %.0f %% or more", 100*safeChance), Lead{Stage: program.StageForecast, Ask: "dates"}),
		tell(promised-kept, promised, "promises were given without their odds", "No date was promised without its odds", Lead{Stage: program.StageForecast, Ask: "dates"}),
	}
}

func track(k Known) []Check {
	p := k.Plan
	var ended, under, goalless, blocked, doing, risks, unowned, late int
	for t := range p.Teams {
		ended += len(k.Facts.Teams[t].Ended)
		for _, it := range p.Teams[t].Iterations {
			if it.State == program.Open {
				under++
				if it.Goal == "" {
					goalless++
				}
			}
		}
	}
	for i := range p.Items {
		if x := &p.Items[i]; x.State == program.Doing || x.State == program.Review {
			doing++
			if x.Blocked != "" {
				blocked++
			}
		}
	}
	for i := range p.Risks {
		if r := &p.Risks[i]; r.IsOpen() {
			risks++
			if r.Owner == "" {
				unowned++
			}
			if !r.Again.IsZero() && r.Again < k.Today {
				late++
			}
		}
	}
	of := Lead{Stage: program.StageTrack}
	register := Lead{Stage: program.StageTrack, As: "risks"}
	return []Check{
		tell(ended, max(ended, 1), "iterations that are over are not closed", "What is over is closed", of),
		tell(goalless, under, "iterations under way have no goal", "Every iteration under way has a goal", of),
		tell(blocked, doing, "items under way are blocked", "Nothing under way is blocked", Lead{Stage: program.StageTrack, As: "attention"}),
		tell(unowned, risks, "open risks are watched by nobody", "Every open risk is watched by somebody", register),
		tell(late, risks, "open risks were to be looked at again by now", "Risks are looked at again on their day", register),
	}
}

func report(k Known) []Check {
	of := Lead{Stage: program.StageReport, As: "briefs"}
	if k.Briefs == 0 {
		return []Check{yes(false, "", "No brief was published yet", of)}
	}
	age := int(k.Today - k.Latest)
	return []Check{
		yes(true, fmt.Sprintf("%d briefs were published", k.Briefs), "", of),
		yes(age <= briefDays, "The latest brief is not old", fmt.Sprintf("The latest brief is %d days old", age), of),
	}
}
