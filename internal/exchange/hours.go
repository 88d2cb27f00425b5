package exchange

import (
	"io"
	"slices"
	"strings"

	"github.com/xuri/excelize/v2"

	"jantrel/core/hours"
	"jantrel/core/plan"
	"jantrel/core/program"
)

// WriteHoursCSV writes planned against spent hours: a row for each of what they are put together by
// and each week.
func WriteHoursCSV(w io.Writer, p *plan.Plan, asked hours.Asked) error {
	s := hoursSheet(hours.ReportOf(p, asked))
	return writeRows(w, s.columns, s.rows)
}

// WriteHoursXLSX writes the same as a workbook with a sheet for each way to put hours together, one of
// sizes against hours, one of the time entries, and a chart for each team.
func WriteHoursXLSX(w io.Writer, p *plan.Plan, asked hours.Asked) error {
	var sheets []sheet
	var report hours.Report
	for _, asked.By = range hours.Splits {
		report = hours.ReportOf(p, asked)
		sheets = append(sheets, hoursSheet(report))
	}
	byTeam := sheets[slices.Index(hours.Splits, hours.ByTeam)]
	return writeBookWith(w, func(book *excelize.File) error {
		return chartsOf(book, "Charts", byTeam, "Week from", "Hours of capacity", "Hours planned", "Hours spent")
	}, append(sheets, sizedSheet(p, report), entriesSheet(p, asked))...)
}

func hoursSheet(r hours.Report) sheet {
	title := strings.ToUpper(string(r.By[:1])) + string(r.By[1:])
	s := sheet{name: "By " + string(r.By), columns: []column{{title, 30, false}}}
	if r.By == hours.ByItem {
		s.columns = append(s.columns, column{"Title", 40, false})
	}
	s.columns = append(s.columns, column{"Week from", 12, false})
	capacity := r.By == hours.ByPerson || r.By == hours.ByTeam
	if capacity {
		s.columns = append(s.columns, column{"Hours of capacity", 17, true})
	}
	s.columns = append(s.columns, column{"Hours planned", 15, true}, column{"Hours spent", 13, true})
	for _, l := range r.Lines {
		for i, week := range l.Weeks {
			if week == (hours.Cell{}) {
				continue
			}
			row := []cell{lineName(r.By, l)}
			if r.By == hours.ByItem {
				row = append(row, l.Title)
			}
			row = append(row, r.Weeks[i])
			if capacity {
				row = append(row, round(week.Capacity))
			}
			s.rows = append(s.rows, append(row, round(week.Planned), round(week.Spent)))
		}
	}
	return s
}

// lineName is what a line of a report is called.
func lineName(by hours.By, l hours.Line) string {
	switch {
	case l.Key == "" && by == hours.ByPerson:
		return "nobody"
	case l.Key == "":
		return "no " + string(by)
	case by == hours.ByItem:
		return l.Key
	}
	return l.Title
}

// sizedSheet sets sizes against hours. A size has its unit beside it.
func sizedSheet(p *plan.Plan, r hours.Report) sheet {
	s := sheet{name: "Sizes", columns: []column{{"Item", 12, false}, {"Title", 40, false}, {"Team", 22, false}, {"Size", 9, false}, {"Unit", 9, false}, {"Hours spent", 13, true}, {"Hours a unit", 13, false}}}
	tree := p.Tree()
	for _, of := range r.Sized {
		team := p.Teams[p.TeamAt()[of.Team]].Name
		for _, x := range of.Items {
			s.rows = append(s.rows, []cell{x.Item, p.Items[tree.Index[x.Item]].Title, team, round(x.Size), string(of.Unit), round(x.Hours), formula{"F%[1]d/D%[1]d", round(x.Hours / x.Size)}})
		}
	}
	return s
}

func entriesSheet(p *plan.Plan, asked hours.Asked) sheet {
	s := sheet{name: "Entries", columns: []column{{"Date", 12, false}, {"Person", 24, false}, {"Item", 12, false}, {"Title", 40, false}, {"Task", 30, false}, {"Activity", 18, false}, {"Hours spent", 13, true}, {"Note", 40, false}}}
	tree := p.Tree()
	for _, e := range hours.Entries(p, asked) {
		title := ""
		if i, ok := tree.Index[e.Item]; ok {
			title = p.Items[i].Title
		}
		who := "somebody who was removed"
		if e.Person != "" {
			who = p.Called(program.Ref{Kind: program.KindPerson, Key: e.Person})
		}
		s.rows = append(s.rows, []cell{e.Date, who, e.Item, title, e.Task, e.Activity, e.Hours, e.Note})
	}
	return s
}
