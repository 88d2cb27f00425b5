package program

// Task is a step of an item.
type Task struct {
	Title     string   `json:"title"`
	Hours     *float64 `json:"hours,omitempty"`     // estimated at first, in all; nil: not estimated
	HoursLeft *float64 `json:"hoursLeft,omitempty"` // nil: all of Hours, where there are any
	Done      bool     `json:"done,omitempty"`
	Owner     string   `json:"owner,omitempty"`    // the person who does it
	Activity  string   `json:"activity,omitempty"` // what sort of work it is; see Settings.Activities
}

// Left is what is left of a task, in hours, and false where that is not known.
func (t *Task) Left() (hours float64, known bool) {
	switch {
	case t.Done:
		return 0, t.Hours != nil || t.HoursLeft != nil
	case t.HoursLeft != nil:
		return *t.HoursLeft, true
	case t.Hours != nil:
		return *t.Hours, true
	}
	return 0, false
}

// HoursLeft is what is left of an item's tasks, and false where none that is still to do
// is estimated.
func (i *Item) HoursLeft() (hours float64, estimated bool) {
	for n := range i.Tasks {
		if left, known := i.Tasks[n].Left(); known && !i.Tasks[n].Done {
			hours, estimated = hours+left, true
		}
	}
	return hours, estimated
}

// TasksLeft is the share of the hours estimated for an item's tasks that is left of these, 0 and
// up; false where none was estimated. It passes 1 where more is left than was thought.
func (i *Item) TasksLeft() (share float64, estimated bool) {
	left, all := 0.0, 0.0
	for n := range i.Tasks {
		if task := &i.Tasks[n]; task.Hours != nil {
			hours, _ := task.Left()
			left, all = left+hours, all+*task.Hours
		}
	}
	if all == 0 {
		return 0, false
	}
	return left / all, true
}

// Check is an acceptance criterion of an item.
type Check struct {
	Text string `json:"text"`
	Done bool   `json:"done,omitempty"`
}

// Link leads from an item to something elsewhere.
type Link struct {
	Title   string `json:"title,omitempty"`
	Address string `json:"address"` // http or https
}

// Comment is what somebody said about an item.
type Comment struct {
	Key  string `json:"key"`
	Item string `json:"item"`
	By   string `json:"by"`           // the name of who said it, as it was then
	At   string `json:"at,omitempty"` // when, RFC 3339 in UTC
	Text string `json:"text"`         // Markdown

	Author string `json:"author,omitempty"` // the account that said it: names may be shared, and change; empty: nobody's here
}

// TimeEntry is hours that a person spent on a day. What is removed leaves them: they were spent.
type TimeEntry struct {
	Key      string  `json:"key"`
	Person   string  `json:"person,omitempty"` // empty: somebody who was removed
	Date     Date    `json:"date"`
	Hours    float64 `json:"hours"`
	Item     string  `json:"item,omitempty"` // empty: on none, or on one that was removed
	Task     string  `json:"task,omitempty"` // the title of one of its tasks, as it was then
	Activity string  `json:"activity,omitempty"`
	Note     string  `json:"note,omitempty"` // what was done, in a few words
}

// ReadyRule says what an item must have before a team takes it on.
type ReadyRule struct {
	Size        bool     `json:"size,omitempty"`
	Team        bool     `json:"team,omitempty"`
	Parent      bool     `json:"parent,omitempty"` // belongs to a feature or initiative
	Release     bool     `json:"release,omitempty"`
	Description bool     `json:"description,omitempty"`
	Checks      bool     `json:"checks,omitempty"` // has a check at least
	Needs       bool     `json:"needs,omitempty"`  // nothing it needs is unplaced, or placed too late for it
	Tags        []string `json:"tags,omitempty"`   // carries all of these

	Largest map[Unit]float64 `json:"largest,omitempty"` // the largest size, for teams of that unit
}

// DefaultReady is what ready means where a program says nothing.
var DefaultReady = ReadyRule{Size: true, Team: true, Needs: true}

// ReadyRule returns what ready means in the program.
func (p Program) ReadyRule() ReadyRule {
	if p.Settings.Ready != nil {
		return *p.Settings.Ready
	}
	return DefaultReady
}

// Pattern is a row of parts to break a feature down into.
type Pattern struct {
	Key   string        `json:"key"`
	Name  string        `json:"name"`
	Parts []PatternPart `json:"parts,omitempty"`
}

// PatternPart is one item that a pattern makes.
type PatternPart struct {
	Title string   `json:"title"` // {title} stands for the title of what is broken down
	Kind  ItemKind `json:"kind"`
	Team  string   `json:"team,omitempty"`
	Role  string   `json:"role,omitempty"`
	Size  *float64 `json:"size,omitempty"` // in the team's unit
	Tags  []string `json:"tags,omitempty"`
	Needs []int    `json:"needs,omitempty"` // the parts that it needs, from 0
}

// Repeat is an item that every iteration repeats.
type Repeat struct {
	Key    string   `json:"key"`
	Title  string   `json:"title"` // {iteration} stands for the iteration's name
	Kind   ItemKind `json:"kind"`
	Teams  []string `json:"teams,omitempty"` // whose iterations; empty: every team's
	Size   *float64 `json:"size,omitempty"`  // in each team's unit
	Role   string   `json:"role,omitempty"`
	Parent string   `json:"parent,omitempty"`
	Tags   []string `json:"tags,omitempty"`
	Each   bool     `json:"each,omitempty"` // made by itself with each new iteration that is made ahead
}
