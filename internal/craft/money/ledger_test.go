package money_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/money"
)

// posted are the postings of a ledger's events, each without its cents' zeros.
func posted(t *testing.T, events string) money.Books {
	t.Helper()
	books, err := read[money.Ledger](t, `{"cashStep": "0.05", "feeRate": 0, "events": [`+events+`]}`).Post()
	require.NoError(t, err)
	for _, p := range books.Postings {
		assert.True(t, p.Postings.Balanced(), "%s", p.Event)
	}
	assert.True(t, books.Balances.Balanced())
	return books
}

// last are the postings of the last event.
func last(t *testing.T, events string) string {
	t.Helper()
	b := posted(t, events)
	return written(t, b.Postings[len(b.Postings)-1].Postings)
}

// The small day of the handbook (chapter 8, The ledger underneath), posting by posting.
func TestTheSmallDay(t *testing.T) {
	books := posted(t, `
		{"kind": "open", "cash": "150.00", "bank": 0},
		{"kind": "receive", "lot": "CS-2291", "amount": "250", "cost": "38.00", "tax": "8.74"},
		{"kind": "receipt", "lines": [{"kind": "series", "gross": "500.00", "rate": "23", "ref": "S1", "visits": 6, "practitioner": "ines"}], "pay": [{"by": "card"}]},
		{"kind": "deliver", "series": "S1", "practitioner": "ines"},
		{"kind": "use", "lot": "CS-2291", "amount": "-3.2"},
		{"kind": "receipt", "lines": [{"kind": "voucher", "gross": "60.00", "rate": null, "ref": "V1"}], "pay": [{"by": "cash"}]},
		{"kind": "receipt", "lines": [{"kind": "treatment", "gross": "95.00", "rate": "23", "practitioner": "mara"}],
		 "tip": {"practitioner": "mara", "amount": "5.00"}, "pay": [{"by": "voucher", "ref": "V1"}, {"by": "cash"}]},
		{"kind": "deposit", "ref": "D1", "gross": "20.00", "rate": "23", "pay": [{"by": "card"}]},
		{"kind": "keep-deposit", "ref": "D1"},
		{"kind": "refund-series", "series": "S1", "rule": "single", "single": "95.00", "pay": [{"by": "bank"}]},
		{"kind": "card-settle", "amount": "520.00", "fee": "7.28"},
		{"kind": "close-day", "counted": "249.65", "toBank": 0}`)
	for i, want := range []string{
		`{"cash": "150", "owner": "-150"}`,
		`{"stock": "38", "input-tax": "8.74", "suppliers": "-46.74"}`,
		`{"card": "500", "series-owed": "-406.5", "output-tax": "-93.5"}`,
		`{"series-owed": "67.75", "treatments": "-67.75"}`,
		`{"products-used": "0.49", "stock": "-0.49"}`,
		`{"cash": "60", "vouchers-owed": "-60"}`,
		`{"cash": "40", "vouchers-owed": "60", "treatments": "-77.24", "output-tax": "-17.76", "tips-owed": "-5"}`,
		`{"card": "20", "deposits-owed": "-16.26", "output-tax": "-3.74"}`,
		`{"deposits-owed": "16.26", "output-tax": "3.74", "fees": "-20"}`,
		`{"bank": "-405", "output-tax": "75.73", "series-owed": "338.75", "breakage": "-9.48"}`,
		`{"bank": "512.72", "card-fees": "7.28", "card": "-520"}`,
		`{"cash": "-0.35", "cash-difference": "0.35"}`,
	} {
		assert.JSONEq(t, want, written(t, books.Postings[i].Postings), "event %d", i)
	}
	assert.Equal(t, "174.47", books.Earned.String())
	assert.True(t, books.OwedToClients.IsZero())
	assert.Equal(t, 5, books.Receipts)
	assert.JSONEq(t, `{"cash": "100", "card": "520", "bank": "-405"}`, written(t, books.Taken))
}

const opened = `{"kind": "open", "cash": "100", "bank": "1000"}, {"kind": "receive", "lot": "A", "amount": "3", "cost": "10.00", "tax": "2.30"}`

