package reports_test

import (
	"encoding/json"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/attention"
	"jantrel/core/program"
	"jantrel/core/reports"
	"jantrel/core/sample"
)

func TestWhatIsWrongWithAScreen(t *testing.T) {
	page := &reports.Page{Name: "P", Cards: []reports.Card{{Key: "1"}, {Key: "2"}, {Key: "3"}}}
	good := reports.Screen{Seconds: 20}
	require.NoError(t, good.Check(page))
	assert.Len(t, good.Shown(page), 3)
	for wrong, says := range map[*reports.Screen]string{
		{Seconds: 4}:                             "5 to 3600 seconds",
		{Seconds: 20, DimFrom: 24}:               "0 to 23",
		{Seconds: 20, DimTo: -1}:                 "0 to 23",
		{Seconds: 20, Cards: []string{"4"}}:      "on the page",
		{Seconds: 20, Cards: make([]string, 41)}: "40 cards at most",
	} {
		assert.ErrorContains(t, wrong.Check(page), says)
	}
	some := reports.Screen{Seconds: 20, Cards: []string{"3", "gone", "1"}}
	require.NoError(t, some.Check(page))
	shown := some.Shown(page)
	assert.Equal(t, []string{"1", "3"}, []string{shown[0].Key, shown[1].Key}, "in the order of the page")
}

// Of a program, a screen is told what its cards name, and nothing else: of any program, for a card about any one thing.
func TestAnExcerptSaysWhatIsNamed(t *testing.T) {
	for seed := range sample.Seeds(20) {
		p := sample.Program(seed, sample.Shape{Teams: 3, Iterations: 4, Items: 30, Needs: 10})
		p.Settings.HolidayCalendar = "https://calendar.example/secret"
		item, team := p.Items[int(seed)%len(p.Items)], p.Teams[1]
		named := reports.Named{}
		named.Cards(&p, []reports.Card{{Kind: reports.CardFlow, About: reports.About{Item: item.Key}}, {Kind: reports.CardCapacity, About: reports.About{Team: team.Key}}})
		e := named.Excerpt(&p)
		require.Len(t, e.Items, 1)
		require.Len(t, e.Teams, 1)
		assert.Equal(t, item.Title, e.Items[0].Title)
		assert.Len(t, e.Teams[0].Iterations, len(team.Iterations))
		assert.Empty(t, e.Teams[0].Members)
		assert.Empty(t, e.Releases)
		assert.Empty(t, e.People)
		text, err := json.Marshal(e)
		require.NoError(t, err)
		assert.NotContains(t, string(text), "secret")
		for i := range p.Items {
			if x := &p.Items[i]; x.Key != item.Key && !strings.Contains(item.Title, x.Title) {
				assert.NotContains(t, string(text), fmt.Sprintf("%q", x.Title))
			}
		}

		all := reports.Named{}
		all.Cards(&p, []reports.Card{{Kind: reports.CardDates}, {Kind: reports.CardCapacity}})
		e = all.Excerpt(&p)
		assert.Len(t, e.Releases, len(p.Releases))
		assert.Len(t, e.Milestones, len(p.Milestones))
		assert.Len(t, e.Teams, len(p.Teams))
		assert.Empty(t, e.Items)
	}
}

func TestWhatAttentionNames(t *testing.T) {
	p := program.Program{
		Releases: []program.Release{{Key: "R1", Name: "First"}, {Key: "R2", Name: "Second"}},
		Teams:    []program.Team{{Key: "A"}, {Key: "B"}, {Key: "C"}},
		Items:    []program.Item{{Key: "x"}, {Key: "y"}},
		Risks:    []program.Risk{{Key: "k", Title: "Storm"}},
		Promises: []program.Promise{{Key: "P1", Release: "R2", To: "the board"}, {Key: "P2", Release: "R1"}},
	}
	entries := []attention.Entry{{Item: "x", Team: "A", Another: "B", Release: "R1"}, {Risk: "k"}, {Promise: "P1"}, {Item: "y", Team: "C", Off: &program.Snooze{}}}
	assert.Len(t, reports.About{}.Calls(entries), 3, "what was put off is not shown")
	assert.Len(t, reports.About{Team: "B"}.Calls(entries), 1)
	assert.Len(t, reports.About{Release: "R2"}.Calls(entries), 0)
	named := reports.Named{}
	named.Entries(&p, reports.About{}.Calls(entries))
	e := named.Excerpt(&p)
	assert.Len(t, e.Items, 1)
	assert.Len(t, e.Teams, 2)
	assert.Len(t, e.Releases, 2, "also the one that was promised")
	assert.Equal(t, "the board", e.Promises[0].To)
	assert.Len(t, e.Promises, 1)
	assert.Len(t, e.Risks, 1)
}
