package exchange

import (
	"bytes"
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"strconv"
	"strings"
	"unicode/utf8"

	"github.com/xuri/excelize/v2"
	"golang.org/x/text/encoding/charmap"

	"jantrel/core/backlog"
	"jantrel/core/program"
)

// Limits of a table that is read: they stop files that would take gigabytes of memory, and
// leave room for twenty fields of 50,000 items.
const (
	MaxSheet   = 16 << 20 // bytes of the file
	MaxRows    = 50_000
	maxColumns = 200
	maxCells   = 1_000_000 // with something in them or to their right
	maxText    = 32 << 20  // bytes in all cells
)

// rowsOf gathers the rows of a table, up to the limits.
type rowsOf struct {
	rows        [][]string
	cells, text int
}

// add takes a row in; empty cells at its end are none.
func (r *rowsOf) add(row []string) error {
	for len(row) > 0 && row[len(row)-1] == "" {
		row = row[:len(row)-1]
	}
	at := len(r.rows) + 1
	if len(row) > maxColumns {
		return fmt.Errorf("row %d has something in column %d; %d columns can be read", at, len(row), maxColumns)
	}
	if at > MaxRows+1 {
		return fmt.Errorf("the file has more than %d rows; split it", MaxRows)
	}
	if r.cells += len(row); r.cells > maxCells {
		return fmt.Errorf("the first %d rows have more than %d cells; leave columns out, or split the file", at, maxCells)
	}
	kept := make([]string, len(row)) // no longer than it is, and of its own
	for i, text := range row {
		if r.text += len(text); r.text > maxText {
			return fmt.Errorf("the first %d rows hold more than %d MB of text; leave columns out, or split the file", at, maxText>>20)
		}
		kept[i] = strings.Clone(text)
	}
	r.rows = append(r.rows, kept)
	return nil
}

// Sheet is a table as a file has it: the first row are headings.
type Sheet struct {
	Headings []string   `json:"headings"`
	Rows     [][]string `json:"rows"`
}

// ReadSheet reads a CSV file (set off by commas, semicolons or tabs) or the first
// sheet of an XLSX file. Which one it is its first bytes say. Rows without any text
// at the end are dropped.
func ReadSheet(data []byte) (Sheet, error) {
	if len(data) > MaxSheet {
		return Sheet{}, fmt.Errorf("the file is larger than %d MB; leave columns out, or split it", MaxSheet>>20)
	}
	read := readCSV
	if bytes.HasPrefix(data, []byte("PK\x03\x04")) {
		read = readXLSX
	}
	rows, err := read(data)
	if err != nil {
		return Sheet{}, err
	}
	for len(rows) > 0 && blank(rows[len(rows)-1]) {
		rows = rows[:len(rows)-1]
	}
	for len(rows) > 0 && blank(rows[0]) {
		rows = rows[1:]
	}
	if len(rows) == 0 {
		return Sheet{}, errors.New("the file has no rows; its first row should hold the headings of the columns")
	}
	s := Sheet{Headings: rows[0], Rows: rows[1:]}
	for _, row := range rows {
		for len(s.Headings) < len(row) {
			s.Headings = append(s.Headings, "")
		}
	}
	if s.Rows == nil {
		s.Rows = [][]string{}
	}
	return s, nil
}

func blank(row []string) bool {
	return strings.TrimSpace(strings.Join(row, "")) == ""
}

// readCSV reads text in UTF-8, or else in the code page that spreadsheets of western
// Europe write.
func readCSV(data []byte) ([][]string, error) {
	data = bytes.TrimPrefix(data, []byte("\xef\xbb\xbf"))
	if !utf8.Valid(data) {
		decoded, err := charmap.Windows1252.NewDecoder().Bytes(data)
		if err != nil {
			return nil, fmt.Errorf("the file is not text in UTF-8: %w", err)
		}
		data = decoded
	}
	if bytes.ContainsRune(data, 0) {
		return nil, errors.New("this is neither a CSV nor an XLSX file; save the sheet as one of these")
	}
	reader := csv.NewReader(bytes.NewReader(data))
	reader.Comma = separator(data)
	reader.FieldsPerRecord, reader.LazyQuotes, reader.ReuseRecord = -1, true, true
	if err := tooMany(data, byte(reader.Comma)); err != nil {
		return nil, err
	}
	var rows rowsOf
	for {
		row, err := reader.Read()
		if err == io.EOF {
			return rows.rows, nil
		}
		if err != nil {
			return nil, fmt.Errorf("the file cannot be read as CSV: %w", err)
		}
		for i, text := range row {
			row[i] = unguard(text)
		}
		if err := rows.add(row); err != nil {
			return nil, err
		}
	}
}

// tooMany refuses a line with more separators than all the cells that may be, before
// anything is made of it: quoted text has commas too, but never so many.
func tooMany(data []byte, separator byte) error {
	const most = 100_000
	for line := range bytes.Lines(data) {
		if bytes.Count(line, []byte{separator}) > most {
			return fmt.Errorf("a line of the file has more than %d columns; %d can be read", most, maxColumns)
		}
	}
	return nil
}

// separator is what stands most often between the headings.
func separator(data []byte) rune {
	line, _, _ := strings.Cut(strings.TrimLeft(string(data[:min(len(data), 100_000)]), "\r\n"), "\n")
	best, most := ',', 0
	for _, c := range ",;\t" {
		if n := strings.Count(line, string(c)); n > most {
			best, most = c, n
		}
	}
	return best
}

