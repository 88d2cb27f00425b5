package main_test

import (
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"math/rand/v2"
	"net/http"
	"net/url"
	"path/filepath"
	"strings"
	"sync"
	"syscall"
	"testing"

	"jantrel/core/sample"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// ledger is what a server has acknowledged, by what it was about.
type ledger struct {
	mu     sync.Mutex
	titles map[string]string // of items
	files  map[string]bool   // names
	took   int               // since the last kill
	enough chan struct{}     // closed when it is time to kill
	after  int
}

func (l *ledger) note(do func()) {
	l.mu.Lock()
	defer l.mu.Unlock()
	do()
	if l.took++; l.took == l.after {
		close(l.enough)
	}
}

// A server is killed in the midst of edits, imports, uploads and backups, again and again:
// whatever it acknowledged is there the next time, and what is stored is what was edited.
func TestKillsLoseNothing(t *testing.T) {
	rounds := int(sample.Seeds(200))
	if testing.Short() {
		rounds = 20
	}
	folder := t.TempDir()
	data := filepath.Join(folder, "data")
	_, errs, code := run(t, document(t), "import", "-", "--data", data)
	require.Zero(t, code, errs)
	_, errs, code = run(t, password, "user", "add", "ann", "Ann", "--admin", "--data", data)
	require.Zero(t, code, errs)
	r := rand.New(rand.NewPCG(1, 2))
	book := &ledger{titles: map[string]string{}, files: map[string]bool{}}
	server, base := start(t, "serve", "--data", data)
	client := asAdministrator(t, base)
	cookies := client.Jar.Cookies(mustParse(t, base))
	backups := 0
	for round := range rounds {
		book.took, book.after, book.enough = 0, 3+r.IntN(25), make(chan struct{})
		revision := current(t, client, base)
		send := func(path, kind string, body []byte) bool {
			response, err := client.Post(base+"/api/v1/programs/1"+path, kind, bytes.NewReader(body))
			if err != nil {
				return false
			}
			_, err = io.Copy(io.Discard, response.Body)
			_ = response.Body.Close()
			return err == nil && response.StatusCode < 300
		}
		var at work
		for worker := range 3 { // each with items of its own
			at.Go(func(n int) bool {
				item, title := []string{"LC-8", "TW-5", "LC-5"}[worker], fmt.Sprintf("round %d, %d", round, n)
				change := fmt.Sprintf(`{"client":"c%d","revision":%d,"label":"E","changes":[{"op":"set","kind":"item","key":%q,"field":"title","value":%q}]}`, worker, revision, item, title)
				if !send("/changes", "application/json", []byte(change)) {
					return false
				}
				book.note(func() { book.titles[item] = title })
				return true
			})
		}
		at.Go(func(n int) bool { // a table
			title := fmt.Sprintf("imported in round %d, %d", round, n)
			rows := [][]string{{"LC-6", title}, {"LC-7", title}}
			text, _ := json.Marshal(map[string]any{"client": "i", "revision": revision, "intent": map[string]any{"columns": []string{"key", "title"}, "rows": rows}})
			if !send("/do/take-in", "application/json", text) {
				return false
			}
			book.note(func() { book.titles["LC-6"], book.titles["LC-7"] = title, title })
			return true
		})
		at.Go(func(n int) bool { // a file
			name := fmt.Sprintf("%d-%d.bin", round, n)
			if !send("/attachments?item=LC-8&name="+name, "application/octet-stream", bytes.Repeat([]byte{byte(n)}, 2000)) {
				return false
			}
			book.note(func() { book.files[name] = true })
			return n < 3
		})
		if round%10 == 0 {
			backups++
			path := filepath.Join(folder, fmt.Sprintf("backup-%d", backups))
			at.Go(func(int) bool { // beside the server; what it writes is whole, whatever becomes of that
				_, errs, code := run(t, "", "backup", path, "--data", data)
				assert.Zero(t, code, errs)
				return false
			})
		}
		<-book.enough
		require.NoError(t, server.Process.Signal(syscall.SIGKILL))
		at.Wait()
		_ = server.Wait()

		server, base = start(t, "serve", "--data", data)
		client = &http.Client{Jar: client.Jar}
		client.Jar.SetCookies(mustParse(t, base), cookies)
		compare(t, client, base, book, round)
		if t.Failed() {
			return
		}
	}
	assert.Len(t, book.titles, 5, "edits and imports were acknowledged")
	assert.Greater(t, len(book.files), rounds/2, "and files")
	out, errs, code := run(t, "", "check", "--data", data)
	require.Zero(t, code, out+errs)
	for n := range backups {
		back := filepath.Join(folder, fmt.Sprintf("back-%d", n))
		_, errs, code = run(t, "", "restore", filepath.Join(folder, fmt.Sprintf("backup-%d", n+1)), "--data", back)
		require.Zero(t, code, errs)
		out, errs, code = run(t, "", "check", "--data", back)
		require.Zero(t, code, out+errs)
	}
}

// compare holds what a server has against what was acknowledged. Of what was being sent when
// the server was killed, the newest may be there too.
func compare(t *testing.T, client *http.Client, base string, book *ledger, round int) {
	t.Helper()
	get := func(path string, into any) {
		response, err := client.Get(base + "/api/v1/programs/1" + path)
		require.NoError(t, err)
		defer func() { _ = response.Body.Close() }()
		require.Equal(t, http.StatusOK, response.StatusCode)
		require.NoError(t, json.NewDecoder(response.Body).Decode(into))
	}
	var now struct {
		Program struct{ Items []struct{ Key, Title string } }
	}
	get("", &now)
	for _, item := range now.Program.Items {
		if want := book.titles[item.Key]; want != item.Title && want != "" {
			assert.True(t, follows(want, item.Title), "round %d: %s was %q, and is %q", round, item.Key, want, item.Title)
			book.titles[item.Key] = item.Title
		}
	}
	var files []struct{ Name string }
	get("/attachments?item=LC-8", &files)
	there := map[string]bool{}
	for _, f := range files {
		there[f.Name] = true
	}
	for name := range book.files {
		assert.True(t, there[name], "round %d: the file %s", round, name)
	}
}

// follows reports whether a title is the one after another: of the same round and the next
// number, or the first of a later one.
func follows(before, after string) bool {
	read := func(title string) (round, n int, ok bool) {
		title = strings.TrimPrefix(title, "imported in ")
		_, err := fmt.Sscanf(title, "round %d, %d", &round, &n)
		return round, n, err == nil
	}
	r, n, ok := read(before)
	later, m, ok2 := read(after)
	return ok && ok2 && (later == r && m == n+1 || later > r && m == 0)
}

// work is done over and over, several kinds at once, until it fails or has had enough.
type work struct{ sync.WaitGroup }

func (w *work) Go(do func(n int) bool) {
	w.WaitGroup.Go(func() {
		for n := 0; do(n); n++ {
			continue
		}
	})
}

func mustParse(t *testing.T, address string) *url.URL {
	t.Helper()
	at, err := url.Parse(address)
	require.NoError(t, err)
	return at
}
