package exchange

import (
	"bufio"
	"encoding/xml"
	"fmt"
	"io"
	"slices"
	"strconv"
	"strings"

	ics "github.com/arran4/golang-ical"

	"jantrel/core/needs"
	"jantrel/core/program"
	"jantrel/internal/picture"
)

// NeedsFormats are the formats that needs are written in.
var NeedsFormats = []string{"csv", "ics", "dot", "mermaid", "graphml", "svg"}

// WriteNeeds writes needs across teams in one of NeedsFormats: as a table; as a calendar of the days by which they are due,
// seen on a day; as a graph of items by team, each arrow from what is needed to what waits for it; or as a picture of who owes whom.
func WriteNeeds(w io.Writer, format string, p program.Program, today program.Date, owed []needs.Concerned) error {
	g := graphOf(p, owed)
	switch format {
	case "csv":
		return g.csv(w)
	case "ics":
		return g.calendar(w, today)
	case "dot":
		return g.dot(w)
	case "mermaid":
		return g.mermaid(w)
	case "graphml":
		return g.graphML(w)
	case "svg":
		return g.picture(w, &p, today)
	}
	return fmt.Errorf("needs are not written as %q", format)
}

// needsGraph is needs as a graph of items.
type needsGraph struct {
	owed  []needs.Concerned
	items map[string]*program.Item
	teams map[string]string // their names
	nodes []needsNode       // by team, in the order in which they come up
}

// needsNode is an item of a graph, with the name of its team.
type needsNode struct{ key, title, team string }

func graphOf(p program.Program, owed []needs.Concerned) *needsGraph {
	g := &needsGraph{owed, map[string]*program.Item{}, map[string]string{"": "Nobody"}, nil}
	for i := range p.Items {
		g.items[p.Items[i].Key] = &p.Items[i]
	}
	for _, t := range p.Teams {
		g.teams[t.Key] = t.Name
	}
	seen := map[string]bool{}
	for _, o := range owed {
		for _, key := range []string{o.Needs, o.Item} {
			if item := g.items[key]; item != nil && !seen[key] {
				seen[key] = true
				team := g.teams[item.Team]
				if item.Team == "" {
					team = "No team" // as what is above several
				}
				g.nodes = append(g.nodes, needsNode{key, item.Title, team})
			}
		}
	}
	slices.SortStableFunc(g.nodes, func(a, b needsNode) int { return strings.Compare(a.team, b.team) })
	return g
}

// picture draws who owes whom of it.
func (g *needsGraph) picture(w io.Writer, p *program.Program, today program.Date) error {
	cells := needs.CellsOf(p, today, func(yield func(needs.Owed) bool) {
		for i := range g.owed {
			if !yield(g.owed[i].Owed) {
				return
			}
		}
	})
	there := map[string]bool{}
	for _, c := range cells {
		there[c.Gives], there[c.Waits] = true, true
	}
	var teams []string
	for _, t := range p.Teams {
		if there[t.Key] {
			teams = append(teams, t.Key)
		}
	}
	if there[""] {
		teams = append(teams, "")
	}
	_, err := io.WriteString(w, picture.Needs(cells, teams, func(team string) string { return g.teams[team] }))
	return err
}

// label is how a need stands, in a few words.
func (g *needsGraph) label(o *needs.Owed) string {
	text := string(o.Status)
	if o.Spare != nil {
		text = strconv.Itoa(*o.Spare) + " d"
	}
	if o.Agreement != program.Agreed {
		text += ", " + string(o.Agreement)
	}
	return text
}

var needsColumns = []column{{"Item", 12, false}, {"Title", 28, false}, {"Team", 20, false}, {"Needs", 12, false}, {"Its title", 28, false}, {"Of team", 20, false},
	{"Wanted by", 12, false}, {"Done by", 12, false}, {"Status", 10, false}, {"Spare days", 10, false}, {"Agreement", 12, false},
	{"Day given", 12, false}, {"Said with it", 28, false}, {"Overdue", 10, false}}

func (g *needsGraph) csv(w io.Writer) error {
	rows := make([][]cell, len(g.owed))
	date := func(d program.Date) cell {
		if d.IsZero() {
			return ""
		}
		return d
	}
	for i, o := range g.owed {
		var spare cell = ""
		if o.Spare != nil {
			spare = float64(*o.Spare)
		}
		overdue := ""
		if o.Overdue {
			overdue = "yes"
		}
		rows[i] = []cell{o.Item, g.title(o.Item), g.teams[o.Waits], o.Needs, g.title(o.Needs), g.teams[o.Gives], date(o.By), date(o.Until), string(o.Status), spare, string(o.Agreement),
			date(o.Given), o.Why, overdue}
	}
	return writeRows(w, needsColumns, rows)
}

func (g *needsGraph) title(key string) string {
	if item := g.items[key]; item != nil {
		return item.Title
	}
	return ""
}

// calendar writes an all-day event for each need that has a day by which it is due (RFC 5545).
func (g *needsGraph) calendar(w io.Writer, today program.Date) error {
	c := ics.NewCalendar()
	c.SetProductId("-//Jantrel//needs//EN")
	for _, o := range g.owed {
		if o.By.IsZero() {
			continue
		}
		e := allDay(c, fmt.Sprintf("%s-needs-%s-%s-%s@jantrel", o.Item, o.Needs, o.Waits, o.Gives), o.By, o.By, today, fmt.Sprintf("%s %s, for %s", o.Needs, g.title(o.Needs), o.Item))
		said := string(o.Agreement)
		if !o.Given.IsZero() {
			said += " for " + o.Given.Short()
		}
		e.SetDescription(fmt.Sprintf("%s gives it to %s: %s %s needs it. %s.", g.teams[o.Gives], g.teams[o.Waits], o.Item, g.title(o.Item), said))
	}
	return c.SerializeTo(w, ics.WithNewLineWindows) // as RFC 5545 has them
}

