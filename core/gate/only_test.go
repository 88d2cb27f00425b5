package gate_test

import (
	"go/ast"
	"go/parser"
	"go/token"
	"io/fs"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Nothing but the gate makes a program out of another one with its rules; what is planned
// or gone through unjudged says so by its name.
func TestTheGateIsTheOnlyWay(t *testing.T) {
	allowed := map[string][]string{
		"ApplyAll": {"core/gate"},
		"Apply":    {},
		"After":    {"core/cadence"},  // what an iteration's closing leads to, before the next is planned
		"Rewind":   {"internal/live"}, // the journal, which was judged when it was written
		"Replay":   {"internal/live"},
	}
	root := filepath.Join("..", "..")
	seen := 0
	for _, folder := range []string{"core", "internal", "cmd"} {
		require.NoError(t, filepath.WalkDir(filepath.Join(root, folder), func(path string, d fs.DirEntry, err error) error {
			if err != nil || d.IsDir() || !strings.HasSuffix(path, ".go") || strings.HasSuffix(path, "_test.go") {
				return err
			}
			file, err := parser.ParseFile(token.NewFileSet(), path, nil, 0)
			if err != nil {
				return err
			}
			at, _ := filepath.Rel(root, filepath.Dir(path))
			ast.Inspect(file, func(n ast.Node) bool {
				call, ok := n.(*ast.SelectorExpr)
				if !ok {
					return true
				}
				if of, ok := call.X.(*ast.Ident); ok && of.Name == "program" {
					if where, known := allowed[call.Sel.Name]; known {
						seen++
						assert.Contains(t, where, filepath.ToSlash(at), "%s calls program.%s", path, call.Sel.Name)
					}
				}
				return true
			})
			return nil
		}))
	}
	assert.Greater(t, seen, 5)
}
