package exchange

import (
	"fmt"
	"io"
	"math"
	"slices"
	"strconv"

	"github.com/xuri/excelize/v2"

	"jantrel/core/calendar"
	"jantrel/core/capacity"
	"jantrel/core/plan"
	"jantrel/core/program"
)

// column is one column of a report.
type column struct {
	title string
	width float64
	total bool // summed up over the rows of a team
}

var (
	teamColumns = []column{{"Team", 22, false}, {"Iteration", 14, false}, {"From", 12, false}, {"To", 12, false}, {"State", 9, false}, {"Unit", 9, false},
		{"Available days", 15, true}, {"Full days", 11, true}, {"Capacity", 11, true}, {"Planned", 11, true}, {"Headroom", 11, true}, {"Committed", 11, true}, {"Completed", 11, true}, {"Capacity from", 20, false}}
	roleColumns = []column{{"Role", 20, false}, {"Team", 22, false}, {"Iteration", 14, false}, {"From", 12, false}, {"To", 12, false}, {"Unit", 9, false},
		{"Can carry at most", 17, false}, {"Planned", 11, false}, {"Headroom", 11, false}}
	personColumns = []column{{"Person", 24, false}, {"Team", 22, false}, {"Iteration", 14, false}, {"From", 12, false}, {"To", 12, false},
		{"Share", 9, false}, {"Working days", 13, true}, {"Holidays", 10, true}, {"Days off", 10, true}, {"Available days", 15, true},
		{"Available hours", 16, true}, {"Unit", 9, false}, {"Part of capacity", 16, true}, {"Assigned", 11, true}}
)

// cell is a value of a report: text, a number, a program.Date, or a formula.
type cell any

// formula is a spreadsheet formula; %d stands for the row. CSV has value instead.
type formula struct {
	text  string
	value float64
}

// empty is a cell that says nothing.
const empty = ""

// teamRows lists capacity and load of the iterations that meet a span; of those that are
// past, what was committed and completed instead of what is planned and left.
func teamRows(p *plan.Plan, span calendar.Span) [][]cell {
	var rows [][]cell
	figures := capacity.Of(p)
	loads := p.Loads().Size
	for t, team := range p.Teams {
		for i, it := range team.Iterations {
			if !it.Span().Meets(span) {
				continue
			}
			f := figures[t][i]
			row := []cell{team.Name, it.Label(), it.Start, it.End, string(it.State), string(team.Unit), round(f.DaysWorked), round(f.DaysFull), round(f.Capacity)}
			if it.Past() {
				row = append(row, empty, empty, number(it.Committed), number(it.Completed))
			} else {
				row = append(row, round(loads[t][i]), formula{"I%[1]d-J%[1]d", round(f.Capacity - loads[t][i])}, empty, empty)
			}
			rows = append(rows, append(row, string(f.Basis)))
		}
	}
	return rows
}

// number is a figure that may be missing.
func number(x *float64) cell {
	if x == nil {
		return empty
	}
	return round(*x)
}

// roleRows lists what those with each role can carry at most of the iterations that meet a
// span, and the sizes placed there for the role.
func roleRows(p *plan.Plan, span calendar.Span) [][]cell {
	var rows [][]cell
	for _, role := range capacity.ByRole(p, capacity.Meeting(span)) {
		for _, part := range role.Parts {
			t := p.TeamAt()[part.Team]
			team := &p.Teams[t]
			it := &team.Iterations[part.At]
			rows = append(rows, []cell{role.Name, team.Name, it.Label(), it.Start, it.End, string(team.Unit), round(part.Capacity), round(part.Load),
				formula{"G%[1]d-H%[1]d", round(part.Capacity - part.Load)}})
		}
	}
	return rows
}

// personRows lists what each member brings to the iterations that meet a span, and
// the sizes assigned to them there.
func personRows(p *plan.Plan, span calendar.Span) [][]cell {
	hours := map[string]float64{}
	for _, x := range p.People {
		hours[x.Key] = x.Hours()
	}
	assigned := map[[3]string]float64{}
	for _, row := range capacity.ByPerson(p, capacity.Meeting(span)) {
		for _, part := range row.Parts {
			assigned[[3]string{row.Key, part.Team, part.Iteration}] = part.Load
		}
	}
	var rows [][]cell
	for t, team := range p.Teams {
		seats := capacity.Seats(p, t)
		for i, it := range team.Iterations {
			if !it.Span().Meets(span) {
				continue
			}
			for _, s := range seats[i] {
				rows = append(rows, []cell{s.Name, team.Name, it.Label(), it.Start, it.End, s.Share, s.Present, s.Holidays, s.Off,
					formula{"F%[1]d*(G%[1]d-H%[1]d-I%[1]d)", round(s.Share * float64(s.Worked))},
					formula{"J%[1]d*" + strconv.FormatFloat(hours[s.Person], 'f', -1, 64), round(s.Share * float64(s.Worked) * hours[s.Person])},
					string(team.Unit), round(s.Part), round(assigned[[3]string{s.Person, team.Key, it.Key}])})
			}
		}
	}
	return rows
}

