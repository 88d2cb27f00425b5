package report_test

import (
	"fmt"
	"net/http"
	"strings"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/roles"
	"jantrel/internal/api"
	"jantrel/internal/api/apitest"
	"jantrel/internal/api/door"
	"jantrel/internal/store"
)

// letIn makes a link of each kind in somebody's name, and returns where they lead.
func letIn(t *testing.T, url string, who *http.Client) []string {
	t.Helper()
	at := strings.TrimSuffix(url, "/api/v1/programs/1")
	made := apitest.As(t, who, http.MethodPost, url+"/briefs", `{}`)
	brief := fmt.Sprintf("%s/briefs/%v", url, made.Body["id"])
	require.Equal(t, http.StatusOK, apitest.As(t, who, http.MethodPost, brief+"/publish", `{"version":1}`).Status)
	link := apitest.As(t, who, http.MethodPost, brief+"/links", "")
	require.Equal(t, http.StatusCreated, link.Status, link.Text)
	page := apitest.As(t, who, http.MethodPost, url+"/pages", fmt.Sprintf(aPage, `,"shared":"read"`))
	screen := apitest.As(t, who, http.MethodPost, fmt.Sprintf("%s/pages/%v/screens", url, page.Body["id"]), `{"seconds":20,"dimFrom":0,"dimTo":0}`)
	require.Equal(t, http.StatusCreated, screen.Status, screen.Text)
	_, secret, _ := strings.Cut(screen.Body["path"].(string), "#")
	dates := apitest.As(t, who, http.MethodPost, url+"/date-feeds", `{"what":["releases"]}`)
	require.Equal(t, http.StatusCreated, dates.Status, dates.Text)
	return []string{at + link.Body["path"].(string), at + "/api/v1/shared/" + secret + "/screen", at + dates.Body["path"].(string)}
}

func opens(t *testing.T, addresses []string, status int) {
	t.Helper()
	for _, address := range addresses {
		assert.Equal(t, status, apitest.As(t, apitest.Nobody, http.MethodGet, address, "").Status, address)
	}
}

// Whoever manages a program sees every link of it and ends any; others see and end their own, whatever they are by now.
// Links do not outlive belonging to the program: who comes back finds none.
func TestLinksOutliveNobody(t *testing.T) {
	t.Parallel()
	h := apitest.Demo(t)
	url, enter := h.Crew(t)
	manager, lead, member := enter("manager", roles.Manager, ""), enter("lead", roles.Lead, "p01"), enter("member", roles.Member, "p13")
	leads := letIn(t, url, lead)
	opens(t, leads, http.StatusOK)

	list := apitest.As(t, manager, http.MethodGet, url+"/links", "")
	require.Equal(t, http.StatusOK, list.Status, list.Text)
	var told []string
	for _, l := range apitest.List(t, list) {
		told = append(told, fmt.Sprintf("%v %v %v %v", l["kind"], l["to"], l["by"], l["mine"]))
		assert.NotEmpty(t, l["usedAt"])
		assert.Equal(t, "Beacon Renewal", l["in"])
	}
	assert.Equal(t, []string{"brief Plan of Beacon Renewal lead <nil>", "screen Weekly lead <nil>", "dates <nil> lead <nil>"}, told)
	assert.NotContains(t, list.Text, "path", "it is told once, to its maker")
	assert.Empty(t, apitest.List(t, apitest.As(t, member, http.MethodGet, url+"/links", "")))
	mine := apitest.List(t, apitest.As(t, lead, http.MethodGet, url+"/links", ""))
	require.Len(t, mine, 3)
	assert.Equal(t, true, mine[0]["mine"])

	at := func(l map[string]any) string { return fmt.Sprintf("%s/links/%v", url, l["id"]) }
	assert.Equal(t, http.StatusForbidden, apitest.As(t, member, http.MethodDelete, at(mine[0]), "").Status)
	assert.Equal(t, http.StatusNotFound, apitest.As(t, manager, http.MethodDelete, url+"/links/0", "").Status)
	require.Less(t, apitest.As(t, manager, http.MethodDelete, at(mine[2]), "").Status, 300)
	opens(t, leads[2:], http.StatusNotFound)
	opens(t, leads[:2], http.StatusOK)

	// Who only looks by now still ends what they made.
	db := h.Accounts.Store()
	a, err := db.AccountBy(t.Context(), "login", "lead")
	require.NoError(t, err)
	require.NoError(t, db.SaveMembership(t.Context(), store.Membership{AccountID: a.ID, ProgramID: 1, Role: roles.Viewer}))
	require.Less(t, apitest.As(t, lead, http.MethodDelete, at(mine[1]), "").Status, 300)
	opens(t, leads[1:2], http.StatusNotFound)

	require.NoError(t, db.RemoveMembership(t.Context(), a.ID, 1))
	opens(t, leads, http.StatusNotFound)
	require.NoError(t, db.SaveMembership(t.Context(), store.Membership{AccountID: a.ID, ProgramID: 1, Role: roles.Viewer}))
	opens(t, leads, http.StatusNotFound)
	assert.Empty(t, apitest.List(t, apitest.As(t, manager, http.MethodGet, url+"/links", "")))

	var noted []string
	audit, err := db.Audit(t.Context(), store.AuditOf{}, 20)
	require.NoError(t, err)
	for _, e := range audit {
		if e.Event == store.LinkMade || e.Event == store.LinkEnded {
			noted = append(noted, fmt.Sprint(e.Account, " | ", e.Event, " | ", e.About, " | ", e.Detail))
		}
	}
	assert.Equal(t, []string{
		"lead | link ended | lead | screen “Weekly” of Beacon Renewal",
		"manager | link ended | lead | dates of Beacon Renewal",
		"lead | link made | lead | dates of Beacon Renewal",
		"lead | link made | lead | screen “Weekly” of Beacon Renewal",
		"lead | link made | lead | brief “Plan of Beacon Renewal” of Beacon Renewal",
	}, noted)
}

