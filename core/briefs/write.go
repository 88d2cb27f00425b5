package briefs

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"

	"jantrel/core/capacity"
	"jantrel/core/forecast"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/reports"
	"jantrel/core/words"
)

// Given is what a brief is written from.
type Given struct {
	*plan.Plan
	Today    program.Date
	Dated    []Dated                            // when releases and milestones land, at Odds; in the order of the program
	Promises []forecast.Watched                 // how promises stand
	Drawn    func(*reports.Chart) reports.Drawn // answers a chart
	BurnUp   func() *forecast.BurnUp            // how what the brief is about came about and goes on; nil: there is nothing to tell
	Review   func() string                      // looking back on what the brief is about, as Markdown; empty: there is nothing
	Before   *Before                            // the last brief about the same; nil: this is the first
}

// Odds are those that dates are told at, in percent.
var Odds = []int{50, 70, 85, 95}

// Dated is when a release or a milestone lands.
type Dated struct {
	program.Ref
	Name    string
	Landing forecast.Landing
}

// Before is the last brief about the same.
type Before struct {
	Number int64
	Day    program.Date
	Plan   *plan.Plan // as it was then
	Said   []Said
}

// Said is what a brief said of a release, which the next one is held against.
type Said struct {
	Release string       `json:"release"`
	Even    program.Date `json:"even,omitzero"` // when it lands at even odds
	Safe    program.Date `json:"safe,omitzero"` // and at 85 %
	Chance  *float64     `json:"chance,omitempty"`
}

// Written is a brief as it stands.
type Written struct {
	Title    string    `json:"title"`
	About    string    `json:"about"` // in words
	Day      string    `json:"day"`   // on which it was written, in words
	Sections []Told    `json:"sections"`
	Said     []Said    `json:"said"`
	Items    []ItemRef `json:"items"` // the items that it names, in the order of the program
}

// ItemRef is an item that a brief names by its key.
type ItemRef struct {
	Key   string `json:"key"`
	Title string `json:"title"`
}

// Told is a section as it stands.
type Told struct {
	Key    string  `json:"key"`
	Title  string  `json:"title"`
	Text   string  `json:"text,omitempty"`   // its own words, Markdown
	Blocks []Block `json:"blocks,omitempty"` // what the plan says
}

// Block is one piece of what a plan says: a paragraph, a list, a table, a chart, a burn-up or Markdown.
type Block struct {
	Text     string         `json:"text,omitempty"`
	List     []string       `json:"list,omitempty"`
	Head     []string       `json:"head,omitempty"`
	Rows     [][]string     `json:"rows,omitempty"`
	Figures  []bool         `json:"figures,omitempty"` // by column: it holds figures
	Chart    *reports.Chart `json:"chart,omitempty"`
	Drawn    *reports.Drawn `json:"drawn,omitempty"`
	Markdown string         `json:"markdown,omitempty"`

	BurnUp *forecast.BurnUp `json:"burnUp,omitempty"`
}

// mostListed is how many things are told one by one; of the rest the number.
const mostListed = 12

// Write writes a brief as the plan stands.
func Write(b *Brief, g *Given) Written {
	w := &writer{Given: g, about: b.About, names: map[string]string{}, releases: map[string]string{}}
	for i := range g.Teams {
		w.names[g.Teams[i].Key] = g.Teams[i].Name
	}
	for i := range g.Releases {
		w.releases[g.Releases[i].Key] = g.Releases[i].Name
	}
	w.tree = g.Tree()
	words := map[string]bool{}
	out := Written{Title: b.Title, About: NameOf(&g.Program, b.About), Day: w.day(g.Today), Sections: []Told{}, Said: w.said(), Items: []ItemRef{}}
	for i := range b.Sections {
		s := &b.Sections[i]
		if s.Out {
			continue
		}
		told := Told{s.Key, s.Title, s.Text, w.blocks(s)}
		out.Sections = append(out.Sections, told)
		for _, text := range told.texts() {
			for _, word := range strings.FieldsFunc(text, func(r rune) bool { return strings.ContainsRune(" \n\t.,;:!?()[]*_|\"'", r) }) {
				words[word] = true
			}
		}
	}
	for i := range g.Items {
		if words[g.Items[i].Key] {
			out.Items = append(out.Items, ItemRef{g.Items[i].Key, g.Items[i].Title})
		}
	}
	return out
}

