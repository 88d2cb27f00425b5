// Command suite runs the parts of the tests, side by side where they do not wait for one another, and ends with how long
// each took and which tests were slowest. It knows what a part is made of from the Makefile: each is a target of that.
//
// A part that takes half as long again as its budget (.ci/budget.txt) is warned of; nothing fails for being slow.
package main

import (
	"bufio"
	"cmp"
	"context"
	"fmt"
	"io"
	"os"
	"os/exec"
	"os/signal"
	"path/filepath"
	"strings"
	"syscall"
	"time"
)

// part is one target of the Makefile.
type part struct {
	name   string
	after  []string                          // parts that must have passed before
	alone  bool                              // it uses all there is: nothing else runs beside it
	flags  func(report string) []string      // what make is told, so that it writes a report of its tests there
	report func(r io.Reader) ([]test, error) // reads that report; nil: it has no tests
}

// The parts in the order in which they begin. Two lanes go side by side, the page's and Go's; the flows through the real
// program, which keep both cores busy by themselves, come last and alone.
var parts = []part{
	{name: "web-packages"},
	{name: "test-go", flags: goFlags, report: goTests},
	{name: "build-page", after: []string{"web-packages"}},
	{name: "lint-web", after: []string{"web-packages"}},
	{name: "types-web", after: []string{"web-packages"}},
	{name: "test-web", after: []string{"web-packages"}, report: webTests,
		flags: func(report string) []string {
			return []string{"VITEST=--reporter=json --outputFile=" + report}
		}},
	{name: "lint-go", after: []string{"test-go"}},
	{name: "race", after: []string{"test-go"}, flags: goFlags, report: goTests},
	{name: "test-e2e", after: []string{"build-page", "lint-web", "types-web", "test-web", "lint-go", "race"}, alone: true, report: flows,
		flags: func(report string) []string { return []string{"E2E_REPORT=" + report} }},
}

func goFlags(string) []string { return []string{"GO_TEST=go test -json"} }

func main() {
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	if err := suite(ctx, os.Stdout); err != nil {
		fmt.Fprintln(os.Stderr, err)
		stop()
		os.Exit(1) //nolint:gocritic // stop has been called
	}
}

// suite runs all parts and says how they went. It ends with an error where one failed.
func suite(ctx context.Context, out io.Writer) error {
	budgets, err := readBudgets(".ci/budget.txt")
	if err != nil {
		return err
	}
	folder := "test-results"
	if err := os.MkdirAll(folder, 0o750); err != nil {
		return err
	}
	begin := time.Now()
	results := runAll(ctx, parts, lanes, func(ctx context.Context, p part) result {
		_, _ = fmt.Fprintf(out, "%s …\n", p.name)
		r := runPart(ctx, p, folder)
		tell(out, r)
		return r
	})
	return sumUp(out, results, budgets, time.Since(begin))
}

// runPart runs one part with make, and keeps all that it says in a file.
func runPart(ctx context.Context, p part, folder string) result {
	r := result{part: p.name, log: filepath.Join(folder, p.name+".log")}
	begin := time.Now()
	log, err := os.Create(r.log)
	if err != nil {
		r.err = err
		return r
	}
	defer func() { _ = log.Close() }()
	report, err := filepath.Abs(filepath.Join(folder, p.name+".json"))
	if err != nil {
		r.err = err
		return r
	}
	_ = os.Remove(report) // of an earlier run
	args := []string{"--no-print-directory", "-s", p.name}
	if p.flags != nil {
		args = append(args, p.flags(report)...)
	}
	cmd := exec.CommandContext(ctx, "make", args...)
	cmd.Stdout, cmd.Stderr = log, log
	cmd.SysProcAttr = &syscall.SysProcAttr{Setpgid: true}
	cmd.Cancel = func() error { return syscall.Kill(-cmd.Process.Pid, syscall.SIGTERM) }
	cmd.WaitDelay = 10 * time.Second
	r.err = cmd.Run()
	r.took = time.Since(begin)
	if p.report == nil {
		return r
	}
	if _, err := os.Stat(report); err != nil { // go test writes its report where it speaks
		report = r.log
	}
	file, err := os.Open(report)
	if err != nil {
		r.err = cmp.Or(r.err, err)
		return r
	}
	defer func() { _ = file.Close() }()
	r.tests, err = p.report(bufio.NewReader(file))
	if err == nil && len(r.tests) == 0 {
		err = fmt.Errorf("%s ran no test", p.name)
	}
	r.err = cmp.Or(r.err, err)
	return r
}

// readBudgets reads how many seconds each part may take: a line each, its name and the seconds. What follows # says why.
func readBudgets(path string) (map[string]time.Duration, error) {
	text, err := os.ReadFile(path)
	if err != nil {
		return nil, err
	}
	budgets := map[string]time.Duration{}
	for number, line := range strings.Split(string(text), "\n") {
		line, _, _ = strings.Cut(line, "#")
		if strings.TrimSpace(line) == "" {
			continue
		}
		var name string
		var seconds float64
		if _, err := fmt.Sscan(line, &name, &seconds); err != nil || seconds <= 0 {
			return nil, fmt.Errorf("%s:%d: %q is not a part and its seconds", path, number+1, strings.TrimSpace(line))
		}
		budgets[name] = time.Duration(seconds * float64(time.Second))
	}
	return budgets, nil
}
