package main_test

import (
	"bufio"
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"net"
	"net/http"
	"net/http/cookiejar"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"syscall"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/calendar"
	"jantrel/core/sample"
	"jantrel/internal/demo"
	"jantrel/internal/exchange"
)

// binary is this very test, which TestMain has be the program: nothing else need be compiled.
var binary = func() string {
	path, err := os.Executable()
	if err != nil {
		panic(err)
	}
	return path
}()

// run runs the program to its end.
func run(t *testing.T, stdin string, args ...string) (stdout, stderr string, code int) {
	t.Helper()
	cmd := exec.Command(binary, args...)
	cmd.Dir = t.TempDir()
	cmd.Stdin = strings.NewReader(stdin)
	var out, errs bytes.Buffer
	cmd.Stdout, cmd.Stderr = &out, &errs
	_ = cmd.Run()
	return out.String(), errs.String(), cmd.ProcessState.ExitCode()
}

// start starts a server and returns it with its address.
func start(t *testing.T, args ...string) (*exec.Cmd, string) {
	t.Helper()
	cmd := exec.Command(binary, append(args, "--addr", "127.0.0.1:0", "--today", "2027-03-02")...)
	cmd.Dir = t.TempDir()
	out, err := cmd.StdoutPipe()
	require.NoError(t, err)
	require.NoError(t, cmd.Start())
	t.Cleanup(func() { _ = cmd.Process.Kill() })
	line, err := bufio.NewReader(out).ReadString('\n')
	require.NoError(t, err)
	return cmd, regexp.MustCompile(`http://\S+`).FindString(line)
}

const password = "seven lamps burn"

// signIn returns a client that is signed in: in the demo as one of its accounts,
// else with a password.
func signIn(t *testing.T, url, path, body string) *http.Client {
	t.Helper()
	jar, err := cookiejar.New(nil)
	require.NoError(t, err)
	client := &http.Client{Jar: jar}
	response, err := client.Post(url+path, "application/json", strings.NewReader(body))
	require.NoError(t, err)
	require.Equal(t, http.StatusOK, response.StatusCode)
	require.NoError(t, response.Body.Close())
	return client
}

func asAdministrator(t *testing.T, url string) *http.Client {
	t.Helper()
	return signIn(t, url, "/api/v1/sign-in", `{"login":"ann","password":"`+password+`"}`)
}

func inDemo(t *testing.T, url, login string) *http.Client {
	t.Helper()
	return signIn(t, url, "/api/v1/sign-in/demo", `{"login":"`+login+`"}`)
}

func document(t *testing.T) string {
	t.Helper()
	var out bytes.Buffer
	require.NoError(t, exchange.WriteDocument(&out, demo.Program(sample.Today)))
	return out.String()
}

// An edit that was acknowledged is there after a kill in the middle of a stream
// of them, and the journal with it.
func TestKillLosesNoAcknowledgedEdit(t *testing.T) {
	data := filepath.Join(t.TempDir(), "data")
	_, errs, code := run(t, document(t), "import", "-", "--data", data)
	require.Zero(t, code, errs)
	_, errs, code = run(t, password, "user", "add", "ann", "Ann", "--admin", "--data", data)
	require.Zero(t, code, errs)
	for round := range 3 {
		cmd, url := start(t, "serve", "--data", data)
		client := asAdministrator(t, url)
		revision := current(t, client, url)
		acknowledged := make(chan int64, 10_000)
		go func() {
			defer close(acknowledged)
			for n := revision; ; n++ {
				body := fmt.Sprintf(`{"client":"a","revision":%d,"label":"E","changes":[{"op":"set","kind":"item","key":"LC-8","field":"title","value":"title %d"}]}`, n, n+1)
				response, err := client.Post(url+"/api/v1/programs/1/changes", "application/json", strings.NewReader(body))
				if err != nil {
					return
				}
				_, err = io.Copy(io.Discard, response.Body)
				_ = response.Body.Close()
				if err != nil || response.StatusCode != http.StatusOK {
					return
				}
				acknowledged <- n + 1
			}
		}()
		last := revision
		for range 20 + 7*round {
			last = <-acknowledged
		}
		require.NoError(t, cmd.Process.Signal(syscall.SIGKILL))
		for n := range acknowledged {
			last = n
		}
		_ = cmd.Wait()

		again, url := start(t, "serve", "--data", data)
		client = asAdministrator(t, url)
		now := current(t, client, url)
		assert.GreaterOrEqual(t, now, last)
		assert.LessOrEqual(t, now, last+1, "at most the one that was not acknowledged any more")
		response, err := client.Get(url + "/api/v1/programs/1/document")
		require.NoError(t, err)
		text, err := io.ReadAll(response.Body)
		require.NoError(t, err)
		_ = response.Body.Close()
		assert.Contains(t, string(text), fmt.Sprintf(`"title %d"`, now))
		require.NoError(t, again.Process.Signal(syscall.SIGTERM))
		require.NoError(t, again.Wait(), "SIGTERM is a clean stop")
	}
}

