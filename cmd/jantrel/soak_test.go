package main_test

import (
	"bufio"
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"math/rand/v2"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"sync"
	"sync/atomic"
	"syscall"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/program"
	"jantrel/core/roles"
	"jantrel/core/sample"
	"jantrel/internal/account"
	"jantrel/internal/demo"
	"jantrel/internal/exchange/exchangetest"
	"jantrel/internal/live"
	"jantrel/internal/store"
)

const (
	soakClients  = 100
	soakPrograms = 4
	soakEvery    = 2500 * time.Millisecond // between two things that a client does
	soakMemory   = 512                     // MB that the server may take at most
	soakMedian   = 50 * time.Millisecond   // of edits
)

// For as long as SOAK says, a hundred clients at a bounded rate, each listening to events,
// edit and look, while others send what is made to exhaust a server, one after the other ask for what takes long, follow
// links and open hundreds of programs and scenarios, and a backup is restored halfway through. Its memory stays within
// 512 MB, nothing fails for a reason of its own, edits are stored at once, and nobody's answers are refused because of
// others.
func TestSoak(t *testing.T) {
	lasts, err := time.ParseDuration(os.Getenv("SOAK"))
	if err != nil {
		t.Skip("takes as long as SOAK says, as 30m: make soak")
	}
	s := newSoak(t, lasts)
	ctx, end := context.WithTimeout(t.Context(), lasts)
	defer end()
	var at sync.WaitGroup
	for i, secret := range s.sessions {
		r := rand.New(rand.NewPCG(1, uint64(i)))
		at.Go(func() { s.listen(ctx, secret, i) })
		at.Go(func() { s.work(ctx, secret, i, r) })
	}
	attacks := attacks(t)
	for i := range 3 {
		at.Go(func() { s.attack(ctx, attacks, i) })
	}
	at.Go(func() { s.guess(ctx) })
	at.Go(func() { s.phases(ctx, t, lasts) })
	memory := s.watch(ctx)
	at.Wait()
	s.report(t, memory)
}

// soak is a server under many clients, and what they saw.
type soak struct {
	url      string
	data     string
	server   *exec.Cmd
	sessions []string       // of the clients
	attacker string         // session of a member who means ill
	looks    string         // of one who only looks
	links    []string       // paths that need no account
	many     []int64        // programs that are only opened
	lines    []int64        // scenarios of the first of them
	revision []atomic.Int64 // of each program, as last seen
	down     atomic.Bool    // the server is stopped, and nobody is answered
	peak     int            // MB that servers before this one took

	mu     sync.Mutex
	edits  []time.Duration
	counts map[string]int // answers, by what was asked and their status
	broken []string       // answers that must not be
	events atomic.Int64
}

func newSoak(t *testing.T, lasts time.Duration) *soak {
	t.Helper()
	s := &soak{data: filepath.Join(t.TempDir(), "data"), counts: map[string]int{}, revision: make([]atomic.Int64, soakPrograms+1)}
	db, err := store.Open(s.data)
	require.NoError(t, err)
	hub := live.NewHub(db, time.Now, func() program.Date { return sample.Today })
	accounts := account.New(db, time.Now)
	for range soakPrograms {
		_, err := hub.Create(t.Context(), demo.Program(sample.Today))
		require.NoError(t, err)
	}
	begin := func(login string, role roles.Role, in int64) string {
		made, err := accounts.AddWithoutPassword(t.Context(), login, login, false)
		require.NoError(t, err)
		require.NoError(t, db.SaveMembership(t.Context(), store.Membership{AccountID: made.ID, ProgramID: in, Role: role}))
		session, err := accounts.Begin(t.Context(), made, "")
		require.NoError(t, err)
		return session.Secret
	}
	for i := range soakClients {
		s.sessions = append(s.sessions, begin(fmt.Sprintf("client%d", i), roles.Manager, int64(i%soakPrograms+1)))
	}
	s.attacker = begin("attacker", roles.Manager, 1)
	s.looks = begin("viewer", roles.Viewer, 1)
	s.fill(t, db, min(soakMany, int(2*lasts.Seconds())))
	hub.Close()
	require.NoError(t, db.Close())
	s.start(t, "127.0.0.1:0")
	return s
}

// start starts the server at an address.
func (s *soak) start(t *testing.T, at string) {
	t.Helper()
	s.server = exec.Command(binary, "serve", "--data", s.data, "--addr", at, "--today", sample.Today.String())
	out, err := s.server.StdoutPipe()
	require.NoError(t, err)
	log, err := os.Create(filepath.Join(t.TempDir(), "log"))
	require.NoError(t, err)
	s.server.Stderr = log
	require.NoError(t, s.server.Start())
	running := s.server.Process
	t.Cleanup(func() { _ = running.Kill() })
	line, err := bufio.NewReader(out).ReadString('\n')
	require.NoError(t, err)
	s.url = regexp.MustCompile(`http://\S+`).FindString(line)
}

