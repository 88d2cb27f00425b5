// Package program is the model: an immutable Program value, the Change that
// edits it, and the rules a program must keep (Validate).
//
// Nobody mutates a Program. Everything that computes is a function of it;
// everything that edits goes through Apply.
package program

import (
	"cmp"
	"slices"
	"strings"

	"jantrel/core/calendar"
)

// Date is a civil date; the zero value is "no date".
type Date = calendar.Date

// Format and Version are what a program document calls itself.
const (
	Format  = "jantrel-program"
	Version = 1
)

// Program is everything planned together. Slices are in document order; Items
// are in rank order, the most important first.
type Program struct {
	Name       string      `json:"name"`
	Today      Date        `json:"today,omitzero"`
	Settings   Settings    `json:"settings"`
	Holidays   []Holiday   `json:"holidays,omitempty"`
	Cadences   []Cadence   `json:"cadences,omitempty"`
	Teams      []Team      `json:"teams,omitempty"`
	People     []Person    `json:"people,omitempty"`
	Releases   []Release   `json:"releases,omitempty"`
	Milestones []Milestone `json:"milestones,omitempty"`
	Items      []Item      `json:"items,omitempty"`
	Needs      []Need      `json:"needs,omitempty"`

	PhaseTemplates []PhaseTemplate `json:"phaseTemplates,omitempty"` // phases to give the next release

	Patterns []Pattern `json:"patterns,omitempty"` // parts to break a feature down into
	Repeats  []Repeat  `json:"repeats,omitempty"`  // items that every iteration repeats
	Views    []View    `json:"views,omitempty"`    // lists of the backlog that everybody sees
	Comments []Comment `json:"comments,omitempty"` // oldest first

	Guides []Guide `json:"guides,omitempty"` // how steps are done well, in the program's own words

	Snoozes []Snooze `json:"snoozes,omitempty"` // what needs somebody and was put off

	Risks []Risk `json:"risks,omitempty"` // what may happen

	Promises []Promise `json:"promises,omitempty"` // dates that somebody was given

	TimeEntries []TimeEntry `json:"timeEntries,omitempty"` // hours that were spent, in the order in which they were entered
}

// SameIteration says when an item may share an iteration with what it needs.
type SameIteration string

// The values of SameIteration.
const (
	ShareNever    SameIteration = "never"
	ShareSameTeam SameIteration = "same-team"
	ShareAlways   SameIteration = "always"
)

// LandingDay says when a play of the forecast counts an item as done.
type LandingDay string

// The values of LandingDay.
const (
	OnTheDay     LandingDay = "day"           // on the day on which its work is done
	IterationEnd LandingDay = "iteration-end" // on the last day of its iteration
)

// Settings are the rules that a program sets for itself.
type Settings struct {
	SameIteration SameIteration `json:"sameIteration"`
	FillTo        float64       `json:"fillTo"` // share of capacity a draft may use, 0 < FillTo <= 1

	Landing   LandingDay `json:"landing,omitempty"`   // empty: on the day
	PullAhead *bool      `json:"pullAhead,omitempty"` // a team with room left takes what is placed later or unplaced; nil: it does

	Turned *bool   `json:"turned,omitempty"` // sizes are played as the team's have turned out once work on them began; nil: they are
	Spread float64 `json:"spread,omitempty"` // how many times as far from their mean as they were paces are drawn in plays, 1..MaxSpread; 0: 1
	Growth float64 `json:"growth,omitempty"` // share by which releases are taken to grow each iteration, 0..1

	// OthersAccept has an item called done by somebody other than who does it, its assignee.
	OthersAccept bool `json:"othersAccept,omitempty"`

	Agreements *bool `json:"agreements,omitempty"` // teams agree on the needs between them; nil: they do

	// AskWhy has who changes the scope of what has begun asked for a reason; see track.Rescoped.
	AskWhy bool `json:"askWhy,omitempty"`

	Steps []Step `json:"steps,omitempty"` // what states are divided into; see Course

	Roles      []string `json:"roles,omitempty"`      // what people do in teams, to choose from
	Activities []string `json:"activities,omitempty"` // what time is spent on, to choose from
	Priorities []string `json:"priorities,omitempty"` // what priorities items may have, the most pressing first; empty: rank alone says

	Attention *AttentionRule `json:"attention,omitempty"` // what needs somebody; nil: all, a week ahead

	Scales    *Scales `json:"scales,omitempty"`    // of risks; nil: DefaultScale
	PlayRisks *bool   `json:"playRisks,omitempty"` // risks happen in plays of the forecast; nil: they do

	Guidance     *bool         `json:"guidance,omitempty"`     // guidance stands beside each stage; nil: it does
	PlanSections []PlanSection `json:"planSections,omitempty"` // that the plan of every iteration has

	HolidayCalendar string `json:"holidayCalendar,omitempty"` // address of the calendar feed that holidays come from

	Ready *ReadyRule           `json:"ready,omitempty"` // what ready means; nil: DefaultReady
	Mix   map[ItemKind]float64 `json:"mix,omitempty"`   // wanted share of each kind, 0..1; a kind left out has none
}

