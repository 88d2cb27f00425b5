package scenario

import (
	"cmp"
	"slices"
	"strconv"

	"jantrel/core/plan"
	"jantrel/core/program"
)

// What is what became of an item since another moment.
type What string

// What there is, in the order in which it is told.
const (
	WasAdded    What = "added"    // there was none
	WasRemoved  What = "removed"  // there is none any more
	CameIn      What = "came in"  // from another release, or it was kept out
	WentOut     What = "went out" // to another release, or it is kept out
	Grew        What = "grew"     // its size
	Shrank      What = "shrank"   // its size
	WentLater   What = "later"    // to an iteration that ends later, or to none
	WentSooner  What = "sooner"   // to an iteration that ends sooner, or from none
	WasDone     What = "done"     // it was not
	WasReopened What = "reopened" // it was done
)

// Whats are all of them, in order.
var Whats = []What{WasAdded, WasRemoved, CameIn, WentOut, Grew, Shrank, WentLater, WentSooner, WasDone, WasReopened}

// Scope is the part of a program that is looked at; empty: all of it.
type Scope struct {
	Release string
	Team    string
	Item    string // what is in a feature or an initiative
}

// SinceThen is what became of a scope since another moment.
type SinceThen struct {
	Items []Became  `json:"items"` // one for each thing that became of an item, in the order of Whats, then by rank
	Sums  []SumOf   `json:"sums"`  // for each What that there is
	Then  []TotalOf `json:"then"`  // what there was, by team
	Now   []TotalOf `json:"now"`   // what there is
}

// Became is one thing that became of an item.
type Became struct {
	Key     string   `json:"key"`
	Title   string   `json:"title"`
	Team    string   `json:"team"`
	Release string   `json:"release,omitempty"`
	Feature string   `json:"feature,omitempty"` // the nearest feature that it is in
	What    What     `json:"what"`
	From    string   `json:"from,omitempty"` // as it was, in words: a size, an iteration, a release
	To      string   `json:"to,omitempty"`
	Size    *float64 `json:"size,omitempty"` // by how much it changes the work, in the team's unit: of what came its size, of what grew by how much; nil: it has none
	Field   string   `json:"field"`          // whose edits say who did it; empty: the coming and going itself
}

// SumOf sums up one What: by team, as sizes of several are never added up, and by number over all.
type SumOf struct {
	What  What      `json:"what"`
	Items int       `json:"items"`
	Share float64   `json:"share"` // of the number of items then
	Teams []SizesOf `json:"teams"` // those with any
}

// SizesOf are sizes of a team's items.
type SizesOf struct {
	Team  string  `json:"team"`
	Items int     `json:"items"`
	Size  float64 `json:"size"`  // in the team's unit
	Share float64 `json:"share"` // of the sizes that the team had then; 0 where it had none
}

// TotalOf is the work of a team at one moment.
type TotalOf struct {
	Team  string  `json:"team"`
	Items int     `json:"items"`
	Size  float64 `json:"size"`
	Done  int     `json:"done"`
	Spent float64 `json:"doneSize"` // of Size, what is done
}

// Since says what became of a scope from one plan to another. What counts are items that are no groups and are not kept
// out. The sums add up: what there was, with what was added and came in and grew, less what was removed and went out
// and shrank, is what there is; but for items that went from one team to another, which are told as went out and came in
// where a team is looked at.
//
// It takes time linear in the items of both.
func Since(then, now *plan.Plan, scope Scope) SinceThen {
	s := sincer{then: viewOf(then, scope), now: viewOf(now, scope)}
	out := SinceThen{Items: []Became{}, Sums: []SumOf{}, Then: s.then.totals(), Now: s.now.totals()}
	for i := range now.Items {
		out.Items = append(out.Items, s.became(now.Items[i].Key)...)
	}
	for i := range then.Items {
		if _, still := s.now.at[then.Items[i].Key]; !still {
			out.Items = append(out.Items, s.became(then.Items[i].Key)...)
		}
	}
	slices.SortStableFunc(out.Items, func(a, b Became) int { return slices.Index(Whats, a.What) - slices.Index(Whats, b.What) })
	for _, what := range Whats {
		if sum := s.sum(what, out.Items, out.Then); sum.Items > 0 {
			out.Sums = append(out.Sums, sum)
		}
	}
	return out
}

