package watch

import (
	"cmp"
	"encoding/json"
	"fmt"
	"slices"
	"strconv"
	"strings"
	"time"

	"jantrel/core/calendar"
	"jantrel/core/plan"
	"jantrel/core/program"
)

// About is why a piece of news concerns somebody.
type About string

// The reasons; of several in one edit of one item the first counts.
const (
	Mentioned About = "mentioned" // a comment names them
	Assigned  About = "assigned"  // an item or a task of it is theirs now, or no more
	Agreement About = "agreement" // somebody wants a need of an item of theirs, or agrees or declines one
	Said      About = "said"      // a comment on an item of theirs
	Changed   About = "changed"   // an item of theirs is another, or gone
)

var abouts = []About{Mentioned, Assigned, Agreement, Said, Changed}

// News is what somebody else did to an item in one edit, as it concerns a person.
type News struct {
	Revision int64     `json:"revision"` // of the edit
	At       time.Time `json:"at"`
	By       string    `json:"by"` // who made it, for people
	About    About     `json:"about"`
	Item     string    `json:"item"`
	Title    string    `json:"title"` // of the item; as it was last where it is gone
	Text     string    `json:"text"`  // what they did, in words that go on from their name
}

// Edit is an edit as the journal has it.
type Edit struct {
	Revision int64
	At       time.Time
	By       string
	Changes  []program.Applied
}

// longestQuote is how much of a comment a piece of news tells, in characters.
const longestQuote = 200

// Reader tells the news of a person from the journal, back in time. An item is theirs where it is
// assigned to them or has a task of theirs, before or after the edit.
type Reader struct {
	p      *plan.Plan
	person string
	name   string // of their account: their own edits are no news
	cards  map[string]*card
}

// card is what counts of an item at some time of the past.
type card struct {
	title, team string
	mine        bool
	tasks       []program.Task
}

// NewReader begins at a program as it is. Edits are by name: by is what the account of the person
// is called in the journal.
func NewReader(p *plan.Plan, person, by string) *Reader {
	r := &Reader{p, person, by, make(map[string]*card, len(p.Items))}
	for i := range p.Items {
		r.cards[p.Items[i].Key] = r.cardOf(&p.Items[i])
	}
	return r
}

func (r *Reader) cardOf(item *program.Item) *card {
	return &card{item.Title, item.Team, item.Assignee == r.person, item.Tasks}
}

// of is the card of an item, and whether that is theirs.
func (r *Reader) of(key string) (card, bool) {
	c := r.cards[key]
	if c == nil {
		return card{title: key}, false
	}
	return *c, c.mine || slices.ContainsFunc(c.tasks, r.owns)
}

func (r *Reader) owns(t program.Task) bool { return t.Owner == r.person }

// told is what an edit did to an item.
type told struct {
	title string
	about About
	parts []string
}

func (t *told) tell(about About, text string) {
	if t.about == "" || slices.Index(abouts, about) < slices.Index(abouts, t.about) {
		t.about, t.parts = about, nil
	}
	if t.about == about && !slices.Contains(t.parts, text) {
		t.parts = append(t.parts, text)
	}
}

// Take reads the edit before the last one read, and returns its news, by item in the order of the
// edit. Time is linear in its changes.
func (r *Reader) Take(e Edit) (news []News) {
	var order []string
	items := map[string]*told{}
	tell := func(key, title string, about About, text string) {
		if items[key] == nil {
			items[key] = &told{title: title}
			order = append(order, key)
		}
		items[key].tell(about, text)
	}
	own := e.By == r.name
	for _, a := range slices.Backward(e.Changes) {
		after, theirsAfter := r.of(a.Change.Key)
		r.back(a)
		if own {
			continue
		}
		c := a.Change
		switch c.Kind {
		case program.KindItem:
			before, theirs := r.of(c.Key)
			r.item(a, theirs, theirsAfter, before, after, func(about About, text string) {
				tell(c.Key, cmp.Or(after.title, before.title), about, text)
			})
		case program.KindComment:
			var said program.Comment
			if c.Op != program.Add || json.Unmarshal(c.Value, &said) != nil {
				continue
			}
			on, theirs := r.of(said.Item)
			if slices.Contains(Mentions(said.Text, r.p.People), r.person) {
				tell(said.Item, on.title, Mentioned, "mentions you: "+quote(said.Text))
			} else if theirs {
				tell(said.Item, on.title, Said, "says: "+quote(said.Text))
			}
		case program.KindNeed:
			r.need(c, tell)
		}
	}
	for _, key := range slices.Backward(order) { // what came first in the edit was read last
		t := items[key]
		slices.Reverse(t.parts)
		news = append(news, News{e.Revision, e.At, e.By, t.about, key, t.title, listed(t.parts)})
	}
	return news
}

