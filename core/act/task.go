package act

import (
	"fmt"
	"reflect"
	"slices"
	"strconv"

	"jantrel/core/program"
	"jantrel/core/words"
)

// WorkOnTask says how one task of an item goes. Two people may so work on tasks of one item at once. Where it was the last
// one that was open it is asked whether the item goes on, by [TakeToStep] to the step that is the answer.
type WorkOnTask struct {
	Item      string   `json:"item"`
	Task      int      `json:"task"`                // which one, from 0
	Title     string   `json:"title"`               // what it is called: where others came or went, it is found by that
	Done      *bool    `json:"done,omitempty"`      // missing: as it is
	HoursLeft *float64 `json:"hoursLeft,omitempty"` // missing: as they are
	Owner     *string  `json:"owner,omitempty"`     // missing: as it is; empty: nobody
}

// Plan implements Intent.
func (x WorkOnTask) Plan(s State) (Plan, error) {
	i, ok := s.Tree().Index[x.Item]
	if !ok {
		return Plan{}, fmt.Errorf("there is no item %s any more", x.Item)
	}
	item := &s.Items[i]
	at := x.Task
	if at < 0 || at >= len(item.Tasks) || item.Tasks[at].Title != x.Title {
		at = slices.IndexFunc(item.Tasks, func(t program.Task) bool { return t.Title == x.Title })
	}
	if at < 0 {
		return Plan{}, fmt.Errorf("%s has no task %q any more", x.Item, x.Title)
	}
	tasks := slices.Clone(item.Tasks)
	t, label := &tasks[at], "Task of "+x.Item
	if x.HoursLeft != nil {
		t.HoursLeft = x.HoursLeft
		label = fmt.Sprintf("%s: %s h left of %s", x.Item, words.Number(*x.HoursLeft), x.Title)
	}
	if x.Owner != nil {
		t.Owner = *x.Owner
	}
	if x.Done != nil {
		t.Done = *x.Done
		label = fmt.Sprintf("%s: %s done", x.Item, x.Title)
		if !t.Done {
			label = fmt.Sprintf("%s: %s is to do again", x.Item, x.Title)
		}
	}
	if reflect.DeepEqual(tasks, item.Tasks) {
		return made(label, nil, nil)
	}
	p, err := made(label, []program.Change{program.SetTo(program.Ref{Kind: program.KindItem, Key: x.Item}, "tasks", tasks)}, nil)
	open := slices.ContainsFunc(tasks, func(t program.Task) bool { return !t.Done })
	course := s.Settings.Course()
	if to, ready := AfterTasks(course, item); ready && !open && x.Done != nil && *x.Done {
		p.Ask = &Question{Text: "All its tasks are done.", Field: "to", Answers: []Answer{{strconv.Itoa(to), "On to " + course[to].Title()}}}
	}
	return p, err
}
