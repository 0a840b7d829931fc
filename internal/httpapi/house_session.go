package httpapi

import (
	"context"
	"crypto/subtle"
	"errors"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"softpalm/internal/studio"
	"softpalm/internal/studio/house"
	"softpalm/words"
)

const cookieName = "softpalm_session"

type sessionKey struct{}

// beforeFactor are the operations that an owner may ask who has yet to set a second factor.
var beforeFactor = map[string]bool{"sign-out": true, "begin-factor": true, "set-factor": true, "change-password": true}

// actor returns who asks. It panics outside an operation that needs a session.
func actor(ctx context.Context) *studio.Actor {
	return &ctx.Value(sessionKey{}).(*house.SignedIn).Actor
}

func signedIn(ctx context.Context) *house.SignedIn {
	in, _ := ctx.Value(sessionKey{}).(*house.SignedIn)
	return in
}

// longestRequest is how long a request may take: a little less than its answer may take to be written.
const longestRequest = 25 * time.Second

// session finds who asks, refuses those who are not signed in where an
// operation needs it, and checks the CSRF token of everything that changes
// something.
func (h *handlers) session(api huma.API) func(huma.Context, func(huma.Context)) {
	refuse := func(ctx huma.Context, p *Problem) {
		ctx.SetHeader("Content-Type", "application/problem+json")
		for name, values := range p.GetHeaders() {
			ctx.SetHeader(name, values[0])
		}
		ctx.SetStatus(p.Status)
		_ = api.Marshal(ctx.BodyWriter(), "application/json", p) // the client is gone if this fails
	}
	once := h.once(refuse)
	return func(ctx huma.Context, next func(huma.Context)) {
		limited, stop := context.WithTimeout(ctx.Context(), longestRequest)
		defer stop() // whatever the request still asks of the database ends with it
		if ctx.Method() == http.MethodGet {
			limited = studio.Reading(limited)
		}
		ctx = huma.WithContext(ctx, limited)
		ctx = huma.WithValue(ctx, studio.OriginKey, studio.Origin{
			Address: ctx.Header(addressHeader),
			Request: ctx.Header(requestHeader),
			Agent:   ctx.Header("User-Agent"),
		})
		in, err := h.who(ctx)
		switch {
		case err != nil:
			refuse(ctx, asProblem(answer(err)))
			return
		case in != nil:
			ctx = huma.WithContext(ctx, studio.WithStudio(context.WithValue(ctx.Context(), sessionKey{}, in), &in.Studio))
			ctx.SetHeader(accountHeader, in.Actor.Account.String())
		}
		if len(ctx.Operation().Security) > 0 {
			if in == nil {
				refuse(ctx, newProblem(http.StatusUnauthorized, "not-signed-in", words.SignInToContinue()))
				return
			}
			if m := ctx.Method(); m != http.MethodGet && m != http.MethodHead &&
				subtle.ConstantTimeCompare([]byte(ctx.Header("X-CSRF-Token")), []byte(in.Session.CSRF)) != 1 {
				refuse(ctx, newProblem(http.StatusForbidden, "csrf", words.ThisPageOutDateReloadThenTry()))
				return
			}
			operation := ctx.Operation().OperationID
			if in.Session.Locked && !studio.OpenTo(operation, studio.Tablet) {
				refuse(ctx, asProblem(answer(house.ErrHandedOver)))
				return
			}
			if in.NeedsFactor && !beforeFactor[operation] {
				refuse(ctx, newProblem(http.StatusForbidden, "needs-factor", words.SetUpYourSecondFactorFirst()))
				return
			}
			if err := in.Actor.May(operation); err != nil {
				refuse(ctx, asProblem(answer(err)))
				return
			}
			if ctx.Method() == http.MethodPost && ctx.Header(keyHeader) != "" && !worksOut[operation] {
				once(ctx, in, next)
				return
			}
		}
		// A private link is the client's: nobody reads it from an account.
		if operation := ctx.Operation().OperationID; in != nil && !in.Session.Locked &&
			studio.OpenTo(operation, studio.ByLink) && in.Actor.May(operation) != nil {
			refuse(ctx, newProblem(http.StatusConflict, "signed-in", words.ThisLinkIsForTheClientSignOutFirst()))
			return
		}
		next(ctx)
	}
}

func (h *handlers) who(ctx huma.Context) (*house.SignedIn, error) {
	cookie, err := huma.ReadCookie(ctx, cookieName)
	if err != nil || cookie.Value == "" {
		return nil, nil
	}
	in, err := h.rooms.House.Session(ctx.Context(), cookie.Value)
	if errors.Is(err, studio.ErrNotFound) {
		return nil, nil
	}
	return in, err
}

