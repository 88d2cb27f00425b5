package forecast

// WeeksBefore is how many weeks before a release landed it is looked at what was said of it.
var WeeksBefore = []int{2, 4, 8, 12, 26}

// SaidLanding is what was said of a release some weeks before it landed.
type SaidLanding struct {
	Release string  `json:"release"`
	Weeks   int     `json:"weeks"` // before it landed
	On      Date    `json:"on"`    // the end of the day on which it was said
	Said    []Dated `json:"said"`  // when it would land, at odds of 50, 85 and 95 %
	Landed  Date    `json:"landed"`
	Days    *int    `json:"days,omitempty"` // by how many it landed later than was said at even odds; less than 0: earlier; nil: that was beyond what was played
}

// SaidLandingOf is what a landing said of a release that landed later on.
func SaidLandingOf(l Landing, weeks int, on, landed Date) SaidLanding {
	said := SaidLanding{Release: l.Key, Weeks: weeks, On: on, Said: []Dated{}, Landed: landed}
	for _, d := range l.Dates {
		if d.Odds == 50 || d.Odds == 85 || d.Odds == 95 {
			said.Said = append(said.Said, d)
		}
	}
	if even := l.At(50); !even.IsZero() {
		days := int(landed - even)
		said.Days = &days
	}
	return said
}

// LandingError is by how much what was said of releases so many weeks before they landed was wrong.
type LandingError struct {
	Weeks int     `json:"weeks"`
	Of    int     `json:"of"`    // releases of which a date was said at even odds
	Mean  float64 `json:"mean"`  // of the days by which they landed later than said; less than 0: earlier
	Early int     `json:"early"` // that landed before that day
	Late  int     `json:"late"`  // that landed after it
	By85  int     `json:"by85"`  // that landed by the day that was said at 85 %
}

// ErrorsOf sums up what was said of releases, by how long before they landed.
func ErrorsOf(all []SaidLanding) []LandingError {
	errors := []LandingError{}
	for _, weeks := range WeeksBefore {
		e := LandingError{Weeks: weeks}
		for _, s := range all {
			if s.Weeks != weeks || s.Days == nil {
				continue
			}
			e.Of++
			e.Mean += float64(*s.Days)
			if *s.Days < 0 {
				e.Early++
			} else if *s.Days > 0 {
				e.Late++
			}
			for _, d := range s.Said {
				if d.Odds == 85 && (d.Date.IsZero() || s.Landed <= d.Date) {
					e.By85++
				}
			}
		}
		if e.Of > 0 {
			e.Mean /= float64(e.Of)
			errors = append(errors, e)
		}
	}
	return errors
}
