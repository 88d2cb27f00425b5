package reports

import (
	"cmp"
	"slices"
	"strings"

	"jantrel/core/backlog"
	"jantrel/core/calendar"
	"jantrel/core/program"
)

// Value is one of the values that a chart is divided by.
type Value struct {
	Key   string `json:"key"` // empty: of what has none
	Title string `json:"title"`
	Tone  string `json:"tone,omitempty"` // the colour that it keeps wherever it is drawn; empty: one in turn
}

// tones are the colours that values keep, by split: how far work is, and how needs stand.
var tones = map[string]map[string]string{
	"state":  {"done": "c0", "review": "c1", "doing": "c2", "todo": "edge"},
	"status": {"holds": "water", "tight": "caution", "broken": "over"},
}

// Tone is the colour that a value of a split keeps wherever it is drawn, by its name in the theme; empty: it gets one in turn.
func Tone(split, key string) string {
	if key == "" && split != "" { // what has none
		return "c5"
	}
	return tones[split][key]
}

// Table is the answer to a chart, now or at one moment.
type Table struct {
	Rows    []Value      `json:"rows"`    // of the first split; a single one without a key where there is none
	Columns []Value      `json:"columns"` // of the second; the same
	Cells   [][]*float64 `json:"cells"`   // by row and column; nil: nothing there has the measure
	Counts  [][]int      `json:"counts"`  // how many things stand behind each
	Totals  []*float64   `json:"totals"`  // by row
	Total   *float64     `json:"total"`   // of all; where one thing counts with several values this is not their sum
	Count   int          `json:"count"`   // how many things there are
	Unit    Unit         `json:"unit"`
	In      program.Unit `json:"in,omitempty"`   // of Size: the team's unit
	Team    string       `json:"team,omitempty"` // of Size: whose
	Mean    bool         `json:"mean,omitempty"`
	InTime  bool         `json:"inTime,omitempty"`  // rows follow one another in time: pictures put them side by side
	LeftOut int          `json:"leftOut,omitempty"` // values that are not told, the smallest ones
	Things  []Thing      `json:"things,omitempty"`  // of a list, the first MaxListed
}

// Drawn is the answer to a chart: a table, or over time a series; or what is wrong with it.
type Drawn struct {
	Table    *Table  `json:"table,omitempty"`
	Series   *Series `json:"series,omitempty"`
	Sentence string  `json:"sentence,omitempty"`
	Filter   string  `json:"filter,omitempty"` // what its own filter keeps, in words
	Failed   string  `json:"failed,omitempty"` // why there is no answer, and what to choose instead
}

// Thing is something that a chart counts.
type Thing struct {
	program.Ref
	Title string            `json:"title"`
	State program.ItemState `json:"state,omitempty"` // of an item, on the day of the chart; "" in what was kept before charts told it
	Value *float64          `json:"value,omitempty"` // what it measures, where that is not the number
}

// sum is what some things come to. Sums are made in the order of the things, so that they are the same every time.
type sum struct {
	sum   float64
	has   int // things with the measure
	count int
}

func (s *sum) add(value float64, has bool) {
	s.count++
	if has {
		s.sum, s.has = s.sum+value, s.has+1
	}
}

// value is what a sum comes to; nil where nothing has the measure.
func (s *sum) value(mean bool) *float64 {
	switch {
	case s.has == 0:
		return nil
	case mean:
		return new(s.sum / float64(s.has))
	}
	return new(s.sum)
}

