// Package levers finds small changes that mend what does not stand well: a release or a
// milestone that may come late, a need that is broken. Each is tried on the plan and played.
package levers

import (
	"cmp"
	"fmt"
	"slices"

	"jantrel/core/forecast"
	"jantrel/core/gate"
	"jantrel/core/needs"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/standing"
)

// Question says what is to be mended: one of these.
type Question struct {
	Release   string            `json:"release,omitempty"`
	Milestone string            `json:"milestone,omitempty"`
	Need      *standing.NeedRef `json:"need,omitempty"`
}

// Options steer how levers are looked for.
type Options struct {
	Today   program.Date
	Plays   int // of each lever in the answer; 0 means 500. Which these are is found by fewer
	Past    forecast.Past
	Seed    uint64 // of the plays: that of the standing strip, so that both say the same
	Workers int
	Quick   bool        // only the first that come to mind, in a fraction of the time
	Stop    func() bool // asked between levers; true ends the search early. Nil never does
}

// Kind is what sort of change a lever is.
type Kind string

// The kinds.
const (
	Size   Kind = "size"   // gives an item its usual size, and a place
	PutIn  Kind = "place"  // places an unplaced item
	Move   Kind = "move"   // moves an item earlier, or later
	Draft  Kind = "draft"  // drafts all of it anew
	Lend   Kind = "lend"   // somebody who has time works in a team for an iteration
	Team   Kind = "team"   // gives an item to another team that has the role
	Split  Kind = "split"  // splits an item into halves, each placed by itself
	Shrink Kind = "shrink" // makes an item smaller
	Drop   Kind = "drop"   // keeps an item out of the plan
	Relax  Kind = "relax"  // takes a need away
)

// gentle is what is asked of others by a lever of each kind, the least first: of two that are
// worth the same, the gentler comes first.
var gentle = []Kind{Size, PutIn, Move, Draft, Lend, Team, Split, Relax, Shrink, Drop}

// Lever is a small change that mends something. Which it is and what it does is said in words;
// Changes are what it does to the program.
type Lever struct {
	Kind    Kind             `json:"kind"`
	Text    string           `json:"text"`
	Label   string           `json:"label"` // of the edit
	Item    string           `json:"item,omitempty"`
	Moves   []Moved          `json:"moves,omitempty"` // items whose iteration changes
	Changes []program.Change `json:"changes"`
	Then    Stand            `json:"then"` // how it stands with the lever
}

// Moved is an item whose iteration a lever changes; empty is no place.
type Moved struct {
	Item string `json:"item"`
	Team string `json:"team"` // of the iteration that it comes to stand in; of the item
	From string `json:"from,omitempty"`
	To   string `json:"to,omitempty"`
}

// Stand is how what is to be mended stands, and the plan as a whole.
type Stand struct {
	Chance *float64     `json:"chance,omitempty"` // chance, 0 to 1, of landing by its date
	Lands  program.Date `json:"lands,omitzero"`   // at even odds
	Late   float64      `json:"late"`             // expected late days of it alone

	ExpectedLateDays float64 `json:"expectedLateDays"` // of the whole plan
	Over             int     `json:"over"`             // iterations over capacity
	Broken           int     `json:"broken"`           // broken needs
	Missed           int     `json:"missed"`           // needs that are done after the day that was agreed on
}

// Answer is how something stands and what mends it, the best first.
type Answer struct {
	Plays  int     `json:"plays"`
	Name   string  `json:"name"` // of what is to be mended
	Due    Date    `json:"due,omitzero"`
	Now    Stand   `json:"now"`
	Levers []Lever `json:"levers"`
	Ended  bool    `json:"ended,omitempty"` // the search was ended before all had been tried
}

// Date is a civil date.
type Date = program.Date

// most is how many levers an answer has.
const most = 9

// Find answers a question. What is not there is an error.
//
// What is missing comes first: an item without a size or a place makes every other figure a
// guess. Then levers go by what they are worth: points of chance, then late days of what is to
// be mended, gentleness, late days of the whole plan. What is worth nothing is left out. The cost is that of a
// play of the plan and, for most, of a draft of one item for each lever tried, of which there
// are some dozens.
func Find(p *plan.Plan, q Question, o Options) (Answer, error) {
	o.Plays = cmp.Or(max(0, o.Plays), 500)
	f := &finder{p: p, whole: p.Whole(), o: o, deck: forecast.NewDeck(), past: plan.PastSizes(p), halved: map[string]bool{}}
	if err := f.aim(q); err != nil {
		return Answer{}, err
	}
	f.plays = max(100, min(300, o.Plays/5))
	f.now = f.stand(p)
	f.look()
	ended := f.stopped()
	slices.SortStableFunc(f.found, f.compare)
	f.found = f.found[:min(most, len(f.found))]
	f.plays = o.Plays
	f.now = f.stand(p)
	for i := range f.found {
		if next, _, err := gate.Try(p, f.found[i].Changes); err == nil {
			f.found[i].Then = f.stand(next)
		}
	}
	slices.SortStableFunc(f.found, f.compare)
	return Answer{Plays: o.Plays, Name: f.name, Due: f.set.Due, Now: f.now, Levers: f.found, Ended: ended}, nil
}

