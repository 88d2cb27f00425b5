package act

import (
	"fmt"
	"slices"

	"jantrel/core/program"
	"jantrel/core/words"
)

// EnterTime says how many hours somebody spent on something on a day: in all or, where it adds,
// on top of what they entered already. Two people may so enter hours at once.
type EnterTime struct {
	Person   string       `json:"person"`
	Date     program.Date `json:"date"`
	Item     string       `json:"item,omitempty"`
	Task     string       `json:"task,omitempty"` // the title of one of its tasks
	Activity string       `json:"activity,omitempty"`
	Hours    float64      `json:"hours"` // 0: none any more
	Add      bool         `json:"add,omitempty"`
	Less     bool         `json:"less,omitempty"` // what is left of the task becomes that much less, or more where hours were taken away
	Note     *string      `json:"note,omitempty"` // missing: as it is
}

// Plan implements Intent.
func (x EnterTime) Plan(s State) (Plan, error) {
	if !slices.ContainsFunc(s.People, func(p program.Person) bool { return p.Key == x.Person }) {
		return Plan{}, fmt.Errorf("there is no person %s any more", x.Person)
	}
	what := "no item"
	if x.Item != "" {
		if _, ok := s.Tree().Index[x.Item]; !ok {
			return Plan{}, fmt.Errorf("there is no item %s any more", x.Item)
		}
		what = x.Item
	}
	if x.Task != "" {
		what += ", " + x.Task
	}
	var there []int
	used := map[string]bool{}
	was, day := 0.0, 0.0
	for i := range s.TimeEntries {
		e := &s.TimeEntries[i]
		if e.Person != x.Person || e.Date != x.Date {
			continue
		}
		used[e.Key] = true
		day += e.Hours
		if e.Item == x.Item && e.Task == x.Task && e.Activity == x.Activity {
			there = append(there, i)
			was += e.Hours
		}
	}
	hours := x.Hours
	if x.Add {
		hours += was
	}
	if after := day - was + hours; after > program.MaxHoursADay {
		return Plan{}, fmt.Errorf("that would be %s h on %s; a day has %d", words.Number(after), x.Date.Short(), program.MaxHoursADay)
	}
	changes := x.entries(s, there, used, was, hours)
	if x.Less {
		changes = append(changes, x.less(s, hours-was)...)
	}
	return made(fmt.Sprintf("%s h on %s, %s", words.Number(hours), what, x.Date.Short()), changes, nil)
}

// entries are the changes that make the hours of a day, entered in some entries, another sum.
func (x EnterTime) entries(s State, there []int, used map[string]bool, was, hours float64) (changes []program.Change) {
	ref := func(key string) program.Ref { return program.Ref{Kind: program.KindTimeEntry, Key: key} }
	if len(there) == 0 {
		if hours <= 0 {
			return nil
		}
		// Nobody else makes keys for this person and day: two who enter hours at once do not get in each other's way.
		key := ""
		for n := len(used) + 1; key == "" || used[key]; n++ {
			key = fmt.Sprintf("%s %s %d", x.Person, x.Date, n)
		}
		entry := program.TimeEntry{Key: key, Person: x.Person, Date: x.Date, Hours: hours, Item: x.Item, Task: x.Task, Activity: x.Activity}
		if x.Note != nil {
			entry.Note = *x.Note
		}
		return []program.Change{program.AddOf(ref(key), entry)}
	}
	first := &s.TimeEntries[there[0]]
	rest := there[1:]
	if hours <= 0 {
		rest = there
	} else {
		if hours != was || len(rest) > 0 {
			changes = append(changes, program.SetTo(ref(first.Key), "hours", hours))
		}
		if x.Note != nil && *x.Note != first.Note {
			changes = append(changes, program.SetTo(ref(first.Key), "note", *x.Note))
		}
	}
	for _, i := range rest {
		changes = append(changes, program.Change{Op: program.Remove, Ref: ref(s.TimeEntries[i].Key)})
	}
	return changes
}

// less takes hours from what is left of the task, where that is known.
func (x EnterTime) less(s State, hours float64) []program.Change {
	at, ok := s.Tree().Index[x.Item]
	if !ok || hours == 0 {
		return nil
	}
	tasks := slices.Clone(s.Items[at].Tasks)
	n := slices.IndexFunc(tasks, func(t program.Task) bool { return t.Title == x.Task })
	if n < 0 || tasks[n].Done {
		return nil
	}
	left, known := tasks[n].Left()
	if !known {
		return nil
	}
	left = max(0, left-hours)
	tasks[n].HoursLeft = &left
	return []program.Change{program.SetTo(program.Ref{Kind: program.KindItem, Key: x.Item}, "tasks", tasks)}
}
