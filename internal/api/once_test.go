package api_test

import (
	"fmt"
	"net/http"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/program"
	"jantrel/core/roles"
	"jantrel/core/sample"
	"jantrel/internal/api/apitest"
	"jantrel/internal/live"
)

// A request that is sent again under its name is answered again and makes nothing anew,
// whatever has happened since; under the same name something else is refused.
func TestAnEditThatIsSentAgain(t *testing.T) {
	t.Parallel()
	h := apitest.Demo(t)
	mia := h.Client(t, h.Begin(t, "mia", "Mia", roles.Manager))
	other := h.Client(t, h.Begin(t, "max", "Max", roles.Manager))
	url := h.URL + "/api/v1/programs/1"
	send := func(who *http.Client, path, body, name string) apitest.Answer {
		return apitest.As(t, who, http.MethodPost, url+path, body, "Idempotency-Key", name)
	}
	intent := `{"client":"a","revision":%d,"intent":%s}`
	for _, c := range []struct{ name, path, body string }{
		{"changes", "/changes", `{"client":"a","revision":%d,"label":"E","changes":[` + fmt.Sprintf(apitest.Set, "LC-8", "title", `"Once"`) + `]}`},
		{"new items", "/do/add-outline", strings.Replace(intent, "%s", `{"text":"A lamp\nAnother","under":{"team":"LC"}}`, 1)},
		{"items that go", "/do/delete", strings.Replace(intent, "%s", `{"keys":["LC-18"],"below":true}`, 1)},
		{"a table", "/do/take-in", strings.Replace(intent, "%s", `{"columns":["title","team"],"rows":[["Taken in","LC"]]}`, 1)},
		{"a rank", "/do/rank", strings.Replace(intent, "%s", `{"keys":["LC-8"],"to":{"to":"top"}}`, 1)},
		{"undo", "/undo", `{"client":"a"}`},
		{"redo", "/redo", `{"client":"a"}`},
	} {
		body := c.body
		if strings.Contains(body, "%d") {
			body = fmt.Sprintf(body, h.Revision(t))
		}
		first := send(mia, c.path, body, c.name)
		require.Equal(t, http.StatusOK, first.Status, "%s: %s", c.name, first.Text)
		require.NotNil(t, first.Body["update"], c.name)
		after := h.Stored(t)
		again := send(mia, c.path, body, c.name)
		assert.Equal(t, http.StatusOK, again.Status, c.name)
		for _, part := range []string{"label", "keys", "notes", "changes", "update"} {
			assert.Equal(t, first.Body[part], again.Body[part], "%s: %s", c.name, part)
		}
		assert.Equal(t, after, h.Stored(t), c.name)
		theirs := apitest.Edit("b", int(h.Revision(t)), fmt.Sprintf(apitest.Set, "TW-5", "title", fmt.Sprintf("%q", c.name)))
		require.Equal(t, http.StatusOK, apitest.As(t, other, http.MethodPost, url+"/changes", theirs).Status)
		assert.Equal(t, first.Body["update"], send(mia, c.path, body, c.name).Body["update"], "%s, when others went on", c.name)
		changed := send(mia, c.path, strings.Replace(body, `"a"`, `"a" `, 1), c.name)
		assert.Equal(t, http.StatusOK, changed.Status, "written otherwise, the same is meant")
		path := map[bool]string{true: "/redo", false: "/undo"}[c.path == "/undo"]
		another := send(mia, path, `{"client":"a"}`, c.name)
		assert.Equal(t, http.StatusUnprocessableEntity, another.Status, "%s: %s", c.name, another.Text)
		assert.Contains(t, another.Text, "under this name before")
	}
	refused := send(other, "/undo", `{"client":"a"}`, "undo")
	assert.Equal(t, http.StatusConflict, refused.Status, "the name is another's: this one has nothing to take back")
}

// However many of the same come in at once, one is made; and so it is after a stop.
func TestTheSameEditAtOnceAndAfterAStop(t *testing.T) {
	t.Parallel()
	h := apitest.Demo(t)
	h.Begin(t, "root", "Root", "")
	l, err := h.Hub.Open(t.Context(), 1)
	require.NoError(t, err)
	first := l.State().Revision
	by := live.Author{Actor: "Mia", Client: "a", Request: "once", Digest: "of it"}
	change := []program.Change{program.SetTo(program.Ref{Kind: program.KindItem, Key: "LC-8"}, "title", "Once")}
	var sent sync.WaitGroup
	for range 12 {
		sent.Go(func() {
			update, err := l.Apply(t.Context(), by, first, "E", change)
			assert.NoError(t, err)
			assert.Equal(t, first+1, update.Revision)
		})
	}
	sent.Wait()
	assert.Equal(t, first+1, l.State().Revision)
	again := live.NewHub(h.Accounts.Store(), time.Now, func() program.Date { return sample.Today })
	defer again.Close()
	l, err = again.Open(t.Context(), 1)
	require.NoError(t, err)
	update, err := l.Apply(t.Context(), by, first, "E", change)
	require.NoError(t, err)
	assert.Equal(t, first+1, update.Revision)
	assert.Equal(t, first+1, l.State().Revision)
	by.Digest = "of another"
	_, err = l.Apply(t.Context(), by, first, "E", change)
	assert.ErrorIs(t, err, live.ErrOtherEdit)
}
