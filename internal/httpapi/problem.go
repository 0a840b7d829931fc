package httpapi

import (
	"errors"
	"log/slog"
	"net/http"
	"regexp"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"softpalm/internal/studio"
)

// Problem is an error as RFC 9457 describes it, with a stable code and, for
// faults of what was sent, the path of each.
type Problem struct {
	Type   string `json:"type" example:"about:blank"`
	Title  string `json:"title"`
	Status int    `json:"status"`
	// Detail says what happened and what to do.
	Detail string       `json:"detail"`
	Code   string       `json:"code"`
	Errors []FieldError `json:"errors,omitempty"`
	// Near are free times offered instead of one that is taken.
	Near []studio.FreeTime `json:"near,omitempty"`
	// Current is the draft that a stale write found.
	Current *studio.Draft `json:"current,omitempty"`
}

// FieldError is one fault: a JSON pointer into what was sent, and a sentence.
type FieldError struct {
	Path    string `json:"path"`
	Message string `json:"message"`
}

func (p *Problem) Error() string { return p.Code + ": " + p.Detail }

// GetStatus makes a Problem an answer of huma's.
func (p *Problem) GetStatus() int { return p.Status }

// ContentType is that of RFC 9457.
func (p *Problem) ContentType(string) string { return "application/problem+json" }

func newProblem(status int, code, detail string) *Problem {
	return &Problem{Type: "about:blank", Title: http.StatusText(status), Status: status, Code: code, Detail: detail}
}

func init() {
	huma.DefaultArrayNullable = false // lists are empty, never null
	// huma asks these for its own errors: bodies that cannot be read or do not
	// fit their description.
	huma.NewError = func(status int, msg string, errs ...error) huma.StatusError {
		p := newProblem(status, "not-understood", "Some details could not be saved: "+msg+".")
		for _, err := range errs {
			var d *huma.ErrorDetail
			if errors.As(err, &d) {
				p.Errors = append(p.Errors, FieldError{pointer(d.Location), d.Message})
			}
		}
		if len(p.Errors) > 0 {
			p.Code = "does-not-fit"
			at := ""
			if p.Errors[0].Path != "" {
				at = " at " + p.Errors[0].Path
			}
			p.Detail = "What was sent does not fit" + at + ": " + p.Errors[0].Message + "."
		}
		return p
	}
}

var indices = regexp.MustCompile(`\[(\d+)\]`)

// pointer turns huma's body.steps[0].dose into /steps/0/dose.
func pointer(location string) string {
	location = strings.TrimPrefix(location, "body")
	location = indices.ReplaceAllString(location, ".$1")
	if location != "" && location[0] != '.' {
		location = "." + location
	}
	return strings.ReplaceAll(location, ".", "/")
}

// answer turns an error of a use case into a problem. What it does not know it
// logs and tells as a fault of the server, without its text.
func answer(err error) error {
	var (
		input *studio.InputError
		state *studio.StateError
		taken *studio.TakenError
		stale *studio.StaleError
	)
	switch {
	case err == nil:
		return nil
	case errors.As(err, &input):
		p := newProblem(http.StatusUnprocessableEntity, "does-not-fit", input.Problems[0].Message)
		for _, pr := range input.Problems {
			p.Errors = append(p.Errors, FieldError{pr.Path, pr.Message})
		}
		return p
	case errors.As(err, &state):
		return newProblem(http.StatusConflict, state.Code, state.Message)
	case errors.As(err, &taken):
		p := newProblem(http.StatusConflict, "time-taken", "That time has just been taken: the "+taken.What+" is not free. Choose one of the nearest free times.")
		p.Near = taken.Near
		return p
	case errors.As(err, &stale):
		p := newProblem(http.StatusConflict, "stale-draft", "This draft was changed in another window. Choose which of the two to keep.")
		p.Current = &stale.Current
		return p
	case errors.Is(err, studio.ErrNotFound):
		return newProblem(http.StatusNotFound, "not-found", "We could not find this. It may have been deleted.")
	case errors.Is(err, studio.ErrForbidden):
		return newProblem(http.StatusForbidden, "not-allowed", "Your role does not allow this. Ask the owner of the studio.")
	case errors.Is(err, studio.ErrLocked):
		return newProblem(http.StatusConflict, "locked", "This record is locked and can no longer be edited.")
	case errors.Is(err, studio.ErrExists):
		return newProblem(http.StatusConflict, "exists", "This already exists. Choose another name.")
	case errors.Is(err, studio.ErrTryAgain):
		return newProblem(http.StatusConflict, "try-again", "Someone else just changed this. Try again.")
	case errors.Is(err, studio.ErrUnknownState):
		return newProblem(http.StatusServiceUnavailable, "unknown-state", "We could not confirm that this was saved. Check before you try again.")
	case errors.Is(err, studio.ErrSignIn):
		return newProblem(http.StatusUnauthorized, "sign-in-failed", "The e-mail address or the password is not correct.")
	case errors.Is(err, studio.ErrThrottled):
		return newProblem(http.StatusTooManyRequests, "sign-in-throttled", "Too many attempts. Wait ten minutes, then try again.")
	}
	slog.Error("a use case failed", "error", err)
	return newProblem(http.StatusInternalServerError, "server-fault", "Something went wrong on our side; nothing was saved. Try again.")
}
