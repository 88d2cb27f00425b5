// Package levers finds small changes that mend what does not stand well: a release or a
// milestone that may come late, a need that is broken. Each is tried on the plan and played.
package levers

import (
	"cmp"
	"fmt"
	"slices"

	"jantrel/core/forecast"
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
	Stop    func() bool // asked between steps; true ends the search early. Nil never does
}

// Kind is what sort of change a lever is.
type Kind string

// The kinds.
const (
	Drop   Kind = "drop"   // keeps an item out of the plan
	Shrink Kind = "shrink" // makes an item smaller
	Team   Kind = "team"   // gives an item to another team that has the role
	Lend   Kind = "lend"   // somebody who has time works in a team for an iteration
	Split  Kind = "split"  // splits an item into halves, each placed by itself
	Relax  Kind = "relax"  // takes a need away
	Move   Kind = "move"   // moves an item earlier, or later
	PutIn  Kind = "place"  // places an unplaced item
	Size   Kind = "size"   // gives an item its usual size, and a place
	Draft  Kind = "draft"  // drafts all of it anew
)

// Lever is a small change that mends something. Which it is and what it does is said in words;
// Changes are what it does to the program.
type Lever struct {
	Kind    Kind             `json:"kind"`
	Text    string           `json:"text"`
	Label   string           `json:"label"` // of the edit
	Item    string           `json:"item,omitempty"`
	Moves   []Moved          `json:"moves,omitempty"` // items whose iteration changes
	Changes []program.Change `json:"changes"`
	Then    Stand            `json:"then"`             // how it stands with the lever
	Others  []Other          `json:"others,omitempty"` // releases beside it whose chance the lever changes
}

// Moved is an item whose iteration a lever changes; empty is no place.
type Moved struct {
	Item string `json:"item"`
	Team string `json:"team"` // of the iteration that it comes to stand in; of the item
	From string `json:"from,omitempty"`
	To   string `json:"to,omitempty"`
}

// Other is a release whose chance, 0 to 1, of being on time changes by what is done for something else.
type Other struct {
	Release string  `json:"release"`
	Name    string  `json:"name"`
	Was     float64 `json:"was"`
	Chance  float64 `json:"chance"`
}

// Stand is how what is to be mended stands, and the plan as a whole.
type Stand struct {
	Chance  *float64     `json:"chance,omitempty"`  // chance, 0 to 1, of landing by its date
	Lands   program.Date `json:"lands,omitzero"`    // at even odds
	Late    float64      `json:"late"`              // expected late days of it alone
	Sampled int          `json:"sampled,omitempty"` // items of it without a size, played with past ones

	ExpectedLateDays float64 `json:"expectedLateDays"` // of the whole plan
	Over             int     `json:"over"`             // iterations over capacity
	Broken           int     `json:"broken"`           // broken needs
	Missed           int     `json:"missed"`           // needs that are done after the day that was agreed on

	all forecast.Forecast // with the days of each play
}

// Answer is how something stands and what mends it, the best first.
type Answer struct {
	Plays  int     `json:"plays"`
	Name   string  `json:"name"` // of what is to be mended
	Due    Date    `json:"due,omitzero"`
	Now    Stand   `json:"now"`
	Levers []Lever `json:"levers"`
	Tried  int     `json:"tried"`          // how many changes were tried
	Of     int     `json:"of"`             // of how many that are worth a try
	More   bool    `json:"more,omitempty"` // the search goes on: ask again
}

// Partial reports whether the answer is not the last word: it is not to be kept.
func (a Answer) Partial() bool { return a.More }

// Date is a civil date.
type Date = program.Date

// Find answers a question by a search that is taken to its end, or as far as o.Stop lets it go.
// What is not there is an error.
func Find(p *plan.Plan, q Question, o Options) (Answer, error) {
	s, err := Begin(p, q, o)
	if err != nil {
		return Answer{}, err
	}
	s.Go(0, o.Stop)
	return s.Answer(), nil
}

// finder plays plans for a question.
type finder struct {
	p     *plan.Plan
	whole *plan.Plan // with what is rough
	o     Options
	name  string
	set   forecast.Set      // what is to be mended, as it is played
	items []string          // the same by their keys in the whole plan
	need  *standing.NeedRef // where it is a need
	plays int               // of what is tried
	deck  *forecast.Deck
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

// stand plays a plan so often and reads how it stands.
func (f *finder) stand(p *plan.Plan, plays int) Stand {
	o := f.playing()
	o.Plays, o.Sets, o.Each = plays, []forecast.Set{f.set}, true
	played := forecast.Play(p, o)
	counts, l := standing.Of(p, f.o.Today).Counts, played.Sets[0]
	return Stand{
		Chance: l.Chance, Lands: l.At(50), Late: l.ExpectedLateDays, Sampled: l.Sampled,
		ExpectedLateDays: played.ExpectedLateDays, Over: len(counts.Over), Broken: len(counts.Broken), Missed: len(needs.Missed(p)),
		all: played,
	}
}

// playing are the options of all plays.
func (f *finder) playing() forecast.Options {
	return forecast.Options{Today: f.o.Today, Plays: f.plays, Seed: f.o.Seed, Workers: f.o.Workers, Past: f.o.Past, Deck: f.deck}
}

// fewPlays is how often a change is played to see whether it is worth more plays.
func fewPlays(plays int) int { return min(plays, max(100, min(300, plays/5))) }

// playsOf is how often each lever of an answer is played.
func (o Options) playsOf() int { return cmp.Or(max(0, o.Plays), 500) }
