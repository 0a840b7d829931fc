package money

import (
	"cmp"
	"errors"
	"slices"

	"github.com/shopspring/decimal"
)

// lineAccounts are where the net of a line goes.
var lineAccounts = map[LineKind]Account{
	TreatmentLine: Treatments, RetailLine: Retail, FeeLine: Fees, SeriesLine: SeriesOwed, VoucherLine: VouchersOwed,
	DebtLine: OwedByClients,
}

// receipt posts a sale: its lines net and their tax, the goods that leave, the tip, and the ways paid.
func (b *Book) receipt(e *Event) error {
	b.receipts++
	lines, due := make([]Line, len(e.Lines)), decimal.Zero
	for i, l := range e.Lines {
		if (l.Kind == VoucherLine || l.Kind == DebtLine) && l.Rate != nil && !l.Rate.IsZero() {
			return errors.New("an amount voucher, or a debt paid, bears no tax")
		}
		lines[i] = Line{Amount: l.Gross, Rate: l.Rate}
		if l.Deferred {
			lines[i] = Line{Amount: b.withTax(lines[i])}
		}
	}
	b.taxes, _ = Tax(lines, cmp.Or(b.Mode, TaxIncluded), b.Minor)
	for i := range e.Lines {
		due = due.Add(b.taxes[i].Gross)
		if err := b.sell(&e.Lines[i].ReceiptLine, b.taxes[i]); err != nil {
			return err
		}
	}
	if e.Tip != nil {
		b.now = append(b.now, Posting{Account: TipsOwed, Amount: e.Tip.Amount.Neg(), Practitioner: e.Tip.Practitioner})
		b.tips[e.Tip.Practitioner] = b.tips[e.Tip.Practitioner].Add(e.Tip.Amount)
		due = due.Add(e.Tip.Amount)
	}
	return b.pay(e.Pay, due)
}

// withTax is what is paid for a line, by itself.
func (b *Book) withTax(l Line) decimal.Decimal {
	taxed, _ := Tax([]Line{l}, cmp.Or(b.Mode, TaxIncluded), b.Minor)
	return taxed[0].Gross
}

// sell posts one line.
func (b *Book) sell(l *ReceiptLine, t Taxed) error {
	_, ok := lineAccounts[l.Kind]
	if !ok {
		return errors.New("a line sells a treatment, retail, fee, series or voucher, or pays a debt")
	}
	b.putLine(l, t)
	b.earn(l, t.Net)
	switch l.Kind {
	case RetailLine:
		if l.Lot != "" {
			return b.goods(l.Lot, l.Amount.Neg(), RetailCost)
		}
	case VoucherLine:
		if _, known := b.vouchers[l.Ref]; known || l.Ref == "" {
			return errors.New("a voucher needs a number of its own")
		}
		b.vouchers[l.Ref] = l.Gross
	case SeriesLine:
		return b.sellSeries(l, t)
	}
	return nil
}

// putLine posts what a line sells without its tax, and the tax.
func (b *Book) putLine(l *ReceiptLine, t Taxed) {
	rate := l.Rate
	if l.Deferred {
		rate = nil
	}
	b.now = append(b.now, Posting{
		Account: lineAccounts[l.Kind], Amount: t.Net.Neg(), Rate: rate, Practitioner: l.Practitioner, Subject: l.Subject,
	})
	b.tax(t.Tax, t.Net, rate)
}

// earn counts a line towards its practitioner's commission.
func (b *Book) earn(l *ReceiptLine, net decimal.Decimal) {
	base := b.bases[l.Practitioner]
	switch l.Kind {
	case TreatmentLine:
		base.Treatment = base.Treatment.Add(net)
	case RetailLine:
		base.Retail = base.Retail.Add(net)
	default:
		return
	}
	b.bases[l.Practitioner] = base
}

// pay posts the ways an amount is paid, or given back where it is below zero: amounts said first, then deposits and
// vouchers, and one way takes the rest; cash of it is rounded to the step.
func (b *Book) pay(ways []Pay, due decimal.Decimal) error {
	order := func(p Pay) int {
		switch {
		case p.Amount != nil:
			return 0
		case p.By == ByDeposit:
			return 1
		case p.By == ByVoucher:
			return 2
		}
		return 3
	}
	ways = slices.Clone(ways)
	slices.SortStableFunc(ways, func(x, y Pay) int { return order(x) - order(y) })
	rest := due
	for _, p := range ways {
		paid, err := b.payBy(p, rest)
		if err != nil {
			return err
		}
		rest = rest.Sub(paid)
	}
	if !rest.IsZero() {
		return errors.New("the ways paid do not come to what is due")
	}
	return nil
}