// view is one of the views of a report.
type view struct {
	name, by string
	columns  []column
	rows     func(*plan.Plan, calendar.Span) [][]cell
}

var views = []view{{"Teams", "team", teamColumns, teamRows}, {"Roles", "role", roleColumns, roleRows}, {"People", "person", personColumns, personRows}}

func round(x float64) float64 { return math.Round(x*100) / 100 }

// WriteCapacityCSV writes planned against available time of the iterations that
// meet a span, by "team", "role" or "person".
func WriteCapacityCSV(w io.Writer, p *plan.Plan, span calendar.Span, by string) error {
	for _, x := range views {
		if x.by == by {
			return writeRows(w, x.columns, x.rows(p, span))
		}
	}
	return fmt.Errorf("a report is by team, role or person, and not by %q", by)
}

// csvText writes a cell for CSV.
func csvText(c cell) string {
	switch x := c.(type) {
	case string:
		return Guard(x)
	case float64:
		return strconv.FormatFloat(x, 'f', -1, 64)
	case formula:
		return strconv.FormatFloat(x.value, 'f', -1, 64)
	}
	return fmt.Sprint(c)
}

// WriteCapacityXLSX writes the same as a workbook with a sheet for each view, and a chart for each team.
func WriteCapacityXLSX(w io.Writer, p *plan.Plan, span calendar.Span) error {
	var all []sheet
	for _, x := range views {
		all = append(all, sheet{x.name, x.columns, x.rows(p, span)})
	}
	return writeBookWith(w, func(book *excelize.File) error {
		return chartsOf(book, "Charts", all[0], "Iteration", "Capacity", "Planned")
	}, all...)
}

func writeSheet(book *excelize.File, s sheet) error {
	columns, rows := s.columns, s.rows
	head, err := book.NewStyle(&excelize.Style{Font: &excelize.Font{Bold: true}, Border: []excelize.Border{{Type: "bottom", Style: 1, Color: "808080"}}})
	if err != nil {
		return err
	}
	bold, err := book.NewStyle(&excelize.Style{Font: &excelize.Font{Bold: true}, Border: []excelize.Border{{Type: "top", Style: 1, Color: "808080"}}})
	if err != nil {
		return err
	}
	date := "yyyy-mm-dd"
	dated, err := book.NewStyle(&excelize.Style{CustomNumFmt: &date})
	if err != nil {
		return err
	}
	stream, err := book.NewStreamWriter(s.name)
	if err != nil {
		return err
	}
	titles := make([]any, len(columns))
	for i, c := range columns {
		if err := stream.SetColWidth(i+1, i+1, c.width); err != nil {
			return err
		}
		titles[i] = excelize.Cell{StyleID: head, Value: c.title}
	}
	if err := stream.SetPanes(&excelize.Panes{Freeze: true, YSplit: 1, TopLeftCell: "A2", ActivePane: "bottomLeft"}); err != nil {
		return err
	}
	if err := stream.SetRow("A1", titles); err != nil {
		return err
	}
	for r, row := range rows {
		values := make([]any, len(row))
		for i, c := range row {
			switch x := c.(type) {
			case program.Date:
				values[i] = excelize.Cell{StyleID: dated, Value: x.Time()}
			case formula:
				values[i] = excelize.Cell{Formula: fmt.Sprintf(x.text, r+2), Value: x.value}
			default:
				values[i] = c
			}
		}
		if err := stream.SetRow(fmt.Sprintf("A%d", r+2), values); err != nil {
			return err
		}
	}
	if len(rows) > 0 && slices.ContainsFunc(columns, func(c column) bool { return c.total }) {
		if err := stream.SetRow(fmt.Sprintf("A%d", len(rows)+2), totals(columns, rows, bold)); err != nil {
			return err
		}
	}
	return stream.Flush()
}

// totals is the row of sums. Sizes of different teams are never added up: those
// sums are left out where the rows are of more than one team.
func totals(columns []column, rows [][]cell, style int) []any {
	teams := map[cell]bool{}
	for _, row := range rows {
		for i, c := range columns {
			if c.title == "Team" {
				teams[row[i]] = true
			}
		}
	}
	inUnit := map[string]bool{"Capacity": true, "Planned": true, "Headroom": true, "Committed": true, "Completed": true, "Part of capacity": true, "Assigned": true}
	values := make([]any, len(columns))
	for i, c := range columns {
		name, _ := excelize.ColumnNumberToName(i + 1)
		switch {
		case i == 0:
			values[i] = excelize.Cell{StyleID: style, Value: "Total"}
		case c.total && (!inUnit[c.title] || len(teams) == 1):
			values[i] = excelize.Cell{StyleID: style, Formula: fmt.Sprintf("SUM(%s2:%s%d)", name, name, len(rows)+1)}
		default:
			values[i] = excelize.Cell{StyleID: style}
		}
	}
	return values
}
