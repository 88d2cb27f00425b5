package program

import "slices"

// Call is a reason why something needs somebody.
type Call string

// The reasons; see package attention.
const (
	CallOverdue   Call = "overdue"   // an item that was due
	CallBlocked   Call = "blocked"   // an item that cannot go on
	CallBroken    Call = "broken"    // a need that comes too late
	CallEnded     Call = "ended"     // an iteration that is over and not closed
	CallOver      Call = "over"      // an iteration over capacity
	CallNotReady  Call = "not-ready" // an item that begins soon and is not ready
	CallAgreement Call = "agreement" // a need across teams that is due soon and not agreed
	CallUnowned   Call = "unowned"   // an item that is under way or begins soon, and is assigned to nobody
	CallTests     Call = "tests"     // an item whose tests fail, or are not run
	CallBuild     Call = "build"     // a team with a build that is red
	CallRisk      Call = "risk"      // a risk to look at
	CallPromise   Call = "promise"   // a promise that will rather not be kept
)

// Calls lists them all, in the order in which they come where nothing else tells them apart.
var Calls = []Call{CallOverdue, CallBlocked, CallBroken, CallEnded, CallOver, CallNotReady, CallAgreement, CallUnowned, CallTests, CallBuild, CallRisk, CallPromise}

// AttentionRule says what needs somebody in a program.
type AttentionRule struct {
	Off       []Call `json:"off,omitempty"`       // reasons that do not count
	AheadDays *int   `json:"aheadDays,omitempty"` // how many days before its iteration begins an item is to be ready and somebody's; nil: 7
}

// Ahead is AheadDays with its usual value.
func (r AttentionRule) Ahead() int {
	if r.AheadDays == nil {
		return 7
	}
	return *r.AheadDays
}

// IsOff reports whether a reason does not count.
func (r AttentionRule) IsOff(c Call) bool { return slices.Contains(r.Off, c) }

// AttentionRule returns what needs somebody in the program.
func (s Settings) AttentionRule() AttentionRule {
	if s.Attention == nil {
		return AttentionRule{}
	}
	return *s.Attention
}

// Snooze puts something that needs somebody off until a day.
type Snooze struct {
	Key   string `json:"key"`   // which: attention.Entry.ID
	Until Date   `json:"until"` // from this day on it needs somebody again
	Why   string `json:"why,omitempty"`
}

// maxAheadDays is how far ahead somebody may want to be told.
const maxAheadDays = 90

func (v *validator) attention(at path, r *AttentionRule) {
	if r == nil {
		return
	}
	for _, c := range r.Off {
		oneOf(v, at("attention.off"), c, Calls)
	}
	if n := r.Ahead(); n < 0 || n > maxAheadDays {
		v.report(at("attention.aheadDays"), "%d is not between 0 and %d", n, maxAheadDays)
	}
}
