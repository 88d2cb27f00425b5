package main

import (
	"bufio"
	"encoding/json"
	"io"
	"strings"
	"time"
)

// test is one test and how it went.
type test struct {
	name    string
	took    time.Duration
	failed  bool
	skipped bool
	said    string // of one that failed
}

// goTests reads what go test -json writes. Lines that are no JSON, as those of a compiler, are passed over: they stand in
// the log. A package that fails outside of its tests, or is not built, is a test that failed.
func goTests(r io.Reader) ([]test, error) {
	said := map[string]*strings.Builder{}
	failing := map[string]bool{} // packages with a test that failed
	var tests []test
	lines := bufio.NewReader(r)
	for {
		line, err := lines.ReadBytes('\n')
		if err != nil && err != io.EOF {
			return nil, err
		}
		var e struct {
			Action, Package, Test, Output string
			Elapsed                       float64
		}
		if json.Unmarshal(line, &e) == nil && e.Package != "" {
			name := strings.TrimPrefix(e.Package, "jantrel/")
			if e.Test != "" {
				name += " " + e.Test
			}
			switch e.Action {
			case "output":
				if said[name] == nil {
					said[name] = &strings.Builder{}
				}
				said[name].WriteString(e.Output)
			case "pass", "fail", "skip":
				t := test{name: name, took: time.Duration(e.Elapsed * float64(time.Second)), failed: e.Action == "fail", skipped: e.Action == "skip"}
				if t.failed && said[name] != nil {
					t.said = said[name].String()
				}
				delete(said, name)
				whole := e.Test == "" // of a package
				failing[e.Package] = failing[e.Package] || t.failed && !whole
				if !whole || t.failed && !failing[e.Package] {
					tests = append(tests, t)
				}
			}
		}
		if err == io.EOF {
			return leaves(tests), nil
		}
	}
}

// leaves are the tests without those that others are parts of, and pass: the parts count, and their time.
func leaves(tests []test) []test {
	parents := map[string]bool{}
	for _, t := range tests {
		if i := strings.LastIndex(t.name, "/"); i > strings.Index(t.name, " ") {
			parents[t.name[:i]] = true
		}
	}
	kept := tests[:0]
	for _, t := range tests {
		if t.failed || !parents[t.name] {
			kept = append(kept, t)
		}
	}
	return kept
}

// webTests reads the report of the page's unit tests.
func webTests(r io.Reader) ([]test, error) {
	var report struct {
		TestResults []struct {
			Name, Message    string
			Status           string
			AssertionResults []struct {
				FullName, Status string
				Duration         float64 // in milliseconds
				FailureMessages  []string
			}
		}
	}
	if err := json.NewDecoder(r).Decode(&report); err != nil {
		return nil, err
	}
	var tests []test
	for _, file := range report.TestResults {
		name := file.Name
		if _, after, found := strings.Cut(name, "/web/"); found {
			name = after
		}
		if file.Status == "failed" && len(file.AssertionResults) == 0 {
			tests = append(tests, test{name: name, failed: true, said: file.Message})
		}
		for _, a := range file.AssertionResults {
			tests = append(tests, test{name: name + " " + a.FullName, took: milliseconds(a.Duration), failed: a.Status == "failed",
				skipped: a.Status == "pending" || a.Status == "skipped" || a.Status == "todo", said: strings.Join(a.FailureMessages, "\n")})
		}
	}
	return tests, nil
}

// flows reads the report of the flows through the real program.
func flows(r io.Reader) ([]test, error) {
	var report struct{ Suites []flowSuite }
	if err := json.NewDecoder(r).Decode(&report); err != nil {
		return nil, err
	}
	var tests []test
	for _, s := range report.Suites {
		tests = s.add(tests, "")
	}
	return tests, nil
}

type flowSuite struct {
	Title  string
	Suites []flowSuite
	Specs  []struct {
		Title string
		Tests []struct {
			Status  string // expected, unexpected, flaky, skipped
			Results []struct {
				Duration float64 // in milliseconds
				Errors   []struct{ Message string }
			}
		}
	}
}

func (s flowSuite) add(tests []test, of string) []test {
	of = strings.TrimPrefix(of+" "+s.Title, " ")
	for _, spec := range s.Specs {
		for _, run := range spec.Tests {
			t := test{name: of + " " + spec.Title, failed: run.Status == "unexpected", skipped: run.Status == "skipped"}
			for _, r := range run.Results {
				t.took += milliseconds(r.Duration)
				for _, e := range r.Errors {
					t.said += e.Message + "\n"
				}
			}
			tests = append(tests, t)
		}
	}
	for _, inner := range s.Suites {
		tests = inner.add(tests, of)
	}
	return tests
}

func milliseconds(n float64) time.Duration { return time.Duration(n * float64(time.Millisecond)) }
