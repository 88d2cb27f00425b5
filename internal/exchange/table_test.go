package exchange_test

import (
	"archive/zip"
	"bytes"
	"fmt"
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
	"jantrel/internal/exchange/exchangetest"
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
		p := sample.Program(seed, sample.Shape{Teams: 3, Iterations: 5, Items: 30, Needs: 25, Wild: true, Rough: true})
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
		strings.Repeat("a,", 500): "200 columns can be read",
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

// workbook is an XLSX file of one sheet, with shared texts.
func workbook(t *testing.T, sheet, shared string) []byte {
	t.Helper()
	file, err := exchangetest.Workbook(sheet, shared)
	require.NoError(t, err)
	return file
}

// A few kilobytes must not become gigabytes.
func TestSheetsMadeToExhaust(t *testing.T) {
	shared := "<si><t>Lamp</t></si>"
	cell := `<c t="s"><v>0</v></c>`
	fine, err := exchange.ReadSheet(workbook(t, "<row>"+cell+"</row><row>"+cell+"</row>", shared))
	require.NoError(t, err)
	require.Equal(t, exchange.Sheet{Headings: []string{"Lamp"}, Rows: [][]string{{"Lamp"}}}, fine)
	long := "<si>" + strings.Repeat("<r><t>"+strings.Repeat("x", 30_000)+"</t></r>", 5) + "</si>"
	for name, c := range map[string]struct {
		file []byte
		says string
	}{
		"the last column of every row":   {workbook(t, strings.Repeat(`<row><c r="XFD1"><v>1</v></c></row>`, 12_000), ""), "column 16384"},
		"a long text again and again":    {workbook(t, strings.Repeat("<row>"+strings.Repeat(cell, 20)+"</row>", 49_000), long), "MB of text"},
		"the same within one row":        {workbook(t, "<row>"+strings.Repeat(cell, 400)+"</row>", long), "column 400"},
		"a row without an end":           {workbook(t, "<row>"+strings.Repeat("<c/>", 1_000_000), ""), "more than 400 cells"},
		"one with another prefix":        {workbook(t, `<x:row xmlns:x="y">`+strings.Repeat("<x:c/>", 1_000_000), ""), "more than 400 cells"},
		"rows hidden in comments":        {workbook(t, "<row>"+strings.Repeat(strings.Repeat("<c/>", 300)+"<!--<row>-->", 100), ""), "comment"},
		"a text larger than a cell":      {workbook(t, "<row>"+cell+"</row>", "<si><t>"+strings.Repeat("x", 1<<20)+"</t></si>"), "more than 160 kB"},
		"nothing but zeros":              {workbook(t, strings.Repeat("0", 80<<20), ""), "more than 64 MB"},
		"too many rows":                  {workbook(t, strings.Repeat("<row>"+cell+"</row>", 60_000), shared), "more than 50000 rows"},
		"a row far below":                {workbook(t, `<row r="1"><c r="A1"><v>1</v></c></row><row r="1000000"><c r="A1000000"><v>1</v></c></row>`, ""), "more than 50000 rows"},
		"nothing but commas":             {bytes.Repeat([]byte(","), 16<<20), "columns"},
		"nothing but commas, in lines":   {bytes.Repeat([]byte(strings.Repeat(",", 90_000)+"x\n"), 170), "column 90001"},
		"nothing but lines":              {bytes.Repeat([]byte("a\n"), 8<<20), "more than 50000 rows"},
		"more cells than can be":         {bytes.Repeat([]byte(strings.Repeat("a,", 199)+"b\n"), 40_000), "more than 1000000 cells"},
		"a quote that is never closed":   {append([]byte("a,b\n\""), bytes.Repeat([]byte("x,"), 40_000)...), "nothing"},
		"a file larger than can be":      {bytes.Repeat([]byte("a,b\n"), 5<<20), "larger than 16 MB"},
		"an archive with too many parts": {manyParts(t), "parts"},
	} {
		used := allocated(func() {
			_, err := exchange.ReadSheet(c.file)
			if c.says != "nothing" && assert.Error(t, err, name) {
				assert.Contains(t, err.Error(), c.says, name)
			}
		})
		assert.Less(t, used>>20, uint64(300), "MB allocated in all for %s", name)
	}
}

func manyParts(t *testing.T) []byte {
	t.Helper()
	var file bytes.Buffer
	archive := zip.NewWriter(&file)
	for i := range 2000 {
		_, err := archive.Create(fmt.Sprint(i))
		require.NoError(t, err)
	}
	require.NoError(t, archive.Close())
	return file.Bytes()
}
