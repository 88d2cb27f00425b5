package scenario

import (
	"fmt"

	"jantrel/core/act"
	"jantrel/core/plan"
	"jantrel/core/program"
)

// Publish makes what a scenario changed part of the live plan, all or some of it, as one edit. It is planned on the
// live plan as it is.
type Publish struct {
	Name string          // the scenario's
	Base program.Program // what it was last brought up to
	Mine *plan.Plan      // the scenario
	Choice
	Dry bool // as long as it is only asked what it would do, the live plan's word counts at what nobody has settled
}

// Plan implements act.Intent. It refuses with *Unsettled as long as conflicts are open.
func (p Publish) Plan(s act.State) (act.Plan, error) {
	m, err := Merge(Lines{p.Base, p.Mine, s.Plan}, p.Choice)
	if err != nil {
		return act.Plan{}, err
	}
	if open := m.Open(); len(open) > 0 && !p.Dry {
		return act.Plan{}, &Unsettled{open}
	}
	label := "Publish “" + p.Name + "”"
	if len(p.LeaveOut) > 0 {
		label = "Publish some of “" + p.Name + "”"
	}
	return act.Merged(label, m.Changes, notesOf(m)), nil
}

// BringUpToDate lays what a scenario changed on the live plan as it is, and makes that the scenario, as one edit of
// it. It is planned on the scenario.
type BringUpToDate struct {
	Base program.Program // what it was last brought up to
	Live *plan.Plan      // what it is brought up to
	Choice
	Dry bool // as of Publish
}

// Plan implements act.Intent. It refuses with *Unsettled as long as conflicts are open.
func (b BringUpToDate) Plan(s act.State) (act.Plan, error) {
	m, err := Merge(Lines{b.Base, s.Plan, b.Live}, b.Choice)
	if err != nil {
		return act.Plan{}, err
	}
	if open := m.Open(); len(open) > 0 && !b.Dry {
		return act.Plan{}, &Unsettled{open}
	}
	return act.Merged("Bring up to date", program.Between(s.Program, m.Plan.Program), notesOf(m)), nil
}

// Unsettled says that there are conflicts that nobody has settled.
type Unsettled struct{ Conflicts []Conflict }

func (u *Unsettled) Error() string {
	if len(u.Conflicts) == 1 {
		return "there is a conflict to settle first, about " + u.Conflicts[0].Describe()
	}
	return fmt.Sprintf("there are %d conflicts to settle first", len(u.Conflicts))
}

// notesOf says what else is to be known of a merge.
func notesOf(m Merged) []string {
	notes := []string{}
	for _, r := range m.Rekeyed {
		notes = append(notes, fmt.Sprintf("%s becomes %s, as the live plan has another one of this key.", r.Key, r.To))
	}
	for _, ref := range m.Along {
		notes = append(notes, fmt.Sprintf("%s comes along, as something that is taken needs it.", m.Plan.Called(ref)))
	}
	for _, r := range m.Refused {
		notes = append(notes, fmt.Sprintf("What is changed of %s stays out: %s.", m.Plan.Program.Describe(r.Ref), r.Text))
	}
	return notes
}
