package picture

import (
	"image/color"
	"math"

	"gonum.org/v1/plot"
	"gonum.org/v1/plot/vg"
	"gonum.org/v1/plot/vg/draw"
)

// ring draws places as parts of a whole.
func (f *figures) ring() *Picture {
	r := ring{}
	key := make([]Entry, 0, len(f.places))
	for i, n := range f.run(0) {
		tone := toneAt(f.places[i].Tone, i)
		r.parts, r.tones = append(r.parts, max(0, n)), append(r.tones, tone)
		key = append(key, Entry{Tones[tone], f.places[i].Title + ": " + f.words(n)})
	}
	p := plot.New()
	p.BackgroundColor = color.Transparent
	p.HideAxes()
	p.Add(r)
	return &Picture{svg(p, 180), 180, key}
}

// ring is a plotter of parts of a whole.
type ring struct {
	parts []float64
	tones []string
}

// Plot draws the parts clockwise from the top.
func (r ring) Plot(c draw.Canvas, _ *plot.Plot) {
	whole := 0.0
	for _, n := range r.parts {
		whole += n
	}
	if whole <= 0 {
		return
	}
	middle := vg.Point{X: (c.Min.X + c.Max.X) / 2, Y: (c.Min.Y + c.Max.Y) / 2}
	outer := min(c.Max.X-c.Min.X, c.Max.Y-c.Min.Y) / 2 * 0.94
	inner, from := outer*0.58, math.Pi/2
	for i, n := range r.parts {
		if n <= 0 {
			continue
		}
		turn := -2 * math.Pi * n / whole
		var path vg.Path
		path.Move(vg.Point{X: middle.X + outer*vg.Length(math.Cos(from)), Y: middle.Y + outer*vg.Length(math.Sin(from))})
		path.Arc(middle, outer, from, turn)
		path.Arc(middle, inner, from+turn, -turn)
		path.Close()
		c.SetColor(paint(r.tones[i], 1))
		c.Fill(path)
		c.SetLineStyle(stroke("panel", 1.5))
		c.Stroke(path)
		from += turn
	}
}
