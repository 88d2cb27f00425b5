package act

import (
	"errors"
	"fmt"
	"strconv"
	"strings"
	"unicode"

	"jantrel/core/program"
)

// AddNeeds adds needs written in lines, as pasted out of two columns: the item, what it needs, and, where it is said, how
// many days lie between. Columns are parted by tabs, commas, semicolons or spaces. A need that is there already stays,
// and gets the days that are said.
type AddNeeds struct {
	Text string `json:"text"`
}

// How many lines, and characters, are read at once at the most.
const (
	maxNeedLines = 5000
	maxNeedText  = 200_000
)

// mostLineErrors is how many lines are told that cannot be read.
const mostLineErrors = 10

// Plan implements Intent.
func (x AddNeeds) Plan(s State) (Plan, error) {
	if len(x.Text) > maxNeedText {
		return Plan{}, fmt.Errorf("that is too much text for needs; paste %d characters at most at once", maxNeedText)
	}
	r := needReader{state: s, there: map[[2]string]program.Need{}, said: map[[2]string]bool{}}
	for _, n := range s.Needs {
		r.there[[2]string{n.Item, n.Needs}] = n
	}
	lines := strings.Split(x.Text, "\n")
	if len(lines) > maxNeedLines {
		return Plan{}, fmt.Errorf("there are %d lines; paste %d at most at once", len(lines), maxNeedLines)
	}
	for n, line := range lines {
		if err := r.line(n+1, line); err != nil {
			r.errs = append(r.errs, err.Error())
		}
	}
	if more := len(r.errs) - mostLineErrors; more > 0 {
		r.errs = append(r.errs[:mostLineErrors], fmt.Sprintf("and %d lines more", more))
	}
	if len(r.errs) > 0 {
		return Plan{}, errors.New(strings.Join(r.errs, "; "))
	}
	if r.kept > 0 {
		r.notes = append(r.notes, fmt.Sprintf("%d of them there are already", r.kept))
	}
	p, err := made(fmt.Sprintf("Add %d needs", r.added), r.changes, nil)
	if r.added == 1 {
		p.Label = r.label
	}
	return p.with(nil, r.notes), err
}

// needReader reads needs line by line.
type needReader struct {
	state   State
	there   map[[2]string]program.Need
	said    map[[2]string]bool
	changes []program.Change
	added   int
	kept    int
	label   string
	notes   []string
	errs    []string
}

func (r *needReader) line(n int, text string) error {
	words := strings.FieldsFunc(text, func(c rune) bool { return unicode.IsSpace(c) || c == ',' || c == ';' || c == '"' })
	if len(words) == 0 {
		return nil
	}
	if len(words) < 2 || len(words) > 3 {
		return fmt.Errorf("line %d: write an item, what it needs, and perhaps the days between", n)
	}
	pair := [2]string{words[0], words[1]}
	index := r.state.Tree().Index
	_, item := index[pair[0]]
	_, needed := index[pair[1]]
	switch {
	case n == 1 && !item && !needed:
		r.notes = append(r.notes, "the first line is taken for a heading")
		return nil
	case !item:
		return fmt.Errorf("line %d: there is no item %s", n, pair[0])
	case !needed:
		return fmt.Errorf("line %d: there is no item %s", n, pair[1])
	case pair[0] == pair[1]:
		return fmt.Errorf("line %d: %s cannot need itself", n, pair[0])
	}
	need := program.Need{Item: pair[0], Needs: pair[1], Agreement: program.Asked}
	if len(words) == 3 {
		days, err := strconv.Atoi(words[2])
		if err != nil || days < 0 {
			return fmt.Errorf("line %d: %q are no days between; write a whole number", n, words[2])
		}
		need.LagDays = days
	}
	if r.said[pair] {
		return nil
	}
	r.said[pair] = true
	ref := program.Ref{Kind: program.KindNeed, In: need.Item, Key: need.Needs}
	if was, there := r.there[pair]; there {
		if len(words) == 3 && was.LagDays != need.LagDays {
			r.changes = append(r.changes, program.SetTo(ref, "lagDays", need.LagDays))
		}
		r.kept++
		return nil
	}
	r.added++
	r.label = fmt.Sprintf("%s needs %s", need.Item, need.Needs)
	r.changes = append(r.changes, program.AddOf(ref, need))
	return nil
}
