package program

import (
	"fmt"
	"slices"
)

var leafKinds = []ItemKind{Story, Defect, Upkeep, Enabler, Spike}

// IsGroup reports whether items of the kind are there to group others.
func (k ItemKind) IsGroup() bool { return k == Initiative || k == Feature }

// details checks the short lists that belong to an item.
func (v *validator) details(i int, item *Item) {
	for j, task := range item.Tasks {
		path := fmt.Sprintf("items[%d].tasks[%d]", i, j)
		v.filled(path+".title", task.Title)
		v.atLeastZero(path+".hoursLeft", task.HoursLeft)
	}
	for j, check := range item.Checks {
		v.filled(fmt.Sprintf("items[%d].checks[%d].text", i, j), check.Text)
	}
	for j, link := range item.Links {
		if !webAddress(link.Address) {
			v.report(fmt.Sprintf("items[%d].links[%d].address", i, j), "%q is not an address that starts with http:// or https://", link.Address)
		}
	}
	for j, tag := range item.Tags {
		v.filled(fmt.Sprintf("items[%d].tags[%d]", i, j), tag)
	}
}

// backlog checks what a program asks of its items, and what makes new ones.
func (v *validator) backlog() {
	if r := v.p.Settings.Ready; r != nil {
		for unit, n := range r.Largest {
			oneOf(v, "settings.ready.largest", unit, Points, Days, Hours)
			if !amount(&n) || n == 0 {
				v.report("settings.ready.largest."+string(unit), "%v is not a number above 0", n)
			}
		}
	}
	sum := 0.0
	for kind, share := range v.p.Settings.Mix {
		oneOf(v, "settings.mix", kind, leafKinds...)
		if !amount(&share) || share > 1 {
			v.report("settings.mix."+string(kind), "%v is not between 0 and 1", share)
		}
		sum += share
	}
	if sum > 1+1e-9 {
		v.report("settings.mix", "the shares add up to %.0f %%, which is more than all", 100*sum)
	}
	v.patterns()
	v.repeats()
	seen := keys{}
	for i, view := range v.p.Views {
		path := fmt.Sprintf("views[%d]", i)
		v.unique(seen, path+".key", view.Key)
		v.filled(path+".name", view.Name)
		for j, c := range view.Columns {
			if c.Width < 0 || c.Width > 2000 {
				v.report(fmt.Sprintf("%s.columns[%d].width", path, j), "%d is not between 0 and 2000 pixels", c.Width)
			}
		}
	}
	seen = keys{}
	for i, c := range v.p.Comments {
		path := fmt.Sprintf("comments[%d]", i)
		v.unique(seen, path+".key", c.Key)
		v.filled(path+".text", c.Text)
		if !v.itemKeys[c.Item] {
			v.report(path+".item", "no item %q", c.Item)
		}
	}
}

func (v *validator) patterns() {
	seen := keys{}
	for i, pattern := range v.p.Patterns {
		path := fmt.Sprintf("patterns[%d]", i)
		v.unique(seen, path+".key", pattern.Key)
		for j, part := range pattern.Parts {
			at := fmt.Sprintf("%s.parts[%d]", path, j)
			v.filled(at+".title", part.Title)
			oneOf(v, at+".kind", part.Kind, leafKinds...)
			v.team(at+".team", part.Team)
			v.atLeastZero(at+".size", part.Size)
			for _, n := range part.Needs {
				// Needing only what comes before it, no part can wait for itself.
				if n < 0 || n >= j {
					v.report(at+".needs", "part %d is not one before this one", n+1)
				}
			}
		}
	}
}

func (v *validator) repeats() {
	seen := keys{}
	for i, r := range v.p.Repeats {
		path := fmt.Sprintf("repeats[%d]", i)
		v.unique(seen, path+".key", r.Key)
		v.filled(path+".title", r.Title)
		oneOf(v, path+".kind", r.Kind, leafKinds...)
		v.atLeastZero(path+".size", r.Size)
		for _, team := range r.Teams {
			v.team(path+".teams", team)
		}
		if r.Parent != "" && !v.itemKeys[r.Parent] {
			v.report(path+".parent", "no item %q", r.Parent)
		}
	}
}

func (v *validator) team(path, key string) {
	if _, ok := v.teamKeys[key]; key != "" && !ok {
		v.report(path, "no team %q", key)
	}
}

func (v *validator) filled(path, text string) {
	if text == "" {
		v.report(path, "is empty")
	}
}

// LeafKinds returns the kinds of items that do not group others.
func LeafKinds() []ItemKind { return slices.Clone(leafKinds) }
