package main

import (
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"net/http"

	"github.com/google/uuid"
	vegeta "github.com/tsenart/vegeta/v12/lib"
)

// work is one kind of request, sent at a rate; its limit is the slowest hundredth in milliseconds.
type work struct {
	name  string
	rate  int
	limit int
	next  func(n int) vegeta.Target
	said  string // the first answer that was no success
}

// known is what requests are made of.
type known struct {
	Day     string
	Clients []string
	Visits  []string // of today
	Past    []string // treatments given
	Plans   []string
	Packs   []string
	Product string
}

// learn reads what the works name: clients, the appointments of the day, protocols, packs.
func (l *load) learn() error {
	k := &l.known
	var session struct{ Now string }
	if err := l.get("/api/session", &session); err != nil {
		return err
	}
	k.Day = session.Now[:10]
	var day struct{ Visits []struct{ ID, Client string } }
	if err := l.get("/api/day?date="+k.Day, &day); err != nil {
		return err
	}
	for _, v := range day.Visits {
		k.Visits, k.Clients = append(k.Visits, v.ID), append(k.Clients, v.Client)
	}
	var client struct{ Visits []struct{ ID, State string } }
	for _, id := range k.Clients[:min(20, len(k.Clients))] {
		if err := l.get("/api/clients/"+id, &client); err != nil {
			return err
		}
		for _, v := range client.Visits {
			if v.State == "done" {
				k.Past = append(k.Past, v.ID)
			}
		}
	}
	var plans []struct{ ID string }
	if err := l.get("/api/protocols", &plans); err != nil {
		return err
	}
	for _, p := range plans {
		k.Plans = append(k.Plans, p.ID)
	}
	var shelf []struct {
		Product struct{ ID string }
		Packs   []struct {
			ID     string
			Usable bool
			Left   json.Number
		}
	}
	if err := l.get("/api/shelf", &shelf); err != nil {
		return err
	}
	k.Product = shelf[0].Product.ID
	for _, line := range shelf {
		for _, p := range line.Packs {
			if left, _ := p.Left.Float64(); p.Usable && left > 20 {
				k.Packs = append(k.Packs, p.ID)
			}
		}
	}
	return nil
}

// reads are those of ordinary screens. X stands for one of a list.
func (l *load) reads() map[string]func() string {
	k := &l.known
	one := func(of []string) string { return of[rand.IntN(len(of))] } //nolint:gosec // a load needs no secrets
	return map[string]func() string{
		"session": func() string { return "/api/session" },
		"day":     func() string { return "/api/day?date=" + k.Day },
		"week":    func() string { return "/api/week?from=" + k.Day },
		"free times": func() string {
			return "/api/free-times?protocol=" + one(k.Plans) + "&client=" + one(k.Clients) + "&days=7"
		},
		"inbox":   func() string { return "/api/inbox" },
		"clients": func() string { return "/api/clients" },
		"client search": func() string {
			return "/api/clients?search=" + one([]string{"ada", "lind", "kov", "555%200012", "client77", "eloise", "lind%20ada"})
		},
		"client":                func() string { return "/api/clients/" + one(k.Clients) },
		"client visits":         func() string { return "/api/clients/" + one(k.Clients) + "/visits" },
		"consents":              func() string { return "/api/clients/" + one(k.Clients) + "/consents" },
		"letters":               func() string { return "/api/clients/" + one(k.Clients) + "/letters" },
		"patch tests":           func() string { return "/api/clients/" + one(k.Clients) + "/patch-tests" },
		"pre-checks":            func() string { return "/api/clients/" + one(k.Clients) + "/pre-checks" },
		"caution history":       func() string { return "/api/clients/" + one(k.Clients) + "/caution-history" },
		"questions":             func() string { return "/api/clients/" + one(k.Clients) + "/questions" },
		"appointment":           func() string { return "/api/visits/" + one(k.Visits) },
		"room":                  func() string { return "/api/visits/" + one(k.Past) + "/room" },
		"record":                func() string { return "/api/visits/" + one(k.Past) + "/record" },
		"client series":         func() string { return "/api/clients/" + one(k.Clients) + "/series" },
		"protocols":             func() string { return "/api/protocols" },
		"menu":                  func() string { return "/api/menu" },
		"workbench":             func() string { return "/api/protocols/" + one(k.Plans) },
		"library":               func() string { return "/api/library" },
		"shelf":                 func() string { return "/api/shelf" },
		"movements":             func() string { return "/api/products/" + k.Product + "/movements" },
		"order lists":           func() string { return "/api/order-lists" },
		"day lists":             func() string { return "/api/day-lists" },
		"tools":                 func() string { return "/api/tool-room" },
		"payment":               func() string { return "/api/visits/" + one(k.Visits) + "/sale" },
		"price list":            func() string { return "/api/price-list" },
		"receipts":              func() string { return "/api/receipts" },
		"receipts of long ago":  func() string { return "/api/receipts?from=2017-03-01&to=2017-03-31" },
		"clashes":               func() string { return "/api/clashes" },
		"walk-in":               func() string { return "/api/walk-in?client=" + one(k.Clients) },
		"use figures":           func() string { return "/api/shelf/figures" },
		"paid today":            func() string { return "/api/paid-visits?day=" + k.Day },
		"day close":             func() string { return "/api/closing-day" },
		"questions of the week": func() string { return "/api/books" },
		"month":                 func() string { return "/api/months/" + k.Day[:7] },
		"audit log":             func() string { return "/api/audit" },
	}
}

