package act

import (
	"cmp"
	"errors"
	"fmt"
	"slices"
	"strings"

	"jantrel/core/needs"
	"jantrel/core/program"
)

// Word is one step of two teams towards an agreement on a need.
type Word string

// The words.
const (
	Ask     Word = "ask"     // the team that waits asks, or asks again, by a day or by the one that the plan has
	Agree   Word = "agree"   // the team that gives agrees to the day that is asked for, or to an earlier one
	Offer   Word = "offer"   // the team that gives offers another day
	Accept  Word = "accept"  // the team that waits accepts the day that was offered
	Decline Word = "decline" // the team that gives declines, and says why
)

// WordRule is who may say a word, and when.
type WordRule struct {
	Word Word                `json:"word"`
	By   needs.Side          `json:"by"`             // whose word it is: roles.Check holds to it
	From []program.Agreement `json:"from,omitempty"` // what the need has to be for it; none: whatever it is
	To   program.Agreement   `json:"to"`             // what it becomes
	Else string              `json:"-"`              // why it may not be said otherwise
}

// Words are the one table of agreements; the page offers what stands in it.
var Words = []WordRule{
	{Word: Accept, By: needs.Waits, From: []program.Agreement{program.Offered}, To: program.Agreed, Else: "nothing is offered that could be accepted"},
	{Word: Agree, By: needs.Gives, From: []program.Agreement{program.Asked, program.Offered, program.Declined}, To: program.Agreed, Else: "it is agreed on already"},
	{Word: Offer, By: needs.Gives, To: program.Offered},
	{Word: Decline, By: needs.Gives, To: program.Declined},
	{Word: Ask, By: needs.Waits, To: program.Asked},
}

// AnswerNeed says the next word on a need between two teams.
type AnswerNeed struct {
	Item  string       `json:"item"`
	Needs string       `json:"needs"`
	Word  Word         `json:"word"`
	Date  program.Date `json:"date,omitzero"` // ask: by when, none: as the plan has it; agree: none: what is asked for; offer: the day; accept: the one that was seen, none: whichever
	Why   string       `json:"why,omitempty"` // decline needs it
}

// Plan implements Intent.
func (x AnswerNeed) Plan(s State) (Plan, error) {
	at := slices.IndexFunc(s.Needs, func(n program.Need) bool { return n.Item == x.Item && n.Needs == x.Needs })
	if at < 0 {
		return Plan{}, fmt.Errorf("%s does not need %s any more", x.Item, x.Needs)
	}
	need := s.Needs[at]
	next, err := x.next(s, need)
	if err != nil {
		return Plan{}, err
	}
	ref := program.Ref{Kind: program.KindNeed, In: x.Item, Key: x.Needs}
	var changes []program.Change
	set := func(field string, differs bool, value any) {
		if differs {
			changes = append(changes, program.SetTo(ref, field, value))
		}
	}
	set("given", next.Given != need.Given, orNone(next.Given))
	set("wanted", next.Wanted != need.Wanted, orNone(next.Wanted))
	set("why", next.Why != need.Why, next.Why)
	// It is said even where it stays the same: whose word it is decides who may say another day, or why.
	set("agreement", next.Agreement != need.Agreement || len(changes) > 0, next.Agreement)
	p, err := made(x.label(next), changes, nil)
	p.Says = p.Changes // whoever answers saw what was said before
	return p, err
}

// orNone is a day as a change sets it: null for none.
func orNone(d program.Date) any {
	if d.IsZero() {
		return nil
	}
	return d
}

// next is what the need becomes.
func (x AnswerNeed) next(s State, need program.Need) (program.Need, error) {
	row := slices.IndexFunc(Words, func(r WordRule) bool { return r.Word == x.Word })
	switch {
	case row < 0:
		return need, fmt.Errorf("there is no word %q on a need; say ask, agree, offer, accept or decline", x.Word)
	case !needs.Agree(&s.Program):
		return need, errors.New("in this program teams do not agree on the needs between them: see Set up, Teams")
	case len(Words[row].From) > 0 && !slices.Contains(Words[row].From, cmp.Or(need.Agreement, program.Asked)):
		return need, errors.New(Words[row].Else)
	}
	owed := needs.OwedOf(s.Plan)
	at := slices.IndexFunc(owed, func(o needs.Owed) bool { return o.Item == x.Item && o.Needs == x.Needs })
	if at < 0 {
		return need, fmt.Errorf("%s and %s are not work of two teams that is still to do: there is nothing to agree on", x.Item, x.Needs)
	}
	need.Agreement, need.Why = Words[row].To, strings.TrimSpace(x.Why)
	wanted := need.Wanted
	if wanted.IsZero() {
		wanted = needs.WantedBy(s.Plan, x.Item, x.Needs)
	}
	switch x.Word {
	case Ask:
		need.Wanted = x.Date
	case Offer:
		need.Given = x.Date
	case Decline:
		need.Given = 0
	case Agree:
		need.Given = x.Date
		if x.Date.IsZero() {
			need.Given = wanted
		}
	case Accept:
		if !x.Date.IsZero() && x.Date != need.Given {
			return need, fmt.Errorf("%s is what is offered by now", need.Given.Short())
		}
	}
	return need, x.fits(s.Today, need, wanted)
}

// fits refuses a word that its day or its text does not go with.
func (x AnswerNeed) fits(today program.Date, need program.Need, wanted program.Date) error {
	switch {
	case x.Word == Decline && need.Why == "":
		return errors.New("whoever declines says why")
	case x.Word == Offer && x.Date.IsZero():
		return errors.New("an offer names a day")
	case (x.Word == Offer || x.Word == Agree || x.Word == Ask) && !x.Date.IsZero() && x.Date < today:
		return fmt.Errorf("%s is over: name a day to come", x.Date.Short())
	case x.Word == Agree && !need.Given.IsZero() && need.Given < today:
		return fmt.Errorf("%s, by which it is wanted, is over: offer a day to come", need.Given.Short())
	case x.Word == Agree && !x.Date.IsZero() && !wanted.IsZero() && x.Date > wanted:
		return fmt.Errorf("%s is after the day that is asked for, %s: offer it", x.Date.Short(), wanted.Short())
	}
	return nil
}

// label says it in a few words.
func (x AnswerNeed) label(next program.Need) string {
	of := fmt.Sprintf("%s needs %s: ", x.Item, x.Needs)
	on := func(d program.Date, text string) string {
		if d.IsZero() {
			return ""
		}
		return text + d.Short()
	}
	switch x.Word {
	case Ask:
		return of + "asked for" + on(next.Wanted, " by ")
	case Offer:
		return of + "offered" + on(next.Given, " for ")
	case Decline:
		return of + "declined"
	}
	return of + "agreed" + on(next.Given, " for ")
}
