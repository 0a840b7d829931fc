package exchange

import (
	"strconv"
	"strings"
	"time"

	"github.com/shopspring/decimal"

	"softpalm/internal/studio/books"
	"softpalm/words"
)

// ReceiptPaper is a receipt as a PDF: what was sold, its tax by rate and how it was paid; nothing about health.
func ReceiptPaper(r *books.Receipt, at time.Time) ([]byte, error) {
	p := &r.Paper
	title := words.PaperReceiptNumber(r.Number)
	if r.Total.IsNegative() {
		title = words.PaperCounterReceiptNumber(r.Number)
	}
	d := newPaper("A5", title, p.Studio, at)
	d.text("", 10, strings.TrimSpace(p.Studio+"\n"+p.Address))
	if p.TaxNumber != "" {
		d.text("", 9, words.PaperTaxNumber(p.TaxNumber))
	}
	d.Ln(d.lh(8))
	d.heading(17, title)
	d.text("", 10, dayOnPaper(r.Day))
	if p.First != "" {
		d.text("", 10, words.PaperCounters(p.First))
	}
	if p.Client != "" {
		d.text("", 10, words.PaperFor(p.Client))
	}
	d.Ln(d.lh(6))
	w := d.width
	columns := []column{{words.PaperWhat, w * 0.6, "L"}, {words.PaperHowMany, w * 0.12, "R"}, {words.PaperAmountIn(p.Currency), w * 0.28, "R"}}
	var rows [][]string
	for i := range p.Lines {
		l := &p.Lines[i]
		name := l.Name
		if l.Number != "" {
			name += "\n" + words.PaperVoucherNumber(grouped(l.Number))
		}
		if l.Off != "" {
			name += "\n" + words.PaperLess(l.Off)
		}
		rows = append(rows, []string{name, strconv.Itoa(l.Qty), l.Gross})
	}
	if p.Tip != "" {
		rows = append(rows, []string{words.PaperTipFor(p.TipFor), "", p.Tip})
	}
	rows = append(rows, []string{words.PaperTotal, "", p.Due + " " + p.Currency})
	d.table(columns, rows)
	d.Ln(d.lh(5))
	for _, t := range p.Taxes {
		d.text("", 9, words.PaperTaxIn(p.TaxName, t.Rate, t.Tax, t.Net))
	}
	d.Ln(d.lh(4))
	for _, way := range p.Ways {
		d.text("", 9, words.PaperPaidBy(words.WaysToPay[string(way.By)], way.Taken))
		if way.Given != "" {
			d.text("", 9, words.PaperGivenAndChange(way.Given, way.Change))
		}
		if way.Left != "" {
			d.text("", 9, words.PaperVoucherHasLeft(grouped(way.Ref), way.Left))
		}
		if way.Due != "" {
			d.text("", 9, words.PaperDueOn(dayOnPaper(way.Due)))
		}
	}
	if p.Rounding != "" {
		d.text("", 9, words.PaperRounded(p.Rounding))
	}
	return d.bytes()
}

// grouped is a voucher's number in groups of four.
func grouped(number string) string {
	out := ""
	for i, r := range number {
		if i > 0 && i%4 == 0 {
			out += " "
		}
		out += string(r)
	}
	return out
}

// VoucherPaper is a voucher to give away, with the giver's words.
func VoucherPaper(v *books.VoucherToGive, at time.Time) ([]byte, error) {
	d := newPaper("A5", words.PaperVoucherNumber(grouped(v.Number)), v.Studio, at)
	d.text("", 10, strings.TrimSpace(v.Studio+"\n"+v.Address))
	d.Ln(d.lh(24))
	d.heading(28, v.Title)
	if v.Amount != "" {
		d.heading(22, v.Amount+" "+v.Currency)
	}
	d.Ln(d.lh(10))
	if v.Giver != "" {
		d.text("I", 13, v.Giver)
		d.Ln(d.lh(10))
	}
	d.text("B", 15, grouped(v.Number))
	if v.Until != "" {
		d.text("", 11, words.PaperGoodUntil(dayOnPaper(v.Until)))
	}
	d.Ln(d.lh(8))
	d.text("", 9, words.PaperBringTheNumber)
	return d.bytes()
}

// SeriesPaper is what a client has paid ahead: each series with its treatments, when they were given and what of the
// price each is.
func SeriesPaper(list []books.Strip, studio, address string, at time.Time) ([]byte, error) {
	d := newPaper("A4", words.PaperPaidAhead, studio, at)
	d.text("", 10, strings.TrimSpace(studio+"\n"+address))
	d.Ln(d.lh(8))
	d.heading(20, words.PaperPaidAhead)
	d.text("", 10, words.PaperAsOf(dayOnPaper(at.Format(time.DateOnly))))
	for i := range list {
		s := &list[i]
		d.Ln(d.lh(10))
		d.room(40)
		d.heading(14, s.Name)
		if s.Until != "" {
			d.text("", 10, words.PaperGoodUntil(dayOnPaper(s.Until)))
		}
		w := d.width
		columns := []column{{words.PaperTreatment, w * 0.2, "L"}, {words.PaperGivenOn, w * 0.5, "L"}, {words.PaperAmountIn(s.Currency), w * 0.3, "R"}}
		var rows [][]string
		for _, h := range s.Shares {
			given := words.PaperToCome
			if h.GivenOn != "" {
				given = dayOnPaper(h.GivenOn)
			}
			rows = append(rows, []string{strconv.Itoa(h.N), given, h.Gross.StringFixed(2)})
		}
		d.table(columns, rows)
		if s.Unpaid.IsPositive() {
			d.text("B", 10, words.PaperNotPaidYet(s.Unpaid.StringFixed(2)+" "+s.Currency))
		}
	}
	return d.bytes()
}

