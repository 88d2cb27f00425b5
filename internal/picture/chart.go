package picture

import (
	"math"
	"slices"

	"gonum.org/v1/plot"
	"gonum.org/v1/plot/plotter"
	"gonum.org/v1/plot/vg"
	"gonum.org/v1/plot/vg/draw"

	"jantrel/core/program"
	"jantrel/core/reports"
)

// Chart draws the answer to a chart; nil where there is none, or it is no picture: a figure, a table or a list.
func Chart(c *reports.Chart, d *reports.Drawn) *Picture {
	if slices.Contains([]reports.Form{reports.Grid, reports.Figure, reports.List}, c.Form) {
		return nil
	}
	f := figures{form: c.Form}
	switch {
	case d.Series != nil:
		f.ofSeries(c, d.Series)
	case d.Table != nil && len(d.Table.Rows) > 0 && len(c.Split) > 0:
		f.ofTable(c, d.Table)
	default:
		return nil
	}
	if f.form == reports.Ring {
		return f.ring()
	}
	return f.draw()
}

// figures are those of a chart as they are drawn: a run of values for each column, by places.
type figures struct {
	form     reports.Form
	standing bool // places go to the right
	places   []reports.Value
	columns  []reports.Value
	values   [][]*float64 // by column and place
	unit     reports.Unit
	in       program.Unit
	single   bool // there is one column, and places may keep colours of their own
	empty    bool // what has no value comes to nothing; else there is none
}

func (f *figures) ofTable(c *reports.Chart, t *reports.Table) {
	f.places, f.unit, f.in, f.empty = t.Rows, t.Unit, t.In, !t.Mean
	f.standing = f.form == reports.Lines || f.form == reports.Areas || t.InTime
	if f.form == reports.Ring || len(c.Split) < 2 {
		f.single, f.columns, f.values = true, []reports.Value{{}}, [][]*float64{t.Totals}
		return
	}
	f.columns = t.Columns
	for n := range t.Columns {
		column := make([]*float64, len(t.Rows))
		for r := range t.Rows {
			column[r] = t.Cells[r][n]
		}
		f.values = append(f.values, column)
	}
}

func (f *figures) ofSeries(c *reports.Chart, s *reports.Series) {
	f.standing, f.unit, f.in, f.empty = true, s.Unit, s.In, !s.Mean
	for _, day := range s.Days {
		f.places = append(f.places, reports.Value{Title: day.Short()})
	}
	if len(c.Split) == 0 {
		f.columns, f.values = []reports.Value{{}}, [][]*float64{s.Totals}
		return
	}
	f.columns, f.values = s.Lines, s.Points
}

func (f *figures) words(n float64) string { return reports.Words(&n, f.unit, f.in) }

func (f *figures) titles() []string {
	titles := make([]string, len(f.places))
	for i := range titles {
		titles[i] = f.places[i].Title
	}
	return titles
}

// run is the values of a column, as they are drawn.
func (f *figures) run(column int) plotter.Values {
	run := make(plotter.Values, len(f.places))
	for i, n := range f.values[column] {
		if n != nil {
			run[i] = *n
		}
	}
	return run
}

func (f *figures) draw() *Picture {
	titles := f.titles()
	room := len(titles)
	if f.standing {
		room = int(width * 0.9 / (float64(lengthOf(titles)+2) * 5.5))
	}
	p := sheet(scale(f.words, f.unit == reports.Number), names(titles, room), f.standing)
	places, value := &p.X, &p.Y
	height := 220.0
	if !f.standing {
		places, value = value, places
		bars := len(f.places)
		if f.form == reports.Bars {
			bars *= len(f.columns)
		}
		height = min(900, 34+float64(max(2*len(f.places), bars))*11)
		p.Y.Scale = plot.InvertedScale{Normalizer: p.Y.Scale} // the first one on top
	}
	if f.form == reports.Lines || f.form == reports.Areas {
		f.lines(p)
	} else {
		f.bars(p, height)
		places.Min, places.Max = -0.6, float64(len(titles))-0.4
	}
	// What is nothing everywhere still has a scale.
	value.Min = min(0, value.Min)
	if value.Max = max(0, value.Max); value.Max-value.Min < 1e-9 {
		value.Max = 1
	}
	if !f.standing {
		value.Max *= 1.08 // room for what it comes to
	}
	return &Picture{svg(p, height), height, f.key()}
}

// key is what the colours of columns stand for; nothing where there is one.
func (f *figures) key() (key []Entry) {
	if len(f.columns) < 2 {
		return nil
	}
	for i, c := range f.columns {
		key = append(key, Entry{Tones[toneAt(c.Tone, i)], c.Title})
	}
	return key
}

