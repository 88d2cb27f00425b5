package api_test

import (
	"fmt"
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/sample"
	"jantrel/internal/demo"
)

// A program starts from a template, from another's set-up, from the sample, or from nothing.
func TestAProgramStartsFromSomething(t *testing.T) {
	server := serve(t, demo.Program(sample.Today))
	url := server.URL + "/api/v1/programs"
	assert.Contains(t, call(t, http.MethodGet, server.URL+"/api/v1/templates", "").text, `"key":"two-weeks"`)
	for body, has := range map[string]string{
		`{"name":"From a template","template":"two-and-three"}`: `"key": "three-weeks"`,
		`{"name":"From another","setUpOf":1}`:                   `"name": "Ingrid Oksanen"`,
		`{"name":"The sample","sample":true}`:                   `"title": "Dim ahead of fog"`,
		`{"name":"From nothing"}`:                               `"name": "From nothing"`,
	} {
		got := call(t, http.MethodPost, url, body)
		require.Equal(t, http.StatusCreated, got.status, got.text)
		document := call(t, http.MethodGet, fmt.Sprintf("%s/%v/document", url, got.body["id"]), "").text
		assert.Contains(t, document, has, body)
	}
	assert.Equal(t, http.StatusNotFound, call(t, http.MethodPost, url, `{"name":"x","setUpOf":99}`).status)
	assert.Contains(t, call(t, http.MethodPost, url, `{"name":"x","template":"none"}`).text, "There is no template none.")
}