func current(t *testing.T, client *http.Client, url string) int64 {
	t.Helper()
	response, err := client.Get(url + "/api/v1/programs/1")
	require.NoError(t, err)
	defer func() { _ = response.Body.Close() }()
	var body struct{ Revision int64 }
	require.NoError(t, json.NewDecoder(response.Body).Decode(&body))
	return body.Revision
}

func TestImportThenExportGivesTheDocument(t *testing.T) {
	data := filepath.Join(t.TempDir(), "data")
	text := document(t)
	out, errs, code := run(t, text, "import", "-", "--data", data)
	require.Zero(t, code, errs)
	assert.Contains(t, out, "Beacon Renewal is now program 1")
	out, errs, code = run(t, "", "export", "--data", data)
	require.Zero(t, code, errs)
	assert.Equal(t, text, out)
}

func TestDraftAndForecastAFile(t *testing.T) {
	text := document(t)
	one, errs, code := run(t, text, "draft", "-", "--today", "2027-03-02", "--fill-to", "0.8")
	require.Zero(t, code, errs)
	var d struct {
		Score struct {
			LateDays, LateDaysBound                 int
			ExpectedLateDays, ExpectedLateDaysToday float64
		}
		Releases []struct{ Chance, ChanceToday *float64 }
	}
	require.NoError(t, json.Unmarshal([]byte(one), &d))
	assert.GreaterOrEqual(t, d.Score.LateDays, d.Score.LateDaysBound)
	assert.Less(t, d.Score.ExpectedLateDays, d.Score.ExpectedLateDaysToday, "by odds, where nothing is said")
	for _, r := range d.Releases {
		assert.NotNil(t, r.Chance)
		assert.NotNil(t, r.ChanceToday)
	}
	for _, flags := range [][]string{{"--assume-sizes"}, {"--releases", "R1"}, {"--teams", "LC,TW", "--freeze", "1"}, {"--roles"}, {"--leave-agreed"}} {
		out, errs, code := run(t, text, append([]string{"draft", "-", "--today", "2027-03-02", "--aim", "dates", "--time-limit", "100ms"}, flags...)...)
		require.Zero(t, code, errs)
		assert.Equal(t, flags[0] == "--assume-sizes", strings.Contains(out, `"assumed"`), flags)
		assert.Contains(t, out, `"expectedLateDaysBound"`)
	}
	for flag, say := range map[string]string{"--releases": `--releases: no release "nothing"`, "--teams": `--teams: no team "nothing"`, "--items": `--items: no item "nothing"`} {
		_, errs, code := run(t, text, "draft", "-", flag, "nothing")
		assert.NotZero(t, code)
		assert.Contains(t, errs, say)
	}
	_, errs, code = run(t, text, "draft", "-", "--aim", "luck")
	assert.NotZero(t, code)
	assert.Contains(t, errs, "--aim luck is neither odds nor dates")
	a, _, _ := run(t, text, "forecast", "-", "--today", "2027-03-02", "--trials", "500", "--seed", "7", "--release", "R1")
	b, _, _ := run(t, text, "forecast", "-", "--today", "2027-03-02", "--trials", "500", "--seed", "7", "--release", "R1")
	assert.Equal(t, a, b)
	assert.Contains(t, a, `"plays": 500`)
	assert.NotContains(t, a, `"key": "R2"`)
}

