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
	label := "Publish “" + p.Name + "”"
	if len(p.LeaveOut) > 0 {
		label = "Publish some of “" + p.Name + "”"
	}
	return lay(label, Lines{Base: p.Base, Mine: p.Mine, Live: s.Plan}, p.Choice, p.Dry)
}

// TakeBack takes what one edit of the journal did back, whoever made it and whatever came after it: what was changed
// since in the same place is a conflict. It is planned on the plan as it is.
type TakeBack struct {
	Revision int64           // the edit's
	Label    string          // the edit's
	After    program.Program // as the edit left the plan
	Was      *plan.Plan      // as it was before
	Choice
	Dry bool // as of Publish
}

// Plan implements act.Intent. It refuses with *Unsettled as long as conflicts are open.
func (b TakeBack) Plan(s act.State) (act.Plan, error) {
	p, err := lay("Take back “"+b.Label+"”", Lines{Base: b.After, Mine: b.Was, Live: s.Plan, Back: true}, b.Choice, b.Dry)
	p.TakesBack = b.Revision
	return p, err
}

// lay is the plan of what a merge makes of the live plan.
func lay(label string, l Lines, c Choice, dry bool) (act.Plan, error) {
	m, err := settled(l, c, dry)
	return act.Merged(label, m.Changes, notesOf(m)), err
}

// settled is a merge of which, but where it is only asked about, all conflicts are settled.
func settled(l Lines, c Choice, dry bool) (Merged, error) {
	m, err := Merge(l, c)
	if open := m.Open(); err == nil && len(open) > 0 && !dry {
		err = &Unsettled{open}
	}
	return m, err
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
	m, err := settled(Lines{Base: b.Base, Mine: s.Plan, Live: b.Live}, b.Choice, b.Dry)
	if err != nil {
		return act.Plan{}, err
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
