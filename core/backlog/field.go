package backlog

import (
	"cmp"
	"strconv"
	"strings"

	"jantrel/core/program"
)

// Sort says what values a field has, and so how it is compared.
type Sort string

// The sorts of field.
const (
	Text   Sort = "text"
	Number Sort = "number"
	Choice Sort = "choice" // one of known values, by key
	Many   Sort = "many"   // several words or keys
	Day    Sort = "day"
	Flag   Sort = "flag" // yes or no
)

// Field is something that an item says of itself, or that is known of it.
type Field struct {
	Name   string `json:"name"`
	Title  string `json:"title"`
	Sort   Sort   `json:"sort" enum:"text,number,choice,many,day,flag"`
	Enter  bool   `json:"enter" doc:"Can be entered; the others are worked out"`
	values func(x *Index, i int) []string
	number func(x *Index, i int) (float64, bool)  // of Number and Day
	show   func(x *Index, i int, v string) string // a value in words; nil: as it is
}

// one makes the values of a field that has one or none.
func one(get func(item *program.Item) string) func(*Index, int) []string {
	return func(x *Index, i int) []string { return some(get(&x.p.Items[i])) }
}

func some(value string) []string {
	if value == "" {
		return nil
	}
	return []string{value}
}

func flag(get func(item *program.Item) bool) func(*Index, int) []string {
	return func(x *Index, i int) []string {
		if get(&x.p.Items[i]) {
			return []string{"yes"}
		}
		return []string{"no"}
	}
}

func date(get func(x *Index, i int) program.Date) func(*Index, int) (float64, bool) {
	return func(x *Index, i int) (float64, bool) {
		d := get(x, i)
		return float64(d), !d.IsZero()
	}
}

func named(of string) func(*Index, int, string) string {
	return func(x *Index, _ int, key string) string { return cmp.Or(x.names[of][key], key) }
}

func titled(x *Index, _ int, key string) string {
	if i, ok := x.tree.Index[key]; ok {
		return x.p.Items[i].Title
	}
	return key
}

// Fields are the fields of an item, in the order in which they are offered.
var Fields = []Field{
	{Name: "rank", Title: "Rank", Sort: Number, number: func(x *Index, i int) (float64, bool) { return float64(x.ordinal[i]), x.ordinal[i] > 0 }},
	{Name: "key", Title: "Key", Sort: Text, Enter: true, values: one(func(i *program.Item) string { return i.Key })},
	{Name: "title", Title: "Title", Sort: Text, Enter: true, values: one(func(i *program.Item) string { return i.Title })},
	{Name: "kind", Title: "Kind", Sort: Choice, Enter: true, values: one(func(i *program.Item) string { return string(i.Kind) })},
	{Name: "parent", Title: "Part of", Sort: Choice, Enter: true, values: one(func(i *program.Item) string { return i.Parent }), show: titled},
	{Name: "feature", Title: "Feature", Sort: Choice, show: titled, values: func(x *Index, i int) []string {
		if x.p.Items[i].Kind == program.Feature {
			return []string{x.p.Items[i].Key}
		}
		return some(x.ancestor(i, program.Feature))
	}},
	{Name: "initiative", Title: "Initiative", Sort: Choice, show: titled, values: func(x *Index, i int) []string {
		if x.p.Items[i].Kind == program.Initiative {
			return []string{x.p.Items[i].Key}
		}
		return some(x.ancestor(i, program.Initiative))
	}},
	{Name: "team", Title: "Team", Sort: Choice, Enter: true, values: one(func(i *program.Item) string { return i.Team }), show: named("team")},
	{Name: "role", Title: "Role", Sort: Text, Enter: true, values: one(func(i *program.Item) string { return i.Role })},
	{Name: "assignee", Title: "Assigned to", Sort: Choice, Enter: true, values: one(func(i *program.Item) string { return i.Assignee }), show: named("person")},
	{Name: "size", Title: "Size", Sort: Number, Enter: true, number: func(x *Index, i int) (float64, bool) {
		if x.p.Items[i].Size == nil {
			return 0, false
		}
		return *x.p.Items[i].Size, true
	}},
	{Name: "release", Title: "Release", Sort: Choice, Enter: true, show: named("release"),
		values: func(x *Index, i int) []string { return some(x.tree.Release(i)) }},
	{Name: "iteration", Title: "Iteration", Sort: Choice, Enter: true, show: func(x *Index, i int, key string) string {
		return cmp.Or(x.labels[place{x.p.Items[i].Team, key}], key)
	}, values: one(func(i *program.Item) string { return i.Iteration })},
	{Name: "state", Title: "State", Sort: Choice, Enter: true, values: one(func(i *program.Item) string { return string(cmp.Or(i.State, program.Todo)) })},
	{Name: "needs", Title: "Needs", Sort: Many, Enter: true, values: func(x *Index, i int) []string { return x.needs[x.p.Items[i].Key] }},
	{Name: "neededBy", Title: "Needed by", Sort: Many, values: func(x *Index, i int) []string { return x.wanted[x.p.Items[i].Key] }},
	{Name: "readiness", Title: "Lacks", Sort: Many, values: func(x *Index, i int) []string {
		codes := make([]string, len(x.lacks[i]))
		for j, lack := range x.lacks[i] {
			codes[j] = string(lack.Code)
		}
		return codes
	}, show: func(x *Index, i int, code string) string {
		for _, lack := range x.lacks[i] {
			if string(lack.Code) == code {
				return lack.Text
			}
		}
		return code
	}},
	{Name: "tags", Title: "Tags", Sort: Many, Enter: true, values: func(x *Index, i int) []string { return x.p.Items[i].Tags }},
	{Name: "notBefore", Title: "Not before", Sort: Day, Enter: true, number: date(func(x *Index, i int) program.Date { return x.p.Items[i].NotBefore })},
	{Name: "due", Title: "Due", Sort: Day, Enter: true, number: date(func(x *Index, i int) program.Date { return x.p.Items[i].Due })},
	{Name: "pinned", Title: "Pinned", Sort: Flag, Enter: true, values: flag(func(i *program.Item) bool { return i.Pinned })},
	{Name: "keptOut", Title: "Kept out", Sort: Flag, Enter: true, values: flag(func(i *program.Item) bool { return i.KeptOut })},
	{Name: "doneOn", Title: "Done on", Sort: Day, Enter: true, number: date(func(x *Index, i int) program.Date { return x.p.Items[i].DoneOn })},
	{Name: "description", Title: "Description", Sort: Text, Enter: true, values: one(func(i *program.Item) string { return i.Description })},
	{Name: "checks", Title: "Checks", Sort: Number, number: func(x *Index, i int) (float64, bool) {
		return float64(len(x.p.Items[i].Checks)), len(x.p.Items[i].Checks) > 0
	}},
	{Name: "hoursLeft", Title: "Hours left", Sort: Number, number: func(x *Index, i int) (float64, bool) {
		sum, any := 0.0, false
		for _, task := range x.p.Items[i].Tasks {
			if task.HoursLeft != nil && !task.Done {
				sum, any = sum+*task.HoursLeft, true
			}
		}
		return sum, any
	}},
	{Name: "foundIn", Title: "Found in", Sort: Text, Enter: true, values: one(func(i *program.Item) string { return i.FoundIn })},
	{Name: "fixedIn", Title: "Fixed in", Sort: Text, Enter: true, values: one(func(i *program.Item) string { return i.FixedIn })},
	{Name: "changed", Title: "Changed", Sort: Day, number: date(func(x *Index, i int) program.Date { return x.o.Changed[x.p.Items[i].Key] })},
}

