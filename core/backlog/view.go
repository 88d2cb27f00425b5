package backlog

import (
	"fmt"

	"jantrel/core/program"
)

// ReadyMade are the views that every program has.
func ReadyMade() []program.View {
	where := func(field, is string, values ...string) program.Condition {
		return program.Condition{Field: field, Is: is, Values: values}
	}
	all := func(conditions ...program.Condition) program.Filter {
		return program.Filter{Conditions: conditions}
	}
	open := where("state", "is-not", string(program.Done))
	in := where("keptOut", "is", "no")
	return []program.View{
		{Key: "all", Name: "Everything"},
		{Key: "release-backlog", Name: "Release backlog", Group: "release", Filter: all(where("release", "filled"), open, in)},
		{Key: "unscheduled", Name: "Unscheduled", Filter: all(where("iteration", "empty"), open, in)},
		{Key: "unfinished", Name: "Unfinished", Filter: all(open)},
		{Key: "not-ready", Name: "Not ready", Filter: all(where("readiness", "filled")), Columns: columns("rank", "key", "title", "kind", "team", "size", "needs", "readiness")},
		{Key: "defects", Name: "Defects", Filter: all(where("kind", "is", string(program.Defect))), Columns: columns("rank", "key", "title", "team", "size", "state", "release", "iteration", "foundIn", "fixedIn")},
		{Key: "changed", Name: "Changed since yesterday", Filter: all(where("changed", "since", "yesterday"))},
	}
}

// Standard are the columns of a view that names none.
func Standard() []program.Column {
	return columns("rank", "key", "title", "kind", "feature", "team", "role", "size", "release", "iteration", "state", "needs", "readiness")
}

func columns(names ...string) []program.Column {
	list := make([]program.Column, len(names))
	for i, name := range names {
		list[i].Field = name
	}
	return list
}

// CheckView says what is wrong with a view's fields and comparisons, those of its colours too.
func (x *Index) CheckView(v program.View) error {
	for _, c := range v.Columns {
		if _, ok := FieldOf(c.Field); !ok {
			return unknownField(c.Field)
		}
	}
	if _, err := x.List(v, ""); err != nil {
		return err
	}
	_, err := x.Paint(v)
	return err
}

func unknownField(name string) error {
	return fmt.Errorf("there is no field %q to show, group or order by", name)
}
