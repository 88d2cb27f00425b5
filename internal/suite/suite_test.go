package main

import (
	"context"
	"errors"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Whatever part fails: what waits for it is not run, all else is, each after what it waits for, at most two at a time and
// the one that is to be alone by itself.
func TestPartsWaitForOneAnother(t *testing.T) {
	for failing := range len(parts) + 1 {
		var mu sync.Mutex
		var order []string
		running, failed := map[string]bool{}, map[string]bool{}
		results := runAll(t.Context(), parts, lanes, func(_ context.Context, p part) result {
			mu.Lock()
			running[p.name] = true
			assert.LessOrEqual(t, len(running), lanes)
			for other := range running {
				assert.True(t, other == p.name || !p.alone, "%s is alone, beside %s", p.name, other)
			}
			for _, before := range p.after {
				assert.Contains(t, order, before, "%s waits for it", p.name)
				assert.False(t, failed[before], "%s failed", before)
			}
			mu.Unlock()
			r := result{part: p.name}
			if failing < len(parts) && parts[failing].name == p.name {
				r.err = errors.New("failed")
			}
			mu.Lock()
			delete(running, p.name)
			failed[p.name] = r.err != nil
			order = append(order, p.name)
			mu.Unlock()
			return r
		})
		require.Len(t, results, len(parts))
		bad := map[string]bool{}
		for _, p := range parts { // those that a failure reaches
			bad[p.name] = failing < len(parts) && parts[failing].name == p.name || slices.ContainsFunc(p.after, func(before string) bool { return bad[before] })
		}
		for _, r := range results {
			assert.Equal(t, bad[r.part], r.err != nil, r.part)
			assert.Equal(t, slices.Contains(order, r.part), !errors.Is(r.err, errSkipped), r.part)
		}
	}
}

// A part that waits for one that is not in the list is skipped; one that was stopped skips what is left.
func TestPartsThatCannotRun(t *testing.T) {
	ran := func(_ context.Context, p part) result { return result{part: p.name} }
	results := runAll(t.Context(), []part{{name: "a", after: []string{"nothing"}}, {name: "b"}}, lanes, ran)
	require.Len(t, results, 2)
	assert.NoError(t, results[0].err)
	assert.ErrorIs(t, results[1].err, errSkipped)
	stopped, stop := context.WithCancel(t.Context())
	stop()
	for _, r := range runAll(stopped, parts, lanes, ran) {
		assert.ErrorIs(t, r.err, errSkipped)
	}
}

// Each part is a target of the Makefile, waits for parts that are there, and has a budget.
func TestPartsAreInTheMakefileAndHaveBudgets(t *testing.T) {
	makefile, err := os.ReadFile("../../Makefile")
	require.NoError(t, err)
	budgets, err := readBudgets("../../.ci/budget.txt")
	require.NoError(t, err)
	var names []string
	for _, p := range parts {
		assert.Regexp(t, `(?m)^`+p.name+`:`, string(makefile))
		assert.Contains(t, budgets, p.name)
		for _, before := range p.after {
			assert.Contains(t, names, before)
		}
		names = append(names, p.name)
	}
	for name := range budgets {
		assert.Contains(t, names, name, "a budget of nothing")
	}
}

func TestBudgets(t *testing.T) {
	file := filepath.Join(t.TempDir(), "b")
	require.NoError(t, os.WriteFile(file, []byte("# why\n\na 1.5 # so\nb 60\n"), 0o600))
	got, err := readBudgets(file)
	require.NoError(t, err)
	assert.Equal(t, map[string]time.Duration{"a": 1500 * time.Millisecond, "b": time.Minute}, got)
	for _, bad := range []string{"a", "a b", "a 0", "a -3"} {
		require.NoError(t, os.WriteFile(file, []byte("x 1\n"+bad+"\n"), 0o600))
		_, err := readBudgets(file)
		assert.ErrorContains(t, err, ":2: ", bad)
	}
}

func TestReadingGoTests(t *testing.T) {
	got, err := goTests(strings.NewReader(`# jantrel/core/x
{"Action":"run","Package":"jantrel/core/a","Test":"TestA"}
{"Action":"output","Package":"jantrel/core/a","Test":"TestA","Output":"a_test.go:1: wrong\n"}
{"Action":"fail","Package":"jantrel/core/a","Test":"TestA","Elapsed":1.5}
{"Action":"fail","Package":"jantrel/core/a","Elapsed":1.6}
{"Action":"pass","Package":"jantrel/core/b","Test":"TestB/one","Elapsed":2}
{"Action":"skip","Package":"jantrel/core/b","Test":"TestB/two","Elapsed":0}
{"Action":"pass","Package":"jantrel/core/b","Test":"TestB","Elapsed":2}
{"Action":"pass","Package":"jantrel/core/b","Elapsed":2.1}
{"Action":"output","Package":"jantrel/core/c","Output":"panic: no\n"}
{"Action":"fail","Package":"jantrel/core/c","Elapsed":0.1}
`))
	require.NoError(t, err)
	assert.Equal(t, []test{
		{name: "core/a TestA", took: 1500 * time.Millisecond, failed: true, said: "a_test.go:1: wrong\n"},
		{name: "core/b TestB/one", took: 2 * time.Second},
		{name: "core/b TestB/two", skipped: true},
		{name: "core/c", took: 100 * time.Millisecond, failed: true, said: "panic: no\n"},
	}, got)
}

func TestReadingThePagesTests(t *testing.T) {
	got, err := webTests(strings.NewReader(`{"testResults":[
		{"name":"/somewhere/web/src/a.test.ts","status":"failed","assertionResults":[
			{"fullName":"adds","status":"passed","duration":1500},{"fullName":"waits","status":"pending"},
			{"fullName":"fails","status":"failed","duration":2,"failureMessages":["1 is not 2"]}]},
		{"name":"/somewhere/web/src/b.test.ts","status":"failed","message":"cannot be read","assertionResults":[]}]}`))
	require.NoError(t, err)
	assert.Equal(t, []test{
		{name: "src/a.test.ts adds", took: 1500 * time.Millisecond},
		{name: "src/a.test.ts waits", skipped: true},
		{name: "src/a.test.ts fails", took: 2 * time.Millisecond, failed: true, said: "1 is not 2"},
		{name: "src/b.test.ts", failed: true, said: "cannot be read"},
	}, got)
	_, err = webTests(strings.NewReader("{"))
	assert.Error(t, err)
}

func TestReadingFlows(t *testing.T) {
	got, err := flows(strings.NewReader(`{"suites":[{"title":"plan.spec.ts","specs":[{"title":"a drag","tests":[{"status":"expected","results":[{"duration":2000,"errors":[]}]}]}],
		"suites":[{"title":"in the dark","specs":[{"title":"a look","tests":[{"status":"unexpected","results":[{"duration":1000,"errors":[{"message":"not there"}]}]}]},
			{"title":"later","tests":[{"status":"skipped","results":[]}]}]}]}]}`))
	require.NoError(t, err)
	assert.Equal(t, []test{
		{name: "plan.spec.ts a drag", took: 2 * time.Second},
		{name: "plan.spec.ts in the dark a look", took: time.Second, failed: true, said: "not there\n"},
		{name: "plan.spec.ts in the dark later", skipped: true},
	}, got)
}

func TestTheSumOfARun(t *testing.T) {
	var out strings.Builder
	err := sumUp(&out, []result{
		{part: "slow", took: 16 * time.Second, tests: []test{{name: "A", took: 9 * time.Second}, {name: "B", skipped: true}}},
		{part: "within", took: 15 * time.Second, tests: []test{{name: "C", took: 2 * time.Second}}},
		{part: "unknown", took: time.Second},
	}, map[string]time.Duration{"slow": 10 * time.Second, "within": 10 * time.Second}, 20*time.Second)
	require.NoError(t, err)
	assert.Regexp(t, `slow\s+16\.0 s  WARNING: its budget is 10\.0 s`, out.String())
	assert.Regexp(t, `within\s+15\.0 s\n`, out.String())
	assert.Regexp(t, `unknown\s+1\.0 s  WARNING`, out.String())
	assert.Regexp(t, `9\.0 s  slow: A\n\s+2\.0 s  within: C\n`, out.String())
	assert.Contains(t, out.String(), "\n2 passed, 0 failed, 1 skipped\n")

	out.Reset()
	err = sumUp(&out, []result{{part: "bad", err: errors.New("exit status 1"), tests: []test{{name: "A", failed: true}}}}, map[string]time.Duration{"bad": time.Second}, time.Second)
	assert.ErrorContains(t, err, "failed: [bad]")
	assert.Contains(t, out.String(), "\n0 passed, 1 failed, 0 skipped\n")
}
