// Package httpapi serves the use cases of package studio over HTTP, and the
// built front end. It binds, calls and answers; it holds no rules. Operations
// are typed with huma, which produces the OpenAPI document; Fiber carries
// everything (docs/decisions/0001).
package httpapi

import (
	"bytes"
	"context"
	"crypto/rand"
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"log/slog"
	"net/http"
	"net/netip"
	"path"
	"runtime/debug"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/adapters/humago"
	"github.com/gofiber/fiber/v3"
	"github.com/gofiber/fiber/v3/middleware/adaptor"
	"github.com/gofiber/fiber/v3/middleware/compress"
	recoverer "github.com/gofiber/fiber/v3/middleware/recover"

	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/quickjson"
	"softpalm/internal/rooms"
	"softpalm/internal/studio/books"
	"softpalm/internal/studio/checks"
	"softpalm/internal/studio/clients"
	"softpalm/internal/studio/diary"
	"softpalm/internal/studio/house"
	"softpalm/internal/studio/portal"
	"softpalm/internal/studio/protocols"
	"softpalm/internal/studio/shelf"
	"softpalm/internal/studio/treatment"
	"softpalm/words"
)

// Config sets up a server.
type Config struct {
	Rooms *rooms.Rooms
	// Ready reports whether the database answers.
	Ready func(context.Context) error
	// UI holds the built front end with an index.html; nil serves the API only.
	UI fs.FS
	// TrustedProxies are those whose word is taken for where a request comes from.
	TrustedProxies []netip.Prefix
	// ShowDemo names the demo's accounts, with their passwords, on the sign-in page: on a server
	// that only this machine reaches.
	ShowDemo bool
	// SecureCookies marks cookies for HTTPS only.
	SecureCookies bool
	// Files reads and writes the file formats.
	Files Files
}

// Files reads and writes the application's file formats. A reader reports every
// problem in a *studio.InputError.
type Files interface {
	// FormatOf says which format a file claims to be, "" where it cannot be told.
	FormatOf(data []byte) string
	ReadBundle(data []byte) (*house.Bundle, error)
	ReadProtocol(data []byte) (*protocols.ProtocolFile, error)
	ReadLibrary(data []byte) (*protocols.LibraryFile, error)
	Write(file any) ([]byte, error)
	ProtocolCard(
		p *protocol.Protocol,
		e *evaluation.Evaluation,
		ctx *protocol.Context,
		studio, version, size string,
		at time.Time,
	) ([]byte, error)
	WallCard(p *protocol.Protocol, e *evaluation.Evaluation, studio, version string, at time.Time) ([]byte, error)
	LetterPaper(p *checks.Paper, at time.Time) ([]byte, error)
	SummaryPaper(p *checks.Paper, at time.Time) ([]byte, error)
	ClientPaper(f *clients.ClientExport, at time.Time) ([]byte, error)
	StepsCSV(p *protocol.Protocol, e *evaluation.Evaluation) ([]byte, error)
	// SetUpPaper lists what to lay out for a day's treatments, by practitioner.
	SetUpPaper(list []diary.PractitionerSetUp, studio string, at time.Time) ([]byte, error)
	// LedgerCSV and AccountsCSV are a month for the accountant, MonthPaper its totals as PDF.
	LedgerCSV(m *books.Month) ([]byte, error)
	AccountsCSV(m *books.Month) ([]byte, error)
	MonthPaper(m *books.Month, at time.Time) ([]byte, error)
	ReceiptPaper(r *books.Receipt, at time.Time) ([]byte, error)
	// SeriesPaper is what a client has paid ahead.
	SeriesPaper(list []books.Strip, studio, address string, at time.Time) ([]byte, error)
	VoucherPaper(v *books.VoucherToGive, at time.Time) ([]byte, error)
	OrderCSV(o *shelf.PurchaseOrder) ([]byte, error)
	OrderPaper(o *shelf.PurchaseOrder, studio, address string, at time.Time) ([]byte, error)
	BatchLabel(b *shelf.Batch, studio string, at time.Time) ([]byte, error)
	// ReactionPaper is a reaction for a supplier or an authority.
	ReactionPaper(r *treatment.ReactionReport, studio string, zone *time.Location, at time.Time) ([]byte, error)
	// RecordPaper is the record of a treatment.
	RecordPaper(r *treatment.RecordView, studio string, zone *time.Location, at time.Time) ([]byte, error)
	// OpenedSticker goes on a pack that was opened.
	OpenedSticker(l *shelf.Label, studio string, at time.Time) ([]byte, error)
	// RecallCSV lists whom recalled lots reached as comma-separated values.
	RecallCSV(t *shelf.LotTrace) ([]byte, error)
	// RecallPaper lists whom recalled lots reached, with names or without.
	// RecallLetters is a letter to each client whom a recall reached.
	RecallLetters(t *shelf.LotTrace, studio, address string, at time.Time) ([]byte, error)
	RecallPaper(t *shelf.LotTrace, names bool, studio string, at time.Time) ([]byte, error)
	// Calendar writes appointments as iCalendar (RFC 5545).
	Calendar(c *portal.Calendar) ([]byte, error)
	// WriteCards writes contacts as vCard 4.0 (RFC 6350).
	WriteCards(list []clients.Card, now time.Time) ([]byte, error)
}

