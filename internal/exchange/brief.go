package exchange

import (
	"fmt"
	"html"
	"io"
	"regexp"
	"strings"

	"github.com/yuin/goldmark"
	"github.com/yuin/goldmark/extension"

	"jantrel/core/briefs"
	"jantrel/core/reports"
)

// Masthead is what stands above a brief beside its title.
type Masthead struct {
	Number int64  // 0: it is not published
	By     string // who wrote it
}

// words is the masthead in a line.
func (m Masthead) words(b *briefs.Written) string {
	text := "Draft, as of " + b.Day
	if m.Number > 0 {
		text = fmt.Sprintf("Brief %d, %s", m.Number, b.Day)
	}
	if m.By != "" {
		text += ", by " + m.By
	}
	return b.About + ". " + text + "."
}

// WriteBrief writes a brief as Markdown.
func WriteBrief(w io.Writer, b *briefs.Written, m Masthead) error {
	l := &lines{}
	l.line("# %s\n\n%s", plain(b.Title), plain(m.words(b)))
	for i := range b.Sections {
		s := &b.Sections[i]
		l.line("\n## %s", plain(s.Title))
		if s.Text != "" {
			l.line("\n%s", s.Text)
		}
		for n := range s.Blocks {
			l.block(&s.Blocks[n])
		}
	}
	return l.writeTo(w)
}

func (l *lines) block(b *briefs.Block) {
	switch {
	case b.Chart != nil:
		l.line("\n%s", plain(b.Drawn.Sentence+b.Drawn.Failed))
		head, rows, figures := tableOf(b.Chart, b.Drawn)
		l.table(head, rows, figures)
	case b.Markdown != "":
		l.line("\n%s", strings.TrimRight(lowered(b.Markdown), "\n"))
	case len(b.Head) > 0:
		l.table(b.Head, b.Rows, b.Figures)
	case len(b.List) > 0:
		l.line("")
		for _, text := range b.List {
			l.line("- %s", plain(text))
		}
	default:
		l.line("\n%s", plain(b.Text))
	}
}

func (l *lines) table(head []string, rows [][]string, figures []bool) {
	if len(rows) == 0 {
		return
	}
	cells := func(row []string) string {
		out := make([]string, len(row))
		for i := range row {
			out[i] = plain(row[i])
		}
		return "| " + strings.Join(out, " | ") + " |"
	}
	rule := make([]string, len(head))
	for i := range head {
		rule[i] = "---"
		if i < len(figures) && figures[i] {
			rule[i] = "---:"
		}
	}
	l.line("\n%s\n| %s |", cells(head), strings.Join(rule, " | "))
	for _, row := range rows {
		l.line("%s", cells(row))
	}
}

// lowered puts the headings of a text two steps lower, so that they stand below that of its section.
func lowered(markdown string) string {
	return regexp.MustCompile(`(?m)^#`).ReplaceAllString(markdown, "###")
}

// tableOf is the table behind a chart.
func tableOf(c *reports.Chart, d *reports.Drawn) (head []string, rows [][]string, figures []bool) {
	switch {
	case d.Series != nil:
		s := d.Series
		head, figures = []string{"Day"}, []bool{false}
		lines := s.Lines
		if len(c.Split) == 0 {
			lines = nil
		}
		for _, l := range lines {
			head, figures = append(head, l.Title), append(figures, true)
		}
		head, figures = append(head, "All"), append(figures, true)
		for i, day := range s.Days {
			row := []string{day.String()}
			for n := range lines {
				row = append(row, reports.Words(s.Points[n][i], s.Unit, s.In))
			}
			rows = append(rows, append(row, reports.Words(s.Totals[i], s.Unit, s.In)))
		}
	case d.Table != nil && c.Form == reports.List:
		head, figures = []string{"What"}, []bool{false}
		for _, t := range d.Table.Things {
			title := t.Title
			if t.Kind == "item" {
				title += " (" + t.Key + ")"
			}
			rows = append(rows, []string{title})
		}
	case d.Table != nil && len(c.Split) > 0:
		t := d.Table
		head, figures = []string{""}, []bool{false}
		if len(c.Split) > 1 {
			for _, column := range t.Columns {
				head, figures = append(head, column.Title), append(figures, true)
			}
		}
		head, figures = append(head, "All"), append(figures, true)
		for r := range t.Rows {
			row := []string{t.Rows[r].Title}
			if len(c.Split) > 1 {
				for n := range t.Columns {
					row = append(row, reports.Words(t.Cells[r][n], t.Unit, t.In))
				}
			}
			rows = append(rows, append(row, reports.Words(t.Totals[r], t.Unit, t.In)))
		}
	}
	return head, rows, figures
}