// Rows of the table of postings that the small day has not (handbook, chapter 8).
func TestRowsOfThePostingTable(t *testing.T) {
	treatment := `{"kind": "receipt", "lines": [{"kind": "treatment", "gross": "64.19", "rate": "23", "practitioner": "ines"}, {"kind": "retail", "gross": "12.00", "rate": "23", "practitioner": "ines", "lot": "A", "amount": "1"}], "pay": [{"by": "later"}]}`
	deposit := `{"kind": "deposit", "ref": "D", "gross": "12.33", "rate": "23", "pay": [{"by": "cash"}]}`
	series := `{"kind": "receipt", "lines": [{"kind": "series", "gross": "100.00", "rate": "23", "ref": "S", "visits": 3}], "pay": [{"by": "card"}]}`
	voucher := `{"kind": "receipt", "lines": [{"kind": "voucher", "gross": "60.00", "ref": "V"}], "pay": [{"by": "cash"}]}`
	for _, c := range []struct{ why, events, want string }{
		{"a supplier is paid", `{"kind": "pay-supplier", "amount": "12.30"}`, `{"suppliers": "12.3", "bank": "-12.3"}`},
		{"a receipt with goods, left owed", treatment, `{"owed-by-clients": "76.19", "treatments": "-52.18", "retail": "-9.76", "output-tax": "-14.25", "retail-cost": "3.33", "stock": "-3.33"}`},
		{"paid later", treatment + `, {"kind": "settle-later", "amount": "76.19", "by": "cash"}`, `{"cash": "76.19", "owed-by-clients": "-76.19"}`},
		{"a line given back in cash", treatment + `, {"kind": "credit", "event": 2, "lines": [0], "pay": [{"by": "cash"}]}`, `{"cash": "-64.2", "rounding": "0.01", "treatments": "52.18", "output-tax": "12.01"}`},
		{"goods come back", treatment + `, {"kind": "return-goods", "lot": "A", "amount": "1"}`, `{"stock": "3.33", "retail-cost": "-3.33"}`},
		{"a deposit is used", deposit + `, {"kind": "receipt", "lines": [{"kind": "treatment", "gross": "95.00", "rate": "23"}], "pay": [{"by": "card"}, {"by": "deposit", "ref": "D"}]}`, `{"card": "82.67", "deposits-owed": "10.02", "output-tax": "-15.45", "treatments": "-77.24"}`},
		{"a deposit goes back as it came", deposit + `, {"kind": "return-deposit", "ref": "D"}`, `{"cash": "-12.35", "rounding": "0.02", "deposits-owed": "10.02", "output-tax": "2.31"}`},
		{"a deposit goes back by bank", deposit + `, {"kind": "return-deposit", "ref": "D", "pay": [{"by": "bank"}]}`, `{"bank": "-12.33", "deposits-owed": "10.02", "output-tax": "2.31"}`},
		{"a series pro rata gives all the rest's tax back", series + `, {"kind": "deliver", "series": "S"}, {"kind": "refund-series", "series": "S", "rule": "pro-rata", "pay": [{"by": "card"}]}`, `{"card": "-66.66", "series-owed": "54.2", "output-tax": "12.46"}`},
		{"a series lapses", series + `, {"kind": "deliver", "series": "S"}, {"kind": "expire-voucher", "ref": "S"}`, `{"series-owed": "54.2", "breakage": "-54.2"}`},
		{"a voucher lapses", voucher + `, {"kind": "expire-voucher", "ref": "V"}`, `{"vouchers-owed": "60", "breakage": "-60"}`},
		{"waste", `{"kind": "waste", "lot": "A", "amount": "-1"}`, `{"waste": "3.33", "stock": "-3.33"}`},
		{"a tester", `{"kind": "tester", "lot": "A", "amount": "-1"}`, `{"waste": "3.33", "stock": "-3.33"}`},
		{"the rest of a lot takes what is left of its cost", `{"kind": "use", "lot": "A", "amount": "-1"}, {"kind": "use", "lot": "A", "amount": "-2"}`, `{"products-used": "6.67", "stock": "-6.67"}`},
		{"counted more than the books say", `{"kind": "stocktake", "lot": "A", "amount": "0.3"}`, `{"stock": "1", "stock-difference": "-1"}`},
		{"a batch is worth its parts", `{"kind": "blend", "lot": "B", "amount": "10", "parts": [{"lot": "A", "amount": "3"}]}`, `{}`},
		{"use of a batch", `{"kind": "blend", "lot": "B", "amount": "10", "parts": [{"lot": "A", "amount": "3"}]}, {"kind": "use", "lot": "B", "amount": "-5"}`, `{"products-used": "5", "stock": "-5"}`},
		{"tips are paid from the till", `{"kind": "receipt", "lines": [], "tip": {"practitioner": "ines", "amount": "5"}, "pay": [{"by": "card"}]}, {"kind": "pay-tips", "practitioner": "ines"}`, `{"tips-owed": "5", "cash": "-5"}`},
		{"commission of treatments and retail, refunds off", treatment + `, {"kind": "credit", "event": 2, "lines": [1], "pay": [{"by": "cash"}]}, {"kind": "commission", "percent": {"ines": {"treatment": 30, "retail": 10}}}`, `{"commission": "15.65", "commission-owed": "-15.65"}`},
		{"a payment countered", `{"kind": "pay-supplier", "amount": "12.30"}, {"kind": "counter", "event": 2}`, `{"suppliers": "-12.3", "bank": "12.3"}`},
		{"tips countered may be paid again", `{"kind": "receipt", "lines": [], "tip": {"practitioner": "ines", "amount": "5"}, "pay": [{"by": "card"}]}, {"kind": "pay-tips", "practitioner": "ines"}, {"kind": "counter", "event": 3}, {"kind": "pay-tips", "practitioner": "ines"}`, `{"tips-owed": "5", "cash": "-5"}`},
		{"a lapse countered gives the voucher back", voucher + `, {"kind": "expire-voucher", "ref": "V"}, {"kind": "counter", "event": 3}, {"kind": "expire-voucher", "ref": "V"}`, `{"vouchers-owed": "60", "breakage": "-60"}`},
		{"a lapsed series countered", series + `, {"kind": "expire-voucher", "ref": "S"}, {"kind": "counter", "event": 3}, {"kind": "deliver", "series": "S"}`, `{"series-owed": "27.1", "treatments": "-27.1"}`},
		{"a use countered", `{"kind": "use", "lot": "A", "amount": "-1"}, {"kind": "counter-move", "event": 2}`, `{"products-used": "-3.33", "stock": "3.33"}`},
		{"an amount said comes first, one way takes the rest", voucher + `, {"kind": "receipt", "lines": [{"kind": "fee", "gross": "20.00", "rate": "0"}], "pay": [{"by": "voucher", "ref": "V"}, {"by": "card", "amount": "5"}]}`, `{"card": "5", "vouchers-owed": "15", "fees": "-20"}`},
	} {
		assert.JSONEq(t, c.want, last(t, opened+", "+c.events), c.why)
	}
}

