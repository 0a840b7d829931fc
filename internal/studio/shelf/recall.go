package shelf

import (
	"cmp"
	"context"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"softpalm/internal/craft/shelf"
	"softpalm/internal/studio"
	"softpalm/words"
)

// LotTrace is whom lots have reached, and what is booked that wanted them.
type LotTrace struct {
	// Recall is the recall that was started; nil while it is only looked at.
	Recall *uuid.UUID `json:"recall,omitempty"`
	Reason string     `json:"reason,omitempty"`
	At     *time.Time `json:"at,omitempty"`
	// Lots struck: those named, and every batch that holds one of them.
	Lots []TracedLot `json:"lots"`
	Rows []TraceRow  `json:"rows"`
	// Clients to call, in order of their names.
	Clients []TracedClient `json:"clients"`
	// Booked are appointments today and later whose plan takes a product of which nothing good is left.
	Booked []TracedVisit `json:"booked"`
}

// TracedLot is a lot that is struck.
type TracedLot struct {
	ID      uuid.UUID       `json:"id"`
	Number  string          `json:"number"`
	Product uuid.UUID       `json:"product"`
	Name    string          `json:"name"`
	Left    decimal.Decimal `json:"left"`
	Unit    string          `json:"unit"`
	// Through is true of a batch that holds a lot that was named.
	Through bool `json:"through"`
}

// TraceRow is one client touched by one lot at one visit.
type TraceRow struct {
	Client *uuid.UUID `json:"client,omitempty"`
	Name   string     `json:"name"`
	Day    string     `json:"day"`
	Visit  *uuid.UUID `json:"visit,omitempty"`
	Lot    string     `json:"lot"`
	// LotID and Product where it is traced back from a client.
	LotID   *uuid.UUID      `json:"lotId,omitempty"`
	Product string          `json:"product,omitempty"`
	Kind    shelf.Kind      `json:"kind"`
	Amount  decimal.Decimal `json:"amount"`
	Unit    string          `json:"unit"`
	By      string          `json:"by"`
	Sure    bool            `json:"sure"`
}

// TracedClient is somebody to call, and how that went.
type TracedClient struct {
	ID    uuid.UUID    `json:"id"`
	Name  string       `json:"name"`
	Phone string       `json:"phone"`
	Email string       `json:"email"`
	Calls []RecallCall `json:"calls"`
}

// RecallCall is an attempt to reach a client.
type RecallCall struct {
	Client  uuid.UUID `json:"client"`
	Outcome string    `json:"outcome" enum:"reached,message-left,not-reached"`
	Note    string    `json:"note"`
	By      string    `json:"by"`
	At      time.Time `json:"at"`
}

// TracedVisit is an appointment that wanted a struck product.
type TracedVisit struct {
	Visit  uuid.UUID `json:"visit"`
	Name   string    `json:"name"`
	At     time.Time `json:"at"`
	Wants  string    `json:"wants"`
	Others bool      `json:"others"`
}

// TracedMove is a movement as tracing reads it, with who and when in words.
type TracedMove struct {
	shelf.Moved
	Visit  *uuid.UUID
	Client *uuid.UUID
	Name   string
	By     string
}

// recallStore is what recalls are worked out from.
type recallStore interface {
	forecastStore
	// LotsStruck lists lots by id and every batch that holds one of them, through any number of mixings.
	LotsStruck(ctx context.Context, lots []uuid.UUID) ([]TracedLot, error)
	// MovementsOfLots lists all movements of lots, oldest first.
	MovementsOfLots(ctx context.Context, lots []uuid.UUID) ([]TracedMove, error)
	// LotsOfClient lists the lots that reached a client since a day.
	LotsOfClient(ctx context.Context, client uuid.UUID, since string) ([]TraceRow, error)
	TracedClients(ctx context.Context, clients []uuid.UUID) ([]TracedClient, error) // by name
	AddRecall(ctx context.Context, id uuid.UUID, lots []uuid.UUID, reason string, by uuid.UUID, at time.Time) error
	Recalls(ctx context.Context) ([]RecallLine, error) // newest first
	AddRecallCall(ctx context.Context, recall uuid.UUID, c *RecallCall, by uuid.UUID) error
	RecallCalls(ctx context.Context, recall uuid.UUID) ([]RecallCall, error)
}

// RecallLine is a recall in the list of recalls.
type RecallLine struct {
	ID     uuid.UUID   `json:"id"`
	Lots   []uuid.UUID `json:"lots"`
	Names  string      `json:"names"`
	Reason string      `json:"reason"`
	At     time.Time   `json:"at"`
}

