// Package rooms is the composition root: it fills in what each room of the studio
// asks of the others.
package rooms

import (
	"time"

	"softpalm/internal/exchange"
	"softpalm/internal/standin"
	"softpalm/internal/studio"
	"softpalm/internal/studio/books"
	"softpalm/internal/studio/checks"
	"softpalm/internal/studio/clients"
	"softpalm/internal/studio/diary"
	"softpalm/internal/studio/house"
	"softpalm/internal/studio/portal"
	"softpalm/internal/studio/protocols"
	"softpalm/internal/studio/shelf"
	"softpalm/internal/studio/treatment"
	"softpalm/internal/web"
)

// Rooms are the use cases of a studio, room by room.
type Rooms struct {
	*studio.Kernel
	House     *house.Service
	Clients   *clients.Service
	Checks    *checks.Service
	Diary     *diary.Service
	Protocols *protocols.Service
	Treatment *treatment.Service
	Shelf     *shelf.Service
	Portal    *portal.Service
	Books     *books.Service
	// Terminal is the simulated card terminal.
	Terminal *standin.Terminal
}

// Store is what the rooms are built on.
type Store interface {
	studio.UnitOfWork
	checks.Links
	house.SignIns
	portal.Outbox
	portal.Calendars
	portal.Pages
}

// New puts the rooms together over a store, a clock, the address at which the studio is
// reached and what hands mail to mail servers.
func New(store Store, now func() time.Time, address string, mailer studio.Mailer) *Rooms {
	k := &studio.Kernel{Work: store, Now: now, Address: address}
	r := &Rooms{
		Kernel:    k,
		Checks:    &checks.Service{Kernel: k, Links: store},
		Protocols: &protocols.Service{Kernel: k},
	}
	r.Shelf = &shelf.Service{Kernel: k, Checks: r.Checks}
	r.Terminal = &standin.Terminal{Kernel: k}
	r.Books = &books.Service{Kernel: k, Terminal: r.Terminal, Shelf: r.Shelf}
	r.Clients = &clients.Service{Kernel: k, Checks: r.Checks, Files: exchange.Files{}}
	r.Diary = &diary.Service{Kernel: k, Checks: r.Checks, Busy: exchange.Files{}, Fetch: web.Fetcher{}}
	r.Treatment = &treatment.Service{Kernel: k, Checks: r.Checks, Diary: r.Diary, Shelf: r.Shelf, Books: r.Books}
	r.Portal = &portal.Service{Kernel: k, Outbox: store, Mailer: mailer, Calendars: store, Pages: store, Diary: r.Diary, Checks: r.Checks, Files: exchange.Files{}}
	r.House = &house.Service{Kernel: k, Checks: r.Checks, Treatment: r.Treatment, SignIns: store, Messages: r.Portal, Diary: r.Diary, Books: r.Books}
	r.Checks.Diary, r.Checks.Messages = r.Diary, r.Portal
	r.Diary.Messages, r.Books.Diary, r.Protocols.Prices = r.Portal, r.Diary, r.Books
	r.Books.Messages = r.Portal
	return r
}
