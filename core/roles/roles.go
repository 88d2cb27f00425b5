// Package roles says who may make which change to a program. Its one table
// decides in the interface and dims what a page offers.
package roles

import (
	"encoding/json"
	"fmt"
	"reflect"
	"slices"

	"jantrel/core/program"
)

// Role is what somebody is to a program.
type Role string

// The roles, the widest first.
const (
	Administrator Role = "administrator"   // everything, and who belongs to the program
	Manager       Role = "program manager" // every change
	Lead          Role = "team lead"       // own teams' iterations, velocity, items, agreement on needs
	Member        Role = "member"          // own items, own days off
	Viewer        Role = "viewer"          // looks
)

// All lists the roles, the widest first.
var All = []Role{Administrator, Manager, Lead, Member, Viewer}

// Reach is how far a right goes.
type Reach string

// The reaches.
const (
	Never Reach = "never"
	Own   Reach = "own" // what is one's own, see Who
	Any   Reach = "any"
)

// Rule gives team leads and members their rights to one sort of change.
// Administrators and managers may make every change, viewers none.
type Rule struct {
	Kind   program.Kind `json:"kind"`
	Op     program.Op   `json:"op"`
	Field  string       `json:"field,omitempty"` // of set: what is set
	Lead   Reach        `json:"-"`
	Member Reach        `json:"-"`
}

// Attachments stands for a field of an item in the table: files are kept beside the
// program, but who may add and remove them is decided as for what is in it.
const Attachments = "attachments"

// What stands for fields of a program in the table, and is kept beside it.
const (
	Scenarios = "scenarios" // to make what-if copies of the plan; in one's own one may change everything
	Publish   = "publish"   // to bring what a scenario changed into the live plan: no more than one might have edited there
	Baselines = "baselines" // to freeze the plan under a name
	Briefs    = "briefs"    // to write and publish what people are told of the plan
)

// Table is who may make which change. What is not in it is for administrators
// and managers alone.
//
// Own is, of a team lead: a team in which they have a share, its iterations, its
// items, the needs of these, the people of the team and their hours, and risks that name it; what is agreed on a need,
// and the day given for it, where the needed item is their team's, as it is theirs to give: whose item needs it asks,
// and accepts what was offered. Of a
// member: items assigned to them, tasks that they own, themselves, and their hours. Of both: what they said,
// and risks that they own.
var Table = append(fieldRules(), []Rule{
	{program.KindItem, program.Set, Attachments, Own, Own},

	{program.KindProgram, program.Set, Scenarios, Any, Any},
	{program.KindProgram, program.Set, Publish, Any, Never},
	{program.KindProgram, program.Set, Baselines, Never, Never},
	{program.KindProgram, program.Set, Briefs, Any, Never},

	{program.KindIteration, program.Add, "", Own, Never},
	{program.KindIteration, program.Remove, "", Own, Never},
	{program.KindIteration, program.Move, "", Own, Never},

	{program.KindItem, program.Add, "", Own, Never},
	{program.KindItem, program.Remove, "", Own, Never},
	{program.KindItem, program.Move, "", Own, Never},

	{program.KindNeed, program.Add, "", Own, Never},
	{program.KindNeed, program.Remove, "", Own, Never},
	{program.KindNeed, program.Move, "", Own, Never},

	{program.KindComment, program.Add, "", Any, Any},
	{program.KindComment, program.Remove, "", Own, Own},

	{program.KindRisk, program.Add, "", Own, Own},
	{program.KindRisk, program.Remove, "", Own, Never},

	{program.KindSnooze, program.Add, "", Any, Never},
	{program.KindSnooze, program.Remove, "", Any, Never},

	{program.KindTimeEntry, program.Add, "", Own, Own},
	{program.KindTimeEntry, program.Remove, "", Own, Own},
}...)

