package main_test

import (
	"bufio"
	"fmt"
	"net/http"
	"os"
	"path/filepath"
	"strings"
	"syscall"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// On a disk that is really full edits are refused with what the matter is, reading and
// signing in go on, pages are told; and once there is room it goes on by itself.
func TestAFullDisk(t *testing.T) {
	disk := t.TempDir()
	if err := syscall.Mount("tmpfs", disk, "tmpfs", 0, "size=8m"); err != nil {
		t.Skip("no disk of its own can be had here:", err)
	}
	t.Cleanup(func() { _ = syscall.Unmount(disk, syscall.MNT_DETACH) })
	data := filepath.Join(disk, "data")
	_, errs, code := run(t, document(t), "import", "-", "--data", data)
	require.Zero(t, code, errs)
	_, errs, code = run(t, password, "user", "add", "ann", "Ann", "--admin", "--data", data)
	require.Zero(t, code, errs)
	cmd, url := start(t, "serve", "--data", data)
	client := asAdministrator(t, url)
	events, err := client.Get(url + "/api/v1/programs/1/events")
	require.NoError(t, err)
	defer func() { _ = events.Body.Close() }()
	stream := bufio.NewScanner(events.Body)
	next := func(text string) {
		for stream.Scan() {
			if strings.Contains(stream.Text(), text) {
				return
			}
		}
		t.Fatalf("the stream ended before %s: %v", text, stream.Err())
	}
	next(`"full":false`)

	junk := filepath.Join(disk, "junk")
	file, err := os.Create(junk)
	require.NoError(t, err)
	for err == nil {
		_, err = file.Write(make([]byte, 4096))
	}
	require.ErrorIs(t, err, syscall.ENOSPC)
	require.NoError(t, file.Close())

	edit := func(n int) *http.Response {
		body := fmt.Sprintf(`{"client":"a","revision":%d,"label":"E","changes":[{"op":"set","kind":"item","key":"LC-8","field":"title","value":"%d %s"}]}`, n, n, strings.Repeat("x", 900))
		response, err := client.Post(url+"/api/v1/programs/1/changes", "application/json", strings.NewReader(body))
		require.NoError(t, err)
		require.NoError(t, response.Body.Close())
		return response
	}
	// What the log of the database has room for still goes in; then nothing does.
	made, refused := int(current(t, client, url)), 0
	for range 2000 {
		response := edit(made)
		if response.StatusCode != http.StatusOK {
			refused = response.StatusCode
			break
		}
		made++
	}
	assert.Equal(t, http.StatusInsufficientStorage, refused)
	assert.EqualValues(t, made, current(t, client, url), "reading goes on, of what was saved")
	next(`"full":true`)
	require.NoError(t, os.Remove(junk))
	next(`"full":false`)
	assert.Equal(t, http.StatusOK, edit(made).StatusCode)
	require.NoError(t, cmd.Process.Signal(syscall.SIGTERM))
	require.NoError(t, cmd.Wait())
	said, errs, code := run(t, "", "check", "--data", data)
	assert.Zero(t, code, said+errs)
}
