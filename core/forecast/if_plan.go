package forecast

import (
	"errors"
	"fmt"
	"slices"

	"jantrel/core/plan"
	"jantrel/core/program"
)

// checkPlan says what of the plan is asked about that is not there.
func (f *If) checkPlan(p *plan.Plan) error {
	if len(f.More)+len(f.Away)+len(f.Out)+len(f.In) > maxIf {
		return fmt.Errorf("%d things may be otherwise at once, not more", maxIf)
	}
	for _, more := range f.More {
		if _, ok := p.TeamAt()[more.Team]; !ok {
			return fmt.Errorf("there is no team %q", more.Team)
		}
		if !(more.Share > 0 && more.Share <= 20) || more.From.IsZero() {
			return errors.New("who joins a team does so from a day on, with a share above 0 and at most 20")
		}
	}
	for _, left := range f.Away {
		if !p.Has(program.Ref{Kind: program.KindPerson, Key: left.Person}) {
			return fmt.Errorf("there is no person %q", left.Person)
		}
		if left.From.IsZero() || !left.To.IsZero() && left.To < left.From {
			return errors.New("who is away is so from a day on, to one that is not before it")
		}
	}
	for _, key := range slices.Concat(f.Out, f.In) {
		if !p.Has(program.Ref{Kind: program.KindItem, Key: key}) {
			return fmt.Errorf("there is no item %s", key)
		}
	}
	return nil
}

// of is a plan with what is asked about otherwise in it: its settings, its people, its items.
func (f *If) of(p *plan.Plan) *plan.Plan {
	next := p.Program
	changed := f.settings(&next)
	if len(f.More)+len(f.Away) > 0 {
		f.people(&next)
		changed = true
	}
	if len(f.Out)+len(f.In) > 0 || !f.Begin.IsZero() {
		f.items(p, &next)
		changed = true
	}
	if !changed {
		return p
	}
	return plan.After(p, next)
}

func (f *If) settings(next *program.Program) (changed bool) {
	if f.PullAhead != nil {
		next.Settings.PullAhead = f.PullAhead
	}
	if f.NoRisks {
		next.Risks = nil
	}
	if f.NoGrowth {
		next.Settings.Growth = 0
		next.Releases = slices.Clone(next.Releases)
		for i := range next.Releases {
			none := 0.0
			next.Releases[i].Growth = &none
		}
	}
	return f.PullAhead != nil || f.NoRisks || f.NoGrowth
}

// people has somebody join and somebody be away.
func (f *If) people(next *program.Program) {
	next.Teams, next.People = slices.Clone(next.Teams), slices.Clone(next.People)
	for i, more := range f.More {
		at := slices.IndexFunc(next.Teams, func(t program.Team) bool { return t.Key == more.Team })
		team := &next.Teams[at]
		key := fmt.Sprintf("more\n%d", i) // no key of the program's: these are one line
		next.People = append(next.People, program.Person{Key: key, Name: "Somebody more"})
		team.Members = append(slices.Clip(team.Members), program.Member{Person: key, Share: more.Share, From: more.From})
	}
	for _, left := range f.Away {
		at := slices.IndexFunc(next.People, func(x program.Person) bool { return x.Key == left.Person })
		off := program.DayOff{From: left.From, To: left.To}
		if off.To.IsZero() {
			off.To = left.From.Add(forGood)
		}
		next.People[at].DaysOff = append(slices.Clip(next.People[at].DaysOff), off)
	}
}

// forGood is how many days somebody is away who does not come back: more than are played.
const forGood = 20 * 366

// items takes items out and in, and has those of the work begin later.
func (f *If) items(p *plan.Plan, next *program.Program) {
	next.Items = slices.Clone(next.Items)
	tree := p.Tree()
	each := func(keys []string, do func(*program.Item)) {
		for _, key := range keys {
			for _, leaf := range tree.Leaves(tree.Index[key]) {
				do(&next.Items[leaf])
			}
		}
	}
	each(f.Out, func(item *program.Item) { item.KeptOut = true })
	each(f.In, func(item *program.Item) {
		item.KeptOut = false
		if f.ScopeOf.Release != "" {
			item.Release, item.NoRelease = f.ScopeOf.Release, false
		}
	})
	if f.Begin.IsZero() {
		return
	}
	for _, leaf := range f.ScopeOf.Leaves(p, func(i int) bool { return p.Items[i].State == program.Todo || p.Items[i].State == "" }) {
		next.Items[leaf].NotBefore = max(next.Items[leaf].NotBefore, f.Begin)
	}
}
