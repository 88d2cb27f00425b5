package plan

import (
	"slices"

	"jantrel/core/program"
)

// fewSizes is below how many sizes of a kind others are looked at.
const fewSizes = 3

// PastSizes returns a function that gives the sizes which tell how large an item without one may
// be, in its team's unit: those its team has done of the same kind; where these are too few, all
// its sizes of the kind; then of any kind. There may be none.
func PastSizes(p *Plan) func(*program.Item) []float64 {
	type key struct {
		team string
		kind program.ItemKind
	}
	tree := p.Tree()
	done, all, any := map[key][]float64{}, map[key][]float64{}, map[string][]float64{}
	for i := range p.Items {
		item := &p.Items[i]
		if _, rough := p.Piece(i); rough || item.Size == nil || !tree.IsLeaf(i) {
			continue
		}
		k := key{item.Team, item.Kind}
		if item.State == program.Done {
			done[k] = append(done[k], *item.Size)
		}
		all[k] = append(all[k], *item.Size)
		any[item.Team] = append(any[item.Team], *item.Size)
	}
	return func(item *program.Item) []float64 {
		k := key{item.Team, item.Kind}
		switch {
		case len(done[k]) >= fewSizes:
			return done[k]
		case len(all[k]) >= fewSizes:
			return all[k]
		}
		return any[item.Team]
	}
}

// UsualSize is the median of PastSizes, the larger of the two in the middle; false where there
// are none.
func UsualSize(sizes []float64) (float64, bool) {
	if len(sizes) == 0 {
		return 0, false
	}
	sorted := slices.Sorted(slices.Values(sizes))
	return sorted[len(sorted)/2], true
}
