package httpapi

import (
	"errors"
	"log/slog"
	"math"
	"net/http"
	"regexp"
	"runtime/debug"
	"strconv"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/stroke"
	"softpalm/internal/problem"
	"softpalm/internal/studio"
	"softpalm/internal/studio/checks"
	"softpalm/internal/studio/diary"
	"softpalm/internal/studio/house"
	"softpalm/words"
)

// Problem is an error as RFC 9457 describes it, with a stable code and, for
// faults of what was sent, the path of each.
type Problem struct {
	Type   string `json:"type" example:"about:blank"`
	Title  string `json:"title"`
	Status int    `json:"status"`
	// Detail says what happened and what to do.
	Detail string          `json:"detail"`
	Code   string          `json:"code"`
	Errors []problem.Fault `json:"errors,omitempty"`
	// Near are free times offered instead of one that is taken.
	Near []studio.FreeTime `json:"near,omitempty"`
	// Current is the draft that a stale write found.
	Current *studio.Draft `json:"current,omitempty"`

	// Client and Contents are what somebody else saved meanwhile.
	Client   *studio.Client          `json:"client,omitempty"`
	Contents *studio.RevisedContents `json:"contents,omitempty"`
	Rule     *checks.RuleNow         `json:"rule,omitempty"`
	Person   *house.Colleague        `json:"person,omitempty"`
	Settings *house.SettingsView     `json:"settings,omitempty"`
	Stroke   *stroke.Stroke          `json:"stroke,omitempty"`
	Zone     *anatomy.OwnZone        `json:"zone,omitempty"`
	Record   *studio.Record          `json:"record,omitempty"`

	// Visit is the visit of a series that cannot be as chosen, Limit what forbids it, and Series
	// the new best.
	Visit  int                 `json:"visit,omitempty"`
	Limit  string              `json:"limit,omitempty"`
	Name   string              `json:"name,omitempty"`
	Series *diary.SeriesAnswer `json:"series,omitempty"`
	// Day is the day laid again as it is now.
	Day *diary.NewDay `json:"day,omitempty"`

	retryAfter string // seconds, where not the usual ones
}

func (p *Problem) Error() string { return p.Code + ": " + p.Detail }

// GetStatus makes a Problem an answer of huma's.
func (p *Problem) GetStatus() int { return p.Status }

// retryAfter is how many seconds a client waits before it tries again while the
// database is away.
const retryAfter = "5"

// GetHeaders says when to try again, where that can help.
func (p *Problem) GetHeaders() http.Header {
	if p.retryAfter != "" {
		return http.Header{"Retry-After": {p.retryAfter}}
	}
	if p.Status == http.StatusServiceUnavailable {
		return http.Header{"Retry-After": {retryAfter}}
	}
	return nil
}

// ContentType is that of RFC 9457.
func (p *Problem) ContentType(string) string { return "application/problem+json" }

func newProblem(status int, code string, s words.Sentence) *Problem {
	return &Problem{Type: "about:blank", Title: http.StatusText(status), Status: status, Code: code, Detail: s.Message}
}

func init() {
	huma.DefaultArrayNullable = false // lists are empty, never null
	// huma asks these for its own errors: bodies that cannot be read or do not
	// fit their description.
	huma.NewError = func(status int, msg string, errs ...error) huma.StatusError {
		p := newProblem(status, "not-understood", words.SomeDetailsCouldNotBeSavedMsg(msg))
		for _, err := range errs {
			var d *huma.ErrorDetail
			if errors.As(err, &d) {
				p.Errors = append(
					p.Errors,
					problem.Fault{Path: pointer(d.Location), Sentence: words.Sentence{Code: "does-not-fit", Message: d.Message}},
				)
			}
		}
		if len(p.Errors) > 0 {
			p.Code = "does-not-fit"
			p.Detail = words.SentDoesNotFit(p.Errors[0].Message).Message
			if p.Errors[0].Path != "" {
				p.Detail = words.SentDoesNotFitAt(p.Errors[0].Path, p.Errors[0].Message).Message
			}
		}
		return p
	}
}

