package intake

import (
	"cmp"
	"fmt"
	"regexp"
	"strings"

	"jantrel/core/backlog"
	"jantrel/core/program"
)

// Node is one line of an outline.
type Node struct {
	Line    int          `json:"line"`              // counted from 1
	Depth   int          `json:"depth"`             // counted from 0, one more than its parent's
	Item    program.Item `json:"item"`              // as it was understood
	Group   bool         `json:"group,omitempty"`   // others stand below it
	Unknown []string     `json:"unknown,omitempty"` // what stands among others in the brackets and was not understood; it stays in the title
}

// Under is where an outline is put: below which item of the rank, and what its
// items take where their lines say nothing.
type Under struct {
	After     string `json:"after,omitempty"`  // the item below which they are ranked; empty: at the end
	Parent    string `json:"parent,omitempty"` // what the top lines are part of
	Team      string `json:"team,omitempty"`
	Release   string `json:"release,omitempty"`
	Iteration string `json:"iteration,omitempty"`
}

var (
	bullet   = regexp.MustCompile(`^(?:[-*+•]|\d+[.)])(?:\s+|$)`)
	heading  = regexp.MustCompile(`^(#{1,6})\s+`)
	checkbox = regexp.MustCompile(`^\[([ xX])\]\s+`)
	inParens = regexp.MustCompile(`^(.*\S)\s*\(([^()]*)\)$`)
)

// tabWidth is how far a tab indents a line.
const tabWidth = 4

// Outline reads a Markdown list, one item a line:
//
//   - Lamps that answer
//   - Lamp heartbeat
//   - Heartbeat frame (5 pt, LC)
//   - [x] Missed-beat counter (3, #radio)
//
// Lines may have a bullet or a number, or none; headings stand above the lines that
// follow them. What is indented further belongs to the line above. In parentheses
// at the end of a line stand, in any order and set off by commas: a size, a team,
// a kind, a release, and tags with a # before them. What else stands among these stays
// in the title and is noted; parentheses in which nothing of it stands belong to the
// title. A ticked box means done. A line with others
// below it is a feature, one with features below it an initiative.
func Outline(x *backlog.Index, text string) []Node {
	find := newFinder(x.Plan())
	var nodes []Node
	type open struct{ indent, depth int }
	var above []open
	for number, line := range strings.Split(strings.ReplaceAll(text, "\r\n", "\n"), "\n") {
		body := strings.TrimSpace(line)
		if body == "" {
			continue
		}
		indent := indentOf(line)
		if h := heading.FindStringSubmatch(body); h != nil {
			body = body[len(h[0]):]
			indent = len(h[1]) - 100 // headings stand further out than any line
		} else {
			body = bullet.ReplaceAllString(body, "")
		}
		above = cut(above, func(o open) bool { return o.indent < indent })
		depth := 0
		if len(above) > 0 {
			depth = above[len(above)-1].depth + 1
		}
		node := Node{Line: number + 1, Depth: depth, Item: program.Item{State: program.Todo}}
		node.Unknown = readLine(find, strings.TrimSpace(body), &node.Item)
		if node.Item.Title == "" {
			continue
		}
		if n := len(nodes); n > 0 && depth > nodes[n-1].Depth {
			nodes[n-1].Group = true
		}
		above = append(above, open{indent, depth})
		nodes = append(nodes, node)
	}
	kinds(nodes)
	return nodes
}

// cut drops from the end what does not stand above a line.
func cut[T any](list []T, stands func(T) bool) []T {
	for len(list) > 0 && !stands(list[len(list)-1]) {
		list = list[:len(list)-1]
	}
	return list
}

func indentOf(line string) int {
	width := 0
	for _, r := range line {
		switch r {
		case ' ', '\u00a0':
			width++
		case '\t':
			width += tabWidth - width%tabWidth
		default:
			return width
		}
	}
	return width
}

// readLine reads a title and what stands in parentheses behind it. It returns what
// stands among the rest there and is not understood.
func readLine(find *finder, text string, item *program.Item) (unknown []string) {
	if box := checkbox.FindStringSubmatch(text); box != nil {
		text = strings.TrimSpace(text[len(box[0]):])
		if box[1] != " " {
			item.State = program.Done
		}
	}
	item.Title = text
	m := inParens.FindStringSubmatch(text)
	if m == nil {
		return nil
	}
	with := *item
	with.Title = m[1]
	understood := 0
	for _, part := range strings.Split(m[2], ",") {
		if part = strings.TrimSpace(part); readPart(find, part, &with) {
			understood++
		} else if part != "" {
			unknown = append(unknown, part)
		}
	}
	if understood == 0 {
		return nil
	}
	if len(unknown) > 0 {
		with.Title += " (" + strings.Join(unknown, ", ") + ")"
	}
	*item = with
	return unknown
}

