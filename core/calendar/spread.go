package calendar

import "slices"

// Spread are days from one to another, both of them included, as few days apart as lets there be no more than most
// of them, but for the first.
func Spread(from, to Date, most int) []Date {
	if to < from {
		return nil
	}
	step := max(1, (int(to-from)+most-1)/most)
	var days []Date
	for d := to; d > from; d = d.Add(-step) {
		days = append(days, d)
	}
	days = append(days, from)
	slices.Reverse(days)
	return days
}
