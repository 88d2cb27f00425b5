package exchange

import (
	"fmt"
	"io"
	"math"
	"slices"
	"strings"

	"jantrel/core/forecast"
	"jantrel/core/program"
	"jantrel/core/scenario"
)

// WriteComparison writes plans side by side, each under its name: as XLSX a sheet for each part, as CSV one table,
// as Markdown a heading and a table for each part.
func WriteComparison(w io.Writer, format string, names []string, first program.Program, c scenario.Comparison) error {
	sheets := comparisonSheets(names, first, c)
	switch format {
	case "csv":
		columns := append([]column{{"Part", 0, false}, {"What", 0, false}, {"Of", 0, false}}, planColumns(names)...)
		var rows [][]cell
		for _, s := range sheets {
			for _, row := range s.rows {
				rows = append(rows, append([]cell{s.name}, row...))
			}
		}
		return writeRows(w, columns, rows)
	case "xlsx":
		return writeBook(w, sheets...)
	}
	var text strings.Builder
	fmt.Fprintf(&text, "# %s: plans side by side\n", plain(first.Name))
	for _, s := range sheets {
		if len(s.rows) > 0 {
			markdownTable(&text, s)
		}
	}
	_, err := io.WriteString(w, text.String())
	return err
}

func markdownTable(text *strings.Builder, s sheet) {
	fmt.Fprintf(text, "\n## %s\n\n", s.name)
	for _, c := range s.columns {
		fmt.Fprintf(text, "| %s ", plain(c.title))
	}
	fmt.Fprintf(text, "|\n%s|\n", strings.Repeat("| --- ", len(s.columns)))
	for _, row := range s.rows {
		for _, c := range row {
			fmt.Fprintf(text, "| %s ", strings.ReplaceAll(plain(csvText(c)), "|", "\\|"))
		}
		text.WriteString("|\n")
	}
}

func planColumns(names []string) []column {
	columns := make([]column, len(names))
	for i, name := range names {
		columns[i] = column{name, 24, false}
	}
	return columns
}

// comparisonSheets are the parts of a comparison: what, of which thing, and a column for each plan.
func comparisonSheets(names []string, first program.Program, c scenario.Comparison) []sheet {
	part := func(name, what, of string) sheet {
		return sheet{name: name, columns: append([]column{{what, 24, false}, {of, 34, false}}, planColumns(names)...)}
	}
	team := func(key string) string { return first.Called(program.Ref{Kind: program.KindTeam, Key: key}) }
	row := func(s *sheet, what, of string, each func(i int) cell) {
		cells := []cell{what, of}
		for i := range names {
			cells = append(cells, each(i))
		}
		s.rows = append(s.rows, cells)
	}

	releases := part("Releases", "Release", "Figure")
	for _, r := range c.Releases {
		figure := func(of string, each func(*scenario.ReleaseLanding) cell) {
			row(&releases, r.Name, of, func(i int) cell {
				if r.Lands[i] == nil {
					return empty
				}
				return each(r.Lands[i])
			})
		}
		figure("Due", func(l *scenario.ReleaseLanding) cell { return l.Due })
		figure("Chance on time, %", func(l *scenario.ReleaseLanding) cell { return inPercent(l.Chance) })
		for _, odds := range []int{50, 85} {
			figure(fmt.Sprintf("Lands at %d %%", odds), func(l *scenario.ReleaseLanding) cell { return dateAt(l.Landing, odds) })
		}
		figure("Expected late days", func(l *scenario.ReleaseLanding) cell { return round(l.ExpectedLateDays) })
		figure("Items", func(l *scenario.ReleaseLanding) cell { return float64(l.Items) })
		figure("In", func(l *scenario.ReleaseLanding) cell { return strings.Join(l.In, ", ") })
		figure("Out", func(l *scenario.ReleaseLanding) cell { return strings.Join(l.Out, ", ") })
	}
	row(&releases, "All", "Expected late days", func(i int) cell { return round(c.Late[i]) })
	for _, n := range []struct {
		name string
		of   func(scenario.CountsOf) int
	}{
		{"Over capacity", func(n scenario.CountsOf) int { return n.Over }}, {"Broken needs", func(n scenario.CountsOf) int { return n.Broken }},
		{"Not ready", func(n scenario.CountsOf) int { return n.NotReady }}, {"Unplaced", func(n scenario.CountsOf) int { return n.Unplaced }},
	} {
		row(&releases, "All", n.name, func(i int) cell { return float64(n.of(c.Counts[i])) })
	}

	items := part("Elsewhere", "Item", "Title")
	for _, x := range c.Items {
		row(&items, x.Key, x.Title, func(i int) cell { return standsText(x.Of[i]) })
	}
	loads := part("Load", "Team", "Iteration")
	for _, l := range c.Loads {
		row(&loads, team(l.Team), l.Name, func(i int) cell {
			if l.Of[i] == nil {
				return empty
			}
			text := fmt.Sprintf("%s of %s", figure(l.Of[i].Load), figure(l.Of[i].Capacity))
			if l.Of[i].Over {
				text += ", over"
			}
			return text
		})
	}
	needs := part("Needs", "Item", "Needs")
	for _, n := range c.Needs {
		row(&needs, n.Item, n.Needs, func(i int) cell { return string(n.Of[i]) })
	}
	values := part("Sizes, dates, capacity", "Of", "What")
	for _, v := range c.Values {
		title := v.Field
		if f, ok := program.FieldOf(v.Kind, v.Field); ok {
			title = f.Title
		}
		row(&values, v.Name, title, func(i int) cell {
			if text := string(v.Of[i]); text != "null" {
				return strings.Trim(text, `"`)
			}
			return empty
		})
	}
	return []sheet{releases, items, loads, needs, values}
}

func inPercent(chance *float64) cell {
	if chance == nil {
		return empty
	}
	return math.Round(100 * *chance)
}

// dateAt is the date by which something lands at some odds, where it does.
func dateAt(l forecast.Landing, odds int) cell {
	if i := slices.IndexFunc(l.Dates, func(d forecast.Dated) bool { return d.Odds == odds }); i >= 0 && l.Dates[i].Date != 0 {
		return l.Dates[i].Date
	}
	return empty
}

func standsText(s scenario.Stands) string {
	if s.Stand != scenario.Placed {
		return string(s.Stand)
	}
	switch {
	case s.Later == nil || *s.Later == 0:
		return s.Name
	case *s.Later > 0:
		return fmt.Sprintf("%s, %d days later", s.Name, *s.Later)
	}
	return fmt.Sprintf("%s, %d days sooner", s.Name, -*s.Later)
}