// csp allows nothing from elsewhere and no inline script.
const csp = "default-src 'none'; script-src 'self'; style-src 'self'; img-src 'self' data:; font-src 'self'; media-src 'self'; connect-src 'self'; manifest-src 'self'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'"

// BodyLimitBytes is the largest request read; studio files are the largest.
const BodyLimitBytes = 16 << 20

// New returns the application. It serves /healthz, /readyz, /api and, for every
// other path, the front end.
func New(cfg Config) *fiber.App {
	app := fiber.New(fiber.Config{
		BodyLimit: BodyLimitBytes,
		// Every connection would keep the largest answer it ever sent, and the memory that is left be collected all the time.
		ReduceMemoryUsage: true,
		// Large bodies are read once it is known who sends them.
		StreamRequestBody: true,
		ReadTimeout:       20 * time.Second,
		WriteTimeout:      30 * time.Second,
		IdleTimeout:       2 * time.Minute,
		ErrorHandler: func(c fiber.Ctx, err error) error {
			p := newProblem(fiber.StatusInternalServerError, "server-fault", words.SomethingWentWrongOnOurSideNothing())
			var fe *fiber.Error
			if errors.As(err, &fe) && fe.Code == fiber.StatusRequestEntityTooLarge {
				p = newProblem(fe.Code, "too-large", words.ThisIsTooLargeToSend())
			} else if errors.As(err, &fe) && fe.Code < 500 {
				p = newProblem(fe.Code, "not-understood", words.TheRequestCouldNotBeRead())
			} else {
				slog.Error("request failed", "method", c.Method(), "path", loggedPath(c.Path()), "request", c.GetRespHeader(requestHeader), "error", err)
			}
			return c.Status(p.Status).JSON(p, "application/problem+json")
		},
	})
	h := &handlers{cfg: cfg, rooms: cfg.Rooms, told: newTold()}
	app.Use(found(cfg.TrustedProxies), logged)
	app.Use(recoverer.New(recoverer.Config{EnableStackTrace: true, StackTraceHandler: broke}))
	app.Use(secured, h.large)
	if cfg.SecureCookies {
		app.Use(overTLS)
	}
	// Answers of the API are compressed in a hurry; the screens' files, which a browser
	// fetches once, as small as they get without a wait.
	ofAPI := func(c fiber.Ctx) bool { return strings.HasPrefix(c.Path(), "/api/") }
	app.Use(compress.New(compress.Config{Level: compress.LevelDefault, Next: ofAPI}))
	app.Use("/api/", hurried(), keepPacked())
	app.Get("/healthz", func(c fiber.Ctx) error { return c.SendString("ok") })
	app.Get("/readyz", func(c fiber.Ctx) error {
		ctx, cancel := context.WithTimeout(c.Context(), 2*time.Second)
		defer cancel()
		if err := cfg.Ready(ctx); err != nil {
			return c.Status(fiber.StatusServiceUnavailable).SendString("the database does not answer")
		}
		return c.SendString("ready")
	})
	mux := http.NewServeMux()
	h.api(mux)
	app.All("/api/*", adaptor.HTTPHandler(mux))
	if cfg.UI != nil {
		app.Get("/*", front(cfg.UI))
	}
	return app
}

// NewAPI registers every operation on a mux and returns the API with its
// OpenAPI document.
func NewAPI(mux *http.ServeMux, cfg Config) huma.API {
	h := &handlers{cfg: cfg, rooms: cfg.Rooms, told: newTold()}
	return h.api(mux)
}

