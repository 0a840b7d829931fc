package books

import (
	"context"
	"errors"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"softpalm/internal/craft/calendar"
	"softpalm/internal/craft/money"
	"softpalm/internal/studio"
	"softpalm/words"
)

// VisitSale is what there is to pay for an appointment: the sale that the page begins with, what was paid ahead for it,
// and what was paid already.
type VisitSale struct {
	Visit    studio.VisitLine `json:"visit"`
	Sale     Sale             `json:"sale"`
	Currency string           `json:"currency"`
	// Series is the one that the visit is paid by, with the number of its visit.
	Series   *Strip    `json:"series,omitempty"`
	SeriesN  int       `json:"seriesN,omitempty"`
	Deposits []Deposit `json:"deposits"`
	// Debts are what the client owes of earlier receipts, the oldest first.
	Debts    []Debt    `json:"debts"`
	Receipts []Receipt `json:"receipts"`
	// Open is a sale whose card payment is not ended: it is asked for first.
	Open *uuid.UUID `json:"open,omitempty"`
	// Fee is proposed for a visit that was cancelled late or missed, never taken by itself.
	Fee    *ProposedFee `json:"fee,omitempty"`
	Waived string       `json:"waived,omitempty"`
	// MayCount says that the missed visit can be counted as one of a series.
	MayCount bool `json:"mayCount,omitempty"`
}

// ProposedFee is what the studio's rule says of a late cancelling or a missed visit; the deposit counts against it.
type ProposedFee struct {
	Percent int    `json:"percent"`
	Fee     string `json:"fee"`
	Deposit string `json:"deposit"`
	Due     string `json:"due"`
}

// VisitSale gathers what there is to pay for an appointment.
func (s *Service) VisitSale(ctx context.Context, a *studio.Actor, visit uuid.UUID) (out *VisitSale, err error) {
	if err := a.May("get-visit-sale"); err != nil {
		return nil, err
	}
	err = studio.In(ctx, s.Kernel, a, func(tx Store, st *studio.Studio) error {
		v, err := tx.Visit(ctx, visit)
		if err != nil {
			return err
		}
		if err := a.MayVisit("get-visit-sale", &v.Visit); err != nil {
			return err
		}
		out = &VisitSale{Visit: plainVisit(v), Currency: st.Currency}
		if out.Receipts, err = tx.VisitReceipts(ctx, visit); err != nil {
			return err
		}
		if out.Deposits, err = tx.DepositsOf(ctx, visit); err != nil {
			return err
		}
		if out.Debts, err = debtsOf(ctx, tx, v.Client); err != nil {
			return err
		}
		if out.Waived, err = tx.FeeWaived(ctx, visit); err != nil {
			return err
		}
		open, err := tx.OpenSales(ctx, &visit)
		if err != nil {
			return err
		}
		if len(open) > 0 {
			out.Open = &open[0]
		}
		return s.fill(ctx, tx, st, a, out)
	})
	return out, err
}

// debtsOf lists what a client still owes, the oldest first.
func debtsOf(ctx context.Context, tx sundayStore, client uuid.UUID) ([]Debt, error) {
	all, err := tx.Debts(ctx)
	out := []Debt{}
	for _, d := range all {
		if d.Client != nil && *d.Client == client {
			d.Left = d.Amount.Sub(d.Settled)
			out = append(out, d)
		}
	}
	return out, err
}

// VisitPaid says how an appointment was paid.
type VisitPaid struct {
	Visit uuid.UUID `json:"visit"`
	How   string    `json:"how" enum:"paid,series,waived"`
}

// PaidVisits lists the appointments of a day that were paid, that a series paid for, or whose fee was waived.
func (s *Service) PaidVisits(ctx context.Context, a *studio.Actor, day string) (out []VisitPaid, err error) {
	if err := a.May("list-paid-visits"); err != nil {
		return nil, err
	}
	err = studio.In(ctx, s.Kernel, a, func(tx Store, st *studio.Studio) error {
		from, err := time.ParseInLocation(time.DateOnly, day, st.Zone())
		if err != nil {
			return studio.FaultAt("/day", words.EnterADayBetween(studio.FirstDay, studio.LastDay))
		}
		out, err = tx.PaidVisits(ctx, from, from.AddDate(0, 0, 1))
		return err
	})
	return out, err
}

// plainVisit is a visit without anything about health.
func plainVisit(v *studio.VisitLine) studio.VisitLine {
	return studio.VisitLine{
		Visit: v.Visit, ClientName: v.ClientName, PractitionerName: v.PractitionerName, RoomName: v.RoomName, ProtocolName: v.ProtocolName,
	}
}

