package picture_test

import (
	"bufio"
	"encoding/xml"
	"fmt"
	"math"
	"os"
	"regexp"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/backlog"
	"jantrel/core/forecast"
	"jantrel/core/needs"
	"jantrel/core/plan"
	"jantrel/core/reports"
	"jantrel/core/sample"
	"jantrel/internal/picture"
)

// Of any program, each form of a chart is drawn, whole and without a figure that is none.
func TestChartsOfAnyProgramAreDrawn(t *testing.T) {
	for seed := range uint64(12) {
		p := sample.Program(seed, sample.Shape{Teams: 3, Iterations: 4, Items: 3 + int(seed)*4, Needs: int(seed), Wild: true})
		k := &reports.Known{Index: backlog.NewIndex(plan.Of(p), backlog.Options{Today: p.Today}), Today: p.Today}
		for _, form := range []reports.Form{reports.Bars, reports.Stacked, reports.Lines, reports.Areas, reports.Ring} {
			for _, split := range [][]string{{"state"}, {"team"}, {"iteration", "state"}, {"team", "kind"}} {
				c := reports.Chart{Of: reports.Items, Split: split, Measure: "number", Form: form}
				table, err := reports.Of(k, &c)
				require.NoError(t, err)
				drawn := picture.Chart(&c, &reports.Drawn{Table: &table})
				name := fmt.Sprintf("seed %d, %s of %v", seed, form, split)
				if len(table.Rows) == 0 {
					assert.Nil(t, drawn, name)
					continue
				}
				require.NotNil(t, drawn, name)
				whole(t, drawn, name)
				if form != reports.Ring && len(split) > 1 && len(table.Columns) > 1 {
					assert.Len(t, drawn.Key, len(table.Columns), name)
				}
			}
		}
	}
}

// whole checks that a picture is one element of XML in which each number is one.
func whole(t *testing.T, p *picture.Picture, name string) {
	t.Helper()
	require.True(t, strings.HasPrefix(p.SVG, "<svg"), name)
	d := xml.NewDecoder(strings.NewReader(p.SVG))
	for {
		_, err := d.Token()
		if err != nil {
			require.ErrorContains(t, err, "EOF", name)
			break
		}
	}
	for _, none := range []string{"NaN", "Inf"} {
		assert.NotContains(t, p.SVG, none, name)
	}
	for _, e := range p.Key {
		assert.Regexp(t, "^#[0-9a-f]{6}$", e.Colour, name)
	}
}

var number = regexp.MustCompile(`-?\d+(\.\d+)?`)

// The bars of a chart are as long as its figures, and as many: read off the picture itself.
func TestBarsAreAsLongAsTheirFigures(t *testing.T) {
	values := []float64{3, 12, 0, 7}
	table := reports.Table{Unit: reports.Number}
	for i, v := range values {
		table.Rows = append(table.Rows, reports.Value{Key: strconv.Itoa(i), Title: "Team " + strconv.Itoa(i)})
		table.Totals = append(table.Totals, &v)
	}
	c := reports.Chart{Of: reports.Items, Split: []string{"team"}, Measure: "number", Form: reports.Bars}
	drawn := picture.Chart(&c, &reports.Drawn{Table: &table})
	var lengths []float64
	for line := range strings.Lines(drawn.SVG) {
		if !strings.Contains(line, "fill:#2A7078") {
			continue
		}
		var xs []float64
		path := line[strings.Index(line, `d="`)+3:]
		for i, n := range number.FindAllString(path[:strings.Index(path, `"`)], -1) {
			if x, _ := strconv.ParseFloat(n, 64); i%2 == 0 {
				xs = append(xs, x)
			}
		}
		low, high := math.Inf(1), math.Inf(-1)
		for _, x := range xs {
			low, high = min(low, x), max(high, x)
		}
		lengths = append(lengths, high-low)
	}
	require.Len(t, lengths, len(values), drawn.SVG)
	for i, v := range values {
		assert.InDelta(t, v/12*lengths[1], lengths[i], 0.5, "%v", lengths)
	}
	assert.Contains(t, drawn.SVG, "Team 3")
	assert.Contains(t, drawn.SVG, ">12<")
}

