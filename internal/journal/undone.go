package journal

import "slices"

// Undoing is an edit that takes back all that another one did.
type Undoing struct {
	Revision int64 `db:"revision"` // its own
	Undoes   int64 `db:"undoes"`   // the one that it takes back
}

// NeverWere are edits that never happened, as people have it: by their revision, the edit that took each back.
type NeverWere map[int64]int64

// Has reports whether the edit of a revision is one of them.
func (n NeverWere) Has(revision int64) bool {
	_, never := n[revision]
	return never
}

// Undone are the revisions, up to one, that never happened as people have it: edits that were taken back whole, each with
// the one that took it back, and those that did so themselves. What took something back and was taken back itself never
// happened either: then what it was about stands. undoings are in their order. O(n).
func Undone(undoings []Undoing, to int64) NeverWere {
	undone := NeverWere{}
	for _, u := range slices.Backward(undoings) {
		if u.Revision > to {
			continue
		}
		if by, never := undone[u.Revision]; never && by != u.Revision {
			continue
		}
		undone[u.Revision], undone[u.Undoes] = u.Revision, u.Revision
	}
	return undone
}
