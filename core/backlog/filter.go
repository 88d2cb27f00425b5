package backlog

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"jantrel/core/calendar"
	"jantrel/core/program"
	"jantrel/core/ready"
)

// Comparison is a way to compare a field with values.
type Comparison struct {
	Is     string         `json:"is"`
	Words  string         `json:"words"`  // as it stands in a sentence between field and values
	Values int            `json:"values"` // how many values it takes: 0, 1, or 2 for any number
	Sorts  []program.Sort `json:"sorts"`  // the sorts of field that it can compare
}

// any number of values
const several = 2

// Comparisons are the ways to compare.
var Comparisons = []Comparison{
	{"is", "is", several, []program.Sort{program.Choice, program.Flag}},
	{"is-not", "is not", several, []program.Sort{program.Choice}},
	{"has", "has", several, []program.Sort{program.Many}},
	{"has-not", "does not have", several, []program.Sort{program.Many}},
	{"contains", "contains", 1, []program.Sort{program.Text}},
	{"contains-not", "does not contain", 1, []program.Sort{program.Text}},
	{"equals", "equals", 1, []program.Sort{program.Number}},
	{"at-most", "is at most", 1, []program.Sort{program.Number}},
	{"at-least", "is at least", 1, []program.Sort{program.Number}},
	{"before", "is before", 1, []program.Sort{program.Day}},
	{"since", "is on or after", 1, []program.Sort{program.Day}},
	{"empty", "is empty", 0, []program.Sort{program.Text, program.Number, program.Choice, program.Many, program.Day}},
	{"filled", "is not empty", 0, []program.Sort{program.Text, program.Number, program.Choice, program.Many, program.Day}},
}

// test is one condition made ready to be asked of many items.
type test func(i int) bool

// compile turns a filter into one test. An unknown field, comparison or value is an
// error that names the condition.
func (x *Index) compile(f program.Filter) (test, error) {
	tests := make([]test, 0, len(f.Conditions))
	for n, c := range f.Conditions {
		t, err := x.condition(c)
		if err != nil {
			return nil, fmt.Errorf("condition %d: %w", n+1, err)
		}
		tests = append(tests, t)
	}
	return func(i int) bool {
		for _, t := range tests {
			if t(i) == f.Any {
				return f.Any
			}
		}
		return !f.Any || len(tests) == 0
	}, nil
}

func (x *Index) condition(c program.Condition) (test, error) {
	field, ok := FieldOf(c.Field)
	if !ok {
		return nil, fmt.Errorf("there is no field %q", c.Field)
	}
	at := slices.IndexFunc(Comparisons, func(k Comparison) bool { return k.Is == c.Is && slices.Contains(k.Sorts, field.Sort) })
	if at < 0 {
		return nil, fmt.Errorf("%s cannot be compared by %q", field.Title, c.Is)
	}
	if how := Comparisons[at]; how.Values > 0 && len(c.Values) == 0 {
		return func(int) bool { return true }, nil // being filled in
	}
	switch c.Is {
	case "empty", "filled":
		return func(i int) bool { return field.empty(x, i) == (c.Is == "empty") }, nil
	case "contains", "contains-not":
		word := strings.ToLower(c.Values[0])
		return func(i int) bool {
			return strings.Contains(strings.ToLower(field.Value(x, i)), word) == (c.Is == "contains")
		}, nil
	case "is", "is-not", "has", "has-not":
		wanted := make(map[string]bool, len(c.Values))
		for _, v := range c.Values {
			wanted[v] = true
		}
		return func(i int) bool {
			found := slices.ContainsFunc(field.values(x, i), func(v string) bool { return wanted[v] })
			return found == (c.Is == "is" || c.Is == "has")
		}, nil
	}
	return x.bound(field, c)
}

// bound compares numbers and days.
func (x *Index) bound(field *Field, c program.Condition) (test, error) {
	var limit float64
	if field.Sort == program.Day {
		day, err := x.day(field, c.Values[0])
		if err != nil {
			return nil, err
		}
		limit = float64(day)
	} else {
		n, err := strconv.ParseFloat(strings.TrimSpace(c.Values[0]), 64)
		if err != nil {
			return nil, fmt.Errorf("%q is not a number", c.Values[0])
		}
		limit = n
	}
	holds := map[string]func(n float64) bool{
		"equals":   func(n float64) bool { return n == limit },
		"at-most":  func(n float64) bool { return n <= limit },
		"at-least": func(n float64) bool { return n >= limit },
		"before":   func(n float64) bool { return n < limit },
		"since":    func(n float64) bool { return n >= limit },
	}[c.Is]
	return func(i int) bool {
		n, ok := field.number(x, i)
		return ok && holds(n)
	}, nil
}