// Names are words in a picture, whatever they look like.
func TestNamesRunNothing(t *testing.T) {
	n := 3.0
	bad := `<script>x</script>"&'`
	table := reports.Table{Rows: []reports.Value{{Key: "a", Title: bad}, {Key: "b", Title: "B"}}, Totals: []*float64{&n, &n}, Unit: reports.Number}
	for _, form := range []reports.Form{reports.Bars, reports.Lines, reports.Ring} {
		drawn := picture.Chart(&reports.Chart{Of: reports.Items, Split: []string{"team"}, Measure: "number", Form: form}, &reports.Drawn{Table: &table})
		whole(t, drawn, string(form))
		assert.NotContains(t, drawn.Whole(), "<script")
	}
	assert.NotContains(t, picture.Needs([]needs.Cell{{Gives: "a", Waits: "b", Wanted: needs.Wanted{Needs: 1}}}, []string{"a", "b"}, func(string) string { return bad }), "<script")
}

// What is a table, a figure or a list is no picture, and neither is what failed.
func TestWhatIsNoPicture(t *testing.T) {
	n := 3.0
	table := reports.Table{Rows: []reports.Value{{Key: "a", Title: "A"}}, Totals: []*float64{&n}, Unit: reports.Number}
	for _, form := range []reports.Form{reports.Grid, reports.Figure, reports.List} {
		assert.Nil(t, picture.Chart(&reports.Chart{Split: []string{"team"}, Form: form}, &reports.Drawn{Table: &table}))
	}
	assert.Nil(t, picture.Chart(&reports.Chart{Split: []string{"team"}, Form: reports.Bars}, &reports.Drawn{Failed: "Choose shares."}))
	assert.Nil(t, picture.BurnUp(&forecast.BurnUp{}))
}

// Forecasts of any program are drawn, from the first day that is known to the last that was played.
func TestBurnUpsOfAnyProgramAreDrawn(t *testing.T) {
	for seed := range uint64(12) {
		p := sample.Program(seed, sample.Shape{Teams: 3, Iterations: 4, Items: 3 + int(seed)*3, Needs: int(seed), Wild: true})
		pl := plan.Of(p)
		var keys []string
		for i := range p.Items {
			keys = append(keys, p.Items[i].Key)
		}
		for _, in := range []forecast.In{forecast.InShare, forecast.InItems, forecast.InHours} {
			m := forecast.Measure{In: in}
			o := forecast.OutlookOf(pl, forecast.OutlookQuestion{Options: forecast.Options{Plays: 50, Seed: 1, Today: p.Today}, Measure: m, Set: forecast.Set{Items: keys, Due: p.Today.Add(30)}})
			b := forecast.BurnUp{Measure: m, Fan: o.Fan, Landing: o.Landing, Past: []forecast.Burned{{Day: p.Today.Add(-20), Total: 0.9, Done: 0.1}, {Day: p.Today, Total: o.Fan.Total, Done: o.Fan.Done}}}
			drawn := picture.BurnUp(&b)
			name := fmt.Sprintf("seed %d, %s", seed, in)
			require.NotNil(t, drawn, name)
			whole(t, drawn, name)
			assert.Contains(t, drawn.SVG, "due "+p.Today.Add(30).Short(), name)
		}
	}
}

// Colours on paper are those of the page in light.
func TestTonesAreThoseOfThePage(t *testing.T) {
	file, err := os.Open("../../web/src/theme/tokens.css")
	require.NoError(t, err)
	defer func() { _ = file.Close() }()
	page := map[string]string{}
	set := regexp.MustCompile(`^\s*--([a-z0-9]+): (#[0-9a-f]{6});`)
	for lines := bufio.NewScanner(file); lines.Scan(); {
		if m := set.FindStringSubmatch(lines.Text()); m != nil && page[m[1]] == "" { // light stands first
			page[m[1]] = m[2]
		}
	}
	for name, colour := range picture.Tones {
		assert.Equal(t, page[name], colour, name)
	}
	for _, of := range [][2]string{{"state", "done"}, {"state", "todo"}, {"status", "holds"}, {"status", "broken"}, {"team", ""}} {
		assert.Contains(t, picture.Tones, reports.Tone(of[0], of[1]))
	}
}
