package door

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"strconv"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"jantrel/core/needs"
	"jantrel/core/program"
	"jantrel/core/roles"
	"jantrel/core/scenario"
	"jantrel/internal/journal"
	"jantrel/internal/live"
)

// Problem turns an error into problem details in plain words, by its class: what was
// asked for is not there, not allowed, in conflict with others, or against a rule. What
// is the server's own fault is logged and not told.
func (d *Door) Problem(ctx context.Context, err error) error {
	var problems program.Problems
	var conflict *live.Conflict
	var changed *live.Changed
	var open *scenario.Unsettled
	var cycle *needs.CycleError
	var denied *roles.Denied
	var fault *journal.Fault
	switch {
	case err == nil:
		return nil
	case errors.As(err, &fault):
		return d.Failed(ctx, err)
	case errors.Is(err, context.Canceled):
		return err
	case errors.Is(err, journal.ErrNotFound):
		return huma.Error404NotFound("There is no such program. It may have been deleted.")
	case errors.As(err, &conflict):
		return huma.Error409Conflict("Somebody changed this meanwhile, so nothing was changed: "+conflict.Error(), &huma.ErrorDetail{
			Message: conflict.By + " changed it", Location: "conflict", Value: conflict,
		})
	case errors.As(err, &open):
		return huma.Error409Conflict("Nothing was changed: "+open.Error()+".", &huma.ErrorDetail{Message: "What is to be settled", Location: "conflicts", Value: open.Conflicts})
	case errors.As(err, &changed):
		return huma.Error409Conflict("Nothing was changed: "+changed.Error()+".", &huma.ErrorDetail{
			Message: "What it would do now", Location: "proposal", Value: proposed(changed.Proposal),
		})
	case errors.Is(err, live.ErrBusy):
		return Later(sentence(err), 3*time.Second)
	case errors.Is(err, live.ErrBroken):
		return huma.Error500InternalServerError(sentence(err))
	case errors.Is(err, live.ErrTooLong):
		return huma.Error503ServiceUnavailable(sentence(err))
	case errors.As(err, &denied):
		return huma.Error403Forbidden("Nothing was changed: " + denied.Error() + ".")
	case errors.As(err, &cycle):
		return huma.Error409Conflict("Nothing was changed: " + cycle.Error())
	case errors.Is(err, live.ErrNothingToDo), errors.Is(err, live.ErrFuture), errors.Is(err, live.ErrTooOld), errors.Is(err, live.ErrPast):
		return huma.Error409Conflict(err.Error())
	case errors.As(err, &problems):
		details := make([]error, len(problems))
		for i, p := range problems {
			details[i] = &huma.ErrorDetail{Message: p.Words(), Location: p.Path}
		}
		return huma.Error422UnprocessableEntity("Nothing was changed. "+problems[0].Words(), details...)
	}
	return huma.Error422UnprocessableEntity("Nothing was changed: " + err.Error())
}

// Later answers that somebody has to wait, and for how long.
func Later(text string, wait time.Duration) error {
	return huma.ErrorWithHeaders(huma.Error429TooManyRequests(text), http.Header{"Retry-After": {strconv.Itoa(wholeSeconds(wait))}})
}

func wholeSeconds(wait time.Duration) int { return int((wait + time.Second - 1) / time.Second) }

// inSeconds says when to try again.
func inSeconds(wait time.Duration) string {
	seconds := wholeSeconds(wait)
	if seconds == 1 {
		return "Try again in a second."
	}
	return fmt.Sprintf("Try again in %d seconds.", seconds)
}

// sentence writes an error as one.
func sentence(err error) string {
	text := err.Error()
	return strings.ToUpper(text[:1]) + text[1:] + "."
}

// Failed is for errors that are the server's own.
func (d *Door) Failed(ctx context.Context, err error) error {
	if errors.Is(err, journal.ErrNotFound) {
		return d.Problem(ctx, err)
	}
	d.Log.ErrorContext(ctx, "request failed", "error", err)
	if journal.IsFull(err) {
		return huma.NewError(http.StatusInsufficientStorage, "Nothing was changed: the server's disk is full, and edits cannot be saved until there is room again. All that is stored can still be read.")
	}
	if journal.IsBusy(err) {
		return huma.ErrorWithHeaders(huma.Error503ServiceUnavailable("Nothing was changed: another program on the server has the database locked. Try again in a few seconds."), http.Header{"Retry-After": {"5"}})
	}
	return huma.Error500InternalServerError("The server could not do this. Its log says why.")
}
