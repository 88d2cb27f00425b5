package server_test

import (
	"encoding/csv"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/roles"
	"jantrel/internal/api"
	"jantrel/internal/api/apitest"
	"jantrel/internal/api/server"
	"jantrel/internal/backups"
	"jantrel/internal/store"
)

// Who comes in, who is refused and who changes rights stands in the audit log, by whom and
// from where; what the database refuses does not.
func TestTheAuditLog(t *testing.T) {
	t.Parallel()
	h := apitest.Demo(t)
	ann := h.Client(t, h.Begin(t, "ann", "Ann", ""))
	_, err := h.Accounts.Add(t.Context(), "mia", "Mia", "seven lamps burn", false)
	require.NoError(t, err)
	url := h.URL + "/api/v1"
	mia := h.Client(t, h.Begin(t, "mo", "Mo", roles.Viewer))
	ok := func(got apitest.Answer) apitest.Answer {
		t.Helper()
		require.Less(t, got.Status, 300, got.Text)
		return got
	}
	secret := `{"login":"mia","password":"seven lamps burn"}`
	require.Equal(t, http.StatusUnauthorized, apitest.As(t, apitest.Nobody, http.MethodPost, url+"/sign-in", `{"login":"mia","password":"wrong wrong"}`).Status)
	require.Equal(t, http.StatusUnauthorized, apitest.As(t, apitest.Nobody, http.MethodPost, url+"/sign-in", `{"login":"mia","password":"wrong again"}`).Status)
	ok(apitest.As(t, apitest.Nobody, http.MethodPost, url+"/sign-in", secret))
	bo := ok(apitest.As(t, ann, http.MethodPost, url+"/accounts", `{"login":"bo","name":"Bo","password":"seven lamps burn"}`))
	id := int64(bo.Body["id"].(float64))
	at := fmt.Sprintf("%s/accounts/%d", url, id)
	ok(apitest.As(t, ann, http.MethodPut, at, `{"admin":true,"password":"eight lamps burn"}`))
	ok(apitest.As(t, ann, http.MethodPut, url+"/programs/1/members", `{"login":"bo","role":"team lead"}`))
	ok(apitest.As(t, ann, http.MethodDelete, fmt.Sprintf("%s/programs/1/members/%d", url, id), ""))
	ok(apitest.As(t, ann, http.MethodDelete, at+"/sessions", ""))
	require.Equal(t, http.StatusConflict, apitest.As(t, ann, http.MethodPost, url+"/accounts", `{"login":"bo","name":"Bo","password":"seven lamps burn"}`).Status)
	for range 3 {
		require.Equal(t, http.StatusForbidden, apitest.As(t, mia, http.MethodPost, url+"/programs/1/undo", `{"client":"a"}`).Status)
	}
	bearer := apitest.Token(t, mia, url+"/programs/1", "viewer")
	require.Equal(t, http.StatusForbidden, apitest.As(t, apitest.Nobody, http.MethodGet, url+"/accounts", "", bearer...).Status)
	tokens, err := h.Accounts.Store().Tokens(t.Context(), 3, 1)
	require.NoError(t, err)
	ok(apitest.As(t, mia, http.MethodDelete, fmt.Sprintf("%s/programs/1/tokens/%d", url, tokens[0].ID), ""))
	made := ok(apitest.As(t, ann, http.MethodPost, url+"/programs", `{"name":"=Short \"lived\""}`))
	ok(apitest.As(t, ann, http.MethodDelete, fmt.Sprintf("%s/programs/%v", url, made.Body["id"]), ""))
	ok(apitest.As(t, ann, http.MethodPost, url+"/me/password", `{"present":"","next":"nine lamps burn"}`))
	ok(apitest.As(t, mia, http.MethodPost, url+"/sign-out", `{"everywhere":true}`))

	list, err := h.Accounts.Store().Audit(t.Context(), store.AuditOf{}, 100)
	require.NoError(t, err)
	var told []string
	for _, e := range list {
		told = append(told, strings.Join([]string{e.Account, string(e.Event), e.About, e.Detail}, " | "))
		assert.Equal(t, "127.0.0.1", e.Address)
		assert.Len(t, e.Request, 12)
		assert.NotEmpty(t, e.At)
	}
	assert.Equal(t, []string{
		"mo | signed out |  | everywhere",
		"ann | password changed | ann | ",
		`ann | program deleted | =Short "lived" | `,
		`ann | program made | =Short "lived" | `,
		"mo | token ended | Report | of mo",
		"mo (token Report) | refused |  | Only an administrator of the server may manage accounts.",
		"mo | token made | Report | viewer of Beacon Renewal",
		"mo | refused |  | Nothing was changed: as viewer you may not change anything; ask a program manager.", // once for all three
		"ann | access ended | bo | all sessions",
		"ann | role ended | bo | of Beacon Renewal",
		"ann | role given | bo | team lead of Beacon Renewal",
		"ann | account changed | bo | administrator of the server",
		"ann | password changed | bo | by an administrator",
		"ann | account added | bo | as programs say",
		"mia | signed in |  | ",
		"mia | sign-in refused |  | wrong name or password",
	}, told)

	only := apitest.As(t, ann, http.MethodGet, url+"/audit?event=role+given&account=bo", "")
	assert.Equal(t, 1, strings.Count(only.Text, `"event":"role given"`), only.Text)
	rows, err := csv.NewReader(strings.NewReader(apitest.As(t, ann, http.MethodGet, url+"/audit/export", "").Text)).ReadAll()
	require.NoError(t, err)
	assert.Len(t, rows, len(told)+1)
	assert.Equal(t, []string{"Time", "Event", "Account", "About", "Detail", "Address", "Request"}, rows[0])
	assert.Equal(t, `'=Short "lived"`, rows[3][3], "no formula for a spreadsheet")
}

