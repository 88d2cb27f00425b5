package programs_test

import (
	"fmt"
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/sample"
	"jantrel/internal/api/apitest"
	"jantrel/internal/demo"
)

// A program starts from a template, from another's set-up, from the sample, or from nothing.
func TestAProgramStartsFromSomething(t *testing.T) {
	t.Parallel()
	server := apitest.Serve(t, demo.Program(sample.Today))
	url := server.URL + "/api/v1/programs"
	assert.Contains(t, apitest.Call(t, http.MethodGet, server.URL+"/api/v1/templates", "").Text, `"key":"two-weeks"`)
	for body, has := range map[string]string{
		`{"name":"From a template","template":"two-and-three"}`: `"key": "three-weeks"`,
		`{"name":"From another","setUpOf":1}`:                   `"name": "Ingrid Oksanen"`,
		`{"name":"The sample","sample":true}`:                   `"title": "Dim ahead of fog"`,
		`{"name":"From nothing"}`:                               `"name": "From nothing"`,
	} {
		got := apitest.Call(t, http.MethodPost, url, body)
		require.Equal(t, http.StatusCreated, got.Status, got.Text)
		document := apitest.Call(t, http.MethodGet, fmt.Sprintf("%s/%v/document", url, got.Body["id"]), "").Text
		assert.Contains(t, document, has, body)
	}
	assert.Equal(t, http.StatusNotFound, apitest.Call(t, http.MethodPost, url, `{"name":"x","setUpOf":99}`).Status)
	assert.Contains(t, apitest.Call(t, http.MethodPost, url, `{"name":"x","template":"none"}`).Text, "There is no template none.")
}