// payBy posts one way, and answers what of the rest it pays.
func (b *Book) payBy(p Pay, rest decimal.Decimal) (decimal.Decimal, error) {
	switch p.By {
	case ByVoucher:
		if s := b.series[p.Ref]; s != nil {
			return b.payByShare(p, s, rest)
		}
		left, known := b.vouchers[p.Ref]
		if !known {
			return decimal.Zero, errors.New("there is no voucher " + p.Ref)
		}
		use := decimal.Max(decimal.Zero, decimal.Min(left, rest))
		if p.Amount != nil {
			use = *p.Amount
		}
		if use.GreaterThan(left) {
			return decimal.Zero, errors.New("the voucher " + p.Ref + " has less left")
		}
		b.vouchers[p.Ref] = left.Sub(use)
		b.putWay(VouchersOwed, use, ByVoucher)
		b.ways = append(b.ways, PaidWay{p.By, p.Ref, use, use, left.Sub(use)})
		return use, nil
	case ByDeposit:
		d := b.deposits[p.Ref]
		if d == nil {
			return decimal.Zero, errors.New("there is no deposit " + p.Ref)
		}
		delete(b.deposits, p.Ref)
		b.putWay(DepositsOwed, d.gross.Sub(d.tax), ByDeposit)
		b.tax(d.tax.Neg(), d.tax.Sub(d.gross), d.rate)
		b.ways = append(b.ways, PaidWay{By: p.By, Ref: p.Ref, Covers: d.gross, Taken: d.gross})
		return d.gross, nil
	}
	account, ok := wayAccounts[p.By]
	if !ok {
		return decimal.Zero, errors.New("a way to pay is cash, card, bank, later, voucher or deposit")
	}
	paid, taken := rest, rest
	switch {
	case p.Amount != nil:
		paid, taken = *p.Amount, *p.Amount
	case p.By == ByCash:
		cash, err := Cash(rest, b.CashStep)
		if err != nil {
			return decimal.Zero, err
		}
		taken = cash
		b.put(Rounding, rest.Sub(cash))
	}
	b.putWay(account, taken, p.By)
	b.ways = append(b.ways, PaidWay{By: p.By, Ref: p.Ref, Covers: paid, Taken: taken})
	if p.By != ByLater {
		b.paid[p.By] = b.paid[p.By].Add(taken)
	}
	return paid, nil
}

// putWay posts an amount against the way it was paid.
func (b *Book) putWay(a Account, amount decimal.Decimal, by Way) {
	b.now = append(b.now, Posting{Account: a, Amount: amount, Way: by})
}

// credit gives lines of a receipt back, each at its own net and tax and at most once.
func (b *Book) credit(e *Event) error {
	first, err := b.earlier(e.Event)
	if err != nil {
		return err
	}
	if first.Kind != Receipt {
		return errors.New("only lines of a receipt are given back")
	}
	b.receipts++
	due := decimal.Zero
	for k := range e.Lines {
		i := e.Lines[k].Index
		if i < 0 || i >= len(first.Lines) || first.credited[i] {
			return errors.New("each line of the receipt is given back at most once")
		}
		l, t := &first.Lines[i].ReceiptLine, first.Taxes[i]
		if l.Kind == SeriesLine || l.Kind == VoucherLine || l.Kind == DebtLine {
			return errors.New("a series, a voucher or a debt paid is not given back as a line")
		}
		first.credited[i] = true
		b.putLine(l, Taxed{Net: t.Net.Neg(), Tax: t.Tax.Neg(), Gross: t.Gross.Neg()})
		b.earn(l, t.Net.Neg())
		due = due.Sub(t.Gross)
	}
	return b.pay(e.Pay, due)
}

// earlier is an event that was posted before.
func (b *Book) earlier(at int) (*entry, error) {
	if at < 0 || at >= len(b.done) {
		return nil, errors.New("there is no such earlier event")
	}
	return &b.done[at], nil
}
