// Softpalm serves the application and keeps its database in order.
//
//	softpalm serve            migrate, then serve until told to stop
//	softpalm migrate          bring the database up to date
//	softpalm demo FILE        make a studio of a file, once, and name its accounts on the sign-in page
//	softpalm create FILE      make a studio of a file
//	softpalm openapi          print the OpenAPI document
//	softpalm schema studio    print the JSON Schema of the studio file (or protocol, library, rule-pack)
package main

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"log/slog"
	"net/http"
	"os"
	"os/signal"
	"runtime/debug"
	"syscall"
	"time"
	_ "time/tzdata"

	"github.com/caarlos0/env/v11"
	"github.com/gofiber/fiber/v3"

	"softpalm/internal/exchange"
	"softpalm/internal/httpapi"
	"softpalm/internal/postgres"
	"softpalm/internal/rooms"
	"softpalm/internal/studio"
	"softpalm/ui"
)

// settings come from the environment.
type settings struct {
	// DatabaseURL signs in as the owner of the schema, for migrations.
	DatabaseURL string `env:"DATABASE_URL"`
	// AppPassword is the password of the role the server signs in as.
	AppPassword string `env:"SOFTPALM_APP_PASSWORD"`
	// Address to listen on.
	Address string `env:"SOFTPALM_ADDRESS" envDefault:"127.0.0.1:8080"`
	// SecureCookies marks cookies for HTTPS only; set it behind a TLS proxy.
	SecureCookies bool `env:"SOFTPALM_SECURE_COOKIES" envDefault:"false"`
	// ClockStart makes the server's clock begin at a moment (RFC 3339), for tests and pictures.
	ClockStart string `env:"SOFTPALM_CLOCK_START"`
}

func main() {
	slog.SetDefault(slog.New(slog.NewJSONHandler(os.Stderr, nil)))
	if err := run(os.Args[1:]); err != nil {
		fmt.Fprintln(os.Stderr, "softpalm:", err)
		os.Exit(1)
	}
}

func run(args []string) error {
	command := "serve"
	if len(args) > 0 {
		command = args[0]
	}
	switch command {
	case "openapi":
		return printOpenAPI()
	case "schema":
		return printSchema(args[1:])
	}
	var cfg settings
	if err := env.Parse(&cfg); err != nil {
		return fmt.Errorf("reading the environment: %w", err)
	}
	if cfg.DatabaseURL == "" || cfg.AppPassword == "" {
		return errors.New("DATABASE_URL and SOFTPALM_APP_PASSWORD must be set; make start sets both")
	}
	now, err := clock(cfg.ClockStart)
	if err != nil {
		return err
	}
	ctx, stop := signal.NotifyContext(context.Background(), syscall.SIGINT, syscall.SIGTERM)
	defer stop()
	if err := postgres.Migrate(ctx, cfg.DatabaseURL, cfg.AppPassword); err != nil {
		return err
	}
	if command == "migrate" {
		return nil
	}
	appURL, err := postgres.AppURL(cfg.DatabaseURL, cfg.AppPassword)
	if err != nil {
		return err
	}
	db, err := postgres.Open(ctx, appURL)
	if err != nil {
		return err
	}
	defer db.Close()
	svc := rooms.New(db, now)
	switch command {
	case "serve":
		return serve(ctx, cfg, svc, db)
	case "demo", "create":
		if len(args) < 2 {
			return fmt.Errorf("%s needs the path of a studio file", command)
		}
		return create(ctx, svc, args[1], command == "demo")
	}
	return fmt.Errorf("there is no command %q; use serve, migrate, demo, create, openapi or schema", command)
}

// clock returns the one clock of the server.
func clock(start string) (func() time.Time, error) {
	if start == "" {
		return time.Now, nil
	}
	at, err := time.Parse(time.RFC3339, start)
	if err != nil {
		return nil, fmt.Errorf("SOFTPALM_CLOCK_START is not a moment like 2026-11-24T10:00:00Z: %w", err)
	}
	begun := time.Now()
	return func() time.Time { return at.Add(time.Since(begun)) }, nil
}

func serve(ctx context.Context, cfg settings, svc *rooms.Rooms, db *postgres.DB) error {
	app := httpapi.New(
		httpapi.Config{Rooms: svc, Ready: db.Ready, UI: ui.Files(), SecureCookies: cfg.SecureCookies, Files: exchange.Files{}},
	)
	// A small heap that is collected less often: a plan is worked out anew with
	// every touch of the workbench, and what it takes is garbage at once.
	debug.SetGCPercent(400)
	debug.SetMemoryLimit(120 << 20)
	failed := make(chan error, 1)
	go func() { failed <- app.Listen(cfg.Address, fiber.ListenConfig{DisableStartupMessage: true}) }()
	slog.Info("serving", "address", cfg.Address)
	select {
	case err := <-failed:
		return fmt.Errorf("cannot listen on %s: %w", cfg.Address, err)
	case <-ctx.Done():
		slog.Info("stopping")
		return app.ShutdownWithTimeout(10 * time.Second)
	}
}

func create(ctx context.Context, svc *rooms.Rooms, path string, demo bool) error {
	data, err := os.ReadFile(path)
	if err != nil {
		return err
	}
	b, err := exchange.ReadBundle(data)
	if err != nil {
		return explain(err)
	}
	if demo && len(b.Accounts) > 0 {
		if _, _, err := svc.House.SignIns.FindSignIn(ctx, b.Accounts[0].Email); err == nil {
			return nil // loaded on an earlier start; the data stays
		} else if !errors.Is(err, studio.ErrNotFound) {
			return err
		}
	}
	c, err := svc.House.CreateStudio(ctx, b, demo)
	if err != nil {
		return explain(err)
	}
	fmt.Printf(
		"Made the studio %s: %d clients, %d visits, %d protocols, %d strokes, %d products, %d tools.\n",
		b.Studio.Name,
		c.Clients,
		c.Visits,
		c.Protocols,
		c.Strokes,
		c.Products,
		c.Tools,
	)
	return nil
}

// explain lists every problem of a file.
func explain(err error) error {
	var in *studio.InputError
	if !errors.As(err, &in) {
		return err
	}
	text := "the file cannot be used:"
	for _, p := range in.Problems {
		text += "\n  " + p.Path + ": " + p.Message
	}
	return errors.New(text)
}

func printOpenAPI() error {
	api := httpapi.NewAPI(http.NewServeMux(), httpapi.Config{Rooms: rooms.New(nil, time.Now)})
	out, err := json.MarshalIndent(api.OpenAPI(), "", "  ")
	if err != nil {
		return err
	}
	_, err = os.Stdout.Write(append(out, '\n'))
	return err
}

func printSchema(args []string) error {
	schemas := map[string]func() []byte{
		"studio":    exchange.BundleSchema,
		"protocol":  exchange.ProtocolSchema,
		"library":   exchange.LibrarySchema,
		"rule-pack": exchange.PackSchema,
	}
	if len(args) != 1 || schemas[args[0]] == nil {
		return errors.New("say which schema: studio, protocol, library or rule-pack")
	}
	_, err := os.Stdout.Write(schemas[args[0]]())
	return err
}
