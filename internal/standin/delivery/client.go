// Package delivery simulates teams that work on a program: they take items up, review them, send some
// back, find defects, think sizes over, move scope, break builds and log hours. It does so as anybody
// may, over the public HTTP interface, with luck that a seed decides.
package delivery

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"strconv"
	"strings"
	"time"

	"jantrel/core/act"
	"jantrel/core/program"
	"jantrel/core/standing"
)

// Client speaks to a server about one program.
type Client struct {
	Base    string // address of the server, such as http://127.0.0.1:8080
	Program int64
	Token   string // empty: whoever HTTP is signed in as
	HTTP    *http.Client

	seen int64 // the revision that was looked at
}

// World is a program as it is now, with what the server knows of it.
type World struct {
	Revision int64           `json:"revision"`
	Today    program.Date    `json:"today"`
	Program  program.Program `json:"program"`
	Facts    standing.Facts  `json:"facts"`
}

// Look asks how the program is.
func (c *Client) Look(ctx context.Context) (*World, error) {
	var w World
	if err := c.ask(ctx, http.MethodGet, "", nil, &w); err != nil {
		return nil, err
	}
	c.seen = w.Revision
	return &w, nil
}

// Do says an intent by its name, and returns the keys of what is new.
func (c *Client) Do(ctx context.Context, name string, intent act.Intent) ([]string, error) {
	var out struct{ Keys []string }
	body := map[string]any{"client": "delivery", "revision": c.seen, "intent": intent}
	return out.Keys, c.ask(ctx, http.MethodPost, "/do/"+name, body, &out)
}

// Signal reports signals, and returns the keys of new items.
func (c *Client) Signal(ctx context.Context, signals act.ReportSignals) ([]string, error) {
	var out struct{ Keys []string }
	return out.Keys, c.ask(ctx, http.MethodPost, "/signals", signals, &out)
}

// maxAnswer is how many bytes of an answer are read.
const maxAnswer = 64 << 20

// ask sends a request, again where the server says to wait, and reads the answer.
func (c *Client) ask(ctx context.Context, method, path string, body, into any) error {
	var text []byte
	if body != nil {
		var err error
		if text, err = json.Marshal(body); err != nil {
			return err
		}
	}
	for {
		request, err := http.NewRequestWithContext(ctx, method, fmt.Sprintf("%s/api/v1/programs/%d%s", strings.TrimRight(c.Base, "/"), c.Program, path), bytes.NewReader(text))
		if err != nil {
			return err
		}
		if body != nil {
			request.Header.Set("Content-Type", "application/json")
		}
		if c.Token != "" {
			request.Header.Set("Authorization", "Bearer "+c.Token)
		}
		response, err := c.HTTP.Do(request)
		if err != nil {
			return err
		}
		answer, err := io.ReadAll(io.LimitReader(response.Body, maxAnswer))
		_ = response.Body.Close()
		if err != nil {
			return err
		}
		if wait := response.Header.Get("Retry-After"); wait != "" && (response.StatusCode == http.StatusTooManyRequests || response.StatusCode == http.StatusServiceUnavailable) {
			if err := pause(ctx, wait); err != nil {
				return err
			}
			continue
		}
		if response.StatusCode >= http.StatusMultipleChoices {
			return &Refused{response.StatusCode, detail(answer)}
		}
		return json.Unmarshal(answer, into)
	}
}

// pause waits as long as a server asks for, a minute at most.
func pause(ctx context.Context, seconds string) error {
	n, err := strconv.Atoi(seconds)
	if err != nil {
		n = 1
	}
	return wait(ctx, time.Duration(max(0, min(n, 60)))*time.Second)
}

func wait(ctx context.Context, long time.Duration) error {
	timer := time.NewTimer(long)
	defer timer.Stop()
	select {
	case <-ctx.Done():
		return ctx.Err()
	case <-timer.C:
		return nil
	}
}

// Refused is what a server did not take.
type Refused struct {
	Status int
	Text   string
}

func (r *Refused) Error() string { return fmt.Sprintf("the server says %d: %s", r.Status, r.Text) }

// detail is what a problem says in words.
func detail(answer []byte) string {
	var problem struct{ Title, Detail string }
	if json.Unmarshal(answer, &problem) != nil {
		return "an answer that is no problem description; is this a Jantrel server?"
	}
	if problem.Detail == "" {
		return problem.Title
	}
	return problem.Detail
}
