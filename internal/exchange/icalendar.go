package exchange

import (
	"bufio"
	"context"
	"fmt"
	"io"
	"slices"
	"strings"
	"time"
	_ "time/tzdata" // calendars name time zones that a bare machine does not know

	ics "github.com/arran4/golang-ical"
	"github.com/teambition/rrule-go"

	"jantrel/core/calendar"
	"jantrel/core/program"
)

// LineError is what is wrong in a text file, with the line, from 1.
type LineError struct {
	Line int
	Text string
}

func (e *LineError) Error() string { return fmt.Sprintf("line %d: %s", e.Line, e.Text) }

func lineError(line int, format string, args ...any) *LineError {
	return &LineError{line, fmt.Sprintf(format, args...)}
}

// Limits of a calendar, against files made to exhaust a server.
const (
	maxCalendar    = 8 << 20 // bytes
	maxCalendarRow = 64 << 10
	maxOccurrences = 5000 // of all events, within the window
)

// workedHours is how much of a day a timed event has to cover to take it.
const workedHours = 6

// property is one line of a calendar, unfolded, with where it began.
type property struct {
	*ics.BaseProperty
	line int
}

func (p property) param(name string) string {
	if values := p.ICalParameters[name]; len(values) > 0 {
		return values[0]
	}
	return ""
}

// component is what stands between BEGIN and END.
type component struct {
	name       string
	line       int
	properties []property
	children   []*component
}

func (c *component) get(name string) (property, bool) {
	for _, p := range c.properties {
		if p.IANAToken == name {
			return p, true
		}
	}
	return property{}, false
}

func (c *component) value(name string) string {
	if p, ok := c.get(name); ok {
		return p.Value
	}
	return ""
}

// ReadCalendar reads the events of an iCalendar (RFC 5545) that lie at least
// partly in a window, as whole days: all-day events, and those days of timed ones
// of which they cover six hours or more, in the event's own time zone. Events are
// repeated by their rules; occurrences that were moved or cancelled are taken as
// such. A calendar that cannot be read gives a *LineError. Where the context ends, so
// does the reading.
func ReadCalendar(ctx context.Context, r io.Reader, window calendar.Span) ([]program.DayOff, error) {
	root, err := readComponents(r)
	if err != nil {
		return nil, err
	}
	reader := &calendarReader{ctx: ctx, window: window, zones: map[string]*zone{}, home: time.UTC}
	for _, child := range root.children {
		if child.name == "VTIMEZONE" {
			reader.zones[child.value("TZID")] = newZone(child)
		}
	}
	if name := root.value("X-WR-TIMEZONE"); name != "" {
		if zone, err := time.LoadLocation(name); err == nil {
			reader.home = zone
		}
	}
	if strings.EqualFold(root.value("METHOD"), "CANCEL") {
		return nil, nil
	}
	return reader.events(root)
}

// readComponents reads the lines of a calendar into its outermost component.
func readComponents(r io.Reader) (*component, error) {
	lines := bufio.NewScanner(io.LimitReader(r, maxCalendar+1))
	lines.Buffer(nil, maxCalendarRow)
	var root *component
	var open []*component
	number, read := 0, 0
	text, at := "", 0
	take := func() error {
		if strings.TrimSpace(text) == "" {
			return nil
		}
		parsed, err := parseProperty(text)
		if err != nil {
			return lineError(at, "this is no line of a calendar: %q", short(text))
		}
		p := property{parsed, at}
		value := strings.ToUpper(strings.TrimSpace(p.Value))
		switch {
		case p.IANAToken == "BEGIN":
			c := &component{name: value, line: at}
			switch {
			case len(open) > 0:
				open[len(open)-1].children = append(open[len(open)-1].children, c)
			case root != nil:
				return lineError(at, "a second calendar begins here; a file holds one")
			case value != "VCALENDAR":
				return lineError(at, "a calendar begins with BEGIN:VCALENDAR, not with %q", short(text))
			default:
				root = c
			}
			open = append(open, c)
		case len(open) == 0:
			return lineError(at, "a calendar begins with BEGIN:VCALENDAR, not with %q", short(text))
		case p.IANAToken == "END":
			if last := open[len(open)-1]; last.name != value {
				return lineError(at, "END:%s where END:%s is due, for what began at line %d", value, last.name, last.line)
			}
			open = open[:len(open)-1]
		default:
			open[len(open)-1].properties = append(open[len(open)-1].properties, p)
		}
		return nil
	}
	for lines.Scan() {
		line := strings.TrimPrefix(lines.Text(), "\ufeff")
		number++
		if read += len(line) + 1; read > maxCalendar {
			return nil, lineError(number, "the calendar is larger than %d MB", maxCalendar>>20)
		}
		if number > 1 && line != "" && (line[0] == ' ' || line[0] == '\t') {
			if len(text)+len(line) > maxCalendarRow {
				return nil, lineError(at, "a line goes on for more than %d kB", maxCalendarRow>>10)
			}
			text += line[1:]
			continue
		}
		if err := take(); err != nil {
			return nil, err
		}
		text, at = line, number
	}
	if err := lines.Err(); err != nil {
		return nil, lineError(number+1, "%v", err)
	}
	if err := take(); err != nil {
		return nil, err
	}
	switch {
	case root == nil:
		return nil, lineError(1, "there is no calendar in it; a calendar begins with BEGIN:VCALENDAR")
	case len(open) > 0:
		last := open[len(open)-1]
		return nil, lineError(number, "the calendar breaks off: %s, which began at line %d, does not end", last.name, last.line)
	}
	return root, nil
}

