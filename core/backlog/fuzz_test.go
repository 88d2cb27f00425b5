package backlog_test

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/require"

	"jantrel/core/backlog"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/sample"
)

// Whatever a view asks for: it is refused in words, or its list holds items that there are,
// each once.
func FuzzView(f *testing.F) {
	f.Add(`{"group":"team","sort":"size","filter":{"all":[{"field":"size","is":">","value":"3"}]}}`, "lamp")
	f.Add(`{"filter":{"any":[{"field":"tags","is":"has","values":["x"]},{"not":{"field":"key","is":"="}}]},"columns":[{"field":"title"}]}`, "")
	p := sample.Program(7, sample.Shape{Teams: 3, Iterations: 4, Items: 30, Needs: 10, Wild: true})
	index := backlog.NewIndex(plan.Of(p), backlog.Options{Today: sample.Today, Clock: sample.Today})
	f.Fuzz(func(t *testing.T, text, words string) {
		var view program.View
		if json.Unmarshal([]byte(text), &view) != nil {
			return
		}
		list, err := index.List(view, words)
		if err != nil {
			require.NotEmpty(t, err.Error())
			return
		}
		seen := map[string]bool{}
		for _, key := range list.Rows {
			_, there := index.Tree().Index[key]
			require.True(t, there && !seen[key], key)
			seen[key] = true
		}
	})
}
