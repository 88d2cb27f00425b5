package backlog

import (
	"slices"
	"strings"

	"jantrel/core/calendar"
	"jantrel/core/program"
)

// Divides reports whether work can be divided by the field: it has words rather than figures, or days,
// which divide by the week.
func (f *Field) Divides() bool {
	return f.Sort == program.Choice || f.Sort == program.Many || f.Sort == program.Flag || f.Sort == program.Day
}

// Parts are the values of the item at i that the field divides work by: none, one, or of a field with
// many all of them. A day is the Monday of its week, as YYYY-MM-DD; an iteration has its team before it,
// as keys of different teams may be equal.
func (f *Field) Parts(x *Index, i int) []string {
	if f.Sort == program.Day {
		n, ok := f.number(x, i)
		if !ok {
			return nil
		}
		return []string{calendar.MondayOf(program.Date(n)).String()}
	}
	values := f.values(x, i)
	if f.Name == "iteration" && len(values) > 0 {
		return []string{x.p.Items[i].Team + "\n" + values[0]}
	}
	return values
}

// PartWords is what people call one of the parts of the item at i.
func (f *Field) PartWords(x *Index, i int, part string) string {
	switch {
	case f.Sort == program.Day:
		return part
	case f.Name == "iteration":
		return f.words(x, i, plainKey(part))
	case f.Name == "state":
		return program.StateWords[program.ItemState(part)]
	case f.Name == "readiness": // what one item lacks may name a figure; all that lack it stand together
		return x.valueWords(f, part)
	}
	return f.words(x, i, part)
}

// CompareParts orders a part of the item at a and one of the item at b, as lists of the field are ordered.
func (f *Field) CompareParts(x *Index, a int, partA string, b int, partB string) int {
	if f.Sort == program.Day {
		return strings.Compare(partA, partB)
	}
	return f.compareValues(x, a, plainKey(partA), b, plainKey(partB))
}

// plainKey is a part without the team that an iteration has before it.
func plainKey(part string) string {
	_, key, found := strings.Cut(part, "\n")
	if !found {
		return part
	}
	return key
}

// Test makes a filter one question that can be asked of every item, by its position. What is kept out of the plan on
// purpose fails it, but where the filter asks for that. An unknown field, comparison or value is an error that names
// the condition.
func (x *Index) Test(f program.Filter) (func(i int) bool, error) {
	keep, err := x.compile(f)
	if err != nil {
		return nil, err
	}
	if slices.ContainsFunc(f.Conditions, func(c program.Condition) bool { return c.Field == "keptOut" }) {
		return keep, nil
	}
	return func(i int) bool { return !x.p.Items[i].KeptOut && keep(i) }, nil
}
