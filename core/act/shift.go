package act

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"jantrel/core/program"
	"jantrel/core/schedule"
)

// Shift moves a feature, an initiative or an item by dates: what is placed of it goes along, by
// the rules of a schedule. It says one of three: by how many days, from which day on, or after
// which item.
type Shift struct {
	Item  string       `json:"item"`            // a group stands for its items
	Days  int          `json:"days,omitempty"`  // later; below 0: earlier
	Start program.Date `json:"start,omitzero"`  // the first of its items that can move starts about then; the others keep their distance from it
	After string       `json:"after,omitempty"` // as early as can be once this is over; of a group: the last of its items
}

// maxShift is how many days a Shift goes at most, either way.
const maxShift = 3660

// Plan implements Intent.
//
// Each item aims at the iteration of its team that starts nearest to so many days after the
// one it stands in (of two as near: the later one); with After, at any that starts past it.
// From there on it takes the first that has room and in which its needs hold: a
// schedule.Draft in which nothing else moves. What has no size goes where it aims. What
// finds no place stays, as do items that are done, pinned or under way. What is rough goes along.
func (x Shift) Plan(s State) (Plan, error) {
	// From here on with rough sizes spelled out: positions are those of the whole plan.
	whole := State{s.Whole(), s.Today, s.Index}
	at, ok := whole.Tree().Index[x.Item]
	if !ok {
		return Plan{}, fmt.Errorf("there is no item %s any more", x.Item)
	}
	moving, fixed := movable(whole, whole.Tree().Leaves(at))
	if len(moving) == 0 {
		return Plan{}, fmt.Errorf("nothing of %s can move: what there is of it is done, pinned, under way or not placed", x.Item)
	}
	aim, says, err := x.aim(whole, moving)
	if err != nil {
		return Plan{}, err
	}
	if aim == nil {
		return made("Move "+x.Item, nil, nil)
	}
	changes, stuck := shifted(whole, moving, aim)
	p, err := made(fmt.Sprintf("Move %s %s", x.Item, says), changes, nil)
	p.Says = changes
	return p.with(nil, left(fixed, stuck)), err
}

// left says which items a move leaves where they are.
func left(fixed, stuck []string) (notes []string) {
	if len(fixed) > 0 {
		notes = append(notes, listed(fixed)+" cannot move: done, pinned or under way.")
	}
	if len(stuck) > 0 {
		notes = append(notes, listed(stuck)+" would find no room, or not what is needed first: left where it is.")
	}
	return notes
}

// shifted are the changes that bring leaves of a whole plan where they aim, and the keys of those
// that find no place.
func shifted(s State, moving []int, aim func(i int) (program.Date, string)) (changes []program.Change, stuck []string) {
	// A few orders will do: it is asked for with each move of the hand.
	o := schedule.Options{Today: s.Today, NotBefore: map[string]program.Date{}, Tries: 20}
	to := map[string]string{} // iteration, by key of the item
	for _, i := range moving {
		item := &s.Items[i]
		first, slot := aim(i)
		if item.Size == nil {
			to[item.Key] = slot
			continue
		}
		o.Items, o.NotBefore[item.Key] = append(o.Items, item.Key), first
	}
	drafted := draft(s, &o)
	finds := map[string]bool{}
	for _, key := range o.Items {
		finds[key] = true
	}
	for _, x := range drafted.Placements {
		if finds[x.Item] {
			to[x.Item] = x.Iteration
		}
	}
	roughs := map[string]bool{} // keys of items of which something rough moves
	for _, i := range moving {
		item := &s.Items[i]
		if _, rough := s.Piece(i); rough {
			if key := s.KeyOf(i); !finds[item.Key] {
				if !slices.Contains(stuck, key) {
					stuck = append(stuck, key)
				}
			} else {
				roughs[key] = true
			}
			continue
		}
		switch iteration := to[item.Key]; iteration {
		case "":
			stuck = append(stuck, item.Key)
		case item.Iteration:
		default:
			changes = append(changes, program.SetTo(program.Ref{Kind: program.KindItem, Key: item.Key}, "iteration", iteration))
		}
	}
	moved := slices.DeleteFunc(drafted.Rough, func(x schedule.Rough) bool { return !roughs[x.Item] })
	return append(changes, schedule.RoughChanges(s.Plan, moved)...), stuck
}

