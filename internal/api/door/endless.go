package door

import (
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/adapters/humagin"
)

// Endless lifts the server's time limits from a request that stays open.
func Endless(ctx huma.Context, next func(huma.Context)) {
	control := http.NewResponseController(humagin.Unwrap(ctx).Writer)
	_ = control.SetReadDeadline(time.Time{})
	_ = control.SetWriteDeadline(time.Time{})
	next(ctx)
}
