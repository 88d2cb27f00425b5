package reports

import (
	"fmt"
	"slices"

	"jantrel/core/attention"
	"jantrel/core/backlog"
	"jantrel/core/needs"
	"jantrel/core/program"
)

// Screen is how a page is shown on a wall: card after card in turn, or as it is laid out, a screenful after the other.
type Screen struct {
	Cards   []string `json:"cards,omitempty"`  // keys of those that it shows, in the order of the page; none: all
	Single  bool     `json:"single,omitempty"` // one card at a time, as large as the screen
	Seconds int      `json:"seconds"`          // for which each stands before the next one comes
	DimFrom int      `json:"dimFrom"`          // hour of the screen's own clock from which it is dim
	DimTo   int      `json:"dimTo"`            // hour up to which; the same: never
}

// Check says what is wrong with a screen of a page.
func (s *Screen) Check(p *Page) error {
	switch {
	case s.Seconds < 5 || s.Seconds > 3600:
		return fmt.Errorf("each card stands for 5 to 3600 seconds")
	case s.DimFrom < 0 || s.DimFrom > 23 || s.DimTo < 0 || s.DimTo > 23:
		return fmt.Errorf("it is dim from an hour to another, 0 to 23")
	case len(s.Cards) > MaxCards:
		return fmt.Errorf("it shows %d cards at most", MaxCards)
	case len(s.Shown(p)) == 0:
		return fmt.Errorf("choose a card that is on the page")
	}
	return nil
}

// Shown are the cards of a page that a screen shows, in their order. Cards that were taken away since are missing.
func (s *Screen) Shown(p *Page) []Card {
	shown := []Card{}
	for i := range p.Cards {
		if len(s.Cards) == 0 || slices.Contains(s.Cards, p.Cards[i].Key) {
			shown = append(shown, p.Cards[i])
		}
	}
	return shown
}

// Calls are the entries of attention that a card about some work shows: not those that were put off.
func (a About) Calls(entries []attention.Entry) []attention.Entry {
	calls := []attention.Entry{}
	for i := range entries {
		e := &entries[i]
		if e.Off == nil && (a.Team == "" || e.Concerns(a.Team)) && (a.Release == "" || e.Release == a.Release) {
			calls = append(calls, *e)
		}
	}
	return calls
}

// Named collects what cards name of a program, so that a screen is told of that and of nothing else.
type Named map[program.Ref]bool

// kindView stands for views among what is named; it is no kind of a program's.
const kindView program.Kind = "view"

// Cards adds what cards are about, and what their kind lists whole.
func (n Named) Cards(p *program.Program, cards []Card) {
	for i := range cards {
		c := &cards[i]
		n.add(program.KindRelease, c.About.Release)
		n.add(program.KindTeam, c.About.Team)
		n.add(program.KindItem, c.About.Item)
		n.add(kindView, c.About.View)
		if c.Kind == CardDates {
			for r := range p.Releases {
				n.add(program.KindRelease, p.Releases[r].Key)
			}
			for m := range p.Milestones {
				n.add(program.KindMilestone, p.Milestones[m].Key)
			}
		}
		if c.Kind == CardCapacity && c.About.Team == "" {
			for t := range p.Teams {
				n.add(program.KindTeam, p.Teams[t].Key)
			}
		}
	}
}

// Entries adds what entries of attention name, and of promises what was promised.
func (n Named) Entries(p *program.Program, entries []attention.Entry) {
	for i := range entries {
		e := &entries[i]
		n.add(program.KindItem, e.Item)
		n.add(program.KindTeam, e.Team)
		n.add(program.KindTeam, e.Another)
		n.add(program.KindRelease, e.Release)
		n.add(program.KindRisk, e.Risk)
		n.add(program.KindPromise, e.Promise)
	}
	for i := range p.Promises {
		if made := &p.Promises[i]; n[program.Ref{Kind: program.KindPromise, Key: made.Key}] {
			n.add(program.KindRelease, made.Release)
			n.add(program.KindMilestone, made.Milestone)
		}
	}
}

// Cells adds the teams of a map of needs.
func (n Named) Cells(cells []needs.Cell) {
	for i := range cells {
		n.Team(cells[i].Gives)
		n.Team(cells[i].Waits)
	}
}

// Team adds a team; an empty key is none.
func (n Named) Team(key string) { n.add(program.KindTeam, key) }

func (n Named) add(kind program.Kind, key string) {
	if key != "" {
		n[program.Ref{Kind: kind, Key: key}] = true
	}
}

// Excerpt is what a program says of what is named: its names and dates, and of teams their iterations too. Time is
// linear in the program.
func (n Named) Excerpt(p *program.Program) program.Program {
	has := func(kind program.Kind, key string) bool { return n[program.Ref{Kind: kind, Key: key}] }
	// Of the settings only what every program must have: among them are addresses that are nobody's business.
	out := program.Program{Name: p.Name, Settings: program.Settings{SameIteration: p.Settings.SameIteration, FillTo: p.Settings.FillTo}}
	for i := range p.Releases {
		if r := &p.Releases[i]; has(program.KindRelease, r.Key) {
			out.Releases = append(out.Releases, program.Release{Key: r.Key, Name: r.Name, Due: r.Due})
		}
	}
	for i := range p.Milestones {
		if m := &p.Milestones[i]; has(program.KindMilestone, m.Key) {
			out.Milestones = append(out.Milestones, program.Milestone{Key: m.Key, Name: m.Name, Date: m.Date})
		}
	}
	for i := range p.Teams {
		t := &p.Teams[i]
		if !has(program.KindTeam, t.Key) {
			continue
		}
		team := program.Team{Key: t.Key, Name: t.Name, Unit: t.Unit}
		for _, it := range t.Iterations {
			team.Iterations = append(team.Iterations, program.Iteration{Key: it.Key, Name: it.Name, Start: it.Start, End: it.End, State: it.State})
		}
		out.Teams = append(out.Teams, team)
	}
	for i := range p.Items {
		if x := &p.Items[i]; has(program.KindItem, x.Key) {
			out.Items = append(out.Items, program.Item{Key: x.Key, Title: x.Title, Kind: x.Kind, Due: x.Due})
		}
	}
	for _, v := range append(backlog.ReadyMade(), p.Views...) {
		if has(kindView, v.Key) {
			out.Views = append(out.Views, program.View{Key: v.Key, Name: v.Name})
		}
	}
	for i := range p.Risks {
		if r := &p.Risks[i]; has(program.KindRisk, r.Key) {
			out.Risks = append(out.Risks, program.Risk{Key: r.Key, Title: r.Title})
		}
	}
	for i := range p.Promises {
		if made := &p.Promises[i]; has(program.KindPromise, made.Key) {
			out.Promises = append(out.Promises, program.Promise{Key: made.Key, Release: made.Release, Milestone: made.Milestone, Date: made.Date, To: made.To, Made: made.Made})
		}
	}
	return out
}