// fieldRules are the rules of the fields whose registry row names hands that may set
// them.
func fieldRules() (rules []Rule) {
	member := map[program.Hands]Reach{program.Leads: Never, program.Doers: Own}
	for _, kind := range program.Kinds {
		for _, field := range kind.Fields {
			if reach, ok := member[field.By]; ok {
				rules = append(rules, Rule{kind.Kind, program.Set, field.Name, Own, reach})
			}
		}
	}
	return rules
}

// ReachOf returns how far a role's right to a sort of change goes.
func ReachOf(role Role, kind program.Kind, op program.Op, field string) Reach {
	switch role {
	case Administrator, Manager:
		return Any
	case Lead, Member:
	default:
		return Never
	}
	for _, rule := range Table {
		if rule.Kind != kind || rule.Op != op || rule.Field != field && op == program.Set {
			continue
		}
		if role == Lead {
			return rule.Lead
		}
		return rule.Member
	}
	return Never
}

// MayBeside reports whether a role may do something with scenarios, baselines or briefs: one of the words of the table
// for what is kept beside a program.
func MayBeside(role Role, what string) bool {
	return ReachOf(role, program.KindProgram, program.Set, what) == Any
}

// Right is a rule as one role sees it.
type Right struct {
	Rule
	Reach Reach `json:"reach"`
}

// Rights returns what a role may do, for a page to dim the rest. Administrators
// and managers get none: they may do everything.
func Rights(role Role) []Right {
	rights := []Right{}
	if role != Lead && role != Member {
		return rights
	}
	for _, rule := range Table {
		reach := rule.Member
		if role == Lead {
			reach = rule.Lead
		}
		rights = append(rights, Right{rule, reach})
	}
	return rights
}

// Who is somebody with a role in a program.
type Who struct {
	Role   Role
	Person string // the person of the program who they are; empty: none
	Author string // whose their comments are, see program.Comment
}

// Denied says that a role does not allow a change.
type Denied struct {
	Change program.Change
	Role   Role
	Reach  Reach
	what   string // the change in words
	others bool   // it is for others to accept what who did
}

func (d *Denied) Error() string {
	if d.others {
		return fmt.Sprintf("%s is assigned to you, and in this program somebody else accepts what you did", d.Change.Key)
	}
	if d.Reach == Own {
		return fmt.Sprintf("as %s you may %s only where it is your own; ask a program manager", d.Role, d.what)
	}
	return fmt.Sprintf("as %s you may not %s; ask a program manager", d.Role, d.what)
}

// Check returns a *Denied for the first of the changes that who may not make on
// p. What is own is judged by the program as it is before all of them, and for
// items also by what they would become; items that are added are there for what follows.
// Where others accept what somebody did, nobody calls an item done that is assigned to them,
// whatever their role; and a member of the item's team may accept it, or send it back.
func Check(p program.Program, who Who, changes []program.Change) error {
	j := judge{p: &p, who: who}
	for i := range changes {
		if denied := j.check(&changes[i]); denied != nil {
			return denied
		}
	}
	return nil
}

// May tells of each of some settings of fields, by itself, whether who may make it on p.
func May(p program.Program, who Who, sets []program.Change) []bool {
	j, may := judge{p: &p, who: who}, make([]bool, len(sets))
	for i := range sets {
		may[i] = j.check(&sets[i]) == nil
	}
	return may
}

// judge judges changes on a program, one after another.
type judge struct {
	p    *program.Program
	who  Who
	mine *owner // what is their own; nil until it matters
}

func (j *judge) owner() *owner {
	if j.mine == nil {
		j.mine = newOwner(*j.p, j.who)
	}
	return j.mine
}

func (j *judge) check(c *program.Change) *Denied {
	if j.p.Settings.OthersAccept && j.who.Person != "" && isCourse(c) && j.owner().isForOthers(c) {
		return &Denied{Change: *c, Role: j.who.Role, others: true}
	}
	reach := ReachOf(j.who.Role, c.Kind, c.Op, c.Field)
	if reach == Own && j.owner().owns(c) {
		j.owner().adds(c)
		return nil
	}
	if reach == Any {
		return nil
	}
	return &Denied{Change: *c, Role: j.who.Role, Reach: reach, what: j.p.DescribeChange(*c)}
}