// patient clients wait longer than a server should let them.
var patient = &http.Client{Timeout: 90 * time.Second, Transport: &http.Transport{MaxIdleConnsPerHost: 2 * soakClients}}

// ask sends a request and returns its answer, of which the status is counted.
func (s *soak) ask(ctx context.Context, secret, name, method, path, kind string, body []byte) (status int, text []byte) {
	request, err := http.NewRequestWithContext(ctx, method, s.url+"/api/v1"+path, bytes.NewReader(body))
	if err != nil {
		return 0, nil
	}
	request.AddCookie(&http.Cookie{Name: "jantrel-session", Value: secret})
	if kind != "" {
		request.Header.Set("Content-Type", kind)
	}
	down := s.down.Load()
	response, err := patient.Do(request)
	if ctx.Err() != nil || err != nil && (down || s.down.Load()) {
		return 0, nil
	}
	if err == nil {
		defer func() { _ = response.Body.Close() }()
		status = response.StatusCode
		text, err = io.ReadAll(response.Body)
	}
	if ctx.Err() != nil || err != nil && (down || s.down.Load()) {
		return 0, nil
	}
	s.mu.Lock()
	defer s.mu.Unlock()
	s.counts[fmt.Sprintf("%s: %d", name, status)]++
	if status >= 500 || err != nil && status < 400 { // an attack's connection may be cut with its answer
		s.broken = append(s.broken, fmt.Sprintf("%s: %d %v %.200s", name, status, err, text))
	}
	return status, text
}

// pause waits for about one turn of a client; false when it is over.
func pause(ctx context.Context, r *rand.Rand, about time.Duration) bool {
	select {
	case <-ctx.Done():
		return false
	case <-time.After(about/2 + time.Duration(r.Int64N(int64(about)))):
		return true
	}
}

// work edits and looks, as somebody at a page does.
func (s *soak) work(ctx context.Context, secret string, client int, r *rand.Rand) {
	id := client%soakPrograms + 1
	in := fmt.Sprintf("/programs/%d", id)
	items := []string{"LC-8", "LC-9", "LC-13", "TW-5", "TW-6", "KC-3", "MA-1", "CD-5", "CD-6", "FW-4"}
	for n := 0; pause(ctx, r, soakEvery); n++ {
		item := items[r.IntN(len(items))]
		switch k := r.IntN(20); {
		case k < 9:
			var intent string
			path := "/do/enter"
			switch k % 3 {
			case 0:
				intent = fmt.Sprintf(`{"keys":[%q],"fields":["title"],"cells":[["Title %d by %d"]]}`, item, n, client)
			case 1:
				intent = fmt.Sprintf(`{"keys":[%q],"fields":["size"],"cells":[["%d"]]}`, item, 1+r.IntN(8))
			default:
				path, intent = "/do/rank", fmt.Sprintf(`{"keys":[%q],"to":{"to":%q}}`, item, []string{"top", "bottom", "up", "down"}[r.IntN(4)])
			}
			body := fmt.Sprintf(`{"client":"c%d","revision":%d,"intent":%s}`, client, s.revision[id].Load(), intent)
			start := time.Now()
			status, text := s.ask(ctx, secret, "edit", http.MethodPost, in+path, "application/json", []byte(body))
			if status == http.StatusOK {
				s.mu.Lock()
				s.edits = append(s.edits, time.Since(start))
				s.mu.Unlock()
				s.seen(id, text)
			}
		case k < 11:
			_, _ = s.ask(ctx, secret, "undo", http.MethodPost, in+"/undo", "application/json", fmt.Appendf(nil, `{"client":"c%d"}`, client))
		case k < 16:
			s.ask(ctx, secret, "landings", http.MethodGet, in+"/landings", "", nil)
		case k == 16:
			s.ask(ctx, secret, "outline", http.MethodGet, in+"/outline", "", nil)
		case k == 17:
			s.ask(ctx, secret, "backlog", http.MethodPost, in+"/backlog", "application/json", []byte(`{"view":{"key":"v","name":"All"}}`))
		case k == 18:
			s.ask(ctx, secret, "fits", http.MethodGet, in+"/fits?team="+item[:2]+"&items="+item, "", nil)
		default:
			s.ask(ctx, secret, "journal", http.MethodGet, in+"/journal", "", nil)
		}
	}
}