func readXLSX(data []byte) ([][]string, error) {
	if err := checkWorkbook(data); err != nil {
		return nil, err
	}
	book, err := excelize.OpenReader(bytes.NewReader(data), excelize.Options{UnzipSizeLimit: maxUnzipped, UnzipXMLSizeLimit: maxInMemory, RawCellValue: true})
	if err != nil {
		return nil, fmt.Errorf("the file cannot be read as XLSX: %w", err)
	}
	defer func() { _ = book.Close() }()
	sheets := book.GetSheetList()
	if len(sheets) == 0 {
		return nil, nil
	}
	lines, err := book.Rows(sheets[0])
	if err != nil {
		return nil, fmt.Errorf("the sheet %q cannot be read: %w", sheets[0], err)
	}
	defer func() { _ = lines.Close() }()
	var rows rowsOf
	for lines.Next() {
		row, err := lines.Columns(excelize.Options{RawCellValue: true})
		if err != nil {
			return nil, fmt.Errorf("row %d cannot be read: %w", len(rows.rows)+1, err)
		}
		if err := rows.add(row); err != nil {
			return nil, err
		}
	}
	return rows.rows, lines.Error()
}

// Guard keeps spreadsheets from taking a text of a CSV file for a formula: an
// apostrophe goes before it. unguard takes it away again.
func Guard(text string) string {
	if rest := strings.TrimLeft(text, "'"); rest != "" && strings.ContainsRune("=+-@\t\r", rune(rest[0])) {
		return "'" + text
	}
	return text
}

func unguard(text string) string {
	if cut, ok := strings.CutPrefix(text, "'"); ok && Guard(cut) != cut {
		return cut
	}
	return text
}

// WriteList writes the items of a list, in order, with some of their fields, as
// "csv" or "xlsx". Reading it in again changes nothing.
func WriteList(w io.Writer, format string, x *backlog.Index, keys, fields []string) error {
	chosen := make([]*backlog.Field, 0, len(fields))
	for _, name := range fields {
		field, ok := backlog.FieldOf(name)
		if !ok {
			return fmt.Errorf("there is no field %q", name)
		}
		chosen = append(chosen, field)
	}
	rows := make([][]cell, 0, len(keys))
	for _, key := range keys {
		i, ok := x.Tree().Index[key]
		if !ok {
			continue
		}
		row := make([]cell, len(chosen))
		for c, field := range chosen {
			row[c] = listCell(field, field.Value(x, i))
		}
		rows = append(rows, row)
	}
	columns := make([]column, len(chosen))
	for c, field := range chosen {
		columns[c] = column{field.Title, listWidths[field.Sort], false}
	}
	if format == "csv" {
		return writeRows(w, columns, rows)
	}
	return writeBook(w, sheet{"Backlog", columns, rows})
}

var listWidths = map[program.Sort]float64{program.Text: 28, program.Number: 9, program.Choice: 18, program.Many: 22, program.Day: 12, program.Flag: 9}

// maxCell is how much text a cell of a spreadsheet holds.
const maxCell = 32_767

// listCell is a value as a spreadsheet keeps it: numbers and dates as such.
func listCell(field *backlog.Field, text string) cell {
	if n, err := strconv.ParseFloat(text, 64); err == nil && field.Sort == program.Number {
		return n
	}
	if field.Sort == program.Day {
		var day program.Date
		if err := day.UnmarshalText([]byte(text)); err == nil && !day.IsZero() {
			return day
		}
	}
	return text
}

func writeRows(w io.Writer, columns []column, rows [][]cell) error {
	out := csv.NewWriter(w)
	record := make([]string, len(columns))
	for i, c := range columns {
		record[i] = c.title
	}
	if err := out.Write(record); err != nil {
		return err
	}
	for _, row := range rows {
		for i, c := range row {
			record[i] = csvText(c)
		}
		if err := out.Write(record); err != nil {
			return err
		}
	}
	out.Flush()
	return out.Error()
}

// sheet is one sheet of a workbook.
type sheet struct {
	name    string
	columns []column
	rows    [][]cell
}

// writeBook writes a workbook, with numbers and dates as such, and formulas for what is
// reckoned and for totals.
func writeBook(w io.Writer, sheets ...sheet) error {
	return writeBookWith(w, func(*excelize.File) error { return nil }, sheets...)
}

// writeBookWith is writeBook, with what is to be added to its sheets.
func writeBookWith(w io.Writer, more func(*excelize.File) error, sheets ...sheet) error {
	book := excelize.NewFile()
	defer func() { _ = book.Close() }()
	for i, s := range sheets {
		for _, row := range s.rows {
			for c, text := range row {
				if text, ok := text.(string); ok && utf8.RuneCountInString(text) > maxCell {
					return fmt.Errorf("%s of %v is longer than a cell of a spreadsheet holds; choose CSV", s.columns[c].title, row[0])
				}
			}
		}
		var err error
		if i == 0 {
			err = book.SetSheetName("Sheet1", s.name)
		} else {
			_, err = book.NewSheet(s.name)
		}
		if err == nil {
			err = writeSheet(book, s)
		}
		if err != nil {
			return err
		}
	}
	if err := more(book); err != nil {
		return err
	}
	return book.Write(w)
}
