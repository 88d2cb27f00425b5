package exchange_test

import (
	"bytes"
	"os"
	"os/exec"
	"path/filepath"
	"strconv"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"github.com/xuri/excelize/v2"

	"jantrel/core/calendar"
	"jantrel/core/capacity"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/sample"
	"jantrel/internal/exchange"
)

func planBook(t *testing.T, p *plan.Plan) ([]byte, *excelize.File) {
	t.Helper()
	var out bytes.Buffer
	require.NoError(t, exchange.WritePlan(&out, p, nil))
	book, err := excelize.OpenReader(bytes.NewReader(out.Bytes()))
	require.NoError(t, err)
	t.Cleanup(func() { _ = book.Close() })
	return out.Bytes(), book
}

// overview is what the overview says of each iteration: load, capacity and room, each as the formulas come to.
func overview(t *testing.T, book *excelize.File, p *plan.Plan) {
	t.Helper()
	row := 2
	for team := range p.Teams {
		for i := range p.Teams[team].Iterations {
			load, figure := p.Loads().Size[team][i], capacity.Of(p)[team][i].Capacity
			for column, want := range map[string]float64{"H": load, "I": figure, "J": figure - load} {
				text, err := book.CalcCellValue("Overview", column+strconv.Itoa(row), excelize.Options{RawCellValue: true})
				require.NoError(t, err, "%s%d", column, row)
				got, err := strconv.ParseFloat(text, 64)
				require.NoError(t, err)
				require.InDelta(t, want, got, 0.2, "%s%d of %s", column, row, p.Teams[team].Name)
			}
			row++
		}
	}
}

// The formulas of the workbook come to what the plan itself says, rough sizes included.
func TestThePlanAsAWorkbook(t *testing.T) {
	for seed := range uint64(8) {
		p := plan.Of(sample.Program(seed, sample.Shape{Teams: 4, Iterations: 5, Items: 60, Needs: 20, Wild: true, Rough: seed%2 == 1}))
		_, book := planBook(t, p)
		overview(t, book, p)
	}
}

// Teams may be called anything: each has a sheet of its own.
func TestSheetsOfTeams(t *testing.T) {
	p := program.Program{}
	for i, name := range []string{"Overview", "A/B [x]", "A/B [y]", "A/B [x]", strings.Repeat("Very long ", 9), strings.Repeat("Very long ", 9), "It's 100 %", "港"} {
		p.Teams = append(p.Teams, program.Team{Key: "T" + strconv.Itoa(i), Name: name, Unit: program.Points, Iterations: []program.Iteration{{Key: "1", Name: "One", Start: 800_000, End: 800_013}, {Key: "2", Name: "one", Start: 800_014, End: 800_027}}})
		size := 3.0
		p.Items = append(p.Items, program.Item{Key: "I" + strconv.Itoa(i), Title: "=1+1", Kind: program.Story, Team: "T" + strconv.Itoa(i), Iteration: "2", Size: &size})
	}
	pl := plan.Of(p.Normal())
	_, book := planBook(t, pl)
	assert.Len(t, book.GetSheetList(), 2+len(p.Teams)+1)
	overview(t, book, pl)
}

// A spreadsheet opens the workbook and comes to the same figures. Skipped where there is none.
func TestASpreadsheetComesToTheSame(t *testing.T) {
	office, err := exec.LookPath("soffice")
	if err != nil {
		t.Skip("LibreOffice is not installed")
	}
	p := plan.Of(sample.Program(3, sample.Shape{Teams: 3, Iterations: 4, Items: 40, Needs: 10, Rough: true}))
	content, _ := planBook(t, p)
	folder := t.TempDir()
	file := filepath.Join(folder, "plan.xlsx")
	require.NoError(t, os.WriteFile(file, content, 0o600))
	command := exec.CommandContext(t.Context(), office, "-env:UserInstallation=file://"+folder+"/profile", "--headless", "--convert-to", "csv", "--outdir", folder, file)
	said, err := command.CombinedOutput()
	require.NoError(t, err, string(said))
	text, err := os.ReadFile(filepath.Join(folder, "plan.csv"))
	require.NoError(t, err)
	sheet, err := exchange.ReadSheet(text)
	require.NoError(t, err)
	row := 0
	for team := range p.Teams {
		for i := range p.Teams[team].Iterations {
			got, err := strconv.ParseFloat(sheet.Rows[row][7], 64)
			require.NoError(t, err)
			require.InDelta(t, p.Loads().Size[team][i], got, 0.2)
			row++
		}
	}
}

