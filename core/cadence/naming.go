package cadence

import (
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"jantrel/core/program"
)

// DefaultNaming is the pattern of a cadence that has none.
const DefaultNaming = "{team}·{n}"

// A naming pattern is text with these in it:
//
//	{team}     the team's key
//	{n}        the running number of the iteration within its team
//	{release}  the release whose days the iteration starts in, the first one due
//	{k}        the running number within that release
var placeholder = regexp.MustCompile(`\{[^{}]*\}`)

// CheckNaming reports what is wrong with a pattern: names must differ from one
// iteration to the next.
func CheckNaming(pattern string) error {
	for _, found := range placeholder.FindAllString(pattern, -1) {
		if !slices.Contains([]string{"{team}", "{n}", "{release}", "{k}"}, found) {
			return fmt.Errorf("the naming pattern has %s in it; it may have {team}, {n}, {release} and {k}", found)
		}
	}
	numbered := strings.Contains(pattern, "{n}") || strings.Contains(pattern, "{k}") && strings.Contains(pattern, "{release}")
	if pattern != "" && !numbered {
		return fmt.Errorf("the naming pattern %q gives every iteration the same name; put {n} in it, or {release} and {k}", pattern)
	}
	return nil
}

// namer names iterations so that no two of a program have the same name.
type namer struct {
	p     program.Program
	taken map[string]bool
}

func newNamer(p program.Program) *namer {
	n := &namer{p, map[string]bool{}}
	for _, t := range p.Teams {
		for _, it := range t.Iterations {
			n.taken[it.Label()] = true
		}
	}
	return n
}

// name fills in the pattern for an iteration, the number-th of its team. A name
// that is taken gets the team's key before it, and then a letter after it.
func (n *namer) name(c *program.Cadence, t *program.Team, it program.Iteration, number int) string {
	pattern := c.Naming
	if pattern == "" {
		pattern = DefaultNaming
	}
	release, within := n.release(t, it.Start)
	name := strings.NewReplacer("{team}", t.Key, "{n}", strconv.Itoa(number), "{release}", release, "{k}", strconv.Itoa(within)).Replace(pattern)
	name = strings.TrimSpace(name)
	if n.taken[name] {
		name = t.Key + " " + name
	}
	base := name
	for suffix := 'b'; n.taken[name]; suffix++ {
		name = base + string(suffix)
	}
	n.taken[name] = true
	return name
}

// release returns the name of the release that an iteration starts in and its
// number there: one more than the team's iterations that start in it earlier.
func (n *namer) release(t *program.Team, start program.Date) (string, int) {
	var in *program.Release
	for i := range n.p.Releases {
		r := &n.p.Releases[i]
		if r.Span().Holds(start) && (in == nil || r.Span().End < in.Span().End) {
			in = r
		}
	}
	if in == nil {
		return "Iteration", 1 + count(t, func(it *program.Iteration) bool { return it.Start < start })
	}
	return in.Name, 1 + count(t, func(it *program.Iteration) bool { return in.Span().Holds(it.Start) && it.Start < start })
}

func count(t *program.Team, holds func(*program.Iteration) bool) int {
	n := 0
	for i := range t.Iterations {
		if holds(&t.Iterations[i]) {
			n++
		}
	}
	return n
}

// nextNumber is the running number of the team's next iteration: one more than
// the largest in its keys, so that what was removed leaves no two alike.
func nextNumber(t *program.Team) int {
	number := len(t.Iterations)
	prefix := keyPrefix(t)
	for _, it := range t.Iterations {
		if n, err := strconv.Atoi(strings.TrimPrefix(it.Key, prefix)); err == nil && strings.HasPrefix(it.Key, prefix) {
			number = max(number, n)
		}
	}
	return number + 1
}

func keyPrefix(t *program.Team) string { return t.Key + "-i" }