// back takes a change back.
func (r *Reader) back(a program.Applied) {
	c := a.Inverse
	if c.Kind != program.KindItem {
		return
	}
	at := r.cards[c.Key]
	switch {
	case c.Op == program.Remove:
		delete(r.cards, c.Key)
	case c.Op == program.Add:
		var item program.Item
		if json.Unmarshal(c.Value, &item) == nil {
			r.cards[c.Key] = r.cardOf(&item)
		}
	case c.Op == program.Set && at != nil:
		before := *at
		switch c.Field {
		case "title":
			before.title = text(c.Value)
		case "team":
			before.team = text(c.Value)
		case "assignee":
			before.mine = text(c.Value) == r.person
		case "tasks":
			before.tasks = nil
			_ = json.Unmarshal(c.Value, &before.tasks) // cleared: none
		}
		r.cards[c.Key] = &before
	}
}

// item tells of a change to an item that was theirs before, or is after.
func (r *Reader) item(a program.Applied, theirs, theirsAfter bool, before, after card, tell func(About, string)) {
	c := a.Change
	if !theirs && !theirsAfter {
		return
	}
	switch {
	case c.Op == program.Add:
		tell(Assigned, "wrote it down for you")
	case c.Op == program.Remove:
		tell(Changed, "removed it")
	case c.Op == program.Move: // a rank is the team's
	case c.Field == "began", c.Field == "doneOn": // its state says so
	case c.Field == "assignee" && after.mine:
		tell(Assigned, "assigned it to you")
	case c.Field == "assignee" && before.mine:
		if to := text(c.Value); to != "" {
			tell(Assigned, "assigned it to "+r.p.Called(program.Ref{Kind: program.KindPerson, Key: to})+", no longer to you")
		} else {
			tell(Assigned, "no longer has it assigned to you")
		}
	case c.Field == "tasks":
		r.tasks(before.tasks, after.tasks, tell)
	default:
		tell(Changed, r.change(a, after.team))
	}
}

// tasks tells which tasks came to be theirs or ceased to, and otherwise that others changed.
func (r *Reader) tasks(before, after []program.Task, tell func(About, string)) {
	named := func(tasks []program.Task, title string) bool {
		return slices.ContainsFunc(tasks, func(t program.Task) bool { return t.Title == title && r.owns(t) })
	}
	given := false
	for _, t := range after {
		if r.owns(t) && !named(before, t.Title) {
			given = true
			tell(Assigned, fmt.Sprintf("gave you the task “%s”", t.Title))
		}
	}
	for _, t := range before {
		if r.owns(t) && !named(after, t.Title) {
			given = true
			tell(Assigned, fmt.Sprintf("took the task “%s” from you", t.Title))
		}
	}
	if !given {
		tell(Changed, "changed its tasks")
	}
}

