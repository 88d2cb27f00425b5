package apitest

import (
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"net/url"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
)

// Answer is what came back.
type Answer struct {
	Status int
	Header http.Header
	Body   map[string]any // where it is an object
	Text   string
}

// Rows are the keys of a list of the backlog.
func (a Answer) Rows() []string {
	var keys []string
	for _, key := range a.Body["rows"].([]any) {
		keys = append(keys, key.(string))
	}
	return keys
}

// List are the objects of an answer that is a list.
func List(t testing.TB, a Answer) (list []map[string]any) {
	t.Helper()
	require.NoError(t, json.Unmarshal([]byte(a.Text), &list), a.Text)
	return list
}

// Nobody has no session.
var Nobody = &http.Client{}

// Call asks as who is signed in at that server. Headers are names and values in turn.
func Call(t testing.TB, method, at, body string, header ...string) Answer {
	t.Helper()
	parsed, err := url.Parse(at)
	require.NoError(t, err)
	who, _ := signedIn.Load(parsed.Host)
	require.NotNil(t, who, "nobody is signed in at %s", at)
	return As(t, who.(*http.Client), method, at, body, header...)
}

// As asks as somebody.
func As(t testing.TB, who *http.Client, method, at, body string, header ...string) Answer {
	t.Helper()
	request, err := http.NewRequestWithContext(t.Context(), method, at, strings.NewReader(body))
	require.NoError(t, err)
	if body != "" {
		request.Header.Set("Content-Type", "application/json")
	}
	for i := 0; i+1 < len(header); i += 2 {
		request.Header.Set(header[i], header[i+1])
	}
	response, err := who.Do(request)
	require.NoError(t, err)
	defer func() { _ = response.Body.Close() }()
	text, err := io.ReadAll(response.Body)
	require.NoError(t, err)
	a := Answer{Status: response.StatusCode, Header: response.Header, Text: string(text)}
	_ = json.Unmarshal(text, &a.Body)
	return a
}

// OK is Call, and fails where it is refused.
func OK(t testing.TB, method, at, body string) Answer {
	t.Helper()
	got := Call(t, method, at, body)
	require.Less(t, got.Status, 300, got.Text)
	return got
}

// Set is a change of a field of an item, as a format: its key, the field, the value as JSON.
const Set = `{"op":"set","kind":"item","key":%q,"field":%q,"value":%s}`

// Edit is a request to make changes as a client, on a revision.
func Edit(client string, revision int, changes ...string) string {
	return fmt.Sprintf(`{"client":%q,"revision":%d,"label":"Edit","changes":[%s]}`, client, revision, strings.Join(changes, ","))
}

// Mean says an intent as client a.
func Mean(t testing.TB, at, intent string, revision int, more, body string) Answer {
	t.Helper()
	if more != "" {
		more += ","
	}
	return Call(t, http.MethodPost, at+"/do/"+intent, fmt.Sprintf(`{"client":"a","revision":%d,%s"intent":%s}`, revision, more, body))
}

// Token makes a token and returns the header that it is sent in.
func Token(t testing.TB, who *http.Client, at, role string) []string {
	t.Helper()
	made := As(t, who, http.MethodPost, at+"/tokens", fmt.Sprintf(`{"name":"Report","role":%q,"expires":%q}`, role, time.Now().AddDate(0, 0, 9).Format("2006-01-02")))
	require.Equal(t, http.StatusCreated, made.Status, made.Text)
	return []string{"Authorization", "Bearer " + made.Body["token"].(string)}
}

// Plain is a value as JSON has it, so that answers can be compared.
func Plain(t testing.TB, v any) string {
	t.Helper()
	text, err := json.Marshal(v)
	require.NoError(t, err)
	return string(text)
}

// Ticking is a clock that goes on by a second each time it is looked at.
func Ticking() func() time.Time {
	now := time.Date(2027, 3, 2, 12, 0, 0, 0, time.UTC)
	return func() time.Time {
		now = now.Add(time.Second)
		return now
	}
}

// Computes skips a test that computes much and does little at once when only the latter is asked about: with the race
// detector.
func Computes(t *testing.T) {
	t.Helper()
	if testing.Short() {
		t.Skip("computes much, does little at once")
	}
}