// SessionView is who is signed in, and the moment by the server's clock.
type SessionView struct {
	Now      time.Time `json:"now"`
	SignedIn bool      `json:"signedIn"`
	// Locked says that a client holds the tablet: nothing else is told then.
	Locked bool `json:"locked,omitempty"`
	// NeedsFactor says that a second factor has to be set before anything else.
	NeedsFactor bool `json:"needsFactor,omitempty"`
	// Factor says that the account signs in with an authenticator app.
	Factor bool `json:"factor,omitempty"`
	// Empty says that there is no studio yet: the first page makes one.
	Empty bool   `json:"empty,omitempty"`
	CSRF  string `json:"csrf,omitempty"`
	Name  string `json:"name,omitempty"`
	Role  string `json:"role,omitempty" enum:"owner,practitioner,trainer,trainee,front-desk"`
	// May says what of each operation the account is shown; what is missing it may not ask.
	May        map[string]studio.Scope `json:"may,omitempty"`
	StudioName string                  `json:"studioName,omitempty"`
	TimeZone   string                  `json:"timeZone,omitempty"`
	Currency   string                  `json:"currency,omitempty"`
	Person     string                  `json:"practitioner,omitempty"`
	// TypedSignatures says that a consent may be signed by typing one's name.
	TypedSignatures bool                `json:"typedSignatures,omitempty"`
	Demo            []studio.DemoSignIn `json:"demo,omitempty"`
}

func (h *handlers) view(in *house.SignedIn) SessionView {
	v := SessionView{Now: h.rooms.Now(), SignedIn: in != nil}
	if in != nil && in.Session.Locked {
		v.Locked, v.CSRF = true, in.Session.CSRF
		return v
	}
	if in != nil {
		v.NeedsFactor, v.Factor = in.NeedsFactor, in.Factor
		v.CSRF, v.Name, v.Role = in.Session.CSRF, in.Actor.Name, string(in.Actor.Role)
		v.May = in.Actor.Role.Rights()
		v.StudioName, v.TimeZone, v.Currency = in.Studio.Name, in.Studio.TimeZone, in.Studio.Currency
		v.TypedSignatures = in.Studio.Texts.TypedSignatures
		if in.Actor.Practitioner != nil {
			v.Person = in.Actor.Practitioner.String()
		}
	}
	return v
}

func (h *handlers) registerSession(api huma.API) {
	type out struct {
		SetCookie []http.Cookie `header:"Set-Cookie"`
		Body      SessionView
	}
	huma.Register(
		api,
		open("get-session", http.MethodGet, "/api/session", "Who is signed in"),
		func(ctx context.Context, _ *struct{}) (*out, error) {
			o := &out{Body: h.view(signedIn(ctx))}
			if !o.Body.SignedIn {
				if h.cfg.ShowDemo {
					demo, err := h.rooms.House.SignIns.DemoSignIns(ctx)
					if err != nil {
						return nil, answer(err)
					}
					o.Body.Demo = demo
				}
				any, err := h.rooms.House.SignIns.AnyStudio(ctx)
				if err != nil {
					return nil, answer(err)
				}
				o.Body.Empty = !any
			}
			return o, nil
		},
	)
	huma.Register(api, open("sign-in", http.MethodPost, "/api/sign-in", "Sign in"), func(ctx context.Context, in *struct {
		Origin
		Body struct {
			Email    string `json:"email" maxLength:"200"`
			Password string `json:"password" maxLength:"200"`
			Code     string `json:"code,omitempty" maxLength:"20"`
		}
	}) (*out, error) {
		c := house.Credentials{Email: in.Body.Email, Password: in.Body.Password, Code: in.Body.Code}
		s, err := h.rooms.House.SignIn(ctx, c, in.From)
		if err != nil {
			return nil, answer(err)
		}
		return &out{[]http.Cookie{h.cookie(s.Token, int(house.SessionLength.Seconds()))}, h.view(s)}, nil
	})
	huma.Register(
		api,
		closed("sign-out", http.MethodPost, "/api/sign-out", "End the session"),
		func(ctx context.Context, _ *struct{}) (*out, error) {
			in := signedIn(ctx)
			if err := h.rooms.House.SignOut(ctx, &in.Actor, in.Session.ID); err != nil {
				return nil, answer(err)
			}
			return &out{[]http.Cookie{h.cookie("", -1)}, h.view(nil)}, nil
		},
	)
}

// Origin is where a request comes from, for the throttle.
type Origin struct {
	From string `hidden:"true" json:"-"`
}

// Resolve reads the address that the server found (see origin.go).
func (o *Origin) Resolve(ctx huma.Context) []error {
	o.From = ctx.Header(addressHeader)
	return nil
}

// cookie carries a token for some seconds, counted by the browser's own clock,
// which need not agree with the server's; below 0 it is taken back.
func (h *handlers) cookie(token string, seconds int) http.Cookie {
	return http.Cookie{
		Name:     cookieName,
		Value:    token,
		Path:     "/",
		MaxAge:   seconds,
		HttpOnly: true,
		Secure:   h.cfg.SecureCookies,
		SameSite: http.SameSiteLaxMode,
	}
}

// open describes an operation for everybody, closed one that needs a session. Both have a
// line in roles.txt.
func open(id, method, path, summary string) huma.Operation {
	studio.Owner.Scope(id) // panics where there is none
	return huma.Operation{OperationID: id, Method: method, Path: path, Summary: summary, MaxBodyBytes: smallBody}
}

func closed(id, method, path, summary string) huma.Operation {
	op := open(id, method, path, summary)
	op.MaxBodyBytes = 1 << 20
	op.Security = []map[string][]string{{"session": {}}}
	return op
}
