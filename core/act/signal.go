package act

import (
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"jantrel/core/backlog"
	"jantrel/core/calendar"
	"jantrel/core/program"
	"jantrel/core/words"
)

// ReportSignals says what services outside found: each signal is a fact of some moment. What has been
// said already changes nothing, and neither does what is older than what is known, so that signals may
// be sent again and may come late.
type ReportSignals struct {
	Tests       []TestsSignal      `json:"tests,omitempty"`
	Builds      []BuildSignal      `json:"builds,omitempty"`
	Deployments []DeploymentSignal `json:"deployments,omitempty"`
	Defects     []DefectSignal     `json:"defects,omitempty"`
	Work        []WorkSignal       `json:"work,omitempty"`
}

// TestsSignal says how the tests of an item ended.
type TestsSignal struct {
	Item    string    `json:"item"`
	At      time.Time `json:"at"` // when they were run
	Passed  int       `json:"passed"`
	Failed  int       `json:"failed"`
	NotRun  int       `json:"notRun"`
	Address string    `json:"address,omitempty"` // of their report, http or https
}

// BuildSignal says how a build of a team ended.
type BuildSignal struct {
	Team    string             `json:"team"`
	Name    string             `json:"name"` // which of the team's builds
	At      time.Time          `json:"at"`   // when it ended
	State   program.BuildState `json:"state"`
	Address string             `json:"address,omitempty"` // of its report, http or https
}

// DeploymentSignal says that a version of a team's work runs in some place.
type DeploymentSignal struct {
	Team    string    `json:"team"`
	Place   string    `json:"place"`
	Version string    `json:"version"`
	At      time.Time `json:"at"` // when it was put there
	Address string    `json:"address,omitempty"`
}

// DefectSignal says that a defect was found, or is mended. A new one becomes an item beside the first
// whose tests it hinders, so that it belongs to the same release.
type DefectSignal struct {
	ID      string    `json:"id"` // the sender's own: by it the defect is known again
	Team    string    `json:"team"`
	At      time.Time `json:"at"` // when it was found, or mended
	Title   string    `json:"title"`
	FoundIn string    `json:"foundIn,omitempty"` // where it was seen
	Hinders []string  `json:"hinders,omitempty"` // items whose tests cannot be run before it is mended
	Mended  bool      `json:"mended,omitempty"`
	Address string    `json:"address,omitempty"` // where it is described, http or https
}

// WorkSignal says how long somebody worked on something on a day. Sent again with other hours under
// the same id it is put right; with none it is taken back.
type WorkSignal struct {
	ID       string       `json:"id"` // the sender's own
	Person   string       `json:"person"`
	Date     program.Date `json:"date"`
	Hours    float64      `json:"hours"`
	Item     string       `json:"item,omitempty"`
	Task     string       `json:"task,omitempty"` // the title of one of its tasks
	Activity string       `json:"activity,omitempty"`
	Note     string       `json:"note,omitempty"`
}

// MaxSignals is how many signals are taken at once.
const MaxSignals = 500

// Plan implements Intent. Time is linear in signals and in what there is of what they are about.
func (x ReportSignals) Plan(s State) (Plan, error) {
	n := len(x.Tests) + len(x.Builds) + len(x.Deployments) + len(x.Defects) + len(x.Work)
	if n == 0 {
		return Plan{}, fmt.Errorf("there is no signal: send tests, builds, deployments, defects or work")
	}
	if n > MaxSignals {
		return Plan{}, fmt.Errorf("%d signals are too many at once; send %d at most, and the rest after them", n, MaxSignals)
	}
	r := &reporting{State: s, index: s.Tree().Index, teams: s.TeamAt(), tested: map[string]*program.Tests{}, builds: map[int][]program.Build{}, deployed: map[int][]program.Deployed{}}
	if err := errors.Join(
		each("tests", x.Tests, func(x *TestsSignal) time.Time { return x.At }, r.tests),
		each("builds", x.Builds, func(x *BuildSignal) time.Time { return x.At }, r.build),
		each("deployments", x.Deployments, func(x *DeploymentSignal) time.Time { return x.At }, r.deployment),
		each("defects", x.Defects, func(x *DefectSignal) time.Time { return x.At }, r.defect),
		each("work", x.Work, func(*WorkSignal) time.Time { return time.Time{} }, r.work),
		r.daysLongEnough(),
	); err != nil {
		return Plan{}, err
	}
	r.settle()
	label := fmt.Sprintf("%d signals", len(r.said))
	if len(r.said) <= 3 {
		label = strings.Join(r.said, ", ")
	}
	p, err := made(label, r.changes, nil)
	return p.with(r.keys, nil), err
}

