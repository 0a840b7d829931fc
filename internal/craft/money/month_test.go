package money_test

import (
	"fmt"
	"maps"
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/shopspring/decimal"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/money"
)

// month makes up a month of a studio, and keeps its own simple count, in cents, of what must come out.
type month struct {
	*rand.Rand
	events   []money.Event
	vouchers map[string]int64
	series   map[string]*kept
	deposits map[string]int64
	lots     map[string]int64 // what is left, in thousandths
	later    int64
	tips     map[string]int64
	receipts []int // indexes of receipts of which nothing was given back
	numbers  int
}

// kept is a series of which so many of its visits were given, its price in cents, and when its tax is due.
type kept struct {
	visits, given int
	gross         int64
	deferred      bool
}

// share is what the next visit counts for: the cents left over go to the first ones.
func (k *kept) share() int64 {
	each, over := k.gross/int64(k.visits), k.gross%int64(k.visits)
	if int64(k.given) < over {
		each++
	}
	return each
}

var staff = []string{"ines", "mara", "tove"}

func cents(n int64) decimal.Decimal { return decimal.New(n, -2) }

// one picks a key, the same one for the same seed.
func one[V any](m *month, of map[string]V) string {
	if len(of) == 0 {
		return ""
	}
	return slices.Sorted(maps.Keys(of))[m.IntN(len(of))]
}

func (m *month) name(prefix string) string { return fmt.Sprintf("%s%d", prefix, len(m.events)) }

// line is a random line for sale, and what it comes to in cents.
func (m *month) line() (money.ReceiptLine, int64) {
	gross := int64(500 + m.IntN(20000))
	l := money.ReceiptLine{Kind: money.TreatmentLine, Gross: cents(gross), Rate: ptr(dec("23")), Practitioner: staff[m.IntN(3)]}
	switch m.IntN(8) {
	case 0:
		l.Kind, l.Rate = money.RetailLine, ptr(dec("6"))
		if lot := one(m, m.lots); lot != "" && m.lots[lot] >= 2000 {
			l.Lot, l.Amount = lot, dec("2")
			m.lots[lot] -= 2000
		}
	case 1:
		l.Kind = money.FeeLine
	case 2:
		l.Kind, l.Ref, l.Visits = money.SeriesLine, m.name("S"), 2+m.IntN(7)
		if m.series[l.Ref] != nil {
			return m.line()
		}
		l.Deferred = m.IntN(3) == 0
		m.series[l.Ref] = &kept{visits: l.Visits, gross: gross, deferred: l.Deferred}
	case 3:
		l.Kind, l.Ref, l.Rate = money.VoucherLine, m.name("V"), nil
		if _, taken := m.vouchers[l.Ref]; taken {
			return m.line()
		}
		m.vouchers[l.Ref] = gross
	}
	return l, gross
}

func (m *month) receipt() {
	e := money.Event{Kind: money.Receipt}
	due, plain := int64(0), true
	before, series := map[string]int64{}, one(m, m.series) // what is sold on this receipt does not pay for it
	for ref, left := range m.vouchers {
		before[ref] = left
	}
	for range 1 + m.IntN(3) {
		l, gross := m.line()
		due += gross
		plain = plain && (l.Kind == money.TreatmentLine || l.Kind == money.FeeLine)
		e.Lines = append(e.Lines, money.EventLine{ReceiptLine: l})
	}
	if m.IntN(4) == 0 {
		who, tip := staff[m.IntN(3)], int64(100+m.IntN(900))
		e.Tip = &money.Tip{Practitioner: who, Amount: cents(tip)}
		m.tips[who] += tip
		due += tip
	}
	if ref := one(m, m.deposits); ref != "" && m.deposits[ref] <= due && m.IntN(2) == 0 {
		e.Pay = append(e.Pay, money.Pay{By: money.ByDeposit, Ref: ref})
		due -= m.deposits[ref]
		delete(m.deposits, ref)
	}
	if s := m.series[series]; s != nil && s.given < s.visits && s.share() <= due && m.IntN(3) == 0 {
		e.Pay = append(e.Pay, money.Pay{By: money.ByVoucher, Ref: series})
		due -= s.share()
		s.given++
	}
	if ref := one(m, before); ref != "" && m.IntN(2) == 0 {
		use := min(m.vouchers[ref], due)
		e.Pay = append(e.Pay, money.Pay{By: money.ByVoucher, Ref: ref})
		m.vouchers[ref] -= use
		due -= use
	}
	way := []money.Way{money.ByCash, money.ByCard, money.ByBank, money.ByLater}[m.IntN(4)]
	if way == money.ByLater {
		m.later += due
	}
	e.Pay = append(e.Pay, money.Pay{By: way})
	if plain {
		m.receipts = append(m.receipts, len(m.events))
	}
	m.numbers++
	m.add(e)
}

func (m *month) add(e money.Event) { m.events = append(m.events, e) }

