package door

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"mime"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"jantrel/core/calendar"
	"jantrel/core/program"
	"jantrel/core/roles"
	"jantrel/internal/live"
)

// Limits of a request.
const (
	MaxIntent  = 32 << 20         // bytes of what is meant: a table that is taken in, at most
	ImportTime = 60 * time.Second // how long these may take to arrive
)

// ProgramID names the program that an operation is about.
type ProgramID struct {
	ID int64 `path:"id" doc:"The program"`
}

// Reading names what a reading operation is about: a program as it is or, with at, as it was.
type Reading struct {
	ProgramID
	At string `query:"at" maxLength:"40" doc:"As it was: a revision, or a time such as 2027-03-02T12:00:00Z; seen on that day"`
}

// Client is where an edit is made.
type Client struct {
	Client string `json:"client" minLength:"1" maxLength:"80" doc:"Which open page: undo takes back its own edits"`
}

// Once is the name of a request.
type Once struct {
	Key string `header:"Idempotency-Key" maxLength:"80" doc:"A name of your own for this request, such as a random one. Sent again under it, as after an answer that got lost, the edit is not made again: what came of it is told again"`
}

// Sent is the author of an edit that was sent once: with its name, and a digest of all that
// is in the request.
func (o Once) Sent(by live.Author, operation string, body any) live.Author {
	if o.Key == "" {
		return by
	}
	digest := sha256.New()
	_ = json.NewEncoder(digest).Encode([]any{operation, body}) // it was read from JSON
	by.Request, by.Digest = o.Key, hex.EncodeToString(digest.Sum(nil)[:16])
	return by
}

// Steps says what undo and redo do next.
type Steps struct {
	Undo string `json:"undo" doc:"What undo would take back; empty for nothing"`
	Redo string `json:"redo" doc:"What redo would do again; empty for nothing"`
}

// Steps says what an author's undo and redo would do.
func (d *Door) Steps(ctx context.Context, l *live.Line, by live.Author) (Steps, error) {
	undo, redo, err := l.Steps(ctx, by.Client)
	if err != nil {
		return Steps{}, d.Failed(ctx, err)
	}
	return Steps{undo, redo}, nil
}

// Mine is what the visitor is to a program, and what they may change in it.
type Mine struct {
	Role   roles.Role    `json:"role" enum:"administrator,program manager,team lead,member,viewer"`
	Person string        `json:"person,omitempty" doc:"The person of the program who they are"`
	Author string        `json:"author" doc:"What their comments name as their author"`
	Teams  []string      `json:"teams" doc:"Teams in which that person has a share"`
	Rights []roles.Right `json:"rights" doc:"Of team leads and members: which changes reach how far. Administrators and program managers may make every change, viewers none"`
}

// MineOf says what somebody is to a program.
func MineOf(p program.Program, who roles.Who) Mine {
	return Mine{who.Role, who.Person, who.Author, roles.TeamsOf(p, who.Person), roles.Rights(who.Role)}
}

// Range is a range of days.
type Range struct {
	From string `query:"from" required:"true" format:"date"`
	To   string `query:"to" required:"true" format:"date"`
}

// Span reads the range.
func (r Range) Span() (calendar.Span, error) {
	start, err := calendar.Parse(r.From)
	if err != nil {
		return calendar.Span{}, huma.Error422UnprocessableEntity("from: " + err.Error())
	}
	end, err := calendar.Parse(r.To)
	if err != nil {
		return calendar.Span{}, huma.Error422UnprocessableEntity("to: " + err.Error())
	}
	if end < start {
		return calendar.Span{}, huma.Error422UnprocessableEntity(fmt.Sprintf("The range ends %s, before it begins %s.", end, start))
	}
	return calendar.Span{Start: start, End: end}, nil
}

// MediaTypes are those of the formats of files.
var MediaTypes = map[string]string{
	"md": "text/markdown; charset=utf-8", "csv": "text/csv; charset=utf-8", "xlsx": "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
	"dot": "text/vnd.graphviz; charset=utf-8", "mermaid": "text/plain; charset=utf-8", "ics": "text/calendar; charset=utf-8", "graphml": "application/xml", "svg": "image/svg+xml",
}

// File is an answer that browsers save.
type File struct {
	ContentType string `header:"Content-Type"`
	Disposition string `header:"Content-Disposition"`
	Body        []byte
}

// Attached is a file that is called so.
func Attached(name, kind string, content []byte) *File {
	return &File{kind, mime.FormatMediaType("attachment", map[string]string{"filename": name}), content}
}

// Page is an answer that browsers show.
type Page struct {
	ContentType string `header:"Content-Type"`
	Robots      string `header:"X-Robots-Tag"`
	Body        []byte
}
