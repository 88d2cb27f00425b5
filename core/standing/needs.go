package standing

import (
	"jantrel/core/needs"
	"jantrel/core/plan"
)

// NeedFacts are how one need stands.
type NeedFacts struct {
	Item   string       `json:"item"`
	Needs  string       `json:"needs"`
	Status needs.Status `json:"status"`
	Spare  *int         `json:"spare,omitempty"`  // days to spare; missing where nothing is at stake
	Missed bool         `json:"missed,omitempty"` // it is done after the day that the two teams agreed on, or nowhere
}

func (x *NeedFacts) key() [2]string { return [2]string{x.Item, x.Needs} }

func (x *NeedFacts) same(as *NeedFacts) bool {
	return x.Status == as.Status && x.Missed == as.Missed && equal(x.Spare, as.Spare)
}

func (f *Facts) needs(p *plan.Plan) {
	f.Needs = make([]NeedFacts, 0, len(p.Needs))
	late := map[NeedRef]bool{}
	for _, o := range needs.Missed(p) {
		late[NeedRef{o.Item, o.Needs}] = true
	}
	for i, state := range needs.Check(p) {
		n := &p.Needs[i]
		f.Needs = append(f.Needs, NeedFacts{n.Item, n.Needs, state.Status, state.Spare, late[NeedRef{n.Item, n.Needs}]})
		if state.Status == needs.StatusBroken {
			f.Counts.Broken = append(f.Counts.Broken, NeedRef{n.Item, n.Needs})
		}
	}
}
