package door

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"io"
	"net"
	"net/http"
	"strconv"
	"strings"
	"sync"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/adapters/humagin"

	"jantrel/core/roles"
	"jantrel/internal/bounds"
	"jantrel/internal/journal"
)

// Marks of operations, for their Metadata.
var (
	// Public: anybody may ask for it.
	Public = map[string]any{"public": true}
	// Asks: it changes nothing of a program, although it is no GET; viewers may do it too.
	Asks = map[string]any{"asks": true}
	// Keeps changes what the visitor keeps for themselves beside a program: viewers may do it too, but no token that only looks.
	Keeps = map[string]any{"asks": true, "keeps": true}
	// Creates: only who may make programs may do it.
	Creates = map[string]any{"creates": true}
)

// Limits of requests.
const (
	large     = 1 << 20          // bytes of a body that is read in turn
	together  = 2                // large bodies that are worked on at once, in all
	patience  = 20 * time.Second // how long one waits for its turn
	namedMost = 100              // faults of a request that are named
)

// bodyLimits are what JSON of a request may hold: thirty fields of 50,000 items.
var bodyLimits = bounds.JSON{Values: 1_500_000, List: 50_000, Names: 200, Depth: 64}

// Admit lets a request with a body in, before any of that is read: to who belongs to the program that
// it is about and may do such things at all. Large bodies come one at a time for each
// account, and few in all; what is in JSON ones is counted before anything is made of it.
// It is to be called after Authenticate.
func (d *Door) Admit(api huma.API) func(huma.Context, func(huma.Context)) {
	turns := newTurns(together)
	return func(ctx huma.Context, next func(huma.Context)) {
		if ctx.Operation().Metadata["keeps"] != nil {
			if err := d.mayKeep(ctx); err != nil {
				refuse(api, ctx, err)
				return
			}
		}
		if ctx.Operation().RequestBody == nil { // the operation asks for rights itself
			next(ctx)
			return
		}
		if err := d.admits(ctx); err != nil {
			refuse(api, ctx, err)
			return
		}
		request := humagin.Unwrap(ctx).Request
		if request.ContentLength < 0 || request.ContentLength > large {
			end, err := turns.take(request.Context(), VisitorOf(ctx.Context()).Account.ID)
			if err != nil {
				refuse(api, ctx, err)
				return
			}
			defer end()
		}
		// Who reads a body itself keeps to limits of its own.
		if isJSON(ctx.Operation()) {
			unknown := request.ContentLength < 0
			size, err := measure(ctx, request)
			if err == nil && unknown {
				err = d.pacedBytes(ctx, size)
			}
			if err != nil {
				refuse(api, ctx, err)
				return
			}
			_ = ctx.SetReadDeadline(time.Time{})
			ctx = received{ctx}
		}
		next(ctx)
	}
}

// received is a request whose body has been read: no more of it has to arrive in time. A deadline
// that stands beyond that would end an answer that takes longer, as if who asked had gone.
type received struct{ asked }

type asked = huma.Context // embedded by another name than its method's

// Unwrap returns the request itself.
func (r received) Unwrap() huma.Context { return r.asked }

// SetReadDeadline does nothing.
func (received) SetReadDeadline(time.Time) error { return nil }

// refuse answers with a problem.
func refuse(api huma.API, ctx huma.Context, err error) {
	var status huma.StatusError
	if !errors.As(err, &status) {
		status = huma.Error500InternalServerError("The server could not do this. Its log says why.")
	}
	var headers huma.HeadersError
	if errors.As(err, &headers) {
		for name, values := range headers.GetHeaders() {
			ctx.SetHeader(name, values[0])
		}
	}
	_ = huma.WriteErr(api, ctx, status.GetStatus(), status.Error())
}

// admits refuses who may not do an operation whatever they send.
func (d *Door) admits(ctx huma.Context) error {
	o := ctx.Operation()
	if o.Metadata["creates"] != nil {
		may, err := d.MayMake(ctx.Context())
		if err != nil {
			return err
		}
		if !may {
			return d.Denied(ctx.Context(), "Only administrators and program managers may make a program.")
		}
	}
	if !strings.HasPrefix(o.Path, "/api/v1/programs/{id}") {
		return nil
	}
	id, who, err := d.memberOf(ctx)
	if err == nil && who.Role == roles.Viewer && o.Metadata["asks"] == nil {
		err = d.Denied(ctx.Context(), "Nothing was changed: as viewer you may not change anything; ask a program manager.")
	}
	if err == nil {
		err = d.paced(ctx, id)
	}
	return err
}

