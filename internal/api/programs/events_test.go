package programs_test

import (
	"bufio"
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/roles"
	"jantrel/internal/api/apitest"
)

// Somebody has twenty pages open that listen; with one more the oldest is told to rest, and the others hear on.
func TestTooManyPagesOfOnePerson(t *testing.T) {
	t.Parallel()
	url, enter := apitest.Demo(t).Crew(t)
	lead := enter("lead", roles.Lead, "p01")
	listen := func() *bufio.Scanner {
		request, err := http.NewRequestWithContext(t.Context(), http.MethodGet, url+"/events", nil)
		require.NoError(t, err)
		response, err := lead.Do(request)
		require.NoError(t, err)
		t.Cleanup(func() { _ = response.Body.Close() })
		lines := bufio.NewScanner(response.Body)
		require.True(t, lines.Scan())
		require.Equal(t, "event: hello", lines.Text())
		return lines
	}
	oldest := listen()
	var others []*bufio.Scanner
	for range 20 {
		others = append(others, listen())
	}
	var heard []string
	for oldest.Scan() { // until the server ends it
		if event, is := strings.CutPrefix(oldest.Text(), "event: "); is {
			heard = append(heard, event)
		}
	}
	assert.Contains(t, heard, "rest")
	edited := apitest.As(t, lead, http.MethodPost, url+"/changes", apitest.Edit("a", 0, `{"op":"set","kind":"item","key":"LC-8","field":"size","value":2}`))
	require.Equal(t, http.StatusOK, edited.Status, edited.Text)
	for _, other := range others {
		for other.Scan() && other.Text() != "event: update" {
		}
		assert.Equal(t, "event: update", other.Text())
	}
}
