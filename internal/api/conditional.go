package api

import (
	"bytes"
	"crypto/sha256"
	"encoding/hex"
	"log/slog"
	"net/http"
	"strings"

	"github.com/klauspost/compress/gzhttp"
)

// lean answers reads so that nothing is sent twice: what a browser has already is not sent
// again, and the rest is compressed, as far as who asks understands it.
func lean(inner http.Handler, log *slog.Logger) http.Handler {
	wrap, err := gzhttp.NewWrapper(gzhttp.MinSize(1400), gzhttp.EnableZstd(true), gzhttp.PreferZstd(true), gzhttp.ContentTypeFilter(compresses))
	if err != nil {
		log.Error("answers are not compressed", "error", err) // only wrong options make one
		return conditional(inner)
	}
	return wrap(conditional(inner))
}

// compresses reports whether answers of a type get smaller. Events have to go out at once.
func compresses(contentType string) bool {
	for _, kind := range []string{"application/json", "application/problem+json", "text/html", "text/css", "text/javascript", "text/csv", "image/svg", "application/manifest"} {
		if strings.HasPrefix(contentType, kind) {
			return true
		}
	}
	return false
}

// conditional gives the answers of reading operations a tag of their content, and leaves
// the content out where the tag is known. Browsers are to ask each time.
func conditional(inner http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if r.Method != http.MethodGet || !strings.HasPrefix(r.URL.Path, "/api/") || streams(r.URL.Path) {
			inner.ServeHTTP(w, r)
			return
		}
		held := &heldBack{ResponseWriter: w, status: http.StatusOK}
		inner.ServeHTTP(held, r)
		h := w.Header()
		if held.status == http.StatusOK {
			sum := sha256.Sum256(held.body.Bytes())
			h.Set("ETag", `W/"`+hex.EncodeToString(sum[:12])+`"`)
			h.Set("Cache-Control", "private, no-cache")
			if matches(r.Header.Get("If-None-Match"), h.Get("ETag")) {
				h.Del("Content-Type")
				h.Del("Content-Length")
				w.WriteHeader(http.StatusNotModified)
				return
			}
		}
		w.WriteHeader(held.status)
		_, _ = w.Write(held.body.Bytes()) // who hung up misses nothing
	})
}

// streams reports whether an answer goes out as it is made: it may be long, or without end.
func streams(path string) bool {
	return strings.HasSuffix(path, "/events") || strings.HasSuffix(path, "/export") || strings.Contains(path, "/attachments/") || strings.Contains(path, "/backups/")
}

// matches reports whether one of the tags that a client has is the tag: weak or not, and
// whatever an intermediary added to it.
func matches(have, tag string) bool {
	plain := func(t string) string { return strings.TrimPrefix(strings.TrimSpace(t), "W/") }
	for _, one := range strings.Split(have, ",") {
		if strings.TrimSpace(one) == "*" || plain(one) != "" && plain(one) == plain(tag) {
			return true
		}
	}
	return false
}

// heldBack is an answer that is not sent yet.
type heldBack struct {
	http.ResponseWriter
	status int
	body   bytes.Buffer
}

func (h *heldBack) WriteHeader(status int)            { h.status = status }
func (h *heldBack) Write(text []byte) (int, error)    { return h.body.Write(text) }
func (h *heldBack) WriteString(s string) (int, error) { return h.body.WriteString(s) }

// Unwrap lets time limits be set on the connection.
func (h *heldBack) Unwrap() http.ResponseWriter { return h.ResponseWriter }
