package exchange_test

import (
	"bytes"
	"encoding/json"
	"os"
	"runtime"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/program"
	"jantrel/core/sample"
	"jantrel/internal/exchange"
)

func write(t testing.TB, p program.Program) string {
	t.Helper()
	var out bytes.Buffer
	require.NoError(t, exchange.WriteDocument(&out, p))
	return out.String()
}

func TestExportThenImportIsTheSame(t *testing.T) {
	for seed := range uint64(80) {
		p := sample.Program(seed, sample.Shape{Teams: 4, Iterations: 5, Items: 30, Needs: 20, Wild: true, Rough: true, Cycles: true})
		text := write(t, p)
		read, err := exchange.ReadDocument(strings.NewReader(text))
		require.NoError(t, err)
		require.Equal(t, p, read)
		require.Equal(t, text, write(t, read))
	}
}

func TestABadDocumentGetsALineAProblem(t *testing.T) {
	doc := func(middle string) string {
		return `{"format":"jantrel-program","version":1,"name":"X"` + middle + `}`
	}
	for name, c := range map[string]struct{ text, want string }{
		"no JSON":            {"{\n\"format\": }", "document: is not JSON"},
		"another format":     {`{"format":"other","version":1,"name":""}`, "format: "},
		"an unknown field":   {doc(`,"colour":1`), "colour: is not a field of the program document"},
		"one deep down":      {doc(`,"items":[{"key":"A","title":"","kind":"story","estimate":3}]`), "items[0].estimate: is not a field of the program document"},
		"a field missing":    {doc(`,"items":[{"title":"","kind":"story"}]`), "items[0].key: is missing"},
		"no such date":       {doc(`,"today":"2027-02-30"`), `today: "2027-02-30" is not a date; write it as YYYY-MM-DD`},
		"a word not allowed": {doc(`,"items":[{"key":"A","title":"","kind":"saga"}]`), `items[0].kind: "saga" is none of initiative, feature`},
		"a text for a size":  {doc(`,"items":[{"key":"A","title":"","kind":"story","size":"5"}]`), "items[0].size: "},
		"no such team":       {doc(`,"items":[{"key":"A","title":"","kind":"story","team":"LX"}]`), `items[0].team: no team "LX"`},
		"an empty key":       {doc(`,"items":[{"key":"","title":"","kind":"story"}]`), "items[0].key: is empty"},
		"a list for a name":  {`{"format":"jantrel-program","version":1,"name":[]}`, "name: "},
		"nothing at all":     {``, "document: is not JSON"},
		"null for a list":    {doc(`,"items":null`), "items: got null, want array"},
		"an object for one":  {doc(`,"items":{"a":[1]}`), "items: got object, want array"},
		"two documents":      {doc("") + doc(""), "something stands after its end"},
		"a list of all":      {`[]`, "document: is not JSON: it is no object"},
		"too deep":           {doc(`,"items":` + strings.Repeat("[", 30)), "within one another"},
	} {
		_, err := exchange.ReadDocument(strings.NewReader(c.text))
		if assert.Error(t, err, name) {
			assert.Contains(t, err.Error(), c.want, name)
		}
	}
	_, err := exchange.ReadDocument(strings.NewReader(doc(`,"today":1,"items":[{"key":"A"}]`)))
	assert.Len(t, strings.Split(err.Error(), "\n"), 3, "every problem is named, not the first alone")
}

func TestWhatMayBeLeftOut(t *testing.T) {
	p, err := exchange.ReadDocument(strings.NewReader(`{"format":"jantrel-program","version":1,"name":"Empty"}`))
	require.NoError(t, err)
	assert.Equal(t, program.Settings{SameIteration: program.ShareSameTeam, FillTo: 1}, p.Settings)
}

func TestTheDocumentedSchemaIsTheOneInUse(t *testing.T) {
	text, err := os.ReadFile("../../docs/program.schema.json")
	require.NoError(t, err)
	assert.Equal(t, string(exchange.Schema), string(text), "copy internal/exchange/program.schema.json to docs")
}

// Every number of a document has bounds; none of them lets sums become no numbers.
func TestEveryNumberHasBounds(t *testing.T) {
	var schema map[string]any
	require.NoError(t, json.Unmarshal(exchange.Schema, &schema))
	numbers := 0
	var walk func(at string, value any)
	walk = func(at string, value any) {
		object, _ := value.(map[string]any)
		if kind := object["type"]; kind == "number" || kind == "integer" {
			numbers++
			assert.Contains(t, object, "maximum", at)
			assert.True(t, object["minimum"] != nil || object["exclusiveMinimum"] != nil, at)
		}
		for name, inner := range object {
			walk(at+"."+name, inner)
		}
	}
	walk("", schema)
	assert.Greater(t, numbers, 20)
}

