package picture

import (
	"math"
	"slices"

	"gonum.org/v1/plot"
	"gonum.org/v1/plot/plotter"
	"gonum.org/v1/plot/vg"
	"gonum.org/v1/plot/vg/draw"

	"jantrel/core/forecast"
	"jantrel/core/reports"
)

// BurnUp draws how some work came about and how the plays go on: what is done below what there is, and ahead the middle
// of the plays, half of them and 8 of 10.
func BurnUp(c *forecast.BurnUp) *Picture {
	if len(c.Fan.Days) == 0 && len(c.Past) == 0 {
		return nil
	}
	p := sheet(scale(func(n float64) string { return reports.Words(&n, unit(c), c.Unit) }, c.Measure.In == forecast.InItems), nil, true)
	from, to := span(c)
	p.X.Tick.Marker = days(from, to)
	grows := false
	for _, d := range c.Fan.Days {
		grows = grows || d.Scope[4]-d.Scope[0] > 1e-9
	}
	done := func(d *forecast.FanDay) []float64 { return d.Done }
	scope := func(d *forecast.FanDay) []float64 { return d.Scope }
	band(p, c, done, 0, 4, "water", 0.22)
	band(p, c, done, 1, 3, "water", 0.36)
	if grows {
		band(p, c, scope, 0, 4, "needs", 0.16)
	}
	past(p, c, func(b forecast.Burned) float64 { return b.Total }, stroke("needs", 1.4))
	past(p, c, func(b forecast.Burned) float64 { return b.Done }, stroke("water", 2.2))
	ahead(p, c, scope, stroke("needs", 1.2, 4, 3))
	ahead(p, c, done, stroke("water", 1.4, 4, 3))
	p.Y.Min = 0
	p.Y.Max = max(p.Y.Max*1.04, 1e-9)
	if now := today(c); now > from {
		mark(p, now, "today", stroke("ink", 0.9, 2, 3))
	}
	if due := c.Landing.Due; !due.IsZero() && due >= from && due <= to {
		mark(p, due, "due "+due.Short(), stroke("over", 1.3))
	}
	p.X.Min, p.X.Max = float64(from), float64(to)
	key := []Entry{{Tones["water"], "done, and to come: the middle of the plays, half of them, 8 of 10"}, {Tones["needs"], "all there is"}}
	return &Picture{svg(p, 250), 250, key}
}

// unit is what its values are told in.
func unit(c *forecast.BurnUp) reports.Unit {
	return map[forecast.In]reports.Unit{forecast.InShare: reports.Share, forecast.InSize: reports.Size, forecast.InHours: reports.InTime, forecast.InItems: reports.Number}[c.Measure.In]
}

// span is from which day to which a burn-up is drawn.
func span(c *forecast.BurnUp) (from, to Date) {
	from, to = today(c), today(c)
	if len(c.Past) > 0 {
		from = c.Past[0].Day
	}
	if n := len(c.Fan.Days); n > 0 {
		to = c.Fan.Days[n-1].Day
	}
	return from, max(to, c.Landing.Due.Add(2), from.Add(7))
}

// today is the day that a burn-up was looked at on.
func today(c *forecast.BurnUp) Date {
	if n := len(c.Past); n > 0 {
		return c.Past[n-1].Day
	}
	return c.Fan.Days[0].Day
}

// days are the ticks of an axis of days: whole weeks apart, eight at most.
func days(from, to Date) plot.Ticker {
	return plot.TickerFunc(func(float64, float64) (ticks []plot.Tick) {
		step := 7 * max(1, int(math.Ceil(float64(to-from)/7/8)))
		for day := from; day <= to; day = day.Add(step) {
			ticks = append(ticks, plot.Tick{Value: float64(day), Label: day.Short()})
		}
		return ticks
	})
}

// of is what a fan draws of a day, at each of forecast.FanOdds.
type of func(*forecast.FanDay) []float64

// points are those of a percentile, day by day.
func (of of) points(c *forecast.BurnUp, percentile int) (points plotter.XYs) {
	for i := range c.Fan.Days {
		d := &c.Fan.Days[i]
		points = append(points, plotter.XY{X: float64(d.Day), Y: of(d)[percentile]})
	}
	return points
}

// band fills what lies between two percentiles.
func band(p *plot.Plot, c *forecast.BurnUp, of of, low, high int, tone string, opacity float64) {
	back := of.points(c, high)
	slices.Reverse(back)
	shape := append(of.points(c, low), back...)
	if filled, err := plotter.NewPolygon(shape); err == nil { // there are days to come
		filled.Color, filled.LineStyle.Width = paint(tone, opacity), 0
		p.Add(filled)
	}
}

// ahead draws the middle of the plays.
func ahead(p *plot.Plot, c *forecast.BurnUp, of of, style draw.LineStyle) {
	if line, err := plotter.NewLine(of.points(c, 2)); err == nil {
		line.LineStyle = style
		p.Add(line)
	}
}

// past draws what was: each day until the next one that is known.
func past(p *plot.Plot, c *forecast.BurnUp, of func(forecast.Burned) float64, style draw.LineStyle) {
	var points plotter.XYs
	for _, b := range c.Past {
		points = append(points, plotter.XY{X: float64(b.Day), Y: of(b)})
	}
	if line, err := plotter.NewLine(points); err == nil {
		line.LineStyle, line.StepStyle = style, plotter.PostStep
		p.Add(line)
	}
}

// mark marks a day with its name on top.
func mark(p *plot.Plot, day Date, name string, style draw.LineStyle) {
	top := p.Y.Max
	line, err := plotter.NewLine(plotter.XYs{{X: float64(day), Y: 0}, {X: float64(day), Y: top}})
	labels, failed := plotter.NewLabels(plotter.XYLabels{XYs: plotter.XYs{{X: float64(day), Y: top}}, Labels: []string{name}})
	if err != nil || failed != nil { // of no value
		return
	}
	line.LineStyle = style
	text := &labels.TextStyle[0]
	text.Font, text.Color, text.XAlign, text.YAlign = p.X.Tick.Label.Font, style.Color, draw.XCenter, draw.YBottom
	labels.Offset = vg.Point{Y: 2}
	p.Add(line, labels)
}