// each plans signals in the order of time, and says which could not be.
func each[T any](what string, signals []T, at func(*T) time.Time, plan func(*T) error) error {
	order := make([]int, len(signals))
	for i := range order {
		order[i] = i
	}
	slices.SortStableFunc(order, func(a, b int) int { return at(&signals[a]).Compare(at(&signals[b])) })
	for _, i := range order {
		if err := plan(&signals[i]); err != nil {
			return fmt.Errorf("signal %d of %s: %w", i+1, what, err)
		}
	}
	return nil
}

// reporting plans signals one after another.
type reporting struct {
	State
	index   map[string]int
	teams   map[string]int
	changes []program.Change
	keys    []string // of new items
	said    []string // what has changed, in words

	tested   map[string]*program.Tests // by item, as they come to be; and so those of teams
	builds   map[int][]program.Build
	deployed map[int][]program.Deployed

	newKeys  *backlog.Keys
	reported map[string]*program.Item // defects by what a service calls them; nil until it matters

	entries map[string]*program.TimeEntry // by key, as they come to be; nil until it matters
	days    map[personDay]float64         // hours by whom and day, as they come to be
	entered []personDay                   // those of them that signals add to
}

type personDay struct {
	person string
	date   program.Date
}

func (r *reporting) did(said string, changes ...program.Change) {
	r.changes = append(r.changes, changes...)
	r.said = append(r.said, said)
}

// moment checks when something was, and writes it as it is kept.
func (r *reporting) moment(at time.Time) (string, error) {
	at = at.UTC().Truncate(time.Second)
	if calendar.OfTime(at) > r.Today.Add(1) { // a day more, as it may be tomorrow there
		return "", fmt.Errorf("%s is yet to come; is that clock right?", at.Format(time.RFC3339))
	}
	return at.Format(time.RFC3339), nil
}

func (r *reporting) team(key string) (int, error) {
	t, ok := r.teams[key]
	if !ok {
		return 0, fmt.Errorf("there is no team %q", key)
	}
	return t, nil
}

func (r *reporting) item(key string) (*program.Item, error) {
	i, ok := r.index[key]
	if !ok {
		return nil, fmt.Errorf("there is no item %q", key)
	}
	return &r.Items[i], nil
}

// maxID is how many bytes the id of a signal has at most.
const maxID = 120

// known checks the id by which a sender knows what it says.
func known(id string) error {
	if id == "" || len(id) > maxID {
		return fmt.Errorf("give it an id of at most %d bytes, the one by which you know it", maxID)
	}
	return nil
}

func itemRef(key string) program.Ref { return program.Ref{Kind: program.KindItem, Key: key} }

// tests plans how the tests of an item ended.
func (r *reporting) tests(x *TestsSignal) error {
	item, err := r.item(x.Item)
	if err != nil {
		return err
	}
	since, err := r.moment(x.At)
	if err != nil {
		return err
	}
	was := r.tested[x.Item]
	if was == nil {
		was = item.Tests
	}
	is := program.Tests{Passed: x.Passed, Failed: x.Failed, NotRun: x.NotRun, Since: since, Address: x.Address}
	if was != nil && (since <= was.Since || was.Passed == is.Passed && was.Failed == is.Failed && was.NotRun == is.NotRun) {
		return nil // they stood so, or something newer is known
	}
	if r.tested[x.Item] == nil {
		r.did("Tests of " + x.Item)
	}
	r.tested[x.Item] = &is
	return nil
}

