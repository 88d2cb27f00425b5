package exchange

import (
	"encoding/csv"
	"io"
	"math"
	"strconv"

	"jantrel/core/program"
	"jantrel/core/reports"
)

// WriteChart writes the table behind a chart as CSV, its figures to a thousandth.
func WriteChart(w io.Writer, c *reports.Chart, d *reports.Drawn) error {
	thousandths := func(value *float64, _ reports.Unit, _ program.Unit) string {
		if value == nil {
			return ""
		}
		return strconv.FormatFloat(math.Round(*value*1000)/1000, 'f', -1, 64)
	}
	head, rows, figures := chartTable(c, d, thousandths)
	if head == nil && d.Table != nil { // it is not divided
		head, rows, figures = []string{"All"}, [][]string{{thousandths(d.Table.Total, "", "")}}, []bool{true}
	}
	out := csv.NewWriter(w)
	if err := out.Write(guarded(head, nil)); err != nil {
		return err
	}
	for _, row := range rows {
		if err := out.Write(guarded(row, figures)); err != nil {
			return err
		}
	}
	out.Flush()
	return out.Error()
}

// guarded is a row in which no text is a formula.
func guarded(row []string, figures []bool) []string {
	for i := range row {
		if i >= len(figures) || !figures[i] {
			row[i] = Guard(row[i])
		}
	}
	return row
}

// chartTable is the table behind a chart, with its figures in words.
func chartTable(c *reports.Chart, d *reports.Drawn, words func(*float64, reports.Unit, program.Unit) string) (head []string, rows [][]string, figures []bool) {
	switch {
	case d.Series != nil:
		s := d.Series
		head, figures = []string{"Day"}, []bool{false}
		lines := s.Lines
		if len(c.Split) == 0 {
			lines = nil
		}
		for _, l := range lines {
			head, figures = append(head, l.Title), append(figures, true)
		}
		head, figures = append(head, "All"), append(figures, true)
		for i, day := range s.Days {
			row := []string{day.String()}
			for n := range lines {
				row = append(row, words(s.Points[n][i], s.Unit, s.In))
			}
			rows = append(rows, append(row, words(s.Totals[i], s.Unit, s.In)))
		}
	case d.Table != nil && c.Form == reports.List:
		head, figures = []string{"What"}, []bool{false}
		for _, t := range d.Table.Things {
			title := t.Title
			if t.Kind == "item" {
				title += " (" + t.Key + ")"
			}
			rows = append(rows, []string{title})
		}
	case d.Table != nil && len(c.Split) > 0:
		t := d.Table
		head, figures = []string{""}, []bool{false}
		if len(c.Split) > 1 {
			for _, column := range t.Columns {
				head, figures = append(head, column.Title), append(figures, true)
			}
		}
		head, figures = append(head, "All"), append(figures, true)
		for r := range t.Rows {
			row := []string{t.Rows[r].Title}
			if len(c.Split) > 1 {
				for n := range t.Columns {
					row = append(row, words(t.Cells[r][n], t.Unit, t.In))
				}
			}
			rows = append(rows, append(row, words(t.Totals[r], t.Unit, t.In)))
		}
	}
	return head, rows, figures
}
