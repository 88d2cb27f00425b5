// Package picture draws charts and forecasts for files: SVG that stands in a page of HTML, in the colours and words that
// the application itself has on paper.
package picture

import (
	"bytes"
	"fmt"
	"html"
	"image/color"
	"math"
	"strconv"
	"strings"

	"gonum.org/v1/plot"
	"gonum.org/v1/plot/font"
	"gonum.org/v1/plot/plotter"
	"gonum.org/v1/plot/vg"
	"gonum.org/v1/plot/vg/draw"
	"gonum.org/v1/plot/vg/vgsvg"

	"jantrel/core/program"
)

// Date is a civil date.
type Date = program.Date

// Picture is a drawing, with what its colours stand for.
type Picture struct {
	SVG    string // one element, as wide as it is given room
	Height float64
	Key    []Entry
}

// Entry is a colour and what it stands for.
type Entry struct{ Colour, Title string }

// width is that of every picture; what it stands in makes it as wide as there is room.
const width = 680

// Tones are the colours of paper by the names that the page has for them.
var Tones = map[string]string{
	"ink": "#16283a", "quiet": "#52636f", "rule": "#dbd1bc", "edge": "#8a7f68", "panel": "#fffdf8",
	"water": "#2e7f86", "needs": "#b3246b", "over": "#b83c22", "caution": "#8a5a08",
	"c0": "#2a7078", "c1": "#56659a", "c2": "#55702f", "c3": "#8a3f74", "c4": "#9a5636", "c5": "#61696f",
}

// inTurn are the tones that values get in turn that keep none.
var inTurn = []string{"c0", "c1", "c2", "c3", "c4"}

func toneAt(tone string, at int) string {
	if Tones[tone] == "" {
		return inTurn[at%len(inTurn)]
	}
	return tone
}

// paint is a tone as a colour, 0 to 1 opaque.
func paint(tone string, opacity float64) color.Color {
	rgb, _ := strconv.ParseUint(Tones[tone][1:], 16, 32) // they are hexadecimal
	return color.NRGBA{uint8(rgb >> 16), uint8(rgb >> 8), uint8(rgb), uint8(math.Round(opacity * 255))}
}

// stroke is a line in a tone.
func stroke(tone string, width float64, dashes ...vg.Length) draw.LineStyle {
	return draw.LineStyle{Color: paint(tone, 1), Width: vg.Points(width), Dashes: dashes}
}

// gap is how far the words of an axis stand from it: other letters than the ones they were measured by may be wider.
const gap = 8

// sheet is an empty plot: its values go up, or to the right where names stand one below the other.
func sheet(values plot.Ticker, names plot.Ticker, standing bool) *plot.Plot {
	p := plot.New()
	p.BackgroundColor = color.Transparent
	up, along := &p.Y, &p.X
	grid := &plotter.Grid{Horizontal: stroke("rule", 0.5)}
	if !standing {
		up, along = &p.X, &p.Y
		grid = &plotter.Grid{Vertical: stroke("rule", 0.5)}
	}
	p.Add(grid)
	for _, axis := range []*plot.Axis{&p.X, &p.Y} {
		axis.LineStyle, axis.Tick.LineStyle, axis.Tick.Length = stroke("edge", 0.6), draw.LineStyle{}, gap
		axis.Tick.Label.Color = paint("quiet", 1)
		axis.Tick.Label.Font = font.Font{Typeface: "Liberation", Variant: "Sans", Size: 9.5}
		axis.Padding = 0
	}
	up.LineStyle.Width = 0
	up.Tick.Marker, along.Tick.Marker = values, names
	return p
}

// svg is a plot as an element of HTML.
func svg(p *plot.Plot, height float64) string {
	canvas := vgsvg.New(vg.Length(width), vg.Length(height))
	p.Draw(draw.New(canvas))
	var out bytes.Buffer
	_, _ = canvas.WriteTo(&out) // writing to memory does not fail
	text := out.String()
	text = text[strings.Index(text, "<svg"):]
	// The letters that they were measured by may not be there: others are as wide.
	return strings.TrimSpace(strings.ReplaceAll(text, "font-family:Liberation Sans;", "font-family:Liberation Sans,Arimo,Arial,Helvetica,sans-serif;"))
}

// scale words the ticks of values: up to seven, at round ones. whole: there are none between numbers.
func scale(words func(float64) string, whole bool) plot.Ticker {
	return plot.TickerFunc(func(low, high float64) (ticks []plot.Tick) {
		step := round((high - low) / 7)
		if whole {
			step = max(1, step)
		}
		for n := math.Ceil(low/step-1e-9) + 0; n*step <= high+step*1e-9; n++ {
			ticks = append(ticks, plot.Tick{Value: n * step, Label: words(n * step)})
		}
		return ticks
	})
}

// round is the smallest of 1, 2, 5, 10 … and of their tenths that is no less than a number.
func round(n float64) float64 {
	unit := math.Pow(10, math.Floor(math.Log10(n)))
	for _, times := range []float64{1, 2, 5} {
		if times*unit >= n*(1-1e-9) {
			return times * unit
		}
	}
	return 10 * unit
}

// names are the ticks of what stands at 0, 1, 2 …: as many of them as there is room for.
func names(titles []string, room int) plot.Ticker {
	return plot.TickerFunc(func(float64, float64) []plot.Tick {
		var ticks []plot.Tick
		step := max(1, int(math.Ceil(float64(len(titles))/float64(max(1, room)))))
		for i := 0; i < len(titles); i += step {
			ticks = append(ticks, plot.Tick{Value: float64(i), Label: short(titles[i])})
		}
		return ticks
	})
}

// mostLetters is how long a name may be beside a picture.
const mostLetters = 30

func short(title string) string {
	if letters := []rune(title); len(letters) > mostLetters {
		return strings.TrimRight(string(letters[:mostLetters-1]), " ,") + "…"
	}
	return title
}

// lengthOf is how many letters the longest of some names has, as far as it is shown.
func lengthOf(titles []string) (most int) {
	for _, t := range titles {
		most = max(most, len([]rune(short(t))))
	}
	return max(1, most)
}

// Whole is the picture as a file of its own, with what its colours stand for below it.
func (p *Picture) Whole() string {
	const line = 16
	height := p.Height + line*float64(len(p.Key)) + 8
	var out strings.Builder
	fmt.Fprintf(&out, `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 %d %g" width="%d" height="%g" font-family="sans-serif">`+"\n", width, height, width, height)
	out.WriteString(strings.Replace(p.SVG, "<svg", `<svg x="0" y="0"`, 1) + "\n")
	for i, e := range p.Key {
		y := p.Height + line*float64(i) + 4
		fmt.Fprintf(&out, `<rect x="8" y="%g" width="9" height="9" fill="%s"/><text x="24" y="%g" font-size="11" fill="%s">%s</text>`+"\n", y, e.Colour, y+9, Tones["quiet"], html.EscapeString(e.Title))
	}
	out.WriteString("</svg>\n")
	return out.String()
}
