package exchange

import (
	"cmp"
	"fmt"
	"io"
	"strings"
	"unicode/utf8"

	"github.com/xuri/excelize/v2"

	"jantrel/core/capacity"
	"jantrel/core/forecast"
	"jantrel/core/plan"
	"jantrel/core/program"
)

var (
	overviewColumns = []column{{"Team", 22, false}, {"Iteration", 14, false}, {"From", 12, false}, {"To", 12, false}, {"State", 10, false}, {"Unit", 9, false},
		{"Items", 8, false}, {"Load", 10, false}, {"Capacity", 11, false}, {"Room", 11, false}}
	landingColumns = []column{{"Release", 26, false}, {"Due", 12, false}, {"Items", 8, false}, {"Done", 8, false}, {"Lands, 50 %", 13, false}, {"Lands, 85 %", 13, false}, {"Chance to be on time", 20, false}}
	placedColumns  = []column{{"Iteration", 14, false}, {"From", 12, false}, {"To", 12, false}, {"Item", 10, false}, {"Title", 50, false}, {"Kind", 10, false},
		{"Size", 8, true}, {"State", 10, false}, {"Assigned to", 22, false}, {"Feature", 30, false}, {"Release", 18, false}, {"Needs", 24, false}}
)

// notPlaced is what stands for the iteration of what has none.
const notPlaced = "not placed"

// WritePlan writes the plan as a workbook: an overview of all iterations, when releases land, and a sheet for each team with
// what stands in its iterations, rough sizes included. The load of an iteration is a formula over its team's sheet.
func WritePlan(w io.Writer, p *plan.Plan, landings []forecast.Landing) error {
	b := planBook{p: p, names: sheetNames(p.Teams), people: map[string]string{}, releases: map[string]string{}, needs: map[string][]string{}}
	for _, x := range p.People {
		b.people[x.Key] = x.Name
	}
	for _, r := range p.Releases {
		b.releases[r.Key] = r.Name
	}
	for _, n := range p.Needs {
		b.needs[n.Item] = append(b.needs[n.Item], n.Needs)
	}
	sheets := []sheet{{"Overview", overviewColumns, b.overview()}, {"Releases", landingColumns, b.landings(landings)}}
	for t := range p.Teams {
		sheets = append(sheets, sheet{b.names[t], placedColumns, b.team(t)})
	}
	return writeBookWith(w, func(book *excelize.File) error {
		return chartsOf(book, "Load and capacity", sheets[0], "Iteration", "Load", "Capacity")
	}, sheets...)
}

type planBook struct {
	p        *plan.Plan
	names    []string // of the sheets of teams
	people   map[string]string
	releases map[string]string
	needs    map[string][]string
}

// sheetNames are names for sheets of teams: without what they may not hold, of 31 letters at most, each its own.
func sheetNames(teams []program.Team) []string {
	taken := map[string]bool{"overview": true, "releases": true, "load and capacity": true}
	names := make([]string, len(teams))
	for i := range teams {
		base := strings.Map(func(r rune) rune {
			if strings.ContainsRune(`[]:*?/\'`, r) || r < ' ' {
				return '-'
			}
			return r
		}, cmp.Or(teams[i].Name, teams[i].Key))
		for n := 1; ; n++ {
			end := ""
			if n > 1 {
				end = fmt.Sprintf(" %d", n)
			}
			name := base
			for utf8.RuneCountInString(name)+len(end) > 31 {
				_, size := utf8.DecodeLastRuneInString(name)
				name = name[:len(name)-size]
			}
			if name += end; !taken[strings.ToLower(name)] {
				taken[strings.ToLower(name)], names[i] = true, name
				break
			}
		}
	}
	return names
}

// key is what an iteration is called on both sheets: its label, with its key where its team has two of that label.
func (b *planBook) key(t, i int) string {
	it := b.p.Teams[t].Iterations[i]
	for n, other := range b.p.Teams[t].Iterations {
		if n != i && strings.EqualFold(other.Label(), it.Label()) {
			return it.Label() + " (" + it.Key + ")"
		}
	}
	return it.Label()
}