// finder looks for the levers of one question.
type finder struct {
	p     *plan.Plan
	whole *plan.Plan // with what is rough
	o     Options
	name  string
	set   forecast.Set      // what is to be mended, as it is played
	items []string          // the same by their keys in the whole plan
	need  *standing.NeedRef // where it is a need
	past  func(*program.Item) []float64
	plays int // of what is tried
	deck  *forecast.Deck
	now   Stand
	found []Lever

	halved map[string]bool // items that were split for a try
}

// aim finds what a question is about.
func (f *finder) aim(q Question) error {
	tree := f.whole.Tree()
	switch {
	case q.Release != "":
		i := slices.IndexFunc(f.p.Releases, func(r program.Release) bool { return r.Key == q.Release })
		if i < 0 {
			return fmt.Errorf("there is no release %q", q.Release)
		}
		f.name, f.set.Due, f.set.Release = f.p.Releases[i].Name, f.p.Releases[i].Due, q.Release
		for i := range f.whole.Items {
			if tree.ToSchedule(i) && tree.Release(i) == q.Release {
				f.items = append(f.items, f.whole.Items[i].Key)
			}
		}
	case q.Milestone != "":
		i := slices.IndexFunc(f.p.Milestones, func(m program.Milestone) bool { return m.Key == q.Milestone })
		if i < 0 {
			return fmt.Errorf("there is no milestone %q", q.Milestone)
		}
		f.name, f.set.Due, f.set.Items = f.p.Milestones[i].Name, f.p.Milestones[i].Date, f.p.Milestones[i].Needs
		f.items = f.set.Items
	case q.Need != nil:
		if !slices.ContainsFunc(f.p.Needs, func(n program.Need) bool { return n.Item == q.Need.Item && n.Needs == q.Need.Needs }) {
			return fmt.Errorf("%s does not need %s", q.Need.Item, q.Need.Needs)
		}
		f.need, f.name, f.set.Items = q.Need, q.Need.Item+" needs "+q.Need.Needs, []string{q.Need.Item}
		f.items = f.set.Items
	default:
		return fmt.Errorf("say what is to be mended: a release, a milestone or a need")
	}
	return nil
}

// stand plays a plan and reads how it stands.
func (f *finder) stand(p *plan.Plan) Stand {
	o := f.playing()
	o.Sets = []forecast.Set{f.set}
	played := forecast.Play(p, o)
	counts, l := standing.Of(p, f.o.Today).Counts, played.Sets[0]
	return Stand{
		Chance: l.Chance, Lands: l.At(50), Late: l.ExpectedLateDays,
		ExpectedLateDays: played.ExpectedLateDays, Over: len(counts.Over), Broken: len(counts.Broken), Missed: len(needs.Missed(p)),
	}
}

// playing are the options of all plays.
func (f *finder) playing() forecast.Options {
	return forecast.Options{Today: f.o.Today, Plays: f.plays, Seed: f.o.Seed, Workers: f.o.Workers, Past: f.o.Past, Deck: f.deck}
}

func (f *finder) stopped() bool { return f.o.Stop != nil && f.o.Stop() }

// try plays the plan with some changes made and keeps them as a lever if they are worth it.
// Changes that the plan does not take are none.
func (f *finder) try(l Lever) {
	if f.stopped() || len(l.Changes) == 0 {
		return
	}
	next, _, err := gate.Try(f.p, l.Changes)
	if err != nil {
		return
	}
	l.Label = cmp.Or(l.Label, l.Text)
	for _, c := range l.Changes {
		if c.Kind == program.KindItem && c.Field == "iteration" {
			m := Moved{Item: c.Key, Team: item(next, c.Key).Team, To: item(next, c.Key).Iteration}
			if _, known := f.p.Tree().Index[c.Key]; known {
				m.From = item(f.p, c.Key).Iteration
			}
			if m.From != m.To && !slices.Contains(l.Moves, m) {
				l.Moves = append(l.Moves, m)
			}
		}
	}
	if l.Then = f.stand(next); l.Kind == Size || f.worth(l, next) {
		f.found = append(f.found, l)
	}
}

func item(p *plan.Plan, key string) *program.Item { return &p.Items[p.Tree().Index[key]] }

// worth reports whether a lever mends anything, with the plan that comes of it.
func (f *finder) worth(l Lever, next *plan.Plan) bool {
	if f.need != nil {
		return f.holds(next) && l.Then.Broken < f.now.Broken // and breaks no other in its place
	}
	return f.points(l) >= 1 || f.now.Late-l.Then.Late >= 0.1
}

// points are the points of chance that a lever is worth, whole ones.
func (f *finder) points(l Lever) int {
	if f.now.Chance == nil || l.Then.Chance == nil {
		return 0
	}
	return int(100**l.Then.Chance+0.5) - int(100**f.now.Chance+0.5)
}

// compare puts the better lever first.
func (f *finder) compare(a, b Lever) int {
	missing := func(l Lever) int {
		if l.Kind == Size || l.Kind == PutIn {
			return 0
		}
		return 1
	}
	return cmp.Or(cmp.Compare(missing(a), missing(b)), cmp.Compare(f.points(b), f.points(a)),
		cmp.Compare(a.Then.Late, b.Then.Late), cmp.Compare(slices.Index(gentle, a.Kind), slices.Index(gentle, b.Kind)),
		cmp.Compare(a.Then.ExpectedLateDays, b.Then.ExpectedLateDays))
}