// PullsAhead is PullAhead with its usual value.
func (s Settings) PullsAhead() bool { return s.PullAhead == nil || *s.PullAhead }

// MaxSpread is how much wider than they were paces may be played.
const MaxSpread = 5

// PaceSpread is Spread with its usual value.
func (s Settings) PaceSpread() float64 {
	if s.Spread == 0 {
		return 1
	}
	return s.Spread
}

// PlaysTurned is Turned with its usual value.
func (s Settings) PlaysTurned() bool { return s.Turned == nil || *s.Turned }

// PlaysRisks is PlayRisks with its usual value.
func (s Settings) PlaysRisks() bool { return s.PlayRisks == nil || *s.PlayRisks }

// Holiday is a day on which nobody works, or none of the teams named.
type Holiday struct {
	Date  Date     `json:"date"`
	Name  string   `json:"name"`
	Teams []string `json:"teams,omitempty"`
}

// Cadence repeats iterations of a length from a start date.
type Cadence struct {
	Key        string `json:"key"`
	Name       string `json:"name,omitempty"`
	Start      Date   `json:"start"`
	LengthDays int    `json:"lengthDays"`
	Ahead      int    `json:"ahead,omitempty"`     // how many iterations to keep that have not started; 0: none are made
	Naming     string `json:"naming,omitempty"`    // pattern of new iterations' names, see package cadence
	CarryOver  bool   `json:"carryOver,omitempty"` // unfinished items go on into the next iteration when one closes
}

// Label is the cadence's name, or its key where it has none.
func (c Cadence) Label() string { return cmp.Or(c.Name, c.Key) }

// Unit is what a team sizes work in. Sizes of different teams are never added up.
type Unit string

// The units.
const (
	Points Unit = "points"
	Days   Unit = "days"
	Hours  Unit = "hours"
)

// Sign is what stands behind a figure in this unit: "pt", "d" or "h".
func (u Unit) Sign() string {
	switch u {
	case Points:
		return "pt"
	case Days:
		return "d"
	}
	return "h"
}

// Team is who does the work.
type Team struct {
	Key        string      `json:"key"`
	Name       string      `json:"name"`
	Unit       Unit        `json:"unit"`
	Cadence    string      `json:"cadence,omitempty"`
	Velocity   *float64    `json:"velocity,omitempty"`   // agreed, in Unit per iteration
	AgreedOn   Date        `json:"agreedOn,omitzero"`    // the day on which Velocity was agreed
	AgreedDays *float64    `json:"agreedDays,omitempty"` // member-days a week of the team that Velocity was agreed for; nil: the complete team, see capacity.Of
	Focus      *float64    `json:"focus,omitempty"`      // share of time that goes to items; days and hours only
	FillTo     *float64    `json:"fillTo,omitempty"`     // share of capacity a draft may use; nil: the program's
	Lookback   int         `json:"lookback,omitempty"`   // how many closed iterations measured velocity looks back on; 0: all
	Iterations []Iteration `json:"iterations,omitempty"`
	Members    []Member    `json:"members,omitempty"`

	Builds   []Build    `json:"builds,omitempty"`   // how its builds stand, one a name
	Deployed []Deployed `json:"deployed,omitempty"` // what of its work runs where, one a place
}

// IterationState is where an iteration is in its life.
type IterationState string

// The states of an iteration.
const (
	Planned IterationState = "planned"
	Open    IterationState = "open"
	Closed  IterationState = "closed"
)

