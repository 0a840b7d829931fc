package shelf

import (
	"context"
	"fmt"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"softpalm/internal/studio"
	"softpalm/words"
)

// OrderState is how an order stands.
type OrderState string

// The states of an order.
const (
	Draft        OrderState = "draft"
	Sent         OrderState = "sent"
	PartReceived OrderState = "part received"
	Received     OrderState = "received"
	ClosedShort  OrderState = "closed short"
)

// PurchaseOrder is an order to a supplier.
type PurchaseOrder struct {
	ID        uuid.UUID  `json:"id"`
	Number    string     `json:"number"`
	Supplier  string     `json:"supplier"`
	State     OrderState `json:"state" enum:"draft,sent,part received,received,closed short"`
	OrderedOn string     `json:"orderedOn"`
	NeededBy  string     `json:"neededBy"`
	Note      string     `json:"note"`
	// Revision is the one that a change is made on.
	Revision int         `json:"revision"`
	Lines    []OrderLine `json:"lines"`
	// Value of all lines; ToCome says that something has not come yet.
	Value    decimal.Decimal `json:"value"`
	Currency string          `json:"currency"`
}

// OrderLine is a product on an order.
type OrderLine struct {
	Product  uuid.UUID       `json:"product"`
	Name     string          `json:"name"`
	Article  string          `json:"articleNo"`
	GTIN     string          `json:"gtin"`
	Unit     string          `json:"unit"`
	Packs    int             `json:"packs"`
	PackSize decimal.Decimal `json:"packSize"`
	Price    decimal.Decimal `json:"packPrice"`
	Received int             `json:"received"`
	// ToCome is how many packs have not come yet; none of an order that was closed.
	ToCome int    `json:"toCome"`
	Why    string `json:"why"`
	// MonthsOpen is how long a pack keeps once opened, as the product says.
	MonthsOpen int `json:"monthsOpen"`
}

// Total is what the line costs.
func (l *OrderLine) Total() decimal.Decimal { return l.Price.Mul(decimal.NewFromInt(int64(l.Packs))) }

// orderStore is what orders are kept in.
type orderStore interface {
	Store
	orderingStore
	SaveSupplier(ctx context.Context, x *Supplier) error
	SaveOrderSettings(ctx context.Context, x *OrderSettings) error
	// Orders lists orders, newest first, with their lines; those alone that are not ended, where so asked.
	Orders(ctx context.Context, openOnly bool) ([]PurchaseOrder, error)
	// Order returns an order; held until the transaction ends.
	LockOrder(ctx context.Context, id uuid.UUID) (*PurchaseOrder, error)
	// NextOrderNumber is the next number of a year; who asks holds the numbers until the transaction ends.
	NextOrderNumber(ctx context.Context, year string) (string, error)
	AddOrder(ctx context.Context, o *PurchaseOrder, by uuid.UUID, at time.Time) error
	SaveOrder(ctx context.Context, o *PurchaseOrder) error
}

// NewOrder is an order as somebody writes it.
type NewOrder struct {
	Supplier string         `json:"supplier" maxLength:"120"`
	NeededBy string         `json:"neededBy" maxLength:"10"`
	Note     string         `json:"note" maxLength:"500"`
	Lines    []NewOrderLine `json:"lines" minItems:"1" maxItems:"200"`
	// Send says that it was sent; else it stays a draft.
	Send bool `json:"send"`
}

// NewOrderLine is a product on an order as somebody writes it.
type NewOrderLine struct {
	Product uuid.UUID `json:"product" format:"uuid"`
	Packs   int       `json:"packs" minimum:"1" maximum:"10000"`
	Why     string    `json:"why,omitempty" maxLength:"300"`
}

// AddOrder writes an order, as a draft or as sent today.
func (s *Service) AddOrder(ctx context.Context, a *studio.Actor, n *NewOrder) (*PurchaseOrder, error) {
	if err := a.May("add-order"); err != nil {
		return nil, err
	}
	var out *PurchaseOrder
	err := studio.In(ctx, s.Kernel, a, func(tx orderStore, st *studio.Studio) error {
		o := &PurchaseOrder{ID: studio.NewID(), State: Draft, Revision: 1, Currency: st.Currency}
		if err := s.write(ctx, tx, st, o, n); err != nil {
			return err
		}
		var err error
		if o.Number, err = tx.NextOrderNumber(ctx, s.Today(st)[:4]); err != nil {
			return err
		}
		out = o
		return tx.AddOrder(ctx, o, a.Account, s.Now())
	})
	return out, err
}

