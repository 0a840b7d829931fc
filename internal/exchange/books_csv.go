package exchange

import (
	"strconv"

	"github.com/shopspring/decimal"

	"softpalm/internal/studio/books"
)

// LedgerCSV writes a month's postings as comma-separated values, one row each (handbook, chapter 8): a debit or a credit,
// never both; no client's name and nothing about health.
func LedgerCSV(m *books.Month) ([]byte, error) {
	rows := [][]string{{
		"date", "event_no", "event", "receipt_no", "account", "debit", "credit", "currency", "tax_rate", "taxable", "practitioner",
		"protocol_or_product", "client_no", "way", "counter_of", "note",
	}}
	for i := range m.Rows {
		r := &m.Rows[i]
		debit, credit := sides(r.Amount, m.Minor)
		counter := ""
		if r.CounterOf != nil {
			counter = strconv.FormatInt(*r.CounterOf, 10)
		}
		rows = append(rows, []string{
			r.Date, strconv.FormatInt(r.No, 10), r.Event, r.Receipt, m.Number(r.Account), debit, credit, m.Currency,
			orNothing(r.Rate, func(d decimal.Decimal) string { return d.String() }),
			orNothing(r.Taxable, func(d decimal.Decimal) string { return d.StringFixed(m.Minor) }),
			r.Practitioner, r.Subject, r.ClientNo, r.Way, counter, r.Note,
		})
	}
	return writeNumbersCSV(rows)
}

// AccountsCSV writes a month's accounts as comma-separated values.
func AccountsCSV(m *books.Month) ([]byte, error) {
	rows := [][]string{{"account", "opening", "debits", "credits", "closing"}}
	for _, a := range m.Accounts {
		rows = append(rows, []string{
			m.Number(a.Account), a.Opening.StringFixed(m.Minor), a.Debits.StringFixed(m.Minor), a.Credits.StringFixed(m.Minor), a.Closing.StringFixed(m.Minor),
		})
	}
	return writeNumbersCSV(rows)
}

// sides are an amount as debit or credit; the other stays empty.
func sides(d decimal.Decimal, minor int32) (debit, credit string) {
	if d.IsNegative() {
		return "", d.Neg().StringFixed(minor)
	}
	return d.StringFixed(minor), ""
}

func orNothing(d *decimal.Decimal, text func(decimal.Decimal) string) string {
	if d == nil {
		return ""
	}
	return text(*d)
}

// writeNumbersCSV writes rows whose cells may be numbers below zero, which are no formulas.
func writeNumbersCSV(rows [][]string) ([]byte, error) {
	return writeCSVWith(rows, func(i, k int) bool {
		_, err := decimal.NewFromString(rows[i][k])
		return err == nil
	})
}