func (r *reporting) build(x *BuildSignal) error {
	return found(r, x.Team, x.At, r.builds, func(t *program.Team) []program.Build { return t.Builds }, func(since string) program.Build {
		return program.Build{Name: x.Name, State: x.State, Since: since, Address: x.Address}
	}, func(was, is *program.Build) (same, known bool) {
		return was.Name == is.Name, is.Since <= was.Since || is.State == was.State
	}, func(team string) string { return fmt.Sprintf("Build %s of %s is %s", x.Name, team, x.State) })
}

func (r *reporting) deployment(x *DeploymentSignal) error {
	return found(r, x.Team, x.At, r.deployed, func(t *program.Team) []program.Deployed { return t.Deployed }, func(since string) program.Deployed {
		return program.Deployed{Place: x.Place, Version: x.Version, Since: since, Address: x.Address}
	}, func(was, is *program.Deployed) (same, known bool) {
		return was.Place == is.Place, is.Since <= was.Since
	}, func(team string) string { return fmt.Sprintf("%s of %s runs in %s", x.Version, team, x.Place) })
}

// found puts something that was found of a team into the team's list of such, in place of what it was
// the last time; compare tells whether two are of the same, and whether the later one is nothing new.
func found[T any](r *reporting, team string, at time.Time, lists map[int][]T, of func(*program.Team) []T, thing func(since string) T, compare func(was, is *T) (same, known bool), said func(team string) string) error {
	t, err := r.team(team)
	if err != nil {
		return err
	}
	since, err := r.moment(at)
	if err != nil {
		return err
	}
	list, begun := lists[t]
	if !begun {
		list = slices.Clone(of(&r.Teams[t]))
	}
	is := thing(since)
	for i := range list {
		if same, known := compare(&list[i], &is); same {
			if !known {
				list[i], lists[t] = is, list
				r.did(said(r.Teams[t].Name))
			}
			return nil
		}
	}
	lists[t] = append(list, is)
	r.did(said(r.Teams[t].Name))
	return nil
}

// settle sets what signals of tests, builds and deployments came to, once an item and a team.
func (r *reporting) settle() {
	for i := range r.Items {
		if is := r.tested[r.Items[i].Key]; is != nil {
			r.changes = append(r.changes, program.SetTo(itemRef(r.Items[i].Key), "tests", is))
		}
	}
	for t := range r.Teams {
		ref := program.Ref{Kind: program.KindTeam, Key: r.Teams[t].Key}
		if list, ok := r.builds[t]; ok {
			r.changes = append(r.changes, program.SetTo(ref, "builds", list))
		}
		if list, ok := r.deployed[t]; ok {
			r.changes = append(r.changes, program.SetTo(ref, "deployed", list))
		}
	}
}

// defect plans a defect that was found, or mended.
func (r *reporting) defect(x *DefectSignal) error {
	if err := known(x.ID); err != nil {
		return err
	}
	_, err := r.team(x.Team)
	if err == nil {
		_, err = r.moment(x.At)
	}
	if err != nil {
		return err
	}
	if r.reported == nil {
		r.reported = map[string]*program.Item{}
		for i := range r.Items {
			if id := r.Items[i].Reported; id != "" {
				r.reported[id] = &r.Items[i]
			}
		}
	}
	item := r.reported[x.ID]
	if item == nil && x.Mended || item != nil && item.State == program.Done {
		return nil // never heard of here, or mended: whatever is said of it comes late
	}
	if !x.Mended {
		for _, key := range x.Hinders {
			if _, err := r.item(key); err != nil {
				return err
			}
		}
	}
	if item == nil {
		r.newDefect(x)
	} else {
		r.knownDefect(x, item)
	}
	return nil
}