// readPart reads one thing in parentheses, and reports whether it could.
func readPart(find *finder, part string, item *program.Item) bool {
	if tag, ok := strings.CutPrefix(part, "#"); ok && tag != "" {
		item.Tags = append(item.Tags, tag)
		return true
	}
	if part == "" {
		return false
	}
	if key, err := find.team(part); err == nil && item.Team == "" {
		item.Team = key
		return true
	}
	if key, err := find.named(program.KindRelease, part); err == nil && item.Release == "" {
		item.Release = key
		return true
	}
	if kind, err := kindOf(part); err == nil && item.Kind == "" {
		item.Kind = kind
		return true
	}
	if size, err := sizeOf(part); err == nil && item.Size == nil && sizeWord.MatchString(part) {
		item.Size = size
		return true
	}
	return false
}

var sizeWord = regexp.MustCompile(`^\d+(?:[.,]\d+)?\s*(?:pt|pts|points?|d|days?|h|hours?)?$`)

// kinds gives lines that say none their kind, by what stands below them.
func kinds(nodes []Node) {
	for i := range nodes {
		n := &nodes[i]
		if n.Item.Kind != "" && !(n.Group && !n.Item.Kind.IsGroup()) {
			continue
		}
		if !n.Group {
			n.Item.Kind = program.Story
			continue
		}
		n.Item.Kind = program.Feature
		for j := i + 1; j < len(nodes) && nodes[j].Depth > n.Depth; j++ {
			if nodes[j].Depth == n.Depth+1 && nodes[j].Group {
				n.Item.Kind = program.Initiative
				break
			}
		}
	}
}

// ReadOutline reads an outline as it would be put somewhere: with the keys, teams, places
// and releases that its items would get. A line that names no team takes that of a line
// beside it, or of the line above both; else the one of where it is put. Groups carry
// neither size nor place: these are their items'.
func ReadOutline(x *backlog.Index, today program.Date, text string, under Under) ([]Node, error) {
	nodes := Outline(x, text)
	if len(nodes) == 0 {
		return nil, fmt.Errorf("there is no line with a title in it")
	}
	parents := parentsOf(nodes)
	under.Team = cmp.Or(under.Team, teamOfChildren(x, under.Parent))
	keys := backlog.NewKeys(x.Plan())
	for n, team := range teams(nodes, parents, under.Team) {
		item := &nodes[n].Item
		item.Parent = under.Parent
		if up := parents[n]; up >= 0 {
			item.Parent = nodes[up].Item.Key
		} else {
			item.Release = cmp.Or(item.Release, under.Release)
		}
		if nodes[n].Group {
			item.Size = nil
		} else if item.Team = team; team == under.Team && item.State != program.Done {
			item.Iteration = under.Iteration
		}
		if item.State == program.Done {
			item.DoneOn = today
		}
		item.Key = keys.Next(item.Kind, item.Team)
	}
	return nodes, nil
}

// parentsOf returns the line that each stands below; -1 for none.
func parentsOf(nodes []Node) []int {
	parents := make([]int, len(nodes))
	var above []int // the last line of each depth
	for n := range nodes {
		above = append(above[:nodes[n].Depth], n)
		parents[n] = -1
		if n := len(above); n > 1 {
			parents[above[n-1]] = above[n-2]
		}
	}
	return parents
}

// teams returns the team of each line: its own, that of the nearest line beside it, before
// it or else after it; or that of the line above. Before the first stands what is there
// already, of the team given.
func teams(nodes []Node, parents []int, there string) []string {
	found := make([]string, len(nodes))
	fill := func(n int, beside map[int]string) {
		if own := nodes[n].Item.Team; own != "" {
			found[n], beside[parents[n]] = own, own
		} else if found[n] == "" {
			found[n] = beside[parents[n]]
		}
	}
	down, up := map[int]string{-1: there}, map[int]string{}
	for n := range nodes {
		fill(n, down)
	}
	for n := len(nodes) - 1; n >= 0; n-- {
		fill(n, up)
	}
	for n := range nodes {
		if found[n] == "" && parents[n] >= 0 {
			found[n] = found[parents[n]]
		}
	}
	return found
}

// teamOfChildren returns the team that all children of an item have; none where they differ.
func teamOfChildren(x *backlog.Index, key string) string {
	tree, team := x.Tree(), ""
	at, known := tree.Index[key]
	if !known {
		return ""
	}
	for n, child := range tree.Children[at] {
		switch of := x.Plan().Items[child].Team; {
		case n == 0:
			team = of
		case of != team:
			return ""
		}
	}
	return team
}

// AddOutline returns the changes that add the lines of an outline as items, and
// their keys.
func AddOutline(x *backlog.Index, today program.Date, text string, under Under) ([]program.Change, []string, error) {
	nodes, err := ReadOutline(x, today, text, under)
	if err != nil {
		return nil, nil, err
	}
	at := len(x.Plan().Items)
	if i, ok := x.Tree().Index[under.After]; ok {
		at = i + 1
	}
	var changes []program.Change
	var added []string
	for n := range nodes {
		place := at + n
		c := program.AddOf(program.Ref{Kind: program.KindItem, Key: nodes[n].Item.Key}, nodes[n].Item)
		c.At = &place
		changes, added = append(changes, c), append(added, nodes[n].Item.Key)
	}
	return changes, added, nil
}
