package exchange

import (
	"fmt"
	"time"

	"github.com/teambition/rrule-go"
)

// Years in which the times of a calendar lie.
const (
	firstYear = 1900
	lastYear  = 2199
)

// possible reports whether somebody can mean a time.
func possible(when time.Time) bool { return when.Year() >= firstYear && when.Year() <= lastYear }

// Limits of repetitions.
const (
	maxLists  = 400 // entries of all lists of a rule
	cycle     = 400 // years after which the calendar is the same again, to the day of the week
	beforeEnd = 19  // cycles by which a rule is moved
)

// repeat returns the local times at which a rule that begins at start says something, from
// one to another, both included. The hands of the clock count: a rule knows no time zones.
//
// A rule that never comes is looked for up to the year 9999, where the library ends. So it is
// moved there: after 400 years the calendar repeats itself exactly, and a rule that has not
// come in that time never does. At most 500 years are gone through, whatever the rule is.
func repeat(option rrule.ROption, start, from, to time.Time) ([]time.Time, error) {
	if len(option.Byeaster) > 0 {
		return nil, fmt.Errorf("it goes by Easter")
	}
	lists := 0
	for _, list := range [][]int{option.Bysetpos, option.Bymonth, option.Bymonthday, option.Byyearday, option.Byweekno, option.Byhour, option.Byminute, option.Bysecond} {
		lists += len(list)
	}
	if lists+len(option.Byweekday) > maxLists {
		return nil, fmt.Errorf("it has more than %d parts", maxLists)
	}
	later := func(t time.Time) time.Time { return clock(t).AddDate(beforeEnd*cycle, 0, 0) }
	option.Dtstart = later(start)
	if !option.Until.IsZero() {
		if !possible(option.Until) {
			option.Until = time.Date(lastYear, 12, 31, 0, 0, 0, 0, time.UTC)
		}
		if option.Until.Location() == time.UTC {
			option.Until = option.Until.In(start.Location())
		}
		option.Until = later(option.Until)
	}
	rule, err := rrule.NewRRule(option)
	if err != nil {
		return nil, err
	}
	var found []time.Time
	from, to = later(from), later(to)
	next := rule.Iterator()
	for when, ok := next(); ok && !when.After(to); when, ok = next() {
		if !when.Before(from) {
			found = append(found, when.AddDate(-beforeEnd*cycle, 0, 0))
		}
	}
	return found, nil
}

// clock is what the hands of a clock show at a time, as if it were in UTC.
func clock(t time.Time) time.Time {
	return time.Date(t.Year(), t.Month(), t.Day(), t.Hour(), t.Minute(), t.Second(), 0, time.UTC)
}

// starts returns when an event starts within the window, with those of its
// repetitions.
func (r *calendarReader) starts(e *event) ([]time.Time, error) {
	if e.rule == nil && len(e.also) == 0 {
		return []time.Time{e.start}, nil
	}
	long := max(e.length, time.Duration(e.days)*24*time.Hour) + 48*time.Hour
	from, to := r.window.Start.Time().Add(-long), r.window.End.Time().Add(48*time.Hour)
	starts := []time.Time{e.start}
	if e.rule != nil {
		p, _ := e.get("RRULE")
		// Repetitions within a day say nothing about days off and could be endless.
		if e.rule.Freq > rrule.DAILY || len(e.rule.Byhour)+len(e.rule.Byminute)+len(e.rule.Bysecond) > 3 {
			return nil, lineError(p.line, "an event that repeats within a day is no day off")
		}
		found, err := repeat(*e.rule, e.start, from, to)
		if err != nil {
			return nil, lineError(p.line, "the repetition %q cannot be read: %v", short(p.Value), err)
		}
		if starts = starts[:0]; len(found) > maxOccurrences {
			return nil, lineError(p.line, "the event comes more than %d times in the time asked for", maxOccurrences)
		}
		for _, c := range found {
			starts = append(starts, time.Date(c.Year(), c.Month(), c.Day(), c.Hour(), c.Minute(), c.Second(), 0, e.start.Location()))
		}
	}
	not := make(map[int64]bool, len(e.not))
	for _, when := range e.not {
		not[when.Unix()] = true
	}
	var kept []time.Time
	for _, when := range append(starts, e.also...) {
		if !not[when.Unix()] && !when.Before(from) && !when.After(to) {
			not[when.Unix()] = true // once
			kept = append(kept, when)
		}
	}
	return kept, nil
}

// zone is a time zone that a calendar describes.
type zone struct {
	observances []observance
	err         error
	years       map[int][]onset // of a year and the one before it
}

// observance is an offset from UTC that comes into force by a rule.
type observance struct {
	start  time.Time // local, first onset
	rule   *rrule.ROption
	offset int // seconds
}

type onset struct {
	at     time.Time
	offset int
}

func newZone(c *component) *zone {
	z := &zone{years: map[int][]onset{}}
	for _, child := range c.children {
		start, err := time.ParseInLocation("20060102T150405", child.value("DTSTART"), time.UTC)
		if err != nil || start.Year() > lastYear {
			continue
		}
		if start.Year() < firstYear { // "always"
			start = time.Date(firstYear, start.Month(), start.Day(), start.Hour(), start.Minute(), start.Second(), 0, time.UTC)
		}
		o := observance{start: start}
		if o.offset, err = parseOffset(child.value("TZOFFSETTO")); err != nil {
			z.err = err
			continue
		}
		// Clocks are changed once a year; a rule that says otherwise is none.
		if rule, err := rrule.StrToROption(child.value("RRULE")); err == nil && rule.Freq == rrule.YEARLY && child.value("RRULE") != "" {
			o.rule = rule
		}
		z.observances = append(z.observances, o)
	}
	return z
}

// place puts a local time into the zone: the observance in force is the one with the latest
// onset before it; before all of them, the first.
func (z *zone) place(local time.Time) (time.Time, error) {
	if z.err != nil {
		return local, z.err
	}
	year := local.Year()
	onsets, known := z.years[year]
	if !known {
		for _, o := range z.observances {
			at := []time.Time{o.start}
			if o.rule != nil {
				// One that cannot be read says nothing beyond its first onset.
				if found, err := repeat(*o.rule, o.start, time.Date(year-1, 1, 1, 0, 0, 0, 0, time.UTC), time.Date(year, 12, 31, 23, 59, 59, 0, time.UTC)); err == nil && len(found) > 0 {
					at = found
				}
			}
			for _, when := range at {
				onsets = append(onsets, onset{when, o.offset})
			}
		}
		z.years[year] = onsets
	}
	offset, latest := 0, time.Time{}
	for i, o := range onsets {
		if i == 0 || !o.at.After(local) && o.at.After(latest) {
			offset = o.offset
			if !o.at.After(local) {
				latest = o.at
			}
		}
	}
	return time.Date(year, local.Month(), local.Day(), local.Hour(), local.Minute(), local.Second(), 0, time.FixedZone("", offset)), nil
}
