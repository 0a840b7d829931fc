package money

import (
	"fmt"
	"slices"

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
	b := NewBook(Rules{Minor: minorOf(l.Minor), CashStep: l.CashStep, FeeRate: l.FeeRate})
	for i := range l.Events {
		if _, err := b.Post(&l.Events[i]); err != nil {
			return Books{}, fmt.Errorf("event %d, %s: %w", i, l.Events[i].Kind, err)
		}
	}
	return b.books(), nil
}

// Rules are how a studio keeps its books: the decimals of its currency, what cash is rounded to, the tax in per cent
// on a kept deposit, and whether prices have their tax in them.
type Rules struct {
	Minor             int32
	CashStep, FeeRate decimal.Decimal
	Mode              TaxMode // [TaxIncluded] where empty
}

// Book posts events one at a time, each on what stood before it: what earlier events left, or what it was told.
type Book struct {
	Rules

	// now are the postings of the event in hand, paid what it takes in by way, taxes what its lines bear.
	now   []Posting
	paid  map[Way]decimal.Decimal
	taxes []Taxed
	ways  []PaidWay

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

// Done is what an event came to: its postings, what it took in by way, the taxes of a receipt's lines, and the ways it
// was paid.
type Done struct {
	Postings []Posting
	Taken    map[Way]decimal.Decimal
	Taxes    []Taxed
	Ways     []PaidWay
}

// PaidWay is a way that was paid: what of the amount due it covers, what changes hands (another where cash is rounded),
// and what is left of a voucher.
type PaidWay struct {
	By                  Way
	Ref                 string
	Covers, Taken, Left decimal.Decimal
}

// entry is an event that was posted; credited are the lines given back, countered that it was undone.
type entry struct {
	*Event
	Done
	credited  map[int]bool
	countered bool
}

// deposit is a payment on a booking, with its tax and what was posted when it came in.
type deposit struct {
	gross, tax decimal.Decimal
	rate       *decimal.Decimal
	came       []Posting
	paid       map[Way]decimal.Decimal
}

// soldSeries is a series with the gross and net shares of its visits; so many were given.
type soldSeries struct {
	paid, rate  decimal.Decimal
	grossShares []decimal.Decimal
	netShares   []decimal.Decimal
	given       int
	closed      bool
	deferred    bool // its tax is due when its visits are given
}

// next are the shares of the next visit, and what is owed for it until it is given.
func (s *soldSeries) next() (gross, net, owed decimal.Decimal) {
	gross, net = s.grossShares[s.given], s.netShares[s.given]
	return gross, net, s.owed(gross, net)
}

// owed is what is owed of a part of the series: without its tax where that was due when it was sold.
func (s *soldSeries) owed(gross, net decimal.Decimal) decimal.Decimal {
	if s.deferred {
		return gross
	}
	return net
}

// left is what the visits not given share, gross and net.
func (s *soldSeries) left() (gross, net decimal.Decimal) {
	for k := s.given; k < len(s.netShares); k++ {
		gross, net = gross.Add(s.grossShares[k]), net.Add(s.netShares[k])
	}
	return gross, net
}

// NewBook is a book in which nothing stands yet.
func NewBook(r Rules) *Book {
	return &Book{
		Rules: r, balances: Postings{}, taken: map[Way]decimal.Decimal{ByCash: {}, ByCard: {}, ByBank: {}}, lots: map[string]*shelf.Layer{},
		vouchers: map[string]decimal.Decimal{}, deposits: map[string]*deposit{}, series: map[string]*soldSeries{},
		tips: map[string]decimal.Decimal{}, bases: map[string]Bases{},
	}
}

// Post posts the next event; where it cannot have happened the book must not be used any more.
func (b *Book) Post(e *Event) (Done, error) {
	b.now, b.paid, b.taxes, b.ways = nil, map[Way]decimal.Decimal{}, nil, nil
	if err := b.post(e); err != nil {
		return Done{}, err
	}
	b.now = slices.DeleteFunc(b.now, func(p Posting) bool { return p.Amount.IsZero() })
	for _, p := range b.now {
		b.balances.add(p.Account, p.Amount)
	}
	for way, amount := range b.paid {
		b.taken[way] = b.taken[way].Add(amount)
	}
	done := Done{b.now, b.paid, b.taxes, b.ways}
	b.done = append(b.done, entry{Event: e, Done: done, credited: map[int]bool{}})
	return done, nil
}

// tax owes tax on an amount at a rate: nothing where there is none.
func (b *Book) tax(amount, taxable decimal.Decimal, rate *decimal.Decimal) {
	if rate != nil {
		b.now = append(b.now, Posting{Account: OutputTax, Amount: amount.Neg(), Rate: rate, Taxable: &taxable})
	}
}

// put adds a posting to the event in hand.
func (b *Book) put(a Account, amount decimal.Decimal) {
	b.now = append(b.now, Posting{Account: a, Amount: amount})
}

// books adds up what was posted.
func (b *Book) books() Books {
	out := Books{
		Postings: []Posted{}, Balances: b.balances.tidy(), Taken: b.taken, Receipts: b.receipts,
		Earned: b.balances.Earned(), OwedToClients: b.balances.OwedToClients(),
		CostOfGoods: b.balances.CostOfGoods(), StockByLot: map[string]decimal.Decimal{},
	}
	for i := range b.done {
		out.Postings = append(out.Postings, Posted{b.done[i].Kind, Sum(b.done[i].Postings)})
	}
	for lot, layer := range b.lots {
		out.StockByLot[lot] = layer.Worth(layer.Left)
	}
	return out
}

// post adds an event's postings.
func (b *Book) post(e *Event) error {
	switch e.Kind {
	case Opened:
		b.put(CashTill, e.Cash)
		b.put(Bank, e.Bank)
		b.put(Owner, e.Cash.Add(e.Bank).Neg())
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