// dot writes a directed graph of DOT, a cluster for each team; what is broken is drawn as a bold dashed line.
func (g *needsGraph) dot(w io.Writer) error {
	out := bufio.NewWriter(w)
	fmt.Fprintln(out, "digraph needs {\n\trankdir=LR;\n\tnode [shape=box];")
	for i, team := range g.byTeam() {
		fmt.Fprintf(out, "\tsubgraph cluster_%d {\n\t\tlabel=%s;\n", i, dotText(team[0].team))
		for _, n := range team {
			fmt.Fprintf(out, "\t\t%s [label=%s];\n", dotText(n.key), dotText(n.key+" "+n.title))
		}
		fmt.Fprintln(out, "\t}")
	}
	for i := range g.owed {
		o := &g.owed[i]
		style := ""
		if o.Status == needs.StatusBroken {
			style = `, style="bold,dashed"`
		}
		fmt.Fprintf(out, "\t%s -> %s [label=%s%s];\n", dotText(o.Needs), dotText(o.Item), dotText(g.label(&o.Owed)), style)
	}
	fmt.Fprintln(out, "}")
	return out.Flush()
}

// dotText is a quoted string of DOT.
func dotText(text string) string {
	return `"` + strings.NewReplacer(`\`, `\\`, `"`, `\"`, "\n", " ").Replace(text) + `"`
}

// byTeam are the nodes of each team.
func (g *needsGraph) byTeam() (teams [][]needsNode) {
	for i, n := range g.nodes {
		if i == 0 || g.nodes[i-1].team != n.team {
			teams = append(teams, nil)
		}
		teams[len(teams)-1] = append(teams[len(teams)-1], n)
	}
	return teams
}

// mermaid writes a flowchart of Mermaid; what is broken is dotted.
func (g *needsGraph) mermaid(w io.Writer) error {
	out := bufio.NewWriter(w)
	fmt.Fprintln(out, "flowchart LR")
	id := map[string]string{}
	for i, team := range g.byTeam() {
		fmt.Fprintf(out, "  subgraph team%d [%s]\n", i, mermaidText(team[0].team))
		for _, n := range team {
			id[n.key] = fmt.Sprintf("n%d", len(id))
			fmt.Fprintf(out, "    %s[%s]\n", id[n.key], mermaidText(n.key+" "+n.title))
		}
		fmt.Fprintln(out, "  end")
	}
	for i := range g.owed {
		o := &g.owed[i]
		line := "-->"
		if o.Status == needs.StatusBroken {
			line = "-.->"
		}
		fmt.Fprintf(out, "  %s %s|%s| %s\n", id[o.Needs], line, mermaidText(g.label(&o.Owed)), id[o.Item])
	}
	return out.Flush()
}

// mermaidText is a quoted text of Mermaid, which knows entities in place of what would end it.
func mermaidText(text string) string {
	return `"` + strings.NewReplacer("#", "#35;", `"`, "#quot;", "\n", " ").Replace(text) + `"`
}

// The parts of a GraphML document.
type (
	graphML struct {
		XMLName xml.Name       `xml:"http://graphml.graphdrawing.org/xmlns graphml"`
		Keys    []graphMLKey   `xml:"key"`
		Graph   graphMLContent `xml:"graph"`
	}
	graphMLKey struct {
		ID   string `xml:"id,attr"`
		For  string `xml:"for,attr"`
		Name string `xml:"attr.name,attr"`
		Type string `xml:"attr.type,attr"`
	}
	graphMLContent struct {
		ID    string        `xml:"id,attr"`
		Edges string        `xml:"edgedefault,attr"`
		Nodes []graphMLNode `xml:"node"`
		Arcs  []graphMLArc  `xml:"edge"`
	}
	graphMLNode struct {
		ID   string        `xml:"id,attr"`
		Data []graphMLData `xml:"data"`
	}
	graphMLArc struct {
		Source string        `xml:"source,attr"`
		Target string        `xml:"target,attr"`
		Data   []graphMLData `xml:"data"`
	}
	graphMLData struct {
		Key   string `xml:"key,attr"`
		Value string `xml:",chardata"`
	}
)

func (g *needsGraph) graphML(w io.Writer) error {
	key := func(of, name, kind string) graphMLKey { return graphMLKey{name, of, name, kind} }
	all := graphML{Graph: graphMLContent{ID: "needs", Edges: "directed"}, Keys: []graphMLKey{
		key("node", "title", "string"), key("node", "team", "string"),
		key("edge", "status", "string"), key("edge", "spare", "int"), key("edge", "agreement", "string"), key("edge", "by", "string"),
	}}
	for _, n := range g.nodes {
		all.Graph.Nodes = append(all.Graph.Nodes, graphMLNode{n.key, []graphMLData{{"title", n.title}, {"team", n.team}}})
	}
	for _, o := range g.owed {
		data := []graphMLData{{"status", string(o.Status)}, {"agreement", string(o.Agreement)}}
		if o.Spare != nil {
			data = append(data, graphMLData{"spare", strconv.Itoa(*o.Spare)})
		}
		if !o.By.IsZero() {
			data = append(data, graphMLData{"by", o.By.String()})
		}
		all.Graph.Arcs = append(all.Graph.Arcs, graphMLArc{o.Needs, o.Item, data})
	}
	if _, err := io.WriteString(w, xml.Header); err != nil {
		return err
	}
	encoder := xml.NewEncoder(w)
	encoder.Indent("", "  ")
	return encoder.Encode(all)
}
