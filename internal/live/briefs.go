package live

import (
	"context"

	"jantrel/core/briefs"
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
	var charts []reports.Chart
	for i := range b.Sections {
		if c := b.Sections[i].Chart; c != nil && !b.Sections[i].Out {
			charts = append(charts, *c)
		}
	}
	drawn := []reports.Drawn{}
	if len(charts) > 0 {
		if drawn, err = l.Charts(ctx, s, charts); err != nil {
			return briefs.Written{}, err
		}
	}
	next := 0
	given.Drawn = func(*reports.Chart) reports.Drawn { // in their order
		next++
		return drawn[next-1]
	}
	return briefs.Write(b, &given), ctx.Err()
}