// day reads a date, or one told from today: "today", "yesterday", "7 days ago",
// "in 14 days". What changed is counted by the clock, everything else by the day
// that the plan is seen on.
func (x *Index) day(field *Field, text string) (program.Date, error) {
	today := x.o.Today
	if field.Name == "changed" {
		today = x.o.Clock
	}
	words := strings.Fields(strings.ToLower(text))
	switch {
	case len(words) == 1 && words[0] == "today":
		return today, nil
	case len(words) == 1 && words[0] == "yesterday":
		return today.Add(-1), nil
	case len(words) == 3 && words[2] == "ago" && strings.HasPrefix(words[1], "day"):
		if n, err := strconv.Atoi(words[0]); err == nil && n >= 0 && n < maxDays {
			return today.Add(-n), nil
		}
	case len(words) == 3 && words[0] == "in" && strings.HasPrefix(words[2], "day"):
		if n, err := strconv.Atoi(words[1]); err == nil && n >= 0 && n < maxDays {
			return today.Add(n), nil
		}
	}
	day, err := calendar.Parse(text)
	if err != nil {
		return 0, fmt.Errorf("%q is neither a date as 2027-06-25 nor \"today\", \"yesterday\", \"7 days ago\" or \"in 14 days\"", text)
	}
	return day, nil
}

// maxDays keeps days told from today within what dates can be.
const maxDays = 100_000

func (f *Field) empty(x *Index, i int) bool {
	if f.number != nil {
		_, ok := f.number(x, i)
		return !ok
	}
	return len(f.values(x, i)) == 0
}

// Sentence says a filter in words: "team is Lamp Control or Chart Desk, and size is
// at most 5". Nothing for one that keeps everything.
func (x *Index) Sentence(f program.Filter) string {
	parts := make([]string, 0, len(f.Conditions))
	for _, c := range f.Conditions {
		field, ok := FieldOf(c.Field)
		if !ok {
			continue
		}
		words := []string{strings.ToLower(field.Title)}
		if at := slices.IndexFunc(Comparisons, func(k Comparison) bool { return k.Is == c.Is }); at >= 0 {
			words = append(words, Comparisons[at].Words)
			if field.Name == "readiness" {
				words = []string{ReadinessWords[c.Is]}
			}
			if Comparisons[at].Values == 0 {
				c.Values = nil
			}
		}
		values := make([]string, len(c.Values))
		for i, v := range c.Values {
			values[i] = x.valueWords(field, v)
		}
		if len(values) > 0 {
			words = append(words, strings.Join(values, " or "))
		}
		parts = append(parts, strings.Join(words, " "))
	}
	if f.Any {
		return strings.Join(parts, ", or ")
	}
	return strings.Join(parts, ", and ")
}

// ReadinessWords are how comparisons of readiness read.
var ReadinessWords = map[string]string{"has": "lacks", "has-not": "does not lack", "empty": "is ready", "filled": "is not ready"}

// LackWords is a rule of readiness, as it stands in a sentence after "lacks".
type LackWords struct {
	Code  ready.Code `json:"code"`
	Words string     `json:"words"`
}

// Lacks are the rules of readiness.
var Lacks = []LackWords{
	{ready.NoSize, "a size"}, {ready.TooLarge, "a size that is small enough"}, {ready.NoTeam, "a team"}, {ready.NoParent, "a feature"}, {ready.NoRelease, "a release"},
	{ready.NoDescription, "a description"}, {ready.NoChecks, "checks"}, {ready.NoTags, "its tags"}, {ready.NeedsUnplaced, "a place for what it needs"},
	{ready.NeedsLater, "what it needs in time"},
}

// valueWords is a value outside of any item.
func (x *Index) valueWords(field *Field, value string) string {
	switch field.Name {
	case "readiness":
		for _, lack := range Lacks {
			if string(lack.Code) == value {
				return lack.Words
			}
		}
	case "iteration":
		// Several teams may have one of this key: the filter keeps them all.
		var labels []string
		for _, t := range x.p.Teams {
			if label := x.label(t.Key, value); label != "" && !slices.Contains(labels, label) {
				labels = append(labels, label)
			}
		}
		if len(labels) > 0 {
			return strings.Join(labels, " or ")
		}
	case "team", "release", "assignee", "parent", "feature", "initiative":
		return field.show(x, 0, value)
	}
	return value
}
