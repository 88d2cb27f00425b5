package pack_test

import (
	"encoding/json"
	"flag"
	"math/rand/v2"
	"os"
	"strconv"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/calendar"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/sample"
	"jantrel/core/standing"
	"jantrel/internal/pack"
)

var write = flag.Bool("write", false, "write the lists that the page's tests read")

// unpack reads a packed list as its description says, by other means than the page's.
func unpack(t *testing.T, text []byte) []map[string]any {
	t.Helper()
	var p struct {
		N int
		C map[string]map[string]json.RawMessage
	}
	require.NoError(t, json.Unmarshal(text, &p))
	list := make([]map[string]any, p.N)
	for i := range list {
		list[i] = map[string]any{}
	}
	for field, column := range p.C {
		values := column1(t, column)
		require.Len(t, values, p.N, field)
		for i, v := range values {
			if v != nil {
				list[i][field] = v
			}
		}
	}
	return list
}

func column1(t *testing.T, column map[string]json.RawMessage) (values []any) {
	read := func(name string, into any) bool {
		text, ok := column[name]
		if ok {
			require.NoError(t, json.Unmarshal(text, into))
		}
		return ok
	}
	spread := func(runs []int, take func(int)) {
		at := 0
		for i := 0; i < len(runs); i += 2 {
			for range runs[i+1] {
				at += runs[i]
				take(at)
			}
		}
	}
	var heads []string
	var numbers, which []int
	var raw, known []any
	if read("w", &numbers) {
		for i := 0; i < len(numbers); i += 2 {
			for range numbers[i+1] {
				which = append(which, numbers[i])
			}
		}
	}
	switch {
	case read("v", &raw):
		return raw
	case read("k", &known):
		if read("i", &numbers) {
			for _, n := range numbers {
				values = append(values, known[n])
			}
			return values
		}
		require.True(t, read("r", &numbers))
		for i := 0; i < len(numbers); i += 2 {
			for range numbers[i+1] {
				values = append(values, known[numbers[i]])
			}
		}
	case read("r", &raw):
		for i := 0; i < len(raw); i += 2 {
			for range int(raw[i+1].(float64)) {
				values = append(values, raw[i])
			}
		}
	case read("t", &numbers):
		spread(numbers, func(n int) { values = append(values, calendar.MustParse("1970-01-01").Add(n).String()) })
	case read("s", &heads) && read("d", &numbers):
		last := map[int]int{}
		for i := 0; i < len(numbers); i += 2 {
			for range numbers[i+1] {
				of := which[len(values)]
				last[of] += numbers[i]
				values = append(values, heads[of]+strconv.Itoa(last[of]))
			}
		}
	case read("n", &numbers):
		for _, n := range numbers {
			values = append(values, heads[which[len(values)]]+strconv.Itoa(n))
		}
	default:
		var lists []json.RawMessage
		require.True(t, read("l", &lists))
		for _, l := range lists {
			if string(l) == "null" {
				values = append(values, nil)
				continue
			}
			inner := []any{}
			for _, x := range unpack(t, l) {
				inner = append(inner, x)
			}
			values = append(values, inner)
		}
	}
	return values
}

func check[T any](t *testing.T, list []T) []byte {
	t.Helper()
	packed, err := pack.Of(list)
	require.NoError(t, err)
	text, err := json.Marshal(packed)
	require.NoError(t, err)
	plain, err := json.Marshal(list)
	require.NoError(t, err)
	var want []map[string]any
	require.NoError(t, json.Unmarshal(plain, &want))
	if want == nil {
		want = []map[string]any{}
	}
	require.Equal(t, want, unpack(t, text))
	return text
}

// Whatever a program holds: packed and unpacked it is the same.
func TestPackingLosesNothing(t *testing.T) {
	for seed := range uint64(20) {
		p := sample.Program(seed, sample.Shape{Teams: 3, Iterations: 30, Items: 60, Needs: 40, Wild: true, Rough: true, Cycles: true})
		facts := standing.Of(plan.Of(p), sample.Today)
		check(t, p.Items)
		check(t, p.Teams)
		check(t, p.People)
		check(t, p.Needs)
		check(t, p.Comments)
		check(t, facts.Items)
		check(t, facts.Iterations)
		check(t, facts.Needs)
		check(t, facts.Teams)
	}
}

type odd struct {
	Key  string        `json:"key"`
	Note string        `json:"note,omitempty"`
	On   calendar.Date `json:"on,omitzero"`
	Not  string        `json:"-"`
	N    *float64      `json:"n,omitempty"`
	Yes  bool          `json:"yes"`
}

func TestPackingOddLists(t *testing.T) {
	check(t, []odd{})
	check(t, []odd{{}, {}})
	check(t, []odd{{Key: "A-01"}, {Key: "A-2"}})
	check(t, []odd{{Key: "99999999999999999999"}, {Key: "1"}})
	check(t, []odd{{Key: "7"}, {Key: "7"}, {Key: "3"}})
	half, zero := 0.5, 0.0
	check(t, []odd{{Key: `"<&>` + "\u2028", Note: "x", N: &half}, {On: calendar.MustParse("1899-12-31"), N: &zero}, {On: calendar.MustParse("2027-02-28"), Yes: true}})
	r := rand.New(rand.NewPCG(1, 1))
	for range 200 {
		var list []odd
		for range r.IntN(30) {
			x := odd{Key: []string{"A-", "B-", ""}[r.IntN(1+r.IntN(3))] + strconv.Itoa(r.IntN(40)), Yes: r.IntN(2) == 0}
			if r.IntN(3) > 0 {
				x.On = calendar.MustParse("2027-03-01").Add(r.IntN(400) - 200)
			}
			list = append(list, x)
		}
		check(t, list)
	}
}

// The page reads what is packed here: its tests replay these lists.
func TestThePagesListsAreOfToday(t *testing.T) {
	p := sample.Program(3, sample.Shape{Teams: 2, Iterations: 24, Items: 12, Needs: 6, Wild: true, Rough: true})
	type vector struct {
		Packed json.RawMessage `json:"packed"`
		Plain  any             `json:"plain"`
	}
	vectors := []vector{
		{check(t, p.Teams), p.Teams}, {check(t, p.Items), p.Items}, {check(t, p.Needs), p.Needs},
		{check(t, standing.Of(plan.Of(p), sample.Today).Iterations), standing.Of(plan.Of(p), sample.Today).Iterations},
		{check(t, []program.Need{}), []program.Need{}},
	}
	text, err := json.Marshal(vectors)
	require.NoError(t, err)
	const file = "../../web/src/line/unpack.vectors.json"
	if *write {
		require.NoError(t, os.WriteFile(file, append(text, '\n'), 0o644))
	}
	have, err := os.ReadFile(file)
	require.NoError(t, err)
	assert.JSONEq(t, string(text), string(have), "run: go generate ./internal/pack")
}