// What cannot have happened is refused, and says why.
func TestWhatCannotHaveHappened(t *testing.T) {
	receipt := `{"kind": "receipt", "lines": [{"kind": "treatment", "gross": "10", "rate": "23"}], "pay": [{"by": "card"}]}`
	voucher := `{"kind": "receipt", "lines": [{"kind": "voucher", "gross": "60.00", "ref": "V"}], "pay": [{"by": "cash"}]}`
	for _, events := range []string{
		`{"kind": "gift"}`,
		`{"kind": "use", "lot": "A", "amount": "-3.1"}`, `{"kind": "use", "lot": "Z", "amount": "-1"}`,
		`{"kind": "receive", "lot": "A", "amount": "1", "cost": "1"}`, `{"kind": "receive", "lot": "N", "amount": "0", "cost": "1"}`,
		`{"kind": "blend", "lot": "B", "amount": "1", "parts": [{"lot": "A", "amount": "4"}]}`,
		`{"kind": "receipt", "lines": [{"kind": "treatment", "gross": "10", "rate": "23"}], "pay": []}`,
		`{"kind": "receipt", "lines": [{"kind": "kindness", "gross": "10"}], "pay": [{"by": "card"}]}`,
		`{"kind": "receipt", "lines": [{"kind": "fee", "gross": "10"}], "pay": [{"by": "shells"}]}`,
		`{"kind": "receipt", "lines": [{"kind": "voucher", "gross": "10", "rate": "23", "ref": "V"}], "pay": [{"by": "card"}]}`,
		`{"kind": "receipt", "lines": [{"kind": "voucher", "gross": "10"}], "pay": [{"by": "card"}]}`,
		`{"kind": "receipt", "lines": [{"kind": "series", "gross": "10", "ref": "S"}], "pay": [{"by": "card"}]}`,
		`{"kind": "receipt", "lines": [{"kind": "fee", "gross": "10"}], "pay": [{"by": "voucher", "ref": "none"}]}`,
		`{"kind": "receipt", "lines": [{"kind": "fee", "gross": "10"}], "pay": [{"by": "deposit", "ref": "none"}]}`,
		voucher + `, {"kind": "receipt", "lines": [{"kind": "fee", "gross": "70"}], "pay": [{"by": "voucher", "ref": "V", "amount": "70"}]}`,
		voucher + `, ` + voucher,
		receipt + `, {"kind": "credit", "event": 2, "lines": [0], "pay": [{"by": "card"}]}, {"kind": "credit", "event": 2, "lines": [0], "pay": [{"by": "card"}]}`,
		receipt + `, {"kind": "credit", "event": 2, "lines": [1], "pay": [{"by": "card"}]}`,
		receipt + `, {"kind": "counter", "event": 2}`,
		voucher + `, {"kind": "credit", "event": 2, "lines": [0], "pay": [{"by": "card"}]}`,
		`{"kind": "credit", "event": 0, "lines": [0], "pay": [{"by": "card"}]}`, `{"kind": "credit", "event": 9, "lines": [0]}`,
		`{"kind": "deliver", "series": "S"}`, `{"kind": "refund-series", "series": "S", "rule": "single"}`,
		`{"kind": "expire-voucher", "ref": "V"}`, `{"kind": "keep-deposit", "ref": "D"}`, `{"kind": "return-deposit", "ref": "D"}`,
		`{"kind": "deposit", "gross": "5", "pay": [{"by": "card"}]}`, `{"kind": "deposit", "ref": "D", "gross": "5", "pay": []}`,
		`{"kind": "settle-later", "amount": "5", "by": "later"}`,
		`{"kind": "counter", "event": 7}`, `{"kind": "counter", "event": 0}, {"kind": "counter", "event": 0}`,
		`{"kind": "counter-move", "event": 0}`,
	} {
		_, err := read[money.Ledger](t, `{"cashStep": "0.05", "events": [`+opened+`, `+events+`]}`).Post()
		require.Error(t, err, events)
	}
}
