package reports

import (
	"fmt"
	"slices"
	"strings"
	"unicode/utf8"

	"jantrel/core/program"
)

// Page is cards on a grid: from left to right and from top to bottom in their order, each so many columns wide and
// rows high.
type Page struct {
	Name  string `json:"name"`
	Note  string `json:"note,omitempty"` // what it is for
	Cards []Card `json:"cards"`
}

// Card is one thing that a page shows.
type Card struct {
	Key   string   `json:"key"` // within the page
	Kind  CardKind `json:"kind"`
	Title string   `json:"title,omitempty"` // empty: what it is called by itself
	Wide  int      `json:"wide"`            // columns, 2..Columns
	High  int      `json:"high"`            // rows, 1..MaxHigh
	Chart *Chart   `json:"chart,omitempty"` // of a chart
	Text  string   `json:"text,omitempty"`  // of a text, Markdown
	About About    `json:"about,omitzero"`  // of what is about some work
}

// About is the work that a card is about: a release, or a team, or an item with what is below it, or what a view
// holds now; none: all.
type About struct {
	Release string `json:"release,omitempty"`
	Team    string `json:"team,omitempty"`
	Item    string `json:"item,omitempty"`
	View    string `json:"view,omitempty"`
	Mine    bool   `json:"mine,omitempty"` // the view is one that whoever looks keeps for oneself
}

// CardKind is what a card shows.
type CardKind string

// The kinds of cards.
const (
	CardChart     CardKind = "chart"     // a question of one's own, see Chart
	CardText      CardKind = "text"      // Markdown
	CardDates     CardKind = "dates"     // releases and milestones: due, landing, chance
	CardOdds      CardKind = "odds"      // the chance of some work, day by day
	CardBurnUp    CardKind = "burn-up"   // done and all there is, with what the forecast makes of it
	CardBurnDown  CardKind = "burn-down" // what is left
	CardFlow      CardKind = "flow"      // items by state, day by day
	CardLedger    CardKind = "ledger"    // at start, added, removed, grown, shrunk, done, left
	CardCapacity  CardKind = "capacity"  // load against capacity, by iteration
	CardMix       CardKind = "mix"       // kinds of work against what is wanted
	CardAttention CardKind = "attention" // what needs somebody now
	CardNeeds     CardKind = "needs"     // what teams owe each other
)

// CardWords is a kind of card, for people.
type CardWords struct {
	Kind  CardKind `json:"kind"`
	Title string   `json:"title"`
	Says  string   `json:"says"`            // what it shows
	About []string `json:"about,omitempty"` // what it can be about: "release", "team", "item", "view"
	Must  bool     `json:"must,omitempty"`  // it needs to be about one of these
}

// CardKinds lists the kinds of cards in the order in which they are offered.
var CardKinds = []CardWords{
	{Kind: CardChart, Title: "Chart", Says: "A question of your own: count or add up anything, divided as you like"},
	{Kind: CardText, Title: "Text", Says: "Words of your own, as Markdown"},
	{Kind: CardDates, Title: "Dates", Says: "Releases and milestones: due, landing, chance"},
	{Kind: CardOdds, Title: "Odds over dates", Says: "How the chance to be done rises day by day", About: []string{"release", "team", "item", "view"}, Must: true},
	{Kind: CardBurnUp, Title: "Burn-up", Says: "What is done and what there is, with the forecast ahead", About: []string{"release", "team", "item", "view"}, Must: true},
	{Kind: CardBurnDown, Title: "Burndown", Says: "What is left, with the forecast ahead", About: []string{"release", "team", "item", "view"}, Must: true},
	{Kind: CardFlow, Title: "Flow", Says: "Items by state, day by day", About: []string{"release", "team", "item", "view"}},
	{Kind: CardLedger, Title: "Scope", Says: "At the start, added, taken out, done, left", About: []string{"release", "team", "item", "view"}},
	{Kind: CardCapacity, Title: "Capacity", Says: "Load against capacity, iteration by iteration", About: []string{"team"}},
	{Kind: CardMix, Title: "Mix", Says: "Kinds of work against what is wanted", About: []string{"release"}},
	{Kind: CardAttention, Title: "Attention", Says: "What needs somebody now, what costs the most first", About: []string{"release", "team"}},
	{Kind: CardNeeds, Title: "Needs across teams", Says: "What teams owe each other"},
}

