package door

import (
	"context"
	"log/slog"
)

// LoggedAs is under which name a request holds the sign-in name of who sends it.
const LoggedAs = "account"

type requestKey struct{}

// WithRequest gives a context the id of a request.
func WithRequest(ctx context.Context, id string) context.Context {
	return context.WithValue(ctx, requestKey{}, id)
}

// Log is a logger whose lines say which request they belong to.
func Log(log *slog.Logger) *slog.Logger { return slog.New(withRequest{log.Handler()}) }

type withRequest struct{ slog.Handler }

func (h withRequest) Handle(ctx context.Context, line slog.Record) error {
	if id, ok := ctx.Value(requestKey{}).(string); ok {
		line.AddAttrs(slog.String("request", id))
	}
	return h.Handler.Handle(ctx, line)
}

func (h withRequest) WithAttrs(attrs []slog.Attr) slog.Handler {
	return withRequest{h.Handler.WithAttrs(attrs)}
}

func (h withRequest) WithGroup(name string) slog.Handler {
	return withRequest{h.Handler.WithGroup(name)}
}
