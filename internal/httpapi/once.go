package httpapi

import (
	"bytes"
	"context"
	"crypto/sha256"
	"io"
	"log/slog"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"softpalm/internal/studio/house"
	"softpalm/words"
)

// keyHeader names a request, so that its repeat is answered as the first was.
const keyHeader = "Idempotency-Key"

const shortestKey, longestKey = 8, 100

// secrets are the operations whose answer shows something once.
var secrets = map[string]bool{"new-link": true, "hand-over-tablet": true, "invite-person": true, "new-password-link": true, "begin-factor": true}

// worksOut are the operations that change nothing; they can be repeated without a key.
var worksOut = map[string]bool{
	"evaluate-protocol": true,
	"command-protocol":  true,
	"draft-protocol":    true,
	"vary-protocol":     true,
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
		before, err := h.rooms.House.BeginRequest(ctx.Context(), &in.Actor, house.Request{Key: key, Fingerprint: sum.Sum(nil)})
		switch {
		case err != nil:
			refuse(ctx, asProblem(answer(err)))
			return
		case before != nil:
			ctx.SetHeader("Content-Type", before.Type)
			ctx.SetHeader("Idempotent-Replayed", "true")
			ctx.SetStatus(before.Status)
			_, _ = ctx.BodyWriter().Write(before.Body) // the client is gone if this fails
			return
		}
		rec := &recording{humaContext: ctx, body: bytes.NewReader(body)}
		defer h.end(rec, in, key)
		next(rec)
	}
}

// end keeps the answer of a request that was carried out and forgets one that was not,
// also when the client has gone or the operation broke.
func (h *handlers) end(rec *recording, in *house.SignedIn, key string) {
	var kept *house.Answered
	if rec.status >= 200 && rec.status < 300 {
		kept = &house.Answered{
			Status: rec.status,
			Type:   rec.header,
			Body:   rec.out.Bytes(),
			Secret: secrets[rec.Operation().OperationID],
		}
	}
	if err := h.rooms.House.EndRequest(context.WithoutCancel(rec.Context()), &in.Actor, key, kept); err != nil {
		slog.Error("the answer to a keyed request could not be kept", "error", err)
	}
}

// humaContext has a name that leaves the method Context free.
type humaContext = huma.Context

// recording is a request whose body was read already, and whose answer is kept.
type recording struct {
	humaContext
	body   *bytes.Reader
	status int
	header string
	out    bytes.Buffer
}

func (r *recording) BodyReader() io.Reader { return r.body }

func (r *recording) SetStatus(code int) {
	r.status = code
	r.humaContext.SetStatus(code)
}

func (r *recording) SetHeader(name, value string) {
	if name == "Content-Type" {
		r.header = value
	}
	r.humaContext.SetHeader(name, value)
}

func (r *recording) BodyWriter() io.Writer { return io.MultiWriter(r.humaContext.BodyWriter(), &r.out) }
