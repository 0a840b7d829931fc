package money_test

import (
	"fmt"
	"math/rand/v2"
	"testing"

	"github.com/shopspring/decimal"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/money"
	"softpalm/internal/craft/shelf"
)

// A voucher's number finds every wrong digit, and every two that changed places but 0 and 9 (ISO/IEC 7812-1, annex B:
// 7992739871 has the check digit 3, the example of most texts on the Luhn formula, from memory).
func TestAVouchersNumber(t *testing.T) {
	assert.Equal(t, "079927398713", money.NumberOf("07992739871"))
	random := rand.New(rand.NewPCG(7, 11))
	for range 500 {
		number := money.NumberOf(fmt.Sprintf("%011d", random.Int64N(1e11)))
		typed, ok := money.ReadNumber(number[:4] + " " + number[4:8] + "-" + number[8:])
		require.True(t, ok)
		assert.Equal(t, number, typed)
		for i := range number {
			for d := '0'; d <= '9'; d++ {
				if wrong := number[:i] + string(d) + number[i+1:]; wrong != number {
					_, ok := money.ReadNumber(wrong)
					require.False(t, ok, "%s for %s", wrong, number)
				}
			}
			if i+1 < len(number) && number[i] != number[i+1] && int(number[i])+int(number[i+1]) != '0'+'9' {
				_, ok := money.ReadNumber(number[:i] + string(number[i+1]) + string(number[i]) + number[i+2:])
				require.False(t, ok, "%d of %s", i, number)
			}
		}
	}
	for _, no := range []string{"", "1234", "12345678901x", "1234567890123"} {
		_, ok := money.ReadNumber(no)
		assert.False(t, ok, no)
	}
}

// Coins and notes of the euro (European Central Bank), in falling order; an amount in the fewest of them; and what
// somebody is likely to hand over (common practice).
func TestCoinsNotesAndWhatIsHandedOver(t *testing.T) {
	assert.Equal(t, []string{"500", "200", "100", "50", "20", "10", "5", "2", "1", "0.50", "0.20", "0.10", "0.05", "0.02", "0.01"}, money.CoinsAndNotes(2))
	assert.Equal(t, "50000", money.CoinsAndNotes(0)[0])
	assert.Equal(t, map[string]int{"200": 2, "20": 1, "2": 2, "0.20": 1, "0.05": 1}, money.CountOf(dec("424.25"), 2))
	for amount, want := range map[string]string{
		"95.00": "[95 100]", "41.30": "[41.3 45 50 60 100]", "100": "[100]", "3.20": "[3.2 5 10 20 50 100]", "0": "[]", "-5": "[]",
	} {
		assert.Equal(t, want, fmt.Sprint(money.Handed(dec(amount))), amount)
	}
}

// Each movement of the stock goes against the account of the handbook's table, worth nothing it is not posted, and a
// counter goes back where the first came from.
func TestMovementsOfTheStockArePosted(t *testing.T) {
	for kind, against := range map[shelf.Kind]money.Account{
		shelf.Receive: money.Suppliers, shelf.Treatment: money.ProductsUsed, shelf.PatchTest: money.ProductsUsed, shelf.Waste: money.Waste,
		shelf.Tester: money.Waste, shelf.Dispose: money.Waste, shelf.Retail: money.RetailCost, shelf.Return: money.RetailCost,
		shelf.SendBack: money.Suppliers, shelf.Stocktake: money.StockDifference,
	} {
		event, postings := money.Moved(&money.GoodsMoved{Kind: kind, Value: dec("-0.49"), Subject: "oil"})
		assert.NotEmpty(t, event, kind)
		assert.Equal(t, money.Postings{money.Stock: dec("-0.49"), against: dec("0.49")}, money.Sum(postings), kind)
		event, postings = money.Moved(&money.GoodsMoved{Kind: shelf.Counter, First: kind, Value: dec("0.49"), Subject: "oil"})
		assert.Equal(t, money.MoveCountered, event)
		assert.Equal(t, money.Postings{money.Stock: dec("0.49"), against: dec("-0.49")}, money.Sum(postings), kind)
		_, postings = money.Moved(&money.GoodsMoved{Kind: kind})
		assert.Empty(t, postings)
	}
	_, postings := money.Moved(&money.GoodsMoved{Kind: shelf.Make, Value: dec("-3")})
	assert.Empty(t, postings, "what goes into a batch is posted with the batch")
	assert.True(t, money.Sum(money.BatchMade(dec("3.10"), "blend")).Balanced())
	assert.Empty(t, money.BatchMade(decimal.Zero, "blend"))
}

