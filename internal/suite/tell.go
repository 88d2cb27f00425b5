package main

import (
	"cmp"
	"fmt"
	"io"
	"os"
	"slices"
	"time"
)

// tell says how a part went: in a line where it passed, with all that it said where it failed.
func tell(out io.Writer, r result) {
	if r.err == nil {
		_, _ = fmt.Fprintf(out, "%s passed in %s%s\n", r.part, seconds(r.took), counted(r.tests))
		return
	}
	failures := 0
	for _, t := range r.tests {
		if t.failed {
			failures++
			_, _ = fmt.Fprintf(out, "--- %s\n%s\n", t.name, t.said)
		}
	}
	if text, err := os.ReadFile(r.log); err == nil && failures == 0 {
		const most = 60_000
		_, _ = out.Write(text[max(0, len(text)-most):])
	}
	_, _ = fmt.Fprintf(out, "%s FAILED after %s%s: %v; all of it stands in %s\n", r.part, seconds(r.took), counted(r.tests), r.err, r.log)
}

func counted(tests []test) string {
	if len(tests) == 0 {
		return ""
	}
	return fmt.Sprintf(", %d tests", len(tests))
}

func seconds(d time.Duration) string { return fmt.Sprintf("%.1f s", d.Seconds()) }

// sumUp ends a run: how long each part took against its budget, the slowest tests, and how many passed.
func sumUp(out io.Writer, results []result, budgets map[string]time.Duration, whole time.Duration) error {
	say := func(format string, args ...any) { _, _ = fmt.Fprintf(out, format, args...) }
	say("\nTime by part:\n")
	var all []test
	var failed []string
	for _, r := range results {
		budget, has := budgets[r.part]
		note := ""
		switch {
		case r.err != nil:
			failed = append(failed, r.part)
			note = "  " + r.err.Error()
		case !has:
			note = "  WARNING: it has no budget in .ci/budget.txt"
		case r.took > budget*3/2:
			note = fmt.Sprintf("  WARNING: its budget is %s", seconds(budget))
		}
		say("  %-14s %9s%s\n", r.part, seconds(r.took), note)
		for _, t := range r.tests {
			t.name = r.part + ": " + t.name
			all = append(all, t)
		}
	}
	say("  %-14s %9s\n", "all", seconds(whole))
	slices.SortStableFunc(all, func(a, b test) int { return cmp.Compare(b.took, a.took) })
	say("\nSlowest tests:\n")
	for _, t := range all[:min(10, len(all))] {
		say("  %9s  %s\n", seconds(t.took), t.name)
	}
	passed, fails, skips := 0, 0, 0
	for _, t := range all {
		switch {
		case t.failed:
			fails++
		case t.skipped:
			skips++
		default:
			passed++
		}
	}
	say("\n%d passed, %d failed, %d skipped\n", passed, fails, skips)
	if len(failed) > 0 {
		return fmt.Errorf("failed: %v", failed)
	}
	return nil
}
