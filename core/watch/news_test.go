package watch_test

import (
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/calendar"
	"jantrel/core/gate"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/watch"
)

func TestMentions(t *testing.T) {
	people := []program.Person{{Key: "ann", Name: "Ann"}, {Key: "lee", Name: "Ann Lee"}, {Key: "asa", Name: "Åsa Öst"}, {Key: "two", Name: "Ann"}, {Key: "none"}}
	for text, want := range map[string][]string{
		"":                             nil,
		"Ann, have a look":             nil,
		"@Ann, have a look":            {"ann", "two"},
		"so @ann":                      {"ann", "two"},
		"@Ann Lee knows":               {"lee"},
		"@Ann Leeward knows":           {"ann", "two"},
		"@Ann Lee and @Ann":            {"ann", "lee", "two"},
		"write to lamp@ann.example":    nil,
		"@Annabel":                     nil,
		"(@ÅSA ÖST)":                   {"asa"},
		"@@Ann":                        {"ann", "two"},
		"nobody @ all, and not even @": nil,
	} {
		assert.Equal(t, want, watch.Mentions(text, people), text)
	}
}

func FuzzMentions(f *testing.F) {
	f.Add("@Ann", "Ann")
	f.Add("@\xffK", "\u212a")
	f.Fuzz(func(t *testing.T, text, name string) {
		for _, key := range watch.Mentions(text, []program.Person{{Key: "x", Name: name}}) {
			assert.Equal(t, "x", key)
			assert.Contains(t, strings.ToLower(text), "@"+strings.ToLower(name))
		}
	})
}

// past makes edits of a program, one after another, and hands out the journal and what came of it.
func past(t *testing.T, p program.Program, edits ...[]program.Change) (*plan.Plan, []watch.Edit) {
	t.Helper()
	at, now := plan.Of(p), time.Date(2027, 3, 3, 9, 0, 0, 0, time.UTC)
	var journal []watch.Edit
	for i, changes := range edits {
		next, applied, err := gate.Try(at, changes)
		require.NoError(t, err)
		at = next
		journal = append(journal, watch.Edit{Revision: int64(i + 1), At: now.Add(time.Duration(i) * time.Hour), By: "Bo", Changes: applied})
	}
	return at, journal
}

// told reads a journal back for a person, and says what each piece of news is.
func told(p *plan.Plan, journal []watch.Edit, person string) (all []string) {
	r := watch.NewReader(p, person, "Ann's account")
	for _, e := range slices.Backward(journal) {
		for _, n := range r.Take(e) {
			all = append(all, string(n.About)+": "+n.Item+" "+n.Text)
		}
	}
	return all
}

