package exchange_test

import (
	"context"
	"errors"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/calendar"
	"jantrel/internal/exchange"
)

var window = calendar.Span{Start: calendar.MustParse("2027-01-01"), End: calendar.MustParse("2027-12-31")}

// lines makes a calendar of lines within BEGIN and END.
func lines(body string) string {
	return "BEGIN:VCALENDAR\r\nVERSION:2.0\r\n" + strings.ReplaceAll(strings.TrimSpace(body), "\n", "\r\n") + "\r\nEND:VCALENDAR\r\n"
}

func read(t *testing.T, body string) []string {
	t.Helper()
	events, err := exchange.ReadCalendar(t.Context(), strings.NewReader(lines(body)), window)
	require.NoError(t, err)
	list := []string{}
	for _, e := range events {
		list = append(list, e.From.String()+".."+e.To.String()+" "+e.Name)
	}
	return list
}

func event(rest string) string { return "BEGIN:VEVENT\nUID:u\nSUMMARY:S\n" + rest + "\nEND:VEVENT" }

func TestReadCalendar(t *testing.T) {
	for name, c := range map[string]struct {
		body string
		want []string
	}{
		"all day":                {event("DTSTART;VALUE=DATE:20270412\nDTEND;VALUE=DATE:20270424"), []string{"2027-04-12..2027-04-23 S"}},
		"one day without an end": {event("DTSTART;VALUE=DATE:20270412"), []string{"2027-04-12..2027-04-12 S"}},
		"a duration":             {event("DTSTART;VALUE=DATE:20270412\nDURATION:P1W"), []string{"2027-04-12..2027-04-18 S"}},
		"a working day":          {event("DTSTART:20270412T080000Z\nDTEND:20270412T170000Z"), []string{"2027-04-12..2027-04-12 S"}},
		"two hours":              {event("DTSTART:20270412T080000Z\nDTEND:20270412T100000Z"), []string{}},
		"evening to noon":        {event("DTSTART:20270412T180000Z\nDTEND:20270414T120000Z"), []string{"2027-04-12..2027-04-14 S"}},
		"late to early":          {event("DTSTART:20270412T200000Z\nDTEND:20270414T040000Z"), []string{"2027-04-13..2027-04-13 S"}},
		"cancelled":              {event("STATUS:CANCELLED\nDTSTART;VALUE=DATE:20270412"), []string{}},
		"free time":              {event("TRANSP:TRANSPARENT\nDTSTART:20270412T080000Z\nDTEND:20270412T170000Z"), []string{}},
		"out of the window":      {event("DTSTART;VALUE=DATE:20260412"), []string{}},
		"a folded, escaped line": {"BEGIN:VEVENT\nUID:u\nSUMMARY:Boat\\, pier\n  and quay\nDTSTART;VALUE=DATE:20270412\nEND:VEVENT", []string{"2027-04-12..2027-04-12 Boat, pier and quay"}},
		"weekly, one left out":   {event("DTSTART;VALUE=DATE:20270405\nRRULE:FREQ=WEEKLY;COUNT=4\nEXDATE;VALUE=DATE:20270419"), []string{"2027-04-05..2027-04-05 S", "2027-04-12..2027-04-12 S", "2027-04-26..2027-04-26 S"}},
		"repeated for ever":      {event("DTSTART;VALUE=DATE:19991224\nRRULE:FREQ=YEARLY"), []string{"2027-12-24..2027-12-24 S"}},
		"more dates":             {event("DTSTART;VALUE=DATE:20270405\nRDATE;VALUE=DATE:20270407,20270409"), []string{"2027-04-05..2027-04-05 S", "2027-04-07..2027-04-07 S", "2027-04-09..2027-04-09 S"}},
		"one occurrence moved":   {event("DTSTART;VALUE=DATE:20270405\nRRULE:FREQ=WEEKLY;COUNT=2") + "\n" + event("RECURRENCE-ID;VALUE=DATE:20270412\nDTSTART;VALUE=DATE:20270414"), []string{"2027-04-05..2027-04-05 S", "2027-04-14..2027-04-14 S"}},
		"one occurrence dropped": {event("DTSTART;VALUE=DATE:20270405\nRRULE:FREQ=WEEKLY;COUNT=2") + "\n" + event("STATUS:CANCELLED\nRECURRENCE-ID;VALUE=DATE:20270412\nDTSTART;VALUE=DATE:20270412"), []string{"2027-04-05..2027-04-05 S"}},
		"a zone far east":        {event("DTSTART;TZID=Pacific/Auckland:20270412T090000\nDTEND;TZID=Pacific/Auckland:20270412T170000"), []string{"2027-04-12..2027-04-12 S"}},
		"UTC seen from the east": {"X-WR-TIMEZONE:Pacific/Auckland\n" + event("DTSTART:20270411T210000Z\nDTEND:20270412T050000Z"), []string{"2027-04-12..2027-04-12 S"}},
		"a cancelled calendar":   {"METHOD:CANCEL\n" + event("DTSTART;VALUE=DATE:20270412"), []string{}},
		"other things beside it": {"BEGIN:VTODO\nUID:t\nEND:VTODO\n" + event("DTSTART;VALUE=DATE:20270412\nBEGIN:VALARM\nTRIGGER:-PT15M\nEND:VALARM"), []string{"2027-04-12..2027-04-12 S"}},
		"over the end of summer": {event("DTSTART;TZID=Europe/Lisbon:20271029T090000\nDTEND;TZID=Europe/Lisbon:20271029T170000\nRRULE:FREQ=DAILY;COUNT=3"), []string{"2027-10-29..2027-10-29 S", "2027-10-30..2027-10-30 S", "2027-10-31..2027-10-31 S"}},
		"a zone that it describes": {`BEGIN:VTIMEZONE
TZID:Island Time
BEGIN:STANDARD
DTSTART:20001029T030000
RRULE:FREQ=YEARLY;BYMONTH=10;BYDAY=-1SU
TZOFFSETFROM:+1400
TZOFFSETTO:+1300
END:STANDARD
BEGIN:DAYLIGHT
DTSTART:20000326T020000
RRULE:FREQ=YEARLY;BYMONTH=3;BYDAY=-1SU
TZOFFSETFROM:+1300
TZOFFSETTO:+1400
END:DAYLIGHT
END:VTIMEZONE
` + event("DTSTART;TZID=Island Time:20270712T000000\nDTEND:20270712T160000Z"), []string{"2027-07-12..2027-07-13 S"}},
	} {
		t.Run(name, func(t *testing.T) { assert.Equal(t, c.want, read(t, c.body)) })
	}
}

