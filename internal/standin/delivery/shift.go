package delivery

import (
	"context"
	"math"
	"math/rand/v2"
	"slices"
	"time"

	"jantrel/core/act"
	"jantrel/core/calendar"
	"jantrel/core/program"
	"jantrel/core/standing"
)

// What luck decides, as chances of a day unless another is named.
const (
	accepts    = 0.85 // that what is in review is accepted once somebody looks at it
	looks      = 0.7  // that somebody looks at it
	finds      = 0.12 // a review, that it finds a defect
	rethinks   = 0.05 // that a size is thought over
	drops      = 0.02 // that something is moved out of the iteration
	blocks     = 0.02 // that work that goes on is blocked
	frees      = 0.4  // that it can go on again
	breaks     = 0.07 // that a green build is red
	mends      = 0.6  // that a red one is green again
	pullsAhead = 0.5  // that a team that has nothing left to do takes on more
)

// shift is a team on a day.
type shift struct {
	d       *Delivery
	w       *World
	p       *program.Program
	team    *program.Team
	it      *program.Iteration // under way
	day     program.Date
	r       *rand.Rand
	crew    []present // who is there
	events  []event
	minute  int                 // when the last thing is done
	worked  map[string]string   // items of today, with who worked on them
	done    map[string]bool     // items that are done
	in      []*program.Item     // what the iteration holds, by rank
	hinders map[string][]string // by item: defects that its tests waited for in the morning
	facts   standing.IterationFacts
}

// newShift returns a team on a day; nil where it has no iteration under way.
func newShift(d *Delivery, w *World, t int, day program.Date, crew []present) *shift {
	s := &shift{d: d, w: w, crew: crew, p: &w.Program, team: &w.Program.Teams[t], day: day, r: d.luck(w.Program.Teams[t].Key, d.days), minute: 9 * 60, worked: map[string]string{}, done: map[string]bool{}, hinders: w.Program.Hindered()}
	at := slices.IndexFunc(s.team.Iterations, func(it program.Iteration) bool { return it.State == program.Open })
	if at < 0 {
		return nil
	}
	s.it = &s.team.Iterations[at]
	s.facts, _ = s.factsOf(s.it.Key)
	for i := range s.p.Items {
		item := &s.p.Items[i]
		s.done[item.Key] = item.State == program.Done
		if item.Team == s.team.Key && item.Iteration == s.it.Key && !item.Kind.IsGroup() {
			s.in = append(s.in, item)
		}
	}
	return s
}

// factsOf is what the server knows of an iteration of the team, and whether it knows it.
func (s *shift) factsOf(iteration string) (standing.IterationFacts, bool) {
	at := slices.IndexFunc(s.w.Facts.Iterations, func(f standing.IterationFacts) bool { return f.Team == s.team.Key && f.Key == iteration })
	if at < 0 {
		return standing.IterationFacts{}, false
	}
	return s.w.Facts.Iterations[at], true
}

// then does something some minutes after the last thing.
func (s *shift) then(minutes int, do func(ctx context.Context) error) {
	s.minute += minutes + s.r.IntN(20)
	s.at(s.minute, do)
}

func (s *shift) at(minute int, do func(ctx context.Context) error) {
	s.events = append(s.events, event{min(minute, 17*60+50), func(ctx context.Context) error {
		s.d.Record.Edits++
		return do(ctx)
	}})
}

func (s *shift) chance(p float64) bool { return s.r.Float64() < p }

// plan says what the team does on the day.
func (s *shift) plan() {
	s.build()
	if len(s.crew) == 0 {
		return
	}
	s.reviews()
	s.work()
	s.thinkOver()
	if s.isLastDay() {
		s.fillNext()
	}
	s.logHours()
}

// isLastDay reports whether the team works on no later day of the iteration.
func (s *shift) isLastDay() bool {
	return calendar.MondayToFriday.Count(calendar.Span{Start: s.day.Add(1), End: s.it.End}) == 0
}

// do says an intent some minutes after the last thing, and notes in the record what came of it.
func (s *shift) do(minutes int, name string, intent act.Intent, note func(r *Record)) {
	s.then(minutes, func(ctx context.Context) error {
		_, err := s.d.Client.Do(ctx, name, intent)
		if err == nil && note != nil {
			note(&s.d.Record)
		}
		return err
	})
}

// enter writes cells of an item.
func (s *shift) enter(minutes int, key string, fields, cells []string, note func(r *Record)) {
	s.do(minutes, "enter", act.Enter{Keys: []string{key}, Fields: fields, Cells: [][]string{cells}}, note)
}

// state takes an item to another state.
func (s *shift) state(minutes int, key string, to program.ItemState, note func(r *Record)) {
	s.enter(minutes, key, []string{"state"}, []string{string(to)}, note)
}

// signal reports what was found at a minute of the day, and notes in the record what came of it.
func (s *shift) signal(minute int, signals func(at time.Time) act.ReportSignals, note func(r *Record)) {
	s.at(minute, func(ctx context.Context) error {
		_, err := s.d.Client.Signal(ctx, signals(s.d.moment(s.day, minute)))
		if err == nil && note != nil {
			note(&s.d.Record)
		}
		return err
	})
}