func (b *planBook) overview() (rows [][]cell) {
	figures, loads := capacity.Of(b.p), b.p.Loads().Size
	for t := range b.p.Teams {
		team := &b.p.Teams[t]
		name := "'" + strings.ReplaceAll(b.names[t], "%", "%%") + "'!"
		counts := map[string]int{}
		for _, row := range b.team(t) {
			counts[row[0].(string)]++
		}
		for i, it := range team.Iterations {
			key := b.key(t, i)
			rows = append(rows, []cell{team.Name, key, it.Start, it.End, string(cmp.Or(it.State, program.Planned)), string(team.Unit), float64(counts[key]),
				formula{"SUMIF(" + name + "A:A,B%[1]d," + name + "G:G)", round(loads[t][i])}, round(figures[t][i].Capacity),
				formula{"I%[1]d-H%[1]d", round(figures[t][i].Capacity - loads[t][i])}})
		}
	}
	return rows
}

func (b *planBook) landings(all []forecast.Landing) (rows [][]cell) {
	tree := b.p.Tree()
	items, done := map[string]float64{}, map[string]float64{}
	for i := range b.p.Items {
		if tree.IsLeaf(i) && !b.p.Items[i].KeptOut {
			items[tree.Release(i)]++
			if b.p.Items[i].State == program.Done {
				done[tree.Release(i)]++
			}
		}
	}
	date := func(d program.Date) cell {
		if d.IsZero() {
			return empty
		}
		return d
	}
	for _, l := range all {
		if l.Key != "" {
			rows = append(rows, []cell{b.releases[l.Key], date(l.Due), items[l.Key], done[l.Key], date(l.At(50)), date(l.At(85)), number(l.Chance)})
		}
	}
	return rows
}

// team lists what stands in a team's iterations, in their order and by rank; then what has no place.
func (b *planBook) team(t int) (rows [][]cell) {
	team := &b.p.Teams[t]
	tree := b.p.Tree()
	at := map[string]int{}
	for i := range team.Iterations {
		at[team.Iterations[i].Key] = i
	}
	slots := make([][][]cell, len(team.Iterations)+1)
	put := func(iteration string, row ...cell) {
		i, ok := at[iteration]
		lead := []cell{notPlaced, empty, empty}
		if ok {
			lead = []cell{b.key(t, i), team.Iterations[i].Start, team.Iterations[i].End}
		} else {
			i = len(team.Iterations)
		}
		slots[i] = append(slots[i], append(lead, row...))
	}
	feature := func(i int) string {
		if f := tree.Nearest(i, program.Feature); f >= 0 {
			return b.p.Items[f].Title
		}
		return empty
	}
	for i := range b.p.Items {
		item := &b.p.Items[i]
		if item.Team == team.Key && tree.IsLeaf(i) && !item.KeptOut {
			put(item.Iteration, item.Key, item.Title, string(item.Kind), number(item.Size), program.StateWords[cmp.Or(item.State, program.Todo)],
				b.people[item.Assignee], feature(i), b.releases[tree.Release(i)], strings.Join(b.needs[item.Key], ", "))
		}
	}
	for _, rough := range plan.Roughs(b.p) {
		if rough.Team != t {
			continue
		}
		item := &b.p.Items[rough.Item]
		row := func(iteration string, size float64) {
			put(iteration, item.Key, item.Title+", roughly", string(item.Kind), round(size), program.StateWords[program.Todo], empty, feature(rough.Item), b.releases[tree.Release(rough.Item)], empty)
		}
		for _, place := range rough.Places {
			row(place.Iteration, place.Size)
		}
		if rough.Loose > 0 {
			row("", rough.Loose)
		}
	}
	for _, slot := range slots {
		rows = append(rows, slot...)
	}
	return rows
}
