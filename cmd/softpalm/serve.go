package main

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"net"
	"net/netip"
	"os"
	"os/user"
	"runtime/debug"
	"strconv"
	"strings"
	"sync"
	"syscall"
	"time"

	"github.com/gofiber/fiber/v3"

	"softpalm/internal/exchange"
	"softpalm/internal/httpapi"
	"softpalm/internal/mail"
	"softpalm/internal/postgres"
	"softpalm/internal/rooms"
	"softpalm/internal/studio/portal"
	"softpalm/ui"
)

func serve(ctx context.Context, cfg *settings, now func() time.Time) error {
	if cfg.ServerURL == "" {
		return errors.New("SOFTPALM_DATABASE_URL must be set to the address for the server's role; make start sets it")
	}
	db, err := postgres.Open(ctx, cfg.ServerURL)
	if err != nil {
		return err
	}
	defer db.Close()
	proxies, err := prefixes(cfg.TrustedProxies)
	if err != nil {
		return err
	}
	all := rooms.New(db, now, cfg.publicURL(), mail.Server{})
	app := httpapi.New(
		httpapi.Config{Rooms: all, Ready: db.Ready, UI: ui.Files(), SecureCookies: cfg.SecureCookies, TrustedProxies: proxies, ShowDemo: loopback(cfg.Address), Files: exchange.Files{}},
	)
	// A small heap that is collected less often: a plan is worked out anew with
	// every touch of the workbench, and what it takes is garbage at once.
	debug.SetGCPercent(400)
	debug.SetMemoryLimit(108 << 20)
	listener, err := net.Listen("tcp", cfg.Address)
	if err != nil {
		return fmt.Errorf("cannot listen on %s: %w", cfg.Address, err)
	}
	if err := leaveRoot(); err != nil {
		return err
	}
	ctx, stop := context.WithCancel(ctx)
	var sender sync.WaitGroup
	sender.Go(func() { sendMessages(ctx, all.Portal) })
	defer sender.Wait() // a message that is on its way is noted as sent
	defer stop()
	jobs, err := db.Jobs(
		now, all.Portal.TellDue, all.Diary.KeepWallTimes, all.Diary.ExtendStanding, all.Diary.ReadBusyAddresses, all.Books.RemindOfSeries,
	)
	if err != nil {
		return err
	}
	if err := jobs.Start(ctx); err != nil {
		return fmt.Errorf("cannot start the jobs: %w", err)
	}
	defer func() { _ = jobs.Stop(context.WithoutCancel(ctx)) }()
	failed := make(chan error, 1)
	go func() { failed <- app.Listener(listener, fiber.ListenConfig{DisableStartupMessage: true}) }()
	slog.Info("serving", "address", cfg.Address)
	select {
	case err := <-failed:
		return fmt.Errorf("cannot listen on %s: %w", cfg.Address, err)
	case <-ctx.Done():
		slog.Info("stopping")
		return app.ShutdownWithTimeout(10 * time.Second)
	}
}

// sendEvery is how often the server looks for messages to send.
const sendEvery = 5 * time.Second

// sendMessages sends what is waiting, until it is told to stop.
func sendMessages(ctx context.Context, from *portal.Service) {
	tick := time.NewTicker(sendEvery)
	defer tick.Stop()
	for {
		select {
		case <-ctx.Done():
			return
		case <-tick.C:
			sent, err := from.SendDue(ctx)
			if err != nil && ctx.Err() == nil {
				slog.Error("sending messages", "error", err)
			}
			if sent > 0 {
				slog.Info("sent messages", "count", sent)
			}
		}
	}
}

// loopback reports whether an address is reached from this machine only.
func loopback(address string) bool {
	host, _, err := net.SplitHostPort(address)
	if err != nil {
		return false
	}
	ip, err := netip.ParseAddr(host)
	return host == "localhost" || err == nil && ip.IsLoopback()
}

// leaveRoot goes on as the user nobody where the server was started as root: it needs no
// file and no right of root's once it listens.
func leaveRoot() error {
	if os.Geteuid() != 0 {
		return nil
	}
	nobody, err := user.Lookup("nobody")
	if err != nil {
		return fmt.Errorf("the server does not run as root, and there is no user nobody to go on as: %w", err)
	}
	uid, err := strconv.Atoi(nobody.Uid)
	if err != nil {
		return fmt.Errorf("the user nobody has no number: %w", err)
	}
	gid, err := strconv.Atoi(nobody.Gid)
	if err != nil {
		return fmt.Errorf("the group of nobody has no number: %w", err)
	}
	if err := errors.Join(syscall.Setgroups([]int{gid}), syscall.Setgid(gid), syscall.Setuid(uid)); err != nil {
		return fmt.Errorf("the server could not leave root: %w", err)
	}
	slog.Info("started as root; going on as nobody")
	return nil
}

// prefixes reads addresses and ranges: 10.0.0.2, 10.0.0.0/24.
func prefixes(list string) (out []netip.Prefix, err error) {
	for _, text := range strings.FieldsFunc(list, func(r rune) bool { return r == ',' || r == ' ' }) {
		if a, err := netip.ParseAddr(text); err == nil {
			out = append(out, netip.PrefixFrom(a, a.BitLen()))
			continue
		}
		p, err := netip.ParsePrefix(text)
		if err != nil {
			return nil, fmt.Errorf("SOFTPALM_TRUSTED_PROXIES: %q is not an address or a range such as 10.0.0.0/24", text)
		}
		out = append(out, p)
	}
	return out, nil
}
