package money

import (
	"fmt"

	"github.com/shopspring/decimal"

	"softpalm/internal/craft/shelf"
)

// Ledger is what happened to a studio's money and goods, in order. CashStep is what cash is rounded to, FeeRate the
// tax in per cent on a kept deposit. Minor are the decimals of the currency, 2 where absent.
type Ledger struct {
	Minor    *int32          `json:"minor,omitempty"`
	CashStep decimal.Decimal `json:"cashStep"`
	FeeRate  decimal.Decimal `json:"feeRate"`
	Events   []Event         `json:"events"`
}

// Posted is an event with its postings.
type Posted struct {
	Event    EventKind `json:"event"`
	Postings Postings  `json:"postings"`
}

// Books are the postings of each event and what they come to: balances without zeros, money taken by way, what was
// earned, what is owed to clients, what goods cost, the highest receipt number, and the worth of each lot.
type Books struct {
	Postings      []Posted                   `json:"postings"`
	Balances      Postings                   `json:"balances"`
	Taken         map[Way]decimal.Decimal    `json:"taken"`
	Earned        decimal.Decimal            `json:"earned"`
	OwedToClients decimal.Decimal            `json:"owedToClients"`
	CostOfGoods   decimal.Decimal            `json:"costOfGoods"`
	Receipts      int                        `json:"receipts"`
	StockByLot    map[string]decimal.Decimal `json:"stockByLot"`
}

// Post works out the postings of every event (handbook, chapter 8, The ledger underneath). It fails at the first event
// that cannot have happened.
func (l *Ledger) Post() (Books, error) {
	b := newBook(l)
	for i := range l.Events {
		e := &l.Events[i]
		b.now = Postings{}
		b.paid = map[Way]decimal.Decimal{}
		if err := b.post(e); err != nil {
			return Books{}, fmt.Errorf("event %d, %s: %w", i, e.Kind, err)
		}
		for a, amount := range b.now.tidy() {
			b.balances.add(a, amount)
		}
		for way, amount := range b.paid {
			b.taken[way] = b.taken[way].Add(amount)
		}
		b.done = append(b.done, entry{Event: e, postings: b.now, paid: b.paid, credited: map[int]bool{}, taxes: b.taxes})
		b.taxes = nil
	}
	return b.books(), nil
}

// book is a ledger as its events are posted.
type book struct {
	minor             int32
	cashStep, feeRate decimal.Decimal

	// now are the postings of the event in hand, paid what it takes in by way, taxes what its lines bear.
	now   Postings
	paid  map[Way]decimal.Decimal
	taxes []Taxed

	done     []entry
	balances Postings
	taken    map[Way]decimal.Decimal
	receipts int
	lots     map[string]*shelf.Layer
	vouchers map[string]decimal.Decimal
	deposits map[string]*deposit
	series   map[string]*soldSeries
	tips     map[string]decimal.Decimal
	bases    map[string]Bases
}

// entry is an event that was posted; credited are the lines given back, countered that it was undone.
type entry struct {
	*Event
	postings  Postings
	paid      map[Way]decimal.Decimal
	taxes     []Taxed
	credited  map[int]bool
	countered bool
}

// deposit is a payment on a booking, with its tax and what was posted when it came in.
type deposit struct {
	gross, tax decimal.Decimal
	came       Postings
	paid       map[Way]decimal.Decimal
}

// soldSeries is a series with the gross and net shares of its visits; so many were given.
type soldSeries struct {
	gross, rate decimal.Decimal
	grossShares []decimal.Decimal
	netShares   []decimal.Decimal
	given       int
	closed      bool
}

// left is what the visits not given share, gross and net.
func (s *soldSeries) left() (gross, net decimal.Decimal) {
	for k := s.given; k < len(s.netShares); k++ {
		gross, net = gross.Add(s.grossShares[k]), net.Add(s.netShares[k])
	}
	return gross, net
}

func newBook(l *Ledger) *book {
	return &book{
		minor: minorOf(l.Minor), cashStep: l.CashStep, feeRate: l.FeeRate,
		balances: Postings{}, taken: map[Way]decimal.Decimal{ByCash: {}, ByCard: {}, ByBank: {}}, lots: map[string]*shelf.Layer{},
		vouchers: map[string]decimal.Decimal{}, deposits: map[string]*deposit{}, series: map[string]*soldSeries{},
		tips: map[string]decimal.Decimal{}, bases: map[string]Bases{},
	}
}

// books adds up what was posted.
func (b *book) books() Books {
	out := Books{
		Postings: []Posted{}, Balances: b.balances.tidy(), Taken: b.taken, Receipts: b.receipts,
		Earned: b.balances.sum(income).Neg(), OwedToClients: b.balances.sum(clientsOwed).Neg(),
		CostOfGoods: b.balances.sum(goods), StockByLot: map[string]decimal.Decimal{},
	}
	for i := range b.done {
		out.Postings = append(out.Postings, Posted{b.done[i].Kind, b.done[i].postings})
	}
	for lot, layer := range b.lots {
		out.StockByLot[lot] = layer.Worth(layer.Left)
	}
	return out
}

// post puts an event's postings into b.now.
func (b *book) post(e *Event) error {
	switch e.Kind {
	case Opened:
		b.now.add(CashTill, e.Cash)
		b.now.add(Bank, e.Bank)
		b.now.add(Owner, e.Cash.Add(e.Bank).Neg())
		return nil
	case Receipt:
		return b.receipt(e)
	case Delivered:
		return b.deliver(e)
	case DepositTaken:
		return b.takeDeposit(e)
	case DepositKept:
		return b.keepDeposit(e)
	case DepositReturned:
		return b.returnDeposit(e)
	case SeriesRefunded:
		return b.refundSeries(e)
	case VoucherExpired:
		return b.expire(e)
	case Credited:
		return b.credit(e)
	case MoveCountered, Countered:
		return b.counter(e)
	case Received, Used, Wasted, Tested, Disposed, Counted, Blended, GoodsReturned:
		return b.move(e)
	}
	return b.settle(e)
}
