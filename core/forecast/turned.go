package forecast

import (
	"encoding/json"
	"math"
	"slices"

	"jantrel/core/plan"
	"jantrel/core/program"
)

// Past is what the journal taught about a program.
type Past struct {
	Growth Measured    // by which shares releases grew; nil: not measured
	Turned SizeFactors // what sizes turned out as; nil: not measured
}

// SizeFactors are, by the key of a team, what the sizes of its done items came to ÷ what they were
// when work on them began.
type SizeFactors map[string][]float64

// enoughSizes is how many items it takes for sizes to be played as they turned out.
const enoughSizes = 10

// SizeFold goes through a journal and notes how large items were when work on them began. Only
// sets of size and state, and items that come and go, matter to it; the rest may be left out.
type SizeFold struct {
	items map[string]begun
}

type begun struct {
	yes  bool
	size *float64 // when work began, where it has changed since
}

// Take goes on with changes, the oldest first.
func (f *SizeFold) Take(changes []program.Applied) {
	if f.items == nil {
		f.items = map[string]begun{}
	}
	for i := range changes {
		c := &changes[i].Change
		if c.Kind != program.KindItem {
			continue
		}
		now := f.items[c.Key]
		switch {
		case c.Op == program.Add:
			var item program.Item
			_ = json.Unmarshal(c.Value, &item) // the journal holds what was an item
			f.items[c.Key] = begun{yes: item.State.UnderWay()}
		case c.Op == program.Remove:
			delete(f.items, c.Key)
		case c.Op == program.Set && c.Field == "state":
			var state program.ItemState
			_ = json.Unmarshal(c.Value, &state)
			if state.UnderWay() && !now.yes {
				f.items[c.Key] = begun{yes: true}
			} else if state == "" || state == program.Todo {
				delete(f.items, c.Key)
			}
		case c.Op == program.Set && c.Field == "size" && now.yes && now.size == nil:
			var was *float64
			if _ = json.Unmarshal(changes[i].Inverse.Value, &was); was != nil {
				f.items[c.Key] = begun{true, was}
			}
		}
	}
}

// Factors are what the sizes of the done items of a plan turned out as, of those that were begun
// under the journal, in the order of the items. Items without a size, or of size 0, tell nothing.
func (f *SizeFold) Factors(p *plan.Plan) SizeFactors {
	factors, tree := SizeFactors{}, p.Tree()
	for i := range p.Items {
		item := &p.Items[i]
		start, known := f.items[item.Key]
		if !known || !start.yes || item.State != program.Done || item.Size == nil || *item.Size <= 0 || !tree.IsLeaf(i) {
			continue
		}
		was := *item.Size
		if start.size != nil {
			was = *start.size
		}
		if was > 0 {
			factors[item.Team] = append(factors[item.Team], *item.Size/was)
		}
	}
	return factors
}

// Turned says what the sizes of a team have turned out as once work on them began.
type Turned struct {
	Items   int     `json:"items"`             // done ones that tell
	Mean    float64 `json:"mean"`              // of size when done ÷ size when begun
	Spread  float64 `json:"spread"`            // standard deviation of these
	Applied bool    `json:"applied,omitempty"` // items not yet begun are played that much larger or smaller
}

// turned sums up a team's factors; nil where there are none.
func turned(factors []float64, settings program.Settings) *Turned {
	if len(factors) == 0 {
		return nil
	}
	t := &Turned{Items: len(factors)}
	for _, x := range factors {
		t.Mean += x
	}
	t.Mean /= float64(len(factors))
	for _, x := range factors {
		t.Spread += (x - t.Mean) * (x - t.Mean) / float64(len(factors))
	}
	t.Spread = math.Sqrt(t.Spread)
	t.Applied = len(factors) >= enoughSizes && settings.PlaysTurned() && slices.ContainsFunc(factors, func(x float64) bool { return x != 1 })
	return t
}