// need tells of a need that an item of theirs has or is wanted for.
func (r *Reader) need(c program.Change, tell func(key, title string, about About, text string)) {
	wanted, theirs := r.of(c.Key)
	wants, theirsToo := r.of(c.In)
	var verb, of string
	switch {
	case c.Op == program.Add:
		verb, of = "needs it for", "needs"
	case c.Op == program.Remove:
		verb, of = "no longer needs it for", "no longer needs"
	case c.Field == "agreement" && text(c.Value) == string(program.Agreed):
		verb, of = "agreed to it for", "agreed to what it needs:"
	case c.Field == "agreement" && text(c.Value) == string(program.Declined):
		verb, of = "declined it for", "declined what it needs:"
	case c.Field == "agreement" && text(c.Value) == string(program.Offered):
		verb, of = "offers another day than was asked for, for", "offers another day than was asked for, for what it needs:"
	case c.Field == "given" && text(c.Value) != "":
		verb, of = "names "+r.day(c.Value)+" for", "names "+r.day(c.Value)+" for what it needs:"
	case c.Field == "wanted" && text(c.Value) != "":
		verb, of = "wants it by "+r.day(c.Value)+" for", "wants by "+r.day(c.Value)+" what it needs:"
	case c.Field == "why" && text(c.Value) != "":
		verb, of = fmt.Sprintf("says “%s” of it for", text(c.Value)), fmt.Sprintf("says “%s” of what it needs:", text(c.Value))
	case c.Field == "given" || c.Field == "why":
		return // what was said before is said no more
	case c.Field == "agreement":
		verb, of = "asks for it anew for", "asks anew for what it needs:"
	default:
		verb, of = "changed when it is needed for", "changed when it needs"
	}
	switch {
	case theirs:
		tell(c.Key, wanted.title, Agreement, fmt.Sprintf("%s %s %s", verb, c.In, wants.title))
	case theirsToo:
		if c.Op == program.Add {
			of = "says that it needs"
		} else if c.Op == program.Remove {
			of = "says that it no longer needs"
		}
		tell(c.In, wants.title, Agreement, fmt.Sprintf("%s %s %s", of, c.Key, wanted.title))
	}
}

// day is a day as people read it.
func (r *Reader) day(raw json.RawMessage) string {
	d, err := calendar.Parse(text(raw))
	if err != nil {
		return text(raw)
	}
	return d.Short()
}

// change says what a field was set to, as people read it.
func (r *Reader) change(a program.Applied, team string) string {
	c := a.Change
	field, ok := program.FieldOf(c.Kind, c.Field)
	if !ok {
		return "changed it"
	}
	title := strings.ToLower(field.Title[:1]) + field.Title[1:]
	from, to := r.value(field, a.Inverse.Value, team), r.value(field, c.Value, team)
	switch {
	case field.Sort == program.Flag:
		if to == "true" {
			return "set it as " + title
		}
		return "no longer has it as " + title
	case c.Field == "description" || field.Sort == program.Parts || field.Sort == program.Whole:
		return "changed its " + title
	case to == "":
		return "cleared its " + title
	case from == "":
		return fmt.Sprintf("set its %s to %s", title, to)
	}
	return fmt.Sprintf("changed its %s from %s to %s", title, from, to)
}

// value is a field's value in words; empty for none.
func (r *Reader) value(field *program.Field, raw json.RawMessage, team string) string {
	var value any
	if len(raw) == 0 || json.Unmarshal(raw, &value) != nil || value == nil {
		return ""
	}
	switch v := value.(type) {
	case float64:
		return strconv.FormatFloat(v, 'f', -1, 64)
	case bool:
		return strconv.FormatBool(v)
	case []any:
		var parts []string
		for _, part := range v {
			parts = append(parts, fmt.Sprint(part))
		}
		return strings.Join(parts, ", ")
	case string:
		switch {
		case v == "":
			return ""
		case field.Names == program.KindIteration:
			return r.p.Called(program.Ref{Kind: field.Names, In: team, Key: v})
		case field.Names != "":
			return r.p.Called(program.Ref{Kind: field.Names, Key: v})
		case field.Name == "state":
			return program.StateWords[program.ItemState(v)]
		case field.Sort == program.Text && field.Name != "step":
			return quote(v)
		}
		return v
	}
	return ""
}

func text(raw json.RawMessage) (s string) {
	_ = json.Unmarshal(raw, &s) // null: empty
	return s
}

// quote is a text in one line, cut where it is long.
func quote(s string) string {
	words := []rune(strings.Join(strings.Fields(s), " "))
	if len(words) > longestQuote {
		words = append(words[:longestQuote-1], '…')
	}
	return "“" + string(words) + "”"
}

// listed joins what somebody did.
func listed(parts []string) string {
	if n := len(parts); n > 1 {
		return strings.Join(parts[:n-1], ", ") + " and " + parts[n-1]
	}
	return strings.Join(parts, "")
}
