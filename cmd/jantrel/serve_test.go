package main_test

import (
	"bufio"
	"io"
	"net"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"syscall"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A server makes a backup when one is due, serves metrics on an address of their own, and
// nowhere else.
func TestBackupsAndMetricsOfAServer(t *testing.T) {
	data := filepath.Join(t.TempDir(), "data")
	_, errs, code := run(t, document(t), "import", "-", "--data", data)
	require.Zero(t, code, errs)
	_, errs, code = run(t, password, "user", "add", "ann", "Ann", "--admin", "--data", data)
	require.Zero(t, code, errs)
	free, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	at := free.Addr().String()
	require.NoError(t, free.Close())
	cmd := exec.Command(binary, "serve", "--data", data, "--addr", "127.0.0.1:0", "--backup-every", "24h", "--metrics", at)
	out, err := cmd.StdoutPipe()
	require.NoError(t, err)
	log, err := cmd.StderrPipe()
	require.NoError(t, err)
	require.NoError(t, cmd.Start())
	t.Cleanup(func() { _ = cmd.Process.Kill() })
	line, err := bufio.NewReader(out).ReadString('\n')
	require.NoError(t, err)
	url := strings.Fields(line)[3]
	for lines := bufio.NewScanner(log); lines.Scan(); {
		if strings.Contains(lines.Text(), "backup made") {
			break
		}
	}
	made, err := os.ReadDir(filepath.Join(data, "backups"))
	require.NoError(t, err)
	require.Len(t, made, 1)
	restored := filepath.Join(t.TempDir(), "restored")
	_, errs, code = run(t, "", "restore", filepath.Join(data, "backups", made[0].Name()), "--data", restored)
	require.Zero(t, code, errs)
	said, errs, code := run(t, "", "check", "--data", restored)
	require.Zero(t, code, said+errs)

	asAdministrator(t, url)
	read := func(address string) string {
		response, err := http.Get(address)
		require.NoError(t, err)
		text, err := io.ReadAll(response.Body)
		require.NoError(t, err)
		require.NoError(t, response.Body.Close())
		return string(text)
	}
	assert.Contains(t, read("http://"+at+"/metrics"), `operation="/api/v1/sign-in",status="200"} 1`)
	assert.NotContains(t, read(url+"/metrics"), "jantrel_request_seconds")
	require.NoError(t, cmd.Process.Signal(syscall.SIGTERM))
	require.NoError(t, cmd.Wait())
}

func TestFlagsOfBackupsThatMakeNoSense(t *testing.T) {
	for _, flag := range [][]string{{"--backup-every", "5s"}, {"--backup-every", "-1h"}, {"--backups-keep", "-1"}} {
		_, errs, code := run(t, "", append([]string{"demo", "--addr", "127.0.0.1:0"}, flag...)...)
		assert.Equal(t, 1, code)
		assert.Contains(t, errs, "--backup-every is a minute or longer")
	}
}