// draft is where those items go that may move and find a place; the others are taken out of what
// is asked. They stay: what they keep of the room where they stand is not given away, so it is
// drafted again without them.
func draft(s State, o *schedule.Options) schedule.Schedule {
	for len(o.Items) > 0 {
		drafted := schedule.Draft(s.Plan, *o)
		all := len(o.Items)
		for _, x := range drafted.Unplaced {
			o.Items = slices.DeleteFunc(o.Items, func(key string) bool { return key == x.Item })
		}
		for _, x := range drafted.Rough {
			if x.Loose > loose(s, x.Item, x.Team)+1e-9 {
				o.Items = slices.DeleteFunc(o.Items, func(key string) bool {
					i := s.Tree().Index[key]
					_, rough := s.Piece(i)
					return rough && s.KeyOf(i) == x.Item && s.Items[i].Team == x.Team
				})
			}
		}
		if len(o.Items) == all {
			return drafted
		}
	}
	return schedule.Schedule{}
}

// loose is what is rough of an item for a team and stands nowhere.
func loose(s State, item, team string) (sum float64) {
	for _, key := range s.Pieces(item, team, "") {
		sum += *s.Items[s.Tree().Index[key]].Size
	}
	return sum
}

// movable are those of some leaves that are placed and that a schedule may move, and the keys of
// those that it may not.
func movable(s State, leaves []int) (moving []int, fixed []string) {
	for _, i := range leaves {
		item := &s.Items[i]
		place, placed := s.Place(i)
		if !placed || item.KeptOut {
			continue
		}
		if item.State == program.Done || schedule.Fixed(item, s.Teams[place.Team].Iterations[place.Slot]) {
			fixed = append(fixed, item.Key)
		} else {
			moving = append(moving, i)
		}
	}
	return moving, fixed
}

// aim returns where an item is to go: the day before which it does not start, and the
// iteration that this leads to; empty: there is none. No aim: nothing moves. says is the move
// in words.
func (x Shift) aim(s State, moving []int) (aim func(i int) (program.Date, string), says string, err error) {
	start := func(i int) program.Date { place, _ := s.Place(i); return place.Start }
	if x.After != "" {
		over, err := x.over(s)
		return func(i int) (program.Date, string) {
			for _, it := range coming(s, i) {
				if it.Start > over {
					return over.Add(1), it.Key
				}
			}
			return over.Add(1), ""
		}, "after " + x.After, err
	}
	by := x.Days
	if !x.Start.IsZero() {
		first := start(slices.MinFunc(moving, func(a, b int) int { return int(start(a) - start(b)) }))
		by = int(x.Start - first)
	}
	if err := step(by, maxShift); err != nil || by == 0 {
		return nil, "", err
	}
	return func(i int) (program.Date, string) {
		wanted := start(i).Add(by)
		var best *program.Iteration
		for _, it := range coming(s, i) {
			if best == nil || far(it.Start, wanted) <= far(best.Start, wanted) {
				best = it
			}
		}
		if best == nil {
			return wanted, ""
		}
		return best.Start, best.Key
	}, direction(by), nil
}

// over is the last day of what a Shift waits for.
func (x Shift) over(s State) (program.Date, error) {
	at, ok := s.Tree().Index[x.After]
	if !ok {
		return 0, fmt.Errorf("there is no item %s any more", x.After)
	}
	var last program.Date
	for _, i := range s.Tree().Leaves(at) {
		place, placed := s.Place(i)
		if !placed && s.Tree().ToSchedule(i) {
			return 0, fmt.Errorf("%s has no place yet: nothing can be put after it", strings.TrimSpace(s.Items[i].Key+" "+s.Items[i].Title))
		}
		last = max(last, place.End)
	}
	return max(last, s.Today.Add(-1)), nil
}

// coming are the iterations of the item's team that take items, by their start.
func coming(s State, i int) []*program.Iteration {
	place, _ := s.Place(i)
	var list []*program.Iteration
	for n := range s.Teams[place.Team].Iterations {
		if it := &s.Teams[place.Team].Iterations[n]; it.Takes(s.Today) {
			list = append(list, it)
		}
	}
	slices.SortStableFunc(list, func(a, b *program.Iteration) int { return cmp.Compare(a.Start, b.Start) })
	return list
}

func far(a, b program.Date) program.Date { return max(a-b, b-a) }

func direction(days int) string {
	unit := "days"
	if days == 1 || days == -1 {
		unit = "day"
	}
	if days < 0 {
		return fmt.Sprintf("%d %s earlier", -days, unit)
	}
	return fmt.Sprintf("%d %s later", days, unit)
}
