package httpapi

import (
	"bytes"
	"context"
	"crypto/sha256"
	"io"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"softpalm/internal/studio/house"
	"softpalm/words"
)

// keyHeader names a request, so that its repeat is answered as the first was.
const keyHeader = "Idempotency-Key"

const shortestKey, longestKey = 8, 100

// secrets are the operations whose answer shows something once.
var secrets = map[string]bool{"new-link": true, "hand-over-tablet": true, "invite-person": true, "new-password-link": true, "begin-factor": true,
	"new-calendar-address": true}

// worksOut are the operations that change nothing, or whose own key makes a repeat safe: a card payment is kept before
// the terminal is asked, and gives money back before the receipt is written, which one transaction of all could not do.
var worksOut = map[string]bool{
	"quote-sale":        true,
	"pay-sale":          true,
	"cancel-card":       true,
	"settle-card":       true,
	"refund-receipt":    true,
	"refund-deposit":    true,
	"refund-series":     true,
	"evaluate-protocol": true,
	"command-protocol":  true,
	"draft-protocol":    true,
	"vary-protocol":     true,
	"find-series":       true,
	"series-times":      true,
	"why-not":           true,
	"why-not-earlier":   true,
	"lay-series":        true,
	"standing-why":      true,
	"lay-absent-day":    true,
}

// once carries out a request with a key one time: its repeat gets the same answer, even
// when both come at the same moment. Requests that were refused can be tried again.
func (h *handlers) once(
	refuse func(huma.Context, *Problem),
) func(ctx huma.Context, in *house.SignedIn, next func(huma.Context)) {
	return func(ctx huma.Context, in *house.SignedIn, next func(huma.Context)) {
		key := ctx.Header(keyHeader)
		if len(key) < shortestKey || len(key) > longestKey {
			refuse(ctx, newProblem(http.StatusUnprocessableEntity, "key-length", words.AKeyHasBetween(shortestKey, longestKey)))
			return
		}
		body, err := io.ReadAll(io.LimitReader(ctx.BodyReader(), ctx.Operation().MaxBodyBytes+1))
		if err != nil {
			refuse(ctx, newProblem(http.StatusBadRequest, "not-understood", words.TheRequestCouldNotBeRead()))
			return
		}
		url, sum := ctx.URL(), sha256.New()
		sum.Write([]byte(ctx.Method() + " " + url.RequestURI() + "\n"))
		sum.Write(body)
		request := house.Request{Key: key, Fingerprint: sum.Sum(nil)}
		rec := &recording{humaContext: ctx, body: bytes.NewReader(body)}
		kept, replayed, err := h.rooms.House.Once(ctx.Context(), &in.Actor, request, func(work context.Context) *house.Answered {
			rec.work = work
			next(rec)
			return rec.answered()
		})
		switch {
		case err != nil:
			refuse(ctx, asProblem(answer(err)))
		case replayed:
			ctx.SetHeader("Content-Type", kept.Type)
			ctx.SetHeader("Idempotent-Replayed", "true")
			ctx.SetStatus(kept.Status)
			_, _ = ctx.BodyWriter().Write(kept.Body) // the client is gone if this fails
		default:
			rec.send()
		}
	}
}

// humaContext has a name that leaves the method Context free.
type humaContext = huma.Context

// recording is a request whose body was read already, and whose answer is held back until
// what it did is certain. Its work joins one transaction.
type recording struct {
	humaContext
	work    context.Context
	body    *bytes.Reader
	status  int
	headers [][2]string
	out     bytes.Buffer
}

func (r *recording) Context() context.Context { return r.work }
func (r *recording) BodyReader() io.Reader    { return r.body }
func (r *recording) SetStatus(code int)       { r.status = code }
func (r *recording) Status() int              { return r.status }
func (r *recording) BodyWriter() io.Writer    { return &r.out }
func (r *recording) SetHeader(name, value string) {
	r.headers = append(r.headers, [2]string{name, value})
}
func (r *recording) AppendHeader(name, value string) { r.SetHeader(name, value) }

// answered is the answer that is kept; nil where the request was refused.
func (r *recording) answered() *house.Answered {
	if r.status < 200 || r.status >= 300 {
		return nil
	}
	kept := &house.Answered{Status: r.status, Body: r.out.Bytes(), Secret: secrets[r.Operation().OperationID]}
	for _, h := range r.headers {
		if h[0] == "Content-Type" {
			kept.Type = h[1]
		}
	}
	return kept
}

// send gives the answer to who asked.
func (r *recording) send() {
	for _, h := range r.headers {
		if h[0] == "Set-Cookie" {
			r.humaContext.AppendHeader(h[0], h[1])
		} else {
			r.humaContext.SetHeader(h[0], h[1])
		}
	}
	r.humaContext.SetStatus(r.status)
	_, _ = r.humaContext.BodyWriter().Write(r.out.Bytes()) // the client is gone if this fails
}