// parseProperty parses one unfolded line. The library gives up on some broken
// lines by a panic; that is an error here.
func parseProperty(text string) (p *ics.BaseProperty, err error) {
	defer func() {
		if cause := recover(); cause != nil {
			err = fmt.Errorf("%v", cause)
		}
	}()
	p, err = ics.ParseProperty(ics.ContentLine(text))
	if err == nil && p == nil {
		err = fmt.Errorf("no property")
	}
	if p != nil {
		p.IANAToken = strings.ToUpper(p.IANAToken)
	}
	return p, err
}

func short(text string) string {
	if runes := []rune(text); len(runes) > 60 {
		return string(runes[:60]) + "…"
	}
	return text
}

type calendarReader struct {
	ctx    context.Context
	window calendar.Span
	zones  map[string]*zone
	home   *time.Location // of times in UTC
	found  []program.DayOff
}

// occurrence names one occurrence of an event: its UID and when it was to start.
type occurrence struct {
	uid   string
	start time.Time
}

func (r *calendarReader) events(root *component) ([]program.DayOff, error) {
	var events []*event
	moved := map[occurrence]bool{} // occurrences that an event of their own stands for
	for _, child := range root.children {
		if child.name != "VEVENT" {
			continue
		}
		if err := r.ctx.Err(); err != nil {
			return nil, err
		}
		e, err := r.event(child)
		if err != nil {
			return nil, err
		}
		if e.recurrence != nil {
			moved[occurrence{e.uid, e.recurrence.UTC()}] = true
		}
		events = append(events, e)
	}
	for _, e := range events {
		if e.cancelled || e.free {
			continue
		}
		if err := r.ctx.Err(); err != nil {
			return nil, err
		}
		starts, err := r.starts(e)
		if err != nil {
			return nil, err
		}
		for _, start := range starts {
			if e.recurrence == nil && moved[occurrence{e.uid, start.UTC()}] {
				continue
			}
			uid := e.uid
			if e.rule != nil || e.recurrence != nil {
				original := start
				if e.recurrence != nil {
					original = *e.recurrence
				}
				uid += "/" + original.Format("20060102")
			}
			if err := r.take(e, uid, start); err != nil {
				return nil, err
			}
		}
	}
	slices.SortStableFunc(r.found, func(a, b program.DayOff) int { return int(a.From - b.From) })
	return r.found, nil
}

// event is a VEVENT with its times read.
type event struct {
	*component
	uid, name       string
	start           time.Time
	length          time.Duration
	allDay          bool
	days            int // of an all-day event
	cancelled, free bool
	rule            *rrule.ROption
	also, not       []time.Time
	recurrence      *time.Time
}

func (r *calendarReader) event(c *component) (*event, error) {
	e := &event{component: c, uid: c.value("UID"), name: unescape(c.value("SUMMARY"))}
	e.cancelled = strings.EqualFold(c.value("STATUS"), "CANCELLED")
	start, ok := c.get("DTSTART")
	if !ok {
		return nil, lineError(c.line, "the event has no DTSTART")
	}
	if e.uid == "" {
		e.uid = fmt.Sprintf("%s %s", start.Value, e.name)
	}
	var err error
	if e.start, e.allDay, err = r.time(start, start.Value); err != nil {
		return nil, err
	}
	// A timed event that is shown as free time is no absence; all-day ones often say
	// so of a holiday.
	e.free = strings.EqualFold(c.value("TRANSP"), "TRANSPARENT") && !e.allDay
	if err := r.readLength(e); err != nil {
		return nil, err
	}
	if p, ok := c.get("RECURRENCE-ID"); ok {
		when, _, err := r.time(p, p.Value)
		if err != nil {
			return nil, err
		}
		e.recurrence = &when
	}
	if p, ok := c.get("RRULE"); ok {
		if e.rule, err = rrule.StrToROption(p.Value); err != nil {
			return nil, lineError(p.line, "the repetition %q cannot be read: %v", short(p.Value), err)
		}
	}
	for _, p := range c.properties {
		if p.IANAToken != "EXDATE" && p.IANAToken != "RDATE" {
			continue
		}
		for _, value := range strings.Split(p.Value, ",") {
			value, _, _ = strings.Cut(value, "/") // of a period, its start
			when, _, err := r.time(p, value)
			if err != nil {
				return nil, err
			}
			if p.IANAToken == "EXDATE" {
				e.not = append(e.not, when)
			} else {
				e.also = append(e.also, when)
			}
		}
	}
	return e, nil
}

