package delivery

import (
	"fmt"
	"math"
	"slices"
	"time"

	"jantrel/core/act"
)

// logHours notes who worked on what, and enters the hours at the end of the week.
func (s *shift) logHours() {
	key := s.team.Key
	if s.day <= s.d.logged[key] || slices.ContainsFunc(s.d.spent[key], func(x spell) bool { return x.date == s.day }) {
		return // the same day of a clock that stands still
	}
	for _, x := range s.crew {
		var items []string
		for _, item := range s.in {
			if who := s.worked[item.Key]; who == x.person || who != "" && len(s.worked) == 1 {
				items = append(items, item.Key)
			}
		}
		s.d.spent[key] = append(s.d.spent[key], spell{x.person, s.day, x.hours, items})
	}
	if s.day.Weekday() != 5 {
		return
	}
	days := s.d.spent[key]
	s.d.spent[key], s.d.logged[key] = nil, s.day
	var work []act.WorkSignal
	for _, x := range days {
		work = append(work, s.entered(x)...)
	}
	s.signal(16*60+45, func(time.Time) act.ReportSignals { return act.ReportSignals{Work: work} }, func(r *Record) {
		for _, x := range work {
			r.Hours[x.Person] += x.Hours
		}
	})
}

// entered are the hours of a day, to the half hour: on what was worked on, else on upkeep.
func (s *shift) entered(x spell) (work []act.WorkSignal) {
	if len(x.items) == 0 {
		x.items = []string{""}
	}
	each := math.Floor(2*x.hours/float64(len(x.items))) / 2
	for _, item := range x.items {
		if each <= 0 {
			continue
		}
		activity := "upkeep"
		if item != "" {
			activity = "building"
		}
		work = append(work, act.WorkSignal{ID: fmt.Sprintf("%d-%s-%s-%s-%s", s.d.Seed, s.team.Key, x.person, x.date, item), Person: x.person, Date: x.date, Hours: each, Item: item, Activity: activity})
	}
	return work
}
