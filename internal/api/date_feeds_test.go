package api_test

import (
	"fmt"
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/roles"
	"jantrel/core/sample"
	"jantrel/internal/demo"
)

// A calendar fetches what is due of one's own at a private address, until that is ended or one leaves the program.
func TestDateFeeds(t *testing.T) {
	h := newHarbour(t, demo.Program(sample.Today))
	url, enter := crewOf(t, h)
	member, viewer := enter("member", roles.Member, "p13"), enter("viewer", roles.Viewer, "")
	address := func(who *http.Client, what string) (string, string) {
		made := as(t, who, http.MethodPost, url+"/date-feeds", `{"what":`+what+`}`)
		require.Equal(t, http.StatusCreated, made.status, made.text)
		return strings.TrimSuffix(url, "/api/v1/programs/1") + made.body["path"].(string), fmt.Sprintf("%s/date-feeds/%v", url, made.body["id"])
	}
	all, ended := address(member, `["iterations","releases","milestones","mine"]`)
	read := as(t, nobody, http.MethodGet, all, "")
	require.Equal(t, http.StatusOK, read.status)
	assert.Equal(t, as(t, member, http.MethodGet, url+"/reports/dates?what=iterations&what=releases&what=milestones&what=mine", "").text, read.text, "as the file that one fetches oneself")
	some, _ := address(viewer, `["milestones"]`)
	milestones := as(t, nobody, http.MethodGet, some, "").text
	assert.Contains(t, milestones, "Harbour trial")
	assert.NotContains(t, milestones, "First Light")
	list := as(t, member, http.MethodGet, url+"/date-feeds", "").text
	assert.Contains(t, list, `"readAt"`)
	assert.NotContains(t, list, `"path"`, "it is told once")
	assert.Equal(t, http.StatusUnprocessableEntity, as(t, member, http.MethodPost, url+"/date-feeds", `{"what":["people"]}`).status)

	require.Less(t, as(t, viewer, http.MethodDelete, ended, "").status, 300)
	assert.Equal(t, http.StatusOK, as(t, nobody, http.MethodGet, all, "").status, "it is not theirs to end")
	require.Less(t, as(t, member, http.MethodDelete, ended, "").status, 300)
	assert.Equal(t, http.StatusNotFound, as(t, nobody, http.MethodGet, all, "").status)
	a, err := h.hub.Store().AccountBy(t.Context(), "login", "viewer")
	require.NoError(t, err)
	require.NoError(t, h.hub.Store().RemoveMembership(t.Context(), a.ID, 1))
	assert.Equal(t, http.StatusNotFound, as(t, nobody, http.MethodGet, some, "").status)
	for range 10 {
		address(member, `["mine"]`)
	}
	assert.Equal(t, http.StatusConflict, as(t, member, http.MethodPost, url+"/date-feeds", `{"what":["mine"]}`).status)
}
