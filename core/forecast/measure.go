package forecast

import (
	"slices"

	"jantrel/core/plan"
	"jantrel/core/program"
)

// Part is what a team has of a release.
type Part struct{ Release, Team string }

// Scope is how large each part was on a day.
type Scope map[Part]Extent

// Extent is the whole size of a part, done or not, in the team's unit, and whether anything of it
// was still to do.
type Extent struct {
	Size float64
	Left bool
}

// ScopeOf is the scope of a plan, rough sizes included. Items without a size do not count.
func ScopeOf(p *plan.Plan) Scope {
	p = p.Whole()
	scope, tree := Scope{}, p.Tree()
	for i := range p.Items {
		item := &p.Items[i]
		release := tree.Release(i)
		if release == "" || item.Team == "" || item.KeptOut || !tree.IsLeaf(i) {
			continue
		}
		at := Part{release, item.Team}
		x := scope[at]
		if item.Size != nil {
			x.Size += *item.Size
		}
		x.Left = x.Left || item.State != program.Done
		scope[at] = x
	}
	return scope
}

// Measured are the shares by which parts of releases grew in closed iterations of their teams.
type Measured map[Part][]float64

// lookedBack is how many closed iterations of a team growth is measured in, the latest ones.
const lookedBack = 12

// MeasureGrowth measures by which share of its whole size each part of a release grew in each
// closed iteration of its team that lies within some days, the last one excluded, and in which
// something of it was to do: (size at the end ÷ size at the end of its first day) − 1. What is
// planned on the first day is no growth. What is taken out counts against what is added. scope
// tells how large everything was at the end of a day. It is asked once for each day, from the
// latest back, as that is the shortest way through a journal.
func MeasureGrowth(p *plan.Plan, since, until Date, scope func(Date) (Scope, error)) (Measured, error) {
	type closed struct {
		team string
		it   program.Iteration
	}
	var looked []closed
	var days []Date
	for t := range p.Teams {
		team, n := &p.Teams[t], 0
		for i := len(team.Iterations) - 1; i >= 0 && n < lookedBack; i-- {
			it := team.Iterations[i]
			if it.State != program.Closed || it.LeftOut != "" || it.Start < since || it.End >= until {
				continue
			}
			n++
			looked = append(looked, closed{team.Key, it})
			days = append(days, it.Start, it.End)
		}
	}
	slices.Sort(days)
	scopes := map[Date]Scope{}
	for _, day := range slices.Backward(slices.Compact(days)) {
		var err error
		if scopes[day], err = scope(day); err != nil {
			return nil, err
		}
	}
	measured := Measured{}
	for _, l := range looked {
		for _, r := range p.Releases {
			at := Part{r.Key, l.team}
			if was := scopes[l.it.Start][at]; was.Left && was.Size > 0 {
				measured[at] = append(measured[at], scopes[l.it.End][at].Size/was.Size-1)
			}
		}
	}
	return measured, nil
}

// enoughGrown is how many closed iterations a part tells of itself by; one with fewer is taken to be like all others for
// the rest of these.
const enoughGrown = 6

// of are the shares to draw from for a release in each of its teams, by the team's key, and all that were measured of it:
// those of the part, and as many of all parts, spread evenly over these by size, as are missing to six. None where all parts
// have too few together.
func (m Measured) of(p *plan.Plan, release string) (byTeam map[string][]float64, all []float64) {
	var others []float64
	for _, r := range p.Releases {
		for t := range p.Teams {
			others = append(others, m[Part{r.Key, p.Teams[t].Key}]...)
		}
	}
	if len(others) < enough {
		return nil, nil
	}
	slices.Sort(others)
	byTeam = map[string][]float64{}
	for t := range p.Teams {
		shares := slices.Clone(m[Part{release, p.Teams[t].Key}])
		known := len(shares) > 0
		for missing, i := enoughGrown-len(shares), 0; i < missing; i++ {
			shares = append(shares, others[(2*i+1)*len(others)/(2*missing)])
		}
		byTeam[p.Teams[t].Key] = shares
		if known {
			all = append(all, shares...)
		}
	}
	if len(all) == 0 {
		all = others
	}
	return byTeam, all
}
