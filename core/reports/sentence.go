package reports

import (
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"

	"jantrel/core/program"
)

// mostNamed is how many values a sentence names.
const mostNamed = 3

// Sentence says a table in words: "48 items. State: to do 20, done 18, doing 6 and 1 more."
func (c *Chart) Sentence(t *Table) string {
	text := c.told(t.Total, t.Count, t.Unit, t.In) + "."
	if len(c.Split) == 0 || t.Count == 0 {
		return text
	}
	order := make([]int, len(t.Rows))
	for i := range order {
		order[i] = i
	}
	value := func(i int) float64 {
		if t.Totals[i] == nil {
			return math.Inf(-1)
		}
		return *t.Totals[i]
	}
	slices.SortStableFunc(order, func(a, b int) int {
		if value(a) == value(b) {
			return 0
		} else if value(a) > value(b) {
			return -1
		}
		return 1
	})
	var parts []string
	for _, i := range order[:min(len(order), mostNamed)] {
		if t.Totals[i] != nil {
			parts = append(parts, lower(t.Rows[i].Title)+" "+figure(*t.Totals[i], t.Unit, t.In))
		}
	}
	if len(parts) == 0 {
		return text
	}
	text += " " + c.splitTitle(0) + ": " + strings.Join(parts, ", ")
	if more := len(t.Rows) + t.LeftOut - len(parts); more > 0 {
		text += fmt.Sprintf(" and %d more", more)
	}
	return text + "."
}

// SentenceOver says a series in words: "48 items today, 3 more than on 2 Mar."
func (c *Chart) SentenceOver(s *Series) string {
	last := len(s.Totals) - 1
	text := c.told(s.Totals[last], s.Counts[last], s.Unit, s.In) + " today"
	change, ok := s.Change()
	switch {
	case !ok || last == 0:
		return text + "."
	case math.Abs(change) < 1e-9:
		return text + ", as on " + s.Days[0].Short() + "."
	case change > 0:
		return text + ", " + figure(change, s.Unit, s.In) + " more than on " + s.Days[0].Short() + "."
	}
	less := " less than on "
	if s.Unit == Number {
		less = " fewer than on "
	}
	return text + ", " + figure(-change, s.Unit, s.In) + less + s.Days[0].Short() + "."
}

// told is what a chart comes to in all.
func (c *Chart) told(total *float64, things int, unit Unit, in program.Unit) string {
	words := sourceOf(c.Of).words
	counted := fmt.Sprintf("%d %s", things, words.Many)
	if things == 1 {
		counted = "1 " + words.One
	}
	switch measure, _ := sourceOf(c.Of).measureOf(c.Measure); {
	case measure.Name == number.Name || things == 0:
		return counted
	case total == nil:
		return counted + ", none with " + strings.ToLower(measure.Title[:1]) + measure.Title[1:]
	default:
		return measure.Title + ": " + figure(*total, unit, in) + " of " + counted
	}
}

func (c *Chart) splitTitle(n int) string {
	s := sourceOf(c.Of)
	for _, words := range Vocabulary() {
		for _, split := range words.Splits {
			if words.Name == s.words.Name && split.Name == c.Split[n] {
				return split.Title
			}
		}
	}
	return c.Split[n]
}

// Words is a value with its unit, for people; a dash where there is none.
func Words(value *float64, unit Unit, in program.Unit) string {
	if value == nil {
		return "–"
	}
	return figure(*value, unit, in)
}

// figure is a value with its unit.
func figure(value float64, unit Unit, in program.Unit) string {
	text := strconv.FormatFloat(math.Round(value*10)/10, 'f', -1, 64)
	switch unit {
	case Share: // small ones to a tenth
		if math.Abs(value) < 0.0995 {
			return strconv.FormatFloat(math.Round(value*1000)/10, 'f', -1, 64) + "\u00a0%"
		}
		return strconv.FormatFloat(math.Round(value*100), 'f', -1, 64) + "\u00a0%"
	case InTime:
		return text + "\u00a0h"
	case InDays:
		return text + "\u00a0" + plural(text, "day")
	case Size:
		return text + map[program.Unit]string{program.Points: "\u00a0pt", program.Days: "\u00a0d", program.Hours: "\u00a0h"}[in]
	}
	return text
}

func plural(text, one string) string {
	if text == "1" {
		return one
	}
	return one + "s"
}

// lower is how a value stands within a sentence: names of the program's own keep their capitals.
func lower(title string) string {
	if title == none {
		return "none"
	}
	return title
}