type sincer struct{ then, now view }

// view is a plan with what counts of it.
type view struct {
	p      *plan.Plan
	tree   program.Tree
	at     map[string]int
	counts []bool
}

func viewOf(p *plan.Plan, scope Scope) view {
	v := view{p, p.Tree(), make(map[string]int, len(p.Items)), make([]bool, len(p.Items))}
	for i := range p.Items {
		v.at[p.Items[i].Key] = i
	}
	for i := range p.Items {
		x := &p.Items[i]
		v.counts[i] = !x.Kind.IsGroup() && v.tree.IsLeaf(i) && !x.KeptOut && (scope.Team == "" || x.Team == scope.Team) &&
			(scope.Release == "" || v.tree.Release(i) == scope.Release) && (scope.Item == "" || v.isIn(x.Key, scope.Item))
	}
	return v
}

// isIn reports whether an item is in a group, at any depth, or is it.
func (v *view) isIn(key, group string) bool {
	for steps := 0; key != "" && steps <= len(v.p.Items); steps++ {
		if key == group {
			return true
		}
		at, ok := v.at[key]
		if !ok {
			return false
		}
		key = v.p.Items[at].Parent
	}
	return false
}

func (v *view) totals() []TotalOf {
	totals := []TotalOf{}
	at := map[string]int{}
	for i := range v.p.Items {
		if !v.counts[i] {
			continue
		}
		x := &v.p.Items[i]
		n, known := at[x.Team]
		if !known {
			n = len(totals)
			at[x.Team] = n
			totals = append(totals, TotalOf{Team: x.Team})
		}
		t := &totals[n]
		t.Items++
		t.Size += sizeOf(x)
		if x.State == program.Done {
			t.Done++
			t.Spent += sizeOf(x)
		}
	}
	slices.SortStableFunc(totals, func(a, b TotalOf) int { return cmp.Compare(v.teamAt(a.Team), v.teamAt(b.Team)) })
	return totals
}

func (v *view) teamAt(team string) int {
	if at, ok := v.p.TeamAt()[team]; ok {
		return at
	}
	return len(v.p.Teams)
}

func sizeOf(x *program.Item) float64 {
	if x.Size == nil {
		return 0
	}
	return *x.Size
}

// became is all that became of an item.
func (s *sincer) became(key string) []Became {
	was, hadIt := s.then.at[key]
	is, hasIt := s.now.at[key]
	counted, counts := hadIt && s.then.counts[was], hasIt && s.now.counts[is]
	if !counted && !counts {
		return nil
	}
	v, at := &s.now, is
	if !hasIt {
		v, at = &s.then, was
	}
	x := &v.p.Items[at]
	about := Became{Key: key, Title: x.Title, Team: x.Team, Release: v.tree.Release(at)}
	if f := v.tree.Nearest(at, program.Feature); f >= 0 {
		about.Feature = v.p.Items[f].Key
	}
	tell := func(what What, field, from, to string, size *float64) Became {
		b := about
		b.What, b.Field, b.From, b.To, b.Size = what, field, from, to, size
		return b
	}
	switch {
	case !hadIt:
		return []Became{tell(WasAdded, "", "", s.now.where(is), x.Size)}
	case !hasIt:
		return []Became{tell(WasRemoved, "", s.then.where(was), "", x.Size)}
	case counted != counts:
		before, after := &s.then.p.Items[was], &s.now.p.Items[is]
		field, from, to := "release", s.then.tree.Release(was), s.now.tree.Release(is)
		switch {
		case before.KeptOut != after.KeptOut:
			field, from, to = "keptOut", keptOutText(before), keptOutText(after)
		case before.Team != after.Team && from == to:
			field, from, to = "team", before.Team, after.Team
		case from == to:
			field, from, to = "parent", before.Parent, after.Parent
		default:
			from, to = s.then.releaseName(from), s.now.releaseName(to)
		}
		if counts {
			return []Became{tell(CameIn, field, from, to, after.Size)}
		}
		b := tell(WentOut, field, from, to, before.Size)
		b.Team = before.Team
		return []Became{b}
	}
	return s.changed(was, is, tell)
}

