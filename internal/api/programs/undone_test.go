package programs_test

import (
	"fmt"
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/roles"
	"jantrel/internal/api/apitest"
)

// An item that was moved on twice and back by undo, one that was advanced and undone, and an edit that was taken back with
// nothing in between leave no trace in what is told of the iterations and in the news; the journal has each once, and says
// that it was undone.
func TestUndoneEditsLeaveNoTrace(t *testing.T) {
	t.Parallel()
	h := apitest.Demo(t)
	url, enter := h.Crew(t)
	manager, watcher := enter("manager", roles.Manager, ""), enter("watcher", roles.Member, "p01")
	told := func() []string {
		underWay := apitest.As(t, manager, http.MethodGet, url+"/under-way", "")
		require.Equal(t, http.StatusOK, underWay.Status, underWay.Text)
		scope := apitest.As(t, manager, http.MethodGet, url+"/scope-history", "")
		news := apitest.As(t, watcher, http.MethodGet, strings.TrimSuffix(url, "/programs/1")+"/news", "")
		return []string{apitest.Plain(t, underWay.Body["iterations"]), apitest.Plain(t, scope.Body["all"]), apitest.Plain(t, news.Body["programs"].([]any)[0].(map[string]any)["news"])}
	}
	ok := func(method, path, body string) apitest.Answer {
		t.Helper()
		got := apitest.As(t, manager, method, url+path, body)
		require.Less(t, got.Status, 300, got.Text)
		return got
	}
	edit := func(key, field, value string) {
		ok(http.MethodPost, "/changes", fmt.Sprintf(`{"client":"c","revision":%d,"label":"%s %s","changes":[{"op":"set","kind":"item","key":%q,"field":%q,"value":%s}]}`, h.Revision(t), key, field, key, field, value))
	}
	edit("LC-8", "title", `"The journal begins"`)
	before := told()
	edit("LC-4", "iteration", `"LC-i11"`)
	edit("LC-4", "iteration", `"LC-i12"`)
	edit("LC-5", "state", `"review"`)
	assert.NotEqual(t, before, told())
	for range 3 {
		ok(http.MethodPost, "/undo", `{"client":"c"}`)
	}
	assert.Equal(t, before, told())

	edit("LC-4", "size", "8")
	revision := h.Revision(t)
	ok(http.MethodPost, "/do/take-back", fmt.Sprintf(`{"client":"d","revision":%d,"intent":{"edit":%d,"choice":{}}}`, revision, revision))
	assert.Equal(t, before, told())

	entries := func(path string) (list []string) {
		for _, e := range apitest.List(t, ok(http.MethodGet, path, "")) {
			list = append(list, fmt.Sprint(e["label"], " ", e["undone"]))
		}
		return list
	}
	assert.Equal(t, []string{"LC-4 size true", "LC-5 state true", "LC-4 iteration true", "LC-4 iteration true", "LC-8 title <nil>"}, entries("/journal?limit=5")[:5])
	assert.Equal(t, []string{"LC-4 size true", "LC-4 iteration true", "LC-4 iteration true"}, entries("/history?item=LC-4"))

	// Only part of an edit, or one that something has come after, stays in the record with what took it back.
	ok(http.MethodPost, "/changes", fmt.Sprintf(`{"client":"c","revision":%d,"label":"Both","changes":[{"op":"set","kind":"item","key":"LC-4","field":"size","value":8},{"op":"set","kind":"item","key":"LC-5","field":"size","value":8}]}`, h.Revision(t)))
	revision = h.Revision(t)
	ok(http.MethodPost, "/do/take-back", fmt.Sprintf(`{"client":"d","revision":%d,"intent":{"edit":%d,"choice":{"leaveOut":[{"kind":"item","key":"LC-5","op":"set","field":"size"}]}}}`, revision, revision))
	assert.Equal(t, []string{"Take back “Both” <nil>", "Both <nil>"}, entries("/journal?limit=5")[:2])
	ok(http.MethodPost, "/undo", `{"client":"d"}`)
	assert.Equal(t, []string{"Take back “Both” true", "Both <nil>"}, entries("/journal?limit=5")[:2], "what was taken back stands again")
	ok(http.MethodPost, "/redo", `{"client":"d"}`)
	assert.Equal(t, []string{"Take back “Both” <nil>", "Take back “Both” true", "Both <nil>"}, entries("/journal?limit=5")[:3])
}
