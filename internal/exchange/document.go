// Package exchange reads and writes the open formats that Jantrel speaks.
package exchange

import (
	"bytes"
	_ "embed"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"slices"
	"strconv"
	"strings"
	"sync"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/santhosh-tekuri/jsonschema/v6/kind"
	"golang.org/x/text/language"
	"golang.org/x/text/message"

	"jantrel/core/program"
)

// Schema is the JSON Schema of the program document.
//
//go:embed program.schema.json
var Schema []byte

// document is a Program as the file has it: with its format and version first.
type document struct {
	Format  string `json:"format"`
	Version int    `json:"version"`
	program.Program
}

// WriteDocument writes p as a program document. Reading it back gives p, but for which
// account said what: accounts are a server's own.
func WriteDocument(w io.Writer, p program.Program) error {
	encoder := json.NewEncoder(w)
	encoder.SetIndent("", "  ")
	encoder.SetEscapeHTML(false)
	return encoder.Encode(document{program.Format, program.Version, p.WithoutAuthors()})
}

// ReadDocument reads a program document. A bad one gives program.Problems: each
// thing that is wrong, with its path.
func ReadDocument(r io.Reader) (program.Program, error) {
	data, err := io.ReadAll(r)
	if err != nil {
		return program.Program{}, err
	}
	if err := checkSchema(data); err != nil {
		return program.Program{}, err
	}
	var d document
	if err := json.Unmarshal(data, &d); err != nil {
		return program.Program{}, program.Problems{{Path: "document", Text: err.Error()}}
	}
	p := d.Program.Normal()
	if problems := program.Validate(p); len(problems) > 0 {
		return program.Program{}, problems
	}
	return p, nil
}

var compiled = sync.OnceValues(func() (*jsonschema.Schema, error) {
	schema, err := jsonschema.UnmarshalJSON(bytes.NewReader(Schema))
	if err != nil {
		return nil, err
	}
	compiler := jsonschema.NewCompiler()
	compiler.AssertFormat()
	if err := compiler.AddResource("program.schema.json", schema); err != nil {
		return nil, err
	}
	return compiler.Compile("program.schema.json")
})

func checkSchema(data []byte) error {
	schema, err := compiled()
	if err != nil {
		return err
	}
	instance, err := jsonschema.UnmarshalJSON(bytes.NewReader(data))
	if err != nil {
		return program.Problems{{Path: "document", Text: "is not JSON: " + whereInText(data, err)}}
	}
	var invalid *jsonschema.ValidationError
	if err := schema.Validate(instance); errors.As(err, &invalid) {
		var problems program.Problems
		gather(invalid, &problems)
		slices.SortStableFunc(problems, func(a, b program.Problem) int { return strings.Compare(a.Path, b.Path) })
		return problems
	}
	return nil
}

// whereInText adds the line to a JSON syntax error.
func whereInText(data []byte, err error) string {
	var syntax *json.SyntaxError
	if errors.As(err, &syntax) && syntax.Offset <= int64(len(data)) {
		line := 1 + bytes.Count(data[:syntax.Offset], []byte("\n"))
		return fmt.Sprintf("%s (line %d)", syntax.Error(), line)
	}
	return err.Error()
}

// gather turns the leaves of a validation error into problems in plain words.
func gather(e *jsonschema.ValidationError, problems *program.Problems) {
	for _, cause := range e.Causes {
		gather(cause, problems)
	}
	if len(e.Causes) > 0 {
		return
	}
	path := pathOf(e.InstanceLocation)
	add := func(at, text string) { *problems = append(*problems, program.Problem{Path: at, Text: text}) }
	switch k := e.ErrorKind.(type) {
	case *kind.AdditionalProperties:
		for _, name := range k.Properties {
			add(join(path, name), "is not a field of the program document")
		}
	case *kind.Required:
		for _, name := range k.Missing {
			add(join(path, name), "is missing")
		}
	case *kind.Format:
		add(orDocument(path), fmt.Sprintf("%q is not a date; write it as YYYY-MM-DD", k.Got))
	case *kind.Enum:
		names := make([]string, len(k.Want))
		for i, want := range k.Want {
			names[i] = fmt.Sprint(want)
		}
		add(orDocument(path), fmt.Sprintf("%q is none of %s", fmt.Sprint(k.Got), strings.Join(names, ", ")))
	case *kind.MinLength:
		add(orDocument(path), "is empty")
	default:
		add(orDocument(path), e.ErrorKind.LocalizedString(message.NewPrinter(language.English)))
	}
}

// pathOf writes a place in the document as items[3].team.
func pathOf(location []string) string {
	path := ""
	for _, part := range location {
		if _, err := strconv.Atoi(part); err == nil {
			path += "[" + part + "]"
		} else {
			path = join(path, part)
		}
	}
	return path
}

func join(path, name string) string {
	if path == "" {
		return name
	}
	return path + "." + name
}

func orDocument(path string) string {
	if path == "" {
		return "document"
	}
	return path
}
