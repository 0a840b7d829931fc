// Softpalm serves the application and keeps its database in order.
//
//	softpalm serve                serve until told to stop; signs in as the server's own role
//	softpalm migrate              bring the database up to date, after a backup; signs in as the owner
//	softpalm demo FILE            make a studio of a file, once, and name its accounts on the sign-in page
//	softpalm new FILE             make a studio of a file
//	softpalm backup now|nightly   put the database into a file, once or every night
//	softpalm restore FILE [NAME]  put a backup into an empty database, or into a new one
//	softpalm url server|backup    print the address of the database for a role
//	softpalm openapi              print the OpenAPI document
//	softpalm compute TOPIC        answer questions of the craft, JSON in and out (--schema prints what they hold)
//	softpalm schema studio        print the JSON Schema of the studio file (or protocol, library, rule-pack)
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
	"strings"
	"syscall"
	"time"
	_ "time/tzdata"

	"github.com/caarlos0/env/v11"

	"softpalm/internal/compute"
	"softpalm/internal/exchange"
	"softpalm/internal/httpapi"
	"softpalm/internal/postgres"
	"softpalm/internal/rooms"
	"softpalm/internal/studio"
	"softpalm/internal/studio/house"
)

// settings come from the environment.
type settings struct {
	// DatabaseURL signs in as the owner of the schema, for backups as the role that makes them.
	DatabaseURL string `env:"DATABASE_URL"`
	// ServerURL signs in as the role of the server; serving needs no other.
	ServerURL string `env:"SOFTPALM_DATABASE_URL"`
	// AppPassword and BackupPassword are set for the roles of server and backups by a migration.
	AppPassword    string `env:"SOFTPALM_APP_PASSWORD"`
	BackupPassword string `env:"SOFTPALM_BACKUP_PASSWORD"`
	// Backups is the folder of backups; BackupPassphrase encrypts them; BackupKeep is how
	// many nightly ones are kept.
	Backups          string `env:"SOFTPALM_BACKUPS"`
	BackupPassphrase string `env:"SOFTPALM_BACKUP_PASSPHRASE"`
	BackupKeep       int    `env:"SOFTPALM_BACKUP_KEEP" envDefault:"14"`
	// Address to listen on.
	Address string `env:"SOFTPALM_ADDRESS" envDefault:"127.0.0.1:8080"`
	// SecureCookies marks cookies for HTTPS only; set it behind a TLS proxy.
	// TrustedProxies are addresses or ranges, with commas between them.
	TrustedProxies string `env:"SOFTPALM_TRUSTED_PROXIES"`
	// PublicURL is where clients reach the studio, for links in messages.
	PublicURL     string `env:"SOFTPALM_PUBLIC_URL"`
	SecureCookies bool   `env:"SOFTPALM_SECURE_COOKIES" envDefault:"false"`
	// ClockStart makes the server's clock begin at a moment (RFC 3339), for tests and pictures.
	ClockStart string `env:"SOFTPALM_CLOCK_START"`
	// ClockSpeed is how fast that clock goes.
	ClockSpeed float64 `env:"SOFTPALM_CLOCK_SPEED" envDefault:"1"`
}

func main() {
	slog.SetDefault(slog.New(slog.NewJSONHandler(os.Stderr, nil)))
	if err := run(os.Args[1:]); err != nil {
		fmt.Fprintln(os.Stderr, "softpalm:", err)
		os.Exit(1)
	}
}

// runCompute answers questions from the standard input; without a topic it lists the topics.
func runCompute(args []string) error {
	switch {
	case len(args) == 0:
		fmt.Println(strings.Join(compute.Topics(), "\n"))
		return nil
	case len(args) > 1 && args[1] == "--schema":
		return compute.Schema(args[0], os.Stdout)
	}
	return compute.Run(args[0], os.Stdin, os.Stdout)
}

func run(args []string) error {
	command := "serve"
	if len(args) > 0 {
		command, args = args[0], args[1:]
	}
	switch command {
	case "openapi":
		return printOpenAPI()
	case "compute":
		return runCompute(args)
	case "schema":
		return printSchema(args)
	case "figures":
		return writeFigures(args)
	}
	var cfg settings
	if err := env.Parse(&cfg); err != nil {
		return fmt.Errorf("reading the environment: %w", err)
	}
	now, err := clock(cfg.ClockStart, cfg.ClockSpeed)
	if err != nil {
		return err
	}
	ctx, stop := signal.NotifyContext(context.Background(), syscall.SIGINT, syscall.SIGTERM)
	defer stop()
	switch command {
	case "serve":
		return serve(ctx, &cfg, now)
	case "migrate":
		return cfg.migrate(ctx, now)
	case "demo", "new":
		return cfg.create(ctx, now, command == "demo", args)
	case "backup":
		return cfg.backup(ctx, now, args)
	case "restore":
		return cfg.restore(ctx, args)
	case "url":
		return cfg.printURL(args)
	}
	return fmt.Errorf("there is no command %q; use serve, migrate, demo, new, backup, restore, url, openapi, schema or figures", command)
}

// publicURL is the address for links in messages, without a slash at its end.
func (cfg *settings) publicURL() string {
	if cfg.PublicURL != "" {
		return strings.TrimRight(cfg.PublicURL, "/")
	}
	return "http://" + cfg.Address
}

// clock returns the one clock of the server.
func clock(start string, speed float64) (func() time.Time, error) {
	if start == "" {
		return time.Now, nil
	}
	at, err := time.Parse(time.RFC3339, start)
	if err != nil {
		return nil, fmt.Errorf("SOFTPALM_CLOCK_START is not a moment like 2026-11-24T10:00:00Z: %w", err)
	}
	begun := time.Now()
	return func() time.Time { return at.Add(time.Duration(speed * float64(time.Since(begun)))) }, nil
}

// create makes a studio of a file.
func (cfg *settings) create(ctx context.Context, now func() time.Time, demo bool, args []string) error {
	if len(args) != 1 {
		return errors.New("say which studio file: softpalm new FILE")
	}
	if err := cfg.migrate(ctx, now); err != nil {
		return err
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
	svc := rooms.New(db, now, cfg.publicURL(), nil)
	data, err := os.ReadFile(args[0])
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
	if demo {
		if err := stockDemoRoom(b); err != nil {
			return err
		}
	}
	c, err := svc.House.CreateStudio(ctx, b, demo)
	if err != nil {
		return explain(err)
	}
	if demo {
		first := house.Credentials{Email: b.Accounts[0].Email, Password: b.Accounts[0].Password}
		if err := workDemoRoom(ctx, db, now, first); err != nil {
			return explain(err)
		}
		if err := workDemoShelf(ctx, db, now, first); err != nil {
			return explain(err)
		}
	}
	fmt.Printf(
		"Made the studio %s: %d clients, %d appointments, %d protocols, %d strokes, %d products, %d tools.\n",
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
	api := httpapi.NewAPI(http.NewServeMux(), httpapi.Config{Rooms: rooms.New(nil, time.Now, "", nil)})
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
