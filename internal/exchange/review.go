package exchange

import (
	"fmt"
	"io"
	"strconv"
	"strings"

	"jantrel/core/program"
	"jantrel/core/track"
)

// WriteReview writes the review of an iteration as Markdown.
func WriteReview(w io.Writer, p program.Program, r *track.Review) error {
	d := reviewing{lines: linesOf(p), r: r, names: map[string]string{}}
	for _, person := range p.People {
		d.names[person.Key] = person.Name
	}
	for i := range p.Teams {
		if p.Teams[i].Key == r.Team {
			d.team = &p.Teams[i]
		}
	}
	d.it, _ = d.team.Find(r.Iteration)
	d.write()
	return d.writeTo(w)
}

// lines are lines of Markdown as they are written, about a program's items.
type lines struct {
	titles map[string]string
	text   strings.Builder
}

func linesOf(p program.Program) *lines {
	l := &lines{titles: make(map[string]string, len(p.Items))}
	for i := range p.Items {
		l.titles[p.Items[i].Key] = p.Items[i].Title
	}
	return l
}

func (l *lines) line(format string, args ...any) { fmt.Fprintf(&l.text, format+"\n", args...) }

func (l *lines) writeTo(w io.Writer) error {
	_, err := io.WriteString(w, l.text.String())
	return err
}

// reviewing is a review as it is written.
type reviewing struct {
	*lines
	r     *track.Review
	team  *program.Team
	it    program.Iteration
	names map[string]string
}

func (d *reviewing) size(n float64) string {
	return figure(n) + " " + string(d.team.Unit)
}

// figure is a number to two places at most.
func figure(n float64) string { return strconv.FormatFloat(round(n), 'f', -1, 64) }

func (d *reviewing) write() {
	r := d.r
	d.line("# %s %s, %s – %s", plain(d.team.Name), plain(d.it.Label()), d.it.Start, d.it.End)
	if d.it.Goal != "" {
		d.line("\nGoal: %s", plain(d.it.Goal))
	}
	d.line("\n| what | items | size |\n| --- | ---: | ---: |")
	row := func(what string, s track.Sum) { d.line("| %s | %d | %s |", what, s.Items, d.size(s.Size)) }
	row("at the start", r.Start)
	row("added", r.Added)
	row("taken out before the close", track.Sum{Items: r.Removed.Items - r.Carried.Items, Size: r.Removed.Size - r.Carried.Size})
	row("carried on", r.Carried)
	d.line("| grown | | %s |", d.size(r.Grown.Size))
	d.line("| smaller | | %s |", d.size(r.Shrunk.Size))
	row("done", r.Done)
	if r.Velocity.Of > 0 {
		d.line("\nMeasured velocity: %s before, %s with it, of %d iterations.", d.size(r.Velocity.Before), d.size(r.Velocity.After), r.Velocity.Of)
	}
	d.items("Done", r.Finished)
	d.items("Carried on", r.CarriedOn)
	d.items("Came in after the start", r.CameIn)
	d.items("Taken out", r.WentOut)
	if len(r.SentBack) > 0 {
		d.line("\n## Sent back\n")
		for _, back := range r.SentBack {
			times := "times"
			if back.Times == 1 {
				times = "time"
			}
			d.line("- %s %s: %d %s", back.Item, plain(d.titles[back.Item]), back.Times, times)
		}
	}
	d.noted("What went well", d.it.WentWell)
	d.noted("What to change", d.it.ToChange)
	if len(d.it.Actions)+len(r.Earlier) > 0 {
		d.line("\n## Actions\n")
		for _, a := range d.it.Actions {
			d.action(a, "")
		}
		for _, a := range r.Earlier {
			was, _ := d.team.Find(a.Iteration)
			d.action(a.Action, ", since "+plain(was.Label()))
		}
	}
}

func (d *reviewing) items(title string, keys []string) {
	if len(keys) == 0 {
		return
	}
	d.line("\n## %s\n", title)
	for _, key := range keys {
		d.line("- %s %s", key, plain(d.titles[key]))
	}
}

func (d *reviewing) noted(title, text string) {
	if text != "" {
		d.line("\n## %s\n\n%s", title, text)
	}
}

func (d *reviewing) action(a program.Action, more string) {
	mark, owner := " ", ""
	if a.Done {
		mark = "x"
	}
	if a.Owner != "" {
		owner = ", " + plain(d.names[a.Owner])
	}
	d.line("- [%s] %s%s%s", mark, plain(a.Text), owner, more)
}

// plain is a text in one line, with what Markdown would take for marks shown as it is.
func plain(text string) string {
	return marks.Replace(strings.Join(strings.Fields(text), " "))
}

var marks = strings.NewReplacer(`\`, `\\`, `*`, `\*`, `_`, `\_`, "`", "\\`", `[`, `\[`, `]`, `\]`, `<`, `\<`, `|`, `\|`, `#`, `\#`)
