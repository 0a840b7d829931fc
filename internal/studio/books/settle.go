package books

import (
	"errors"
	"fmt"
	"maps"
	"slices"

	"github.com/shopspring/decimal"

	"softpalm/internal/craft/money"
	"softpalm/internal/studio"
	"softpalm/words"
)

// known are the vouchers and deposits that the sale pays with.
func (r *reckoning) known() *money.Known {
	k := &money.Known{
		Vouchers: map[string]decimal.Decimal{}, Deposits: map[string]money.HeldDeposit{}, Series: map[string]money.HeldSeries{},
	}
	for number, series := range r.shares {
		k.Series[number] = series.held(series.nextShare())
	}
	for number, v := range r.vouchers {
		k.Vouchers[number] = v.Left
	}
	for ref, d := range r.deposits {
		k.Deposits[ref] = money.HeldDeposit{Gross: d.Gross, Tax: d.Tax, Rate: d.Rate}
	}
	return k
}

// settle posts the sale with the ways it names. What they do not pay is the rest of the bill, and is asked for as paid
// later so that the core can post it.
func (r *reckoning) settle() error {
	rest := true // nobody takes the rest yet
	r.event.Pay = nil
	for i, p := range r.sale.Pay {
		pay := money.Pay{By: p.By, Ref: p.Ref}
		if p.Amount != "" {
			amount, err := amountAt(fmt.Sprintf("/pay/%d/amount", i), p.Amount)
			if err != nil {
				return err
			}
			pay.Amount = &amount
			if v := r.vouchers[p.Ref]; v != nil && p.By == money.ByVoucher && amount.GreaterThan(v.Left) {
				return studio.FaultAt(fmt.Sprintf("/pay/%d/amount", i), words.OnlySoMuchIsLeftOfTheVoucher(v.Left.StringFixed(r.st.Minor())))
			}
		} else if p.By != money.ByVoucher && p.By != money.ByDeposit {
			if !rest {
				return studio.FaultAt(fmt.Sprintf("/pay/%d/amount", i), words.OneWayTakesTheRest())
			}
			rest = false
		}
		r.event.Pay = append(r.event.Pay, pay)
	}
	if rest {
		r.event.Pay = append(r.event.Pay, money.Pay{By: money.ByLater, Ref: unpaid})
	}
	done, err := money.BookOf(r.st.BookRules(), r.known()).Post(&r.event)
	if errors.Is(err, money.ErrCountsForMore) {
		return r.countsForMore()
	}
	if err != nil {
		return fmt.Errorf("books: a sale that cannot be posted: %w", err)
	}
	r.done = done
	return r.write()
}

// unpaid marks the way that stands for what nobody pays yet.
const unpaid = "unpaid"

// write writes the bill down.
func (r *reckoning) write() error {
	minor := r.st.Minor()
	text := func(d decimal.Decimal) string { return d.StringFixed(minor) }
	total, rates := decimal.Zero, map[string]money.Taxed{}
	for i := range r.bill.Lines {
		l := &r.bill.Lines[i]
		t, rate := r.lineTax(i)
		l.Net, l.Tax, l.Gross = text(t.Net), text(t.Tax), text(t.Gross)
		total = total.Add(t.Gross)
		if rate == nil {
			continue
		}
		l.Rate = rate.String()
		sum := rates[l.Rate]
		rates[l.Rate] = money.Taxed{Net: sum.Net.Add(t.Net), Tax: sum.Tax.Add(t.Tax), Gross: sum.Gross.Add(t.Gross)}
	}
	r.bill.Taxes, r.bill.TaxName = []BillTax{}, r.st.Tax.TaxName
	for _, rate := range slices.Sorted(maps.Keys(rates)) {
		t := rates[rate]
		r.bill.Taxes = append(r.bill.Taxes, BillTax{rate, text(t.Net), text(t.Tax), text(t.Gross)})
	}
	due := total
	if r.event.Tip != nil {
		r.bill.Tip, r.bill.TipFor = text(r.event.Tip.Amount), r.event.Tip.Practitioner
		due = due.Add(r.event.Tip.Amount)
	}
	r.bill.Total, r.bill.Due, r.bill.Rest = text(total), text(due), text(decimal.Zero)
	return r.writeWays(text)
}

// lineTax is what a line comes to, and at which rate.
func (r *reckoning) lineTax(i int) (money.Taxed, *decimal.Decimal) {
	if r.event.Kind == money.DepositTaken {
		held := money.Deposit(r.event.Gross, r.event.Rate, r.st.Minor())
		return held, r.event.Rate
	}
	if r.event.Lines[i].Deferred {
		return r.done.Taxes[i], nil
	}
	return r.done.Taxes[i], r.event.Lines[i].Rate
}

// writeWays writes down how the bill is paid.
func (r *reckoning) writeWays(text func(decimal.Decimal) string) error {
	r.bill.Ways = []BillWay{}
	rounding := decimal.Zero
	for _, w := range r.done.Ways {
		if w.Ref == unpaid {
			r.bill.Rest = text(w.Covers)
			cash, err := money.Cash(w.Covers, r.st.BookRules().CashStep)
			if err != nil {
				return err
			}
			r.bill.Cash = text(cash)
			for _, d := range money.Handed(cash) {
				r.bill.Handed = append(r.bill.Handed, text(d))
			}
			continue
		}
		if w.Covers.IsZero() && w.Taken.IsZero() {
			continue // vouchers or a deposit paid it all
		}
		way := BillWay{By: w.By, Ref: w.Ref, Covers: text(w.Covers), Taken: text(w.Taken)}
		rounding = rounding.Add(w.Taken.Sub(w.Covers))
		i := slices.IndexFunc(r.sale.Pay, func(p SalePay) bool { return p.By == w.By && p.Ref == w.Ref })
		p := r.sale.Pay[i]
		switch w.By {
		case money.ByVoucher:
			if r.vouchers[w.Ref] != nil {
				way.Left = text(w.Left)
			}
		case money.ByLater:
			way.Due = p.Due
		case money.ByCash:
			given, err := amountAt(fmt.Sprintf("/pay/%d/given", i), p.Given)
			if err != nil {
				return err
			}
			if given.IsPositive() {
				if given.LessThan(w.Taken) {
					return studio.FaultAt(fmt.Sprintf("/pay/%d/given", i), words.LessIsGivenThanIsDue(text(w.Taken)))
				}
				way.Given, way.Change = text(given), text(given.Sub(w.Taken))
			}
		}
		r.bill.Ways = append(r.bill.Ways, way)
	}
	if !rounding.IsZero() {
		r.bill.Rounding = text(rounding)
	}
	return nil
}
