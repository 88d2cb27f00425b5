package watch_test

import (
	"encoding/json"
	"fmt"
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/program"
	"jantrel/core/roles"
	"jantrel/core/sample"
	"jantrel/internal/api/apitest"
	"jantrel/internal/api/watch"
	"jantrel/internal/demo"
	"jantrel/internal/store"
)

// What concerns one comes of all programs in which one is somebody, and of no others; what one may
// do there is what is not refused.
func TestTheWatchOfOnesOwn(t *testing.T) {
	t.Parallel()
	h := apitest.Demo(t)
	second, err := h.Hub.Create(t.Context(), demo.Program(sample.Today))
	require.NoError(t, err)
	secret, err := h.Hub.Create(t.Context(), program.Program{Name: "Secret"}.Normal())
	require.NoError(t, err)
	thandi := h.Begin(t, "thandi", "Thandi", roles.Member)
	save := func(id int64, person string) {
		require.NoError(t, h.Accounts.Store().SaveMembership(t.Context(), store.Membership{AccountID: thandi.Account.ID, ProgramID: id, Role: roles.Member, Person: person}))
	}
	save(1, "p13")
	save(second, "")
	who := h.Client(t, thandi)
	read := func() (found watch.Found) {
		got := apitest.As(t, who, http.MethodGet, h.URL+"/api/v1/watch", "")
		require.Equal(t, http.StatusOK, got.Status, got.Text)
		require.NoError(t, json.Unmarshal([]byte(got.Text), &found))
		return found
	}
	require.Len(t, read().Programs, 1, "in the other one she is nobody")
	save(second, "p13")
	found := read()
	require.Len(t, found.Programs, 2)
	for _, p := range found.Programs {
		assert.NotEqual(t, secret, p.ID)
	}
	mine := found.Programs[0]
	assert.Equal(t, []string{"KC-6", "MA-7"}, mine.Moves)
	assert.Equal(t, "MA-5", mine.Mine.Going[0].Item)
	assert.NotContains(t, mine.Works, "MA-5", "of which only one task is hers")

	do := func(task int, title string) apitest.Answer {
		body := fmt.Sprintf(`{"client":"a","revision":0,"intent":{"item":"MA-5","task":%d,"title":%q,"done":true}}`, task, title)
		return apitest.As(t, who, http.MethodPost, h.URL+"/api/v1/programs/1/do/work-on-task", body)
	}
	assert.Equal(t, http.StatusOK, do(0, "Draw the notice card").Status)
	assert.Equal(t, http.StatusForbidden, do(1, "Send it within a minute").Status)
	after := read()
	assert.True(t, after.Programs[0].Mine.Going[0].Tasks[0].Done)
	assert.False(t, after.Programs[1].Mine.Going[0].Tasks[0].Done, "it is another program")
	assert.Zero(t, after.Programs[0].Mine.Hours)
}

// Whose first page is their watch: who is a member somewhere as somebody, and no more anywhere.
func TestWhoBeginsWithTheirWatch(t *testing.T) {
	t.Parallel()
	h := apitest.Demo(t)
	second, err := h.Hub.Create(t.Context(), program.Program{Name: "Second"}.Normal())
	require.NoError(t, err)
	bo := h.Begin(t, "bo", "Bo", roles.Member)
	begins := func() bool {
		var me struct{ Watch bool }
		got := apitest.As(t, h.Client(t, bo), http.MethodGet, h.URL+"/api/v1/me", "")
		require.NoError(t, json.Unmarshal([]byte(got.Text), &me), got.Text)
		return me.Watch
	}
	save := func(id int64, role roles.Role, person string) {
		require.NoError(t, h.Accounts.Store().SaveMembership(t.Context(), store.Membership{AccountID: bo.Account.ID, ProgramID: id, Role: role, Person: person}))
	}
	save(1, roles.Member, "")
	assert.False(t, begins(), "nobody knows which person")
	save(1, roles.Member, "p13")
	assert.True(t, begins())
	save(second, roles.Viewer, "")
	assert.True(t, begins())
	save(second, roles.Manager, "")
	assert.False(t, begins())
}

// News are what others did that concerns one, until one has seen them; and nobody else's.
func TestNewsUntilTheyAreSeen(t *testing.T) {
	t.Parallel()
	h := apitest.Demo(t)
	begin := func(login, name, person string, role roles.Role) *http.Client {
		who := h.Begin(t, login, name, role)
		require.NoError(t, h.Accounts.Store().SaveMembership(t.Context(), store.Membership{AccountID: who.Account.ID, ProgramID: 1, Role: role, Person: person}))
		return h.Client(t, who)
	}
	thandi, mia := begin("thandi", "Thandi Small", "p13", roles.Member), begin("mia", "Mia", "", roles.Manager)
	read := func(who *http.Client) (found watch.NewsFound) {
		got := apitest.As(t, who, http.MethodGet, h.URL+"/api/v1/news", "")
		require.Equal(t, http.StatusOK, got.Status, got.Text)
		require.NoError(t, json.Unmarshal([]byte(got.Text), &found))
		return found
	}
	require.Empty(t, read(mia).Programs, "she is none of its people")
	require.Empty(t, read(thandi).Programs[0].News)
	name := demo.Program(sample.Today).People[12].Name
	comment := func(key, on, text string) string {
		value := fmt.Sprintf(`{"key":%q,"item":%q,"by":"","text":%q}`, key, on, text)
		return fmt.Sprintf(`{"op":"add","kind":"comment","in":%q,"key":%q,"value":%s}`, on, key, value)
	}
	send := func(who *http.Client, change string) {
		got := apitest.As(t, who, http.MethodPost, h.URL+"/api/v1/programs/1/changes", apitest.Edit("a", int(h.Revision(t)), change))
		require.Equal(t, http.StatusOK, got.Status, got.Text)
	}
	send(mia, comment("c1", "LC-8", "Ask @"+name+" about the lens"))
	send(thandi, comment("c2", "LC-8", "@"+name+" knows"))
	send(mia, fmt.Sprintf(apitest.Set, "MA-5", "title", `"Notice cards"`))
	news := read(thandi).Programs[0]
	require.Len(t, news.News, 2, "her own word is none")
	assert.Equal(t, "changed", string(news.News[0].About))
	assert.Equal(t, "mentions you: “Ask @"+name+" about the lens”", news.News[1].Text)
	assert.Equal(t, "Mia", news.News[1].By)

	see := func(revision int64) int {
		return apitest.As(t, thandi, http.MethodPut, h.URL+"/api/v1/programs/1/news-seen", fmt.Sprintf(`{"revision":%d}`, revision)).Status
	}
	assert.Equal(t, http.StatusUnprocessableEntity, see(news.Revision+1))
	require.Equal(t, http.StatusNoContent, see(news.News[1].Revision))
	require.Len(t, read(thandi).Programs[0].News, 1, "what came later stays")
	require.Equal(t, http.StatusNoContent, see(news.Revision))
	require.Equal(t, http.StatusNoContent, see(0), "which does not go back")
	require.Empty(t, read(thandi).Programs[0].News)

	// They do not grow without end.
	for i := range 101 {
		send(mia, fmt.Sprintf(apitest.Set, "MA-5", "title", fmt.Sprintf(`"Cards %d"`, i)))
	}
	news = read(thandi).Programs[0]
	assert.Len(t, news.News, 100)
	assert.True(t, news.More)
}
