package exchange_test

import (
	"bytes"
	"encoding/csv"
	"encoding/xml"
	"fmt"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/graph/encoding/dot"
	"gonum.org/v1/gonum/graph/multi"

	"jantrel/core/calendar"
	"jantrel/core/needs"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/sample"
	"jantrel/internal/exchange"
)

// Each format says of every need, and of every item, what there is; titles with quotes, marks and lines too.
func TestNeedsAreReadBack(t *testing.T) {
	p := sample.Program(4, sample.Shape{Teams: 3, Iterations: 6, Items: 30, Needs: 40, Wild: true})
	for i := range p.Items {
		p.Items[i].Title = fmt.Sprintf(`Lamp "%d" <#1> \ & more`, i)
	}
	owed := needs.OfAll(needs.OwedOf(plan.Of(p)), sample.Today)
	require.Greater(t, len(owed), 10)
	nodes := map[string]bool{}
	for _, o := range owed {
		nodes[o.Item], nodes[o.Needs] = true, true
	}
	write := func(format string) string {
		var out bytes.Buffer
		require.NoError(t, exchange.WriteNeeds(&out, format, p, sample.Today, owed))
		return out.String()
	}

	rows, err := csv.NewReader(strings.NewReader(write("csv"))).ReadAll()
	require.NoError(t, err)
	require.Len(t, rows, len(owed)+1)
	for i, o := range owed {
		assert.Equal(t, []string{o.Item, o.Needs, string(o.Status), string(o.Agreement)}, []string{rows[i+1][0], rows[i+1][3], rows[i+1][8], rows[i+1][10]})
	}

	window := calendar.Span{Start: sample.Today.Add(-400), End: sample.Today.Add(400)}
	events, err := exchange.ReadCalendar(t.Context(), strings.NewReader(write("ics")), window)
	require.NoError(t, err)
	at := 0 // both are by day
	for _, o := range owed {
		if o.By.IsZero() {
			continue
		}
		require.Less(t, at, len(events))
		assert.Equal(t, []program.Date{o.By, o.By}, []program.Date{events[at].From, events[at].To})
		assert.Contains(t, events[at].Name, o.Needs+" Lamp \"")
		at++
	}
	assert.Len(t, events, at)
	assert.Greater(t, at, 5)

	graph := multi.NewDirectedGraph()
	text := write("dot")
	require.NoError(t, dot.UnmarshalMulti([]byte(text), graph), text)
	assert.Equal(t, len(nodes), graph.Nodes().Len())
	arrows := 0
	for edges := graph.Edges(); edges.Next(); {
		arrows += edges.Edge().(multi.Edge).Len()
	}
	assert.Equal(t, len(owed), arrows)

	var xmlGraph struct {
		Graph struct {
			Nodes []struct {
				ID   string   `xml:"id,attr"`
				Data []string `xml:"data"`
			} `xml:"node"`
			Edges []struct {
				Source string `xml:"source,attr"`
				Target string `xml:"target,attr"`
			} `xml:"edge"`
		} `xml:"graph"`
	}
	require.NoError(t, xml.Unmarshal([]byte(write("graphml")), &xmlGraph))
	require.Len(t, xmlGraph.Graph.Edges, len(owed))
	for i, e := range xmlGraph.Graph.Edges {
		assert.Equal(t, []string{owed[i].Needs, owed[i].Item}, []string{e.Source, e.Target})
	}
	for _, n := range xmlGraph.Graph.Nodes {
		assert.True(t, nodes[n.ID])
		assert.Contains(t, n.Data[0], `<#1> \ & more`)
	}

	// Every line of Mermaid is a node in one team's part, or an arrow between two that are there.
	named := map[string]string{}
	node := regexp.MustCompile(`^    (n\d+)\["(\S+) [^"]*"\]$`)
	arrow := regexp.MustCompile(`^  (n\d+) (?:-->|-\.->)\|"[^"]*"\| (n\d+)$`)
	count := 0
	for _, line := range strings.Split(write("mermaid"), "\n") {
		if m := node.FindStringSubmatch(line); m != nil {
			named[m[1]] = m[2]
		} else if m := arrow.FindStringSubmatch(line); m != nil {
			assert.Equal(t, []string{owed[count].Needs, owed[count].Item}, []string{named[m[1]], named[m[2]]})
			count++
		} else {
			assert.Regexp(t, `^(flowchart LR|  subgraph team\d+ \["[^"]*"\]|  end|)$`, line)
		}
	}
	assert.Equal(t, len(owed), count)
	assert.Len(t, named, len(nodes))
	drawn := write("svg")
	cells := needs.MapOf(plan.Of(p), sample.Today)
	require.Greater(t, len(cells), 2)
	assert.Equal(t, len(cells), strings.Count(drawn, `font-weight="700"`), "a number for each cell")
	bars := 0
	for _, c := range cells {
		assert.Contains(t, drawn, fmt.Sprintf(`font-weight="700">%d</text>`, c.Needs))
		for _, many := range []int{c.Needs - c.Tight - c.Broken, c.Tight, c.Broken} {
			if many > 0 {
				bars++
			}
		}
	}
	assert.Equal(t, bars, strings.Count(drawn, `height="6"`))
	require.NoError(t, xml.Unmarshal([]byte(drawn), new(struct{ XMLName xml.Name })))
	assert.EqualError(t, exchange.WriteNeeds(&bytes.Buffer{}, "pdf", p, sample.Today, owed), `needs are not written as "pdf"`)
	assert.NoError(t, exchange.WriteNeeds(&bytes.Buffer{}, "mermaid", program.Program{}, sample.Today, nil))
}
