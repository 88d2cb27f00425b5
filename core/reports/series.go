package reports

import (
	"slices"

	"jantrel/core/program"
)

// Series is the answer to a chart over time: how it was answered at the end of days, and is now.
type Series struct {
	Days   []program.Date `json:"days"`   // the oldest first; the last one is today, as it is now
	Lines  []Value        `json:"lines"`  // of the split, in the order of the newest day that has it; one without a key where there is none
	Points [][]*float64   `json:"points"` // by line and day; nil: nothing had the measure then
	Totals []*float64     `json:"totals"` // by day
	Counts []int          `json:"counts"` // how many things there were, by day
	Unit   Unit           `json:"unit"`
	In     program.Unit   `json:"in,omitempty"`
	Team   string         `json:"team,omitempty"`
	Mean   bool           `json:"mean,omitempty"`
	Since  program.Date   `json:"since"` // when what is told begins: with the journal, where that began later than was asked for
}

// DaysOf are the days on which a chart over time is asked, the oldest first and without today: since the day from
// which it goes back, or the day on which the journal began where that is later. Of a few weeks they are every day, of
// more the same day of every week, or of every second, third …, so that there are MaxPoints at most with today.
func (c *Chart) DaysOf(today, began program.Date) (days []program.Date, since program.Date) {
	since = today.Add(-c.Back)
	if !c.From.IsZero() {
		since = max(c.From, today.Add(-MaxBack))
	}
	since = max(since, began)
	if c.Form == Figure { // it tells the change alone
		if since < today {
			return []program.Date{since}, since
		}
		return nil, since
	}
	step := 1
	if span := int(today - since); span >= 7*6 {
		step = 7 * (1 + span/(7*MaxPoints))
	}
	for day := today.Add(-step); day >= since; day = day.Add(-step) {
		days = append(days, day)
	}
	slices.Reverse(days)
	return days, since
}

// SeriesOf puts the answers of some days together, the last one being that of now.
func SeriesOf(days []program.Date, since program.Date, tables []Table) Series {
	last := &tables[len(tables)-1]
	s := Series{Days: days, Lines: []Value{}, Points: [][]*float64{}, Unit: last.Unit, Mean: last.Mean, Since: since}
	line := map[string]int{}
	for d := len(tables) - 1; d >= 0; d-- {
		table := &tables[d]
		if s.In == "" {
			s.In, s.Team = table.In, table.Team
		}
		for r, row := range table.Rows {
			at, known := line[row.Key]
			if !known {
				at = len(s.Lines)
				line[row.Key] = at
				s.Lines, s.Points = append(s.Lines, row), append(s.Points, make([]*float64, len(tables)))
			}
			s.Points[at][d] = table.Totals[r]
		}
	}
	for d := range tables {
		s.Totals, s.Counts = append(s.Totals, tables[d].Total), append(s.Counts, tables[d].Count)
	}
	return s
}

// Change is what the total has become since the first day; false where one of both has none.
func (s *Series) Change() (float64, bool) {
	first, last := s.Totals[0], s.Totals[len(s.Totals)-1]
	if first == nil || last == nil {
		return 0, false
	}
	return *last - *first, true
}