func (r *reporting) newDefect(x *DefectSignal) {
	if r.newKeys == nil {
		r.newKeys = backlog.NewKeys(r.Plan)
	}
	item := program.Item{Key: r.newKeys.Next(program.Defect, x.Team), Title: x.Title, Kind: program.Defect, Team: x.Team, State: program.Todo, FoundIn: x.FoundIn, Hinders: x.Hinders, Reported: x.ID}
	if len(x.Hinders) > 0 {
		item.Parent = r.Items[r.index[x.Hinders[0]]].Parent
	}
	if x.Address != "" {
		item.Links = []program.Link{{Address: x.Address}}
	}
	r.reported[x.ID] = &item
	r.keys = append(r.keys, item.Key)
	r.did("Defect "+item.Key+": "+x.Title, program.AddOf(itemRef(item.Key), item))
}

// knownDefect brings what is said anew: that it is mended, and what it hinders until then. Its title
// and team are the program's by now.
func (r *reporting) knownDefect(x *DefectSignal, item *program.Item) {
	if x.Mended {
		done := *item // that of the program is never written to
		done.State = program.Done
		r.reported[x.ID] = &done
		r.did(item.Key+" is mended", program.SetTo(itemRef(item.Key), "state", program.Done), program.SetTo(itemRef(item.Key), "doneOn", min(calendar.OfTime(x.At.UTC()), r.Today)))
		return
	}
	if !slices.Equal(item.Hinders, x.Hinders) {
		other := *item
		other.Hinders = x.Hinders
		r.reported[x.ID] = &other
		r.did(item.Key+" hinders other tests", program.SetTo(itemRef(item.Key), "hinders", x.Hinders))
	}
}

// work plans hours that somebody spent.
func (r *reporting) work(x *WorkSignal) error {
	if err := known(x.ID); err != nil {
		return err
	}
	if !slices.ContainsFunc(r.People, func(p program.Person) bool { return p.Key == x.Person }) {
		return fmt.Errorf("there is no person %q", x.Person)
	}
	if x.Hours < 0 || x.Hours > program.MaxHoursADay {
		return fmt.Errorf("%s h are not between 0 and %d", words.Number(x.Hours), program.MaxHoursADay)
	}
	if x.Date > r.Today.Add(1) {
		return fmt.Errorf("%s is yet to come", x.Date)
	}
	if r.entries == nil {
		r.entries, r.days = map[string]*program.TimeEntry{}, map[personDay]float64{}
		for i := range r.TimeEntries {
			e := &r.TimeEntries[i]
			r.entries[e.Key] = e
			r.days[personDay{e.Person, e.Date}] += e.Hours
		}
	}
	e := program.TimeEntry{Key: "signal " + x.ID, Person: x.Person, Date: x.Date, Hours: x.Hours, Item: x.Item, Task: x.Task, Activity: x.Activity, Note: x.Note}
	ref := program.Ref{Kind: program.KindTimeEntry, Key: e.Key}
	was := r.entries[e.Key]
	if x.Item != "" {
		if _, err := r.item(x.Item); was != nil && err != nil {
			e.Item = "" // it was removed since: what was entered on it says so already
		} else if err != nil {
			return err
		}
	}
	if was != nil && *was == e || was == nil && e.Hours == 0 {
		return nil
	}
	if was != nil { // its day may be another: it is entered anew
		r.days[personDay{was.Person, was.Date}] -= was.Hours
		r.changes = append(r.changes, program.Change{Op: program.Remove, Ref: ref})
		delete(r.entries, e.Key)
	}
	if e.Hours > 0 {
		r.days[personDay{e.Person, e.Date}] += e.Hours
		r.entered = append(r.entered, personDay{e.Person, e.Date})
		r.changes = append(r.changes, program.AddOf(ref, e))
		r.entries[e.Key] = &e
	}
	r.did(fmt.Sprintf("%s h of %s", words.Number(x.Hours), x.Person))
	return nil
}

// daysLongEnough refuses hours that no day has.
func (r *reporting) daysLongEnough() error {
	for _, at := range r.entered {
		if hours := r.days[at]; hours > program.MaxHoursADay {
			return fmt.Errorf("%s would have %s h on %s; a day has %d", at.person, words.Number(hours), at.date.Short(), program.MaxHoursADay)
		}
	}
	return nil
}