// fill makes the sale that the page begins with.
func (s *Service) fill(ctx context.Context, tx Store, st *studio.Studio, a *studio.Actor, out *VisitSale) error {
	v := &out.Visit
	out.Sale = Sale{ID: studio.NewID(), Visit: &v.ID, Client: &v.Client, Lines: []SaleLine{}, Pay: []SalePay{}, TipFor: v.Practitioner}
	if v.Kind != studio.ForTreatment {
		return nil
	}
	missed := v.State == studio.NoShow || v.State == studio.LateCancelled
	covered, err := s.cover(ctx, tx, st, out)
	if err != nil {
		return err
	}
	switch {
	case missed:
		out.MayCount = covered && st.Books.MissedCounts
		return s.propose(ctx, tx, st, a, out)
	case v.State == studio.Cancelled || covered:
	default:
		for _, p := range append([]uuid.UUID{v.Protocol}, alsoOf(v)...) {
			out.Sale.Lines = append(out.Sale.Lines, SaleLine{Kind: SellTreatment, Protocol: &p, Qty: 1, Practitioner: &v.Practitioner})
		}
	}
	for i := range out.Deposits {
		if d := &out.Deposits[i]; d.State == DepositHeld {
			out.Sale.Pay = append(out.Sale.Pay, SalePay{By: money.ByDeposit, Ref: d.ID.String()})
		}
	}
	return nil
}

func alsoOf(v *studio.VisitLine) []uuid.UUID {
	out := []uuid.UUID{}
	for i := range v.Also {
		out = append(out, v.Also[i].Protocol)
	}
	return out
}

// cover finds the series that the visit is, or will be, paid by.
func (s *Service) cover(ctx context.Context, tx Store, st *studio.Studio, out *VisitSale) (bool, error) {
	v := &out.Visit
	list, err := tx.SoldSeriesOf(ctx, &v.Client)
	if err != nil {
		return false, err
	}
	today := calendar.Day(s.Today(st))
	for i := range list {
		for k := range list[i].Shares {
			if sh := &list[i].Shares[k]; sh.Visit != nil && *sh.Visit == v.ID && sh.Receipt == nil {
				one, err := strip(&list[i], st, today)
				out.Series, out.SeriesN = &one, sh.N
				return err == nil, err
			}
		}
	}
	if v.State.Given() {
		return false, nil // its record closed without a share
	}
	for i := range list {
		if list[i].covers(v.Protocol, calendar.Day(s.dayOf(st, v.StartsAt))) {
			one, err := strip(&list[i], st, today)
			out.Series, out.SeriesN = &one, list[i].open(v.Protocol).N
			return err == nil, err
		}
	}
	return false, nil
}

// propose works out the fee of a visit that was cancelled late or missed.
func (s *Service) propose(ctx context.Context, tx Store, st *studio.Studio, a *studio.Actor, out *VisitSale) error {
	v := &out.Visit
	if out.Waived != "" {
		return nil
	}
	day, err := s.priceDay(ctx, tx, st, v)
	if err != nil {
		return err
	}
	prices, err := readPrices(ctx, tx, day)
	if err != nil {
		return err
	}
	price, ok := prices.treatment(v.Protocol, &v.Practitioner)
	if !ok {
		return nil
	}
	minor := st.Minor()
	held := decimal.Zero
	fee, percent := st.Books.ProposedFee(st.Taxed(price).Gross, v.State == studio.NoShow, minor)
	if !fee.IsPositive() {
		return nil
	}
	for i := range out.Deposits {
		if d := &out.Deposits[i]; d.State == DepositHeld {
			held = held.Add(d.Gross)
		}
	}
	due := decimal.Max(decimal.Zero, fee.Sub(held))
	out.Fee = &ProposedFee{Percent: percent, Fee: fee.StringFixed(minor), Deposit: held.StringFixed(minor), Due: due.StringFixed(minor)}
	if due.IsPositive() {
		out.Sale.Lines = append(out.Sale.Lines, SaleLine{Kind: SellFee, Qty: 1, Amount: due.StringFixed(minor)})
	}
	return nil
}

// FeeAnswer is what is done about a proposed fee beside asking for it: waived with a reason, the deposit kept, or the
// missed visit counted as one of a series.
type FeeAnswer struct {
	Waive       string `json:"waive,omitempty" maxLength:"300"`
	KeepDeposit bool   `json:"keepDeposit,omitempty"`
	Count       bool   `json:"count,omitempty"`
}

