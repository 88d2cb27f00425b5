package backlog

import (
	"cmp"
	"reflect"
	"slices"
	"strconv"
	"strings"

	"jantrel/core/program"
)

// Field is something that an item says of itself, or that is known of it.
type Field struct {
	Name   string       `json:"name"`
	Title  string       `json:"title"`
	Sort   program.Sort `json:"sort"`
	Enter  bool         `json:"enter"`            // can be entered; the others are worked out
	Values []string     `json:"values,omitempty"` // of a choice among known words: these
	Names  program.Kind `json:"names,omitempty"`  // of a choice of things: their kind
	values func(x *Index, i int) []string
	number func(x *Index, i int) (float64, bool)  // of Number and Day
	show   func(x *Index, i int, v string) string // a value in words; nil: as it is
}

func some(value string) []string {
	if value == "" {
		return nil
	}
	return []string{value}
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

// Fields are the fields of an item, in the order in which they are offered: those of
// the registry that can be entered, with those that are worked out among them.
var Fields = fields()

// offered is the order of the fields. What the registry has beside these comes after them.
var offered = []string{"rank", "key", "title", "kind", "parent", "feature", "initiative", "team", "role", "assignee", "size", "left", "rough", "release", "iteration", "state", "step", "priority", "blocked",
	"needs", "neededBy", "readiness", "tags", "notBefore", "due", "pinned", "keptOut", "began", "doneOn", "description", "checks", "hoursLeft", "foundIn", "fixedIn", "changed"}

func fields() []Field {
	info, _ := program.InfoOf(program.KindItem)
	byName, rest := map[string]Field{}, []string{}
	for i := range info.Fields {
		if f := &info.Fields[i]; f.Enter {
			byName[f.Name] = entered(f)
			if !slices.Contains(offered, f.Name) {
				rest = append(rest, f.Name)
			}
		}
	}
	for _, f := range worked {
		byName[f.Name] = f
	}
	list := make([]Field, 0, len(byName))
	for _, name := range slices.Concat(offered, rest) {
		list = append(list, byName[name])
	}
	return list
}

// entered makes a column of a field of the registry.
func entered(f *program.Field) Field {
	value := program.ValueOf(program.KindItem, f.Name)
	get := func(x *Index, i int) reflect.Value { return value(&x.p.Items[i]) }
	c := Field{Name: f.Name, Title: f.Title, Sort: f.Sort, Enter: true, Values: f.Values, Names: f.Names}
	switch f.Sort {
	case program.Number:
		c.number = func(x *Index, i int) (float64, bool) { return figure(get(x, i)) }
	case program.Day:
		c.number = func(x *Index, i int) (float64, bool) { n := get(x, i).Int(); return float64(n), n != 0 }
	case program.Flag:
		c.values = func(x *Index, i int) []string {
			if get(x, i).Bool() {
				return []string{"yes"}
			}
			return []string{"no"}
		}
	case program.Many:
		c.values = func(x *Index, i int) []string { return get(x, i).Interface().([]string) }
	default:
		c.values = func(x *Index, i int) []string { return some(get(x, i).String()) }
	}
	switch f.Names {
	case program.KindTeam, program.KindRelease, program.KindPerson:
		c.show = named(string(f.Names))
	case program.KindItem:
		c.show = titled
	}
	switch f.Name { // what an item has although it does not say so, or says in parts
	case "rough":
		c.Sort, c.values = program.Many, roughs
	case "release":
		c.values = func(x *Index, i int) []string { return some(x.tree.Release(i)) }
	case "state":
		c.values = func(x *Index, i int) []string { return []string{string(cmp.Or(x.p.Items[i].State, program.Todo))} }
	case "iteration":
		c.show = func(x *Index, i int, key string) string { return cmp.Or(x.label(x.p.Items[i].Team, key), key) }
	}
	return c
}

// roughs are an item's rough sizes, each as the team's name and its size: "Lamp Control 20–40".
func roughs(x *Index, i int) (values []string) {
	number := func(n float64) string { return strconv.FormatFloat(n, 'f', -1, 64) }
	for _, r := range x.p.Items[i].Rough {
		text := cmp.Or(x.names["team"][r.Team], r.Team) + " " + number(r.Size)
		if r.UpTo != nil {
			text += "–" + number(*r.UpTo)
		}
		values = append(values, text)
	}
	return values
}

// figure is the number in a field, which is one or a pointer to one.
func figure(v reflect.Value) (float64, bool) {
	if v.Kind() == reflect.Pointer {
		if v.IsNil() {
			return 0, false
		}
		v = v.Elem()
	}
	if v.CanInt() {
		return float64(v.Int()), v.Int() != 0
	}
	return v.Float(), true
}

// worked are the fields that are worked out, and the needs, which are things of their own.
var worked = []Field{
	{Name: "rank", Title: "Rank", Sort: program.Number, number: func(x *Index, i int) (float64, bool) { return float64(x.ordinal[i]), x.ordinal[i] > 0 }},
	{Name: "feature", Title: "Feature", Sort: program.Choice, Names: program.KindItem, show: titled, values: func(x *Index, i int) []string {
		return some(x.under(i, program.Feature))
	}},
	{Name: "initiative", Title: "Initiative", Sort: program.Choice, Names: program.KindItem, show: titled, values: func(x *Index, i int) []string {
		return some(x.under(i, program.Initiative))
	}},
	{Name: "needs", Title: "Needs", Sort: program.Many, Enter: true, values: func(x *Index, i int) []string { return x.needs[x.p.Items[i].Key] }},
	{Name: "neededBy", Title: "Needed by", Sort: program.Many, values: func(x *Index, i int) []string { return x.wanted[x.p.Items[i].Key] }},
	{Name: "readiness", Title: "Lacks", Sort: program.Many, values: func(x *Index, i int) []string {
		codes := make([]string, len(x.lacks()[i]))
		for j, lack := range x.lacks()[i] {
			codes[j] = string(lack.Code)
		}
		return codes
	}, show: func(x *Index, i int, code string) string {
		for _, lack := range x.lacks()[i] {
			if string(lack.Code) == code {
				return lack.Text
			}
		}
		return code
	}},
	{Name: "checks", Title: "Checks", Sort: program.Number, number: func(x *Index, i int) (float64, bool) {
		return float64(len(x.p.Items[i].Checks)), len(x.p.Items[i].Checks) > 0
	}},
	{Name: "hoursLeft", Title: "Hours left", Sort: program.Number, number: func(x *Index, i int) (float64, bool) { return x.p.Items[i].HoursLeft() }},
	{Name: "changed", Title: "Changed", Sort: program.Day, number: func(x *Index, i int) (float64, bool) {
		d := x.o.Changed[x.p.Items[i].Key]
		return float64(d), !d.IsZero()
	}},
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
		case f.Sort == program.Day:
			return program.Date(n).String()
		}
		return strconv.FormatFloat(n, 'f', -1, 64)
	}
	values := f.values(x, i)
	if f.Sort != program.Many {
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
// releases as they follow one another, priorities as the program has them, everything else by its words.
func (f *Field) compareValues(x *Index, a int, va string, b int, vb string) int {
	switch f.Name {
	case "iteration":
		return cmp.Or(cmp.Compare(x.spanOf(x.p.Items[a].Team, va).Start, x.spanOf(x.p.Items[b].Team, vb).Start),
			cmp.Compare(f.words(x, a, va), f.words(x, b, vb)))
	case "parent", "feature", "initiative":
		return cmp.Compare(x.tree.Index[va], x.tree.Index[vb]) // by rank
	case "state", "kind", "release", "team":
		return cmp.Or(cmp.Compare(x.position(f.Name, va), x.position(f.Name, vb)), cmp.Compare(va, vb))
	case "priority": // the program's own first; one that is none of these any more comes after them
		m, n := x.position(f.Name, va), x.position(f.Name, vb)
		return cmp.Or(cmp.Compare(min(m, 1), min(n, 1))*-1, cmp.Compare(m, n), cmp.Compare(va, vb))
	}
	return cmp.Compare(strings.ToLower(f.words(x, a, va)), strings.ToLower(f.words(x, b, vb)))
}