// Of answers a chart: of what counts, by the values of its splits, the number or the sum of the measure, or its mean.
// What has none of the values of a split stands at a value without a key; what has several of them counts with each.
// A chart that cannot be answered of this program is an error that says what to choose instead.
//
// Time is linear in things times the values that each has, and n log n in values.
func Of(k *Known, c *Chart) (Table, error) {
	if err := c.Check(); err != nil {
		return Table{}, err
	}
	t, err := sourceOf(c.Of).things(k, c)
	if err != nil {
		return Table{}, err
	}
	measure, _ := t.of.measureOf(c.Measure)
	var splits [MaxSplits]splitting
	for n := range splits {
		splits[n] = t.splitting(n)
	}
	type cell struct{ row, column string }
	cells, rows, columns, all := map[cell]*sum{}, map[string]*sum{}, map[string]*sum{}, sum{}
	for _, r := range t.rows {
		value, has := t.value(r)
		all.add(value, has)
		across := splits[1].values(r)
		for _, column := range across {
			at(columns, column).add(value, has)
		}
		for _, row := range splits[0].values(r) {
			at(rows, row).add(value, has)
			for _, column := range across {
				at(cells, cell{row, column}).add(value, has)
			}
		}
	}
	table := Table{Cells: [][]*float64{}, Counts: [][]int{}, Totals: []*float64{}, Total: all.value(measure.Mean), Count: all.count, Unit: measure.Unit, Mean: measure.Mean, InTime: splits[0].inTime()}
	if measure.Unit == Size {
		table.Team, table.In = t.whose()
	}
	var left int
	table.Rows, table.LeftOut = splits[0].told(rows, c.Largest, measure.Mean, MaxRows)
	table.Columns, left = splits[1].told(columns, false, measure.Mean, MaxColumns)
	table.LeftOut += left
	for _, row := range table.Rows {
		values, counts := make([]*float64, len(table.Columns)), make([]int, len(table.Columns))
		for n, column := range table.Columns {
			if s := cells[cell{row.Key, column.Key}]; s != nil {
				values[n], counts[n] = s.value(measure.Mean), s.count
			}
		}
		table.Cells, table.Counts = append(table.Cells, values), append(table.Counts, counts)
		table.Totals = append(table.Totals, at(rows, row.Key).value(measure.Mean))
	}
	if c.Form == List {
		table.Things = t.listed(t.rows)
	}
	return table, nil
}

// Behind are the things behind a mark of a chart: those with a value of each of its splits, as Table has their keys.
func Behind(k *Known, c *Chart, row, column string) (things []Thing, count int, err error) {
	if err := c.Check(); err != nil {
		return nil, 0, err
	}
	t, err := sourceOf(c.Of).things(k, c)
	if err != nil {
		return nil, 0, err
	}
	first, second := t.splitting(0), t.splitting(1)
	rows := slices.DeleteFunc(slices.Clone(t.rows), func(r int) bool {
		return !slices.Contains(first.values(r), row) || !slices.Contains(second.values(r), column)
	})
	return t.listed(rows), len(rows), nil
}

// listed are the first of some things.
func (t *things) listed(rows []int) []Thing {
	list := make([]Thing, 0, min(len(rows), MaxListed))
	for _, r := range rows[:min(len(rows), MaxListed)] {
		thing := Thing{Ref: t.ref(r), Title: t.title(r)}
		if thing.Kind == program.KindItem {
			thing.State = cmp.Or(t.Plan().Items[t.item(r)].State, program.Todo)
		}
		if t.measure != nil {
			if value, has := t.value(r); has {
				thing.Value = &value
			}
		}
		list = append(list, thing)
	}
	return list
}

// value is what a thing measures.
func (t *things) value(r int) (float64, bool) {
	if t.measure == nil {
		return 1, true
	}
	return t.measure(r)
}

// whose is the team that sizes are of, and its unit.
func (t *things) whose() (string, program.Unit) {
	if len(t.rows) == 0 {
		return "", ""
	}
	p := t.Plan()
	if i, ok := p.TeamAt()[t.team(t.rows[0])]; ok {
		return p.Teams[i].Key, p.Teams[i].Unit
	}
	return "", ""
}

func at[K comparable](of map[K]*sum, key K) *sum {
	if of[key] == nil {
		of[key] = &sum{}
	}
	return of[key]
}

// splitting is how a chart divides its things by one of its splits.
type splitting struct {
	*things
	name   string
	own    *division
	field  *backlog.Field
	sample map[string]int // a thing that has each value
}

// nothing is the value of what has none, which people call none.
var nothing = []string{""}

const none = "None"

func (t *things) splitting(n int) splitting {
	s := splitting{things: t, sample: map[string]int{}}
	if n >= len(t.chart.Split) {
		return s
	}
	s.name = t.chart.Split[n]
	if i := slices.IndexFunc(t.of.splits, func(d division) bool { return d.Name == s.name }); i >= 0 {
		s.own = &t.of.splits[i]
	} else {
		s.field, _ = backlog.FieldOf(s.name)
	}
	return s
}

// values are those that a thing has, each once.
func (s *splitting) values(r int) []string {
	var values []string
	switch {
	case s.own != nil:
		values = s.own.values(s.things, r)
	case s.field != nil && s.item(r) >= 0:
		values = s.field.Parts(s.Index, s.item(r))
	}
	if len(values) == 0 {
		return nothing
	}
	if len(values) > 1 {
		values = slices.Clone(values)
		slices.Sort(values)
		values = slices.Compact(values)
	}
	for _, v := range values {
		if _, known := s.sample[v]; !known {
			s.sample[v] = r
		}
	}
	return values
}

