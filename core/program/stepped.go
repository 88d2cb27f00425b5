package program

import "cmp"

// Stepped keeps the days of an item that has come from one state to the one it has: the first day under way stands from
// then on, whatever becomes of it, unless work is said not to have begun; the day on which it was done stands as long as
// it is. Days that were said stand.
func (i *Item) Stepped(from ItemState, on Date) {
	from = cmp.Or(from, Todo)
	switch to := cmp.Or(i.State, Todo); {
	case to == from:
	case to == Todo:
		i.Began, i.DoneOn = 0, 0
	case to == Done:
		i.DoneOn = cmp.Or(i.DoneOn, on)
	default:
		i.Began, i.DoneOn = cmp.Or(i.Began, on), 0
	}
}
