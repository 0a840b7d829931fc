package books

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"softpalm/internal/craft/money"
	"softpalm/internal/studio"
	"softpalm/words"
)

// Paid is how far a sale has come: its receipt, or what became of its card payment.
type Paid struct {
	Sale    uuid.UUID    `json:"sale"`
	Receipt *Receipt     `json:"receipt,omitempty"`
	Card    *CardPayment `json:"card,omitempty"`
	Bill    *Bill        `json:"bill,omitempty"`
	// Asked is the sale as it was sent, where it has no receipt yet.
	Asked *Sale `json:"asked,omitempty"`
}

// Quote works out what a sale comes to, and writes nothing.
func (s *Service) Quote(ctx context.Context, a *studio.Actor, sale *Sale) (out *Bill, err error) {
	if err := a.May("quote-sale"); err != nil {
		return nil, err
	}
	err = studio.In(ctx, s.Kernel, a, func(tx Store, st *studio.Studio) error {
		r, err := s.reckon(ctx, tx, st, a, sale, false)
		if err == nil {
			out = &r.bill
		}
		return err
	})
	return out, err
}

// Pay takes a sale's money and issues its receipt. Where a part is paid by card the terminal is asked first, and the
// receipt is issued once it has approved or stored the payment; sent again the same sale goes on where it is.
func (s *Service) Pay(ctx context.Context, a *studio.Actor, sale *Sale) (*Paid, error) {
	if err := a.May("pay-sale"); err != nil {
		return nil, err
	}
	var ask *CardPayment
	var out *Paid
	err := studio.In(ctx, s.Kernel, a, func(tx Store, st *studio.Studio) (err error) {
		out, ask, err = s.pay(ctx, tx, st, a, sale)
		return err
	})
	if err != nil || ask == nil {
		return out, err
	}
	// The payment is kept before the terminal hears of it: after a crash its key is asked for.
	if err := s.Terminal.Ask(ctx, a.Studio, ask.ID, ask.Amount); err != nil {
		return nil, err
	}
	return s.Sale(ctx, a, sale.ID)
}

// pay is one turn of [Service.Pay] inside a transaction; ask is a card payment to begin.
func (s *Service) pay(ctx context.Context, tx Store, st *studio.Studio, a *studio.Actor, sale *Sale) (out *Paid, ask *CardPayment, err error) {
	if sale.Visit != nil {
		v, err := tx.LockVisit(ctx, *sale.Visit) // of two who take its money at once, one does
		if err != nil {
			return nil, nil, err
		}
		if err := a.MayVisit("pay-sale", &v.Visit); err != nil {
			return nil, nil, err
		}
	}
	if _, err := tx.AddSale(ctx, sale, a.Account, s.Now()); err != nil {
		return nil, nil, err
	}
	_, receipt, err := tx.LockSale(ctx, sale.ID)
	if err != nil {
		return nil, nil, err
	}
	if receipt != nil {
		out, err = s.paid(ctx, tx, sale.ID)
		return out, nil, err
	}
	if err := s.onceAVisit(ctx, tx, sale, nil); err != nil {
		return nil, nil, err
	}
	r, err := s.reckon(ctx, tx, st, a, sale, true)
	if err != nil {
		return nil, nil, err
	}
	if err := s.onceAVisit(ctx, tx, sale, r.parts); err != nil {
		return nil, nil, err
	}
	if r.bill.Rest != decimal.Zero.StringFixed(st.Minor()) {
		return nil, nil, studio.FaultAt("/pay", words.SoMuchIsStillDue(r.bill.Rest))
	}
	card := r.byCard()
	going, err := tx.LiveCard(ctx, sale.ID)
	if err != nil && !errors.Is(err, studio.ErrNotFound) {
		return nil, nil, err
	}
	switch {
	case going != nil && !going.Amount.Equal(card):
		return nil, nil, &studio.StateError{Code: "card-other-amount", Sentence: words.TheCardWasAskedForAnotherAmount(going.Amount.StringFixed(st.Minor()))}
	case going != nil && !going.State.Counts():
		if err := tx.SaveSale(ctx, sale); err != nil {
			return nil, nil, err
		}
		out, err = s.paid(ctx, tx, sale.ID)
		return out, nil, err
	case going == nil && card.IsPositive():
		going = &CardPayment{ID: studio.NewID(), Sale: sale.ID, Amount: card, State: money.CardAsked, AskedAt: s.Now(), ChangedAt: s.Now()}
		if err := tx.SaveSale(ctx, sale); err != nil {
			return nil, nil, err
		}
		return nil, going, tx.AddCard(ctx, going)
	}
	if err := tx.SaveSale(ctx, sale); err != nil {
		return nil, nil, err
	}
	if err := s.issue(ctx, tx, a, r, going); err != nil {
		return nil, nil, err
	}
	out, err = s.paid(ctx, tx, sale.ID)
	return out, nil, err
}

// sellsVisit reports whether what is sold once a visit is among the lines or the parts of a package.
func (s *Sale) sellsVisit(parts []soldPart) bool {
	once := func(k SaleKind) bool { return k == SellTreatment || k == SellFee }
	return slices.ContainsFunc(s.Lines, func(l SaleLine) bool { return once(l.Kind) }) ||
		slices.ContainsFunc(parts, func(p soldPart) bool { return once(p.Kind) })
}

