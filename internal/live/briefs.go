package live

import (
	"cmp"
	"context"
	"fmt"
	"slices"

	"jantrel/core/briefs"
	"jantrel/core/forecast"
	"jantrel/core/program"
	"jantrel/core/reports"
)

// WriteBrief writes a brief as a state has it. review tells, as Markdown, how what it is about went; before is the last
// one about the same. Dates are those of the forecast's plays.
func (l *Line) WriteBrief(ctx context.Context, s *State, b *briefs.Brief, review func() string, before *briefs.Before) (briefs.Written, error) {
	dated, err := Answer(ctx, l, s, "dated for briefs", func(ctx context.Context) ([]Dated, error) { return l.DatedAt(ctx, s, briefs.Odds) })
	if err != nil {
		return briefs.Written{}, err
	}
	given := briefs.Given{Plan: s.Plan, Today: s.Today, Review: review, Before: before}
	for i, d := range dated {
		ref := program.Ref{Kind: d.Kind}
		if i < len(s.Releases) {
			ref.Key = s.Releases[i].Key
		} else {
			ref.Key = s.Milestones[i-len(s.Releases)].Key
		}
		given.Dated = append(given.Dated, briefs.Dated{Ref: ref, Name: d.Name, Landing: d.Landing})
	}
	if given.Promises, err = l.PromisesAt(ctx, s); err != nil {
		return briefs.Written{}, err
	}
	var failed error
	given.BurnUp = func() *forecast.BurnUp {
		c, err := Answer(ctx, l, s, fmt.Sprintf("burn-up for briefs %q", b.About), func(ctx context.Context) (forecast.BurnUp, error) {
			c, err := l.Outlook(ctx, s, s.workOf(b.About), forecast.Measure{}, forecast.If{})
			told := forecast.BurnUp{Measure: c.Measure, Past: c.Past, Fan: c.Fan, Landing: c.Landing}
			if at, is := s.TeamAt()[c.Measure.Team]; is {
				told.Unit = s.Teams[at].Unit
			}
			return told, err
		})
		failed = cmp.Or(failed, err)
		return &c
	}
	var charts []reports.Chart
	for i := range b.Sections {
		if c := b.Sections[i].Chart; c != nil && !b.Sections[i].Out {
			charts = append(charts, *c)
		}
	}
	drawn := []reports.Drawn{}
	if len(charts) > 0 {
		if drawn, err = l.Charts(ctx, s, charts, nil); err != nil {
			return briefs.Written{}, err
		}
	}
	next := 0
	given.Drawn = func(*reports.Chart) reports.Drawn { // in their order
		next++
		return drawn[next-1]
	}
	return briefs.Write(b, &given), cmp.Or(failed, ctx.Err())
}

// workOf is the work that a brief is about.
func (s *State) workOf(about briefs.About) Work {
	if at := slices.IndexFunc(s.Releases, func(r program.Release) bool { return r.Key == about.Release }); at >= 0 {
		return s.ReleaseWork(at)
	}
	if about.Team != "" {
		return s.LeafWork("", func(i *program.Item) bool { return i.Team == about.Team && i.Iteration == about.Iteration })
	}
	return s.AllWork()
}