// WriteBriefPage writes a brief as HTML in one file, which asks nothing of anybody: to be sent, printed or put on a
// server. Its own words cannot bring in anything that runs or is fetched.
func WriteBriefPage(w io.Writer, b *briefs.Written, m Masthead) error {
	l := &lines{}
	l.line(`<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width">
<title>%s</title>
<style>%s</style>
</head>
<body>
<main>
<h1>%s</h1>
<p class="quiet">%s</p>`, esc(b.Title), briefStyle, esc(b.Title), esc(m.words(b)))
	for i := range b.Sections {
		s := &b.Sections[i]
		l.line("<section>\n<h2>%s</h2>", esc(s.Title))
		l.markdown(s.Text)
		for n := range s.Blocks {
			l.blockPage(&s.Blocks[n])
		}
		l.line("</section>")
	}
	l.line("</main>\n</body>\n</html>")
	return l.writeTo(w)
}

var esc = html.EscapeString

// renderer makes HTML of Markdown; raw HTML in it is left out.
var renderer = goldmark.New(goldmark.WithExtensions(extension.GFM))

var fetched = regexp.MustCompile(`(?i)<img[^>]*>`)

func (l *lines) markdown(text string) {
	var out strings.Builder
	if text != "" && renderer.Convert([]byte(text), &out) == nil { // writing to memory does not fail
		l.line("%s", fetched.ReplaceAllString(out.String(), ""))
	}
}

func (l *lines) blockPage(b *briefs.Block) {
	switch {
	case b.Chart != nil:
		l.line("<p>%s</p>", esc(b.Drawn.Sentence+b.Drawn.Failed))
		head, rows, figures := tableOf(b.Chart, b.Drawn)
		l.tablePage(head, rows, figures)
	case b.Markdown != "":
		l.markdown(lowered(b.Markdown))
	case len(b.Head) > 0:
		l.tablePage(b.Head, b.Rows, b.Figures)
	case len(b.List) > 0:
		l.line("<ul>")
		for _, text := range b.List {
			l.line("<li>%s</li>", esc(text))
		}
		l.line("</ul>")
	default:
		l.line("<p>%s</p>", esc(b.Text))
	}
}

func (l *lines) tablePage(head []string, rows [][]string, figures []bool) {
	if len(rows) == 0 {
		return
	}
	row := func(tag string, cells []string) {
		var out strings.Builder
		for i, text := range cells {
			class := ""
			if i < len(figures) && figures[i] {
				class = ` class="n"`
			}
			fmt.Fprintf(&out, "<%s%s>%s</%s>", tag, class, esc(text), tag)
		}
		l.line("<tr>%s</tr>", out.String())
	}
	l.line("<table>\n<thead>")
	row("th", head)
	l.line("</thead>\n<tbody>")
	for _, cells := range rows {
		row("td", cells)
	}
	l.line("</tbody>\n</table>")
}

// briefStyle is how a brief looks: a letter on paper, A4 when it is printed.
const briefStyle = `
body{margin:0;background:#f6f1e6;color:#16283a;font:16px/1.5 "Instrument Sans",system-ui,sans-serif}
main{max-width:46rem;margin:2rem auto;padding:2.5rem 3rem;background:#fffdf8;border:1px solid #dbd1bc;border-radius:8px}
h1,h2,h3{font-family:"Bricolage Grotesque","Instrument Sans",system-ui,sans-serif;line-height:1.2}
h1{margin:0 0 .25rem;font-size:1.9rem}h2{margin:1.8rem 0 .4rem;font-size:1.25rem}
.quiet{margin-top:0;color:#52636f}
table{width:100%;border-collapse:collapse;margin:.6rem 0;font-size:.92rem}
th,td{padding:.3rem .5rem;border-bottom:1px solid #dbd1bc;text-align:left;vertical-align:top}
th{border-bottom-color:#8a7f68;font-weight:600}.n{text-align:right;font-variant-numeric:tabular-nums}
@page{size:A4;margin:18mm}
@media print{body,main{background:none}main{max-width:none;margin:0;padding:0;border:0}
h2,h3{break-after:avoid}tr,li{break-inside:avoid}thead{display:table-header-group}}`
