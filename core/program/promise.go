package program

// Promise is a date that somebody was given for a release or a milestone, with the odds that it had
// then. How it stands is played: see forecast.Promises.
type Promise struct {
	Key       string   `json:"key"`
	Release   string   `json:"release,omitempty"` // this or Milestone
	Milestone string   `json:"milestone,omitempty"`
	Date      Date     `json:"date"`             // by the end of which it is to land
	To        string   `json:"to"`               // whom it was given to, in words
	Made      Date     `json:"made"`             // the day on which it was given
	Chance    *float64 `json:"chance,omitempty"` // chance, 0 to 1, that the date had then; nil: not known
	Note      string   `json:"note,omitempty"`
	Withdrawn Date     `json:"withdrawn,omitzero"` // the day on which it was taken back; none: it stands
}

// Of names what is promised.
func (p *Promise) Of() Ref {
	if p.Milestone != "" {
		return Ref{Kind: KindMilestone, Key: p.Milestone}
	}
	return Ref{Kind: KindRelease, Key: p.Release}
}

// Stands reports whether it was not taken back.
func (p *Promise) Stands() bool { return p.Withdrawn.IsZero() }

func (v *validator) promise(at path, p *Promise) {
	v.filled(at, "to", p.To)
	v.dated(at, "date", p.Date)
	v.dated(at, "made", p.Made)
	v.possible(at, "withdrawn", p.Withdrawn)
	v.shareOrNone(at, "chance", p.Chance)
	if (p.Release == "") == (p.Milestone == "") {
		v.report(at("release"), "a release or a milestone is promised; name one of them")
	}
	if !p.Made.IsZero() && !p.Date.IsZero() && p.Date < p.Made {
		v.report(at("date"), "%s is before the day on which it was given, %s", p.Date, p.Made)
	}
	if !p.Withdrawn.IsZero() && p.Withdrawn < p.Made {
		v.report(at("withdrawn"), "%s is before the day on which it was given, %s", p.Withdrawn, p.Made)
	}
}
