package programs

import (
	"context"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/sse"

	"jantrel/internal/api/door"
	"jantrel/internal/live"
)

// hello is the first event of a stream: the revision that it goes on from.
type hello struct {
	Revision int64  `json:"revision"`
	Today    string `json:"today"`
	Full     bool   `json:"full" doc:"Edits cannot be saved: the server's disk is full"`
	Live     int64  `json:"live" doc:"The revision of the live plan: of a scenario, how far that has gone on"`
}

// rest is the last event of a stream that makes room for newer ones: whoever hears it opens another one when somebody
// looks at the page again.
type rest struct {
	Why string `json:"why"`
}

// beat comes every few seconds, so that a page knows the line is up. At each it is asked anew
// whether the visitor may still listen.
type beat struct {
	Today string `json:"today"`
	Full  bool   `json:"full" doc:"Edits cannot be saved: the server's disk is full"`
	Live  int64  `json:"live" doc:"The revision of the live plan"`
}

const beatEvery = 4 * time.Second

func (s stage) events(api huma.API) {
	sse.Register(api, huma.Operation{
		OperationID: "get-events", Method: http.MethodGet, Path: "/api/v1/programs/{id}/events", Summary: "The edits, as they happen",
		Middlewares: huma.Middlewares{door.Endless},
	}, map[string]any{"hello": hello{}, "update": live.Update{}, "beat": beat{}, "rest": rest{}}, func(ctx context.Context, in *door.ProgramID, send sse.Sender) {
		p, who, err := s.OpenAs(ctx, in.ID)
		if err != nil {
			return
		}
		stream, closed := s.OpenStream(door.VisitorOf(ctx).Account.ID)
		defer closed()
		updates, end := p.Subscribe()
		defer end()
		state := p.State()
		if send.Data(hello{state.Revision, state.Today.String(), s.Hub.Full(ctx), p.LiveRevision(ctx)}) != nil {
			return
		}
		ticker := time.NewTicker(beatEvery)
		defer ticker.Stop()
		for {
			var err error
			select {
			case <-ctx.Done():
				return
			case <-stream.Rest():
				_ = send.Data(rest{"You have very many pages open: this one is brought up to date when you come back to it."})
				return
			case update, open := <-updates:
				if !open {
					return
				}
				err = send.Data(update)
			case <-ticker.C:
				// Who was signed out or lost their role hears no more.
				if now, err := s.Still(ctx, in.ID); err != nil || now != who {
					return
				}
				err = send.Data(beat{p.State().Today.String(), s.Hub.Full(ctx), p.LiveRevision(ctx)})
			}
			if err != nil {
				return
			}
		}
	})
}
