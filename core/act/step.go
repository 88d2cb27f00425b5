package act

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"jantrel/core/program"
	"jantrel/core/track"
	"jantrel/core/words"
)

// Going from step to step. What is asked of somebody who takes an item to another step is said here alone; the board, the
// desk, lists and the item's panel all ask it.

// StepAnswers are the answers to what is asked where items go to another step; what is missing is asked, where it matters.
type StepAnswers struct {
	Why   *string `json:"why,omitempty"`   // of one that goes from review back to work; empty: no reason
	Over  bool    `json:"over,omitempty"`  // it goes where its team has as many as there are to be
	Tasks string  `json:"tasks,omitempty"` // of one that is done with tasks that are not: done or leave
}

// Answers to what becomes of open tasks.
const (
	TasksDone  = "done"
	TasksLeave = "leave"
)

// TakeToStep takes an item to a step of its course.
type TakeToStep struct {
	Item string      `json:"item"`
	To   int         `json:"to"` // which step, from 0
	Step StepAnswers `json:"step,omitzero"`
}

// Plan implements Intent. Where something is to be asked first it changes nothing.
func (x TakeToStep) Plan(s State) (Plan, error) {
	i, ok := s.Tree().Index[x.Item]
	if !ok {
		return Plan{}, fmt.Errorf("there is no item %s any more", x.Item)
	}
	course := s.Settings.Course()
	if x.To < 0 || x.To >= len(course) {
		return Plan{}, fmt.Errorf("there is no such step any more; the program has others by now")
	}
	item, step := &s.Items[i], course[x.To]
	label := x.Item + " " + step.Title()
	at := program.StepOf(course, item)
	if at == x.To {
		return made(label, nil, nil)
	}
	var changes []program.Change
	if from := cmp.Or(item.State, program.Todo); from != step.State {
		changes = append(changes, program.SetTo(itemRef(x.Item), "state", step.State))
	}
	if step.Name != item.Step {
		changes = append(changes, program.SetTo(itemRef(x.Item), "step", step.Name))
	}
	goes := []stepping{{item, at, x.To}}
	if ask := asks(s, goes, x.Step); ask != nil {
		return asking(label, ask, changes)
	}
	if goes[0].back(course) {
		label = x.Item + " sent back"
	}
	return made(label, append(changes, answered(s, goes, x.Step)...), nil)
}

// asking is a plan that changes nothing, but asks something first.
func asking(label string, ask *Question, would []program.Change) (Plan, error) {
	p, err := made(label, nil, nil)
	p.Ask, p.Would = ask, would
	return p, err
}

// stepping is an item that goes from one step to another.
type stepping struct {
	item   *program.Item
	at, to int
}

// back reports whether it goes from review back to work.
func (g stepping) back(course []program.Step) bool {
	return course[g.at].State == program.Review && course[g.to].State == program.Doing
}

// open are the tasks that are not done.
func (g stepping) open() (n int) {
	for _, t := range g.item.Tasks {
		if !t.Done {
			n++
		}
	}
	return n
}

// asks is what is to be asked first of somebody who has items go to other steps: why they go back from review, whether a
// step may hold more of a team's than it is to have, and what becomes of tasks that are not done where an item is. nil for
// nothing.
func asks(s State, goes []stepping, known StepAnswers) *Question {
	course := s.Settings.Course()
	if known.Why == nil && slices.ContainsFunc(goes, func(g stepping) bool { return g.back(course) }) {
		return &Question{Text: "Sent back, why", Field: "why", Answers: []Answer{}}
	}
	if text := s.full(course, goes); text != "" && !known.Over {
		return &Question{Text: text, Field: "over", Answers: []Answer{{"true", "Take it there all the same"}}}
	}
	if known.Tasks == "" {
		var open []stepping
		tasks := 0
		for _, g := range goes {
			if n := g.open(); n > 0 && course[g.to].State == program.Done {
				open, tasks = append(open, g), tasks+n
			}
		}
		if tasks > 0 {
			has := words.Count(len(open), "item") + " have"
			if len(open) == 1 {
				has = open[0].item.Key + " has"
			}
			them := map[bool]string{true: "it", false: "them"}[tasks == 1]
			return &Question{Text: has + " " + words.Count(tasks, "open task") + ".", Field: "tasks", Answers: []Answer{
				{TasksDone, "Mark " + them + " as done"}, {TasksLeave, "Leave " + them + " open"},
			}}
		}
	}
	return nil
}

// full says which step of which team would have more than it is to have; empty for none. O(items).
func (s State) full(course []program.Step, goes []stepping) string {
	if !slices.ContainsFunc(goes, func(g stepping) bool { return course[g.to].Most > 0 }) {
		return ""
	}
	type place struct {
		team string
		step int
	}
	has := map[place]int{}
	now := s.underWay()
	for i := range s.Items {
		if x := &s.Items[i]; x.Iteration != "" && x.Iteration == now[x.Team] {
			has[place{x.Team, program.StepOf(course, x)}]++
		}
	}
	for _, g := range goes {
		has[place{g.item.Team, g.to}]++
	}
	for _, g := range goes {
		at, ok := s.TeamAt()[g.item.Team]
		if step := course[g.to]; ok && step.Most > 0 && has[place{g.item.Team, g.to}] > step.Most {
			return fmt.Sprintf("%s is to have %d at most in %s", s.Teams[at].Name, step.Most, step.Title())
		}
	}
	return ""
}

// underWay are the iterations that teams are in, by team.
func (s State) underWay() map[string]string {
	now := map[string]string{}
	for i := range s.Teams {
		if at, ok := track.UnderWay(&s.Teams[i], s.Today); ok {
			now[s.Teams[i].Key] = s.Teams[i].Iterations[at].Key
		}
	}
	return now
}

// answered are the changes that answers lead to, beside those of the steps themselves.
func answered(s State, goes []stepping, known StepAnswers) (changes []program.Change) {
	course := s.Settings.Course()
	for _, g := range goes {
		if known.Tasks == TasksDone && course[g.to].State == program.Done && g.open() > 0 {
			tasks := slices.Clone(g.item.Tasks)
			for i := range tasks {
				tasks[i].Done = true
			}
			changes = append(changes, program.SetTo(itemRef(g.item.Key), "tasks", tasks))
		}
		if why := strings.TrimSpace(*cmp.Or(known.Why, new(""))); why != "" && g.back(course) {
			comment := program.Comment{Key: s.commentKey(g.item.Key), Item: g.item.Key, Text: "Sent back: " + why}
			changes = append(changes, program.AddOf(program.Ref{Kind: program.KindComment, In: g.item.Key, Key: comment.Key}, comment))
		}
	}
	return changes
}

// commentKey is a key for a comment on an item that none there has.
func (s State) commentKey(item string) string {
	for n := 1; ; n++ {
		key := fmt.Sprintf("%s-back-%d", item, n)
		if !slices.ContainsFunc(s.Comments, func(c program.Comment) bool { return c.Key == key }) {
			return key
		}
	}
}

// AfterTasks is the step that an item is ready for when all its tasks are done: the one after the step where its work is
// done, which is the first of work where it has not been begun. False where that is not for tasks to say: it is in review
// or done already.
func AfterTasks(course []program.Step, item *program.Item) (to int, ok bool) {
	at := program.StepOf(course, item)
	switch course[at].State {
	case program.Todo:
		at = slices.IndexFunc(course, func(s program.Step) bool { return s.State == program.Doing })
	case program.Doing:
	default:
		return 0, false
	}
	return at + 1, true
}