// bars draws bars: side by side, or one on the other.
func (f *figures) bars(p *plot.Plot, height float64) {
	places, columns := float64(len(f.places)), float64(len(f.columns))
	along := width * 0.86
	if !f.standing {
		along = height - 24
	}
	each := min(18, along/places*0.72)
	stacked := f.form == reports.Stacked
	if !stacked {
		each = min(18, along/places*0.78/columns)
	}
	var below *plotter.BarChart
	for c := range f.columns {
		runs := [][]int{nil} // places drawn in one colour
		tones := []string{toneAt(f.columns[c].Tone, c)}
		if f.single {
			runs, tones = f.byTone()
		}
		for k, at := range runs {
			values := f.run(c)
			if at != nil {
				values = only(values, at)
			}
			chart, err := plotter.NewBarChart(values, vg.Length(each))
			if err != nil { // of no values
				continue
			}
			chart.Horizontal, chart.LineStyle.Width, chart.Color = !f.standing, 0, paint(tones[k], 1)
			if stacked && below != nil {
				chart.StackOn(below)
			}
			if !stacked {
				chart.Offset = vg.Length((float64(c) - (columns-1)/2) * each)
				if !f.standing {
					chart.Offset = -chart.Offset // names go down
				}
			}
			if !f.single {
				below = chart
			}
			p.Add(chart)
		}
	}
	if len(f.columns) == 1 {
		f.label(p, each)
	}
}

// byTone are the places of each tone that some keep.
func (f *figures) byTone() (runs [][]int, tones []string) {
	for i, v := range f.places {
		tone := toneAt(v.Tone, 0)
		at := slices.Index(tones, tone)
		if at < 0 {
			at, tones, runs = len(tones), append(tones, tone), append(runs, []int{})
		}
		runs[at] = append(runs[at], i)
	}
	return runs, tones
}

// only are the values at some places, and nothing elsewhere.
func only(values plotter.Values, at []int) plotter.Values {
	kept := make(plotter.Values, len(values))
	for _, i := range at {
		kept[i] = values[i]
	}
	return kept
}

// label writes the values at the ends of single bars, where there is room.
func (f *figures) label(p *plot.Plot, each float64) {
	if each < 8 || f.standing && len(f.places) > 16 {
		return
	}
	at := plotter.XYLabels{}
	for i, n := range f.run(0) {
		point := plotter.XY{X: float64(i), Y: n}
		if !f.standing {
			point = plotter.XY{X: n, Y: float64(i)}
		}
		at.XYs, at.Labels = append(at.XYs, point), append(at.Labels, f.words(n))
	}
	labels, err := plotter.NewLabels(at)
	if err != nil { // of no values
		return
	}
	for i := range labels.TextStyle {
		style := &labels.TextStyle[i]
		style.Font, style.Color = p.X.Tick.Label.Font, paint("quiet", 1)
		style.XAlign, style.YAlign = draw.XCenter, draw.YBottom
		if !f.standing {
			style.XAlign, style.YAlign = draw.XLeft, draw.YCenter
		}
	}
	labels.Offset = vg.Point{Y: 3}
	if !f.standing {
		labels.Offset = vg.Point{X: 4}
	}
	p.Add(labels)
}

// lines draws lines, or areas one on the other.
func (f *figures) lines(p *plot.Plot) {
	base := make(plotter.Values, len(f.places))
	for c := range f.columns {
		tone := toneAt(f.columns[c].Tone, c)
		run := f.run(c)
		if f.form == reports.Areas {
			area := make(plotter.XYs, 0, 2*len(run))
			for i := range run {
				area = append(area, plotter.XY{X: float64(i), Y: base[i]})
			}
			for i := len(run) - 1; i >= 0; i-- {
				run[i] += base[i]
				area = append(area, plotter.XY{X: float64(i), Y: run[i]})
			}
			if shape, err := plotter.NewPolygon(area); err == nil {
				shape.Color, shape.LineStyle.Width = paint(tone, 0.6), 0
				p.Add(shape)
			}
			base = run
		}
		for _, piece := range f.pieces(c, run) {
			if len(piece) == 1 {
				dots(p, piece, tone)
				continue
			}
			if line, err := plotter.NewLine(piece); err == nil {
				line.LineStyle = stroke(tone, 1.8)
				p.Add(line)
			}
		}
	}
	p.X.Min, p.X.Max = 0, math.Max(1, float64(len(f.places)-1))
}

// dots marks points.
func dots(p *plot.Plot, at plotter.XYs, tone string) {
	if marks, err := plotter.NewScatter(at); err == nil {
		marks.GlyphStyle = draw.GlyphStyle{Color: paint(tone, 1), Radius: 2.5, Shape: draw.CircleGlyph{}}
		p.Add(marks)
	}
}

// pieces are the runs of a line without a gap.
func (f *figures) pieces(column int, run plotter.Values) (pieces []plotter.XYs) {
	var piece plotter.XYs
	for i, n := range run {
		if f.values[column][i] != nil || f.empty {
			piece = append(piece, plotter.XY{X: float64(i), Y: n})
		} else if len(piece) > 0 {
			pieces, piece = append(pieces, piece), nil
		}
	}
	if len(piece) > 0 {
		pieces = append(pieces, piece)
	}
	return pieces
}