// ChangeOrder writes a draft anew, at the revision it was changed on.
func (s *Service) ChangeOrder(ctx context.Context, a *studio.Actor, id uuid.UUID, revision int, n *NewOrder) (*PurchaseOrder, error) {
	if err := a.May("change-order"); err != nil {
		return nil, err
	}
	var out *PurchaseOrder
	err := studio.In(ctx, s.Kernel, a, func(tx orderStore, st *studio.Studio) error {
		o, err := tx.LockOrder(ctx, id)
		if err != nil {
			return err
		}
		if o.State != Draft {
			return &studio.StateError{Code: "order-sent", Sentence: words.ThisOrderWasSentAlready()}
		}
		if o.Revision != revision {
			return &studio.ChangedError{Other: o}
		}
		o.Revision++
		if err := s.write(ctx, tx, st, o, n); err != nil {
			return err
		}
		out = o
		return tx.SaveOrder(ctx, o)
	})
	return out, err
}

// write puts into an order what somebody wrote.
func (s *Service) write(ctx context.Context, tx orderStore, st *studio.Studio, o *PurchaseOrder, n *NewOrder) error {
	if n.NeededBy != "" {
		if err := studio.CheckDay("/neededBy", n.NeededBy); err != nil {
			return err
		}
	}
	products, err := tx.Products(ctx)
	if err != nil {
		return err
	}
	byID := map[uuid.UUID]*studio.Product{}
	for i := range products {
		byID[products[i].ID] = &products[i]
	}
	o.Supplier, o.NeededBy, o.Note, o.Lines, o.Value = strings.TrimSpace(n.Supplier), n.NeededBy, strings.TrimSpace(n.Note), nil, decimal.Zero
	seen := map[uuid.UUID]bool{}
	for i, l := range n.Lines {
		p := byID[l.Product]
		if p == nil || seen[l.Product] {
			return studio.FaultAt(fmt.Sprintf("/lines/%d/product", i), words.EachLineNamesAProductOnce())
		}
		seen[l.Product] = true
		line := OrderLine{
			Product: p.ID, Name: p.Name, Article: p.Article, GTIN: p.GTIN, Unit: p.Unit, Packs: l.Packs, PackSize: p.PackSize, Price: p.Price,
			Why: l.Why, ToCome: l.Packs, MonthsOpen: p.MonthsOpen,
		}
		o.Lines, o.Value = append(o.Lines, line), o.Value.Add(line.Total())
	}
	if n.Send {
		o.State, o.OrderedOn = Sent, s.Today(st)
	}
	return nil
}

// Orders lists orders, newest first.
func (s *Service) Orders(ctx context.Context, a *studio.Actor, openOnly bool) ([]PurchaseOrder, error) {
	if err := a.May("list-orders"); err != nil {
		return nil, err
	}
	var out []PurchaseOrder
	err := studio.In(ctx, s.Kernel, a, func(tx orderStore, st *studio.Studio) (err error) {
		out, err = tx.Orders(ctx, openOnly)
		for i := range out {
			out[i].Currency = st.Currency
		}
		return err
	})
	return out, err
}

// Order returns an order.
func (s *Service) Order(ctx context.Context, a *studio.Actor, id uuid.UUID) (*PurchaseOrder, error) {
	if err := a.May("list-orders"); err != nil {
		return nil, err
	}
	var out *PurchaseOrder
	err := studio.In(ctx, s.Kernel, a, func(tx orderStore, st *studio.Studio) (err error) {
		if out, err = tx.LockOrder(ctx, id); err != nil {
			return err
		}
		out.Currency = st.Currency
		return nil
	})
	return out, err
}

// CloseOrder closes an order that will not come whole: the rest is not on order any more. A draft is given up.
func (s *Service) CloseOrder(ctx context.Context, a *studio.Actor, id uuid.UUID) error {
	if err := a.May("close-order"); err != nil {
		return err
	}
	return studio.In(ctx, s.Kernel, a, func(tx orderStore, st *studio.Studio) error {
		o, err := tx.LockOrder(ctx, id)
		if err != nil {
			return err
		}
		if o.State == Received || o.State == ClosedShort {
			return nil // a repeat changes nothing
		}
		if o.State == Draft {
			o.OrderedOn = s.Today(st)
		}
		o.State = ClosedShort
		o.Revision++
		return tx.SaveOrder(ctx, o)
	})
}

// received notes what came of an order.
func received(ctx context.Context, tx orderStore, order uuid.UUID, lines []DeliveryLine) error {
	o, err := tx.LockOrder(ctx, order)
	if err != nil {
		return err
	}
	if o.State != Sent && o.State != PartReceived {
		return &studio.StateError{Code: "order-closed", Sentence: words.NothingIsToComeOfThisOrder()}
	}
	for i := range lines {
		l := &lines[i]
		for k := range o.Lines {
			line := &o.Lines[k]
			if line.Product != l.Product {
				continue
			}
			if line.Received+l.Packs > line.Packs && !l.Over {
				return studio.FaultAt(fmt.Sprintf("/lines/%d/packs", i), words.MoreCameThanWasOrdered(line.Packs-line.Received, line.Name))
			}
			line.Received += l.Packs
		}
	}
	o.State = Received
	for k := range o.Lines {
		if o.Lines[k].Received < o.Lines[k].Packs {
			o.State = PartReceived
		}
	}
	o.Revision++
	return tx.SaveOrder(ctx, o)
}
