package backlog_test

import (
	"encoding/json"
	"fmt"
	"net/http"
	"testing"

	"github.com/stretchr/testify/require"

	"jantrel/internal/api/apitest"
)

// BenchmarkImport20000Rows takes a table in whole: checked, applied, stored with its
// journal, and answered.
func BenchmarkImport20000Rows(b *testing.B) {
	type table struct {
		Client   string     `json:"client"`
		Revision int        `json:"revision"`
		Columns  []string   `json:"columns"`
		Rows     [][]string `json:"rows"`
	}
	in := table{Client: "a", Columns: []string{"key", "title", "kind", "team", "size", "release", "parent", "needs", "tags"}}
	for i := range 20_000 {
		row := []string{fmt.Sprintf("N-%d", i), fmt.Sprintf("Item %d", i), "story", "LC", "3", "R1", "FE-1", "", "radio, night"}
		if i%2 == 1 {
			row[7] = fmt.Sprintf("N-%d", i-1)
		}
		in.Rows = append(in.Rows, row)
	}
	body, err := json.Marshal(map[string]any{"client": "a", "revision": 0, "intent": in})
	require.NoError(b, err)
	for b.Loop() {
		b.StopTimer()
		url := apitest.ServeDemo(b)
		b.StartTimer()
		got := apitest.Call(b, http.MethodPost, url+"/do/take-in", string(body))
		require.Equal(b, http.StatusOK, got.Status, got.Text[:min(len(got.Text), 500)])
	}
}