// FieldOf returns the field with a name.
func FieldOf(name string) (*Field, bool) {
	for i := range Fields {
		if Fields[i].Name == name {
			return &Fields[i], true
		}
	}
	return nil, false
}

// Value returns what the item at i has in a field, in words: names for keys, dates
// as YYYY-MM-DD, several set off by commas; empty for nothing.
func (f *Field) Value(x *Index, i int) string {
	if f.number != nil {
		n, ok := f.number(x, i)
		switch {
		case !ok:
			return ""
		case f.Sort == Day:
			return program.Date(n).String()
		}
		return strconv.FormatFloat(n, 'f', -1, 64)
	}
	values := f.values(x, i)
	if f.Sort != Many {
		if len(values) == 0 {
			return ""
		}
		return f.words(x, i, values[0])
	}
	words := make([]string, len(values))
	for j, v := range values {
		words[j] = f.words(x, i, v)
		if f.Enter && strings.ContainsAny(words[j], ",;\n") { // so that it can be taken apart again
			words[j] = `"` + words[j] + `"`
		}
	}
	return strings.Join(words, ", ")
}

func (f *Field) words(x *Index, i int, value string) string {
	if f.show == nil {
		return value
	}
	return f.show(x, i, value)
}

// compare orders two items by the field; those without a value come last.
func (f *Field) compare(x *Index, a, b int) int {
	if f.number != nil {
		m, okA := f.number(x, a)
		n, okB := f.number(x, b)
		if okA != okB {
			return lastIf(!okA)
		}
		return cmp.Compare(m, n)
	}
	va, vb := f.values(x, a), f.values(x, b)
	if (len(va) == 0) != (len(vb) == 0) {
		return lastIf(len(va) == 0)
	}
	if len(va) == 0 {
		return 0
	}
	return f.compareValues(x, a, va[0], b, vb[0])
}

func lastIf(last bool) int {
	if last {
		return 1
	}
	return -1
}

// compareValues orders two values: iterations by their dates, states, kinds and
// releases as they follow one another, everything else by its words.
func (f *Field) compareValues(x *Index, a int, va string, b int, vb string) int {
	switch f.Name {
	case "iteration":
		return cmp.Or(cmp.Compare(x.spans[place{x.p.Items[a].Team, va}].Start, x.spans[place{x.p.Items[b].Team, vb}].Start),
			cmp.Compare(f.words(x, a, va), f.words(x, b, vb)))
	case "parent", "feature", "initiative":
		return cmp.Compare(x.tree.Index[va], x.tree.Index[vb]) // by rank
	case "state", "kind", "release", "team":
		return cmp.Or(cmp.Compare(x.position(f.Name, va), x.position(f.Name, vb)), cmp.Compare(va, vb))
	}
	return cmp.Compare(strings.ToLower(f.words(x, a, va)), strings.ToLower(f.words(x, b, vb)))
}
