package exchange_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/briefs"
	"jantrel/core/forecast"
	"jantrel/core/program"
	"jantrel/core/reports"
	"jantrel/internal/exchange"
)

// written is a brief that names items in all of its ways.
func written() briefs.Written {
	n := 3.0
	return briefs.Written{
		Title: "Plan", About: "First Light", Day: "2 Mar 2027",
		Items: []briefs.ItemRef{{Key: "LC-8", Title: "Lamps"}, {Key: "TW-1", Title: "Towers"}},
		Sections: []briefs.Told{
			{Key: "1", Title: "In short", Text: "First LC-8, then *TW-1*. Not LC-80, ABLC-8, LC-8-b, `LC-8`, [LC-8](https://example.org/LC-8) or XX-1.",
				Blocks: []briefs.Block{{Text: "Lamps (LC-8) <b>wait</b>."}, {List: []string{"Towers (TW-1)"}}, {Markdown: "# LC-8\n"},
					{Head: []string{"Item", "Size"}, Rows: [][]string{{"Lamps (LC-8)", "3"}}, Figures: []bool{false, true}}}},
			{Key: "2", Title: "A chart", Blocks: []briefs.Block{{
				Chart: &reports.Chart{Of: reports.Items, Split: []string{"state"}, Measure: "number", Form: reports.Bars},
				Drawn: &reports.Drawn{Sentence: "3 items.", Table: &reports.Table{Rows: []reports.Value{{Key: "done", Title: "done", Tone: "c0"}}, Totals: []*float64{&n}, Total: &n, Unit: reports.Number}}}}},
			{Key: "3", Title: "Done and to come", Blocks: []briefs.Block{{
				BurnUp: &forecast.BurnUp{Measure: forecast.Measure{In: forecast.InItems}, Past: []forecast.Burned{{Day: program.Date(20000), Total: 4, Done: 1}, {Day: program.Date(20010), Total: 4, Done: 2}}},
				Head:   []string{"Day", "Done"}, Rows: [][]string{{"2 Mar", "2 items"}}, Figures: []bool{false, true}}}},
		},
	}
}

// Keys of items lead to them, wherever they stand as words; links, code and longer words are left as they are.
func TestKeysInABriefLeadToTheirItems(t *testing.T) {
	b := written()
	var md, page, bare strings.Builder
	head := exchange.Masthead{Program: "https://plans.example/programs/1"}
	require.NoError(t, exchange.WriteBrief(&md, &b, head))
	require.NoError(t, exchange.WriteBriefPage(&page, &b, head))
	require.NoError(t, exchange.WriteBriefPage(&bare, &b, exchange.Masthead{}))

	const lamps = "https://plans.example/programs/1/backlog?item=LC-8"
	assert.Equal(t, 4, strings.Count(md.String(), "[LC-8]("+lamps+")"), md.String())
	assert.Equal(t, 2, strings.Count(md.String(), "[TW-1](https://plans.example/programs/1/backlog?item=TW-1)"), md.String())
	assert.Contains(t, md.String(), "Not LC-80, ABLC-8, LC-8-b, `LC-8`, [LC-8](https://example.org/LC-8) or XX-1.")
	assert.Equal(t, 4, strings.Count(page.String(), `<a href="`+lamps+`">LC-8</a>`), page.String())
	assert.Contains(t, page.String(), "&lt;b&gt;wait&lt;/b&gt;")
	assert.NotContains(t, bare.String(), "plans.example")
	assert.Equal(t, 1, strings.Count(bare.String(), "<a href"), "the one that somebody wrote")
}

// A page has pictures with the figures behind them; what is text alone has the figures.
func TestABriefHasItsPictures(t *testing.T) {
	b := written()
	var md, page strings.Builder
	require.NoError(t, exchange.WriteBrief(&md, &b, exchange.Masthead{}))
	require.NoError(t, exchange.WriteBriefPage(&page, &b, exchange.Masthead{}))
	assert.Equal(t, 2, strings.Count(page.String(), "<svg"))
	assert.Equal(t, 2, strings.Count(page.String(), "<details>"))
	assert.NotContains(t, page.String(), "<script")
	assert.Contains(t, md.String(), "| done | 3 |")
	assert.Contains(t, md.String(), "| 2 Mar | 2 items |")
	assert.NotContains(t, md.String(), "<svg")
}