// Trace lists whom lots have reached, without doing anything.
func (s *Service) Trace(ctx context.Context, a *studio.Actor, lots []uuid.UUID) (*LotTrace, error) {
	if err := a.May("trace-lots"); err != nil {
		return nil, err
	}
	var out *LotTrace
	err := studio.In(ctx, s.Kernel, a, func(tx recallStore, st *studio.Studio) (err error) {
		if out, err = s.trace(ctx, tx, st, lots); err != nil {
			return err
		}
		return s.Audit(ctx, tx, a, "trace", "lot", uuid.Nil)
	})
	return out, err
}

func (s *Service) trace(ctx context.Context, tx recallStore, st *studio.Studio, lots []uuid.UUID) (*LotTrace, error) {
	struck, err := tx.LotsStruck(ctx, lots)
	if err != nil {
		return nil, err
	}
	if len(struck) == 0 {
		return nil, studio.ErrNotFound
	}
	ids := make([]uuid.UUID, len(struck))
	byID := map[string]*TracedLot{}
	for i := range struck {
		struck[i].Through = !slices.Contains(lots, struck[i].ID)
		ids[i], byID[struck[i].ID.String()] = struck[i].ID, &struck[i]
	}
	moves, err := tx.MovementsOfLots(ctx, ids)
	if err != nil {
		return nil, err
	}
	out := &LotTrace{Lots: struck, Rows: []TraceRow{}, Booked: []TracedVisit{}}
	out.rows(moves, byID)
	var clients []uuid.UUID
	for _, r := range out.Rows {
		if r.Client != nil && !slices.Contains(clients, *r.Client) {
			clients = append(clients, *r.Client)
		}
	}
	if out.Clients, err = tx.TracedClients(ctx, clients); err != nil {
		return nil, err
	}
	return out, s.wanted(ctx, tx, st, out)
}

// rows works out who was touched.
func (t *LotTrace) rows(moves []TracedMove, lots map[string]*TracedLot) {
	q := shelf.Recall{Batches: map[string][]string{}}
	of := map[string]*TracedMove{}
	for i := range moves {
		m := &moves[i]
		if m.Visit != nil {
			m.Moved.Visit = m.Visit.String()
		}
		if m.Client != nil {
			m.Moved.Client = m.Client.String()
		}
		q.Movements = append(q.Movements, m.Moved)
		of[cmp.Or(m.Moved.Visit, m.ID)+m.Moved.Client] = m
	}
	for id := range lots {
		q.Recalled = append(q.Recalled, id)
	}
	for _, r := range q.Trace().Rows {
		m, lot := of[r.Visit+r.Client], lots[r.Lot]
		t.Rows = append(t.Rows, TraceRow{
			Client: m.Client, Name: m.Name, Day: r.Day, Visit: m.Visit, Lot: lot.Number, Kind: shelf.Kind(r.Kind),
			Amount: r.Amount, Unit: lot.Unit, By: m.By, Sure: r.Sure,
		})
	}
}

// wanted lists the appointments to come that take a struck product of which nothing else is left.
func (s *Service) wanted(ctx context.Context, tx recallStore, st *studio.Studio, t *LotTrace) error {
	f, err := s.look(ctx, tx, st)
	if err != nil {
		return err
	}
	zone := st.Zone()
	today, err := time.ParseInLocation(time.DateOnly, s.Today(st), zone)
	if err != nil {
		return err
	}
	visits, err := tx.Visits(ctx, today, today.AddDate(0, 0, Horizon))
	if err != nil {
		return err
	}
	k := 0
	for i := range visits {
		v := &visits[i]
		if v.State != studio.Booked && v.State != studio.Confirmed && v.State != studio.Arrived {
			continue
		}
		for range 1 + len(v.Also) {
			key := f.visits[k].Protocol
			k++
			for _, lot := range t.Lots {
				p := slices.IndexFunc(f.lib.Products, func(p studio.Product) bool { return p.ID == lot.Product })
				if p < 0 || !f.doses[f.lib.Products[p].Key][key].IsPositive() {
					continue
				}
				others := slices.ContainsFunc(f.packs, func(q studio.Pack) bool {
					return q.Product == lot.Product && q.Side == studio.CabinSide && q.Usable(f.today) &&
						!slices.ContainsFunc(t.Lots, func(l TracedLot) bool { return l.ID == q.LotID })
				})
				t.Booked = append(t.Booked, TracedVisit{v.ID, v.ClientName, v.StartsAt, lot.Name, others})
			}
		}
	}
	return nil
}

