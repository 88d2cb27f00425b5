package api

import (
	"io/fs"
	"log/slog"
	"net/http"
	"path"
	"runtime/debug"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

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
			c.Data(http.StatusNotFound, "application/problem+json", []byte(`{"title":"Not Found","status":404,"detail":"There is nothing at this address."}`))
			return
		}
		if _, err := fs.Stat(files, name); err != nil || name == "" {
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

// securityHeaders let the page load from here alone and run no inline script.
// Inline styles are allowed: the components set positions with them.
func securityHeaders(c *gin.Context) {
	h := c.Writer.Header()
	h.Set("Content-Security-Policy", "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data:; font-src 'self' data:; object-src 'none'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'")
	h.Set("X-Content-Type-Options", "nosniff")
	h.Set("X-Frame-Options", "DENY")
	h.Set("Referrer-Policy", "no-referrer")
	h.Set("Cross-Origin-Opener-Policy", "same-origin")
	h.Set("Cross-Origin-Resource-Policy", "same-origin")
	h.Set("Permissions-Policy", "camera=(), geolocation=(), microphone=()")
	c.Next()
}

// logged writes a line a request.
func logged(log *slog.Logger) gin.HandlerFunc {
	return func(c *gin.Context) {
		start := time.Now()
		c.Next()
		level := slog.LevelDebug
		if c.Request.Method != http.MethodGet || c.Writer.Status() >= http.StatusBadRequest {
			level = slog.LevelInfo
		}
		log.Log(c.Request.Context(), level, "request", "method", c.Request.Method, "path", c.Request.URL.Path,
			"status", c.Writer.Status(), "took", time.Since(start).Round(time.Microsecond).String())
	}
}

// recovered answers a panic with a problem instead of a broken connection.
func recovered(log *slog.Logger) gin.HandlerFunc {
	return gin.CustomRecoveryWithWriter(nil, func(c *gin.Context, cause any) {
		log.Error("panic", "path", c.Request.URL.Path, "cause", cause, "stack", string(debug.Stack()))
		c.Header("Content-Type", "application/problem+json") // one may be set already
		c.Data(http.StatusInternalServerError, "application/problem+json",
			[]byte(`{"title":"Internal Server Error","status":500,"detail":"The server could not do this. Its log says why."}`))
		c.Abort()
	})
}