func (h *handlers) api(mux *http.ServeMux) huma.API {
	hc := huma.DefaultConfig("Soft Palm", "1")
	hc.OpenAPIPath, hc.DocsPath, hc.SchemasPath = "/api/openapi", "", ""
	hc.CreateHooks = nil // no $schema links in answers
	written := huma.Format{Marshal: quickjson.Write, Unmarshal: json.Unmarshal}
	hc.Formats = map[string]huma.Format{"application/json": written, "json": written}
	hc.Components.SecuritySchemes = map[string]*huma.SecurityScheme{"session": {Type: "apiKey", In: "cookie", Name: cookieName}}
	api := humago.New(mux, hc)
	api.UseMiddleware(h.session(api))
	h.register(api)
	describeFindings(api)
	return api
}

// broke writes what should not happen into the log, with where it happened.
func broke(c fiber.Ctx, e any) {
	slog.Error("a request broke", "method", c.Method(), "path", loggedPath(c.Path()), "request", c.GetRespHeader(requestHeader),
		"fault", fmt.Sprint(e), "stack", string(debug.Stack()))
}

// loggedPath is a path as the log has it: the token of a private calendar is left out.
func loggedPath(path string) string {
	const calendars = "/api/calendars/"
	if strings.HasPrefix(path, calendars) {
		return calendars + "…"
	}
	return path
}

// logged writes one line a request, without queries, names or bodies: paths
// hold random ids only.
func logged(c fiber.Ctx) error {
	start := time.Now()
	err := c.Next()
	defer c.Response().Header.Del(accountHeader)
	if p := c.Path(); strings.HasPrefix(p, "/api/") {
		slog.Info(
			"request",
			"method",
			c.Method(),
			"path",
			loggedPath(p),
			"status",
			c.Response().StatusCode(),
			"ms",
			time.Since(start).Milliseconds(),
			"request",
			c.GetRespHeader(requestHeader),
			"account",
			c.GetRespHeader(accountHeader),
		)
	}
	return err
}

// overTLS tells browsers to come by HTTPS only, for a year.
func overTLS(c fiber.Ctx) error {
	c.Set("Strict-Transport-Security", "max-age=31536000")
	return c.Next()
}

func secured(c fiber.Ctx) error {
	c.Set("X-Content-Type-Options", "nosniff")
	if strings.HasPrefix(c.Path(), "/assets/") { // parts of a page, which says itself what it may do
		return c.Next()
	}
	c.Set("Content-Security-Policy", csp)
	c.Set("Referrer-Policy", "no-referrer")
	c.Set("Permissions-Policy", "camera=(), microphone=(), geolocation=()")
	c.Set("Cross-Origin-Opener-Policy", "same-origin")
	if strings.HasPrefix(c.Path(), "/api/") {
		c.Set("Cache-Control", "no-store")
	}
	return c.Next()
}

// nonceMark is where index.html takes the nonce of its styles.
const nonceMark = `<meta name="style-nonce" content="`

// front serves the built files, and index.html for the application's own paths.
// Every index.html carries a nonce of its own: the style with which a dialog keeps
// the page behind it still is made by a script and needs it.
func front(ui fs.FS) fiber.Handler {
	scripts := readPreloads(ui)
	return func(c fiber.Ctx) error {
		name := strings.TrimPrefix(path.Clean("/"+c.Path()), "/")
		data, err := fs.ReadFile(ui, name)
		if err != nil || name == "" {
			if strings.HasPrefix(name, "assets/") {
				return c.Status(fiber.StatusNotFound).SendString("no such file")
			}
			name = "index.html"
			if data, err = fs.ReadFile(ui, name); err != nil {
				return c.Status(fiber.StatusServiceUnavailable).SendString("The screens have not been built. Run make start.")
			}
		}
		switch {
		case strings.HasPrefix(name, "assets/"):
			c.Set("Cache-Control", "public, max-age=31536000, immutable")
		case name == "index.html":
			nonce := rand.Text()
			c.Set("Content-Security-Policy", strings.Replace(csp, "style-src 'self'", "style-src 'self' 'nonce-"+nonce+"'", 1))
			c.Set("Cache-Control", "no-store")
			data = scripts.into(bytes.Replace(data, []byte(nonceMark), []byte(nonceMark+nonce), 1), c)
		default:
			c.Set("Cache-Control", "no-cache")
		}
		c.Type(strings.TrimPrefix(path.Ext(name), "."))
		return c.Send(packed(c, ui, name, data))
	}
}
