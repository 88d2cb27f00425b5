package capacity

import (
	"cmp"
	"math"
	"slices"
	"strings"

	"gonum.org/v1/gonum/stat"

	"jantrel/core/plan"
)

// largeSizes returns for each team the size from which an item is large: the
// upper quartile of its sizes, where that is above their median. Infinity where
// the sizes tell no difference.
func largeSizes(p *plan.Plan) []float64 {
	sizes := make([][]float64, len(p.Teams))
	teams, tree := p.TeamAt(), p.Tree()
	for i := range p.Items {
		if t, ok := teams[p.Items[i].Team]; ok && p.Items[i].Size != nil && tree.IsLeaf(i) {
			sizes[t] = append(sizes[t], *p.Items[i].Size)
		}
	}
	large := make([]float64, len(p.Teams))
	for t, of := range sizes {
		large[t] = math.Inf(1)
		if len(of) < enough {
			continue
		}
		slices.Sort(of)
		if quartile := stat.Quantile(0.75, stat.Empirical, of, nil); quartile > stat.Quantile(0.5, stat.Empirical, of, nil) {
			large[t] = quartile
		}
	}
	return large
}

// compareFold orders words without regard to case, and those that differ in nothing else by it.
func compareFold(a, b string) int {
	return cmp.Or(strings.Compare(strings.ToLower(a), strings.ToLower(b)), strings.Compare(a, b))
}