// An account's access shows what it made in every program, and administrators of the server end it; who is no
// administrator any more has nothing left where they do not belong.
func TestLinksOfAnAccount(t *testing.T) {
	t.Parallel()
	h := apitest.Demo(t)
	url, _ := h.Crew(t)
	root := h.Client(t, h.Begin(t, "root", "Root", ""))
	in := h.Begin(t, "other", "Other", "")
	of := fmt.Sprintf("%s/accounts/%d", h.URL+"/api/v1", in.Account.ID)
	require.NoError(t, changed(t, h, in.Account.ID, true))
	links := letIn(t, url, h.Client(t, in))
	opens(t, links, http.StatusOK)
	access := apitest.As(t, root, http.MethodGet, of+"/access", "").Body["links"].([]any)
	require.Len(t, access, 3)
	require.Less(t, apitest.As(t, root, http.MethodDelete, fmt.Sprintf("%s/links/%v", of, access[0].(map[string]any)["id"]), "").Status, 300)
	opens(t, links[:1], http.StatusNotFound)
	opens(t, links[1:], http.StatusOK)
	require.NoError(t, changed(t, h, in.Account.ID, false))
	require.NoError(t, changed(t, h, in.Account.ID, true))
	opens(t, links, http.StatusNotFound)
}

func changed(t *testing.T, h *apitest.Harbour, account int64, admin bool) error {
	_, err := h.Accounts.Store().ChangeAccount(t.Context(), account, store.AccountChange{Admin: &admin})
	return err
}

// Many who follow a link at once, and edits meanwhile: nobody is told that the database is busy, whoever follows it more
// often than a person does is told to wait, and so is a network that tries one secret after the other.
func TestManyFollowALink(t *testing.T) {
	t.Parallel()
	quotas := door.Usual(600)
	h := apitest.Demo(t, func(o *api.Options) { o.Quotas = quotas })
	url, enter := h.Crew(t)
	lead := enter("lead", roles.Lead, "p01")
	links := letIn(t, url, lead)
	var wait sync.WaitGroup
	var mu sync.Mutex
	answers := map[int]int{}
	note := func(got apitest.Answer) {
		mu.Lock()
		defer mu.Unlock()
		answers[got.Status]++
		if got.Status == http.StatusTooManyRequests {
			assert.NotEmpty(t, got.Header.Get("Retry-After"))
		}
	}
	for i := range 30 {
		wait.Go(func() {
			for range 5 {
				note(apitest.As(t, apitest.Nobody, http.MethodGet, links[i%3], ""))
			}
		})
	}
	for i := range 10 {
		got := apitest.As(t, lead, http.MethodPost, url+"/changes", fmt.Sprintf(`{"client":"c","revision":%d,"label":"x","changes":[{"op":"set","kind":"item","key":"LC-8","field":"title","value":"Fog bell %d"}]}`, h.Revision(t), i))
		assert.Less(t, got.Status, 300, got.Text)
	}
	wait.Wait()
	for status := range answers {
		assert.Contains(t, []int{http.StatusOK, http.StatusTooManyRequests}, status)
	}
	assert.Equal(t, 150, answers[http.StatusOK], "who comes as often as people do is let in")
	for range quotas.LinkAtOnce {
		note(apitest.As(t, apitest.Nobody, http.MethodGet, links[2], ""))
	}
	assert.Positive(t, answers[http.StatusTooManyRequests])
	refused := 0
	for range quotas.NetworkAtOnce + 100 {
		if apitest.As(t, apitest.Nobody, http.MethodGet, links[0]+"x", "").Status == http.StatusTooManyRequests {
			refused++
		}
	}
	assert.Positive(t, refused, "guessing is slowed down too")
	assert.Less(t, apitest.As(t, lead, http.MethodGet, url+"/links", "").Status, 300, "who has signed in is not meant")
}
