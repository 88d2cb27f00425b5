package calendar

// Spread are days from one to another, both of them included, as far apart as needed for there to be so many
// at most, but for one; the last is always among them.
func Spread(from, to Date, most int) []Date {
	var days []Date
	for d := to; d >= from; d = d.Add(-max(1, (int(to-from)+most-1)/most)) {
		days = append([]Date{d}, days...)
	}
	if len(days) > 0 && days[0] > from {
		days = append([]Date{from}, days...)
	}
	return days
}
