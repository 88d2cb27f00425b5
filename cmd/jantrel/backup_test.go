package main_test

import (
	"encoding/json"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"strings"
	"sync"
	"syscall"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A drill: edits go on while a backup is made; restored, it serves everything that had been
// acknowledged before, with its journal, accounts and files, and nothing half of what came after.
func TestBackupAndRestore(t *testing.T) {
	folder, file := t.TempDir(), filepath.Join(t.TempDir(), "all.backup")
	_, url := start(t, "demo", "--data", folder)
	client := inDemo(t, url, "matthias")
	post := func(url, path, body, kind string) {
		t.Helper()
		response, err := client.Post(url+path, kind, strings.NewReader(body))
		require.NoError(t, err)
		require.Less(t, response.StatusCode, 300, path)
		require.NoError(t, response.Body.Close())
	}
	before, _ := past()
	rename := func(n int) {
		post(url, "/api/v1/programs/1/changes", fmt.Sprintf(`{"client":"a","revision":%d,"label":"Name","changes":[{"op":"set","kind":"program","field":"name","value":"Name %d"}]}`, before+n, n+1), "application/json")
	}
	for n := range 20 {
		rename(n)
	}
	post(url, "/api/v1/programs/1/attachments?item=LC-8&name=plan.txt", "the plan", "application/octet-stream")
	var both sync.WaitGroup
	both.Go(func() {
		for n := 20; n < 60; n++ {
			rename(n)
		}
	})
	out, errs, code := run(t, "", "backup", file, "--data", folder)
	both.Wait()
	require.Zero(t, code, errs)
	assert.Contains(t, out, "holds all of")
	_, errs, code = run(t, "", "backup", file, "--data", folder)
	assert.Equal(t, 1, code)
	assert.Contains(t, errs, "never overwrites anything")
	_, errs, code = run(t, "", "restore", file, "--data", folder)
	assert.Equal(t, 1, code)
	assert.Contains(t, errs, "another server runs on the data folder")

	back := filepath.Join(t.TempDir(), "back")
	_, errs, code = run(t, "", "restore", file, "--data", back)
	require.Zero(t, code, errs)
	_, errs, code = run(t, "", "restore", file, "--data", back)
	assert.Equal(t, 1, code)
	assert.Contains(t, errs, "there is a database in")
	out, errs, code = run(t, "", "check", "--data", back)
	require.Zero(t, code, out+errs)
	whole, err := os.ReadFile(file)
	require.NoError(t, err)
	for name, text := range map[string]string{"nothing": "", "a text": "SQLite format 3\x00, and no more", "half of it": string(whole[:len(whole)/2])} {
		wrong := filepath.Join(t.TempDir(), "wrong")
		require.NoError(t, os.WriteFile(wrong, []byte(text), 0o600))
		at := t.TempDir()
		_, errs, code = run(t, "", "restore", wrong, "--data", at)
		assert.Equal(t, 1, code, name)
		assert.Contains(t, errs, "nothing was restored", name)
		left, err := os.ReadDir(at)
		require.NoError(t, err)
		assert.Len(t, left, 1, "%s: the lock alone", name)
	}

	_, url = start(t, "demo", "--data", back)
	client = inDemo(t, url, "matthias")
	response, err := client.Get(url + "/api/v1/programs/1")
	require.NoError(t, err)
	var restored struct {
		Revision int
		Program  struct{ Name string }
	}
	require.NoError(t, json.NewDecoder(response.Body).Decode(&restored))
	require.NoError(t, response.Body.Close())
	assert.GreaterOrEqual(t, restored.Revision, before+20)
	assert.Equal(t, fmt.Sprint("Name ", restored.Revision-before), restored.Program.Name)
	response, err = client.Get(url + "/api/v1/programs/1/attachments/1")
	require.NoError(t, err)
	text, err := io.ReadAll(response.Body)
	require.NoError(t, err)
	require.NoError(t, response.Body.Close())
	assert.Equal(t, "the plan", string(text))
	post(url, "/api/v1/programs/1/changes", fmt.Sprintf(`{"client":"a","revision":%d,"label":"Name","changes":[{"op":"set","kind":"program","field":"name","value":"Goes on"}]}`, restored.Revision), "application/json")
}

// A server that is killed leaves its last edits in a log beside the database. Where one of the two is moved away without
// the other, nothing is opened and nothing restored, and the log stays; together they are all there was.
func TestNothingIsRestoredBesideTheLogOfAnother(t *testing.T) {
	data, file, away := filepath.Join(t.TempDir(), "data"), filepath.Join(t.TempDir(), "all.backup"), t.TempDir()
	server, url := start(t, "demo", "--data", data)
	before, _ := past()
	rename := func(n int) {
		response, err := inDemo(t, url, "matthias").Post(url+"/api/v1/programs/1/changes", "application/json", strings.NewReader(fmt.Sprintf(
			`{"client":"a","revision":%d,"label":"Name","changes":[{"op":"set","kind":"program","field":"name","value":"Name %d"}]}`, before+n, n)))
		require.NoError(t, err)
		require.NoError(t, response.Body.Close())
		require.Equal(t, 200, response.StatusCode)
	}
	rename(0)
	_, errs, code := run(t, "", "backup", file, "--data", data)
	require.Zero(t, code, errs)
	rename(1)
	require.NoError(t, server.Process.Signal(syscall.SIGKILL))
	_ = server.Wait()

	_, errs, code = run(t, "", "restore", file, "--data", data)
	assert.Equal(t, 1, code)
	for _, name := range []string{"jantrel.db", "jantrel.db-wal", "together"} {
		assert.Contains(t, errs, name)
	}
	move := func(from, to, name string) {
		require.NoError(t, os.Rename(filepath.Join(from, name), filepath.Join(to, name)))
	}
	move(data, away, "jantrel.db")
	log, err := os.ReadFile(filepath.Join(data, "jantrel.db-wal"))
	require.NoError(t, err)
	require.NotEmpty(t, log)
	for _, command := range [][]string{{"restore", file}, {"check"}, {"backup", file + "2"}, {"demo", "--addr", "127.0.0.1:0"}, {"serve", "--addr", "127.0.0.1:0"}, {"user", "list"}} {
		_, errs, code := run(t, "", append(command, "--data", data)...)
		assert.Equal(t, 1, code, command)
		assert.Contains(t, errs, "jantrel.db-wal", command)
		assert.Contains(t, errs, "of a database that is not there", command)
	}
	now, err := os.ReadFile(filepath.Join(data, "jantrel.db-wal"))
	require.NoError(t, err)
	assert.Equal(t, log, now, "the log stays as it was")

	// All of it is moved away: what is restored is as it was, and so is what was moved.
	move(data, away, "jantrel.db-wal")
	move(data, away, "jantrel.db-shm")
	_, errs, code = run(t, "", "restore", file, "--data", data)
	require.Zero(t, code, errs)
	for at, name := range map[string]string{data: "Name 0", away: "Name 1"} {
		out, errs, code := run(t, "", "check", "--data", at)
		require.Zero(t, code, out+errs)
		assert.Contains(t, out, name)
	}
}