func TestWhatGoesWrongIsSaidInOneLine(t *testing.T) {
	taken, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	defer func() { _ = taken.Close() }()
	file := filepath.Join(t.TempDir(), "file")
	require.NoError(t, os.WriteFile(file, []byte("x"), 0o600))
	bad := `{"format":"jantrel-program","version":1,"name":"X","items":[{"key":"A","title":"","kind":"story","team":"LX"}]}`
	kept, inUse := t.TempDir(), t.TempDir()
	_, _, code := run(t, document(t), "import", "-", "--data", kept)
	require.Zero(t, code)
	start(t, "demo", "--data", inUse)
	for name, c := range map[string]struct {
		stdin string
		args  []string
		code  int
		says  string
	}{
		"a port that is taken":    {"", []string{"serve", "--addr", taken.Addr().String()}, 1, "cannot listen on"},
		"a folder that is a file": {"", []string{"serve", "--addr", "127.0.0.1:0", "--data", file}, 1, "cannot be made"},
		"a public address":        {"", []string{"serve", "--addr", "0.0.0.0:0", "--data", t.TempDir()}, 1, "there is no account yet; make one first with: jantrel user add"},
		"a demo for everybody":    {"", []string{"demo", "--addr", "0.0.0.0:0"}, 1, "the demo lets in whoever clicks"},
		"a short password":        {"sesame", []string{"user", "add", "bo", "--data", t.TempDir()}, 1, "it needs at least 10"},
		"no such account":         {"", []string{"user", "disable", "bo", "--data", t.TempDir()}, 1, `there is no account "bo"`},
		"an unknown flag":         {"", []string{"serve", "--colour"}, 1, "unknown flag: --colour"},
		"a bad date":              {"", []string{"demo", "--today", "soon"}, 1, "is not a date"},
		"no such command":         {"", []string{"sail"}, 1, `unknown command "sail"`},
		"no such file":            {"", []string{"draft", "nowhere.json"}, 1, "cannot read nowhere.json"},
		"a bad document":          {bad, []string{"draft", "-"}, 2, `items[0].team: no team "LX"`},
		"a bad share":             {bad, []string{"draft", "-", "--fill-to", "2"}, 1, "--fill-to 2"},
		"an unknown item":         {document(t), []string{"draft", "-", "--items", "NO-1"}, 1, `no item "NO-1"`},
		"an unknown release":      {document(t), []string{"forecast", "-", "--release", "NO"}, 1, `no release "NO"`},
		"a program there is not":  {"", []string{"export", "--program", "9", "--data", kept}, 1, "there is no program 9"},
		"a mistyped folder":       {"", []string{"export", "--data", "nowhere"}, 1, "there is no database in nowhere"},
		"a folder in use":         {"", []string{"demo", "--addr", "127.0.0.1:0", "--data", inUse}, 1, "another server runs on the data folder"},
		"teams without a token":   {"", []string{"standin", "delivery"}, 1, "there is no token; make one in Set up, Access"},
		"teams of another's":      {"", []string{"standin", "delivery", "--token", "x", "--to", "http://" + taken.Addr().String() + "0"}, 1, "invalid port"},
		"an address to allow":     {"", []string{"serve", "--addr", "127.0.0.1:0", "--data", t.TempDir(), "--calendars-from", "home"}, 1, "--calendars-from"},
	} {
		out, errs, code := run(t, c.stdin, c.args...)
		assert.Equal(t, c.code, code, name)
		assert.Contains(t, errs, c.says, name)
		assert.Equal(t, 1, strings.Count(errs, "\n"), "%s: %q", name, errs)
		assert.Empty(t, out, name)
	}
}

// Another site that is open in the same browser must not edit.
func TestOtherSitesCannotEdit(t *testing.T) {
	_, url := start(t, "demo")
	client := inDemo(t, url, "matthias")
	for _, header := range [][2]string{{"Sec-Fetch-Site", "cross-site"}, {"Origin", "http://elsewhere.example"}} {
		request, err := http.NewRequest(http.MethodPost, url+"/api/v1/programs/1/undo", strings.NewReader(`{"client":"a"}`))
		require.NoError(t, err)
		request.Header.Set("Content-Type", "application/json")
		request.Header.Set(header[0], header[1])
		response, err := client.Do(request)
		require.NoError(t, err)
		_ = response.Body.Close()
		assert.Equal(t, http.StatusForbidden, response.StatusCode, header)
	}
	request, err := http.NewRequest(http.MethodPost, url+"/api/v1/programs/1/undo", strings.NewReader(`actor=A`))
	require.NoError(t, err)
	request.Header.Set("Content-Type", "text/plain")
	response, err := client.Do(request)
	require.NoError(t, err)
	_ = response.Body.Close()
	assert.Equal(t, http.StatusUnsupportedMediaType, response.StatusCode, "what a form can send is not read")
}

