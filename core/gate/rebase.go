package gate

import (
	"slices"

	"jantrel/core/program"
)

// Rebase returns changes that were made on base as they are on now: what is added or moved
// to a place in a list comes to stand after the same thing as it did there, whatever others
// have put in, taken out or moved since. Changes that now has already (both removed it, both
// added the same) are left out; what is in conflict stays as it is, see Conflicts.
//
// For a list that others have reordered it takes time linear in its length for each change.
func Rebase(base, now program.Program, mine []program.Change) []program.Change {
	lists := map[program.Ref]*order{}
	rebased := make([]program.Change, 0, len(mine))
	for _, c := range mine {
		list := program.ListOf(c.Ref)
		o := lists[list]
		if o == nil && c.Op != program.Set {
			o = &order{mine: base.Order(list), theirs: now.Order(list)}
			o.same = slices.Equal(o.mine, o.theirs)
			lists[list] = o
		}
		if c.Op == program.Set || o.same {
			rebased = append(rebased, c)
			continue
		}
		here, there := slices.Contains(o.mine, c.Ref), slices.Contains(o.theirs, c.Ref)
		at := c.At
		if at != nil {
			place := o.placeOf(c.Ref, *at)
			at = &place
		}
		done := c.Op == program.Remove && !there || c.Op == program.Add && there && !here
		o.mine = put(o.mine, c, c.At)
		if !done {
			o.theirs = put(o.theirs, c, at)
			c.At = at
			rebased = append(rebased, c)
		}
	}
	return rebased
}

// order is a list as it comes to be on either side while changes are gone through.
type order struct {
	mine, theirs []program.Ref // from base on, and from now on
	same         bool          // both began alike
}

// placeOf finds where, in their list, a thing stands that comes to a place in mine: after
// the nearest thing before it that they have too.
func (o *order) placeOf(ref program.Ref, at int) int {
	mine, theirs := without(o.mine, ref), without(o.theirs, ref)
	for i := min(at, len(mine)) - 1; i >= 0; i-- {
		if there := slices.Index(theirs, mine[i]); there >= 0 {
			return there + 1
		}
	}
	return 0
}

// put does a change to a list of names.
func put(list []program.Ref, c program.Change, at *int) []program.Ref {
	list = without(list, c.Ref)
	if c.Op == program.Remove {
		return list
	}
	to := len(list)
	if at != nil {
		to = max(0, min(*at, to))
	}
	return slices.Insert(list, to, c.Ref)
}

func without(list []program.Ref, ref program.Ref) []program.Ref {
	return slices.DeleteFunc(slices.Clone(list), func(r program.Ref) bool { return r == ref })
}