// build runs the build of the night.
func (s *shift) build() {
	was := s.d.Record.Red[s.team.Key]
	red := s.chance(breaks)
	if was {
		red = !s.chance(mends)
	}
	s.d.Record.Red[s.team.Key] = red
	state := program.Green
	if red {
		state = program.Red
	}
	if red != was || s.d.days == 1 {
		s.signal(2*60+s.r.IntN(60), func(at time.Time) act.ReportSignals {
			return act.ReportSignals{Builds: []act.BuildSignal{{Team: s.team.Key, Name: "nightly", At: at, State: state}}}
		}, nil)
	}
}

// hindered reports whether tests of an item wait for a defect that is not done.
func (s *shift) hindered(key string) bool {
	return slices.ContainsFunc(s.hinders[key], func(defect string) bool { return !s.done[defect] })
}

// reviews looks at what is in review: it is accepted, or sent back as its tests failed.
func (s *shift) reviews() {
	for _, item := range s.in {
		if item.State != program.Review || s.hindered(item.Key) || !s.chance(looks) {
			continue
		}
		if s.d.rejected[item.Key] {
			delete(s.d.rejected, item.Key)
			s.d.left[item.Key] = 0.3 * sizeOf(item)
			s.state(15, item.Key, program.Doing, func(r *Record) { r.SentBack = append(r.SentBack, SentBack{item.Key, s.it.Key}) })
			continue
		}
		s.done[item.Key] = true
		s.state(15, item.Key, program.Done, func(r *Record) {
			r.Done = append(r.Done, Done{item.Key, s.team.Key, s.it.Key, sizeOf(item), s.day})
		})
	}
}

// sizeOf is an item's size; 0 without one.
func sizeOf(item *program.Item) float64 {
	if item.Size == nil {
		return 0
	}
	return *item.Size
}

// pace is how many units the team does today: the capacity of the iteration over its days, as much of
// it as there are people, and with the luck of the iteration.
func (s *shift) pace() float64 {
	if s.facts.Capacity <= 0 {
		return 0
	}
	days := max(1, calendar.MondayToFriday.Count(s.it.Span()))
	luck := math.Exp(0.18 * s.d.luck(s.team.Key+s.it.Key, 0).NormFloat64())
	return s.facts.Capacity / float64(days) * luck
}

// work goes on with what is under way, then with what is next by rank and can begin.
func (s *shift) work() {
	units := s.pace()
	atOnce := max(1, len(s.crew))
	var list []*program.Item
	for _, item := range s.in {
		if item.State == program.Doing && s.unblocked(item) {
			list = append(list, item)
		}
	}
	for _, item := range s.in {
		if (item.State == program.Todo || item.State == "") && item.Size != nil && item.Blocked == "" && s.canBegin(item) && len(list) < atOnce {
			list = append(list, item)
		}
	}
	if len(list) == 0 {
		s.pullAhead()
	}
	for n, item := range list {
		share := units
		if n < len(list)-1 {
			share *= 0.6
		}
		left, begun := s.d.left[item.Key]
		if !begun {
			left = sizeOf(item) * math.Exp(0.25*s.r.NormFloat64())
		}
		did := min(share, left)
		units, left = units-did, left-did
		s.d.left[item.Key] = left
		person := s.crew[n%len(s.crew)].person
		if item.Assignee != "" {
			person = item.Assignee
		}
		s.worked[item.Key] = person
		if item.State != program.Doing {
			if item.Assignee == "" {
				s.enter(20, item.Key, []string{"state", "assignee"}, []string{string(program.Doing), person}, nil)
			} else {
				s.state(20, item.Key, program.Doing, nil)
			}
		}
		if left <= 1e-9 {
			s.finish(item)
		} else if s.chance(blocks) {
			s.enter(30, item.Key, []string{"blocked"}, []string{pick(s.r, "waits for the boat", "no lamp to try it on", "the harbour office has not answered")}, nil)
		}
		if units <= 1e-9 {
			break
		}
	}
}

func pick(r *rand.Rand, texts ...string) string { return texts[r.IntN(len(texts))] }

// unblocked frees what is blocked, with some luck; it says whether work can go on.
func (s *shift) unblocked(item *program.Item) bool {
	if item.Blocked == "" {
		return true
	}
	if !s.chance(frees) {
		return false
	}
	s.enter(5, item.Key, []string{"blocked"}, []string{""}, nil)
	return true
}

// canBegin reports whether all that an item needs is done.
func (s *shift) canBegin(item *program.Item) bool {
	return !slices.ContainsFunc(s.p.Needs, func(n program.Need) bool { return n.Item == item.Key && !s.done[n.Needs] })
}

// finish hands an item over to review, with its tests run; some fail, and some find a defect.
func (s *shift) finish(item *program.Item) {
	delete(s.d.left, item.Key)
	s.state(40, item.Key, program.Review, nil)
	all := 6 + s.r.IntN(20)
	x := act.TestsSignal{Item: item.Key, Passed: all}
	if !s.chance(accepts) {
		s.d.rejected[item.Key] = true
		x.Failed = 1 + s.r.IntN(3)
		x.Passed -= x.Failed
	}
	s.minute += 10
	s.signal(s.minute, func(at time.Time) act.ReportSignals {
		x.At = at
		return act.ReportSignals{Tests: []act.TestsSignal{x}}
	}, nil)
	if item.Kind != program.Defect && s.chance(finds) {
		s.findDefect(item)
	}
}
