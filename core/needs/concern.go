package needs

import (
	"cmp"
	"slices"

	"jantrel/core/plan"
	"jantrel/core/program"
)

// Concern is whose needs are asked about: teams', or a person's: those of items assigned to them.
type Concern struct {
	Teams  []string
	Person string // empty: nobody's
}

// Concerned is a need as it concerns somebody.
type Concerned struct {
	Owed
	Owes    bool `json:"owes"`    // they owe it
	Awaits  bool `json:"awaits"`  // they wait for it
	Ours    bool `json:"ours"`    // the next word on it is theirs
	Overdue bool `json:"overdue"` // the day by which it is due is over
}

// OfAll is every need that is owed as it concerns everybody, in the order of OwedOf.
func OfAll(owed []Owed, today program.Date) []Concerned {
	list := make([]Concerned, len(owed))
	for i, o := range owed {
		list[i] = Concerned{Owed: o, Overdue: !o.By.IsZero() && o.By < today}
	}
	return list
}

// ConcernedOf lists what some owe others, and what they wait for: what they have to answer first, then what is due first;
// what has no day last. Time is n log n in needs between leaves.
func ConcernedOf(p *plan.Plan, today program.Date, who Concern) []Concerned {
	p = p.Whole()
	list := []Concerned{}
	tree := p.Tree()
	theirs := func(key, team string) bool {
		if slices.Contains(who.Teams, team) {
			return true
		}
		at, there := tree.Index[key]
		return there && who.Person != "" && slices.ContainsFunc(tree.Leaves(at), func(leaf int) bool {
			return p.Items[leaf].Team == team && p.Items[leaf].Assignee == who.Person
		})
	}
	for _, c := range OfAll(OwedOf(p), today) {
		c.Owes, c.Awaits = theirs(c.Needs, c.Gives), theirs(c.Item, c.Waits)
		if !c.Owes && !c.Awaits {
			continue
		}
		c.Ours = c.Owes && c.Turn == Gives || c.Awaits && c.Turn == Waits
		list = append(list, c)
	}
	slices.SortStableFunc(list, func(a, b Concerned) int { return cmp.Compare(boolean(b.Ours), boolean(a.Ours)) })
	return list
}