func TestNewsOf(t *testing.T) {
	item := func(key, field string, value any) program.Change {
		return program.SetTo(program.Ref{Kind: program.KindItem, Key: key}, field, value)
	}
	comment := func(key, on, text string) program.Change {
		ref := program.Ref{Kind: program.KindComment, In: on, Key: key}
		return program.AddOf(ref, program.Comment{Key: key, Item: on, By: "Bo", Text: text})
	}
	need := func(op program.Op, of, needs string) program.Change {
		c := program.AddOf(program.Ref{Kind: program.KindNeed, In: of, Key: needs}, program.Need{Item: of, Needs: needs})
		if op == program.Remove {
			c.Op, c.Value = op, nil
		}
		return c
	}
	agree := func(of, needs string, how program.Agreement) program.Change {
		return program.SetTo(program.Ref{Kind: program.KindNeed, In: of, Key: needs}, "agreement", how)
	}
	long := strings.Repeat("word ", 100)
	for name, c := range map[string]struct {
		edit []program.Change
		want []string
	}{
		"a mention, wherever it is":       {[]program.Change{comment("1", "for", "@Ann, look at\nthis")}, []string{"mentioned: for mentions you: “@Ann, look at this”"}},
		"a comment on what is hers":       {[]program.Change{comment("1", "mine", "Good")}, []string{"said: mine says: “Good”"}},
		"on what has a task of hers":      {[]program.Change{comment("1", "his", "Good")}, []string{"said: his says: “Good”"}},
		"what is long is cut":             {[]program.Change{comment("1", "mine", long)}, []string{"said: mine says: “" + long[:199] + "…”"}},
		"a comment on another's":          {[]program.Change{comment("1", "for", "Good")}, nil},
		"assigned to her":                 {[]program.Change{item("for", "assignee", "ann")}, []string{"assigned: for assigned it to you"}},
		"to somebody else":                {[]program.Change{item("mine", "assignee", "bo")}, []string{"assigned: mine assigned it to Bo, no longer to you"}},
		"to nobody":                       {[]program.Change{item("mine", "assignee", nil)}, []string{"assigned: mine no longer has it assigned to you"}},
		"between others":                  {[]program.Change{item("asks", "assignee", nil)}, nil},
		"given a task":                    {[]program.Change{item("asks", "tasks", []program.Task{{Title: "Solder", Owner: "ann"}})}, []string{"assigned: asks gave you the task “Solder”"}},
		"a task goes":                     {[]program.Change{item("his", "tasks", []program.Task{{Title: "Wire", Owner: "bo"}, {Title: "Try"}})}, []string{"assigned: his took the task “Wire” from you"}},
		"others' tasks of hers":           {[]program.Change{item("mine", "tasks", nil)}, []string{"changed: mine changed its tasks"}},
		"fields of hers, in one":          {[]program.Change{item("mine", "size", 8), item("mine", "title", "Other"), item("mine", "state", program.Review)}, []string{"changed: mine changed its size from 3 to 8, changed its title from “Item mine” to “Other” and changed its state from doing to in review"}},
		"names of what it names":          {[]program.Change{item("mine", "iteration", "A2")}, []string{"changed: mine changed its iteration from A·1 of Lamps to A·2 of Lamps"}},
		"what is set and cleared":         {[]program.Change{item("mine", "due", "2027-03-09"), item("stuck", "blocked", nil), item("next", "pinned", true)}, []string{"changed: mine set its due to 2027-03-09", "changed: stuck cleared its blocked", "changed: next set it as pinned"}},
		"assigned counts before a change": {[]program.Change{item("for", "size", 1), item("for", "assignee", "ann")}, []string{"assigned: for assigned it to you"}},
		"another's":                       {[]program.Change{item("for", "size", 1)}, nil},
		"a new one for her": {[]program.Change{program.AddOf(program.Ref{Kind: program.KindItem, Key: "new"}, program.Item{Key: "new", Title: "New", Kind: program.Story, Team: "A", Assignee: "ann"})},
			[]string{"assigned: new wrote it down for you"}},
		"one that goes":      {[]program.Change{{Op: program.Remove, Ref: program.Ref{Kind: program.KindItem, Key: "none"}}}, []string{"changed: none removed it"}},
		"a rank":             {[]program.Change{{Op: program.Move, Ref: program.Ref{Kind: program.KindItem, Key: "mine"}, At: ptr(0)}}, nil},
		"hers is needed":     {[]program.Change{need(program.Add, "his", "mine")}, []string{"agreement: mine needs it for his Item his"}},
		"and no longer":      {[]program.Change{need(program.Remove, "for", "mine")}, []string{"agreement: mine no longer needs it for for Item for"}},
		"what hers needs":    {[]program.Change{need(program.Add, "mine", "asks")}, []string{"agreement: mine says that it needs asks Item asks"}},
		"agreed":             {[]program.Change{agree("waits", "his", program.Agreed)}, []string{"agreement: his agreed to it for waits Item waits"}},
		"declined, of hers":  {[]program.Change{agree("afar", "none", program.Declined)}, []string{"agreement: none declined it for afar Item afar"}},
		"by others with it":  {[]program.Change{agree("for", "done", program.Agreed)}, []string{"agreement: done agreed to it for for Item for"}},
		"nothing of an item": {[]program.Change{program.SetTo(program.Ref{Kind: program.KindTeam, Key: "A"}, "name", "Lanterns")}, nil},
	} {
		edits := [][]program.Change{c.edit}
		if strings.HasPrefix(name, "one that goes") { // what is needed stays
			edits = [][]program.Change{{need(program.Remove, "afar", "none")}, c.edit}
			c.want = append(c.want, "agreement: none no longer needs it for afar Item afar")
		}
		p, journal := past(t, harbour(), edits...)
		assert.Equal(t, c.want, told(p, journal, "ann"), name)
		for i := range journal {
			journal[i].By = "Ann's account"
		}
		assert.Empty(t, told(p, journal, "ann"), "%s: one's own edits", name)
	}
}

// What was somebody's then is news, whatever became of it since.
func TestNewsGoBackInTime(t *testing.T) {
	set := func(key, field string, value any) []program.Change {
		return []program.Change{program.SetTo(program.Ref{Kind: program.KindItem, Key: key}, field, value)}
	}
	p, journal := past(t, harbour(),
		set("mine", "size", 5), set("mine", "assignee", "bo"), set("mine", "size", 8),
		set("for", "size", 2), set("for", "assignee", "ann"), set("for", "due", calendar.MustParse("2027-04-01")),
		[]program.Change{{Op: program.Remove, Ref: program.Ref{Kind: program.KindItem, Key: "stuck"}}})
	assert.Equal(t, []string{
		"changed: stuck removed it",
		"changed: for set its due to 2027-04-01",
		"assigned: for assigned it to you",
		"assigned: mine assigned it to Bo, no longer to you",
		"changed: mine changed its size from 3 to 5",
	}, told(p, journal, "ann"))
	assert.Equal(t, []string{
		"changed: mine changed its size from 5 to 8",
		"assigned: mine assigned it to you",
	}, told(p, journal, "bo"))
	assert.Empty(t, told(p, journal, "nobody"))
}
