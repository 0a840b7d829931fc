package exchange_test

import (
	"bytes"
	"encoding/csv"
	"regexp"
	"strings"
	"testing"

	"github.com/shopspring/decimal"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/text/unicode/norm"

	"softpalm/internal/craft/money"
	"softpalm/internal/exchange"
	"softpalm/internal/studio/books"
)

// healthWords are words of health that no paper of money says.
var healthWords = regexp.MustCompile(`(?i)contraindicat|allerg|medic|pregnan|symptom|finding|rosacea|lymph|stroke`)

// scripts are names in every script that a paper writes.
var scripts = []string{
	"Mirela von Marlowe", "Юлия Жукова", "Nguyễn Thị Bích", "Έλενα Παππά", "Łucja Żółć", "Şule Çağlar İnci", "שרה לוי", "ليلى حداد", "Дарья Łucja Đặng",
}

// named checks that each word of a name is read in a paper as it was typed (UAX #15 for the joined forms).
func named(t *testing.T, text, name string) {
	t.Helper()
	text = norm.NFKC.String(text)
	for _, word := range strings.Fields(name) {
		assert.Contains(t, text, norm.NFKC.String(word), name)
	}
	assert.NotContains(t, text, "\uFFFD")
}

// paidReceipt is a receipt with everything on it, for a client whose name is written in some script.
func paidReceipt(client string) *books.Receipt {
	return &books.Receipt{
		Number: "2026-000123", Day: "2026-11-24", Total: dec("118"),
		Paper: books.ReceiptPaper{
			Studio: "Lantern Row Face Studio", Address: "9 Lantern Row\n1000 Harbour", TaxNumber: "XX 000 000 000", Currency: "EUR", Client: client, TipFor: "Ines Lorca",
			Bill: books.Bill{
				Lines: []books.BillLine{
					{Kind: books.SellTreatment, Name: "Full-face drainage and lift", Qty: 1, Gross: "85.50", Off: "9.50"},
					{Kind: books.SellVoucher, Name: "Voucher", Qty: 1, Gross: "60.00", Number: "079927398713"},
				},
				Taxes: []books.BillTax{{Rate: "23", Net: "69.51", Tax: "15.99", Gross: "85.50"}}, TaxName: "VAT",
				Total: "145.50", Tip: "5.00", Due: "150.50", Rounding: "-0.01",
				Ways: []books.BillWay{
					{By: money.ByVoucher, Ref: "079927398713", Covers: "50.00", Taken: "50.00", Left: "10.00"},
					{By: money.ByCash, Covers: "50.50", Taken: "50.50", Given: "60.00", Change: "9.50"},
					{By: money.ByLater, Covers: "50.00", Taken: "50.00", Due: "2026-12-08"},
				},
			},
		},
	}
}

// A receipt says what the handbook wants on it (chapter 8, Numbered receipts), read by poppler, in every script that a
// client's name may be written in, and no word of health.
func TestAReceiptOnPaper(t *testing.T) {
	for _, client := range scripts {
		pdf, err := exchange.ReceiptPaper(paidReceipt(client), printed)
		require.NoError(t, err)
		text := pdfText(t, pdf)
		for _, want := range []string{
			"Receipt 2026-000123", "24 November 2026", "Lantern Row Face Studio", "Tax number XX 000 000 000", "Full-face drainage and lift", "less 9.50",
			"85.50", "0799 2739 8713", "Tip for Ines Lorca", "150.50 EUR", "VAT 23 %: 15.99 on 69.51", "Paid by voucher: 50.00", "Given 60.00, change 9.50",
			"10.00", "Paid by later: 50.00", "8 December 2026", "Cash rounded by -0.01",
		} {
			assert.Contains(t, text, want)
		}
		named(t, text, client)
		assert.NotRegexp(t, healthWords, text)
	}
	back := paidReceipt("")
	back.Total, back.Paper.First = dec("-85.50"), "2026-000120"
	pdf, err := exchange.ReceiptPaper(back, printed)
	require.NoError(t, err)
	text := pdfText(t, pdf)
	assert.Contains(t, text, "Counter-receipt 2026-000123")
	assert.Contains(t, text, "Counters receipt 2026-000120")
}

