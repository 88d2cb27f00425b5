// Package ready says what an item lacks before a team can take it on, and how the
// work's mix of kinds compares with the one that a program wants.
package ready

import (
	"fmt"
	"strconv"
	"strings"

	"jantrel/core/needs"
	"jantrel/core/plan"
	"jantrel/core/program"
)

// Lack is one thing that an item lacks.
type Lack struct {
	Code Code   `json:"code"`
	Text string `json:"text"`           // what it lacks, as goes on from the item's name: "has no size"
	Item string `json:"item,omitempty"` // the first of the items that it waits for
}

// Code is a rule of readiness.
type Code string

// The rules, in the order in which lacks are listed.
const (
	NoSize        Code = "size"
	TooLarge      Code = "largest"
	NoTeam        Code = "team"
	NoParent      Code = "parent"
	NoRelease     Code = "release"
	NoDescription Code = "description"
	NoChecks      Code = "checks"
	NoTags        Code = "tags"
	NeedsUnplaced Code = "needs" // something it needs is neither placed nor done
	NeedsLater    Code = "later" // something it needs is placed too late for where it stands
)

// Check returns what each item lacks by the program's rule, by its position in
// Program.Items, each code at most once; nothing for items that are ready, done,
// kept out, or groups of others.
func Check(p *plan.Plan) [][]Lack { return check(p) }

var check = plan.Once(func(p *plan.Plan) [][]Lack {
	tree := p.Tree()
	c := checker{p: p, rule: p.ReadyRule(), lacks: make([][]Lack, len(p.Items)), units: map[string]program.Unit{}}
	for i := range p.Teams {
		c.units[p.Teams[i].Key] = p.Teams[i].Unit
	}
	for i := range p.Items {
		if tree.ToSchedule(i) {
			c.own(i, tree)
		}
	}
	if c.rule.Needs {
		c.needs(tree)
	}
	return c.lacks
})

type checker struct {
	p     *plan.Plan
	rule  program.ReadyRule
	lacks [][]Lack
	units map[string]program.Unit
}

func (c *checker) add(i int, code Code, text string) {
	c.lacks[i] = append(c.lacks[i], Lack{Code: code, Text: text})
}

// own checks what does not depend on other items.
func (c *checker) own(i int, tree program.Tree) {
	item, r := &c.p.Items[i], &c.rule
	unit := c.units[item.Team]
	if r.Size && item.Size == nil {
		c.add(i, NoSize, "has no size")
	}
	if largest, ok := r.Largest[unit]; ok && item.Size != nil && *item.Size > largest {
		c.add(i, TooLarge, fmt.Sprintf("is larger than %s %s", strconv.FormatFloat(largest, 'f', -1, 64), unit))
	}
	if r.Team && item.Team == "" {
		c.add(i, NoTeam, "has no team")
	}
	if r.Parent && tree.Parent[i] < 0 {
		c.add(i, NoParent, "belongs to no feature")
	}
	if r.Release && tree.Release(i) == "" {
		c.add(i, NoRelease, "has no release")
	}
	if r.Description && strings.TrimSpace(item.Description) == "" {
		c.add(i, NoDescription, "has no description")
	}
	if r.Checks && len(item.Checks) == 0 {
		c.add(i, NoChecks, "has no checks")
	}
	var missing []string
	for _, want := range r.Tags {
		if !hasTag(item, want) {
			missing = append(missing, want)
		}
	}
	if len(missing) > 0 {
		c.add(i, NoTags, "is not tagged "+strings.Join(missing, ", "))
	}
}

func hasTag(item *program.Item, want string) bool {
	for _, tag := range item.Tags {
		if strings.EqualFold(tag, want) {
			return true
		}
	}
	return false
}

// needs checks what items wait for.
func (c *checker) needs(tree program.Tree) {
	unplaced, later := make([][]string, len(c.p.Items)), make([][]string, len(c.p.Items))
	for _, e := range needs.Edges(c.p) {
		needed := &c.p.Items[e.Needs]
		if !tree.ToSchedule(e.Item) || needed.State == program.Done {
			continue
		}
		at, placed := c.p.Place(e.Needs)
		to, stands := c.p.Place(e.Item)
		switch {
		case !placed:
			unplaced[e.Item] = append(unplaced[e.Item], needed.Key)
		case stands && !needs.Holds(c.p.Settings.SameIteration, at, to, e.LagDays):
			later[e.Item] = append(later[e.Item], needed.Key)
		}
	}
	for i := range c.p.Items {
		if keys := unplaced[i]; len(keys) > 0 {
			c.lacks[i] = append(c.lacks[i], Lack{NeedsUnplaced, "needs " + listed(keys) + ", not placed yet", keys[0]})
		}
		if keys := later[i]; len(keys) > 0 {
			c.lacks[i] = append(c.lacks[i], Lack{NeedsLater, "needs " + listed(keys) + ", placed too late for it", keys[0]})
		}
	}
}

// listed names up to three keys, each once, and counts the rest.
func listed(keys []string) string {
	const most = 3
	if len(keys) == 1 {
		return keys[0]
	}
	var named []string
	seen := map[string]bool{}
	for _, key := range keys {
		if !seen[key] {
			seen[key] = true
			named = append(named, key)
		}
	}
	text := strings.Join(named[:min(most, len(named))], ", ")
	if len(named) > most {
		text += fmt.Sprintf(" and %d more", len(named)-most)
	}
	return text
}