// asProblem is the problem that answer made of an error.
func asProblem(err error) *Problem {
	var p *Problem
	if !errors.As(err, &p) {
		p = newProblem(http.StatusInternalServerError, "server-fault", words.SomethingWentWrongOnOurSideNothing())
	}
	return p
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

// changedMeanwhile is the problem of who writes over what somebody else has changed: it brings what stands there now.
func changedMeanwhile(changed *studio.ChangedError) *Problem {
	p := newProblem(http.StatusConflict, "changed-meanwhile", words.SomebodyElseChangedThisMeanwhile())
	p.Client, p.Contents = changed.Client, changed.Contents
	switch now := changed.Other.(type) {
	case *checks.RuleNow:
		p.Rule = now
	case *house.Colleague:
		p.Person = now
	case *house.SettingsView:
		p.Settings = now
	case *stroke.Stroke:
		p.Stroke = now
	case *anatomy.OwnZone:
		p.Zone = now
	case *studio.Record:
		p.Record = now
	}
	return p
}

// answer turns an error of a use case into a problem. What it does not know it
// logs and tells as a fault of the server, without its text.
func answer(err error) error {
	var (
		input *studio.InputError
		state *studio.StateError
		taken *studio.TakenError
		stale *studio.StaleError

		throttled *studio.ThrottledError
		changed   *studio.ChangedError
		series    *diary.SeriesTakenError
		newDay    *diary.NewDayChangedError
	)
	switch {
	case err == nil:
		return nil
	case errors.As(err, &input):
		p := newProblem(http.StatusUnprocessableEntity, "does-not-fit", input.Problems[0].Sentence)
		p.Errors = input.Problems
		return p
	case errors.As(err, &state):
		return newProblem(http.StatusConflict, state.Code, state.Sentence)
	case errors.As(err, &taken):
		p := newProblem(http.StatusConflict, "time-taken", words.ThatTimeHasJustBeenTakenWhat(taken.What))
		p.Near = taken.Near
		return p
	case errors.As(err, &series):
		p := newProblem(http.StatusConflict, "series-taken", words.SeriesCannotBeAsChosen())
		p.Visit, p.Limit, p.Name, p.Series = series.Visit, string(series.Limit), series.Name, series.Answer
		return p
	case errors.As(err, &newDay):
		p := newProblem(http.StatusConflict, "day-changed", words.TheDayHasChangedMeanwhile())
		p.Day = newDay.Now
		return p
	case errors.As(err, &stale):
		p := newProblem(http.StatusConflict, "stale-draft", words.ThisDraftWasChangedInAnotherWindow())
		p.Current = &stale.Current
		return p
	case errors.As(err, &changed):
		return changedMeanwhile(changed)
	case errors.Is(err, studio.ErrNotFound):
		return newProblem(http.StatusNotFound, "not-found", words.WeCouldNotFindThisMayHave())
	case errors.Is(err, studio.ErrForbidden):
		return newProblem(http.StatusForbidden, "not-allowed", words.YourRoleDoesNotAllowThisAsk())
	case errors.Is(err, studio.ErrNotYours):
		return newProblem(http.StatusForbidden, "not-yours", words.YouSeeOnlyYourOwnClients())
	case errors.Is(err, studio.ErrLocked):
		return newProblem(http.StatusConflict, "locked", words.ThisRecordLockedCanNoLongerEdited())
	case errors.Is(err, studio.ErrExists):
		return newProblem(http.StatusConflict, "exists", words.ThisAlreadyExistsChooseAnotherName())
	case errors.Is(err, studio.ErrTryAgain):
		return newProblem(http.StatusConflict, "try-again", words.SomeoneElseJustChangedThisTryAgain())
	case errors.Is(err, studio.ErrUnknownState):
		return newProblem(http.StatusServiceUnavailable, "unknown-state", words.WeCouldNotConfirmThatThisWas())
	case errors.Is(err, studio.ErrUnavailable):
		slog.Warn("the database is away", "error", err)
		return newProblem(http.StatusServiceUnavailable, "unavailable", words.DatabaseAwayTryAgain())
	case errors.Is(err, house.ErrFactor):
		return newProblem(http.StatusUnauthorized, "code-needed", words.EnterTheCodeOfYourApp())
	case errors.Is(err, studio.ErrSignIn):
		return newProblem(http.StatusUnauthorized, "sign-in-failed", words.EMailAddressOrPasswordNotCorrect())
	case errors.As(err, &throttled):
		p := newProblem(http.StatusTooManyRequests, "throttled", words.TooManyAttemptsWaitSeconds(int(math.Ceil(throttled.Wait.Seconds()))))
		p.retryAfter = strconv.Itoa(int(math.Ceil(throttled.Wait.Seconds())))
		return p
	}
	slog.Error("a use case failed", "error", err, "stack", string(debug.Stack()))
	return newProblem(http.StatusInternalServerError, "server-fault", words.SomethingWentWrongOnOurSideNothing())
}
