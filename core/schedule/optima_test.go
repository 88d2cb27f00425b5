package schedule_test

import (
	"bufio"
	"bytes"
	"flag"
	"fmt"
	"maps"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/capacity"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/sample"
	"jantrel/core/schedule"
)

// The optima that drafts are held to stand in testdata/optima.txt: for every document its
// number, the fewest late days that a valid schedule has, and the least importance with these.
// They come from an integer program, written here from the rules alone and solved by the COIN
// branch-and-cut solver (`cbc`, in Debian's coinor-cbc):
//
//	go test ./core/schedule -run TestNearTheOptimum -optima
var newOptima = flag.Bool("optima", false, "work out testdata/optima.txt anew, with cbc")

// optimaDocument makes the documents 0 to 99, of 16 to 56 items. Of every five, two are tight:
// what there is to do takes about all the room there is, and the important needs the unimportant.
func optimaDocument(number int) program.Program {
	seed := uint64(number)
	items := 16 + number*2%41
	shape := sample.Shape{Teams: 2 + number%3, Iterations: 5 + number%4, Items: items, Needs: items * (1 + number%3) / 3, Wild: number%5 >= 3}
	if number%5 >= 2 {
		return sample.Program(seed+1000, shape)
	}
	shape.Wild, shape.Needs = false, items*2/3
	p := sample.Program(seed+2000, shape)
	for i := range p.Needs {
		p.Needs[i].Item, p.Needs[i].Needs = p.Needs[i].Needs, p.Needs[i].Item
	}
	for t := range p.Teams {
		load := 0.0
		for i := range p.Items {
			if p.Items[i].Team == p.Teams[t].Key && p.Items[i].Size != nil {
				load += *p.Items[i].Size
			}
		}
		open := p.Teams[t].Iterations[3:]
		for i := range open {
			room := max(5, float64(int(load/float64(len(open))/p.Settings.FillTo+0.5)+(i+number)%2))
			open[i].Capacity = &room
		}
	}
	for i := range p.Items {
		if i%11 == 3 && p.Items[i].Kind != program.Feature {
			p.Items[i].Due = sample.Today.Add(14 + i%5*7)
		}
	}
	return p
}

// best is what a document's best schedules have.
type best struct {
	late       int
	importance float64
}

func TestNearTheOptimum(t *testing.T) {
	const documents = 100
	if *newOptima {
		var text bytes.Buffer
		for number := range documents {
			b := solve(t, optimaDocument(number))
			fmt.Fprintf(&text, "%d %d %.6f\n", number, b.late, b.importance)
		}
		require.NoError(t, os.WriteFile("testdata/optima.txt", text.Bytes(), 0o644))
	}
	text, err := os.Open("testdata/optima.txt")
	require.NoError(t, err)
	defer text.Close()
	var optima [documents]best
	for lines, line := bufio.NewScanner(text), 0; lines.Scan(); line++ {
		var number int
		var b best
		_, err := fmt.Sscan(lines.Text(), &number, &b.late, &b.importance)
		require.NoError(t, err)
		require.Equal(t, line, number)
		optima[number] = b
	}
	tried := int(sample.Seeds(documents))
	var scores [documents]schedule.Score
	t.Run("drafts", func(t *testing.T) {
		for number := range tried {
			t.Run("", func(t *testing.T) {
				t.Parallel()
				scores[number] = check(t, optimaDocument(number), schedule.Options{Today: sample.Today}).Score
			})
		}
	})
	least, tight, over := 0, 0, 0.0
	for number, b := range optima[:tried] {
		score := scores[number]
		require.GreaterOrEqual(t, score.LateDays, b.late, "document %d: the optimum is none", number)
		require.LessOrEqual(t, score.LateDaysBound, b.late, "document %d: the bound is none", number)
		if score.LateDaysBound == b.late {
			tight++
		} else {
			t.Logf("document %d: bound %d, optimum %d", number, score.LateDaysBound, b.late)
		}
		if score.LateDays > b.late {
			t.Logf("document %d: %d late days, optimum %d", number, score.LateDays, b.late)
			continue
		}
		least++
		require.GreaterOrEqual(t, score.Importance, b.importance-1e-3, "document %d: the optimum is none", number)
		more := score.Importance/b.importance - 1
		over += more
		if more > 0.005 {
			t.Logf("document %d: importance %.2f %% over", number, 100*more)
		}
	}
	t.Logf("least late days in %d of %d, bound tight in %d, importance %.3f %% over", least, tried, tight, 100*over/float64(max(1, least)))
	assert.GreaterOrEqual(t, least, tried*98/100)
	assert.GreaterOrEqual(t, tight, tried*90/100)
	assert.Less(t, over/float64(max(1, least)), 0.005)
}

