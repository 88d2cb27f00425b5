package program

import "fmt"

// RiskState is where a risk is in its life.
type RiskState string

// The states of a risk.
const (
	RiskOpen     RiskState = "open"     // it may happen
	RiskHappened RiskState = "happened" // it did: what it brought is in the plan by now
	RiskOver     RiskState = "over"     // it cannot happen any more
)

// Response is what is done about a risk.
type Response string

// The responses; empty: nothing is decided.
const (
	Avoid  Response = "avoid"   // it is made impossible
	Reduce Response = "reduce"  // it becomes less likely, or does less
	PassOn Response = "pass-on" // others bear it
	Accept Response = "accept"  // it is lived with
)

// Risk is something that may happen to the plan. One with Odds and an effect, while it is open, is
// played: see package forecast.
type Risk struct {
	Key    string    `json:"key"`
	Title  string    `json:"title"` // what may happen
	Cause  string    `json:"cause,omitempty"`
	Effect string    `json:"effect,omitempty"`
	State  RiskState `json:"state,omitempty"` // empty: open
	Owner  string    `json:"owner,omitempty"` // the person who watches it
	Again  Date      `json:"again,omitzero"`  // when to look at it again

	Chance int `json:"chance,omitempty"` // on the program's scale, from 1 for its least; 0: not rated
	Impact int `json:"impact,omitempty"` // the same

	Response Response     `json:"response,omitempty"`
	Answer   string       `json:"answer,omitempty"` // what the response is, in words
	Actions  []RiskAction `json:"actions,omitempty"`

	Odds   *float64    `json:"odds,omitempty"`   // that it happens, over 0 and up to 1; nil: it is not played
	Adds   []RiskAdds  `json:"adds,omitempty"`   // the work that it then brings
	Delays []RiskDelay `json:"delays,omitempty"` // what is then done later
	From   Date        `json:"from,omitzero"`    // before which work that it brings does not begin

	OddsThen  *float64 `json:"oddsThen,omitempty"`  // odds with the response, 0 to 1; nil: as without
	ShareThen *float64 `json:"shareThen,omitempty"` // what is left of its effect with the response, 0 to 1; nil: all
	Answered  bool     `json:"answered,omitempty"`  // the response is in place: it is played with it

	Items    []string   `json:"items,omitempty"` // what it is about
	Needs    []RiskNeed `json:"needs,omitempty"`
	Teams    []string   `json:"teams,omitempty"`
	Releases []string   `json:"releases,omitempty"` // which land with the work that it brings
}

// RiskAction is something that somebody does about a risk.
type RiskAction struct {
	Text  string `json:"text"`
	Owner string `json:"owner,omitempty"` // a person
	Due   Date   `json:"due,omitzero"`
	Done  bool   `json:"done,omitempty"`
}

// RiskAdds is work that a risk brings: to an item, which gets larger, or to a team, beside its
// items.
type RiskAdds struct {
	Team string   `json:"team,omitempty"`
	Item string   `json:"item,omitempty"` // of a group the first that is to do
	Size float64  `json:"size"`           // in the team's unit; of a range the least
	UpTo *float64 `json:"upTo,omitempty"` // the most; nil: Size is a figure
}

// RiskDelay is by how much later than its work is done an item is, with those below it.
type RiskDelay struct {
	Item string `json:"item"`
	Days int    `json:"days"`           // calendar days; of a range the fewest
	UpTo *int   `json:"upTo,omitempty"` // the most; nil: Days is a figure
}

// Most is the upper end of the range; of a figure the figure.
func (a RiskAdds) Most() float64 {
	if a.UpTo == nil {
		return a.Size
	}
	return *a.UpTo
}

// Most is the upper end of the range; of a figure the figure.
func (d RiskDelay) Most() int {
	if d.UpTo == nil {
		return d.Days
	}
	return *d.UpTo
}

// RiskNeed names a need that a risk is about.
type RiskNeed struct {
	Item  string `json:"item"`
	Needs string `json:"needs"`
}

// IsOpen reports whether it may still happen.
func (r *Risk) IsOpen() bool { return r.State == "" || r.State == RiskOpen }

// Plays reports whether a risk says enough to be played, and may still happen.
func (r *Risk) Plays() bool {
	return r.IsOpen() && r.Odds != nil && len(r.Adds)+len(r.Delays) > 0
}

