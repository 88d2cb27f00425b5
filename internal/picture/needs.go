package picture

import (
	"fmt"
	"html"
	"strings"

	"jantrel/core/needs"
)

// The sides of a map of needs, in pixels.
const (
	mapLeft, mapTop  = 150, 52
	cellWide, cellUp = 84, 48
)

// Needs draws who owes whom: down the teams that give, across those that wait, and in each cell how many needs there are,
// how they stand, and how many nobody has agreed to. teams are keys, in their order.
func Needs(cells []needs.Cell, teams []string, name func(team string) string) string {
	d := drawing{}
	at := map[string]int{}
	d.text(8, 20, 12, "quiet", "", "Who owes whom. Down: the team that gives. Across: the team that waits.")
	for n, team := range teams {
		at[team] = n
		d.text(mapLeft+n*cellWide+4, mapTop-12, 12, "ink", "600", cut(name(team), cellWide))
		d.text(8, mapTop+n*cellUp+28, 12, "ink", "600", cut(name(team), mapLeft-16))
		for m := range teams {
			fill := "panel"
			if m == n {
				fill = "rule"
			}
			d.box(float64(mapLeft+m*cellWide), mapTop+n*cellUp, cellWide, cellUp, fill, ` stroke="`+Tones["rule"]+`"`)
		}
	}
	for _, c := range cells {
		x, y := mapLeft+at[c.Waits]*cellWide, mapTop+at[c.Gives]*cellUp
		d.text(x+8, y+21, 15, "ink", "700", fmt.Sprint(c.Needs))
		if c.Open > 0 {
			d.text(x+34, y+20, 12, "quiet", "", fmt.Sprintf("%d?", c.Open))
		}
		from := float64(x + 8)
		for k, many := range []int{c.Needs - c.Tight - c.Broken, c.Tight, c.Broken} {
			long := float64(cellWide-16) * float64(many) / float64(c.Needs)
			if many > 0 {
				d.box(from, y+32, long, 6, stands[k].tone, "")
			}
			from += long
		}
	}
	foot, x := mapTop+len(teams)*cellUp+24, 8
	for _, s := range stands {
		d.box(float64(x), foot-9, 18, 8, s.tone, "")
		d.text(x+24, foot, 12, "quiet", "", s.name)
		x += 48 + 7*len(s.name)
	}
	d.text(x, foot, 12, "quiet", "", "? not agreed yet")
	return d.whole(max(mapLeft+len(teams)*cellWide+8, x+120), foot+12)
}

// stands are how needs stand, in the order in which they are drawn.
var stands = []struct{ name, tone string }{{"holds", "water"}, {"no day to spare", "caution"}, {"broken", "needs"}}

// drawing is SVG that is being written.
type drawing struct{ strings.Builder }

func (d *drawing) box(x float64, y int, width float64, height int, tone, more string) {
	fmt.Fprintf(d, `<rect x="%g" y="%d" width="%g" height="%d" fill="%s"%s/>`+"\n", x, y, width, height, Tones[tone], more)
}

func (d *drawing) text(x, y, size int, tone, weight, text string) {
	if weight != "" {
		weight = ` font-weight="` + weight + `"`
	}
	fmt.Fprintf(d, `<text x="%d" y="%d" font-size="%d" fill="%s"%s>%s</text>`+"\n", x, y, size, Tones[tone], weight, html.EscapeString(text))
}

func (d *drawing) whole(width, height int) string {
	return fmt.Sprintf(`<svg xmlns="http://www.w3.org/2000/svg" width="%d" height="%d" viewBox="0 0 %d %d" font-family="sans-serif">`+"\n%s</svg>\n", width, height, width, height, d.String())
}

// cut is what of a name is drawn in so many pixels, about.
func cut(name string, width int) string {
	letters, most := []rune(name), width/7
	if len(letters) <= most {
		return name
	}
	return string(letters[:max(1, most-1)]) + "…"
}
