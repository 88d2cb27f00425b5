package exchange_test

import (
	"archive/zip"
	"bytes"
	"fmt"
	"io"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"github.com/xuri/excelize/v2"

	"jantrel/core/calendar"
	"jantrel/core/hours"
	"jantrel/core/plan"
	"jantrel/core/sample"
	"jantrel/internal/demo"
	"jantrel/internal/exchange"
)

// Each chart of a workbook is of the rows of one team, all of them, and of no other.
func TestChartsAreOfTheirTeamsRows(t *testing.T) {
	p := plan.Of(demo.Program(sample.Today))
	span := calendar.Span{Start: sample.Today.Add(-60), End: sample.Today.Add(60)}
	for name, x := range map[string]struct {
		sheet, column, title string
		write                func(io.Writer) error
	}{
		"plan":     {"Overview", "H", "Load", func(w io.Writer) error { return exchange.WritePlan(w, p, nil) }},
		"capacity": {"Teams", "I", "Capacity", func(w io.Writer) error { return exchange.WriteCapacityXLSX(w, p, span) }},
		"hours":    {"By team", "C", "Hours of capacity", func(w io.Writer) error { return exchange.WriteHoursXLSX(w, p, hours.Asked{Span: span}) }},
	} {
		var out bytes.Buffer
		require.NoError(t, x.write(&out), name)
		book, err := excelize.OpenReader(bytes.NewReader(out.Bytes()))
		require.NoError(t, err)
		rows, err := book.GetRows(x.sheet)
		require.NoError(t, err)
		var column int
		for i, title := range rows[0] {
			if title == x.title {
				column = i
			}
		}
		letter, err := excelize.ColumnNumberToName(column + 1)
		require.NoError(t, err)
		assert.Equal(t, x.column, letter)
		first := map[string]int{}
		last := map[string]int{}
		for i, row := range rows[1:] {
			if len(row) == 0 || row[0] == "" || row[0] == "Total" {
				continue
			}
			if first[row[0]] == 0 {
				first[row[0]] = i + 2
			}
			last[row[0]] = i + 2
		}
		archive, err := zip.NewReader(bytes.NewReader(out.Bytes()), int64(out.Len()))
		require.NoError(t, err)
		charts := 0
		for _, part := range archive.File {
			if !strings.HasPrefix(part.Name, "xl/charts/chart") {
				continue
			}
			charts++
			in, err := part.Open()
			require.NoError(t, err)
			text, err := io.ReadAll(in)
			require.NoError(t, err)
			found := false
			for team := range first {
				if strings.Contains(string(text), ">"+strings.ReplaceAll(team, "&", "&amp;")) || strings.Contains(string(text), strings.ReplaceAll(strings.ReplaceAll(team, "&", "&amp;"), "'", "&#39;")) {
					found = found || strings.Contains(string(text), fmt.Sprintf("!$%s$%d:$%s$%d", letter, first[team], letter, last[team]))
				}
			}
			assert.True(t, found, "%s: %s", name, part.Name)
		}
		assert.Equal(t, len(first), charts, name)
	}
}
