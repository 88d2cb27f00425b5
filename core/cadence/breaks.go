package cadence

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"jantrel/core/program"
)

// Break is where a team's iterations do not follow one another: they share days,
// or leave some out.
type Break struct {
	Team    string `json:"team"`
	Before  string `json:"before"`  // the iteration that ends
	After   string `json:"after"`   // the one that should start the day after
	Overlap bool   `json:"overlap"` // they share days; else days are left out
	Days    int    `json:"days"`
	Text    string `json:"text"`
}

// Breaks lists the overlaps and gaps within the teams' iterations.
func Breaks(p program.Program) []Break {
	found := []Break{}
	for i := range p.Teams {
		t := &p.Teams[i]
		order := make([]*program.Iteration, len(t.Iterations))
		for j := range t.Iterations {
			order[j] = &t.Iterations[j]
		}
		slices.SortStableFunc(order, func(a, b *program.Iteration) int {
			return cmp.Or(cmp.Compare(a.Start, b.Start), cmp.Compare(a.End, b.End))
		})
		for j := 1; j < len(order); j++ {
			a, b := order[j-1], order[j]
			switch days := int(b.Start - a.End - 1); {
			case days > 0:
				found = append(found, Break{t.Key, a.Key, b.Key, false, days, fmt.Sprintf("%s ends %s and %s starts %s: %s between them belong to neither",
					a.Label(), a.End.Short(), b.Label(), b.Start.Short(), dayCount(days))})
			case days < 0:
				found = append(found, Break{t.Key, a.Key, b.Key, true, -days, fmt.Sprintf("%s ends %s and %s starts %s: they share %s",
					a.Label(), a.End.Short(), b.Label(), b.Start.Short(), dayCount(-days))})
			}
		}
	}
	return found
}

func dayCount(n int) string {
	if n == 1 {
		return "1 day"
	}
	return fmt.Sprintf("%d days", n)
}

// BreakError refuses an edit after which iterations overlap or leave days out
// that did not before.
type BreakError struct{ Breaks []Break }

func (e *BreakError) Error() string {
	texts := make([]string, len(e.Breaks))
	for i, b := range e.Breaks {
		texts[i] = b.Text
	}
	return strings.Join(texts, "; ") + ". Move the later iterations along, or give one of the two other dates."
}

// Refuse returns a *BreakError if a program has overlaps or gaps that none of the others
// has: a program that came with one can be edited as long as that is no new one.
func Refuse(p program.Program, others ...program.Program) error {
	breaks := Breaks(p)
	if len(breaks) == 0 {
		return nil
	}
	known := map[Break]bool{}
	for _, other := range others {
		for _, b := range Breaks(other) {
			known[b] = true
		}
	}
	fresh := slices.DeleteFunc(breaks, func(b Break) bool { return known[b] })
	if len(fresh) == 0 {
		return nil
	}
	return &BreakError{fresh}
}
