package delivery

import (
	"context"
	"fmt"
	"slices"
	"strconv"
	"strings"
	"time"

	"jantrel/core/act"
	"jantrel/core/intake"
	"jantrel/core/program"
)

// findDefect reports a defect that hinders the tests of an item, and takes it into the iteration.
func (s *shift) findDefect(item *program.Item) {
	id := fmt.Sprintf("%d-%s-%d", s.d.Seed, item.Key, s.d.days)
	size := float64(1 + s.r.IntN(3))
	title := pick(s.r, "Stops after a cold start", "Shows the hour before", "Loses its setting at midnight", "Flickers when the tide turns") + ": " + item.Title
	s.minute += 10
	minute := s.minute
	s.at(minute, func(ctx context.Context) error {
		keys, err := s.d.Client.Signal(ctx, act.ReportSignals{Defects: []act.DefectSignal{{ID: id, Team: s.team.Key, At: s.d.moment(s.day, minute), Title: title, Hinders: []string{item.Key}}}})
		if err != nil || len(keys) == 0 {
			return err
		}
		_, err = s.d.Client.Do(ctx, "enter", act.Enter{Keys: keys[:1], Fields: []string{"size", "iteration"}, Cells: [][]string{{cell(size), s.it.Key}}})
		if err == nil {
			s.changed(keys[0], Added, size)(&s.d.Record)
		}
		return err
	})
}

// cell is a size as it is typed.
func cell(size float64) string { return strconv.FormatFloat(size, 'f', -1, 64) }

// waiting are items of the team that are to be done and stand nowhere, by rank, without what waits for
// something that stands nowhere either.
func (s *shift) waiting() (list []*program.Item) {
	placed := map[string]bool{}
	for i := range s.p.Items {
		item := &s.p.Items[i]
		placed[item.Key] = s.done[item.Key] || item.Iteration != ""
	}
	for i := range s.p.Items {
		item := &s.p.Items[i]
		if item.Team != s.team.Key || item.Iteration != "" || item.KeptOut || item.Kind.IsGroup() || item.Size == nil || s.done[item.Key] {
			continue
		}
		if slices.ContainsFunc(s.p.Needs, func(n program.Need) bool { return n.Item == item.Key && !placed[n.Needs] }) {
			continue
		}
		list = append(list, item)
	}
	return list
}

// move places an item, which changes what the iteration under way holds.
func (s *shift) move(item *program.Item, iteration string, kind ScopeKind) {
	s.do(10, "place", act.Place{Placements: []act.Placement{{Item: item.Key, Iteration: iteration}}}, s.changed(item.Key, kind, sizeOf(item)))
}

// changed notes that what the iteration under way holds was changed.
func (s *shift) changed(item string, kind ScopeKind, size float64) func(*Record) {
	return func(r *Record) { r.Scope = append(r.Scope, Scope{s.team.Key, s.it.Key, item, kind, size, s.day}) }
}

// next is the iteration after the one under way; nil where there is none.
func (s *shift) next() *program.Iteration {
	at := slices.IndexFunc(s.team.Iterations, func(it program.Iteration) bool { return it.Key == s.it.Key })
	if at+1 >= len(s.team.Iterations) {
		return nil
	}
	return &s.team.Iterations[at+1]
}

// pullAhead takes something more into the iteration: what was to come next, or what stands nowhere.
func (s *shift) pullAhead() {
	if s.isLastDay() || !s.chance(pullsAhead) {
		return
	}
	var more *program.Item
	if next := s.next(); next != nil {
		for i := range s.p.Items {
			if item := &s.p.Items[i]; item.Team == s.team.Key && item.Iteration == next.Key && item.Size != nil && !item.Pinned && s.canBegin(item) {
				more = item
				break
			}
		}
	}
	if list := s.waiting(); more == nil && len(list) > 0 && s.canBegin(list[0]) {
		more = list[0]
	}
	if more != nil {
		s.move(more, s.it.Key, Added)
	}
}

