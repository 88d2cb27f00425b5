// Package calendar holds civil dates, working days and cadences. It knows no
// clock: "today" is always an argument of whoever asks.
package calendar

import (
	"fmt"
	"time"
)

// Date is a civil date, counted in days; 1 is 1 January of the year 1. The zero
// value means "no date", so optional dates need no pointer.
type Date int32

// unixEpoch is 1 January 1970 as a Date.
const unixEpoch = 719163

// Latest is the last date there is: the end of what has no end.
const Latest Date = 3652059 // 31 December of the year 9999

const layout = "2006-01-02"

// On returns the date of a year, month and day.
func On(year int, month time.Month, day int) Date {
	return fromTime(time.Date(year, month, day, 0, 0, 0, 0, time.UTC))
}

// OfTime returns the civil date that t shows in its own time zone.
func OfTime(t time.Time) Date { return On(t.Year(), t.Month(), t.Day()) }

// fromTime takes a midnight UTC, so the division has no remainder, also before 1970.
func fromTime(t time.Time) Date {
	return Date(t.Unix()/86400 + unixEpoch)
}

// Parse reads a date written as YYYY-MM-DD.
func Parse(s string) (Date, error) {
	t, err := time.Parse(layout, s)
	if err != nil || t.Year() < 1 {
		return 0, fmt.Errorf("%q is not a date; write it as YYYY-MM-DD", s)
	}
	return fromTime(t), nil
}

// MustParse is Parse for dates written in code; it panics on a bad one.
func MustParse(s string) Date {
	d, err := Parse(s)
	if err != nil {
		panic(err)
	}
	return d
}

// IsZero reports whether there is no date.
func (d Date) IsZero() bool { return d == 0 }

// Time returns midnight UTC of the date.
func (d Date) Time() time.Time {
	return time.Unix((int64(d)-unixEpoch)*86400, 0).UTC()
}

// String writes the date as YYYY-MM-DD; no date is the empty string.
func (d Date) String() string {
	if d == 0 {
		return ""
	}
	return d.Time().Format(layout)
}

// Short writes the date for people, as "25 Jun".
func (d Date) Short() string {
	if d == 0 {
		return "no date"
	}
	return d.Time().Format("2 Jan")
}

// Add returns the date n days later, or earlier where n is negative.
func (d Date) Add(n int) Date { return d + Date(n) }

// Weekday returns the day of the week as ISO 8601 numbers it: Monday is 1,
// Sunday is 7.
func (d Date) Weekday() int {
	// 1 January of the year 1 was a Monday.
	return int((int(d)-1)%7+7)%7 + 1
}

// MarshalText writes YYYY-MM-DD.
func (d Date) MarshalText() ([]byte, error) { return []byte(d.String()), nil }

// UnmarshalText reads YYYY-MM-DD; an empty text is no date.
func (d *Date) UnmarshalText(text []byte) error {
	if len(text) == 0 {
		*d = 0
		return nil
	}
	parsed, err := Parse(string(text))
	if err != nil {
		return err
	}
	*d = parsed
	return nil
}
