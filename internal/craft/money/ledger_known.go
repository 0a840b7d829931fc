package money

import "github.com/shopspring/decimal"

// Known is what earlier events left, as far as the next event looks at it. Keys are the names that events use.
type Known struct {
	Cash     decimal.Decimal // in the till
	Vouchers map[string]decimal.Decimal
	Deposits map[string]HeldDeposit
	Series   map[string]HeldSeries
	Tips     map[string]decimal.Decimal
	// Receipt is the first event, for lines of it that are given back.
	Receipt *GivenReceipt
}

// HeldDeposit is a deposit with its tax; Rate is nil where it bears none.
type HeldDeposit struct {
	Gross, Tax decimal.Decimal
	Rate       *decimal.Decimal
}

// HeldSeries is a series sold: what was paid of it, the shares of its visits in order, how many were given, and whether
// their tax is due when they are given.
type HeldSeries struct {
	Paid, Rate       decimal.Decimal
	Gross, NetShares []decimal.Decimal
	Given            int
	Deferred         bool
}

// GivenReceipt is a receipt issued, with what its lines came to; Credited are those given back.
type GivenReceipt struct {
	Lines    []ReceiptLine
	Taxes    []Taxed
	Credited []int
}

// BookOf is a book in which what is known stands.
func BookOf(r Rules, k *Known) *Book {
	b := NewBook(r)
	b.balances.add(CashTill, k.Cash)
	for ref, left := range k.Vouchers {
		b.vouchers[ref] = left
	}
	for ref, d := range k.Deposits {
		b.deposits[ref] = &deposit{gross: d.Gross, tax: d.Tax, rate: d.Rate}
	}
	for ref, s := range k.Series {
		b.series[ref] = &soldSeries{
			paid: s.Paid, rate: s.Rate, grossShares: s.Gross, netShares: s.NetShares, given: s.Given, deferred: s.Deferred,
		}
	}
	for who, owed := range k.Tips {
		b.tips[who] = owed
	}
	if g := k.Receipt; g != nil {
		first := entry{Event: &Event{Kind: Receipt}, Done: Done{Taxes: g.Taxes}, credited: map[int]bool{}}
		for _, l := range g.Lines {
			first.Lines = append(first.Lines, EventLine{ReceiptLine: l})
		}
		for _, i := range g.Credited {
			first.credited[i] = true
		}
		b.done = append(b.done, first)
	}
	return b
}
