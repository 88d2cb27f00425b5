package briefs_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/backlog"
	"jantrel/core/briefs"
	"jantrel/core/forecast"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/reports"
	"jantrel/core/sample"
)

// given is what a brief is written from, of a program that was played a few times.
func given(p program.Program) *briefs.Given {
	pl := plan.Of(p)
	f := forecast.Play(pl, forecast.Options{Plays: 40, Seed: 1, Today: p.Today, Odds: briefs.Odds})
	g := &briefs.Given{Plan: pl, Today: p.Today, Review: func() string { return "# Looking back\n" }}
	for i, r := range p.Releases {
		g.Dated = append(g.Dated, briefs.Dated{Ref: program.Ref{Kind: program.KindRelease, Key: r.Key}, Name: r.Name, Landing: f.Releases[i]})
	}
	g.BurnUp = func() *forecast.BurnUp {
		o := forecast.OutlookOf(pl, forecast.OutlookQuestion{Options: forecast.Options{Plays: 40, Seed: 1, Today: p.Today}, Measure: forecast.Measure{In: forecast.InShare}, Set: forecast.Set{Items: keys(&p)}})
		return &forecast.BurnUp{Measure: forecast.Measure{In: forecast.InShare}, Fan: o.Fan, Landing: o.Landing}
	}
	k := &reports.Known{Index: backlog.NewIndex(pl, backlog.Options{Today: p.Today}), Today: p.Today}
	g.Drawn = func(c *reports.Chart) reports.Drawn {
		table, err := reports.Of(k, c)
		if err != nil {
			return reports.Drawn{Failed: err.Error()}
		}
		return reports.Drawn{Table: &table, Sentence: c.Sentence(&table)}
	}
	return g
}

// keys are those of all items.
func keys(p *program.Program) (all []string) {
	for i := range p.Items {
		all = append(all, p.Items[i].Key)
	}
	return all
}

// abouts are all that a program's briefs can be about.
func abouts(p *program.Program) []briefs.About {
	all := []briefs.About{{}}
	for _, r := range p.Releases {
		all = append(all, briefs.About{Release: r.Key})
	}
	for _, t := range p.Teams {
		for _, it := range t.Iterations {
			all = append(all, briefs.About{Team: t.Key, Iteration: it.Key})
		}
	}
	return all
}

// Of any program any brief says something in each section, in whole sentences, with tables that are whole.
func TestABriefSaysSomethingOfAnyProgram(t *testing.T) {
	for seed := range sample.Seeds(25) {
		shape := sample.Shape{Teams: 3, Iterations: 4, Items: 5 + int(seed)*2, Needs: int(seed), Wild: true, Rough: seed%2 == 0}
		p := sample.Program(seed, shape)
		then := sample.Program(seed+100, shape)
		for n, about := range abouts(&p) {
			b := briefs.Template(&p, about)
			require.NoError(t, b.Check())
			for _, live := range briefs.Lives {
				s := briefs.Section{Key: "x" + string(live.Live), Title: live.Title, Live: live.Live}
				if live.Live == briefs.Figures {
					s.Chart = &reports.Chart{Of: reports.Items, Split: []string{"state"}, Measure: "number", Form: reports.Bars}
				}
				b.Sections = append(b.Sections, s)
			}
			g := given(p)
			if n%2 == 0 {
				g.Before = &briefs.Before{Number: 3, Day: p.Today.Add(-14), Plan: plan.Of(then), Said: briefs.Write(&b, given(then)).Said}
			}
			w := briefs.Write(&b, g)
			require.Len(t, w.Sections, len(b.Sections))
			for _, s := range w.Sections {
				name := fmt.Sprintf("seed %d, %+v, %s", seed, about, s.Title)
				require.NotEmpty(t, s.Blocks, name)
				for _, block := range s.Blocks {
					check(t, &block, name)
				}
			}
		}
	}
}

func check(t *testing.T, b *briefs.Block, name string) {
	t.Helper()
	texts := b.List
	if b.Text != "" {
		texts = append(texts, b.Text)
		require.True(t, strings.HasSuffix(b.Text, "."), "%s: %s", name, b.Text)
	}
	for _, row := range b.Rows {
		require.Len(t, row, len(b.Head), name)
		require.NotEmpty(t, row[0], name)
	}
	require.Len(t, b.Figures, len(b.Head), name)
	require.True(t, len(texts)+len(b.Rows) > 0 || b.Chart != nil || b.Markdown != "", name)
	for _, text := range texts {
		for _, bad := range []string{"%!", "NaN", "  ", " .", ",.", "..", " 1 items", " 1 days", " 0 item "} {
			require.NotContains(t, text, bad, name)
		}
	}
}

func TestBriefsThatCannotBe(t *testing.T) {
	good := briefs.Section{Key: "1", Title: "T"}
	for want, b := range map[string]briefs.Brief{
		"give the brief a title":       {},
		"title is too long":            {Title: strings.Repeat("a", 201)},
		"40 sections at most":          {Title: "B", Sections: make([]briefs.Section, 41)},
		"or the whole program":         {Title: "B", About: briefs.About{Team: "T"}},
		"needs a key of its own":       {Title: "B", Sections: []briefs.Section{good, good}},
		"text is too long":             {Title: "B", Sections: []briefs.Section{{Key: "1", Text: strings.Repeat("a", 20_001)}}},
		"a plan cannot say":            {Title: "B", Sections: []briefs.Section{{Key: "1", Live: "weather"}}},
		"nothing else, says":           {Title: "B", Sections: []briefs.Section{{Key: "1", Live: briefs.Figures}}},
		"there is nothing called":      {Title: "B", Sections: []briefs.Section{{Key: "1", Live: briefs.Figures, Chart: &reports.Chart{Of: "boats"}}}},
		"a release, an iteration of a": {Title: "B", About: briefs.About{Release: "R", Team: "T", Iteration: "I"}},
	} {
		assert.ErrorContains(t, b.Check(), want)
	}
}
