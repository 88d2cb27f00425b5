package report_test

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

// A calendar fetches what is due of one's own at a private address, until that is ended or one leaves the program.
func TestDateFeeds(t *testing.T) {
	t.Parallel()
	h := apitest.Demo(t)
	url, enter := h.Crew(t)
	member, viewer := enter("member", roles.Member, "p13"), enter("viewer", roles.Viewer, "")
	address := func(who *http.Client, what string) (string, string) {
		made := apitest.As(t, who, http.MethodPost, url+"/date-feeds", `{"what":`+what+`}`)
		require.Equal(t, http.StatusCreated, made.Status, made.Text)
		return strings.TrimSuffix(url, "/api/v1/programs/1") + made.Body["path"].(string), fmt.Sprintf("%s/date-feeds/%v", url, made.Body["id"])
	}
	all, ended := address(member, `["iterations","releases","milestones","mine"]`)
	read := apitest.As(t, apitest.Nobody, http.MethodGet, all, "")
	require.Equal(t, http.StatusOK, read.Status)
	assert.Equal(t, strings.Count(read.Text, "\n"), strings.Count(read.Text, "\r\n"), "lines end as RFC 5545 has them")
	assert.Equal(t, apitest.As(t, member, http.MethodGet, url+"/reports/dates?what=iterations&what=releases&what=milestones&what=mine", "").Text, read.Text, "as the file that one fetches oneself")
	some, _ := address(viewer, `["milestones"]`)
	milestones := apitest.As(t, apitest.Nobody, http.MethodGet, some, "").Text
	assert.Contains(t, milestones, "Harbour trial")
	assert.NotContains(t, milestones, "First Light")
	list := apitest.As(t, member, http.MethodGet, url+"/date-feeds", "").Text
	assert.Contains(t, list, `"readAt"`)
	assert.NotContains(t, list, `"path"`, "it is told once")
	assert.Equal(t, http.StatusUnprocessableEntity, apitest.As(t, member, http.MethodPost, url+"/date-feeds", `{"what":["people"]}`).Status)

	assert.Equal(t, http.StatusNotFound, apitest.As(t, viewer, http.MethodDelete, ended, "").Status)
	assert.Equal(t, http.StatusOK, apitest.As(t, apitest.Nobody, http.MethodGet, all, "").Status, "it is not theirs to end")
	require.Less(t, apitest.As(t, member, http.MethodDelete, ended, "").Status, 300)
	assert.Equal(t, http.StatusNotFound, apitest.As(t, apitest.Nobody, http.MethodGet, all, "").Status)
	a, err := h.Accounts.Store().AccountBy(t.Context(), "login", "viewer")
	require.NoError(t, err)
	require.NoError(t, h.Accounts.Store().RemoveMembership(t.Context(), a.ID, 1))
	assert.Equal(t, http.StatusNotFound, apitest.As(t, apitest.Nobody, http.MethodGet, some, "").Status)
	for range 10 {
		address(member, `["mine"]`)
	}
	assert.Equal(t, http.StatusConflict, apitest.As(t, member, http.MethodPost, url+"/date-feeds", `{"what":["mine"]}`).Status)
}