// seen takes note of the revision that an answer brings.
func (s *soak) seen(id int, text []byte) {
	var answer struct{ Update *struct{ Revision int64 } }
	if json.Unmarshal(text, &answer) != nil || answer.Update == nil {
		return
	}
	for at := &s.revision[id]; ; {
		was := at.Load()
		if was >= answer.Update.Revision || at.CompareAndSwap(was, answer.Update.Revision) {
			return
		}
	}
}

// listen reads events, and begins again when a stream ends.
func (s *soak) listen(ctx context.Context, secret string, client int) {
	for ctx.Err() == nil {
		request, err := http.NewRequestWithContext(ctx, http.MethodGet, fmt.Sprintf("%s/api/v1/programs/%d/events", s.url, client%soakPrograms+1), nil)
		if err != nil {
			return
		}
		request.AddCookie(&http.Cookie{Name: "jantrel-session", Value: secret})
		response, err := http.DefaultClient.Do(request)
		if err != nil {
			continue
		}
		lines := bufio.NewScanner(response.Body)
		lines.Buffer(nil, 4<<20)
		for lines.Scan() {
			if strings.HasPrefix(lines.Text(), "data:") {
				s.events.Add(1)
			}
		}
		if errors.Is(lines.Err(), bufio.ErrTooLong) { // else the server, or the end of the test, has ended it
			s.mu.Lock()
			s.broken = append(s.broken, "events: one of more than 4 MiB")
			s.mu.Unlock()
		}
		_ = response.Body.Close()
	}
}

// attack is a request made to exhaust a server.
type attack struct {
	name, method, path, kind string
	body                     []byte
}

// attacks are those that once did.
func attacks(t *testing.T) []attack {
	many := func(n int, what string) string { return strings.Repeat(what+",", n) + what }
	changes := func(list string) []byte {
		return []byte(`{"client":"x","revision":0,"label":"E","changes":[` + list + `]}`)
	}
	calendar := "BEGIN:VCALENDAR\nBEGIN:VTIMEZONE\nTZID:X\nBEGIN:STANDARD\nDTSTART:19700101T000000\nTZOFFSETTO:+0100\nRRULE:FREQ=SECONDLY\nEND:STANDARD\nEND:VTIMEZONE\n" +
		"BEGIN:VEVENT\nUID:u\nDTSTART;TZID=X:20270412T090000\nDTEND;TZID=X:20270412T170000\nRRULE:FREQ=SECONDLY\nEND:VEVENT\nEND:VCALENDAR\n"
	meant, err := json.Marshal(map[string]any{"client": "x", "revision": 0, "intent": map[string]any{"person": "p01", "text": calendar}})
	require.NoError(t, err)
	comments := make([]string, 45_000)
	for i := range comments {
		comments[i] = fmt.Sprintf(`{"op":"add","kind":"comment","in":"LC-8","key":"s%d","value":{"key":"s%d","item":"LC-8","text":""}}`, i, i)
	}
	raw := "application/octet-stream"
	plain := "application/json"
	return []attack{
		{"commas", http.MethodPost, "/programs/1/tables?name=a.csv", raw, bytes.Repeat([]byte(","), 16<<20)},
		{"more commas than may be", http.MethodPost, "/programs/1/tables?name=a.csv", raw, bytes.Repeat([]byte(","), 60<<20)},
		{"the last column of every row", http.MethodPost, "/programs/1/tables?name=a.xlsx", raw, sheet(t, strings.Repeat(`<row><c r="XFD1"><v>1</v></c></row>`, 12_000), "")},
		{"a shared text a million times", http.MethodPost, "/programs/1/tables?name=a.xlsx", raw, sheet(t, strings.Repeat("<row>"+strings.Repeat(`<c t="s"><v>0</v></c>`, 20)+"</row>", 49_000), "<si><t>"+strings.Repeat("x", 7000)+"</t></si>")},
		{"nothing but zeros", http.MethodPost, "/programs/1/tables?name=a.xlsx", raw, sheet(t, strings.Repeat("0", 80<<20), "")},
		{"empty changes", http.MethodPost, "/programs/1/changes", plain, changes(many(2_600_000, "{}"))},
		{"as many empty changes as may be", http.MethodPost, "/programs/1/changes", plain, changes(many(49_990, "{}"))},
		{"45,000 comments without text", http.MethodPost, "/programs/1/changes", plain, changes(strings.Join(comments, ","))},
		{"cells that are no text", http.MethodPost, "/programs/1/do/take-in", plain, []byte(`{"client":"x","revision":0,"intent":{"columns":["key"],"rows":[` + many(40_000, "["+many(30, "1")+"]") + `]}}`)},
		{"lists within lists", http.MethodPost, "/programs/1/backlog", plain, bytes.Repeat([]byte("["), 900_000)},
		{"an object of many names", http.MethodPost, "/programs/1/undo", plain, []byte("{" + many(100_000, `"a":1`) + "}")},
		{"a document of empty items", http.MethodPost, "/programs/import", plain, []byte(`{"format":"jantrel-program","version":1,"name":"X","items":[` + many(199_000, "{}") + "]}")},
		{"a document without end", http.MethodPost, "/programs/import", plain, []byte(`{"items":[` + many(10_000_000, "{}") + "]}")},
		{"a calendar by the second", http.MethodPost, "/programs/1/do/read-calendar", plain, meant},
		{"a size beyond all measure", http.MethodPost, "/programs/1/changes", plain, changes(`{"op":"set","kind":"item","key":"LC-8","field":"size","value":1.7e308}`)},
		{"a hundred thousand plays", http.MethodGet, "/programs/1/forecast?items=true&plays=100000&seed=%d", "", nil},
		{"drafts", http.MethodPost, "/programs/1/draft", plain, []byte(`{"fillTo":0.%d}`)},
	}
}

