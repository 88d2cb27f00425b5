package exchange

import (
	"fmt"
	"slices"

	"github.com/xuri/excelize/v2"
)

// mostCharts is how many charts a workbook has at most.
const mostCharts = 100

// chartsOf adds a sheet of charts to a workbook: for each run of rows of a sheet that say the same in its first column, the
// figures of some columns beside one another, along another column. Where the sheet has units, a chart says in which it is.
func chartsOf(book *excelize.File, name string, of sheet, along string, figures ...string) error {
	at := func(title string) int {
		return slices.IndexFunc(of.columns, func(c column) bool { return c.title == title })
	}
	place := func(title string, first, last int) string {
		letter, _ := excelize.ColumnNumberToName(at(title) + 1) // there are far fewer columns than letters for them
		return fmt.Sprintf("'%[1]s'!$%[2]s$%[3]d:$%[2]s$%[4]d", of.name, letter, first, last)
	}
	if len(of.rows) == 0 {
		return nil
	}
	if _, err := book.NewSheet(name); err != nil {
		return err
	}
	drawn := 0
	for from := 0; from < len(of.rows) && drawn < mostCharts; drawn++ {
		to := from
		for to < len(of.rows) && of.rows[to][0] == of.rows[from][0] {
			to++
		}
		title := fmt.Sprint(of.rows[from][0])
		if unit := at("Unit"); unit >= 0 {
			title += fmt.Sprintf(", %v", of.rows[from][unit])
		}
		var series []excelize.ChartSeries
		for _, figure := range figures {
			series = append(series, excelize.ChartSeries{Name: figure, Categories: place(along, from+2, to+1), Values: place(figure, from+2, to+1)})
		}
		err := book.AddChart(name, fmt.Sprintf("A%d", 1+17*drawn), &excelize.Chart{Type: excelize.Col, Series: series,
			Title: excelize.ChartTitle{Paragraph: []excelize.RichTextRun{{Text: title}}}, Dimension: excelize.ChartDimension{Width: 900, Height: 300}})
		if err != nil {
			return err
		}
		from = to
	}
	return nil
}