// thinkOver changes the size of something that has not begun, or moves it out.
func (s *shift) thinkOver() {
	var idle []*program.Item
	for _, item := range s.in {
		if _, today := s.worked[item.Key]; !today && (item.State == program.Todo || item.State == "") && item.Size != nil && !item.Pinned && item.Reported == "" {
			idle = append(idle, item)
		}
	}
	if len(idle) == 0 {
		return
	}
	last := idle[len(idle)-1]
	switch {
	case s.chance(rethinks):
		by := float64(1 + s.r.IntN(2))
		if s.chance(0.4) && *last.Size > by {
			by = -by
		}
		s.enter(25, last.Key, []string{"size"}, []string{cell(*last.Size + by)}, s.changed(last.Key, Resized, by))
	case s.chance(drops) && len(idle) > 1 && s.next() != nil:
		s.move(last, s.next().Key, Removed)
	}
}

// fillNext places what is most important into the next iteration, up to what it can carry beside what
// will be carried on, and deploys what there is.
func (s *shift) fillNext() {
	if s.d.planned[s.team.Key+" "+s.it.Key] { // on an earlier day of a clock that stands still
		return
	}
	s.d.planned[s.team.Key+" "+s.it.Key] = true
	s.d.versions[s.team.Key]++
	version := fmt.Sprintf("1.%d", s.d.versions[s.team.Key])
	s.signal(16*60+30, func(at time.Time) act.ReportSignals {
		return act.ReportSignals{Deployments: []act.DeploymentSignal{{Team: s.team.Key, Place: "test bed", Version: version, At: at}}}
	}, nil)
	next := s.next()
	if next == nil {
		return
	}
	s.refine()
	s.thinkOfMore()
	room := s.facts.Capacity
	if f, known := s.factsOf(next.Key); known {
		room = f.Capacity - f.Load
	}
	for _, item := range s.in {
		if !s.done[item.Key] {
			room -= sizeOf(item)
		}
	}
	var to []act.Placement
	for _, item := range s.waiting() {
		if size := sizeOf(item); size <= room {
			to, room = append(to, act.Placement{Item: item.Key, Iteration: next.Key}), room-size
		}
	}
	if len(to) > 0 {
		s.do(20, "place", act.Place{Label: "Plan " + next.Label(), Placements: to}, nil)
	}
}

// refine sizes the most important item that lacks a size, so that it can be taken in next time.
func (s *shift) refine() {
	for i := range s.p.Items {
		item := &s.p.Items[i]
		if item.Team == s.team.Key && item.Iteration != s.it.Key && item.Size == nil && !item.KeptOut && !item.Kind.IsGroup() && item.State != program.Done {
			s.enter(15, item.Key, []string{"size"}, []string{cell(float64(1 + s.r.IntN(8)))}, nil)
			return
		}
	}
}

// thinkOfMore adds items where a team has not enough to do for two iterations: of the release that is
// due next, if there is one.
func (s *shift) thinkOfMore() {
	enough := 0.0
	for _, item := range s.waiting() {
		enough += sizeOf(item)
	}
	if enough >= 2*s.facts.Capacity {
		return
	}
	release := ""
	for _, r := range s.p.Releases {
		if r.Due > s.day {
			release = r.Key
			break
		}
	}
	var lines []string
	for range 4 {
		lines = append(lines, fmt.Sprintf("%s %s (%d)", pick(s.r, "Renew", "Measure", "Show", "Watch", "Store", "Check"),
			pick(s.r, "the battery of a lamp", "a buoy's position", "the fog signal", "the tide at a pier", "a keeper's log", "the mast's cable", "the radio link"), 1+s.r.IntN(8)))
	}
	s.do(15, "add-outline", act.AddOutline{Text: strings.Join(lines, "\n"), Under: intake.Under{Team: s.team.Key, Release: release}}, nil)
}
