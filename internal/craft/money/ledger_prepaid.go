package money

import (
	"errors"
	"slices"

	"github.com/shopspring/decimal"
)

// sellSeries keeps a series with its shares: gross and net are shared separately.
func (b *book) sellSeries(l *ReceiptLine, t Taxed) error {
	if l.Ref == "" || b.series[l.Ref] != nil || l.Visits < 1 {
		return errors.New("a series needs a name of its own and at least one visit")
	}
	weights := slices.Repeat([]decimal.Decimal{decimal.NewFromInt(1)}, l.Visits)
	rate := decimal.Zero
	if l.Rate != nil {
		rate = *l.Rate
	}
	b.series[l.Ref] = &soldSeries{
		gross: l.Gross, rate: rate,
		grossShares: Shares(l.Gross, weights, b.minor), netShares: Shares(t.Net, weights, b.minor),
	}
	return nil
}

// deliver earns the next visit's net share, for whoever gave it.
func (b *book) deliver(e *Event) error {
	s := b.series[e.Series]
	if s == nil || s.closed || s.given == len(s.netShares) {
		return errors.New("the series " + e.Series + " has no visit left")
	}
	share := s.netShares[s.given]
	s.given++
	b.now.add(SeriesOwed, share)
	b.now.add(Treatments, share.Neg())
	b.earn(&ReceiptLine{Kind: TreatmentLine, Practitioner: e.Practitioner}, share)
	return nil
}

// refundSeries gives back what is left of a series by the studio's rule; what stays is earned as breakage.
func (b *book) refundSeries(e *Event) error {
	s := b.series[e.Series]
	if s == nil || s.closed {
		return errors.New("there is no series " + e.Series + " to give back")
	}
	b.receipts++
	given := UnfinishedSeries{
		Price: s.gross, Paid: s.gross, Delivered: s.given, Rule: e.Rule, Minor: &b.minor,
		Weights: slices.Repeat([]decimal.Decimal{decimal.NewFromInt(1)}, len(s.netShares)),
		Singles: slices.Repeat([]decimal.Decimal{e.Single}, s.given),
	}
	refund, err := given.Refund()
	if err != nil {
		return err
	}
	gross, net := s.left()
	tax := TaxBack(refund, gross, gross.Sub(net), s.rate, b.minor)
	s.closed = true
	b.now.add(SeriesOwed, net)
	b.now.add(OutputTax, tax)
	b.now.add(Breakage, refund.Sub(tax).Sub(net))
	return b.pay(e.Pay, refund.Neg())
}

// expire earns what is left of a voucher, or of a series, as breakage.
func (b *book) expire(e *Event) error {
	if s := b.series[e.Ref]; s != nil && !s.closed {
		_, net := s.left()
		s.closed = true
		b.now.add(SeriesOwed, net)
		b.now.add(Breakage, net.Neg())
		return nil
	}
	left, known := b.vouchers[e.Ref]
	if !known {
		return errors.New("there is no voucher " + e.Ref)
	}
	b.vouchers[e.Ref] = decimal.Zero
	b.now.add(VouchersOwed, left)
	b.now.add(Breakage, left.Neg())
	return nil
}

// takeDeposit owes a deposit to the client net of its tax.
func (b *book) takeDeposit(e *Event) error {
	if e.Ref == "" || b.deposits[e.Ref] != nil {
		return errors.New("a deposit needs a number of its own")
	}
	b.receipts++
	d := &deposit{gross: e.Gross}
	if e.Rate != nil {
		d.tax = includedTax(e.Gross, *e.Rate, b.minor)
	}
	if err := b.pay(e.Pay, e.Gross); err != nil {
		return err
	}
	b.now.add(DepositsOwed, d.tax.Sub(d.gross))
	b.now.add(OutputTax, d.tax.Neg())
	d.came, d.paid = b.now, b.paid
	b.deposits[e.Ref] = d
	return nil
}

// keepDeposit makes a deposit a fee, at the studio's rate for fees.
func (b *book) keepDeposit(e *Event) error {
	d := b.deposits[e.Ref]
	if d == nil {
		return errors.New("there is no deposit " + e.Ref)
	}
	delete(b.deposits, e.Ref)
	tax := includedTax(d.gross, b.feeRate, b.minor)
	b.now.add(DepositsOwed, d.gross.Sub(d.tax))
	b.now.add(OutputTax, d.tax.Sub(tax))
	b.now.add(Fees, tax.Sub(d.gross))
	return nil
}

// returnDeposit gives a deposit back, the way it came unless another is said.
func (b *book) returnDeposit(e *Event) error {
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
	b.now.add(DepositsOwed, d.gross.Sub(d.tax))
	b.now.add(OutputTax, d.tax)
	return b.pay(e.Pay, d.gross.Neg())
}

// reverse posts an event with the other sign.
func (b *book) reverse(postings Postings, paid map[Way]decimal.Decimal) {
	for a, amount := range postings {
		b.now.add(a, amount.Neg())
	}
	for way, amount := range paid {
		b.paid[way] = b.paid[way].Sub(amount)
	}
}