// AnswerFee answers a proposed fee.
func (s *Service) AnswerFee(ctx context.Context, a *studio.Actor, visit uuid.UUID, answer *FeeAnswer) error {
	if err := a.May("answer-fee"); err != nil {
		return err
	}
	return studio.In(ctx, s.Kernel, a, func(tx Store, st *studio.Studio) error {
		v, err := tx.Visit(ctx, visit)
		if err != nil {
			return err
		}
		if err := a.MayVisit("answer-fee", &v.Visit); err != nil {
			return err
		}
		if v.State != studio.NoShow && v.State != studio.LateCancelled {
			return &studio.StateError{Code: "no-fee", Sentence: words.ThisAppointmentWasNotMissed()}
		}
		switch {
		case answer.Count && !st.Books.MissedCounts:
			return &studio.StateError{Code: "does-not-count", Sentence: words.MissedTreatmentsDoNotCount()}
		case answer.Count:
			return s.EarnShare(ctx, tx, &v.Visit, &a.Account, s.Now())
		case answer.KeepDeposit:
			return s.keepDeposits(ctx, tx, st, a, visit)
		}
		reason := strings.TrimSpace(answer.Waive)
		if reason == "" {
			return studio.FaultAt("/waive", words.SayWhyTheFeeIsWaived())
		}
		return tx.WaiveFee(ctx, visit, reason, a.Account, s.Now())
	})
}

// keepDeposits makes the deposits of a visit fees, at the studio's rate for fees.
func (s *Service) keepDeposits(ctx context.Context, tx Store, st *studio.Studio, a *studio.Actor, visit uuid.UUID) error {
	list, err := tx.DepositsOf(ctx, visit)
	if err != nil {
		return err
	}
	for i := range list {
		d, err := tx.Deposit(ctx, list[i].ID, true)
		if err != nil {
			return err
		}
		if d.State != DepositHeld {
			continue
		}
		done, err := money.BookOf(st.BookRules(), d.known()).Post(&money.Event{Kind: money.DepositKept, Ref: d.ID.String()})
		if err != nil {
			return err
		}
		if err := tx.SetDeposit(ctx, d.ID, DepositKept); err != nil {
			return err
		}
		err = post(ctx, tx, &studio.LedgerEvent{
			Kind: money.DepositKept, At: s.Now(), Account: &a.Account, ReceiptNo: d.Number, Client: &d.Client, Visit: &d.Visit,
		}, done)
		if err != nil {
			return err
		}
	}
	return nil
}

func (d *Deposit) known() *money.Known {
	return &money.Known{Deposits: map[string]money.HeldDeposit{d.ID.String(): {Gross: d.Gross, Tax: d.Tax, Rate: d.Rate}}}
}

// DepositBack asks for a deposit to be given back.
type DepositBack struct {
	ID  uuid.UUID `json:"id" format:"uuid"`
	By  money.Way `json:"by" enum:"cash,card,bank"`
	Why string    `json:"why" minLength:"1" maxLength:"300"`
}

// GiveDepositBack gives a deposit back by a receipt below zero.
func (s *Service) GiveDepositBack(ctx context.Context, a *studio.Actor, id uuid.UUID, want *DepositBack) (out *Receipt, err error) {
	if err := a.May("refund-deposit"); err != nil {
		return nil, err
	}
	give := func(given decimal.Decimal, tx Store, st *studio.Studio) error {
		d, err := tx.Deposit(ctx, id, true)
		if err != nil {
			return err
		}
		if there, err := tx.Receipt(ctx, want.ID); err == nil || !errors.Is(err, studio.ErrNotFound) {
			out = there
			return err
		}
		if d.State != DepositHeld {
			return &studio.StateError{Code: "deposit-used", Sentence: words.ThisDepositWasUsed()}
		}
		first, err := tx.LockReceipt(ctx, d.Receipt)
		if err != nil {
			return err
		}
		event := money.Event{Kind: money.DepositReturned, Ref: d.ID.String(), Pay: []money.Pay{{By: want.By}}}
		done, err := money.BookOf(st.BookRules(), d.known()).Post(&event)
		if err != nil {
			return err
		}
		minor := st.Minor()
		paper := first.Paper
		lines := paper.Lines
		paper.Bill = Bill{Taxes: []BillTax{}, Ways: []BillWay{}, TaxName: st.Tax.TaxName}
		for i := range lines {
			paper.Lines = append(paper.Lines, lines[i].negated(minor))
		}
		paper.Bill.total(done, minor)
		paper.First, paper.Note = first.Number, strings.TrimSpace(want.Why)
		out = &Receipt{
			ID: want.ID, Day: s.Today(st), At: s.Now(), Kind: ReceiptDepositBack, Account: a.Account, Client: &d.Client, Visit: &d.Visit,
			Counter: &first.ID, Total: d.Gross.Neg(), Paper: paper,
		}
		if err := tx.AddReceipt(ctx, out); err != nil {
			return err
		}
		if err := tx.SetDeposit(ctx, d.ID, DepositGivenBack); err != nil {
			return err
		}
		err = post(ctx, tx, &studio.LedgerEvent{
			ID: out.ID, Kind: event.Kind, Day: out.Day, At: out.At, Account: &a.Account, ReceiptNo: out.Number, Client: &d.Client, Visit: &d.Visit,
			Note: paper.Note,
		}, done)
		if err != nil {
			return err
		}
		return cardBack(ctx, tx, done, given, out)
	}
	return out, s.givingBack(ctx, a, want.ID, give)
}
