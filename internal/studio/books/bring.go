package books

import (
	"context"
	"errors"
	"fmt"
	"time"

	"github.com/shopspring/decimal"

	"softpalm/internal/craft/money"
	"softpalm/internal/studio"
)

// bringing are the sales of a file by the names that other events have for them.
type bringing struct {
	*Service
	tx       Store
	st       *studio.Studio
	by       *studio.Actor
	receipts map[string]*Receipt
}

// BringMoney posts what happened before a file was brought in: in its order, each at its time, by the rules of today.
func (s *Service) BringMoney(ctx context.Context, within studio.Tx, st *studio.Studio, by *studio.Actor, events []studio.MoneyBrought) error {
	b := &bringing{Service: s, tx: studio.As[Store](within), st: st, by: by, receipts: map[string]*Receipt{}}
	for i := range events {
		e := &events[i]
		kernel := *s.Kernel
		kernel.Now = func() time.Time { return e.At }
		then := *s
		then.Kernel = &kernel
		b.Service = &then
		if err := b.bring(ctx, e); err != nil {
			return studio.AtPath(fmt.Sprintf("/books/%d", i), err)
		}
	}
	return nil
}

func (b *bringing) bring(ctx context.Context, e *studio.MoneyBrought) error {
	switch e.Kind {
	case "price":
		amount, err := amountAt("/amount", e.Amount)
		if err != nil {
			return err
		}
		return b.tx.AddPrice(ctx, &DatedPrice{
			ID: studio.NewID(), Protocol: e.Protocol, Product: e.Product, Extra: e.Extra, Visits: max(e.Visits, 1), Minutes: e.Minutes,
			From: e.Day, Amount: amount,
		}, b.by.Account, e.At)
	case "package":
		return b.pack(ctx, e)
	case "sale":
		return b.sell(ctx, e)
	case "given":
		v, err := b.tx.Visit(ctx, *e.Visit)
		if err != nil {
			return err
		}
		return b.EarnShare(ctx, b.tx, &v.Visit, &b.by.Account, e.At)
	case "series-back":
		return b.seriesBack(ctx, e)
	case "close":
		return b.close(ctx, e)
	}
	event, err := b.moveEvent(ctx, b.tx, &MoneyMove{Kind: e.Kind, Amount: e.Amount, Bank: e.Other, Fee: e.Other, Note: e.Note})
	if err != nil {
		return err
	}
	done, err := money.NewBook(b.st.BookRules()).Post(event)
	if err != nil {
		return err
	}
	return post(ctx, b.tx, &studio.LedgerEvent{Kind: event.Kind, At: e.At, Account: &b.by.Account, Note: e.Note}, done)
}

// pack sets a package.
func (b *bringing) pack(ctx context.Context, e *studio.MoneyBrought) error {
	amount, err := amountAt("/amount", e.Amount)
	if err != nil {
		return err
	}
	p := &Package{ID: studio.NewID(), Name: e.Note, From: e.Day, Amount: amount}
	for _, l := range e.Lines {
		p.Parts = append(p.Parts, PackagePart{Protocol: l.Protocol, Product: l.Product, Extra: l.Extra, Qty: max(l.Qty, 1)})
	}
	prices, err := readPrices(ctx, b.tx, e.Day)
	if err != nil {
		return err
	}
	if err := p.check(prices); err != nil {
		return err
	}
	return b.tx.AddPackage(ctx, p, b.by.Account, e.At)
}

// sell issues the receipt of a sale, its card payment approved or stored.
func (b *bringing) sell(ctx context.Context, e *studio.MoneyBrought) error {
	sale := &Sale{ID: studio.NewID(), Client: e.Client, Visit: e.Visit, Tip: e.Tip, TipFor: e.TipFor, Named: e.Client != nil}
	for _, l := range e.Lines {
		sale.Lines = append(sale.Lines, SaleLine{
			Kind: SaleKind(l.Kind), Protocol: l.Protocol, Product: l.Product, Extra: l.Extra, Package: l.Package, Qty: max(l.Qty, 1), Amount: l.Amount,
			Percent: l.Percent, Why: l.Why, Practitioner: l.Practitioner, Visits: l.Visits, Giver: l.Giver,
		})
	}
	offline := false
	for _, p := range e.Pay {
		ref := p.Ref
		if sold := b.receipts[p.Ref]; sold != nil && p.By == money.ByVoucher {
			ref = sold.Paper.Lines[0].Number
		}
		offline = offline || p.Offline
		sale.Pay = append(sale.Pay, SalePay{By: p.By, Ref: ref, Amount: p.Amount, Due: p.Due})
	}
	if _, err := b.tx.AddSale(ctx, sale, b.by.Account, e.At); err != nil {
		return err
	}
	r, err := b.reckon(ctx, b.tx, b.st, b.by, sale, true)
	if err != nil {
		return err
	}
	var card *CardPayment
	if amount := r.byCard(); amount.IsPositive() {
		card = &CardPayment{ID: studio.NewID(), Sale: sale.ID, Amount: amount, State: money.CardApproved, AskedAt: e.At, ChangedAt: e.At}
		if offline {
			card.State = money.CardStored
		}
		if err := b.tx.AddCard(ctx, card); err != nil {
			return err
		}
		if err := b.Terminal.Bring(ctx, b.tx, card); err != nil {
			return err
		}
	}
	if err := b.issue(ctx, b.tx, b.by, r, card); err != nil {
		return err
	}
	_, id, err := b.tx.LockSale(ctx, sale.ID)
	if err != nil || id == nil || e.Ref == "" {
		return err
	}
	b.receipts[e.Ref], err = b.tx.Receipt(ctx, *id)
	return err
}

// seriesBack gives a series back that an earlier sale sold.
func (b *bringing) seriesBack(ctx context.Context, e *studio.MoneyBrought) error {
	list, err := b.tx.SoldSeriesOf(ctx, e.Client)
	if err != nil {
		return err
	}
	for i := range list {
		if list[i].State != SeriesOpen {
			continue
		}
		back, err := backBy(&list[i], b.st, b.st.Books.Refund, money.ByBank)
		if err != nil {
			return err
		}
		_, err = b.issueSeriesBack(ctx, b.tx, b.st, b.by, &list[i], back, &SeriesBack{ID: studio.NewID(), By: money.ByBank, Why: e.Note})
		return err
	}
	return errors.New("books: the file gives a series back that was not sold")
}

// close closes a day with what is expected in the till, and the difference that the file tells of.
func (b *bringing) close(ctx context.Context, e *studio.MoneyBrought) error {
	c, err := b.counted(ctx, b.tx, b.st, &TillCount{Day: e.Day, Count: map[string]int{}, Note: e.Note})
	if err != nil {
		return err
	}
	difference := decimal.Zero
	if e.Difference != "" {
		if difference, err = decimal.NewFromString(e.Difference); err != nil {
			return err
		}
	}
	c.Counted = c.Expected.Add(difference)
	c.Difference, c.ToBank = difference, decimal.Max(decimal.Zero, c.Counted.Sub(b.st.FloatToKeep()))
	c.Count = money.CountOf(c.Counted, b.st.Minor())
	return b.Service.close(ctx, b.tx, b.st, b.by, c)
}

var _ studio.MoneyBringer = (*Service)(nil)
