package exchange

import (
	"fmt"
	"io"
	"strings"

	"jantrel/core/forecast"
	"jantrel/core/program"
	"jantrel/core/track"
)

// mostScopeChanges is how many changes of scope a review lists, the latest ones.
const mostScopeChanges = 200

// ReleaseReview is what a review of a release tells.
type ReleaseReview struct {
	Release  *program.Release
	History  *track.History
	Features []track.Grouped
	Landing  *forecast.Landing
	Landed   program.Date       // when its last item was done; none: it has not landed, or nobody noted when
	Promises []forecast.Watched // what was promised of it
}

// WriteReleaseReview writes how the work of a release came about, and where it lands against what
// was promised, as Markdown.
func WriteReleaseReview(w io.Writer, p program.Program, r ReleaseReview) error {
	d := releaseReviewing{linesOf(p), map[string]*program.Team{}}
	for i := range p.Teams {
		d.teams[p.Teams[i].Key] = &p.Teams[i]
	}
	d.head(&r)
	d.promises(r.Promises)
	d.ledger(r.History)
	d.progress(r.Features)
	d.scope(r.History)
	d.documents(r.Release)
	return d.writeTo(w)
}

// releaseReviewing is a review of a release as it is written.
type releaseReviewing struct {
	*lines
	teams map[string]*program.Team
}

func (d *releaseReviewing) head(r *ReleaseReview) {
	release, h, landing := r.Release, r.History, r.Landing
	d.line("# %s", plain(release.Name))
	if release.Description != "" {
		d.line("\n%s", release.Description)
	}
	done := fmt.Sprintf("%d of %d items done", h.All.Done.Items, h.All.Total.Items)
	if !release.Due.IsZero() {
		done += ", due " + release.Due.String()
	}
	d.line("\n%s.", done)
	switch even, safe := landing.At(50), landing.At(85); {
	case !r.Landed.IsZero():
		d.line("\nLanded on %s.", r.Landed)
	case h.All.Left.Items == 0:
	case len(landing.Cannot) > 0:
		d.line("\nIt never lands: %s cannot be played.", strings.Join(landing.Cannot, ", "))
	case even.IsZero():
		d.line("\nIt lands beyond what is played.")
	case safe.IsZero():
		d.line("\nLands on %s at even odds, or much later.", even)
	default:
		d.line("\nLands between %s and %s (50 to 85 %%).", even, safe)
	}
	if landing.Chance != nil && h.All.Left.Items > 0 {
		d.line("\nChance to land by its due date: %.0f %%.", 100**landing.Chance)
	}
}

// promises tells what was promised, with the odds that it had, and what became of it.
func (d *releaseReviewing) promises(all []forecast.Watched) {
	if len(all) == 0 {
		return
	}
	d.line("\n## What was promised\n")
	for _, w := range all {
		said := fmt.Sprintf("- By %s, to %s on %s", w.Promise.Date, plain(w.Promise.To), w.Promise.Made)
		if w.Promise.Chance != nil {
			said += fmt.Sprintf(", at %.0f %%", *w.Promise.Chance*100)
		}
		d.line("%s: %s", said, became(&w))
	}
}

// became is what became of a promise.
func became(w *forecast.Watched) string {
	switch w.Word {
	case forecast.WordStands:
		return fmt.Sprintf("%.0f %% now", *w.Chance*100)
	case forecast.WordTakenBack:
		return "taken back on " + w.Promise.Withdrawn.String()
	case forecast.WordKept:
		return "kept, it landed on " + w.Landed.String()
	case forecast.WordLanded:
		return "it landed, nobody noted when"
	}
	if w.Landed.IsZero() {
		return "missed, it has not landed"
	}
	return fmt.Sprintf("missed by %.0f days, it landed on %s", w.Late, w.Landed)
}

func (d *releaseReviewing) ledger(h *track.History) {
	from := h.All.From.Format("2006-01-02")
	d.line("\n## Since %s\n\n| of | at the start | added | taken out | grown | smaller | now | done | left |\n| --- | ---: | ---: | ---: | ---: | ---: | ---: | ---: | ---: |", from)
	d.line("| all, in items | %d | %d | %d | | | %d | %d | %d |", h.All.Start.Items, h.All.Added.Items, h.All.Removed.Items, h.All.Total.Items, h.All.Done.Items, h.All.Left.Items)
	for i := range h.Teams {
		run := &h.Teams[i]
		team := d.teams[run.Team]
		if team == nil { // without one there is no unit
			continue
		}
		d.line("| %s, in %s | %s | %s | %s | %s | %s | %s | %s | %s |", plain(team.Name), team.Unit, figure(run.Start.Size), figure(run.Added.Size), figure(run.Removed.Size),
			figure(run.Grown.Size), figure(run.Shrunk.Size), figure(run.Total.Size), figure(run.Done.Size), figure(run.Left.Size))
	}
}

func (d *releaseReviewing) progress(features []track.Grouped) {
	if len(features) == 0 {
		return
	}
	d.line("\n## By feature\n")
	for _, f := range features {
		name := "In no feature"
		if f.Item != "" {
			name = f.Item + " " + plain(d.titles[f.Item])
		}
		d.line("- %s: %d of %d done", name, f.Done, f.Items)
	}
}

// scope lists what came and went, the latest last.
func (d *releaseReviewing) scope(h *track.History) {
	var lines []string
	for i := range h.All.Steps {
		s := &h.All.Steps[i]
		what := map[track.What]string{track.Added: "added", track.Removed: "taken out"}[s.What]
		if what != "" {
			lines = append(lines, fmt.Sprintf("- %s %s %s, by %s", s.At.Format("2006-01-02 15:04"), strings.TrimSpace(s.Item+" "+plain(d.titles[s.Item])), what, plain(s.By)))
		}
	}
	if len(lines) == 0 {
		return
	}
	d.line("\n## What came and went\n")
	if out := len(lines) - mostScopeChanges; out > 0 {
		d.line("The latest %d; %d came before.\n", mostScopeChanges, out)
		lines = lines[out:]
	}
	d.line("%s", strings.Join(lines, "\n"))
}

func (d *releaseReviewing) documents(release *program.Release) {
	var missing []string
	for _, doc := range release.Documents {
		if doc.Address == "" {
			missing = append(missing, "- "+plain(doc.Title))
		}
	}
	if len(missing) > 0 {
		d.line("\n## Documents still missing\n\n%s", strings.Join(missing, "\n"))
	}
}
