package track_test

import (
	"bytes"
	"encoding/csv"
	"encoding/json"
	"net/http"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"github.com/xuri/excelize/v2"

	"jantrel/core/hours"
	"jantrel/core/roles"
	"jantrel/internal/api/apitest"
	"jantrel/internal/store"
)

// Hours entered in a week stand in the report, in both files, and on the page of one's own.
func TestHoursAreTheSameEverywhere(t *testing.T) {
	t.Parallel()
	h := apitest.Demo(t)
	thandi := h.Begin(t, "thandi", "Thandi", roles.Member)
	require.NoError(t, h.Accounts.Store().SaveMembership(t.Context(), store.Membership{AccountID: thandi.Account.ID, ProgramID: 1, Role: roles.Member, Person: "p13"}))
	who := h.Client(t, thandi)
	url := h.URL + "/api/v1/programs/1"
	enter := func(person, rest string) apitest.Answer {
		return apitest.As(t, who, http.MethodPost, url+"/do/enter-time", `{"client":"a","revision":0,"intent":{"person":"`+person+`","date":"2027-03-02","item":"MA-5",`+rest+`}}`)
	}
	require.Equal(t, http.StatusOK, enter("p13", `"task":"Draw the notice card","hours":1.5,"less":true,"note":"in ink"`).Status)
	assert.Equal(t, http.StatusForbidden, enter("p11", `"hours":1`).Status, "others enter their own")
	assert.Equal(t, http.StatusUnprocessableEntity, enter("p13", `"hours":30`).Status)

	var week struct {
		hours.Week
		May bool
	}
	got := apitest.As(t, who, http.MethodGet, url+"/hours-week?person=p13", "")
	require.NoError(t, json.Unmarshal([]byte(got.Text), &week))
	assert.True(t, week.May)
	var row hours.Row
	for _, r := range week.Rows {
		if r.Item == "MA-5" {
			row = r
		}
	}
	assert.Equal(t, 1.5, row.Hours[1])
	assert.Equal(t, "in ink", row.Notes[1])
	assert.Equal(t, 0.5, *row.Left, "of the two hours that were left")
	var own struct {
		Programs []struct {
			Mine struct {
				Spent float64
				Going []struct{ Tasks []struct{ Spent float64 } }
			}
		}
	}
	require.NoError(t, json.Unmarshal([]byte(apitest.As(t, who, http.MethodGet, h.URL+"/api/v1/watch", "").Text), &own))
	assert.Equal(t, week.Spent, own.Programs[0].Mine.Spent)
	assert.Equal(t, 1.5, own.Programs[0].Mine.Going[0].Tasks[0].Spent)
	require.NoError(t, json.Unmarshal([]byte(apitest.As(t, who, http.MethodGet, url+"/hours-week?person=p11", "").Text), &week))
	assert.False(t, week.May)
	assert.Equal(t, http.StatusNotFound, apitest.As(t, who, http.MethodGet, url+"/hours-week?person=gone", "").Status)

	const days = "from=2027-02-01&to=2027-03-07&people=p13&people=p11"
	for _, by := range hours.Splits {
		var report hours.Report
		require.NoError(t, json.Unmarshal([]byte(apitest.As(t, who, http.MethodGet, url+"/hours?"+days+"&by="+string(by), "").Text), &report))
		records, err := csv.NewReader(strings.NewReader(apitest.As(t, who, http.MethodGet, url+"/reports/hours?format=csv&"+days+"&by="+string(by), "").Text)).ReadAll()
		require.NoError(t, err)
		spent, planned, last := 0.0, 0.0, len(records[0])-1
		for _, r := range records[1:] {
			hours, err := strconv.ParseFloat(r[last], 64)
			require.NoError(t, err)
			spent += hours
			hours, err = strconv.ParseFloat(r[last-1], 64)
			require.NoError(t, err)
			planned += hours
		}
		assert.InDelta(t, report.All.Spent, spent, 1e-6, by)
		assert.InDelta(t, report.All.Planned, planned, 0.1, by)
		assert.Greater(t, spent, 50.0)
	}
	file := apitest.As(t, who, http.MethodGet, url+"/reports/hours?"+days, "")
	require.Equal(t, http.StatusOK, file.Status)
	book, err := excelize.OpenReader(bytes.NewReader([]byte(file.Text)))
	require.NoError(t, err)
	assert.Equal(t, []string{"By person", "By team", "By item", "By activity", "Sizes", "Entries", "Charts"}, book.GetSheetList())
	entries, err := book.GetRows("Entries")
	require.NoError(t, err)
	assert.Equal(t, []string{"2027-03-02", "Thandi Mokwena", "MA-5", "Push a notice within a minute", "Draw the notice card", "", "1.5", "in ink"}, entries[len(entries)-2])
	assert.Equal(t, http.StatusUnprocessableEntity, apitest.As(t, who, http.MethodGet, url+"/hours?from=2020-01-01&to=2027-03-07", "").Status)
}
