// Package risks says how the risks of a program stand: how exposed it is to each, and what somebody
// should do about them. What they are worth is played: see forecast.Worths.
package risks

import (
	"cmp"
	"fmt"
	"slices"

	"jantrel/core/program"
)

// Standing is how a risk stands on a day.
type Standing struct {
	Risk     string  `json:"risk"`     // its key
	Exposure float64 `json:"exposure"` // chance × impact, each as a share of its scale; 0 where it is not rated
	Chance   int     `json:"chance"`   // its rating as the scale is now; 0: not rated
	Impact   int     `json:"impact"`
	Unowned  bool    `json:"unowned,omitempty"` // nobody watches it
	Unrated  bool    `json:"unrated,omitempty"` // chance or impact is missing
	Open     bool    `json:"open,omitempty"`    // nothing is decided about it
	Due      bool    `json:"due,omitempty"`     // the day on which to look at it again has come
	Left     int     `json:"left,omitempty"`    // actions to do
	Late     int     `json:"late,omitempty"`    // of these, due before the day
	Played   bool    `json:"played,omitempty"`  // it happens in plays of the forecast
	Over     bool    `json:"over,omitempty"`    // it has happened or cannot any more: nothing else is said of it

	Calls []string `json:"calls"` // for what somebody should see to it, in words; none: for nothing
}

// calls says for what somebody should see to a risk.
func (s *Standing) calls() []string {
	words := []string{}
	if s.Unowned {
		words = append(words, "nobody watches it")
	}
	if s.Unrated {
		words = append(words, "not rated")
	}
	if s.Due {
		words = append(words, "to be looked at again")
	}
	if s.Late == 1 {
		words = append(words, "an action is late")
	} else if s.Late > 1 {
		words = append(words, fmt.Sprintf("%d actions are late", s.Late))
	}
	return words
}

// Register returns how the risks stand on a day: those that may happen first, the most exposed first,
// else in the program's order. Time is n log n.
func Register(p program.Program, today program.Date) []Standing {
	scales := p.Settings.RiskScales()
	list := make([]Standing, len(p.Risks))
	for i := range p.Risks {
		r := &p.Risks[i]
		s := Standing{Risk: r.Key, Exposure: scales.Exposure(r), Chance: min(r.Chance, len(scales.Chance)), Impact: min(r.Impact, len(scales.Impact))}
		if s.Over = !r.IsOpen(); !s.Over {
			s.Unowned, s.Unrated, s.Open = r.Owner == "", r.Chance == 0 || r.Impact == 0, r.Response == ""
			s.Due = !r.Again.IsZero() && r.Again <= today
			s.Played = r.Plays() && p.Settings.PlaysRisks()
			for _, a := range r.Actions {
				if !a.Done {
					s.Left++
				}
				if !a.Done && !a.Due.IsZero() && a.Due < today {
					s.Late++
				}
			}
		}
		s.Calls = s.calls()
		list[i] = s
	}
	slices.SortStableFunc(list, func(a, b Standing) int {
		if a.Over != b.Over {
			if a.Over {
				return 1
			}
			return -1
		}
		return cmp.Compare(b.Exposure, a.Exposure)
	})
	return list
}
