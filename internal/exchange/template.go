package exchange

import (
	"bytes"
	_ "embed"
	"encoding/json"
	"io"
	"sync"

	"github.com/santhosh-tekuri/jsonschema/v6"

	"jantrel/core/program"
	"jantrel/core/starting"
	"jantrel/internal/bounds"
)

// TemplateSchema is the JSON Schema of the document of a template; it goes by that of the program document.
//
//go:embed template.schema.json
var TemplateSchema []byte

// template is a starting.Made as the file has it: with its format and version first.
type template struct {
	Format  string `json:"format"`
	Version int    `json:"version"`
	starting.Made
}

// WriteTemplate writes a template as a document. Reading it back gives it again.
func WriteTemplate(w io.Writer, m starting.Made) error {
	encoder := json.NewEncoder(w)
	encoder.SetIndent("", "  ")
	encoder.SetEscapeHTML(false)
	return encoder.Encode(template{starting.Format, starting.Version, m})
}

// MaxTemplate is how many bytes the document of a template may have.
const MaxTemplate = 2 << 20

var templateLimits = bounds.JSON{Values: 100_000, List: 10_000, Names: 200, Depth: 20}

var templateSchema = sync.OnceValues(func() (*jsonschema.Schema, error) {
	compiler := jsonschema.NewCompiler()
	for name, text := range map[string][]byte{"program.schema.json": Schema, "template.schema.json": TemplateSchema} {
		schema, err := jsonschema.UnmarshalJSON(bytes.NewReader(text))
		if err != nil {
			return nil, err
		}
		if err := compiler.AddResource(name, schema); err != nil {
			return nil, err
		}
	}
	return compiler.Compile("template.schema.json")
})

// ReadTemplate reads the document of a template. A bad one gives program.Problems, or an error in plain words.
func ReadTemplate(r io.Reader) (m starting.Made, err error) {
	data, err := readWhole(r, "template", MaxTemplate, templateLimits)
	if err != nil {
		return m, err
	}
	schema, err := templateSchema()
	if err != nil {
		return m, err
	}
	value, err := jsonschema.UnmarshalJSON(bytes.NewReader(data))
	if err != nil {
		return m, program.Problems{{Path: "template", Text: "is not JSON: " + err.Error()}}
	}
	if problems := against(schema, value); len(problems) > 0 {
		return m, first(problems)
	}
	var t template
	if err := json.Unmarshal(data, &t); err != nil {
		return m, program.Problems{{Path: "template", Text: err.Error()}}
	}
	return t.Made, t.Made.Check()
}