// told are the values in their order, so many at most, and how many are left out: the smallest.
func (s *splitting) told(of map[string]*sum, largest, mean bool, most int) (told []Value, leftOut int) {
	size := func(v Value) float64 {
		if value := of[v.Key].value(mean); value != nil {
			return *value
		}
		return 0
	}
	told = make([]Value, 0, len(of))
	for key := range of {
		told = append(told, Value{key, s.title(key), Tone(s.name, key)})
	}
	slices.SortFunc(told, func(a, b Value) int { return cmp.Or(s.compare(a.Key, b.Key), strings.Compare(a.Key, b.Key)) })
	bySize := func(a, b Value) int { return cmp.Compare(size(b), size(a)) }
	if leftOut = max(0, len(told)-most); leftOut > 0 {
		ranked := slices.Clone(told)
		slices.SortStableFunc(ranked, bySize)
		gone := map[string]bool{}
		for _, v := range ranked[most:] {
			gone[v.Key] = true
		}
		told = slices.DeleteFunc(told, func(v Value) bool { return gone[v.Key] })
	}
	if largest {
		slices.SortStableFunc(told, bySize)
	}
	return told, leftOut
}

// title is what people call a value.
func (s *splitting) title(key string) string {
	switch {
	case s.name == "":
		return ""
	case key == "":
		return none
	case s.days():
		day, _ := calendar.Parse(key) // written by this package
		return day.Short()
	case s.own == nil:
		return s.field.PartWords(s.Index, s.item(s.sample[key]), key)
	case s.own.words != nil:
		return s.own.words(s.things, key)
	}
	return key
}

// days reports whether values are days.
func (s *splitting) days() bool {
	return s.own == nil && s.field != nil && s.field.Sort == program.Day || s.own != nil && s.own.Weeks
}

// inTime reports whether values follow one another in time.
func (s *splitting) inTime() bool { return s.name == "iteration" || s.days() }

// compare orders two values; none comes last.
func (s *splitting) compare(a, b string) int {
	if a == "" || b == "" {
		return strings.Compare(b, a)
	}
	switch {
	case s.own == nil && s.field != nil:
		return s.field.CompareParts(s.Index, s.item(s.sample[a]), a, s.item(s.sample[b]), b)
	case s.own != nil && s.own.order != nil:
		return slices.Index(s.own.order, a) - slices.Index(s.own.order, b)
	case s.own != nil && s.own.Weeks:
		return strings.Compare(a, b)
	}
	switch s.name {
	case "team", "gives":
		teams := s.Plan().TeamAt()
		return teams[a] - teams[b]
	case "iteration":
		return cmp.Or(cmp.Compare(s.startOf(a), s.startOf(b)), strings.Compare(s.title(a), s.title(b)))
	case "release":
		return s.releaseAt(a) - s.releaseAt(b)
	}
	return strings.Compare(strings.ToLower(s.title(a)), strings.ToLower(s.title(b)))
}

func (t *things) person(key string) string {
	for i := range t.Plan().People {
		if t.Plan().People[i].Key == key {
			return t.Plan().People[i].Name
		}
	}
	return key
}

func (t *things) teamName(key string) string {
	if i, ok := t.Plan().TeamAt()[key]; ok {
		return t.Plan().Teams[i].Name
	}
	return key
}

func (k *Known) releaseAt(key string) int {
	return slices.IndexFunc(k.Plan().Releases, func(r program.Release) bool { return r.Key == key })
}

func (t *things) release(key string) string {
	if i := t.releaseAt(key); i >= 0 {
		return t.Plan().Releases[i].Name
	}
	return key
}

// iterationName is what the iteration of a team is called, given "team\niteration".
func (t *things) iterationName(key string) string {
	team, iteration, _ := strings.Cut(key, "\n")
	if place, ok := t.Plan().Slot(team, iteration); ok {
		return t.Plan().Teams[place.Team].Iterations[place.Slot].Label()
	}
	return iteration
}

func (t *things) startOf(key string) program.Date {
	team, iteration, _ := strings.Cut(key, "\n")
	place, _ := t.Plan().Slot(team, iteration)
	return place.Start
}