// texts are all words of a section.
func (t *Told) texts() []string {
	texts := []string{t.Text}
	for i := range t.Blocks {
		b := &t.Blocks[i]
		texts = append(append(texts, b.Text, b.Markdown), b.List...)
		for _, row := range b.Rows {
			texts = append(texts, row...)
		}
	}
	return texts
}

type writer struct {
	*Given
	about    About
	tree     program.Tree
	names    map[string]string // of teams
	releases map[string]string
}

func (w *writer) blocks(s *Section) []Block {
	if s.empty() {
		return []Block{{Text: "Nothing was written here yet."}}
	}
	switch s.Live {
	case Short:
		return w.short()
	case Features:
		return w.features()
	case Dates:
		return w.dates()
	case BurnUp:
		return w.burnUp()
	case Work:
		return w.work()
	case Figures:
		drawn := w.Drawn(s.Chart)
		if drawn.Failed != "" {
			return say("This cannot be drawn: %s.", drawn.Failed)
		}
		return []Block{{Chart: s.Chart, Drawn: &drawn}}
	case Mix:
		return w.mix()
	case Capacity:
		return w.capacity()
	case Needs:
		return w.needs()
	case Risks:
		return w.risks()
	case Since:
		return w.since()
	case LeftOut:
		return w.leftOut()
	case Promises:
		return w.promises()
	case Review:
		if text := w.Review(); text != "" {
			return []Block{{Markdown: text}}
		}
		return say("There is nothing to look back on yet.")
	}
	return nil
}

func say(format string, args ...any) []Block { return []Block{{Text: fmt.Sprintf(format, args...)}} }

// in reports whether the item at a position is what the brief is about: a leaf of its release, its iteration, or any.
// Leaves that are kept out are not.
func (w *writer) in(i int) bool {
	item := &w.Items[i]
	if !w.tree.IsLeaf(i) || item.KeptOut {
		return false
	}
	switch {
	case w.about.Release != "":
		return w.tree.Release(i) == w.about.Release
	case w.about.Team != "":
		return item.Team == w.about.Team && item.Iteration == w.about.Iteration
	}
	return true
}

// leaves are the positions of what the brief is about, by rank.
func (w *writer) leaves() (all []int) {
	for i := range w.Items {
		if w.in(i) {
			all = append(all, i)
		}
	}
	return all
}

// day is a date for people; with its year where that is not today's.
func (w *writer) day(d program.Date) string {
	if d.IsZero() {
		return "no date"
	}
	if d.Time().Year() == w.Today.Time().Year() {
		return d.Short()
	}
	return d.Time().Format("2 Jan 2006")
}

func (w *writer) item(i int) string { return w.Items[i].Title + " (" + w.Items[i].Key + ")" }

func percent(share float64) string { return strconv.Itoa(int(math.Round(share*100))) + "\u00a0%" }

// sized is a size with its team's unit.
func sized(n float64, t *program.Team) string { return words.Number(n) + "\u00a0" + t.Unit.Sign() }

// anyOf is a list of so many words at most, and how many more there are.
func anyOf(words []string, most int) string {
	if more := len(words) - most; more > 0 {
		return strings.Join(words[:most], ", ") + " and " + strconv.Itoa(more) + " more"
	}
	if len(words) > 1 {
		return strings.Join(words[:len(words)-1], ", ") + " and " + words[len(words)-1]
	}
	return strings.Join(words, "")
}

// list are things told one by one, with how many more there are.
func list(all []string) []Block {
	if more := len(all) - mostListed; more > 0 {
		all = append(slices.Clone(all[:mostListed]), "and "+strconv.Itoa(more)+" more")
	}
	if len(all) == 0 {
		return nil
	}
	return []Block{{List: all}}
}

func (w *writer) said() []Said {
	said := []Said{}
	for _, d := range w.Dated {
		if d.Kind == program.KindRelease && (w.about.Release == "" || d.Key == w.about.Release) {
			said = append(said, Said{d.Key, d.Landing.At(50), d.Landing.At(85), d.Landing.Chance})
		}
	}
	return said
}

// lands is when something lands, in words that go on from its name.
func (w *writer) lands(l *forecast.Landing) string {
	even, safe := l.At(50), l.At(85)
	switch {
	case l.Left == 0 && l.Rough == 0:
		return "has nothing left to do"
	case len(l.Cannot) > 0:
		return "lands at no date: " + anyOf(l.Cannot, 3) + " cannot be played"
	case even.IsZero():
		return "lands beyond what was played"
	case safe.IsZero():
		return "lands on " + w.day(even) + " or much later"
	case even == safe:
		return "lands on " + w.day(even) + " (50 to 85\u00a0%)"
	}
	return "lands between " + w.day(even) + " and " + w.day(safe) + " (50 to 85\u00a0%)"
}

