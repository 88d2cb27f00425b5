package backlog

import (
	"fmt"

	"jantrel/core/program"
)

// Paint is what a view makes of the blocks of the plan.
type Paint struct {
	LeftOut  []string   `json:"leftOut"`  // the leaves that the filter does not keep
	Colours  [][]string `json:"colours"`  // by colour rule of the view: the leaves of which it is the first that holds
	Names    []string   `json:"names"`    // of the colour rules: their own, or their conditions in words
	Sentence string     `json:"sentence"` // the filter in words
}

// Paint asks a view's filter and colour rules of every leaf: once each of its conditions at
// most. An unknown field, comparison or value is an error that names the rule and condition.
func (x *Index) Paint(v program.View) (Paint, error) {
	paint := Paint{LeftOut: []string{}, Colours: make([][]string, len(v.Colours)), Names: make([]string, len(v.Colours)), Sentence: x.Sentence(v.Filter)}
	keep, err := x.compile(v.Filter)
	if err != nil {
		return Paint{}, err
	}
	rules := make([]test, len(v.Colours))
	for r, rule := range v.Colours {
		if rules[r], err = x.compile(rule.Filter); err != nil {
			return Paint{}, fmt.Errorf("colour rule %d: %w", r+1, err)
		}
		paint.Colours[r], paint.Names[r] = []string{}, rule.Name
		switch {
		case rule.Name != "":
		case rule.Filter.IsZero():
			paint.Names[r] = "everything"
		default:
			paint.Names[r] = x.Sentence(rule.Filter)
		}
	}
	for i := range x.p.Items {
		if !x.tree.IsLeaf(i) {
			continue
		}
		if !keep(i) {
			paint.LeftOut = append(paint.LeftOut, x.p.Items[i].Key)
			continue
		}
		for r, holds := range rules {
			if holds(i) {
				paint.Colours[r] = append(paint.Colours[r], x.p.Items[i].Key)
				break
			}
		}
	}
	return paint, nil
}