// next makes up one more event, if its turn of the dice makes sense.
func (m *month) next() {
	switch m.IntN(16) {
	default:
		m.receipt()
	case 0:
		lot := m.name("L")
		m.lots[lot] = 50_000
		m.add(money.Event{Kind: money.Received, Lot: lot, Amount: dec("50"), Cost: cents(int64(500 + m.IntN(9000))), Tax: cents(115)})
	case 1, 2, 3:
		lot := one(m, m.lots)
		if n := int64(1 + m.IntN(4000)); lot != "" && m.lots[lot] >= n {
			m.lots[lot] -= n
			kind := []money.EventKind{money.Used, money.Used, money.Wasted, money.Tested, money.Disposed, money.Counted}[m.IntN(6)]
			m.add(money.Event{Kind: kind, Lot: lot, Amount: decimal.New(-n, -3)})
		}
	case 4, 5, 6:
		if ref := one(m, m.series); ref != "" {
			if s := m.series[ref]; s.given < s.visits {
				s.given++
				m.add(money.Event{Kind: money.Delivered, Series: ref, Practitioner: staff[m.IntN(3)]})
			}
		}
	case 7:
		if ref := one(m, m.series); ref != "" {
			delete(m.series, ref)
			m.numbers++
			rule := []money.RefundRule{money.ProRata, money.Single}[m.IntN(2)]
			m.add(money.Event{Kind: money.SeriesRefunded, Series: ref, Rule: rule, Single: cents(9500), Pay: []money.Pay{{By: money.ByBank}}})
		}
	case 8:
		ref := m.name("D")
		m.deposits[ref] = int64(500 + m.IntN(3000))
		m.numbers++
		m.add(money.Event{Kind: money.DepositTaken, Ref: ref, Gross: cents(m.deposits[ref]), Rate: ptr(dec("23")), Pay: []money.Pay{{By: money.ByCash}}})
	case 9:
		if ref := one(m, m.deposits); ref != "" {
			kind := []money.EventKind{money.DepositKept, money.DepositReturned}[m.IntN(2)]
			if kind == money.DepositReturned {
				m.numbers++
			}
			delete(m.deposits, ref)
			m.add(money.Event{Kind: kind, Ref: ref})
		}
	case 10:
		if ref := one(m, m.vouchers); ref != "" {
			delete(m.vouchers, ref)
			m.add(money.Event{Kind: money.VoucherExpired, Ref: ref})
		}
	case 11:
		if n := m.later / 2; n > 0 {
			m.later -= n
			m.add(money.Event{Kind: money.LaterSettled, Amount: cents(n), By: money.ByBank})
		}
	case 12:
		if len(m.receipts) > 0 {
			at := m.receipts[0]
			m.receipts = m.receipts[1:]
			m.numbers++
			m.add(money.Event{Kind: money.Credited, Event: at, Lines: []money.EventLine{{Index: 0}}, Pay: []money.Pay{{By: money.ByCash}}})
		}
	case 13:
		who := staff[m.IntN(3)]
		m.tips[who] = 0
		m.add(money.Event{Kind: money.TipsPaid, Practitioner: who})
	case 14:
		m.add(money.Event{Kind: money.DayClosed, Counted: cents(int64(m.IntN(50000))), ToBank: cents(int64(m.IntN(20000)))})
	}
}

// A random month of 2000 events keeps what is always true (handbook, chapter 8): every event sums to zero, the stock is
// worth its lots, what is owed in series, vouchers, deposits, tips and by clients is what a plain count beside it says.
func TestARandomMonthKeepsItsBooks(t *testing.T) {
	for seed := range uint64(5) {
		m := &month{
			Rand: rand.New(rand.NewPCG(seed, 26)), vouchers: map[string]int64{}, series: map[string]*kept{},
			deposits: map[string]int64{}, lots: map[string]int64{}, tips: map[string]int64{},
		}
		m.add(money.Event{Kind: money.Opened, Cash: dec("150"), Bank: dec("4000")})
		for len(m.events) < 2000 {
			m.next()
		}
		l := money.Ledger{CashStep: dec("0.05"), FeeRate: dec("23"), Events: m.events}
		books, err := l.Post()
		require.NoError(t, err)
		for i, p := range books.Postings {
			require.True(t, p.Postings.Balanced(), "seed %d, event %d", seed, i)
		}
		holds := func(account money.Account, want decimal.Decimal) {
			assert.Equal(t, want.String(), books.Balances[account].String(), "seed %d, %s", seed, account)
		}
		worth := decimal.Zero
		for _, w := range books.StockByLot {
			worth = worth.Add(w)
		}
		holds(money.Stock, worth)
		holds(money.VouchersOwed, cents(-total(m.vouchers)))
		holds(money.TipsOwed, cents(-total(m.tips)))
		holds(money.OwedByClients, cents(m.later))
		assert.Equal(t, m.numbers, books.Receipts, "numbers without gaps")
		holds(money.SeriesOwed, m.seriesOwed())
		depositsNet := decimal.Zero
		for _, gross := range m.deposits {
			depositsNet = depositsNet.Sub(cents(gross).Sub(cents(gross).Mul(dec("23")).DivRound(dec("123"), 2)))
		}
		holds(money.DepositsOwed, depositsNet)
	}
}

func total(of map[string]int64) (sum int64) {
	for _, n := range of {
		sum += n
	}
	return sum
}

// seriesOwed adds up the net shares not given, from the receipts that sold the series.
func (m *month) seriesOwed() decimal.Decimal {
	owed := decimal.Zero
	for i := range m.events {
		lines := []money.Line{}
		for _, l := range m.events[i].Lines {
			if l.Deferred {
				l.Rate = nil
			}
			lines = append(lines, money.Line{Amount: l.Gross, Rate: l.Rate})
		}
		taxes, _ := money.Tax(lines, money.TaxIncluded, 2)
		for k, l := range m.events[i].Lines {
			s := m.series[l.Ref]
			if l.Kind != money.SeriesLine || s == nil {
				continue
			}
			weights := make([]decimal.Decimal, s.visits)
			for _, share := range money.Shares(taxes[k].Net, weights, 2)[s.given:] {
				owed = owed.Sub(share)
			}
		}
	}
	return owed
}