// Limits of pages.
const (
	Columns  = 12 // of the grid
	MaxHigh  = 8
	MaxCards = 40
	maxName  = 120
	maxText  = 20_000
)

// Check says what is wrong with a page, as far as that hangs on no program.
func (p *Page) Check() error {
	switch {
	case strings.TrimSpace(p.Name) == "":
		return fmt.Errorf("give the page a name")
	case utf8.RuneCountInString(p.Name) > maxName || utf8.RuneCountInString(p.Note) > maxText:
		return fmt.Errorf("the name of the page, or what it is for, is too long")
	case len(p.Cards) > MaxCards:
		return fmt.Errorf("a page has %d cards at most: make another page", MaxCards)
	}
	keys := map[string]bool{}
	for i := range p.Cards {
		card := &p.Cards[i]
		if err := card.check(); err != nil {
			return fmt.Errorf("card %d: %w", i+1, err)
		}
		if keys[card.Key] {
			return fmt.Errorf("card %d: there is another one with the key %q", i+1, card.Key)
		}
		keys[card.Key] = true
	}
	return nil
}

func (c *Card) check() error {
	words, known := WordsOf(c.Kind)
	abouts := 0
	for name, key := range map[string]string{"release": c.About.Release, "team": c.About.Team, "item": c.About.Item, "view": c.About.View} {
		if key == "" {
			continue
		}
		abouts++
		if known && !slices.Contains(words.About, name) {
			return fmt.Errorf("%s cannot be about one %s", words.Title, name)
		}
	}
	switch {
	case !known:
		return fmt.Errorf("there is no card called %q", c.Kind)
	case c.Key == "" || len(c.Key) > 40:
		return fmt.Errorf("it needs a key of 1 to 40 letters")
	case c.Wide < 2 || c.Wide > Columns || c.High < 1 || c.High > MaxHigh:
		return fmt.Errorf("it is 2 to %d columns wide and 1 to %d rows high", Columns, MaxHigh)
	case utf8.RuneCountInString(c.Title) > maxName || utf8.RuneCountInString(c.Text) > maxText:
		return fmt.Errorf("its title or text is too long")
	case (c.Kind == CardChart) != (c.Chart != nil):
		return fmt.Errorf("a chart, and nothing else, says what it draws")
	case abouts > 1:
		return fmt.Errorf("it is about one thing at most")
	case words.Must && abouts == 0:
		return fmt.Errorf("say what it is about: a release, a team, an item or a view")
	case c.Chart != nil:
		return c.Chart.Check()
	}
	return nil
}

// WordsOf is what there is to say of a kind of card; false for one that is unknown.
func WordsOf(kind CardKind) (CardWords, bool) {
	for _, w := range CardKinds {
		if w.Kind == kind {
			return w, true
		}
	}
	return CardWords{}, false
}

// Ready is a page that comes with Jantrel, made for a program.
type Ready struct {
	Key string `json:"key"`
	For string `json:"for"` // whom it is made for
	Page
}