// StartRecall blocks lots and every batch that holds one of them, for good, and lists whom they reached.
// A repeat blocks nothing new and lists the same.
func (s *Service) StartRecall(ctx context.Context, a *studio.Actor, lots []uuid.UUID, reason string) (*LotTrace, error) {
	if err := a.May("start-recall"); err != nil {
		return nil, err
	}
	if reason = strings.TrimSpace(reason); reason == "" {
		return nil, studio.FaultAt("/reason", words.SayWhatTheRecallIsFor())
	}
	var out *LotTrace
	err := studio.In(ctx, s.Kernel, a, func(tx recallStore, st *studio.Studio) error {
		struck, err := tx.LotsStruck(ctx, lots)
		if err != nil {
			return err
		}
		var ids, products []uuid.UUID
		for _, l := range struck {
			ids, products = append(ids, l.ID), append(products, l.Product)
		}
		if _, err := tx.HoldPacks(ctx, products); err != nil {
			return err
		}
		if err := tx.BlockLots(ctx, ids, reason, true, a.Account, s.Now()); err != nil {
			return err
		}
		id, at := studio.NewID(), s.Now()
		if out, err = s.trace(ctx, tx, st, lots); err != nil {
			return err
		}
		out.Recall, out.Reason, out.At = &id, reason, &at
		if err := tx.AddRecall(ctx, id, ids, reason, a.Account, at); err != nil {
			return err
		}
		return s.Audit(ctx, tx, a, "recall", "lot", ids[0])
	})
	return out, err
}

// LotsNumbered finds the lot of a product with a number, also one that is used up.
func (s *Service) LotsNumbered(ctx context.Context, a *studio.Actor, product uuid.UUID, number string) (out []uuid.UUID, err error) {
	if err := a.May("trace-lots"); err != nil {
		return nil, err
	}
	err = studio.In(ctx, s.Kernel, a, func(tx recallStore, _ *studio.Studio) error {
		l, err := tx.LotNumbered(ctx, product, number)
		if err == nil {
			out = []uuid.UUID{l.ID}
		}
		return err
	})
	return out, err
}

// Recalls lists recalls, newest first.
func (s *Service) Recalls(ctx context.Context, a *studio.Actor) (out []RecallLine, err error) {
	if err := a.May("trace-lots"); err != nil {
		return nil, err
	}
	err = studio.In(ctx, s.Kernel, a, func(tx recallStore, _ *studio.Studio) (err error) {
		out, err = tx.Recalls(ctx)
		return err
	})
	return out, err
}

// Recall returns a recall with whom it reached and the calls made.
func (s *Service) Recall(ctx context.Context, a *studio.Actor, id uuid.UUID) (*LotTrace, error) {
	if err := a.May("trace-lots"); err != nil {
		return nil, err
	}
	var out *LotTrace
	err := studio.In(ctx, s.Kernel, a, func(tx recallStore, st *studio.Studio) error {
		list, err := tx.Recalls(ctx)
		if err != nil {
			return err
		}
		i := slices.IndexFunc(list, func(r RecallLine) bool { return r.ID == id })
		if i < 0 {
			return studio.ErrNotFound
		}
		if out, err = s.trace(ctx, tx, st, list[i].Lots); err != nil {
			return err
		}
		out.Recall, out.Reason, out.At = &id, list[i].Reason, &list[i].At
		calls, err := tx.RecallCalls(ctx, id)
		if err != nil {
			return err
		}
		for k := range out.Clients {
			for _, c := range calls {
				if c.Client == out.Clients[k].ID {
					out.Clients[k].Calls = append(out.Clients[k].Calls, c)
				}
			}
		}
		return s.Audit(ctx, tx, a, "trace", "lot", uuid.Nil)
	})
	return out, err
}

// NoteCall writes down how it went to reach a client.
func (s *Service) NoteCall(ctx context.Context, a *studio.Actor, recall uuid.UUID, c RecallCall) error {
	if err := a.May("note-call"); err != nil {
		return err
	}
	c.At = s.Now()
	return studio.In(ctx, s.Kernel, a, func(tx recallStore, _ *studio.Studio) error { return tx.AddRecallCall(ctx, recall, &c, a.Account) })
}

// traceDays is for how many days back a reaction is traced.
const traceDays = 90

// LotsOfClient lists which lots reached a client in the last 90 days: where a reaction is traced from.
func (s *Service) LotsOfClient(ctx context.Context, a *studio.Actor, client uuid.UUID) (out []TraceRow, err error) {
	if err := a.May("trace-lots"); err != nil {
		return nil, err
	}
	err = studio.In(ctx, s.Kernel, a, func(tx recallStore, st *studio.Studio) (err error) {
		if known, err := tx.TracedClients(ctx, []uuid.UUID{client}); err != nil || len(known) == 0 {
			return cmp.Or(err, studio.ErrNotFound)
		}
		today, _ := time.Parse(time.DateOnly, s.Today(st))
		if out, err = tx.LotsOfClient(ctx, client, today.AddDate(0, 0, -traceDays).Format(time.DateOnly)); err != nil {
			return err
		}
		return s.Audit(ctx, tx, a, "trace", "client", client)
	})
	return out, err
}
