// Package pack writes long lists of things in columns: one field of all things together,
// in whichever of a few forms is the shortest. It is how the page gets a program of
// thousands of things; web/src/line/unpack.ts reads it.
//
// A packed list is {"n": how many, "c": {field: column}}, and a column one of
//
//	{"v": [...]}              the values one by one, null where a thing has none
//	{"r": [value, count, …]}  runs of the same value
//	{"k": [...], "i": [...]}  the values there are, and of each thing which, from 0
//	{"k": [...], "r": [which, count, …]}  the same in runs
//	{"t": [delta, count, …]}  dates, as differences in days from the one before (the first
//	                          from 1 January 1970), in runs
//	{"s": [...], "w": [which, count, …], "d": [delta, count, …]}  texts that end in a number:
//	                          what they begin with, which of these in runs, and the numbers, as
//	                          differences from the one before that begins alike (from 0), in runs
//	{"s": [...], "w": [which, count, …], "n": [...]}  the same, with the numbers as they are
//	{"l": [...]}              lists of things, packed each; null for an empty one
//
// The fields are those of the JSON of the things: what that leaves out is null here.
package pack

//go:generate go test -run TestThePagesListsAreOfToday -write

import (
	"encoding/json"
	"fmt"
	"reflect"
	"slices"
	"strconv"
	"strings"

	"jantrel/core/calendar"
)

// List is a packed list.
type List struct {
	N       int                        `json:"n"`
	Columns map[string]json.RawMessage `json:"c"`
}

// Of packs a list of structs. Lists of structs within it that are worth it (nested) are
// packed too; everything else stands as its JSON. Fields left out by name are not packed.
func Of[T any](list []T, leaveOut ...string) (List, error) {
	return of(reflect.ValueOf(list), leaveOut)
}

// nested is how many things one of the lists within a list has at least for them all to be
// packed: short ones are shorter as they are.
const nested = 20

func of(list reflect.Value, leaveOut []string) (List, error) {
	p := List{list.Len(), map[string]json.RawMessage{}}
	kind := list.Type().Elem()
	for i := range kind.NumField() {
		f := kind.Field(i)
		name, options, _ := strings.Cut(f.Tag.Get("json"), ",")
		if name == "" || name == "-" || slices.Contains(leaveOut, name) {
			continue
		}
		column, err := columnOf(list, i, strings.Contains(options, "omit"))
		if err != nil {
			return p, fmt.Errorf("%s of %s: %w", name, kind, err)
		}
		if column != nil {
			p.Columns[name] = column
		}
	}
	return p, nil
}

// columnOf writes a field of all things; nil where none has it.
func columnOf(list reflect.Value, field int, optional bool) (json.RawMessage, error) {
	n := list.Len()
	kind := list.Type().Elem().Field(field).Type
	if kind.Kind() == reflect.Slice && kind.Elem().Kind() == reflect.Struct && packable(list, field) {
		return listsOf(list, field)
	}
	switch {
	case kind == reflect.TypeFor[calendar.Date]():
		if numbers, ok := days(list, field); ok {
			return json.RawMessage(form("t", runs(deltas(numbers)))), nil
		}
	case kind.Kind() == reflect.String:
		if heads, which, numbers, ok := numbersOf(list, field); ok {
			head, err := json.Marshal(heads)
			if err != nil {
				return nil, err
			}
			with := `{"s":` + string(head) + "," + inner(form("w", runs(plain(which)))) + ","
			return json.RawMessage(with + shorter(inner(form("d", runs(deltasOf(which, numbers)))), inner(form("n", plain(numbers)))) + "}"), nil
		}
	}
	values, any, err := textsOf(list, field, optional)
	if err != nil || !any {
		return nil, err
	}
	best := shorter(form("v", values), form("r", runs(values)))
	if known, which := dictionary(values); len(known) <= n/2 {
		with := "{" + inner(form("k", known)) + ","
		best = shorter(best, with+shorter(inner(form("i", plain(which))), inner(form("r", runs(plain(which)))))+"}")
	}
	return json.RawMessage(best), nil
}

// textsOf writes a field of each thing as JSON, and says whether any has it.
func textsOf(list reflect.Value, field int, optional bool) (values []string, any bool, err error) {
	values = make([]string, list.Len())
	for i := range values {
		v := list.Index(i).Field(field)
		if optional && isEmpty(v) {
			values[i] = "null"
			continue
		}
		any = true
		if values[i], err = textOf(v); err != nil {
			return nil, false, err
		}
	}
	return values, any, nil
}

// inner takes the braces off.
func inner(object string) string { return object[1 : len(object)-1] }

// dictionary lists the different values, and which of them each is.
func dictionary(values []string) (known []string, which []int) {
	at := map[string]int{}
	which = make([]int, len(values))
	for i, v := range values {
		n, ok := at[v]
		if !ok {
			n = len(known)
			at[v] = n
			known = append(known, v)
		}
		which[i] = n
	}
	return known, which
}