// A voucher, and what a client has paid ahead, on paper.
func TestVouchersAndSeriesOnPaper(t *testing.T) {
	pdf, err := exchange.VoucherPaper(&books.VoucherToGive{Number: "079927398713", Title: "Voucher", Amount: "60.00", Currency: "EUR", Giver: "Với tình yêu", Until: "2029-11-01", Studio: "Lantern Row Face Studio"}, printed)
	require.NoError(t, err)
	text := pdfText(t, pdf)
	for _, want := range []string{"60.00 EUR", "0799 2739 8713", "1 November 2029", "not paid out in", "Với tình yêu"} {
		assert.Contains(t, text, want)
	}
	strip := books.Strip{Until: "2027-11-05", Currency: "EUR"}
	strip.Name, strip.Unpaid = "Stone work, series of 2", dec("70")
	strip.Shares = []books.SeriesShare{{N: 1, Gross: dec("70"), GivenOn: "2026-11-06"}, {N: 2, Gross: dec("70")}}
	pdf, err = exchange.SeriesPaper([]books.Strip{strip}, "Lantern Row Face Studio", "", printed)
	require.NoError(t, err)
	text = pdfText(t, pdf)
	for _, want := range []string{"Paid ahead", "Stone work, series of 2", "6 November 2026", "to come", "5 November 2027", "Not paid yet: 70.00 EUR"} {
		assert.Contains(t, text, want)
	}
	assert.NotRegexp(t, healthWords, text)
}

// Words and names of every script are read on a voucher, a series and a month as well.
func TestEveryScriptOnPapersOfMoney(t *testing.T) {
	for _, words := range scripts {
		pdf, err := exchange.VoucherPaper(&books.VoucherToGive{Number: "079927398713", Title: words, Amount: "60.00", Currency: "EUR", Giver: words, Studio: words}, printed)
		require.NoError(t, err)
		named(t, pdfText(t, pdf), words)
		strip := books.Strip{Currency: "EUR"}
		strip.Name = words
		pdf, err = exchange.SeriesPaper([]books.Strip{strip}, words, words, printed)
		require.NoError(t, err)
		named(t, pdfText(t, pdf), words)
		pdf, err = exchange.MonthPaper(&books.Month{
			Month: "2026-11", Currency: "EUR", Studio: words, Minor: 2,
			Figures: []books.MonthFigures{{Month: "2026-11"}, {Month: "2026-10"}, {Month: "2025-11"}},
		}, printed)
		require.NoError(t, err)
		named(t, pdfText(t, pdf), words)
	}
}

// The accountant's files are read by another reader of CSV: debit or credit, never both; sums below zero are no
// formulas; a text that a spreadsheet would take for one is set off (RFC 4180; handbook, chapters 4 and 8).
func TestTheAccountantsFiles(t *testing.T) {
	rate, taxable, counter := dec("23"), dec("77.24"), int64(7)
	m := &books.Month{
		Month: "2026-11", Currency: "EUR", Studio: "Lantern Row", Minor: 2, OpenDay: "2026-11-23",
		Rows: []books.LedgerRow{
			{Date: "2026-11-24", No: 9, Event: "receipt", Receipt: "2026-000123", Account: money.CashTill, Amount: dec("95"), Way: "cash", ClientNo: "1f2e3d4c"},
			{Date: "2026-11-24", No: 9, Event: "receipt", Receipt: "2026-000123", Account: money.OutputTax, Amount: dec("-17.76"), Rate: &rate, Taxable: &taxable},
			{Date: "2026-11-24", No: 10, Event: "counter", Account: money.Bank, Amount: dec("38"), CounterOf: &counter, Note: "=paid twice"},
		},
		Accounts: []books.AccountTotal{{Account: money.OutputTax, Opening: dec("-93.5"), Credits: dec("17.76"), Closing: dec("-111.26")}},
		Figures:  []books.MonthFigures{{Month: "2026-11", Taken: dec("600")}, {Month: "2026-10"}, {Month: "2025-11"}},
	}
	data, err := exchange.LedgerCSV(m)
	require.NoError(t, err)
	rows, err := csv.NewReader(bytes.NewReader(data)).ReadAll()
	require.NoError(t, err)
	assert.Equal(t, []string{"2026-11-24", "9", "receipt", "2026-000123", "cash", "95.00", "", "EUR", "", "", "", "", "1f2e3d4c", "cash", "", ""}, rows[1])
	assert.Equal(t, []string{"output-tax", "", "17.76", "EUR", "23", "77.24"}, rows[2][4:10])
	assert.Equal(t, []string{"7", "'=paid twice"}, rows[3][14:])
	data, err = exchange.AccountsCSV(m)
	require.NoError(t, err)
	rows, err = csv.NewReader(bytes.NewReader(data)).ReadAll()
	require.NoError(t, err)
	assert.Equal(t, [][]string{{"account", "opening", "debits", "credits", "closing"}, {"output-tax", "-93.50", "0.00", "17.76", "-111.26"}}, rows)
	sum := decimal.Zero
	for _, cell := range rows[1][1:] {
		sum = sum.Add(dec(cell))
	}
	assert.False(t, sum.IsZero())
	pdf, err := exchange.MonthPaper(m, printed)
	require.NoError(t, err)
	text := pdfText(t, pdf)
	for _, want := range []string{"Accounts of November 2026", "23 November 2026 is not closed yet", "October 2026", "600.00", "Tax owed", "-111.26"} {
		assert.Contains(t, text, want)
	}
}