// Iteration is a stretch of a team's time, both ends included.
type Iteration struct {
	Key       string         `json:"key"`
	Name      string         `json:"name,omitempty"`
	Start     Date           `json:"start"`
	End       Date           `json:"end"`
	Capacity  *float64       `json:"capacity,omitempty"` // set by hand, in the team's unit
	State     IterationState `json:"state,omitempty"`
	Committed *float64       `json:"committed,omitempty"`
	Completed *float64       `json:"completed,omitempty"`

	Goal           string `json:"goal,omitempty"`           // what it is for, in a sentence
	WentWell       string `json:"wentWell,omitempty"`       // what its team noted when it looked back, Markdown
	ToChange       string `json:"toChange,omitempty"`       // what it wants to do otherwise, Markdown
	CapacityNote   string `json:"capacityNote,omitempty"`   // why the capacity was set by hand
	CommittedItems *int   `json:"committedItems,omitempty"` // the same as committed and completed, in number of items
	CompletedItems *int   `json:"completedItems,omitempty"`
	LeftOut        string `json:"leftOut,omitempty"` // why measured velocity leaves it out; empty: it counts

	Actions []Action `json:"actions,omitempty"` // what its team agreed to do about it
}

// Action is something that a team agreed to do when it looked back.
type Action struct {
	Text  string `json:"text"`
	Owner string `json:"owner,omitempty"` // the person who sees to it
	Done  bool   `json:"done,omitempty"`
}

// Past reports whether the iteration is closed and says what was completed: that, against
// what was committed, is then what counts, and no longer what stands in it.
func (it Iteration) Past() bool { return it.State == Closed && it.Completed != nil }

// Takes reports whether items can be placed in the iteration: it is neither closed nor over.
func (it Iteration) Takes(today Date) bool { return it.State != Closed && it.End >= today }

// Span is the iteration's days.
func (it Iteration) Span() calendar.Span { return calendar.Span{Start: it.Start, End: it.End} }

// Label is the iteration's name, or its key where it has none.
func (it Iteration) Label() string { return cmp.Or(it.Name, it.Key) }

// Member is a person's share in a team, for a time or for good. A person may
// stand in a team several times, at different times.
type Member struct {
	Person string   `json:"person"`
	Share  float64  `json:"share"`           // 0..1 of the person's time
	Roles  []string `json:"roles,omitempty"` // empty: the person's own
	From   Date     `json:"from,omitzero"`   // first day; none: from the beginning
	To     Date     `json:"to,omitzero"`     // last day; none: for good
}

// Span is the days of the share; without a first or last day it reaches as far
// as dates do.
func (m Member) Span() calendar.Span {
	span := calendar.Span{Start: m.From, End: m.To}
	if m.To.IsZero() {
		span.End = calendar.Latest
	}
	return span
}

// Person works in teams; an open seat is a person not yet found.
type Person struct {
	Key         string   `json:"key"`
	Name        string   `json:"name"`
	HoursPerDay float64  `json:"hoursPerDay,omitempty"` // 0 means 8
	Weekdays    []int    `json:"weekdays,omitempty"`    // ISO days, Monday 1; empty means Monday to Friday
	DaysOff     []DayOff `json:"daysOff,omitempty"`
	OpenSeat    bool     `json:"openSeat,omitempty"`
	Roles       []string `json:"roles,omitempty"`
	Calendar    string   `json:"calendar,omitempty"` // address of the calendar feed that days off come from
}

// Hours is how many hours a day the person works: 8 where nothing is said.
func (person Person) Hours() float64 { return cmp.Or(person.HoursPerDay, 8) }

// RolesIn returns what the person does as a member: the member's roles, or else
// the person's own.
func (person Person) RolesIn(m Member) []string {
	if len(m.Roles) > 0 {
		return m.Roles
	}
	return person.Roles
}

// RolesKnown returns what people may do in a program: the roles to choose from, then, by name, those that people,
// members, items and parts of patterns have besides. Those that are the same but for capitals are one.
func (p *Program) RolesKnown() []string {
	var besides []string
	for _, person := range p.People {
		besides = append(besides, person.Roles...)
	}
	for _, team := range p.Teams {
		for _, m := range team.Members {
			besides = append(besides, m.Roles...)
		}
	}
	for i := range p.Items {
		besides = append(besides, p.Items[i].Role)
	}
	for _, pattern := range p.Patterns {
		for _, part := range pattern.Parts {
			besides = append(besides, part.Role)
		}
	}
	slices.Sort(besides)
	known, has := slices.Clone(p.Settings.Roles), map[string]bool{"": true}
	for _, role := range known {
		has[folded(role)] = true
	}
	for _, role := range besides {
		if !has[folded(role)] && !strings.Contains(role, ",") {
			known = append(known, role)
		}
		has[folded(role)] = true
	}
	return known
}