func TestABrokenCalendarIsRefusedWithItsLine(t *testing.T) {
	for name, c := range map[string]struct {
		text string
		line int
		says string
	}{
		"nothing":               {"", 1, "there is no calendar"},
		"a page":                {"<html>\n<body>", 1, "this is no line of a calendar"},
		"something else":        {"BEGIN:VCARD\nEND:VCARD", 1, "begins with BEGIN:VCALENDAR"},
		"it breaks off":         {"BEGIN:VCALENDAR\nBEGIN:VEVENT\nUID:1", 3, "VEVENT, which began at line 2, does not end"},
		"ends crossed":          {"BEGIN:VCALENDAR\nBEGIN:VEVENT\nEND:VCALENDAR", 3, "END:VCALENDAR where END:VEVENT is due"},
		"no colon":              {lines("BEGIN:VEVENT\nDTSTART 2027\nEND:VEVENT"), 4, "no line of a calendar"},
		"no start":              {lines("BEGIN:VEVENT\nUID:1\nEND:VEVENT"), 3, "no DTSTART"},
		"a bad date":            {lines(event("DTSTART;VALUE=DATE:20271340")), 6, "is not a date"},
		"a bad time":            {lines(event("DTSTART:20270412T9")), 6, "is not a time"},
		"an unknown zone":       {lines(event("DTSTART;TZID=Nowhere/Land:20270412T090000")), 6, "neither known nor described"},
		"an end before a start": {lines(event("DTSTART;VALUE=DATE:20270412\nDTEND;VALUE=DATE:20270401")), 7, "ends before it starts"},
		"a bad rule":            {lines(event("DTSTART;VALUE=DATE:20270412\nRRULE:FREQ=OFTEN")), 7, "cannot be read"},
		"every second":          {lines(event("DTSTART:20270412T000000Z\nRRULE:FREQ=SECONDLY")), 7, "repeats within a day"},
		"a bad duration":        {lines(event("DTSTART;VALUE=DATE:20270412\nDURATION:soon")), 7, "is not a duration"},
		"two of them":           {lines("") + lines(""), 5, "a second calendar"},
	} {
		_, err := exchange.ReadCalendar(t.Context(), strings.NewReader(c.text), window)
		var at *exchange.LineError
		if assert.True(t, errors.As(err, &at), "%s: %v", name, err) {
			assert.Equal(t, c.line, at.Line, name)
			assert.Contains(t, at.Text, c.says, name)
		}
	}
}