// promise is what a release is due for and when it lands, in a sentence.
func (w *writer) promise(d *Dated) string {
	text := d.Name
	if !d.Landing.Due.IsZero() && (d.Landing.Left > 0 || d.Landing.Rough > 0) {
		text += " is due on " + w.day(d.Landing.Due) + " and"
	}
	text += " " + w.lands(&d.Landing)
	if d.Landing.Chance != nil && (d.Landing.Left > 0 || d.Landing.Rough > 0) {
		text += "; by its due date with " + percent(*d.Landing.Chance)
	}
	return text + "."
}

func (w *writer) short() []Block {
	leaves := w.leaves()
	done, weighed, all := 0, 0.0, 0.0
	perUnit := capacity.DaysPerUnit(w.Plan)
	features, teams := map[int]bool{}, map[string]bool{}
	for _, i := range leaves {
		item := &w.Items[i]
		if f := w.tree.Nearest(i, program.Feature); f >= 0 {
			features[f] = true
		}
		if item.Team != "" {
			teams[item.Team] = true
		}
		days := 0.0
		if item.Size != nil {
			days = *item.Size * perUnit[item.Team]
		}
		all += days
		if item.State == program.Done {
			done++
			weighed += days
		}
	}
	name := NameOf(&w.Program, w.about)
	if len(leaves) == 0 {
		return say("%s has no work in it yet.", name)
	}
	text := fmt.Sprintf("%s holds %s", name, words.Count(len(leaves), "item"))
	if len(features) > 0 {
		text += " of " + words.Count(len(features), "feature")
	}
	if w.about.Team == "" && len(teams) > 1 {
		text += ", worked on by " + words.Count(len(teams), "team")
	}
	text += ". " + words.Count(done, "item") + " done"
	if all > 0 {
		text += " (" + percent(weighed/all) + " of the work)"
	}
	text += "."
	if w.about.Team != "" {
		if it, ok := w.iteration(); ok && it.Goal != "" {
			text = "Its goal: " + strings.TrimRight(it.Goal, ".") + ". " + text
		}
		return say("%s", text)
	}
	for i := range w.Dated {
		if d := &w.Dated[i]; d.Kind == program.KindRelease && (w.about.Release == "" || d.Key == w.about.Release) {
			text += " " + w.promise(d)
		}
	}
	return say("%s", text)
}

// iteration is that which the brief is about.
func (w *writer) iteration() (program.Iteration, bool) {
	for i := range w.Teams {
		if w.Teams[i].Key == w.about.Team {
			return w.Teams[i].Find(w.about.Iteration)
		}
	}
	return program.Iteration{}, false
}

func (w *writer) features() []Block {
	type sum struct{ items, done int }
	sums, order := map[int]*sum{}, []int{}
	for _, i := range w.leaves() {
		f := w.tree.Nearest(i, program.Feature)
		if sums[f] == nil {
			sums[f] = &sum{}
			order = append(order, f)
		}
		sums[f].items++
		if w.Items[i].State == program.Done {
			sums[f].done++
		}
	}
	slices.SortFunc(order, func(a, b int) int { return cmp.Or(cmp.Compare(min(b, 0), min(a, 0)), a-b) })
	if len(order) == 0 {
		return say("It brings nothing yet.")
	}
	table := Block{Head: []string{"Feature", "Items", "Done", "Ends"}, Figures: []bool{false, true, true, false}}
	for _, f := range order {
		title := "In no feature"
		if f >= 0 {
			title = w.item(f)
		}
		table.Rows = append(table.Rows, []string{title, strconv.Itoa(sums[f].items), strconv.Itoa(sums[f].done), w.ends(f)})
	}
	return []Block{table}
}

// ends is when the last of what the brief is about is planned to be done, of a feature; of -1 of what is in none.
func (w *writer) ends(feature int) string {
	var last program.Date
	left := false
	for _, i := range w.leaves() {
		if w.tree.Nearest(i, program.Feature) != feature || w.Items[i].State == program.Done {
			continue
		}
		left = true
		place, placed := w.Place(i)
		if !placed {
			return "not all is placed"
		}
		last = max(last, place.End)
	}
	if !left {
		return "done"
	}
	return w.day(last)
}
