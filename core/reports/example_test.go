package reports_test

import (
	"fmt"

	"jantrel/core/calendar"
	"jantrel/core/program"
	"jantrel/core/reports"
)

func quay() program.Program {
	size := func(n float64) *float64 { return &n }
	return program.Program{
		Today: calendar.MustParse("2027-03-02"),
		Teams: []program.Team{{Key: "Q", Name: "Quay", Unit: program.Points}, {Key: "F", Name: "Field", Unit: program.Days}},
		Items: []program.Item{
			{Key: "Q-1", Kind: program.Story, Team: "Q", Size: size(5), State: program.Done}, {Key: "Q-2", Kind: program.Defect, Team: "Q", Size: size(3), State: program.Doing},
			{Key: "Q-3", Kind: program.Story, Team: "Q", Size: size(2)}, {Key: "F-1", Kind: program.Story, Team: "F", Size: size(4)},
		},
	}.Normal()
}

// How many items each team has in each state; and sizes, of one team alone.
func ExampleOf() {
	k := known(quay())
	c := reports.Chart{Of: reports.Items, Split: []string{"team", "state"}, Measure: "number", Form: reports.Stacked}
	table, _ := reports.Of(k, &c)
	for r, row := range table.Rows {
		for n, column := range table.Columns {
			if table.Counts[r][n] > 0 {
				fmt.Printf("%s, %s: %g\n", row.Title, column.Title, *table.Cells[r][n])
			}
		}
	}
	fmt.Println(c.Sentence(&table))
	c = reports.Chart{Of: reports.Items, Split: []string{"kind"}, Measure: "size", Form: reports.Bars}
	_, err := reports.Of(k, &c)
	fmt.Println(err)
	c.Team = "Q"
	table, _ = reports.Of(k, &c)
	fmt.Println(c.Sentence(&table))
	// Output:
	// Quay, to do: 1
	// Quay, doing: 1
	// Quay, done: 1
	// Field, to do: 1
	// 4 items. Team: Quay 3, Field 1.
	// sizes of different teams are never added up: choose one team, or a share
	// Size: 10 pt of 3 items. Kind: story 7 pt, defect 3 pt.
}