// readLength reads how long an event lasts, from DTEND or DURATION.
func (r *calendarReader) readLength(e *event) error {
	e.days = 1
	if p, ok := e.get("DTEND"); ok {
		end, _, err := r.time(p, p.Value)
		if err != nil {
			return err
		}
		if end.Before(e.start) {
			return lineError(p.line, "the event ends before it starts")
		}
		e.length = end.Sub(e.start)
	} else if p, ok := e.get("DURATION"); ok {
		length, err := parseDuration(p.Value)
		if err != nil {
			return lineError(p.line, "%q is not a duration", short(p.Value))
		}
		e.length = length
	}
	if e.allDay {
		e.days = max(1, int(e.length.Hours()/24))
	}
	return nil
}

// parseDuration reads P1W, P2D, PT8H30M and the like.
func parseDuration(text string) (time.Duration, error) {
	rest, ok := strings.CutPrefix(strings.TrimPrefix(strings.TrimSpace(text), "+"), "P")
	if !ok || rest == "" {
		return 0, fmt.Errorf("no duration")
	}
	units := map[byte]time.Duration{'W': 7 * 24 * time.Hour, 'D': 24 * time.Hour, 'H': time.Hour, 'M': time.Minute, 'S': time.Second}
	total, n, digits := time.Duration(0), 0, 0
	for i := range len(rest) {
		switch ch := rest[i]; {
		case ch == 'T':
		case ch >= '0' && ch <= '9' && digits < 6:
			n, digits = n*10+int(ch-'0'), digits+1
		case units[ch] > 0 && digits > 0:
			total, n, digits = total+time.Duration(n)*units[ch], 0, 0
		default:
			return 0, fmt.Errorf("no duration")
		}
	}
	if digits > 0 || total > 3660*24*time.Hour {
		return 0, fmt.Errorf("no duration")
	}
	return total, nil
}

// time reads a date or a time with its zone.
func (r *calendarReader) time(p property, value string) (when time.Time, allDay bool, err error) {
	value = strings.TrimSpace(value)
	if p.param("VALUE") == "DATE" || len(value) == 8 {
		when, err = time.ParseInLocation("20060102", value, time.UTC)
		if err != nil || !possible(when) {
			return when, true, lineError(p.line, "%q is not a date of the form 20270412", short(value))
		}
		return when, true, nil
	}
	if utc, ok := strings.CutSuffix(value, "Z"); ok {
		when, err = time.ParseInLocation("20060102T150405", utc, time.UTC)
		when = when.In(r.home)
	} else if id := strings.Trim(p.param("TZID"), `"`); id != "" {
		zone, known := time.LoadLocation(strings.TrimPrefix(id, "/"))
		when, err = time.ParseInLocation("20060102T150405", value, time.UTC)
		switch {
		case known == nil:
			when, err = time.ParseInLocation("20060102T150405", value, zone)
		case r.zones[id] != nil && err == nil:
			when, err = r.zones[id].place(when)
		case err == nil:
			return when, false, lineError(p.line, "the time zone %q is neither known nor described in the calendar", short(id))
		}
	} else {
		when, err = time.ParseInLocation("20060102T150405", value, r.home)
	}
	if err != nil || !possible(when) {
		return when, false, lineError(p.line, "%q is not a time of the form 20270412T090000", short(value))
	}
	return when, false, nil
}

func parseOffset(text string) (int, error) {
	when, err := time.Parse("-0700", text)
	if err != nil {
		return 0, fmt.Errorf("%q is not an offset", short(text))
	}
	_, offset := when.Zone()
	return offset, nil
}

// take adds the days of one occurrence, as runs of days.
func (r *calendarReader) take(e *event, uid string, start time.Time) error {
	first := calendar.OfTime(start)
	last := first.Add(e.days - 1)
	if !e.allDay {
		end, begin := start.Add(e.length), first
		last = first - 1
		for day := begin; day <= calendar.OfTime(end) && day <= begin.Add(366); day++ {
			midnight := time.Date(start.Year(), start.Month(), start.Day()+int(day-begin), 0, 0, 0, 0, start.Location())
			next := midnight.AddDate(0, 0, 1)
			from, to := start, end
			if from.Before(midnight) {
				from = midnight
			}
			if to.After(next) {
				to = next
			}
			if to.Sub(from) < workedHours*time.Hour {
				if last >= first {
					break // a day at the end that it only touches
				}
				first = day + 1
				last = day
				continue
			}
			last = day
		}
	}
	if last < first || !(calendar.Span{Start: first, End: last}).Meets(r.window) {
		return nil
	}
	if len(r.found) == maxOccurrences {
		return lineError(e.line, "the calendar has more than %d events in the time asked for", maxOccurrences)
	}
	r.found = append(r.found, program.DayOff{From: first, To: last, Name: e.name, UID: uid})
	return nil
}

var escapes = strings.NewReplacer(`\n`, " ", `\N`, " ", `\,`, ",", `\;`, ";", `\\`, `\`)

func unescape(text string) string {
	text = strings.TrimSpace(escapes.Replace(text))
	if runes := []rune(text); len(runes) > 120 {
		return string(runes[:120])
	}
	return text
}