// attack sends them one after the other, with short pauses.
func (s *soak) attack(ctx context.Context, all []attack, seed int) {
	r := rand.New(rand.NewPCG(7, uint64(seed)))
	for n := 1; pause(ctx, r, 3*time.Second); n++ {
		a := all[r.IntN(len(all))]
		path, body := a.path, a.body
		if strings.Contains(path, "%d") {
			path = fmt.Sprintf(path, n)
		}
		if bytes.Contains(body, []byte("%d")) {
			body = fmt.Appendf(nil, string(body), 50+n%45)
		}
		s.ask(ctx, s.attacker, "attack: "+a.name, a.method, path, a.kind, body)
	}
}

// guess tries passwords.
func (s *soak) guess(ctx context.Context) {
	r := rand.New(rand.NewPCG(8, 8))
	for n := 0; pause(ctx, r, time.Second); n++ {
		s.ask(ctx, "made-up", "guess", http.MethodPost, "/sign-in", "application/json", fmt.Appendf(nil, `{"login":"client%d","password":"guess %d"}`, n%50, n))
	}
}

// watch measures the server's memory every few seconds, in MB.
func (s *soak) watch(ctx context.Context) (memory []int) {
	ticker := time.NewTicker(5 * time.Second)
	defer ticker.Stop()
	for {
		select {
		case <-ctx.Done():
			return memory
		case <-ticker.C:
			memory = append(memory, s.memory("VmRSS"))
		}
	}
}

func (s *soak) memory(of string) int {
	text, err := os.ReadFile(fmt.Sprintf("/proc/%d/status", s.server.Process.Pid))
	if err != nil {
		return 0
	}
	found := regexp.MustCompile(of + `:\s+(\d+) kB`).FindSubmatch(text)
	if found == nil {
		return 0
	}
	n, _ := strconv.Atoi(string(found[1]))
	return n >> 10
}

// report says what was seen, and holds it against what must be.
func (s *soak) report(t *testing.T, memory []int) {
	t.Helper()
	peak := max(s.peak, s.memory("VmHWM"))
	var names []string
	for name := range s.counts {
		names = append(names, name)
	}
	slices.Sort(names)
	for _, name := range names {
		t.Logf("%6d  %s", s.counts[name], name)
	}
	slices.Sort(s.edits)
	require.NotEmpty(t, s.edits)
	at := func(share float64) time.Duration {
		return s.edits[int(share*float64(len(s.edits)-1))].Round(time.Millisecond)
	}
	t.Logf("%d edits: median %v, 95 %% %v, longest %v; %d events heard", len(s.edits), at(0.5), at(0.95), at(1), s.events.Load())
	t.Logf("memory: peak %d MB, median %d MB", peak, middle(memory))
	assert.Empty(t, s.broken)
	for _, of := range []string{"landings", "outline", "backlog", "journal", "fits", "edit", "undo"} {
		assert.Zero(t, s.counts[of+": 429"], "%s of somebody who asks for little", of)
	}
	assert.Less(t, at(0.5), soakMedian)
	assert.Less(t, peak, soakMemory, "MB")
	require.NoError(t, s.server.Process.Signal(syscall.SIGTERM))
	require.NoError(t, s.server.Wait())
	out, errs, code := run(t, "", "check", "--data", s.data)
	assert.Zero(t, code, out+errs)
}

func middle(list []int) int {
	if len(list) == 0 {
		return 0
	}
	slices.Sort(list)
	return list[len(list)/2]
}

// sheet is an XLSX file of one sheet, with shared texts.
func sheet(t *testing.T, rows, shared string) []byte {
	t.Helper()
	file, err := exchangetest.Workbook(rows, shared)
	require.NoError(t, err)
	return file
}
