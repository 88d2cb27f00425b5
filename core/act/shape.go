package act

import (
	"fmt"

	"jantrel/core/backlog"
	"jantrel/core/intake"
	"jantrel/core/program"
	"jantrel/core/words"
)

// AddOutline adds items from an outline: lines, one an item.
type AddOutline struct {
	Text  string       `json:"text"`
	Under intake.Under `json:"under,omitzero"` // where the items go
}

// Read returns each line as it would be taken in.
func (a AddOutline) Read(s State) ([]intake.Node, error) {
	return intake.ReadOutline(s.Index(), s.Today, a.Text, a.Under)
}

// Plan implements Intent.
func (a AddOutline) Plan(s State) (Plan, error) {
	changes, keys, err := intake.AddOutline(s.Index(), s.Today, a.Text, a.Under)
	p, err := made("Add "+these(keys), changes, err)
	return p.with(keys, nil), err
}

// Delete removes items, with the needs of and on them and what was said about them.
type Delete struct {
	Keys  []string `json:"keys"`
	Below bool     `json:"below,omitempty"` // what is below groups goes too; else it goes up
}

// Plan implements Intent. An item that somebody else has changed since is in conflict.
func (d Delete) Plan(s State) (Plan, error) {
	changes, gone, notes, err := backlog.Delete(s.Plan, d.Keys, d.Below)
	p, err := made("Delete "+these(d.Keys), changes, err)
	for _, c := range changes {
		if c.Op == program.Remove && c.Kind == program.KindItem {
			p.Says = append(p.Says, c)
		}
	}
	return p.with(gone, notes), err
}

// Split makes several items of one.
type Split struct {
	Key   string              `json:"key"`
	Parts []backlog.SplitPart `json:"parts"`           // the first is the item itself
	Chain bool                `json:"chain,omitempty"` // each part needs the one before it
}

// Plan implements Intent. The parts were thought of for the item as it was: where its
// title or size has changed since, that is a conflict.
func (x Split) Plan(s State) (Plan, error) {
	changes, keys, err := backlog.Split(s.Plan, x.Key, x.Parts, x.Chain)
	p, err := made(fmt.Sprintf("Split %s into %d", x.Key, len(x.Parts)), changes, err)
	for _, c := range changes {
		if c.Op == program.Set && c.Kind == program.KindItem && c.Key == x.Key {
			p.Says = append(p.Says, c)
		}
	}
	return p.with(keys, nil), err
}

// BreakDown makes the parts of a pattern below a feature.
type BreakDown struct {
	Key     string `json:"key"`     // the feature
	Pattern string `json:"pattern"` // the pattern's key
}

// Plan implements Intent.
func (b BreakDown) Plan(s State) (Plan, error) {
	changes, keys, err := backlog.BreakDown(s.Plan, b.Key, b.Pattern)
	p, err := made(fmt.Sprintf("Break %s down", b.Key), changes, err)
	if err != nil {
		return p, err
	}
	return p.with(keys, loses(s, b.Key)), nil
}

// loses says what an item gives up that becomes a group: these are its parts'.
func loses(s State, key string) (notes []string) {
	item := &s.Items[s.Tree().Index[key]]
	if item.Iteration != "" {
		place := s.Program.Called(program.Ref{Kind: program.KindIteration, In: item.Team, Key: item.Iteration})
		notes = append(notes, fmt.Sprintf("%s leaves %s: its parts are placed one by one", key, place))
	}
	if item.Size != nil {
		notes = append(notes, fmt.Sprintf("Its size of %s goes: its parts have sizes of their own", words.Number(*item.Size)))
	}
	return notes
}

// Repeat makes the items that every iteration repeats, in those that start until a day.
type Repeat struct {
	Keys  []string     `json:"keys"`  // of the repeated items: which
	Until program.Date `json:"until"` // the last day on which an iteration may start
}

// Plan implements Intent.
func (r Repeat) Plan(s State) (Plan, error) {
	changes, keys, err := backlog.RepeatItems(s.Plan, s.Today, r.Until, r.Keys)
	p, err := made(fmt.Sprintf("Add %d repeated items", len(keys)), changes, err)
	return p.with(keys, nil), err
}
