// Package gate is the only way from one Program to another. Edits, drafts, imports,
// undo and redo, iterations kept ahead and what is only tried all pass it, and the same
// rules hold for all.
package gate

import (
	"slices"

	"jantrel/core/cadence"
	"jantrel/core/needs"
	"jantrel/core/plan"
	"jantrel/core/program"
)

// Try applies a list of changes to a plan, whole or not at all, and judges what it
// leads to. It refuses with
//   - program.Problems, or an error about one change: a rule of the document is broken;
//   - *needs.CycleError: a need that is added lies on a cycle of needs;
//   - *cadence.BreakError: a team's iterations overlap, or leave days out.
//
// A program may have come with cycles and breaks. What stood before is no fault of the
// changes; nor is what stood in one of the earlier programs, which an undo leads back to.
//
// The cost is that of looking at what is touched; where needs or iterations are, at all
// of these once.
func Try(before *plan.Plan, changes []program.Change, earlier ...*plan.Plan) (*plan.Plan, []program.Applied, error) {
	next, applied, err := Again(before, changes)
	if err != nil {
		return before, nil, err
	}
	after := next.Program
	earlier = append([]*plan.Plan{before}, earlier...)
	if err := refuseCycles(next, changes, earlier); err != nil {
		return before, nil, err
	}
	touches := func(c program.Change) bool { return c.Kind == program.KindIteration || c.Kind == program.KindTeam }
	if slices.ContainsFunc(changes, touches) {
		others := make([]program.Program, len(earlier))
		for i, p := range earlier {
			others[i] = p.Program
		}
		if err := cadence.Refuse(after, others...); err != nil {
			return before, nil, err
		}
	}
	return next, applied, nil
}

// Again applies changes that a journal tells of: they passed the gate when they were made, from a program that is told
// with them. Rules of the document hold; what the journal led through is judged no more.
func Again(before *plan.Plan, changes []program.Change) (*plan.Plan, []program.Applied, error) {
	after, applied, err := program.ApplyAll(before.Program, changes)
	if err != nil {
		return before, nil, err
	}
	next := plan.After(before, after)
	next.Without(removedItems(applied))
	return next, applied, nil
}

func removedItems(applied []program.Applied) (keys []string) {
	for i := range applied {
		if c := &applied[i].Change; c.Op == program.Remove && c.Kind == program.KindItem {
			keys = append(keys, c.Key)
		}
	}
	return keys
}

// RefuseUsed refuses items that are added under the key of one that is gone. It is asked of
// what people mean; taking back and doing again bring back the item itself.
func RefuseUsed(before *plan.Plan, changes []program.Change) error {
	for i := range changes {
		if c := &changes[i]; c.Op == program.Add && c.Kind == program.KindItem && before.Gone[c.Key] {
			return program.Problems{{Path: c.Key, Text: "was the key of an item that is gone; its history and files are found by it, so give the new one another key"}}
		}
	}
	return nil
}

// refuseCycles refuses changes that close a cycle of needs in the program that they lead
// to: needs that are added, and items that come under a group, whose needs hold for them
// too, or are no longer kept out.
func refuseCycles(next *plan.Plan, changes []program.Change, earlier []*plan.Plan) error {
	var added []program.Need
	var moved []string
	for _, c := range changes {
		switch {
		case c.Kind == program.KindNeed && c.Op == program.Add:
			added = append(added, program.Need{Item: c.In, Needs: c.Key})
		case c.Kind == program.KindItem && c.Op == program.Set && (c.Field == "parent" || c.Field == "keptOut"):
			moved = append(moved, c.Key)
		}
	}
	// before is among the earlier ones: an added need was not in it, or it was refused.
	for _, p := range earlier {
		if len(added) == 0 {
			break
		}
		has := make(map[program.Need]bool, len(p.Needs))
		for _, n := range p.Needs {
			has[program.Need{Item: n.Item, Needs: n.Needs}] = true
		}
		added = slices.DeleteFunc(added, func(n program.Need) bool { return has[n] && needs.RefuseAll(p, []program.Need{n}) != nil })
	}
	if len(added) > 0 {
		if err := needs.RefuseAll(next, added); err != nil {
			return err
		}
	}
	for _, item := range moved {
		if err := needs.RefuseThrough(next, item); err != nil && !slices.ContainsFunc(earlier, func(p *plan.Plan) bool { return needs.RefuseThrough(p, item) != nil }) {
			return err
		}
	}
	return nil
}