// MonthPaper is a month's accounts as a PDF.
func MonthPaper(m *books.Month, at time.Time) ([]byte, error) {
	title := words.PaperAccountsOf(monthOnPaper(m.Month))
	d := newPaper("A4", title, m.Studio, at)
	d.heading(20, title)
	d.text("", 10, m.Studio+" · "+m.Currency)
	if m.OpenDay != "" {
		d.text("B", 10, words.PaperDayIsOpen(dayOnPaper(m.OpenDay)))
	}
	d.Ln(d.lh(8))
	w := d.width
	d.table(monthColumns(m, w), monthRows(m))
	monthLeft(d, m)
	d.Ln(d.lh(10))
	columns := []column{
		{words.PaperAccount, w * 0.36, "L"}, {words.PaperOpening, w * 0.16, "R"}, {words.PaperDebits, w * 0.16, "R"},
		{words.PaperCredits, w * 0.16, "R"}, {words.PaperClosing, w * 0.16, "R"},
	}
	var rows [][]string
	for _, a := range m.Accounts {
		rows = append(rows, []string{
			words.Accounts[string(a.Account)], a.Opening.StringFixed(m.Minor), a.Debits.StringFixed(m.Minor), a.Credits.StringFixed(m.Minor),
			a.Closing.StringFixed(m.Minor),
		})
	}
	d.table(columns, rows)
	d.Ln(d.lh(6))
	d.text("", 9, words.PaperDebitsAboveZero)
	return d.bytes()
}

// monthLeft says what giving all series back would cost, and what treatments left by protocol, practitioner and room.
func monthLeft(d *paper, m *books.Month) {
	d.Ln(d.lh(4))
	d.text("", 9, words.PaperAllSeriesBack(m.ProRata.StringFixed(m.Minor)+" "+m.Currency))
	w := d.width
	for _, by := range []struct {
		name  string
		lines []books.EarnedLine
	}{{words.PaperByProtocol, m.Pays.Protocols}, {words.PaperByPractitioner, m.Pays.Practitioner}, {words.PaperByRoom, m.Pays.Rooms}} {
		if len(by.lines) == 0 {
			continue
		}
		d.Ln(d.lh(10))
		var rows [][]string
		for i := range by.lines {
			l := &by.lines[i]
			rows = append(rows, []string{
				l.Name, strconv.Itoa(l.Visits), l.Net.StringFixed(m.Minor), l.Margin.StringFixed(m.Minor), l.Percent.StringFixed(1) + " %",
				l.PerMinute.StringFixed(m.Minor),
			})
		}
		d.table([]column{
			{by.name, w * 0.36, "L"}, {words.PaperTreatmentsGiven, w * 0.12, "R"}, {words.PaperNet, w * 0.14, "R"}, {words.PaperMargin, w * 0.14, "R"},
			{words.PaperMarginPercent, w * 0.12, "R"}, {words.PaperMarginMinute, w * 0.12, "R"},
		}, rows)
	}
}

// monthColumns head the month beside the one before and a year ago.
func monthColumns(m *books.Month, w float64) []column {
	out := []column{{"", w * 0.4, "L"}}
	for _, f := range m.Figures {
		out = append(out, column{monthOnPaper(f.Month), w * 0.2, "R"})
	}
	return out
}

// monthRows are what the months came to.
func monthRows(m *books.Month) [][]string {
	rows := [][]string{
		{words.PaperTaken}, {words.PaperEarned}, {words.PaperStillOwed}, {words.PaperCostOfGoods}, {words.PaperMargin}, {words.PaperMarginPercent},
		{words.PaperMarginMinute}, {words.PaperFees}, {words.PaperTips}, {words.PaperDifferences},
	}
	for _, f := range m.Figures {
		for i, d := range []decimal.Decimal{f.Taken, f.Earned, f.Owed, f.Goods, f.Margin, f.Percent, f.PerMinute, f.Fees, f.Tips, f.Differences} {
			text := d.StringFixed(m.Minor)
			if i == 5 {
				text = d.StringFixed(1) + " %"
			}
			rows[i] = append(rows[i], text)
		}
	}
	return rows
}

func monthOnPaper(month string) string {
	t, err := time.Parse("2006-01", month)
	if err != nil {
		return month
	}
	return t.Format("January 2006")
}
