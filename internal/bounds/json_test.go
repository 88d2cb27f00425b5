package bounds_test

import (
	"encoding/json"
	"fmt"
	"io"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/internal/bounds"
)

func TestWhatIsTooMuch(t *testing.T) {
	limits := bounds.JSON{Values: 20, List: 5, Names: 8, Depth: 4}
	for text, says := range map[string]string{
		`{"a":[1,2,3,4,5]}`:                                       "",
		`{"a":[1,2,3,4,5,6]}`:                                     `"a", line 1: a list has 5 entries at most`,
		"{\n\"a\":{\"b\":[{},{},{},{},{},{}]}}":                   `"b", line 2: a list has 5 entries at most`,
		`[[[[1]]]]`:                                               "",
		`[[[[[1]]]]]`:                                             "4 lists and objects within one another",
		`{"a,b":"[[[[[[[\",,,,,,,,,,\""}`:                         "",
		strings.Repeat("{},", 30):                                 "more than 20 values",
		`{"a":1,"b":2,"c":3,"d":4,"e":5,"f":6,"g":7}`:             "", // an object's fields are no list
		`{"a":1,"b":2,"c":3,"d":4,"e":5,"f":6,"g":7,"h":8,"i":9}`: "an object has 8 names at most",
		`]]]]}}}}"unclosed`:                                       "",
		``:                                                        "",
	} {
		err := limits.Check([]byte(text))
		if says == "" {
			assert.NoError(t, err, text)
		} else {
			assert.ErrorContains(t, err, says, text)
		}
	}
}

// What has fewer values than it may is let through, what has more is not, whatever it is.
func FuzzCheck(f *testing.F) {
	f.Add(`{"items":[{"key":"A","tags":["x","y"]}],"needs":[]}`)
	f.Add(`[[[[[[1,2,3]]]],"\\\"[",{"a":{"b":[null,true]}}]`)
	f.Fuzz(func(t *testing.T, text string) {
		if !json.Valid([]byte(text)) {
			_ = bounds.JSON{Values: 10, List: 10, Names: 10, Depth: 10}.Check([]byte(text)) // only: it ends
			return
		}
		values, list, depth := count(t, text)
		require.NoError(t, bounds.JSON{Values: 2*values + 2, List: list + 1, Names: values + 1, Depth: depth + 1}.Check([]byte(text)))
		if list > 1 {
			require.Error(t, bounds.JSON{Values: 1 << 30, List: list - 1, Names: 1 << 30, Depth: 1 << 30}.Check([]byte(text)), fmt.Sprint(list))
		}
	})
}

// count is how many values a text has, how long its longest list is, and how deep it goes.
func count(t *testing.T, text string) (values, list, depth int) {
	var entries []int // of each list and object that is open; of objects, names count too
	in := json.NewDecoder(strings.NewReader(text))
	var lists []bool
	for {
		token, err := in.Token()
		if err == io.EOF {
			return values, list, depth
		}
		require.NoError(t, err)
		switch token {
		case json.Delim(']'), json.Delim('}'):
			if lists[len(lists)-1] {
				list = max(list, entries[len(entries)-1])
			}
			entries, lists = entries[:len(entries)-1], lists[:len(lists)-1]
			continue
		}
		values++
		if len(entries) > 0 {
			entries[len(entries)-1]++
		}
		if token == json.Delim('[') || token == json.Delim('{') {
			entries, lists = append(entries, 0), append(lists, token == json.Delim('['))
			depth = max(depth, len(entries))
		}
	}
}
