package exchange_test

import (
	"bytes"
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/briefs"
	"jantrel/core/reports"
	"jantrel/core/sample"
	"jantrel/core/starting"
	"jantrel/internal/demo"
	"jantrel/internal/exchange"
)

// Templates of any program are written, read back the same, and hold as programs that start from them.
func TestTemplatesAreReadAsTheyWereWritten(t *testing.T) {
	for seed := range uint64(30) {
		p := sample.Program(seed, sample.Shape{Teams: 3, Iterations: 4, Items: 12, Wild: seed%2 == 0})
		about := briefs.Template(&p, briefs.About{})
		ready := reports.ReadyPages(&p, "")
		m := starting.Of(p, "Like this", "For harbours", []reports.Page{ready[0].Page, ready[3].Page}, briefs.Forms{Program: about.Sections, Release: about.Sections[:2], Iteration: about.Sections[1:]})
		require.NoError(t, m.Check(), "seed %d", seed)
		var text bytes.Buffer
		require.NoError(t, exchange.WriteTemplate(&text, m))
		read, err := exchange.ReadTemplate(bytes.NewReader(text.Bytes()))
		require.NoError(t, err, "seed %d: %s", seed, text.String())
		var again bytes.Buffer
		require.NoError(t, exchange.WriteTemplate(&again, read))
		assert.Equal(t, text.String(), again.String())
	}
	text, err := os.ReadFile("../../docs/template.schema.json")
	require.NoError(t, err)
	assert.Equal(t, string(exchange.TemplateSchema), string(text), "copy internal/exchange/template.schema.json to docs")
}

func TestWhatIsNoTemplate(t *testing.T) {
	for text, says := range map[string]string{
		`{`:                            "is not JSON",
		`{"format":"jantrel-program"}`: "format",
		`{"format":"jantrel-template","version":1,"name":"x","settings":{"sameIteration":"same-team","fillTo":1},"teams":[]}`:                       "teams",
		`{"format":"jantrel-template","version":1,"name":"x","settings":{"sameIteration":"same-team","fillTo":2}}`:                                  "fillTo",
		`{"format":"jantrel-template","version":1,"name":"x","settings":{"sameIteration":"same-team","fillTo":1},"pages":[{"name":"","cards":[]}]}`: "name",
		`{"format":"jantrel-template","version":1,"name":"` + strings.Repeat("x", 3<<20) + `"}`:                                                     "larger",
	} {
		_, err := exchange.ReadTemplate(strings.NewReader(text))
		assert.ErrorContains(t, err, says, text[:min(len(text), 90)])
	}
}

func FuzzReadTemplate(f *testing.F) {
	m := starting.Of(demo.Program(sample.Today), "Like this", "", nil, briefs.Forms{})
	var text bytes.Buffer
	require.NoError(f, exchange.WriteTemplate(&text, m))
	f.Add(text.Bytes())
	f.Add([]byte(`{"format":"jantrel-template","version":1,"name":"x","settings":{}}`))
	f.Fuzz(func(t *testing.T, data []byte) {
		if m, err := exchange.ReadTemplate(bytes.NewReader(data)); err == nil {
			require.NoError(t, m.Check())
		}
	})
}