// onceAVisit refuses to sell a visit's treatment twice, and while another sale of it waits for its card.
func (s *Service) onceAVisit(ctx context.Context, tx Store, sale *Sale, parts []soldPart) error {
	if sale.Visit == nil || !sale.sellsVisit(parts) {
		return nil
	}
	open, err := tx.OpenSales(ctx, sale.Visit)
	if err != nil {
		return err
	}
	if slices.ContainsFunc(open, func(id uuid.UUID) bool { return id != sale.ID }) {
		return &studio.StateError{Code: "card-open", Sentence: words.ACardPaymentOfThisAppointmentIsOpen()}
	}
	paid, err := tx.ReceiptOfVisit(ctx, *sale.Visit)
	if errors.Is(err, studio.ErrNotFound) {
		return nil
	}
	if err != nil {
		return err
	}
	return &studio.StateError{Code: "visit-paid", Sentence: words.ThisAppointmentWasPaidWith(paid)}
}

// byCard is what is to be taken by card.
func (r *reckoning) byCard() decimal.Decimal {
	for _, w := range r.done.Ways {
		if w.By == money.ByCard {
			return w.Taken
		}
	}
	return decimal.Zero
}

// lateVisit is how long after its end a visit that began before midnight still belongs to the day it began.
const lateVisit = 4 * time.Hour

// dayFor is the day on which a sale is dated: a midnight visit belongs to the day it began.
func (s *Service) dayFor(ctx context.Context, tx Store, st *studio.Studio, visit *uuid.UUID) (string, error) {
	today := s.Today(st)
	if visit == nil {
		return today, nil
	}
	v, err := tx.Visit(ctx, *visit)
	if err != nil {
		return "", err
	}
	began := s.dayOf(st, v.StartsAt)
	if began < today && s.Now().Sub(v.EndsAt) < lateVisit {
		return began, nil
	}
	return today, nil
}

// issue writes a sale's receipt, its event, and all that follows from it.
func (s *Service) issue(ctx context.Context, tx Store, a *studio.Actor, r *reckoning, card *CardPayment) error {
	day, err := s.dayFor(ctx, tx, r.st, r.sale.Visit)
	if err != nil {
		return err
	}
	kind := ReceiptSale
	if r.event.Kind == money.DepositTaken {
		kind = ReceiptDeposit
	}
	total, _ := decimal.NewFromString(r.bill.Due)
	receipt := &Receipt{
		ID: studio.NewID(), Day: day, At: s.Now(), Kind: kind, Account: a.Account, Client: r.sale.Client, Visit: r.sale.Visit,
		Sale: &r.sale.ID, Total: total,
	}
	if err := r.number(); err != nil {
		return err
	}
	receipt.Paper.Bill = r.bill
	if err := s.head(ctx, tx, r.st, &receipt.Paper, r.sale); err != nil {
		return err
	}
	if err := tx.AddReceipt(ctx, receipt); err != nil {
		return err
	}
	err = post(ctx, tx, &studio.LedgerEvent{
		ID: receipt.ID, Kind: r.event.Kind, Day: receipt.Day, At: receipt.At, Account: &a.Account, ReceiptNo: receipt.Number,
		Client: r.sale.Client, Visit: r.sale.Visit,
	}, r.done)
	if err != nil {
		return err
	}
	if err := s.keepPrepaid(ctx, tx, r, receipt); err != nil {
		return err
	}
	if err := s.takeGoods(ctx, tx, a, r, receipt); err != nil {
		return err
	}
	if card != nil {
		return tx.CountCard(ctx, card.ID, receipt.Day)
	}
	return nil
}

// takeGoods takes the products sold off the shelf.
func (s *Service) takeGoods(ctx context.Context, tx Store, a *studio.Actor, r *reckoning, receipt *Receipt) error {
	for i := range r.parts {
		l := &r.parts[i]
		if l.Kind != SellProduct {
			continue
		}
		err := s.Shelf.SellPacks(ctx, tx, r.st, a, studio.PacksSold{
			Product: *l.Product, Packs: l.Qty, Client: r.sale.Client, Despite: l.Despite, Note: receipt.Number, At: s.Now(), Path: fmt.Sprintf("/lines/%d", l.line),
		})
		if err != nil {
			return err
		}
	}
	return nil
}

// paid says how far a sale has come.
func (s *Service) paid(ctx context.Context, tx Store, id uuid.UUID) (*Paid, error) {
	sale, receipt, err := tx.LockSale(ctx, id)
	if err != nil {
		return nil, err
	}
	out := &Paid{Sale: id}
	if receipt != nil {
		out.Receipt, err = tx.Receipt(ctx, *receipt)
		return out, err
	}
	out.Asked = sale
	if out.Card, err = tx.LastCard(ctx, id); errors.Is(err, studio.ErrNotFound) {
		err = nil
	}
	if out.Card != nil {
		out.Card.Seconds = int(s.Now().Sub(out.Card.AskedAt).Seconds())
	}
	return out, err
}
