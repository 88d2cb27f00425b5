package backlog

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"jantrel/core/plan"
	"jantrel/core/program"
)

// Side is where a place in the rank order lies.
type Side string

// The sides: of the whole list, of an item, or one past a neighbour.
const (
	Top    Side = "top"
	Bottom Side = "bottom"
	Above  Side = "above"
	Below  Side = "below"
	Up     Side = "up"
	Down   Side = "down"
)

// Where is a place in the rank order.
type Where struct {
	To  Side   `json:"to"`
	Key string `json:"key,omitempty"` // of above and below: the item there
}

// Rank returns the changes that move items to a place, in the order in which they
// stand now. What is below a moved group moves along. Up and down go past one
// neighbour among the items in view, of which the keys are given in order.
func Rank(p *plan.Plan, keys []string, to Where, inView []string) ([]program.Change, error) {
	tree := p.Tree()
	moves := map[string]bool{}
	for _, key := range keys {
		i, ok := tree.Index[key]
		if !ok {
			return nil, fmt.Errorf("there is no item %q", key)
		}
		withBelow(tree, i, func(j int) { moves[p.Items[j].Key] = true })
	}
	anchor, err := anchorOf(tree, moves, to, inView)
	if err != nil {
		return nil, err
	}
	order := make([]string, len(p.Items))
	var ranked []string
	for i := range p.Items {
		order[i] = p.Items[i].Key
		if moves[order[i]] {
			ranked = append(ranked, order[i])
		}
	}
	if anchor.To == "" {
		return nil, nil // at the end of the view already
	}
	return reorder(order, ranked, anchor), nil
}

func withBelow(tree program.Tree, i int, do func(int)) {
	do(i)
	for _, child := range tree.Children[i] {
		withBelow(tree, child, do)
	}
}

// anchorOf turns up and down into above and below a neighbour; none where there
// is no neighbour.
func anchorOf(tree program.Tree, moves map[string]bool, to Where, inView []string) (Where, error) {
	switch to.To {
	case Top:
		return to, nil
	case Bottom:
		return last(tree, moves), nil
	case Above, Below:
		if _, ok := tree.Index[to.Key]; !ok {
			return to, fmt.Errorf("there is no item %q to rank %s", to.Key, to.To)
		}
		if moves[to.Key] {
			return to, fmt.Errorf("%s moves itself; name an item that stays", to.Key)
		}
		return to, nil
	case Up, Down:
		shown := slices.Clone(inView)
		if to.To == Down {
			slices.Reverse(shown)
		}
		neighbour := ""
		for _, key := range shown {
			if moves[key] {
				break
			}
			neighbour = key
		}
		if neighbour == "" {
			return Where{}, nil
		}
		return Where{map[Side]Side{Up: Above, Down: Below}[to.To], neighbour}, nil
	}
	return to, fmt.Errorf("%q is no place; it is top, bottom, above, below, up or down", to.To)
}

// last is the place below all that stays; none where nothing does.
func last(tree program.Tree, moves map[string]bool) Where {
	at, key := -1, ""
	for k, i := range tree.Index {
		if i > at && !moves[k] {
			at, key = i, k
		}
	}
	if at < 0 {
		return Where{}
	}
	return Where{Below, key}
}

// reorder returns the moves that bring ranked, in their order, to a place. Those
// that stand right already are left alone.
func reorder(order, ranked []string, to Where) []program.Change {
	var changes []program.Change
	after := "" // the one that the next has to follow
	for n, key := range ranked {
		from := slices.Index(order, key)
		order = slices.Delete(order, from, from+1)
		at := 0
		switch {
		case n > 0:
			at = slices.Index(order, after) + 1
		case to.To == Above:
			at = slices.Index(order, to.Key)
		case to.To == Below:
			at = slices.Index(order, to.Key) + 1
		}
		order = slices.Insert(order, at, key)
		if at != from {
			place := at
			changes = append(changes, program.Change{Op: program.Move, Ref: itemRef(key), At: &place})
		}
		after = key
	}
	return changes
}