func FuzzReadDocument(f *testing.F) {
	f.Add(write(f, sample.Program(1, sample.Shape{Teams: 2, Iterations: 2, Items: 6, Needs: 4, Wild: true, Rough: true})))
	f.Add(`{"format":"jantrel-program","version":1,"name":"X","items":[{"key":"A","title":"","kind":"story","parent":"A"}]}`)
	f.Add(`[1e999]`)
	f.Fuzz(func(t *testing.T, text string) {
		p, err := exchange.ReadDocument(strings.NewReader(text))
		if err != nil {
			return
		}
		again, err := exchange.ReadDocument(strings.NewReader(write(t, p)))
		require.NoError(t, err)
		require.Equal(t, write(t, p), write(t, again))
	})
}

// The schema and the registry speak of the same fields: one that is forgotten in either is
// named. Of a comment the account that said it is a server's own, and not in documents.
func TestTheSchemaHasEveryFieldOfTheRegistry(t *testing.T) {
	type node struct {
		Properties map[string]*node
		Items      *node
	}
	var schema node
	require.NoError(t, json.Unmarshal(exchange.Schema, &schema))
	var compare func(where string, fields []program.Field, have map[string]*node, but ...string)
	compare = func(where string, fields []program.Field, have map[string]*node, but ...string) {
		var names []string
		for _, f := range fields {
			if slices.Contains(but, f.Name) {
				continue
			}
			names = append(names, f.Name)
			if len(f.Parts) > 0 && assert.Contains(t, have, f.Name, where) {
				compare(where+"."+f.Name, f.Parts, have[f.Name].Items.Properties)
			}
		}
		for name := range have {
			if !slices.Contains(but, name) {
				assert.Contains(t, names, name, "%s: the registry lacks it", where)
			}
		}
		for _, name := range names {
			assert.Contains(t, have, name, "%s: the schema lacks it", where)
		}
	}
	var lists []string
	for _, info := range program.Kinds {
		if info.List != "" {
			lists = append(lists, info.List)
		}
		switch info.Kind {
		case program.KindProgram:
		case program.KindIteration:
			compare(info.List, info.Fields, schema.Properties["teams"].Items.Properties["iterations"].Items.Properties)
		default:
			compare(info.List, info.Fields, schema.Properties[info.List].Items.Properties, "iterations", "author")
		}
	}
	info, _ := program.InfoOf(program.KindProgram)
	whole := map[string]*node{}
	for name, n := range schema.Properties {
		whole[name] = n
	}
	for name, n := range schema.Properties["settings"].Properties {
		whole[name] = n
	}
	compare("program", info.Fields, whole, append(lists, "format", "version", "settings")...)
}

// A small file must not become gigabytes: of values, or of complaints about them.
func TestDocumentsMadeToExhaust(t *testing.T) {
	for name, c := range map[string]struct{ text, says string }{
		"a document too large":     {`{"name":"` + strings.Repeat("x", exchange.MaxDocument) + `"}`, "larger than 32 MB"},
		"empty items":              {`{"items":[` + strings.Repeat("{},", 10_000_000) + `{}]}`, "a list has 200,000 entries at most"},
		"many lists of them":       {`{"items":[` + strings.Repeat(`{"tasks":[`+strings.Repeat("{},", 199_000)+`{}]},`, 30) + `{}]}`, "more than 3,000,000 values"},
		"as many as may be":        {`{"items":[` + strings.Repeat("{},", 199_990) + `{}]}`, "more problems"},
		"unknown fields":           {`{"items":[{` + strings.Repeat(`"a":1,`, 300_000) + `"b":1}]}`, "200 names at most"},
		"nothing but opened lists": {strings.Repeat("[", exchange.MaxDocument), "within one another"},
	} {
		allocated := allocated(func() {
			_, err := exchange.ReadDocument(strings.NewReader(c.text))
			var problems program.Problems
			require.ErrorAs(t, err, &problems, name)
			assert.LessOrEqual(t, len(problems), 101, name)
			assert.Contains(t, err.Error(), c.says, name)
		})
		assert.Less(t, allocated>>20, uint64(300), "MB allocated in all for %s", name)
	}
}

// allocated is how many bytes are allocated in all while something is done.
func allocated(do func()) uint64 {
	var before, after runtime.MemStats
	runtime.ReadMemStats(&before)
	do()
	runtime.ReadMemStats(&after)
	return after.TotalAlloc - before.TotalAlloc
}
