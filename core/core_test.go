// Package core_test holds the core to what it may know: no interface, clock, network,
// database or global chance.
package core_test

import (
	"go/ast"
	"go/parser"
	"go/token"
	"io/fs"
	"path/filepath"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// What the core may import beside itself. A package joins this list when it computes and
// knows nothing of the world outside.
var mayImport = []string{
	"bytes", "cmp", "container/heap", "crypto/sha256", "encoding/hex", "encoding/json", "errors",
	"fmt", "hash/fnv", "iter", "maps", "math", "math/bits", "math/rand/v2", "reflect", "regexp", "slices", "sort",
	"strconv", "strings", "sync", "sync/atomic", "time", "unicode", "unicode/utf8",
}

// What those packages offer that is not the same each time it is called.
var mayNotCall = map[string][]string{
	"time": {"Now", "Since", "Until", "Sleep", "After", "Tick", "NewTimer", "NewTicker", "AfterFunc"},
	"rand": {"Int", "IntN", "Int64", "Int64N", "Uint32", "Uint64", "Float64", "NormFloat64", "ExpFloat64", "Perm", "Shuffle", "N"},
}

func TestTheCoreKnowsNothingOfTheWorldOutside(t *testing.T) {
	read := 0
	require.NoError(t, filepath.WalkDir(".", func(path string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() || !strings.HasSuffix(path, ".go") || strings.HasSuffix(path, "_test.go") {
			return err
		}
		file, err := parser.ParseFile(token.NewFileSet(), path, nil, 0)
		if err != nil {
			return err
		}
		read++
		for _, i := range file.Imports {
			of, err := strconv.Unquote(i.Path.Value)
			require.NoError(t, err)
			if strings.HasPrefix(of, "jantrel/core/") || strings.HasPrefix(of, "gonum.org/v1/gonum/") {
				continue
			}
			assert.Contains(t, mayImport, of, "%s imports %s", path, of)
		}
		ast.Inspect(file, func(n ast.Node) bool {
			if field, ok := n.(*ast.Field); ok && field.Tag != nil { // words for the interface are made of comments
				assert.Regexp(t, "^`json:\"[^\"]*\"`$", field.Tag.Value, "%s has a tag that is for an interface", path)
			}
			call, ok := n.(*ast.SelectorExpr)
			if !ok {
				return true
			}
			if of, ok := call.X.(*ast.Ident); ok {
				assert.NotContains(t, mayNotCall[of.Name], call.Sel.Name, "%s calls %s.%s", path, of.Name, call.Sel.Name)
			}
			return true
		})
		return nil
	}))
	assert.Greater(t, read, 50, "the core's files were found")
}
