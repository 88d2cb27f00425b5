package exchange_test

import (
	"bytes"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"github.com/xuri/excelize/v2"

	"jantrel/core/backlog"
	"jantrel/core/intake"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/sample"
	"jantrel/internal/exchange"
)

func enterable() []string {
	var fields []string
	for _, f := range backlog.Fields {
		if f.Enter {
			fields = append(fields, f.Name)
		}
	}
	return fields
}

// An exported list, read in again, changes nothing: in either format, whatever the
// program and whatever stands in its texts.
func TestImportingAnExportChangesNothing(t *testing.T) {
	for seed := range uint64(12) {
		p := sample.Program(seed, sample.Shape{Teams: 3, Iterations: 5, Items: 30, Needs: 25, Wild: true})
		for i, title := range []string{"=1+1", "'=quoted", "-", " spaced ", "a,b;c\td", "two\nlines", `"said"`, "''+x", "naïve Ünïcode"} {
			p.Items[i].Title = title
		}
		p.Items[2].Tags = []string{"one, two", "@home"}
		x := backlog.NewIndex(plan.Of(p), backlog.Options{Today: sample.Today, Clock: sample.Today})
		l, err := x.List(program.View{Group: backlog.Tree}, "")
		require.NoError(t, err)
		for _, format := range []string{"csv", "xlsx"} {
			var file bytes.Buffer
			require.NoError(t, exchange.WriteList(&file, format, x, l.Rows, append([]string{"rank", "readiness", "feature"}, enterable()...)))
			sheet, err := exchange.ReadSheet(file.Bytes())
			require.NoError(t, err)
			require.Len(t, sheet.Rows, len(p.Items))
			table := intake.Table{Columns: intake.Guess(sheet.Headings), Rows: sheet.Rows}
			assert.Equal(t, append([]string{"", "", ""}, enterable()...), table.Columns)
			r := intake.Read(x, table, intake.Options{Today: sample.Today})
			require.Empty(t, r.Problems, format)
			require.Empty(t, r.Changes, "%s, seed %d", format, seed)
		}
	}
}

func TestSheetsAsPeopleSaveThem(t *testing.T) {
	want := exchange.Sheet{Headings: []string{"Key", "Title"}, Rows: [][]string{{"A-1", "Lamp"}, {"A-2", "Fähre"}}}
	for name, text := range map[string]string{
		"commas":       "Key,Title\r\nA-1,Lamp\r\nA-2,Fähre\r\n\r\n,\r\n",
		"semicolons":   "\xef\xbb\xbfKey;Title\nA-1;Lamp\nA-2;Fähre",
		"tabs":         "\n\nKey\tTitle\nA-1\tLamp\nA-2\tFähre\n",
		"western":      "Key,Title\nA-1,Lamp\nA-2,F\xe4hre\n",
		"quoted":       "\"Key\",\"Title\"\n\"A-1\",Lamp\nA-2,\"Fähre\"",
		"wider bodies": "Key,Title\nA-1,Lamp\nA-2,Fähre\n",
	} {
		got, err := exchange.ReadSheet([]byte(text))
		require.NoError(t, err, name)
		assert.Equal(t, want, got, name)
	}
	got, err := exchange.ReadSheet([]byte("Key\nA-1,more"))
	require.NoError(t, err)
	assert.Equal(t, []string{"Key", ""}, got.Headings, "columns without a heading are there too")

	book := excelize.NewFile()
	require.NoError(t, book.SetSheetRow("Sheet1", "A1", &[]any{"Key", "Due", "Size"}))
	require.NoError(t, book.SetSheetRow("Sheet1", "A2", &[]any{"A-1", sample.Today.Time(), 2.5}))
	var file bytes.Buffer
	require.NoError(t, book.Write(&file))
	got, err = exchange.ReadSheet(file.Bytes())
	require.NoError(t, err)
	assert.Equal(t, [][]string{{"A-1", "46448", "2.5"}}, got.Rows, "dates are read as the days that spreadsheets count, however they are shown")
}

func TestWhatIsNoSheet(t *testing.T) {
	for text, want := range map[string]string{
		"":                        "no rows",
		"\n ,\n":                  "no rows",
		"PK\x03\x04broken":        "cannot be read as XLSX",
		"a\x00b":                  "neither a CSV nor an XLSX file",
		strings.Repeat(",", 500):  "no rows",
		strings.Repeat("a,", 500): "columns, more than",
	} {
		_, err := exchange.ReadSheet([]byte(text))
		assert.ErrorContains(t, err, want)
	}
	_, err := exchange.ReadSheet([]byte(strings.Repeat("a\n", exchange.MaxRows+2)))
	assert.ErrorContains(t, err, "more than 50000 rows")
}

func TestAListThatACellCannotHold(t *testing.T) {
	p := program.Program{Items: []program.Item{{Key: "A", Kind: program.Story, Description: strings.Repeat("x", 40_000)}}}
	x := backlog.NewIndex(plan.Of(p), backlog.Options{})
	var file bytes.Buffer
	assert.ErrorContains(t, exchange.WriteList(&file, "xlsx", x, []string{"A"}, []string{"key", "description"}), "longer than a cell")
	assert.NoError(t, exchange.WriteList(&file, "csv", x, []string{"A", "gone"}, []string{"key", "description"}))
	assert.ErrorContains(t, exchange.WriteList(&file, "csv", x, nil, []string{"colour"}), "no field")
}

// Whatever the bytes: an error in words, or a sheet whose rows can be taken in.
func FuzzReadSheet(f *testing.F) {
	f.Add([]byte("Key;Title\nA;\"b\nc\""))
	book := excelize.NewFile()
	_ = book.SetSheetRow("Sheet1", "A1", &[]any{"Key", "Title", 3})
	var file bytes.Buffer
	_ = book.Write(&file)
	f.Add(file.Bytes())
	var nothing program.Program
	x := backlog.NewIndex(plan.Of(nothing), backlog.Options{})
	f.Fuzz(func(t *testing.T, data []byte) {
		sheet, err := exchange.ReadSheet(data)
		if err != nil {
			require.NotEmpty(t, err.Error())
			return
		}
		for _, row := range sheet.Rows {
			require.LessOrEqual(t, len(row), len(sheet.Headings))
		}
		intake.Read(x, intake.Table{Columns: intake.Guess(sheet.Headings), Rows: sheet.Rows}, intake.Options{})
	})
}

func BenchmarkReadSheet20000Rows(b *testing.B) {
	p := sample.Program(1, sample.Shape{Teams: 10, Iterations: 10, Items: 17_800, Needs: 5000})
	x := backlog.NewIndex(plan.Of(p), backlog.Options{})
	l, _ := x.List(program.View{Group: backlog.Tree}, "")
	for _, format := range []string{"csv", "xlsx"} {
		var file bytes.Buffer
		if err := exchange.WriteList(&file, format, x, l.Rows, enterable()); err != nil {
			b.Fatal(err)
		}
		b.Run(format, func(b *testing.B) {
			for b.Loop() {
				if _, err := exchange.ReadSheet(file.Bytes()); err != nil {
					b.Fatal(err)
				}
			}
		})
	}
}