// solve works out a document's optimum.
func solve(t *testing.T, p program.Program) best {
	t.Helper()
	file := filepath.Join(t.TempDir(), "p.lp")
	run := func(lp string) float64 {
		require.NoError(t, os.WriteFile(file, []byte(lp), 0o600))
		out, err := exec.Command("cbc", file, "sec", "600", "ratioGap", "0", "allowableGap", "1e-7", "threads", "2", "solve").CombinedOutput()
		require.NoError(t, err)
		require.Contains(t, string(out), "Result - Optimal solution found", "%s", out)
		_, rest, _ := strings.Cut(string(out), "Objective value:")
		var value float64
		_, err = fmt.Sscan(rest, &value)
		require.NoError(t, err)
		return value
	}
	m := newIntegerProgram(p)
	var b best
	b.late = int(run(m.text(m.late)) + 0.5)
	m.atMost(m.late, float64(b.late))
	b.importance = run(m.text(m.importance))
	return b
}

// linear is a sum of variables, each times a factor; the variable "one" is 1.
type linear map[string]float64

func (l linear) add(other linear, times float64) linear {
	for x, by := range other {
		l[x] += times * by
	}
	return l
}

func (l linear) String() string {
	text := ""
	for _, x := range slices.Sorted(maps.Keys(l)) {
		text += fmt.Sprintf("\n %+.9f %s", l[x], x)
	}
	return text
}

// integerProgram has a variable for each item in each iteration that it may stand in, 1 if it
// does, and one for each thing that can be late.
type integerProgram struct {
	j                *judge
	late, importance linear // what is to be least
	rules            []string
	choices          []string
}

func newIntegerProgram(p program.Program) *integerProgram {
	m := &integerProgram{j: &judge{p: p, o: schedule.Options{Today: sample.Today}, at: map[string]*program.Iteration{}},
		late: linear{"one": 0}, importance: linear{"one": 0}}
	m.places()
	m.needs()
	m.dates()
	return m
}

// atMost is the rule that a sum is no more than that.
func (m *integerProgram) atMost(l linear, most float64) {
	m.rules = append(m.rules, fmt.Sprintf("%s <= %.9f", l, most))
}

// text is the program in the LP format.
func (m *integerProgram) text(least linear) string {
	return fmt.Sprintf("Minimize\n obj: %s\nSubject To\n %s\n one = 1\nBinaries\n %s\nEnd\n", least, strings.Join(m.rules, "\n "), strings.Join(m.choices, "\n "))
}

// choice names the variable of an item in an iteration; empty where it may not stand there.
func (m *integerProgram) choice(item *program.Item, it *program.Iteration) string {
	if m.j.fixed(item) || item.Size == nil || it.State == program.Closed || it.End < sample.Today || it.Start < item.NotBefore {
		return ""
	}
	return "x_" + item.Key + "_" + it.Key
}

// iterations are those of an item's team, none where it has no team.
func (m *integerProgram) iterations(item *program.Item) []*program.Iteration {
	var all []*program.Iteration
	if team := m.j.team(item); team != nil {
		for i := range team.Iterations {
			all = append(all, &team.Iterations[i])
		}
	}
	return all
}

// worth is what an item is worth by the iteration that it stands in, or else.
func (m *integerProgram) worth(item *program.Item, in func(*program.Iteration) float64, otherwise float64) linear {
	if m.j.fixed(item) {
		return linear{"one": in(m.j.iteration(item, item.Iteration))}
	}
	sum := linear{"one": otherwise}
	for _, it := range m.iterations(item) {
		if x := m.choice(item, it); x != "" {
			sum[x] = in(it) - otherwise
		}
	}
	return sum
}

// places is rules 1, 2, 4 and 5.
func (m *integerProgram) places() {
	j := m.j
	figures := capacity.Of(plan.Of(j.p))
	for i := range j.p.Items {
		item, one := &j.p.Items[i], linear{}
		for _, it := range m.iterations(item) {
			if x := m.choice(item, it); x != "" && j.scheduled(item) {
				m.choices, one[x] = append(m.choices, x), 1
			}
		}
		if len(one) > 0 {
			m.atMost(one, 1)
		}
	}
	for t := range j.p.Teams {
		for s := range j.p.Teams[t].Iterations {
			it := &j.p.Teams[t].Iterations[s]
			room, sum, count := figures[t][s].Capacity*j.fillTo(t), linear{}, linear{}
			for i := range j.p.Items {
				item := &j.p.Items[i]
				if item.Team != j.p.Teams[t].Key || item.Size == nil || j.hasChildren(item.Key) {
					continue
				}
				switch x := m.choice(item, it); {
				case item.Iteration == it.Key && (item.State == program.Done || j.scheduled(item) && j.fixed(item)):
					room -= *item.Size
				case x != "" && j.scheduled(item):
					sum[x], count[x] = *item.Size, 1
				}
			}
			if len(sum) > 0 && room < -1e-9 {
				m.atMost(count, 0)
			} else if len(sum) > 0 {
				m.atMost(sum, room+1e-9)
			}
		}
	}
}

