package hours_test

import (
	"fmt"

	"jantrel/core/calendar"
	"jantrel/core/hours"
	"jantrel/core/plan"
)

func ExampleWeekOf() {
	week := hours.WeekOf(plan.Of(quay()), "ann", monday)
	fmt.Printf("%g of %g h: %g on %s, %s\n", week.Spent, week.Capacity, week.Rows[0].Spent, week.Rows[0].Item, week.Rows[0].Task)
	// Output: 4 of 12 h: 4 on A, Wire
}

func ExampleReportOf() {
	r := hours.ReportOf(plan.Of(quay()), hours.Asked{Span: calendar.Span{Start: monday, End: monday.Add(13)}, By: hours.ByTeam})
	for _, l := range r.Lines {
		fmt.Printf("%s: %g h of capacity, %.1f planned, %g spent, %g left\n", l.Title, l.Capacity, l.Planned, l.Spent, l.Left)
	}
	// Output: Quay: 95 h of capacity, 13.5 planned, 11 spent, 8.5 left
}