// DayOff is a stretch of days a person is away, both ends included.
type DayOff struct {
	From Date   `json:"from"`
	To   Date   `json:"to"`
	Name string `json:"name,omitempty"`
	UID  string `json:"uid,omitempty"` // names the calendar event it came from; empty: entered by hand
}

// Release has a due date and may have phases.
type Release struct {
	Key         string  `json:"key"`
	Name        string  `json:"name"`
	Start       Date    `json:"start,omitzero"`
	Due         Date    `json:"due,omitzero"`
	Description string  `json:"description,omitempty"`
	Phases      []Phase `json:"phases,omitempty"`

	Growth    *float64   `json:"growth,omitempty"` // share by which it is taken to grow each iteration, 0..1; nil: as the program says
	Documents []Document `json:"documents,omitempty"`
}

// Span is the release's days; without a start or due date it reaches as far as
// dates do.
func (r Release) Span() calendar.Span {
	span := calendar.Span{Start: r.Start, End: r.Due}
	if r.Due.IsZero() {
		span.End = calendar.Latest
	}
	return span
}

// DocumentKind is what sort of document a release links to.
type DocumentKind string

// The kinds of document.
const (
	Notes          DocumentKind = "notes"
	TestReport     DocumentKind = "test-report"
	SecurityReview DocumentKind = "security-review"
	OtherDocument  DocumentKind = "other"
)

// Document is a link to a document of a release.
type Document struct {
	Title   string       `json:"title"`
	Address string       `json:"address,omitempty"` // http or https; empty while there is none yet
	Kind    DocumentKind `json:"kind"`
	Item    string       `json:"item,omitempty"` // the item that produces it
}

// PhaseTemplate is a row of phases to give a release.
type PhaseTemplate struct {
	Key    string          `json:"key"`
	Name   string          `json:"name"`
	Phases []TemplatePhase `json:"phases,omitempty"`
}

// TemplatePhase is one phase of a template, by its length.
type TemplatePhase struct {
	Name string `json:"name"`
	Days int    `json:"days"`
}

// Phase is a named stretch of a release.
type Phase struct {
	Key   string `json:"key"`
	Name  string `json:"name"`
	Start Date   `json:"start"`
	End   Date   `json:"end"`
}

// Milestone is one dated event, by which the items it needs must be done.
type Milestone struct {
	Key      string   `json:"key"`
	Name     string   `json:"name"`
	Date     Date     `json:"date"`
	Releases []string `json:"releases,omitempty"`
	Needs    []string `json:"needs,omitempty"`
}

// ItemKind is what sort of work an item is.
type ItemKind string

// The kinds of item. Initiatives and features group others.
const (
	Initiative ItemKind = "initiative"
	Feature    ItemKind = "feature"
	Story      ItemKind = "story"
	Defect     ItemKind = "defect"
	Upkeep     ItemKind = "upkeep"
	Enabler    ItemKind = "enabler"
	Spike      ItemKind = "spike"
)

// ItemState is how far an item is.
type ItemState string

// The states of an item.
const (
	Todo   ItemState = "todo"
	Doing  ItemState = "doing"
	Review ItemState = "review"
	Done   ItemState = "done"
)

// StateWords are what the states are called within a sentence.
var StateWords = map[ItemState]string{Todo: "to do", Doing: "doing", Review: "in review", Done: "done"}

// UnderWay reports whether work has begun and is not done.
func (s ItemState) UnderWay() bool { return s == Doing || s == Review }