// Scales are the steps of chance and of impact, the least first.
type Scales struct {
	Chance []string `json:"chance,omitempty"` // empty: DefaultScale
	Impact []string `json:"impact,omitempty"`
}

// DefaultScale is a scale where a program sets none.
var DefaultScale = []string{"very low", "low", "medium", "high", "very high"}

// RiskScales returns the program's scales.
func (s Settings) RiskScales() Scales {
	found := Scales{DefaultScale, DefaultScale}
	if s.Scales == nil {
		return found
	}
	if len(s.Scales.Chance) > 0 {
		found.Chance = s.Scales.Chance
	}
	if len(s.Scales.Impact) > 0 {
		found.Impact = s.Scales.Impact
	}
	return found
}

// Exposure is chance × impact, each as a share of its scale, 0 to 1; 0 where either is not rated. A
// rating above a scale that has become shorter counts as its most.
func (s Scales) Exposure(r *Risk) float64 {
	chance, impact := min(r.Chance, len(s.Chance)), min(r.Impact, len(s.Impact))
	return float64(chance*impact) / float64(len(s.Chance)*len(s.Impact))
}

const (
	maxScale     = 10   // steps
	maxRiskDelay = 3660 // days
	maxRiskParts = 50   // of adds, delays and actions each
)

func (v *validator) risk(at path, r *Risk) {
	v.filled(at, "title", r.Title)
	v.rating(at, "chance", r.Chance)
	v.rating(at, "impact", r.Impact)
	v.possible(at, "again", r.Again)
	v.possible(at, "from", r.From)
	v.share(at, "odds", r.Odds)
	v.shareOrNone(at, "oddsThen", r.OddsThen)
	if r.Odds != nil && r.OddsThen != nil && *r.OddsThen > *r.Odds {
		v.report(at("oddsThen"), "%v is more than without the response, %v", *r.OddsThen, *r.Odds)
	}
	v.shareOrNone(at, "shareThen", r.ShareThen)
	v.count(at, "adds", len(r.Adds), maxRiskParts)
	v.count(at, "delays", len(r.Delays), maxRiskParts)
	v.count(at, "actions", len(r.Actions), maxRiskParts)
	for j := range r.Adds {
		a, at := &r.Adds[j], at.in("adds[%d]", j)
		v.atLeastZero(at, "size", &a.Size)
		v.atLeastZero(at, "upTo", a.UpTo)
		if a.Most() < a.Size {
			v.report(at("upTo"), "%v is less than the least, %v", *a.UpTo, a.Size)
		}
		if (a.Team == "") == (a.Item == "") {
			v.report(at("item"), "work is added to a team or to an item; name one of them")
		}
	}
	for j := range r.Delays {
		d, at := &r.Delays[j], at.in("delays[%d]", j)
		if d.Days < 0 || d.Days > maxRiskDelay {
			v.report(at("days"), "%d is not between 0 and %d", d.Days, maxRiskDelay)
		}
		if d.UpTo != nil && (*d.UpTo < d.Days || *d.UpTo > maxRiskDelay) {
			v.report(at("upTo"), "%d is not between the fewest, %d, and %d", *d.UpTo, d.Days, maxRiskDelay)
		}
	}
	for j, a := range r.Actions {
		at := at.in("actions[%d]", j)
		v.filled(at, "text", a.Text)
		v.possible(at, "due", a.Due)
	}
}

func (v *validator) rating(at path, field string, n int) {
	if n < 0 || n > maxScale {
		v.report(at(field), "%d is not between 0 and %d", n, maxScale)
	}
}

// shareOrNone reports a share that is none, 0 allowed.
func (v *validator) shareOrNone(at path, field string, n *float64) {
	if n != nil && !(*n >= 0 && *n <= 1) {
		v.report(at(field), "%v is not between 0 and 1", *n)
	}
}

func (v *validator) scales(at path, s *Scales) {
	if s == nil {
		return
	}
	v.scale(at, "scales.chance", s.Chance)
	v.scale(at, "scales.impact", s.Impact)
}

func (v *validator) scale(at path, field string, scale []string) {
	if len(scale) > maxScale {
		v.report(at(field), "%d steps are too many; %d is the most", len(scale), maxScale)
	}
	for i, step := range scale {
		v.filled(at, fmt.Sprintf("%s[%d]", field, i), step)
	}
}
