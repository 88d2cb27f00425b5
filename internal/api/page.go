package api

import (
	"crypto/rand"
	"encoding/json"
	"io/fs"
	"log/slog"
	"net/http"
	"path"
	"runtime/debug"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/gin-gonic/gin"

	"jantrel/internal/api/door"
	"jantrel/web"
)

// servePage serves the built page. Paths that are no file are stages of the
// page, which finds its own way.
func servePage(router *gin.Engine) {
	files := web.Files()
	server := http.FileServerFS(files)
	router.NoRoute(func(c *gin.Context) {
		name := strings.TrimPrefix(path.Clean(c.Request.URL.Path), "/")
		if strings.HasPrefix(name, "api/") {
			problem(c.Writer, http.StatusNotFound, "There is nothing at this address.")
			return
		}
		info, err := fs.Stat(files, name)
		isFile := err == nil && !info.IsDir()
		if !isFile && strings.HasPrefix(name+"/", "assets/") { // no stage, and folders are not listed
			c.String(http.StatusNotFound, "There is nothing at this address.")
			return
		}
		if !isFile {
			index, err := fs.ReadFile(files, "index.html")
			if err != nil {
				c.String(http.StatusServiceUnavailable, "This build has no page in it. Build it with: make build")
				return
			}
			c.Header("Cache-Control", "no-cache")
			c.Data(http.StatusOK, "text/html; charset=utf-8", index)
			return
		}
		if strings.HasPrefix(name, "assets/") { // named by their content
			c.Header("Cache-Control", "public, max-age=31536000, immutable")
		}
		server.ServeHTTP(c.Writer, c.Request)
	})
}

// problem answers with problem details, outside of the operations.
func problem(w http.ResponseWriter, status int, detail string) {
	w.Header().Set("Content-Type", "application/problem+json") // one may be set already
	w.Header().Set("Cache-Control", "no-store")
	w.WriteHeader(status)
	text, err := json.Marshal(huma.ErrorModel{Title: http.StatusText(status), Status: status, Detail: detail})
	if err == nil {
		_, _ = w.Write(text) // who hung up misses nothing
	}
}

// headers let the page load from here alone and run no inline script. Inline styles are
// allowed: the components set positions with them. Answers are kept by nobody, where nothing
// else is said; behind a proxy over HTTPS, browsers are to come back that way alone.
func headers(overHTTPS bool) gin.HandlerFunc {
	return func(c *gin.Context) {
		h := c.Writer.Header()
		h.Set("Content-Security-Policy", "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data:; font-src 'self' data:; object-src 'none'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'")
		h.Set("X-Content-Type-Options", "nosniff")
		h.Set("X-Frame-Options", "DENY")
		h.Set("Referrer-Policy", "no-referrer")
		h.Set("Cross-Origin-Opener-Policy", "same-origin")
		h.Set("Cross-Origin-Resource-Policy", "same-origin")
		h.Set("Permissions-Policy", "camera=(), geolocation=(), microphone=()")
		if strings.HasPrefix(c.Request.URL.Path, "/api/") {
			h.Set("Cache-Control", "no-store")
		}
		if overHTTPS {
			h.Set("Strict-Transport-Security", "max-age=31536000")
		}
		c.Next()
	}
}

// logged gives every request an id, which its answer carries too, and writes a line for it:
// what was asked, by whom, and what came of it.
func logged(log *slog.Logger) gin.HandlerFunc {
	return func(c *gin.Context) {
		start := time.Now()
		id := rand.Text()[:12]
		c.Header("X-Request-Id", id)
		c.Request = c.Request.WithContext(door.WithRequest(c.Request.Context(), id))
		c.Next()
		level := slog.LevelDebug
		if c.Request.Method != http.MethodGet || c.Writer.Status() >= http.StatusBadRequest {
			level = slog.LevelInfo
		}
		log.Log(c.Request.Context(), level, "request", "method", c.Request.Method, "path", loggedPath(c),
			"status", c.Writer.Status(), "account", c.GetString(door.LoggedAs), "took", time.Since(start).Round(time.Microsecond).String())
	}
}

// loggedPath is the path of a request as a log may have it: without the secret of a link.
func loggedPath(c *gin.Context) string {
	if path := c.Request.URL.Path; !strings.HasPrefix(path, door.SharedPath) {
		return path
	}
	return door.SharedPath
}

// seen tells of every request by the pattern of its path, of which there are few.
func seen(tell func(operation, method string, status int, took time.Duration)) gin.HandlerFunc {
	return func(c *gin.Context) {
		start := time.Now()
		c.Next()
		if tell != nil {
			operation := c.FullPath()
			if operation == "" {
				operation = "page"
			}
			tell(operation, c.Request.Method, c.Writer.Status(), time.Since(start))
		}
	}
}

// recovered answers a panic with a problem instead of a broken connection.
func recovered(log *slog.Logger) gin.HandlerFunc {
	return gin.CustomRecoveryWithWriter(nil, func(c *gin.Context, cause any) {
		log.ErrorContext(c.Request.Context(), "panic", "path", loggedPath(c), "cause", cause, "stack", string(debug.Stack()))
		problem(c.Writer, http.StatusInternalServerError, "The server could not do this. Its log says why.")
		c.Abort()
	})
}