// isForOthers reports whether a change of a state calls done what is for others to accept.
func (o *owner) isForOthers(c *program.Change) bool {
	var to program.ItemState
	item := o.items[c.Key]
	return item != nil && c.Field == "state" && item.Assignee == o.who.Person && json.Unmarshal(c.Value, &to) == nil && to == program.Done
}

// isCourse reports whether a change takes an item along its course.
func isCourse(c *program.Change) bool {
	return c.Kind == program.KindItem && c.Op == program.Set && (c.Field == "state" || c.Field == "step")
}

// theirTasks reports whether a change alters tasks of an item that somebody owns, and no others.
func (o *owner) theirTasks(c *program.Change, item *program.Item) bool {
	var tasks []program.Task
	if o.who.Person == "" || c.Op != program.Set || c.Field != "tasks" || json.Unmarshal(c.Value, &tasks) != nil || len(tasks) != len(item.Tasks) {
		return false
	}
	some := false
	for i := range tasks {
		was := &item.Tasks[i]
		if was.Owner == o.who.Person {
			some = true
		} else if !reflect.DeepEqual(tasks[i], *was) {
			return false
		}
	}
	return some
}

// owner knows what is somebody's own.
type owner struct {
	who   Who
	peers map[string]bool // teams in which they accept what others did
	teams map[string]bool
	crew  map[string]bool // people in these teams
	items map[string]*program.Item
	said  map[program.Ref]bool // their comments

	entries []program.TimeEntry // everybody's
	risks   []program.Risk      // everybody's
	needs   []program.Need      // everybody's
}

func newOwner(p program.Program, who Who) *owner {
	o := &owner{who, map[string]bool{}, map[string]bool{}, map[string]bool{}, make(map[string]*program.Item, len(p.Items)), map[program.Ref]bool{}, p.TimeEntries, p.Risks, p.Needs}
	for _, c := range p.Comments {
		o.said[program.Ref{Kind: program.KindComment, In: c.Item, Key: c.Key}] = c.Author == who.Author && c.Author != ""
	}
	for i := range p.Items {
		o.items[p.Items[i].Key] = &p.Items[i]
	}
	if who.Person == "" {
		return o
	}
	if p.Settings.OthersAccept {
		for _, key := range TeamsOf(p, who.Person) {
			o.peers[key] = true
		}
	}
	if who.Role == Lead {
		for _, key := range TeamsOf(p, who.Person) {
			o.teams[key] = true
		}
		for _, t := range p.Teams {
			for _, m := range t.Members {
				o.crew[m.Person] = o.crew[m.Person] || o.teams[t.Key]
			}
		}
	}
	return o
}

// TeamsOf returns the teams in which a person has a share, at any time.
func TeamsOf(p program.Program, person string) []string {
	teams := []string{}
	for _, t := range p.Teams {
		if slices.ContainsFunc(t.Members, func(m program.Member) bool { return m.Person == person }) {
			teams = append(teams, t.Key)
		}
	}
	return teams
}

func (o *owner) owns(c *program.Change) bool {
	switch c.Kind {
	case program.KindTeam:
		return o.teams[c.Key]
	case program.KindIteration:
		return o.teams[c.In]
	case program.KindPerson:
		return c.Key == o.who.Person && c.Key != "" || o.crew[c.Key]
	case program.KindItem:
		return o.ownsItem(c)
	case program.KindComment:
		return o.said[c.Ref]
	case program.KindTimeEntry:
		entry := o.entry(c)
		if c.Op == program.Set && c.Field == "item" && o.ownsTeamOf(entry.Item) {
			return true // who removes an item of theirs takes it out of the hours spent on it
		}
		return entry.Person != "" && (entry.Person == o.who.Person || o.crew[entry.Person])
	case program.KindSnooze:
		return o.who.Role == Lead
	case program.KindRisk:
		return o.ownsRisk(c)
	case program.KindNeed:
		return o.ownsNeed(c, o.ownsTeamOf(c.Key), o.ownsTeamOf(c.In))
	}
	return false
}