// The calendar is read by another reader than it was written by.
func TestDatesAsACalendar(t *testing.T) {
	day := calendar.MustParse
	p := program.Program{Name: "Quay", Teams: []program.Team{{Key: "Q", Name: "Quay; and, co", Iterations: []program.Iteration{{Key: "1", Start: day("2027-03-01"), End: day("2027-03-14"), Goal: "Light"}}}, {Key: "F", Name: "Field"}},
		Releases: []program.Release{{Key: "R", Name: "First", Due: day("2027-05-07")}, {Key: "S", Name: "Some day"}}, Milestones: []program.Milestone{{Key: "M", Name: "Trial", Date: day("2027-04-28")}},
		Items: []program.Item{{Key: "A", Title: "Mine", Assignee: "p", Due: day("2027-03-09")}, {Key: "B", Title: "Done", Assignee: "p", Due: day("2027-03-09"), State: program.Done}, {Key: "C", Title: "Hers", Assignee: "q", Due: day("2027-03-09")}}}
	write := func(what []string, teams []string) string {
		var out bytes.Buffer
		require.NoError(t, exchange.WriteDates(&out, p, day("2027-03-02"), what, teams, "p"))
		_, err := exchange.ReadCalendar(t.Context(), bytes.NewReader(out.Bytes()), calendar.Span{Start: day("2027-01-01"), End: day("2027-12-31")})
		require.NoError(t, err)
		return strings.ReplaceAll(out.String(), "\r\n ", "")
	}
	all := write([]string{exchange.DatesIterations, exchange.DatesReleases, exchange.DatesMilestones, exchange.DatesMine}, nil)
	assert.Equal(t, 4, strings.Count(all, "BEGIN:VEVENT"))
	for _, line := range []string{"DTSTART;VALUE=DATE:20270301", "DTEND;VALUE=DATE:20270315", "SUMMARY:First is due", "DTSTART;VALUE=DATE:20270428", "SUMMARY:A Mine is due", "DESCRIPTION:Light"} {
		assert.Contains(t, all, line)
	}
	assert.NotContains(t, all, "Hers")
	assert.Zero(t, strings.Count(write([]string{exchange.DatesIterations}, []string{"F"}), "BEGIN:VEVENT"))
}

func TestTheJournalAsRowsAndLines(t *testing.T) {
	edit := exchange.Told{Revision: 7, At: time.Date(2027, 3, 2, 9, 0, 0, 0, time.UTC), By: "Ann", Label: "=Size", Changes: []program.Applied{{
		Change:  program.SetTo(program.Ref{Kind: program.KindItem, Key: "A"}, "size", 5),
		Inverse: program.SetTo(program.Ref{Kind: program.KindItem, Key: "A"}, "size", 3),
	}}}
	for format, want := range map[string]string{
		"csv":   "Revision,At,By,Edit,Why,Did,Kind,In,Key,Field,Before,After\n7,2027-03-02T09:00:00Z,Ann,'=Size,,set,item,,A,size,3,5\n",
		"jsonl": `{"revision":7,"at":"2027-03-02T09:00:00Z","by":"Ann","edit":"=Size","op":"set","kind":"item","key":"A","field":"size","value":5,"before":3}` + "\n",
	} {
		var out bytes.Buffer
		j, err := exchange.NewJournalWriter(&out, format)
		require.NoError(t, err)
		require.NoError(t, j.Write(edit))
		require.NoError(t, j.End())
		assert.Equal(t, want, out.String())
	}
}