// readOrder is the order in which reads are driven, with what each may take; 0 keeps a limit of its own elsewhere.
var readOrder = []struct {
	name  string
	rate  int
	limit int
}{
	{"session", 200, 30}, {"day", 200, 30}, {"week", 200, 30}, {"free times", 200, 30}, {"inbox", 200, 30}, {"clients", 200, 30},
	{"client search", 200, 30}, {"client", 200, 30}, {"client visits", 200, 30}, {"consents", 200, 30},
	{"letters", 200, 30}, {"patch tests", 200, 30}, {"pre-checks", 200, 30}, {"caution history", 200, 30}, {"questions", 200, 30}, {"appointment", 200, 30},
	{"room", 200, 30}, {"record", 200, 30}, {"client series", 200, 30}, {"protocols", 200, 30}, {"menu", 200, 30}, {"workbench", 200, 30},
	{"library", 200, 30}, {"shelf", 200, 30}, {"movements", 200, 30}, {"order lists", 200, 30}, {"day lists", 200, 30}, {"tools", 200, 30},
	{"payment", 200, 30}, {"price list", 200, 30}, {"receipts", 200, 30}, {"receipts of long ago", 200, 30}, {"paid today", 200, 30}, {"day close", 200, 30}, {"audit log", 200, 30},
}

// seldom is the rate up to which a read counts as asked for once in a while.
const seldom = 5

// slowOrder are reads with a limit of their own: they are asked for once in a while, and hold up nobody.
var slowOrder = []struct {
	name  string
	rate  int
	limit int
}{{"walk-in", 5, 200}, {"clashes", 1, 1000}, {"use figures", 1, 2000}, {"questions of the week", 1, 2000}, {"month", 1, 2000}}

// mixed is the work in which all others come as they do in a busy morning.
const mixed = "busy morning"

// busyMorning is how often each read comes in a hundred requests of a busy morning.
var busyMorning = map[string]int{
	"day": 30, "client": 12, "client search": 12, "appointment": 8, "week": 2, "price list": 4, "receipts": 2, "record": 4, "free times": 4, "payment": 6, "paid today": 6,
	"inbox": 4, "shelf": 2, "questions": 2, "workbench": 2,
}

func (l *load) works() []work {
	reads := l.reads()
	var out []work
	for _, r := range readOrder {
		path := reads[r.name]
		out = append(out, work{name: r.name, rate: r.rate, limit: r.limit, next: func(int) vegeta.Target {
			return vegeta.Target{Method: http.MethodGet, URL: l.address + path()}
		}})
	}
	var mix []string
	for name, n := range busyMorning {
		for range n {
			mix = append(mix, name)
		}
	}
	out = append(out, work{name: mixed, rate: 100, limit: 60, next: func(int) vegeta.Target {
		return vegeta.Target{Method: http.MethodGet, URL: l.address + reads[mix[rand.IntN(len(mix))]]()} //nolint:gosec // a load needs no secrets
	}})
	out = append(out, l.writes()...)
	for _, r := range slowOrder {
		path := reads[r.name]
		out = append(out, work{name: r.name, rate: r.rate, limit: r.limit, next: func(int) vegeta.Target {
			return vegeta.Target{Method: http.MethodGet, URL: l.address + path()}
		}})
	}
	return out
}

// writes are a movement of the stock, and a sale paid in cash.
func (l *load) writes() []work {
	body := func(v any) []byte {
		data, _ := json.Marshal(v)
		return data
	}
	return []work{
		{name: "movement", rate: 50, limit: 40, next: func(n int) vegeta.Target {
			return vegeta.Target{
				Method: http.MethodPost, URL: fmt.Sprintf("%s/api/packs/%s/movements", l.address, l.known.Packs[n%len(l.known.Packs)]),
				Body: body(map[string]string{"kind": "waste", "reason": "spilled", "amount": "0.001"}),
			}
		}},
		{name: "sale in cash", rate: 50, limit: 40, next: func(int) vegeta.Target {
			return vegeta.Target{Method: http.MethodPost, URL: l.address + "/api/sales", Body: body(map[string]any{
				"id": uuid.NewString(), "lines": []any{map[string]any{"kind": "treatment", "protocol": l.known.Plans[0], "qty": 1}},
				"pay": []any{map[string]string{"by": "cash"}},
			})}
		}},
	}
}