// ReadyPages are the pages that every program has, made for its releases and, where a person is given, for the team
// in which they have the largest share: for a program manager, a team lead, a member and a stakeholder.
func ReadyPages(p *program.Program, person string) []Ready {
	next, team := About{}, ""
	for _, r := range p.Releases {
		if !r.Due.IsZero() {
			next.Release = r.Key
			break
		}
	}
	most := -1.0
	for i := range p.Teams {
		for _, m := range p.Teams[i].Members {
			if m.Person != "" && m.Person == person && m.Share > most {
				most, team = m.Share, p.Teams[i].Key
			}
		}
	}
	if team == "" && len(p.Teams) > 0 {
		team = p.Teams[0].Key
	}
	open := program.Filter{Conditions: []program.Condition{{Field: "state", Is: "is-not", Values: []string{string(program.Done)}}}}
	mine := program.Filter{Conditions: append([]program.Condition{{Field: "assignee", Is: "is", Values: []string{person}}}, open.Conditions...)}
	ofTeam := About{Team: team}
	pages := []Ready{
		{"manager", "Program manager", Page{Name: "Program at a glance", Note: "Where the program stands, and what needs somebody.", Cards: []Card{
			{Kind: CardDates, Wide: 8, High: 2}, figureCard("Not done", &Chart{Of: Items, Filter: open, Measure: "number", Form: Figure, Back: 14}),
			{Kind: CardBurnUp, Wide: 6, High: 3, About: next}, {Kind: CardAttention, Wide: 6, High: 3},
			chartCard("Work by team", 6, &Chart{Of: Items, Split: []string{"team", "state"}, Measure: "number", Form: Stacked}), {Kind: CardCapacity, Wide: 6, High: 2},
			{Kind: CardNeeds, Wide: 6, High: 2}, chartCard("Risks", 6, &Chart{Of: Risks, Split: []string{"response"}, Measure: "number", Form: Bars})}}},
		{"lead", "Team lead", Page{Name: "My team", Note: "What the team has in hand, and what comes.", Cards: []Card{
			{Kind: CardCapacity, Wide: 8, High: 2, About: ofTeam}, figureCard("Under way", &Chart{Of: Items, Team: team, Filter: program.Filter{Conditions: []program.Condition{{Field: "state", Is: "is", Values: []string{string(program.Doing), string(program.Review)}}}}, Measure: "number", Form: Figure, Back: 7}),
			{Kind: CardFlow, Wide: 6, High: 2, About: ofTeam}, {Kind: CardAttention, Wide: 6, High: 2, About: ofTeam},
			chartCard("Who has what", 6, &Chart{Of: Items, Team: team, Filter: open, Split: []string{"assignee", "state"}, Measure: "number", Form: Stacked}),
			chartCard("Done by week", 6, &Chart{Of: Items, Team: team, Filter: program.Filter{Conditions: []program.Condition{{Field: "doneOn", Is: "filled"}}}, Split: []string{"doneOn"}, Measure: "number", Form: Bars})}}},
		{"member", "Member", Page{Name: "Mine, and my team", Note: "What is mine to do, and how my team stands.", Cards: []Card{
			chartCard("Mine to do", 6, &Chart{Of: Items, Filter: mine, Measure: "number", Form: List}),
			chartCard("Hours spent, by week", 6, &Chart{Of: Hours, Within: 56, Split: []string{"week"}, Measure: "spent", Form: Bars}),
			{Kind: CardFlow, Wide: 6, High: 2, About: ofTeam}, {Kind: CardDates, Wide: 6, High: 2}}}},
		{"stakeholder", "Stakeholder", Page{Name: "What comes when", Note: "Releases, their dates and how far they are.", Cards: []Card{
			{Kind: CardDates, Wide: 12, High: 2}, {Kind: CardBurnUp, Wide: 6, High: 3, About: next}, {Kind: CardOdds, Wide: 6, High: 3, About: next},
			chartCard("Progress by release", 6, &Chart{Of: Items, Split: []string{"release", "state"}, Measure: "share", Form: Stacked}), {Kind: CardLedger, Wide: 6, High: 2, About: next}}}},
	}
	for i := range pages {
		cards := pages[i].Cards[:0]
		for n, card := range pages[i].Cards {
			words, _ := WordsOf(card.Kind)
			if words.Must && card.About == (About{}) {
				continue // there is no release to be about
			}
			card.Key = fmt.Sprint(n + 1)
			cards = append(cards, card)
		}
		pages[i].Cards = cards
	}
	return pages
}

func chartCard(title string, wide int, c *Chart) Card {
	return Card{Kind: CardChart, Title: title, Wide: wide, High: 2, Chart: c}
}

func figureCard(title string, c *Chart) Card {
	return Card{Kind: CardChart, Title: title, Wide: 4, High: 2, Chart: c}
}
