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
	"jantrel/internal/bounds"
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

// MaxDocument is how many bytes a program document may have.
const MaxDocument = 32 << 20

// documentLimits are what a document may hold: five times what 200 teams of 300
// iterations and 20,000 items take.
var documentLimits = bounds.JSON{Values: 3_000_000, List: 200_000, Names: 200, Depth: 20}

// maxProblems is how many problems of a document are named.
const maxProblems = 100

// ReadDocument reads a program document. A bad one gives program.Problems: each
// thing that is wrong, with its path, but no more than a hundred.
func ReadDocument(r io.Reader) (program.Program, error) {
	data, err := readWhole(r, "document", MaxDocument, documentLimits)
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
		return program.Program{}, first(problems)
	}
	return p, nil
}

// readWhole reads a document of JSON, called what it is, of so many bytes at most and within limits; it is refused by
// program.Problems.
func readWhole(r io.Reader, what string, most int64, limits bounds.JSON) ([]byte, error) {
	data, err := io.ReadAll(io.LimitReader(r, most+1))
	if err != nil {
		return nil, err
	}
	if int64(len(data)) > most {
		return nil, program.Problems{{Path: what, Text: fmt.Sprintf("is larger than %d MB", most>>20)}}
	}
	if err := limits.Check(data); err != nil {
		return nil, program.Problems{{Path: what, Text: err.Error()}}
	}
	return data, nil
}

// first are the first problems, and how many more there are.
func first(problems program.Problems) program.Problems {
	if more := len(problems) - maxProblems; more > 0 {
		problems = append(slices.Clip(problems[:maxProblems]), program.Problem{Path: "document", Text: fmt.Sprintf("has %d more problems", more)})
	}
	return problems
}

// schemas are the schema of a document, and that of what stands in each of its lists.
type schemas struct {
	whole *jsonschema.Schema
	of    map[string]*jsonschema.Schema
}

var compiled = sync.OnceValues(func() (schemas, error) {
	var all schemas
	schema, err := jsonschema.UnmarshalJSON(bytes.NewReader(Schema))
	if err != nil {
		return all, err
	}
	compiler := jsonschema.NewCompiler()
	compiler.AssertFormat()
	if err := compiler.AddResource("program.schema.json", schema); err != nil {
		return all, err
	}
	if all.whole, err = compiler.Compile("program.schema.json"); err != nil {
		return all, err
	}
	all.of = map[string]*jsonschema.Schema{}
	for name, property := range all.whole.Properties {
		if property.Items2020 != nil {
			if all.of[name], err = compiler.Compile("program.schema.json#/properties/" + name + "/items"); err != nil {
				return all, err
			}
		}
	}
	return all, nil
})

// checkSchema holds a document to its schema, thing by thing: neither the whole of it nor all
// that may be wrong in it is ever in memory at once.
func checkSchema(data []byte) error {
	schemas, err := compiled()
	if err != nil {
		return err
	}
	var problems program.Problems
	in := json.NewDecoder(bytes.NewReader(data))
	in.UseNumber()
	rest := map[string]any{} // all but what stands in lists
	if err := object(in, func(name string) error {
		of := schemas.of[name]
		if of == nil {
			var value any
			err := in.Decode(&value)
			rest[name] = value
			return err
		}
		instead, isList, err := list(in, func(i int) error {
			var value any
			if err := in.Decode(&value); err != nil || len(problems) > maxProblems {
				return err
			}
			problems = append(problems, against(of, value, name, strconv.Itoa(i))...)
			return nil
		})
		if rest[name] = instead; isList {
			rest[name] = []any{} // what stands in it has been looked at
		}
		return err
	}); err != nil {
		return program.Problems{{Path: "document", Text: "is not JSON: " + whereInText(data, in.InputOffset(), err)}}
	}
	problems = append(problems, against(schemas.whole, rest)...)
	if len(problems) == 0 {
		return nil
	}
	slices.SortStableFunc(problems, func(a, b program.Problem) int { return strings.Compare(a.Path, b.Path) })
	return first(problems)
}

// against holds a value at a place to a schema.
func against(schema *jsonschema.Schema, value any, at ...string) program.Problems {
	var problems program.Problems
	var invalid *jsonschema.ValidationError
	if err := schema.Validate(value); errors.As(err, &invalid) {
		gather(invalid, at, &problems)
	}
	for i := range problems {
		problems[i].Where = program.PlaceInWords(problems[i].Path, value)
		if len(at) == 0 { // the whole of it: what stands at the first part is within
			problems[i].Where = program.PlaceInWords(problems[i].Path, nil)
		}
	}
	return problems
}

// object reads a JSON object, which must be all there is, and has do read the value of each
// name.
func object(in *json.Decoder, do func(name string) error) error {
	token, err := in.Token()
	if err != nil {
		return err
	}
	if token != json.Delim('{') {
		return errors.New("it is no object")
	}
	for in.More() {
		name, err := in.Token()
		if err != nil {
			return err
		}
		if err := do(name.(string)); err != nil { // the decoder lets nothing else stand there
			return err
		}
	}
	if _, err := in.Token(); err != nil {
		return err
	}
	if _, err := in.Token(); err != io.EOF {
		return errors.New("something stands after its end")
	}
	return nil
}

// list reads a JSON list and has do read each entry. Where something else stands, it returns
// that: of an object, that it is one.
func list(in *json.Decoder, do func(i int) error) (instead any, isList bool, err error) {
	token, err := in.Token()
	switch {
	case err != nil:
		return nil, false, err
	case token == json.Delim('{'):
		return map[string]any{}, false, skip(in, token)
	case token != json.Delim('['):
		return token, false, nil
	}
	for i := 0; in.More(); i++ {
		if err := do(i); err != nil {
			return nil, true, err
		}
	}
	_, err = in.Token()
	return nil, true, err
}

// skip reads to the end of a value that began with a token.
func skip(in *json.Decoder, token json.Token) error {
	depth := 0
	for {
		switch token {
		case json.Delim('{'), json.Delim('['):
			depth++
		case json.Delim('}'), json.Delim(']'):
			depth--
		}
		if depth <= 0 {
			return nil
		}
		var err error
		if token, err = in.Token(); err != nil {
			return err
		}
	}
}

// whereInText adds the line to what is wrong with a JSON text.
func whereInText(data []byte, offset int64, err error) string {
	if text := bytes.TrimLeft(data, " \t\r\n\ufeff"); len(text) > 0 && text[0] != '{' && text[0] != '[' {
		return "a program document is, and begins with {. A CSV or XLSX table of items is taken in by a program: open one, then Backlog, Import"
	}
	var syntax *json.SyntaxError
	if errors.As(err, &syntax) {
		offset = max(offset, syntax.Offset)
	}
	return fmt.Sprintf("%s (line %d)", err, 1+bytes.Count(data[:min(offset, int64(len(data)))], []byte("\n")))
}

// gather turns the leaves of a validation error at a place into problems in plain words.
func gather(e *jsonschema.ValidationError, at []string, problems *program.Problems) {
	for _, cause := range e.Causes {
		gather(cause, at, problems)
	}
	if len(e.Causes) > 0 || len(*problems) > maxProblems {
		return
	}
	path := pathOf(slices.Concat(at, e.InstanceLocation))
	add := func(at, text string) { *problems = append(*problems, program.Problem{Path: at, Text: text}) }
	switch k := e.ErrorKind.(type) {
	case *kind.AdditionalProperties:
		for _, name := range k.Properties[:min(len(k.Properties), maxProblems)] {
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
