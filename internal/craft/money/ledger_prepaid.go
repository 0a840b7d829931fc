package money

import (
	"errors"
	"slices"

	"github.com/shopspring/decimal"
)

// sellSeries keeps a series with its shares: gross and net are shared separately.
func (b *Book) sellSeries(l *ReceiptLine, t Taxed) error {
	if l.Ref == "" || b.series[l.Ref] != nil || l.Visits < 1 {
		return errors.New("a series needs a name of its own and at least one visit")
	}
	weights := l.Shares
	if weights == nil {
		weights = slices.Repeat([]decimal.Decimal{decimal.NewFromInt(1)}, l.Visits)
	}
	rate := decimal.Zero
	if l.Rate != nil {
		rate = *l.Rate
	}
	net := t.Net
	if l.Deferred {
		net = Deposit(t.Gross, l.Rate, b.Minor).Net
	}
	b.series[l.Ref] = &soldSeries{
		paid: t.Gross, rate: rate, deferred: l.Deferred,
		grossShares: Shares(t.Gross, weights, b.Minor), netShares: Shares(net, weights, b.Minor),
	}
	return nil
}

// deliver earns the next visit's net share, for whoever gave it; its tax is due now where it was not at the sale.
func (b *Book) deliver(e *Event) error {
	s := b.series[e.Series]
	if s == nil || s.closed || s.given == len(s.netShares) {
		return errors.New("the series " + e.Series + " has no visit left")
	}
	gross, share, owed := s.next()
	s.given++
	b.put(SeriesOwed, owed)
	if s.deferred {
		b.tax(gross.Sub(share), share, &s.rate)
	}
	b.now = append(b.now, Posting{
		Account: Treatments, Amount: share.Neg(), Rate: &s.rate, Practitioner: e.Practitioner, Subject: e.Subject,
	})
	b.earn(&ReceiptLine{Kind: TreatmentLine, Practitioner: e.Practitioner}, share)
	return nil
}

// ErrCountsForMore says that a treatment of a voucher counts for more than is due: it is not used in part.
var ErrCountsForMore = errors.New("a treatment of the voucher counts for more than is due")

// payByShare pays with the next visit of a treatment voucher, which counts as its gross share for whatever it is used
// for; its tax, where it was due at the sale, comes off the receipt's. An amount below zero gives that visit back.
func (b *Book) payByShare(p Pay, s *soldSeries, rest decimal.Decimal) (decimal.Decimal, error) {
	back := p.Amount != nil && p.Amount.IsNegative()
	if back {
		s.given--
	}
	if s.closed || s.given < 0 || s.given >= len(s.netShares) {
		return decimal.Zero, errors.New("the voucher " + p.Ref + " has no treatment left")
	}
	gross, net, owed := s.next()
	if back {
		gross, net, owed = gross.Neg(), net.Neg(), owed.Neg()
	} else {
		s.given++
	}
	if !back && gross.GreaterThan(rest) {
		return decimal.Zero, ErrCountsForMore
	}
	b.putWay(SeriesOwed, owed, ByVoucher)
	if !s.deferred {
		b.tax(net.Sub(gross), net.Neg(), &s.rate)
	}
	b.ways = append(b.ways, PaidWay{By: p.By, Ref: p.Ref, Covers: gross, Taken: gross})
	return gross, nil
}

// refundSeries gives back what is left of a series by the studio's rule; what stays is earned as breakage.
func (b *Book) refundSeries(e *Event) error {
	s := b.series[e.Series]
	if s == nil || s.closed {
		return errors.New("there is no series " + e.Series + " to give back")
	}
	b.receipts++
	singles := e.Singles
	if singles == nil {
		singles = slices.Repeat([]decimal.Decimal{e.Single}, s.given)
	}
	refund, err := RefundOf(e.Rule, s.paid, s.grossShares[:s.given], singles)
	if err != nil {
		return err
	}
	gross, net := s.left()
	tax := TaxBack(refund, gross, gross.Sub(net), s.rate, b.Minor)
	stays := net.Sub(refund.Sub(tax))
	s.closed = true
	b.put(SeriesOwed, s.owed(gross, net))
	if s.deferred { // none was paid: what stays bears its own
		b.tax(gross.Sub(net).Sub(tax), stays, &s.rate)
	} else {
		b.tax(tax.Neg(), tax.Sub(refund), &s.rate)
	}
	b.put(Breakage, stays.Neg())
	return b.pay(e.Pay, refund.Neg())
}

// expire earns what is left of a voucher, or of a series, as breakage.
func (b *Book) expire(e *Event) error {
	if s := b.series[e.Ref]; s != nil && !s.closed {
		left := s.owed(s.left())
		s.closed = true
		b.put(SeriesOwed, left)
		b.put(Breakage, left.Neg())
		return nil
	}
	left, known := b.vouchers[e.Ref]
	if !known {
		return errors.New("there is no voucher " + e.Ref)
	}
	b.vouchers[e.Ref] = decimal.Zero
	b.put(VouchersOwed, left)
	b.put(Breakage, left.Neg())
	return nil
}

// takeDeposit owes a deposit to the client net of its tax.
func (b *Book) takeDeposit(e *Event) error {
	if e.Ref == "" || b.deposits[e.Ref] != nil {
		return errors.New("a deposit needs a number of its own")
	}
	b.receipts++
	d := &deposit{gross: e.Gross}
	if e.Rate != nil {
		d.tax = includedTax(e.Gross, *e.Rate, b.Minor)
	}
	if err := b.pay(e.Pay, e.Gross); err != nil {
		return err
	}
	b.put(DepositsOwed, d.tax.Sub(d.gross))
	b.tax(d.tax, d.gross.Sub(d.tax), e.Rate)
	d.came, d.paid, d.rate = b.now, b.paid, e.Rate
	b.deposits[e.Ref] = d
	return nil
}

// keepDeposit makes a deposit a fee, at the studio's rate for fees.
func (b *Book) keepDeposit(e *Event) error {
	d := b.deposits[e.Ref]
	if d == nil {
		return errors.New("there is no deposit " + e.Ref)
	}
	delete(b.deposits, e.Ref)
	tax := includedTax(d.gross, b.FeeRate, b.Minor)
	b.put(DepositsOwed, d.gross.Sub(d.tax))
	b.tax(d.tax.Neg(), d.tax.Sub(d.gross), d.rate)
	b.tax(tax, d.gross.Sub(tax), &b.FeeRate)
	b.put(Fees, tax.Sub(d.gross))
	return nil
}

// returnDeposit gives a deposit back, the way it came unless another is said.
func (b *Book) returnDeposit(e *Event) error {
	d := b.deposits[e.Ref]
	if d == nil {
		return errors.New("there is no deposit " + e.Ref)
	}
	b.receipts++
	delete(b.deposits, e.Ref)
	if len(e.Pay) == 0 {
		b.reverse(d.came, d.paid)
		return nil
	}
	b.put(DepositsOwed, d.gross.Sub(d.tax))
	b.tax(d.tax.Neg(), d.tax.Sub(d.gross), d.rate)
	return b.pay(e.Pay, d.gross.Neg())
}

// reverse posts an event with the other sign.
func (b *Book) reverse(postings []Posting, paid map[Way]decimal.Decimal) {
	b.now = append(b.now, Countering(postings)...)
	for way, amount := range paid {
		b.paid[way] = b.paid[way].Sub(amount)
	}
}
