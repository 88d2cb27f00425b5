package track

import (
	"maps"
	"slices"

	"jantrel/core/program"
)

// tree is how the items of a fold hang together, as the edits go. It is program.Tree for items that
// come, go and move.
type tree struct {
	cards cards
	below map[string]map[string]bool // the children of each item
}

func treeOf(all cards) *tree {
	t := &tree{all, map[string]map[string]bool{}}
	for key, c := range all {
		t.hang(key, c)
	}
	return t
}

func (t *tree) hang(key string, c card) {
	if !c.there || c.parent == "" {
		return
	}
	if t.below[c.parent] == nil {
		t.below[c.parent] = map[string]bool{}
	}
	t.below[c.parent][key] = true
}

// isLeaf is program.Tree.IsLeaf.
func (t *tree) isLeaf(key string) bool {
	c := t.cards[key]
	return len(t.below[key]) == 0 && (!c.rough || c.state == program.Done)
}

// release is program.Tree.Release.
func (t *tree) release(key string) string {
	for c := t.cards[key]; c.there; c = t.cards[c.parent] {
		if c.release != "" || c.noRelease {
			return c.release
		}
	}
	return ""
}

// isIn reports whether an item is another, or below it.
func (t *tree) isIn(key, other string) bool {
	for c := t.cards[key]; c.there; key, c = c.parent, t.cards[c.parent] {
		if key == other {
			return true
		}
	}
	return false
}

// drawn takes in what an edit made of some items, and returns the others that it may have drawn
// along: what is below those that hang elsewhere or are of another release, and what these hung
// and hang from, which may be leaves now, or not any more.
func (t *tree) drawn(touched []string, before cards) []string {
	if t == nil {
		return nil
	}
	found := map[string]bool{}
	var down func(key string)
	down = func(key string) {
		for child := range t.below[key] {
			if !found[child] {
				found[child] = true
				down(child)
			}
		}
	}
	for _, key := range touched {
		was, is := before[key], t.cards[key]
		if was.there == is.there && was.parent == is.parent {
			continue
		}
		if was.there {
			delete(t.below[was.parent], key)
			found[was.parent] = true
		}
		t.hang(key, is)
		found[is.parent] = true
	}
	for _, key := range touched {
		was, is := before[key], t.cards[key]
		if was.there != is.there || was.parent != is.parent || was.release != is.release || was.noRelease != is.noRelease {
			down(key)
		}
	}
	for _, key := range touched {
		delete(found, key)
	}
	delete(found, "")
	return slices.Sorted(maps.Keys(found))
}