// ownsNeed reports whether a change of a need is theirs to make, who lead the team that gives, or the one that waits.
// The first says what it gives, and by when; the other asks, and may accept the day that it was offered.
func (o *owner) ownsNeed(c *program.Change, gives, waits bool) bool {
	var said program.Agreement
	switch {
	case c.Op == program.Add:
		var need program.Need
		_ = json.Unmarshal(c.Value, &need) // what cannot be read is refused when it is applied
		return waits && (gives || !answers(need.Agreement) && need.Given.IsZero())
	case c.Op == program.Set && c.Field == "agreement":
		_ = json.Unmarshal(c.Value, &said)
		return gives || waits && (!answers(said) || said == program.Agreed && o.offered(c))
	case c.Op == program.Set && c.Field == "given":
		return gives
	case c.Op == program.Set && c.Field == "why":
		return gives || waits
	}
	return waits
}

// answers reports whether it is what a team gives that says so of a need: all but that it is asked for.
func answers(said program.Agreement) bool { return said != "" && said != program.Asked }

// offered reports whether a day was offered for the need that a change is of.
func (o *owner) offered(c *program.Change) bool {
	at := slices.IndexFunc(o.needs, func(n program.Need) bool { return n.Item == c.In && n.Needs == c.Key })
	return at >= 0 && o.needs[at].Agreement == program.Offered
}

// entry is the time entry that a change is about: the one to add, or the one there is; else none.
func (o *owner) entry(c *program.Change) (entry program.TimeEntry) {
	if c.Op == program.Add {
		if json.Unmarshal(c.Value, &entry) != nil {
			return program.TimeEntry{}
		}
		return entry
	}
	if at := slices.IndexFunc(o.entries, func(e program.TimeEntry) bool { return e.Key == c.Key }); at >= 0 {
		return o.entries[at]
	}
	return program.TimeEntry{}
}

// ownsRisk reports whether a risk is somebody's: they own it, or lead a team that it names.
func (o *owner) ownsRisk(c *program.Change) bool {
	var risk program.Risk
	if c.Op == program.Add {
		if json.Unmarshal(c.Value, &risk) != nil {
			return false
		}
	} else if at := slices.IndexFunc(o.risks, func(r program.Risk) bool { return r.Key == c.Key }); at >= 0 {
		risk = o.risks[at]
	}
	return risk.Owner != "" && risk.Owner == o.who.Person || slices.ContainsFunc(risk.Teams, func(team string) bool { return o.teams[team] })
}

// adds takes note of an own item that a change adds: its needs come with later changes.
func (o *owner) adds(c *program.Change) {
	var item program.Item
	if c.Op == program.Add && c.Kind == program.KindItem && o.items[c.Key] == nil && json.Unmarshal(c.Value, &item) == nil {
		o.items[c.Key] = &item
	}
}

func (o *owner) ownsTeamOf(item string) bool {
	return o.items[item] != nil && o.teams[o.items[item].Team]
}

func (o *owner) ownsItem(c *program.Change) bool {
	if c.Op == program.Add {
		var item program.Item
		return json.Unmarshal(c.Value, &item) == nil && o.teams[item.Team]
	}
	item := o.items[c.Key]
	if item == nil {
		return false
	}
	if o.who.Role == Member {
		return o.who.Person != "" && item.Assignee == o.who.Person || isCourse(c) && item.State == program.Review && o.peers[item.Team] || o.theirTasks(c, item)
	}
	if c.Op == program.Set && c.Field == "team" {
		var team string
		return o.teams[item.Team] && json.Unmarshal(c.Value, &team) == nil && o.teams[team]
	}
	return o.teams[item.Team]
}