// Item is a piece of work with one team and one size, or a group of such.
type Item struct {
	Key       string    `json:"key"`
	Title     string    `json:"title"`
	Kind      ItemKind  `json:"kind"`
	Parent    string    `json:"parent,omitempty"`
	Team      string    `json:"team,omitempty"`
	Release   string    `json:"release,omitempty"`
	Size      *float64  `json:"size,omitempty"` // in the team's unit; nil: not sized
	Left      *float64  `json:"left,omitempty"` // what is left of it once begun, in the team's unit; nil: see forecast.Play
	State     ItemState `json:"state,omitempty"`
	Step      string    `json:"step,omitempty"`      // the name of one of its state; see StepOf
	Iteration string    `json:"iteration,omitempty"` // key in the team's list; empty: unplaced
	Pinned    bool      `json:"pinned,omitempty"`
	NotBefore Date      `json:"notBefore,omitzero"`
	Due       Date      `json:"due,omitzero"`
	Priority  string    `json:"priority,omitempty"` // one of Settings.Priorities; beside the rank, by which alone a draft goes
	Role      string    `json:"role,omitempty"`
	Assignee  string    `json:"assignee,omitempty"`
	Tags      []string  `json:"tags,omitempty"`
	KeptOut   bool      `json:"keptOut,omitempty"`
	NoRelease bool      `json:"noRelease,omitempty"` // belongs to no release although its parents do; Release wins over it
	Began     Date      `json:"began,omitzero"`      // the first day under way; zero where nobody knows
	DoneOn    Date      `json:"doneOn,omitzero"`
	Blocked   string    `json:"blocked,omitempty"` // why it cannot go on; empty: it can

	// Rough is how large its work is thought to be, by team, before it is broken down; what has
	// it is planned by the pieces that come of it and by the items below. See plan.Plan.Whole.
	Rough       []Rough      `json:"rough,omitempty"`
	RoughPlaces []RoughPlace `json:"roughPlaces,omitempty"` // where the pieces stand

	Description string  `json:"description,omitempty"` // Markdown
	Tasks       []Task  `json:"tasks,omitempty"`
	Checks      []Check `json:"checks,omitempty"`
	Links       []Link  `json:"links,omitempty"`
	FoundIn     string  `json:"foundIn,omitempty"` // of a defect: where it was seen
	FixedIn     string  `json:"fixedIn,omitempty"` // of a defect: where it is mended

	Tests    *Tests   `json:"tests,omitempty"`    // nil: nothing has been said of any
	Hinders  []string `json:"hinders,omitempty"`  // of a defect: items whose tests cannot be run before it is done
	Reported string   `json:"reported,omitempty"` // what the service that reported it calls it
}

// Rough is a rough size: about how much work an item is for a team, a figure or a range.
type Rough struct {
	Team string   `json:"team"`
	Size float64  `json:"size"`           // in the team's unit; of a range the least
	UpTo *float64 `json:"upTo,omitempty"` // the most; nil: Size is a figure
}

// Most is the upper end of the range; of a figure the figure.
func (r Rough) Most() float64 {
	if r.UpTo == nil {
		return r.Size
	}
	return *r.UpTo
}

// RoughPlace is how much of a rough size stands in an iteration of its team.
type RoughPlace struct {
	Team      string  `json:"team"`
	Iteration string  `json:"iteration"`
	Size      float64 `json:"size"` // in the team's unit
}

// Agreement is how far two teams have come about a need: see act.Answer for who takes which step.
type Agreement string

// The agreements; empty is the same as Asked.
const (
	Asked    Agreement = "asked"
	Offered  Agreement = "offered" // the team that gives offers another date than was asked for
	Agreed   Agreement = "agreed"
	Declined Agreement = "declined"
)

// Need says that Item needs another item, LagDays or more before it starts.
type Need struct {
	Item      string    `json:"item"`
	Needs     string    `json:"needs"`
	LagDays   int       `json:"lagDays,omitempty"`
	Agreement Agreement `json:"agreement,omitempty"`
	Wanted    Date      `json:"wanted,omitzero"` // the day by which it is asked for; none: as the plan has it
	Given     Date      `json:"given,omitzero"`  // the day that the team that gives offered last, or agreed to; none: it named none
	Why       string    `json:"why,omitempty"`   // what was said with the last step
}

// Normal fills in what a document may leave out, so that two programs that mean
// the same are the same.
func (p Program) Normal() Program {
	if p.Settings.SameIteration == "" {
		p.Settings.SameIteration = ShareSameTeam
	}
	if p.Settings.FillTo == 0 {
		p.Settings.FillTo = 1
	}
	return p
}

// TeamIndex returns the position of each team by key.
func (p Program) TeamIndex() map[string]int {
	index := make(map[string]int, len(p.Teams))
	for i := range p.Teams {
		index[p.Teams[i].Key] = i
	}
	return index
}

// Find returns the iteration with a key, and whether the team has it.
func (t Team) Find(iteration string) (Iteration, bool) {
	for _, it := range t.Iterations {
		if it.Key == iteration {
			return it, true
		}
	}
	return Iteration{}, false
}