// A delivery of 38.00 with 8.74 tax, and 30.00 credited for what cost 38.00 (handbook, chapter 8, the table of
// postings: lot received, goods sent back); a counter takes back all of it.
func TestTheTaxOfADeliveryAndTheCreditForGoodsSentBack(t *testing.T) {
	posted := func(g money.GoodsMoved) string {
		_, lines := money.Moved(&g)
		return fmt.Sprint(money.Sum(lines))
	}
	in := money.GoodsMoved{Kind: shelf.Receive, Value: dec("38"), Tax: dec("8.74")}
	assert.Equal(t, "map[input-tax:8.74 stock:38 suppliers:-46.74]", posted(in))
	in = money.GoodsMoved{Kind: shelf.Counter, First: shelf.Receive, Value: dec("-38"), Tax: dec("8.74")}
	assert.Equal(t, "map[input-tax:-8.74 stock:-38 suppliers:46.74]", posted(in))
	less := dec("30")
	out := money.GoodsMoved{Kind: shelf.SendBack, Value: dec("-38"), Credit: &less}
	assert.Equal(t, "map[stock:-38 stock-difference:8 suppliers:30]", posted(out))
	out = money.GoodsMoved{Kind: shelf.Counter, First: shelf.SendBack, Value: dec("38"), Credit: &less}
	assert.Equal(t, "map[stock:38 stock-difference:-8 suppliers:-30]", posted(out))
}

// A book that is told what stands takes the next event as one that posted everything before it: the handbook's small
// day, its series given back and its deposit kept.
func TestABookThatKnowsWhatStands(t *testing.T) {
	rules := money.Rules{Minor: 2}
	rate := dec("23")
	known := &money.Known{
		Cash:     dec("250"),
		Vouchers: map[string]decimal.Decimal{"V": dec("60")},
		Deposits: map[string]money.HeldDeposit{"D": {Gross: dec("20"), Tax: dec("3.74"), Rate: &rate}},
		Series: map[string]money.HeldSeries{"S": {
			Paid: dec("500"), Rate: rate, Given: 1,
			Gross:     money.Shares(dec("500"), make([]decimal.Decimal, 6), 2),
			NetShares: money.Shares(dec("406.50"), make([]decimal.Decimal, 6), 2),
		}},
		Tips: map[string]decimal.Decimal{"ines": dec("5")},
	}
	for _, c := range []struct {
		event money.Event
		want  string
	}{
		{money.Event{Kind: money.SeriesRefunded, Series: "S", Rule: money.Single, Single: dec("95"), Pay: []money.Pay{{By: money.ByBank}}}, "map[bank:-405 breakage:-9.48 output-tax:75.73 series-owed:338.75]"},
		{money.Event{Kind: money.DepositKept, Ref: "D"}, "map[deposits-owed:16.26 fees:-20 output-tax:3.74]"},
		{money.Event{Kind: money.DayClosed, Counted: dec("249.65"), ToBank: dec("99.65")}, "map[bank:99.65 cash:-100 cash-difference:0.35]"},
		{money.Event{Kind: money.TipsPaid, Practitioner: "ines"}, "map[cash:-5 tips-owed:5]"},
		{money.Event{Kind: money.CommissionPaidOut, Amount: dec("12")}, "map[bank:-12 commission-owed:12]"},
		{money.Event{Kind: money.Receipt, Lines: []money.EventLine{{ReceiptLine: money.ReceiptLine{Kind: money.TreatmentLine, Gross: dec("95"), Rate: &rate, Practitioner: "ines", Subject: "P"}}},
			Pay: []money.Pay{{By: money.ByVoucher, Ref: "V"}, {By: money.ByCash}}}, "map[cash:35 output-tax:-17.76 treatments:-77.24 vouchers-owed:60]"},
	} {
		done, err := money.BookOf(rules, known).Post(&c.event)
		require.NoError(t, err, c.event.Kind)
		assert.Equal(t, c.want, fmt.Sprint(money.Sum(done.Postings)), c.event.Kind)
		assert.True(t, money.Sum(append(done.Postings, money.Countering(done.Postings)...)).Balanced())
	}
	first := &money.GivenReceipt{
		Lines:    []money.ReceiptLine{{Kind: money.TreatmentLine, Gross: dec("95"), Rate: &rate}, {Kind: money.RetailLine, Gross: dec("12"), Rate: &rate}},
		Taxes:    []money.Taxed{{Net: dec("77.23"), Tax: dec("17.77"), Gross: dec("95")}, {Net: dec("9.76"), Tax: dec("2.24"), Gross: dec("12")}},
		Credited: []int{0},
	}
	back := money.Event{Kind: money.Credited, Lines: []money.EventLine{{Index: 1}}, Pay: []money.Pay{{By: money.ByCash}}}
	done, err := money.BookOf(rules, &money.Known{Receipt: first}).Post(&back)
	require.NoError(t, err)
	assert.Equal(t, "map[cash:-12 output-tax:2.24 retail:9.76]", fmt.Sprint(money.Sum(done.Postings)), "at its own net and tax")
	back.Lines[0].Index = 0
	_, err = money.BookOf(rules, &money.Known{Receipt: first}).Post(&back)
	require.Error(t, err, "once")
}

// Prices without their tax: 100.00 and 23 % is 123.00, and the receipt posts what the client pays.
func TestTaxThatIsAdded(t *testing.T) {
	rate := dec("23")
	book := money.NewBook(money.Rules{Minor: 2, Mode: money.TaxAdded})
	done, err := book.Post(&money.Event{Kind: money.Receipt, Lines: []money.EventLine{{ReceiptLine: money.ReceiptLine{Kind: money.TreatmentLine, Gross: dec("100"), Rate: &rate}}}, Pay: []money.Pay{{By: money.ByCard}}})
	require.NoError(t, err)
	assert.Equal(t, "map[card:123 output-tax:-23 treatments:-100]", fmt.Sprint(money.Sum(done.Postings)))
}
