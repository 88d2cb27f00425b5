// Package reports turns a plan into tables and series that answer one question each: so much of what, divided by
// what. They have no format; pages, files and briefs give them one.
package reports

import (
	"fmt"
	"slices"

	"jantrel/core/program"
)

// Source is what a chart counts.
type Source string

// The sources.
const (
	Items      Source = "items"
	Tasks      Source = "tasks"
	Needs      Source = "needs"
	Risks      Source = "risks"
	Hours      Source = "hours"
	Iterations Source = "iterations"
)

// Form is how a chart is drawn.
type Form string

// The forms.
const (
	Bars    Form = "bars"    // side by side
	Stacked Form = "stacked" // bars, one on the other
	Lines   Form = "lines"
	Areas   Form = "areas"
	Ring    Form = "ring"
	Grid    Form = "table"
	Figure  Form = "figure" // one number, over time with its change
	List    Form = "list"   // what is counted, one by one
)

// Chart is a question: of some things, divided by one or two of their fields, how many or how much there is.
type Chart struct {
	Of      Source         `json:"of"`
	View    string         `json:"view,omitempty"`   // the key of a ready-made or shared view: of what its filter keeps, and Filter
	Mine    bool           `json:"mine,omitempty"`   // the view is one that whoever asks keeps for oneself
	Filter  program.Filter `json:"filter,omitzero"`  // of which items; of other things see Sources
	Team    string         `json:"team,omitempty"`   // of this team alone
	Within  int            `json:"within,omitempty"` // of hours: spent in the last days, so many; of iterations: that meet the next days. 0: all
	Split   []string       `json:"split,omitempty"`  // at most MaxSplits of the source
	Measure string         `json:"measure"`          // one of the source
	Form    Form           `json:"form"`
	Largest bool           `json:"largest,omitempty"` // the largest value first; else in the order of the field
	Back    int            `json:"back,omitempty"`    // over time: since so many days ago, or since From. 0: now
	From    program.Date   `json:"from,omitzero"`
}

// Limits of charts.
const (
	MaxSplits  = 2
	MaxRows    = 60      // values of the first split that are told
	MaxColumns = 24      // values of the second split that are told
	MaxPoints  = 60      // moments of a series
	MaxBack    = 5 * 366 // days that a series goes back
	MaxListed  = 200     // things of a list
)

// OverTime reports whether a chart goes back in time.
func (c *Chart) OverTime() bool { return c.Back > 0 || !c.From.IsZero() }

// Unit is what a measure counts in.
type Unit string

// The units.
const (
	Number Unit = "number"
	Size   Unit = "size"  // of one team
	Share  Unit = "share" // 0 to 1
	InTime Unit = "hours"
	InDays Unit = "days"
)

// Measure is what can be added up, or averaged, over things of a source.
type Measure struct {
	Name  string `json:"name"`
	Title string `json:"title"`
	Unit  Unit   `json:"unit"`
	Mean  bool   `json:"mean,omitempty"` // averaged over those that have one; else added up
}

// Split is what things of a source can be divided by.
type Split struct {
	Name  string `json:"name"`
	Title string `json:"title"`
	Many  bool   `json:"many,omitempty"` // one thing may have several: it counts with each
	Weeks bool   `json:"weeks,omitempty"`
}

// SourceWords are what charts of a source are made of.
type SourceWords struct {
	Name     Source    `json:"name"`
	Title    string    `json:"title"`
	One      string    `json:"one"`
	Many     string    `json:"many"`
	Filter   string    `json:"filter"` // what its filter is asked of
	Splits   []Split   `json:"splits"`
	Measures []Measure `json:"measures"`
}

var number = Measure{"number", "Number", Number, false}

// Vocabulary are the sources with all that charts of them can be made of.
func Vocabulary() []SourceWords {
	all := make([]SourceWords, len(sources))
	for i, s := range sources {
		all[i] = s.words
		for _, d := range s.splits {
			all[i].Splits = append(all[i].Splits, d.Split)
		}
		if s.item {
			all[i].Splits = append(all[i].Splits, itemSplits(s.splits)...)
		}
	}
	return all
}

// measureOf is a measure of a source.
func (s *source) measureOf(name string) (*Measure, bool) {
	i := slices.IndexFunc(s.words.Measures, func(m Measure) bool { return m.Name == name })
	if i < 0 {
		return nil, false
	}
	return &s.words.Measures[i], true
}

// Check says what is wrong with a chart, as far as that hangs on no program.
func (c *Chart) Check() error {
	s := sourceOf(c.Of)
	switch measure, known := s.measureOf(c.Measure); {
	case s.words.Name == "":
		return fmt.Errorf("there is nothing called %q to count", c.Of)
	case !known:
		return fmt.Errorf("%s cannot be measured by %q", s.words.Many, c.Measure)
	case !slices.Contains([]Form{Bars, Stacked, Lines, Areas, Ring, Grid, Figure, List}, c.Form):
		return fmt.Errorf("there is no way to draw called %q", c.Form)
	case len(c.Split) > MaxSplits:
		return fmt.Errorf("a chart divides by %d fields at most", MaxSplits)
	case len(c.Split) == MaxSplits && c.Split[0] == c.Split[1]:
		return fmt.Errorf("both divide by the same: choose another one, or one alone")
	case measure.Mean && slices.Contains([]Form{Stacked, Areas, Ring}, c.Form):
		return fmt.Errorf("averages do not add up to a whole: draw them side by side, as lines or as a table")
	case c.OverTime() && slices.Contains([]Form{Ring, List}, c.Form):
		return fmt.Errorf("over time it is drawn as lines, areas, bars, a table or a figure")
	case c.OverTime() && len(c.Split) > 1:
		return fmt.Errorf("over time a chart divides by one field: take away the other")
	case c.Back < 0 || c.Back > MaxBack:
		return fmt.Errorf("a chart goes back %d days at most", MaxBack)
	case c.Within < 0 || c.Within > MaxBack:
		return fmt.Errorf("a chart is about %d days at most", MaxBack)
	}
	for _, name := range c.Split {
		if !s.divides(name) {
			return fmt.Errorf("%s cannot be divided by %q", s.words.Many, name)
		}
	}
	return nil
}
