package program

import "slices"

// View is a saved way to look at the work: in the backlog a list, of what, in which order,
// under which heads, with which columns; in the plan the blocks of what its filter keeps, in
// colours of its own. Fields and comparisons are those of package backlog.
type View struct {
	Key        string   `json:"key"`
	Name       string   `json:"name"`
	By         string   `json:"by,omitempty"` // who shared it
	Columns    []Column `json:"columns,omitempty"`
	Group      string   `json:"group,omitempty"` // the field whose values are heads; "tree": under parents
	Sort       string   `json:"sort,omitempty"`  // the field to order by; empty: rank
	Descending bool     `json:"descending,omitempty"`
	Filter     Filter   `json:"filter,omitzero"`

	Colours []ColourRule `json:"colours,omitempty"` // of blocks and cards: of each item the first that holds
	Plan    *PlanLook    `json:"plan,omitempty"`    // how the plan looks; missing: it stays as it is
}

// Uses reports whether a view shows, orders by or compares a field.
func (v View) Uses(field string) bool {
	return v.Sort == field || v.Group == field || v.Filter.uses(field) ||
		slices.ContainsFunc(v.Columns, func(c Column) bool { return c.Field == field }) ||
		slices.ContainsFunc(v.Colours, func(r ColourRule) bool { return r.Filter.uses(field) })
}

// ColourRule gives items a colour, and a mark for those who tell colours badly apart.
type ColourRule struct {
	Name   string `json:"name,omitempty"` // in the legend; empty: its conditions in words
	Colour Colour `json:"colour"`
	Mark   Mark   `json:"mark,omitempty"`
	Filter Filter `json:"filter,omitzero"` // of which items
}

// Colour is one of a set that stays apart for people who see fewer colours.
type Colour string

// The values of Colour.
const (
	Sand    Colour = "sand"
	Sky     Colour = "sky"
	Kelp    Colour = "kelp"
	Sun     Colour = "sun"
	Deep    Colour = "deep"
	Rust    Colour = "rust"
	Heather Colour = "heather"
	Ink     Colour = "ink"
)

// Mark is a pattern in addition to a colour.
type Mark string

// The values of Mark.
const (
	Plain   Mark = "plain"
	Stripes Mark = "stripes"
	Rungs   Mark = "rungs"
	Dots    Mark = "dots"
	Checks  Mark = "checks"
)

// PlanLook is how a view draws the plan. What is empty is the usual.
type PlanLook struct {
	ColourBy  ColourBy    `json:"colourBy,omitempty"`  // empty: by release
	Needs     NeedsShown  `json:"needs,omitempty"`     // empty: those that are broken
	Density   Density     `json:"density,omitempty"`   // empty: usual
	Blocks    []BlockPart `json:"blocks,omitempty"`    // what a block says; empty: title and size
	OnlyNeeds bool        `json:"onlyNeeds,omitempty"` // blocks without a need step back
	Bars      ItemKind    `json:"bars,omitempty"`      // feature or initiative: what stands above the lanes; empty: nothing
}

// ColourBy is what the colour of a block means.
type ColourBy string

// The values of ColourBy.
const (
	ByRelease   ColourBy = "release"
	ByKind      ColourBy = "kind"
	ByReadiness ColourBy = "readiness"
	ByRules     ColourBy = "rules"
)

// NeedsShown is which needs the plan draws.
type NeedsShown string

// The values of NeedsShown.
const (
	NeedsOfSelected NeedsShown = "selected"
	NeedsBroken     NeedsShown = "broken"
	NeedsTight      NeedsShown = "tight"
	NeedsAcross     NeedsShown = "across"
	NeedsAll        NeedsShown = "all"
)

// Density is how high the lanes are.
type Density string

// The values of Density.
const (
	Compact Density = "compact"
	Usual   Density = "usual"
	Roomy   Density = "roomy"
)

// BlockPart is something that a block says of its item.
type BlockPart string

// The values of BlockPart.
const (
	PartKey      BlockPart = "key"
	PartTitle    BlockPart = "title"
	PartSize     BlockPart = "size"
	PartAssignee BlockPart = "assignee"
	PartPriority BlockPart = "priority"
	PartState    BlockPart = "state"
	PartTags     BlockPart = "tags"
	PartChecks   BlockPart = "checks"
)

// Column is a field that a view shows.
type Column struct {
	Field string `json:"field"`
	Width int    `json:"width,omitempty"` // pixels; 0: the field's usual
}

// Filter keeps the items for which all conditions hold, or any of them.
type Filter struct {
	Any        bool        `json:"any,omitempty"`
	Conditions []Condition `json:"conditions,omitempty"`
}

func (f Filter) uses(field string) bool {
	return slices.ContainsFunc(f.Conditions, func(c Condition) bool { return c.Field == field })
}

// IsZero reports whether the filter keeps everything.
func (f Filter) IsZero() bool { return len(f.Conditions) == 0 }

// Condition compares a field of an item with values; one of them is enough.
type Condition struct {
	Field  string   `json:"field"`
	Is     string   `json:"is"`
	Values []string `json:"values,omitempty"`
}