// memberOf is the program that a request is about, and what the visitor is to it, or the problem to answer with.
func (d *Door) memberOf(ctx huma.Context) (int64, roles.Who, error) {
	id, err := strconv.ParseInt(ctx.Param("id"), 10, 64)
	if err != nil {
		return 0, roles.Who{}, d.Problem(ctx.Context(), journal.ErrNotFound)
	}
	who, err := d.member(ctx.Context(), id)
	return id, who, err
}

// mayKeep refuses a token that only looks: what its maker keeps is not for it to change.
func (d *Door) mayKeep(ctx huma.Context) error {
	if VisitorOf(ctx.Context()).Token == nil {
		return nil
	}
	_, who, err := d.memberOf(ctx)
	if err == nil && who.Role == roles.Viewer {
		err = d.Denied(ctx.Context(), "Nothing was changed: a token with the role of a viewer only looks. Sign in, or make a token with another role.")
	}
	return err
}

// isJSON reports whether the body of an operation's request is JSON that is to be counted.
func isJSON(o *huma.Operation) bool {
	return o.RequestBody.Content["application/json"] != nil && !o.SkipValidateBody
}

// measure reads the body of a request, counts what is in it and returns its bytes. It is
// handed on as it came.
func measure(ctx huma.Context, request *http.Request) (int, error) {
	o := ctx.Operation()
	if o.BodyReadTimeout > 0 {
		_ = ctx.SetReadDeadline(time.Now().Add(o.BodyReadTimeout))
	}
	body, err := io.ReadAll(io.LimitReader(request.Body, o.MaxBodyBytes))
	var timeout net.Error
	switch {
	case errors.As(err, &timeout) && timeout.Timeout():
		return 0, huma.NewError(http.StatusRequestTimeout, "The request took too long to arrive.")
	case err != nil:
		return 0, huma.Error400BadRequest("The request broke off.")
	case int64(len(body)) == o.MaxBodyBytes:
		return 0, huma.NewError(http.StatusRequestEntityTooLarge, fmt.Sprintf("Nothing was done: the request is larger than %d kB.", o.MaxBodyBytes>>10))
	}
	if err := bodyLimits.Check(body); err != nil {
		return 0, huma.Error422UnprocessableEntity("Nothing was done: the request is too much at once. " + err.Error() + ".")
	}
	request.Body = io.NopCloser(bytes.NewReader(body))
	return len(body), nil
}

// turns are those of large requests: one at a time for each account, few in all.
type turns struct {
	all  chan struct{}
	mu   sync.Mutex
	each map[int64]*line // of accounts that have a turn, or wait for one
}

type line struct {
	turn    chan struct{} // taken by the one whose turn it is
	waiting int           // with that one
}

func newTurns(together int) *turns {
	return &turns{all: make(chan struct{}, together), each: map[int64]*line{}}
}

// take waits for a turn of an account and returns what ends it. Who would wait too long, or
// has too many others waiting, is to come again later.
func (t *turns) take(ctx context.Context, account int64) (end func(), err error) {
	const most = 4
	t.mu.Lock()
	own := t.each[account]
	if own == nil {
		own = &line{turn: make(chan struct{}, 1)}
		t.each[account] = own
	}
	if own.waiting == most {
		t.mu.Unlock()
		return nil, later()
	}
	own.waiting++
	t.mu.Unlock()
	leave := func() {
		t.mu.Lock()
		defer t.mu.Unlock()
		if own.waiting--; own.waiting == 0 {
			delete(t.each, account)
		}
	}
	ctx, cancel := context.WithTimeout(ctx, patience)
	defer cancel()
	select {
	case own.turn <- struct{}{}:
	case <-ctx.Done():
		leave()
		return nil, later()
	}
	select {
	case t.all <- struct{}{}:
		return func() { <-t.all; <-own.turn; leave() }, nil
	case <-ctx.Done():
		<-own.turn
		leave()
		return nil, later()
	}
}

// later asks to come again.
func later() error {
	return Later("The server has much to do at the moment. Try again in a few seconds.", 5*time.Second)
}

// Named keeps the faults of a request that are told to a readable number.
func Named(faults []error) []error {
	if more := len(faults) - namedMost; more > 0 {
		return append(faults[:namedMost:namedMost], &huma.ErrorDetail{Message: fmt.Sprintf("and %d more", more)})
	}
	return faults
}