// isEmpty is what omitempty and omitzero leave out.
func isEmpty(v reflect.Value) bool {
	switch v.Kind() {
	case reflect.Slice, reflect.Map:
		return v.Len() == 0
	}
	return v.IsZero()
}

// textOf writes a value as JSON; the simple ones without reflection of their own.
func textOf(v reflect.Value) (string, error) {
	switch v.Kind() {
	case reflect.Bool:
		return strconv.FormatBool(v.Bool()), nil
	case reflect.Int, reflect.Int64:
		return strconv.FormatInt(v.Int(), 10), nil
	case reflect.Pointer:
		if !v.IsNil() && v.Elem().Kind() == reflect.Float64 {
			return textOf(v.Elem())
		}
	case reflect.Float64:
		if f := v.Float(); f == float64(int64(f)) && f > -1e15 && f < 1e15 {
			return strconv.FormatInt(int64(f), 10), nil
		}
	case reflect.String:
		if text := v.String(); isPlain(text) {
			return `"` + text + `"`, nil
		}
	}
	text, err := json.Marshal(v.Interface())
	return string(text), err
}

// isPlain reports whether a text stands in JSON as it is.
func isPlain(text string) bool {
	for i := range len(text) {
		if c := text[i]; c < ' ' || c > '~' || c == '"' || c == '\\' || c == '<' || c == '>' || c == '&' {
			return false
		}
	}
	return true
}

func form(name string, values []string) string {
	return `{"` + name + `":[` + strings.Join(values, ",") + `]}`
}

func shorter(a, b string) string {
	if len(b) < len(a) {
		return b
	}
	return a
}

// runs writes values as value, count, value, count.
func runs(values []string) []string {
	var list []string
	for i := 0; i < len(values); {
		j := i
		for j < len(values) && values[j] == values[i] {
			j++
		}
		list = append(list, values[i], strconv.Itoa(j-i))
		i = j
	}
	return list
}

func plain(numbers []int) []string {
	list := make([]string, len(numbers))
	for i, n := range numbers {
		list[i] = strconv.Itoa(n)
	}
	return list
}

func deltas(numbers []int) []string {
	list := make([]int, len(numbers))
	last := 0
	for i, n := range numbers {
		list[i], last = n-last, n
	}
	return plain(list)
}

// epoch is 1 January 1970.
var epoch = calendar.MustParse("1970-01-01")

// days are the dates of a field, if all have one.
func days(list reflect.Value, field int) ([]int, bool) {
	numbers := make([]int, list.Len())
	for i := range numbers {
		d := calendar.Date(list.Index(i).Field(field).Int())
		if d.IsZero() {
			return nil, false
		}
		numbers[i] = int(d - epoch)
	}
	return numbers, true
}

// maxHeads is how many beginnings the texts of a column may have.
const maxHeads = 64

// numbersOf takes texts apart that all end in a number without zeros before it: what they
// begin with, which of that, and the numbers.
func numbersOf(list reflect.Value, field int) (heads []string, which, numbers []int, ok bool) {
	which, numbers = make([]int, list.Len()), make([]int, list.Len())
	at := map[string]int{}
	for i := range numbers {
		text := list.Index(i).Field(field).String()
		head := strings.TrimRight(text, "0123456789")
		digits := text[len(head):]
		n, err := strconv.Atoi(digits)
		if err != nil || len(digits) > 9 || digits[0] == '0' && len(digits) > 1 {
			return nil, nil, nil, false
		}
		known, seen := at[head]
		if !seen {
			known = len(heads)
			at[head], heads = known, append(heads, head)
			if len(heads) > maxHeads {
				return nil, nil, nil, false
			}
		}
		which[i], numbers[i] = known, n
	}
	return heads, which, numbers, len(numbers) > 0
}

// deltasOf are the differences of each number from the one before of the same beginning.
func deltasOf(which, numbers []int) []string {
	list, last := make([]int, len(numbers)), map[int]int{}
	for i, n := range numbers {
		list[i], last[which[i]] = n-last[which[i]], n
	}
	return plain(list)
}

// packable reports whether lists within the things are long enough to be packed.
func packable(list reflect.Value, field int) bool {
	for i := range list.Len() {
		if list.Index(i).Field(field).Len() >= nested {
			return true
		}
	}
	return false
}

func listsOf(list reflect.Value, field int) (json.RawMessage, error) {
	packed := make([]*List, list.Len())
	for i := range packed {
		inner := list.Index(i).Field(field)
		if inner.Len() == 0 {
			continue
		}
		one, err := of(inner, nil)
		if err != nil {
			return nil, err
		}
		packed[i] = &one
	}
	return json.Marshal(map[string]any{"l": packed})
}