func itemRef(key string) program.Ref { return program.Ref{Kind: program.KindItem, Key: key} }

func set(key, field string, value any) program.Change {
	return program.SetTo(itemRef(key), field, value)
}

// Delete returns the changes that remove items, with all below the groups among
// them if so asked, and says what else that takes away.
func Delete(p *plan.Plan, keys []string, below bool) (changes []program.Change, gone []string, notes []string, err error) {
	tree := p.Tree()
	going := map[string]bool{}
	for _, key := range keys {
		i, ok := tree.Index[key]
		if !ok {
			return nil, nil, nil, fmt.Errorf("there is no item %q", key)
		}
		if below {
			withBelow(tree, i, func(j int) { going[p.Items[j].Key] = true })
		}
		going[key] = true
	}
	for i := range p.Items {
		item := &p.Items[i]
		if going[item.Key] {
			gone = append(gone, item.Key)
		} else if going[item.Parent] {
			notes = append(notes, fmt.Sprintf("%s %s is part of %s and goes up to the next group", item.Key, item.Title, item.Parent))
		}
	}
	for _, n := range p.Needs {
		if going[n.Needs] && !going[n.Item] {
			notes = append(notes, fmt.Sprintf("%s %s needs %s and will need it no longer", n.Item, p.Items[tree.Index[n.Item]].Title, n.Needs))
		}
	}
	for _, m := range p.Milestones {
		for _, key := range m.Needs {
			if going[key] {
				notes = append(notes, fmt.Sprintf("The milestone %s needs %s and will need it no longer", m.Name, key))
			}
		}
	}
	return program.ForgetItems(p.Program, gone), gone, notes, nil
}

// Keys makes keys for new items that none has.
type Keys struct {
	taken map[string]bool
	last  map[string]int // prefix to the last number used
	group map[program.ItemKind]string
}

// NewKeys makes keys that go on from those of a program, with those of items that are gone.
func NewKeys(p *plan.Plan) *Keys {
	k := &Keys{make(map[string]bool, len(p.Items)), map[string]int{}, map[program.ItemKind]string{program.Feature: "FE", program.Initiative: "IN"}}
	for key := range p.Gone {
		k.taken[key] = true
		if prefix, n := numbered(key); prefix != "" {
			k.last[prefix] = max(k.last[prefix], n)
		}
	}
	seen := map[program.ItemKind]bool{}
	for i := range p.Items {
		key := p.Items[i].Key
		k.taken[key] = true
		prefix, n := numbered(key)
		if prefix == "" {
			continue
		}
		k.last[prefix] = max(k.last[prefix], n)
		// Groups go on with the letters that the first of their kind has.
		if kind := p.Items[i].Kind; kind.IsGroup() && !seen[kind] {
			k.group[kind], seen[kind] = prefix, true
		}
	}
	return k
}

// numbered takes a key as FE-12 apart; no prefix for keys of another shape.
func numbered(key string) (prefix string, n int) {
	at := strings.LastIndexByte(key, '-')
	if at <= 0 {
		return "", 0
	}
	n, err := strconv.Atoi(key[at+1:])
	if err != nil || n < 0 || n > 1_000_000_000 {
		return "", 0
	}
	return key[:at], n
}

// Take keeps a key from being made.
func (k *Keys) Take(key string) { k.taken[key] = true }

// Next makes the key of a new item: its team's and the next number; groups and
// items without a team have letters of their own.
func (k *Keys) Next(kind program.ItemKind, team string) string {
	prefix := team
	if kind.IsGroup() {
		prefix = k.group[kind]
	} else if prefix == "" {
		prefix = "X"
	}
	for {
		k.last[prefix]++
		if key := fmt.Sprintf("%s-%d", prefix, k.last[prefix]); !k.taken[key] {
			k.taken[key] = true
			return key
		}
	}
}