func TestVersionAndHelp(t *testing.T) {
	out, _, code := run(t, "", "version")
	assert.Zero(t, code)
	assert.Equal(t, "jantrel dev\n", out)
	out, _, code = run(t, "", "--help")
	assert.Zero(t, code)
	for _, command := range []string{"serve", "demo", "import", "export", "draft", "forecast", "user", "standin", "version"} {
		assert.Contains(t, out, "  "+command)
	}
}

func TestTheDemoIsKeptInANamedFolder(t *testing.T) {
	data := filepath.Join(t.TempDir(), "demo")
	for range 2 {
		cmd, url := start(t, "demo", "--data", data)
		response, err := inDemo(t, url, "petra").Get(url + "/api/v1/programs")
		require.NoError(t, err)
		text, err := io.ReadAll(response.Body)
		require.NoError(t, err)
		_ = response.Body.Close()
		assert.Equal(t, 1, strings.Count(string(text), "Beacon Renewal"))
		require.NoError(t, cmd.Process.Signal(os.Interrupt))
		require.NoError(t, cmd.Wait())
	}
}

// The stand-in for teams works on a program that a token is for, and stops after so many days.
func TestSimulatedTeamsWorkOnAProgram(t *testing.T) {
	_, url := start(t, "demo")
	client := inDemo(t, url, "matthias")
	expires := time.Now().AddDate(0, 0, 9).Format("2006-01-02")
	response, err := client.Post(url+"/api/v1/programs/1/tokens", "application/json", strings.NewReader(`{"name":"Teams","role":"program manager","expires":"`+expires+`"}`))
	require.NoError(t, err)
	var made struct{ Token string }
	require.NoError(t, json.NewDecoder(response.Body).Decode(&made))
	require.NoError(t, response.Body.Close())
	out, errs, code := run(t, "", "standin", "delivery", "--to", url, "--token", made.Token, "--days", "2", "--pace", "0")
	require.Zero(t, code, errs)
	assert.Regexp(t, `(?s)^On 2027-03-02: \d+ things done so far, .*\nOn 2027-03-02: \d+ things done so far, `, out)
	_, errs, code = run(t, "", "standin", "delivery", "--to", url, "--token", made.Token, "--program", "7", "--days", "1")
	assert.Equal(t, 1, code)
	assert.Contains(t, errs, "the server says 404")
}

// past is how many edits, and changes, a demo begins with.
func past() (edits, changes int) {
	_, made := demo.Past(calendar.MustParse("2027-03-02"), time.Local) // as start says
	for _, e := range made {
		changes += len(e.Changes)
	}
	promises := len(demo.Promises(calendar.MustParse("2027-03-02"), time.Local))
	return len(made) + promises, changes + promises
}

// A folder can be checked while a server runs on it; what is wrong is named, and nothing made.
func TestCheck(t *testing.T) {
	folder := t.TempDir()
	_, url := start(t, "demo", "--data", folder)
	client := inDemo(t, url, "matthias")
	response, err := client.Post(url+"/api/v1/programs/1/changes", "application/json", strings.NewReader(
		`{"client":"a","revision":0,"label":"Name","changes":[{"op":"set","kind":"program","field":"name","value":"A & B"}]}`))
	require.NoError(t, err)
	require.Equal(t, http.StatusOK, response.StatusCode)
	require.NoError(t, response.Body.Close())
	out, errs, code := run(t, "", "check", "--data", folder)
	assert.Zero(t, code, errs)
	edits, changes := past()
	assert.Contains(t, out, fmt.Sprintf("program 1, A & B: revision %d, %d changes gone through", edits+1, changes+1))
	assert.Contains(t, out, "all is well")
	_, errs, code = run(t, "", "check", "--data", "nowhere")
	assert.Equal(t, 1, code)
	assert.Contains(t, errs, "there is no database in nowhere")
}

func TestHealth(t *testing.T) {
	_, url := start(t, "demo")
	for path, want := range map[string]string{"/healthz": "ok\n", "/readyz": "ready\n"} {
		response, err := http.Get(url + path)
		require.NoError(t, err)
		text, err := io.ReadAll(response.Body)
		require.NoError(t, err)
		require.NoError(t, response.Body.Close())
		assert.Equal(t, want, string(text))
	}
}
