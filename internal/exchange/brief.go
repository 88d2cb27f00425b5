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
	"jantrel/internal/picture"
)

// Masthead is what stands above a brief beside its title.
type Masthead struct {
	Number  int64  // 0: it is not published
	By      string // who wrote it
	Program string // where the program is seen, as https://host/programs/1: keys of items lead there; empty: they do not
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
	l := briefFile{items: namedOf(b, m.Program)}
	l.line("# %s\n\n%s", plain(b.Title), plain(m.words(b)))
	for i := range b.Sections {
		s := &b.Sections[i]
		l.line("\n## %s", plain(s.Title))
		if s.Text != "" {
			l.line("\n%s", l.items.markdown(s.Text))
		}
		for n := range s.Blocks {
			l.block(&s.Blocks[n])
		}
	}
	return l.writeTo(w)
}

// briefFile is a brief that is being written.
type briefFile struct {
	lines
	items named
}

// told is the answer to a chart in a sentence; of briefs that were published long ago also why there was none.
func told(d *reports.Drawn) string { return d.Sentence + d.Failed }

// said is a plain text as Markdown.
func (l *briefFile) said(text string) string { return l.items.markdown(plain(text)) }

func (l *briefFile) block(b *briefs.Block) {
	switch {
	case b.Chart != nil:
		l.line("\n%s", l.said(told(b.Drawn)))
		head, rows, figures := chartTable(b.Chart, b.Drawn, reports.Words)
		l.table(head, rows, figures)
	case b.Markdown != "":
		l.line("\n%s", l.items.markdown(strings.TrimRight(lowered(b.Markdown), "\n")))
	case len(b.Head) > 0:
		l.table(b.Head, b.Rows, b.Figures)
	case len(b.List) > 0:
		l.line("")
		for _, text := range b.List {
			l.line("- %s", l.said(text))
		}
	default:
		l.line("\n%s", l.said(b.Text))
	}
}

func (l *briefFile) table(head []string, rows [][]string, figures []bool) {
	if len(rows) == 0 {
		return
	}
	cells := func(row []string) string {
		out := make([]string, len(row))
		for i := range row {
			out[i] = l.said(row[i])
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

// WriteBriefPage writes a brief as HTML in one file, which asks nothing of anybody: to be sent, printed or put on a
// server. Its own words cannot bring in anything that runs or is fetched.
func WriteBriefPage(w io.Writer, b *briefs.Written, m Masthead) error {
	l := briefFile{items: namedOf(b, m.Program)}
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

func (l *briefFile) markdown(text string) {
	var out strings.Builder
	if text != "" && renderer.Convert([]byte(l.items.markdown(text)), &out) == nil { // writing to memory does not fail
		l.line("%s", fetched.ReplaceAllString(out.String(), ""))
	}
}

// picture is a drawing with what its colours stand for, and the figures behind it for who wants them.
func (l *briefFile) picture(p *picture.Picture, says string, figures func()) {
	l.line(`<figure role="img" aria-label="%s">%s</figure>`, esc(says), p.SVG)
	if len(p.Key) > 0 {
		l.line(`<p class="key">`)
		for _, e := range p.Key {
			l.line(`<span><i style="background:%s"></i>%s</span>`, e.Colour, esc(e.Title))
		}
		l.line("</p>")
	}
	l.line("<details><summary>The figures</summary>")
	figures()
	l.line("</details>")
}

func (l *briefFile) blockPage(b *briefs.Block) {
	switch {
	case b.Chart != nil:
		l.line("<p>%s</p>", l.items.html(told(b.Drawn)))
		head, rows, figures := chartTable(b.Chart, b.Drawn, reports.Words)
		if drawn := picture.Chart(b.Chart, b.Drawn); drawn != nil {
			l.picture(drawn, b.Drawn.Sentence, func() { l.tablePage(head, rows, figures) })
			return
		}
		l.tablePage(head, rows, figures)
	case b.BurnUp != nil:
		if drawn := picture.BurnUp(b.BurnUp); drawn != nil {
			l.picture(drawn, "What was done of what there is, and how the plays go on", func() { l.tablePage(b.Head, b.Rows, b.Figures) })
		}
	case b.Markdown != "":
		l.markdown(lowered(b.Markdown))
	case len(b.Head) > 0:
		l.tablePage(b.Head, b.Rows, b.Figures)
	case len(b.List) > 0:
		l.line("<ul>")
		for _, text := range b.List {
			l.line("<li>%s</li>", l.items.html(text))
		}
		l.line("</ul>")
	default:
		l.line("<p>%s</p>", l.items.html(b.Text))
	}
}

func (l *briefFile) tablePage(head []string, rows [][]string, figures []bool) {
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
			fmt.Fprintf(&out, "<%s%s>%s</%s>", tag, class, l.items.html(text), tag)
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
th{border-bottom-color:#8a7f68;font-weight:600}figure{margin:.6rem 0 .2rem;break-inside:avoid}svg{width:100%;height:auto}a{color:#1d5f66}
.key{display:flex;flex-wrap:wrap;gap:.1rem .9rem;margin:0;font-size:.85rem;color:#52636f}.key i{display:inline-block;width:.7em;height:.7em;margin-right:.35em;border-radius:2px;print-color-adjust:exact}
details{margin:.2rem 0;font-size:.85rem;color:#52636f}
.n{text-align:right;font-variant-numeric:tabular-nums}
@page{size:A4;margin:18mm}
@media print{body,main{background:none}main{max-width:none;margin:0;padding:0;border:0}
details{display:none}h2,h3,p:has(+figure),p:has(+table){break-after:avoid}p:has(+figure),p:has(+table){break-inside:avoid}tr,li{break-inside:avoid}thead{display:table-header-group}}`
