package reports

import (
	"fmt"
	"slices"

	"jantrel/core/backlog"
	"jantrel/core/capacity"
	"jantrel/core/plan"
	"jantrel/core/program"
)

// Items, and the tasks of items.

func itemsOf(k *Known, c *Chart) (*things, error) {
	p := k.Plan()
	t, err := newThings(k, c, len(p.Items), things{
		item: func(r int) int { return r },
		team: func(r int) string { return p.Items[r].Team },
		ref:  func(r int) program.Ref { return program.Ref{Kind: program.KindItem, Key: p.Items[r].Key} },

		title: func(r int) string { return p.Items[r].Title },
	})
	if err != nil {
		return nil, err
	}
	if view, _ := k.Views.Of(c); !backlog.FiltersKind(c.Filter) && !backlog.FiltersKind(view.Filter) {
		t.rows = slices.DeleteFunc(t.rows, func(r int) bool { return !k.Tree().IsLeaf(r) })
	}
	t.measure, err = itemMeasure(k, c, t)
	return t, err
}

// itemMeasure is what an item measures.
func itemMeasure(k *Known, c *Chart, t *things) (func(r int) (float64, bool), error) {
	items := k.Plan().Items
	switch c.Measure {
	case "size":
		return func(r int) (float64, bool) {
			if items[r].Size == nil {
				return 0, false
			}
			return *items[r].Size, true
		}, t.oneTeam()
	case "share":
		return shares(k.Plan(), t.rows), nil
	case "estimated":
		return func(r int) (hours float64, has bool) {
			for n := range items[r].Tasks {
				if task := &items[r].Tasks[n]; task.Hours != nil {
					hours, has = hours+*task.Hours, true
				}
			}
			return hours, has
		}, nil
	case "left":
		return func(r int) (float64, bool) { return items[r].HoursLeft() }, nil
	case "spent":
		spent := map[string]float64{}
		for i := range k.Plan().TimeEntries {
			e := &k.Plan().TimeEntries[i]
			spent[e.Item] += e.Hours
		}
		return func(r int) (float64, bool) { hours, has := spent[items[r].Key]; return hours, has }, nil
	case "age":
		return func(r int) (float64, bool) {
			if !items[r].State.UnderWay() || k.Began == nil {
				return 0, false
			}
			began, ok := k.Began(items[r].Key)
			return float64(k.Today - began + 1), ok
		}, nil
	case "late":
		return func(r int) (float64, bool) { return lateness(k, r) }, nil
	}
	return nil, nil
}

// shares weighs items by the days that their teams take for them, size ÷ velocity × days of an iteration, as a share
// of what all of rows weigh: so the forecast counts the work of several teams too.
func shares(p *plan.Plan, rows []int) func(r int) (float64, bool) {
	perUnit := capacity.DaysPerUnit(p)
	weight := func(r int) (float64, bool) {
		item := &p.Items[r]
		per, ok := perUnit[item.Team]
		if item.Size == nil || !ok {
			return 0, false
		}
		return *item.Size * per, true
	}
	whole := 0.0
	for _, r := range rows {
		w, _ := weight(r)
		whole += w
	}
	return func(r int) (float64, bool) {
		w, ok := weight(r)
		if !ok || whole == 0 {
			return 0, ok
		}
		return w / whole, true
	}
}

// lateness is by how many days the item at a position comes after its due date, or else its release's: by when it was
// done, by the end of its iteration, or by today where it stands nowhere and the date has gone by; 0 where it is in
// time. Without a date, or with nothing to tell, there is none.
func lateness(k *Known, i int) (float64, bool) {
	p := k.Plan()
	item := &p.Items[i]
	due := item.Due
	if due.IsZero() {
		release := k.Tree().Release(i)
		for n := range p.Releases {
			if p.Releases[n].Key == release {
				due = p.Releases[n].Due
			}
		}
	}
	if due.IsZero() {
		return 0, false
	}
	end := item.DoneOn
	if item.State != program.Done || end.IsZero() {
		place, placed := p.Place(i)
		switch {
		case placed:
			end = place.End
		case item.State != program.Done && k.Today > due:
			end = k.Today
		default:
			return 0, false
		}
	}
	return float64(max(0, end-due)), true
}

// oneTeam refuses to add up sizes of several teams.
func (t *things) oneTeam() error {
	team := ""
	for n, r := range t.rows {
		of := t.team(r)
		if n > 0 && of != team {
			return fmt.Errorf("sizes of different teams are never added up: choose one team, or a share")
		}
		team = of
	}
	return nil
}

// task is one step of an item.
type task struct{ item, nth int }

var taskSplits = []division{
	{Split: Split{Name: "owner", Title: "Owner"}, values: func(t *things, r int) []string { return some(t.task(r).Owner) }, words: (*things).person},
	{Split: Split{Name: "activity", Title: "Activity"}, values: func(t *things, r int) []string { return some(t.task(r).Activity) }},
	{Split: Split{Name: "taskState", Title: "Task"}, order: []string{"open", "done"}, values: func(t *things, r int) []string {
		if t.task(r).Done {
			return []string{"done"}
		}
		return []string{"open"}
	}},
}

func (t *things) task(r int) *program.Task {
	at := t.own.([]task)[r]
	return &t.Plan().Items[at.item].Tasks[at.nth]
}

func tasksOf(k *Known, c *Chart) (*things, error) {
	var all []task
	for i := range k.Plan().Items {
		for n := range k.Plan().Items[i].Tasks {
			all = append(all, task{i, n})
		}
	}
	t, err := newThings(k, c, len(all), things{
		own:  all,
		item: func(r int) int { return all[r].item },
		team: func(r int) string { return k.teamOfItem(all[r].item) },
		ref: func(r int) program.Ref {
			return program.Ref{Kind: program.KindItem, Key: k.Plan().Items[all[r].item].Key}
		},
	})
	if err != nil {
		return nil, err
	}
	switch c.Measure {
	case "estimated":
		t.measure = func(r int) (float64, bool) {
			if hours := t.task(r).Hours; hours != nil {
				return *hours, true
			}
			return 0, false
		}
	case "left":
		t.measure = func(r int) (float64, bool) { return t.task(r).Left() }
	}
	return t, nil
}
