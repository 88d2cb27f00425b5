package calendar

import "math/bits"

// Span is a stretch of days, both ends included.
type Span struct {
	Start Date `json:"start"`
	End   Date `json:"end"`
}

// Days is the number of days in the span; 0 where it ends before it starts.
func (s Span) Days() int { return max(0, int(s.End-s.Start)+1) }

// Holds reports whether d lies in the span.
func (s Span) Holds(d Date) bool { return s.Start <= d && d <= s.End }

// Meets reports whether the two spans share a day.
func (s Span) Meets(o Span) bool { return s.Start <= o.End && o.Start <= s.End }

// With is the span from the first day of the two to the last; a zero one adds nothing.
func (s Span) With(o Span) Span {
	switch {
	case s.Start.IsZero():
		return o
	case o.Start.IsZero():
		return s
	}
	return Span{min(s.Start, o.Start), max(s.End, o.End)}
}

// Weekdays is a set of days of the week; bit n stands for ISO day n (Monday 1).
type Weekdays uint8

// MondayToFriday is what a person works who says nothing else.
const MondayToFriday Weekdays = 0b00111110

// WeekdaysOf makes a set of ISO day numbers (Monday 1 to Sunday 7). An empty
// list is MondayToFriday.
func WeekdaysOf(days []int) Weekdays {
	if len(days) == 0 {
		return MondayToFriday
	}
	var w Weekdays
	for _, d := range days {
		w |= 1 << d
	}
	return w
}

// Has reports whether the set holds the weekday of d.
func (w Weekdays) Has(d Date) bool { return w&(1<<d.Weekday()) != 0 }

// Count returns how many days of span have a weekday in the set.
func (w Weekdays) Count(span Span) int {
	days := span.Days()
	n := days / 7 * bits.OnesCount8(uint8(w))
	for d := span.Start.Add(days / 7 * 7); d <= span.End; d++ {
		if w.Has(d) {
			n++
		}
	}
	return n
}

// WorkingDays counts the days of span whose weekday is in w and for which off,
// unless nil, is false.
func WorkingDays(span Span, w Weekdays, off func(Date) bool) int {
	n := 0
	for d := span.Start; d <= span.End; d++ {
		if w.Has(d) && (off == nil || !off(d)) {
			n++
		}
	}
	return n
}

// NextIteration returns the span that follows last in a cadence of lengthDays:
// it starts the day after and takes the cadence's length.
func NextIteration(last Span, lengthDays int) Span {
	start := last.End.Add(1)
	return Span{start, start.Add(lengthDays - 1)}
}
