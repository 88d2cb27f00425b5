package words

import (
	"bytes"
	"flag"
	"fmt"
	"go/ast"
	"go/format"
	"go/parser"
	"go/token"
	"io/fs"
	"os"
	"path/filepath"
	"sort"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

var write = flag.Bool("write", false, "write the words")

const core = "../../../core"

// What is said of the core's fields stands in its own comments.
func TestTheWordsAreOfToday(t *testing.T) {
	said := map[string]map[string]string{}
	named := map[string][]string{}
	require.NoError(t, filepath.WalkDir(core, func(path string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() || !strings.HasSuffix(path, ".go") || strings.HasSuffix(path, "_test.go") {
			return err
		}
		file, err := parser.ParseFile(token.NewFileSet(), path, nil, parser.ParseComments)
		if err == nil {
			read(file, said, named)
		}
		return err
	}))
	assert.Greater(t, len(said), 50)
	assert.Contains(t, named, "needs.Status")
	var text bytes.Buffer
	text.WriteString("// Code generated from the comments of core. DO NOT EDIT.\n\npackage words\n\n// fields are what is said of the fields of types.\nvar fields = map[string]map[string]string{\n")
	for _, name := range sorted(said) {
		fmt.Fprintf(&text, "%q: {\n", name)
		for _, field := range sorted(said[name]) {
			fmt.Fprintf(&text, "%q: %q,\n", field, said[name][field])
		}
		text.WriteString("},\n")
	}
	text.WriteString("}\n\n// choices are the texts that a value of a type may be.\nvar choices = map[string][]string{\n")
	for _, name := range sorted(named) {
		fmt.Fprintf(&text, "%q: {\"%s\"},\n", name, strings.Join(named[name], `", "`))
	}
	text.WriteString("}\n")
	want, err := format.Source(text.Bytes())
	require.NoError(t, err)
	if *write {
		require.NoError(t, os.WriteFile("words.gen.go", want, 0o644))
	}
	have, err := os.ReadFile("words.gen.go")
	require.NoError(t, err)
	assert.Equal(t, string(want), string(have), "run: go generate ./internal/api/words")
}

// read takes in what a file says of fields, and which texts it names of a type.
func read(file *ast.File, said map[string]map[string]string, named map[string][]string) {
	for _, d := range file.Decls {
		group, ok := d.(*ast.GenDecl)
		if !ok {
			continue
		}
		for _, spec := range group.Specs {
			switch spec := spec.(type) {
			case *ast.TypeSpec:
				if body, ok := spec.Type.(*ast.StructType); ok && spec.Name.IsExported() {
					readFields(file.Name.Name+"."+spec.Name.Name, body, said)
				}
			case *ast.ValueSpec:
				kind, ok := spec.Type.(*ast.Ident)
				if !ok || group.Tok != token.CONST || !kind.IsExported() {
					continue
				}
				for _, value := range spec.Values {
					if literal, ok := value.(*ast.BasicLit); ok && literal.Kind == token.STRING {
						if text, err := strconv.Unquote(literal.Value); err == nil {
							name := file.Name.Name + "." + kind.Name
							named[name] = append(named[name], text)
						}
					}
				}
			}
		}
	}
}

func readFields(name string, body *ast.StructType, said map[string]map[string]string) {
	for _, f := range body.Fields.List {
		text := strings.TrimSpace(strings.ReplaceAll(f.Comment.Text(), "\n", " "))
		if f.Tag == nil || !strings.Contains(f.Tag.Value, "json:") || text == "" {
			continue
		}
		for _, field := range f.Names {
			if said[name] == nil {
				said[name] = map[string]string{}
			}
			said[name][field.Name] = text
		}
	}
}

func sorted[V any](m map[string]V) []string {
	keys := make([]string, 0, len(m))
	for key := range m {
		keys = append(keys, key)
	}
	sort.Strings(keys)
	return keys
}
