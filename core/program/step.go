package program

import "slices"

// Step is a stretch of a state under a name of the program's own.
type Step struct {
	Name  string    `json:"name"`
	State ItemState `json:"state"`
	Most  int       `json:"most,omitempty"` // how many items a team is to have in it at once; 0: any number
}

// Title is what people call a step: by its name, or its state.
func (s Step) Title() string {
	if s.Name != "" {
		return s.Name
	}
	return StateWords[s.State]
}

// Course is what items run through, in order: the program's steps, and each state that is not
// divided into such as one step without a name.
func (s Settings) Course() []Step {
	course := make([]Step, 0, len(itemStates)+len(s.Steps))
	for _, state := range itemStates {
		at := len(course)
		for _, step := range s.Steps {
			if step.State == state {
				course = append(course, step)
			}
		}
		if len(course) == at {
			course = append(course, Step{State: state})
		}
	}
	return course
}

// StepOf is where on a course an item is: at the step that it names, where this is one of its
// state; else at the first of its state. So whatever sets a state needs to know of no steps.
func StepOf(course []Step, item *Item) int {
	state := item.State
	if state == "" {
		state = Todo
	}
	if at := slices.IndexFunc(course, func(s Step) bool { return s.State == state && s.Name == item.Step }); at >= 0 {
		return at
	}
	return slices.IndexFunc(course, func(s Step) bool { return s.State == state })
}