// needs is rules 3 and 6.
func (m *integerProgram) needs() {
	j := m.j
	j.pairs(func(item, needed *program.Item, lag int) {
		standing, early := linear{}, linear{} // of all earlier iterations: it in one, what lets it be there
		for _, it := range m.iterations(item) {
			x := m.choice(item, it)
			if x == "" {
				continue
			}
			let := linear{}
			for _, other := range m.iterations(needed) {
				if !m.holds(needed, other, item, it, lag) {
					continue
				}
				if y := m.choice(needed, other); y != "" {
					let[y] = 1
				} else if j.fixed(needed) && needed.Iteration == other.Key {
					let["one"] = 1
				}
			}
			// What let it stand earlier lets it stand here, too, but for iterations that overlap:
			// so one rule for all of these, which solves faster than one for each.
			nested := true
			for y := range early {
				nested = nested && let[y] == 1
			}
			if !nested {
				standing, early = linear{}, linear{}
			}
			standing[x] = 1
			early.add(let, 1)
			for y := range early {
				early[y] = 1
			}
			m.atMost(maps.Clone(standing).add(let, -1), 0)
		}
	})
}

// holds is rule 3 for two iterations.
func (m *integerProgram) holds(needed *program.Item, in *program.Iteration, item *program.Item, at *program.Iteration, lag int) bool {
	m.j.at[needed.Key], m.j.at[item.Key] = in, at
	defer clear(m.j.at)
	return m.j.holds(needed, item, lag)
}

// dates counts late days and importance.
func (m *integerProgram) dates() {
	j := m.j
	var lastEnd program.Date
	for _, t := range j.p.Teams {
		for _, it := range t.Iterations {
			lastEnd = max(lastEnd, it.End)
		}
	}
	never := lastEnd.Add(365)
	counts := func(item *program.Item) bool { return item.Size != nil && item.Team != "" }
	finals := 0
	final := func(items []*program.Item, due program.Date) {
		items = slices.DeleteFunc(items, func(x *program.Item) bool { return !j.scheduled(x) || !counts(x) && !j.fixed(x) })
		if len(items) == 0 {
			return
		}
		// For each end by which all of it might be done a variable that is 1 if it is not.
		finals++
		ends := []program.Date{due, never}
		for _, item := range items {
			for _, it := range m.iterations(item) {
				if it.End > due && (m.choice(item, it) != "" || j.fixed(item) && it.Key == item.Iteration) {
					ends = append(ends, it.End)
				}
			}
		}
		slices.Sort(ends)
		ends = slices.Compact(ends)
		for e := 1; e < len(ends) && ends[e-1] < never; e++ {
			by := ends[e-1]
			open := fmt.Sprintf("open%d_%d", finals, e)
			m.choices = append(m.choices, open)
			m.late[open] = float64(ends[e] - by)
			for _, item := range items {
				m.atMost(m.worth(item, func(it *program.Iteration) float64 {
					if it.End > by {
						return 1
					}
					return 0
				}, 1).add(linear{open: 1}, -1), 0)
			}
		}
	}
	for _, r := range j.p.Releases {
		due := r.Due
		if due.IsZero() {
			due = sample.Today
		}
		final(m.of(r.Key), due)
	}
	for i := range j.p.Items {
		if item := &j.p.Items[i]; !item.Due.IsZero() && item.State != program.Done && !item.KeptOut {
			final(j.leaves(item.Key), item.Due)
		}
	}
	j.pairs(func(item, needed *program.Item, lag int) {
		if !j.fixed(item) || j.fixed(needed) || !counts(needed) {
			return
		}
		at := j.iteration(item, item.Iteration)
		m.late.add(m.worth(needed, func(it *program.Iteration) float64 {
			if m.holds(needed, it, item, at, lag) {
				return 0
			}
			return max(0, float64(it.End.Add(lag)-at.Start)+1)
		}, max(0, float64(never.Add(lag)-at.Start)+1)), 1)
	})
	var all []*program.Item
	for i := range j.p.Items {
		if j.scheduled(&j.p.Items[i]) {
			all = append(all, &j.p.Items[i])
		}
	}
	for i, item := range all {
		if counts(item) {
			days := m.worth(item, func(it *program.Iteration) float64 { return float64(it.End - sample.Today) }, float64(never-sample.Today))
			m.importance.add(days, float64(len(all)-i)/float64(len(all)))
		}
	}
}

// of are the leaves of a release.
func (m *integerProgram) of(release string) (leaves []*program.Item) {
	for i := range m.j.p.Items {
		item := &m.j.p.Items[i]
		for item.Release == "" && item.Parent != "" {
			item = m.j.item(item.Parent)
		}
		if item.Release == release && !m.j.hasChildren(m.j.p.Items[i].Key) {
			leaves = append(leaves, &m.j.p.Items[i])
		}
	}
	return leaves
}