// Calendars made to keep a server busy: each of these took minutes, or all the memory.
func TestCalendarsMadeToExhaust(t *testing.T) {
	many := func(n int, what string) string { return strings.Repeat(what, n) }
	zone := "BEGIN:VTIMEZONE\nTZID:X\nBEGIN:STANDARD\nDTSTART:19700101T000000\nTZOFFSETTO:+0100\nRRULE:FREQ=%s\nEND:STANDARD\nEND:VTIMEZONE\n"
	for name, c := range map[string]struct {
		text, says string
		found      int
	}{
		"a zone by the second":       {fmt.Sprintf(zone, "SECONDLY") + event("DTSTART;TZID=X:20270412T090000\nDTEND;TZID=X:20270412T170000"), "", 1},
		"a zone that never comes":    {fmt.Sprintf(zone, "YEARLY;BYMONTH=2;BYMONTHDAY=30") + event("DTSTART;TZID=X:20270412T090000\nDTEND;TZID=X:20270412T170000"), "", 1},
		"rules that never come":      {many(20, event("DTSTART;VALUE=DATE:20200412\nRRULE:FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=30")+"\n"), "", 0},
		"the same by the day":        {many(3, event("DTSTART;VALUE=DATE:20200412\nRRULE:FREQ=DAILY;BYMONTH=2;BYMONTHDAY=30")+"\n"), "", 0},
		"a leap day":                 {event("DTSTART;VALUE=DATE:20240229\nRRULE:FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=29"), "", 0},
		"far ahead":                  {event("DTSTART;VALUE=DATE:98990412\nRRULE:FREQ=DAILY"), "is not a date", 0},
		"a rule of a thousand parts": {event("DTSTART;VALUE=DATE:20270412\nRRULE:FREQ=YEARLY;BYYEARDAY=" + many(1000, "1,") + "1"), "more than 400 parts", 0},
		"every day for good":         {event("DTSTART;VALUE=DATE:19700101\nRRULE:FREQ=DAILY;UNTIL=99991231T000000Z"), "", 365},
	} {
		found, err := exchange.ReadCalendar(t.Context(), strings.NewReader(lines(c.text)), window)
		if c.says != "" {
			assert.ErrorContains(t, err, c.says, name)
			continue
		}
		if assert.NoError(t, err, name) {
			assert.Len(t, found, c.found, name)
		}
	}
	gone, cancel := context.WithCancel(t.Context())
	cancel()
	_, err := exchange.ReadCalendar(gone, strings.NewReader(lines(event("DTSTART;VALUE=DATE:20270412"))), window)
	assert.ErrorIs(t, err, context.Canceled)
}

// Whatever is read: an error with a line, or days off that lie in order and meet
// the window.
func FuzzReadCalendar(f *testing.F) {
	f.Add(lines(event("DTSTART;VALUE=DATE:20270412\nRRULE:FREQ=WEEKLY;COUNT=4\nEXDATE;VALUE=DATE:20270419")))
	f.Add(lines(event("DTSTART;TZID=Europe/Lisbon:20270412T080000\nDURATION:P1DT8H")))
	f.Add("BEGIN:VCALENDAR\nBEGIN:VTIMEZONE\nTZID:X\nBEGIN:STANDARD\nDTSTART:20001029T030000\nTZOFFSETTO:+01\nEND:STANDARD\nEND:VTIMEZONE\nEND:VCALENDAR")
	f.Fuzz(func(t *testing.T, text string) {
		events, err := exchange.ReadCalendar(t.Context(), strings.NewReader(text), window)
		var at *exchange.LineError
		if err != nil && (!errors.As(err, &at) || at.Line < 1) {
			t.Fatalf("an error without a line: %v", err)
		}
		for i, e := range events {
			if e.To < e.From || !(calendar.Span{Start: e.From, End: e.To}).Meets(window) || i > 0 && e.From < events[i-1].From {
				t.Fatalf("%v", e)
			}
		}
	})
}
