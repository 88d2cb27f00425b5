package exchange_test

import (
	"bytes"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/program"
	"jantrel/core/sample"
	"jantrel/internal/exchange"
)

// What is written is read back; who said something on a server is no part of it.
func TestAProgramWithItsJournalIsReadBack(t *testing.T) {
	first := sample.Program(2, sample.Shape{Teams: 2, Iterations: 4, Items: 12, Needs: 4, Wild: true}).Normal().WithoutAuthors()
	at := time.Date(2027, 3, 2, 9, 0, 0, 0, time.UTC)
	item := program.Ref{Kind: program.KindItem, Key: first.Items[0].Key}
	comment := program.Comment{Key: "c9", Item: item.Key, By: "Ann", Author: "7", At: "2027-03-02T10:00:00Z", Text: "Seen & heard"}
	edits := []program.RecordedEdit{
		{At: at, By: "Ann", Label: "Title", Changes: []program.Change{program.SetTo(item, "title", "Once <more>")}},
		{At: at, By: "Bo", Label: "Comment", Why: "asked for", Changes: []program.Change{program.AddOf(program.Ref{Kind: program.KindComment, In: item.Key, Key: "c9"}, comment)}},
	}
	var out bytes.Buffer
	require.NoError(t, exchange.WriteFirst(&out, first))
	for _, e := range edits {
		require.NoError(t, exchange.WriteEdit(&out, e))
	}
	assert.Equal(t, 3, strings.Count(out.String(), "\n"), "a line each")
	assert.NotContains(t, out.String(), `"author"`)
	read, err := exchange.ReadRecorded(&out)
	require.NoError(t, err)
	assert.Equal(t, first, read.First)
	require.Len(t, read.Edits, 2)
	assert.Equal(t, edits[0], read.Edits[0])
	assert.Equal(t, edits[1].WithoutAuthors(), read.Edits[1])

	// A document alone has no edits.
	require.NoError(t, exchange.WriteDocument(&out, first))
	read, err = exchange.ReadRecorded(&out)
	require.NoError(t, err)
	assert.Empty(t, read.Edits)
}

func TestABadJournalSaysWhere(t *testing.T) {
	var document bytes.Buffer
	require.NoError(t, exchange.WriteFirst(&document, program.Program{Name: "P", Settings: program.Settings{SameIteration: program.ShareAlways, FillTo: 1}}))
	edit := `{"at":"2027-03-02T09:00:00Z","by":"Ann","label":"Name","changes":[{"op":"set","kind":"program","field":"name","value":"Q"}]}`
	for text, why := range map[string]string{
		"":                                       "document: EOF",
		`{"format":"jantrel"}`:                   "",
		document.String() + `{"label":"x"}`:      "edit 1: says when it was made (at), what it is (label), and its changes",
		document.String() + edit + `{"who":"x"}`: `edit 2: json: unknown field "who"`,
		document.String() + edit[:40]:            "edit 1: unexpected EOF",
		document.String() + "nonsense":           "edit 1: invalid character 'o' in literal null (expecting 'u')",
	} {
		_, err := exchange.ReadRecorded(strings.NewReader(text))
		require.Error(t, err, text)
		if why != "" {
			assert.EqualError(t, err, why)
		}
	}
}

// Whatever is read, reading ends with a journal or an error, and what is read can be written and read again.
func FuzzReadRecorded(f *testing.F) {
	var document bytes.Buffer
	require.NoError(f, exchange.WriteFirst(&document, program.Program{Name: "P", Settings: program.Settings{SameIteration: program.ShareAlways, FillTo: 1}}))
	f.Add(document.String() + `{"at":"2027-03-02T09:00:00Z","by":"Ann","label":"Name","changes":[{"op":"set","kind":"program","field":"name","value":"Q"}]}`)
	f.Add(document.String() + `{}`)
	f.Fuzz(func(t *testing.T, text string) {
		read, err := exchange.ReadRecorded(strings.NewReader(text))
		if err != nil {
			return
		}
		var out bytes.Buffer
		require.NoError(t, exchange.WriteFirst(&out, read.First))
		for _, e := range read.Edits {
			require.NoError(t, exchange.WriteEdit(&out, e))
		}
		again, err := exchange.ReadRecorded(&out)
		require.NoError(t, err)
		assert.Len(t, again.Edits, len(read.Edits))
	})
}