// The log is read page by page, and the oldest make room.
func TestTheAuditLogIsBounded(t *testing.T) {
	t.Parallel()
	h := apitest.Demo(t)
	ann := h.Client(t, h.Begin(t, "ann", "Ann", ""))
	for i := range 250 {
		require.NoError(t, h.Accounts.Store().Note(t.Context(), time.Now(), store.Audited{Event: store.SignedIn, Account: fmt.Sprint(i), About: strings.Repeat("x", 1000)}))
	}
	seen, before, pages := map[int64]bool{}, int64(0), 0
	for {
		var page server.AuditPage
		got := apitest.As(t, ann, http.MethodGet, fmt.Sprintf("%s/api/v1/audit?before=%d", h.URL, before), "")
		require.NoError(t, json.Unmarshal([]byte(got.Text), &page))
		pages++
		for _, e := range page.Entries {
			assert.False(t, seen[e.ID])
			seen[e.ID], before = true, e.ID
			assert.Less(t, len(e.About), 250)
		}
		if !page.More {
			break
		}
	}
	assert.Len(t, seen, 250)
	assert.Equal(t, 3, pages)
}

// An administrator makes a backup, sees it and takes it along; what it holds is all there was.
func TestBackupsByAButton(t *testing.T) {
	t.Parallel()
	folder := filepath.Join(t.TempDir(), "kept")
	h := apitest.Demo(t, func(o *api.Options) {
		o.Backups = &backups.Keeper{Store: o.Accounts.Store(), Folder: folder, Keep: 2, Clock: apitest.Ticking(), Log: o.Log}
	})
	ann := h.Client(t, h.Begin(t, "ann", "Ann", ""))
	url := h.URL + "/api/v1/backups"
	none := apitest.As(t, ann, http.MethodGet, url, "")
	assert.Contains(t, none.Text, `"list":[]`)
	var name string
	for range 3 {
		made := apitest.As(t, ann, http.MethodPost, url, "")
		require.Equal(t, http.StatusCreated, made.Status, made.Text)
		name = made.Body["name"].(string)
	}
	var listed server.Backups
	require.NoError(t, json.Unmarshal([]byte(apitest.As(t, ann, http.MethodGet, url, "").Text), &listed))
	require.Len(t, listed.List, 2)
	assert.Equal(t, name, listed.List[0].Name)
	assert.Positive(t, listed.Database)
	assert.Positive(t, listed.Room)

	response, err := ann.Get(url + "/" + name)
	require.NoError(t, err)
	defer func() { _ = response.Body.Close() }()
	assert.Equal(t, http.StatusOK, response.StatusCode)
	assert.Contains(t, response.Header.Get("Content-Disposition"), name)
	fetched := filepath.Join(t.TempDir(), "fetched.db")
	file, err := os.Create(fetched)
	require.NoError(t, err)
	n, err := io.Copy(file, response.Body)
	require.NoError(t, err)
	require.NoError(t, file.Close())
	assert.Equal(t, listed.List[0].Size, n)
	data := filepath.Join(t.TempDir(), "data")
	require.NoError(t, store.Restore(t.Context(), fetched, data))
	s, err := store.OpenExisting(data)
	require.NoError(t, err)
	defer func() { _ = s.Close() }()
	p, _, err := s.Load(t.Context(), 1)
	require.NoError(t, err)
	now, _, err := h.Accounts.Store().Load(t.Context(), 1)
	require.NoError(t, err)
	assert.Equal(t, now, p)
	assert.Equal(t, http.StatusNotFound, apitest.As(t, ann, http.MethodGet, url+"/jantrel-20200101-000000.db", "").Status)
	assert.Equal(t, http.StatusNotFound, apitest.As(t, ann, http.MethodGet, url+"/..%2f..%2fjantrel.db", "").Status)
}