// changed is what became of an item that counted then and counts now.
func (s *sincer) changed(was, is int, tell func(What, string, string, string, *float64) Became) (all []Became) {
	before, after := &s.then.p.Items[was], &s.now.p.Items[is]
	if a, b := sizeOf(before), sizeOf(after); a != b {
		what := Grew
		if b < a {
			what = Shrank
		}
		all = append(all, tell(what, "size", sizeText(before), sizeText(after), new(b-a)))
	}
	from, wasPlaced := s.then.p.Place(was)
	to, isPlaced := s.now.p.Place(is)
	switch {
	case !wasPlaced && !isPlaced, wasPlaced && isPlaced && from.End == to.End:
	case !isPlaced || wasPlaced && to.End > from.End:
		all = append(all, tell(WentLater, "iteration", s.then.where(was), s.now.where(is), after.Size))
	default:
		all = append(all, tell(WentSooner, "iteration", s.then.where(was), s.now.where(is), after.Size))
	}
	switch {
	case after.State == program.Done && before.State != program.Done:
		all = append(all, tell(WasDone, "state", string(cmp.Or(before.State, program.Todo)), string(cmp.Or(after.State, program.Todo)), after.Size))
	case after.State != program.Done && before.State == program.Done:
		all = append(all, tell(WasReopened, "state", string(cmp.Or(before.State, program.Todo)), string(cmp.Or(after.State, program.Todo)), after.Size))
	}
	return all
}

func keptOutText(x *program.Item) string {
	if x.KeptOut {
		return "kept out"
	}
	return "not kept out"
}

func sizeText(x *program.Item) string {
	if x.Size == nil {
		return "no size"
	}
	return strconv.FormatFloat(*x.Size, 'f', -1, 64)
}

func (v *view) releaseName(key string) string {
	if key == "" {
		return "no release"
	}
	return v.p.Called(program.Ref{Kind: program.KindRelease, Key: key})
}

// where is the iteration that an item stands in, in words.
func (v *view) where(at int) string {
	place, placed := v.p.Place(at)
	if !placed {
		return "unplaced"
	}
	it := &v.p.Teams[place.Team].Iterations[place.Slot]
	return cmp.Or(it.Name, it.Key)
}

func (s *sincer) sum(what What, items []Became, then []TotalOf) SumOf {
	sum := SumOf{What: what, Teams: []SizesOf{}}
	total, at := 0, map[string]int{}
	for _, b := range items {
		if b.What != what {
			continue
		}
		sum.Items++
		n, known := at[b.Team]
		if !known {
			n = len(sum.Teams)
			at[b.Team] = n
			sum.Teams = append(sum.Teams, SizesOf{Team: b.Team})
		}
		sum.Teams[n].Items++
		if b.Size != nil {
			sum.Teams[n].Size += *b.Size
		}
	}
	for _, t := range then {
		total += t.Items
		if n, known := at[t.Team]; known && t.Size > 0 {
			sum.Teams[n].Share = sum.Teams[n].Size / t.Size
		}
	}
	if total > 0 {
		sum.Share = float64(sum.Items) / float64(total)
	}
	slices.SortStableFunc(sum.Teams, func(a, b SizesOf) int { return cmp.Compare(s.now.teamAt(a.Team), s.now.teamAt(b.Team)) })
	return sum
}
